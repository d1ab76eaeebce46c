import { hasOwnPlugins } from "../../derive/own-plugins.js";
import { ANDROID_PLUGIN } from "../../knowledge/android-build.js";
import { PLATFORM_PLUGIN } from "../../knowledge/platform-packages.js";
import type { AndroidSide, App } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import type { GradleDependency, GradleModule, ModuleReference } from "../../model/gradle.js";
import type { Place } from "../../model/place.js";
import { nearest } from "../../model/suggest.js";
import { knownSourceSets } from "../../model/variants.js";
import { textOf } from "../../model/value.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (configuration: string): string =>
  `${androidBlock().replace(/\}\n$/, "  flavorDimensions 'stage'\n  productFlavors {\n    staging { dimension 'stage' }\n    live { dimension 'stage' }\n  }\n}\n")}dependencies {\n  ${configuration} 'example.tidewire:tidewire:1.4.0'\n}\n`;

export const notTaken = defineRule({
  name: "source/not-taken",
  severity: "error",
  title: "A dependency that no part of the build takes",
  looksAt:
    "On Android: dependencies for a build type, flavour or source set that the module does not have, processors (kapt, ksp) without their plugin, those of Java beside kapt, a library for desugaring where it is not switched on, packages that the application leaves out of all its configurations, signing configurations that no build type takes, features that the application does not list, and folders of archives that are not there.",
  silentFor: "Modules to which a plugin of the build's own may do more, and configurations that a script makes itself.",
  why: "The build stops at a configuration that it does not know; what it does not take in is missed by the code, or does not do what it is there for.",
  advice: "Name a configuration that the build has, or add what makes it.",
  examples: { reported: androidExample(app("prodImplementation")), silent: androidExample(app("liveImplementation")) },
  check({ app: model }) {
    const { android } = model;
    if (!android || android.generated) return [];
    const plain = [...android.modules, ...model.packageModules].filter(
      (module) => module.unread.length === 0 && !hasOwnPlugins(android.build, module),
    );
    return [
      ...plain.flatMap((module) => [...unknownSets(module), ...processors(module), ...desugaring(module)]),
      ...emptyTrees(model, plain),
      ...excluded(model),
      ...unlistedFeatures(android),
      ...signings(model),
    ];
  },
});

/**
 * Modules that are delivered beside the application and that its list lacks. Source: developer.android.com, "Configure on-demand delivery"
 * (dynamicFeatures).
 */
function unlistedFeatures({ module, modules }: AndroidSide): RawFinding[] {
  const [list, ...more] = module.settings.filter(({ name }) => name === "dynamicFeatures");
  const listed = [list, ...more].flatMap((setting) => setting?.values ?? []);
  if (!list || listed.some(({ kind }) => kind !== "known")) return [];
  const names = new Set(listed.map((value) => textOf(value)));
  return modules.flatMap(({ path, plugins }): RawFinding[] => {
    const plugin = plugins.find(({ id, applied }) => applied && id === "com.android.dynamic-feature");
    if (!plugin || names.has(path)) return [];
    return [
      {
        side: "android",
        message: `${path} is a feature of ${module.path}, whose dynamicFeatures do not list it: it is not in the app`,
        fix: `add "${path}" to the dynamicFeatures of ${module.path}`,
        places: [plugin.at, list.at],
        subject: `feature ${path}`,
      },
    ];
  });
}

interface Declared {
  configuration: string;
  what: string;
  at: Place | undefined;
}

function declaredIn({ dependencies, modules, paths }: GradleModule): Declared[] {
  const packages = dependencies.flatMap((dependency: GradleDependency): Declared[] =>
    dependency.conditional || dependency.kind === "classpath" || dependency.kind === "constraint" || dependency.kind === "force"
      ? []
      : [{ configuration: dependency.configuration, what: `${dependency.group}:${dependency.artifact}`, at: dependency.places[0] }],
  );
  const others = modules.flatMap(({ configuration, path, conditional, at }: ModuleReference): Declared[] =>
    conditional ? [] : [{ configuration, what: path, at }],
  );
  const archives = paths.flatMap(({ kind, configuration, text, at }): Declared[] =>
    kind === "binary" && configuration !== undefined ? [{ configuration, what: text, at }] : [],
  );
  return [...packages, ...others, ...archives];
}

/** What follows the name of a source set. Source: developer.android.com, "Add build dependencies" (dependency configurations). */
const OF_SOURCE_SET = /^([a-z]\w*?)(Implementation|Api|CompileOnly|CompileOnlyApi|RuntimeOnly|AnnotationProcessor)$/;

/** Plugins make configurations of their own names; only where those of the platform alone are applied is each of them known. */
function isPlain({ plugins, configurations }: GradleModule): boolean {
  return (
    configurations.length === 0 && plugins.every(({ id, applied, conditional }) => !applied || (!conditional && PLATFORM_PLUGIN.test(id)))
  );
}

function unknownSets(module: GradleModule): RawFinding[] {
  const { plugins, settings } = module;
  const applied = plugins.filter((plugin) => plugin.applied && ANDROID_PLUGIN.test(plugin.id));
  if (applied.length === 0 || plugins.some(({ id, applied: is }) => is && /multiplatform/.test(id))) return [];
  const sets = knownSourceSets(module);
  const named = new Set(settings.flatMap(({ block }) => /^sourceSets\.(\w+)/.exec(block)?.[1] ?? []));
  const parts = new Set([...sets, ...named]);
  const told = new Set<string>();
  return declaredIn(module).flatMap(({ configuration, what, at }): RawFinding[] => {
    const prefix = OF_SOURCE_SET.exec(configuration)?.[1];
    if (prefix === undefined || !at || told.has(prefix)) return [];
    // Tests have sets of their own for each variant.
    const own = prefix.replace(/^(testFixtures|test|androidTest|screenshotTest)/, "");
    const plain = own === "" ? "" : `${own[0]?.toLowerCase() ?? ""}${own.slice(1)}`;
    if (plain === "" || parts.has(prefix) || (own !== prefix && parts.has(plain))) return [];
    // Other plugins may make source sets: one that is almost there is none of theirs.
    const near = nearest(prefix, [...parts]);
    if (!isPlain(module) && near === undefined) return [];
    told.add(prefix);
    return [
      {
        side: "android",
        message: `${what} is declared for ${configuration}, but ${module.path} has no build type, flavour or source set ${prefix}: the build stops`,
        fix: near === undefined ? `name one that ${module.path} has, or add ${prefix}` : `write ${configuration.replace(prefix, near)}`,
        places: [at],
        subject: `configuration ${module.path} ${configuration}`,
      },
    ];
  });
}

/** Processors of code and the plugins that run them. Sources: kotlinlang.org, "kapt compiler plugin", "KSP quickstart". */
const PROCESSORS: readonly { configuration: RegExp; plugin: RegExp; id: string }[] = [
  {
    configuration: /^kapt([A-Z]\w*)?$/,
    plugin: /^(org\.jetbrains\.)?kotlin[-.](plugin\.)?kapt$|^com\.android\.legacy-kapt$/,
    id: "org.jetbrains.kotlin.kapt",
  },
  { configuration: /^ksp([A-Z]\w*)?$/, plugin: /^com\.google\.devtools\.ksp$|^symbol-processing$/, id: "com.google.devtools.ksp" },
];

function processors(module: GradleModule): RawFinding[] {
  const applied = module.plugins.filter((plugin) => plugin.applied);
  const has = (plugin: RegExp): boolean => applied.some(({ id }) => plugin.test(id));
  const declared = declaredIn(module);
  const findings: RawFinding[] = [];
  for (const { configuration: form, plugin, id } of PROCESSORS) {
    const [first] = declared.filter(({ configuration }) => form.test(configuration));
    if (!first?.at || has(plugin) || !applied.some((other) => ANDROID_PLUGIN.test(other.id)) || module.configurations.length > 0) continue;
    findings.push({
      side: "android",
      message: `${first.what} is declared for ${first.configuration}, but ${module.path} does not apply ${id}: the build stops`,
      fix: `apply the plugin ${id} in ${module.buildFile ?? module.folder}`,
      places: [first.at],
      subject: `processor ${module.path} ${id}`,
    });
  }
  const [kapt] = PROCESSORS;
  const aside = declared.filter(({ configuration }) => configuration === "annotationProcessor");
  const processed = new Set(declared.flatMap(({ configuration, what }) => (kapt?.configuration.test(configuration) ? what : [])));
  if (kapt && has(kapt.plugin))
    for (const { what, at } of aside)
      if (at && !processed.has(what))
        findings.push({
          side: "android",
          severity: "warning",
          message: `${what} is declared for annotationProcessor, which kapt does not run in ${module.path}`,
          fix: "declare it for kapt",
          places: [at],
          subject: `processor ${module.path} ${what}`,
        });
  return findings;
}

/** Source: developer.android.com, "Java 8+ API desugaring support" (the library goes with the switch). */
function desugaring(module: GradleModule): RawFinding[] {
  const library = declaredIn(module).find(({ configuration }) => configuration === "coreLibraryDesugaring");
  const stated = module.settings.filter(({ name }) => /^(isC|c)oreLibraryDesugaringEnabled$/.test(name));
  if (!library?.at || stated.some(({ values }) => textOf(values[0]) !== "false")) return [];
  return [
    {
      side: "android",
      severity: "warning",
      message: `${module.path} declares ${library.what} for coreLibraryDesugaring, but does not switch it on: it does nothing`,
      fix: "add coreLibraryDesugaringEnabled true (in Kotlin isCoreLibraryDesugaringEnabled = true) to compileOptions",
      places: [library.at],
      subject: `desugaring off ${module.path}`,
    },
  ];
}

/** Packages that a module asks for and the application leaves out of all its configurations. Source: docs.gradle.org, `Configuration.exclude`. */
function excluded({ android, dependencies }: App): RawFinding[] {
  const [first, ...more] = android?.module.exclusions ?? [];
  if (!android || !first) return [];
  return dependencies.flatMap((dependency): RawFinding[] => {
    const { ecosystem, side, test, direct, conditional, name, scope, sdk, in: path, places } = dependency;
    const [group, artifact] = name.split(":");
    const left = [first, ...more].some(
      (one) => (one.group === "*" || one.group === group) && (one.artifact === "*" || one.artifact === artifact) && one.group !== "*",
    );
    if (!left || ecosystem !== "maven" || side !== "android" || test || direct === false || conditional || /^compileOnly/i.test(scope))
      return [];
    return [
      {
        side,
        sdk,
        severity: "warning",
        message: `${path} asks for ${name}, but ${android.module.path} leaves it out of all its configurations: it is not in the app`,
        fix: `remove the exclude from ${android.module.buildFile ?? android.module.path}, or the dependency`,
        places: places.slice(0, 1),
        subject: `excluded ${name}`,
      },
    ];
  });
}

/** Signing configurations for releases that no build type takes. Source: developer.android.com, "Sign your app". */
function signings({ android }: App): RawFinding[] {
  const { module, build } = android ?? {};
  if (!module || !build || module.unread.length > 0 || hasOwnPlugins(build, module)) return [];
  const taken = module.settings.filter(({ name }) => name === "signingConfig");
  if (taken.some(({ values }) => textOf(values[0]) === undefined)) return [];
  const used = new Set(taken.map(({ values }) => textOf(values[0])));
  const made = new Map(
    module.settings.flatMap(({ block, at }) => {
      const name = /^signingConfigs\.(\w+)$/.exec(block)?.[1];
      return name === undefined || name === "debug" || used.has(name) ? [] : [[name, at] as const];
    }),
  );
  return [...made].map(([name, at]) => ({
    side: "android",
    severity: "note",
    message: `no build type of ${module.path} takes the signing configuration ${name}`,
    fix: `add signingConfig signingConfigs.${name} to the build type, unless what builds the app signs it`,
    places: [at],
    subject: `signing ${name}`,
  }));
}

/** Archives beside a folder of archives that is named and is not there. A module without any may have no folder; one that is left over is no mistake. */
function emptyTrees({ looseArchives }: App, modules: readonly GradleModule[]): RawFinding[] {
  return modules.flatMap(({ path, paths }) => {
    const first = looseArchives.find(({ module }) => module === path);
    const tree = paths.find(({ kind, exists }) => kind === "search path" && exists === false);
    if (!first || !tree) return [];
    return [
      {
        side: "android" as const,
        severity: "warning" as const,
        message: `${path} takes the archives of ${tree.text}, which is not there; nothing takes ${first.file}`,
        fix: "name the folder in which the archives lie",
        places: [tree.at],
        subject: `archive ${first.file}`,
      },
    ];
  });
}
