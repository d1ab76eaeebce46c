import type { PackageNeeds, PackagePage } from "../../core/project/package-needs/index.js";
import type { Wire, WireState } from "../../core/needs/wire.js";
import { GUEST } from "../../core/model/guest.js";
import { appLine } from "./check.js";
import { placeText, SIDE_TITLES } from "./labels.js";
import { wrapped } from "./layout.js";
import { isLeftOut, OPTIONAL_MARK, STATE_MARKS } from "./trace.js";
import { clean, plural, type Style } from "./style.js";
import { reasonText } from "../../core/model/reason.js";

/** Done, to do, not sure: the states of wires in the words of a checklist. */
const WORDS: Record<WireState, string> = { connected: "done", loose: "to fix", missing: "to do", unneeded: "not here", unknown: "unsure" };

const MOST_BY_HAND = 8;

/** The checklist of a package: each step with its place in the project and the line of the page. */
export function needsText(all: readonly PackageNeeds[], page: PackagePage | undefined, style: Style, verbose: boolean): string {
  const lines: string[] = [];
  for (const { app, package: name, isIn, trace } of all) {
    lines.push(appLine(app, style), "");
    const by = page ? `by ${clean(page.page.file)}` : "its page is not here: only what its files ask for";
    lines.push(`  ${style.bold(clean(name))}  ${style.dim(isIn ? by : `not in this app yet; ${by}`)}`, "");
    const sides = trace.sides.map(({ side, wires }) => ({
      side,
      wires: wires.filter(({ state }) => verbose || state !== "unneeded").sort((a, b) => rankOf(a) - rankOf(b)),
    }));
    for (const { side, wires } of sides) {
      if (wires.length === 0) continue;
      lines.push(
        `  ${style.bold(SIDE_TITLES[side])}`,
        ...wires.flatMap((wire) => stepLines(wire, isIn || !isBrought(wire, name) ? WORDS[wire.state] : BROUGHT, style, verbose)),
        "",
      );
    }
    const shown = sides.flatMap(({ wires }) => wires);
    const needed = shown.filter((wire) => !isLeftOut(wire) && !wire.need.optional);
    const brought = isIn ? [] : needed.filter((wire) => isBrought(wire, name));
    const count = (...states: Wire["state"][]): number => needed.filter(({ state }) => states.includes(state)).length;
    const optional = shown.filter(({ need, state }) => need.optional && state !== "connected").length;
    const counts: [many: number, what: string][] = [
      [count("connected") - brought.length, "done"],
      [brought.length, "that it brings"],
      [count("missing", "loose"), "to do"],
      [count("unknown"), "unsure"],
      [optional, "optional and open"],
    ];
    lines.push(
      shown.length === 0
        ? wrapped(style, page ? "The page has no step that can be checked against the app." : "It requires nothing.", 2)
        : wrapped(
            style,
            `${plural(shown.length, "step")}: ${counts
              .filter(([many]) => many > 0)
              .map(([many, what]) => `${many} ${what}`)
              .join(", ")}`,
            2,
          ),
      "",
    );
  }
  if (page && page.rest.length > 0) lines.push(...byHand(page, style, verbose), "");
  if (page && page.links.length > 0)
    lines.push(
      `  ${style.bold("The page leads elsewhere for setting up")}`,
      ...page.links.map(({ to, line }) => `    ${clean(to)}  ${style.dim(`${clean(page.page.file)}:${line}`)}`),
    );
  return `${lines.join("\n").trimEnd()}\n`;
}

/** What is to be done comes first, what is done last. */
function rankOf({ state, need }: Wire): number {
  return ["missing", "loose", "unknown", "connected", "unneeded"].indexOf(state) + (need.optional && state !== "connected" ? 2.5 : 0);
}

/** What a package that is not in the app yet would bring along. */
const BROUGHT = "it brings";

function isBrought({ state, need, places }: Wire, name: string): boolean {
  return (
    state === "connected" &&
    need.derived !== undefined &&
    places.length > 0 &&
    places.every(({ file }) => file.includes(`node_modules/${name}/`) || file.includes(`${GUEST}/`))
  );
}

// eslint-disable-next-line complexity -- the words for each part of a step
function stepLines(wire: Wire, said: string, style: Style, verbose: boolean): string[] {
  const { need, state, found, wanted, why, fix, places } = wire;
  const { sign, word } = isLeftOut(wire) ? OPTIONAL_MARK : { sign: STATE_MARKS[state].sign, word: said };
  const label = `    ${sign} ${word.padEnd(10)}`;
  const paint =
    state === "connected"
      ? style.good
      : need.optional || state === "unneeded" || state === "unknown"
        ? style.dim
        : state === "missing"
          ? style.error
          : style.warning;
  const indent = label.length;
  const [head = "", ...more] = wrapped(style, clean(need.what), indent).split("\n");
  const lines = [`${paint(label)}${head.trimStart()}`, ...more];
  const say = (text: string, show = (line: string): string => line): void => {
    for (const line of wrapped(style, text, indent).split("\n")) lines.push(show(line));
  };
  if (state === "connected" && !verbose) return lines;
  if (state === "loose") say(`found ${clean(found ?? "")}, wanted ${clean(wanted)}`);
  if (state === "unknown" && why !== undefined) say(clean(reasonText(why)), style.dim);
  const asked = need.derived === undefined ? placeText(need.at).replace(/:\d+$/, "") : `${need.derived}`;
  const [place] = places;
  if ((state === "missing" || state === "loose") && fix !== undefined && !need.optional) say(`→ ${clean(fix)}`);
  say(`${place && state !== "missing" ? `${clean(placeText(place))}, ` : ""}required by ${clean(asked)}`, style.dim);
  return lines;
}

function byHand({ rest }: PackagePage, style: Style, verbose: boolean): string[] {
  const shown = verbose ? rest : rest.slice(0, MOST_BY_HAND);
  return [
    `  ${style.bold("By hand, or not understood")}`,
    ...shown.flatMap(({ file, section, line, optional, text }) =>
      wrapped(
        style,
        `· ${clean(section)}${optional ? " (optional)" : ""}: ${clean(text)}  ${style.dim(`${clean(file)}:${line}`)}`,
        4,
      ).split("\n"),
    ),
    ...(rest.length > shown.length ? [style.dim(`    and ${rest.length - shown.length} more; --verbose shows them`)] : []),
  ];
}
