import { textIn } from "../../model/sheet.js";
import { type WireResult, type NeedOnSide, homeOf } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { TEXT, WORDS, table } from "../form.js";

export const packaging: NeedDefinition = {
  title: "packaging option",
  side: "android",
  main: "option",
  form: table({ option: WORDS, value: TEXT }),
  rules: ["keep/packaging"],
  what: ({ value }) => `packaging option ${textIn(value, "option") ?? ""} ${textIn(value, "value") ?? ""}`,
  check,
};

function check({ app, need, side }: NeedOnSide): WireResult {
  const option = textIn(need.value, "option") ?? "";
  const value = textIn(need.value, "value") ?? "";
  const wanted = `${option} ${value}`;
  if (side !== "android") return { state: "unneeded", wanted };
  const plain = (text: string): string => text.toLowerCase().replace(/s$/, "");
  const found = app.options.find((fact) => fact.side === "android" && plain(fact.name) === plain(option) && fact.values.includes(value));
  return found
    ? { state: "connected", wanted, found: "there", places: [found.at] }
    : { state: "missing", wanted, fix: `add ${wanted} to the packaging options in ${homeOf(app, side, "build")}` };
}
