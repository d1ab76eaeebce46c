import { foreignTo } from "../../derive/service-ids.js";
import { findingsFromWires } from "../from-wires.js";
import { androidBlock, androidExample, serviceJson } from "../examples.js";
import { defineRule } from "../rule.js";

export const serviceFileMismatch = defineRule({
  name: "identity/service-file-mismatch",
  severity: "error",
  title: "A service file belongs to another app",
  looksAt:
    "Files with a vendor's settings, recognised by a sheet or by their shape (JSON or a property list, where builds look for settings, with a key such as a package name or bundle id), against the ids of this side's variants.",
  why: "The SDK starts with another app's settings: nothing arrives in the console, or it arrives in somebody else's.",
  advice: "Download the file again for this app's id, or add this app's id in the vendor's console first.",
  examples: {
    reported: androidExample(androidBlock(), { "app/harbour-services.json": serviceJson("example.maresia.deckpass") }),
    silent: androidExample(androidBlock(), { "app/harbour-services.json": serviceJson("example.maresia.pilot") }),
  },
  check({ app, wires }) {
    const found = findingsFromWires(wires, { kinds: ["serviceFile"], problems: ["mismatch"] });
    const told = new Set(found.flatMap(({ places }) => places.map(({ file }) => file)));
    for (const file of app.serviceFiles) {
      const [first] = file.ids;
      const ids = foreignTo(app, file, app.serviceFiles, new Set(file.ids.map(({ value }) => value.text)));
      if (!first || !ids || told.has(file.file) || file.read === false) continue;
      const stated = [...new Set(file.ids.map(({ value }) => value.text))];
      found.push({
        side: file.side,
        message: `${file.file} is for ${stated.join(", ")}; this app is ${[...ids].join(", ")}`,
        fix: "download the file again for this app's id",
        places: [first.value.place],
        subject: file.file.split("/").at(-1) ?? "",
      });
    }
    return found;
  },
});
