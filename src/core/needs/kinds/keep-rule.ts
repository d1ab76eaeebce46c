import { baseName } from "../../model/paths.js";
import { textIn } from "../../model/sheet.js";
import { reason } from "../../model/reason.js";
import { textOf } from "../../model/value.js";
import type { WireResult, NeedOnSide } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { scalar, type DraftedNeed, type DraftSubject } from "../drafting.js";
import { WORDS } from "../form.js";
import { covers } from "../keep-rule.js";

export const keepRule: NeedDefinition = {
  title: "keep rule",
  side: "android",
  form: WORDS,
  rules: ["keep/rules-missing"],
  draft,
  check,
};

function check({ app, need, side }: NeedOnSide): WireResult {
  const rule = textIn(need.value) ?? "";
  if (side !== "android") return { state: "unneeded", wanted: rule };
  const shrunk = app.shrink.filter(({ enabled }) => textOf(enabled) !== "false");
  const [first] = shrunk;
  if (!first) return { state: "unneeded", wanted: rule, why: reason("no-shrinking") };
  const unclear = shrunk.every(({ enabled }) => textOf(enabled) === undefined);
  const files = app.rulesFiles.filter(({ rules }) => rules.some(({ text }) => covers(text, rule)));
  const used = files.filter(
    (file) => file.by !== undefined || shrunk.some((variant) => variant.files.some(({ resolved }) => resolved === file.file)),
  );
  const placesIn = (list: typeof files) =>
    list.flatMap((file) => file.rules.filter(({ text }) => covers(text, rule)).map(({ at: place }) => place));
  if (used.length > 0) return { state: "connected", wanted: rule, found: `in ${used[0]?.file ?? ""}`, places: placesIn(used) };
  if (unclear)
    return {
      state: "unknown",
      wanted: rule,
      why: reason("shrinking-open"),
      places: [first.enabled.place],
    };
  const [unused] = files;
  if (unused)
    return {
      state: "loose",
      problem: "unused",
      wanted: rule,
      found: `in ${unused.file}, which no release build uses`,
      fix: `add ${baseName(unused.file)} to the build type's proguardFiles`,
      places: placesIn(files),
    };
  const target = first.files.find(({ resolved }) => resolved !== undefined && app.rulesFiles.some((file) => file.file === resolved));
  return {
    state: "missing",
    wanted: rule,
    fix: `add the rule to ${target?.path ?? "a rules file that the release build uses"}`,
    places: [first.enabled.place],
  };
}

function draft({ app, mentions }: DraftSubject): DraftedNeed[] {
  return app.rulesFiles
    .filter(({ by }) => by === undefined)
    .flatMap(({ rules }) => rules)
    .filter(({ text }) => mentions(text))
    .map(({ text, at }) => ({ on: "android", value: scalar(text), from: at }));
}
