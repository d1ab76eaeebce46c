import { isUntold } from "../knowledge/generated-projects.js";
import { isTable, mainText, type Sheet, type SheetNeed } from "../model/sheet.js";
import type { NeedOnSide } from "./context.js";

/** The part of a generated project that holds what a need asks for. */
const PART: Partial<Record<SheetNeed["kind"], string>> = {
  urlScheme: "CFBundleURLTypes",
  queriedScheme: "LSApplicationQueriesSchemes",
  backgroundMode: "UIBackgroundModes",
  host: "NSAppTransportSecurity",
  entitlement: "entitlements",
  systemFramework: "frameworks",
  embed: "frameworks",
  linkerFlag: "settings",
  searchPath: "settings",
};

/** What an SDK's own package writes for itself alone; everything else may be written by any. */
const OWN: ReadonlySet<SheetNeed["kind"]> = new Set(["key", "urlScheme", "plistEntry"]);

/** Kinds of need that a script which changes the Gradle project can meet. */
const IN_GRADLE: ReadonlySet<SheetNeed["kind"]> = new Set([
  "key",
  "permission",
  "manifestEntry",
  "urlScheme",
  "queriedScheme",
  "host",
  "serviceFile",
  "keepRule",
  "repository",
]);

/**
 * Whether what is missing in the model of a generated project can be there after all: a script that cannot be followed may add it, or a
 * package whose files are not here. A package that a sheet describes adds, of what others need too, only what its sheet asks for.
 */
export function isLeftOpen({ app, sheet, need, side, sheets }: NeedOnSide, wanted: string): boolean {
  const { kind } = need;
  const open = app.openParts.filter((part) => part.side === side);
  if (side === "android") return isUntold(app.kind, side, kind) || (open.length > 0 && IN_GRADLE.has(kind));
  if (kind === "serviceFile" || kind === "licenceFile") return true;
  const part = PART[kind];
  if (open.some((one) => one.part === "*" || one.part === "project" || one.part === part || wanted.includes(one.part))) return true;
  return mayBeUnseen({ app, sheet, need, sheets });
}

/** Whether a package whose files are not here may bring what a need asks for. */
export function mayBeUnseen({ app, sheet, need, sheets }: Pick<NeedOnSide, "app" | "sheet" | "need" | "sheets">): boolean {
  return app.unseenPackages.some(({ name, sdk: written }) => {
    const sdk = app.dependencies.find((dependency) => dependency.name === name)?.sdk ?? written;
    if (sdk === sheet.sdk) return true;
    if (OWN.has(need.kind)) return false;
    const other = sheets.find((candidate) => candidate.sdk === sdk);
    return other === undefined || other.needs.some((one) => one.kind === need.kind && textOfNeed(one) === textOfNeed(need));
  });
}

function textOfNeed({ value }: Sheet["needs"][number]): string {
  return isTable(value) ? mainText(value, "key") : mainText(value, "");
}
