import { textIn } from "../../model/sheet.js";
import { reason } from "../../model/reason.js";
import { textOf } from "../../model/value.js";
import { compareLevels, isLevel } from "../../versions/level.js";
import { type WireResult, type NeedOnSide, placesOf, homeOf } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { draftEntries } from "../drafting.js";
import { WORDS } from "../form.js";

export const host: NeedDefinition = {
  title: "host",
  form: WORDS,
  home: { android: "manifest", ios: "plist" },
  rules: ["permit/host"],
  draft: draftEntries("host"),
  check,
};

function check({ app, need, side }: NeedOnSide): WireResult {
  const text = textIn(need.value) ?? "";
  const host = text.replace(/^\w+:\/\//, "").replace(/[/:].*$/, "");
  if (/^https:/.test(text)) return { state: "unneeded", wanted: host, why: reason("https-needs-no-exception") };
  const all = app.entries.filter((entry) => entry.side === side && (entry.kind === "clearText" || entry.kind === "host"));
  const open = all.filter((entry) =>
    entry.kind === "clearText"
      ? textOf(entry.value) === "true"
      : (host === entry.name || host.endsWith(`.${entry.name}`)) && textOf(entry.value) !== "false" && entry.value !== undefined,
  );
  if (open.length > 0)
    return {
      state: "connected",
      wanted: host,
      found: open.some(({ kind }) => kind === "host") ? "allowed" : "every host is allowed",
      places: placesOf(open),
    };
  const closed = all.find((entry) => entry.kind === "host" && (host === entry.name || host.endsWith(`.${entry.name}`)));
  if (closed)
    return {
      state: "loose",
      wanted: host,
      found: "listed, but not allowed without encryption",
      fix: `allow cleartext traffic for ${host}`,
      places: [closed.at],
    };
  if (side === "android" && app.android) {
    const target = textOf(app.android.effective.targetSdk);
    if (target !== undefined && isLevel(target) && compareLevels(target, "28") < 0 && !all.some((entry) => textOf(entry.value) === "false"))
      return { state: "connected", wanted: host, found: `allowed by default below targetSdk 28`, places: [] };
  }
  if (app.kind === "cordova") return { state: "missing", wanted: host, fix: `add <access origin="http://${host}" /> to config.xml` };
  const where =
    side === "ios" ? `NSAppTransportSecurity, NSExceptionDomains in ${homeOf(app, side, "plist")}` : "a network security configuration";
  return { state: "missing", wanted: host, fix: `allow ${host} in ${where}` };
}
