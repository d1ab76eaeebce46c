import { brokenFileOf } from "../../derive/incomplete.js";
import type { TemplateLine } from "../../model/app.js";
import { flutterExample } from "../examples.js";
import { defineRule } from "../rule.js";

/** What each line does, and how it comes back. */
const LINES: Record<TemplateLine, { lacks: string; fix: string }> = {
  "framework of Kotlin": {
    lacks: "Swift code imports the framework of the shared Kotlin code, and no build phase of the target makes it",
    fix: "restore the phase that runs ./gradlew :MODULE:embedAndSignAppleFrameworkForXcode, in front of the sources",
  },
  "module of the framework": {
    lacks: "a build phase makes the framework of a Gradle module that the settings do not include",
    fix: "name the module as the settings include it",
  },
  "order of the framework": {
    lacks:
      "the build phase that makes the framework of the shared Kotlin code stands behind the one that compiles the sources: they do not find it",
    fix: "move it in front of Compile Sources",
  },
  "sandbox of the framework": {
    lacks: "scripts of the target run in a sandbox, in which Gradle cannot make the framework of the shared Kotlin code",
    fix: "set ENABLE_USER_SCRIPT_SANDBOXING to NO",
  },
  "framework for devices": {
    lacks: "the shared Kotlin code is built for simulators alone: there is no target iosArm64",
    fix: "add iosArm64() to the targets",
  },
  "plugin loader": {
    lacks: "the settings do not load the plugins' Android projects",
    fix: 'put id "dev.flutter.flutter-plugin-loader" back into the plugins of the settings',
  },
  "package of the platform": {
    lacks:
      "the project has native code for this platform, and package.json does not have the framework's package for it: a sync leaves it out",
    fix: "add @capacitor/android or @capacitor/ios, in the version of @capacitor/core",
  },
  "entry of the app": {
    lacks: "package.json names no file to begin with, and there is neither App nor index: nothing is started",
    fix: 'write "main": "expo-router/entry" for an app with routes, or the file that registers the root component',
  },
  "id of the platform": {
    lacks: "the configuration has an id for the other platform and none for this one: its native project cannot be written",
    fix: "add android.package or ios.bundleIdentifier",
  },
  "address of updates": {
    lacks: "the app has a version for its updates (runtimeVersion) and no address for them: it looks for none",
    fix: "add updates.url, or remove expo-updates",
  },
  "package of updates": {
    lacks: "the configuration names an address for updates, and the app does not have expo-updates: it looks for none",
    fix: "add expo-updates, or remove updates.url",
  },
  "package of development builds": {
    lacks: "a build profile is for development, and the app does not have expo-dev-client: it cannot be built",
    fix: "add expo-dev-client, or remove developmentClient",
  },
  "packages of the router": {
    lacks:
      "the app has expo-router and not all packages with native code that it needs: expo-linking, react-native-safe-area-context, react-native-screens",
    fix: "add them to package.json",
  },
  "cache of the scripts' settings": {
    lacks: "the function in babel.config.js never says when its answer holds (api.cache): no script is compiled",
    fix: "call api.cache(true) in it",
  },
  "icons of the list": {
    lacks: "the project makes icons of a picture, and the property list does not name them: the store rejects an iOS app without",
    fix: "add XSAppIconAssets with Assets.xcassets/appicon.appiconset, by the name of the picture",
  },
  "id of the app": {
    lacks: "no project file states an ApplicationId: the app has the one that the framework makes of its name",
    fix: "write ApplicationId",
  },
  "versions of the app": {
    lacks: "no project file states an ApplicationVersion: each build is number 1, and the stores take the first alone",
    fix: "write ApplicationVersion, or hand it to the build",
  },
  "engine's level": {
    lacks: "the template of the engine's module does not say which level it is compiled against: the build stops",
    fix: "put compileSdk **APIVERSION** back",
  },
  "engine's classes": {
    lacks: "the template of the engine's module does not take in libs: the engine's classes are not in the app",
    fix: "put implementation fileTree(dir: 'libs', include: ['*.jar']) back",
  },
  "assets of the engine": {
    lacks: "the template of Gradle's properties lacks unityStreamingAssets, which the engine's scripts ask for: the build stops",
    fix: "put unityStreamingAssets=**STREAMING_ASSETS** back",
  },
  "source of the app": {
    lacks: "the app's build script does not say where the Dart code lies: the framework's plugin stops the build",
    fix: 'put flutter { source = "../.." } back',
  },
  "folder of the build": {
    lacks: "the root script does not move the folder of what is built: the framework's tool does not find the app",
    fix: "put the lines with rootProject.layout.buildDirectory back, as in the framework's template",
  },
  "version of the app": {
    lacks: "pubspec.yaml states no version, and the native projects take theirs from it: a build that is given none is 1.0, number 1",
    fix: "write version: with the version and the number of the build, 4.7.0+112",
  },
  "settings of the pods": {
    lacks: "the Podfile does not call flutter_additional_ios_build_settings: plugins do not find the framework",
    fix: "call flutter_additional_ios_build_settings(target) for each target in post_install",
  },
  "root of the framework": {
    lacks: "the Podfile takes the framework's scripts from flutter_root, which it does not define: pods cannot be installed",
    fix: "put def flutter_root back, as in the framework's template",
  },
  "build plugin": {
    lacks: "the app's build script does not apply the framework's plugin: no Dart code is built",
    fix: 'put id "dev.flutter.flutter-gradle-plugin" back into the plugins of the app, as the last one',
  },
  "version of the bundle": {
    lacks: "the version in pubspec.yaml reaches Android and not iOS, whose number of the build is written out",
    fix: "write $(FLUTTER_BUILD_NUMBER) and $(FLUTTER_BUILD_NAME)",
  },
  "links read": {
    lacks: "links to the app's domain open it on both phones, and no script looks at a link: the app stays where it was",
    fix: "hand linking to the NavigationContainer, or listen to Linking; in Capacitor to appUrlOpen of @capacitor/app",
  },
  "number of the build": {
    lacks: "the version in pubspec.yaml reaches iOS and not Android, whose version code is written out",
    fix: "write versionCode = flutter.versionCode, and versionName = flutter.versionName",
  },
  "launch of plugins": {
    lacks: "the app delegate does not call its base when the app starts: plugins do not hear of it",
    fix: "return super.application(application, didFinishLaunchingWithOptions: launchOptions)",
  },
  "script of plugins": {
    lacks: "the app's build script does not apply capacitor.build.gradle: no plugin is in the app",
    fix: "put apply from: 'capacitor.build.gradle' back",
  },
  "framework's module": {
    lacks: "the app's build script does not depend on the framework's module",
    fix: "put implementation project(':capacitor-android') back",
  },
  "pods of the target": {
    lacks: "no target of the Podfile calls capacitor_pods: no plugin is in the app",
    fix: "call capacitor_pods in the app's target",
  },
  "links handed on": {
    lacks: "the app delegate does not hand links on: no script gets them",
    fix: "hand them on as the framework's template does: to ApplicationDelegateProxy in Capacitor, to RCTLinkingManager in React Native",
  },
  "package of plugins": {
    lacks: "the app's target does not take the product CapApp-SPM: neither the framework nor a plugin is in the iOS app",
    fix: "add CapApp-SPM to the target's frameworks, as in the framework's template",
  },
  "pages in the target": {
    lacks: "the app's target does not copy the folder public: the iOS app has no pages",
    fix: "add the folder public to the target's resources",
  },
  "configuration in the target": {
    lacks: "the app's target does not copy capacitor.config.json: plugins do not get their options on iOS",
    fix: "add capacitor.config.json to the target's resources",
  },
  "splash hidden": {
    lacks: "the splash screen is to stay until code hides it, and no code calls SplashScreen.hide",
    fix: "call SplashScreen.hide() when the first page is shown, or let it hide by itself",
  },
  "modules' activity": {
    lacks: "the activity does not wrap its delegate: modules of Expo do not hear of it",
    fix: "return ReactActivityDelegateWrapper(this, BuildConfig.IS_NEW_ARCHITECTURE_ENABLED, …) in createReactActivityDelegate",
  },
  "modules' launch": {
    lacks: "the app delegate does not call its base when the app starts: modules of Expo do not hear of it",
    fix: "return super.application(application, didFinishLaunchingWithOptions: launchOptions)",
  },
  "modules in settings": {
    lacks: "the settings do not take in modules of Expo",
    fix: "call expoAutolinking.useExpoModules(), as in the framework's template",
  },
  "modules' root": {
    lacks: "the root script does not apply expo-root-project: rootProject.ext has no levels for the modules",
    fix: 'put apply plugin: "expo-root-project" back',
  },
  "settings of updates": {
    lacks: "the app's target does not copy Expo.plist: the iOS app looks for no updates",
    fix: "add Expo.plist to the target's resources",
  },
  "target framework": {
    lacks: "the project has a folder for this platform, with what an app has, and no target framework for it: it is not built for it",
    fix: "add the platform to TargetFrameworks, or remove its folder",
  },
  "repository of the engine": {
    lacks: "the settings alone give repositories, and none of them has Flutter's engine",
    fix: 'add maven("https://storage.googleapis.com/download.flutter.io") to the repositories of the settings',
  },
  "engine that runs": {
    lacks: "an engine of Flutter is made and never run: its screens stay empty",
    fix: "call executeDartEntrypoint on Android, run() on iOS",
  },
  "plugins of the engine": {
    lacks: "an engine of Flutter is made, and no plugin is registered with it",
    fix: "call GeneratedPluginRegistrant.register(with: engine) when it runs",
  },
  "activity of the engine": {
    lacks: "code starts FlutterActivity, which the manifest does not name: the call throws",
    fix: 'add <activity android:name="io.flutter.embedding.android.FlutterActivity" … /> to the manifest',
  },
  "edits written": {
    lacks: "a script edits the Xcode project after the build and never writes it: nothing of it comes into the app",
    fix: "call WriteToFile, with the path that it was read from",
  },
  "framework's pods": {
    lacks: "the Podfile does not call use_react_native!: the framework is not in the iOS app",
    fix: "call use_react_native! in the target of the Podfile, as in the framework's template",
  },
  "packages in settings": {
    lacks: "the settings do not take in the packages' Android projects",
    fix: "put autolinkLibrariesFromCommand() back; before React Native 0.75, the line with native_modules.gradle",
  },
  "packages in app": {
    lacks: "the app's build script does not depend on the packages' Android projects",
    fix: "put autolinkLibrariesWithApp() back; before React Native 0.75, the line with native_modules.gradle",
  },
  "native loader": {
    lacks: "the application class does not load the framework's native libraries: the app ends when it starts",
    fix: "call SoLoader.init in onCreate, as in the framework's template",
  },
  "start of the framework": {
    lacks: "the app delegate does not call its base when the app starts: nothing is shown",
    fix: "return the super's application:didFinishLaunchingWithOptions:",
  },
  "push handed on": {
    lacks: "the app delegate does not hand the token of notifications on: registration never comes",
    fix: "post capacitorDidRegisterForRemoteNotifications in didRegisterForRemoteNotificationsWithDeviceToken",
  },
  "scheme of the router": {
    lacks: "routes are opened by links, but the configuration names no scheme for them",
    fix: 'add scheme: "…" to the configuration',
  },
  "links on one side": {
    lacks: "the framework takes links on one side and not on the other (FlutterDeepLinkingEnabled, flutter_deeplinking_enabled)",
    fix: "give both the same value",
  },
  "order of build plugins": {
    lacks: "the framework's build plugin is applied before the Android plugin",
    fix: "move it after com.android.application and the Kotlin plugin",
  },
  "call of super": {
    lacks: "configureFlutterEngine is overridden and does not call super: no plugin is registered",
    fix: "call super.configureFlutterEngine(flutterEngine) first",
  },
  embedding: {
    lacks: "the manifest does not say that the app uses the second Android embedding",
    fix: 'add <meta-data android:name="flutterEmbedding" android:value="2" /> to the application',
  },
  registration: {
    lacks: "nothing registers the plugins: no call of GeneratedPluginRegistrant in the iOS code",
    fix: "call GeneratedPluginRegistrant.register(with: self) in the app delegate",
  },
  "pods of plugins": {
    lacks: "the Podfile does not install the plugins' pods",
    fix: "call flutter_install_all_ios_pods in the target of the Podfile",
  },
  "pods file": {
    lacks: "the build settings do not include those of the pods",
    fix: 'add #include? "Pods/Target Support Files/Pods-TARGET/Pods-TARGET.CONFIGURATION.xcconfig", with the target and this configuration',
  },
  "pods file of this build": {
    lacks: "the build settings include those of the pods for another configuration",
    fix: "include the file of this configuration: it ends in .debug.xcconfig or .release.xcconfig",
  },
  "settings of this build": {
    lacks: "the release is based on the settings file of the debug build",
    fix: "base the configuration on the file beside it that is named for the release",
  },
  "generated file": {
    lacks: "the build settings do not include the framework's generated ones",
    fix: 'add #include "Generated.xcconfig"',
  },
  "template in use": {
    lacks: "the file lies in Assets/Plugins/Android, and the player settings do not use it: nothing of it is in the app",
    fix: "switch it on in the player settings (Publishing Settings, Build), or remove the file",
  },
  "implicit engine": {
    lacks:
      "the app delegate registers the plugins when the engine is made, and does not say that it wants to hear of that: no plugin is registered",
    fix: "add FlutterImplicitEngineDelegate to the protocols of the class",
  },
  "pods of packages": {
    lacks: "the Podfile does not call use_native_modules!: the native code of packages is not in the iOS app",
    fix: "write config = use_native_modules! in the target",
  },
  "pods' post install": {
    lacks: "the Podfile does not call react_native_post_install: the framework's settings are not in the pods",
    fix: "call react_native_post_install in post_install, as the template does",
  },
  "merged libraries": {
    lacks: "SoLoader.init does not take OpenSourceMergedSoMapping: from 0.76 on the app ends when it starts",
    fix: "write SoLoader.init(this, OpenSourceMergedSoMapping)",
  },
  "platform of the list": {
    lacks: "the list of platforms lacks one that is a package of the project: a fresh copy is built without it",
    fix: "add the platform to cordova.platforms",
  },
  "ready handler": {
    lacks: "the function that waits for deviceready is nowhere: the page stops there",
    fix: "write the function's name as it is declared",
  },
  "page script": {
    lacks: "the page does not load cordova.js: no plugin is available",
    fix: 'add <script src="cordova.js"></script> before the app\'s own scripts',
  },
  "module in settings": {
    lacks: "the settings do not include the module's Android projects",
    fix: "apply the module's .android/include_flutter.groovy in the settings",
  },
  "module as dependency": {
    lacks: "the app's build script does not depend on the module",
    fix: "add implementation project(':flutter') to the app's dependencies",
  },
  "module's pods": {
    lacks: "the Podfile does not install the module's pods",
    fix: "call install_all_flutter_pods(flutter_application_path) in the target of the Podfile",
  },
  "framework's build plugin": {
    lacks: "the app's build script does not apply com.facebook.react: a release has no JavaScript, and no generated code",
    fix: 'put apply plugin: "com.facebook.react" back into the app\'s build script',
  },
  "bundle of scripts": {
    lacks: "no build phase of the target makes the JavaScript bundle: a release does not start",
    fix: "restore the phase that runs react-native-xcode.sh, as in the framework's template",
  },
  "framework's activity": {
    lacks: "the activity is not one of the framework's: the app is not shown, and no plugin is registered",
    fix: "let it extend FlutterActivity or FlutterFragmentActivity",
  },
  "framework's delegate": {
    lacks: "the app delegate is not the framework's: plugins do not receive life-cycle events",
    fix: "let AppDelegate extend FlutterAppDelegate",
  },
  "modules' dispatcher": {
    lacks: "the application class does not pass its start on to Expo modules",
    fix: "call ApplicationLifecycleDispatcher.onApplicationCreate(this) in onCreate",
  },
  "ready event": {
    lacks: "a listener waits for an event that the framework never sends: the name is deviceready",
    fix: "listen to deviceready, in small letters",
  },
  "order of registration": {
    lacks: "plugins are registered after super.onCreate, which starts the bridge without them",
    fix: "call registerPlugin before super.onCreate",
  },
  "modules' host": {
    lacks: "the React host is not wrapped by Expo's: its modules are not registered",
    fix: "wrap the host in ReactNativeHostWrapper, as in the framework's template",
  },
  "modules' pods": {
    lacks: "the Podfile does not include Expo modules",
    fix: "call use_expo_modules! in the target of the Podfile",
  },
  "modules' delegate": {
    lacks: "the app delegate is not Expo's: modules do not receive life-cycle events",
    fix: "let AppDelegate extend ExpoAppDelegate, as in the framework's template",
  },
  "library manifest": {
    lacks: "the library folder has neither a manifest nor a build script: the editor ignores it",
    fix: "add an AndroidManifest.xml to the folder",
  },
  "dependencies mark": {
    lacks: "the Gradle template lacks **DEPS**: the dependencies of the project's plugins and archives are not in the build",
    fix: "put **DEPS** back at the end of the dependencies",
  },
  "engine's modules": {
    lacks: "the settings template does not include :launcher and :unityLibrary: the build has no modules",
    fix: "put include ':launcher', ':unityLibrary' back",
  },
  "library folders": {
    lacks: "the settings template lacks **INCLUDES**: the project's library folders are not in the build",
    fix: "put **INCLUDES** back behind the modules",
  },
  "launcher activity": {
    lacks: "no activity of the manifest has the intent filter of the launcher: the app cannot be opened",
    fix: "give the engine's activity the filter with action MAIN and category LAUNCHER",
  },
  "exported activity": {
    lacks: "an activity has an intent filter and does not say whether it is exported: the build stops",
    fix: 'add android:exported="true" to the activity that the launcher opens, "false" to others',
  },
  "engine's activity": {
    lacks: "the manifest names an activity that the engine does not have",
    fix: "write com.unity3d.player.UnityPlayerActivity, or UnityPlayerGameActivity where the game activity is chosen",
  },
  "build of the framework": {
    lacks: "the settings do not take in the build that has the framework's plugins: the build does not find them",
    fix: "put includeBuild(…) back, as in the framework's template: in pluginManagement for plugins of the settings, beside it for a class path of the root script",
  },
  "settings plugin": {
    lacks: "the settings configure the framework's plugin for settings, and do not apply it",
    fix: 'put plugins { id("com.facebook.react.settings") } back',
  },
  "class path of the framework": {
    lacks: "the app's build script applies com.facebook.react, and the root script does not put it on the class path: the build stops",
    fix: 'put classpath("com.facebook.react:react-native-gradle-plugin") back into the root script',
  },
  "framework in app": {
    lacks: "the app's build script does not depend on com.facebook.react:react-android: the framework is not in the app",
    fix: 'put implementation("com.facebook.react:react-android") back',
  },
  "engine of scripts": {
    lacks: "the app's build script depends on no engine for scripts: the app ends when it starts",
    fix: 'put implementation("com.facebook.react:hermes-android") back',
  },
  "switch of the engine": {
    lacks: "the app's build script asks for hermesEnabled, which no gradle.properties has: the build stops",
    fix: "put hermesEnabled=true back into gradle.properties",
  },
  "framework's script": {
    lacks: "the app's build script does not apply react.gradle of the framework: a release has no JavaScript",
    fix: 'put apply from: "../../node_modules/react-native/react.gradle" back',
  },
  "framework's library": {
    lacks: "the app's build script does not depend on com.facebook.react:react-native: the framework is not in the app",
    fix: 'put implementation "com.facebook.react:react-native:+" back',
  },
  "folder of the library": {
    lacks: "no repository is the android folder of the installed react-native: an edition of years ago is taken from Maven Central",
    fix: 'put maven { url("$rootDir/../node_modules/react-native/android") } back into the repositories of allprojects',
  },
  "framework's view": {
    lacks: "the app delegate makes the framework's factory and never lets it start: nothing is shown",
    fix: "call startReactNative(withModuleName:in:launchOptions:), as in the framework's template",
  },
  "new architecture": {
    lacks: "newArchEnabled is true, and the application class does not load the new architecture: the app ends when it starts",
    fix: "call load() in onCreate, as in the framework's template",
  },
  "component of the activity": {
    lacks: "the activity does not say which component it shows: it stays empty",
    fix: "override getMainComponentName with the name that the scripts register",
  },
  "component of the delegate": {
    lacks: "the app delegate does not say which component the app shows: it stays empty",
    fix: "set moduleName to the name that the scripts register",
  },
  "bundle of the release": {
    lacks: "the app delegate looks for a bundle that no build phase writes (it is called main.jsbundle): a release does not start",
    fix: 'write forResource: "main"',
  },
  "scripts of the pods": {
    lacks: "the Podfile calls functions of the framework and does not load the script that has them: pods cannot be installed",
    fix: "put the require at its beginning back, as in the framework's template",
  },
  "provider of generated code": {
    lacks: "the app delegate gives the framework no provider of generated code: components and modules of packages are not found",
    fix: "set dependencyProvider to RCTAppDependencyProvider(), as in the framework's template",
  },
  "command line": {
    lacks: "the scripts run the framework's command line, which no package.json declares: from 0.76 on the framework does not bring it",
    fix: "add @react-native-community/cli to devDependencies",
  },
  "folders of the workspace": {
    lacks: "the bundler does not look at the folders of the workspace (watchFolders): it does not find its packages",
    fix: "add the root of the workspace to watchFolders",
  },
  "framework's switch": {
    lacks: "the program is one of MAUI, and the project does not say UseMaui: its pages are not built",
    fix: "add <UseMaui>true</UseMaui> to the project",
  },
  "Kotlin of plugins": {
    lacks: "a plugin of the repository has code in Kotlin, and nothing switches Kotlin on: its classes are not compiled",
    fix: 'add <preference name="GradlePluginKotlinEnabled" value="true" />',
  },
  "framework in package.json": {
    lacks: "the native projects are those of a React Native app, and package.json does not declare react-native: it is not installed",
    fix: "add react-native to dependencies",
  },
  "framework in pubspec.yaml": {
    lacks: "the native projects are those of a Flutter app, and pubspec.yaml does not ask for the framework",
    fix: "add flutter with sdk: flutter to dependencies",
  },
  "engine's library": {
    lacks: "the template of the engine's module does not make it a library: the build of the app stops",
    fix: "put apply plugin: 'com.android.library' back, as in the editor's own template",
  },
  "engine's namespace": {
    lacks: "the template of the engine's module has no namespace, which the Android plugin of this edition asks for",
    fix: 'put namespace "com.unity3d.player" back, as in the editor\'s own template',
  },
  "repository of plugins": {
    lacks: "the settings' template does not name Google's repository for plugins, from where the Android plugin comes",
    fix: "put google() back into the repositories of pluginManagement",
  },
  "script after the build": {
    lacks: "a method edits the Xcode project, and nothing runs it: what it writes is in no build",
    fix: "make it static, with [PostProcessBuild] in front of it",
  },
  "framework's package": {
    lacks: "no project takes in the framework's package, which a project names itself from .NET 8 on",
    fix: 'add <PackageReference Include="Microsoft.Maui.Controls" Version="$(MauiVersion)" />',
  },
  "single project": {
    lacks: "the project does not say SingleProject: what lies in Platforms is compiled for every platform",
    fix: "add <SingleProject>true</SingleProject> to the project",
  },
  "platform of the items": {
    lacks: "items are for this platform, and the project has no target framework of it: they are in no build",
    fix: "add the platform's target framework to TargetFrameworks, or take the items out",
  },
  "bound library": {
    lacks: "a project of bindings takes in no native library: what it binds is in no build",
    fix: "add the library as an item: AndroidLibrary on Android, NativeReference on iOS",
  },
  "binding's switch": {
    lacks: "a project has definitions of bindings and does not say that it is one of bindings: they are not made",
    fix: "add <IsBindingProject>true</IsBindingProject> to it",
  },
  "binding's definitions": {
    lacks: "a project of bindings does not take in its definitions",
    fix: 'add <ObjcBindingApiDefinition Include="ApiDefinition.cs" />',
  },
  "trimmer's list": {
    lacks: "no item takes in this description for the trimmer: what it means to keep may be stripped",
    fix: "add it to the project as a TrimmerRootDescriptor",
  },
  "configuration of the pods": {
    lacks: "the Podfile maps some configurations of the project and not each one for debugging: pods of the others are built as a release",
    fix: "add the configuration to the project's list, as :debug",
  },
  "core pods": {
    lacks: "the Podfile does not take the framework's own pods (Capacitor, CapacitorCordova): no code finds them",
    fix: "put pod 'Capacitor' and pod 'CapacitorCordova' back into capacitor_pods",
  },
  "head that is no app": {
    lacks: "the project has a manifest of the app for one of the phones and is not built as an app: the app is missing there",
    fix: "state its TargetFramework with the platform, and <OutputType>Exe</OutputType>",
  },
  "app in settings": {
    lacks: "the settings do not include the module of the app: no Android app is built",
    fix: "put include ':app' back, with the folder's name",
  },
  "module's post install": {
    lacks: "the Podfile does not finish the module's pods",
    fix: "call flutter_post_install(installer) in post_install",
  },
};

/** Without these the app is built and starts. */
const MILD: ReadonlySet<TemplateLine> = new Set<TemplateLine>([
  "version of the bundle",
  "number of the build",
  "links read",
  "version of the app",
  "icons of the list",
  "id of the app",
  "versions of the app",
  "address of updates",
  "id of the platform",
  "packages of the router",
  "package of updates",
  "package of development builds",
  "links on one side",
  "scheme of the router",
  "pods' post install",
  "configuration of the pods",
  "command line",
  "trimmer's list",
  "framework's package",
]);

export const templateLine = defineRule({
  name: "native/template-line",
  severity: "error",
  title: "A line of the framework's template is missing",
  looksAt:
    "The lines of a Flutter app's native projects that load, register and link plugins and build the Dart code: settings and build script on Android, the embedding in the manifest, an override without super, the registration in the app delegate, the Podfile's helper, the settings files of the configurations, the delegate that hears of an engine made by a storyboard, where the Dart code lies and where what is built goes, the build of the framework, the version that both sides take, the number of the build on both, links that the framework takes on one side only; the same for hosts of a module. Of a React Native app, the build plugin on Android and the build phase of iOS that make its JavaScript bundle, the calls of its Podfile, links that its scripts take and its app delegate does not hand on, or that no script looks at, how its libraries are loaded, the lines that find the framework's build and put it into the app, the component and the bundle that native code names. Of each hybrid app, whether its settings include the app, and whether its Podfile loads what it calls. Of an iOS app, the settings file of each configuration; of one with Kotlin code that both phones share, the build phase that makes its framework, its place, module and sandbox, and the target for devices. Of an app with Expo, the file that it begins with, an id for each platform, the packages of its router, updates and development builds; with native folders, the lines that take in its modules. Of a Cordova app, whether its page loads the framework's script and its scripts wait for the right event with a function that is there, and whether the list of platforms has each that is a package; of a Capacitor app, the package of each platform, whether plugins are registered before the bridge starts, the script and pods of plugins, and what the app delegate hands on; of a Unity project, what its Gradle templates, its manifest and library folders cannot do without; of an app in .NET whether each phone that has a folder has a target framework, whether MAUI is switched on and brought, whether its platform folders, bindings and lists for the trimmer are in the build. Of native projects of a hybrid app, whether its list of packages still names the framework.",
  silentFor: "Native apps but for what is said of iOS; scripts that apply others that are not in the files.",
  why: "Plugins are declared and fetched but not in the app, or the build stops with a message about something else. This is what a merge of native files or a manual upgrade loses.",
  advice: "Restore the line as in the framework's template.",
  examples: {
    reported: flutterExample({
      "android/app/src/main/AndroidManifest.xml": ['        <meta-data android:name="flutterEmbedding" android:value="2" />\n', ""],
    }),
    silent: flutterExample(),
  },
  check({ app }) {
    const known = app.templateLines.filter(({ side }) => brokenFileOf(app, side) === undefined);
    return known.map(({ line, side, at }) => ({
      side,
      ...(line === "target framework" || line === "platform of the items"
        ? { severity: "note" as const }
        : MILD.has(line)
          ? { severity: "warning" as const }
          : {}),
      message: LINES[line].lacks,
      fix: LINES[line].fix,
      places: [at],
      subject: `${side} ${line} ${at.file}`,
      about: at.file,
    }));
  },
});
