import { describe, expect, it } from "vitest";
import { kiosk, quayside } from "../helpers/web-apps.js";
import { reportOf } from "../helpers/memory.js";
import { expectTold, type Changes, type Files } from "../helpers/mistakes.js";

type Mistake = [what: string, app: Files, changes: Changes, rules: string];

const MISTAKES: Mistake[] = [
  ["min level", quayside, [["config.xml", 'android-minSdkVersion" value="24"', 'android-minSdkVersion" value="22"']], "level/below-need"],
  [
    "deployment target",
    quayside,
    [["config.xml", 'deployment-target" value="13.0"', 'deployment-target" value="11.0"']],
    "level/below-need",
  ],
  [
    "purpose text",
    quayside,
    [
      [
        "config.xml",
        '<edit-config file="*-Info.plist" mode="merge" target="NSLocationWhenInUseUsageDescription">\n            <string>Shows the quay.</string>\n        </edit-config>',
        "",
      ],
    ],
    "permit/purpose-missing",
  ],
  ["purpose text empty", quayside, [["config.xml", "<string>Shows the quay.</string>", "<string></string>"]], "permit/purpose-missing"],
  [
    "purpose under android",
    quayside,
    [
      [
        "config.xml",
        '    </platform>\n    <platform name="ios">\n        <preference name="deployment-target" value="13.0" />\n        <edit-config file="*-Info.plist" mode="merge" target="NSLocationWhenInUseUsageDescription">\n            <string>Shows the quay.</string>\n        </edit-config>',
        '        <edit-config file="*-Info.plist" mode="merge" target="NSLocationWhenInUseUsageDescription">\n            <string>Shows the quay.</string>\n        </edit-config>\n    </platform>\n    <platform name="ios">\n        <preference name="deployment-target" value="13.0" />',
      ],
    ],
    "permit/purpose-missing",
  ],
  ["key on android", quayside, [["config.xml", 'android:value="qm_0123abcd"', 'android:value="qm_012"']], "key/shape"],
  [
    "key on ios",
    quayside,
    [["config.xml", '<config-file parent="QuaymapKey" target="*-Info.plist"><string>qm_0123abcd</string></config-file>', ""]],
    "key/missing",
  ],
  [
    "background mode",
    quayside,
    [
      [
        "config.xml",
        '<config-file parent="UIBackgroundModes" target="*-Info.plist"><array><string>location</string></array></config-file>',
        "",
      ],
    ],
    "permit/entry-missing",
  ],
  [
    "service file's id",
    quayside,
    [["res/android/quaymap-services.json", "example.maresia.quayside", "example.maresia.kiosk"]],
    "key/missing|identity/service-file-mismatch",
  ],
  [
    "service file not listed",
    quayside,
    [["config.xml", '        <resource-file src="res/android/quaymap-services.json" target="app/quaymap-services.json" />\n', ""]],
    "key/missing|identity/.*",
  ],
  [
    "service file's path",
    quayside,
    [["config.xml", 'src="res/android/quaymap-services.json"', 'src="res/droid/quaymap-services.json"']],
    "key/missing|identity/.*|source/.*",
  ],
  [
    "ios resource file's path",
    quayside,
    [["config.xml", 'src="res/ios/Quaymap-Info.plist"', 'src="res/apple/Quaymap-Info.plist"']],
    "identity/.*|source/.*",
  ],
  [
    "plugin gone from package.json",
    quayside,
    [
      ["package.json", '    "cordova-plugin-tide": "^1.1.0"\n', '    "cordova-plugin-x": "^1.1.0"\n'],
      ["package.json", '"cordova-plugin-tide": {}', '"cordova-plugin-x": {}'],
    ],
    "version/.*|native/.*|source/.*",
  ],
  ["plugin declared and not installed", quayside, "plugins/cordova-plugin-tide/plugin.xml", "version/.*|native/.*|source/.*"],
  [
    "installed version behind the declared",
    quayside,
    [["package.json", '"cordova-plugin-tide": "^1.1.0"', '"cordova-plugin-tide": "^2.0.0"']],
    "version/lock-stale",
  ],
  [
    "plugin's folder behind the lock",
    quayside,
    [
      ["plugins/cordova-plugin-tide/plugin.xml", 'version="1.1.0"', 'version="1.0.0"'],
      ["plugins/cordova-plugin-tide/package.json", "1.1.0", "1.0.0"],
    ],
    "version/lock-stale",
  ],
  ["variable not given", quayside, [["package.json", '"MAP_MODE": "full"', '"MODE": "full"']], "key/.*|native/.*|project/.*"],
  ["cordova.js not loaded", quayside, [["www/index.html", '  <script src="cordova.js"></script>\n', ""]], "native/.*|start/.*"],
  ["start lost", quayside, [["www/js/index.js", "  Quaymap.start('qm_0123abcd');\n", ""]], "start/missing"],
  ["class of the plugin on ios", quayside, [["plugins/cordova-plugin-tide/plugin.xml", 'value="CDVTide"', 'value="Tide"']], "native/.*"],
  [
    "class of the plugin on android",
    quayside,
    [["plugins/cordova-plugin-tide/plugin.xml", 'value="example.tide.Tide"', 'value="example.tide.TidePlugin"']],
    "native/.*",
  ],
  ["plugin's source file not there", quayside, "plugins/cordova-plugin-tide/src/ios/CDVTide.m", "source/binary-missing|native/.*"],
  ["id of a template", quayside, [["config.xml", 'id="example.maresia.quayside"', 'id="io.cordova.hellocordova"']], "identity/.*"],
  [
    "old engine for the target",
    quayside,
    [["config.xml", '"android-targetSdkVersion" value="35"', '"android-targetSdkVersion" value="22"']],
    "level/order",
  ],
  ["cap: min level", kiosk, [["android/variables.gradle", "minSdkVersion = 24", "minSdkVersion = 22"]], "level/below-need"],
  [
    "cap: settings list without the plugin",
    kiosk,
    [
      [
        "android/capacitor.settings.gradle",
        "include ':quaymap-capacitor'\nproject(':quaymap-capacitor').projectDir = new File('../node_modules/@quaymap/capacitor/android')\n",
        "",
      ],
    ],
    "native/.*",
  ],
  [
    "cap: build list without the plugin",
    kiosk,
    [["android/app/capacitor.build.gradle", "    implementation project(':quaymap-capacitor')\n", ""]],
    "native/.*",
  ],
  [
    "cap: Podfile without the plugin",
    kiosk,
    [["ios/App/Podfile", "  pod 'QuaymapCapacitor', :path => '../../node_modules/@quaymap/capacitor'\n", ""]],
    "native/.*",
  ],
  [
    "cap: appId differs",
    kiosk,
    [["capacitor.config.ts", "example.maresia.kiosk", "example.maresia.kiosks"]],
    "project/config-apart|identity/.*",
  ],
  [
    "cap: versions of the framework",
    kiosk,
    [
      ["package.json", '"@capacitor/ios": "7.2.0"', '"@capacitor/ios": "6.1.0"'],
      ["node_modules/@capacitor/ios/package.json", "7.2.0", "6.1.0"],
    ],
    "version/.*",
  ],
  ["cap: apply of the list lost", kiosk, [["android/app/build.gradle", "apply from: 'capacitor.build.gradle'\n", ""]], "native/.*"],
  [
    "cap: purpose text",
    kiosk,
    [["ios/App/App/Info.plist", "  <key>NSLocationWhenInUseUsageDescription</key><string>Shows where the crew is.</string>\n", ""]],
    "permit/purpose-missing|permit/pair-broken",
  ],
  [
    "cap: camera text",
    kiosk,
    [["ios/App/App/Info.plist", "  <key>NSCameraUsageDescription</key><string>Scans the pass.</string>\n", ""]],
    "permit/pair-broken",
  ],
  [
    "cap: own plugin not registered on android",
    kiosk,
    [["android/app/src/main/java/example/maresia/kiosk/MainActivity.java", "    registerPlugin(GatePlugin.class);\n", ""]],
    "native/.*",
  ],
  [
    "cap: own plugin not registered on ios",
    kiosk,
    [["ios/App/App/MyViewController.swift", "    bridge?.registerPluginInstance(GatePlugin())\n", ""]],
    "native/.*",
  ],
  ["cap: own plugin's name on ios", kiosk, [["ios/App/App/GatePlugin.swift", 'jsName = "Gate"', 'jsName = "Gates"']], "parity/.*"],
  ["cap: start lost", kiosk, [["src/main.ts", "Quaymap.start({ key: 'qm_0123abcd' });\n", ""]], "start/.*"],
  [
    "cap: pod level over the Podfile",
    kiosk,
    [["node_modules/@quaymap/capacitor/QuaymapCapacitor.podspec", "13.0", "15.0"]],
    "level/below-need",
  ],
  [
    "cap: background mode",
    kiosk,
    [["ios/App/App/Info.plist", "<string>location</string>", "<string>audio</string>"]],
    "permit/entry-missing",
  ],
  ["cap: key", kiosk, [["ios/App/App/Info.plist", "qm_0123abcd", "qm_01"]], "key/shape"],
  ["own script not loaded", quayside, [["www/index.html", '  <script src="js/index.js"></script>\n', ""]], "start/.*"],
  [
    "policy against the host",
    quayside,
    [["www/index.html", "connect-src 'self' https://api.maresia.example", "connect-src 'self'"]],
    "permit/host",
  ],
  ["access origin lost", quayside, [["config.xml", '    <access origin="https://*.maresia.example" />\n', ""]], "permit/host"],
  [
    "start before deviceready",
    quayside,
    [
      [
        "www/js/index.js",
        "document.addEventListener('deviceready', function () {\n  Quaymap.start('qm_0123abcd');",
        "Quaymap.start('qm_0123abcd');\ndocument.addEventListener('deviceready', function () {",
      ],
    ],
    "start/.*",
  ],
  [
    "plugin for one platform only",
    quayside,
    [["plugins/cordova-plugin-tide/plugin.xml", '<platform name="ios">', '<platform name="browser">']],
    "parity/.*|native/.*",
  ],
  [
    "cap: plugin left in the lists",
    kiosk,
    [["package.json", '    "@capacitor/camera": "7.0.0"', '    "@capacitor/haptics": "7.0.0"']],
    "native/.*|source/.*|version/.*",
  ],
  [
    "cap: view controller not in the storyboard",
    kiosk,
    [["ios/App/App/Base.lproj/Main.storyboard", "MyViewController", "CAPBridgeViewController"]],
    "native/.*",
  ],
  [
    "cap: method of own plugin misspelt on ios",
    kiosk,
    [["ios/App/App/GatePlugin.swift", 'CAPPluginMethod(name: "open"', 'CAPPluginMethod(name: "opens"']],
    "parity/.*|native/.*",
  ],
  ["cap: wanted framework newer", kiosk, [["node_modules/@quaymap/capacitor/package.json", ">=7.0.0", ">=8.0.0"]], "version/.*"],
  [
    "entry for the other platform",
    quayside,
    [
      ["config.xml", '        <config-file parent="QuaymapKey" target="*-Info.plist"><string>qm_0123abcd</string></config-file>\n', ""],
      [
        "config.xml",
        '        <config-file target="AndroidManifest.xml"',
        '        <config-file parent="QuaymapKey" target="*-Info.plist"><string>qm_0123abcd</string></config-file>\n        <config-file target="AndroidManifest.xml"',
      ],
    ],
    "key/missing",
  ],
  ["deployment target lost", quayside, [["config.xml", '        <preference name="deployment-target" value="13.0" />\n', ""]], "level/.*"],
  [
    "content of another page",
    quayside,
    [["config.xml", '<content src="index.html" />', '<content src="main.html" />']],
    "source/.*|native/.*|project/.*|start/.*",
  ],
  ["variable of a plugin lost", quayside, [["package.json", '"MAP_MODE": "full"', ""]], "key/.*|project/.*|source/.*|native/.*|permit/.*"],
  [
    "plugin called by another name",
    quayside,
    [["www/js/index.js", "Quaymap.start('qm_0123abcd')", "QuayMap.start('qm_0123abcd')"]],
    "start/.*|native/.*|parity/.*",
  ],
  [
    "host by http without exception",
    quayside,
    [["www/js/index.js", "https://api.maresia.example/tides", "http://api.maresia.example/tides"]],
    "permit/host",
  ],
  ["event misspelt", quayside, [["www/js/index.js", "'deviceready'", "'deviceReady'"]], "native/template-line"],
  [
    "icon file not there",
    quayside,
    [
      [
        "config.xml",
        '        <resource-file src="res/ios/Quaymap-Info.plist" />',
        '        <resource-file src="res/ios/Quaymap-Information.plist" />',
      ],
    ],
    "source/.*|key/.*|identity/.*",
  ],
  [
    "engine old for the plugin",
    quayside,
    [
      [
        "plugins/cordova-plugin-quaymap/plugin.xml",
        '    <preference name="MAP_MODE" />',
        '    <engines><engine name="cordova-android" version=">=14.0.0" /></engines>\n    <preference name="MAP_MODE" />',
      ],
    ],
    "version/.*",
  ],
  [
    "cap: plugin registered after super",
    kiosk,
    [
      [
        "android/app/src/main/java/example/maresia/kiosk/MainActivity.java",
        "    registerPlugin(GatePlugin.class);\n    super.onCreate(state);\n",
        "    super.onCreate(state);\n    registerPlugin(GatePlugin.class);\n",
      ],
    ],
    "native/.*|start/.*",
  ],
  [
    "cap: method without its mark",
    kiosk,
    [["android/app/src/main/java/example/maresia/kiosk/GatePlugin.java", "  @PluginMethod public void open", "  public void open"]],
    "parity/.*|native/.*",
  ],
  [
    "cap: mark of the plugin lost",
    kiosk,
    [["android/app/src/main/java/example/maresia/kiosk/GatePlugin.java", '@CapacitorPlugin(name = "Gate")\n', ""]],
    "parity/.*|native/.*",
  ],
  ["cap: jsName lost", kiosk, [["ios/App/App/GatePlugin.swift", '  public let jsName = "Gate"\n', ""]], "parity/.*|native/.*"],
  ["cap: asked under another name", kiosk, [["src/main.ts", "registerPlugin<any>('Gate')", "registerPlugin<any>('Gates')"]], "parity/.*"],
  [
    "cap: camera text lost",
    kiosk,
    [["ios/App/App/Info.plist", "  <key>NSCameraUsageDescription</key><string>Scans the pass.</string>\n", ""]],
    "permit/.*",
  ],
  [
    "cap: settings list not applied",
    kiosk,
    [["android/settings.gradle", "apply from: 'capacitor.settings.gradle'\n", ""]],
    "native/.*|source/.*",
  ],
  ["cap: variables too low", kiosk, [["android/variables.gradle", "minSdkVersion = 24", "minSdkVersion = 22"]], "level/.*"],
  ["cap: pods helper lost", kiosk, [["ios/App/Podfile", "  capacitor_pods\nend\n\npost", "end\n\npost"]], "native/.*"],
];

const page = (scripts: string, policy = "default-src *") =>
  `<html><head><meta http-equiv="Content-Security-Policy" content="${policy}"></head><body>${scripts}</body></html>\n`;

describe("Cordova and Capacitor apps as teams lay them out", () => {
  it.each([
    ["Cordova", quayside],
    ["Capacitor", kiosk],
  ])("are quiet: %s", async (_, app) => {
    expect((await reportOf(app)).findings.filter(({ rule }) => rule !== "version/lock-missing")).toEqual([]);
  });

  const INDEX = "www/js/index.js";
  it.each([
    [
      "a start in a function that waits for the device",
      { [INDEX]: "function ready() {\n  Quaymap.start('qm_0123abcd');\n}\ndocument.addEventListener('deviceready', ready);\n" },
    ],
    [
      "a script that another one imports",
      {
        "www/index.html": page('<script src="cordova.js"></script><script type="module" src="js/main.js"></script>'),
        "www/js/main.js": "import './index.js';\n",
      },
    ],
    [
      "a script that is put in by another one",
      {
        "www/index.html": page('<script src="cordova.js"></script><script src="js/load.js"></script>'),
        "www/js/load.js": "document.body.appendChild(document.createElement('script')).src = 'js/index.js';\n",
      },
    ],
    [
      "a policy that allows a whole domain",
      {
        "www/index.html": page(
          '<script src="cordova.js"></script><script src="js/index.js"></script>',
          "connect-src https://*.maresia.example",
        ),
      },
    ],
    [
      "a policy that says nothing of connections",
      { "www/index.html": page('<script src="cordova.js"></script><script src="js/index.js"></script>', "img-src 'self'") },
    ],
    [
      "a plugin for one of the phones, after a look at the platform",
      {
        "plugins/cordova-plugin-tide/plugin.xml": String(quayside["plugins/cordova-plugin-tide/plugin.xml"]).replace(
          '<platform name="ios">',
          '<platform name="browser">',
        ),
        [INDEX]:
          "document.addEventListener('deviceready', function () {\n  Quaymap.start('qm_0123abcd');\n  if (cordova.platformId === 'android') Tide.level();\n}, false);\n",
      },
    ],
  ])("are quiet with %s", async (_, changes) => {
    expect((await reportOf({ ...quayside, ...changes })).findings.map(({ rule, message }) => `${rule} ${message}`)).toEqual([]);
  });

  it.each(MISTAKES)("%s", async (_, app, changes, rules) => {
    await expectTold(app, changes, rules);
  });
});
