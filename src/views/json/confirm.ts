import type { App } from "../../core/model/app.js";
import type { SideConfirmation } from "../../core/project/confirm/confirm.js";
import { severityOf } from "../../core/project/confirm/severity.js";
import type { Log, LogEntry } from "../../core/project/confirm/read-log.js";
import type { ConfirmDocument, LogEntryDocument } from "./types.js";

/** `confirm --json`. */
export function confirmDocument(root: string, file: string, log: Log, results: { app: App; sides: SideConfirmation[] }[]): ConfirmDocument {
  const entry = ({ line, time, level, tag, message }: LogEntry): LogEntryDocument => ({
    line,
    time: time ?? null,
    level,
    tag: tag ?? null,
    message,
  });
  return {
    schema: "enredo.confirm/1",
    root,
    log: { file, form: log.form, entries: log.entries.length },
    apps: results.map(({ app, sides }) => ({
      name: app.name,
      kind: app.kind,
      path: app.path || ".",
      sides: Object.fromEntries(
        sides.map(({ side, sdks }) => [
          side,
          sdks.map((confirmation) => ({
            sdk: confirmation.sdk,
            state: confirmation.state,
            order: confirmation.order ?? null,
            severity: severityOf(confirmation) ?? null,
            entry: confirmation.entry ? entry(confirmation.entry) : null,
            wanted: confirmation.wanted ?? null,
            complaints: confirmation.complaints.map(entry),
            outOfOrder: confirmation.outOfOrder,
          })),
        ]),
      ),
    })),
  };
}
