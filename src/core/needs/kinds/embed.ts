import { textIn } from "../../model/sheet.js";
import { wildcard } from "../../model/wildcard.js";
import { type WireResult, type NeedOnSide, comesAsPackage } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { scalar, type DraftedNeed, type DraftSubject } from "../drafting.js";
import { WORDS, table, words } from "../form.js";
import { reason } from "../../model/reason.js";

export const embed: NeedDefinition = {
  title: "embedded binary",
  side: "ios",
  main: "name",
  form: table({ name: WORDS, kind: words("dynamic", "static") }),
  rules: ["native/not-embedded"],
  draft,
  check,
};

function check(subject: NeedOnSide): WireResult {
  const { app, need, side } = subject;
  const name = textIn(need.value, "name") ?? "";
  const kind = textIn(need.value, "kind") ?? "dynamic";
  if (side !== "ios") return { state: "unneeded", wanted: name };
  const link = app.links.find((fact) => wildcard(name, fact.name));
  if (!link)
    return comesAsPackage(subject)
      ? { state: "unneeded", wanted: name, why: reason("comes-as-package") }
      : { state: "missing", wanted: name, fix: `link ${name} in the target` };
  if (kind === "dynamic" && !link.embedded)
    return {
      state: "loose",
      wanted: `${name}, embedded`,
      found: "linked but not embedded",
      fix: `set ${link.name} to Embed & Sign in the target ${link.target}`,
      places: [link.at],
    };
  if (kind === "static" && link.embedded)
    return {
      state: "loose",
      wanted: `${name}, not embedded`,
      found: "a static library is embedded",
      fix: `set ${link.name} to Do Not Embed in the target ${link.target}`,
      places: [link.at],
    };
  return { state: "connected", wanted: name, found: link.embedded ? "embedded" : "linked", places: [link.at] };
}

function draft({ app, mentions }: DraftSubject): DraftedNeed[] {
  return app.links.flatMap(({ name, form, embedded, at }): DraftedNeed[] =>
    form === undefined || !mentions(name)
      ? []
      : [
          {
            on: "ios",
            value: `{ name: ${scalar(name)}, kind: ${form} }`,
            from: at,
            ...(embedded === (form === "dynamic") ? {} : { unsure: "the app links it another way" }),
          },
        ],
  );
}
