import { join, parentOf } from "../../../../model/paths.js";
import { at, entriesOf, itemsOf, listOf, mapOf, placeOf, scalarOf, textAt, type Data, type MapData } from "../../../../syntax/data.js";
import { isKeptOut } from "../../../git-ignored.js";
import type { ProjectFiles } from "../../../project-files.js";
import type { SpecFault } from "../xcode-project.js";

/** How deep specs include others. */
const DEEPEST = 12;

/**
 * One spec of a project over another: maps are merged, lists are put one behind the other, and what a key with `:REPLACE` says stands in place of what was there.
 * Source: XcodeGen, "ProjectSpec" (include).
 */
function merged(below: Data | undefined, above: Data): Data {
  if (above.kind === "list" && below?.kind === "list") return listOf(above.source, above.start, [...below.items, ...above.items]);
  if (above.kind !== "map" || below?.kind !== "map") return above;
  const result = mapOf(above.source, above.start);
  for (const [key, entry] of entriesOf(below)) result.entries.set(key, entry);
  for (const [key, { start, value }] of above.entries) {
    const plain = key.replace(/:REPLACE$/, "");
    const known = plain === key ? result.entries.get(plain)?.value : undefined;
    result.entries.set(plain, { start, value: merged(known, value) });
  }
  return result;
}

/** The tree with its texts put otherwise; the places stay. */
export function rewritten(data: Data, text: (value: string) => string): Data {
  if (data.kind === "list")
    return listOf(
      data.source,
      data.start,
      data.items.map((item) => rewritten(item, text)),
    );
  if (data.kind === "scalar") return typeof data.value === "string" ? scalarOf(data.source, data.start, text(data.value)) : data;
  const result = mapOf(data.source, data.start);
  for (const [key, { start, value }] of data.entries) result.entries.set(text(key), { start, value: rewritten(value, text) });
  return result;
}

/** A spec of a project with all that it includes. */
export class ProjectSpec {
  readonly root: MapData | undefined;
  readonly faults: SpecFault[] = [];
  /** Files whose paths count from the folder of the spec that includes them. */
  private readonly plain = new Set<string>();
  /** Whether something that it includes is not known. */
  private isOpen = false;
  /** The folder of the spec. */
  readonly folder: string;

  constructor(
    private readonly project: ProjectFiles,
    readonly file: string,
  ) {
    this.folder = parentOf(file);
    const root = this.read(file, 0);
    this.root = root?.kind === "map" ? root : undefined;
  }

  /** Where a path leads that stands in the spec or in one that it includes; `undefined` where something outside of the files decides it. */
  pathOf(data: Data): string | undefined {
    const text = textAt(data);
    if (text === undefined || /\$|^[~/]|^[A-Za-z]:/.test(text)) return undefined;
    return join(this.plain.has(data.source.file) ? this.folder : parentOf(data.source.file), text);
  }

  /** A part of the spec under a name, with the templates that it is made of. */
  withTemplates(name: string, own: Data, templates: "targetTemplates" | "schemeTemplates"): Data {
    const named = (data: Data, attributes: Data | undefined): Data => {
      const values = new Map(entriesOf(attributes).map(([key, { value }]) => [key, textAt(value) ?? ""]));
      return rewritten(data, (text) =>
        text.replace(/\$\{(\w+)\}/g, (whole, key: string) =>
          key === "target_name" || key === "name" || key === "scheme_name" ? name : (values.get(key) ?? whole),
        ),
      );
    };
    const all = at(this.root, templates);
    const below = (data: Data, depth: number): Data | undefined => {
      let result: Data | undefined;
      for (const item of depth > DEEPEST ? [] : itemsOf(at(data, "templates"))) {
        const template = at(all, textAt(item) ?? "");
        if (!template) {
          this.lost(
            "template",
            item,
            entriesOf(all).map(([key]) => key),
          );
          continue;
        }
        const inherited = below(template, depth + 1);
        result = merged(result, inherited ? merged(inherited, template) : template);
      }
      return result;
    };
    const template = below(own, 0);
    return template ? merged(named(template, at(own, "templateAttributes")), own) : own;
  }

  lost(what: SpecFault["what"], item: Data, among: readonly string[]): void {
    // What is not included may have it.
    if (this.isOpen) return;
    this.faults.push({ ...(what === undefined ? {} : { what }), text: textAt(item) ?? "", resolved: undefined, among, at: placeOf(item) });
  }

  /** Notes a file or folder that the spec names and that is not there. */
  absent(item: Data, resolved: string): void {
    // A command before may write it, and so may each who builds.
    if (at(this.root, "options", "preGenCommand") !== undefined || isKeptOut(this.project, resolved)) return;
    this.faults.push({ text: textAt(item) ?? "", resolved, among: [], at: placeOf(item) });
  }

  private read(file: string, depth: number): Data | undefined {
    const root = this.project.yaml(file)?.root;
    if (root?.kind !== "map") return undefined;
    let below: Data | undefined;
    for (const item of depth > DEEPEST ? [] : oneOrMore(at(root, "include"))) {
      const included = this.included(item, file, depth);
      if (included) below = below ? merged(below, included) : included;
    }
    return below ? merged(below, root) : root;
  }

  private included(item: Data, by: string, depth: number): Data | undefined {
    const stated = item.kind === "map" ? at(item, "path") : item;
    const path = stated && this.pathOf(stated);
    const enable = textAt(item, "enable");
    if (/^(false|no)$/i.test(enable ?? "")) return undefined;
    this.isOpen ||= path === undefined || !this.project.tree.isFile(path);
    if (!stated || path === undefined) return undefined;
    if (textAt(item, "relativePaths") === "false" || this.plain.has(by)) this.plain.add(path);
    if (this.project.tree.isFile(path)) return this.read(path, depth + 1);
    // One that something outside of the files switches on may be there then.
    if (enable === undefined) this.absent(stated, path);
    return undefined;
  }
}

/** A list, or its only item. */
export function oneOrMore(data: Data | undefined): readonly Data[] {
  return data?.kind === "list" ? data.items : data === undefined ? [] : [data];
}
