import { brokenFileOf } from "../../derive/incomplete.js";
import type { TemplateLine } from "../../model/app.js";
import { flutterExample } from "../examples.js";
import { defineRule } from "../rule.js";

/** What each line does, and how it comes back. */
const LINES: Record<TemplateLine, { lacks: string; fix: string }> = {
  "plugin loader": {
    lacks: "the settings do not load the plugins' Android projects",
    fix: 'put id "dev.flutter.flutter-plugin-loader" back into the plugins of the settings',
  },
  "build plugin": {
    lacks: "the app's build script does not apply the framework's plugin: no Dart code is built",
    fix: 'put id "dev.flutter.flutter-gradle-plugin" back into the plugins of the app, as the last one',
  },
  "order of build plugins": {
    lacks: "the framework's build plugin is applied before the one of Android",
    fix: "put it behind com.android.application and the Kotlin plugin",
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
    lacks: "the build settings do not take in those of the pods",
    fix: 'add #include? "Pods/Target Support Files/Pods-Runner/Pods-Runner.….xcconfig" for this configuration',
  },
  "generated file": {
    lacks: "the build settings do not take in the framework's generated ones",
    fix: 'add #include "Generated.xcconfig"',
  },
  "page script": {
    lacks: "the page does not load cordova.js: no plugin is there",
    fix: 'add <script src="cordova.js"></script> in front of the app\'s own scripts',
  },
  "module in settings": {
    lacks: "the settings do not take in the module's Android projects",
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
  "framework's activity": {
    lacks: "the activity is none of the framework's: nothing of the app is shown, and no plugin is registered",
    fix: "let it extend FlutterActivity or FlutterFragmentActivity",
  },
  "framework's delegate": {
    lacks: "the app delegate is none of the framework's: plugins are not told of the app's life",
    fix: "let AppDelegate extend FlutterAppDelegate",
  },
  "modules' dispatcher": {
    lacks: "the application class does not hand its start on to the modules of Expo",
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
    lacks: "React's host is not wrapped by Expo's: its modules are not registered",
    fix: "put ReactNativeHostWrapper around the host, as the framework's template has it",
  },
  "modules' pods": {
    lacks: "the Podfile does not take in the modules of Expo",
    fix: "call use_expo_modules! in the target of the Podfile",
  },
  "modules' delegate": {
    lacks: "the app delegate is none of Expo's: modules are not told of the app's life",
    fix: "let AppDelegate extend ExpoAppDelegate, as the framework's template has it",
  },
  "library manifest": {
    lacks: "the library folder has neither a manifest nor a build script: the editor does not take it in",
    fix: "add an AndroidManifest.xml to the folder",
  },
  "dependencies mark": {
    lacks: "the Gradle template lacks **DEPS**: what plugins and archives of the project depend on is not in the build",
    fix: "put **DEPS** back at the end of the dependencies",
  },
  "module's post install": {
    lacks: "the Podfile does not finish the module's pods",
    fix: "call flutter_post_install(installer) in post_install",
  },
};

export const templateLine = defineRule({
  name: "native/template-line",
  severity: "error",
  title: "A line that the framework's template has is gone",
  looksAt:
    "The lines of a Flutter app's native projects that load, register and link plugins and build the Dart code: settings and build script on Android, the embedding in the manifest, an override without super, the registration in the app delegate, the Podfile's helper, the settings files of the configurations; the same for hosts of a module. Of an app with Expo and native folders, the lines that take in its modules. Of a Cordova app, whether its page loads the framework's script and its scripts wait for the right event; of a Capacitor app, whether plugins are registered before the bridge starts; of a Unity project, what its Gradle templates and library folders cannot do without.",
  silentFor: "Every app but those of Flutter, Expo, Cordova, Capacitor and Unity; scripts that apply others which nobody can see.",
  why: "Plugins are declared, fetched, and not in the app, or the build stops with a message about something else. It is what a merge of native files or an upgrade by hand loses.",
  advice: "Put the line back as the framework's template has it.",
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
      message: LINES[line].lacks,
      fix: LINES[line].fix,
      places: [at],
      subject: `${side} ${line} ${at.file}`,
      about: at.file,
    }));
  },
});
