import { defineRule } from "../rule.js";
import { scriptExample } from "./examples.js";

export const startUnused = defineRule({
  name: "start/unused",
  severity: "note",
  title: "A package is in, and nothing of the app's own names it",
  looksAt:
    "Packages with native code that a hybrid app declares itself: whether a source file imports them or a configuration names them. Packages that another one asks the app for are used by that one.",
  silentFor:
    "Native apps, .NET and Unity, where the name of a package does not tell what is imported from it, and Cordova, whose plugins are global.",
  why: "Its native code goes into the app on both sides, with its permissions and its size, for nothing.",
  mend: "Take the package out, or use it.",
  examples: {
    reported: scriptExample("export default function App() {\n  return null;\n}\n", []),
    silent: scriptExample('import Quaymap from "@quaymap/react-native";\n\nexport default Quaymap.View;\n', []),
  },
  check({ app }) {
    return (app.code?.unused ?? []).map(({ package: name, sdk, at }) => ({
      side: "shared" as const,
      sdk,
      message: `${name} is in, and no source file or configuration of the app names it`,
      fix: `take ${name} out, or use it`,
      places: [at],
      subject: name,
    }));
  },
});
