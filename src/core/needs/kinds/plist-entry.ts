import type { NeedDefinition } from "../definition.js";
import { entry, checkListed } from "../listed.js";

export const plistEntry: NeedDefinition = {
  title: "property-list entry",
  side: "ios",
  main: "key",
  form: entry,
  home: { ios: "plist" },
  ofTarget: true,
  rules: ["permit/entry-missing"],
  check: (subject) => checkListed(subject, "plist"),
};
