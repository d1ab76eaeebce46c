import type { FolderIndex } from "../../files/walk.js";
import { foldersBelow } from "../../files/walk.js";
import { ENGINE_ASSEMBLIES, ENGINE_TAGS } from "../../knowledge/unity.js";
import type { App } from "../../model/app.js";
import type { SceneFault } from "../../model/code.js";
import type { Place } from "../../model/place.js";
import { baseName, isWithin, join } from "../../model/paths.js";
import { nearest, slipOf } from "../../model/suggest.js";
import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { ignoredByGit } from "../git-ignored.js";
import { keptOff } from "../platforms/directives.js";
import type { ProjectFiles } from "../project-files.js";
import { keptFaults } from "./kept-names.js";
import { classOfScript, type Scenes } from "./scenes.js";
import type { SceneComponent, SceneFile } from "./scene-files.js";
import { ScriptClasses, type ScriptCode } from "./script-classes.js";
import type { SourceFile } from "./sources.js";

/** A text that a call is given, with the place where it stands. */
interface Named {
  script: ScriptCode;
  call: string;
  name: string;
  offset: number;
}

/** Fields for texts without which a service does not start, by their names. */
const KEY_FIELD =
  /(?:\[SerializeField\][^;{}()]*?|\bpublic\s+)string\s+(\w*(?:[kK]ey|[tT]oken|[sS]ecret|[dD]sn|AppId|appId|ClientId|clientId))\s*;/g;

/** Names of methods of events, scenes, resources, tags, objects and classes that a Unity project means and does not have. */
export function unityFaults(
  project: ProjectFiles,
  index: FolderIndex,
  app: App,
  sources: readonly SourceFile[],
  scenes: Scenes,
): SceneFault[] {
  return app.kind === "unity" ? new UnityNames(project, index, app, sources, scenes).faults() : [];
}

/**
 * Sources: docs.unity3d.com, "SceneManager.LoadScene" (name or path of a scene in the build, its number), "Resources.Load" (path below a folder
 * Resources, without an extension), "Tags", "MonoBehaviour.Invoke", "Coroutines", "RuntimeInitializeOnLoadMethodAttribute" (static methods), "Native
 * plug-ins for iOS" and "Call Java and Kotlin plug-in code" (UnitySendMessage), "Asset metadata", "Managed code stripping" (link.xml).
 */
class UnityNames {
  private readonly classes: ScriptClasses;
  private readonly shipped: readonly ScriptCode[];
  private readonly faultsFound: SceneFault[] = [];
  private readonly files: readonly string[];

  constructor(
    private readonly project: ProjectFiles,
    index: FolderIndex,
    private readonly app: App,
    private readonly sources: readonly SourceFile[],
    private readonly scenes: Scenes,
  ) {
    this.classes = new ScriptClasses(sources);
    this.shipped = this.classes.all.filter(({ source: { side, file } }) => side === "shared" && !/(^|\/)(Editor|Tests?)(\/|$)/.test(file));
    this.files = scenes
      .roots()
      .flatMap((root) => [...foldersBelow(index, root)].flatMap(([folder, { files }]) => files.map((name) => join(folder, name))));
  }

  faults(): SceneFault[] {
    this.handlers();
    this.loadedScenes();
    this.resources();
    this.tags();
    this.calledByName();
    this.coroutines();
    this.attributes();
    this.messages();
    this.lostAssets();
    this.unsetKeys();
    this.ids();
    this.keptNames();
    return this.faultsFound;
  }

  private tell(what: SceneFault["what"], name: string, at: Place, more: { near?: string | undefined; of?: string } = {}): void {
    const { near, of } = more;
    if (!this.faultsFound.some((other) => other.what === what && other.name === name && other.of === of))
      this.faultsFound.push({ what, name, at, ...(near === undefined ? {} : { near }), ...(of === undefined ? {} : { of }) });
  }

  /** Calls that are given a text, or a constant of the project's own, in what both phones or one of them get. */
  private *named(calls: RegExp): Generator<Named> {
    for (const script of this.shipped) {
      const { code } = script;
      let kept: ReturnType<typeof keptOff> | undefined;
      for (const match of code.matchAll(calls)) {
        const { index } = match;
        const [whole, call = "", written, constant] = match;
        kept ??= keptOff(code);
        if (kept(index).size === 2) continue;
        const name = written ?? (constant === undefined ? undefined : this.classes.constant(constant));
        if (name !== undefined) yield { script, call, name, offset: index + whole.length - (written ?? constant ?? "").length };
      }
    }
  }

  /** Methods that events of scenes call; only of classes that are the app's own all the way. */
  private handlers(): void {
    for (const { type, method, at } of this.scenes.handlers())
      if (this.classes.knows(type) && !this.classes.may(type, method.replace(/^set_/, "")) && !this.classes.may(type, method))
        this.tell("handler", method, at, { of: type, near: nearest(method, this.classes.methodsOf(type)) });
  }

  private loadedScenes(): void {
    const built = this.scenes.built();
    if (built.length === 0 || this.scenes.loadsMore()) return;
    const spelt = (path: string): string[] => {
      const plain = path.replace(/\.unity$/, "");
      return [path, plain, plain.replace(/^Assets\//, ""), baseName(plain)].map((name) => name.toLowerCase());
    };
    const enabled = built.filter((scene) => scene.enabled);
    const known = new Set(enabled.flatMap(({ path }) => spelt(path)));
    const all = this.files
      .filter((file) => file.endsWith(".unity"))
      .map((file) => file.slice(this.app.path === "" ? 0 : this.app.path.length + 1));
    const stem = (path: string): string => baseName(path).replace(/\.unity$/, "");
    for (const { script, name, offset } of this.named(
      /\bSceneManager\s*\.\s*(LoadScene(?:Async)?)\s*\(\s*(?:"([^"\\\n]+)"|([A-Za-z_][\w.]*))(?=\s*[,)])/g,
    )) {
      if (known.has(name.toLowerCase())) continue;
      const at = script.source.place(offset);
      const off = built.find((scene) => !scene.enabled && spelt(scene.path).includes(name.toLowerCase()));
      const unlisted = all.find((path) => spelt(path).includes(name.toLowerCase()));
      if (off) this.tell("scene off", name, at);
      else if (unlisted !== undefined) this.tell("scene unlisted", name, at);
      else
        this.tell("scene", name, at, {
          near: nearest(
            name,
            enabled.map(({ path }) => stem(path)),
          ),
        });
    }
    for (const script of this.shipped)
      for (const match of script.code.matchAll(/\bSceneManager\s*\.\s*LoadScene(?:Async)?\s*\(\s*(\d+)\s*[,)]/g))
        if (Number(match[1]) >= enabled.length && keptOff(script.code)(match.index).size < 2)
          this.tell("scene number", match[1] as string, script.source.place(match.index), { near: String(enabled.length - 1) });
  }

  private resources(): void {
    const paths = new Map<string, string>();
    const elsewhere = new Map<string, string>();
    for (const file of this.files) {
      if (file.endsWith(".meta")) continue;
      const plain = file.replace(/\.\w+$/, "").toLowerCase();
      const below = /^.*(?:^|\/)resources\/(.*)$/.exec(plain)?.[1];
      if (below !== undefined) paths.set(below, file);
      else elsewhere.set(baseName(plain), file);
    }
    const isIgnored = ignoredByGit(this.project, ["", this.app.path]);
    for (const { script, name, offset } of this.named(
      /\bResources\s*\.\s*(Load(?:Async)?)\s*(?:<[^<>()]{1,80}>)?\s*\(\s*(?:"([^"\\\n]+)"|([A-Za-z_][\w.]*))(?=\s*[,)])/g,
    )) {
      const wanted = name.toLowerCase().replace(/^\/|\/$/g, "");
      if (paths.has(wanted)) continue;
      const at = script.source.place(offset);
      const plain = wanted.replace(/\.\w{2,6}$/, "");
      const other = elsewhere.get(baseName(wanted));
      if (plain !== wanted && paths.has(plain)) this.tell("resource ending", name, at, { near: name.replace(/\.\w{2,6}$/, "") });
      else if (other !== undefined && !/\.(cs|asmdef|unity)$/.test(other)) this.tell("resource outside", name, at, { near: other });
      else {
        const near = slipOf(wanted, [...paths.keys()]);
        // A folder that the project does not have may be of a package that is not here.
        const folder = wanted.includes("/") ? wanted.slice(0, wanted.lastIndexOf("/") + 1) : undefined;
        const own = folder !== undefined && [...paths.keys()].some((path) => path.startsWith(folder));
        if ((near !== undefined || own) && !isIgnored(`${baseName(name)}.asset`)) this.tell("resource", name, at, { near });
      }
    }
  }

  private tags(): void {
    const source = this.project.text(join(this.app.path, "ProjectSettings/TagManager.asset"));
    const list = source && /^ {2}tags:(?: \[\])?((?:\r?\n {2}- .*)*)/m.exec(source.text);
    if (!list) return;
    const tags = [
      ...ENGINE_TAGS,
      ...[...(list[1] ?? "").matchAll(/- (.*)/g)].map(([, tag = ""]) => tag.trim().replace(/^(["'])(.*)\1$/, "$2")),
    ];
    for (const { script, name, offset } of this.named(
      /\b(FindWithTag|FindGameObjectWithTag|FindGameObjectsWithTag|CompareTag)\s*\(\s*(?:"([^"\\\n]+)"|([A-Za-z_][\w.]*))(?=\s*\))/g,
    ))
      if (!tags.includes(name)) this.tell("tag", name, script.source.place(offset), { near: nearest(name, tags) });
  }

  /** Methods that a script calls on itself by their names. */
  private calledByName(): void {
    for (const { script, call, name, offset } of this.named(
      /(?<![\w.])(?:this\s*\.\s*)?(Invoke|InvokeRepeating|StartCoroutine|CancelInvoke)\s*\(\s*(?:"(\w+)"(?=\s*[,)])|([A-Z]\w*)(?=\s*,))/g,
    )) {
      const type = this.classes.classAt(script, offset);
      // A method of the app's own with that name is another one.
      if (this.classes.methodsOf(type ?? "").includes(call)) continue;
      if (type !== undefined && this.classes.extends(type, /^MonoBehaviour$/) && !this.classes.may(type, name))
        this.tell("by name", name, script.source.place(offset), {
          of: `${type} ${call}`,
          near: nearest(name, this.classes.methodsOf(type)),
        });
    }
  }

  /** Coroutines that are called like methods: the call makes an enumerator, which nobody goes through. */
  private coroutines(): void {
    for (const script of this.shipped) {
      const { code, source } = script;
      for (const declared of code.matchAll(/\bIEnumerator\s+(\w+)\s*\(/g)) {
        const name = declared[1] as string;
        const type = this.classes.classAt(script, declared.index);
        // A name of its own: another overload may be an ordinary method.
        if (type === undefined || name === "Start" || new RegExp(`\\bvoid\\s+${name}\\s*\\(`).test(code)) continue;
        for (const call of code.matchAll(new RegExp(`(?<![\\w.])(?:this\\s*\\.\\s*)?${name}\\s*\\(`, "g"))) {
          const end = closing(code, call.index + call[0].length - 1);
          const isStatement =
            /^\)\s*;/.test(code.slice(end, end + 40)) &&
            /(?:[;{})]|\belse|\bvoid\s+\w+\s*\([^()]*\)\s*=>)\s*$/.test(code.slice(Math.max(0, call.index - 200), call.index));
          if (isStatement && this.classes.classAt(script, call.index) === type && keptOff(code)(call.index).size < 2)
            this.tell("coroutine", name, source.place(call.index), { of: type });
        }
      }
    }
  }

  private attributes(): void {
    for (const { code, source } of this.shipped)
      for (const match of code.matchAll(
        /\[\s*(?:\w+\s*\.\s*)*RuntimeInitializeOnLoadMethod(?:Attribute)?\b[^\]]*\]\s*(?:\[[^\]]*\]\s*)*((?:(?:public|private|internal|protected|async|virtual|override|static)\s+)*)[\w.<>]+\s+(\w+)\s*\(/g,
      ))
        if (!/\bstatic\b/.test(match[1] ?? "") && keptOff(code)(match.index).size < 2)
          this.tell("not static", match[2] as string, source.place(match.index));
  }

  /** What native code sends to an object by its name. */
  private messages(): void {
    const files = this.scenes.files();
    if (files.some(({ closed }) => closed) || !files.some(({ file }) => file.endsWith(".unity"))) return;
    const sent = this.sources.flatMap((source) => {
      if (source.language === "csharp" || !/[sS]endMessage/.test(source.text)) return [];
      return [
        ...withoutComments(source.text).matchAll(
          /\bUnitySendMessage\s*\(\s*@?"([^"\\\n]+)"\s*,\s*@?"(\w+)"|\bsendMessageToGO(?:WithName\s*:|\s*\(\s*withName\s*:)\s*@?"([^"\\\n]+)"\s*,?\s*functionName\s*:\s*@?"(\w+)"/g,
        ),
      ].map((match) => ({
        at: source.place(match.index),
        object: (match[1] ?? match[3]) as string,
        method: (match[2] ?? match[4]) as string,
      }));
    });
    if (sent.length === 0) return;
    const made = this.madeNames();
    const names = new Set([...files.flatMap(({ names: own, renamed }) => [...own.values(), ...renamed]), ...made.names]);
    for (const { at, object, method } of sent) {
      if (!names.has(object)) {
        const near = slipOf(object, [...names]);
        // Code that gives names which it works out may give this one, too.
        if (!made.open || near !== undefined) this.tell("message object", object, at, { near, of: method });
        continue;
      }
      const types = made.names.has(object) ? undefined : this.typesOn(files, object);
      if (types && types.length > 0 && types.every((type) => this.classes.knows(type) && !this.classes.may(type, method)))
        this.tell("message method", method, at, {
          of: object,
          near: nearest(
            method,
            types.flatMap((type) => this.classes.methodsOf(type)),
          ),
        });
    }
  }

  /** Names that code gives to objects, and whether it works some out. */
  private madeNames(): { names: ReadonlySet<string>; open: boolean } {
    const names = new Set<string>();
    let open = false;
    for (const { code } of this.classes.all)
      for (const match of code.matchAll(
        /\bnew\s+GameObject\s*\(\s*([^,)]*)|\bgameObject\s*\.\s*name\s*=\s*([^;]*);|(?<![\w.])name\s*=\s*([^;=][^;]*);/g,
      )) {
        const given = (match[1] ?? match[2] ?? match[3] ?? "").trim();
        const text =
          /^"([^"]*)"$/.exec(given)?.[1] ??
          /^nameof\s*\(\s*(?:\w+\s*\.\s*)*(\w+)/.exec(given)?.[1] ??
          (/^[A-Z]\w*$/.test(given) ? this.classes.constant(given) : undefined);
        if (text !== undefined) names.add(text);
        else if (given !== "") open = true;
      }
    return { names, open };
  }

  /** The scripts of all objects of a name; `undefined` where one of them is not the app's own. */
  private typesOn(files: readonly SceneFile[], object: string): string[] | undefined {
    const scripts = this.scenes.scriptFiles();
    const types: string[] = [];
    for (const { names, components, renamed } of files) {
      if (renamed.has(object)) return undefined;
      const on = (component: SceneComponent): boolean => names.get(component.object) === object;
      for (const { guid } of components.filter(on)) {
        const [file] = scripts.get(guid) ?? [];
        if (file === undefined) return undefined;
        types.push(classOfScript(file));
      }
    }
    return types;
  }

  /** Settings and prefabs of the app's own classes that a field of a scene holds and that are gone. */
  private lostAssets(): void {
    const scripts = this.scenes.scriptFiles();
    const known = this.scenes.assetIds();
    for (const { references } of this.scenes.liveFiles())
      for (const { script, field, guid, at } of references) {
        const [file] = known.has(guid) ? [] : (scripts.get(script) ?? []);
        if (file === undefined) continue;
        const declared = this.classes.all.find(({ source }) => source.file === file);
        const type = declared && new RegExp(`\\b([A-Z]\\w*)\\s+${field}\\s*[;=]`).exec(declared.code)?.[1];
        if (type !== undefined && this.classes.knows(type) && this.classes.extends(type, /^(ScriptableObject|MonoBehaviour)$/))
          this.tell("asset", type, at, { of: `${classOfScript(file)}.${field}` });
      }
  }

  /** Keys that code takes from an asset of settings which has no value for them. Source: docs.unity3d.com, "ScriptableObject", "Script serialization". */
  private unsetKeys(): void {
    for (const { source, code } of this.shipped) {
      const type = /\bclass\s+(\w+)\s*:\s*ScriptableObject\b/.exec(code)?.[1];
      const script = type === undefined ? undefined : this.scenes.idOfScript(source.file);
      if (type === undefined || script === undefined) continue;
      const assets = [...this.scenes.liveFiles()].filter(({ file, guids }) => file.endsWith(".asset") && guids.has(script));
      for (const match of code.matchAll(KEY_FIELD)) {
        const field = match[1] as string;
        const used = this.shipped.some((other) => other.source !== source && new RegExp(`\\.${field}\\b`).test(other.code));
        const values = used && !/FormerlySerializedAs/.test(code) ? this.scenes.valuesOf(script, field) : [];
        // Where some assets have a value and others none, one is chosen at run time.
        if (!used || assets.length === 0 || values.some(({ text }) => text !== "")) continue;
        const [asset] = assets;
        this.tell("unset key", field, values[0]?.at ?? { file: asset?.file ?? source.file, line: 1, column: 1 }, {
          of: baseName(asset?.file ?? ""),
        });
      }
    }
  }

  /** Scripts without the file that holds their id, and ids that stand twice. */
  private ids(): void {
    const there = new Set(this.files);
    const isIgnored = ignoredByGit(this.project, ["", this.app.path]);
    if (![...there].some((file) => file.endsWith(".cs.meta")) || isIgnored("Any.cs.meta")) return;
    const assets = join(this.app.path, "Assets");
    for (const { source } of this.shipped) {
      const { file } = source;
      const type = classOfScript(file);
      // Folders whose name ends so, or begins with a dot, are not imported.
      if (there.has(`${file}.meta`) || !isWithin(file, assets) || /~\/|\/\./.test(file)) continue;
      if (this.classes.knows(type) && this.classes.extends(type, /^(MonoBehaviour|ScriptableObject)$/))
        this.tell("without id", baseName(file), source.place(0));
    }
    for (const [guid, [first, second]] of this.scenes.scriptFiles())
      if (first !== undefined && second !== undefined)
        this.tell("id twice", baseName(second), { file: `${second}.meta`, line: 2, column: 1 }, { of: guid, near: baseName(first) });
  }

  /** What is to be kept when code is stripped, against the app's own assemblies and classes. */
  private keptNames(): void {
    const own = {
      assemblies: new Set([...[...this.app.assemblies.values()].map(({ name }) => name), "Assembly-CSharp"]),
      foreign: ENGINE_ASSEMBLIES,
      types: this.classes.types(),
    };
    for (const file of this.files.filter((name) => baseName(name) === "link.xml" && isWithin(name, join(this.app.path, "Assets")))) {
      const root = this.project.xml(file)?.root;
      if (root) this.faultsFound.push(...keptFaults(root, own));
    }
  }
}
