import { describe, expect, it } from "vitest";
import { MemoryTree } from "../../src/core/files/memory.js";
import { readGradleBuild } from "../../src/core/gather/platforms/android/gradle/build.js";
import { ProjectFiles } from "../../src/core/gather/project-files.js";
import { textOf } from "../../src/core/model/value.js";
import { appOf, shown, surveyOf, textAtPlace } from "../helpers/memory.js";

const android = "apply plugin: 'com.android.application'\n";
const levels = (files: Record<string, string>) => {
  const { effective } = appOf(files).android ?? {};
  return Object.fromEntries(Object.entries(effective ?? {}).map(([level, value]) => [level, shown(value)]));
};
const app = (body: string) => `${android}android {\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n${body}\n  }\n}\n`;

describe("levels are worked out statically", () => {
  it.each<[string, Record<string, string>, string]>([
    ["a literal", { "app/build.gradle": app("minSdk 24") }, "24"],
    ["the older call", { "app/build.gradle": app("minSdkVersion 24") }, "24"],
    ["a setter", { "app/build.gradle": app("setMinSdkVersion(24)") }, "24"],
    [
      "ext of the root",
      { "build.gradle": "ext { minSdkVersion = 24 }", "app/build.gradle": app("minSdkVersion rootProject.ext.minSdkVersion") },
      "24",
    ],
    ["ext in buildscript", { "build.gradle": "buildscript { ext { min = 24 } }", "app/build.gradle": app("minSdk rootProject.min") }, "24"],
    ["a map in ext", { "build.gradle": "ext.versions = [min: 24, target: 35]", "app/build.gradle": app("minSdk versions.min") }, "24"],
    ["a def", { "app/build.gradle": `def low = 20 + 4\n${app("minSdk low")}` }, "24"],
    ["gradle.properties", { "gradle.properties": "low=24\r\n", "app/build.gradle": app("minSdk low.toInteger()") }, "24"],
    ["findProperty with a default", { "app/build.gradle": app("minSdk((findProperty('low') ?: '24').toInteger())") }, "24"],
    [
      "findProperty that finds",
      { "gradle.properties": "low=26", "app/build.gradle": app("minSdk Integer.parseInt(findProperty('low') ?: '24')") },
      "26",
    ],
    [
      "a helper with a default",
      {
        "app/build.gradle": `def get(name, other) { rootProject.ext.has(name) ? rootProject.ext.get(name) : other }\n${app("minSdk get('low', 24)")}`,
      },
      "24",
    ],
    [
      "a helper that finds",
      {
        "build.gradle": "ext.low = 26",
        "app/build.gradle": `def get(name, other) {\n  return rootProject.ext.has(name) ? rootProject.ext.get(name) : other\n}\n${app("minSdk get('low', 24)")}`,
      },
      "26",
    ],
    [
      "a catalog",
      {
        "gradle/libs.versions.toml": '[versions]\nlow-level = "24"',
        "app/build.gradle": app("minSdk libs.versions.low.level.get().toInteger()"),
      },
      "24",
    ],
    [
      "apply from",
      {
        "gradle/levels.gradle": "ext.low = 24",
        "build.gradle": "apply from: 'gradle/levels.gradle'",
        "app/build.gradle": app("minSdk low"),
      },
      "24",
    ],
    [
      "subprojects",
      { "build.gradle": "subprojects { afterEvaluate { android { defaultConfig { minSdk 24 } } } }", "app/build.gradle": app("") },
      "24",
    ],
    [
      "a plugin's id in the root",
      {
        "build.gradle": "subprojects { plugins.withId('com.android.application') { android { defaultConfig { minSdk 24 } } } }",
        "app/build.gradle": app(""),
      },
      "24",
    ],
    [
      "a plugin that is applied",
      {
        "build.gradle": "subprojects { pluginManager.withPlugin('com.android.application') { android { defaultConfig { minSdk 24 } } } }",
        "app/build.gradle": app(""),
      },
      "24",
    ],
    [
      "a plugin's class",
      {
        "build.gradle": "subprojects { plugins.withType(com.android.build.gradle.AppPlugin) { android { defaultConfig { minSdk 24 } } } }",
        "app/build.gradle": app(""),
      },
      "24",
    ],
    [
      "another plugin's id",
      {
        "build.gradle": "subprojects { plugins.withId('com.android.library') { android { defaultConfig { minSdk 19 } } } }",
        "app/build.gradle": app("minSdk 24"),
      },
      "24",
    ],
    [
      "a plugin's id, and the script after it",
      {
        "build.gradle": "subprojects { plugins.withId('com.android.application') { android { defaultConfig { minSdk 19 } } } }",
        "app/build.gradle": app("minSdk 24"),
      },
      "24",
    ],
    [
      "whether there is an extension",
      {
        "build.gradle":
          "subprojects { afterEvaluate { project -> if (project.hasProperty('android')) { project.android { defaultConfig { minSdk 24 } } } } }",
        "app/build.gradle": app(""),
      },
      "24",
    ],
    [
      "whether there is a plugin",
      {
        "build.gradle":
          "subprojects { afterEvaluate { if (plugins.hasPlugin('com.android.application')) { android { defaultConfig { minSdk 24 } } } } }",
        "app/build.gradle": app(""),
      },
      "24",
    ],
    [
      "a constant of buildSrc",
      { "buildSrc/src/main/kotlin/Levels.kt": "object Levels {\n  const val min = 24\n}", "app/build.gradle": app("minSdk Levels.min") },
      "24",
    ],
    [
      "a constant in Java",
      {
        "buildSrc/src/main/java/Levels.java": "public class Levels { public static final int MIN = 24; }",
        "app/build.gradle": app("minSdk Levels.MIN"),
      },
      "24",
    ],
    ["the new block form", { "app/build.gradle": app("minSdk { version = release(24) }") }, "24"],
    [
      "a flavour's value does not change the default",
      { "app/build.gradle": `${app("minSdk 24")}android { productFlavors { old { minSdk 19 } } }` },
      "24",
    ],
    [
      "a known condition",
      { "gradle.properties": "legacy=false", "app/build.gradle": `def low = legacy.toBoolean() ? 19 : 24\n${app("minSdk low")}` },
      "24",
    ],
    ["an unknown condition keeps both", { "app/build.gradle": app("minSdk(System.getenv('OLD') ? 19 : 24)") }, "either: 19, 24"],
    ["nothing gives it", { "app/build.gradle": app("minSdk nowhere") }, "unknown: nowhere has no value in the files"],
  ])("%s", (_, files, expected) => {
    expect(levels({ "settings.gradle": "include ':app'", ...files }).minSdk).toBe(expected);
  });

  it("reads Kotlin scripts: delegates, extra, infix calls, convention plugins", () => {
    const files = {
      "settings.gradle.kts": 'pluginManagement { includeBuild("build-logic") }\ninclude(":app")',
      "build-logic/build.gradle.kts":
        'gradlePlugin { plugins { register("app") { id = "maresia.app"; implementationClass = "AppPlugin" } } }',
      "build-logic/src/main/kotlin/AppPlugin.kt":
        'class AppPlugin : Plugin<Project> {\n  override fun apply(target: Project) {\n    with(target) {\n      pluginManager.apply("com.android.application")\n      extensions.configure<ApplicationExtension> {\n        compileSdk = 35\n        defaultConfig.targetSdk = 34\n      }\n    }\n  }\n}',
      "build.gradle.kts": "val low by extra(24)\n",
      "app/build.gradle.kts":
        'plugins {\n  id("maresia.app")\n  kotlin("android") version "2.0.21"\n}\nval low: Int by rootProject.extra\nandroid {\n  namespace = "example.maresia.pilot"\n  defaultConfig {\n    applicationId = "example.maresia.pilot"\n    minSdk = low\n  }\n}\n',
    };
    expect(levels(files)).toMatchObject({ minSdk: "24", targetSdk: "34", compileSdk: "35", kotlin: "2.0.21" });
  });

  it("reads a precompiled convention script and the tools' versions", () => {
    const files = {
      "settings.gradle": "include ':app'",
      "buildSrc/src/main/groovy/maresia.gradle": "android { compileSdk 35 }",
      "build.gradle": "buildscript { ext.agp = '8.7.0'\n dependencies { classpath \"com.android.tools.build:gradle:$agp\" } }",
      "gradle/wrapper/gradle-wrapper.properties": "distributionUrl=https\\://services.gradle.org/distributions/gradle-8.9-all.zip",
      "app/build.gradle": `${app("minSdk 24")}apply plugin: 'maresia'`,
    };
    expect(levels(files)).toMatchObject({ compileSdk: "35", androidPlugin: "8.7.0", gradle: "8.9" });
  });

  it("values have the place where they are written", () => {
    const files = {
      "settings.gradle": "include ':app'",
      "build.gradle": "ext {\r\n  // 24?\r\n  low = 24\r\n}",
      "app/build.gradle": app("minSdk low"),
    };
    const fact = appOf(files).android?.levels.find(({ level }) => level === "minSdk");
    expect(fact && textAtPlace(files, fact.value.place)).toMatch(/^24/);
    expect(fact && textAtPlace(files, fact.at)).toMatch(/^minSdk low/);
  });
});

describe("dependencies in every notation", () => {
  const dependencies = (text: string, more: Record<string, string> = {}) =>
    appOf({ "settings.gradle": "include ':app', ':core'", "app/build.gradle": `${app("minSdk 24")}dependencies {\n${text}\n}`, ...more })
      .dependencies.filter(({ direct }) => direct)
      .map(({ scope, name, declared }) => `${scope} ${name} ${shown(declared)}`);

  it.each<[string, string, string[]]>([
    ["a text", "implementation 'a.b:c:1.0'", ["implementation a.b:c 1.0"]],
    ["brackets and a closure", "implementation('a.b:c:1.0') { exclude group: 'x' }", ["implementation a.b:c 1.0"]],
    ["a map", "implementation group: 'a.b', name: 'c', version: '1.0'", ["implementation a.b:c 1.0"]],
    ["several at once", "implementation 'a.b:c:1.0', 'a.b:d:2.0'", ["implementation a.b:c 1.0", "implementation a.b:d 2.0"]],
    ["a variant's configuration", "freeDebugImplementation 'a.b:c:1.0'", ["freeDebugImplementation a.b:c 1.0"]],
    ["an artifact type", "implementation 'a.b:c:1.0@aar'", ["implementation a.b:c 1.0"]],
    ["a variable", "def v = '1.0'\nimplementation \"a.b:c:$v\"", ["implementation a.b:c 1.0"]],
    ["an unknown version", 'implementation "a.b:c:${nowhere}"', ["implementation a.b:c unknown: nowhere has no value in the files"]],
    [
      "a condition",
      "if (System.getenv('X')) { implementation 'a.b:c:1.0' } else { implementation 'a.b:c:2.0' }",
      ["implementation a.b:c 1.0", "implementation a.b:c 2.0"],
    ],
    ["a configuration as text", "\"implementation\"('a.b:c:1.0')", ["implementation a.b:c 1.0"]],
    ["a rich version", "implementation('a.b:c') { version { strictly '1.0' } }", ["implementation a.b:c 1.0!!"]],
    ["modules and files are none", "implementation project(':core')\nimplementation fileTree(dir: 'libs', include: ['*.jar'])", []],
    ["a file", "implementation files('libs/quaymap.aar')", ["files quaymap.aar none"]],
  ])("%s", (_, text, expected) => {
    expect(dependencies(text)).toEqual(expected);
  });

  it("what may be in a list is certain up to the first that only some builds add", () => {
    const script =
      "def all = ['a.b:c:1']\nif (System.getenv('X')) all << 'a.b:d:1'\nall << 'a.b:e:1'\ndependencies { all.each { implementation it } }\n";
    const { root } = readGradleBuild(new ProjectFiles(new MemoryTree({ "build.gradle": script })), "");
    expect(root.dependencies.map(({ artifact, conditional }) => [artifact, conditional ?? false])).toEqual([
      ["c", false],
      ["d", true],
      ["e", true],
    ]);
  });

  it("catalog accessors: libraries, bundles, rich versions", () => {
    const catalog =
      '[versions]\nq = { strictly = "[4,5)", prefer = "4.2" }\n[libraries]\nquaymap-core = { module = "a.b:c", version.ref = "q" }\nquaymap_ui = "a.b:ui:1.0"\nplain = { group = "a.b", name = "p" }\n[bundles]\nquaymap = ["quaymap-core", "quaymap_ui"]\n';
    expect(
      dependencies("implementation libs.quaymap.core\napi libs.bundles.quaymap\nimplementation(libs.plain)", {
        "gradle/libs.versions.toml": catalog,
      }),
    ).toEqual(["implementation a.b:c [4,5)", "api a.b:c [4,5)", "api a.b:ui 1.0", "implementation a.b:p none"]);
  });

  it("a module's dependencies count, a module that is only tested does not", () => {
    const files = {
      "settings.gradle": "include ':app', ':core', ':fakes'",
      "app/build.gradle": `${app("minSdk 24")}dependencies { implementation(project(':core'))\n testImplementation project(path: ':fakes') }`,
      "core/build.gradle": "dependencies { api 'a.b:core:1.0' }",
      "fakes/build.gradle": "dependencies { api 'a.b:fakes:1.0' }",
    };
    expect(appOf(files).dependencies.map(({ name, in: owner }) => `${owner} ${name}`)).toEqual([":core a.b:core"]);
  });

  it("repositories keep their order, purpose and limits", () => {
    const files = {
      "settings.gradle":
        "pluginManagement { repositories { gradlePluginPortal() } }\ndependencyResolutionManagement { repositories {\n google()\n maven { url 'https://maven.quaymap.example'\n content { includeGroup 'example.quaymap' } }\n} }\ninclude ':app'",
      "app/build.gradle": app("minSdk 24"),
    };
    expect(appOf(files).repositories.map(({ kind, url, for: purpose, groups }) => [kind, textOf(url), purpose, groups])).toEqual([
      ["gradlePluginPortal", undefined, "plugins", []],
      ["google", undefined, "packages", []],
      ["url", "https://maven.quaymap.example", "packages", ["example.quaymap"]],
    ]);
  });
});

describe("apps are found", () => {
  it("every application module is an app; ids follow flavours and build types", () => {
    const { apps } = surveyOf({
      "settings.gradle": "include ':phone', ':tablet'",
      "phone/build.gradle": `${app("minSdk 24")}android { productFlavors { free { applicationIdSuffix '.free' }\n paid { applicationId 'example.maresia.paid' } }\n buildTypes { debug { applicationIdSuffix 'debug' } } }`,
      "tablet/build.gradle": app("minSdk 26"),
    });
    expect(apps).toHaveLength(2);
    expect(apps[0]?.android?.ids.map(({ value, variant }) => `${variant ?? "all"} ${shown(value)}`)).toEqual([
      "all example.maresia.pilot",
      "free example.maresia.pilot.free",
      "paid example.maresia.paid",
      "debug example.maresia.pilot.debug",
    ]);
  });

  it("an old project states its levels and its id in the manifest", () => {
    const app_ = appOf({
      "build.gradle": `${android}android { compileSdkVersion 33 }`,
      "src/main/AndroidManifest.xml": '<manifest package="example.maresia.pilot">\n<uses-sdk android:minSdkVersion="19"/></manifest>',
    });
    expect([shown(app_.android?.effective.minSdk), shown(app_.android?.ids[0]?.value)]).toEqual(["19", "example.maresia.pilot"]);
  });
});
