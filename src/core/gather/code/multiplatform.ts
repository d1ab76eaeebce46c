import { APPLE_MODULES } from "../../knowledge/apple-frameworks.js";
import { sourceSetOf, sourceSetSide } from "../../knowledge/source-sets.js";
import type { App } from "../../model/app.js";
import type { BridgeFact, CodeFacts } from "../../model/code.js";
import type { GradleModule } from "../../model/gradle.js";
import { isWithin } from "../../model/paths.js";
import { moduleOfPod, sdkIdOf } from "../../model/sdk-id.js";
import { withoutComments } from "../../syntax/comments.js";
import { frameworkModules } from "../platforms/multiplatform.js";
import type { ProjectFiles } from "../project-files.js";
import { kotlinFileType } from "./bridged-names.js";
import type { SourceFile } from "./sources.js";

/** A declaration at the top of a Kotlin file that shared code expects, or that a phone's code gives: its kind, and its name. */
const DECLARED =
  /^(?:@[\w.:]+(?:\([^()\n]*\))?[ \t]*\n?)*((?:(?:public|internal|private|suspend|inline|data|sealed|abstract|open|value|annotation|enum|operator|infix|const|lateinit|tailrec|expect|actual)[ \t]+)*)(class|object|interface|fun|val|var|typealias)[ \t]+(?:<[^>\n]*>[ \t]*)?(?:[\w.<>?, ]+\.)?(\w+)/gm;

/** The Gradle module of a source set, by the folder in front of `src/`. */
function moduleOf(file: string): string {
  return file.slice(0, Math.max(0, file.search(/(?:^|\/)src\/[a-z]\w*Main\//)));
}

/**
 * What shared Kotlin code expects of each phone and what the phones' source sets give. Only of modules with code of both phones' own: others
 * can have it in source sets that are shared otherwise. Source: kotlinlang.org, "Expected and actual declarations".
 */
export function expectedDeclarations({ android, ios }: App, sources: readonly SourceFile[]): BridgeFact[] {
  if (!android || !ios) return [];
  const own = sources.filter(({ language, file }) => language === "kotlin" && /\/src\/[a-z]\w*Main\//.test(`/${file}`));
  const found: BridgeFact[] = [];
  for (const { file: any } of own.filter((source) => source.side === "shared" && /\bexpect\b/.test(source.text))) {
    const module = moduleOf(any);
    if (found.some(({ at }) => moduleOf(at.file) === module)) continue;
    const files = own.filter(({ file }) => moduleOf(file) === module);
    if (!["android", "ios"].every((side) => files.some(({ file }) => sourceSetSide(file) === side))) continue;
    for (const source of files) found.push(...declarationsOf(source));
  }
  const offered = new Set(found.flatMap(({ role, name }) => (role === "offered" ? name : [])));
  for (const fact of found)
    if (fact.role === "asked") {
      fact.advice = `add an actual declaration of ${fact.name} to the source sets of both phones`;
      if (!offered.has(fact.name)) fact.near = "";
    }
  return found;
}

function declarationsOf(source: SourceFile): BridgeFact[] {
  const plain = withoutComments(source.text);
  const pack = /^\s*package\s+([\w.]+)/m.exec(plain)?.[1];
  return [...plain.matchAll(DECLARED)].flatMap((match): BridgeFact[] => {
    const role = /\bexpect\b/.test(match[1] ?? "") ? "asked" : /\bactual\b/.test(match[1] ?? "") ? "offered" : undefined;
    if (role === undefined || match[0].includes("@OptionalExpectation")) return [];
    const name = `${pack === undefined ? "" : `${pack}.`}${match[3] as string}`;
    const side = sourceSetSide(source.file);
    const of = role === "asked" || side === "none" ? "shared" : (side ?? "shared");
    return [
      {
        kind: "declaration",
        name,
        role,
        side: of,
        guards: [],
        at: source.place(match.index + match[0].length - (match[3] as string).length),
      },
    ];
  });
}

/** Modules of Kotlin that take pods, with the text of their scripts. */
function podModules(project: ProjectFiles, { android }: App): { module: GradleModule; text: string }[] {
  return (android?.modules ?? []).flatMap((module) => {
    if (module.pods.length === 0 && !module.plugins.some(({ id }) => id.endsWith("native.cocoapods"))) return [];
    const text = module.buildFile === undefined ? undefined : project.text(module.buildFile)?.text;
    return text === undefined ? [] : [{ module, text }];
  });
}

/** Pods that Kotlin code imports and that no module takes. Source: kotlinlang.org, "Add dependencies on a Pod library". */
export function undeclaredPods(project: ProjectFiles, app: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  const scripts = podModules(project, app);
  // A pod's module can have another name, and a script can take pods that are not seen here.
  if (
    scripts.some(
      ({ module, text }) => /\b(?:moduleName|packageName)\b/.test(text) || module.unread.some(({ what }) => /\bpod\b/.test(what)),
    )
  )
    return [];
  const declared = new Set(scripts.flatMap(({ module }) => module.pods.map(({ name }) => moduleOfPod(name))));
  const found = new Map<string, CodeFacts["elsewhere"][number]>();
  for (const source of sources) {
    if (source.language !== "kotlin" || source.side !== "ios") continue;
    for (const match of source.text.matchAll(/^[ \t]*import\s+cocoapods\.(\w+)/gm)) {
      const name = match[1] as string;
      const owner = scripts.find(({ module }) => isWithin(source.file, module.folder))?.module.path;
      if (declared.has(name) || found.has(name) || owner === undefined) continue;
      const at = source.place(match.index + match[0].length - name.length);
      found.set(name, { sdk: sdkIdOf("cocoapods", name), package: `the pod ${name}`, owner, declaredIn: [], side: "ios", at });
    }
  }
  return [...found.values()];
}

/** The names of the frameworks that modules of Kotlin make; nothing where one is not written out. */
export function frameworkNames(project: ProjectFiles, { android }: App): string[] {
  const names = frameworkModules(project, android?.modules ?? []).flatMap((maker) => maker.names);
  return names.every((name) => name !== undefined) ? names : [];
}

/** Types that Swift sees of Kotlin code and that Swift code has none of the same name of: classes, and those for functions of a file. */
function typesOfKotlin(sources: readonly SourceFile[]): Set<string> {
  const declared = new Set<string>();
  for (const { file, text, language, side } of sources) {
    if (language !== "kotlin" || side === "android" || sourceSetSide(file) === undefined) continue;
    for (const [, name = ""] of text.matchAll(/^[^\n"]*?\b(?:class|object|interface)\s+([A-Z]\w*)/gm)) declared.add(name);
    if (/^(?:\w+[ \t]+)*fun\b/m.test(text)) declared.add(kotlinFileType(file));
  }
  for (const { text, language } of sources)
    if (language === "swift" || language === "objc")
      for (const [, name = ""] of text.matchAll(/(?:\b(?:class|struct|enum|protocol|actor|typealias)|@interface)\s+([A-Z]\w*)/g))
        declared.delete(name);
  return declared;
}

/**
 * Files of Swift that use what Kotlin code declares and import no framework that is made of it. Only where each framework has its name
 * written out. Source: kotlinlang.org, "Build final native binaries" (baseName), "Interoperability with Swift/Objective-C".
 */
export function frameworkImports(project: ProjectFiles, app: App, sources: readonly SourceFile[]): CodeFacts["missingImports"] {
  const swift = sources.filter(({ language, side }) => language === "swift" && side === "ios");
  if (!app.ios || swift.length === 0 || !sources.some(({ file, side }) => side !== "android" && sourceSetSide(file) !== undefined))
    return [];
  const names = frameworkNames(project, app);
  const [first] = names;
  if (first === undefined || swift.some(({ text }) => /@_exported\s+import|\bpublic\s+import\b/.test(text))) return [];
  const imports = new Map(
    swift.map(({ file, text }) => [
      file,
      [...text.matchAll(/^[ \t]*(?:@\w+\s+)*import\s+(?:(?:class|struct|func|enum|protocol)\s+)?(\w+)/gm)].map(
        (match) => match[1] as string,
      ),
    ]),
  );
  const isImported = [...imports.values()].some((own) => own.some((name) => names.includes(name)));
  const fetched = new Set([
    ...app.dependencies.flatMap(({ ecosystem, name }) => (ecosystem === "cocoapods" ? name.replace(/\W/g, "_") : [])),
    ...app.ios.allTargets.flatMap(({ packageProducts }) =>
      packageProducts.flatMap(({ product, location }) => (location?.includes("://") ? product : [])),
    ),
  ]);
  const isModular = app.ios.allTargets.some(({ packageProducts, type }) => packageProducts.length > 0 || /framework|library/.test(type));
  const declared = typesOfKotlin(sources);
  return swift.flatMap((source) => {
    const own = imports.get(source.file) ?? [];
    // Another module can hand the framework on, where something imports that at all.
    const handsOn = isModular && own.some((name) => !APPLE_MODULES.has(name) && !fetched.has(name));
    if (own.some((name) => names.includes(name)) || (isImported && handsOn)) return [];
    const use = [...withoutComments(source.text).matchAll(/(?<![\w.])([A-Z]\w*)\.(?:shared\b|companion\b|\w+(?=\s*\())/g)].find(
      ({ 0: written, 1: name = "" }) => declared.has(name) && (name.endsWith("Kt") || /\.(?:shared|companion)$/.test(written)),
    );
    return use ? [{ sdk: undefined, callee: use[0], wanted: first, side: "ios" as const, at: source.place(use.index) }] : [];
  });
}

/** Functions at the top of Kotlin files that Swift sees, by their names there: `BowlineKt.doInitBowline`. */
function functionsOfFiles(sources: readonly SourceFile[]): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const { file, text, language, side } of sources) {
    if (language !== "kotlin" || side === "android" || sourceSetSide(file) === undefined) continue;
    const type = kotlinFileType(file);
    for (const [, modifiers = "", name = ""] of text.matchAll(
      /^((?:(?:public|internal|private|suspend|inline|operator|infix|tailrec|actual|expect|@\w+(?:\([^()\n]*\))?)[ \t]+)*)fun[ \t]+(?:<[^>\n]*>[ \t]*)?(?:[\w.<>?]+\.)?(\w+)/gm,
    )) {
      if (/private|internal/.test(modifiers)) continue;
      const seen = name.startsWith("init") ? `doI${name.slice(1)}` : name;
      found.set(name, [...new Set([...(found.get(name) ?? []), `${type}.${seen}`])]);
    }
  }
  return found;
}

/**
 * Functions of Kotlin files that Swift calls under a name which they do not have there, where one of the same name is in another file. Source:
 * kotlinlang.org, "Interoperability with Swift/Objective-C" (top-level functions).
 */
export function misnamedFunctions({ ios }: App, sources: readonly SourceFile[]): BridgeFact[] {
  if (!ios || !sources.some(({ file, language }) => language === "kotlin" && sourceSetSide(file) === "ios")) return [];
  const functions = functionsOfFiles(sources);
  return sources.flatMap((source) => {
    if (source.language !== "swift") return [];
    return [...withoutComments(source.text).matchAll(/(?<![\w.])([A-Z]\w*Kt)\.(\w+)\s*\(/g)].flatMap((match): BridgeFact[] => {
      const [, type = "", name = ""] = match;
      const [near, more] = functions.get(name.replace(/^doInit/, "init").replace(/_+$/, "")) ?? [];
      const written = `${type}.${name.replace(/_+$/, "")}`;
      if (near === undefined || more !== undefined || near === written) return [];
      return [{ kind: "declaration", name: written, near, role: "asked", side: "ios", guards: [], at: source.place(match.index) }];
    });
  });
}

/** What the libraries of the platforms of one phone alone begin with. Sources: kotlinlang.org, "Platform libraries"; developer.android.com. */
const OF_PHONE: readonly { names: RegExp; side: "android" | "ios" }[] = [
  { names: /^(?:android|java|javax|dalvik)\./, side: "android" },
  { names: /^(?:platform|cocoapods)\./, side: "ios" },
];

/** The phone that alone has a library of a platform. */
function phoneOf(name: string): "android" | "ios" | undefined {
  const [first, library = ""] = name.split(".");
  return first === "platform" && !APPLE_MODULES.has(library) ? undefined : OF_PHONE.find(({ names }) => names.test(name))?.side;
}

/** The phone whose source sets alone declare the packages of a group. */
function declaredFor({ dependencies }: App, name: string): "android" | "ios" | undefined {
  const group = name.split(":")[0];
  const declared = dependencies.filter((own) => own.ecosystem === "maven" && !own.test && own.name.split(":")[0] === group);
  const [only, ...more] = new Set(declared.map(({ side }) => side));
  const isOfSets = declared.every(({ scope }) => sourceSetOf(scope) !== undefined);
  return more.length === 0 && isOfSets && (only === "android" || only === "ios") ? only : undefined;
}

/**
 * What code that both phones share imports, and only one phone has: a library of its platform, or a package that the source set of that phone
 * declares. Only of modules with code for each phone.
 */
export function importsOfOnePhone(app: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  const { android, ios } = app;
  if (!android || !ios) return [];
  const targets = new Set(sources.flatMap(({ file }) => (sourceSetSide(file) === "ios" ? moduleOf(file) : [])));
  const found = new Map<string, CodeFacts["elsewhere"][number]>();
  for (const source of sources) {
    const module = moduleOf(source.file);
    if (source.language !== "kotlin" || sourceSetSide(source.file) !== "shared" || !targets.has(module)) continue;
    const owner = `the shared code of ${android.modules.find(({ folder }) => folder === module)?.path ?? module}`;
    const note = (sdk: string | undefined, name: string, only: "android" | "ios" | undefined, offset: number): void => {
      if (only === undefined || found.has(`${owner} ${name}`)) return;
      found.set(`${owner} ${name}`, { sdk, package: name, owner, declaredIn: [], only, side: "shared", at: source.place(offset) });
    };
    for (const match of withoutComments(source.text).matchAll(/^[ \t]*import[ \t]+([\w.]+)/gm)) {
      const name = match[1] as string;
      note(undefined, name, phoneOf(name), match.index + match[0].length - name.length);
    }
    for (const { sdk, package: name, offset } of source.imports) note(sdk, name, declaredFor(app, name), offset);
  }
  return [...found.values()];
}
