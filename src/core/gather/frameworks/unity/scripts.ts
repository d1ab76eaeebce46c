import { evaluateBuildScripts, type BuildEdits } from "../../../evaluate/build-script/index.js";
import type { ProjectInHand, ScriptFile } from "../../../evaluate/build-script/values.js";
import { asText } from "../../../evaluate/build-script/values.js";
import { ASSOCIATED_DOMAIN, ASSOCIATED_DOMAINS } from "../../../knowledge/extension-points.js";
import { PROPERTY_LIST_KEYS } from "../../../knowledge/known-names.js";
import { BACKGROUND_OPTIONS, CAPABILITIES, CAPABILITY_TYPES } from "../../../knowledge/unity.js";
import type { Entry } from "../../../model/facts.js";
import { join } from "../../../model/paths.js";
import { reason } from "../../../model/reason.js";
import { known, textOf, unknown, type Value } from "../../../model/value.js";
import { listOf, scalarOf, textAt, textsOf, type MapData } from "../../../syntax/data.js";
import { parseWhole, type Batch } from "../../../syntax/code/process.js";
import type { SyntaxNode } from "../../../syntax/code/grammars.js";
import { Source } from "../../../syntax/source.js";
import { entitlementEntries, listEntries } from "../../platforms/ios/entries.js";
import { withoutComments } from "../../../syntax/comments.js";
import { noteMisspeltKeys } from "../../misspelt-names.js";
import type { FactSink } from "../../sink.js";
import type { Discovery } from "../framework.js";
import { foldersIn, isDefined, isEditorFolder, unseenPackages, type UnityProject } from "./project.js";
import { idOf, listOfSettings } from "./settings.js";

/** Attributes and interfaces of scripts that run when a build for iOS is done. */
const AFTER_BUILD = /\bPostProcessBuild|\bIPostprocessBuild/;
/** Those that run when the Gradle project is written. Source: docs.unity3d.com, "IPostGenerateGradleAndroidProject". */
const AFTER_GRADLE = /\bIPostGenerateGradleAndroidProject\b|\bOnPostGenerateGradleAndroidProject\b|\bAndroidProjectFilesModifier\b/;

/** A compiled assembly for the editor is looked through for the names of what would run after a build. */
const LOOKED_THROUGH = 8 * 1024 * 1024;

/**
 * What the editor will write into the Xcode project: what player settings say, and the edits of the scripts that run after the build. What cannot
 * be followed is open. Source: docs.unity3d.com, "PostProcessBuildAttribute", "iOS build post-processing" (Xcode API).
 */
export async function readBuildScripts(discovery: Discovery, unity: UnityProject, app: FactSink, batch: Batch): Promise<void> {
  const scripts = findScripts(discovery, unity);
  for (const { name, sdk } of unseenPackages(unity)) app.packageUnseen({ name, sdk });
  for (const at of scripts.gradle) app.partIsOpen({ side: "android", part: "*", why: reason("script-changes-gradle"), at });
  if (app.android) app.configIsWhole({ side: "android", file: join(unity.folder, "Assets/Plugins/Android/AndroidManifest.xml") });
  if (!app.ios) return;
  for (const file of scripts.assemblies)
    app.partIsOpen({ side: "ios", part: "*", why: reason("assembly-runs-after-build"), at: { file, line: 1, column: 1 } });
  noteUnrun(app, [...scripts.after, ...new Set(scripts.others.values())]);
  const files = await parsed(scripts, batch, app);
  const id = idOf(unity.settings, "ios");
  const edits = evaluateBuildScripts(files, {
    plist: listOfSettings(unity),
    symbol: (name) => (app.buildSymbols ? isDefined(app.buildSymbols, "ios", name, true) : undefined),
    tables: { capabilities: CAPABILITIES, capabilityTypes: CAPABILITY_TYPES, backgroundOptions: BACKGROUND_OPTIONS },
    id: textOf(id),
    product: textAt(unity.settings, "productName"),
  });
  putEdits(edits, app);
  app.configIsWhole({ side: "ios", file: unity.settingsFile });
}

interface Scripts {
  after: Source[];
  /** Other code of the editor, by the classes that it declares. */
  others: Map<string, Source>;
  gradle: { file: string; line: number; column: number }[];
  assemblies: string[];
}

function findScripts(discovery: Discovery, unity: UnityProject): Scripts {
  const { project } = discovery;
  const found: Scripts = { after: [], others: new Map(), gradle: [], assemblies: [] };
  const note = (source: Source): void => {
    const gradle = AFTER_GRADLE.exec(source.text);
    if (gradle) found.gradle.push(source.place(gradle.index));
    if (AFTER_BUILD.test(source.text)) found.after.push(source);
    else for (const match of source.text.matchAll(/\b(?:class|struct)\s+(\w+)/g)) found.others.set(match[1] as string, source);
  };
  for (const root of unity.roots)
    for (const [folder, { files }] of foldersIn(discovery, root)) {
      for (const name of files) {
        const file = join(folder, name);
        if (name.endsWith(".dll")) {
          const bytes = isEditorFolder(folder) ? project.tree.part(file, 0, LOOKED_THROUGH) : undefined;
          // Names of attributes and interfaces stand in an assembly as they are.
          if (bytes && AFTER_BUILD.test(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString("latin1")))
            found.assemblies.push(file);
          continue;
        }
        // A script between conditions for the editor may lie anywhere.
        const source = name.endsWith(".cs") ? project.text(file) : undefined;
        if (!source) continue;
        note(source);
      }
    }
  for (const { archived } of unity.packages)
    for (const [name, text] of Object.entries(archived?.texts ?? {}))
      if (name.endsWith(".cs")) note(new Source(`${archived?.file ?? ""}/${name}`, text));
  return found;
}

/** What the editor's library for Xcode projects is used by. Source: docs.unity3d.com, "PBXProject", "PlistDocument", "ProjectCapabilityManager". */
const EDITS = /\bnew\s+(PBXProject|PlistDocument|ProjectCapabilityManager)\b/;

/** Methods with the form of those that run after a build, which the editor does not find and nothing calls. */
function noteUnrun(app: FactSink, sources: readonly Source[]): void {
  for (const source of sources) {
    const text = withoutComments(source.text);
    if (!EDITS.test(text) || /\bIPostprocessBuild/.test(text)) continue;
    for (const match of text.matchAll(/\bvoid\s+(\w+)\s*\(\s*BuildTarget\s+\w+\s*,\s*string\s+\w+\s*\)/g)) {
      const name = match[1] as string;
      const head = text.slice(Math.max(...[";", "{", "}"].map((sign) => text.lastIndexOf(sign, match.index))) + 1, match.index);
      const isCalled = sources.some(
        (other) => [...other.text.matchAll(new RegExp(`\\b${name}\\b`, "g"))].length > (other === source ? 1 : 0),
      );
      if (/\bPostProcessBuild/.test(head) ? /\bstatic\b/.test(head) : isCalled) continue;
      app.templateLine({ line: "script after the build", side: "ios", at: source.place(match.index) });
    }
  }
}

/** How often classes that scripts name are looked for. */
const ROUNDS = 3;
const MOST_FILES = 40;

/** The trees of the scripts, and of those whose classes they name. */
async function parsed(scripts: Scripts, batch: Batch, app: FactSink): Promise<ScriptFile[]> {
  const files: ScriptFile[] = [];
  const taken = new Set<Source>();
  let open = scripts.after;
  for (let round = 0; round < ROUNDS && open.length > 0; round++) {
    for (const source of open) taken.add(source);
    const trees = await Promise.all(
      open.map(async (source) => ({ source, result: await parseWhole({ language: "csharp", text: source.text }, batch) })),
    );
    for (const { source, result } of trees) {
      const error = "tree" in result ? firstError(result.tree) : undefined;
      if (error !== undefined) app.partIsOpen({ side: "ios", part: "*", why: reason("code-not-read-in-full"), at: source.place(error) });
      if ("tree" in result) files.push({ source, root: result.tree });
      else app.partIsOpen({ side: "ios", part: "*", why: reason("build-script-unreadable", { why: result.failed }), at: source.place(0) });
    }
    const named = new Set(open.flatMap(({ text }) => text.match(/\b[A-Z]\w+(?=\s*[.(<])/g) ?? []));
    open = [...new Set([...named].flatMap((name) => scripts.others.get(name) ?? []))]
      .filter((source) => !taken.has(source))
      .slice(0, MOST_FILES);
  }
  return files;
}

/** Where the grammar could not read a text. */
function firstError(node: SyntaxNode): number | undefined {
  if (node.type === "ERROR") return node.from;
  for (const child of node.children) {
    const found = firstError(child);
    if (found !== undefined) return found;
  }
  return undefined;
}

function putEdits(edits: BuildEdits, app: FactSink): void {
  for (const { part, why, from } of edits.open)
    if (!app.openParts.some((open) => open.part === part)) app.partIsOpen({ side: "ios", part, why, at: from.source.place(from.start) });
  for (const from of edits.lost) app.templateLine({ line: "edits written", side: "ios", at: from.source.place(from.start) });
  const { plist } = edits;
  noteMisspeltKeys(app, plist, PROPERTY_LIST_KEYS);
  addModes(plist, edits);
  app.entry(...listEntries(plist));
  if (edits.entitlements) app.entry(...entitlementEntries(edits.entitlements));
  const links = new Map<string, { linked: boolean; embedded: boolean; at: Entry["at"] }>();
  for (const project of edits.projects) {
    putEntitlements(project, app);
    for (const { name, linked, embedded, from } of project.links) {
      const before = links.get(name);
      links.set(name, { linked, embedded: embedded || (before?.embedded ?? false), at: before?.at ?? from.source.place(from.start) });
    }
    const flags = project.settings.filter(({ name }) => /^(OTHER_LDFLAGS|(FRAMEWORK|LIBRARY|HEADER)_SEARCH_PATHS)$/.test(name));
    for (const { name, value, from } of flags)
      app.option({ side: "ios", name, values: (asText(value) ?? "").split(/\s+/).filter(Boolean), at: from.source.place(from.start) });
    for (const { name, value, from } of project.settings)
      if (name === "IPHONEOS_DEPLOYMENT_TARGET" && app.ios) {
        const at = from.source.place(from.start);
        const text = asText(value);
        const level: Value = text === undefined ? unknown(reason("build-script-makes-it"), at) : known(text, at);
        app.ios.effective.iosTarget = level;
      }
  }
  putLinks(app, links);
}

/** Capabilities that the scripts add. */
function putEntitlements(project: ProjectInHand, app: FactSink): void {
  for (const { name, values, from } of project.entitlements) {
    const at = from.source.place(from.start);
    for (const value of name === ASSOCIATED_DOMAINS ? values : [])
      if (!ASSOCIATED_DOMAIN.test(value)) app.extensionFault({ what: "domain", target: "the app", name: value, near: undefined, at });
    for (const value of values.length > 0 ? values : [undefined])
      app.entry({
        kind: "entitlement",
        side: "ios",
        name,
        value: value === undefined ? unknown(reason("build-script-makes-it"), at) : known(value, at),
        at,
      });
  }
}

/** Frameworks that the scripts link or embed, joined with those of the import settings. */
function putLinks(app: FactSink, links: Map<string, { linked: boolean; embedded: boolean; at: Entry["at"] }>): void {
  const known_ = new Map(app.links.map((link) => [link.name, link]));
  for (const [name, { linked, embedded, at }] of links) {
    const before = known_.get(name);
    if (before) Object.assign(before, { linked: before.linked || linked, embedded: before.embedded || embedded });
    else app.linked({ name, target: "UnityFramework", linked, embedded, form: undefined, system: !embedded, at });
  }
}

/** Background modes that a capability adds stand in the property list. */
function addModes(plist: MapData, { projects }: BuildEdits): void {
  for (const { name, from } of projects.flatMap(({ backgroundModes }) => backgroundModes)) {
    const modes = plist.entries.get("UIBackgroundModes")?.value;
    if (textsOf(modes).includes(name)) continue;
    const mode = scalarOf(from.source, from.start, name);
    if (modes?.kind === "list") modes.items.push(mode);
    else plist.entries.set("UIBackgroundModes", { start: from.start, value: listOf(from.source, from.start, [mode]) });
  }
}
