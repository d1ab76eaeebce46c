import { statementsOf } from "../../derive/level-statements.js";
import { sideOf, sideOfLevel } from "../../model/app.js";
import type { LevelName } from "../../model/facts.js";
import { uniquePlaces } from "../../model/place.js";
import { reason } from "../../model/reason.js";
import { textIn, type LEVEL_KINDS } from "../../model/sheet.js";
import { possibleTexts, textOf } from "../../model/value.js";
import { compareLevels, isLevel } from "../../versions/level.js";
import type { WireResult, NeedOnSide } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import type { DraftedNeed, DraftSubject } from "../drafting.js";
import { VERSION } from "../form.js";

/** Kinds of need that ask for a level: the app's own has to be as high. */
export const LEVEL_NEEDS = {
  minSdk: levelNeed("minSdk"),
  compileSdk: levelNeed("compileSdk"),
  targetSdk: levelNeed("targetSdk"),
  iosTarget: { ...levelNeed("iosTarget"), ofTarget: true },
  kotlin: levelNeed("kotlin"),
  swift: levelNeed("swift"),
  androidPlugin: levelNeed("androidPlugin"),
  gradle: levelNeed("gradle"),
} satisfies Record<(typeof LEVEL_KINDS)[number], NeedDefinition>;

function levelNeed(level: LevelName): NeedDefinition {
  const side = sideOfLevel(level);
  return {
    title: level,
    side,
    form: VERSION,
    rules: ["level/below-need"],
    draft: (subject) => draft(subject, level),
    check: (subject) => checkLevel(subject, level),
  };
}

function checkLevel({ app, need }: NeedOnSide, level: LevelName): WireResult {
  const wanted = textIn(need.value) ?? "";
  const side = sideOf(app, sideOfLevel(level));
  if (!side) return { state: "unneeded", wanted, why: reason("no-such-side") };
  const statements = statementsOf(app, level);
  const places = uniquePlaces(statements.flatMap(({ value, at: place }) => [value.place, place]));
  const low = statements.filter(
    ({ value }) =>
      possibleTexts(value).length > 0 && possibleTexts(value).every((text) => isLevel(text) && compareLevels(text, wanted) < 0),
  );
  const [first] = low;
  if (first)
    return {
      state: "loose",
      found: possibleTexts(first.value).join(" or "),
      wanted: `${wanted} or higher`,
      fix: `raise ${level} to ${wanted} in ${first.value.place.file}`,
      places: uniquePlaces(low.map(({ value }) => value.place)),
    };
  const effective = side.effective[level];
  if (effective?.kind === "unknown") return { state: "unknown", wanted: `${wanted} or higher`, why: effective.why, places };
  const text = textOf(effective) ?? textOf(statements[0]?.value);
  if (text !== undefined) {
    const enough = isLevel(text) && compareLevels(text, wanted) >= 0;
    return enough
      ? { state: "connected", found: text, wanted: `${wanted} or higher`, places: effective ? [effective.place] : places }
      : {
          state: "loose",
          found: text,
          wanted: `${wanted} or higher`,
          fix: `raise ${level} to ${wanted}`,
          places: effective ? [effective.place] : places,
        };
  }
  if (statements.length > 0) return { state: "unknown", wanted: `${wanted} or higher`, why: reason("depends-on-build"), places };
  if (level !== "minSdk" && level !== "iosTarget")
    return { state: "unknown", wanted: `${wanted} or higher`, why: reason("nothing-sets-it") };
  return {
    state: "missing",
    wanted: `${wanted} or higher`,
    why: reason("default-applies"),
    fix: `set ${level} to ${wanted} or higher`,
  };
}

/** What packages of the SDK ask for. */
function draft({ app, sdk }: DraftSubject, level: LevelName): DraftedNeed[] {
  return app.requiredLevels.flatMap(({ level: own, sdk: of, value }): DraftedNeed[] => {
    const text = textOf(value);
    return own !== level || of !== sdk || text === undefined
      ? []
      : [{ on: sideOfLevel(level), value: JSON.stringify(text), from: value.place }];
  });
}
