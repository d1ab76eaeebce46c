import { findingsFromWires } from "../from-wires.js";
import { androidBlock, androidExample, serviceJson } from "../examples.js";
import { defineRule } from "../rule.js";
import { reasonText } from "../../model/reason.js";

export const serviceFileMisplaced = defineRule({
  name: "identity/service-file-misplaced",
  severity: "error",
  title: "A service file is where the build does not look for it",
  looksAt:
    "Files with a vendor's settings: on Android the folders of the application's module and of its variants, on iOS membership of the target (a build phase, a synchronized folder, or a script that copies the file).",
  why: "The file is there but the SDK does not find it: it stops at launch, or starts without its settings.",
  advice: "Move the file into the application's module; on iOS add it to the target.",
  examples: {
    reported: androidExample(androidBlock(), { "app/src/main/java/harbour-services.json": serviceJson("example.maresia.pilot") }),
    silent: androidExample(androidBlock(), { "app/harbour-services.json": serviceJson("example.maresia.pilot") }),
  },
  check({ app, wires }) {
    const found = findingsFromWires(wires, { kinds: ["serviceFile"], problems: ["misplaced", "variant"] });
    const told = new Set(found.flatMap(({ places }) => places.map(({ file }) => file)));
    for (const file of app.serviceFiles) {
      if (file.read !== false || told.has(file.file) || file.ids.length === 0) continue;
      found.push({
        side: file.side,
        message: `${file.file} is not read${file.why === undefined ? "" : `: ${reasonText(file.why)}`}`,
        fix: file.advice,
        places: [{ file: file.file, line: 1, column: 1 }],
        subject: file.file.split("/").at(-1) ?? "",
      });
    }
    return found;
  },
});
