import { textIn } from "../model/sheet.js";
import type { WireResult, NeedOnSide } from "./context.js";
import { reason } from "../model/reason.js";

/** Words that must be among the options of a build setting; the first of `names` is where they are added. */
export function checkOption({ app, need, side }: NeedOnSide, names: string[], title: string): WireResult {
  const wanted = textIn(need.value) ?? "";
  if (side !== "ios") return { state: "unneeded", wanted };
  const options = app.options.filter((option) => option.side === "ios" && names.includes(option.name));
  const found = options.find((option) => hasTokens(option.values, wanted));
  if (found) return { state: "connected", wanted, found: `in ${title}`, places: [found.at] };
  if (app.ios?.usesPods) return { state: "unknown", wanted, why: reason("xcconfig-of-pods-absent") };
  return { state: "missing", wanted, fix: `add ${wanted} to ${names[0] ?? ""}` };
}

/** Whether the words of an option stand in a list of options, in their order and each as a whole. */
function hasTokens(values: readonly string[], wanted: string): boolean {
  const words = (text: string): string[] => text.replace(/["']/g, "").split(/\s+/).filter(Boolean);
  const [all, own] = [values.flatMap(words), words(wanted)];
  return own.length > 0 && all.some((_, at) => own.every((word, index) => all[at + index] === word));
}
