import { textOf } from "../../model/value.js";
import { reactNativeExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (id: string) =>
  reactNativeExample(
    { expo: "51.0.0" },
    { "app.json": `{\n  "expo": {\n    "name": "Deckpass",\n    "slug": "deckpass",\n    "android": { "package": "${id}" }\n  }\n}\n` },
  );

export const configApart = defineRule({
  name: "project/config-apart",
  severity: "warning",
  title: "The configuration and the native project disagree",
  looksAt:
    "Ids, levels, permissions, purpose texts, schemes, modes and entitlements in a framework's configuration, where the native projects generated from it are kept in the repository; in .NET ids and levels of the project, against its manifest and property list. Keys of property lists and entitlements in the repository that are written from a spec of the Xcode project which does not have them.",
  silentFor:
    "Every app but those of .NET, of Expo with native folders in the tree, and those whose Xcode project is written from a spec: only there a configuration repeats what the native project says.",
  why: "Once the native folders exist, the configuration no longer updates them: what people read and change is not what is built.",
  advice: "Regenerate the native projects, or make the change in both places.",
  examples: { reported: app("example.maresia.deckpass"), silent: app("example.maresia.pilot") },
  check({ app: { configuredApart } }) {
    return configuredApart.map(
      ({ what, side, configured, native, isWritten, files: [one, other] = ["the configuration", "the native project"] }) => ({
        side,
        message: native
          ? `${one} says ${what} ${textOf(configured) ?? ""}, ${other} has ${textOf(native) ?? ""}`
          : isWritten
            ? `${one} has ${what}, and ${other}, from which it is written, does not: it is gone the next time`
            : `${one} says ${what}, ${other} has none`,
        fix: isWritten
          ? `add it to ${other}`
          : one === "the configuration"
            ? "regenerate the native project, or change it in both places"
            : `set it in ${one} only, or to the same value in both`,
        places: native ? [configured.place, native.place] : [configured.place],
        subject: what,
      }),
    );
  },
});
