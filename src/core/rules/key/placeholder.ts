import { isPlaceholderText } from "../../knowledge/placeholder-texts.js";
import { textOf } from "../../model/value.js";
import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid } from "../examples.js";
import { defineRule } from "../rule.js";
import { entryTitle, isKeyName, keyEntriesOf } from "./named-entries.js";

const metaData = (value: string): string => `    <meta-data android:name="example.quaymap.KEY" android:value="${value}" />\n`;

/** Texts that are instructions whatever the name beside them says. */
const PLAIN_INSTRUCTION = /^<[^<>]+>$|\bYOUR_\w*(KEY|ID|TOKEN|SECRET)\b|^(REPLACE|CHANGE)[_-]?ME\b/i;

export const keyPlaceholder = defineRule({
  name: "key/placeholder",
  severity: "error",
  title: "A key is still the placeholder from the instructions",
  looksAt:
    "Values of meta-data, placeholders, build config fields, property lists, build settings and .env files, and of string resources whose name says key or id: YOUR_…, <…>, replace me, one character repeated.",
  why: "It was pasted from the vendor's page and never filled in; the app builds, but the SDK does nothing.",
  advice: "Put the value from the vendor's console in its place.",
  examples: {
    reported: quaymapAndroid({ application: metaData("YOUR_API_KEY") }),
    silent: quaymapAndroid({ application: metaData("qm-7f3a90c2") }),
  },
  check({ app, wires }) {
    const found = findingsFromWires(wires, { kinds: ["key"], problems: ["placeholder"] });
    const told = new Set(found.flatMap(({ places }) => places.map(({ file, line }) => `${file}:${line}`)));
    for (const entry of keyEntriesOf(app)) {
      const text = textOf(entry.value) ?? "";
      if (entry.value === undefined || !isPlaceholderText(text)) continue;
      if (!isKeyName(entry.name) && entry.kind !== "variable" && (entry.kind === "string" || !PLAIN_INSTRUCTION.test(text))) continue;
      const { place } = entry.value;
      if (told.has(`${place.file}:${place.line}`)) continue;
      told.add(`${place.file}:${place.line}`);
      found.push({
        side: entry.side,
        message: `${entryTitle(entry)} is still the placeholder from the instructions: ${text.length > 60 ? `${text.slice(0, 57)}…` : text}`,
        fix: "put the value from the vendor's console there",
        places: [place],
        subject: `${entry.kind} ${entry.name}`,
      });
    }
    return found;
  },
});
