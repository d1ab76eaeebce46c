import { builtinModules } from "node:module";
import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import { ownPackageOf, type App } from "../../model/app.js";
import type { CodeFacts } from "../../model/code.js";
import { isWithin, join } from "../../model/paths.js";
import { sdkIdOf } from "../../model/sdk-id.js";
import { withoutComments } from "../../syntax/comments.js";
import { isScript } from "../../syntax/code/languages.js";
import { ancestors, findInstalled, readManifest, type NpmManifest } from "../packages/packages.js";
import { toolAliases, type ToolAliases } from "../packages/path-aliases.js";
import { findMember } from "../packages/workspace-packages.js";
import type { ProjectFiles } from "../project-files.js";
import { textAt } from "../../syntax/data.js";
import { escaped } from "./mentions.js";
import { isInTry } from "./lost-files.js";
import { standsInCode } from "./stands-in-code.js";
import type { SourceFile } from "./sources.js";
import type { SideName } from "../../model/facts.js";
import type { Place } from "../../model/place.js";

const IMPORT =
  /^[ \t]*(?:(?:import|export)(?!\s+type\b)\s[^'"\n;]*?from\s*|import\s*|\}\s*from\s*)(["'])(@[\w.-]+\/[\w.-]+|[a-z][\w.-]*)(?:\/[^"'\n]*)?\1|\brequire\(\s*(["'])(@[\w.-]+\/[\w.-]+|[a-z][\w.-]*)(?:\/[^"'\n]*)?\3\s*\)/gm;

const KINDS: ReadonlySet<App["kind"]> = new Set<App["kind"]>(["react-native", "expo", "capacitor", "cordova"]);

/** What puts packages into pages: without it a name is none of a package. */
const BUNDLER = /^(?:vite|webpack|parcel|rollup|esbuild|@rspack\/core|react-scripts|@vue\/cli-service)$/;

const NODE: ReadonlySet<string> = new Set(builtinModules);

/**
 * Packages that the app's own scripts import and that nothing around declares: they are there by chance, or not at all. What is installed counts as
 * there, and so does what a lock names. Source: docs.npmjs.com, "Specifics of npm's package.json handling"; pnpm.io,
 * "Motivation" (only what is declared can be imported).
 */
// eslint-disable-next-line complexity -- one question after the other for each import
export function undeclaredPackages(
  project: ProjectFiles,
  index: FolderIndex,
  app: App,
  sources: readonly SourceFile[],
): CodeFacts["elsewhere"] {
  if (!KINDS.has(app.kind) || !app.shared) return [];
  const { folder } = app.shared;
  const around = ancestors(project, folder).flatMap((path) => readManifest(project, path) ?? []);
  const [own] = around;
  if (!own) return [];
  if (app.kind === "cordova" && !around.some(({ declarations }) => declarations.some(({ name }) => BUNDLER.test(name)))) return [];
  const declared = new Set([...around.flatMap(({ declarations, name }) => [...declarations.map((one) => one.name), name])]);
  // Old settings give files and folders of the app a name without a path.
  let stems: Set<string> | undefined;
  const isOwn = (name: string): boolean => {
    stems ??= new Set(
      [...foldersBelow(index, folder)].flatMap(([, { files, folders }]) => [...folders, ...files.map((file) => file.replace(/\..*$/, ""))]),
    );
    return stems.has(name);
  };
  let given: ToolAliases | undefined;
  const found = new Map<string, CodeFacts["elsewhere"][number]>();
  for (const source of sources) {
    if (!isWithin(source.file, folder) || !isScript(source.language) || source.guards.length > 0) continue;
    // Packages of the repository that lie below the app have lists of their own.
    if (ownPackageOf(app, source.file) !== undefined) continue;
    let plain: string | undefined;
    for (const match of source.text.matchAll(IMPORT)) {
      const name = (match[2] ?? match[4]) as string;
      if (declared.has(name) || isAlias(app, name) || NODE.has(name) || found.has(name)) continue;
      if (match[4] !== undefined && isInTry(source.text, match.index)) continue;
      if (!standsInCode(match, (plain ??= withoutComments(source.text)))) continue;
      // A member of the workspace is in its lock, and linked to those that declare it.
      if (!findMember(project, folder, name) && (isThere(project, app, folder, name) || isOwn(name))) continue;
      if (mayMean((given ??= toolAliases(project, folder)), name)) continue;
      const at = source.place(match.index + match[0].lastIndexOf(name));
      found.set(name, { sdk: sdkIdOf("npm", name), package: name, owner: own.name ?? app.name, declaredIn: [], side: "shared", at });
    }
  }
  addFromSettings(project, app, folder, declared, found, own);
  return [
    ...found.values(),
    ...lentPackages(project, app, sources, own),
    ...notHandedOn(project, app, sources),
    ...notLinked(project, app, sources, around),
  ];
}

/** Whether settings of the tools give a name another meaning, or may. */
function mayMean({ names, isOpen }: ToolAliases, name: string): boolean {
  return isOpen || names.has(name) || [...names].some((own) => own.startsWith(`${name}/`) || name.startsWith(`${own}/`));
}

/** Whether the settings of the app's language give a folder that name. */
function isAlias({ ownPackages }: App, name: string): boolean {
  return ownPackages.some(({ name: own, alias }) => alias && (name === own || name.startsWith(`${own}/`) || own.startsWith(`${name}/`)));
}

/**
 * Packages that a package of the repository imports and has for its own development alone, or not at all: whoever installs it gets none of them.
 * Source: docs.npmjs.com, "package.json" (devDependencies are not installed with a package).
 */
function notHandedOn(project: ProjectFiles, app: App, sources: readonly SourceFile[]): CodeFacts["elsewhere"] {
  return app.ownPackages.flatMap(({ folder, alias, name: owner }): CodeFacts["elsewhere"] => {
    const own = alias ? undefined : readManifest(project, folder);
    if (!own || textAt(own.root, "private") === "true") return [];
    const sections = new Map<string, string[]>();
    for (const { name, section } of own.declarations) sections.set(name, [...(sections.get(name) ?? []), section]);
    const told = new Set<string>();
    return sources.flatMap((source) => {
      const isOfPackage = isWithin(source.file, folder) && ownPackageOf(app, source.file)?.folder === folder;
      if (!isOfPackage || !isScript(source.language) || !IN_LIBRARY.test(source.file.slice(folder === "" ? 0 : folder.length + 1)))
        return [];
      let plain: string | undefined;
      return [...source.text.matchAll(IMPORT)].flatMap((match): CodeFacts["elsewhere"] => {
        const name = (match[2] ?? match[4]) as string;
        const stated = sections.get(name);
        if (stated?.some((section) => section !== "devDependencies") || name === owner || told.has(name)) return [];
        if (BROUGHT.test(name) || NODE.has(name) || app.ownPackages.some((other) => other.name === name)) return [];
        if (match[4] !== undefined && isInTry(source.text, match.index)) return [];
        // What the app has in its place is told as lent.
        const isElsewhere = isAlias(app, name) || app.dependencies.some((one) => one.ecosystem === "npm" && one.name === name);
        if (stated === undefined && (isElsewhere || isThere(project, app, folder, name) || mayMean(toolAliases(project, folder), name)))
          return [];
        if (!standsInCode(match, (plain ??= withoutComments(source.text)))) return [];
        told.add(name);
        const at = source.place(match.index + match[0].lastIndexOf(name));
        const declaredIn = stated === undefined ? [] : ["devDependencies"];
        return [{ sdk: sdkIdOf("npm", name), package: name, owner, declaredIn, side: "shared", at }];
      });
    });
  });
}

/** A command that installs an archive, or a folder, without a declaration. */
const INSTALLS_PACKED = /\b(?:npm|yarn|pnpm)\b[^&|;]*\b(?:add|i|install|link)\b[^&|;]*(?:\.tgz|\bfile:|--no-save|--no-lockfile)/;

/** Files of a package that whoever installs it runs: not its tests, settings and examples. */
const IN_LIBRARY =
  /^(?:src|lib|source)\/(?!(?:.*\/)?(?:__tests__|__mocks__|__fixtures__|tests?|mocks?|jest)\/)(?!.*\.(?:test|spec|stories)\.\w+$)/;

/**
 * A package around the app, with native code, that the app imports and neither declares nor links by its configuration: its scripts are found, its
 * native code is not in the app. Source: the React Native command line's documentation, "Autolinking".
 */
function notLinked(
  project: ProjectFiles,
  app: App,
  sources: readonly SourceFile[],
  around: readonly NpmManifest[],
): CodeFacts["elsewhere"] {
  if (app.kind !== "react-native") return [];
  const hasOwnRoots = project.tree
    .list(app.path)
    .some(({ name }) => /^react-native\.config\.\w+$/.test(name) && /\broot\b/.test(project.text(join(app.path, name))?.text ?? ""));
  // A script of the repository may install it as it is packed.
  if (around.some(({ scripts }) => scripts.some(({ command }) => INSTALLS_PACKED.test(command)))) return [];
  return around.slice(1).flatMap(({ folder, name }): CodeFacts["elsewhere"] => {
    const entries = project.tree.list(folder);
    const isNative = entries.some((entry) => entry.name.endsWith(".podspec")) && entries.some((entry) => entry.name === "android");
    if (name === undefined || !isNative || hasOwnRoots || app.dependencies.some((one) => one.ecosystem === "npm" && one.name === name))
      return [];
    const form = new RegExp(`\\bfrom\\s+["']${escaped(name)}["']`);
    const user = sources.find((source) => isWithin(source.file, app.path) && isScript(source.language) && form.test(source.text));
    const at = user?.place(form.exec(user.text)?.index ?? 0);
    return at ? [{ sdk: sdkIdOf("npm", name), package: name, owner: app.name, declaredIn: [], side: "shared", at }] : [];
  });
}

/**
 * Packages that a package of the repository imports, and that the app declares in its place: they are there for the app alone.
 * Source: docs.npmjs.com, "workspaces"; pnpm.io, "Motivation".
 */
function lentPackages(project: ProjectFiles, app: App, sources: readonly SourceFile[], own: NpmManifest): CodeFacts["elsewhere"] {
  const lent = new Set(own.declarations.map(({ name }) => name));
  return app.ownPackages.flatMap(({ folder, alias, name: owner }) => {
    const around = alias ? [] : ancestors(project, folder).flatMap((path) => readManifest(project, path) ?? []);
    const [first] = around;
    if (!first || first === own || isWithin(own.file, folder)) return [];
    const declared = new Set(around.flatMap(({ declarations, name }) => [...declarations.map((one) => one.name), name]));
    const told = new Set<string>();
    return sources.flatMap((source) => {
      if (!isWithin(source.file, folder) || !isScript(source.language)) return [];
      let plain: string | undefined;
      return [...source.text.matchAll(IMPORT)].flatMap((match): CodeFacts["elsewhere"] => {
        const name = (match[2] ?? match[4]) as string;
        if (declared.has(name) || !lent.has(name) || BROUGHT.test(name) || NODE.has(name) || told.has(name)) return [];
        if (!standsInCode(match, (plain ??= withoutComments(source.text)))) return [];
        told.add(name);
        const at = source.place(match.index + match[0].lastIndexOf(name));
        return [{ sdk: sdkIdOf("npm", name), package: name, owner, declaredIn: [own.name ?? app.name], side: "shared", at }];
      });
    });
  });
}

/** Packages that the frameworks bring with themselves. Sources: the `dependencies` of `expo` and of `react-native`, read 2026-11. */
const BROUGHT =
  /^(@expo\/|expo-(asset|constants|file-system|font|keep-awake|modules-core|modules-autolinking)$|@react-native\/|@react-navigation\/|@babel\/|(react|react-dom|react-native|scheduler|invariant|semver)$|metro($|-))/;

/** Files of settings, how they name packages, and names that come with what reads them. Sources: babeljs.io, "Config Files"; metrobundler.dev, "Configuring Metro". */
const SETTINGS: readonly { files: readonly string[]; form: RegExp; brought: RegExp }[] = [
  {
    files: ["babel.config.js", "babel.config.cjs", ".babelrc.js"],
    form: /["']module:(@[\w.-]+\/[\w.-]+|[a-z][\w.-]*)(?:\/[^"'\n]*)?["']/g,
    brought: /^@react-native\//,
  },
  {
    files: ["metro.config.js", "metro.config.cjs"],
    form: /\brequire\(\s*["'](@[\w.-]+\/[\w.-]+|[a-z][\w.-]*)(?:\/[^"'\n]*)?["']\s*\)/g,
    brought: /^metro(-|$)|^@expo\//,
  },
];

/** Packages that the settings of the script compiler and of the bundler name. */
function addFromSettings(
  project: ProjectFiles,
  app: App,
  folder: string,
  declared: Set<string | undefined>,
  found: Map<string, { sdk: string | undefined; package: string; owner: string; declaredIn: string[]; side: SideName; at: Place }>,
  own: NpmManifest,
): void {
  for (const { files, form, brought } of SETTINGS)
    for (const file of files) {
      const source = project.tree.isFile(join(folder, file)) ? project.text(join(folder, file)) : undefined;
      for (const match of source ? withoutComments(source.text).matchAll(form) : []) {
        const name = match[1] as string;
        if (!source || declared.has(name) || found.has(name) || NODE.has(name) || brought.test(name)) continue;
        if (isLocked(app, name) || findInstalled(project, folder, name) !== undefined || isInTry(source.text, match.index)) continue;
        const at = source.place(match.index + match[0].indexOf(name));
        found.set(name, { sdk: sdkIdOf("npm", name), package: name, owner: own.name ?? app.name, declaredIn: [], side: "shared", at });
      }
    }
}

/** Whether the lock has a package, and not only as one that the app declared before. */
function isLocked({ lockedNames, locks }: App, name: string): boolean {
  return (
    lockedNames.has(`npm ${name}`) &&
    !locks.some(({ declaredApart }) => declaredApart.some((one) => one.name === name && one.declared === undefined))
  );
}

function isThere(project: ProjectFiles, app: App, folder: string, name: string): boolean {
  // One that the lock has as declared, and that is not, goes with the next installation.
  if (app.lockedNames.has(`npm ${name}`) && !isLocked(app, name)) return false;
  return BROUGHT.test(name) || isLocked(app, name) || findInstalled(project, folder, name) !== undefined;
}
