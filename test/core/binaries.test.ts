import { describe, expect, it } from "vitest";
import { reason } from "../../src/core/model/reason.js";
import { androidBlock, androidExample, iosExample, reactNativeExample } from "../../src/core/rules/examples.js";
import { ArchivesTree } from "../../src/core/files/archives.js";
import { MemoryTree } from "../../src/core/files/memory.js";
import { ProjectFiles } from "../../src/core/gather/project-files.js";
import { survey } from "../../src/core/project/survey.js";
import { monorepo } from "../helpers/dotnet-apps.js";
import { machO, packed, zip } from "../helpers/archives.js";
import { reportOf } from "../helpers/memory.js";

/** Archives as SDKs hand them out: what goes wrong with them, and what looks wrong and is right. */

type Files = Record<string, string | Uint8Array>;

const AAR = "app/libs/tidewire-1.4.aar";
const KOTLIN =
  "buildscript {\n  repositories { google(); mavenCentral() }\n  dependencies {\n    classpath 'com.android.tools.build:gradle:7.4.2'\n    classpath 'org.jetbrains.kotlin:kotlin-gradle-plugin:1.9.24'\n  }\n}\n";

/** The head of a native library, as the linker writes it. */
function library(alignment: number, bits: 32 | 64 = 64): Buffer {
  const head = Buffer.alloc(4_096);
  head.write(bits === 64 ? "7f454c46020101" : "7f454c46010101", "hex");
  const [table, at] = bits === 64 ? [64, 48] : [52, 28];
  if (bits === 64) head.writeBigUInt64LE(BigInt(table), 0x20);
  else head.writeUInt32LE(table, 0x1c);
  const size = bits === 64 ? 56 : 32;
  head.writeUInt16LE(size, bits === 64 ? 0x36 : 0x2a);
  head.writeUInt16LE(2, bits === 64 ? 0x38 : 0x2c);
  for (const [index, align] of [65_536, alignment].entries()) {
    head.writeUInt32LE(1, table + index * size);
    head.writeUInt32LE(align, table + index * size + at);
  }
  return head;
}

function kotlinModule(major: number, minor: number): Buffer {
  const bytes = Buffer.alloc(24);
  for (const [index, value] of [3, major, minor, 0].entries()) bytes.writeUInt32BE(value, index * 4);
  return bytes;
}

/** The head of a class file for a release of Java. */
function classFile(release: number): Buffer {
  return Buffer.from([0xca, 0xfe, 0xba, 0xbe, 0, 0, 0, 44 + release]);
}

const manifest = (inside = "", attributes = "") =>
  `<manifest xmlns:android="http://schemas.android.com/apk/res/android" xmlns:tools="http://schemas.android.com/tools" package="example.tidewire"${attributes}>${inside}</manifest>`;
const metadata = (lines: string) => ({
  [`${AAR}!/META-INF/com/android/build/gradle/aar-metadata.properties`]: `aarFormatVersion=1.0\n${lines}\n`,
});
const inside = (files: Files): Files => Object.fromEntries(Object.entries(files).map(([path, content]) => [`${AAR}!/${path}`, content]));

interface Shape {
  settings?: string;
  android?: string;
  dependencies?: string;
  manifest?: string;
  files?: Files;
}

function app({ settings, android = "", dependencies, manifest: own = manifest(), files = {} }: Shape): Files {
  return {
    ...androidExample(
      `${androidBlock(settings).replace(/\}\n$/, `${android}}\n`)}\ndependencies {\n  ${dependencies ?? "implementation files('libs/tidewire-1.4.aar')"}\n}\n`,
    ),
    "build.gradle": `${KOTLIN}allprojects {\n  repositories {\n    google()\n    mavenCentral()\n  }\n}\n`,
    "app/src/main/AndroidManifest.xml": own,
    [`${AAR}!/AndroidManifest.xml`]: manifest(),
    ...files,
  };
}

const told = async (shape: Shape) =>
  (await reportOf(app(shape), { today: "2026-11-28" })).findings
    .filter(({ severity }) => severity !== "note")
    .map(({ rule, message }) => `${rule}: ${message}`);

describe("an archive in the tree", () => {
  it.each<[string, Shape, string]>([
    [
      "asks for a higher minimum",
      { files: inside({ "AndroidManifest.xml": manifest('<uses-sdk android:minSdkVersion="26" />') }) },
      "level/below-need: tidewire-1.4.aar needs minSdk 26; this app has 24",
    ],
    [
      "that a pattern takes in asks for a higher minimum",
      {
        dependencies: "implementation fileTree(dir: 'libs', include: ['*.jar', '*.aar'])",
        files: inside({ "AndroidManifest.xml": manifest('<uses-sdk android:minSdkVersion="26" />') }),
      },
      "level/below-need: tidewire-1.4.aar needs minSdk 26; this app has 24",
    ],
    [
      "asks for a higher compile level",
      { files: metadata("minCompileSdk=36") },
      "level/below-need: tidewire-1.4.aar needs compileSdk 36; this app has 35",
    ],
    [
      "asks for desugaring",
      { files: metadata("coreLibraryDesugaringEnabled=true") },
      "level/desugaring-off: tidewire-1.4.aar needs core library desugaring, but the application's module does not enable it",
    ],
    [
      "was made with a Kotlin that is too new",
      { files: inside({ "classes.jar": zip({ "META-INF/tidewire.kotlin_module": kotlinModule(2, 2) }) }) },
      "level/below-need: tidewire-1.4.aar needs kotlin 2.1; this app has 1.9.24",
    ],
    [
      "was made with a Java that is too new",
      { android: "}\nkotlin {\n  jvmToolchain(11)\n", files: inside({ "classes.jar": zip({ "example/A.class": classFile(17) }) }) },
      "level/below-need: tidewire-1.4.aar needs java 17; this app has 11",
    ],
    [
      "asks for a placeholder",
      {
        files: inside({
          "AndroidManifest.xml": manifest('<application><meta-data android:name="k" android:value="${tideKey}"/></application>'),
        }),
      },
      "key/placeholder-unset: the manifest of tidewire-1.4.aar needs the placeholder tideKey, but the build does not define it",
    ],
    [
      "has a library for small pages",
      { files: inside({ "jni/arm64-v8a/libtide.so": library(4_096) }) },
      "native/page-size: tidewire-1.4.aar: libtide.so is aligned to 4 KB; devices with 16 KB pages cannot load it, and the store has required 16 KB since 2025-11-01",
    ],
    [
      "has a library for 32-bit devices alone",
      { files: inside({ "jni/armeabi-v7a/libtide.so": library(4_096, 32) }) },
      "native/processor-missing: tidewire-1.4.aar: libtide.so for armeabi-v7a has no counterpart for arm64-v8a: 64-bit devices do not find it",
    ],
    [
      "brings a library that the app has too",
      {
        files: {
          ...inside({ "jni/arm64-v8a/libtide.so": library(16_384) }),
          "app/src/main/jniLibs/arm64-v8a/libtide.so": library(16_384),
        },
      },
      "native/library-doubled: tidewire-1.4.aar and the app itself both contain libtide.so",
    ],
    [
      "has the classes of another",
      {
        dependencies: "implementation files('libs/tidewire-1.4.aar', 'libs/tide-core.jar')",
        files: {
          ...inside({ "classes.jar": zip({ "example/tide/Feed.class": "x", "example/tide/Wave.class": "x" }) }),
          "app/libs/tide-core.jar": zip({ "example/tide/Feed.class": "x", "example/tide/Wave.class": "x" }),
        },
      },
      "version/classes-doubled: tidewire-1.4.aar and tide-core.jar both contain example.tide.Feed and 1 more class",
    ],
    ["is cut off", { files: { [AAR]: zip({ "AndroidManifest.xml": manifest() }).subarray(0, 60) } }, "project/unreadable"],
  ])("that %s is told", async (_, shape, expected) => {
    expect((await told(shape)).filter((line) => line.startsWith(expected))).toHaveLength(1);
  });

  it.each<[string, Shape]>([
    ["lower minimum", { files: inside({ "AndroidManifest.xml": manifest('<uses-sdk android:minSdkVersion="21" />') }) }],
    [
      "minimum that the app's manifest sets aside",
      {
        manifest: manifest('<uses-sdk tools:overrideLibrary="example.other, example.tidewire" />'),
        files: inside({ "AndroidManifest.xml": manifest('<uses-sdk android:minSdkVersion="26" />') }),
      },
    ],
    ["metadata that asks for nothing", { files: metadata("minCompileSdk=1\nminAndroidGradlePluginVersion=1.0.0") }],
    [
      "desugaring that is switched on",
      {
        android: "  compileOptions {\n    coreLibraryDesugaringEnabled true\n  }\n",
        dependencies: "implementation files('libs/tidewire-1.4.aar')\n  coreLibraryDesugaring 'com.android.tools:desugar_jdk_libs:2.0.4'",
        files: metadata("coreLibraryDesugaringEnabled=true"),
      },
    ],
    ["Kotlin of the next release", { files: inside({ "classes.jar": zip({ "META-INF/a.kotlin_module": kotlinModule(2, 0) }) }) }],
    [
      "placeholder with a value for each flavour",
      {
        android: "  flavorDimensions 'a'\n  productFlavors {\n    play {\n      manifestPlaceholders = [tideKey: 'a']\n    }\n  }\n",
        files: inside({
          "AndroidManifest.xml": manifest('<application><meta-data android:name="k" android:value="${tideKey}"/></application>'),
        }),
      },
    ],
    [
      "the app's id as a placeholder",
      { files: inside({ "AndroidManifest.xml": manifest('<permission android:name="${applicationId}.P"/>') }) },
    ],
    ["library for large pages", { files: inside({ "jni/arm64-v8a/libtide.so": library(16_384) }) }],
    [
      "32-bit library for small pages beside it",
      { files: inside({ "jni/arm64-v8a/a.so": library(65_536), "jni/armeabi-v7a/a.so": library(4_096, 32) }) },
    ],
    [
      "library for small pages in an app for older systems",
      { settings: "minSdk 24\n    targetSdk 34", files: inside({ "jni/arm64-v8a/a.so": library(4_096) }) },
    ],
    [
      "library for small pages in debug builds",
      { dependencies: "debugImplementation files('libs/tidewire-1.4.aar')", files: inside({ "jni/arm64-v8a/a.so": library(4_096) }) },
    ],
    ["what is named like a library and is none", { files: inside({ "jni/arm64-v8a/a.so": "text" }) }],
    [
      "two builds of one SDK, one for debug builds and one for release",
      {
        dependencies: "debugImplementation files('libs/tide-debug.aar')\n  releaseImplementation files('libs/tide-release.aar')",
        files: {
          "app/libs/tide-debug.aar": zip({ "classes.jar": zip({ "a/B.class": "x" }), "jni/arm64-v8a/a.so": library(16_384) }),
          "app/libs/tide-release.aar": zip({ "classes.jar": zip({ "a/B.class": "x" }), "jni/arm64-v8a/a.so": library(16_384) }),
        },
      },
    ],
    [
      "placeholder, where convention plugins may give it a value",
      {
        dependencies: "implementation files('libs/tidewire-1.4.aar')\n}\napply plugin: 'app'\ndependencies {",
        files: {
          ...inside({
            "AndroidManifest.xml": manifest('<application><meta-data android:name="k" android:value="${tideKey}"/></application>'),
          }),
          "buildSrc/src/main/groovy/app.gradle": "linksOf(project)\n",
        },
      },
    ],
    [
      "name of an entry twice",
      {
        files: {
          [AAR]: Buffer.from(
            zip({ "a.txt": "1", "b.txt": "2", "AndroidManifest.xml": manifest('<uses-sdk android:minSdkVersion="26" />') })
              .toString("latin1")
              .replaceAll("a.txt", "b.txt"),
            "latin1",
          ),
        },
      },
    ],
    ["pointer in place of a large file", { files: { [AAR]: "version https://git-lfs.example/spec/v1\noid sha256:0\nsize 12345\n" } }],
  ])("with a %s is quiet", async (_, shape) => {
    const lines = await told(shape);
    // The store's floor is another matter.
    expect(lines.filter((line) => !line.startsWith("level/store-floor"))).toEqual([]);
  });

  it("hands its permissions and keep rules to the app", async () => {
    const { survey } = await reportOf(
      app({
        files: inside({
          "AndroidManifest.xml": manifest('<uses-permission android:name="android.permission.CAMERA" />'),
          "proguard.txt": "-keep class example.tidewire.** { *; }\n",
        }),
      }),
    );
    const [found] = survey.apps;
    expect(found?.entries.find(({ name }) => name === "android.permission.CAMERA")?.by).toBe("tidewire-1.4.aar");
    expect(found?.rulesFiles.map(({ file, by, rules }) => [file, by, rules[0]?.text])).toContainEqual([
      `${AAR}!/proguard.txt`,
      "tidewire-1.4.aar",
      "-keep class example.tidewire.** { *; }",
    ]);
  });
});

describe("an archive in a package of .NET", () => {
  it("is read where the package was fetched, in the version that the app has", async () => {
    const permission = (name: string) => manifest(`<uses-permission android:name="android.permission.${name}" />`);
    const at = (version: string, framework: string) =>
      `store/gullpost.mobile/${version}/lib/${framework}/gullpost.aar!/AndroidManifest.xml`;
    const files = packed({
      ...monorepo,
      [at("5.1.0", "net9.0-android35.0")]: permission("CAMERA"),
      [at("5.1.0", "net8.0-android34.0")]: permission("RECORD_AUDIO"),
      [at("5.2.0", "net9.0-android35.0")]: permission("READ_SMS"),
    });
    const { apps } = await survey(new ProjectFiles(new MemoryTree(files), ["store"]));
    const brought = apps.flatMap(({ entries }) =>
      entries.flatMap(({ kind, name, by }) => (kind === "permission" && by ? `${name} ${by}` : [])),
    );
    expect([...new Set(brought)]).toEqual(["android.permission.CAMERA Gullpost.Mobile"]);
  });
});

describe("a framework in a package of .NET", () => {
  const part =
    "<dict><key>LibraryIdentifier</key><string>ios-arm64</string><key>LibraryPath</key><string>Gullpost.framework</string><key>SupportedPlatform</key><string>ios</string></dict>";
  const list = `<plist version="1.0"><dict><key>AvailableLibraries</key><array>${part}</array></dict></plist>`;
  const levels = async (folder: string, minimum: string, framework = "net9.0-ios18.0") => {
    const lib = `store/gullpost.mobile/5.1.0/lib/${framework}/${folder}Gullpost.xcframework`;
    const files = packed({
      ...monorepo,
      [`${lib}/Info.plist`]: list,
      [`${lib}/ios-arm64/Gullpost.framework/Gullpost`]: machO({ symbols: [] }),
      [`${lib}/ios-arm64/Gullpost.framework/Info.plist`]: `<plist version="1.0"><dict><key>MinimumOSVersion</key><string>${minimum}</string></dict></plist>`,
    });
    const { apps } = await survey(new ProjectFiles(new MemoryTree(files), ["store"]));
    const asked = apps.flatMap(({ requiredLevels }) =>
      requiredLevels.flatMap(({ level, value, by, from }) =>
        from === "framework" ? `${level} ${value.kind === "known" ? value.text : "?"} ${by}` : [],
      ),
    );
    return [...new Set(asked)];
  };

  it("is read beside the assembly, in its resources, and where those are packed", async () => {
    for (const folder of ["", "Gullpost.Mobile.resources/", "Gullpost.Mobile.resources.zip!/"])
      expect(await levels(folder, "16.0")).toEqual(["iosTarget 16.0 Gullpost.Mobile"]);
    expect(await levels("", "16.0", "net9.0-maccatalyst18.0")).toEqual([]);
  });
});

describe("a framework that a package brings", () => {
  const PACKAGE = "node_modules/@quaymap/react-native";
  const FRAMEWORK = `${PACKAGE}/ios/Quaymap.xcframework`;
  const part = (identifier: string, variant = "") =>
    `<dict><key>LibraryIdentifier</key><string>${identifier}</string><key>LibraryPath</key><string>Quaymap.framework</string><key>SupportedPlatform</key><string>ios</string>${variant === "" ? "" : `<key>SupportedPlatformVariant</key><string>${variant}</string>`}</dict>`;
  /** The head of a Mach-O file of 64 bits: 6 is a dynamic library, 1 what goes into the app. */
  const machO = (type: number) => {
    const head = Buffer.alloc(32);
    head.writeUInt32LE(0xfeedfacf, 0);
    head.writeUInt32LE(type, 12);
    return head;
  };
  const lines = async (parts: string, type = 6, minimum = "16.0") =>
    (
      await reportOf({
        ...reactNativeExample({ "@quaymap/react-native": "4.2.0" }),

        [`${PACKAGE}/package.json`]: '{ "name": "@quaymap/react-native", "version": "4.2.0" }',
        [`${PACKAGE}/RNQuaymap.podspec`]:
          "Pod::Spec.new do |s|\n  s.name = 'RNQuaymap'\n  s.version = '4.2.0'\n  s.platforms = { :ios => '13.0' }\n  s.vendored_frameworks = 'ios/*.xcframework'\nend\n",
        [`${FRAMEWORK}/Info.plist`]: `<plist version="1.0"><dict><key>AvailableLibraries</key><array>${parts}</array></dict></plist>`,
        [`${FRAMEWORK}/ios-arm64/Quaymap.framework/Info.plist`]: `<plist version="1.0"><dict><key>MinimumOSVersion</key><string>${minimum}</string></dict></plist>`,
        [`${FRAMEWORK}/ios-arm64/Quaymap.framework/Quaymap`]: machO(type),
        ...iosExample({}, { "ios/Podfile": "target 'Pilot' do\n  use_native_modules!\nend\n" }, "ios/"),
      })
    ).findings
      .filter(({ rule, sdk }) => (rule === "level/below-need" && sdk !== "react-native") || rule === "native/slice-missing")
      .map(({ severity, message }) => `${severity}: ${message}`);

  it("must be there for devices, and run on the systems of the app", async () => {
    const whole = part("ios-arm64") + part("ios-arm64_x86_64-simulator", "simulator");
    expect(await lines(whole)).toEqual(["error: @quaymap/react-native needs iosTarget 16.0; this app has 15.0 in Release"]);
    expect(await lines(whole, 6, "13.0")).toEqual([]);
    // A static one becomes part of the app.
    expect(await lines(whole, 1)).toEqual([]);
    expect(await lines(part("ios-arm64_x86_64-simulator", "simulator"))).toEqual([
      "error: Quaymap.xcframework of @quaymap/react-native has no slice for iOS devices",
    ]);
    expect(await lines(part("ios-arm64"), 1)).toEqual(["note: Quaymap.xcframework of @quaymap/react-native has no slice for simulators"]);
    expect(await lines(part("ios-arm64_x86_64-maccatalyst", "maccatalyst") + whole, 1)).toEqual([]);
  });
});

describe("the store's floor", () => {
  const on = async (today: string | undefined, target: number) =>
    (await reportOf(app({ settings: `minSdk 24\n    targetSdk ${target}` }), today === undefined ? {} : { today })).findings
      .filter(({ rule }) => rule === "level/store-floor")
      .map(({ message }) => message);
  it("is told from three months before", async () => {
    expect(await on("2025-05-01", 34)).toEqual([]);
    expect(await on("2025-06-15", 34)).toEqual(["targetSdk is 34; the store requires 35 from 2025-08-31 on"]);
    expect(await on("2025-09-01", 34)).toEqual(["targetSdk is 34; the store requires 35 since 2025-08-31"]);
    expect(await on("2026-11-28", 35)).toEqual([]);
    expect(await on(undefined, 30)).toEqual([]);
  });
});

describe("the version of a binary", () => {
  it("is what its name says after the SDK's, and nothing where it says none", async () => {
    const files = ["tidewire-1.4.aar", "quaymap-4.2.0-release.aar", "brinelog_2.1.0-beta.2.jar", "moorid2.jar", "gullpost-v3.jar"];
    const made = app({ dependencies: files.map((file) => `implementation files('libs/${file}')`).join("\n  ") });
    for (const file of files) made[`app/libs/${file}`] = zip({ "a.txt": "" });
    const { apps } = await survey(new ProjectFiles(new MemoryTree(made)));
    expect(apps[0]?.dependencies.filter(({ ecosystem }) => ecosystem === "binary").map(({ name, locked }) => [name, locked])).toEqual([
      ["tidewire-1.4.aar", "1.4"],
      ["quaymap-4.2.0-release.aar", "4.2.0"],
      ["brinelog_2.1.0-beta.2.jar", "2.1.0-beta.2"],
      ["moorid2.jar", undefined],
      ["gullpost-v3.jar", undefined],
    ]);
  });
});

describe("an archive as a folder", () => {
  const tree = (bytes: Uint8Array) => new ArchivesTree(new MemoryTree({ "a.aar": bytes }));

  it("gives what is in it, and nothing that leads out", () => {
    const made = zip({ "a/b.txt": "text", "c.txt": "more", "inner.jar": zip({ "d.txt": "deep" }) });
    const files = tree(made);
    expect(files.list("a.aar!/").map(({ name, kind }) => `${name} ${kind}`)).toEqual(["a folder", "c.txt file", "inner.jar file"]);
    expect(String(files.part("a.aar!/a/b.txt", 1, 2))).toBe("ex");
    const deep = files.read("a.aar!/inner.jar!/d.txt");
    expect(deep.ok && Buffer.from(deep.bytes).toString()).toBe("deep");
    expect(files.isFile("a.aar!/nothing.txt")).toBe(false);
    // The library writes no such name: it is put into the bytes.
    const climbing = Buffer.from(made.toString("latin1").replaceAll("a/b.txt", "../.txt"), "latin1");
    expect(
      tree(climbing)
        .list("a.aar!/")
        .map(({ name }) => name),
    ).toEqual(["c.txt", "inner.jar"]);
  });

  it("with names that no build writes is not opened, and says so", () => {
    const deep = Object.fromEntries(Array.from({ length: 20 }, (_, index) => [`${index}/${"a/".repeat(5_000)}b`, "x"]));
    const files = tree(zip(deep));
    expect(files.list("a.aar!/")).toEqual([]);
    expect(files.read("a.aar!/0")).toEqual({
      ok: false,
      why: reason("name-too-long", { length: 1024 }),
    });
    expect(tree(zip({ [`${"a/".repeat(60)}b`]: "x" })).read("a.aar!/a")).toEqual({
      ok: false,
      why: reason("too-many-levels", { count: 40 }),
    });
  });

  it("unpacks no more than it may", () => {
    const files = tree(zip({ "bomb.txt": Buffer.alloc(80 * 1024 * 1024) }));
    expect(files.read("a.aar!/bomb.txt")).toEqual({ ok: false, why: reason("unpacks-to-more-than", { size: 64 }) });
    expect(files.part("a.aar!/bomb.txt", 0, 10)).toHaveLength(10);
  });

  it("that says something else than it holds, or is cut off, is bounded", () => {
    const whole = zip({ "AndroidManifest.xml": "<manifest />".repeat(50), "b.txt": "text" });
    for (let at = 0; at < whole.length; at++) {
      const damaged = Buffer.from(whole);
      damaged[at] = 0xff;
      for (const bytes of [damaged, whole.subarray(0, at)]) {
        const files = tree(bytes);
        for (const { name } of files.list("a.aar!/")) {
          const read = files.read(`a.aar!/${name}`);
          expect(read.ok ? read.bytes.length : 0).toBeLessThan(1_000_000);
        }
      }
    }
  });
});
