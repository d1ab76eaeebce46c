import type { AppDiff } from "../../core/project/diff.js";

import { withoutQuickFix } from "./documents.js";
import type { DiffDocument } from "./types.js";

/** `diff --json`. */
export function diffDocument(diffs: readonly AppDiff[], before: string, after: string): DiffDocument {
  return {
    schema: "enredo.diff/1",
    before,
    after,
    apps: diffs.map(({ name, app, only, changes, findings }) => ({
      name,
      kind: app.kind,
      path: app.path || ".",
      only: only ?? null,
      changes: changes.map(({ kind, how, side, what, before: was, after: now, sdk, at }) => ({
        kind,
        how,
        side,
        what,
        before: was ?? null,
        after: now ?? null,
        sdk: sdk ?? null,
        place: at ?? null,
      })),
      findings: { new: findings.fresh.map(withoutQuickFix), gone: findings.gone.map(withoutQuickFix), still: findings.still },
    })),
  };
}
