import type { Place } from "../../model/place.js";
import { Source } from "../../syntax/source.js";

/** A method that an event in a scene calls by its name. */
export interface SceneHandler {
  type: string;
  method: string;
  at: Place;
}

/** A script on an object. */
export interface SceneComponent {
  id: string;
  guid: string;
  object: string;
  enabled: boolean;
}

/** A field of a script that holds another file. */
interface SceneReference {
  /** The script. */
  script: string;
  field: string;
  guid: string;
  at: Place;
}

/** What a scene, prefab or asset says of objects, their components, and other files. */
export interface SceneFile {
  file: string;
  guids: ReadonlySet<string>;
  components: SceneComponent[];
  active: Map<string, boolean>;
  /** The name of each object, and the names that prefabs get where they are put in. */
  names: Map<string, string>;
  renamed: Set<string>;
  /** The object of each transform, and the transform above it. */
  transforms: Map<string, { object: string; above: string }>;
  /** Prefabs that are put in, with the objects that are switched on or off there. */
  instances: { prefab: string; switched: Map<string, boolean> }[];
  handlers: SceneHandler[];
  references: SceneReference[];
  /** Objects and components of the file that a script's field holds. */
  held: Set<string>;
  /** It is no text that can be read, and may hold anything. */
  closed: boolean;
}

/** How far into a component its head stands, in UTF-16 units. */
const HEAD = 4000;

/** Fields of the engine's own: they hold no settings. */
const OWN_FIELD = /^m_/;

/**
 * Reads the objects of a scene, prefab or asset.
 * Source: docs.unity3d.com, "Format of Text Serialized files" (one document for each object; its number is the class: 1 object, 4 and 224 transforms,
 * 114 scripts, 1001 prefabs that are put in).
 */
export function readSceneFile(file: string, text: string, closed: boolean): SceneFile {
  const found: SceneFile = {
    file,
    guids: new Set(guidsIn(text)),
    components: [],
    active: new Map(),
    names: new Map(),
    renamed: new Set(),
    transforms: new Map(),
    instances: [],
    handlers: [],
    references: [],
    held: new Set(),
    closed,
  };
  const source = new Source(file, text);
  const heads = [...text.matchAll(/^--- !u!(\d+) &(-?\d+)/gm)];
  heads.forEach((head, index) => {
    const [, type, id = ""] = head;
    const from = head.index;
    const body = text.slice(from, heads[index + 1]?.index ?? text.length);
    switch (type) {
      case "1":
        found.active.set(id, !/\bm_IsActive: 0\b/.test(body));
        found.names.set(id, plainText(/^ {2}m_Name: ?(.*)$/m.exec(body)?.[1] ?? ""));
        break;
      case "4":
      case "224":
        found.transforms.set(id, { object: idIn(body, "m_GameObject"), above: idIn(body, "m_Father") });
        break;
      case "114":
        readScript(found, source, { id, from, body });
        break;
      case "1001":
        readInstance(found, body);
        break;
    }
  });
  return found;
}

function idIn(body: string, name: string): string {
  return new RegExp(`\\b${name}: \\{fileID: (-?\\d+)`).exec(body.slice(0, HEAD))?.[1] ?? "";
}

function readScript(found: SceneFile, source: Source, { id, from, body }: { id: string; from: number; body: string }): void {
  const guid = /\bm_Script: \{fileID: -?\d+, guid: ([0-9a-f]{32})/.exec(body.slice(0, HEAD))?.[1];
  if (guid !== undefined)
    found.components.push({ id, guid, object: idIn(body, "m_GameObject"), enabled: !/\bm_Enabled: 0\b/.test(body.slice(0, HEAD)) });
  for (const call of body.matchAll(/\bm_TargetAssemblyTypeName: ([\w.+]+)[^\n]*\s+m_MethodName: (\w+)/g))
    found.handlers.push({
      type: (call[1] as string).split(/[.+]/).at(-1) as string,
      method: call[2] as string,
      at: source.place(from + call.index + call[0].lastIndexOf(call[2] as string)),
    });
  for (const match of body.matchAll(/^\s+(?:- )?(?:(\w+): )?\{fileID: (-?\d+)(?:, guid: ([0-9a-f]{32}))?/gm)) {
    const [whole, field = "", object = "", other] = match;
    if (other === undefined) {
      if (field !== "m_GameObject") found.held.add(object);
    } else if (guid !== undefined && field !== "" && !OWN_FIELD.test(field))
      found.references.push({ script: guid, field, guid: other, at: source.place(from + match.index + whole.indexOf(field)) });
  }
}

function readInstance(found: SceneFile, body: string): void {
  const prefab = /\bm_SourcePrefab: \{fileID: -?\d+, guid: ([0-9a-f]{32})/.exec(body)?.[1];
  const switched = new Map<string, boolean>();
  for (const change of body.matchAll(/- target: \{fileID: (-?\d+)[^}\n]*\}\s+propertyPath: (m_IsActive|m_Name)\s+value: ?([^\r\n]*)/g)) {
    if (change[2] === "m_Name") found.renamed.add(plainText(change[3] ?? ""));
    else switched.set(change[1] as string, change[3] === "1");
  }
  if (prefab !== undefined) found.instances.push({ prefab, switched });
}

/** A text of a scene without its quotes. */
function plainText(written: string): string {
  return written
    .trim()
    .replace(/^'(.*)'$/, (_, inner: string) => inner.replaceAll("''", "'"))
    .replace(/^"(.*)"$/, "$1");
}

/** The values that scripts of an id hold in a field, in one file. */
export function fieldValues(source: Source, script: string, field: string): { text: string; at: Place }[] {
  const { text } = source;
  return text.split(/^(?=--- !u!)/m).reduce<{ from: number; found: { text: string; at: Place }[] }>(
    ({ from, found }, part) => {
      const match =
        part.startsWith("--- !u!114 ") && part.slice(0, HEAD).includes(`guid: ${script}`)
          ? new RegExp(`^ {2}${field}: ?([^\\r\\n{[]*)$`, "m").exec(part)
          : null;
      if (match) {
        const written = match[1] as string;
        found.push({ text: plainText(written), at: source.place(from + match.index + match[0].length - written.length) });
      }
      return { from: from + part.length, found };
    },
    { from: 0, found: [] },
  ).found;
}

/** The id in a file that the editor lays beside another. */
export function guidIn(text: string): string | undefined {
  return /^guid:\s*([0-9a-f]{32})/m.exec(text)?.[1];
}

export function guidsIn(text: string): string[] {
  return [...text.matchAll(/\bguid: ([0-9a-f]{32})/g)].map((match) => match[1] as string);
}

/** The objects from one up to the root of the file. */
export function objectsAbove({ transforms }: SceneFile, object: string): string[] {
  const byObject = new Map([...transforms.values()].map((transform) => [transform.object, transform.above]));
  const seen = new Set<string>();
  for (let at: string | undefined = object; at !== undefined && !seen.has(at);) {
    seen.add(at);
    at = transforms.get(byObject.get(at) ?? "")?.object;
  }
  return [...seen];
}
