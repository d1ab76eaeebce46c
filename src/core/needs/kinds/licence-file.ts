import { baseName } from "../../model/paths.js";
import { textIn } from "../../model/sheet.js";
import { wildcard } from "../../model/wildcard.js";
import type { WireResult, NeedOnSide } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { PATH } from "../form.js";
import { reason } from "../../model/reason.js";

export const licenceFile: NeedDefinition = {
  title: "licence file",
  form: PATH,
  files: "licence",
  rules: ["key/missing"],
  check,
};

function check({ app, need, side }: NeedOnSide): WireResult {
  const name = textIn(need.value) ?? "";
  const found = app.namedFiles.filter((file) => file.side === side && wildcard(name, baseName(file.file)));
  if (found.length > 0)
    return {
      state: "connected",
      wanted: name,
      found: found.map(({ file }) => file).join(", "),
      places: found.map(({ file }) => ({ file, line: 1, column: 1 })),
    };
  if (app.leftOutOfGit.has(name)) return { state: "unknown", wanted: name, why: reason("ignored-by-git") };
  return {
    state: "missing",
    problem: "absent",
    wanted: name,
    fix: `put ${name} into the ${side === "ios" ? "Xcode project" : "Android project"}`,
  };
}
