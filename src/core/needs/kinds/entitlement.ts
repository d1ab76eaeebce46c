import type { NeedDefinition } from "../definition.js";
import { draftEntries } from "../drafting.js";
import { entry, checkListed } from "../listed.js";

export const entitlement: NeedDefinition = {
  title: "entitlement",
  side: "ios",
  main: "key",
  form: entry,
  ofTarget: true,
  rules: ["permit/entry-missing"],
  draft: draftEntries("entitlement"),
  check: (subject) => checkListed(subject, "entitlement"),
};
