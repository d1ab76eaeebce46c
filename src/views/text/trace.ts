import stringWidth from "string-width";
import type { App } from "../../core/model/app.js";
import type { Trace } from "../../core/needs/index.js";
import type { Wire, WireState } from "../../core/needs/wire.js";
import { appLine } from "./check.js";
import { placeText, SIDE_TITLES } from "./labels.js";
import { wrapped } from "./layout.js";
import { clean, plural, type Style } from "./style.js";
import { reasonText } from "../../core/model/reason.js";

/** A sign and a word for every state. */
export const STATE_MARKS: Record<WireState, { sign: string; word: string }> = {
  connected: { sign: "✓", word: "connected" },
  loose: { sign: "~", word: "loose" },
  missing: { sign: "✗", word: "missing" },
  unneeded: { sign: "–", word: "unneeded" },
  unknown: { sign: "?", word: "unknown" },
};

/** What only some apps need is nobody's mistake where it is missing. */
export const OPTIONAL_MARK = { sign: "·", word: "optional" };

/** Whether a wire is open, and the app may well do without it. */
export function isLeftOut({ need, state }: Wire): boolean {
  return need.optional === true && (state === "missing" || state === "unknown");
}

/** So much width lets both sides stand beside each other. */
const TWO_COLUMNS = 116;

export interface TraceTextOptions {
  verbose: boolean;
  /** The version that was asked about instead of the one that is in. */
  at?: string;
}

/** Every wire of one SDK in the vendor's order, on each side, then the next thing to do. */
// eslint-disable-next-line complexity -- the words for each part of a trace
export function traceText(traces: { app: App; trace: Trace }[], style: Style, options: TraceTextOptions): string {
  const lines: string[] = [];
  for (const { app, trace } of traces) {
    lines.push(appLine(app, style), "");
    const { sheet } = trace;
    lines.push(
      `  ${style.bold(clean(sheet?.title ?? trace.sdk))}${sheet ? style.dim(`  by ${clean(sheet.file)}${sheet.docs ? `, ${clean(sheet.docs)}` : ""}`) : style.dim("  no sheet: only what its package files require")}`,
      "",
    );
    const columns = trace.sides.map(({ side, version, wires }) => {
      const own = options.at === undefined ? wires : wires.filter(({ need }) => need.derived === undefined);
      const shown = options.verbose ? own : own.filter(({ state }) => state !== "unneeded");
      return {
        title: `${style.bold(SIDE_TITLES[side])}${version === undefined ? "" : style.dim(`  ${clean(version)}`)}`,
        wires: shown,
        folded: own.length - shown.length,
      };
    });
    if (columns.length === 0) lines.push(`  ${trace.sdk} is not in this app`, "");
    const width = Math.floor((style.width - 6) / 2);
    const [left, right] = columns.map(({ title, wires, folded }) => [
      title,
      "",
      ...wires.flatMap((wire) => wireLines(wire, { ...style, width }, options)),
      ...foldedLines(folded, style),
    ]);
    // A path is never cut: where one does not fit, the sides follow each other.
    if (columns.length === 2 && style.width >= TWO_COLUMNS && left?.every((line) => stringWidth(line) <= width)) {
      for (let index = 0; index < Math.max(left?.length ?? 0, right?.length ?? 0); index++) {
        const cell = left?.[index] ?? "";
        lines.push(`  ${cell}${" ".repeat(Math.max(0, width - stringWidth(cell)))}  ${right?.[index] ?? ""}`.trimEnd());
      }
      lines.push("");
    } else {
      for (const { title, wires, folded } of columns) {
        lines.push(
          `  ${title}`,
          ...[
            ...wires.flatMap((wire) => wireLines(wire, { ...style, width: style.width - 2 }, options)),
            ...foldedLines(folded, style),
          ].map((line) => `  ${line}`),
        );
        if (wires.length + folded === 0) lines.push("    its package files state no requirements");
        lines.push("");
      }
    }
    lines.push(...closing(trace, style));
  }
  return `${lines.join("\n").trimEnd()}\n`;
}

/** Needs that do not apply here, as one line. */
function foldedLines(count: number, style: Style): string[] {
  return count === 0
    ? []
    : [
        style.dim(
          `   – ${plural(count, "need")} that ${count === 1 ? "does" : "do"} not apply here; --verbose lists ${count === 1 ? "it" : "them"}`,
        ),
      ];
}

// eslint-disable-next-line complexity -- the words for each part of a wire
function wireLines(wire: Wire, style: Style, options: TraceTextOptions): string[] {
  const leftOut = isLeftOut(wire);
  const { sign, word } = leftOut ? OPTIONAL_MARK : STATE_MARKS[wire.state];
  const label = `${String(wire.need.step).padStart(2)} ${sign} ${word}`.padEnd(15);
  const paint =
    wire.state === "connected"
      ? style.good
      : leftOut
        ? style.dim
        : wire.state === "missing"
          ? style.error
          : wire.state === "loose"
            ? style.warning
            : style.dim;
  const indent = label.length;
  const [head = "", ...rest] = wrapped(style, clean(wire.need.what), indent).split("\n");
  const lines = [`${paint(label)}${head.trimStart()}`, ...rest];
  const say = (text: string): void => void lines.push(...wrapped(style, text, indent).split("\n"));
  const open = wire.state === "loose" || wire.state === "missing";
  if (open) {
    if (wire.found !== undefined)
      say(
        `found ${clean(wire.found)}${wire.wanted !== "" && !wire.need.what.includes(wire.wanted) ? `, wanted ${clean(wire.wanted)}` : ""}`,
      );
    const because = wire.need.why ?? (wire.need.derived !== undefined && wire.why ? reasonText(wire.why) : undefined);
    if (because !== undefined) say(style.dim(clean(because)));
    if (wire.fix !== undefined) say(`→ ${clean(wire.fix)}`);
  } else if (wire.state !== "connected" && wire.why !== undefined) say(style.dim(clean(reasonText(wire.why))));
  else if (options.verbose && wire.found !== undefined) say(style.dim(clean(wire.found)));
  const shown = options.verbose ? wire.places : wire.places.slice(0, open ? 2 : 1);
  for (const place of shown) lines.push(`${" ".repeat(indent)}${style.place(placeText(place))}`);
  if (wire.need.derived !== undefined) say(style.dim(`derived from the ${clean(wire.need.derived)}`));
  else if (options.verbose) lines.push(`${" ".repeat(indent)}${style.dim(`required at ${placeText(wire.need.at)}`)}`);
  return lines;
}

function closing(trace: Trace, style: Style): string[] {
  const wires = trace.sides.flatMap(({ wires: list }) => list);
  if (wires.length === 0) return trace.sides.length === 0 ? [] : [wrapped(style, untold(trace, wires, style), 2), ""];
  const asked = wires.filter((wire) => !isLeftOut(wire));
  const count = (state: WireState): number => asked.filter((wire) => wire.state === state).length;
  const counts = (["connected", "loose", "missing", "unneeded", "unknown"] as const).flatMap((state) =>
    count(state) > 0 ? `${count(state)} ${state}` : [],
  );
  if (asked.length < wires.length) counts.push(`${wires.length - asked.length} optional`);
  const next = asked.find(({ state }) => state === "missing") ?? asked.find(({ state }) => state === "loose");
  const lines = [`  ${plural(wires.length, "wire")}: ${counts.join(", ")}`];
  lines.push(
    wrapped(
      style,
      next?.fix === undefined
        ? untold(trace, wires, style)
        : `${style.bold(`Next, ${next.need.side === "shared" ? "in the shared code" : `on ${SIDE_TITLES[next.need.side]}`}:`)} ${clean(next.fix)}`,
      2,
    ),
    "",
  );
  return lines;
}

/** The end of a trace without an open wire: what was looked at, and what no file tells. */
function untold(trace: Trace, wires: readonly Wire[], style: Style): string {
  const unknown = wires.filter((wire) => wire.state === "unknown" && !isLeftOut(wire));
  const checked = wires.filter(({ state }) => state === "connected");
  if (trace.sheet && unknown.length === 0 && checked.some(({ need }) => need.derived === undefined))
    return style.good("Nothing is left to do.");
  const found = checked.length > 0 ? "Nothing is missing in what was checked." : "There was nothing to check.";
  const rest = [
    ...(unknown.length > 0 ? [`${plural(unknown.length, "wire is", "wires are")} not known from the files: see above.`] : []),
    ...(trace.sheet
      ? []
      : [
          "Package files do not say which purpose texts, keys and start calls it needs: its documentation does, and a sheet can (enredo sheet draft).",
        ]),
  ];
  return [found, ...rest].join(" ");
}

/** What an upgrade asks for beyond today. */
export function upgradeText(
  upgrades: { app: App; sdk: string; at: string; wires: Wire[] }[],
  style: Style,
  options: TraceTextOptions,
): string {
  const lines: string[] = [];
  for (const { app, sdk, at, wires } of upgrades) {
    lines.push(appLine(app, style), "");
    const open = wires.filter((wire) => wire.state !== "connected" && !isLeftOut(wire));
    lines.push(
      `  ${style.bold(`${clean(sdk)} ${clean(at)}`)} has ${plural(wires.length, "need")} that the installed version does not have${wires.length > 0 ? `; ${open.length} of them ${open.length === 1 ? "is" : "are"} not met yet` : ""}`,
      "",
    );
    for (const side of ["android", "ios", "shared"] as const) {
      const own = wires.filter(({ need }) => need.side === side);
      if (own.length > 0)
        lines.push(
          `  ${style.bold(SIDE_TITLES[side])}`,
          ...own.flatMap((wire) => wireLines(wire, { ...style, width: style.width - 2 }, options)).map((line) => `  ${line}`),
          "",
        );
    }
  }
  return `${lines.join("\n").trimEnd()}\n`;
}
