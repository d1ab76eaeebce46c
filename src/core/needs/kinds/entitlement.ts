import type { NeedDefinition } from "../definition.js";
import { entry, holdListed } from "../listed.js";

export const entitlement: NeedDefinition = {
  title: "entitlement",
  side: "ios",
  main: "key",
  form: entry,
  ofTarget: true,
  rule: "permit/entry-missing",
  hold: (holding) => holdListed(holding, "entitlement"),
};
