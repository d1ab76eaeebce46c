import { isForDevelopment, type App } from "../model/app.js";
import { baseName } from "../model/paths.js";
import type { ServiceFile } from "../model/facts.js";
import { possibleTexts, textOf, type Value } from "../model/value.js";

/**
 * The ids of the builds that take a service file in and for which it is not, by the ids that it states; `undefined` where it is for all of
 * them, or nothing tells. A target or a flavour is held against its own ids; what all builds take must be for one that is shipped.
 */
export function foreignTo(
  app: App,
  file: Pick<App["serviceFiles"][number], "side" | "variant" | "targets" | "file">,
  all: readonly Pick<App["serviceFiles"][number], "side" | "variant" | "targets" | "file">[],
  stated: ReadonlySet<string>,
): Set<string> | undefined {
  const ids = idsOf(app, file.side);
  if (ids.size === 0 || stated.size === 0) return undefined;
  const own = (file.side === "android" ? app.android?.ids : app.ios?.ids) ?? [];
  const textsOf = (list: typeof own): Set<string> => new Set(list.flatMap(({ value }) => possibleTexts(value)));
  const groups: Set<string>[] = [];
  if (file.targets) for (const target of file.targets) groups.push(textsOf(own.filter(({ variant }) => variant?.startsWith(`${target} `))));
  else if (file.side === "android" && file.variant !== undefined) {
    const exact = own.filter(({ variant }) => variant === file.variant);
    // A build type's suffix goes behind the flavour's id.
    const suffixes = own.flatMap(({ value, variant }) => {
      const base = own.find((id) => id.variant === undefined);
      const [text, plain] = [textOf(value), textOf(base?.value)];
      return variant !== undefined && variant !== file.variant && text !== undefined && plain !== undefined && text.startsWith(`${plain}.`)
        ? text.slice(plain.length)
        : [];
    });
    const exactTexts = [...textsOf(exact)];
    groups.push(new Set(exactTexts.length === 0 ? ids : exactTexts.flatMap((id) => [id, ...suffixes.map((suffix) => id + suffix)])));
  } else if (file.side === "android") {
    const released = own.filter(({ variant }) => !isForDevelopment(variant));
    const replaced = new Set(all.filter((other) => baseName(other.file) === baseName(file.file)).flatMap(({ variant }) => variant ?? []));
    const used = released.filter(({ variant }) => variant === undefined || !replaced.has(variant));
    groups.push(textsOf(used.length > 0 ? used : own));
  } else groups.push(ids);
  return groups.find((group) => group.size > 0 && ![...stated].some((id) => group.has(id)));
}

function idsOf(app: App, side: string): Set<string> {
  const ids = (side === "android" ? app.android?.ids : app.ios?.ids) ?? [];
  const texts = ids.map(({ value }) => possibleTexts(value));
  // Where an id is unknown, nothing is known to be foreign.
  if (texts.some((list) => list.length === 0)) return new Set();
  // A suffix of a build type goes behind the flavours' ids as well.
  return new Set(texts.flat());
}

/** Values of a service file that are another of its values with the dot-separated parts reversed: they are meant as URL schemes. */
export function reversedValues(file: ServiceFile): { key: string; value: Value & { kind: "known" } }[] {
  const texts = new Set([...file.texts.values()].map(({ text }) => text));
  const found: { key: string; value: Value & { kind: "known" } }[] = [];
  for (const [key, value] of file.texts) {
    const parts = value.text.split(".");
    if (parts.length < 3 || value.text.length < 12 || /[\s/:]/.test(value.text)) continue;
    const reversed = [...parts].reverse().join(".");
    // Of the two, the one in reverse domain notation is the scheme; a scheme starts with a letter.
    if (reversed !== value.text && texts.has(reversed) && /^[a-z]/i.test(value.text) && (/^\d/.test(reversed) || /revers/i.test(key)))
      found.push({ key, value });
  }
  return found;
}
