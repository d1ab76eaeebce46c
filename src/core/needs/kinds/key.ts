import { distance } from "fastest-levenshtein";
import { isPlaceholderText } from "../../knowledge/placeholder-texts.js";
import type { App } from "../../model/app.js";
import type { Entry, EntryKind, SideName } from "../../model/facts.js";
import { uniquePlaces } from "../../model/place.js";
import { reason } from "../../model/reason.js";
import { type Sheet, type SheetNeed, itemsIn, textIn } from "../../model/sheet.js";
import { textOf } from "../../model/value.js";
import { type WireResult, type NeedOnSide, onlyInSomeVariants, placesOf } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { scalar, type DraftedNeed, type DraftSubject } from "../drafting.js";
import { FLAG, PATTERN, SEARCH, WORDS, optional, table, tables } from "../form.js";
import { KEY_PLACES, difference, isNowhere, keyEntries, shapeOf } from "../keys.js";
import { mask } from "../mask.js";

export const key: NeedDefinition = {
  title: "key",
  main: "name",
  form: table({
    name: WORDS,
    // Pattern of the whole value; one for each side where they differ.
    shape: optional(table({ android: optional(PATTERN), ios: optional(PATTERN) }, { short: PATTERN })),
    secret: optional(FLAG),
    in: { ...tables(KEY_PLACES), message: "in must be a list of places, such as [manifest: NAME, plist: NAME]" },
    sameOnBothSides: optional(FLAG),
    // Patterns that tell a key for tests from one for production by how it begins.
    environments: optional(table({ test: optional(SEARCH), live: optional(SEARCH) })),
  }),
  rules: ["key/missing", "key/placeholder", "key/environment", "key/places-apart", "key/sides-swapped", "key/shape", "key/in-the-open"],
  draft,
  home: ({ value }) => ({
    android: itemsIn(value, "in").some((place) => textIn(place, "manifest") !== undefined) ? "manifest" : "build",
    ios: "plist",
  }),
  what: ({ value }) => `key ${textIn(value, "name") ?? ""}`,
  check,
};

function check(subject: NeedOnSide): WireResult {
  const { app, sheet, need, side } = subject;
  const name = textIn(need.value, "name") ?? "key";
  const { entries, titles } = keyEntries(app, sheet, need, side);
  const wanted = titles.join(" or ");
  if (isNowhere(need)) return nowhere(subject);
  if (titles.length === 0) return { state: "unneeded", wanted: name, why: reason("sheet-names-no-place") };
  const known = entries.filter(({ value }) => value?.kind === "known");
  if (known.length === 0) return withoutValue(subject, entries, titles, name);
  const bad = placeholderIn(known, wanted) ?? misshapen(subject, known, name, wanted);
  if (bad) return bad;
  const environment = wrongEnvironment(sheet, need, known);
  if (environment) return { ...environment, wanted };
  const apart = apartInVariants(known, wanted) ?? apartInCalls(subject, known, wanted);
  if (apart) return apart;
  const partly =
    side === "android"
      ? onlyInSomeVariants(app, side, entries, wanted, "give the release build its own key, or one to all builds")
      : undefined;
  if (partly) return partly;
  const across = acrossSides(app, sheet, need, side, known, name);
  if (across) return { ...across, wanted };
  const [first] = known;
  return { state: "connected", found: mask(textOf(first?.value) ?? ""), wanted, places: placesOf(known) };
}

/** No entry has a value that is known: one may be set by the build, or none is there. */
function withoutValue({ app, side }: NeedOnSide, entries: readonly Entry[], titles: readonly string[], name: string): WireResult {
  const wanted = titles.join(" or ");
  const places = placesOf(entries);
  const [unclear] = entries;
  if (unclear?.value?.kind === "unknown") return { state: "unknown", wanted, why: unclear.value.why, places };
  if (unclear) return { state: "unknown", wanted, why: reason("value-depends-on-build"), places };
  if (titles.every((title) => title.endsWith("the source code")) && !app.codeRead.includes(side) && !app.codeRead.includes("shared"))
    return { state: "unknown", wanted, why: reason("no-sources") };
  return {
    state: "missing",
    problem: "absent",
    wanted,
    fix: `add ${titles[0] ?? name} with the key from the vendor's console`,
    places: [],
  };
}

/** A key that is there and cannot be right. */
function wrong(problem: NonNullable<WireResult["problem"]>, entries: Entry[], wanted: string, found: string, fix: string): WireResult {
  return { state: problem === "empty" ? "missing" : "loose", problem, found, wanted, fix, places: placesOf(entries) };
}

function placeholderIn(known: readonly Entry[], wanted: string): WireResult | undefined {
  for (const entry of known) {
    const text = textOf(entry.value) ?? "";
    if (text.trim() === "") return wrong("empty", [entry], wanted, "(empty)", "put the key from the vendor's console there");
    if (isPlaceholderText(text))
      return wrong(
        "placeholder",
        [entry],
        wanted,
        `${text}, the placeholder from the instructions`,
        "replace the placeholder with the key from the vendor's console",
      );
  }
  return undefined;
}

/** A key without the form of the vendor's keys, or with that of another one. */
function misshapen({ sheet, need, side }: NeedOnSide, known: readonly Entry[], name: string, wanted: string): WireResult | undefined {
  const own = shapeOf(sheet, need, side);
  const other = shapeOf(sheet, need, side === "ios" ? "android" : "ios");
  const entry = own && known.find(({ value }) => !own(textOf(value) ?? ""));
  if (!entry) return undefined;
  const text = textOf(entry.value) ?? "";
  if (other && other !== own && other(text))
    return wrong(
      "swapped",
      [entry],
      wanted,
      `${mask(text)}, which has the form of the other side's key`,
      `put this side's own ${name} there`,
    );
  const twin = sheet.needs.find(
    (candidate) => candidate.kind === "key" && candidate !== need && shapeOf(sheet, candidate, side)?.(text) === true,
  );
  const as = twin
    ? `, which has the form of ${textIn(twin.value, "name") ?? "another key"}`
    : ", which does not have the form of the vendor's keys";
  return wrong("shape", [entry], wanted, mask(text) + as, `copy ${name} again from the vendor's console`);
}

/** A key that a start is given, of the vendor's form and almost the one that stands in its place. */
function apartInCalls({ app, sheet, need, side }: NeedOnSide, known: readonly Entry[], wanted: string): WireResult | undefined {
  const fits = shapeOf(sheet, need, side);
  if (!fits) return undefined;
  const texts = known.flatMap(({ value }) => textOf(value) ?? []);
  // What stands somewhere as an entry of its own, as the other side's key does, is no slip.
  const entries = new Set(app.entries.map(({ value }) => textOf(value)));
  const calls = (app.code?.calls ?? []).filter(
    (call) => call.sdk === sheet.sdk && call.kind === "start" && (call.side === side || call.side === "shared"),
  );
  for (const { value } of calls.flatMap((call) => call.arguments)) {
    const text = textOf(value);
    if (text === undefined || value === undefined || !fits(text) || entries.has(text)) continue;
    // A last digit alone is how vendors number keys.
    const stem = (of: string): string => of.replace(/\d$/, "");
    const near = texts.find((other) => distance(other, text) <= 2 && stem(other) !== stem(text));
    if (near === undefined) continue;
    return {
      state: "loose",
      problem: "apart",
      wanted,
      found: `${mask(near)}, and ${mask(text)} in the code${difference(near, text)}`,
      fix: "use one value in all places",
      places: uniquePlaces([...placesOf(known), value.place]),
    };
  }
  return undefined;
}

/** Entries of one build that hold different keys. */
function apartInVariants(known: readonly Entry[], wanted: string): WireResult | undefined {
  const byVariant = new Map<string, Entry>();
  for (const entry of known) {
    const first = byVariant.get(entry.variant ?? "");
    if (!first) byVariant.set(entry.variant ?? "", entry);
    else if (textOf(first.value) !== textOf(entry.value)) {
      const [one, other] = [textOf(first.value) ?? "", textOf(entry.value) ?? ""];
      return wrong(
        "apart",
        [first, entry],
        wanted,
        `${mask(one)} and ${mask(other)}${difference(one, other)}`,
        "use one value in all places",
      );
    }
  }
  return undefined;
}

/** A key that may stand nowhere in the app: a secret for servers. */
function nowhere({ app, sheet, need, side }: NeedOnSide): WireResult {
  const wanted = "nowhere in the app";
  if (!shapeOf(sheet, need, side)) return { state: "unneeded", wanted, why: reason("no-shape") };
  const { entries } = keyEntries(app, sheet, need, side);
  const [first] = entries;
  if (first)
    return {
      state: "loose",
      problem: "exposed",
      wanted,
      found: `${mask(textOf(first.value) ?? "")} is in the app`,
      fix: "take it out of the app, keep it on the server, and have the vendor issue a new one",
      places: placesOf(entries),
    };
  return app.codeRead.includes(side) || app.codeRead.includes("shared")
    ? { state: "connected", wanted, found: "in none of the files that were read" }
    : { state: "unknown", wanted, why: reason("no-sources") };
}

/** A key for tests where the release build takes it, or a production key in a debug build. */
function wrongEnvironment(sheet: Sheet, need: SheetNeed, entries: Entry[]): Omit<WireResult, "wanted"> | undefined {
  const search = (name: "test" | "live") => {
    const text = textIn(need.value, "environments", name);
    return text === undefined ? undefined : sheet.searches.get(text);
  };
  const test = search("test");
  const live = search("live");
  for (const entry of entries) {
    const text = textOf(entry.value) ?? "";
    const variant = entry.variant?.toLowerCase();
    const releases = variant === undefined || (/release|prod|live/.test(variant) && !STAGE.test(variant));
    const debug = variant !== undefined && isForDevelopment(variant, entries);
    // Where a build type has a value of its own, the common one is not what that build gets.
    const overridden =
      variant === undefined &&
      entries.some((other) => other.variant !== undefined && /release|prod/i.test(other.variant) && other.name === entry.name);
    if (test?.(text) && releases && !overridden)
      return {
        state: "loose",
        problem: "environment",
        found: `${mask(text)}, a test key in ${entry.variant === undefined ? "every build" : `the ${entry.variant} build`}`,
        fix: "use the production key for the release build",
        places: placesOf([entry]),
      };
    if (live?.(text) && debug)
      return {
        state: "loose",
        problem: "environment",
        found: `${mask(text)}, a production key in the ${entry.variant ?? ""} build`,
        fix: "use the test key there",
        places: placesOf([entry]),
      };
  }
  return undefined;
}

/** Builds for people who try the app out, as teams call them. */
const STAGE = /dev|stag|test|qa|beta|demo|trial|internal|sandbox/;

/** Whether a variant is no build of what is shipped: where stages have builds for debugging of their own, the plain one is that of the shipped app. */
function isForDevelopment(variant: string, entries: readonly Entry[]): boolean {
  if (/prod|live/.test(variant) || !/debug|dev|stag|test|qa/.test(variant)) return false;
  if (variant !== "debug") return !/release/.test(variant);
  return !entries.some((other) => /debug/i.test(other.variant ?? "") && STAGE.test(other.variant?.toLowerCase() ?? ""));
}

/** Said once, on the iOS side, about both. */
function acrossSides(
  app: App,
  sheet: Sheet,
  need: SheetNeed,
  side: SideName,
  own: Entry[],
  name: string,
): Omit<WireResult, "wanted"> | undefined {
  if (side !== "ios" || !app.android) return undefined;
  const others = keyEntries(app, sheet, need, "android").entries.filter(({ value }) => value?.kind === "known");
  const mine = new Set(own.map(({ value }) => textOf(value)));
  const [other] = others;
  const [first] = own;
  if (!other || !first) return undefined;
  const shared = others.find(({ value }) => mine.has(textOf(value)));
  const same = textIn(need.value, "sameOnBothSides");
  if (same === "true" && !shared)
    return {
      state: "loose",
      problem: "apart",
      found: `${mask(textOf(other.value) ?? "")} on Android and ${mask(textOf(first.value) ?? "")} on iOS${difference(textOf(other.value) ?? "", textOf(first.value) ?? "")}`,
      fix: `use one ${name} on both sides`,
      places: placesOf([first, other]),
    };
  if (same === "false" && shared && shared.side === "android")
    return {
      state: "loose",
      problem: "swapped",
      found: `${mask(textOf(shared.value) ?? "")} on both sides, but each side needs its own`,
      fix: `put each side's own ${name} there`,
      places: placesOf([first, shared]),
    };
  return undefined;
}

/** Places of keys that the app has, and what a sheet calls them. */
const DRAFTED: Partial<Record<EntryKind, string>> = {
  metaData: "manifest",
  plist: "plist",
  string: "string",
  placeholder: "placeholder",
  buildConfig: "buildConfig",
  env: "env",
  asset: "asset",
};

/** Texts like keys that the app states under a name of the SDK, as one key: how many there are nobody says. */
function draft({ app, mentions }: DraftSubject): DraftedNeed[] {
  const found = app.entries.filter((entry) => {
    const text = textOf(entry.value);
    return (
      DRAFTED[entry.kind] !== undefined &&
      !entry.removed &&
      entry.by === undefined &&
      mentions(entry.name) &&
      text !== undefined &&
      text.length >= 6 &&
      !/\s/.test(text) &&
      !isPlaceholderText(text) &&
      !/^(true|false)$/.test(text)
    );
  });
  const places = [...new Map(found.map((entry) => [`${entry.kind} ${entry.name}`, entry])).values()];
  const [first, ...more] = places;
  if (!first) return [];
  const sides = new Set(places.map(({ side }) => side));
  const on = sides.has("android") === sides.has("ios") ? "both" : sides.has("ios") ? "ios" : "android";
  return [
    {
      on,
      value: `{ name: key, in: [${places.map(({ kind, name }) => `${DRAFTED[kind] ?? ""}: ${scalar(name)}`).join(", ")}] }`,
      from: first.at,
      unsure: "one key or several; add the form (shape) that the vendor gives it",
      also: more.map(({ at }) => at),
    },
  ];
}
