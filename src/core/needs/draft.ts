import type { App } from "../model/app.js";
import type { Dependency } from "../model/facts.js";
import type { Place } from "../model/place.js";
import { KEY_OF, NEED_KINDS, type NeedKind, type PackageKey, type SheetNeed } from "../model/sheet.js";
import { scalar, type DraftedNeed, type DraftSubject } from "./drafting.js";
import { NEEDS } from "./kinds/index.js";

/** Parts of names that say nothing about whose they are. */
const COMMON = new Set([
  "android",
  "ios",
  "sdk",
  "react",
  "native",
  "core",
  "mobile",
  "kit",
  "swift",
  "lib",
  "library",
  "plugin",
  "gradle",
  "git",
  "github",
  "maven",
  "https",
  "client",
  "app",
  "apps",
  "com",
  "org",
  "net",
  "www",
  "example",
]);

/** A step that a page of the SDK asks for. */
export type PageNeed = Pick<SheetNeed, "on" | "kind" | "value" | "at"> & { optional: boolean };

/**
 * Writes a sheet out of the wiring that one SDK has in an app, what its packages' code uses, and what their pages ask for. Each line says where it
 * came from; what only may belong to the SDK is marked `unsure`, and left out where pages or code of the SDK say what it needs. With `everything`
 * all that the app states counts as the SDK's: for an app that holds only what came with it. `undefined` when the SDK is not in the app.
 */
export function draftSheet(
  app: App,
  sdk: string,
  { everything = false, steps }: { everything?: boolean; steps?: readonly PageNeed[] | undefined } = {},
): string | undefined {
  const packages = app.dependencies.filter((dependency) => dependency.sdk === sdk && !dependency.test);
  if (packages.length === 0) return undefined;
  const words = wordsOf(
    sdk,
    packages.map(({ name }) => name),
  );
  const mentions = (text: string): boolean => {
    if (everything) return true;
    const plain = text.toLowerCase().replace(/[^a-z0-9]/g, "");
    return words.some((word) => plain.includes(word));
  };
  const lines = [
    `sdk: ${sdk}`,
    `title: ${scalar(sdk.charAt(0).toUpperCase() + sdk.slice(1))}`,
    "packages:",
    ...packageLines(app, sdk, packages, mentions),
  ];
  const subject: DraftSubject = { app, sdk, packages, mentions };
  const told = toldByPackages(subject, steps ?? []);
  const drafted = NEED_KINDS.flatMap((kind) => (NEEDS[kind].draft?.(subject) ?? []).map((need) => ({ kind, ...need })));
  const own =
    everything || (steps === undefined && told.length === 0)
      ? drafted
      : drafted.filter((need) => !/^(permission|purposeText)$/.test(need.kind) || need.unsure === undefined || told.some(isSame(need)));
  const more = told.filter((need) => !own.some(isSame(need)));
  const needs = NEED_KINDS.flatMap((kind) =>
    [...own, ...more].filter((need) => need.kind === kind).flatMap((need) => needLines(kind, need)),
  );
  lines.push(...(needs.length === 0 ? ["needs: []"] : ["needs:", ...needs]));
  return `${lines.join("\n")}\n`;
}

type Drafted = DraftedNeed & { kind: NeedKind };

function isSame({ kind, value, on }: Drafted): (other: Drafted) => boolean {
  return (other) => other.kind === kind && other.value === value && (other.on === on || other.on === "both" || on === "both");
}

/** What pages of the SDK's packages ask for, and the texts without which their code must not be shipped. */
function toldByPackages({ app, packages }: DraftSubject, steps: readonly PageNeed[]): Drafted[] {
  const asked = steps.map(({ on, kind, value, optional, at }): Drafted => {
    const text = typeof value === "string" ? scalar(value) : JSON.stringify(value);
    return { kind, on, value: text, from: at, ...(optional ? { optional } : {}) };
  });
  const uses = app.guardedUses.flatMap(({ by, keys: [key = ""], perhaps, at }): Drafted[] =>
    !perhaps && packages.some(({ name }) => name === by) ? [{ kind: "purposeText", on: "ios", value: scalar(key), from: at }] : [],
  );
  const used = new Set(uses.map(({ value }) => value));
  // What the code of a package uses in any case is not for some apps only.
  const needed = asked.map((need) => (need.kind === "purposeText" && used.has(need.value) ? { ...need, optional: false } : need));
  return [...needed, ...uses.filter((use) => !asked.some(isSame(use)))];
}

/** The SDK's packages by registry: those that the app names, and those that packages of the SDK bring. */
function packageLines(app: App, sdk: string, packages: readonly Dependency[], mentions: DraftSubject["mentions"]): string[] {
  const byKey = new Map<PackageKey, Map<string, Place>>();
  const names = (key: PackageKey): Map<string, Place> => {
    const known = byKey.get(key) ?? new Map<string, Place>();
    byKey.set(key, known);
    return known;
  };
  for (const { ecosystem, name, places } of packages) {
    const key = KEY_OF[ecosystem];
    const [place] = places;
    if (key && place && !names(key).has(name)) names(key).set(name, place);
  }
  // What a package of the SDK asks for says more than where the app has it.
  for (const { ecosystem, name, from: of, sdk: own, at } of app.packageNeeds) {
    const key = KEY_OF[ecosystem];
    if (key && own === sdk && of !== "peerDependencies" && mentions(name)) names(key).set(name, at);
  }
  return [...byKey].flatMap(([key, list]) => {
    const [only, ...more] = list;
    return only && more.length === 0
      ? [`  ${key}: ${scalar(only[0])}${from(only[1])}`]
      : [`  ${key}:`, ...[...list].map(([name, place]) => `    - ${scalar(name)}${from(place)}`)];
  });
}

function needLines(kind: NeedKind, { on, value, from: place, unsure, optional, also = [] }: DraftedNeed): string[] {
  return [
    `  - on: ${on}`,
    `    ${kind}: ${value}${from(place)}${unsure === undefined ? "" : `; unsure: ${unsure}`}`,
    ...(optional ? ["    optional: true"] : []),
    ...also.map(({ file, line }) => `    # also at ${file}:${line}`),
  ];
}

function from(place: Place): string {
  return `  # from ${place.file}:${place.line}`;
}

/** Words by which names show that they are the SDK's. */
function wordsOf(sdk: string, names: readonly string[]): string[] {
  const words = new Set<string>([sdk.replace(/[^a-z0-9]/g, "")]);
  for (const name of names) {
    for (const word of name
      .replace(/([a-z0-9])([A-Z])/g, "$1-$2")
      .toLowerCase()
      .split(/[^a-z0-9]+/))
      if (word.length >= 5 && !COMMON.has(word) && sdk.includes(word)) words.add(word);
  }
  return [...words].filter((word) => word.length >= 4);
}
