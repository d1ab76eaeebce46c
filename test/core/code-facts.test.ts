import { describe, expect, it } from "vitest";
import { androidBlock, androidExample, quaymapAndroid, quaymapIos, quaymapSheet } from "../../src/core/rules/examples.js";
import { startExample, scriptExample } from "../../src/core/rules/start/examples.js";
import type { Example } from "../../src/core/rules/rule.js";
import { startupOf } from "../../src/core/project/startup.js";
import { appWithCode, shownFacts } from "../helpers/code.js";
import { reportOf } from "../helpers/memory.js";

const ANDROID = "app/src/main/java/example/maresia/pilot";
const launcher =
  '    <activity android:name=".MainActivity"><intent-filter><action android:name="android.intent.action.MAIN" /><category android:name="android.intent.category.LAUNCHER" /></intent-filter></activity>\n';
const startBoth = "on: both, start: { android: Quaymap.start, ios: Quaymap.start, at: launch }";
const useBoth = "on: both, use: { android: Quaymap.show, ios: Quaymap.show }";

/** An Android app whose manifest has an application class and a first activity. */
const android = (files: Example, application = ' android:name=".PilotApplication"', more = ""): Example => ({
  ...quaymapAndroid(),
  ...quaymapSheet(startBoth, useBoth),
  "app/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android" xmlns:tools="http://schemas.android.com/tools" package="example.maresia.pilot">\n  <application${application}>\n${launcher}    <activity android:name=".OtherActivity" />\n${more}  </application>\n</manifest>\n`,
  ...Object.fromEntries(Object.entries(files).map(([name, text]) => [name.includes("/") ? name : `${ANDROID}/${name}`, text])),
});
const ios = (files: Example): Example => ({
  ...quaymapIos(),
  ...quaymapSheet(startBoth, useBoth),
  ...Object.fromEntries(Object.entries(files).map(([name, text]) => [`Pilot/${name}`, text])),
});
const application = (body: string, members = "") =>
  `package example.maresia.pilot\n\nclass PilotApplication : Application() {\n  override fun onCreate() {\n    super.onCreate()\n    ${body}\n  }\n${members}}\n`;

describe("when a start runs", () => {
  it.each<[string, Example, string[]]>([
    [
      "in the application",
      android({ "PilotApplication.kt": application("Quaymap.start(this)") }),
      ["quaymap start PilotApplication.onCreate: entry launch"],
    ],
    [
      "before the application's onCreate",
      android({
        "PilotApplication.java":
          "class PilotApplication extends Application {\n  @Override protected void attachBaseContext(Context base) {\n    super.attachBaseContext(base);\n    Quaymap.start(base);\n  }\n}\n",
      }),
      ["quaymap start PilotApplication.attachBaseContext: entry beforeLaunch"],
    ],
    [
      "in the first activity",
      android({
        "MainActivity.kt": "class MainActivity : Activity() {\n  override fun onCreate(s: Bundle?) {\n    Quaymap.start(this)\n  }\n}\n",
      }),
      ["quaymap start MainActivity.onCreate: entry firstScreen"],
    ],
    [
      "in another activity",
      android({
        "OtherActivity.kt":
          "class OtherActivity : AppCompatActivity() {\n  override fun onCreate(s: Bundle?) {\n    Quaymap.start(this)\n  }\n}\n",
      }),
      ["quaymap start OtherActivity.onCreate: entry later"],
    ],
    [
      "through functions of other files that do not name the SDK",
      android({
        "PilotApplication.kt": application("Boot.all(this)"),
        "Boot.kt": "object Boot {\n  fun all(c: Context) { maps(c) }\n  private fun maps(c: Context) = MapSetup().run2(c)\n}\n",
        "MapSetup.kt": "class MapSetup {\n  fun run2(c: Context) { Quaymap.start(c) }\n}\n",
      }),
      ["quaymap start MapSetup.run2: entry launch"],
    ],
    [
      "when somebody touches something",
      android({
        "MainActivity.kt":
          "class MainActivity : Activity() {\n  override fun onCreate(s: Bundle?) {\n    button.setOnClickListener { Quaymap.start(this) }\n  }\n}\n",
      }),
      ["quaymap start MainActivity.onCreate: entry later"],
    ],
    [
      "by an own provider and an initializer",
      android(
        {
          "MapProvider.kt":
            "class MapProvider : ContentProvider() {\n  override fun onCreate(): Boolean {\n    Quaymap.start(context)\n    return true\n  }\n}\n",
          "ShowInitializer.kt":
            "class ShowInitializer : Initializer<Unit> {\n  override fun create(c: Context) { Quaymap.show(c) }\n  override fun dependencies() = emptyList<Class<out Initializer<*>>>()\n}\n",
        },
        "",
        '    <provider android:name=".MapProvider" android:authorities="a" />\n    <provider android:name="androidx.startup.InitializationProvider" android:authorities="b"><meta-data android:name="example.maresia.pilot.ShowInitializer" android:value="androidx.startup" /></provider>\n',
      ),
      ["quaymap start MapProvider.onCreate: entry provider", "quaymap use ShowInitializer.create: entry provider"],
    ],
    [
      "by an initializer that code asks for, after the one that it depends on",
      android({
        "PilotApplication.kt": application("AppInitializer.getInstance(this).initializeComponent(ShowInitializer::class.java)"),
        "ShowInitializer.kt":
          "class ShowInitializer : Initializer<Unit> {\n  override fun create(c: Context) { Quaymap.show(c) }\n  override fun dependencies() = listOf(MapInitializer::class.java)\n}\n",
        "MapInitializer.kt":
          "class MapInitializer : Initializer<Unit> {\n  override fun create(c: Context) { Quaymap.start(c) }\n  override fun dependencies() = emptyList<Class<out Initializer<*>>>()\n}\n",
      }),
      ["quaymap start MapInitializer.create: entry launch", "quaymap use ShowInitializer.create: entry launch"],
    ],
    [
      "in an app delegate in Swift",
      ios({
        "AppDelegate.swift":
          "@main\nclass AppDelegate: UIResponder, UIApplicationDelegate {\n  func application(_ a: UIApplication, didFinishLaunchingWithOptions o: [UIApplication.LaunchOptionsKey: Any]?) -> Bool {\n    setUp()\n    return true\n  }\n  func applicationDidBecomeActive(_ a: UIApplication) { Quaymap.show() }\n}\nextension AppDelegate {\n  func setUp() { Quaymap.start() }\n}\n",
      }),
      ["quaymap start AppDelegate.setUp: entry launch", "quaymap use AppDelegate.applicationDidBecomeActive: entry firstScreen"],
    ],
    [
      "in an app delegate in Objective-C, whose header says what it is",
      ios({
        "AppDelegate.h": "@interface AppDelegate : RCTAppDelegate\n@end\n",
        "AppDelegate.mm":
          '#import "AppDelegate.h"\n@implementation AppDelegate\n- (BOOL)application:(UIApplication *)a didFinishLaunchingWithOptions:(NSDictionary *)o {\n  [Quaymap startWithKey:@"k"];\n  return YES;\n}\n+ (void)load { [Quaymap show]; }\n@end\n',
      }),
      ["quaymap use AppDelegate.load: entry beforeLaunch", "quaymap start AppDelegate.application: entry launch"],
    ],
    [
      "in a SwiftUI app, its scenes and its first view",
      ios({
        "App.swift":
          "@main\nstruct PilotApp: App {\n  init() { Quaymap.start() }\n  var body: some Scene { WindowGroup { Notes().onAppear { Quaymap.show() } } }\n}\n",
      }),
      ["quaymap start PilotApp.init: entry launch", "quaymap use PilotApp.body: entry firstScreen"],
    ],
    [
      "in a view controller",
      ios({
        "Map.swift":
          "class MapViewController: UIViewController {\n  override func viewDidLoad() { Quaymap.start() }\n}\nlet shown = MapViewController()\n",
      }),
      ["quaymap start MapViewController.viewDidLoad: possible later"],
    ],
    [
      "on another queue",
      ios({ "App.swift": "@main\nstruct PilotApp: App {\n  init() { DispatchQueue.global().async { Quaymap.start() } }\n}\n" }),
      ["quaymap start PilotApp.init: entry launch"],
    ],
  ])("%s", async (_, files, expected) => {
    const { code } = await appWithCode(files);
    expect(shownFacts(code)).toEqual(expected);
    expect((await reportOf(files)).findings.filter(({ rule }) => rule === "start/never-reached" || rule === "start/twice")).toEqual([]);
  });

  it.each<[string, string, string[]]>([
    [
      "at the top of the first file's imports",
      'import Quaymap from "@quaymap/react-native";\n\nQuaymap.start();\n\nexport default function App() {\n  return null;\n}\n',
      ["quaymap start App.tsx: entry launch"],
    ],
    [
      "in an effect of the root component",
      'import { useEffect } from "react";\nimport * as Map from "@quaymap/react-native";\n\nexport default function App() {\n  useEffect(() => { Map.start(); }, []);\n  return null;\n}\n',
      ["quaymap start App: entry launch"],
    ],
    [
      "when somebody touches a button",
      'import { start } from "@quaymap/react-native";\n\nexport default function App() {\n  return <Button onPress={() => start()} />;\n}\n',
      ["quaymap start App: entry later"],
    ],
    [
      "by the name of a named import",
      'import { start as go } from "@quaymap/react-native";\n\ngo();\nexport default () => null;\n',
      ["quaymap start App.tsx: entry launch"],
    ],
    [
      "in a class component",
      'import Quaymap from "@quaymap/react-native";\n\nexport default class App extends React.Component {\n  componentDidMount() { this.setUp(); }\n  setUp = () => { Quaymap.start(); };\n}\n',
      ["quaymap start App.setUp: entry launch"],
    ],
  ])("React Native: %s", async (_, app, expected) => {
    const { code } = await appWithCode(scriptExample(app, ["on: shared, start: { shared: Quaymap.start }"]));
    expect(shownFacts(code)).toEqual(expected);
  });
});

const never = async (files: Example): Promise<string[]> =>
  (await reportOf(files)).findings.filter(({ rule }) => rule === "start/never-reached").map(({ message }) => message);

describe("start/never-reached", () => {
  it.each<[string, Example]>([
    [
      "a function that nothing calls",
      android({ "PilotApplication.kt": application("", "  private fun startMap() { Quaymap.start(this) }\n") }),
    ],
    [
      "a function that only another dead one calls",
      android({
        "PilotApplication.kt": application(
          "",
          "  private fun startMap() { Quaymap.start(this) }\n  private fun startAll() { startMap() }\n",
        ),
      }),
    ],
    [
      "a name that only a comment has",
      android({ "PilotApplication.kt": application("// startMap()", "  private fun startMap() { Quaymap.start(this) }\n") }),
    ],
    ["an application class that the manifest leaves out", android({ "PilotApplication.kt": application("Quaymap.start(this)") }, "")],
    [
      "an app delegate that the SwiftUI app does not name",
      ios({
        "App.swift": "@main\nstruct PilotApp: App {\n  var body: some Scene { WindowGroup { } }\n}\n",
        "MapDelegate.swift":
          "class MapDelegate: NSObject, UIApplicationDelegate {\n  func application(_ a: UIApplication, didFinishLaunchingWithOptions o: [UIApplication.LaunchOptionsKey: Any]?) -> Bool {\n    startMap()\n    return true\n  }\n  func startMap() { Quaymap.start() }\n}\n",
      }),
    ],
    [
      "a Swift method that nothing calls",
      ios({
        "AppDelegate.swift": "@main\nclass AppDelegate: UIResponder, UIApplicationDelegate {\n  func setUpMap() { Quaymap.start() }\n}\n",
      }),
    ],
    [
      "an Objective-C method that nothing calls",
      ios({
        "AppDelegate.m":
          "@implementation AppDelegate\n- (void)setUpMap { [Quaymap start]; }\n@end\nint main(int c, char *v[]) { return UIApplicationMain(c, v, nil, NSStringFromClass([AppDelegate class])); }\n",
      }),
    ],
  ])("reports %s", async (_, files) => expect(await never(files)).toHaveLength(1));

  it.each<[string, Example]>([
    [
      "an override, whoever calls it",
      android({
        "MapFragment.kt": "class MapFragment : Base() {\n  override fun whenShown() { Quaymap.start(context) }\n}\n",
        "Pages.kt": "val pages = listOf(MapFragment())\n",
      }),
    ],
    [
      "an annotated function",
      android({ "Boot.kt": "class Boot {\n  @Subscribe\n  fun onMap(e: Event) { Quaymap.start(e.context) }\n}\nval boot = Boot()\n" }),
    ],
    [
      "a function that a layout names",
      android({
        "MainActivity.kt": "class MainActivity : Activity() {\n  fun openMap(v: View) { Quaymap.start(this) }\n}\n",
        "app/src/main/res/layout/main.xml":
          '<Button xmlns:android="http://schemas.android.com/apk/res/android" android:onClick="openMap" />\n',
      }),
    ],
    [
      "a function that is handed over",
      android({ "PilotApplication.kt": application("whenReady(::startMap)", "  private fun startMap() { Quaymap.start(this) }\n") }),
    ],
    [
      "a function whose name stands in a text",
      android({ "PilotApplication.kt": application('call("startMap")', "  fun startMap() { Quaymap.start(this) }\n") }),
    ],
    [
      "a class that a service file of the platform names",
      android(
        {
          "MapService.kt":
            "class MapService : Service() {\n  override fun onStartCommand(i: Intent?, f: Int, s: Int): Int { Quaymap.start(this); return 1 }\n}\n",
        },
        "",
        '    <service android:name=".MapService" />\n',
      ),
    ],
    [
      "a method of an own protocol",
      ios({
        "A.swift":
          "protocol Starter { func startMap() }\nclass A: NSObject, MapHost { func startMap2() { Quaymap.start() } }\nlet a = A()\n",
      }),
    ],
    [
      "a selector",
      ios({
        "A.swift":
          "class A: UIViewController {\n  override func viewDidLoad() { button.addTarget(self, action: #selector(startMap), for: .touchUpInside) }\n  @objc func startMap() { Quaymap.start() }\n}\nlet a = A()\n",
      }),
    ],
    [
      "a function that is exported by another name",
      scriptExample('import Quaymap from "@quaymap/react-native";\n\nexport default function startMap() { Quaymap.start(); }\n', [
        "on: shared, start: { shared: Quaymap.start }",
      ]),
    ],
    [
      "a class in a storyboard",
      ios({
        "Map.swift": "class MapScreen: UIViewController {\n  override func viewDidLoad() { Quaymap.start() }\n}\n",
        "Main.storyboard": '<document><viewController customClass="MapScreen"/></document>\n',
      }),
    ],
    [
      "code that could not be read in full",
      android({ "PilotApplication.kt": application("", "  private fun startMap() { Quaymap.start(this) }\n  val = = 3\n") }),
    ],
  ])("is silent about %s", async (_, files) => expect(await never(files)).toEqual([]));

  it("tells of a start that no sheet names, as a warning", async () => {
    const files = scriptExample(
      'import { Quaymap } from "@quaymap/react-native";\n\nfunction startMap() { Quaymap.start(); }\nexport default function App() { return null; }\n',
      [],
    );
    const [finding] = (await reportOf(files)).findings.filter(({ rule }) => rule === "start/never-reached");
    expect(finding).toMatchObject({ severity: "warning", sdk: "quaymap" });
  });
});

const rulesOf = async (files: Example): Promise<string[]> =>
  (await reportOf(files)).findings.flatMap(({ rule }) => (rule.startsWith("start/") ? [rule] : []));

describe("the other rules about starting", () => {
  it.each<[string, Example, string[]]>([
    [
      "twice: once in each build",
      startExample({ onCreate: "    if (BuildConfig.DEBUG) Quaymap.start(this, true)\n    else Quaymap.start(this)\n" }),
      [],
    ],
    [
      "twice: not when an early return parts them",
      startExample({
        onCreate: "    if (BuildConfig.DEBUG) {\n      Quaymap.start(this, true)\n      return\n    }\n    Quaymap.start(this)\n",
      }),
      ["start/twice"].slice(1),
    ],
    [
      "twice: by itself and by hand",
      startExample({
        onCreate: "    Quaymap.start(this)\n",
        start: ", automatic: example.quaymap.StartProvider",
        application: '    <provider android:name="example.quaymap.StartProvider" android:authorities="a" />\n',
      }),
      ["start/twice"],
    ],
    [
      "missing: not when a provider starts it",
      startExample({
        onCreate: "",
        start: ", automatic: example.quaymap.StartProvider",
        application: '    <provider android:name="example.quaymap.StartProvider" android:authorities="a" />\n',
      }),
      [],
    ],
    [
      "missing: when that provider is taken out",
      startExample({
        onCreate: "",
        start: ", automatic: example.quaymap.StartProvider",
        application: '    <provider android:name="example.quaymap.StartProvider" android:authorities="a" tools:node="remove" />\n',
      }),
      ["start/missing"],
    ],
    [
      "missing: not when it can be there in another form",
      startExample({ onCreate: "    with(Quaymap) { start(this@PilotApplication) }\n" }),
      [],
    ],
    ["missing: also where the SDK is used", startExample({ onCreate: "    Quaymap.show()\n" }), ["start/missing"]],
    [
      "too late: a use before the start",
      startExample({ onCreate: "    Quaymap.preload()\n    Quaymap.start(this)\n", needs: ["on: android, use: Quaymap.preload"] }),
      ["start/too-late"],
    ],
    [
      "too late: a use in the application, a start on the first screen",
      startExample({
        onCreate: "    Quaymap.preload()\n",
        needs: ["on: android, use: Quaymap.preload"],
        application: launcher,
        files: {
          [`${ANDROID}/MainActivity.kt`]: `import example.quaymap.Quaymap\n\nclass MainActivity : Activity() {\n  override fun onCreate(state: Bundle?) {\n    Quaymap.start(this)\n  }\n}\n`,
        },
      }),
      // The use before it, and the start later than at launch.
      ["start/too-late", "start/too-late"],
    ],
    [
      "too late: not on the first screen, with a start in the application",
      startExample({
        onCreate: "    Quaymap.start(this)\n",
        needs: ["on: android, use: Quaymap.preload"],
        application: launcher,
        files: {
          [`${ANDROID}/MainActivity.kt`]: `import example.quaymap.Quaymap\n\nclass MainActivity : Activity() {\n  override fun onCreate(state: Bundle?) {\n    Quaymap.preload()\n  }\n}\n`,
        },
      }),
      [],
    ],
    [
      "too late: not in a closure that runs some time",
      startExample({
        onCreate: "    whenReady { Quaymap.preload() }\n    Quaymap.start(this)\n",
        needs: ["on: android, use: Quaymap.preload"],
      }),
      [],
    ],
    [
      "too late: not when it asks first",
      startExample({
        onCreate: "    if (Quaymap.isReady) Quaymap.preload()\n    Quaymap.start(this)\n",
        needs: ["on: android, use: Quaymap.preload"],
      }),
      [],
    ],
    [
      "wrong call: a constant of another file",
      startExample({
        onCreate: "    Quaymap.start(this, Keys.MAP)\n",
        start: ', arguments: [{ position: 2, shape: "qm_[0-9]+" }]',
        files: { [`${ANDROID}/Keys.kt`]: 'object Keys { const val MAP = "nothing"\n fun map() = Quaymap.show() }\n' },
      }),
      ["start/wrong-call"],
    ],
    [
      "wrong call: a value that is not known",
      startExample({ onCreate: "    Quaymap.start(this, remoteKey())\n", start: ', arguments: [{ position: 2, shape: "qm_[0-9]+" }]' }),
      [],
    ],
    [
      "wrong call: a placeholder from the instructions",
      startExample({ onCreate: '    Quaymap.start(this, key = "YOUR_KEY_HERE")\n', start: ", arguments: [{ label: key }]" }),
      ["start/wrong-call"],
    ],
    [
      "wrong call: no such argument",
      startExample({ onCreate: "    Quaymap.start()\n", start: ", arguments: [{ label: key }]" }),
      ["start/wrong-call"],
    ],
    [
      "debug: switched off",
      startExample({
        onCreate: "    Quaymap.start(this)\n    Quaymap.setVerbose(false)\n",
        needs: ["on: android, debugOnly: Quaymap.setVerbose"],
      }),
      [],
    ],
    [
      "debug: follows the build",
      startExample({
        onCreate: "    Quaymap.start(this)\n    Quaymap.setVerbose(BuildConfig.DEBUG)\n",
        needs: ["on: android, debugOnly: Quaymap.setVerbose"],
      }),
      [],
    ],
    [
      "debug: a property",
      startExample({
        onCreate: "    Quaymap.start(this)\n    Quaymap.verbose = true\n",
        needs: ["on: android, debugOnly: Quaymap.verbose"],
      }),
      ["start/debug-left-on"],
    ],
    [
      "debug: in the debug build's sources",
      startExample({
        onCreate: "    Quaymap.start(this)\n",
        needs: ["on: android, debugOnly: Quaymap.setVerbose"],
        files: {
          "app/src/debug/java/Debug.kt":
            "import example.quaymap.Quaymap\n\nclass Debug { fun on() { Quaymap.setVerbose(true) } }\nval d = Debug().on()\n",
        },
      }),
      [],
    ],
    [
      "unguarded: optional chaining",
      scriptExample('import Quaymap from "@quaymap/react-native";\n\nQuaymap?.start();\nexport default () => null;\n', [
        "on: shared, start: { shared: Quaymap.start, guard: true }",
      ]),
      [],
    ],
    [
      "import: a name from elsewhere in the file",
      scriptExample("const Quaymap = globalThis.Quaymap;\nQuaymap.start();\nexport default () => null;\n", [
        "on: shared, start: { shared: Quaymap.start }",
      ]),
      ["start/unused"],
    ],
  ])("%s", async (_, files, expected) => expect(await rulesOf(files)).toEqual(expected));

  it("an initializer that another one asks for belongs to a circle, and the order says who comes first", async () => {
    const initializer = (name: string, needs: string) =>
      `class ${name} : Initializer<Unit> {\n  override fun create(c: Context) {}\n  override fun dependencies() = listOf(${needs})\n}\n`;
    const provider =
      '    <provider android:name="androidx.startup.InitializationProvider" android:authorities="b"><meta-data android:name="example.maresia.pilot.A" android:value="androidx.startup" /></provider>\n';
    const files = (last: string) =>
      android(
        { "Map.kt": "val map = Quaymap.show()\n", "A.kt": initializer("A", "B::class.java"), "B.kt": initializer("B", last) },
        "",
        provider,
      );
    const { app, sheets } = await appWithCode(files(""));
    const [side] = startupOf(app, sheets);
    expect(
      side?.steps.filter(({ kind }) => kind === "initializer").map(({ what, number }) => `${number ?? ""} ${what.split(".").at(-1) ?? ""}`),
    ).toEqual(["1 B", "2 A"]);
    expect(
      (await reportOf(files("A::class.java"))).findings.filter(({ rule }) => rule === "start/order").map(({ message }) => message),
    ).toEqual(["the initializers B, A need each other: B → A → B"]);
    expect(await rulesOf(files(""))).not.toContain("start/order");
  });
});

describe("names per language, aliases and packages without a sheet", () => {
  it("a sheet can name a call for one language only", async () => {
    const sheet = quaymapSheet('on: both, start: { android: Quaymap.start, ios: Quaymap.start, objc: "[QMMap bootWithKey:]" }');
    const files = {
      ...ios({
        "A.m":
          '@implementation AppDelegate\n- (BOOL)application:(id)a didFinishLaunchingWithOptions:(id)o {\n  [QMMap bootWithKey:@"k"];\n  [QMMap boot];\n  return YES;\n}\n@end\n',
      }),
      ...sheet,
    };
    const { code } = await appWithCode(files);
    expect(code.calls.map(({ callee, at }) => `${callee} ${at.line}`)).toEqual(["QMMap.bootWithKey 3"]);
  });

  it("a renamed import is the same class, and a variable of the type a loose match", async () => {
    const files = android({
      "PilotApplication.kt": `import example.quaymap.Quaymap as Karte\n${application("Karte.start(this)\n    val m: Quaymap = make()\n    m.show()")}`,
    });
    const { code } = await appWithCode(files);
    expect(code.calls.map(({ callee, exact }) => `${callee} ${String(exact)}`)).toEqual(["Karte.start true", "m.show false"]);
  });

  it("a call that looks like a start is found by the import of a package", async () => {
    const files = {
      ...androidExample(`${androidBlock()}dependencies {\n  implementation 'example.tidewire:tidewire-android:1.4.0'\n}\n`),
      "app/src/main/java/A.kt":
        "import example.tidewire.feed.Tide\n\nclass A { fun go() { Tide.initialize(this); Tide.level() } }\nval a = A().go()\n",
    };
    const { code } = await appWithCode(files);
    expect(shownFacts(code)).toEqual(["tidewire heuristicStart A.go: possible"]);
    expect(code.imports.map(({ sdk }) => sdk)).toEqual(["tidewire"]);
  });

  it.each([
    ["an object that a script makes", "const tide = new Tide('t');\ntide.init();\n", ["tidewire heuristicStart tide.ts: entry launch"]],
    [
      "one that a class of the app makes of itself when it is loaded",
      "class Feed {\n  static shared = new Feed();\n  constructor() {\n    this.tide = new Tide('t');\n    this.tide.init();\n  }\n}\nexport const feed = Feed.shared.tide;\n",
      ["tidewire heuristicStart Feed.init: entry launch"],
    ],
    [
      "one that a component makes before it is there",
      "export class Feed extends React.Component {\n  UNSAFE_componentWillMount() {\n    const tide = new Tide('t');\n    tide.configure({});\n  }\n}\n",
      ["tidewire heuristicStart Feed.UNSAFE_componentWillMount: entry launch"],
    ],
    ["an object that only listens, or is begun", "const tide = new Tide('t');\ntide.initListener(() => 1);\ntide.start();\n", []],
    ["an object of another's", "const tide = new Other('t');\ntide.init();\n", []],
  ])("without a sheet: %s", async (_, code, facts) => {
    const files = scriptExample(
      `import { Feed } from "./tide";\nexport default class App extends React.Component {\n  render() { return <Feed />; }\n}\n`,
      [],
      {
        "tide.ts": `import { Tide } from "@tidewire/react-native";\n${code}`,
      },
    );
    const app = {
      ...files,
      "package.json": '{ "name": "deckpass", "dependencies": { "react-native": "0.80.0", "@tidewire/react-native": "1.4.0" } }',
      "enredo/sheets/quaymap.sdk.yaml": "sdk: quaymap\npackages: { npm: quaymap }\n",
    };
    expect(shownFacts((await appWithCode(app)).code)).toEqual(facts);
  });

  it("arguments are worked out from constants, resources and build fields", async () => {
    const files = startExample({
      onCreate: "    Quaymap.start(this, KEY, getString(R.string.map_key), BuildConfig.MAP_KEY, other())\n",
      members: '  companion object {\n    const val KEY = "qm_1"\n  }\n',
      files: { "app/src/main/res/values/keys.xml": '<resources><string name="map_key">qm_2</string></resources>\n' },
    });
    files["app/build.gradle"] = (files["app/build.gradle"] ?? "").replace(
      "defaultConfig {",
      "defaultConfig {\n    buildConfigField 'String', 'MAP_KEY', '\"qm_3\"'",
    );
    const { code } = await appWithCode(files);
    const values = code.calls[0]?.arguments.map(({ value }) => (value?.kind === "known" ? value.text : "-"));
    expect(values?.[1]).toBe("qm_1");
    expect(values?.[2]).toBe("qm_2");
    expect(values?.[4]).toBe("-");
  });
});

describe("the order in which an app starts", () => {
  const numbers = async (files: Example) => {
    const { app } = await appWithCode(files);
    return startupOf(app, []).flatMap(({ side, steps }) =>
      steps.map(({ number, what }) => `${side} ${number ?? "–"} ${what.replace(/^.*\./, "")}`),
    );
  };
  const initializer = (name: string, body: string, needs = "emptyList<Class<out Initializer<*>>>()") =>
    `class ${name} : Initializer<Unit> {\n  override fun create(c: Context) { ${body} }\n  override fun dependencies() = ${needs}\n}\n`;
  const provider = (...names: string[]) =>
    `    <provider android:name="androidx.startup.InitializationProvider" android:authorities="b">${names.map((name) => `<meta-data android:name="example.maresia.pilot.${name}" android:value="androidx.startup" />`).join("")}</provider>\n`;

  it("has no place between initializers that do not ask for each other", async () => {
    const files = { "A.kt": initializer("A", "Quaymap.start(c)"), "B.kt": initializer("B", "Quaymap.show(c)") };
    expect(await numbers(android(files, "", provider("A", "B")))).toEqual([
      "android 1 A",
      "android 1 B",
      "android 2 start(…)",
      "android 2 show(…)",
    ]);
    const after = { ...files, "B.kt": initializer("B", "Quaymap.show(c)", "listOf(A::class.java)") };
    expect(await numbers(android(after, "", provider("A", "B")))).toEqual([
      "android 1 A",
      "android 2 B",
      "android 2 start(…)",
      "android 3 show(…)",
    ]);
  });

  it("has no number for what waits for a person, and none between what waits apart", async () => {
    const script = (body: string) => ({
      ...scriptExample("", [
        "on: shared, start: { shared: Quaymap.start }",
        "on: shared, use: { shared: [Quaymap.show, Quaymap.sync, Quaymap.hide] }",
      ]),
      "App.tsx": "",
      "index.js": `import Quaymap from "@quaymap/react-native";\n${body}`,
    });
    const found = await numbers(
      script(
        "button.addEventListener('click', () => Quaymap.hide());\nsetTimeout(() => Quaymap.show(), 10);\nfetch('/a').then(() => Quaymap.sync());\nQuaymap.start();\n",
      ),
    );
    expect(found.filter((line) => line.startsWith("android"))).toEqual(["android 1 start()", "android 2 show()", "android 2 sync()"]);
  });

  it("counts shared code for one text of both sides", async () => {
    const files = scriptExample(
      'import Quaymap from "@quaymap/react-native";\nQuaymap.start();\nexport default function App() { return null; }\n',
      ["on: both, start: Quaymap.start"],
    );
    const { findings } = await reportOf(files);
    expect(findings.filter(({ rule }) => rule.startsWith("start/"))).toEqual([]);
    expect(
      (await reportOf({ ...files, "App.tsx": "export default function App() { return null; }\n" })).findings.map(({ rule }) => rule),
    ).toContain("start/missing");
  });
});

describe("packages of the repository", () => {
  const app = (
    files: Example,
    root: Example = { "package.json": '{ "name": "fleet", "private": true, "workspaces": ["apps/*", "packages/*"] }\n' },
  ): Example => {
    const mobile = scriptExample("export default function App() { return null; }\n", ["on: shared, start: { shared: Quaymap.start }"], {
      "index.js":
        'import { AppRegistry } from "react-native";\nimport { boot } from "@maresia/core";\nimport App from "./App";\n\nboot();\nAppRegistry.registerComponent("deckpass", () => App);\n',
    });
    const sheet = "enredo/sheets/quaymap.sdk.yaml";
    const at = (file: string) => (file === sheet || file.startsWith("node_modules/") ? file : `apps/mobile/${file}`);
    const moved = Object.fromEntries(Object.entries(mobile).map(([file, text]) => [at(file), text]));
    const manifest = "apps/mobile/package.json";
    return {
      ...moved,
      [manifest]: (moved[manifest] ?? "")
        .replace('"dependencies": {', '"dependencies": { "@maresia/core": "*",')
        .replace('"dependencies":{', '"dependencies":{"@maresia/core":"*",'),
      ...root,
      ...files,
    };
  };
  const core = (main: string, boot: string): Example => ({
    "packages/core/package.json": `{ "name": "@maresia/core", ${main} "dependencies": { "@maresia/base": "workspace:*" } }\n`,
    "packages/core/src/index.ts": 'export { boot } from "./boot";\n',
    "packages/core/src/boot.ts": boot,
    "packages/base/package.json":
      '{ "name": "@maresia/base", "exports": { ".": { "import": { "source": "./lib/main.ts", "default": "./dist/main.js" } }, "./a": "./lib/a.ts" } }\n',
    "packages/base/lib/main.ts": 'import Quaymap from "@quaymap/react-native";\nexport const open = () => Quaymap.start();\n',
  });
  const direct = 'import Quaymap from "@quaymap/react-native";\nexport function boot() { Quaymap.start(); }\n';
  const further = 'import { open } from "@maresia/base";\nexport function boot() { open(); }\n';

  it.each<[string, Example, string[]]>([
    ["of a workspace", app(core('"main": "src/index.ts",', direct)), ["quaymap start boot: entry launch", "quaymap start open: never"]],
    [
      "whose main file is built",
      app(core('"main": "dist/index.js",', direct)),
      ["quaymap start boot: entry launch", "quaymap start open: never"],
    ],
    [
      "over another one, of pnpm",
      app(core("", further), { "pnpm-workspace.yaml": "packages:\n  - apps/*\n  - 'packages/*'\n" }),
      ["quaymap start open: entry launch"],
    ],
  ])("count as the app's code: %s", async (_, files, expected) => {
    const { code } = await appWithCode(files);
    expect(shownFacts(code)).toEqual(expected);
    const { findings } = await reportOf(files);
    expect(findings.filter(({ rule }) => rule === "start/missing" || rule === "version/floating").map(({ message }) => message)).toEqual(
      [],
    );
  });

  it("that the app does not ask for do not", async () => {
    const files = app(core('"main": "src/index.ts",', direct));
    const manifest = "apps/mobile/package.json";
    const without = {
      ...files,
      [manifest]: (files[manifest] ?? "").replace(/"@maresia\/core":\s*"\*",/, ""),
      "apps/mobile/index.js": 'import "./App";\n',
    };
    const { findings } = await reportOf(without);
    expect(findings.map(({ rule }) => rule)).toContain("start/missing");
  });
});
