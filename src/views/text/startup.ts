import type { App } from "../../core/model/app.js";
import type { LifeCyclePhase } from "../../core/model/code.js";
import type { SideStartup, StartupStep } from "../../core/project/startup.js";
import { appLine } from "./check.js";
import { placeText, SIDE_TITLES } from "./labels.js";
import { wrapped } from "./layout.js";
import { clean, plural, type Style } from "./style.js";
import { reasonText } from "../../core/model/reason.js";

export const PHASE_HEADS: Record<LifeCyclePhase, string> = {
  beforeLaunch: "Before launch",
  provider: "Providers and initializers",
  launch: "At launch",
  firstScreen: "With the first screen",
  later: "Later",
};

/** What runs at launch, in order, per side, with why it stands there. */
export function startupText(startups: { app: App; sides: SideStartup[] }[], style: Style, options: { verbose: boolean }): string {
  const lines: string[] = [];
  for (const { app, sides } of startups) {
    lines.push(appLine(app, style), "");
    for (const { side, steps, others, entries, unread } of sides) {
      lines.push(`  ${style.bold(SIDE_TITLES[side])}`);
      if (steps.length === 0) {
        lines.push(
          wrapped(
            style,
            others.length > 0
              ? "no start of an SDK was found whose place in the order is known"
              : entries > 0 || unread
                ? "no call that starts an SDK was found; enredo looks for the calls that sheets name, and for calls on imported packages that are named like a start"
                : "no source code with an entry point was found",
            4,
          ),
        );
      }
      let head = "";
      for (const step of steps) {
        const title = step.side !== side ? "Shared code" : PHASE_HEADS[step.phase ?? "later"];
        if (title !== head) lines.push(`    ${style.dim(title)}`);
        head = title;
        lines.push(...stepLines(step, style, options));
      }
      const never = others.filter(({ marks }) => marks.some(({ kind }) => kind === "never"));
      const rest = others.filter((step) => !never.includes(step));
      if (never.length > 0) lines.push(`    ${style.dim("Never reached")}`, ...never.flatMap((step) => stepLines(step, style, options)));
      if (rest.length > 0)
        lines.push(`    ${style.dim("Later, or not known when")}`, ...rest.flatMap((step) => stepLines(step, style, options)));
      lines.push("");
    }
    if (sides.some(({ steps }) => hasTies(steps))) lines.push(`  ${style.dim("steps of one number have no order among them")}`, "");
    const all = sides.flatMap(({ steps, others }) => [...steps, ...others]);
    const wrong = all.filter(isWrong).length;
    lines.push(
      `  ${plural(all.length, "step")}${all.length === 0 ? "" : wrong === 0 ? ", nothing out of order" : `, ${style.error(`${wrong} with something wrong`)}`}`,
      "",
    );
  }
  return `${lines.join("\n").trimEnd()}\n`;
}

/** Whether two steps of a side have one number: there is no order between them. */
function hasTies(steps: readonly StartupStep[]): boolean {
  const numbers = steps.flatMap(({ side, number }) => (number === undefined ? [] : `${side} ${number}`));
  return new Set(numbers).size < numbers.length;
}

/** Marks that only describe a step. */
export const DESCRIBING = new Set(["debugOnly", "conditional", "removed"]);

export function isWrong(step: StartupStep): boolean {
  return step.marks.some(({ kind }) => !DESCRIBING.has(kind));
}

function stepLines(step: StartupStep, style: Style, options: { verbose: boolean }): string[] {
  const wrong = isWrong(step);
  const sign = wrong ? "✗" : step.number === undefined ? "–" : " ";
  const label = `    ${String(step.number ?? "").padStart(3)} ${sign} `;
  const paint = wrong ? style.error : step.number === undefined ? style.dim : style.bold;
  const name =
    step.kind === "provider" || step.kind === "initializer"
      ? `${step.kind} ${clean(step.what)}`
      : `${clean(step.sdk ?? "")}  ${clean(step.what)}`;
  const lines = [
    `${paint(label)}${name}${step.kind === "likely start" ? style.dim("  looks like a start") : step.kind === "use" || step.kind === "registration" || step.kind === "debug only" ? style.dim(`  ${step.kind}`) : ""}`,
  ];
  const indent = label.length;
  const say = (text: string): void => void lines.push(...wrapped(style, text, indent).split("\n"));
  const details = detailsOf(step);
  if (details.length > 0) say(style.dim(details.join(", ")));
  if (step.guards.length > 0) say(style.dim(`if ${clean(step.guards.slice(0, options.verbose ? 9 : 2).join(" and "))}`));
  for (const { kind, text } of step.marks) say(DESCRIBING.has(kind) ? clean(text) : style.error(`✗ ${clean(text)}`));
  lines.push(`${" ".repeat(indent)}${style.place(placeText(step.at))}`);
  return lines;
}

/** Where it stands, why there, and on which thread. */
function detailsOf(step: StartupStep): string[] {
  return [
    step.within === undefined ? undefined : `in ${clean(step.within)}`,
    step.why && clean(reasonText(step.why)),
    step.thread === "background" ? "on a background thread" : step.thread,
  ].filter((part) => part !== undefined);
}
