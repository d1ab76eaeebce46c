import type { Files } from "./mistakes.js";

/** Three apps with Expo as teams lay them out: none is a template. */

/** A configuration in TypeScript, a local module, a key among the extra values. */
export const configured: Files = {
  "package.json": `{
  "name": "crewpass",
  "main": "expo-router/entry",
  "dependencies": {
    "expo": "~52.0.11",
    "react": "18.3.1",
    "react-native": "0.76.3",
    "@brinelog/expo": "3.0.1",
    "quaymap-react-native": "^4.2.0",
    "expo-build-properties": "~0.13.1",
    "expo-router": "~4.0.11",
    "expo-constants": "~17.0.3",
    "expo-linking": "~7.0.3",
    "react-native-safe-area-context": "4.12.0",
    "react-native-screens": "~4.1.0"
  }
}
`,
  "package-lock.json": `{
  "name": "x",
  "lockfileVersion": 3,
  "packages": {
    "": {
      "dependencies": {
        "expo": "~52.0.11",
        "react": "18.3.1",
        "react-native": "0.76.3",
        "@brinelog/expo": "3.0.1",
        "quaymap-react-native": "^4.2.0",
        "expo-build-properties": "~0.13.1",
        "expo-router": "~4.0.11",
        "expo-constants": "~17.0.3",
        "expo-linking": "~7.0.3",
        "react-native-safe-area-context": "4.12.0",
        "react-native-screens": "~4.1.0"
      }
    },
    "node_modules/expo": {
      "version": "52.0.11"
    },
    "node_modules/react": {
      "version": "18.3.1"
    },
    "node_modules/react-native": {
      "version": "0.76.3"
    },
    "node_modules/@brinelog/expo": {
      "version": "3.0.1"
    },
    "node_modules/quaymap-react-native": {
      "version": "4.2.0"
    },
    "node_modules/expo-build-properties": {
      "version": "0.13.1"
    },
    "node_modules/expo-router": {
      "version": "4.0.11"
    },
    "node_modules/expo-constants": {
      "version": "17.0.3"
    },
    "node_modules/expo-linking": {
      "version": "7.0.3"
    },
    "node_modules/react-native-safe-area-context": {
      "version": "4.12.0"
    },
    "node_modules/react-native-screens": {
      "version": "4.1.0"
    }
  }
}
`,
  "app.config.ts": `import type { ConfigContext, ExpoConfig } from "expo/config";

const IS_DEV = process.env.APP_VARIANT === "development";

export default ({ config }: ConfigContext): ExpoConfig => ({
  ...config,
  name: IS_DEV ? "Crewpass (dev)" : "Crewpass",
  slug: "crewpass",
  version: "2.1.0",
  scheme: "crewpass",
  ios: {
    bundleIdentifier: "example.maresia.crewpass",
    infoPlist: {
      NSLocationWhenInUseUsageDescription: "Shows where the crew is.",
      LSApplicationQueriesSchemes: ["quaymap"],
      UIBackgroundModes: ["location"],
    },
    entitlements: { "aps-environment": "production" },
  },
  android: {
    package: "example.maresia.crewpass",
    permissions: ["ACCESS_FINE_LOCATION"],
  },
  extra: {
    brinelogKey: "bl_0a1b2c3d",
    eas: { projectId: "0a1b2c3d-0000-4000-8000-000000000000" },
  },
  plugins: [
    ["expo-build-properties", { android: { minSdkVersion: 26, compileSdkVersion: 35, targetSdkVersion: 35 }, ios: { deploymentTarget: "15.1" } }],
  ],
});
`,
  "app/_layout.tsx": `import { Stack } from "expo-router";
import Constants from "expo-constants";
import { Brinelog } from "@brinelog/expo";
import { level } from "../modules/tide";

Brinelog.start(Constants.expoConfig?.extra?.brinelogKey);

export default function Layout() {
  console.log(level());
  return <Stack />;
}
`,
  "modules/tide/index.ts": `import { requireNativeModule } from "expo-modules-core";

const Tide = requireNativeModule("Tide");

export function level(): number {
  return Tide.level();
}

export async function history(days: number): Promise<number[]> {
  return await Tide.history(days);
}
`,
  "modules/tide/expo-module.config.json": `{
  "platforms": [
    "apple",
    "android"
  ],
  "apple": {
    "modules": [
      "TideModule"
    ]
  },
  "android": {
    "modules": [
      "example.maresia.tide.TideModule"
    ]
  }
}
`,
  "modules/tide/android/src/main/java/example/maresia/tide/TideModule.kt": `package example.maresia.tide

import expo.modules.kotlin.modules.Module
import expo.modules.kotlin.modules.ModuleDefinition

class TideModule : Module() {
  override fun definition() = ModuleDefinition {
    Name("Tide")

    Events("onTide")

    Function("level") { 1.0 }

    AsyncFunction("history") { days: Int -> listOf(days) }
  }
}
`,
  "modules/tide/android/build.gradle": `apply plugin: 'com.android.library'
android {
  namespace 'example.maresia.tide'
  compileSdk 35
  defaultConfig {
    minSdkVersion 24
  }
}
dependencies {
  implementation 'example.tidewire:tidewire:1.4.0'
}
`,
  "modules/tide/ios/TideModule.swift": `import ExpoModulesCore

public class TideModule: Module {
  public func definition() -> ModuleDefinition {
    Name("Tide")

    Events("onTide")

    Function("level") { 1.0 }

    AsyncFunction("history") { (days: Int) in [days] }
  }
}
`,
  "modules/tide/ios/Tide.podspec": `Pod::Spec.new do |s|
  s.name = 'Tide'
  s.summary = 'Native code'
  s.author = 'Maresia'
  s.homepage = 'https://maresia.example'
  s.source = { :path => '.' }
  s.version = '1.0.0'
  s.platforms = { :ios => '15.1' }
  s.source_files = '**/*.swift'
  s.dependency 'ExpoModulesCore'
end
`,
  "enredo/sheets/brinelog.sdk.yaml": `sdk: brinelog
packages:
  npm: "@brinelog/expo"
  maven: example.brinelog:brinelog
  cocoapods: Brinelog
needs:
  - { on: android, minSdk: 24 }
  - { on: ios, iosTarget: "15.1" }
  - { on: both, key: { name: appKey, shape: "bl_[0-9a-f]{8}", in: [asset: app.extra.brinelogKey] } }
  - { on: shared, start: { shared: Brinelog.start, at: firstScreen } }
`,
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap
packages:
  npm: "quaymap-react-native"
needs:
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: android, permission: android.permission.ACCESS_FINE_LOCATION }
  - { on: both, urlScheme: crewpass }
  - { on: ios, queriedScheme: quaymap }
  - { on: ios, backgroundMode: location }
  - { on: ios, entitlement: aps-environment }
`,
};

/** A member of a workspace whose native folders lie in the tree. */
export const prebuilt: Files = {
  "apps/harbour/package.json": `{
  "name": "harbour",
  "main": "index.js",
  "dependencies": {
    "expo": "~52.0.11",
    "react": "18.3.1",
    "react-native": "0.76.3",
    "quaymap-react-native": "^4.2.0",
    "expo-build-properties": "~0.13.1",
    "expo-camera": "~16.0.8"
  }
}
`,
  "package.json": `{
  "name": "maresia",
  "private": true,
  "workspaces": [
    "apps/*",
    "packages/*"
  ]
}
`,
  "package-lock.json": `{
  "name": "maresia",
  "lockfileVersion": 3,
  "packages": {
    "": {
      "workspaces": [
        "apps/*",
        "packages/*"
      ]
    },
    "apps/harbour": {
      "name": "harbour",
      "dependencies": {
        "expo": "~52.0.11",
        "react": "18.3.1",
        "react-native": "0.76.3",
        "quaymap-react-native": "^4.2.0",
        "expo-build-properties": "~0.13.1",
        "expo-camera": "~16.0.8"
      }
    },
    "node_modules/expo": {
      "version": "52.0.11"
    },
    "node_modules/react": {
      "version": "18.3.1"
    },
    "node_modules/react-native": {
      "version": "0.76.3"
    },
    "node_modules/quaymap-react-native": {
      "version": "4.2.0"
    },
    "node_modules/expo-build-properties": {
      "version": "0.13.1"
    },
    "node_modules/expo-camera": {
      "version": "16.0.8"
    }
  }
}
`,
  "apps/harbour/app.json": `{
  "expo": {
    "name": "Harbour",
    "slug": "harbour",
    "scheme": "crewpass",
    "ios": {
      "bundleIdentifier": "example.maresia.harbour",
      "infoPlist": {
        "NSLocationWhenInUseUsageDescription": "Shows where the crew is.",
        "LSApplicationQueriesSchemes": [
          "quaymap"
        ],
        "UIBackgroundModes": [
          "location"
        ]
      },
      "entitlements": {
        "aps-environment": "production"
      }
    },
    "android": {
      "package": "example.maresia.harbour",
      "permissions": [
        "android.permission.ACCESS_FINE_LOCATION"
      ]
    },
    "plugins": [
      [
        "expo-build-properties",
        {
          "android": {
            "minSdkVersion": 26
          },
          "ios": {
            "deploymentTarget": "15.1"
          }
        }
      ],
      [
        "expo-camera",
        {
          "cameraPermission": "Scans the pass."
        }
      ]
    ]
  }
}
`,
  "apps/harbour/index.js": `import { registerRootComponent } from 'expo';
import App from './App';
registerRootComponent(App);
`,
  "apps/harbour/App.tsx": `import { MapView } from 'quaymap-react-native';
export default function App() { return <MapView />; }
`,
  "apps/harbour/android/settings.gradle": `pluginManagement {
  includeBuild(new File(["node", "--print", "require.resolve('@react-native/gradle-plugin/package.json', { paths: [require.resolve('react-native/package.json')] })"].execute(null, rootDir).text.trim()).getParentFile().toString())
}
plugins { id("com.facebook.react.settings") }
rootProject.name = 'Harbour'
include ':app'
apply from: new File(["node", "--print", "require.resolve('expo/package.json')"].execute(null, rootDir).text.trim(), "../scripts/autolinking.gradle")
useExpoModules()
`,
  "apps/harbour/android/build.gradle": `buildscript {
  ext {
    buildToolsVersion = findProperty('android.buildToolsVersion') ?: '35.0.0'
    minSdkVersion = Integer.parseInt(findProperty('android.minSdkVersion') ?: '24')
    compileSdkVersion = Integer.parseInt(findProperty('android.compileSdkVersion') ?: '35')
    targetSdkVersion = Integer.parseInt(findProperty('android.targetSdkVersion') ?: '34')
    kotlinVersion = findProperty('android.kotlinVersion') ?: '1.9.25'
  }
  repositories {
    google()
    mavenCentral()
  }
  dependencies {
    classpath('com.android.tools.build:gradle')
  }
}
allprojects {
  repositories {
    google()
    mavenCentral()
    maven { url 'https://www.jitpack.io' }
  }
}
`,
  "apps/harbour/android/gradle.properties": `android.useAndroidX=true
hermesEnabled=true
android.minSdkVersion=26
`,
  "apps/harbour/android/app/build.gradle": `apply plugin: "com.android.application"
apply plugin: "org.jetbrains.kotlin.android"
apply plugin: "com.facebook.react"
react {
  autolinkLibrariesWithApp()
}
android {
  compileSdk rootProject.ext.compileSdkVersion
  namespace 'example.maresia.harbour'
  defaultConfig {
    applicationId 'example.maresia.harbour'
    minSdkVersion rootProject.ext.minSdkVersion
    targetSdkVersion rootProject.ext.targetSdkVersion
  }
}
`,
  "apps/harbour/android/app/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">
  <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION"/>
  <uses-permission android:name="android.permission.CAMERA"/>
  <application android:name=".MainApplication">
    <activity android:name=".MainActivity" android:exported="true" android:launchMode="singleTask">
      <intent-filter>
        <action android:name="android.intent.action.MAIN"/>
        <category android:name="android.intent.category.LAUNCHER"/>
      </intent-filter>
      <intent-filter>
        <action android:name="android.intent.action.VIEW"/>
        <category android:name="android.intent.category.DEFAULT"/>
        <category android:name="android.intent.category.BROWSABLE"/>
        <data android:scheme="crewpass"/>
        <data android:scheme="example.maresia.harbour"/>
      </intent-filter>
    </activity>
  </application>
</manifest>
`,
  "apps/harbour/android/app/src/main/java/example/maresia/harbour/MainApplication.kt": `package example.maresia.harbour

import android.app.Application
import com.facebook.react.PackageList
import com.facebook.react.ReactApplication
import com.facebook.react.ReactNativeHost
import com.facebook.react.ReactPackage
import com.facebook.react.defaults.DefaultReactNativeHost
import com.facebook.react.soloader.OpenSourceMergedSoMapping
import com.facebook.soloader.SoLoader
import expo.modules.ApplicationLifecycleDispatcher
import expo.modules.ReactNativeHostWrapper

class MainApplication : Application(), ReactApplication {
  override val reactNativeHost: ReactNativeHost = ReactNativeHostWrapper(this, object : DefaultReactNativeHost(this) {
    override fun getPackages(): List<ReactPackage> = PackageList(this).packages
  })
  override fun onCreate() {
    super.onCreate()
    SoLoader.init(this, OpenSourceMergedSoMapping)
    ApplicationLifecycleDispatcher.onApplicationCreate(this)
  }
}
`,
  "apps/harbour/ios/Podfile":
    "require File.join(File.dirname(`node --print \"require.resolve('expo/package.json')\"`), \"scripts/autolinking\")\nrequire File.join(File.dirname(`node --print \"require.resolve('react-native/package.json')\"`), \"scripts/react_native_pods\")\nrequire 'json'\npodfile_properties = JSON.parse(File.read(File.join(__dir__, 'Podfile.properties.json'))) rescue {}\nplatform :ios, podfile_properties['ios.deploymentTarget'] || '15.1'\ninstall! 'cocoapods', :deterministic_uuids => false\nprepare_react_native_project!\ntarget 'Harbour' do\n  use_expo_modules!\n  config = use_native_modules!\n  use_react_native!(:path => config[:reactNativePath], :hermes_enabled => true)\n  post_install do |installer|\n    react_native_post_install(installer, config[:reactNativePath])\n  end\nend\n",
  "apps/harbour/ios/Podfile.properties.json": `{
  "expo.jsEngine": "hermes",
  "ios.deploymentTarget": "15.1"
}
`,
  "apps/harbour/android/app/src/main/java/example/maresia/harbour/MainActivity.kt": `package example.maresia.harbour

class MainActivity : ReactActivity() {
  override fun getMainComponentName(): String = "main"

  override fun createReactActivityDelegate(): ReactActivityDelegate =
    ReactActivityDelegateWrapper(this, BuildConfig.IS_NEW_ARCHITECTURE_ENABLED, object : DefaultReactActivityDelegate(this, mainComponentName, fabricEnabled) {})
}
`,
  "apps/harbour/ios/Harbour.xcodeproj/project.pbxproj": `// !$*UTF8*$!
{
  objects = {
    A1 = { isa = PBXFileReference; path = AppDelegate.swift; sourceTree = "<group>"; };
    B1 = { isa = PBXBuildFile; fileRef = A1; };
    G2 = { isa = PBXGroup; children = ( A1 ); path = Harbour; sourceTree = "<group>"; };
    G1 = { isa = PBXGroup; children = ( G2 ); sourceTree = "<group>"; };
    SP = { isa = PBXSourcesBuildPhase; files = ( B1 ); };
    T1 = { isa = PBXNativeTarget; name = Harbour; productType = "com.apple.product-type.application"; buildConfigurationList = TL; buildPhases = ( SP, XP ); };
    XP = { isa = PBXShellScriptBuildPhase; shellScript = "sh ../node_modules/react-native/scripts/react-native-xcode.sh"; };
    PD = { isa = XCBuildConfiguration; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 15.1; }; name = Debug; };
    PR = { isa = XCBuildConfiguration; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 15.1; }; name = Release; };
    TD = { isa = XCBuildConfiguration; buildSettings = { INFOPLIST_FILE = Harbour/Info.plist; CODE_SIGN_ENTITLEMENTS = Harbour/Harbour.entitlements; PRODUCT_BUNDLE_IDENTIFIER = example.maresia.harbour; PRODUCT_NAME = Harbour; }; name = Debug; };
    TR = { isa = XCBuildConfiguration; buildSettings = { INFOPLIST_FILE = Harbour/Info.plist; CODE_SIGN_ENTITLEMENTS = Harbour/Harbour.entitlements; PRODUCT_BUNDLE_IDENTIFIER = example.maresia.harbour; PRODUCT_NAME = Harbour; }; name = Release; };
    PL = { isa = XCConfigurationList; buildConfigurations = ( PD, PR ); defaultConfigurationName = Release; };
    TL = { isa = XCConfigurationList; buildConfigurations = ( TD, TR ); defaultConfigurationName = Release; };
    P1 = { isa = PBXProject; buildConfigurationList = PL; mainGroup = G1; targets = ( T1 ); };
  };
  rootObject = P1;
}
`,
  "apps/harbour/ios/Harbour/Info.plist": `<?xml version="1.0" encoding="UTF-8"?>
<plist version="1.0">
<dict>
  <key>CFBundleIdentifier</key><string>$(PRODUCT_BUNDLE_IDENTIFIER)</string>
  <key>CFBundleURLTypes</key>
  <array>
    <dict>
      <key>CFBundleURLSchemes</key>
      <array><string>crewpass</string><string>example.maresia.harbour</string></array>
    </dict>
  </array>
  <key>LSApplicationQueriesSchemes</key><array><string>quaymap</string></array>
  <key>NSLocationWhenInUseUsageDescription</key><string>Shows where the crew is.</string>
  <key>NSCameraUsageDescription</key><string>Scans the pass.</string>
  <key>UIBackgroundModes</key><array><string>location</string></array>
</dict>
</plist>
`,
  "apps/harbour/ios/Harbour/Harbour.entitlements": `<?xml version="1.0" encoding="UTF-8"?>
<plist version="1.0">
<dict>
  <key>aps-environment</key><string>production</string>
</dict>
</plist>
`,
  "apps/harbour/ios/Harbour/AppDelegate.swift": `import Expo
import React

@UIApplicationMain
class AppDelegate: ExpoAppDelegate {
  override func application(_ application: UIApplication, didFinishLaunchingWithOptions launchOptions: [UIApplication.LaunchOptionsKey: Any]? = nil) -> Bool {
    return super.application(application, didFinishLaunchingWithOptions: launchOptions)
  }
}
`,
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap
packages:
  npm: "quaymap-react-native"
needs:
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: android, permission: android.permission.ACCESS_FINE_LOCATION }
  - { on: both, urlScheme: crewpass }
  - { on: ios, queriedScheme: quaymap }
  - { on: ios, backgroundMode: location }
  - { on: ios, entitlement: aps-environment }
`,
};

/** All in one JSON file. */
export const stated: Files = {
  "package.json": `{
  "name": "kiosk",
  "main": "node_modules/expo/AppEntry.js",
  "dependencies": {
    "expo": "~53.0.9",
    "react": "19.0.0",
    "react-native": "0.79.2",
    "expo-camera": "~16.1.6",
    "expo-location": "~18.1.5",
    "quaymap-react-native": "^4.2.0"
  },
  "scripts": {
    "ios": "expo run:ios"
  }
}
`,
  "package-lock.json": `{
  "name": "x",
  "lockfileVersion": 3,
  "packages": {
    "": {
      "dependencies": {
        "expo": "~53.0.9",
        "react": "19.0.0",
        "react-native": "0.79.2",
        "expo-camera": "~16.1.6",
        "expo-location": "~18.1.5",
        "quaymap-react-native": "^4.2.0"
      }
    },
    "node_modules/expo": {
      "version": "53.0.9"
    },
    "node_modules/react": {
      "version": "19.0.0"
    },
    "node_modules/react-native": {
      "version": "0.79.2"
    },
    "node_modules/expo-camera": {
      "version": "16.1.6"
    },
    "node_modules/expo-location": {
      "version": "18.1.5"
    },
    "node_modules/quaymap-react-native": {
      "version": "4.2.0"
    }
  }
}
`,
  "app.json": `{
  "expo": {
    "name": "Kiosk",
    "slug": "kiosk",
    "scheme": [
      "crewpass",
      "kiosk"
    ],
    "platforms": [
      "ios",
      "android"
    ],
    "ios": {
      "bundleIdentifier": "example.maresia.kiosk",
      "infoPlist": {
        "NSLocationWhenInUseUsageDescription": "Shows where the crew is.",
        "NSCameraUsageDescription": "Scans.",
        "UIBackgroundModes": [
          "location"
        ],
        "LSApplicationQueriesSchemes": [
          "quaymap"
        ]
      },
      "entitlements": {
        "aps-environment": "production"
      }
    },
    "android": {
      "package": "example.maresia.kiosk",
      "permissions": [
        "android.permission.ACCESS_FINE_LOCATION",
        "android.permission.CAMERA"
      ],
      "blockedPermissions": [
        "android.permission.RECORD_AUDIO"
      ]
    }
  }
}
`,
  "App.js": `import { MapView } from 'quaymap-react-native';
import { CameraView } from 'expo-camera';
import * as Location from 'expo-location';
export default function App() { Location.getCurrentPositionAsync({}); return <MapView />; }
`,
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap
packages:
  npm: "quaymap-react-native"
needs:
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: android, permission: android.permission.ACCESS_FINE_LOCATION }
  - { on: both, urlScheme: crewpass }
  - { on: ios, queriedScheme: quaymap }
  - { on: ios, backgroundMode: location }
  - { on: ios, entitlement: aps-environment }
`,
};
