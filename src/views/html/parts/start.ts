import type { SideStartup, StartupStep } from "../../../core/project/startup.js";
import { SIDE_TITLES } from "../../text/labels.js";
import { DESCRIBING, isWrong, PHASE_HEADS } from "../../text/startup.js";
import { markup, placeMarkup, type Markup } from "../markup.js";
import { reasonText } from "../../../core/model/reason.js";

/** The start order as a time line, a side beside the other. */
export function startPart(sides: readonly SideStartup[], sdkIds: ReadonlyMap<string, string>): Markup | undefined {
  const drawn = sides.filter(({ steps, others }) => steps.length + others.length > 0);
  if (drawn.length === 0) return undefined;
  return markup`<div class="lines">
    ${drawn.map(({ side, steps, others }) => {
      const never = others.filter(({ marks }) => marks.some(({ kind }) => kind === "never"));
      const rest = others.filter((step) => !never.includes(step));
      return markup`<div>
        <h4>${SIDE_TITLES[side]}</h4>
        ${phases(steps, side).map(
          ({ title, steps: own }) => markup`<p class="phase">${title}</p>
            <ol class="line" aria-label="${SIDE_TITLES[side]}: ${title}">
              ${own.map((step) => stepItem(step, sdkIds))}
            </ol>`,
        )}
        ${never.length > 0 ? outside("Never reached", never, sdkIds) : undefined}
        ${rest.length > 0 ? outside("Later, or not known when", rest, sdkIds) : undefined}
      </div>`;
    })}
  </div>`;
}

function outside(title: string, steps: readonly StartupStep[], sdkIds: ReadonlyMap<string, string>): Markup {
  return markup`<p class="phase">${title}</p>
    <ul class="line aside" aria-label="${title}">
      ${steps.map((step) => stepItem(step, sdkIds))}
    </ul>`;
}

function phases(steps: readonly StartupStep[], side: string): { title: string; steps: StartupStep[] }[] {
  const groups: { title: string; steps: StartupStep[] }[] = [];
  for (const step of steps) {
    const title = step.side !== side ? "Shared code" : PHASE_HEADS[step.phase ?? "later"];
    const last = groups.at(-1);
    if (last?.title === title) last.steps.push(step);
    else groups.push({ title, steps: [step] });
  }
  return groups;
}

function stepItem(step: StartupStep, sdkIds: ReadonlyMap<string, string>): Markup {
  const id = step.sdk === undefined ? undefined : sdkIds.get(step.sdk);
  const details = [
    step.kind === "start" ? undefined : step.kind === "likely start" ? "looks like a start" : step.kind,
    step.within === undefined ? undefined : `in ${step.within}`,
    step.why && reasonText(step.why),
    step.thread === "background" ? "on a background thread" : step.thread,
    ...step.guards.slice(0, 2).map((guard) => `if ${guard}`),
  ].filter((part) => part !== undefined);
  return markup`<li class="${isWrong(step) ? "wrong" : undefined}">
    ${step.number === undefined ? undefined : markup`<span class="number">${step.number}</span>`}
    <div>
      ${step.sdk === undefined ? undefined : id === undefined ? markup`<strong>${step.sdk}</strong> ` : markup`<a href="#${id}"><strong>${step.sdk}</strong></a> `}<code>${step.what}</code>
      ${details.length > 0 ? markup`<br /><span class="dim">${details.join(", ")}</span>` : undefined}
      ${step.marks.map(({ kind, text }) => (DESCRIBING.has(kind) ? markup`<br /><span class="dim">${text}</span>` : markup`<br /><span class="error">✗ ${text}</span>`))}
      <br /><span class="dim">${placeMarkup(step.at)}</span>
    </div>
  </li>`;
}
