import { codeNeed, checkCalls, neverReached, wrongArguments } from "../calls.js";

export const registration = codeNeed("registration", (subject) =>
  checkCalls(subject, (calls, live) => [...neverReached(calls, subject.sheet.sdk), ...wrongArguments(live, subject)]),
);
