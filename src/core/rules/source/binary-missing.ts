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
  "script",
  "property",
  "pattern",
  "variable",
  "hook",
  "project object",
]);

export const binaryMissing = defineRule({
  name: "source/binary-missing",
  severity: "error",
  title: "Something that a build refers to is missing",
  looksAt:
    "Frameworks, libraries, AAR and JAR files that a build file or a project file names, local packages given by path and the products that a target takes of them, source files of an Xcode target, its entitlements, property list, bridging header and files of settings, pods whose tools a script runs, files of the specifications of the repository's own pods, modules that the Gradle settings do not include, scripts that a Gradle script applies and entries that it takes of its own maps, aliases of libraries, bundles, versions and plugins that a version catalog does not have, files that an Expo configuration names, targets and configurations of a Podfile that the Xcode project does not have, files of keep rules that a build which shrinks its code names, files that a Cordova configuration, its pages and the project's own plugins name; native libraries that code of Android loads under almost their name, files of the app's own that Dart and scripts import by their path. Objects that build phases of an Xcode project name and the project does not have. What package managers and builds generate is left out.",
  why: "The build works where the file happens to exist and fails everywhere else: it was never committed, or it was moved.",
  advice: "Commit the file (or its large-file storage pointer), or remove the reference.",
  examples: {
    reported: androidExample(app),
    silent: androidExample(app, { "app/libs/tidewire-1.4.aar!/AndroidManifest.xml": "<manifest />" }),
  },
  check({ app }) {
    const { kind: framework, paths, code } = app;
    const isBroken = brokenFileOf(app, "android") !== undefined;
    const imports = (code?.lostImports ?? []).map(({ name, file, certain, at }) => ({
      side: "shared" as const,
      ...(certain ? {} : { severity: "warning" as const }),
      message: `${name} is imported here but is missing`,
      fix: `put it at ${file}, or write the path as it is`,
      places: [at],
      subject: `import ${file}`,
    }));
    // eslint-disable-next-line complexity -- the words for each kind of path
    const named = paths.flatMap((path) => {
      if (path.exists !== false || path.generated || !NAMED.has(path.kind)) return [];
      // What lacks in a map may stand in a script that could not be read in full.
      if (path.kind === "property" && isBroken) return [];
      if (path.kind === "project object" && brokenFileOf(app, "ios") !== undefined) return [];
      // Templates of Unity are read where the editor puts them.
      if (path.kind === "script" && framework === "unity") return [];
      return [
        {
          side: path.side,
          ...(path.kind === "rules file" ||
          path.kind === "hook" ||
          path.kind === "pattern" ||
          path.kind === "variable" ||
          path.kind === "project object" ||
          path.kind === "included module"
            ? { severity: "warning" as const }
            : {}),
          message:
            path.kind === "pattern"
              ? `no file fits the pattern ${path.text}, which is to be taken in here`
              : path.kind === "project object"
                ? `a build phase names ${path.text}, which the project file does not have: it is not in the build`
                : path.kind === "included module"
                  ? `the settings include the module ${path.text}, but its folder ${path.resolved ?? ""} is not there`
                  : `the ${path.kind} ${path.text} is referred to here but is missing`,
          fix:
            path.kind === "project object"
              ? "add it to the target again, or remove the line"
              : path.kind === "module"
                ? "include it in the settings, or remove the reference"
                : path.near !== undefined
                  ? `write ${path.near}, which is there`
                  : path.kind === "property" || path.kind === "variable"
                    ? "give it a value, or remove the reference"
                    : path.kind === "catalog entry"
                      ? "add it to the catalog, or use the alias that is there"
                      : path.kind === "package" && path.resolved === undefined
                        ? "list its folder in the workspace, or write its version"
                        : path.resolved?.endsWith("Package.swift") === true && (path.kind === "target" || path.kind === "product")
                          ? `declare it in ${path.resolved}, or remove the reference`
                          : path.kind === "target" || path.kind === "configuration"
                            ? `name a ${path.kind} of the Xcode project`
                            : `put it at ${path.resolved ?? path.text}, or remove the reference`,
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
