import type { NeedDefinition } from "../definition.js";
import { entry, holdListed } from "../listed.js";

export const plistEntry: NeedDefinition = {
  title: "property-list entry",
  side: "ios",
  main: "key",
  form: entry,
  home: { ios: "plist" },
  ofTarget: true,
  rule: "permit/entry-missing",
  hold: (holding) => holdListed(holding, "plist"),
};
