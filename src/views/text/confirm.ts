import type { App } from "../../core/model/app.js";
import type { Confirmation, SideConfirmation } from "../../core/project/confirm/confirm.js";
import { severityOf } from "../../core/project/confirm/severity.js";
import type { Log } from "../../core/project/confirm/read-log.js";
import { appLine } from "./check.js";
import { SIDE_TITLES } from "./labels.js";
import { wrapped } from "./layout.js";
import { clean, colored, plural, type Style } from "./style.js";

export interface ConfirmTextOptions {
  /** The log's name, as places show it. */
  file: string;
  verbose: boolean;
}

/** Which SDKs came up, in which order, with what they complained about, and which never did. */
export function confirmText(
  log: Log,
  results: { app: App; sides: SideConfirmation[] }[],
  style: Style,
  { file, verbose }: ConfirmTextOptions,
): string {
  const lines: string[] = [];
  for (const { app, sides } of results) {
    lines.push(appLine(app, style), "");
    for (const { side, sdks } of sides) {
      lines.push(
        `  ${style.bold(SIDE_TITLES[side])}${style.dim(`  by ${clean(file)}: ${log.form}, ${plural(log.entries.length, "entry", "entries")}`)}`,
      );
      if (sdks.length === 0) lines.push("    no SDK of this side has a sheet");
      const width = Math.max(0, ...sdks.map(({ sdk }) => sdk.length));
      for (const sdk of sdks) lines.push(...sdkLines(sdk, width, style, file, verbose));
      const up = sdks.filter(({ state }) => state === "up").length;
      const silent = sdks.filter(({ state }) => state === "silent").length;
      lines.push(
        "",
        `  ${up} came up, ${silent} ${silent === 1 ? "stays" : "stay"} silent${sdks.length > up + silent ? `, ${sdks.length - up - silent} not known` : ""}`,
        "",
      );
    }
  }
  return `${lines.join("\n").trimEnd()}\n`;
}

const WORDS: Record<Confirmation["state"], string> = { up: "came up", silent: "silent", unknown: "not known" };

function sdkLines(confirmation: Confirmation, width: number, style: Style, file: string, verbose: boolean): string[] {
  const { sdk, state, order, entry, wanted, complaints, outOfOrder } = confirmation;
  const severity = severityOf(confirmation);
  const sign = state === "up" ? (severity === "error" ? "✗" : severity === "warning" ? "!" : "✓") : state === "silent" ? "✗" : "?";
  const paint = (text: string): string => (severity === undefined ? style.good(text) : colored(style, severity, text));
  const label = `    ${String(order ?? "").padStart(2)} ${sign} `;
  const lines = [`${paint(label)}${clean(sdk).padEnd(width)}  ${WORDS[state]}${entry?.time === undefined ? "" : `  ${clean(entry.time)}`}`];
  const say = (text: string): void => void lines.push(...wrapped(style, text, label.length).split("\n"));
  if (entry) say(style.dim(clean(entry.message.split("\n")[0] ?? "")));
  if (entry) lines.push(`${" ".repeat(label.length)}${style.place(`${clean(file)}:${entry.line}:1`)}`);
  if (state === "silent") say(`no line has the form ${clean(wanted ?? "")}`);
  if (state === "unknown") say(style.dim("its sheet names no line that it prints (logLine)"));
  if (outOfOrder.length > 0) say(style.error(`✗ came up after ${outOfOrder.join(", ")}, which must come later`));
  const shown = verbose ? complaints : complaints.slice(0, 3);
  for (const complaint of shown) {
    say(
      colored(
        style,
        complaint.level === "error" ? "error" : "warning",
        `${complaint.level}: ${clean(complaint.message.split("\n")[0] ?? "")}`,
      ),
    );
    lines.push(`${" ".repeat(label.length)}${style.place(`${clean(file)}:${complaint.line}:1`)}`);
  }
  if (complaints.length > shown.length) say(style.dim(`and ${complaints.length - shown.length} more; --verbose shows them`));
  return lines;
}
