import { checkOption } from "../build-option.js";
import type { NeedDefinition } from "../definition.js";
import { WORDS } from "../form.js";

export const searchPath: NeedDefinition = {
  title: "search path",
  side: "ios",
  form: { ...WORDS, holds: "path" },
  rules: ["keep/packaging"],
  check: (subject) => checkOption(subject, ["FRAMEWORK_SEARCH_PATHS", "LIBRARY_SEARCH_PATHS", "HEADER_SEARCH_PATHS"], "the search paths"),
};
