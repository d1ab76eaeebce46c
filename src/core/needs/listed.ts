import { mainText, textIn } from "../model/sheet.js";
import { reason } from "../model/reason.js";
import { textOf } from "../model/value.js";
import { type WireResult, type NeedOnSide, entriesNamed, onlyInSomeVariants, homeOf, placesOf, isUnseen } from "./context.js";
import { sameValue } from "./settings.js";
import { TEXT, VALUE, WORDS, optional, table } from "./form.js";

/** Form of an entry with a key and, where it matters, a value; the key alone is the short form. */
export const entry = table({ key: WORDS, value: optional(VALUE) }, { short: TEXT });

/** An entry that a file of the app lists: of its property list or its entitlements. */
export function checkListed({ app, need, side }: NeedOnSide, kind: "plist" | "entitlement"): WireResult {
  const key = mainText(need.value, "key");
  const value = textIn(need.value, "value");
  const wanted = value === undefined ? key : `${key} = ${value}`;
  if (side !== "ios") return { state: "unneeded", wanted };
  const { here } = entriesNamed(app, side, kind, key);
  const home = homeOf(app, side, kind === "plist" ? "plist" : "entitlements");
  const [first] = here;
  if (!first) {
    if (kind === "plist" && isUnseen(app, "ios")) return { state: "unknown", wanted, why: reason("property-list-missing") };
    return { state: "missing", wanted, fix: `add ${wanted} to ${home}` };
  }
  if (value !== undefined && !here.some((entry) => sameValue(switchText(textOf(entry.value) ?? ""), switchText(value)))) {
    if (here.some((entry) => entry.value?.kind !== "known"))
      return { state: "unknown", wanted, why: reason("value-missing"), places: placesOf(here) };
    return { state: "loose", wanted, found: textOf(first.value), fix: `set it to ${value}`, places: placesOf([first]) };
  }
  const partly = onlyInSomeVariants(app, side, here, wanted, "add it for all configurations");
  return partly ?? { state: "connected", wanted, found: "there", places: placesOf(here) };
}

/** Source: developer.apple.com, "Information Property List" and "Build settings reference": YES and NO. */
function switchText(text: string): string {
  return /^yes$/i.test(text) ? "true" : /^no$/i.test(text) ? "false" : text;
}
