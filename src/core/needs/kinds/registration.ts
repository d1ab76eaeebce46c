import { codeNeed, checkCalls, neverReached, wrongArguments } from "../calls.js";

export const registration = codeNeed("registration", ["start/missing", "start/never-reached", "start/wrong-call"], (subject) =>
  checkCalls(subject, (calls, live) => [...neverReached(calls, subject.sheet.sdk), ...wrongArguments(live, subject)]),
);
