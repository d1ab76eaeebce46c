/** Apps of web pages in native shells as teams lay them out: none is a template. */

/** Cordova before its platforms are made: configuration, packages, plugins, a page. */
export const quayside: Readonly<Record<string, string>> = {
  "config.xml": `<?xml version='1.0' encoding='utf-8'?>
<widget id="example.maresia.quayside" version="3.2.0" xmlns="http://www.w3.org/ns/widgets" xmlns:cdv="http://cordova.apache.org/ns/1.0" xmlns:android="http://schemas.android.com/apk/res/android">
    <name>Quayside</name>
    <content src="index.html" />
    <access origin="https://*.maresia.example" />
    <allow-intent href="https://*/*" />
    <preference name="AndroidPersistentFileLocation" value="Compatibility" />
    <platform name="android">
        <preference name="android-minSdkVersion" value="24" />
        <preference name="android-targetSdkVersion" value="35" />
        <resource-file src="res/android/quaymap-services.json" target="app/quaymap-services.json" />
        <config-file target="AndroidManifest.xml" parent="/manifest/application">
            <meta-data android:name="example.quaymap.KEY" android:value="qm_0123abcd" />
        </config-file>
    </platform>
    <platform name="ios">
        <preference name="deployment-target" value="13.0" />
        <edit-config file="*-Info.plist" mode="merge" target="NSLocationWhenInUseUsageDescription">
            <string>Shows the quay.</string>
        </edit-config>
        <config-file parent="QuaymapKey" target="*-Info.plist"><string>qm_0123abcd</string></config-file>
        <config-file parent="UIBackgroundModes" target="*-Info.plist"><array><string>location</string></array></config-file>
        <resource-file src="res/ios/Quaymap-Info.plist" />
    </platform>
</widget>
`,
  "package.json": `{
  "name": "quayside",
  "version": "3.2.0",
  "devDependencies": {
    "cordova-android": "^13.0.0",
    "cordova-ios": "^7.1.0",
    "cordova-plugin-quaymap": "^2.0.0",
    "cordova-plugin-tide": "^1.1.0"
  },
  "cordova": {
    "platforms": [
      "android",
      "ios"
    ],
    "plugins": {
      "cordova-plugin-quaymap": {
        "MAP_MODE": "full"
      },
      "cordova-plugin-tide": {}
    }
  }
}
`,
  "package-lock.json": `{
  "name": "quayside",
  "lockfileVersion": 3,
  "packages": {
    "": {
      "devDependencies": {
        "cordova-android": "^13.0.0",
        "cordova-ios": "^7.1.0",
        "cordova-plugin-quaymap": "^2.0.0",
        "cordova-plugin-tide": "^1.1.0"
      }
    },
    "node_modules/cordova-android": {
      "version": "13.0.0",
      "dev": true
    },
    "node_modules/cordova-ios": {
      "version": "7.1.1",
      "dev": true
    },
    "node_modules/cordova-plugin-quaymap": {
      "version": "2.0.3",
      "dev": true
    },
    "node_modules/cordova-plugin-tide": {
      "version": "1.1.0",
      "dev": true
    }
  }
}
`,
  "plugins/cordova-plugin-quaymap/package.json": `{ "name": "cordova-plugin-quaymap", "version": "2.0.3" }
`,
  "plugins/cordova-plugin-quaymap/plugin.xml": `<?xml version="1.0" encoding="UTF-8"?>
<plugin xmlns="http://apache.org/cordova/ns/plugins/1.0" xmlns:android="http://schemas.android.com/apk/res/android" id="cordova-plugin-quaymap" version="2.0.3">
    <name>Quaymap</name>
    <preference name="MAP_MODE" />
    <js-module src="www/quaymap.js" name="quaymap"><clobbers target="Quaymap" /></js-module>
    <platform name="android">
        <config-file target="AndroidManifest.xml" parent="/manifest">
            <uses-permission android:name="android.permission.ACCESS_COARSE_LOCATION" />
            <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />
        </config-file>
        <config-file target="res/xml/config.xml" parent="/*"><feature name="Quaymap"><param name="android-package" value="example.quaymap.QuaymapPlugin" /></feature></config-file>
        <source-file src="src/android/QuaymapPlugin.java" target-dir="src/example/quaymap" />
        <framework src="example.quaymap:quaymap-android:4.2.0" />
    </platform>
    <platform name="ios">
        <config-file target="config.xml" parent="/*"><feature name="Quaymap"><param name="ios-package" value="QuaymapPlugin" /></feature></config-file>
        <header-file src="src/ios/QuaymapPlugin.h" />
        <source-file src="src/ios/QuaymapPlugin.m" />
        <podspec><pods><pod name="QuaymapSDK" spec="~> 4.2" /></pods></podspec>
    </platform>
</plugin>
`,
  "plugins/cordova-plugin-quaymap/src/android/QuaymapPlugin.java": `package example.quaymap;
public class QuaymapPlugin extends CordovaPlugin { }
`,
  "plugins/cordova-plugin-quaymap/src/ios/QuaymapPlugin.h": `@interface QuaymapPlugin : CDVPlugin
@end
`,
  "plugins/cordova-plugin-quaymap/src/ios/QuaymapPlugin.m": `#import "QuaymapPlugin.h"
@implementation QuaymapPlugin
@end
`,
  "plugins/cordova-plugin-quaymap/www/quaymap.js": `exports.start = function (key) { cordova.exec(null, null, 'Quaymap', 'start', [key]); };
`,
  "plugins/cordova-plugin-tide/package.json": `{ "name": "cordova-plugin-tide", "version": "1.1.0" }
`,
  "plugins/cordova-plugin-tide/plugin.xml": `<?xml version="1.0" encoding="UTF-8"?>
<plugin xmlns="http://apache.org/cordova/ns/plugins/1.0" xmlns:android="http://schemas.android.com/apk/res/android" id="cordova-plugin-tide" version="1.1.0">
    <js-module src="www/tide.js" name="tide"><clobbers target="Tide" /></js-module>
    <platform name="android">
        <config-file target="AndroidManifest.xml" parent="/manifest"><uses-permission android:name="android.permission.INTERNET" /></config-file>
        <config-file target="res/xml/config.xml" parent="/*"><feature name="Tide"><param name="android-package" value="example.tide.Tide" /></feature></config-file>
        <source-file src="src/android/Tide.java" target-dir="src/example/tide" />
    </platform>
    <platform name="ios">
        <config-file target="config.xml" parent="/*"><feature name="Tide"><param name="ios-package" value="CDVTide" /></feature></config-file>
        <source-file src="src/ios/CDVTide.m" />
        <framework src="CoreLocation.framework" />
    </platform>
</plugin>
`,
  "plugins/cordova-plugin-tide/src/android/Tide.java": `package example.tide;
public class Tide extends CordovaPlugin { }
`,
  "plugins/cordova-plugin-tide/src/ios/CDVTide.m": `@implementation CDVTide
@end
`,
  "plugins/cordova-plugin-tide/www/tide.js": `exports.level = function () { };
`,
  "res/android/quaymap-services.json": `{ "project": "h", "client": { "package_name": "example.maresia.quayside" } }
`,
  "res/ios/Quaymap-Info.plist": `<plist version="1.0"><dict><key>BUNDLE_ID</key><string>example.maresia.quayside</string></dict></plist>
`,
  "www/index.html": `<!DOCTYPE html>
<html>
<head>
  <meta http-equiv="Content-Security-Policy" content="default-src 'self' gap:; connect-src 'self' https://api.maresia.example; img-src 'self' data:">
</head>
<body>
  <script src="cordova.js"></script>
  <script src="js/index.js"></script>
</body>
</html>
`,
  "www/js/index.js": `document.addEventListener('deviceready', function () {
  Quaymap.start('qm_0123abcd');
  Tide.level();
  fetch('https://api.maresia.example/tides');
}, false);
`,
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap
packages:
  cordova: cordova-plugin-quaymap
  npm: "@quaymap/capacitor"
  maven: example.quaymap:quaymap-android
  cocoapods: QuaymapSDK
needs:
  - { on: android, minSdk: 24 }
  - { on: ios, iosTarget: "13.0" }
  - { on: android, permission: android.permission.ACCESS_FINE_LOCATION }
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: android, key: { name: mapKey, shape: "qm_[0-9a-f]{8}", in: [ manifest: example.quaymap.KEY ] } }
  - { on: ios, key: { name: mapKeyIos, shape: "qm_[0-9a-f]{8}", in: [ plist: QuaymapKey ] } }
  - { on: android, serviceFile: { name: quaymap-services.json, idKey: client.package_name } }
  - { on: ios, backgroundMode: location }
  - { on: shared, start: { shared: Quaymap.start } }
`,
};

/** Capacitor with both native projects, packages installed, and a plugin of its own. */
export const kiosk: Readonly<Record<string, string>> = {
  "package.json": `{
  "name": "kiosk",
  "dependencies": {
    "@capacitor/android": "7.2.0",
    "@capacitor/core": "7.2.0",
    "@capacitor/ios": "7.2.0",
    "@quaymap/capacitor": "4.2.0",
    "@capacitor/camera": "7.0.0"
  },
  "devDependencies": {
    "@capacitor/cli": "7.2.0"
  }
}
`,
  "capacitor.config.ts": `import type { CapacitorConfig } from '@capacitor/cli';
const config: CapacitorConfig = {
  appId: 'example.maresia.kiosk',
  appName: 'Kiosk',
  webDir: 'www',
  plugins: { Quaymap: { mode: 'full' } },
};
export default config;
`,
  "android/variables.gradle": `ext {
    minSdkVersion = 24
    compileSdkVersion = 35
    targetSdkVersion = 35
}
`,
  "android/build.gradle": `buildscript {
    repositories { google(); mavenCentral() }
    dependencies { classpath 'com.android.tools.build:gradle:8.7.2' }
}
apply from: 'variables.gradle'
allprojects {
    repositories { google(); mavenCentral() }
}
`,
  "android/gradle/wrapper/gradle-wrapper.properties": `distributionUrl=https\\://services.gradle.org/distributions/gradle-8.11.1-all.zip
`,
  "android/settings.gradle": `include ':app'
include ':capacitor-cordova-android-plugins'
project(':capacitor-cordova-android-plugins').projectDir = new File('./capacitor-cordova-android-plugins/')
apply from: 'capacitor.settings.gradle'
`,
  "android/capacitor.settings.gradle": `include ':capacitor-android'
project(':capacitor-android').projectDir = new File('../node_modules/@capacitor/android/capacitor')
include ':quaymap-capacitor'
project(':quaymap-capacitor').projectDir = new File('../node_modules/@quaymap/capacitor/android')
include ':capacitor-camera'
project(':capacitor-camera').projectDir = new File('../node_modules/@capacitor/camera/android')
`,
  "android/app/capacitor.build.gradle": `android {
  compileOptions { sourceCompatibility JavaVersion.VERSION_21; targetCompatibility JavaVersion.VERSION_21 }
}
dependencies {
    implementation project(':quaymap-capacitor')
    implementation project(':capacitor-camera')
}
`,
  "android/capacitor-cordova-android-plugins/build.gradle": `apply plugin: 'com.android.library'
android {
    namespace 'capacitor.cordova.android.plugins'
    defaultConfig { minSdkVersion 23 }
}
`,
  "android/app/build.gradle": `apply plugin: 'com.android.application'
android {
    namespace 'example.maresia.kiosk'
    compileSdk rootProject.ext.compileSdkVersion
    defaultConfig {
        applicationId 'example.maresia.kiosk'
        versionCode 7
        minSdkVersion rootProject.ext.minSdkVersion
        targetSdkVersion rootProject.ext.targetSdkVersion
    }
}
dependencies {
    implementation project(':capacitor-android')
    implementation project(':capacitor-cordova-android-plugins')
}
apply from: 'capacitor.build.gradle'
`,
  "android/app/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">
  <uses-permission android:name="android.permission.INTERNET" />
  <uses-permission android:name="android.permission.ACCESS_COARSE_LOCATION" />
  <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />
  <uses-permission android:name="android.permission.CAMERA" />
  <application>
    <activity android:name=".MainActivity" android:exported="true"><intent-filter><action android:name="android.intent.action.MAIN" /><category android:name="android.intent.category.LAUNCHER" /></intent-filter></activity>
    <meta-data android:name="example.quaymap.KEY" android:value="qm_0123abcd" />
  </application>
</manifest>
`,
  "android/app/src/main/java/example/maresia/kiosk/MainActivity.java": `package example.maresia.kiosk;
import com.getcapacitor.BridgeActivity;
public class MainActivity extends BridgeActivity {
  @Override public void onCreate(Bundle state) {
    registerPlugin(GatePlugin.class);
    super.onCreate(state);
  }
}
`,
  "android/app/src/main/java/example/maresia/kiosk/GatePlugin.java": `package example.maresia.kiosk;
@CapacitorPlugin(name = "Gate")
public class GatePlugin extends Plugin {
  @PluginMethod public void open(PluginCall call) { call.resolve(); }
}
`,
  "android/app/quaymap-services.json": `{ "project": "h", "client": { "package_name": "example.maresia.kiosk" } }
`,
  "ios/App/Podfile": `require_relative '../../node_modules/@capacitor/ios/scripts/pods_helpers'

platform :ios, '14.0'
use_frameworks!

def capacitor_pods
  pod 'Capacitor', :path => '../../node_modules/@capacitor/ios'
  pod 'CapacitorCordova', :path => '../../node_modules/@capacitor/ios'
  pod 'QuaymapCapacitor', :path => '../../node_modules/@quaymap/capacitor'
  pod 'CapacitorCamera', :path => '../../node_modules/@capacitor/camera'
end

target 'App' do
  capacitor_pods
end

post_install do |installer|
  assertDeploymentTarget(installer)
end
`,
  "ios/App/App.xcodeproj/project.pbxproj": `// !$*UTF8*$!
{
  archiveVersion = 1;
  objectVersion = 54;
  objects = {
    A1 = { isa = PBXFileReference; path = AppDelegate.swift; sourceTree = "<group>"; };
    A2 = { isa = PBXFileReference; path = GatePlugin.swift; sourceTree = "<group>"; };
    A3 = { isa = PBXFileReference; path = MyViewController.swift; sourceTree = "<group>"; };
    B2 = { isa = PBXBuildFile; fileRef = A2; };
    B3 = { isa = PBXBuildFile; fileRef = A3; };
    B1 = { isa = PBXBuildFile; fileRef = A1; };
    D1 = { isa = PBXFileReference; name = Debug.xcconfig; path = Flutter/Debug.xcconfig; sourceTree = "<group>"; };
    R1 = { isa = PBXFileReference; name = Release.xcconfig; path = Flutter/Release.xcconfig; sourceTree = "<group>"; };
    S1 = { isa = PBXFileReference; path = "Quaymap-Info.plist"; sourceTree = "<group>"; };
    S2 = { isa = PBXFileReference; path = capacitor.config.json; sourceTree = "<group>"; };
    S3 = { isa = PBXFileReference; lastKnownFileType = folder; path = public; sourceTree = "<group>"; };
    S4 = { isa = PBXFileReference; path = App/Base.lproj/Main.storyboard; sourceTree = "<group>"; };
    SE = { isa = PBXBuildFile; fileRef = S4; };
    SB = { isa = PBXBuildFile; fileRef = S1; };
    SC = { isa = PBXBuildFile; fileRef = S2; };
    SD = { isa = PBXBuildFile; fileRef = S3; };
    G2 = { isa = PBXGroup; children = ( A1, A2, A3, S1, S2, S3 ); path = App; sourceTree = "<group>"; };
    G1 = { isa = PBXGroup; children = ( G2, D1, R1, S4 ); sourceTree = "<group>"; };
    SP = { isa = PBXSourcesBuildPhase; files = ( B1, B2, B3 ); };
    RP = { isa = PBXResourcesBuildPhase; files = ( SB, SC, SD, SE ); };
    T1 = { isa = PBXNativeTarget; name = App; productType = "com.apple.product-type.application"; buildConfigurationList = TL; buildPhases = ( SP, RP ); };
    PL = { isa = XCConfigurationList; buildConfigurations = ( PC0, PC1, PC2 ); defaultConfigurationName = Release; };
    TL = { isa = XCConfigurationList; buildConfigurations = ( TC0, TC1, TC2 ); defaultConfigurationName = Release; };
    PC0 = { isa = XCBuildConfiguration; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 14.0; }; name = "Debug"; };
    PC1 = { isa = XCBuildConfiguration; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 14.0; }; name = "Release"; };
    PC2 = { isa = XCBuildConfiguration; buildSettings = { IPHONEOS_DEPLOYMENT_TARGET = 14.0; }; name = "Profile"; };
    TC0 = { isa = XCBuildConfiguration;  buildSettings = { INFOPLIST_FILE = App/Info.plist; PRODUCT_BUNDLE_IDENTIFIER = example.maresia.kiosk; PRODUCT_NAME = App;  }; name = "Debug"; };
    TC1 = { isa = XCBuildConfiguration;  buildSettings = { INFOPLIST_FILE = App/Info.plist; PRODUCT_BUNDLE_IDENTIFIER = example.maresia.kiosk; PRODUCT_NAME = App;  }; name = "Release"; };
    TC2 = { isa = XCBuildConfiguration;  buildSettings = { INFOPLIST_FILE = App/Info.plist; PRODUCT_BUNDLE_IDENTIFIER = example.maresia.kiosk; PRODUCT_NAME = App;  }; name = "Profile"; };
    P1 = { isa = PBXProject; buildConfigurationList = PL; mainGroup = G1; targets = ( T1 ); };
  };
  rootObject = P1;
}
`,
  "ios/App/App/Info.plist": `<?xml version="1.0" encoding="UTF-8"?>
<plist version="1.0">
<dict>
  <key>CFBundleIdentifier</key><string>$(PRODUCT_BUNDLE_IDENTIFIER)</string>
  <key>UIMainStoryboardFile</key><string>Main</string>
  <key>NSLocationWhenInUseUsageDescription</key><string>Shows where the crew is.</string>
  <key>UIBackgroundModes</key><array><string>location</string></array>
  <key>NSCameraUsageDescription</key><string>Scans the pass.</string>
  <key>NSPhotoLibraryUsageDescription</key><string>Takes a pass that you have.</string>
  <key>NSPhotoLibraryAddUsageDescription</key><string>Keeps the pass.</string>
  <key>QuaymapKey</key><string>qm_0123abcd</string>
</dict>
</plist>
`,
  "ios/.gitignore": "App/App/public\nApp/App/capacitor.config.json\n",
  "ios/App/App/Quaymap-Info.plist": `<plist version="1.0"><dict><key>BUNDLE_ID</key><string>example.maresia.kiosk</string></dict></plist>
`,
  "ios/App/App/AppDelegate.swift": `import UIKit
import Capacitor
@main
class AppDelegate: UIResponder, UIApplicationDelegate {
  func application(_ application: UIApplication, didFinishLaunchingWithOptions launchOptions: [UIApplication.LaunchOptionsKey: Any]?) -> Bool { return true }
}
`,
  "ios/App/App/GatePlugin.swift": `import Capacitor
@objc(GatePlugin)
public class GatePlugin: CAPPlugin, CAPBridgedPlugin {
  public let identifier = "GatePlugin"
  public let jsName = "Gate"
  public let pluginMethods: [CAPPluginMethod] = [CAPPluginMethod(name: "open", returnType: CAPPluginReturnPromise)]
  @objc func open(_ call: CAPPluginCall) { call.resolve() }
}
`,
  "ios/App/App/MyViewController.swift": `import UIKit
import Capacitor
class MyViewController: CAPBridgeViewController {
  override open func capacitorDidLoad() {
    bridge?.registerPluginInstance(GatePlugin())
  }
}
`,
  "ios/App/App/Base.lproj/Main.storyboard": `<?xml version="1.0"?>
<document><scenes><scene><objects><viewController id="x" customClass="MyViewController" customModule="App" /></objects></scene></scenes></document>
`,
  "src/main.ts": `import { registerPlugin } from '@capacitor/core';
import { Quaymap } from '@quaymap/capacitor';
import { Camera } from '@capacitor/camera';
const Gate = registerPlugin<any>('Gate');
Quaymap.start({ key: 'qm_0123abcd' });
Gate.open();
Camera.getPhoto({});
`,
  "www/index.html": `<html></html>
`,
  "enredo/sheets/quaymap.sdk.yaml": `sdk: quaymap
packages:
  cordova: cordova-plugin-quaymap
  npm: "@quaymap/capacitor"
  maven: example.quaymap:quaymap-android
  cocoapods: QuaymapSDK
needs:
  - { on: android, minSdk: 24 }
  - { on: ios, iosTarget: "13.0" }
  - { on: android, permission: android.permission.ACCESS_FINE_LOCATION }
  - { on: ios, purposeText: NSLocationWhenInUseUsageDescription }
  - { on: android, key: { name: mapKey, shape: "qm_[0-9a-f]{8}", in: [ manifest: example.quaymap.KEY ] } }
  - { on: ios, key: { name: mapKeyIos, shape: "qm_[0-9a-f]{8}", in: [ plist: QuaymapKey ] } }
  - { on: android, serviceFile: { name: quaymap-services.json, idKey: client.package_name } }
  - { on: ios, backgroundMode: location }
  - { on: shared, start: { shared: Quaymap.start } }
`,
  "node_modules/@capacitor/android/package.json": `{"name": "@capacitor/android", "version": "7.2.0", "peerDependencies": {"@capacitor/core": ">=7.0.0"}}
`,
  "node_modules/@capacitor/android/capacitor/build.gradle": `apply plugin: 'com.android.library'
android {
    defaultConfig { minSdkVersion project.hasProperty('minSdkVersion') ? rootProject.ext.minSdkVersion : 23 }
}
`,
  "node_modules/@capacitor/camera/package.json": `{"name": "@capacitor/camera", "version": "7.0.0", "capacitor": {"ios": {"src": "ios"}, "android": {"src": "android"}}, "peerDependencies": {"@capacitor/core": ">=7.0.0"}}
`,
  "node_modules/@capacitor/camera/android/build.gradle": `apply plugin: 'com.android.library'
android {
    defaultConfig { minSdkVersion project.hasProperty('minSdkVersion') ? rootProject.ext.minSdkVersion : 23 }
}
`,
  "node_modules/@quaymap/capacitor/package.json": `{"name": "@quaymap/capacitor", "version": "4.2.0", "capacitor": {"ios": {"src": "ios"}, "android": {"src": "android"}}, "peerDependencies": {"@capacitor/core": ">=7.0.0"}}
`,
  "node_modules/@quaymap/capacitor/android/build.gradle": `apply plugin: 'com.android.library'
android {
    defaultConfig { minSdkVersion project.hasProperty('minSdkVersion') ? rootProject.ext.minSdkVersion : 23 }
}
`,
  "node_modules/@capacitor/core/package.json": `{"name": "@capacitor/core", "version": "7.2.0"}
`,
  "node_modules/@capacitor/ios/package.json": `{"name": "@capacitor/ios", "version": "7.2.0"}
`,
  "node_modules/@capacitor/cli/package.json": `{"name": "@capacitor/cli", "version": "7.2.0"}
`,
  "node_modules/@capacitor/camera/CapacitorCamera.podspec": `Pod::Spec.new do |s|
  s.name = 'CapacitorCamera'
  s.version = '7.0.0'
  s.ios.deployment_target = '14.0'
  s.dependency 'Capacitor'
end
`,
  "node_modules/@quaymap/capacitor/QuaymapCapacitor.podspec": `Pod::Spec.new do |s|
  s.name = 'QuaymapCapacitor'
  s.version = '4.2.0'
  s.ios.deployment_target = '13.0'
  s.dependency 'Capacitor'
  s.dependency 'QuaymapSDK', '~> 4.2'
end
`,
};
