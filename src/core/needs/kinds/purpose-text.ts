import { isPlaceholderSentence } from "../../knowledge/placeholder-texts.js";
import type { QuickFix } from "../../model/quick-fix.js";
import { textIn } from "../../model/sheet.js";
import { reason } from "../../model/reason.js";
import { textOf } from "../../model/value.js";
import { type WireResult, type NeedOnSide, entriesNamed, onlyInSomeVariants, homeOf, placesOf, isUnseen } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { entriesFor, scalar, type DraftedNeed, type DraftSubject } from "../drafting.js";
import { WORDS } from "../form.js";

export const purposeText: NeedDefinition = {
  title: "purpose text",
  side: "ios",
  form: WORDS,
  home: { ios: "plist" },
  ofTarget: true,
  rules: ["permit/purpose-missing"],
  draft,
  check,
};

function check({ app, need, side }: NeedOnSide): WireResult {
  const name = textIn(need.value) ?? "";
  if (side !== "ios") return { state: "unneeded", wanted: name };
  const { here } = entriesNamed(app, side, "purposeText", name);
  const empty = here.find(({ value }) => value?.kind === "known" && value.text.trim() === "");
  if (empty)
    return {
      state: "missing",
      problem: "empty",
      wanted: name,
      found: "(empty)",
      fix: "say in one sentence what the app uses it for",
      places: [empty.value?.place ?? empty.at],
      quickFix: [purposeFix(empty.at.file, name, need.why)],
    };
  const left = here.find(({ value }) => isPlaceholderSentence(textOf(value) ?? ""));
  if (left)
    return {
      state: "loose",
      problem: "placeholder",
      wanted: name,
      found: textOf(left.value),
      fix: "say in one sentence what the app uses it for",
      places: placesOf([left]),
    };
  const partly = onlyInSomeVariants(app, side, here, name, "add it to the property lists of all configurations");
  if (partly) return partly;
  if (here.length > 0) return { state: "connected", wanted: name, found: "there", places: placesOf(here) };
  if (isUnseen(app, "ios")) return { state: "unknown", wanted: name, why: reason("property-list-missing") };
  return {
    state: "missing",
    problem: "absent",
    wanted: name,
    quickFix: app.propertyLists[0] === undefined ? undefined : [purposeFix(app.propertyLists[0], name, need.why)],
    fix: `add ${name} with a sentence saying what it is used for, to ${homeOf(app, side, "plist")}`,
  };
}

/** A sentence that a person has to word, from what the sheet says. */
function purposeFix(file: string, key: string, why: string | undefined): QuickFix {
  return { do: "plist", file, key, value: `To be written: ${why ?? "what the app needs it for."}`, list: false };
}

function draft(subject: DraftSubject): DraftedNeed[] {
  return entriesFor(subject, "purposeText")
    .filter(({ variant }) => variant === undefined)
    .map(({ name, at }) => ({ on: "ios", value: scalar(name), from: at, unsure: `keep it if ${subject.sdk} uses it` }));
}
