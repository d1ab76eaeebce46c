import { findingsFromFaults } from "../from-faults.js";
import { defineRule } from "../rule.js";
import { scriptExample } from "./examples.js";

const need = "on: shared, start: { shared: Quaymap.start, guard: true }";
const app = (body: string) =>
  `import Quaymap from "@quaymap/react-native";\n\nexport default function App() {\n  ${body}\n  return null;\n}\n`;

export const startUnguarded = defineRule({
  name: "start/unguarded",
  severity: "warning",
  title: "Shared code calls a plugin without checking whether it is available",
  looksAt: "Calls in shared code for which a sheet requires a guard: a condition around them, optional chaining, an early return.",
  silentFor: "Native apps: their code is of one platform.",
  why: "On a platform without the plugin, in a browser or in a test, the call breaks the app's start with an error.",
  advice: "Check the platform first, or whether the plugin is available.",
  examples: {
    reported: scriptExample(app("Quaymap.start();"), [need]),
    silent: scriptExample(app('if (Platform.OS === "android") Quaymap.start();'), [need]),
  },
  check({ wires }) {
    return findingsFromFaults(wires, "unguarded");
  },
});
