import type { NeedDefinition } from "../definition.js";
import { entry, checkListed } from "../listed.js";

export const entitlement: NeedDefinition = {
  title: "entitlement",
  side: "ios",
  main: "key",
  form: entry,
  ofTarget: true,
  rule: "permit/entry-missing",
  check: (subject) => checkListed(subject, "entitlement"),
};
