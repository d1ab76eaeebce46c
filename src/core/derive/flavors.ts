import type { App } from "../model/app.js";
import { textOf } from "../model/value.js";
import { DIMENSION } from "../model/variants.js";

/** The flavours of the Android side, where they are all of one kind, so that each build has one of them; none otherwise. */
export function flavorsOf({ android }: Pick<App, "android">): string[] {
  const names = new Set<string>();
  const dimensions = new Set<string>();
  for (const { block, name, values } of android?.module.settings ?? []) {
    const flavor = /^flavor:([^.]+)$/.exec(block)?.[1];
    if (flavor === undefined) continue;
    names.add(flavor);
    if (DIMENSION.test(name)) dimensions.add(textOf(values[0]) ?? `of ${flavor}`);
  }
  return dimensions.size > 1 ? [] : [...names];
}
