import type { App } from "../model/app.js";
import type { Entry, EntryKind, SideName } from "../model/facts.js";
import { isTable, type Pattern, type Sheet, type SheetNeed, itemsIn, textIn } from "../model/sheet.js";
import { reason } from "../model/reason.js";
import { textOf, unknown } from "../model/value.js";
import { TEXT, optional, table } from "./form.js";

/** Where each kind of place of a key is found, and on which side. */
const PLACES: Record<string, { kind: EntryKind | "argument"; side: SideName | "any"; title: string }> = {
  manifest: { kind: "metaData", side: "android", title: "the manifest" },
  plist: { kind: "plist", side: "ios", title: "the property list" },
  string: { kind: "string", side: "android", title: "the string resources" },
  placeholder: { kind: "placeholder", side: "android", title: "the manifest placeholders" },
  buildConfig: { kind: "buildConfig", side: "android", title: "the build config fields" },
  buildSetting: { kind: "buildSetting", side: "ios", title: "the build settings" },
  env: { kind: "env", side: "any", title: "the .env files" },
  asset: { kind: "asset", side: "any", title: "the settings assets" },
  code: { kind: "code", side: "any", title: "the source code" },
  argument: { kind: "argument", side: "any", title: "the call that starts it" },
};

/** Kinds of entries of build files, manifests and property lists in which vendors' keys and ids stand. */
export const KEY_KINDS: ReadonlySet<EntryKind> = new Set<EntryKind>([
  "metaData",
  "placeholder",
  "string",
  "buildConfig",
  "plist",
  "buildSetting",
  "env",
  "variable",
  "asset",
]);

/** Form of a place where a key can stand: a name under one of these. */
export const KEY_PLACES = table(Object.fromEntries(Object.keys(PLACES).map((place) => [place, optional(TEXT)])));

/** Whether a key may stand nowhere in an app: a secret for servers, known by its shape. */
export function isNowhere({ kind, value }: SheetNeed): boolean {
  return kind === "key" && itemsIn(value, "in").length === 0;
}

/** What a key of a side looks like, where the sheet says so. */
export function shapeOf(sheet: Sheet, need: SheetNeed, side: SideName): Pattern | undefined {
  const text = textIn(need.value, "shape", side) ?? textIn(need.value, "shape");
  return text === undefined ? undefined : sheet.patterns.get(text);
}

/** Every place where a key of a sheet stands on a side; of one that may stand nowhere, every value of its shape. */
export function keyEntries(app: App, sheet: Sheet, need: SheetNeed, side: SideName): { entries: Entry[]; titles: string[] } {
  const entries: Entry[] = [];
  const titles: string[] = [];
  const fits = isNowhere(need) ? shapeOf(sheet, need, side) : undefined;
  if (fits)
    entries.push(
      ...app.entries.filter(
        (entry) =>
          (entry.side === side || entry.side === "shared") &&
          !entry.removed &&
          (KEY_KINDS.has(entry.kind) || entry.kind === "code") &&
          fits(textOf(entry.value) ?? ""),
      ),
    );
  for (const item of itemsIn(need.value, "in")) {
    if (!isTable(item)) continue;
    for (const [form, value] of Object.entries(item)) {
      const place = PLACES[form];
      const name = textIn(value);
      if (!place || name === undefined || (place.side !== "any" && place.side !== side)) continue;
      titles.push(`${name} in ${place.title}`);
      if (place.kind === "argument") entries.push(...argumentEntries(app, sheet.sdk, name, side));
      entries.push(
        ...app.entries.filter(
          (entry) =>
            entry.kind === place.kind &&
            entry.name === name &&
            !entry.removed &&
            (entry.side === side || (place.side === "any" && entry.side === "shared")),
        ),
      );
    }
  }
  return { entries, titles };
}

/** The values of an argument of calls that start an SDK, by its label or its position from 1 on; one for each variant where they differ. */
function argumentEntries({ code }: App, sdk: string, name: string, side: SideName): Entry[] {
  const position = /^\d+$/.test(name) ? Number(name) - 1 : undefined;
  return (code?.calls ?? []).flatMap((call): Entry[] => {
    if (call.sdk !== sdk || call.kind !== "start" || (call.side !== side && call.side !== "shared")) return [];
    const argument = position === undefined ? call.arguments.find(({ label }) => label === name) : call.arguments[position];
    if (!argument) return [];
    const entry = { kind: "code" as const, side: call.side, name, at: argument.at };
    const branches = argument.byVariant.map(({ variant, value }): Entry => ({ ...entry, value, variant, at: value.place }));
    // What is not followed to its text is there, and not known.
    const whole = argument.value ?? unknown(reason("not-followed", { what: argument.written }), argument.at);
    return branches.length > 0 ? branches : [{ ...entry, value: whole }];
  });
}

/**
 * The values of a key on a side, by the variant that has each (`undefined`: all that have none of their own); nothing where a variant has
 * several, or one of them is not certain.
 */
export function keyValues(app: App, sheet: Sheet, name: string, side: SideName): Map<string | undefined, string> | undefined {
  const needs = sheet.needs.filter((candidate) => candidate.kind === "key" && textIn(candidate.value, "name") === name);
  // Two keys of one name, each for its side.
  const need = needs.find(({ on }) => on === side) ?? needs.find(({ on }) => on === "both");
  if (!need) return undefined;
  const values = new Map<string | undefined, string>();
  for (const { variant, value } of keyEntries(app, sheet, need, side).entries) {
    const text = textOf(value);
    if (text === undefined || (values.has(variant) && values.get(variant) !== text)) return undefined;
    values.set(variant, text);
  }
  return values.size === 0 ? undefined : values;
}

/** Whether the sheet calls a key secret. */
export function isSecret(sheet: Sheet, key: string | undefined): boolean {
  return (
    key !== undefined &&
    sheet.needs.some(({ kind, value }) => kind === "key" && textIn(value, "name") === key && textIn(value, "secret") === "true")
  );
}

/** Where two values part, without showing them. */
export function difference(a: string, b: string): string {
  let index = 0;
  while (index < a.length && index < b.length && a[index] === b[index]) index++;
  return index > 3 ? `, different from character ${index + 1} on` : "";
}
