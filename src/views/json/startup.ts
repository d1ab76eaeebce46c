import type { App } from "../../core/model/app.js";
import type { SideStartup, StartupStep } from "../../core/project/startup.js";
import type { StartupDocument, StepDocument } from "./types.js";
import { reasonText } from "../../core/model/reason.js";

/** `startup --json`. */
export function startupDocument(root: string, startups: { app: App; sides: SideStartup[] }[]): StartupDocument {
  return {
    schema: "enredo.startup/1",
    root,
    apps: startups.map(({ app, sides }) => ({
      name: app.name,
      kind: app.kind,
      path: app.path || ".",
      sides: Object.fromEntries(
        sides.map(({ side, steps, others }) => [side, { steps: steps.map(stepDocument), others: others.map(stepDocument) }]),
      ),
    })),
  };
}

function stepDocument(step: StartupStep): StepDocument {
  return {
    number: step.number ?? null,
    kind: step.kind,
    sdk: step.sdk ?? null,
    what: step.what,
    moment: step.phase ?? null,
    within: step.within ?? null,
    why: step.why ? reasonText(step.why) : null,
    guards: step.guards,
    thread: step.thread ?? null,
    side: step.side,
    marks: step.marks,
    needs: step.needs,
    place: step.at,
  };
}
