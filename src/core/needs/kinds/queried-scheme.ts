import { textIn } from "../../model/sheet.js";
import { type WireResult, type NeedOnSide, entriesNamed, homeOf, placesOf } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { draftEntries } from "../drafting.js";
import { WORDS } from "../form.js";

export const queriedScheme: NeedDefinition = {
  title: "queried scheme",
  form: WORDS,
  home: { android: "manifest", ios: "plist" },
  ofTarget: true,
  rules: ["permit/scheme"],
  draft: draftEntries("queriedScheme"),
  check,
};

function check({ app, need, side }: NeedOnSide): WireResult {
  const name = textIn(need.value) ?? "";
  const { here } = entriesNamed(app, side, "queriedScheme", name);
  if (here.length > 0) return { state: "connected", wanted: name, found: "there", places: placesOf(here) };
  if (side === "ios")
    return { state: "missing", wanted: name, fix: `add ${name} to LSApplicationQueriesSchemes in ${homeOf(app, side, "plist")}` };
  return { state: "missing", wanted: name, fix: `add <queries> with the scheme ${name} to ${homeOf(app, side, "manifest")}` };
}
