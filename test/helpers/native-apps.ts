import type { Files } from "./mistakes.js";

/** Two apps as teams lay them out: none is a template. */

/** Native on both sides: modules and a catalog on Android, Swift packages and a binary on iOS. */
export const pilot: Files = {
  "settings.gradle.kts": `pluginManagement {
    repositories {
        google()
        mavenCentral()
        gradlePluginPortal()
    }
}
dependencyResolutionManagement {
    repositoriesMode.set(RepositoriesMode.FAIL_ON_PROJECT_REPOS)
    repositories {
        google()
        mavenCentral()
    }
}
rootProject.name = "Pilot"
enableFeaturePreview("TYPESAFE_PROJECT_ACCESSORS")
include(":app", ":core:maps")
`,
  "build.gradle.kts": `plugins {
    alias(libs.plugins.android.application) apply false
    alias(libs.plugins.android.library) apply false
    alias(libs.plugins.kotlin.android) apply false
}
`,
  "gradle/libs.versions.toml": `[versions]
agp = "8.7.3"
kotlin = "2.0.21"
quaymap = "4.2.0"

[libraries]
quaymap = { module = "example.quaymap:quaymap-android", version.ref = "quaymap" }
tidewire = { module = "example.tidewire:tidewire", version = "1.4.0" }

[plugins]
android-application = { id = "com.android.application", version.ref = "agp" }
android-library = { id = "com.android.library", version.ref = "agp" }
kotlin-android = { id = "org.jetbrains.kotlin.android", version.ref = "kotlin" }
`,
  "gradle/wrapper/gradle-wrapper.properties": `distributionUrl=https\\://services.gradle.org/distributions/gradle-8.11.1-bin.zip
`,
  "app/build.gradle.kts": `plugins {
    alias(libs.plugins.android.application)
    alias(libs.plugins.kotlin.android)
}

android {
    namespace = "example.maresia.pilot"
    compileSdk = 35
    defaultConfig {
        applicationId = "example.maresia.pilot"
        versionCode = 12
        minSdk = 26
        targetSdk = 35
    }
    buildTypes {
        release {
            isMinifyEnabled = true
            proguardFiles(getDefaultProguardFile("proguard-android-optimize.txt"), "proguard-rules.pro")
        }
    }
}

dependencies {
    implementation(projects.core.maps)
    implementation(libs.tidewire)
}
`,
  "app/proguard-rules.pro": `-keep class example.tidewire.** { *; }
`,
  "app/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">
    <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />
    <application android:name=".PilotApp">
        <activity android:name=".MainActivity" android:exported="true">
            <intent-filter>
                <action android:name="android.intent.action.MAIN" />
                <category android:name="android.intent.category.LAUNCHER" />
            </intent-filter>
        </activity>
    </application>
</manifest>
`,
  "app/src/main/kotlin/example/maresia/pilot/PilotApp.kt": `package example.maresia.pilot

import android.app.Application
import example.maresia.maps.Maps
import example.tidewire.Tidewire

class PilotApp : Application() {
    override fun onCreate() {
        super.onCreate()
        Maps.begin(this)
        Tidewire.open(this)
    }
}
`,
  "app/src/main/kotlin/example/maresia/pilot/MainActivity.kt": `package example.maresia.pilot

import android.app.Activity

class MainActivity : Activity()
`,
  "core/maps/build.gradle.kts": `plugins {
    alias(libs.plugins.android.library)
    alias(libs.plugins.kotlin.android)
}

android {
    namespace = "example.maresia.maps"
    compileSdk = 35
    defaultConfig {
        minSdk = 24
    }
}

dependencies {
    api(libs.quaymap)
}
`,
  "core/maps/src/main/kotlin/example/maresia/maps/Maps.kt": `package example.maresia.maps

import android.content.Context
import example.quaymap.Quaymap

object Maps {
    fun begin(context: Context) {
        Quaymap.start(context)
    }
}
`,
  "ios/Pilot.xcodeproj/project.pbxproj": `// !$*UTF8*$!
{
  archiveVersion = 1;
  objectVersion = 56;
  objects = {
    F0 = { isa = PBXFileReference; path = AppDelegate.swift; sourceTree = "<group>"; };
    FB0 = { isa = PBXBuildFile; fileRef = F0; };
    F1 = { isa = PBXFileReference; path = Maps.swift; sourceTree = "<group>"; };
    FB1 = { isa = PBXBuildFile; fileRef = F1; };
    F2 = { isa = PBXFileReference; path = Chart.swift; sourceTree = "<group>"; };
    FB2 = { isa = PBXBuildFile; fileRef = F2; };
    PD0 = { isa = XCSwiftPackageProductDependency; package = PK0; productName = QuaymapKit; };
    PB0 = { isa = PBXBuildFile; productRef = PD0; };
    PD1 = { isa = XCSwiftPackageProductDependency; package = PK1; productName = MaresiaCore; };
    PB1 = { isa = PBXBuildFile; productRef = PD1; };
    W0 = { isa = PBXFileReference; path = Tidewire.xcframework; sourceTree = "<group>"; };
    WB0 = { isa = PBXBuildFile; fileRef = W0; };
    WE0 = { isa = PBXBuildFile; fileRef = W0; settings = { ATTRIBUTES = ( CodeSignOnCopy ); }; };
    W1 = { isa = PBXFileReference; path = System/Library/Frameworks/Network.framework; sourceTree = SDKROOT; };
    WB1 = { isa = PBXBuildFile; fileRef = W1; };
    WE1 = { isa = PBXBuildFile; fileRef = W1; settings = { ATTRIBUTES = ( CodeSignOnCopy ); }; };
    PK0 = { isa = XCRemoteSwiftPackageReference; repositoryURL = "https://git.quaymap.example/quaymap-ios"; requirement = { kind = upToNextMajorVersion; minimumVersion = 4.2.0; }; };
    PK1 = { isa = XCLocalSwiftPackageReference; relativePath = Packages/MaresiaCore; };

    GI = { isa = PBXGroup; children = ( F0, F1, F2 ); path = Pilot; sourceTree = "<group>"; };
    G0 = { isa = PBXGroup; children = ( GI, W0, W1 ); sourceTree = "<group>"; };
    SP = { isa = PBXSourcesBuildPhase; files = ( FB0, FB1, FB2 ); };
    FP = { isa = PBXFrameworksBuildPhase; files = ( WB0, WB1, PB0, PB1 ); };
    RP = { isa = PBXResourcesBuildPhase; files = (  ); };
    EP = { isa = PBXCopyFilesBuildPhase; dstSubfolderSpec = 10; files = ( WE0 ); };
    T1 = { isa = PBXNativeTarget; name = Pilot; productType = "com.apple.product-type.application"; buildConfigurationList = TL; buildPhases = ( SP, FP, RP, EP ); packageProductDependencies = ( PD0, PD1 ); };
    P_D = { isa = XCBuildConfiguration; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 15.0; SWIFT_VERSION = 5.0; }; name = Debug; };
    P_R = { isa = XCBuildConfiguration; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 15.0; SWIFT_VERSION = 5.0; }; name = Release; };
    T_D = { isa = XCBuildConfiguration; buildSettings = { INFOPLIST_FILE = Pilot/Info.plist; PRODUCT_BUNDLE_IDENTIFIER = example.maresia.pilot; PRODUCT_NAME = Pilot; OTHER_LDFLAGS = ( "$(inherited)", "-ObjC" ); }; name = Debug; };
    T_R = { isa = XCBuildConfiguration; buildSettings = { INFOPLIST_FILE = Pilot/Info.plist; PRODUCT_BUNDLE_IDENTIFIER = example.maresia.pilot; PRODUCT_NAME = Pilot; OTHER_LDFLAGS = ( "$(inherited)", "-ObjC" ); }; name = Release; };
    PL = { isa = XCConfigurationList; buildConfigurations = ( P_D, P_R ); defaultConfigurationName = Release; };
    TL = { isa = XCConfigurationList; buildConfigurations = ( T_D, T_R ); defaultConfigurationName = Release; };
    P1 = { isa = PBXProject; buildConfigurationList = PL; mainGroup = G0; packageReferences = ( PK0, PK1 ); targets = ( T1 ); };
  };
  rootObject = P1;
}
`,
  "ios/Pilot.xcodeproj/project.xcworkspace/xcshareddata/swiftpm/Package.resolved": `{
  "pins": [
    {
      "identity": "quaymap-ios",
      "kind": "remoteSourceControl",
      "location": "https://git.quaymap.example/quaymap-ios",
      "state": {
        "revision": "0123",
        "version": "4.2.1"
      }
    }
  ],
  "version": 2
}
`,
  "ios/Packages/MaresiaCore/Package.swift": `// swift-tools-version:5.9
import PackageDescription

let package = Package(
    name: "MaresiaCore",
    platforms: [.iOS(.v14)],
    products: [.library(name: "MaresiaCore", targets: ["MaresiaCore"])],
    targets: [.target(name: "MaresiaCore")]
)
`,
  "ios/Packages/MaresiaCore/Sources/MaresiaCore/Core.swift": `public enum Core { public static func boot() {} }
`,
  "ios/Tidewire.xcframework/Info.plist": `<?xml version="1.0" encoding="UTF-8"?>
<plist version="1.0">
<dict>
  <key>CFBundleIdentifier</key><string>$(PRODUCT_BUNDLE_IDENTIFIER)</string>
</dict>
</plist>
`,
  "ios/Pilot/Info.plist": `<?xml version="1.0" encoding="UTF-8"?>
<plist version="1.0">
<dict>
  <key>CFBundleIdentifier</key><string>$(PRODUCT_BUNDLE_IDENTIFIER)</string>
  <key>NSLocationWhenInUseUsageDescription</key><string>Shows the way.</string>
</dict>
</plist>
`,
  "ios/Pilot/AppDelegate.swift": `import UIKit
import MaresiaCore
import Tidewire

@main
class AppDelegate: UIResponder, UIApplicationDelegate {
    func application(_ application: UIApplication, didFinishLaunchingWithOptions launchOptions: [UIApplication.LaunchOptionsKey: Any]?) -> Bool {
        Core.boot()
        Maps.begin()
        Tidewire.open()
        return true
    }
}
`,
  "ios/Pilot/Maps.swift": `import QuaymapKit

enum Maps {
    static func begin() {
        Quaymap.start()
    }
}
`,
  "ios/Pilot/Chart.swift": `import UIKit

final class Chart: UIView {}
`,
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap
packages:
  maven: example.quaymap:quaymap-android
  swiftpm: https://git.quaymap.example/quaymap-ios
  npm: "@quaymap/react-native"
  cocoapods: QuaymapSDK
agree: minor
needs:
  - { on: android, minSdk: 24 }
  - { on: ios, iosTarget: "15.0" }
  - { on: android, permission: android.permission.ACCESS_FINE_LOCATION }
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: both, framework: native, start: { android: Quaymap.start, ios: Quaymap.start, at: launch } }
  - { on: shared, start: { shared: Quaymap.start } }
`,
  "enredo/sheets/tidewire.sdk.yaml": `sdk: tidewire
packages:
  maven: example.tidewire:tidewire
  binary: ["Tidewire.xcframework", "tidewire-*.aar"]
needs:
  - { on: ios, embed: { name: Tidewire.xcframework, kind: dynamic } }
  - { on: ios, systemFramework: Network }
  - { on: ios, linkerFlag: "-ObjC" }
  - { on: both, framework: native, start: { android: Tidewire.open, ios: Tidewire.open } }
`,
};

/** React Native with packages installed, a module of its own, a patch. */
export const deckpass: Files = {
  "package.json": `{
  "name": "deckpass",
  "dependencies": {
    "react": "18.3.1",
    "react-native": "0.76.3",
    "@quaymap/react-native": "4.2.0",
    "tide-chart": "1.3.0"
  },
  "devDependencies": {
    "patch-package": "8.0.0"
  },
  "scripts": {
    "postinstall": "patch-package"
  }
}
`,
  "package-lock.json": `{
  "name": "deckpass",
  "lockfileVersion": 3,
  "packages": {
    "": {
      "dependencies": {
        "react": "18.3.1",
        "react-native": "0.76.3",
        "@quaymap/react-native": "4.2.0",
        "tide-chart": "1.3.0"
      },
      "devDependencies": {
        "patch-package": "8.0.0"
      }
    },
    "node_modules/react": {
      "version": "18.3.1"
    },
    "node_modules/react-native": {
      "version": "0.76.3"
    },
    "node_modules/@quaymap/react-native": {
      "version": "4.2.0"
    },
    "node_modules/tide-chart": {
      "version": "1.3.0"
    },
    "node_modules/patch-package": {
      "version": "8.0.0"
    }
  }
}
`,
  "patches/tide-chart+1.3.0.patch": `diff --git a/node_modules/tide-chart/index.js b/node_modules/tide-chart/index.js
--- a/node_modules/tide-chart/index.js
+++ b/node_modules/tide-chart/index.js
@@ -1 +1 @@
-exports.a = 1;
+exports.a = 2;
`,
  "node_modules/react/package.json": `{
  "name": "react",
  "version": "18.3.1"
}
`,
  "node_modules/patch-package/package.json": `{
  "name": "patch-package",
  "version": "8.0.0"
}
`,
  "node_modules/react-native/package.json": `{
  "name": "react-native",
  "version": "0.76.3"
}
`,
  "node_modules/@quaymap/react-native/package.json": `{
  "name": "@quaymap/react-native",
  "version": "4.2.0",
  "peerDependencies": {
    "react-native": ">=0.72.0"
  }
}
`,
  "node_modules/@quaymap/react-native/QuaymapReactNative.podspec": `Pod::Spec.new do |s|
  s.name = 'QuaymapReactNative'
  s.version = '4.2.0'
  s.platforms = { :ios => '14.0' }
  s.dependency 'React-Core'
  s.dependency 'QuaymapSDK', '~> 4.2'
end
`,
  "node_modules/@quaymap/react-native/android/build.gradle": `apply plugin: 'com.android.library'
android {
    compileSdkVersion 34
    defaultConfig { minSdkVersion 24 }
}
dependencies {
    implementation 'example.quaymap:quaymap-android:4.2.0'
}
`,
  "node_modules/@quaymap/react-native/android/src/main/java/example/quaymap/react/QuaymapPackage.java": `package example.quaymap.react;
public class QuaymapPackage implements ReactPackage { }
`,
  "node_modules/tide-chart/package.json": `{
  "name": "tide-chart",
  "version": "1.3.0"
}
`,
  "node_modules/tide-chart/tide-chart.podspec": `Pod::Spec.new do |s|
  s.name = 'tide-chart'
  s.version = '1.3.0'
  s.platforms = { :ios => '13.0' }
end
`,
  "node_modules/tide-chart/android/build.gradle": `apply plugin: 'com.android.library'
android {
    defaultConfig { minSdkVersion 21 }
}
`,
  "index.js": `import { AppRegistry } from 'react-native';
import App from './App';
AppRegistry.registerComponent('Deckpass', () => App);
`,
  "App.tsx": `import { Quaymap } from '@quaymap/react-native';
import { Chart } from 'tide-chart';
import { NativeModules } from 'react-native';

Quaymap.start();

export default function App() {
  NativeModules.Gate.open();
  return <Chart />;
}
`,
  "android/settings.gradle": `pluginManagement { includeBuild("../node_modules/@react-native/gradle-plugin") }
plugins { id("com.facebook.react.settings") }
extensions.configure(com.facebook.react.ReactSettingsExtension){ ex -> ex.autolinkLibrariesFromCommand() }
rootProject.name = 'Deckpass'
include ':app'
includeBuild('../node_modules/@react-native/gradle-plugin')
`,
  "android/build.gradle": `buildscript {
    ext {
        minSdkVersion = 24
        compileSdkVersion = 35
        targetSdkVersion = 34
        kotlinVersion = "1.9.24"
    }
    repositories {
        google()
        mavenCentral()
    }
    dependencies {
        classpath("com.android.tools.build:gradle")
        classpath("com.facebook.react:react-native-gradle-plugin")
    }
}
`,
  "android/app/build.gradle": `apply plugin: "com.android.application"
apply plugin: "org.jetbrains.kotlin.android"
apply plugin: "com.facebook.react"
react {
    autolinkLibrariesWithApp()
}
android {
    compileSdk rootProject.ext.compileSdkVersion
    namespace "example.maresia.deckpass"
    defaultConfig {
        applicationId "example.maresia.deckpass"
        versionCode 31
        minSdkVersion rootProject.ext.minSdkVersion
        targetSdkVersion rootProject.ext.targetSdkVersion
    }
}
dependencies {
    implementation("com.facebook.react:react-android")
    implementation("com.facebook.react:hermes-android")
}
`,
  "android/app/src/main/java/example/maresia/deckpass/MainActivity.kt": `package example.maresia.deckpass

class MainActivity : ReactActivity() {
    override fun getMainComponentName() = "Deckpass"
}
`,
  "android/app/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">
    <uses-permission android:name="android.permission.INTERNET" />
    <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />
    <uses-permission android:name="android.permission.BLUETOOTH_SCAN" />
    <application android:name=".MainApplication">
        <activity android:name=".MainActivity" android:exported="true">
            <intent-filter>
                <action android:name="android.intent.action.MAIN" />
                <category android:name="android.intent.category.LAUNCHER" />
            </intent-filter>
        </activity>
    </application>
</manifest>
`,
  "android/app/src/main/java/example/maresia/deckpass/MainApplication.kt": `package example.maresia.deckpass

import android.app.Application
import com.facebook.react.PackageList
import com.facebook.react.ReactApplication
import com.facebook.react.ReactNativeHost
import com.facebook.react.ReactPackage
import com.facebook.react.defaults.DefaultReactNativeHost
import com.facebook.react.soloader.OpenSourceMergedSoMapping
import com.facebook.soloader.SoLoader

class MainApplication : Application(), ReactApplication {
    override val reactNativeHost: ReactNativeHost = object : DefaultReactNativeHost(this) {
        override fun getPackages(): List<ReactPackage> = PackageList(this).packages.apply {
            add(GatePackage())
        }
    }

    override fun onCreate() {
        super.onCreate()
        SoLoader.init(this, OpenSourceMergedSoMapping)
    }
}
`,
  "android/app/src/main/java/example/maresia/deckpass/GatePackage.kt": `package example.maresia.deckpass

import com.facebook.react.ReactPackage
import com.facebook.react.bridge.NativeModule
import com.facebook.react.bridge.ReactApplicationContext

class GatePackage : ReactPackage {
    override fun createNativeModules(context: ReactApplicationContext): List<NativeModule> = listOf(GateModule(context))
}
`,
  "android/app/src/main/java/example/maresia/deckpass/GateModule.kt": `package example.maresia.deckpass

import com.facebook.react.bridge.ReactApplicationContext
import com.facebook.react.bridge.ReactContextBaseJavaModule
import com.facebook.react.bridge.ReactMethod

class GateModule(context: ReactApplicationContext) : ReactContextBaseJavaModule(context) {
    override fun getName() = "Gate"

    @ReactMethod
    fun open() {}
}
`,
  "ios/Podfile": `require_relative '../node_modules/react-native/scripts/react_native_pods'
require_relative '../node_modules/@react-native-community/cli-platform-ios/native_modules'
platform :ios, '15.1'
prepare_react_native_project!
target 'Deckpass' do
  config = use_native_modules!
  use_react_native!(:path => config[:reactNativePath])
  post_install do |installer|
    react_native_post_install(installer, config[:reactNativePath])
  end
end
`,
  "ios/Podfile.lock":
    'PODS:\n  - QuaymapReactNative (4.2.0):\n    - QuaymapSDK (~> 4.2)\n    - React-Core\n  - QuaymapSDK (4.2.1)\n  - React-Core (0.76.3)\n  - tide-chart (1.3.0)\n\nDEPENDENCIES:\n  - "QuaymapReactNative (from `../node_modules/@quaymap/react-native`)"\n  - React-Core (from `../node_modules/react-native/`)\n  - tide-chart (from `../node_modules/tide-chart`)\n\nSPEC REPOS:\n  trunk:\n    - QuaymapSDK\n\nCOCOAPODS: 1.16.2\n',
  "ios/Deckpass.xcodeproj/project.pbxproj": `// !$*UTF8*$!
{
  archiveVersion = 1;
  objectVersion = 56;
  objects = {
    F0 = { isa = PBXFileReference; path = AppDelegate.swift; sourceTree = "<group>"; };
    FB0 = { isa = PBXBuildFile; fileRef = F0; };
    F1 = { isa = PBXFileReference; path = Gate.m; sourceTree = "<group>"; };
    FB1 = { isa = PBXBuildFile; fileRef = F1; };
    F2 = { isa = PBXFileReference; path = Gate.swift; sourceTree = "<group>"; };
    FB2 = { isa = PBXBuildFile; fileRef = F2; };

    XP = { isa = PBXShellScriptBuildPhase; shellScript = "sh ../node_modules/react-native/scripts/react-native-xcode.sh"; };
    GI = { isa = PBXGroup; children = ( F0, F1, F2 ); path = Deckpass; sourceTree = "<group>"; };
    G0 = { isa = PBXGroup; children = ( GI,  ); sourceTree = "<group>"; };
    SP = { isa = PBXSourcesBuildPhase; files = ( FB0, FB1, FB2 ); };
    FP = { isa = PBXFrameworksBuildPhase; files = (  ); };
    RP = { isa = PBXResourcesBuildPhase; files = (  ); };
    EP = { isa = PBXCopyFilesBuildPhase; dstSubfolderSpec = 10; files = (  ); };
    T1 = { isa = PBXNativeTarget; name = Deckpass; productType = "com.apple.product-type.application"; buildConfigurationList = TL; buildPhases = ( SP, FP, RP, EP, XP ); packageProductDependencies = (  ); };
    P_D = { isa = XCBuildConfiguration; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 15.1; SWIFT_VERSION = 5.0; }; name = Debug; };
    P_R = { isa = XCBuildConfiguration; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 15.1; SWIFT_VERSION = 5.0; }; name = Release; };
    T_D = { isa = XCBuildConfiguration; buildSettings = { INFOPLIST_FILE = Deckpass/Info.plist; PRODUCT_BUNDLE_IDENTIFIER = example.maresia.deckpass; PRODUCT_NAME = Deckpass;  }; name = Debug; };
    T_R = { isa = XCBuildConfiguration; buildSettings = { INFOPLIST_FILE = Deckpass/Info.plist; PRODUCT_BUNDLE_IDENTIFIER = example.maresia.deckpass; PRODUCT_NAME = Deckpass;  }; name = Release; };
    PL = { isa = XCConfigurationList; buildConfigurations = ( P_D, P_R ); defaultConfigurationName = Release; };
    TL = { isa = XCConfigurationList; buildConfigurations = ( T_D, T_R ); defaultConfigurationName = Release; };
    P1 = { isa = PBXProject; buildConfigurationList = PL; mainGroup = G0; packageReferences = (  ); targets = ( T1 ); };
  };
  rootObject = P1;
}
`,
  "ios/Deckpass/Info.plist": `<?xml version="1.0" encoding="UTF-8"?>
<plist version="1.0">
<dict>
  <key>CFBundleIdentifier</key><string>$(PRODUCT_BUNDLE_IDENTIFIER)</string>
  <key>NSLocationWhenInUseUsageDescription</key><string>Shows the deck.</string>
  <key>NSBluetoothAlwaysUsageDescription</key><string>Opens the gate.</string>
</dict>
</plist>
`,
  "ios/Deckpass/AppDelegate.swift": `import UIKit
import React

@main
class AppDelegate: RCTAppDelegate {
  override func application(_ application: UIApplication, didFinishLaunchingWithOptions launchOptions: [UIApplication.LaunchOptionsKey: Any]? = nil) -> Bool {
    self.moduleName = "Deckpass"
    return super.application(application, didFinishLaunchingWithOptions: launchOptions)
  }
}
`,
  "ios/Deckpass/Gate.m": `#import <React/RCTBridgeModule.h>

@interface RCT_EXTERN_MODULE(Gate, NSObject)
RCT_EXTERN_METHOD(open)
@end
`,
  "ios/Deckpass/Gate.swift": `import Foundation

@objc(Gate)
class Gate: NSObject {
  @objc func open() {}
}
`,
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap
packages:
  maven: example.quaymap:quaymap-android
  swiftpm: https://git.quaymap.example/quaymap-ios
  npm: "@quaymap/react-native"
  cocoapods: QuaymapSDK
agree: minor
needs:
  - { on: android, minSdk: 24 }
  - { on: ios, iosTarget: "15.0" }
  - { on: android, permission: android.permission.ACCESS_FINE_LOCATION }
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: both, framework: native, start: { android: Quaymap.start, ios: Quaymap.start, at: launch } }
  - { on: shared, start: { shared: Quaymap.start } }
`,
};
