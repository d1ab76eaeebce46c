import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import type { App } from "../../model/app.js";
import type { Place } from "../../model/place.js";
import { baseName, isWithin, join } from "../../model/paths.js";
import type { ProjectFiles } from "../project-files.js";
import {
  fieldValues,
  guidIn,
  guidsIn,
  objectsAbove,
  readSceneFile,
  type SceneComponent,
  type SceneFile,
  type SceneHandler,
} from "./scene-files.js";

/** How a script stands in the scenes and prefabs of an app. */
export type SceneState = "used" | "disabled" | "off" | "unbuilt" | "nowhere";

/** What code does that may switch on what a scene has off. */
export interface Switching {
  /** It switches objects on. */
  objects: boolean;
  /** It looks for objects that are off. */
  searches: boolean;
  /** It switches components on, and names the script. */
  components: boolean;
}

const SCENE = /\.(unity|prefab|asset)$/;

/**
 * What the scenes of a project run. Each file is read once and not kept as a text. Source: docs.unity3d.com, "Scenes In Build", "Loading Resources
 * at Runtime", "Order of execution for event functions" (a disabled component's Start does not run, its Awake does).
 */
export class Scenes {
  private read: SceneFile[] | undefined;
  private live: ReadonlySet<SceneFile> | undefined;
  private list: { path: string; enabled: boolean }[] | undefined;
  private scripts: ReadonlyMap<string, string[]> | undefined;
  private bundled: boolean | undefined;

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
  stateOf(guid: string, switching: Switching): SceneState {
    const files = this.files();
    if (files.some(({ closed }) => closed) || !files.some(({ file }) => !file.endsWith(".asset"))) return "used";
    const holding = files.filter((file) => file.guids.has(guid));
    if (holding.length === 0) return "nowhere";
    const live = this.liveFiles();
    const within = holding.filter((file) => live.has(file));
    if (within.length === 0) return "unbuilt";
    const states = within.flatMap((file) =>
      file.components.filter((component) => component.guid === guid).map((component) => this.componentState(file, component, switching)),
    );
    if (states.length === 0 || states.includes("used")) return "used";
    return states.includes("disabled") ? "disabled" : "off";
  }

  private componentState(file: SceneFile, component: SceneComponent, switching: Switching): SceneState {
    const { object, enabled } = component;
    const above = objectsAbove(file, object);
    const off = above.filter((one) => file.active.get(one) === false);
    if (off.length > 0) {
      const root = above.at(-1);
      // Only a root of a scene is reached by nothing but a field or a search; others also from their parents.
      const isLeft = (one: string): boolean => one === root && file.file.endsWith(".unity") && !isHeld(file, one) && !switching.searches;
      return switching.objects && !off.some(isLeft) ? "used" : "off";
    }
    // A prefab can be switched off wherever it is put in.
    const guid = this.guidOf(file.file);
    const instances = [...this.liveFiles()].flatMap(({ instances: all }) => all.filter(({ prefab }) => prefab === guid));
    if (file.file.endsWith(".prefab") && instances.length > 0 && instances.every(({ switched }) => switched.get(object) === false))
      return switching.objects ? "used" : "off";
    if (enabled) return "used";
    return switching.components || file.held.has(component.id) ? "used" : "disabled";
  }

  /** All scenes, prefabs and assets of the project. */
  files(): readonly SceneFile[] {
    if (this.read) return this.read;
    this.read = [];
    for (const root of this.roots())
      for (const [folder, { files }] of foldersBelow(this.index, root))
        for (const name of files) if (SCENE.test(name)) this.read.push(this.scan(join(folder, name)));
    return this.read;
  }

  /** Folders with files of the project and of its own packages. */
  roots(): string[] {
    const { path, sourceFolders } = this.app;
    return [join(path, "Assets"), join(path, "Packages"), ...sourceFolders.map(({ folder }) => folder)];
  }

  /** Scenes of the list of those that are built, in its order. */
  built(): readonly { path: string; enabled: boolean }[] {
    if (this.list) return this.list;
    const list = this.project.tree.read(join(this.app.path, "ProjectSettings/EditorBuildSettings.asset"));
    this.list = list.ok
      ? [
          ...Buffer.from(list.bytes)
            .toString("utf8")
            .matchAll(/-\s+enabled:\s*(\d)\s+path:\s*([^\r\n]*)/g),
        ].map(([, enabled, path = ""]) => ({ path: path.trim(), enabled: enabled === "1" }))
      : [];
    return this.list;
  }

  /** Whether anything may be loaded at run time besides what the list of scenes has. */
  loadsMore(): boolean {
    return this.project.tree.isFolder(join(this.app.path, "Assets/AddressableAssetsData")) || this.loadsBundles();
  }

  /** Files of scripts by their ids; more than one where an id stands twice. */
  scriptFiles(): ReadonlyMap<string, readonly string[]> {
    if (this.scripts) return this.scripts;
    const found = new Map<string, string[]>();
    for (const root of this.roots())
      for (const [folder, { files }] of foldersBelow(this.index, root))
        for (const name of files) {
          const guid = name.endsWith(".cs") ? this.guidOf(join(folder, name)) : undefined;
          if (guid !== undefined) found.set(guid, [...(found.get(guid) ?? []), join(folder, name)]);
        }
    this.scripts = found;
    return found;
  }

  /** The ids of scenes, prefabs and assets of the project. */
  assetIds(): ReadonlySet<string> {
    return new Set(this.files().flatMap(({ file }) => this.guidOf(file) ?? []));
  }

  /** What scripts of an id hold in a field, in all that is built. */
  valuesOf(guid: string, field: string): { text: string; at: Place }[] {
    return [...this.liveFiles()]
      .filter(({ guids }) => guids.has(guid))
      .flatMap(({ file }) => {
        const source = this.project.text(file);
        return source ? fieldValues(source, guid, field) : [];
      });
  }

  /** The id of a script by the file that declares it. */
  idOfScript(file: string): string | undefined {
    return this.guidOf(file);
  }

  /** The id of a class's script; `undefined` where there is none, or more than one. */
  idOfClass(type: string): string | undefined {
    const [first, second] = [...this.scriptFiles()].filter(([, files]) => files.some((file) => classOfScript(file) === type));
    return second === undefined ? first?.[0] : undefined;
  }

  private scan(file: string): SceneFile {
    const found = this.project.tree.read(file);
    const text = found.ok ? Buffer.from(found.bytes.buffer, found.bytes.byteOffset, found.bytes.byteLength).toString("utf8") : "";
    const closed = !text.startsWith("%YAML") && (file.endsWith(".unity") || file.endsWith(".prefab"));
    return readSceneFile(file, closed ? "" : text, closed);
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
  liveFiles(): ReadonlySet<SceneFile> {
    if (this.live) return this.live;
    const files = this.files();
    const { tree } = this.project;
    const built = this.built();
    // Without a list, or where bundles and the like are loaded, anything may be in.
    const open = built.length === 0 || this.loadsMore();
    const paths = new Set(built.filter(({ enabled }) => enabled).map(({ path }) => join(this.app.path, path)));
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
    this.bundled ??= [...foldersBelow(this.index, join(this.app.path, "Assets"))].some(([folder, { files }]) =>
      files.some(
        (name) => name.endsWith(".cs") && /\bAssetBundle\b|\bAddressables\b/.test(this.project.text(join(folder, name))?.text ?? ""),
      ),
    );
    return this.bundled;
  }
}

/** Whether a field of a script holds an object, or a component on it. */
function isHeld({ held, components, transforms }: SceneFile, object: string): boolean {
  return (
    held.has(object) ||
    components.some((component) => component.object === object && held.has(component.id)) ||
    [...transforms].some(([id, transform]) => transform.object === object && held.has(id))
  );
}

/** Whether an event function of a component in such a state runs; a disabled component's Awake does. */
export function runsInScene(state: SceneState, name: string | undefined): boolean {
  return state === "used" || (state === "disabled" && name === "Awake");
}

/** The class that a file of a script is for. Source: docs.unity3d.com, "Creating and using scripts" (class and file have one name). */
export function classOfScript(file: string): string {
  return baseName(file).replace(/\.cs$/, "");
}
