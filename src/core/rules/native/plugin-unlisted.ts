import { reactNativeExample } from "../examples.js";
import { defineRule, type Example } from "../rule.js";

const NAME = "@quaymap/react-native";
const app = (plugins: string): Example => {
  const { "package.json": manifest = "" } = reactNativeExample({ expo: "52.0.0", [NAME]: "4.2.0" });
  return {
    "package.json": manifest,
    "app.json": `{\n  "expo": {\n    "name": "Pier",\n    "android": { "package": "example.maresia.pier" },\n    "plugins": [${plugins}]\n  }\n}\n`,
    [`node_modules/${NAME}/package.json`]: `{ "name": "${NAME}", "version": "4.2.0" }\n`,
    [`node_modules/${NAME}/app.plugin.js`]: "module.exports = require('./plugin');\n",
  };
};

export const pluginUnlisted = defineRule({
  name: "native/plugin-unlisted",
  severity: "note",
  title: "A package ships a config plugin that the configuration does not list",
  looksAt:
    "Installed packages with an app.plugin.js that the app depends on itself, against the plugins of the configuration from which Expo makes the native projects.",
  silentFor:
    "The framework's own packages, apps whose native projects are in the repository, configurations that are computed by a program, and packages that are not installed.",
  why: "The native projects are generated without what the plugin would add: permissions, texts, build settings.",
  advice: "Add the package to plugins if the app uses the part that the plugin sets up; its page says which.",
  examples: { reported: app(""), silent: app(`"${NAME}"`) },
  check({ app: { unlistedPlugins } }) {
    return unlistedPlugins.map(({ package: name, sdk, config, at }) => ({
      side: "shared",
      sdk,
      message: `${name} ships a config plugin that ${config} does not list: what it would set up is not in the native projects`,
      fix: `add "${name}" to plugins in ${config}`,
      places: at,
      subject: name,
    }));
  },
});
