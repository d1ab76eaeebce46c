import { brokenFileOf } from "../../derive/incomplete.js";
import type { PathFact } from "../../model/facts.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = `${androidBlock()}dependencies {\n  implementation files('libs/tidewire-1.4.aar')\n}\n`;

/** What a build stops without. */
const NAMED: ReadonlySet<PathFact["kind"]> = new Set<PathFact["kind"]>([
  "binary",
  "package",
  "project",
  "product",
  "source file",
  "entitlements file",
  "bridging header",
  "catalog",
  "scheme",
  "variant",
  "catalog entry",
  "file",
  "module",
  "target",
  "configuration",
  "rules file",
  "included module",
  "module outside the build",
  "script",
  "property",
  "pattern",
  "variable",
  "hook",
  "project object",
  "name of the spec",
]);

/** Of these the build goes on, or may. */
const WARNED: ReadonlySet<PathFact["kind"]> = new Set<PathFact["kind"]>([
  "rules file",
  "hook",
  "pattern",
  "variable",
  "project object",
  "included module",
  "module outside the build",
]);

const MESSAGE: Partial<Record<PathFact["kind"], (path: PathFact) => string>> = {
  pattern: ({ text }) => `no file fits the pattern ${text}, which is to be taken in here`,
  "name of the spec": ({ text }) => `the ${text} is named here, but the spec does not have it: no project is written from it`,
  "project object": ({ text }) =>
    `the project names ${text}, which its file does not have, or has in no group: it is not in the build, or the project does not open`,
  "included module": ({ text, resolved }) => `the settings include the module ${text}, but its folder ${resolved ?? ""} is not there`,
  "module outside the build": ({ text }) =>
    `${text} is a module with code for Android, but the settings do not include it: nothing builds it`,
};

const FIX: Partial<Record<PathFact["kind"], string>> = {
  "project object": "add it again, or remove the line",
  module: "include it in the settings, or remove the reference",
  "module outside the build": "include it in the settings, or remove its folder",
};

const FIX_WITHOUT_NEAR: Partial<Record<PathFact["kind"], string>> = {
  property: "give it a value, or remove the reference",
  variable: "give it a value, or remove the reference",
  "name of the spec": "declare it in the spec, or remove the reference",
  "catalog entry": "add it to the catalog, or use the alias that is there",
};

function fixOf({ kind, text, near, resolved }: PathFact): string {
  const own = FIX[kind];
  if (own !== undefined) return own;
  if (near !== undefined) return `write ${near}, which is there`;
  const without = FIX_WITHOUT_NEAR[kind];
  if (without !== undefined) return without;
  if (kind === "package" && resolved === undefined) return "list its folder in the workspace, or write its version";
  const isTarget = kind === "target";
  if (resolved?.endsWith("Package.swift") === true && (isTarget || kind === "product"))
    return `declare it in ${resolved}, or remove the reference`;
  return isTarget || kind === "configuration"
    ? `name a ${kind} of the Xcode project`
    : `put it at ${resolved ?? text}, or remove the reference`;
}

export const binaryMissing = defineRule({
  name: "source/binary-missing",
  severity: "error",
  title: "Something that a build refers to is missing",
  looksAt:
    "Names that a script imports from a file of the app which gives out none of them. Frameworks, libraries, AAR and JAR files that a build file or a project file names, local packages given by path and the products that a target takes of them, source files of an Xcode target, its entitlements, property list, bridging header and files of settings, pods whose tools a script runs, files of the specifications of the repository's own pods, modules that the Gradle settings do not include, also those that lie beside the others and that nothing refers to, scripts that a Gradle script applies and entries that it takes of its own maps, aliases of libraries, bundles, versions and plugins that a version catalog does not have, files that an Expo configuration names, targets and configurations of a Podfile that the Xcode project does not have, files of keep rules that a build which shrinks its code names, files that a Cordova configuration, its pages and the project's own plugins name; native libraries that code of Android loads under almost their name, files of the app's own that Dart and scripts import by their path. Objects that build phases of an Xcode project name and the project does not have. What package managers and builds generate is left out.",
  why: "The build works where the file happens to exist and fails everywhere else: it was never committed, or it was moved.",
  advice: "Commit the file (or its large-file storage pointer), or remove the reference.",
  examples: {
    reported: androidExample(app),
    silent: androidExample(app, { "app/libs/tidewire-1.4.aar!/AndroidManifest.xml": "<manifest />" }),
  },
  check({ app }) {
    const { kind: framework, paths, code } = app;
    const isBroken = brokenFileOf(app, "android") !== undefined;
    const imports = (code?.lostImports ?? []).map(({ name, file, certain, inFile, at }) => ({
      side: "shared" as const,
      ...(certain ? {} : { severity: "warning" as const }),
      message: inFile ? `${name} is imported here, but ${file} gives out nothing of that name` : `${name} is imported here but is missing`,
      fix: inFile ? `export ${name} there, or import what it has` : `put it at ${file}, or write the path as it is`,
      places: [at],
      subject: inFile ? `import ${name} ${file}` : `import ${file}`,
    }));
    const named = paths.flatMap((path) => {
      if (path.exists !== false || path.generated || !NAMED.has(path.kind)) return [];
      // What lacks in a map may stand in a script that could not be read in full.
      if (path.kind === "property" && isBroken) return [];
      if ((path.kind === "project object" || path.kind === "name of the spec") && brokenFileOf(app, "ios") !== undefined) return [];
      // Templates of Unity are read where the editor puts them.
      if (path.kind === "script" && framework === "unity") return [];
      return [
        {
          side: path.side,
          ...(WARNED.has(path.kind) ? { severity: "warning" as const } : {}),
          message: MESSAGE[path.kind]?.(path) ?? `the ${path.kind} ${path.text} is referred to here but is missing`,
          fix: fixOf(path),
          places: [path.at],
          subject: path.kind === "project object" ? `object ${path.text}` : (path.resolved ?? path.text),
        },
      ];
    });
    const libraries = (code?.androidNames ?? []).flatMap(({ kind, name, near = "", module, at }) =>
      kind !== "library"
        ? []
        : [
            {
              side: "android" as const,
              message: `lib${name}.so is loaded here but ${module} does not have it`,
              fix: `write ${near}: the name of lib${near}.so without its lib and its ending`,
              places: [at],
              subject: `library ${name}`,
            },
          ],
    );
    return [...named, ...imports, ...libraries];
  },
});
