import type { SideName } from "../../model/facts.js";
import { textIn, textsIn, type NeedValue } from "../../model/sheet.js";
import { inSpan } from "../../versions/span.js";
import type { WireResult, NeedOnSide } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { LANGUAGE_FORM } from "../code-form.js";
import { languageNames, type CodeName } from "../code-names.js";
import { NAMES, SPAN, WORDS, optional, table } from "../form.js";
import { reason } from "../../model/reason.js";

export const withdrawn: NeedDefinition = {
  title: "withdrawn",
  main: "instead",
  form: table({
    // Versions that are no longer right: `<4.2.0`, `>=4.0 <4.2`, `[4.0,4.2)`.
    versions: optional(SPAN),
    // Calls that are no longer right: in these versions, where some are named; in one language only, where they stand under it.
    calls: optional(NAMES),
    ...LANGUAGE_FORM,
    instead: WORDS,
  }),
  rules: ["version/withdrawn"],
  names: ({ value }, side) => callsOf(value, side),
  what: ({ value }) => `withdrawn ${textIn(value, "versions") ?? "calls"}`,
  check,
};

function check({ app, sheet, need, side, presence }: NeedOnSide): WireResult {
  const instead = textIn(need.value, "instead") ?? "";
  const versions = textIn(need.value, "versions");
  const fix = `use ${instead}`;
  const calls = callsOf(need.value, side);
  if (versions !== undefined) {
    const [first] = presence.packages;
    const holds = first && presence.version !== undefined ? inSpan(first.ecosystem, presence.version, versions) : undefined;
    if (calls.length > 0 && holds !== true)
      return holds === false
        ? { state: "unneeded", wanted: instead, why: reason("not-among", { version: presence.version ?? "", versions }) }
        : { state: "unknown", wanted: instead, why: reason("version-missing") };
    if (first && holds === true && calls.length === 0)
      return {
        state: "loose",
        wanted: instead,
        found: presence.version,
        why: reason("versions-withdrawn", { versions }),
        fix,
        places: [first.declared?.place ?? first.places[0]].filter((place) => place !== undefined),
      };
  }
  for (const { name: call } of calls) {
    const found = (app.code?.calls ?? []).filter(
      (fact) => fact.side === side && fact.sdk === sheet.sdk && fact.kind === "withdrawn" && fact.name === call && fact.reach !== "never",
    );
    const [first] = found;
    if (!first) continue;
    const places = found.map(({ at: place }) => place);
    const message = `${first.callee} in ${first.within} is a call that the vendor of ${sheet.sdk} has withdrawn`;
    return {
      state: "loose",
      wanted: instead,
      found: call,
      why: reason("call-withdrawn"),
      fix,
      places,
      // A withdrawn start is a wrong call; any other one is told with the versions.
      ...(START.test(call.split(".").at(-1) ?? "")
        ? { problem: "call" as const, faults: [{ problem: "call" as const, message, fix, found: call, why: undefined, places }] }
        : {}),
    };
  }
  return { state: "unneeded", wanted: instead, why: reason("nothing-withdrawn") };
}

/** The calls of a side: for all its languages, and for one. */
function callsOf(value: NeedValue, side: SideName): CodeName[] {
  return [...textsIn(value, "calls").map((name) => ({ name, language: undefined })), ...languageNames(value, side)];
}

/** Names of calls that start something. */
const START = /^(?:[sS]tart|[iI]nit|[iI]nitiali[sz]e|[cC]onfigure|[sS]et[uU]p|[rR]egister)(?=$|[A-Z_])/;
