import { defineRule } from "../rule.js";
import { scriptExample } from "./examples.js";

export const startUnused = defineRule({
  name: "start/unused",
  severity: "note",
  title: "Nothing in the app refers to a package",
  looksAt:
    "Packages with native code that a hybrid app declares itself: whether one of its source files, or of the settings next to its package.json, mentions them. Left out are packages that another installed one names among its dependencies or peers, those without code for scripts, with a plugin for the configuration or with components that the system starts, and apps that load modules by a name made at run time.",
  silentFor:
    "Native apps, .NET and Unity, where the name of a package does not tell what is imported from it, and Cordova, whose plugins are global.",
  why: "Its native code goes into the app on both sides, with its permissions and size, for nothing.",
  advice: "Remove the package if nothing uses it: one that works without being mentioned (by its native code alone) is not recognised.",
  examples: {
    reported: scriptExample("export default function App() {\n  return null;\n}\n", []),
    silent: scriptExample('import Quaymap from "@quaymap/react-native";\n\nexport default Quaymap.View;\n', []),
  },
  check({ app }) {
    return (app.code?.unused ?? []).map(({ package: name, sdk, at }) => ({
      side: "shared" as const,
      sdk,
      message: `nothing in the app refers to ${name}: neither its source files nor the settings at its root`,
      fix: `if nothing uses it, remove ${name}; a package that works without being mentioned cannot be recognised`,
      places: [at],
      about: name,
      subject: name,
    }));
  },
});
