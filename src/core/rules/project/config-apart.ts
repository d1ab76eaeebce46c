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
  title: "The configuration and the native project say different things",
  looksAt:
    "Ids, levels, permissions, purpose texts, schemes, modes and entitlements in a framework's configuration, where the native projects that it was once generated into are kept in the repository; in .NET ids and levels of the project, against its manifest and property list.",
  silentFor:
    "Every app but those of .NET, and of Expo with native folders in the tree: only there does a configuration state what the native project states again.",
  why: "Once the native folders are there, the configuration no longer reaches them by itself: what people read and change is not what is built.",
  advice: "Generate the native projects again, or make the change in both places.",
  examples: { reported: app("example.maresia.deckpass"), silent: app("example.maresia.pilot") },
  check({ app: { configuredApart } }) {
    return configuredApart.map(({ what, side, configured, native, files: [one, other] = ["the configuration", "the native project"] }) => ({
      side,
      message: native
        ? `${one} says ${what} ${textOf(configured) ?? ""}, ${other} has ${textOf(native) ?? ""}`
        : `${one} says ${what}, ${other} has none`,
      fix:
        one === "the configuration"
          ? "generate the native project again, or change it in both places"
          : `say it once: in ${one}, or the same in both`,
      places: native ? [configured.place, native.place] : [configured.place],
      subject: what,
    }));
  },
});
