import { isPlaceholderText } from "../../knowledge/placeholder-texts.js";
import { isTable, mainText, textIn } from "../../model/sheet.js";
import { reason } from "../../model/reason.js";
import { possibleTexts } from "../../model/value.js";
import { type WireResult, type NeedOnSide, homeOf, placesOf } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { draftEntries } from "../drafting.js";
import { FLAG, TEXT, WORDS, optional, table } from "../form.js";
import { difference, isSecret, keyValues } from "../keys.js";
import { mask } from "../mask.js";

export const urlScheme: NeedDefinition = {
  title: "URL scheme",
  main: "key",
  // `key` names a key of this sheet that the scheme is built from.
  form: table({ key: WORDS, prefix: optional(TEXT), reversed: optional(FLAG) }, { short: TEXT }),
  home: { android: "manifest", ios: "plist" },
  ofTarget: true,
  rules: ["permit/scheme"],
  draft: draftEntries("urlScheme", "build it from its key if the vendor does"),
  what: ({ value }) => (isTable(value) ? `URL scheme from ${textIn(value, "key") ?? ""}` : `URL scheme ${mainText(value, "key")}`),
  check,
};

function check(subject: NeedOnSide): WireResult {
  const { app, sheet, need, side } = subject;
  const from = textIn(need.value, "key");
  if (from === undefined) {
    const wanted = textIn(need.value) ?? "";
    return checkScheme(subject, { wanted, shown: wanted, variant: undefined });
  }
  const unclear: WireResult = {
    state: "unknown",
    wanted: `built from ${from}`,
    why: reason("source-of-value-open", { name: from }),
  };
  const values = keyValues(app, sheet, from, side) ?? keyValues(app, sheet, from, side === "ios" ? "android" : "ios");
  if (!values || [...values.values()].some((value) => value.trim() === "" || isPlaceholderText(value))) return unclear;
  const prefix = textIn(need.value, "prefix") ?? "";
  const reversed = textIn(need.value, "reversed") === "true";
  // Each build needs the scheme that is made of its own key.
  const answers = [...values].map(([variant, value]) =>
    checkScheme(
      subject,
      { wanted: `${prefix}${reversed ? value.split(".").reverse().join(".") : value}`, shown: `${prefix}${mask(value)}`, variant },
      values.size > 1,
    ),
  );
  return (
    answers.find(({ state }) => state !== "connected" && state !== "unknown") ??
    answers.find(({ state }) => state === "unknown") ??
    (answers[0] as WireResult)
  );
}

/** Whether a build can have both variants: the same, or a build type beside a flavour or a configuration of another name. */
function mayMeet(one: string, other: string): boolean {
  const isType = (variant: string): boolean => /^(debug|release)$/i.test(variant);
  return one.toLowerCase() === other.toLowerCase() || isType(one) !== isType(other);
}

/** One scheme, of one variant where `variant` names it. */
function checkScheme(
  { app, sheet, need, side }: NeedOnSide,
  { wanted, shown, variant }: { wanted: string; shown: string; variant: string | undefined },
  several = false,
): WireResult {
  const from = textIn(need.value, "key");
  const schemes = app.entries.filter(
    (entry) =>
      entry.kind === "urlScheme" &&
      entry.side === side &&
      !entry.removed &&
      (variant === undefined || entry.variant === undefined || mayMeet(entry.variant, variant)),
  );
  const title = `${shown}${variant === undefined ? "" : ` in ${variant}`}`;
  const found = schemes.filter((entry) => possibleTexts(entry.value).includes(wanted) || entry.name === wanted);
  if (found.length > 0) return { state: "connected", wanted: title, found: "there", places: placesOf(found) };
  const unclear = schemes.find((entry) => entry.value?.kind === "unknown");
  if (unclear)
    return {
      state: "unknown",
      wanted: title,
      why: unclear.value?.kind === "unknown" ? unclear.value.why : undefined,
      places: [unclear.at],
    };
  const prefix = from === undefined ? undefined : textIn(need.value, "prefix");
  const near = schemes.find((entry) => (prefix ? entry.name.startsWith(prefix) : entry.name.toLowerCase() === wanted.toLowerCase()));
  const file = homeOf(app, side, side === "ios" ? "plist" : "manifest");
  if (near)
    return {
      state: "loose",
      problem: "scheme",
      wanted: title,
      found:
        from === undefined ? near.name : `${prefix ?? ""}${mask(near.name.slice(prefix?.length ?? 0))}${difference(near.name, wanted)}`,
      fix: several
        ? "build the scheme from the key of the same build, by a placeholder or a build setting"
        : "write the scheme exactly as it is built",
      places: placesOf([near]),
      // A patch shows lines as they are: what is built from a secret is for a person to write, and so is what differs per build.
      ...(isSecret(sheet, from) || several
        ? {}
        : { quickFix: [{ do: "replace" as const, at: near.value?.place ?? near.at, from: near.name, to: wanted }] }),
    };
  return { state: "missing", problem: "scheme", wanted: title, fix: `add the URL scheme ${title} to ${file}` };
}
