import { stringify } from "csv-stringify/sync";
import type { Fleet } from "../../core/fleet/fleet.js";
import { clean } from "../text/style.js";
import type { FleetDocument } from "./types.js";

/** `fleet --json`. */
export function fleetDocument(fleet: Fleet): FleetDocument {
  const { day, projects, apps, sdks, levels, rules, permits, unanswered, superseded, problems, violations, linesRead } = fleet;
  return {
    schema: "enredo.fleet/1",
    day,
    projects,
    apps: apps.map(({ counts, ...app }) => ({ ...app, errors: counts.error, warnings: counts.warning, notes: counts.note })),
    sdks,
    levels,
    rules,
    permits: permits.map(({ by, ...permit }) => ({ ...permit, by: by.map((one) => (one === "" ? null : one)) })),
    unanswered,
    superseded,
    problems,
    violations,
    linesRead,
  };
}

/** `fleet --format csv`: an app, a side and an SDK a row (RFC 4180). A cell that a spreadsheet would take for a formula is marked as text. */
export function fleetCsv({ sdks, apps }: Fleet): string {
  const byName = new Map(apps.map((app) => [app.name, app]));
  const rows = sdks.flatMap(({ sdk, side, versions }) =>
    versions.flatMap(({ version, apps: names }) =>
      names.map((name) => {
        const [newest] = versions;
        const app = byName.get(name);
        return {
          project: app?.project ?? "",
          app: name,
          kind: app?.kind ?? "",
          of: app?.at ?? "",
          sdk,
          side,
          version: version ?? "",
          newest: newest?.version ?? "",
          behind:
            version === null || newest?.version === undefined || newest.version === null ? "" : version === newest.version ? "no" : "yes",
        };
      }),
    ),
  );
  rows.sort((a, b) => (a.app < b.app ? -1 : a.app > b.app ? 1 : a.sdk < b.sdk ? -1 : a.sdk > b.sdk ? 1 : a.side < b.side ? -1 : 1));
  const head = ["project", "app", "kind", "of", "sdk", "side", "version", "newest", "behind"];
  return stringify(
    rows.map((row) => Object.fromEntries(Object.entries(row).map(([column, cell]) => [column, clean(cell)]))),
    { header: true, columns: head, escape_formulas: true, record_delimiter: "windows" },
  );
}
