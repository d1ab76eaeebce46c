import { findingsFromFaults } from "../from-faults.js";
import { defineRule } from "../rule.js";
import { scriptExample } from "./examples.js";

const needs = ['on: shared, import: "@quaymap/react-native"', "on: shared, start: { shared: Quaymap.start }"];
const body = "export default function App() {\n  Quaymap.start();\n  return null;\n}\n";

export const importMissing = defineRule({
  name: "start/import-missing",
  severity: "error",
  title: "A call is there and its import is not",
  looksAt:
    "JavaScript and TypeScript files that call an SDK by the name that a sheet gives, where nothing in the file brings that name in.",
  silentFor: "Languages that do not build without the import, and Cordova, whose plugins are global.",
  why: "It fails when the line runs, on a device, and not when the app is built.",
  advice: "Import the package in that file.",
  examples: {
    reported: scriptExample(body, needs),
    silent: scriptExample(`import Quaymap from "@quaymap/react-native";\n\n${body}`, needs),
  },
  check({ wires }) {
    return findingsFromFaults(wires, "import");
  },
});
