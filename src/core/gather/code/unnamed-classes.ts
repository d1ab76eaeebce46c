import type { CodeFacts, CodeFile } from "../../model/code.js";
import { ownPackageOf, type App } from "../../model/app.js";
import { join } from "../../model/paths.js";
import { withoutComments } from "../../syntax/comments.js";
import { at } from "../../syntax/data.js";
import type { ProjectFiles } from "../project-files.js";
import type { AppCode } from "./app-code.js";
import type { Program } from "./program.js";
import { PACKAGE_OF_MODULES } from "./react-native-modules.js";
import { SYSTEM_BASES } from "../../knowledge/component-permissions.js";
import type { Reach } from "./reach.js";
import { mentions, type SourceFile } from "./sources.js";
import type { SideName } from "../../model/facts.js";
import type { Place } from "../../model/place.js";

/** Classes that only live when a manifest, a list or an attribute names them. */
/** C# classes that the build writes into the manifest by their attribute. Source: learn.microsoft.com, "Working with the Android manifest". */
const BY_ATTRIBUTE: readonly [attribute: string, base: RegExp, what: string][] = [
  ["Application", /^(MauiApplication|Application|FormsApplication)$/, "application class"],
  ["Activity", /^(MauiAppCompatActivity|FormsAppCompatActivity|Activity|AppCompatActivity|FragmentActivity)$/, "activity"],
  [
    "Service",
    new RegExp(
      `^(Service|IntentService|${Object.keys(SYSTEM_BASES)
        .filter((name) => name.endsWith("Service"))
        .join("|")})$`,
    ),
    "service",
  ],
  ["BroadcastReceiver", /^(BroadcastReceiver|AppWidgetProvider|DeviceAdminReceiver)$/, "receiver"],
];

/** The attributes and modifiers that end where a class begins. */
const ATTRIBUTES = /(?:\[(?:[^[\]"]|"[^"\n]*"|\[[^[\]]*\])*\]\s*|#\w[^\n]*\n\s*|\b(?:public|internal|sealed|partial|abstract)\s+)*$/;

/** Classes of the Android side of .NET that lack the attribute by which the manifest gets them. */
export function withoutAttribute(
  { kind, android, manifests }: App,
  sources: readonly SourceFile[],
  project: ProjectFiles,
): CodeFacts["unnamed"] {
  if (kind !== "dotnet" || !android) return [];
  const named = manifests.map((file) => project.text(file)?.text ?? "").join("\n");
  return sources.flatMap((source) => {
    if (source.side !== "android" || source.language !== "csharp") return [];
    const text = withoutComments(source.text);
    return [...text.matchAll(/\bclass\s+(\w+)\s*(?:<[^>{]*>)?\s*:\s*(?:[\w.]+\.)?(\w+)/g)].flatMap((match) => {
      const [, name = "", base = ""] = match;
      const kindOf = BY_ATTRIBUTE.find(([, form]) => form.test(base));
      const head = ATTRIBUTES.exec(text.slice(Math.max(0, match.index - 2_000), match.index))?.[0] ?? "";
      if (!kindOf || /\babstract\b/.test(head) || new RegExp(`\\[[^\\]]*\\b${kindOf[0]}(?:Attribute)?\\b`).test(head)) return [];
      // One that code makes or names itself needs no manifest.
      if (
        kindOf[2] === "receiver" &&
        sources.some((other) => new RegExp(`\\bnew\\s+(?:[\\w.]+\\.)?${name}\\b|\\(\\s*${name}\\s*\\)`).test(withoutIntents(other.text)))
      )
        return [];
      if (
        named.includes(`.${name}"`) ||
        sources.some((other) => new RegExp(`\\bclass\\s+\\w+\\s*(?:<[^>{]*>)?\\s*:\\s*(?:[\\w.]+\\.)?${name}\\b`).test(other.text))
      )
        return [];
      return [{ name, what: kindOf[2], side: "android" as const, wanted: `the attribute [${kindOf[0]}]`, at: source.place(match.index) }];
    });
  });
}

/** A text without what is sent to a component by its class: that comes to those of the manifest alone. */
function withoutIntents(text: string): string {
  return text.includes("new Intent") ? text.replace(/\bnew\s+Intent\s*\(\s*\w+\s*,\s*typeof\s*\(\s*[\w.]+\s*\)/g, "") : text;
}

/** The block of a package's manifest by which the sync finds its plugin; `undefined` where the file lies in no package of its own. */
function pluginBlock(project: ProjectFiles, app: App, file: string): { of: string; has: (side: "android" | "ios") => boolean } | undefined {
  const home = ownPackageOf(app, file);
  const root = home && project.json(join(home.folder, "package.json"))?.root;
  return home && root ? { of: home.name, has: (side) => at(root, "capacitor", side) !== undefined } : undefined;
}

export function unnamedClasses(
  project: ProjectFiles,
  { app, components, sources }: AppCode,
  program: Program,
  reach: Reach,
): CodeFacts["unnamed"] {
  const found: CodeFacts["unnamed"] = [];
  for (const { source, code } of program.files) {
    for (const type of code.types) {
      if (type.extension || /\babstract\b|\bopen\b/.test(code.plain.slice(Math.max(0, type.from - 40), type.from))) continue;
      const ref = { source, code, index: -1 };
      if (
        source.side === "android" &&
        type.supers.some((above) => PACKAGE_OF_MODULES.test(above)) &&
        // Those of the repository's packages are linked by the framework.
        ownPackageOf(app, source.file) === undefined &&
        reach.unnamed(type.name, ref) !== undefined
      )
        found.push({
          name: type.name,
          what: "package of native modules",
          side: "android",
          wanted: "the list of packages in the application class",
          at: source.place(type.from),
        });
      if (
        source.side === "android" &&
        [...program.heritage(type.name)].some((above) => /^(Multi[dD]ex)?Application$/.test(above)) &&
        source.language !== "csharp" &&
        isTakenByNone(type.name, components, program, sources) &&
        app.manifests.length > 0 &&
        // Whatever its marks are: only a manifest makes the system take it.
        program.below(type.name).size === 0
      )
        found.push({
          name: type.name,
          what: "application class",
          side: "android",
          wanted: `android:name=".${type.name}" of the manifest's application`,
          at: source.place(type.from),
        });
    }
    pluginsOnIos(project, { app, sources }, source, code, reach, found);
    pluginsOnAndroid(project, app, source, code, found, sources);
  }
  return found;
}

/** Whether no manifest names an application class, nor one of the app's own in its place, and no code makes it. */
function isTakenByNone(name: string, { applications }: AppCode["components"], program: Program, sources: readonly SourceFile[]): boolean {
  if (applications.length === 0) return true;
  const simple = applications.map((entry) => entry.name.split(/[.$]/).at(-1) as string);
  const made = new RegExp(`(?<!\\bclass\\s)\\b${name}(?:\\s*\\(|::class|\\.class)`);
  return simple.every((other) => program.types(other).length === 0) && !sources.some(({ text }) => made.test(text));
}

/** Plugins and controllers of the framework in Swift. */
function pluginsOnIos(
  project: ProjectFiles,
  { app, sources }: Pick<AppCode, "app" | "sources">,
  source: SourceFile,
  code: CodeFile,
  reach: Reach,
  found: CodeFacts["unnamed"],
): void {
  if (source.side !== "ios" || app.kind !== "capacitor" || source.language !== "swift") return;
  for (const type of code.types) {
    const named = (ending: RegExp): boolean =>
      sources.some(({ text, side, file }) => side === "ios" && file !== source.file && ending.test(text));
    const block = type.supers.includes("CAPBridgedPlugin") ? pluginBlock(project, app, source.file) : undefined;
    const lacks = hiddenOnIos(project, app, source, type, sources);
    if (lacks !== undefined) found.push({ name: type.name, what: "plugin", side: "ios", wanted: lacks, at: source.place(type.from) });
    if (block) {
      if (!block.has("ios")) found.push(ofPackage(type.name, "ios", block.of, source.place(type.from)));
    }
    // Since its sixth edition the framework looks for no plugins of the app's own by itself.
    else if (type.supers.includes("CAPBridgedPlugin") && !named(new RegExp(`registerPlugin(?:Instance|Type)\\(\\s*${type.name}\\b`)))
      found.push({
        name: type.name,
        what: "plugin",
        side: "ios",
        wanted: "registerPluginInstance in the view controller",
        at: source.place(type.from),
      });
    // The storyboard makes the controller, by its name.
    if (type.supers.includes("CAPBridgeViewController") && reach.unnamed(type.name, { source, code, index: -1 }) !== undefined)
      found.push({
        name: type.name,
        what: "view controller of the framework",
        side: "ios",
        wanted: "the custom class of the view controller in Main.storyboard",
        at: source.place(type.from),
      });
  }
}

/**
 * What the class of a package's plugin lacks, so that the framework does not find it. Sources: the framework's command line 7.6.9, findPluginClasses
 * (it lists classes by @objc(…) or CAP_PLUGIN), read 2026-11-30; its library for iOS, CapacitorBridge (a class is taken as a CAPBridgedPlugin).
 */
function hiddenOnIos(
  project: ProjectFiles,
  app: App,
  { text, file }: SourceFile,
  type: CodeFile["types"][number],
  sources: readonly SourceFile[],
): string | undefined {
  if (!type.supers.some((above) => above === "CAPPlugin" || above === "CAPBridgedPlugin") || !pluginBlock(project, app, file))
    return undefined;
  const listed = new RegExp(`\\bCAP_PLUGIN\\s*\\(\\s*${type.name}\\b`);
  if (sources.some((other) => other.side === "ios" && listed.test(other.text))) return undefined;
  if (!type.supers.includes("CAPBridgedPlugin")) return "what implements CAPBridgedPlugin";
  return new RegExp(`@objc\\s*\\(\\s*${type.name}\\s*\\)`).test(text) ? undefined : `the names of Objective-C: @objc(${type.name})`;
}

/** Plugins of the framework in Kotlin and Java. */
function pluginsOnAndroid(
  project: ProjectFiles,
  app: App,
  source: SourceFile,
  code: CodeFile,
  found: { name: string; what: string; side: SideName; wanted: string; at: Place }[],
  sources: SourceFile[],
): void {
  if (source.side === "android" && app.kind === "capacitor")
    for (const type of code.types) {
      const block = type.annotations.includes("CapacitorPlugin") ? pluginBlock(project, app, source.file) : undefined;
      if (block) {
        if (type.supers.length === 0)
          found.push({ name: type.name, what: "plugin", side: "android", wanted: "what extends Plugin", at: source.place(type.from) });
        if (!block.has("android")) found.push(ofPackage(type.name, "android", block.of, source.place(type.from)));
      } else if (
        type.annotations.includes("CapacitorPlugin") &&
        !sources.some(({ file, text, side }) => side === "android" && file !== source.file && mentions(text, type.name) > 0)
      )
        found.push({
          name: type.name,
          what: "plugin",
          side: "android",
          wanted: "registerPlugin in the activity",
          at: source.place(type.from),
        });
    }
}

/** Source: capacitorjs.com, "Plugin configuration in package.json" (capacitor: { android: { src }, ios: { src } }). */
function ofPackage(
  name: string,
  side: "android" | "ios",
  of: string,
  place: CodeFacts["unnamed"][number]["at"],
): CodeFacts["unnamed"][number] {
  return { name, what: "plugin", side, wanted: `capacitor.${side}.src in the package.json of ${of}`, at: place };
}
