import { distance } from "fastest-levenshtein";
import { PURPOSE_KEYS } from "../../../knowledge/purpose-keys.js";
import { join, parentOf } from "../../../model/paths.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";

/** `KEY = "text";`, with the key in quotes or not; a remark. Source: developer.apple.com, "Localizing strings that contain plurals" and "InfoPlist.strings". */
const ENTRY = /\/\*[\s\S]*?\*\/|\/\/[^\n]*|(?:"((?:[^"\\]|\\.)*)"|([\w.-]+))\s*=\s*"((?:[^"\\]|\\.)*)"\s*(;?)/g;

/** Texts of the property list in the languages of the app: keys that are almost a key of a purpose text, texts that are empty, files that nobody can read. */
export function readLocalizedTexts(project: ProjectFiles, app: FactSink): void {
  const folders = new Set(app.propertyLists.filter((file) => file.endsWith(".plist")).map(parentOf));
  for (const folder of folders)
    for (const { name } of project.tree.list(folder)) {
      const file = join(folder, name, "InfoPlist.strings");
      const source = name.endsWith(".lproj") ? project.text(file) : undefined;
      // In UTF-16, as old tools write it, nothing is looked at.
      if (!source || source.text.includes("\0") || source.text.includes("\ufffd")) continue;
      const { text } = source;
      for (const match of text.matchAll(ENTRY)) {
        const [, quoted, plain, value = "", end] = match;
        const key = quoted ?? plain;
        if (key === undefined) continue;
        const at = source.place(match.index);
        if (end === "") app.unfitValue({ what: "localized text", value: `${key} in ${name}/InfoPlist.strings`, side: "ios", at });
        if (!key.endsWith("Description") && !/^NS[A-Z]/.test(key)) continue;
        const right = PURPOSE_KEYS.includes(key) ? undefined : PURPOSE_KEYS.find((other) => distance(other, key) <= 2 && key.length > 12);
        if (right !== undefined) app.misspelling({ what: "key", name: key, right, side: "ios", at });
        if (PURPOSE_KEYS.includes(key) && value.trim() === "") app.emptyText({ key, language: name.replace(/\.lproj$/, ""), at });
      }
    }
}
