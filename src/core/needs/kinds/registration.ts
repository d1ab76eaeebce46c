import { codeNeed, holdCalls, neverReached, wrongArguments } from "../calls.js";

export const registration = codeNeed("registration", (holding) =>
  holdCalls(holding, (calls, live) => [...neverReached(calls, holding.sheet.sdk), ...wrongArguments(live, holding)]),
);
