import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { Entry } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import { uniquePlaces, type Place } from "../../model/place.js";
import { textOf } from "../../model/value.js";
import { difference } from "../../needs/keys.js";
import { mask } from "../../needs/mask.js";
import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid } from "../examples.js";
import { defineRule } from "../rule.js";
import { entryTitle } from "./named-entries.js";

const metaData = (name: string, value: string): string =>
  `    <meta-data android:name="example.quaymap.${name}" android:value="${value}" />\n`;
const code = { "app/src/main/java/Map.kt": 'val mapKey = "qm7f3a90c2b4d85e61f0"\n' };

export const placesApart = defineRule({
  name: "key/places-apart",
  severity: "error",
  title: "A key differs between two places",
  looksAt:
    "Keys that a sheet says must agree. Without a sheet: a long value of letters and digits that appears in at least two places, and once more with one or two characters changed, missing or swapped. Values of other variants are left out.",
  why: "One of the two is a typo: part of the SDK works and another part does not.",
  advice: "Copy the value again from the vendor's console, and keep it in one place.",
  examples: {
    reported: quaymapAndroid(
      { application: metaData("KEY", "qm7f3a90c2b4d85e61f0") + metaData("TILES_KEY", "qm7f3a90c2b4d58e61f0") },
      code,
    ),
    silent: quaymapAndroid({ application: metaData("KEY", "qm7f3a90c2b4d85e61f0") + metaData("TILES_KEY", "qm7f3a90c2b4d85e61f0") }, code),
  },
  check({ app, wires }) {
    const found = findingsFromWires(wires, { kinds: ["key"], problems: ["apart"] });
    const told = new Set(found.flatMap(({ places }) => places.map(key)));
    return [...found, ...nearMisses(app).filter(({ places }) => !places.some((place) => told.has(key(place))))];
  },
});

function key({ file, line, column }: Place): string {
  return `${file}:${line}:${column}`;
}

const KINDS = new Set(["metaData", "placeholder", "string", "buildConfig", "plist", "buildSetting", "env", "asset", "code", "urlScheme"]);

/** Values that stand several times, and the one that is nearly the same. */
function nearMisses(app: App): RawFinding[] {
  const byText = entriesByText(app);
  // Values that begin or end alike are held against each other, and no others.
  const buckets = new Map<string, string[]>();
  for (const text of byText.keys())
    for (const bucket of [`^${text.slice(0, 5)}`, `$${text.slice(-5)}`]) buckets.set(bucket, [...(buckets.get(bucket) ?? []), text]);
  const findings: RawFinding[] = [];
  const done = new Set<string>();
  for (const [text, entries] of byText) {
    if (entries.length < 2) continue;
    const candidates = new Set([...(buckets.get(`^${text.slice(0, 5)}`) ?? []), ...(buckets.get(`$${text.slice(-5)}`) ?? [])]);
    for (const other of candidates) {
      const [odd, second] = byText.get(other) ?? [];
      if (other === text || !odd || second || done.has(other) || !nearlyEqual(text, other)) continue;
      // A variant may well have a value of its own.
      if (odd.variant !== undefined && !entries.some(({ variant }) => variant === odd.variant)) continue;
      done.add(other);
      const [first] = entries;
      findings.push({
        side: odd.side,
        message: `${entryTitle(odd)} is almost the value in ${entries.length} other places: ${mask(other)} beside ${mask(text)}${difference(other, text)}`,
        fix: `check which one is right in the vendor's console; ${first ? entryTitle(first) : "the other"} has the other value`,
        places: uniquePlaces([odd.value?.place ?? odd.at, ...entries.map(({ value, at }) => value?.place ?? at)]),
        subject: `${odd.kind} ${odd.name}`,
      });
    }
  }
  return findings;
}

/** Entries that hold a token, by its text, each place once. */
function entriesByText(app: App): Map<string, Entry[]> {
  const byText = new Map<string, Entry[]>();
  for (const entry of app.entries) {
    const text = textOf(entry.value);
    if (text === undefined || !KINDS.has(entry.kind) || entry.by !== undefined || !isToken(text)) continue;
    const list = byText.get(text) ?? [];
    if (!list.some((other) => key(other.value?.place ?? other.at) === key(entry.value?.place ?? entry.at))) list.push(entry);
    byText.set(text, list);
  }
  return byText;
}

function isToken(text: string): boolean {
  return (
    text.length >= 16 && text.length <= 120 && /^[\w.:-]+$/.test(text) && (text.match(/\d/g)?.length ?? 0) >= 3 && /[A-Za-z]/.test(text)
  );
}

/** One or two characters changed, cut or swapped. A last digit alone is how vendors number ids. */
function nearlyEqual(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 2) return false;
  if (a.length === b.length && a.slice(0, -1) === b.slice(0, -1)) return false;
  return distance(a, b) <= 2;
}
