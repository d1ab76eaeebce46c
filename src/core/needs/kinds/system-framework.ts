import { textIn } from "../../model/sheet.js";
import { type WireResult, type NeedOnSide, comesAsPackage } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { WORDS } from "../form.js";
import { reason } from "../../model/reason.js";

export const systemFramework: NeedDefinition = {
  title: "system framework",
  side: "ios",
  form: WORDS,
  rules: ["native/framework-missing"],
  check,
};

function check(subject: NeedOnSide): WireResult {
  const { app, need, side } = subject;
  const name = textIn(need.value) ?? "";
  if (side !== "ios") return { state: "unneeded", wanted: name };
  const file = /\.(framework|tbd|dylib)$/.test(name) ? name : `${name}.framework`;
  const link = app.links.find(
    (fact) => fact.linked && (fact.name === file || fact.name.replace(/\.(tbd|dylib)$/, "") === file.replace(/\.(tbd|dylib)$/, "")),
  );
  if (link) return { state: "connected", wanted: name, found: "linked", places: [link.at] };
  const flag = app.options.find(
    (option) =>
      option.name === "OTHER_LDFLAGS" &&
      option.values.some(
        (value, index) =>
          value === `-l${file.replace(/^lib|\.\w+$/g, "")}` ||
          (/^-(weak_)?framework$/.test(value) && `${option.values[index + 1] ?? ""}.framework` === file),
      ),
  );
  if (flag) return { state: "connected", wanted: name, found: "in the linker flags", places: [flag.at] };
  if (comesAsPackage(subject)) return { state: "unneeded", wanted: name, why: reason("package-links-itself") };
  return { state: "missing", wanted: name, fix: `link ${file} in the target ${app.ios?.target.name ?? ""}` };
}
