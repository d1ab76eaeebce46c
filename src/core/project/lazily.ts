import type * as Answers from "./answers.js";

/** What answers are made with, loaded when it is first needed. In the built program it is a file of its own (scripts/build.mjs). */
export async function answers(): Promise<typeof Answers> {
  return import("./answers.js");
}
