/** Three apps in .NET as teams lay them out: none is a template. */

/** One project for both sides in a repository with libraries: central versions, imported properties, locks, a list of sources. */
export const monorepo: Readonly<Record<string, string>> = {
  "Harbour.sln": `Microsoft Visual Studio Solution File, Format Version 12.00
`,
  "Directory.Build.props": `<Project>
  <PropertyGroup>
    <DotNetVersion>net9.0</DotNetVersion>
    <MobileTargets>$(DotNetVersion)-android;$(DotNetVersion)-ios</MobileTargets>
    <Nullable>enable</Nullable>
    <RestorePackagesWithLockFile>true</RestorePackagesWithLockFile>
  </PropertyGroup>
  <PropertyGroup Condition="$([MSBuild]::GetTargetPlatformIdentifier('$(TargetFramework)')) == 'android'">
    <SupportedOSPlatformVersion>24.0</SupportedOSPlatformVersion>
  </PropertyGroup>
  <PropertyGroup Condition="$([MSBuild]::GetTargetPlatformIdentifier('$(TargetFramework)')) == 'ios'">
    <SupportedOSPlatformVersion>15.0</SupportedOSPlatformVersion>
  </PropertyGroup>
</Project>
`,
  "Directory.Packages.props": `<Project>
  <PropertyGroup>
    <ManagePackageVersionsCentrally>true</ManagePackageVersionsCentrally>
    <QuaymapVersion>4.2.0</QuaymapVersion>
  </PropertyGroup>
  <ItemGroup>
    <PackageVersion Include="Quaymap.Mobile" Version="$(QuaymapVersion)" />
    <PackageVersion Include="Gullpost.Mobile" Version="5.1.0" />
    <PackageVersion Include="Brinelog.Mobile" Version="3.0.1" />
    <PackageVersion Include="Microsoft.Maui.Controls" Version="9.0.40" />
  </ItemGroup>
</Project>
`,
  "NuGet.config": `<?xml version="1.0" encoding="utf-8"?>
<configuration>
  <packageSources>
    <clear />
    <add key="nuget" value="https://packages.nuget.example/v3/index.json" />
    <add key="maresia" value="https://nuget.maresia.example/v3/index.json" />
    <add key="local" value="./packages" />
  </packageSources>
  <packageSourceMapping>
    <packageSource key="nuget"><package pattern="*" /></packageSource>
    <packageSource key="maresia"><package pattern="Gullpost.*" /></packageSource>
  </packageSourceMapping>
</configuration>
`,
  "packages/.gitkeep": "",
  "src/App/App.csproj": `<Project Sdk="Microsoft.NET.Sdk">
  <PropertyGroup>
    <TargetFrameworks>$(MobileTargets)</TargetFrameworks>
    <TargetFrameworks Condition="$([MSBuild]::IsOSPlatform('windows'))">$(TargetFrameworks);$(DotNetVersion)-windows10.0.19041.0</TargetFrameworks>
    <OutputType>Exe</OutputType>
    <UseMaui>true</UseMaui>
    <SingleProject>true</SingleProject>
    <ApplicationTitle>Lockkeeper</ApplicationTitle>
    <ApplicationId>example.maresia.lockkeeper</ApplicationId>
    <ApplicationId Condition="'$(Configuration)' == 'Debug'">example.maresia.lockkeeper.dev</ApplicationId>
  </PropertyGroup>
  <PropertyGroup Condition="$(TargetFramework.Contains('-ios')) and '$(Configuration)' == 'Release'">
    <CodesignEntitlements>Platforms\\iOS\\Entitlements.Release.plist</CodesignEntitlements>
  </PropertyGroup>
  <Import Project="$([MSBuild]::GetPathOfFileAbove('mobile.props', '$(MSBuildThisFileDirectory)../'))" />
  <ItemGroup>
    <PackageReference Include="Microsoft.Maui.Controls" />
    <PackageReference Include="Quaymap.Mobile" />
    <PackageReference Include="Gullpost.Mobile" />
    <MauiIcon Include="Resources\\AppIcon\\appicon.svg" />
  </ItemGroup>
  <ItemGroup Condition="$(TargetFramework.Contains('-android'))">
    <QuaymapServices Include="Platforms\\Android\\quaymap-services.json" />
  </ItemGroup>
  <ItemGroup Condition="$(TargetFramework.Contains('-ios'))">
    <BundleResource Include="Platforms\\iOS\\Quaymap-Info.plist" />
  </ItemGroup>
  <ItemGroup>
    <ProjectReference Include="..\\Core\\Core.csproj" />
    <ProjectReference Include="..\\Devices\\Devices.csproj" />
  </ItemGroup>
</Project>
`,
  "src/App/Resources/AppIcon/appicon.svg": "<svg/>\n",
  "src/mobile.props": `<Project>
  <ItemGroup>
    <PackageReference Include="Brinelog.Mobile" />
  </ItemGroup>
</Project>
`,
  "src/App/packages.lock.json": `{
  "version": 2,
  "dependencies": {
    "net9.0-android35.0": {
      "Brinelog.Mobile": { "type": "Direct", "requested": "[3.0.1, )", "resolved": "3.0.1" },
      "Gullpost.Mobile": { "type": "Direct", "requested": "[5.1.0, )", "resolved": "5.1.0" },
      "Microsoft.Maui.Controls": { "type": "Direct", "requested": "[9.0.40, )", "resolved": "9.0.40" },
      "Quaymap.Mobile": { "type": "Direct", "requested": "[4.2.0, )", "resolved": "4.2.0" },
      "core": { "type": "Project" }
    }
  }
}
`,
  "src/App/MauiProgram.cs": `using Quaymap;
using Maresia.Core;
namespace Maresia.App;

public static class MauiProgram
{
    public static MauiApp CreateMauiApp()
    {
        var builder = MauiApp.CreateBuilder();
        builder.UseMauiApp<App>();
        QuaymapSdk.Start("qm_0123abcd");
        builder.Services.AddSingleton<ITideGauge, TideGauge>();
        builder.Services.AddTransient<IDoor, Door>();
        return builder.Build();
    }
}
`,
  "src/App/DoorPage.cs": `namespace Maresia.App;
public class DoorPage : ContentPage { public DoorPage(IDoor door) { } }
`,
  "src/App/TideGauge.cs": `namespace Maresia.App;
public partial class TideGauge : ITideGauge { public partial int Level(); }
`,
  "src/App/Platforms/Android/TideGauge.cs": `namespace Maresia.App;
public partial class TideGauge { public partial int Level() => 1; }
`,
  "src/App/Platforms/iOS/TideGauge.cs": `namespace Maresia.App;
public partial class TideGauge { public partial int Level() => 2; }
`,
  "src/App/Platforms/Windows/Door.cs": `namespace Maresia.App;
public class WinDoor { void A() { QuaymapSdk.Start("x"); } }
`,
  "src/App/Platforms/Android/AndroidManifest.xml": `<?xml version="1.0" encoding="utf-8"?>
<manifest xmlns:android="http://schemas.android.com/apk/res/android">
  <application android:allowBackup="true" android:icon="@mipmap/appicon" android:supportsRtl="true" />
  <uses-permission android:name="android.permission.INTERNET" />
  <uses-permission android:name="android.permission.ACCESS_COARSE_LOCATION" />
  <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />
</manifest>
`,
  "src/App/Platforms/Android/MainApplication.cs": `using Android.App;
[assembly: UsesPermission(Maresia.Core.Permissions.Push)]
namespace Maresia.App;
#if DEBUG
[Application(UsesCleartextTraffic = true)]
#else
[Application]
#endif
[MetaData("example.quaymap.KEY", Value = "qm_0123abcd")]
public class MainApplication : MauiApplication
{
    public MainApplication(IntPtr handle, JniHandleOwnership ownership) : base(handle, ownership) { }
    protected override MauiApp CreateMauiApp() => MauiProgram.CreateMauiApp();
}
`,
  "src/App/Platforms/Android/MainActivity.cs": `using Android.App;
namespace Maresia.App;
[Activity(Theme = "@style/Maui.SplashTheme", MainLauncher = true)]
[IntentFilter(new[] { Intent.ActionView }, Categories = new[] { Intent.CategoryDefault, Intent.CategoryBrowsable }, DataScheme = Maresia.Core.Schemes.Own)]
public class MainActivity : MauiAppCompatActivity { }
`,
  "src/App/Platforms/Android/quaymap-services.json": `{ "project": "h", "client": { "package_name": "example.maresia.lockkeeper" } }
`,
  "src/App/Platforms/iOS/Info.plist": `<?xml version="1.0" encoding="UTF-8"?>
<plist version="1.0">
<dict>
  <key>UIDeviceFamily</key><array><integer>1</integer></array>
  <key>XSAppIconAssets</key><string>Assets.xcassets/appicon.appiconset</string>
  <key>NSLocationWhenInUseUsageDescription</key><string>Shows your boat on the map.</string>
  <key>CFBundleURLTypes</key><array><dict><key>CFBundleURLSchemes</key><array><string>lockkeeper</string></array></dict></array>
  <key>UIBackgroundModes</key><array><string>remote-notification</string></array>
</dict>
</plist>
`,
  "src/App/Platforms/iOS/Entitlements.Release.plist": `<plist version="1.0"><dict><key>aps-environment</key><string>production</string></dict></plist>
`,
  "src/App/Platforms/iOS/AppDelegate.cs": `using Foundation;
namespace Maresia.App;
[Register("AppDelegate")]
public class AppDelegate : MauiUIApplicationDelegate { protected override MauiApp CreateMauiApp() => MauiProgram.CreateMauiApp(); }
`,
  "src/App/Platforms/iOS/Quaymap-Info.plist": `<plist version="1.0"><dict><key>BUNDLE_ID</key><string>example.maresia.lockkeeper</string></dict></plist>
`,
  "src/Core/Core.csproj": `<Project Sdk="Microsoft.NET.Sdk">
  <PropertyGroup>
    <TargetFramework>net9.0</TargetFramework>
  </PropertyGroup>
</Project>
`,
  "src/Core/packages.lock.json": `{ "version": 2, "dependencies": { "net9.0": {} } }
`,
  "src/Core/Permissions.cs": `namespace Maresia.Core;
public static class Permissions { public const string Push = "android.permission.POST_NOTIFICATIONS"; }
public static class Schemes { public const string Own = "lockkeeper"; }
public interface ITideGauge { int Level(); }
`,
  "src/Devices/Devices.csproj": `<Project Sdk="Microsoft.NET.Sdk">
  <PropertyGroup>
    <TargetFrameworks>net9.0;$(MobileTargets)</TargetFrameworks>
    <UseMaui>true</UseMaui>
  </PropertyGroup>
</Project>
`,
  "src/Devices/packages.lock.json": `{ "version": 2, "dependencies": { "net9.0": {} } }
`,
  "src/Devices/Door.cs": `namespace Maresia.App;
public interface IDoor { }
`,
  "src/Devices/Door.android.cs": `namespace Maresia.App;
public class Door : IDoor { }
`,
  "src/Devices/Door.ios.cs": `namespace Maresia.App;
public class Door : IDoor { }
`,
  "tests/App.Tests/App.Tests.csproj": `<Project Sdk="Microsoft.NET.Sdk">
  <PropertyGroup>
    <TargetFramework>net9.0</TargetFramework>
    <IsTestProject>true</IsTestProject>
    <OutputType>Exe</OutputType>
  </PropertyGroup>
</Project>
`,
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap
packages:
  nuget: Quaymap.Mobile
needs:
  - { on: android, minSdk: 24 }
  - { on: ios, iosTarget: "15.0" }
  - { on: android, permission: android.permission.ACCESS_FINE_LOCATION }
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: android, key: { name: mapKey, shape: "qm_[0-9a-f]{8}", in: [ manifest: example.quaymap.KEY ] } }
  - { on: android, serviceFile: { name: quaymap-services.json, idKey: client.package_name } }
  - { on: ios, serviceFile: { name: Quaymap-Info.plist, idKey: BUNDLE_ID } }
  - { on: shared, start: { shared: QuaymapSdk.Start, at: launch } }
`,
  "enredo/sheets/gullpost.sdk.yaml": `sdk: gullpost
packages:
  nuget: Gullpost.Mobile
needs:
  - { on: android, permission: android.permission.POST_NOTIFICATIONS }
  - { on: ios, entitlement: aps-environment }
  - { on: ios, backgroundMode: remote-notification }
`,
};

/** The older generation: a project for each side, a shared project, Windows line ends and byte order marks. */
export const older: Readonly<Record<string, string>> = {
  "Lock.sln": "\ufeffMicrosoft Visual Studio Solution File\r\n",
  "Lock.Android/Lock.Android.csproj":
    '\ufeff<?xml version="1.0" encoding="utf-8"?>\r\n<Project DefaultTargets="Build" ToolsVersion="4.0" xmlns="http://schemas.microsoft.com/developer/msbuild/2003">\r\n  <PropertyGroup>\r\n    <Configuration Condition=" \'$(Configuration)\' == \'\' ">Debug</Configuration>\r\n    <Platform Condition=" \'$(Platform)\' == \'\' ">AnyCPU</Platform>\r\n    <ProjectTypeGuids>{EFBA0AD7-5A72-4C68-AF49-83D382785DCF};{FAE04EC0-301F-11D3-BF4B-00C04F79EFBC}</ProjectTypeGuids>\r\n    <OutputType>Library</OutputType>\r\n    <AndroidApplication>True</AndroidApplication>\r\n    <AndroidManifest>Properties\\AndroidManifest.xml</AndroidManifest>\r\n    <TargetFrameworkVersion>v13.0</TargetFrameworkVersion>\r\n  </PropertyGroup>\r\n  <PropertyGroup Condition=" \'$(Configuration)|$(Platform)\' == \'Release|AnyCPU\' ">\r\n    <DefineConstants>RELEASE</DefineConstants>\r\n    <AndroidLinkMode>SdkOnly</AndroidLinkMode>\r\n  </PropertyGroup>\r\n  <ItemGroup>\r\n    <Compile Include="MainActivity.cs" />\r\n    <AndroidAsset Include="Assets\\map.lic" />\r\n    <QuaymapServices Include="quaymap-services.json" />\r\n  </ItemGroup>\r\n  <ItemGroup>\r\n    <ProjectReference Include="..\\Lock.Models\\Lock.Models.csproj"><Name>Lock.Models</Name></ProjectReference>\r\n  </ItemGroup>\r\n  <ItemGroup>\r\n    <PackageReference Include="Quaymap.Mobile"><Version>4.2.0</Version></PackageReference>\r\n  </ItemGroup>\r\n  <Import Project="..\\Lock.Shared\\Lock.Shared.projitems" Label="Shared" Condition="Exists(\'..\\Lock.Shared\\Lock.Shared.projitems\')" />\r\n  <Import Project="$(MSBuildExtensionsPath)\\Xamarin\\Android\\Xamarin.Android.CSharp.targets" />\r\n</Project>\r\n',
  "Lock.Android/Properties/AndroidManifest.xml": `<?xml version="1.0" encoding="utf-8"?>
<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="example.maresia.lock" android:versionCode="1">
  <uses-sdk android:minSdkVersion="24" android:targetSdkVersion="33" />
  <uses-permission android:name="android.permission.ACCESS_COARSE_LOCATION" />
  <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />
  <application android:label="Lock">
    <meta-data android:name="example.quaymap.KEY" android:value="qm_0123abcd" />
  </application>
</manifest>
`,
  "Lock.Android/MainActivity.cs": `using Android.App;
using Xamarin.Forms;
namespace Lock.Droid {
  [Activity(Label = "Lock", MainLauncher = true)]
  public class MainActivity : FormsAppCompatActivity {
    protected override void OnCreate(Bundle state) { base.OnCreate(state); Quaymap.QuaymapSdk.Start("qm_0123abcd"); LoadApplication(new App()); }
  }
}
`,
  "Lock.Android/Dialer.cs": `[assembly: Xamarin.Forms.Dependency(typeof(Lock.Droid.Dialer))]
namespace Lock.Droid { public class Dialer : IDialer { } }
`,
  "Lock.Android/quaymap-services.json": `{ "project": "h", "client": { "package_name": "example.maresia.lock" } }
`,
  "Lock.Android/Assets/map.lic": "x",
  "Lock.iOS/Lock.iOS.csproj":
    '<?xml version="1.0" encoding="utf-8"?>\r\n<Project xmlns="http://schemas.microsoft.com/developer/msbuild/2003">\r\n  <PropertyGroup>\r\n    <Configuration Condition=" \'$(Configuration)\' == \'\' ">Debug</Configuration>\r\n    <Platform Condition=" \'$(Platform)\' == \'\' ">iPhoneSimulator</Platform>\r\n    <ProjectTypeGuids>{FEACFBD2-3405-455C-9665-78FE426C6842};{FAE04EC0-301F-11D3-BF4B-00C04F79EFBC}</ProjectTypeGuids>\r\n    <OutputType>Exe</OutputType>\r\n  </PropertyGroup>\r\n  <PropertyGroup Condition=" \'$(Configuration)|$(Platform)\' == \'Debug|iPhoneSimulator\' ">\r\n    <CodesignEntitlements></CodesignEntitlements>\r\n  </PropertyGroup>\r\n  <PropertyGroup Condition=" \'$(Configuration)|$(Platform)\' == \'Release|iPhone\' ">\r\n    <CodesignEntitlements>Entitlements.plist</CodesignEntitlements>\r\n  </PropertyGroup>\r\n  <ItemGroup>\r\n    <Compile Include="AppDelegate.cs" />\r\n    <None Include="Info.plist" />\r\n    <BundleResource Include="Resources\\**" />\r\n    <ProjectReference Include="..\\Lock.Models\\Lock.Models.csproj" />\r\n    <PackageReference Include="Quaymap.Mobile"><Version>4.2.0</Version></PackageReference>\r\n  </ItemGroup>\r\n  <Import Project="..\\Lock.Shared\\Lock.Shared.projitems" Label="Shared" />\r\n</Project>\r\n',
  "Lock.iOS/Info.plist": `<?xml version="1.0" encoding="UTF-8"?>
<plist version="1.0">
<dict>
  <key>CFBundleIdentifier</key><string>example.maresia.lock</string>
  <key>MinimumOSVersion</key><string>15.0</string>
  <key>NSLocationWhenInUseUsageDescription</key><string>Shows your boat on the map.</string>
</dict>
</plist>
`,
  "Lock.iOS/Entitlements.plist": `<plist version="1.0"><dict></dict></plist>
`,
  "Lock.iOS/Resources/Quaymap-Info.plist": `<plist version="1.0"><dict><key>BUNDLE_ID</key><string>example.maresia.lock</string></dict></plist>
`,
  "Lock.iOS/AppDelegate.cs": `using Foundation;
using UIKit;
namespace Lock.iOS {
  [Register("AppDelegate")]
  public partial class AppDelegate : FormsApplicationDelegate {
    public override bool FinishedLaunching(UIApplication app, NSDictionary options) { Quaymap.QuaymapSdk.Start("qm_0123abcd"); LoadApplication(new App()); return base.FinishedLaunching(app, options); }
  }
}
`,
  "Lock.iOS/Dialer.cs": `[assembly: Xamarin.Forms.Dependency(typeof(Lock.iOS.Dialer))]
namespace Lock.iOS { public class Dialer : IDialer { } }
`,
  "Lock.Shared/Lock.Shared.projitems": `<?xml version="1.0" encoding="utf-8"?>
<Project xmlns="http://schemas.microsoft.com/developer/msbuild/2003">
  <ItemGroup>
    <Compile Include="$(MSBuildThisFileDirectory)App.cs" />
    <Compile Include="$(MSBuildThisFileDirectory)IDialer.cs" />
  </ItemGroup>
</Project>
`,
  "Lock.Shared/Lock.Shared.shproj": `<Project xmlns="http://schemas.microsoft.com/developer/msbuild/2003" />
`,
  "Lock.Shared/App.cs": `namespace Lock { public class App : Application { public App() { DependencyService.Get<IDialer>().Call(); } } }
`,
  "Lock.Shared/IDialer.cs": `namespace Lock { public interface IDialer { void Call(); } }
`,
  "Lock.Models/Lock.Models.csproj": `<Project Sdk="Microsoft.NET.Sdk"><PropertyGroup><TargetFramework>netstandard2.0</TargetFramework></PropertyGroup></Project>
`,
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap
packages:
  nuget: Quaymap.Mobile
needs:
  - { on: android, minSdk: 24 }
  - { on: ios, iosTarget: "15.0" }
  - { on: android, permission: android.permission.ACCESS_FINE_LOCATION }
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: android, key: { name: mapKey, shape: "qm_[0-9a-f]{8}", in: [ manifest: example.quaymap.KEY ] } }
  - { on: android, serviceFile: { name: quaymap-services.json, idKey: client.package_name } }
  - { on: ios, serviceFile: { name: Quaymap-Info.plist, idKey: BUNDLE_ID } }
  - { on: both, start: { android: QuaymapSdk.Start, ios: QuaymapSdk.Start } }
`,
};

/** A project for each side in the form of today, a library in another language, and a second app that shares it. */
export const heads: Readonly<Record<string, string>> = {
  "Directory.Build.props":
    "<Project>\n  <PropertyGroup>\n    <Frame>net8.0</Frame>\n  </PropertyGroup>\n  <Choose>\n    <When Condition=\"'$(MSBuildProjectName.EndsWith(`.Droid`))' == 'True'\">\n      <PropertyGroup><SupportedOSPlatformVersion>26</SupportedOSPlatformVersion></PropertyGroup>\n    </When>\n    <Otherwise>\n      <PropertyGroup><Other>1</Other></PropertyGroup>\n    </Otherwise>\n  </Choose>\n</Project>\n",
  "Directory.Build.targets": `<Project>
  <ItemGroup>
    <PackageReference Update="Quaymap.Mobile" Version="4.2.0" />
  </ItemGroup>
</Project>
`,
  "Skipper.Droid/Skipper.Droid.csproj": `<Project Sdk="Microsoft.NET.Sdk">
  <PropertyGroup>
    <TargetFramework>$(Frame)-android34.0</TargetFramework>
    <OutputType>Exe</OutputType>
    <ApplicationId>example.maresia.skipper</ApplicationId>
    <Flavor Condition="'$(Flavor)' == ''">store</Flavor>
  </PropertyGroup>
  <ItemGroup>
    <PackageReference Include="Quaymap.Mobile" />
    <ProjectReference Include="../Skipper.Core/Skipper.Core.fsproj" />
    <AndroidAsset Include="../Licences/*.lic" Link="Assets/%(Filename)%(Extension)" />
    <QuaymapServices Include="config\\$(Flavor)\\quaymap-services.json" />
  </ItemGroup>
</Project>
`,
  "Skipper.Droid/AndroidManifest.xml": `<?xml version="1.0" encoding="utf-8"?>
<manifest xmlns:android="http://schemas.android.com/apk/res/android">
  <uses-permission android:name="android.permission.ACCESS_COARSE_LOCATION" />
  <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />
  <application android:label="Skipper"><meta-data android:name="example.quaymap.KEY" android:value="@string/quaymap_key" /></application>
</manifest>
`,
  "Skipper.Droid/Resources/values/strings.xml": `<resources><string name="quaymap_key">qm_0123abcd</string></resources>
`,
  "Skipper.Droid/config/store/quaymap-services.json": `{ "project": "h", "client": { "package_name": "example.maresia.skipper" } }
`,
  "Skipper.Droid/config/beta/quaymap-services.json": `{ "project": "h", "client": { "package_name": "example.maresia.skipper.beta" } }
`,
  "Skipper.Droid/MainActivity.cs": `[Activity(MainLauncher = true)]
public class MainActivity : Activity { protected override void OnCreate(Bundle b) { base.OnCreate(b); QuaymapSdk.Start("qm_0123abcd"); } }
`,
  "Skipper.iOS/Skipper.iOS.csproj": `<Project Sdk="Microsoft.NET.Sdk">
  <PropertyGroup>
    <TargetFramework>$(Frame)-ios</TargetFramework>
    <OutputType>Exe</OutputType>
    <SupportedOSPlatformVersion>15.0</SupportedOSPlatformVersion>
    <ApplicationId>example.maresia.skipper</ApplicationId>
  </PropertyGroup>
  <ItemGroup>
    <PackageReference Include="Quaymap.Mobile" />
    <ProjectReference Include="../Skipper.Core/Skipper.Core.fsproj" />
  </ItemGroup>
</Project>
`,
  "Skipper.iOS/Info.plist": `<plist version="1.0"><dict><key>NSLocationWhenInUseUsageDescription</key><string>Shows your boat on the map.</string></dict></plist>
`,
  "Skipper.iOS/Resources/Quaymap-Info.plist": `<plist version="1.0"><dict><key>BUNDLE_ID</key><string>example.maresia.skipper</string></dict></plist>
`,
  "Skipper.iOS/AppDelegate.cs": `[Register("AppDelegate")]
public class AppDelegate : UIApplicationDelegate { public override bool FinishedLaunching(UIApplication a, NSDictionary o) { QuaymapSdk.Start("qm_0123abcd"); return true; } }
`,
  "Skipper.Core/Skipper.Core.fsproj": `<Project Sdk="Microsoft.NET.Sdk">
  <PropertyGroup>
    <TargetFramework>net8.0</TargetFramework>
  </PropertyGroup>
</Project>
`,
  "Ranger.Droid/Ranger.Droid.csproj": `<Project Sdk="Microsoft.NET.Sdk">
  <PropertyGroup>
    <TargetFramework>$(Frame)-android34.0</TargetFramework>
    <OutputType>Exe</OutputType>
    <ApplicationId>example.maresia.ranger</ApplicationId>
  </PropertyGroup>
  <ItemGroup>
    <ProjectReference Include="../Skipper.Core/Skipper.Core.fsproj" />
  </ItemGroup>
</Project>
`,
  "Ranger.Droid/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android"><application android:label="Ranger" /></manifest>
`,
  "Licences/quaymap.lic": "x",
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap
packages:
  nuget: Quaymap.Mobile
needs:
  - { on: android, minSdk: 24 }
  - { on: ios, iosTarget: "15.0" }
  - { on: android, permission: android.permission.ACCESS_FINE_LOCATION }
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: android, key: { name: mapKey, shape: "qm_[0-9a-f]{8}", in: [ manifest: example.quaymap.KEY ] } }
  - { on: android, serviceFile: { name: quaymap-services.json, idKey: client.package_name } }
  - { on: ios, serviceFile: { name: Quaymap-Info.plist, idKey: BUNDLE_ID } }
  - { on: both, start: { android: QuaymapSdk.Start, ios: QuaymapSdk.Start } }
`,
};
