import type { ElementNames, KeyNames } from "../knowledge/known-names.js";
import type { SideName } from "../model/facts.js";
import type { Place } from "../model/place.js";
import { misspelling } from "../model/suggest.js";
import { entriesOf, itemsOf, type Data } from "../syntax/data.js";
import { allElements, type XmlElement } from "../syntax/xml.js";
import type { FactSink } from "./sink.js";

/** Which side a name is of, by the path to it: what stands below `ios` is of iOS alone. */
function sideOf(path: readonly string[], app: FactSink): SideName | undefined {
  const side = path.includes("ios") ? "ios" : path.includes("android") ? "android" : "shared";
  return side === "shared" || app[side] ? side : undefined;
}

interface MisspeltKey {
  name: string;
  right: string;
  place: Place;
  /** The keys down to it, itself the last. */
  path: readonly string[];
}

/** Keys of a document that are almost one that its kind knows, and that is not there too: whoever reads it passes them over. */
export function misspeltKeys(root: Data | undefined, known: KeyNames): MisspeltKey[] {
  const found: MisspeltKey[] = [];
  if (!root) return found;
  const open: { data: Data; at: string; path: readonly string[] }[] = [{ data: root, at: "", path: [] }];
  for (let next = open.pop(); next; next = open.pop()) {
    const { data, at, path } = next;
    const below = (key: string): string => (at === "" ? key : `${at}.${key}`);
    for (const item of itemsOf(data)) open.push({ data: item, at: below("[]"), path });
    const entries = entriesOf(data);
    const names = known.get(at);
    const there = new Set(entries.map(([key]) => key));
    for (const [key, { start, value }] of entries) {
      const right = names && misspelling(key, names);
      if (right !== undefined && !there.has(right)) found.push({ name: key, right, place: data.source.place(start), path: [...path, key] });
      open.push({ data: value, at: known.has(below(key)) || !known.has(below("*")) ? below(key) : below("*"), path: [...path, key] });
    }
  }
  return found;
}

/** Such keys as facts of an app. */
export function noteMisspeltKeys(app: FactSink, root: Data | undefined, known: KeyNames): void {
  for (const { name, right, place, path } of misspeltKeys(root, known)) {
    const side = sideOf(path, app);
    if (side !== undefined) app.misspelling({ what: "key", name, right, side, at: place });
  }
}

/** The place of an attribute's name. */
function nameAt({ source }: XmlElement, name: string, start: number): number {
  const found = source.text.lastIndexOf(name, start);
  return found === -1 ? start : found;
}

/** Elements and attributes of a document that are almost one that its kind knows. Names with a prefix are another kind's. */
export function noteMisspeltElements(app: FactSink, root: XmlElement, known: ElementNames, side: SideName): void {
  const open = [root];
  for (let element = open.pop(); element; element = open.pop()) {
    const attributes = known.get(element.name);
    if (attributes === undefined) {
      const right = element.name.includes(":") ? undefined : misspelling(element.name, known.keys());
      if (right !== undefined)
        app.misspelling({ what: "element", name: element.name, right, side, at: element.source.place(element.start + 1) });
      // What stands below an element of somebody else is theirs.
      continue;
    }
    for (const [name, { start }] of element.attributes) {
      const right = name.includes(":") ? undefined : misspelling(name, attributes);
      if (right !== undefined && !element.attributes.has(right))
        app.misspelling({
          what: `attribute of ${element.name}`,
          name,
          right,
          side,
          at: element.source.place(nameAt(element, name, start)),
        });
    }
    if (!OTHERS.test(element.name)) open.push(...element.children);
  }
}

/** Elements whose content is of another kind. */
const OTHERS = /^(config-file|edit-config)$/;

/** Attributes in the namespace of the platform, on whatever element they stand. */
export function noteMisspeltAttributes(app: FactSink, root: XmlElement, prefix: string, known: readonly string[], side: SideName): void {
  for (const element of allElements(root))
    for (const [name, { start }] of element.attributes) {
      if (!name.startsWith(`${prefix}:`)) continue;
      const own = name.slice(prefix.length + 1);
      const right = misspelling(own, known);
      if (right !== undefined && !element.attributes.has(`${prefix}:${right}`))
        app.misspelling({ what: "attribute", name: own, right, side, at: element.source.place(nameAt(element, own, start)) });
    }
}
