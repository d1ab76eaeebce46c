import { describe, expect, it } from "vitest";
import { configured, prebuilt, stated } from "../helpers/expo-apps.js";
import { appOf, reportOf } from "../helpers/memory.js";
import { expectTold, type Changes, type Files } from "../helpers/mistakes.js";

type Mistake = [what: string, app: Files, changes: Changes, rules: string];

const MISTAKES: Mistake[] = [
  ["min level of the build properties", configured, [["app.config.ts", "minSdkVersion: 26", "minSdkVersion: 23"]], "level/below-need"],
  [
    "target of the build properties",
    configured,
    [["app.config.ts", 'deploymentTarget: "15.1"', 'deploymentTarget: "13.4"']],
    "level/below-need",
  ],
  ["target over compile", configured, [["app.config.ts", "compileSdkVersion: 35", "compileSdkVersion: 34"]], "level/order"],
  [
    "local module asks for more",
    configured,
    [["modules/tide/android/build.gradle", "minSdkVersion 24", "minSdkVersion 28"]],
    "level/below-need",
  ],
  ["local module's pod asks for more", configured, [["modules/tide/ios/Tide.podspec", "'15.1'", "'17.0'"]], "level/below-need"],
  ["key lost in extra", configured, [["app.config.ts", '    brinelogKey: "bl_0a1b2c3d",\n', ""]], "key/missing"],
  ["key of another shape in extra", configured, [["app.config.ts", "bl_0a1b2c3d", "bl-0a1b2c3d"]], "key/shape"],
  ["key of an instruction in extra", configured, [["app.config.ts", "bl_0a1b2c3d", "YOUR_KEY"]], "key/placeholder"],
  ["key misspelt in extra", configured, [["app.config.ts", "brinelogKey:", "brinlogKey:"]], "key/missing"],
  ["start lost", configured, [["app/_layout.tsx", "Brinelog.start(Constants.expoConfig?.extra?.brinelogKey);\n", ""]], "start/missing"],
  ["purpose text emptied", configured, [["app.config.ts", '"Shows where the crew is."', '""']], "permit/purpose-missing"],
  [
    "purpose text misspelt",
    configured,
    [["app.config.ts", "NSLocationWhenInUseUsageDescription", "NSLocationWhenInUsageDescription"]],
    "permit/.*",
  ],
  [
    "permission lost, and the package that would write it",
    stated,
    [
      ["app.json", '        "android.permission.ACCESS_FINE_LOCATION",\n', ""],
      ["package.json", '    "expo-location": "~18.1.5",\n', ""],
    ],
    "permit/.*",
  ],
  [
    "permission blocked",
    stated,
    [["app.json", '"android.permission.RECORD_AUDIO"', '"android.permission.ACCESS_FINE_LOCATION"']],
    "permit/permission-missing",
  ],
  [
    "permission misspelt",
    stated,
    [["app.json", "android.permission.ACCESS_FINE_LOCATION", "android.permission.ACCESS_FINE_LOCATON"]],
    "permit/.*",
  ],
  ["scheme lost", stated, [["app.json", '      "crewpass",\n', ""]], "permit/scheme"],
  ["scheme misspelt", configured, [["app.config.ts", 'scheme: "crewpass"', 'scheme: "crewpas"']], "permit/scheme"],
  ["query scheme lost", stated, [["app.json", '"quaymap"\n', '"quay"\n']], "permit/.*"],
  ["background mode lost", stated, [["app.json", '          "location"\n', '          "audio"\n']], "permit/entry-missing"],
  [
    "entitlement lost",
    stated,
    [["app.json", '"aps-environment": "production"', '"aps-environments": "production"']],
    "permit/entry-missing",
  ],
  [
    "ids apart",
    configured,
    [["app.config.ts", 'package: "example.maresia.crewpass"', 'package: "example.maresia.crewpas"']],
    "identity/.*",
  ],
  ["id of a template", stated, [["app.json", '"package": "example.maresia.kiosk"', '"package": "com.anonymous.kiosk"']], "identity/.*"],
  [
    "plugin that no package brings",
    configured,
    [["app.config.ts", '    ["expo-build-properties"', '    "quaymap-expo-plugin",\n    ["expo-build-properties"']],
    "source/build-plugin",
  ],
  [
    "plugin file nowhere",
    stated,
    [["app.json", '"platforms"', '"plugins": ["./plugins/withTide"],\n    "platforms"']],
    "source/build-plugin",
  ],
  [
    "module's name differs on iOS",
    configured,
    [["modules/tide/ios/TideModule.swift", 'Name("Tide")', 'Name("Tides")']],
    "parity/service-missing",
  ],
  ["module's name differs in the code", configured, [["modules/tide/index.ts", '("Tide")', '("Tides")']], "parity/service-missing"],
  [
    "function lost on iOS",
    configured,
    [["modules/tide/ios/TideModule.swift", '    Function("level") { 1.0 }\n\n', ""]],
    "parity/service-missing",
  ],
  [
    "function renamed on Android",
    configured,
    [["modules/tide/android/src/main/java/example/maresia/tide/TideModule.kt", 'AsyncFunction("history")', 'AsyncFunction("histories")']],
    "parity/service-missing",
  ],
  ["function misspelt in the code", configured, [["modules/tide/index.ts", "Tide.level()", "Tide.levels()"]], "parity/service-missing"],
  [
    "module class misspelt in its configuration",
    configured,
    [["modules/tide/expo-module.config.json", '"example.maresia.tide.TideModule"', '"example.maresia.tide.TidesModule"']],
    "native/.*",
  ],
  ["module's platform lost", configured, [["modules/tide/expo-module.config.json", '    "apple",\n', ""]], "native/.*|parity/.*"],
  [
    "module's list for iOS lost",
    configured,
    [["modules/tide/expo-module.config.json", '  "apple": {\n    "modules": [\n      "TideModule"\n    ]\n  },\n', ""]],
    "native/.*|parity/.*",
  ],
  ["lock behind", configured, [["package.json", '"@brinelog/expo": "3.0.1"', '"@brinelog/expo": "3.1.0"']], "version/lock-stale"],
  [
    "not in the lock",
    stated,
    [["package.json", '"quaymap-react-native": "^4.2.0"', '"quaymap-react-native": "^4.2.0",\n    "tollbuoy-expo": "1.0.0"']],
    "version/lock-stale",
  ],
  [
    "native: purpose text differs",
    prebuilt,
    [["apps/harbour/app.json", '"Shows where the crew is."', '"Shows the crew near you."']],
    "project/config-apart",
  ],
  [
    "native: purpose text only in the configuration",
    prebuilt,
    [
      [
        "apps/harbour/ios/Harbour/Info.plist",
        "  <key>NSLocationWhenInUseUsageDescription</key><string>Shows where the crew is.</string>\n",
        "",
      ],
    ],
    "permit/purpose-missing|project/config-apart",
  ],
  [
    "native: permission only in the configuration",
    prebuilt,
    [
      [
        "apps/harbour/android/app/src/main/AndroidManifest.xml",
        '  <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION"/>\n',
        "",
      ],
    ],
    "permit/.*|project/config-apart",
  ],
  [
    "native: new permission in the configuration",
    prebuilt,
    [
      [
        "apps/harbour/app.json",
        '"android.permission.ACCESS_FINE_LOCATION"',
        '"android.permission.ACCESS_FINE_LOCATION", "android.permission.RECORD_AUDIO"',
      ],
    ],
    "project/config-apart|permit/pair.*",
  ],
  [
    "native: scheme only in the configuration",
    prebuilt,
    [["apps/harbour/android/app/src/main/AndroidManifest.xml", '        <data android:scheme="crewpass"/>\n', ""]],
    "permit/scheme|project/config-apart",
  ],
  [
    "native: scheme changed in the configuration",
    prebuilt,
    [["apps/harbour/app.json", '"scheme": "crewpass"', '"scheme": "harbour"']],
    "project/config-apart",
  ],
  [
    "native: entitlement only in the configuration",
    prebuilt,
    [["apps/harbour/ios/Harbour/Harbour.entitlements", "  <key>aps-environment</key><string>production</string>\n", ""]],
    "permit/entry-missing|project/config-apart",
  ],
  [
    "native: background mode only in the configuration",
    prebuilt,
    [["apps/harbour/ios/Harbour/Info.plist", "  <key>UIBackgroundModes</key><array><string>location</string></array>\n", ""]],
    "permit/entry-missing|project/config-apart",
  ],
  [
    "native: bundle id differs",
    prebuilt,
    [["apps/harbour/app.json", '"bundleIdentifier": "example.maresia.harbour"', '"bundleIdentifier": "example.maresia.harbor"']],
    "project/config-apart|identity/.*",
  ],
  [
    "native: min level in the property file",
    prebuilt,
    [["apps/harbour/android/gradle.properties", "android.minSdkVersion=26", "android.minSdkVersion=24"]],
    "project/config-apart|level/.*",
  ],
  [
    "native: target in the property file",
    prebuilt,
    [["apps/harbour/ios/Podfile.properties.json", '"ios.deploymentTarget": "15.1"', '"ios.deploymentTarget": "13.4"']],
    "project/config-apart|level/.*",
  ],
  [
    "native: dispatcher lost",
    prebuilt,
    [
      [
        "apps/harbour/android/app/src/main/java/example/maresia/harbour/MainApplication.kt",
        "    ApplicationLifecycleDispatcher.onApplicationCreate(this)\n",
        "",
      ],
    ],
    "native/.*",
  ],
  ["native: modules' pods lost", prebuilt, [["apps/harbour/ios/Podfile", "  use_expo_modules!\n", ""]], "native/.*"],
  [
    "native: delegate of the framework lost",
    prebuilt,
    [
      [
        "apps/harbour/ios/Harbour/AppDelegate.swift",
        "class AppDelegate: ExpoAppDelegate",
        "class AppDelegate: UIResponder, UIApplicationDelegate",
      ],
    ],
    "native/.*",
  ],
  [
    "package of the Kotlin file",
    configured,
    [
      [
        "modules/tide/android/src/main/java/example/maresia/tide/TideModule.kt",
        "package example.maresia.tide",
        "package example.maresia.tides",
      ],
    ],
    "native/.*",
  ],
  [
    "definition lost on Android",
    configured,
    [["modules/tide/android/src/main/java/example/maresia/tide/TideModule.kt", '    Function("level") { 1.0 }\n\n', ""]],
    "parity/service-missing",
  ],
  ["module folder without its native iOS half", configured, "modules/tide/ios/TideModule.swift", "native/.*|parity/.*|source/.*"],
  [
    "entitlement of the development",
    configured,
    [["app.config.ts", '"aps-environment": "production"', '"aps-enviroment": "production"']],
    "permit/entry-missing",
  ],
  [
    "scheme under the wrong key",
    configured,
    [
      ["app.config.ts", '  scheme: "crewpass",\n', ""],
      ["app.config.ts", "    bundleIdentifier:", '    urlScheme: "crewpass",\n    bundleIdentifier:'],
    ],
    "permit/scheme",
  ],
  [
    "permissions under ios",
    configured,
    [
      ["app.config.ts", '    permissions: ["ACCESS_FINE_LOCATION"],\n', ""],
      ["app.config.ts", "    bundleIdentifier:", '    permissions: ["ACCESS_FINE_LOCATION"],\n    bundleIdentifier:'],
    ],
    "permit/permission-missing",
  ],
  ["infoPlist misspelt", configured, [["app.config.ts", "infoPlist:", "infoPList:"]], "permit/.*"],
  ["start behind the development flag", configured, [["app/_layout.tsx", "Brinelog.start(", "if (__DEV__) Brinelog.start("]], "start/.*"],
  [
    "start in a component that is not rendered",
    configured,
    [
      ["app/_layout.tsx", "Brinelog.start(Constants.expoConfig?.extra?.brinelogKey);\n\n", ""],
      ["app/_layout.tsx", "export default", "function Unused() {\n  Brinelog.start('bl_0a1b2c3d');\n  return null;\n}\n\nexport default"],
    ],
    "start/.*",
  ],
  ["start only on iOS", configured, [["app/_layout.tsx", "Brinelog.start(", "if (Platform.OS === 'ios') Brinelog.start("]], "start/.*"],
  [
    "Android package with capital",
    stated,
    [["app.json", '"package": "example.maresia.kiosk"', '"package": "example.maresia.1kiosk"']],
    "identity/.*|project/.*",
  ],
  [
    "purpose text of the plugin switched off",
    stated,
    [
      ["app.json", '"NSCameraUsageDescription": "Scans.",', ""],
      ["app.json", '"platforms"', '"plugins": [["expo-camera", {"cameraPermission": false}]],\n    "platforms"'],
    ],
    "permit/.*",
  ],
  [
    "native: query only in the configuration",
    prebuilt,
    [["apps/harbour/ios/Harbour/Info.plist", "  <key>LSApplicationQueriesSchemes</key><array><string>quaymap</string></array>\n", ""]],
    "permit/.*|project/.*",
  ],
  [
    "native: application id differs",
    prebuilt,
    [["apps/harbour/android/app/build.gradle", "applicationId 'example.maresia.harbour'", "applicationId 'example.maresia.harbor'"]],
    "project/config-apart|identity/.*",
  ],
  [
    "native: packages of the framework lost",
    prebuilt,
    [
      [
        "apps/harbour/android/app/src/main/java/example/maresia/harbour/MainApplication.kt",
        "ReactNativeHostWrapper(this, object : DefaultReactNativeHost(this) {",
        "object : DefaultReactNativeHost(this) {",
      ],
      ["apps/harbour/android/app/src/main/java/example/maresia/harbour/MainApplication.kt", "packages\n  })", "packages\n  }"],
    ],
    "native/.*",
  ],
  [
    "native: entitlement value apart",
    prebuilt,
    [["apps/harbour/ios/Harbour/Harbour.entitlements", "production", "development"]],
    "project/config-apart",
  ],
  [
    "native: extra permission in the manifest",
    prebuilt,
    [
      [
        "apps/harbour/android/app/src/main/AndroidManifest.xml",
        '  <uses-permission android:name="android.permission.CAMERA"/>\n',
        '  <uses-permission android:name="android.permission.CAMERA"/>\n  <uses-permission android:name="android.permission.READ_CONTACTS"/>\n',
      ],
    ],
    "permit/.*|project/.*",
  ],
];

describe("apps with Expo as teams lay them out", () => {
  it.each([
    ["a configuration in TypeScript, a local module", configured],
    ["native folders in the tree", prebuilt],
    ["all in one JSON file", stated],
  ])("are quiet: %s", async (_, app) => {
    expect((await reportOf(app)).findings.filter(({ severity }) => severity !== "note")).toEqual([]);
  });

  it.each(MISTAKES)("%s", async (_, app, changes, rules) => {
    await expectTold(app, changes, rules);
  });
});

describe("config plugins", () => {
  const plugin = "plugins/withTide.js";
  const with_ = (code: string): Files => ({
    "package.json": '{ "name": "tide", "dependencies": { "expo": "~52.0.0", "react-native": "0.76.9" } }',
    "app.json":
      '{ "expo": { "slug": "tide", "ios": { "bundleIdentifier": "example.tide" }, "android": { "package": "example.tide" }, "plugins": ["./plugins/withTide"] } }',
    [plugin]: code,
  });
  const HEAD = 'const { withInfoPlist, withAndroidManifest, withDangerousMod, AndroidConfig } = require("expo/config-plugins");\n';
  it.each([
    [
      "keys and items that their code names",
      'module.exports = (config) => withAndroidManifest(withInfoPlist(config, (c) => { c.modResults.TideLevel = "high"; return c; }), (c) => { const main = AndroidConfig.Manifest.getMainApplicationOrThrow(c.modResults); AndroidConfig.Manifest.addMetaDataItemToMainApplication(main, "example.tide.LEVEL", "high"); return c; });',
      ["metaData example.tide.LEVEL", "plist TideLevel"],
      [],
    ],
    [
      "a purpose text",
      'module.exports = (config) => withInfoPlist(config, (c) => { c.modResults.NSCameraUsageDescription ??= "Reads codes."; return c; });',
      ["plist NSCameraUsageDescription", "purposeText NSCameraUsageDescription"],
      [],
    ],
    [
      "a list that is handed on",
      "module.exports = (config) => withInfoPlist(config, (c) => { change(c.modResults); return c; });",
      [],
      ["ios"],
    ],
    ["files of one side", 'module.exports = (config) => withDangerousMod(config, ["android", (c) => c]);', [], ["android"]],
    [
      "the plugin of another package",
      'const withOther = require("other");\nmodule.exports = (config) => withOther(config);',
      [],
      ["android", "ios"],
    ],
    ["a file that is not there", 'const more = require("./more");\nmodule.exports = (config) => more(config);', [], ["android", "ios"]],
  ])("%s", (_, code, entries, open) => {
    const { entries: found, configPlugins } = appOf({ ...with_(HEAD + code) });
    expect(found.flatMap(({ by, kind, name }) => (by === "./plugins/withTide" ? [`${kind} ${name}`] : [])).sort()).toEqual(entries);
    expect([...(configPlugins[0]?.open ?? [])].sort()).toEqual(open);
  });
});

describe("names for folders in the TypeScript settings", () => {
  const app = (settings: string, code: string): Files => ({
    "package.json": '{"name":"shop","main":"index.js","dependencies":{"expo":"~54.0.0","react":"19.1.0"}}',
    "app.json": '{"expo":{"name":"Shop","slug":"shop","scheme":"shop"}}',
    "tsconfig.json": settings,
    "index.js": code,
    "src/lib/index.ts": 'export * from "./tide";\n',
    "src/lib/tide.ts": "export const a = 1;\n",
    "more/wave.ts": "export const a = 1;\n",
    "paths.json": '{ "compilerOptions": { "paths": { "@/*": ["${configDir}/src/*"] } } }',
  });
  const lost = async (files: Files): Promise<string[]> =>
    (await reportOf(files)).findings.flatMap(({ rule, message }) => (rule === "source/binary-missing" ? [message] : []));

  it.each([
    ["the folder of the settings itself", '{"compilerOptions":{"paths":{"@/*":["./*"]}}}', "@/src/lib/tide"],
    ["the same with a base", '{"compilerOptions":{"baseUrl":".","paths":{"@/*":["*"]}}}', "@/src/lib/tide"],
    ["the second of two folders", '{"compilerOptions":{"paths":{"@/*":["./src/*","./more/*"]}}}', "@/wave"],
    ["a name of a file and of its folder", '{"compilerOptions":{"paths":{"@lib":["./src/lib"],"@lib/*":["./src/lib/*"]}}}', "@lib/tide"],
    ["the file itself", '{"compilerOptions":{"paths":{"@lib":["./src/lib"],"@lib/*":["./src/lib/*"]}}}', "@lib"],
    ["the folder of whoever extends", '{"extends":"./paths.json"}', "@/lib/tide"],
    [
      "comments and Windows line ends",
      '\ufeff{\r\n  // names\r\n  "compilerOptions": { "paths": { "@/*": ["./*"], } },\r\n}\r\n',
      "@/src/lib/tide",
    ],
  ])("%s", async (_, settings, name) => {
    expect(await lost(app(settings, `import { a } from "${name}";\nexport default a;\n`))).toEqual([]);
    expect(await lost(app(settings, `import { a } from "${name}s";\nexport default a;\n`))).toHaveLength(1);
  });
});

describe("what packages of the framework write into the native projects", () => {
  const written = (name: string, plugins: unknown[] = []): string[] => {
    const app = appOf({
      "package.json": JSON.stringify({ name: "shop", dependencies: { expo: "~54.0.0", [name]: "*" } }),
      "app.json": JSON.stringify({
        expo: { name: "Shop", slug: "shop", android: { package: "a.b.c" }, ios: { bundleIdentifier: "a.b.c" }, plugins },
      }),
    });
    return app.entries.flatMap((entry) =>
      entry.by === name && entry.kind !== "plist" ? [entry.name.replace("android.permission.", "")] : [],
    );
  };

  it.each([
    ["without being listed", "expo-contacts", [], ["READ_CONTACTS", "WRITE_CONTACTS", "NSContactsUsageDescription"]],
    [
      "once where it is listed",
      "expo-contacts",
      [["expo-contacts", { contactsPermission: "Fills in the crew." }]],
      ["READ_CONTACTS", "WRITE_CONTACTS", "NSContactsUsageDescription"],
    ],
    [
      "not what is switched off",
      "expo-camera",
      [["expo-camera", { recordAudioAndroid: false, microphonePermission: false }]],
      ["CAMERA", "NSCameraUsageDescription"],
    ],
    [
      "not what is not switched on",
      "expo-location",
      [["expo-location", { locationAlwaysPermission: false, locationAlwaysAndWhenInUsePermission: false }]],
      ["ACCESS_COARSE_LOCATION", "ACCESS_FINE_LOCATION", "NSLocationWhenInUseUsageDescription"],
    ],
    ["nothing of a package that has to be listed", "expo-secure-store", [], []],
    ["all where that one is", "expo-secure-store", ["expo-secure-store"], ["NSFaceIDUsageDescription"]],
  ])("%s", (_, name, plugins, entries) => {
    expect(written(name, plugins)).toEqual(entries);
  });
});
