import type { App } from "../../model/app.js";
import type { Entry } from "../../model/facts.js";
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
    "Keys, service files and licence files that sheets require, also those that only builds have which nobody ships. Without a sheet, as a warning: entries whose name says key, token, secret, app id or client id and whose value is empty.",
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
      if (isSetForRelease(app, entry)) continue;
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
    return found;
  },
});

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
