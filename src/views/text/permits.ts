import { ANDROID_PERMISSION_PREFIX } from "../../core/knowledge/android-permissions.js";
import { PERMIT_KINDS, type AppPermits, type Permit, type PermitKind, type SidePermits } from "../../core/project/permits.js";
import { appLine } from "./check.js";
import { placeText, SIDE_TITLES } from "./labels.js";
import { table, wrapped } from "./layout.js";
import { clean, plural, type Style } from "./style.js";
import { reasonText } from "../../core/model/reason.js";

export const KIND_HEADS: Record<PermitKind, string> = {
  permission: "permission",
  purposeText: "purpose text",
  entitlement: "entitlement",
  backgroundMode: "background mode",
  queriedScheme: "queried scheme",
  accessReason: "required-reason API",
  collectedData: "collected data",
  trackingDomain: "tracking domain",
};

/** The ledger of an app: what it asks for and declares on each side, by whom, and what the other side has for it. */
export function permitsText(apps: readonly AppPermits[], style: Style, verbose: boolean): string {
  const lines: string[] = [];
  for (const { app, sides } of apps) {
    lines.push(appLine(app, style), "");
    for (const side of sides) lines.push(...sideLines(side, style, verbose), "");
  }
  return `${lines.join("\n").trimEnd()}\n`;
}

function sideLines({ side, permits, open }: SidePermits, style: Style, verbose: boolean): string[] {
  const asked = permits.filter((permit) => permit.asked && !permit.removed).length;
  const lines = [
    `  ${style.bold(SIDE_TITLES[side])}  ${style.dim(permits.length === 0 ? "nothing" : `${plural(permits.length, "entry", "entries")}, ${asked} of which users are asked for`)}`,
  ];
  for (const kind of PERMIT_KINDS) {
    const own = permits.filter((permit) => permit.kind === kind);
    if (own.length === 0) continue;
    const other = side === "android" ? "on iOS" : "on Android";
    const paired = own.some(({ counterpart }) => counterpart);
    lines.push(
      "",
      table(
        style,
        [KIND_HEADS[kind], ...(paired ? [other] : []), "added by"],
        own.map((permit) => [
          nameText(permit, style),
          ...(paired ? [counterpartText(permit, style)] : []),
          [bringersText(permit, style), style.dim(placeOf(permit))].filter(Boolean).join("  "),
        ]),
        4,
      ),
    );
    if (kind === "purposeText" && verbose)
      for (const { name, values } of own)
        for (const value of values) lines.push(wrapped(style, style.dim(`${clean(name)}: “${clean(value)}”`), 6));
  }
  const more = open.length === 0 ? [] : ["", wrapped(style, style.dim(`There may be more: ${clean(open.map(reasonText).join("; "))}.`), 4)];
  return [...lines, ...more];
}

function placeOf({ removed, by }: Permit): string {
  const at = removed ?? by[0]?.at;
  return at ? clean(placeText(at)) : "";
}

function nameText(permit: Permit, style: Style): string {
  const note = noteOf(permit);
  const sign = permit.asked && !permit.removed ? "• " : "  ";
  return `${sign}${clean(shortName(permit.name))}${note === "" ? "" : style.dim(` (${note})`)}`;
}

/** What is to be known of an entry beside its name; empty where there is nothing. */
export function noteOf({ kind, values, removed, variants, limit }: Permit): string {
  const notes = [
    kind === "accessReason" || kind === "collectedData"
      ? clean([...new Set(values.flatMap((value) => value.split(", ")).map(shortName))].join(", "))
      : "",
    removed ? "taken out" : "",
    limit ? `up to level ${clean(limit.level)}${limit.by === undefined ? "" : ` by ${clean(limit.by)}`}` : "",
    variants.length > 0 ? `in ${clean(variants.join(", "))}` : "",
  ].filter(Boolean);
  return notes.join("; ");
}

/** The app's own entry that no sheet asks for and no code names. */
export function isNamedByNothing({ by, neededBy, inCode, removed }: Permit): boolean {
  return !removed && by.every(({ name }) => name === undefined) && neededBy.length === 0 && inCode === false;
}

function bringersText(permit: Permit, style: Style): string {
  const { by, neededBy, usedBy } = permit;
  if (by.length === 0 && usedBy.length > 0) return style.error(`✗ missing, used by ${someNames(usedBy)}`);
  const shown = someNames(by.map(({ name }) => name));
  const needed = neededBy.length > 0 ? style.dim(` for ${clean(neededBy.join(", "))}`) : "";
  return `${shown || "–"}${needed}${isNamedByNothing(permit) ? style.warning(", nothing mentions it") : ""}`;
}

function someNames(all: readonly (string | undefined)[]): string {
  const names = [...new Set(all.map((name) => (name === undefined ? "the app" : clean(name))))];
  return names.length > 3 ? `${names.slice(0, 2).join(", ")} and ${names.length - 2} more` : names.join(", ");
}

function counterpartText({ counterpart, removed }: Permit, style: Style): string {
  if (!counterpart || removed) return "–";
  const [there] = counterpart.there;
  if (there === undefined) return style.warning(`! no ${shortName(counterpart.names[0] ?? "")}`);
  return style.good(`✓ ${clean(shortName(there))}`);
}

/** What the names of a kind all begin with. */
const PREFIXES = [
  ANDROID_PERMISSION_PREFIX,
  "NSPrivacyAccessedAPICategory",
  "NSPrivacyCollectedDataTypePurpose",
  "NSPrivacyCollectedDataType",
];

/** A name without what all names of its kind begin with. */
export function shortName(name: string): string {
  const prefix = PREFIXES.find((one) => name.startsWith(one));
  return prefix === undefined ? name : name.slice(prefix.length);
}
