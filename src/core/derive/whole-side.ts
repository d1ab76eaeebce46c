import type { App } from "../model/app.js";

/** Whether all entries of a side are known: those of its files, or of the configuration that it is made from. */
export function isWhole(
  { manifests, propertyLists, wholeConfig, openParts, openConfig, unseenPackages, configPlugins }: App,
  side: "android" | "ios",
): boolean {
  if ((side === "android" ? manifests : propertyLists).length > 0) return true;
  if (openConfig.includes(side) || openParts.some((open) => open.side === side) || configPlugins.some(({ open }) => open.includes(side)))
    return false;
  return wholeConfig.some((whole) => whole.side === side) && unseenPackages.length === 0;
}
