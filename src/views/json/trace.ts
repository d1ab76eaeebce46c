import type { CompareRow } from "../../core/project/compare.js";
import type { App } from "../../core/model/app.js";
import type { Trace } from "../../core/needs/index.js";
import type { Wire } from "../../core/needs/wire.js";
import type { CompareDocument, TraceDocument, WireDocument } from "./types.js";
import { reasonText } from "../../core/model/reason.js";

export function wireDocument({ need, state, problem, found, wanted, why, fix, places }: Wire): WireDocument {
  return {
    need: need.what,
    kind: need.kind,
    step: need.step,
    state,
    problem: problem ?? null,
    found: found ?? null,
    wanted,
    why: (why && reasonText(why)) ?? need.why ?? null,
    fix: fix ?? null,
    derived: need.derived ?? null,
    ...(need.optional ? { optional: true } : {}),
    ...(need.target === undefined ? {} : { target: need.target }),
    places,
    asked: need.at,
  };
}

/** `trace --json`. */
export function traceDocument(
  root: string,
  sdk: string,
  traces: { app: App; trace: Trace }[],
  upgrade: { at: string; additional(app: App, wires: Wire[]): Wire[] } | undefined,
): TraceDocument {
  return {
    schema: "enredo.trace/1",
    root,
    sdk,
    ...(upgrade ? { at: upgrade.at } : {}),
    apps: traces.map(({ app, trace }) => {
      const more =
        upgrade &&
        new Set(
          upgrade.additional(
            app,
            trace.sides.flatMap(({ wires }) => wires),
          ),
        );
      return {
        name: app.name,
        kind: app.kind,
        path: app.path || ".",
        sheet: trace.sheet?.file ?? null,
        sides: Object.fromEntries(
          trace.sides.map(({ side, wires }) => [
            side,
            wires.map((wire) => ({ ...wireDocument(wire), ...(more ? { additional: more.has(wire) } : {}) })),
          ]),
        ),
        versions: Object.fromEntries(trace.sides.map(({ side, version }) => [side, version ?? null])),
      };
    }),
  };
}

/** `compare --json`. */
export function compareDocument(
  root: string,
  comparisons: { app: string; left: string; right: string; rows: CompareRow[] }[],
): CompareDocument {
  return {
    schema: "enredo.compare/1",
    root,
    comparisons: comparisons.map(({ app, left, right, rows }) => ({
      app,
      left,
      right,
      rows: rows.map((row) => ({
        sdk: row.sdk,
        left: row.left ?? null,
        right: row.right ?? null,
        differences: row.differences,
        agreement: row.agreement,
        only: row.only === undefined ? null : row.only === "left" ? left : right,
      })),
    })),
  };
}
