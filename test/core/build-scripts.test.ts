import { describe, expect, it } from "vitest";
import { reportOf, tracesOf } from "../helpers/memory.js";
import type { Files } from "../helpers/mistakes.js";
import { unityExample } from "../../src/core/rules/examples.js";

const NEEDS = [
  "on: ios, purposeText: NSCameraUsageDescription",
  "on: ios, plistEntry: { key: QuaymapMode, value: full }",
  "on: ios, urlScheme: quay",
  "on: ios, queriedScheme: quaymap",
  "on: ios, backgroundMode: remote-notification",
  "on: ios, entitlement: aps-environment",
  "on: ios, systemFramework: CoreLocation",
  'on: ios, linkerFlag: "-ObjC"',
];

/** A project whose build script does something to the property list (`doc`), the project (`proj`) and the capabilities. */
const project = (body: string, more: Files = {}, members = ""): Files => ({
  ...unityExample(),
  "Assets/Quaymap/Quaymap.framework/Info.plist": "",
  "Assets/Quaymap/Quaymap.framework.meta": "fileFormatVersion: 2\nguid: 00000000000000000000000000000009\n",
  "Assets/Plugins/iOS/readme.txt": "",
  "Assets/Editor/Post.cs": `using System.IO;
using System.Collections.Generic;
using System.Linq;
using UnityEditor;
using UnityEditor.Callbacks;
using UnityEditor.iOS.Xcode;

public static class Post
{
${members}
    [PostProcessBuild]
    public static void OnBuilt(BuildTarget target, string path)
    {
        if (target != BuildTarget.iOS) return;
        var file = path + "/Info.plist";
        var doc = new PlistDocument();
        doc.ReadFromFile(file);
        var root = doc.root;
${body}
        doc.WriteToFile(file);
    }
}
`,
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap\npackages:\n  binary: "Quaymap.framework"\nneeds:\n${NEEDS.map((need) => `  - { ${need} }\n`).join("")}`,
  ...more,
});

/** The states of the needs on iOS, those that are missing left out, each by the last word of what it asks for. */
async function found(files: Files): Promise<string[]> {
  const { traces } = await tracesOf(files as Record<string, string>, "quaymap");
  return traces.flatMap(({ sides }) =>
    sides.flatMap(({ wires }) =>
      wires.filter(({ state }) => state !== "missing").map(({ state, need }) => `${need.what.split(" ").at(-1) ?? ""} ${state}`),
    ),
  );
}

/** The script's text is written, or not, after a way out that may be taken. */
const EVERYTHING_UNKNOWN = [
  "NSCameraUsageDescription",
  "QuaymapMode",
  "quay",
  "quaymap",
  "remote-notification",
  "aps-environment",
  "CoreLocation",
  "-ObjC",
].map((what) => `${what} unknown`);

const CASES: [what: string, body: string, states: string[], members?: string][] = [
  ["nothing", "", []],
  [
    "a text by a constant",
    'root.SetString("NSCameraUsageDescription", Text);',
    ["NSCameraUsageDescription connected"],
    '    const string Text = "Scans.";',
  ],
  ["a text that is empty", 'root.SetString("NSCameraUsageDescription", "");', []],
  ["an element by its index", 'root["QuaymapMode"] = new PlistElementString("full");', ["QuaymapMode connected"]],
  ["an element of the values", 'root.values["QuaymapMode"] = new PlistElementString("lite");', ["QuaymapMode loose"]],
  [
    "a list of literals",
    'foreach (var s in new[] { "a", "quaymap" }) root.CreateArray("LSApplicationQueriesSchemes").AddString(s);',
    ["quaymap connected"],
  ],
  [
    "a table of entries",
    "foreach (KeyValuePair<string, string> pair in Texts) root.SetString(pair.Key, pair.Value);",
    ["NSCameraUsageDescription connected", "QuaymapMode connected"],
    '    static readonly Dictionary<string, string> Texts = new Dictionary<string, string> { { "NSCameraUsageDescription", "Scans." }, ["QuaymapMode"] = "full" };',
  ],
  [
    "a list that is looked for first",
    'var list = root["LSApplicationQueriesSchemes"]?.AsArray() ?? root.CreateArray("LSApplicationQueriesSchemes"); if (!list.values.Any(v => v.AsString() == "quaymap")) list.AddString("quaymap");',
    ["quaymap connected"],
  ],
  [
    "a scheme by a helper with an array of parameters",
    'Add(root, "quay", "more");',
    ["quay connected"],
    '    static void Add(PlistElementDict to, params string[] names) { var types = to.CreateArray("CFBundleURLTypes"); var type = types.AddDict(); var list = type.CreateArray("CFBundleURLSchemes"); foreach (var name in names) list.AddString(name); }',
  ],
  [
    "an extension method and a local function",
    'void Inner(PlistElementDict to) { to.Put("QuaymapMode"); } Inner(root);',
    ["QuaymapMode connected"],
    '    static void Put(this PlistElementDict to, string key) => to.SetString(key, $"{"fu"}ll");',
  ],
  [
    "a counted loop",
    'var all = new[] { "x", "quaymap" }; var list = root.CreateArray("LSApplicationQueriesSchemes"); for (int i = 0; i < all.Length; i++) list.AddString(all[i]);',
    ["quaymap connected"],
  ],
  [
    "what comes after a way out of a loop over what is not known",
    'foreach (var at in EditorBuildSettings.scenes) { return; } root.SetString("QuaymapMode", "full");',
    EVERYTHING_UNKNOWN,
  ],
  [
    "what comes after a way out by a case that is not known",
    'switch (EditorPrefs.GetString("x")) { case "quay": return; default: break; } root.SetString("QuaymapMode", "full");',
    EVERYTHING_UNKNOWN,
  ],
  ["what comes after a way out that is taken", 'if (true) { doc.WriteToFile(file); return; } root.SetString("QuaymapMode", "full");', []],
  ["a condition that nobody can tell", 'if (EditorPrefs.GetBool("x")) root.SetString("QuaymapMode", "full");', ["QuaymapMode unknown"]],
  ["a development build", 'if (EditorUserBuildSettings.development) root.SetString("QuaymapMode", "full");', []],
  [
    "a condition of the compiler",
    '#if UNITY_ANDROID\nroot.SetString("QuaymapMode", "full");\n#else\nroot.SetString("NSCameraUsageDescription", "Scans.");\n#endif',
    ["NSCameraUsageDescription connected"],
  ],
  [
    "a switch",
    'switch (target) { case BuildTarget.Android: break; case BuildTarget.iOS: root.SetString("QuaymapMode", "full"); break; }',
    ["QuaymapMode connected"],
  ],
  ["an entry that is taken out again", 'root.SetString("QuaymapMode", "full"); root.values.Remove("QuaymapMode");', []],
  ["a value that is worked out", 'root.SetString("QuaymapMode", File.ReadAllText("mode.txt"));', ["QuaymapMode unknown"]],
  ["a name that is worked out", 'root.SetString(File.ReadAllText("name.txt"), "x");', NEEDS.map((need) => `${word(need)} unknown`)],
  ["a helper that is not here", "Elsewhere.Edit(root);", NEEDS.map((need) => `${word(need)} unknown`)],
  [
    "a capability of the manager",
    'var m = new ProjectCapabilityManager(PBXProject.GetPBXProjectPath(path), "x.entitlements", "Unity-iPhone"); m.AddPushNotifications(true); m.AddBackgroundModes(BackgroundModesOptions.RemoteNotifications | BackgroundModesOptions.BackgroundFetch); m.WriteToFile();',
    ["remote-notification connected", "aps-environment connected"],
  ],
  [
    "a manager that is not written",
    'var m = new ProjectCapabilityManager(PBXProject.GetPBXProjectPath(path), "x.entitlements", "Unity-iPhone"); m.AddPushNotifications(true);',
    [],
  ],
  [
    "frameworks and flags of the project",
    'var p = new PBXProject(); var pp = PBXProject.GetPBXProjectPath(path); p.ReadFromString(File.ReadAllText(pp)); var t = p.GetUnityFrameworkTargetGuid(); p.AddFrameworkToProject(t, "CoreLocation.framework", false); p.AddBuildProperty(t, "OTHER_LDFLAGS", "-ObjC"); File.WriteAllText(pp, p.WriteToString());',
    ["CoreLocation connected", "-ObjC connected"],
  ],
  [
    "entitlements as a property list",
    'var e = new PlistDocument(); e.root.SetString("aps-environment", "production"); e.WriteToFile(path + "/Game.entitlements");',
    ["aps-environment connected"],
  ],
  [
    "entitlements as a text",
    'File.WriteAllText(Path.Combine(path, "Game.entitlements"), "<plist><dict/></plist>");',
    ["aps-environment unknown"],
  ],
  ["a loop that never ends", "while (true) { } ", NEEDS.map((need) => `${word(need)} unknown`)],
  [
    "a function that calls itself",
    "Again(root);",
    NEEDS.map((need) => `${word(need)} unknown`),
    "    static void Again(PlistElementDict to) { Again(to); }",
  ],
];

function word(need: string): string {
  return need.includes("QuaymapMode") ? "QuaymapMode" : (need.replace(/["{}]/g, "").trim().split(/[ :]+/).at(-1) ?? "");
}

describe("build scripts of Unity", () => {
  it.each(CASES)("%s", async (_, body, states, members = "") => {
    expect(await found(project(body, {}, members))).toEqual(states);
  });

  it("run in their order, each on what those before have written", async () => {
    const second = {
      "Assets/Editor/Second.cs":
        'using UnityEditor.Build;\nusing UnityEditor.iOS.Xcode;\nclass Second : IPostprocessBuildWithReport\n{\n    public int callbackOrder { get { return 50; } }\n    public void OnPostprocessBuild(UnityEditor.Build.Reporting.BuildReport report)\n    {\n        var doc = new PlistDocument();\n        var file = report.summary.outputPath + "/Info.plist";\n        doc.ReadFromFile(file);\n        doc.root.SetString("QuaymapMode", doc.root["NSCameraUsageDescription"].AsString());\n        doc.WriteToFile(file);\n    }\n}\n',
    };
    expect(await found(project('root.SetString("NSCameraUsageDescription", "full");', second))).toEqual([
      "NSCameraUsageDescription connected",
      "QuaymapMode connected",
    ]);
  });

  it("that are broken off leave everything open, and the rest of the answer comes", async () => {
    const files = project("");
    const text = String(files["Assets/Editor/Post.cs"]);
    const cut = { ...files, "Assets/Editor/Post.cs": text.slice(0, text.indexOf("doc.ReadFromFile")) };
    expect(await found(cut)).toEqual(NEEDS.map((need) => `${word(need)} unknown`));
    const { findings } = await reportOf({ ...cut, ...unityExample({ "Assets/Boot.cs": ["public void Buy()", "public void Sell()"] }) });
    expect(findings.map(({ rule }) => rule)).toEqual(["project/handler-missing"]);
  });
});
