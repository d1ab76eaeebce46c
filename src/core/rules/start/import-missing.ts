import { baseName } from "../../model/paths.js";
import { defineRule } from "../rule.js";
import { scriptExample } from "./examples.js";

const needs = ['on: shared, import: "@quaymap/react-native"', "on: shared, start: { shared: Quaymap.start }"];
const body = "export default function App() {\n  Quaymap.start();\n  return null;\n}\n";

export const importMissing = defineRule({
  name: "start/import-missing",
  severity: "error",
  title: "A call is there and its import is not",
  looksAt:
    "Files that call an SDK by the name that a sheet gives, where nothing in the file brings that name in; names of React Native, Expo and Capacitor that scripts use, and functions and constants that one script of the app hands out and another uses, without an import.",
  silentFor:
    "Cordova, whose plugins are global, and files that see more than they import: by wildcards, modules and headers that hand on, global usings.",
  why: "A script fails when the line runs, on a device, and not when the app is built. In the other languages the build breaks.",
  advice: "Import the package in that file.",
  examples: {
    reported: scriptExample(body, needs),
    silent: scriptExample(`import Quaymap from "@quaymap/react-native";\n\n${body}`, needs),
  },
  check({ app }) {
    return (app.code?.missingImports ?? []).map(({ sdk, callee, wanted, side, at }) => ({
      side,
      ...(sdk === undefined ? {} : { sdk }),
      message: `${callee} is ${sdk === undefined ? "used" : "called"} in ${baseName(at.file)}, but nothing there imports ${wanted}`,
      fix: `import ${wanted} in ${at.file}`,
      places: [at],
      subject: `${sdk ?? ""} import ${wanted} ${at.file}`,
    }));
  },
});
