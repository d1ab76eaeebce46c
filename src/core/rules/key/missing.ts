import type { App } from "../../model/app.js";
import type { Entry } from "../../model/facts.js";
import { type RawFinding } from "../../model/finding.js";
import { uniquePlaces } from "../../model/place.js";
import { textOf } from "../../model/value.js";
import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";
import { entryTitle, isKeyName, keyEntriesOf } from "./named-entries.js";

const sheet = quaymapSheet("on: android, key: { name: mapKey, in: [ manifest: example.quaymap.KEY ] }");

export const keyMissing = defineRule({
  name: "key/missing",
  severity: "error",
  title: "A key is missing or empty",
  looksAt:
    "Keys, service files and licence files that sheets require, also those that only builds have which nobody ships. Without a sheet, as a warning: entries whose name says key, token, secret, app id or client id and whose value is empty, and starts that are given an empty text.",
  why: "The SDK starts without its key: it refuses to work, or runs in trial mode, and says so only in a log that nobody reads.",
  advice: "Put the key from the vendor's console in the place named.",
  examples: {
    reported: { ...quaymapAndroid(), ...sheet },
    silent: {
      ...quaymapAndroid({ application: `    <meta-data android:name="example.quaymap.KEY" android:value="qm-7f3a90c2" />\n` }),
      ...sheet,
    },
  },
  check({ app, wires }) {
    const found = findingsFromWires(wires, { kinds: ["key"], problems: ["absent", "empty", "variant"] });
    found.push(...findingsFromWires(wires, { kinds: ["serviceFile", "licenceFile"], problems: ["absent"] }));
    const told = new Set(found.flatMap(({ places }) => places.map(({ file, line }) => `${file}:${line}`)));
    for (const entry of keyEntriesOf(app)) {
      if (entry.value?.kind !== "known" || entry.value.text.trim() !== "" || (entry.kind !== "variable" && !isKeyName(entry.name)))
        continue;
      // One that is asked for with nothing in its place is given by who builds: it is not among the files.
      if (entry.value.fallback === true || isSetForRelease(app, entry)) continue;
      const place = entry.value.place;
      if (told.has(`${place.file}:${place.line}`)) continue;
      found.push({
        side: entry.side,
        severity: entry.kind === "variable" ? undefined : ("warning" as const),
        message: `${entryTitle(entry)} is empty`,
        fix: "add the value, or remove the entry",
        places: [place],
        subject: `empty ${entry.kind} ${entry.name} ${entry.variant ?? ""}`,
      });
    }
    found.push(...emptyArguments(app, told));
    return found;
  },
});

/** Arguments beside which a single text is the key: what the app runs in, numbers, and functions. */
const BESIDE_A_KEY =
  /^(?:this(?:@\w+)?|self|(?:[\w.]+\.)?(?:get)?(?:application(?:Context)?|baseContext|context|activity)(?:\(\))?|true|false|null|nil|undefined|[\d.]+|\{.*|.*(?:=>|->).*|function\b.*)$/is;

/** Starts that are given an empty text: as the only one that they could be given, or under the name of a key. */
function emptyArguments({ code }: App, told: ReadonlySet<string>): RawFinding[] {
  return (code?.calls ?? []).flatMap(({ sdk, kind, callee, reach, exact, side, arguments: given }): RawFinding[] => {
    if ((kind !== "start" && (kind !== "heuristicStart" || !exact)) || reach === "never") return [];
    const empty = given.find(({ value, label }) => {
      if (value?.kind !== "known" || value.type !== undefined || value.text.trim() !== "") return false;
      return label === undefined ? given.every((other) => other.value === value || BESIDE_A_KEY.test(other.text.trim())) : isKeyName(label);
    });
    const place = empty?.value?.place;
    if (!empty || !place || told.has(`${place.file}:${place.line}`)) return [];
    return [
      {
        side,
        sdk,
        severity: "warning",
        message: `${callee} is given an empty text`,
        fix: "give it the value from the vendor's console",
        places: uniquePlaces([place, empty.at]),
        subject: `empty argument ${callee}`,
      },
    ];
  });
}

/** A variable that the file of production builds gives a value. Source: vite.dev, "Env Variables and Modes"; create-react-app.dev, "Adding Custom Environment Variables". */
function isSetForRelease({ entries }: App, { kind, name, variant }: Entry): boolean {
  return (
    kind === "env" &&
    variant === undefined &&
    entries.some(
      (other) =>
        other.kind === "env" &&
        other.name === name &&
        /^prod(uction)?(\.local)?$|^release$/.test(other.variant ?? "") &&
        (textOf(other.value) ?? "").trim() !== "",
    )
  );
}
