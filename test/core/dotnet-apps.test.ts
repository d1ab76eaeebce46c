import { describe, expect, it } from "vitest";
import { heads, monorepo, older } from "../helpers/dotnet-apps.js";
import { reportOf } from "../helpers/memory.js";
import { changed, expectTold, type Changes, type Files } from "../helpers/mistakes.js";

type Mistake = [what: string, app: Files, changes: Changes, rules: string, at?: string];

const MISTAKES: Mistake[] = [
  [
    "min level lowered in the shared props",
    monorepo,
    [["Directory.Build.props", "24.0", "21.0"]],
    "level/below-need",
    "Directory.Build.props",
  ],
  ["ios level lowered", monorepo, [["Directory.Build.props", ">15.0<", ">13.0<"]], "level/below-need", "Directory.Build.props"],
  [
    "library asks for more than the app",
    monorepo,
    [
      [
        "src/Devices/Devices.csproj",
        "<UseMaui>",
        "<SupportedOSPlatformVersion Condition=\"$(TargetFramework.Contains('-android'))\">28</SupportedOSPlatformVersion><UseMaui>",
      ],
    ],
    "level/below-need",
    "src/Devices/Devices.csproj",
  ],
  [
    "library for a newer framework",
    monorepo,
    [["src/Core/Core.csproj", "net9.0", "net10.0"]],
    "level/framework-apart",
    "src/Core/Core.csproj",
  ],
  [
    "library without android framework",
    monorepo,
    [["src/Devices/Devices.csproj", "net9.0;$(MobileTargets)", "net9.0-ios"]],
    "level/framework-apart",
    "src/Devices/Devices.csproj",
  ],
  [
    "package not in the central list",
    monorepo,
    [["Directory.Packages.props", '    <PackageVersion Include="Gullpost.Mobile" Version="5.1.0" />\n', ""]],
    "version/central-apart",
    "src/App/App.csproj",
  ],
  [
    "package in imported props not in list",
    monorepo,
    [["Directory.Packages.props", '    <PackageVersion Include="Brinelog.Mobile" Version="3.0.1" />\n', ""]],
    "version/central-apart",
    "src/mobile.props",
  ],
  [
    "version left in the project",
    monorepo,
    [
      [
        "src/App/App.csproj",
        '<PackageReference Include="Quaymap.Mobile" />',
        '<PackageReference Include="Quaymap.Mobile" Version="4.1.0" />',
      ],
    ],
    "version/central-apart",
    "src/App/App.csproj",
  ],
  [
    "central version raised, lock not",
    monorepo,
    [["Directory.Packages.props", "4.2.0</QuaymapVersion>", "4.3.0</QuaymapVersion>"]],
    "version/lock-stale",
  ],
  ["lock removed while asked for", monorepo, "src/App/packages.lock.json", "version/lock-missing", "src/App/App.csproj"],
  [
    "package added, lock not",
    monorepo,
    [
      [
        "src/App/App.csproj",
        '<PackageReference Include="Gullpost.Mobile" />',
        '<PackageReference Include="Gullpost.Mobile" /><PackageReference Include="Tidewire.Mobile" />',
      ],
      [
        "Directory.Packages.props",
        '<PackageVersion Include="Gullpost',
        '<PackageVersion Include="Tidewire.Mobile" Version="1.0.0" /><PackageVersion Include="Gullpost',
      ],
    ],
    "version/lock-stale",
  ],
  ["floating central version without lock", heads, [["Directory.Build.targets", 'Version="4.2.0"', 'Version="4.*"']], "version/floating"],
  ["plain http source", monorepo, [["NuGet.config", "https://nuget.maresia", "http://nuget.maresia"]], "source/insecure", "NuGet.config"],
  [
    "source on one machine",
    monorepo,
    [["NuGet.config", "./packages", "C:\\\\Users\\\\me\\\\feed"]],
    "source/outside-project",
    "NuGet.config",
  ],
  ["mapping does not cover", monorepo, [["NuGet.config", 'pattern="*"', 'pattern="Microsoft.*"']], "source/repository-missing"],
  [
    "permission removed",
    monorepo,
    [
      [
        "src/App/Platforms/Android/AndroidManifest.xml",
        '  <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />\n',
        "",
      ],
    ],
    "permit/permission-missing",
  ],
  [
    "permission attribute only in debug",
    monorepo,
    [
      [
        "src/App/Platforms/Android/MainApplication.cs",
        "[assembly: UsesPermission(Maresia.Core.Permissions.Push)]",
        "#if DEBUG\n[assembly: UsesPermission(Maresia.Core.Permissions.Push)]\n#endif",
      ],
    ],
    "permit/permission-missing",
  ],
  [
    "permission attribute under another platform",
    monorepo,
    [
      [
        "src/App/Platforms/Android/MainApplication.cs",
        "[assembly: UsesPermission(Maresia.Core.Permissions.Push)]",
        "#if IOS\n[assembly: UsesPermission(Maresia.Core.Permissions.Push)]\n#endif",
      ],
    ],
    "permit/permission-missing",
  ],
  [
    "permission constant misspelt",
    monorepo,
    [["src/Core/Permissions.cs", "POST_NOTIFICATIONS", "POST_NOTIFICATION"]],
    "permit/misspelt",
    "src/App/Platforms/Android/MainApplication.cs",
  ],
  [
    "purpose text gone",
    monorepo,
    [
      [
        "src/App/Platforms/iOS/Info.plist",
        "<key>NSLocationWhenInUseUsageDescription</key><string>Shows your boat on the map.</string>",
        "",
      ],
    ],
    "permit/purpose-missing",
  ],
  [
    "entitlement file of release lost",
    monorepo,
    [["src/App/App.csproj", "Entitlements.Release.plist</Code", "Entitlements.Rel.plist</Code"]],
    "permit/entry-missing",
  ],
  [
    "entitlements only in debug",
    monorepo,
    [["src/App/App.csproj", "'$(Configuration)' == 'Release'\">\n    <Codesign", "'$(Configuration)' == 'Debug'\">\n    <Codesign"]],
    "permit/entry-missing",
  ],
  [
    "background mode gone",
    monorepo,
    [["src/App/Platforms/iOS/Info.plist", "<string>remote-notification</string>", "<string>audio</string>"]],
    "permit/entry-missing",
  ],
  [
    "key too short in attribute",
    monorepo,
    [["src/App/Platforms/Android/MainApplication.cs", 'Value = "qm_0123abcd"', 'Value = "qm_0123"']],
    "key/shape",
  ],
  [
    "service file of another app",
    monorepo,
    [["src/App/Platforms/Android/quaymap-services.json", "example.maresia.lockkeeper", "example.maresia.lockkeeper.dev"]],
    "identity/service-file-mismatch",
  ],
  [
    "service item under the other platform",
    monorepo,
    [
      [
        "src/App/App.csproj",
        "<ItemGroup Condition=\"$(TargetFramework.Contains('-android'))\">\n    <QuaymapServices",
        "<ItemGroup Condition=\"$(TargetFramework.Contains('-ios'))\">\n    <QuaymapServices",
      ],
    ],
    "identity/service-file-misplaced",
  ],
  ["service item is None", monorepo, [["src/App/App.csproj", "<QuaymapServices", "<None"]], "identity/service-file-misplaced"],
  [
    "service item removed later",
    monorepo,
    [
      [
        "src/App/App.csproj",
        "</ItemGroup>\n</Project>",
        '</ItemGroup>\n  <ItemGroup><QuaymapServices Remove="Platforms\\Android\\*.json" /></ItemGroup>\n</Project>',
      ],
    ],
    "identity/service-file-misplaced",
  ],
  ["plist not a bundle resource", monorepo, [["src/App/App.csproj", "<BundleResource", "<Content"]], "identity/service-file-misplaced"],
  [
    "package for one platform only",
    monorepo,
    [
      [
        "src/App/App.csproj",
        '<PackageReference Include="Gullpost.Mobile" />',
        '<PackageReference Include="Gullpost.Mobile" Condition="$(TargetFramework.Contains(\'-android\'))" />',
      ],
    ],
    "parity/one-sided",
  ],
  ["one half of a partial class missing", monorepo, "src/App/Platforms/iOS/TideGauge.cs", "parity/service-missing"],
  [
    "service registered under #if ANDROID",
    monorepo,
    [
      [
        "src/App/MauiProgram.cs",
        "        builder.Services.AddTransient<IDoor, Door>();",
        "#if ANDROID\n        builder.Services.AddTransient<IDoor, Door>();\n#endif",
      ],
    ],
    "parity/service-missing",
  ],
  [
    "reference to a project that is not there",
    monorepo,
    [["src/App/App.csproj", "..\\Core\\Core.csproj", "..\\Cor\\Core.csproj"]],
    "source/binary-missing",
    "src/App/App.csproj",
  ],
  ["import that is not there", monorepo, [["src/App/App.csproj", "'mobile.props'", "'mobil.props'"]], "source/binary-missing"],
  [
    "plain import not there",
    monorepo,
    [["src/App/App.csproj", "$([MSBuild]::GetPathOfFileAbove('mobile.props', '$(MSBuildThisFileDirectory)../'))", "..\\mobil.props"]],
    "source/binary-missing",
    "src/App/App.csproj",
  ],
  [
    "manifest says another minimum",
    monorepo,
    [
      [
        "src/App/Platforms/Android/AndroidManifest.xml",
        '  <uses-permission android:name="android.permission.INTERNET" />',
        '  <uses-sdk android:minSdkVersion="21" />\n  <uses-permission android:name="android.permission.INTERNET" />',
      ],
    ],
    "project/config-apart",
  ],
  [
    "plist says another minimum",
    monorepo,
    [["src/App/Platforms/iOS/Info.plist", "<key>UIDeviceFamily", "<key>MinimumOSVersion</key><string>13.0</string><key>UIDeviceFamily"]],
    "project/config-apart",
  ],
  [
    "start under #if DEBUG",
    monorepo,
    [["src/App/MauiProgram.cs", '        QuaymapSdk.Start("qm_0123abcd");', '#if DEBUG\n        QuaymapSdk.Start("qm_0123abcd");\n#endif']],
    "start/missing|start/never-reached|start/too-late",
  ],
  [
    "start commented out",
    monorepo,
    [["src/App/MauiProgram.cs", '        QuaymapSdk.Start("qm_0123abcd");', '        // QuaymapSdk.Start("qm_0123abcd");']],
    "start/missing",
  ],
  ["start only in a windows file", monorepo, [["src/App/MauiProgram.cs", '        QuaymapSdk.Start("qm_0123abcd");', ""]], "start/missing"],
  [
    "id of a template",
    monorepo,
    [["src/App/App.csproj", ">example.maresia.lockkeeper<", ">com.companyname.lockkeeper<"]],
    "identity/placeholder-id|identity/service-file-mismatch",
  ],
  [
    "old: minimum in the manifest",
    older,
    [["Lock.Android/Properties/AndroidManifest.xml", 'minSdkVersion="24"', 'minSdkVersion="21"']],
    "level/below-need",
  ],
  ["old: MinimumOSVersion", older, [["Lock.iOS/Info.plist", "15.0", "12.0"]], "level/below-need"],
  [
    "old: package in one project only",
    older,
    [["Lock.iOS/Lock.iOS.csproj", '    <PackageReference Include="Quaymap.Mobile"><Version>4.2.0</Version></PackageReference>\r\n', ""]],
    "parity/one-sided",
  ],
  ["old: versions of the two projects", older, [["Lock.iOS/Lock.iOS.csproj", "<Version>4.2.0", "<Version>5.0.0"]], "version/sides-apart"],
  ["old: dependency registered on one side", older, "Lock.iOS/Dialer.cs", "parity/service-missing"],
  [
    "old: shared project's path wrong",
    older,
    [["Lock.iOS/Lock.iOS.csproj", "..\\Lock.Shared\\Lock.Shared.projitems", "..\\Shared\\Lock.Shared.projitems"]],
    "source/binary-missing",
  ],
  [
    "old: service file as None",
    older,
    [["Lock.Android/Lock.Android.csproj", "<QuaymapServices", "<None"]],
    "identity/service-file-misplaced",
  ],
  [
    "old: resources folder renamed",
    older,
    [["Lock.iOS/Lock.iOS.csproj", "Resources\\**", "Assets\\**"]],
    "identity/service-file-misplaced",
  ],
  [
    "old: key in manifest is placeholder",
    older,
    [["Lock.Android/Properties/AndroidManifest.xml", "qm_0123abcd", "YOUR_MAP_KEY"]],
    "key/placeholder",
  ],
  ["old: Compile without the start", older, [["Lock.iOS/AppDelegate.cs", 'Quaymap.QuaymapSdk.Start("qm_0123abcd");', ""]], "start/missing"],
  [
    "old: permission on its own debug",
    older,
    [["Lock.Android/Properties/AndroidManifest.xml", "android.permission.ACCESS_FINE_LOCATION", "android.permission.ACCESS_FINE_LOCATON"]],
    "permit/permission-missing|permit/misspelt",
  ],
  ["heads: level in Choose", heads, [["Directory.Build.props", ">26<", ">21<"]], "level/below-need", "Directory.Build.props"],
  [
    "heads: service of the other flavour",
    heads,
    [["Skipper.Droid/Skipper.Droid.csproj", ">store<", ">beta<"]],
    "identity/service-file-mismatch",
  ],
  [
    "heads: update of another name",
    heads,
    [["Directory.Build.targets", 'Update="Quaymap.Mobile"', 'Update="Quaymap.Maps"']],
    "version/floating",
  ],
  [
    "heads: ids differ",
    heads,
    [["Skipper.iOS/Skipper.iOS.csproj", "example.maresia.skipper", "example.maresia.skiper"]],
    "identity/service-file-mismatch|identity/ids-differ",
  ],
  ["heads: framework behind its library", heads, [["Skipper.Core/Skipper.Core.fsproj", "net8.0", "net9.0"]], "level/framework-apart"],
  ["heads: string key wrong", heads, [["Skipper.Droid/Resources/values/strings.xml", "qm_0123abcd", "qm_01"]], "key/shape"],
  ["heads: start missing on iOS", heads, [["Skipper.iOS/AppDelegate.cs", 'QuaymapSdk.Start("qm_0123abcd");', ""]], "start/missing"],
  [
    "heads: permission gone",
    heads,
    [["Skipper.Droid/AndroidManifest.xml", '<uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />', ""]],
    "permit/permission-missing",
  ],
];

/** The same with entitlements and a part of the manifest by items. */
const withItems: Files = {
  ...changed(monorepo, [
    ["src/App/App.csproj", "    <CodesignEntitlements>Platforms\\iOS\\Entitlements.Release.plist</CodesignEntitlements>\n", ""],
    [
      "src/App/App.csproj",
      "  </ItemGroup>\n</Project>\n",
      `  </ItemGroup>
  <ItemGroup Condition="$(TargetFramework.Contains('-ios'))">
    <CustomEntitlements Include="aps-environment" Type="String" Value="production" />
  </ItemGroup>
  <ItemGroup Condition="$(TargetFramework.Contains('-android'))">
    <AndroidManifestOverlay Include="Platforms\\Android\\Location.xml" />
  </ItemGroup>
</Project>
`,
    ],
    ["src/App/Platforms/Android/AndroidManifest.xml", '  <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />\n', ""],
  ]),
  "src/App/Platforms/Android/Location.xml": `<?xml version="1.0" encoding="utf-8"?>
<manifest xmlns:android="http://schemas.android.com/apk/res/android">
  <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />
</manifest>
`,
};

/** Further mistakes, each with a pattern of the rules that may tell it. */
const FURTHER: [what: string, app: Files, changes: Changes, rules: string][] = [
  [
    "custom entitlement lost",
    withItems,
    [["src/App/App.csproj", '    <CustomEntitlements Include="aps-environment" Type="String" Value="production" />\n', ""]],
    "permit/entry-missing",
  ],
  [
    "custom entitlement misspelt",
    withItems,
    [["src/App/App.csproj", 'Include="aps-environment"', 'Include="aps-enviroment"']],
    "permit/entry-missing",
  ],
  [
    "custom entitlement for the other platform",
    withItems,
    [
      [
        "src/App/App.csproj",
        "$(TargetFramework.Contains('-ios'))\">\n    <Custom",
        "$(TargetFramework.Contains('-android'))\">\n    <Custom",
      ],
    ],
    "permit/entry-missing",
  ],
  [
    "overlay not listed",
    withItems,
    [["src/App/App.csproj", '    <AndroidManifestOverlay Include="Platforms\\Android\\Location.xml" />\n', ""]],
    "permit/permission-missing",
  ],
  [
    "overlay's permission lost",
    withItems,
    [["src/App/Platforms/Android/Location.xml", '  <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />\n', ""]],
    "permit/permission-missing",
  ],
  [
    "start's file taken out of the build",
    monorepo,
    [
      [
        "src/App/App.csproj",
        "</ItemGroup>\n</Project>",
        '</ItemGroup>\n  <ItemGroup>\n    <Compile Remove="MauiProgram.cs" />\n  </ItemGroup>\n</Project>',
      ],
    ],
    "start/.*",
  ],
  [
    "platform half taken out of the build",
    monorepo,
    [
      [
        "src/App/App.csproj",
        "</ItemGroup>\n</Project>",
        '</ItemGroup>\n  <ItemGroup>\n    <Compile Remove="Platforms\\iOS\\TideGauge.cs" />\n  </ItemGroup>\n</Project>',
      ],
    ],
    "parity/service-missing",
  ],
  [
    "key attribute lost",
    monorepo,
    [["src/App/Platforms/Android/MainApplication.cs", '\n[MetaData("example.quaymap.KEY", Value = "qm_0123abcd")]', ""]],
    "key/missing",
  ],
  [
    "background mode misspelt",
    monorepo,
    [["src/App/Platforms/iOS/Info.plist", "remote-notification", "remote-notifications"]],
    "permit/entry-missing",
  ],
  ["purpose text empty", monorepo, [["src/App/Platforms/iOS/Info.plist", "Shows your boat on the map.", ""]], "permit/purpose-missing"],
  [
    "bundle id in the property list differs",
    monorepo,
    [
      [
        "src/App/Platforms/iOS/Info.plist",
        "<dict>\n",
        "<dict>\n  <key>CFBundleIdentifier</key><string>example.maresia.lockeeper</string>\n",
      ],
    ],
    "identity/.*|project/.*",
  ],
  [
    "package in the manifest differs",
    monorepo,
    [["src/App/Platforms/Android/AndroidManifest.xml", "<manifest ", '<manifest package="example.maresia.lockeeper" ']],
    "identity/.*|project/.*",
  ],
  [
    "start only on Android in an elif",
    monorepo,
    [
      [
        "src/App/MauiProgram.cs",
        '        QuaymapSdk.Start("qm_0123abcd");\n',
        '#if WINDOWS\n        Console.WriteLine();\n#elif ANDROID\n        QuaymapSdk.Start("qm_0123abcd");\n#endif\n',
      ],
    ],
    "start/.*",
  ],
  [
    "start in a life-cycle event of one side",
    monorepo,
    [
      [
        "src/App/MauiProgram.cs",
        '        QuaymapSdk.Start("qm_0123abcd");\n',
        '        builder.ConfigureLifecycleEvents(events =>\n        {\n#if IOS\n            events.AddiOS(ios => ios.FinishedLaunching((app, options) => { QuaymapSdk.Start("qm_0123abcd"); return true; }));\n#endif\n        });\n',
      ],
    ],
    "start/.*",
  ],
  [
    "start in a method that nothing calls",
    monorepo,
    [
      ["src/App/MauiProgram.cs", '        QuaymapSdk.Start("qm_0123abcd");\n', ""],
      [
        "src/App/MauiProgram.cs",
        "        return builder.Build();\n    }\n",
        '        return builder.Build();\n    }\n\n    static void StartMaps()\n    {\n        QuaymapSdk.Start("qm_0123abcd");\n    }\n',
      ],
    ],
    "start/.*",
  ],
  ["level's condition misspelt", monorepo, [["Directory.Build.props", "== 'android'", "== 'droid'"]], "level/.*"],
  [
    "service item in debug builds only",
    monorepo,
    [
      [
        "src/App/App.csproj",
        "<ItemGroup Condition=\"$(TargetFramework.Contains('-android'))\">\n    <QuaymapServices",
        "<ItemGroup Condition=\"$(TargetFramework.Contains('-android')) and '$(Configuration)' == 'Debug'\">\n    <QuaymapServices",
      ],
    ],
    "identity/.*|key/.*",
  ],
  [
    "release id differs from the service file",
    monorepo,
    [
      [
        "src/App/App.csproj",
        "<ApplicationId Condition=\"'$(Configuration)' == 'Debug'\">example.maresia.lockkeeper.dev",
        "<ApplicationId Condition=\"'$(Configuration)' == 'Release'\">example.maresia.lockkeeper.store",
      ],
    ],
    "identity/.*",
  ],
  [
    "version override",
    monorepo,
    [
      [
        "src/App/App.csproj",
        '<PackageReference Include="Quaymap.Mobile" />',
        '<PackageReference Include="Quaymap.Mobile" VersionOverride="3.9.0" />',
      ],
    ],
    "version/.*",
  ],
  ["heads: package of one head floats", heads, [["Directory.Build.targets", 'Version="4.2', 'Version="4.*" Old="4.2']], "version/.*"],
];

describe(".NET apps as teams lay them out", () => {
  it.each([
    ["one project for both sides, in a repository with libraries", monorepo],
    ["the older generation", older],
    ["a project for each side", heads],
    ["entitlements and a part of the manifest by items", withItems],
  ])("are quiet: %s", async (_, app) => {
    const { findings } = await reportOf(app);
    expect(findings.map(({ rule, message }) => `${rule}: ${message}`)).toEqual([]);
  });

  it.each(MISTAKES)("%s", async (_, app, changes, rules, at) => {
    const { findings } = await reportOf(changed(app, changes));
    const told = findings.filter(({ rule }) => rules.split("|").includes(rule));
    expect(told.length, findings.map(({ rule }) => rule).join()).toBeGreaterThan(0);
    if (at !== undefined) expect(told.flatMap(({ places }) => places.map(({ file }) => file))).toContain(at);
  });

  it.each(FURTHER)("%s", async (_, app, changes, rules) => {
    await expectTold(app, changes, rules);
  });
});

describe("code in C# for one phone", () => {
  it.each([
    [
      "Android",
      "context.StartActivity(new Intent(AlarmClock.ActionSetAlarm));",
      "using Android.Content;\nusing Android.Provider;",
      "SET_ALARM",
      "AlarmClock",
    ],
    [
      "Android",
      'Log("ACTION"); policy!.Manager!.NewWakeLock(WakeLockFlags.Partial, "gauge");',
      "using Android.OS;",
      "WAKE_LOCK",
      ".NewWakeLock",
    ],
    [
      "iOS",
      'Log("Url"); new NSUrl("a"); MPMediaLibrary.RequestAuthorization(status => { });',
      "using MediaPlayer;",
      "NSAppleMusicUsageDescription",
      "MPMediaLibrary",
    ],
  ])("is told where it stands: %s, %s", async (folder, code, usings, wanted, at) => {
    const file = `src/App/Platforms/${folder}/Gauge.cs`;
    const text = `${usings}\n\nnamespace Maresia.App;\n\npublic class Gauge\n{\n    public void Read(Context context)\n    {\n        ${code}\n    }\n}\n`;
    const { findings } = await reportOf({ ...monorepo, [file]: text });
    const place = findings.find(({ message }) => message.includes(wanted))?.places.find((one) => one.file === file);
    expect(findings.map(({ message }) => message).join("\n")).toContain(wanted);
    const line = text.split("\n")[(place?.line ?? 0) - 1] ?? "";
    expect(line.slice((place?.column ?? 0) - 1)).toMatch(new RegExp(`^${at.replace(".", "\\.")}`));
  });
});
