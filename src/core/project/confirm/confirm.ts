import type { App } from "../../model/app.js";
import { sidesOf } from "../../model/app.js";
import type { SideName } from "../../model/facts.js";
import { isTable, itemsIn, sheetsFor, textIn, type Sheet } from "../../model/sheet.js";
import { traceOf } from "../../needs/index.js";
import { secretsOf, withoutTokens } from "../../needs/secrets.js";
import type { Log, LogEntry } from "./read-log.js";

/** What a log says of one SDK. */
export interface Confirmation {
  sdk: string;
  /** `up`: its line is there; `silent`: it is not; `unknown`: no sheet tells what it prints. */
  state: "up" | "silent" | "unknown";
  /** Position among those that came up, from 1. */
  order: number | undefined;
  /** The line that it printed. */
  entry: LogEntry | undefined;
  /** The form of the line that is waited for. */
  wanted: string | undefined;
  /** Errors and warnings that it wrote itself. */
  complaints: LogEntry[];
  /** Other SDKs that came up on the wrong side of it. */
  outOfOrder: string[];
}

export interface SideConfirmation {
  side: "android" | "ios";
  sdks: Confirmation[];
}

/** The sides that a log can be of: its form tells, or `side` does. */
export function sidesOfLog(log: Log, side: SideName | undefined): ("android" | "ios")[] {
  if (side === "android" || side === "ios") return [side];
  if (log.form === "logcat") return ["android"];
  return log.form === "console" ? ["android", "ios"] : ["ios"];
}

/** Holds a log against what the sheets of an app's SDKs say that they print. */
export function confirmLog(app: App, sheets: readonly Sheet[], log: Log, side: SideName | undefined): SideConfirmation[] {
  const secrets = secretsOf(app, sheets);
  const shown = (entry: LogEntry): LogEntry => ({ ...entry, message: withoutTokens(entry.message, secrets) });
  return sidesOfLog(log, side)
    .filter((of) => sidesOf(app).includes(of))
    .map((of) => ({
      side: of,
      sdks: confirmSide(app, sheets, log, of).map((confirmation) => ({
        ...confirmation,
        entry: confirmation.entry && shown(confirmation.entry),
        complaints: confirmation.complaints.map(shown),
      })),
    }));
}

function confirmSide(app: App, sheets: readonly Sheet[], log: Log, side: "android" | "ios"): Confirmation[] {
  const found: Confirmation[] = [];
  for (const sheet of sheetsFor(app, sheets)) {
    const trace = traceOf(app, sheets, sheet.sdk).sides.find((entry) => entry.side === side);
    if (!trace || !app.sheets.includes(sheet.sdk)) continue;
    const wanted = trace.wires.filter(({ need, state }) => need.kind === "logLine" && state !== "unneeded").map((wire) => wire.wanted);
    const matches = wanted.flatMap((pattern) => {
      const fits = sheet.searches.get(pattern);
      const entry = fits && log.entries.find(({ message, tag }) => fits(message) || (tag !== undefined && fits(`${tag}: ${message}`)));
      return entry ? [entry] : [];
    });
    const entry = matches.sort((a, b) => a.line - b.line)[0];
    found.push({
      sdk: sheet.sdk,
      state: wanted.length === 0 ? "unknown" : entry ? "up" : "silent",
      order: undefined,
      entry,
      wanted: wanted[0],
      complaints: complaintsOf(sheet, log),
      outOfOrder: [],
    });
  }
  const up = found.filter(({ state }) => state === "up").sort((a, b) => (a.entry?.line ?? 0) - (b.entry?.line ?? 0));
  up.forEach((confirmation, index) => (confirmation.order = index + 1));
  noteOrder(app, sheets, up, side);
  const rest = found
    .filter(({ state }) => state !== "up")
    .sort((a, b) => (a.state === b.state ? (a.sdk < b.sdk ? -1 : 1) : a.state === "silent" ? -1 : 1));
  return [...up, ...rest];
}

/** What the sheets want started in another order than the log shows. */
function noteOrder(app: App, sheets: readonly Sheet[], up: Confirmation[], side: string): void {
  for (const sheet of sheets) {
    const own = up.find(({ sdk }) => sdk === sheet.sdk);
    if (!own) continue;
    for (const need of sheet.needs) {
      if (need.kind !== "start" || (need.on !== side && need.on !== "both") || !isTable(need.value)) continue;
      if (need.frameworks.length > 0 && !need.frameworks.includes(app.kind)) continue;
      for (const [key, wrong] of [
        ["before", -1],
        ["after", 1],
      ] as const)
        for (const item of itemsIn(need.value, key)) {
          const other = up.find(({ sdk }) => sdk === textIn(item));
          if (other && Math.sign((other.order ?? 0) - (own.order ?? 0)) === wrong) own.outOfOrder.push(other.sdk);
        }
    }
  }
}

/** Errors and warnings whose tag or first words name the SDK. */
function complaintsOf(sheet: Sheet, log: Log): LogEntry[] {
  const names = [...new Set([sheet.sdk, sheet.title].map((name) => name.toLowerCase()))];
  return log.entries.filter(({ level, tag, message }) => {
    if (level !== "error" && level !== "warning") return false;
    const by = (tag ?? "").toLowerCase();
    const head = message.slice(0, 60).toLowerCase();
    return names.some(
      (name) =>
        new RegExp(`(^|[^a-z])${name.replace(/[^a-z0-9]/g, "\\$&")}`).test(by) || head.startsWith(name) || head.startsWith(`[${name}`),
    );
  });
}
