import { itemsIn, textIn } from "../../model/sheet.js";
import { inSpan } from "../../versions/span.js";
import type { WireResult, NeedOnSide } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { SPAN, TEXTS, WORDS, optional, table } from "../form.js";

export const withdrawn: NeedDefinition = {
  title: "withdrawn",
  main: "instead",
  form: table({
    // Versions that are no longer right: `<4.2.0`, `>=4.0 <4.2`, `[4.0,4.2)`.
    versions: optional(SPAN),
    // Calls that are no longer right.
    calls: optional(TEXTS),
    instead: WORDS,
  }),
  rules: ["version/withdrawn"],
  names: ({ value }) => itemsIn(value, "calls").flatMap((item) => ({ name: textIn(item) ?? "", language: undefined })),
  what: ({ value }) => `withdrawn ${textIn(value, "versions") ?? "calls"}`,
  check,
};

function check({ app, sheet, need, side, presence }: NeedOnSide): WireResult {
  const instead = textIn(need.value, "instead") ?? "";
  const versions = textIn(need.value, "versions");
  const fix = `use ${instead}`;
  if (versions !== undefined && presence.version !== undefined) {
    const [first] = presence.packages;
    if (first && inSpan(first.ecosystem, presence.version, versions) === true)
      return {
        state: "loose",
        wanted: instead,
        found: presence.version,
        why: `${versions} is withdrawn`,
        fix,
        places: [first.declared?.place ?? first.places[0]].filter((place) => place !== undefined),
      };
  }
  for (const item of itemsIn(need.value, "calls")) {
    const call = textIn(item);
    const calls = (app.code?.calls ?? []).filter(
      (fact) => fact.side === side && fact.sdk === sheet.sdk && fact.kind === "withdrawn" && fact.name === call && fact.reach !== "never",
    );
    const [first] = calls;
    if (!first) continue;
    const places = calls.map(({ at: place }) => place);
    const message = `${first.callee} in ${first.within} is a call that the vendor of ${sheet.sdk} has withdrawn`;
    return {
      state: "loose",
      wanted: instead,
      found: call,
      why: "the call is withdrawn",
      fix,
      places,
      // A withdrawn start is a wrong call; any other one is told with the versions.
      ...(START.test(call?.split(".").at(-1) ?? "")
        ? { problem: "call" as const, faults: [{ problem: "call" as const, message, fix, found: call, why: undefined, places }] }
        : {}),
    };
  }
  return { state: "unneeded", wanted: instead, why: "nothing withdrawn is in use" };
}

/** Names of calls that start something. */
const START = /^(?:[sS]tart|[iI]nit|[iI]nitiali[sz]e|[cC]onfigure|[sS]et[uU]p|[rR]egister)(?=$|[A-Z_])/;
