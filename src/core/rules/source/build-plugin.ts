import type { BuildPluginFact } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import type { GradleBuildFacts, GradleModule } from "../../model/gradle.js";
import { isBrought } from "../../derive/own-plugins.js";
import { isInstalled } from "../../model/paths.js";
import { slipOf } from "../../model/suggest.js";
import type { Place } from "../../model/place.js";
import { PLATFORM_PLUGIN } from "../../knowledge/platform-packages.js";
import { androidBlock, androidExample } from "../examples.js";
import { findingsFromWires } from "../from-wires.js";
import { defineRule } from "../rule.js";

const root =
  "buildscript {\n  repositories {\n    google()\n    maven { url 'https://maven.brinelog.example' }\n  }\n  dependencies {\n    classpath 'com.android.tools.build:gradle:8.7.0'\n    classpath 'example.brinelog:brinelog-gradle:2.1.0'\n  }\n}\n";

const dependency = "dependencies {\n  implementation 'example.brinelog:brinelog-android:2.1.0'\n}\n";

/** Words that say nothing about whose plugin it is. */
const FILLERS = new Set([
  "com",
  "org",
  "io",
  "net",
  "dev",
  "co",
  "app",
  "example",
  "gradle",
  "plugin",
  "plugins",
  "android",
  "tools",
  "build",
  "github",
  "classpath",
  "lib",
  "sdk",
]);

export const buildPlugin = defineRule({
  name: "source/build-plugin",
  severity: "error",
  title: "A build plugin is only half set up",
  looksAt:
    "Plugins on the class path that no module applies although their SDK is installed, and plugins that a module applies but nothing provides, also those of a build that is taken in, which registers them under another name; plugins that a framework's configuration names without their package. Of plugins of the platforms, ids that are a letter or two off, and the Android and Kotlin plugins where the build brings one of the two.",
  silentFor: "On iOS, where no build plugins of this kind exist; apps without Gradle scripts or a configuration that names plugins.",
  why: "An SDK's plugin generates resources, uploads symbols or rewrites code. Not applied, it does nothing, and the SDK fails at run time without a message that says why.",
  advice:
    "Apply the plugin in the application's module, or remove it from the class path; where it is applied, declare it with its version.",
  examples: {
    reported: androidExample(`${androidBlock()}${dependency}`, { "build.gradle": root }),
    silent: androidExample(`apply plugin: 'example.brinelog'\n${androidBlock()}${dependency}`, { "build.gradle": root }),
  },
  check({ app, wires }) {
    const named = app.configPlugins.flatMap(({ name, found, at }) =>
      found
        ? []
        : [
            {
              side: "shared" as const,
              message: `the configuration lists the plugin ${name}, but no package of the project provides it`,
              fix: "add the package, or remove the plugin from the configuration",
              places: [at],
              subject: `unbrought ${name}`,
            },
          ],
    );
    const side = app.android;
    if (!side) return named;
    const { build } = side;
    // What a framework's packages take in registers the framework's own plugins.
    const ownBuilds = build.includedBuilds.filter((folder) => !folder.includes("node_modules/"));
    const everyModule = [build.settings, build.root, ...build.modules.values()];
    const applied = everyModule.flatMap((module) => module.plugins.filter((plugin) => plugin.applied));
    const brought = everyModule.flatMap((module) => module.plugins.filter((plugin) => plugin.version !== undefined || !plugin.applied));
    const classpath = everyModule.flatMap((module) => module.dependencies.filter((dependency) => dependency.kind === "classpath"));
    const findings: RawFinding[] = [...named, ...findingsFromWires(wires, { rule: "source/build-plugin" })];
    const told = new Set(findings.flatMap(({ places }) => places.map(({ file, line }) => `${file}:${line}`)));
    const isTold = (place: Place | undefined): boolean => place !== undefined && told.has(`${place.file}:${place.line}`);
    const appliedWords = applied.map(({ id }) => words(id));
    // A class path also holds helpers for scripts: only the plugin of an SDK that is in is missed.
    const presentWords = app.dependencies
      .filter(({ side: of, platform, test }) => of === "android" && !platform && !test)
      .map(({ name }) => words(name.replace(/^@/, "").replace("/", ".")));
    // The whole build is one class path: say it once, for its first application.
    for (const dependency of classpath) {
      const name = `${dependency.group}:${dependency.artifact}`;
      if (
        isTold(dependency.places[0]) ||
        PLATFORM_PLUGIN.test(dependency.group) ||
        dependency.group.startsWith("com.google.android.material")
      )
        continue;
      // A library that scripts use, and the app as well.
      if (
        everyModule.some((module) =>
          module.dependencies.some((other) => other.kind !== "classpath" && `${other.group}:${other.artifact}` === name),
        )
      )
        continue;
      const own = words(name);
      if (own.size === 0 || appliedWords.some((others) => overlap(own, others)) || !presentWords.some((others) => overlap(own, others)))
        continue;
      findings.push({
        side: "android",
        message: `the build plugin ${name} is on the class path, but no module applies it`,
        fix: "apply it in the application's module, or remove it from the class path",
        places: dependency.places,
        subject: `unapplied ${name}`,
      });
    }
    unappliedPlugins(brought, isTold, applied, build, ownBuilds, findings);
    findings.push(...fromNowhere(build, classpath.length > 0), ...misspelt(build), ...unbroughtPlatform(build, side.module));
    // Plugins may come from convention code or an included build that cannot be seen through.
    if (build.conventions.length > 0 || ownBuilds.length > 0) return findings;
    const sources = [...brought.map(({ id }) => words(id)), ...classpath.map(({ group, artifact }) => words(`${group}:${artifact}`))];
    for (const plugin of side.module.plugins) {
      if (
        !isBare(plugin) ||
        brought.some(({ id, version, module }) => id === plugin.id && (version !== undefined || module !== plugin.module))
      )
        continue;
      const own = words(plugin.id);
      if (findings.some(({ subject }) => subject === `unbrought ${plugin.id}`)) continue;
      if (own.size === 0 || sources.some((others) => overlap(own, others)) || (classpath.length === 0 && brought.length === 0)) continue;
      findings.push({
        side: "android",
        message: `the build plugin ${plugin.id} is applied, but nothing puts it on the class path`,
        fix: "declare it with its version in the root script's plugins, or add its classpath entry",
        places: [plugin.at],
        subject: `unbrought ${plugin.id}`,
      });
    }
    return findings;
  },
});

/** Plugins that are declared and that no module applies. */
function unappliedPlugins(
  brought: BuildPluginFact[],
  isTold: (place: Place | undefined) => boolean,
  applied: BuildPluginFact[],
  build: GradleBuildFacts,
  ownBuilds: string[],
  findings: RawFinding[],
): void {
  for (const plugin of brought) {
    if (
      plugin.applied ||
      isTold(plugin.at) ||
      PLATFORM_PLUGIN.test(plugin.id) ||
      plugin.module === "settings" ||
      applied.some(({ id }) => id === plugin.id) ||
      build.conventions.length > 0 ||
      ownBuilds.length > 0
    )
      continue;
    findings.push({
      side: "android",
      severity: "warning",
      message: `the build plugin ${plugin.id} is declared, but no module applies it`,
      fix: "apply it in the application's module, or remove the declaration",
      places: [plugin.at],
      subject: `unapplied ${plugin.id}`,
    });
  }
}

/**
 * Plugins that modules apply without a version, in a build without a class path of its own, that no other script declares and no build that is taken
 * in registers. Where settings work out plugins, or one of their builds registers none that could be read, nothing is told.
 */
function fromNowhere(build: GradleBuildFacts, hasClasspath: boolean): RawFinding[] {
  const { settings, modules, conventions, includedBuilds } = build;
  const own = includedBuilds.filter((folder) => !folder.includes("node_modules/"));
  if (hasClasspath || settings.unread.length > 0 || settings.plugins.some(({ version, applied }) => applied && version === undefined))
    return [];
  if (own.length > 0 && conventions.length === 0) return [];
  const told = new Set<string>();
  return [...modules.values()].flatMap((module) =>
    module.plugins.flatMap((plugin): RawFinding[] => {
      if (!isBare(plugin) || told.has(plugin.id) || conventions.includes(plugin.id) || isBrought(build, plugin)) return [];
      const near = conventions.find((id) => overlap(words(id), words(plugin.id)));
      // Of a build that is taken in perhaps not all that it registers was seen.
      if (own.length > 0 && near === undefined) return [];
      if (own.length === 0 && conventions.length === 0 && build.root.plugins.length === 0) return [];
      told.add(plugin.id);
      return [
        {
          side: "android",
          message: `the build plugin ${plugin.id} is applied, but nothing brings it${near === undefined ? "" : `; the build's own is called ${near}`}`,
          fix: near === undefined ? "declare it with its version, or take in the build that has it" : `write ${near}`,
          places: [plugin.at],
          subject: `unbrought ${plugin.id}`,
        },
      ];
    }),
  );
}

/** Plugins of the platforms that a class path or a declaration with a version brings: their ids, and the artifact. */
const BROUGHT_BY: readonly [ids: RegExp, artifact: RegExp, name: string][] = [
  [/^com\.android\.(application|library)$/, /^com\.android\.tools\.build:gradle$/, "the Android plugin"],
  [/^(org\.jetbrains\.kotlin\.android|kotlin-android)$/, /^org\.jetbrains\.kotlin:kotlin-gradle-plugin$/, "Kotlin's plugin"],
];

/**
 * The Android and Kotlin plugins in a build that brings one of the two and not the other, which the application applies. Plugins of frameworks and those of the
 * build's own bring others along. Source: docs.gradle.org, "Using Plugins".
 */
function unbroughtPlatform(
  { settings, root, modules, conventions, includedBuilds, hasOwnCode }: GradleBuildFacts,
  application: GradleModule,
): RawFinding[] {
  const all = [settings, root, ...modules.values()];
  if (
    hasOwnCode ||
    conventions.length > 0 ||
    includedBuilds.length > 0 ||
    all.some(({ unread }) => unread.some(({ what }) => /plugin|script|says/.test(what)))
  )
    return [];
  // What another module has on the class path of its own script is there for that one alone.
  const above = [settings, root, application];
  const classpath = above.flatMap(({ dependencies }) => dependencies.filter(({ kind }) => kind === "classpath"));
  const declared = above.flatMap(({ plugins }) => plugins.filter(({ version }) => version !== undefined));
  if (all.some(({ settings: stated }) => stated.some(({ name }) => name === "eachPlugin"))) return [];
  // Others bring what they are made for.
  if (classpath.some(({ group }) => !/^(com\.android|org\.jetbrains)/.test(group) && /react|flutter|expo/i.test(group))) return [];
  const isBroughtBy = (ids: RegExp, artifact: RegExp): boolean =>
    declared.some(({ id }) => ids.test(id) || (/^com\.android\./.test(id) && ids.test("com.android.library"))) ||
    classpath.some(({ group, artifact: name }) => artifact.test(`${group}:${name}`));
  const state = BROUGHT_BY.map(([ids, artifact]) => isBroughtBy(ids, artifact));
  return BROUGHT_BY.flatMap(([ids, , name], index): RawFinding[] => {
    const plugin = application.plugins.find(
      ({ id, applied, conditional, version }) => applied && !conditional && version === undefined && ids.test(id),
    );
    // Where the build brings neither, it has to be one that looks plugins up, and Kotlin's plugin is a matter for later.
    const looksUp = [settings, root].some(({ repositories }) => repositories.some((repository) => repository.for === "plugins"));
    const isRead = settings.unread.every(({ what }) => what.startsWith("the module ")) && root.unread.length === 0;
    const isWhole =
      settings.buildFile !== undefined && root.buildFile !== undefined && root !== application && looksUp && isRead && index === 0;
    if (!plugin || state[index] || !(isWhole || state.some(Boolean))) return [];
    return [
      {
        side: "android",
        message: `${plugin.id} is applied, and nothing in the build brings ${name}`,
        fix: "declare it with its version in the root script's plugins, or add its classpath entry",
        places: [plugin.at],
        subject: `unbrought ${plugin.id}`,
      },
    ];
  });
}

/** Plugins of the platforms that scripts name. Source: the reference of the Android Gradle plugin; kotlinlang.org, "Gradle"; the frameworks' templates. */
const KNOWN_PLUGINS = [
  "com.android.application",
  "com.android.library",
  "com.android.dynamic-feature",
  "com.android.test",
  "org.jetbrains.kotlin.android",
  "org.jetbrains.kotlin.kapt",
  "org.jetbrains.kotlin.jvm",
  "org.jetbrains.kotlin.multiplatform",
  "org.jetbrains.kotlin.plugin.compose",
  "org.jetbrains.kotlin.plugin.parcelize",
  "org.jetbrains.kotlin.plugin.serialization",
  "kotlin-android",
  "kotlin-kapt",
  "kotlin-parcelize",
  "com.facebook.react",
  "com.facebook.react.settings",
  "com.facebook.react.rootproject",
  "dev.flutter.flutter-gradle-plugin",
  "dev.flutter.flutter-plugin-loader",
];

/** Ids that are a letter or two off from one of the platforms. */
function misspelt({ settings, root, modules, conventions }: GradleBuildFacts): RawFinding[] {
  return [settings, root, ...modules.values()].flatMap(({ plugins }) =>
    plugins.flatMap(({ id, at }): RawFinding[] => {
      const meant = KNOWN_PLUGINS.includes(id) || conventions.includes(id) ? undefined : slipOf(id, KNOWN_PLUGINS);
      if (meant === undefined || isInstalled(at.file)) return [];
      return [
        {
          side: "android",
          message: `the build plugin ${id} does not exist; ${meant} does`,
          fix: `write ${meant}`,
          places: [at],
          subject: `misspelt ${id}`,
        },
      ];
    }),
  );
}

/** Applied by id alone, so that something else must bring it. */
function isBare(plugin: BuildPluginFact): boolean {
  return (
    plugin.applied && !plugin.conditional && plugin.version === undefined && plugin.id.includes(".") && !PLATFORM_PLUGIN.test(plugin.id)
  );
}

function words(name: string): Set<string> {
  return new Set(
    name
      .toLowerCase()
      .split(/[.:_-]+/)
      .filter((word) => word.length > 1 && !FILLERS.has(word)),
  );
}

function overlap(a: Set<string>, b: Set<string>): boolean {
  for (const word of a) if (b.has(word)) return true;
  return false;
}
