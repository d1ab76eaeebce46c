import { isPlaceholderSentence } from "../../knowledge/placeholder-texts.js";
import type { Mend } from "../../model/mend.js";
import { textIn } from "../../model/sheet.js";
import { textOf } from "../../model/value.js";
import { type Held, type Holding, entriesNamed, heldInVariants, homeOf, placesOf } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { WORDS } from "../form.js";

export const purposeText: NeedDefinition = {
  title: "purpose text",
  side: "ios",
  form: WORDS,
  home: { ios: "plist" },
  ofTarget: true,
  rule: "permit/purpose-missing",
  hold,
};

function hold({ app, need, side }: Holding): Held {
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
      mend: [purposeMend(empty.at.file, name, need.why)],
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
  const partly = heldInVariants(app, side, here, name, "add it to the property lists of all configurations");
  if (partly) return partly;
  if (here.length > 0) return { state: "connected", wanted: name, found: "there", places: placesOf(here) };
  if (app.propertyLists.length === 0) return { state: "unknown", wanted: name, why: "the app's property list is not in the files" };
  return {
    state: "missing",
    problem: "absent",
    wanted: name,
    mend: app.propertyLists[0] === undefined ? undefined : [purposeMend(app.propertyLists[0], name, need.why)],
    fix: `add ${name} with a sentence that says what for, to ${homeOf(app, side, "plist")}`,
  };
}

/** A sentence that a person has to word, from what the sheet says. */
function purposeMend(file: string, key: string, why: string | undefined): Mend {
  return { do: "plist", file, key, value: `To be worded: ${why ?? "what the app needs it for."}`, list: false };
}
