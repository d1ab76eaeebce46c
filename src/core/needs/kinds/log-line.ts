import { textIn } from "../../model/sheet.js";
import type { NeedDefinition } from "../definition.js";
import { WORDS } from "../form.js";
import { reason } from "../../model/reason.js";

export const logLine: NeedDefinition = {
  title: "log line",
  // Pattern of the line that the SDK prints when it came up.
  rules: [],
  form: { ...WORDS, holds: "search" },
  check: ({ need }) => ({ state: "unknown", wanted: textIn(need.value) ?? "", why: reason("only-in-log") }),
};
