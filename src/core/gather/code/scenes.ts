import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import type { App } from "../../model/app.js";
import type { Place } from "../../model/place.js";
import { isWithin, join } from "../../model/paths.js";
import { Source } from "../../syntax/source.js";
import type { ProjectFiles } from "../project-files.js";

/** How a script stands in the scenes and prefabs of an app. */
export type SceneState = "used" | "disabled" | "off" | "unbuilt" | "nowhere";

/** A method that an event in a scene calls by its name. */
export interface SceneHandler {
  type: string;
  method: string;
  at: Place;
}

interface Component {
  guid: string;
  object: string;
  enabled: boolean;
}

/** What a scene, prefab or asset says of objects, their components, and other files. */
interface SceneFile {
  file: string;
  guids: ReadonlySet<string>;
  components: Component[];
  active: Map<string, boolean>;
  /** The object of each transform, and the transform above it. */
  transforms: Map<string, { object: string; above: string }>;
  /** Prefabs that are put in, with the objects that are switched on or off there. */
  instances: { prefab: string; switched: Map<string, boolean> }[];
  handlers: SceneHandler[];
  /** It is no text that can be read, and may hold anything. */
  closed: boolean;
}

const SCENE = /\.(unity|prefab|asset)$/;

/**
 * What the scenes of a project run. Each file is read once and not kept as a text. Source: docs.unity3d.com, "Format of Text Serialized files",
 * "Scenes In Build", "Loading Resources at Runtime", "Order of execution for event functions" (a disabled component's Start does not run, its
 * Awake does).
 */
export class Scenes {
  private read: SceneFile[] | undefined;
  private live: ReadonlySet<SceneFile> | undefined;

  constructor(
    private readonly project: ProjectFiles,
    private readonly index: FolderIndex,
    private readonly app: App,
  ) {}

  /** Events that live scenes and prefabs hand over to methods by their names. */
  handlers(): SceneHandler[] {
    return [...this.liveFiles()].flatMap(({ handlers }) => handlers);
  }

  /** @param guid the id of the script's file */
  stateOf(guid: string): SceneState {
    const files = this.files();
    if (files.some(({ closed }) => closed) || !files.some(({ file }) => !file.endsWith(".asset"))) return "used";
    const holding = files.filter((file) => file.guids.has(guid));
    if (holding.length === 0) return "nowhere";
    const live = this.liveFiles();
    const within = holding.filter((file) => live.has(file));
    if (within.length === 0) return "unbuilt";
    const states = within.flatMap((file) =>
      file.components.filter((component) => component.guid === guid).map((component) => this.componentState(file, component)),
    );
    if (states.length === 0 || states.includes("used")) return "used";
    return states.includes("disabled") ? "disabled" : "off";
  }

  private componentState(file: SceneFile, { object, enabled }: Component): SceneState {
    if (!isActive(file, object)) return "off";
    // A prefab can be switched off wherever it is put in.
    const guid = this.guidOf(file.file);
    const instances = [...this.liveFiles()].flatMap(({ instances: all }) => all.filter(({ prefab }) => prefab === guid));
    if (file.file.endsWith(".prefab") && instances.length > 0 && instances.every(({ switched }) => switched.get(object) === false))
      return "off";
    return enabled ? "used" : "disabled";
  }

  private files(): readonly SceneFile[] {
    if (this.read) return this.read;
    this.read = [];
    const roots = [join(this.app.path, "Assets"), join(this.app.path, "Packages"), ...this.app.sourceFolders.map(({ folder }) => folder)];
    for (const root of roots)
      for (const [folder, { files }] of foldersBelow(this.index, root))
        for (const name of files) if (SCENE.test(name)) this.read.push(this.scan(join(folder, name)));
    return this.read;
  }

  private scan(file: string): SceneFile {
    const found = this.project.tree.read(file);
    const text = found.ok ? Buffer.from(found.bytes.buffer, found.bytes.byteOffset, found.bytes.byteLength).toString("utf8") : "";
    const closed = !text.startsWith("%YAML") && (file.endsWith(".unity") || file.endsWith(".prefab"));
    return { file, closed, ...readScene(file, closed ? "" : text) };
  }

  private readonly guids = new Map<string, string | undefined>();

  private guidOf(file: string): string | undefined {
    if (!this.guids.has(file)) {
      const head = this.project.tree.part(`${file}.meta`, 0, 400);
      this.guids.set(file, head && guidIn(Buffer.from(head).toString("utf8")));
    }
    return this.guids.get(file);
  }

  /** The files that are in what is built: scenes of the list, resources, and what leads on from these. */
  private liveFiles(): ReadonlySet<SceneFile> {
    if (this.live) return this.live;
    const files = this.files();
    const { tree } = this.project;
    const list = tree.read(join(this.app.path, "ProjectSettings/EditorBuildSettings.asset"));
    const built = list.ok
      ? [
          ...Buffer.from(list.bytes)
            .toString("utf8")
            .matchAll(/-\s+enabled:\s*(\d)\s+path:\s*([^\r\n]*)(?:\s+guid:\s*(\w+))?/g),
        ]
      : [];
    // Without a list, or where bundles and the like are loaded, anything may be in.
    const open = built.length === 0 || tree.isFolder(join(this.app.path, "Assets/AddressableAssetsData")) || this.loadsBundles();
    const paths = new Set(built.filter(([, enabled]) => enabled === "1").map(([, , path]) => join(this.app.path, (path ?? "").trim())));
    const settings = tree.read(join(this.app.path, "ProjectSettings/ProjectSettings.asset"));
    const preloaded = new Set(settings.ok ? guidsIn(Buffer.from(settings.bytes).toString("utf8")) : []);
    const byGuid = new Map(files.map((file) => [this.guidOf(file.file), file]));
    const live = new Set<SceneFile>();
    const waiting = files.filter(
      ({ file }) =>
        open ||
        paths.has(file) ||
        /(^|\/)Resources\//.test(file) ||
        !isWithin(file, this.app.path) ||
        preloaded.has(this.guidOf(file) ?? ""),
    );
    for (let next = waiting.pop(); next; next = waiting.pop()) {
      if (live.has(next)) continue;
      live.add(next);
      for (const guid of next.guids) {
        const other = byGuid.get(guid);
        if (other && !live.has(other)) waiting.push(other);
      }
    }
    this.live = live;
    return live;
  }

  private loadsBundles(): boolean {
    for (const [folder, { files }] of foldersBelow(this.index, join(this.app.path, "Assets")))
      for (const name of files)
        if (name.endsWith(".cs") && /\bAssetBundle\b|\bAddressables\b/.test(this.project.text(join(folder, name))?.text ?? "")) return true;
    return false;
  }
}

/** Whether an event function of a component in such a state runs; a disabled component's Awake does. */
export function runsInScene(state: SceneState, name: string | undefined): boolean {
  return state === "used" || (state === "disabled" && name === "Awake");
}

/** The id in a file that the editor lays beside another. */
export function guidIn(text: string): string | undefined {
  return /^guid:\s*([0-9a-f]{32})/m.exec(text)?.[1];
}

function guidsIn(text: string): string[] {
  return [...text.matchAll(/\bguid: ([0-9a-f]{32})/g)].map((match) => match[1] as string);
}

function isActive({ active, transforms }: SceneFile, object: string): boolean {
  const byObject = new Map([...transforms.values()].map((transform) => [transform.object, transform.above]));
  const seen = new Set<string>();
  for (let at: string | undefined = object; at !== undefined && !seen.has(at);) {
    seen.add(at);
    if (active.get(at) === false) return false;
    at = transforms.get(byObject.get(at) ?? "")?.object;
  }
  return true;
}

function readScene(file: string, text: string): Omit<SceneFile, "file" | "closed"> {
  const found: Omit<SceneFile, "file" | "closed"> = {
    guids: new Set(guidsIn(text)),
    components: [],
    active: new Map(),
    transforms: new Map(),
    instances: [],
    handlers: [],
  };
  const source = new Source(file, text);
  const heads = [...text.matchAll(/^--- !u!(\d+) &(-?\d+)/gm)];
  heads.forEach((head, index) => {
    const [, type, id = ""] = head;
    const from = head.index;
    const body = text.slice(from, heads[index + 1]?.index ?? text.length);
    const idAt = (name: string): string => new RegExp(`\\b${name}: \\{fileID: (-?\\d+)`).exec(body.slice(0, 4000))?.[1] ?? "";
    switch (type) {
      case "1":
        found.active.set(id, !/\bm_IsActive: 0\b/.test(body));
        break;
      case "4":
      case "224":
        found.transforms.set(id, { object: idAt("m_GameObject"), above: idAt("m_Father") });
        break;
      case "114": {
        const guid = /\bm_Script: \{fileID: -?\d+, guid: ([0-9a-f]{32})/.exec(body.slice(0, 4000))?.[1];
        if (guid !== undefined)
          found.components.push({ guid, object: idAt("m_GameObject"), enabled: !/\bm_Enabled: 0\b/.test(body.slice(0, 4000)) });
        for (const call of body.matchAll(/\bm_TargetAssemblyTypeName: ([\w.+]+)[^\n]*\s+m_MethodName: (\w+)/g))
          found.handlers.push({
            type: (call[1] as string).split(/[.+]/).at(-1) as string,
            method: call[2] as string,
            at: source.place(from + call.index + call[0].lastIndexOf(call[2] as string)),
          });
        break;
      }
      case "1001": {
        const prefab = /\bm_SourcePrefab: \{fileID: -?\d+, guid: ([0-9a-f]{32})/.exec(body)?.[1];
        const switched = new Map<string, boolean>();
        for (const change of body.matchAll(/- target: \{fileID: (-?\d+)[^}\n]*\}\s+propertyPath: m_IsActive\s+value: (\d)/g))
          switched.set(change[1] as string, change[2] === "1");
        if (prefab !== undefined) found.instances.push({ prefab, switched });
        break;
      }
    }
  });
  return found;
}

/** Classes of the engine: what they bring is not in the files. */
const ENGINE = /^(MonoBehaviour|ScriptableObject|Component|Behaviour|Object)$/;
/** What every component has, as events name it. */
const INHERITED =
  /^((?:set|get)_(?:enabled|name|tag|hideFlags|useGUILayout|runInEditMode)|SetActive|SendMessage|BroadcastMessage|Invoke|StopAllCoroutines|CancelInvoke|StartCoroutine|StopCoroutine)$/;

/** Events that name a method which neither the script's class nor one that it extends has; only where all of these are the app's own. */
export function lostHandlers(
  handlers: readonly SceneHandler[],
  sources: readonly { text: string; language: string }[],
): { type: string; method: string; at: Place }[] {
  const texts = sources.filter(({ language }) => language === "csharp").map(({ text }) => text);
  const classes = new Map<string, { has: Set<string>; above: string[] }>();
  const look = (type: string): { has: Set<string>; above: string[] } | undefined => {
    const known = classes.get(type);
    if (known) return known;
    const own = texts.filter((text) => new RegExp(`\\bclass\\s+${type}\\b`).test(text));
    if (own.length === 0) return undefined;
    const found = {
      has: new Set(own.flatMap((text) => text.match(/\b[A-Za-z_]\w*(?=\s*[(<{=;])/g) ?? [])),
      above: own.flatMap((text) =>
        (new RegExp(`\\bclass\\s+${type}\\b[^:{]*:([^{]*)`).exec(text)?.[1] ?? "").split(",").map(
          (name) =>
            name
              .trim()
              .split(/[.<\s]/)
              .at(0) ?? "",
        ),
      ),
    };
    classes.set(type, found);
    return found;
  };
  const may = (type: string, method: string, depth = 0): boolean => {
    if (ENGINE.test(type)) return INHERITED.test(method);
    const found = depth < 8 ? look(type) : undefined;
    // A class that is not here may have it.
    return (
      !found ||
      found.has.has(method) ||
      found.above.filter(Boolean).some((above) => !/^I[A-Z]/.test(above) && may(above, method, depth + 1))
    );
  };
  return handlers.filter(({ type, method }) => look(type) !== undefined && !may(type, method.replace(/^set_/, "")) && !may(type, method));
}
