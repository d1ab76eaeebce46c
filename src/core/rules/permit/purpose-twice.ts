import type { App } from "../../model/app.js";
import type { Entry } from "../../model/facts.js";
import { uniquePlaces } from "../../model/place.js";
import { inWords } from "../../model/suggest.js";
import { textOf } from "../../model/value.js";
import { defineRule } from "../rule.js";

const plugin = (id: string, text: string): Record<string, string> => ({
  [`plugins/${id}/plugin.xml`]: `<plugin id="${id}" version="1.0.0">\n  <platform name="ios">\n    <config-file target="*-Info.plist" parent="NSCameraUsageDescription">\n      <string>${text}</string>\n    </config-file>\n  </platform>\n</plugin>\n`,
});

const app = {
  "package.json":
    '{ "name": "pilot", "devDependencies": { "cordova-ios": "^7.1.0", "tidewire-scan": "^1.0.0", "quaymap-view": "^1.0.0" }, "cordova": { "platforms": ["ios"], "plugins": { "tidewire-scan": {}, "quaymap-view": {} } } }\n',
  "config.xml":
    '<widget id="example.maresia.pilot" version="1.0.0" xmlns="http://www.w3.org/ns/widgets">\n  <name>Pilot</name>\n  <platform name="ios" />\n</widget>\n',
};
const camera = "To scan a ticket.";

export const purposeTwice = defineRule({
  name: "permit/purpose-twice",
  severity: "warning",
  title: "Two packages write different purpose texts under one key",
  looksAt:
    "Purpose texts that plugins write into the property list (Cordova, Expo), where the app states none itself: literal texts only, and only such as differ.",
  silentFor: "Android; native apps, whose property list has each key once.",
  why: "One of them overwrites the other, by the order in which they are installed: people are asked for a reason that is not the one of what they do, or for none.",
  advice: "State the text in the app's own configuration, or give both packages the same one.",
  examples: {
    reported: { ...app, ...plugin("tidewire-scan", camera), ...plugin("quaymap-view", "To look at the quay.") },
    silent: { ...app, ...plugin("tidewire-scan", camera), ...plugin("quaymap-view", camera) },
  },
  check({ app }) {
    return [...textsOf(app)].flatMap(([name, entries]) => {
      const texts = new Set(entries.map(({ value }) => (textOf(value) ?? "").trim()));
      if (texts.size < 2) return [];
      const writers = [...new Set(entries.map(({ by }) => by ?? ""))];
      return [
        {
          side: "ios" as const,
          sdk: undefined,
          message: `${inWords(writers)} write different texts for ${name}: only one of them reaches people`,
          fix:
            app.kind === "cordova"
              ? `state ${name} in config.xml, in an edit-config element`
              : "give them the same text in the app's configuration",
          places: uniquePlaces(entries.map(({ at }) => at)),
          subject: name,
        },
      ];
    });
  },
});

/** Texts that packages write, of keys that nothing else states. */
function textsOf({ entries }: App): Map<string, Entry[]> {
  const found = new Map<string, Entry[]>();
  const own = new Set<string>();
  for (const entry of entries) {
    if (entry.kind !== "purposeText" || entry.side !== "ios" || entry.removed) continue;
    if (entry.by === undefined) own.add(entry.name);
    // What a variable words is not known.
    else if (entry.value?.kind === "known") found.set(entry.name, [...(found.get(entry.name) ?? []), entry]);
  }
  for (const name of own) found.delete(name);
  return found;
}
