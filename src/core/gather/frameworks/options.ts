import { entriesOf, itemsOf, placeOf, valueAt, type Data } from "../../syntax/data.js";
import type { FactSink } from "../sink.js";

const DEEPEST = 6;

/** The options that a configuration hands to a package, each by its keys with dots; items of a list all under the list's own. */
export function readOptions(app: FactSink, of: string, options: Data | undefined, path = "", depth = 0): void {
  if (!options || depth > DEEPEST) return;
  if (options.kind === "scalar") {
    app.entry({ kind: "option", side: "shared", name: `${of} ${path}`, value: valueAt(options), at: placeOf(options) });
    return;
  }
  for (const item of itemsOf(options)) readOptions(app, of, item, path, depth + 1);
  for (const [key, { value }] of entriesOf(options)) readOptions(app, of, value, path === "" ? key : `${path}.${key}`, depth + 1);
}
