import { describe, expect, it } from "vitest";
import { calleeText } from "../../src/core/syntax/code/callee.js";
import { guardOf } from "../../src/core/syntax/code/guard.js";
import { namesOfClause } from "../../src/core/syntax/code/imports.js";
import { parsed, shownCalls } from "../helpers/code.js";

describe("calls in each language, with what is around them", () => {
  it.each<[string, string, string[]]>([
    [
      "A.kt",
      'class A : Application() {\n  override fun onCreate() {\n    super.onCreate()\n    Quaymap.Builder(this).key("k").build().start()\n    if (BuildConfig.DEBUG) Quaymap.setVerbose(true) else Quaymap.quiet()\n    map?.show()\n    thread { Quaymap.load(1) }\n    Quaymap.level = 2\n  }\n}\n',
      [
        "A.onCreate: super.onCreate",
        "A.onCreate: Quaymap.Builder",
        "A.onCreate: Quaymap.Builder.key",
        "A.onCreate: Quaymap.Builder.key.build",
        "A.onCreate: Quaymap.Builder.key.build.start",
        "A.onCreate: Quaymap.setVerbose if debug",
        "A.onCreate: Quaymap.quiet if release",
        "A.onCreate: map.show ?",
        "A.onCreate: thread",
        "A.onCreate: Quaymap.load in thread",
        "A.onCreate: Quaymap.level =",
      ],
    ],
    [
      "Ext.kt",
      "fun Context.startMap() { Quaymap.start(this) }\nobject Tools {\n  init { Quaymap.warm() }\n  val map by lazy { Quaymap.create() }\n}\n",
      ["startMap: Quaymap.start", "Tools.init: Quaymap.warm", "Tools.init: lazy", "Tools.init: Quaymap.create in lazy"],
    ],
    [
      "A.java",
      "public class A extends Application {\n  static { Loader.init(); }\n  @Override public void onCreate() {\n    Quaymap.start(this);\n    run(() -> Quaymap.load());\n    new Thread(new Runnable() { public void run() { Quaymap.sync(); } }).start();\n    if (!BuildConfig.DEBUG) return;\n    Quaymap.setVerbose(true);\n  }\n}\n",
      [
        "A.static: Loader.init",
        "A.onCreate: Quaymap.start",
        "A.onCreate: run",
        "A.onCreate: Quaymap.load in run",
        "A.onCreate: Thread",
        "A.onCreate: Thread.start",
        "A.onCreate: Runnable",
        "A.onCreate: Quaymap.sync in Thread > Runnable",
        "A.onCreate: Quaymap.setVerbose if debug",
      ],
    ],
    [
      "A.swift",
      'extension AppDelegate {\n  func setUp() {\n    Quaymap.start(key: "k") { result in print(result) }\n    #if DEBUG\n    Quaymap.setVerbose(true)\n    #else\n    Quaymap.quiet()\n    #endif\n    guard let map = map else { return }\n    DispatchQueue.main.async { [weak self] in self?.show() }\n    Quaymap.level = .low\n  }\n}\n',
      [
        "AppDelegate.setUp: Quaymap.start",
        "AppDelegate.setUp: print in Quaymap.start",
        "AppDelegate.setUp: Quaymap.setVerbose if debug",
        "AppDelegate.setUp: Quaymap.quiet if release",
        "AppDelegate.setUp: DispatchQueue.main.async if other",
        "AppDelegate.setUp: self.show ? if other in DispatchQueue.main.async",
        "AppDelegate.setUp: Quaymap.level = if other",
      ],
    ],
    [
      "A.m",
      '@implementation AppDelegate\n+ (void)load { [Quaymap warm]; }\n- (void)setUp:(BOOL)on {\n  [[Quaymap shared] startWithKey:@"k" options:nil];\n#if DEBUG\n  [Quaymap setVerbose:YES];\n#endif\n  dispatch_async(queue, ^{ [Quaymap sync]; });\n}\n@end\n@implementation AppDelegate (Map)\n- (void)show { QMShow(@"x"); }\n@end\n',
      [
        "AppDelegate.load: Quaymap.warm",
        "AppDelegate.setUp: Quaymap.shared.startWithKey",
        "AppDelegate.setUp: Quaymap.shared",
        "AppDelegate.setUp: Quaymap.setVerbose if debug",
        "AppDelegate.setUp: dispatch_async",
        "AppDelegate.setUp: Quaymap.sync in dispatch_async",
        "AppDelegate.show: QMShow",
      ],
    ],
    [
      "Module.mm",
      "@implementation Tide\nRCT_EXPORT_MODULE(Tide)\nRCT_EXPORT_METHOD(open:(NSString *)name) { [Quaymap show:name]; }\n@end\n",
      ["Tide.open: Quaymap.show"],
    ],
    [
      "App.tsx",
      'export default function App() {\n  useEffect(() => { Quaymap.start(KEY); }, []);\n  if (__DEV__) Quaymap.debug();\n  typeof x !== "undefined" && x.start?.();\n  return <View onPress={() => Quaymap.show()}><Map/></View>;\n}\nclass C extends Component<P> {\n  componentDidMount() { this.setUp(); }\n  setUp = () => { Quaymap.sync(); };\n}\nconst boot = async () => { await Quaymap?.boot(); };\n',
      [
        "App: useEffect",
        "App: Quaymap.start in useEffect",
        "App: Quaymap.debug if debug",
        "App: x.start if presence",
        "App: View",
        "App: Quaymap.show in onPress",
        "App: Map",
        "C.componentDidMount: this.setUp",
        "C.setUp: Quaymap.sync",
        "boot: Quaymap.boot ?",
      ],
    ],
    [
      "main.js",
      "document.addEventListener('deviceready', function () { quaymap.show('x'); });\nmodule.exports = { start: function () { quaymap.start(); } };\nnew Quaymap({ key: 'k' });\n",
      ["document.addEventListener", "quaymap.show in document.addEventListener", "module.exports =", "start: quaymap.start", "Quaymap"],
    ],
    [
      "legacy.ts",
      "@Component({ selector: 'x' })\nclass Page {\n  ngOnInit(): void { Quaymap.start(); }\n}\n",
      ["Page.init: Component", "Page.ngOnInit: Quaymap.start"],
    ],
    [
      "main.dart",
      "Future<void> main() async {\n  await qm.Quaymap.start(key: 'k');\n  if (kDebugMode) { Quaymap.setVerbose(true); }\n  if (Platform.isAndroid) Quaymap.droid();\n  Quaymap.instance..a()..b();\n  runApp(const Crew());\n  assert(() { Quaymap.check(); return true; }());\n}\nclass S extends State<Crew> with Ticker {\n  @override void initState() { super.initState(); Quaymap.sync(); }\n  void go() => q?.start();\n}\nextension E on String { void ext() { go(); } }\nmixin M on S { void more() { Quaymap.more(); } }\n",
      [
        "main: qm.Quaymap.start",
        "main: Quaymap.setVerbose if debug",
        "main: Quaymap.droid if android",
        "main: Quaymap.instance.a",
        "main: Quaymap.instance.b",
        "main: runApp",
        "main: Crew",
        "main: Quaymap.check if debug",
        "S.initState: super.initState",
        "S.initState: Quaymap.sync",
        "S.go: q.start ?",
        "E.ext: go",
        "M.more: Quaymap.more",
      ],
    ],
    [
      "App.cs",
      '[assembly: Dependency(typeof(Gauge))]\nnamespace L;\npublic partial class App : Application {\n  public App() { Quaymap.Start("k"); }\n  protected override void OnStart() {\n#if DEBUG\n    Quaymap.SetVerbose(true);\n#endif\n    if (DeviceInfo.Platform == DevicePlatform.iOS) { A.B(); }\n    map?.Show();\n    builder.UseQuaymap(o => { o.Key = "a"; });\n  }\n  void Expr() => Quaymap.Sync();\n}\n',
      [
        "App.init: Quaymap.Start",
        "App.OnStart: Quaymap.SetVerbose if debug",
        "App.OnStart: A.B if ios",
        "App.OnStart: map.Show ?",
        "App.OnStart: builder.UseQuaymap",
        "App.OnStart: o.Key = in builder.UseQuaymap",
        "App.Expr: Quaymap.Sync",
      ],
    ],
  ])("%s", async (file, text, expected) => {
    const code = await parsed(file, text);
    expect(shownCalls(code)).toEqual(expected);
    expect(code.errors).toEqual([]);
    // Windows line ends change nothing but the places.
    expect(shownCalls(await parsed(file, text.replaceAll("\n", "\r\n")))).toEqual(expected);
  });
});

describe("what a file says beside its calls", () => {
  it("types with what is above them, functions with their selectors, constants and variables", async () => {
    const swift = await parsed(
      "A.swift",
      '@main\nfinal class PilotDelegate: UIResponder, UIApplicationDelegate {\n  let key = "qm"\n  let map: Quaymap = .shared\n  func application(_ a: UIApplication, didFinishLaunchingWithOptions o: [String: Any]?) -> Bool { true }\n}\n',
    );
    expect(swift.types).toMatchObject([
      { name: "PilotDelegate", supers: ["UIResponder", "UIApplicationDelegate"], annotations: ["main"], extension: false },
    ]);
    expect(swift.functions.map(({ selector }) => selector)).toContain("application:didFinishLaunchingWithOptions:");
    expect(swift.constants.get("key")?.text).toBe("qm");
    expect(swift.variables.get("map")).toBe("Quaymap");
    const objc = await parsed(
      "A.m",
      "@interface A () <Feed>\n@end\n@implementation A\n- (BOOL)application:(UIApplication *)a didFinishLaunchingWithOptions:(NSDictionary *)o { return YES; }\n@end\n",
    );
    expect(objc.functions.map(({ selector }) => selector)).toEqual(["application:didFinishLaunchingWithOptions:"]);
    const csharp = await parsed("A.cs", "[assembly: Dependency(typeof(Gauge))]\npublic class Gauge : IGauge { }\n");
    expect(csharp.attributes.map(({ name }) => name)).toEqual(["Dependency"]);
    const kotlin = await parsed("A.kt", "@Keep\nclass A : B(), C {\n  @JvmStatic\n  override fun go() {}\n}\n");
    expect(kotlin.types).toMatchObject([{ name: "A", supers: ["B", "C"], annotations: ["Keep"] }]);
    expect(kotlin.functions).toMatchObject([{ name: "go", type: "A", overrides: true, annotations: ["JvmStatic"] }]);
  });

  it.each<[string, string, string[]]>([
    [
      "A.kt",
      "import example.quaymap.Quaymap\nimport example.quaymap.Level as L\nimport example.tide.*\n",
      ["example.quaymap.Quaymap Quaymap", "example.quaymap.Level L", "example.tide "],
    ],
    ["A.java", "import static example.quaymap.Tools.go;\n", ["example.quaymap.Tools.go go"]],
    ["A.swift", "import QuaymapSDK\n@testable import struct Tide.Level\n", ["QuaymapSDK ", "Tide.Level "]],
    ["A.m", '#import <QuaymapSDK/Quaymap.h>\n@import Brinelog;\n#import "A.h"\n', ["QuaymapSDK/Quaymap.h ", "Brinelog ", "A.h "]],
    [
      "a.ts",
      'import Quaymap, { start as go } from "@quaymap/react-native";\nimport * as Q from "q";\nimport type { T } from "types";\nimport "side";\nconst { c: d } = require("c");\nexport { x } from "./x";\n',
      ["@quaymap/react-native go,Quaymap", "q Q", "side ", "./x x", "c d"],
    ],
    [
      "a.dart",
      "import 'package:quaymap_flutter/quaymap.dart' as qm show A;\nimport 'src/b.dart';\n",
      ["package:quaymap_flutter/quaymap.dart qm", "src/b.dart "],
    ],
    ["A.cs", "using Quaymap.Mobile;\nusing Q = Quaymap.Mobile.Tools;\n", ["Quaymap.Mobile ", "Quaymap.Mobile.Tools Q"]],
  ])("imports of %s", async (file, text, expected) => {
    const { imports } = await parsed(file, text);
    expect(imports.map(({ source, names }) => `${source} ${names.map(({ local }) => local).join(",")}`)).toEqual(expected);
  });

  it("arguments with labels, and texts that are written out", async () => {
    const of = async (file: string, text: string) =>
      (await parsed(file, text)).calls[0]?.arguments.map(({ label, literal }) => [label, literal]);
    expect(await of("A.kt", 'fun a() { Q.start(this, key = "k", other = "a$b") }')).toEqual([
      [undefined, undefined],
      ["key", "k"],
      ["other", undefined],
    ]);
    expect(await of("A.swift", 'func a() { Q.start(key: "k", 1) }')).toEqual([
      ["key", "k"],
      [undefined, undefined],
    ]);
    expect(await of("A.m", '@implementation A\n- (void)a { [Q startWithKey:@"k" mode:@"m"]; }\n@end')).toEqual([
      [undefined, "k"],
      ["mode", "m"],
    ]);
    expect(await of("a.ts", 'Q.start({ key: "k" });')).toEqual([
      [undefined, undefined],
      ["key", "k"],
    ]);
    expect(await of("a.dart", "void main() { Q.start('a', key: 'k'); }")).toEqual([
      [undefined, "a"],
      ["key", "k"],
    ]);
    expect(await of("A.cs", 'class A { void B() { Q.Start(this, key: "k"); } }')).toEqual([
      [undefined, undefined],
      ["key", "k"],
    ]);
  });

  it("comments are blank, and nothing in them is a call", async () => {
    const code = await parsed("A.kt", "fun a() {\n  // Quaymap.start(this)\n  /* Quaymap.stop() */\n  Quaymap.go()\n}\n");
    expect(shownCalls(code)).toEqual(["a: Quaymap.go"]);
    expect(code.plain).not.toContain("start");
    expect(code.plain).toHaveLength("fun a() {\n  // Quaymap.start(this)\n  /* Quaymap.stop() */\n  Quaymap.go()\n}\n".length);
  });
});

describe("half-edited code", () => {
  it.each([
    ["A.kt", "class A : B() {\n  override fun a() {\n    Quaymap.start(this)\n    if (\n  }\n  fun b() { Tide.go() }\n}\n"],
    ["A.swift", "class A {\n  func a() {\n    Quaymap.start(key: \n  }\n  func b() { Tide.go() }\n"],
    ["a.tsx", "export function A() {\n  Quaymap.start(;\n  return <View>\n}\nTide.go();\n"],
    ["a.dart", "void main() {\n  Quaymap.start(\n}\nvoid b() { Tide.go(); }\n"],
    ["A.cs", "class A {\n  void B() {\n    Quaymap.Start(\n  }\n  void C() { Tide.Go(); }\n"],
    ["A.java", "class A {\n  void b() {\n    Quaymap.start(\n  }\n  void c() { Tide.go(); }\n"],
    ["A.m", "@implementation A\n- (void)b {\n  [Quaymap start\n}\n- (void)c { [Tide go]; }\n"],
  ])("%s gives what can be read, and says where it breaks", async (file, text) => {
    const code = await parsed(file, text);
    expect(code.calls.map(({ callee }) => callee.toLowerCase())).toContain("tide.go");
    for (const { from, to } of code.errors) expect(from).toBeLessThanOrEqual(to);
  });

  it("very deep nesting ends", async () => {
    const code = await parsed("a.js", `${"f(".repeat(3_000)}1${")".repeat(3_000)};\n`);
    expect(code.calls.length).toBeGreaterThan(10);
  });
});

describe("names and conditions", () => {
  it.each([
    ['Quaymap.Builder(this)?.key("a")!!.build', "Quaymap.Builder.key.build"],
    ["Quaymap::start", "Quaymap.start"],
    ["Services.Get<IGauge>().Warm", "Services.Get.Warm"],
    ["(app as Pilot).start", "app.start"],
    ["a\n  .b // c\n  .d", "a.b.d"],
    ["list[0].start", "list.start"],
    [".init", "init"],
  ])("%s is %s", (text, expected) => expect(calleeText(text)).toBe(expected));

  it.each([
    ["BuildConfig.DEBUG", false, "debug"],
    ["!BuildConfig.DEBUG", false, "release"],
    ["BuildConfig.DEBUG", true, "release"],
    ["kReleaseMode", true, "debug"],
    ["BuildConfig.DEBUG || forced", false, "presence"],
    ['Platform.OS === "ios"', false, "ios"],
    ['Platform.OS !== "ios"', false, "android"],
    ["Platform.isAndroid", true, "ios"],
    ["typeof tide !== 'undefined'", false, "presence"],
    ["window.tide", false, "presence"],
    ["count > 3", false, "other"],
    ["DEBUG == false", false, "release"],
  ])("%s, other branch %s: %s", (text, negated, kind) => {
    const guard = guardOf(text, negated);
    expect(kind === "presence" && guard.kind === "other" ? "presence" : guard.kind).toBe(kind);
  });

  it("clauses of imports", () => {
    expect(namesOfClause("A, { b as c, type D, e }")).toEqual([
      { local: "c", imported: "b" },
      { local: "e", imported: "e" },
      { local: "A", imported: "default" },
    ]);
  });
});
