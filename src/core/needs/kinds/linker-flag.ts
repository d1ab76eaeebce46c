import { checkOption } from "../build-option.js";
import type { NeedDefinition } from "../definition.js";
import { WORDS } from "../form.js";

export const linkerFlag: NeedDefinition = {
  title: "linker flag",
  side: "ios",
  form: WORDS,
  rules: ["keep/packaging"],
  check: (subject) => checkOption(subject, ["OTHER_LDFLAGS"], "the linker flags"),
};
