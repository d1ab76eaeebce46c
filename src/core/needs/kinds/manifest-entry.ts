import { textIn } from "../../model/sheet.js";
import { reason } from "../../model/reason.js";
import { possibleTexts } from "../../model/value.js";
import { type WireResult, type NeedOnSide, entriesNamed, homeOf, placesOf, isUnseen } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { entriesFor, scalar, type DraftedNeed, type DraftSubject } from "../drafting.js";
import { sameValue } from "../settings.js";
import { VALUE, WORDS, optional, table, words } from "../form.js";

export const manifestEntry: NeedDefinition = {
  title: "manifest entry",
  side: "android",
  main: "name",
  form: table({
    element: words("meta-data", "activity", "service", "receiver", "provider", "uses-feature", "uses-library"),
    name: WORDS,
    value: optional(VALUE),
  }),
  home: { android: "manifest" },
  rules: ["permit/entry-missing"],
  draft,
  what: ({ value }) => `${textIn(value, "element") ?? ""} ${textIn(value, "name") ?? ""}`,
  check,
};

function check({ app, need, side }: NeedOnSide): WireResult {
  const element = textIn(need.value, "element") ?? "meta-data";
  const name = textIn(need.value, "name") ?? "";
  const value = textIn(need.value, "value");
  const wanted = `<${element} ${name}>${value === undefined ? "" : ` with ${value}`}`;
  if (side !== "android") return { state: "unneeded", wanted };
  const kind = element === "meta-data" ? "metaData" : element.startsWith("uses-") ? "feature" : "component";
  const { here, removed } = entriesNamed(app, side, kind, name);
  const [taken] = removed;
  if (taken) return { state: "loose", wanted, found: "removed by a merge marker", fix: "remove the marker", places: [taken.at] };
  const [first] = here;
  if (!first) {
    if (isUnseen(app, "android")) return { state: "unknown", wanted, why: reason("manifest-missing") };
    return { state: "missing", wanted, fix: `add ${wanted} to ${homeOf(app, side, "manifest")}` };
  }
  if (value !== undefined && first.value && !here.some((entry) => possibleTexts(entry.value).some((text) => sameValue(text, value)))) {
    if (here.some((entry) => entry.value?.kind === "unknown"))
      return { state: "unknown", wanted, why: reason("value-missing"), places: placesOf(here) };
    return { state: "loose", wanted, found: possibleTexts(first.value).join(" or "), fix: `set it to ${value}`, places: placesOf([first]) };
  }
  return {
    state: "connected",
    wanted,
    found: first.by === undefined ? "in the manifest" : `comes with ${first.by}`,
    places: placesOf(here),
  };
}

function draft(subject: DraftSubject): DraftedNeed[] {
  return entriesFor(subject, "component")
    .filter(({ by, name }) => by === undefined && subject.mentions(name))
    .map(({ name, at }) => ({
      on: "android",
      value: `{ element: service, name: ${scalar(name)} }`,
      from: at,
      unsure: "set element to what the manifest has",
    }));
}
