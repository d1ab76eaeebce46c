import { describe, expect, it } from "vitest";
import { reportOf } from "../helpers/memory.js";

/** A small app whose build says all that it has to, in the usual form. */
const BASE = {
  "settings.gradle.kts":
    'pluginManagement {\n    repositories { google(); mavenCentral(); gradlePluginPortal() }\n}\ndependencyResolutionManagement {\n    repositories { google(); mavenCentral() }\n}\ninclude(":app")\n',
  "build.gradle.kts":
    'plugins {\n    id("com.android.application") version "8.7.3" apply false\n    id("org.jetbrains.kotlin.android") version "2.0.21" apply false\n}\n',
  "gradle.properties": "android.useAndroidX=true\n",
  "gradle/wrapper/gradle-wrapper.properties": "distributionUrl=https\\://services.gradle.org/distributions/gradle-8.10-bin.zip\n",
  "app/src/main/AndroidManifest.xml":
    '<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n  <application>\n    <activity android:name=".PilotActivity" android:exported="true">\n      <intent-filter>\n        <action android:name="android.intent.action.MAIN" />\n        <category android:name="android.intent.category.LAUNCHER" />\n      </intent-filter>\n    </activity>\n  </application>\n</manifest>\n',
  "app/src/main/java/example/maresia/pilot/PilotActivity.kt":
    "package example.maresia.pilot\n\nclass PilotActivity : android.app.Activity()\n",
};

const SCRIPT = `plugins {
    id("com.android.application")
    id("org.jetbrains.kotlin.android")
}
val keys = java.util.Properties()
android {
    namespace = "example.maresia.pilot"
    compileSdk = 35
    defaultConfig {
        applicationId = "example.maresia.pilot"
        minSdk = 24
        targetSdk = 35
        versionCode = 12
        versionName = "4.7"
    }
    compileOptions {
        sourceCompatibility = JavaVersion.VERSION_17
        targetCompatibility = JavaVersion.VERSION_17
    }
    kotlinOptions { jvmTarget = "17" }
    MORE
}
dependencies {
    implementation("androidx.core:core-ktx:1.13.1")
}
`;
const FULL =
  'storeFile = file(keys["file"] as String)\nstorePassword = keys["a"] as String\nkeyAlias = "upload"\nkeyPassword = keys["b"] as String';
const signed = (by: string): string => `buildTypes { release { signingConfig = ${by} } }`;
const inAndroid = (more: string): string => SCRIPT.replace("MORE", more);
const without = (line: RegExp, more = ""): string => SCRIPT.replace("MORE", more).replace(line, "");
const VERSION = /^ *versionCode = 12\n/m;
const TARGET = /^ *targetCompatibility.*\n/m;
const PACKAGES = /^dependencyResolutionManagement \{\n.*\n\}\n/m;
const settings = (more = ""): string => BASE["settings.gradle.kts"].replace(PACKAGES, "") + more;

const told = async (files: Record<string, string>): Promise<string[]> =>
  (await reportOf({ ...BASE, "app/build.gradle.kts": inAndroid(""), ...files })).findings
    .filter(({ rule }) => !rule.startsWith("version/"))
    .map(({ rule, message }) => `${rule}: ${message}`);

const QUIET: [string, Record<string, string>][] = [
  ["as it is", {}],
  ["a configuration that may be missing", { "app/build.gradle.kts": inAndroid(signed('signingConfigs.findByName("upload")')) }],
  [
    "a configuration by a delegate",
    {
      "app/build.gradle.kts": inAndroid(`signingConfigs {\nval upload by creating {\n${FULL}\n}\n}\n${signed('signingConfigs["upload"]')}`),
    },
  ],
  [
    "a configuration that is registered",
    {
      "app/build.gradle.kts": inAndroid(
        `signingConfigs {\nregister("upload") {\n${FULL}\n}\n}\n${signed('signingConfigs.getByName("upload")')}`,
      ),
    },
  ],
  [
    "a configuration that is filled later",
    {
      "app/build.gradle.kts": inAndroid(
        `signingConfigs { create("upload") { enableV3Signing = true } }\n${signed('signingConfigs.getByName("upload")')}\nsigningConfigs.getByName("upload").apply {\n${FULL}\n}`,
      ),
    },
  ],
  [
    "a configuration that is filled where there are keys",
    {
      "app/build.gradle.kts": inAndroid(
        `signingConfigs { create("upload") { if (keys.containsKey("file")) {\n${FULL}\n} } }\n${signed('signingConfigs.getByName("upload")')}`,
      ),
    },
  ],
  ["the release of Java by the toolchain of Kotlin", { "app/build.gradle.kts": `${without(TARGET)}kotlin { jvmToolchain(17) }\n` }],
  [
    "the release of Java by the toolchain of Java",
    { "app/build.gradle.kts": `${without(TARGET)}java { toolchain { languageVersion = JavaLanguageVersion.of(17) } }\n` },
  ],
  ["the version code behind the block", { "app/build.gradle.kts": `${without(VERSION)}android.defaultConfig.versionCode = 7\n` }],
  [
    "the version code of each flavour",
    {
      "app/build.gradle.kts": without(
        VERSION,
        'flavorDimensions += "store"\nproductFlavors {\ncreate("play") { dimension = "store"; versionCode = 3 }\ncreate("direct") { dimension = "store"; versionCode = 4 }\n}',
      ),
    },
  ],
  [
    "the version code of each output",
    {
      "app/build.gradle.kts": `${without(VERSION)}androidComponents { onVariants { one -> one.outputs.forEach { it.versionCode.set(7) } } }\n`,
    },
  ],
  [
    "the version code of each variant",
    { "app/build.gradle.kts": without(VERSION, "applicationVariants.all { outputs.all { (this as ApkOutput).versionCodeOverride = 7 } }") },
  ],
  [
    "repositories for all projects",
    { "settings.gradle.kts": settings("gradle.beforeProject { repositories { google(); mavenCentral() } }\n") },
  ],
  [
    "repositories of the modules",
    {
      "settings.gradle.kts": settings(),
      "build.gradle.kts": `${BASE["build.gradle.kts"]}subprojects { repositories { google(); mavenCentral() } }\n`,
    },
  ],
  [
    "plugins whose module is named where they are asked for",
    {
      "settings.gradle.kts": BASE["settings.gradle.kts"].replace(
        "pluginManagement {\n",
        'pluginManagement {\n    resolutionStrategy { eachPlugin { if (requested.id.id.startsWith("com.android")) useModule("com.android.tools.build:gradle:8.7.3") } }\n',
      ),
      "build.gradle.kts": 'tasks.register("nothing") {}\n',
    },
  ],
  [
    "plugins on the class path by the catalog",
    {
      "gradle/libs.versions.toml":
        '[libraries]\nagp = "com.android.tools.build:gradle:8.7.3"\nkgp = "org.jetbrains.kotlin:kotlin-gradle-plugin:2.0.21"\n',
      "build.gradle.kts":
        "buildscript {\n    repositories { google(); mavenCentral() }\n    dependencies {\n        classpath(libs.agp)\n        classpath(libs.kgp)\n    }\n}\n",
    },
  ],
];

const TOLD: [string, Record<string, string>, string][] = [
  ["no configuration", { "app/build.gradle.kts": inAndroid(signed('signingConfigs.getByName("upload")')) }, "project/build-stops"],
  [
    "a configuration by a delegate that lacks a part",
    {
      "app/build.gradle.kts": inAndroid(
        `signingConfigs {\nval upload by creating {\nstoreFile = file("a")\n}\n}\n${signed('signingConfigs["upload"]')}`,
      ),
    },
    "project/build-stops",
  ],
  ["no release of Java to compile for", { "app/build.gradle.kts": without(TARGET) }, "project/build-stops"],
  ["no version code", { "app/build.gradle.kts": without(VERSION) }, "identity/version-unset"],
  ["no repositories of packages", { "settings.gradle.kts": settings() }, "source/repository-missing"],
  ["no Android plugin", { "build.gradle.kts": 'tasks.register("nothing") {}\n' }, "source/build-plugin"],
  [
    "a repository without an address",
    {
      "settings.gradle.kts": BASE["settings.gradle.kts"].replace(
        "mavenCentral() }\n}\ninclude",
        'mavenCentral(); maven { name = "own" } }\n}\ninclude',
      ),
    },
    "project/build-stops",
  ],
];

describe("what a build has to say, in the forms in which people say it", () => {
  it.each(QUIET)("%s is enough", async (_, files) => {
    expect(await told(files)).toEqual([]);
  });

  it.each(TOLD)("%s is told", async (_, files, rule) => {
    const lines = await told(files);
    expect(lines.map((line) => line.split(":")[0])).toEqual([rule]);
  });
});

describe("the target level that nothing states", () => {
  const on = async (files: Record<string, string>): Promise<string[]> =>
    (await reportOf({ ...BASE, ...files }, { today: "2026-11-28" })).findings
      .filter(({ rule }) => rule === "level/store-floor")
      .map(({ message }) => message);
  const script = without(/^ *targetSdk = 35\n/m);

  it("is the minimum, before version 9 of the Android plugin", async () => {
    expect(await on({ "app/build.gradle.kts": script })).toEqual([
      "targetSdk is not set, so that it is minSdk, 24; the store requires 35 since 2025-08-31",
    ]);
    const newer = BASE["build.gradle.kts"].replace("8.7.3", "9.0.0");
    expect(await on({ "app/build.gradle.kts": script, "build.gradle.kts": newer })).toEqual([]);
    const elsewhere = `${BASE["build.gradle.kts"]}subprojects { afterEvaluate { extensions.configure<BaseExtension> { defaultConfig { targetSdk = 35 } } } }\n`;
    expect(await on({ "app/build.gradle.kts": script, "build.gradle.kts": elsewhere })).toEqual([]);
  });
});
