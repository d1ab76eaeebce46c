import { textIn } from "../../model/sheet.js";
import { type WireResult, type NeedOnSide, entriesNamed, homeOf, placesOf, isUnseen } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { draftEntries } from "../drafting.js";
import { WORDS } from "../form.js";
import { reason } from "../../model/reason.js";

export const backgroundMode: NeedDefinition = {
  title: "background mode",
  side: "ios",
  form: WORDS,
  home: { ios: "plist" },
  ofTarget: true,
  rules: ["permit/entry-missing"],
  draft: draftEntries("backgroundMode"),
  check,
};

function check({ app, need, side }: NeedOnSide): WireResult {
  const name = textIn(need.value) ?? "";
  if (side !== "ios") return { state: "unneeded", wanted: name };
  const { here } = entriesNamed(app, side, "backgroundMode", name);
  if (here.length > 0) return { state: "connected", wanted: name, found: "there", places: placesOf(here) };
  if (isUnseen(app, "ios")) return { state: "unknown", wanted: name, why: reason("property-list-missing") };
  const [list] = app.propertyLists;
  return {
    state: "missing",
    wanted: name,
    fix: `add ${name} to UIBackgroundModes in ${homeOf(app, side, "plist")}`,
    quickFix: list === undefined ? undefined : [{ do: "plist", file: list, key: "UIBackgroundModes", value: name, list: true }],
  };
}
