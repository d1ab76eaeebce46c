import { ARCHIVE, insideArchive } from "../../files/archives.js";
import type { FileTree } from "../../files/tree.js";
import type { AndroidLibrary } from "../../model/app.js";
import type { LevelName, NativeLibrary } from "../../model/facts.js";
import { uniquePlaces } from "../../model/place.js";
import { reason } from "../../model/reason.js";
import { baseName, isInstalled, join } from "../../model/paths.js";
import type { GradleModule } from "../../model/gradle.js";
import { known, possibleTexts, textOf } from "../../model/value.js";
import { entriesOf, placeOf } from "../../syntax/data.js";
import { ELF_HEAD, readElf } from "../../syntax/elf.js";
import { noteManifestNeeds, readLibraryManifest } from "../platforms/android/manifest.js";
import { readRulesFile } from "../platforms/android/shrink.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";

/** Who brings a native library: nobody for the app's own. */
type Bringer = Pick<NativeLibrary, "by" | "sdk"> & { variant?: string | undefined };

/** Where an Android archive says what it asks of a build. Source: developer.android.com, "AAR metadata". */
const METADATA = "META-INF/com/android/build/gradle/aar-metadata.properties";

/** Levels in the metadata of an archive. */
const METADATA_LEVELS: readonly (readonly [key: string, level: LevelName])[] = [
  ["minCompileSdk", "compileSdk"],
  ["minAndroidGradlePluginVersion", "androidPlugin"],
];

/** What is no statement: the values that the build writes where a library asks for nothing. */
const ASKS_FOR_NOTHING = /^(0|1|1\.0\.0|0\.0\.0)$/;

/**
 * What an archive or a library of classes asks of the app and brings to it: its manifest, metadata, keep rules, native libraries, and the
 * Kotlin that its code was made with. Source: developer.android.com, "Anatomy of an AAR file".
 */
function readAndroidBinary(project: ProjectFiles, app: FactSink, binary: AndroidLibrary): void {
  const { file, by } = binary;
  const { tree } = project;
  if (isPointer(tree, file)) {
    app.blindSpot({ side: "android", what: baseName(file), why: reason("pointer-only"), places: [startOfFile(file)] });
    return;
  }
  const inside = (path: string): string => insideArchive(file, path);
  if (!tree.isFolder(inside(""))) {
    const read = tree.read(inside(""));
    if (tree.isFile(file) && !read.ok) app.blindSpot({ side: "android", what: baseName(file), why: read.why, places: [startOfFile(file)] });
    return;
  }
  if (/\.aar$/i.test(file)) {
    readLibraryManifest(project, app, inside("AndroidManifest.xml"), by);
    noteManifestNeeds(project, app, inside("AndroidManifest.xml"), binary);
    readMetadata(project, app, inside(METADATA), binary);
    readRulesFile(project, app, inside("proguard.txt"), by);
    readNativeLibraries(project, app, inside("jni"), binary);
    readClasses(project, app, inside("classes.jar"), binary);
  } else readClasses(project, app, file, binary);
}

/** The libraries that the Android side takes in as files of the project. */
export function androidFiles(app: FactSink): void {
  for (const { side, file, name, sdk, test, variant, places } of app.dependencies)
    if (side === "android" && file !== undefined && !test && ARCHIVE.test(file))
      app.androidLibrary({ file, by: name, sdk, variant, places });
}

/** What libraries ask and bring, and the native libraries in the app's own modules. */
export function readAndroidBinaries(project: ProjectFiles, app: FactSink): void {
  const distinct = [...new Map(app.androidLibraries.map((binary) => [binary.file, binary])).values()];
  for (const binary of distinct) readAndroidBinary(project, app, binary);
  noteDoubledClasses(project, app, distinct);
  noteLooseArchives(project, app);
  for (const module of app.android?.modules ?? [])
    for (const folder of nativeFolders(module))
      readNativeLibraries(project, app, folder, {
        by: module === app.android?.module ? undefined : module.path,
        sdk: undefined,
      });
}

/** Folders in which the templates of the platform have archives: `libs`, and the one of archives with resources. */
const FOLDERS_OF_ARCHIVES = ["libs", "aars"];

function noteLooseArchives({ tree }: ProjectFiles, app: FactSink): void {
  const { build, modules } = app.android ?? {};
  if (!build || !modules || app.android?.generated) return;
  const all = [build.settings, build.root, ...build.modules.values()];
  const taken = new Set(all.flatMap(({ paths }) => paths.flatMap(({ resolved }) => resolved ?? [])));
  for (const { path, folder } of modules)
    for (const entry of FOLDERS_OF_ARCHIVES.flatMap((name) => tree.list(join(folder, name)).map((one) => ({ ...one, in: name })))) {
      const file = join(folder, entry.in, entry.name);
      if (entry.kind === "file" && ARCHIVE.test(entry.name) && !taken.has(file) && !isInstalled(file))
        app.looseArchive({ module: path, file });
    }
}

/** Where a module has native libraries that were built before. Source: developer.android.com, "Configure build variants" (jniLibs). */
export function nativeFolders({ folder, settings }: GradleModule): string[] {
  const named = settings
    .filter(({ block, name }) => /^sourceSets\.main\.jniLibs$/.test(block) && /^(srcDirs?|setSrcDirs)$/.test(name))
    .flatMap(({ values }) => values.flatMap(possibleTexts));
  return [...new Set(["src/main/jniLibs", "src/androidMain/jniLibs", ...named])].map((path) => join(folder, path));
}

/** How many names of classes are compared. */
const MOST_CLASSES = 300_000;

/** Classes of one name in two libraries. */
function noteDoubledClasses(project: ProjectFiles, app: FactSink, binaries: readonly AndroidLibrary[]): void {
  const inputs = binaries.map(({ file, variant = "", fetched }) => `${file} ${variant} ${fetched ? JSON.stringify(fetched) : ""}`);
  const pairs = binaries.length < 2 ? [] : project.part("doubled classes", inputs, () => doubledIn(project.tree, binaries));
  for (const { first, second, count, example } of pairs) {
    const [one, other] = [binaries[first], binaries[second]];
    if (one && other)
      app.doubledClass({
        first: one.by,
        second: other.by,
        count,
        example,
        sdk: other.sdk,
        at: uniquePlaces([...one.places, ...other.places]),
      });
  }
}

/** Pairs of libraries by their numbers. */
function doubledIn(
  tree: FileTree,
  binaries: readonly AndroidLibrary[],
): { first: number; second: number; count: number; example: string }[] {
  const owners = new Map<string, number[]>();
  const doubled = new Map<string, { first: number; second: number; count: number; example: string }>();
  for (const [second, binary] of binaries.entries())
    for (const name of classesIn(tree, binary.file)) {
      const others = owners.get(name) ?? [];
      if (owners.size < MOST_CLASSES || others.length > 0) owners.set(name, [...others, second]);
      const first = others.find((other) => meet(binaries[other] as AndroidLibrary, binary));
      if (first === undefined) continue;
      const pair = doubled.get(`${first} ${second}`);
      if (pair) pair.count++;
      else doubled.set(`${first} ${second}`, { first, second, count: 1, example: name.replaceAll("/", ".") });
    }
  return [...doubled.values()];
}

/** What one variant has and what another has never meet; of two fetched packages another version may have come without. */
function meet(one: AndroidLibrary, other: AndroidLibrary): boolean {
  if (one.variant !== undefined && other.variant !== undefined && one.variant !== other.variant) return false;
  return !one.fetched || !other.fetched || !(one.fetched.open || other.fetched.open || (one.fetched.platform && other.fetched.platform));
}

/** The classes of a library by their paths, without those that every library has of its own or that the build leaves out. */
function classesIn(tree: FileTree, file: string): string[] {
  const jars = /\.aar$/i.test(file)
    ? [insideArchive(file, "classes.jar"), ...tree.list(insideArchive(file, "libs")).map(({ name }) => insideArchive(file, `libs/${name}`))]
    : [file];
  return jars.flatMap((jar) =>
    [...classFiles(tree, jar)].flatMap((path) =>
      /(^|\/)(module-info|package-info|BuildConfig|R(\$\w+)?)\.class$/.test(path) ? [] : path.slice(0, -".class".length),
    ),
  );
}

/** The class files in a library of classes, by their paths; what stands for newer systems beside them is left out. */
function* classFiles(tree: FileTree, jar: string): Generator<string> {
  const open = [""];
  for (let folder = open.pop(); folder !== undefined; folder = open.pop())
    for (const { name, kind } of tree.list(insideArchive(jar, folder))) {
      const path = folder === "" ? name : `${folder}/${name}`;
      if (kind === "file" && name.endsWith(".class")) yield path;
      else if (kind === "folder" && path !== "META-INF") open.push(path);
    }
}

const startOfFile = (file: string) => ({ file, line: 1, column: 1 });

/** A checkout can hold a few lines in place of a large file. Source: the specification of Git's extension for large files, "The Pointer". */
function isPointer(tree: FileTree, file: string): boolean {
  if ((tree.size(file) ?? 0) > 1024) return false;
  return /^version https:\/\/\S+\r?\noid sha256:/.test(Buffer.from(tree.part(file, 0, 256) ?? []).toString("latin1"));
}

function readMetadata(project: ProjectFiles, app: FactSink, file: string, { by, sdk }: AndroidLibrary): void {
  const root = project.tree.isFile(file) ? project.properties(file) : undefined;
  for (const [name, { value }] of entriesOf(root)) {
    const text = value.kind === "scalar" ? String(value.value).trim() : "";
    const level = METADATA_LEVELS.find(([key]) => key === name)?.[1];
    if (level && /^\d[\d.]*$/.test(text) && !ASKS_FOR_NOTHING.test(text))
      app.required({ level, value: known(text, placeOf(value)), by, sdk, from: "archive" });
    if (name === "coreLibraryDesugaringEnabled" && text === "true") app.desugaringNeed({ by, sdk, at: placeOf(value) });
  }
}

/** The native libraries below a folder with one folder for each kind of processor. */
export function readNativeLibraries(project: ProjectFiles, app: FactSink, folder: string, { by, sdk, variant }: Bringer): void {
  const { tree } = project;
  for (const processor of tree.list(folder)) {
    if (processor.kind !== "folder") continue;
    for (const { name, kind } of tree.list(join(folder, processor.name))) {
      if (kind !== "file" || !name.endsWith(".so")) continue;
      const file = join(join(folder, processor.name), name);
      const head = readElf(tree.part(file, 0, ELF_HEAD) ?? new Uint8Array());
      app.nativeLibrary({
        file,
        name,
        processor: processor.name,
        alignment: head?.alignment,
        by,
        sdk,
        variant,
      });
    }
  }
}

/**
 * Which compilers the classes of a library ask for: a compiler of Kotlin reads what the next release has made, and nothing newer; one of Java its own
 * release and before, told where the app states which it compiles with. Source: kotlinlang.org, "Kotlin evolution principles".
 */
function readClasses(project: ProjectFiles, app: FactSink, jar: string, { by, sdk }: AndroidLibrary): void {
  const toolchain = textOf(app.android?.module.settings.find(({ name }) => name === "jvmToolchain")?.values[0]);
  const { kotlin, java } = project.part("compilers of a library", [jar, toolchain === undefined ? "" : "Java"], () => ({
    kotlin: kotlinOf(project.tree, insideArchive(jar, "META-INF")),
    java: toolchain === undefined ? undefined : javaOf(project.tree, jar),
  }));
  const reads = kotlin && releaseBefore(kotlin.major, kotlin.minor);
  if (reads !== undefined)
    app.required({ level: "kotlin", value: known(reads, startOfFile(kotlin?.file ?? "")), by, sdk, from: "Kotlin metadata" });
  if (java && java.release > Number(toolchain) && java.release < 100)
    app.required({ level: "java", value: known(String(java.release), startOfFile(java.file)), by, sdk, from: "class files" });
}

/** Source: The Java Virtual Machine Specification, 4.1 ("major_version": 44 and the release). */
function javaOf(tree: FileTree, jar: string): { release: number; file: string } | undefined {
  const { value: first } = classFiles(tree, jar).next() as IteratorResult<string, undefined>;
  const file = first === undefined ? undefined : insideArchive(jar, first);
  const head = file === undefined ? undefined : tree.part(file, 0, 8);
  if (file === undefined || !head || head.length < 8) return undefined;
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  return view.getUint32(0) === 0xcafebabe ? { release: view.getUint16(6) - 44, file } : undefined;
}

/**
 * The header of a `.kotlin_module` is the length of the version, then its numbers, each of 32 bits. Source: the compiler's `ModuleMapping`.
 */
function kotlinOf(tree: FileTree, folder: string): { major: number; minor: number; file: string } | undefined {
  const module = tree.list(folder).find(({ name, kind }) => kind === "file" && name.endsWith(".kotlin_module"));
  if (!module) return undefined;
  const file = join(folder, module.name);
  const head = tree.part(file, 0, 12);
  if (!head || head.length < 12) return undefined;
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  const [length, major, minor] = [view.getUint32(0), view.getUint32(4), view.getUint32(8)];
  return length >= 2 && length <= 4 && minor < 20 ? { major, minor, file } : undefined;
}

/** The Kotlin release before one. Source: kotlinlang.org, "Kotlin release process" (1.9 is followed by 2.0). */
function releaseBefore(major: number, minor: number): string | undefined {
  if (major === 2) return minor === 0 ? "1.9" : `2.${minor - 1}`;
  return major === 1 && minor > 4 && minor <= 9 ? `1.${minor - 1}` : undefined;
}
