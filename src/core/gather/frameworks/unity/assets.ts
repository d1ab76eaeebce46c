import { join } from "../../../model/paths.js";
import { known } from "../../../model/value.js";
import type { FactSink } from "../../sink.js";
import { guidIn } from "../../code/scene-files.js";
import type { Discovery } from "../framework.js";
import { foldersIn, type UnityProject } from "./project.js";
import type { Source } from "../../../syntax/source.js";

/** Larger assets hold no settings. */
const LARGEST = 512 * 1024;

/**
 * Fields of settings assets, by the class of the asset: `Class.field`. The file of the class carries the id by which assets name it.
 * Source: docs.unity3d.com, "ScriptableObject", "Format of Text Serialized files".
 */
export function readSettingsAssets(discovery: Discovery, unity: UnityProject, app: FactSink, names: ReadonlySet<string>): void {
  const { project } = discovery;
  const classes = new Set([...names].map((name) => name.split(".")[0] as string));
  const byGuid = new Map<string, string>();
  const assets: string[] = [];
  for (const root of unity.roots)
    for (const [folder, { files }] of foldersIn(discovery, root))
      for (const name of files) {
        if (name.endsWith(".asset")) assets.push(join(folder, name));
        const type = /^(\w+)\.cs$/.exec(name)?.[1];
        const guid = type !== undefined && classes.has(type) ? guidIn(project.text(join(folder, `${name}.meta`))?.text ?? "") : undefined;
        if (guid !== undefined) byGuid.set(guid, type as string);
      }
  if (byGuid.size === 0) return;
  for (const file of assets) {
    const head = project.tree.part(file, 0, 4096);
    const script = head && /\bm_Script: \{fileID: -?\d+, guid: ([0-9a-f]{32})/.exec(Buffer.from(head).toString("utf8"))?.[1];
    const type = script ? byGuid.get(script) : undefined;
    const source = type === undefined ? undefined : project.text(file);
    if (type === undefined || !source || source.text.length > LARGEST) continue;
    noteFields(app, source, names, type);
  }
}

/** The fields of an asset that are asked for. */
function noteFields(app: FactSink, source: Source, names: ReadonlySet<string>, type: string): void {
  for (const match of source.text.matchAll(/^ {2}(\w+): ?([^\r\n]*)$/gm)) {
    const [, field = "", written = ""] = match;
    if (!names.has(`${type}.${field}`)) continue;
    const text = written.trim().replace(/^(["'])(.*)\1$/, "$2");
    const at = source.place(match.index + match[0].length - written.length);
    app.entry({ kind: "asset", side: "shared", name: `${type}.${field}`, value: known(text, at), at });
  }
}
