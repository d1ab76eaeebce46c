import type { AppPermits } from "../../core/project/permits.js";
import type { PermitsDocument } from "./types.js";
import { reasonText } from "../../core/model/reason.js";

/** `permits --json`. */
export function permitsDocument(root: string, apps: readonly AppPermits[]): PermitsDocument {
  return {
    schema: "enredo.permits/1",
    root,
    apps: apps.map(({ app, sides, packages }) => ({
      name: app.name,
      kind: app.kind,
      path: app.path || ".",
      packages,
      sides: Object.fromEntries(
        sides.map(({ side, permits, open }) => [
          side,
          {
            permits: permits.map(({ kind, name, asked, values, variants, by, removed, limit, counterpart, neededBy, usedBy, inCode }) => ({
              kind,
              name,
              asked,
              values,
              variants,
              by: by.map((one) => ({ name: one.name ?? null, place: one.at })),
              removed: removed ?? null,
              limit: limit ? { level: limit.level, by: limit.by ?? null, place: limit.at } : null,
              counterpart: counterpart ?? null,
              neededBy,
              usedBy: usedBy.map((by) => by ?? null),
              inCode: inCode ?? null,
            })),
            open: open.map(reasonText),
          },
        ]),
      ),
    })),
  };
}
