import { reactNativeExample, xcodeExample } from "../examples.js";
import type { Example } from "../rule.js";

export interface LinkingExample {
  settings?: string;
  podfile?: string;
  lock?: string;
  config?: string;
  /** The half of the linking that stands in the app's script. */
  link?: string;
  app?: string;
}

const PODFILE = "platform :ios, '15.1'\ntarget 'Pilot' do\n  config = use_native_modules!\nend\n";

/** A React Native app with both sides and one installed package that has native code on both. */
export function linkingExample({
  settings = "plugins { id 'com.facebook.react.settings' }\nextensions.configure { ex -> ex.autolinkLibrariesFromCommand() }\ninclude ':app'\n",
  podfile = PODFILE,
  lock = "PODS:\n  - ChartDeck (2.0.0)\n\nDEPENDENCIES:\n  - ChartDeck (from `../node_modules/chart-deck`)\n",
  config,
  link = "react { autolinkLibrariesWithApp() }\n",
  app = "",
}: LinkingExample = {}): Example {
  return reactNativeExample(
    { "chart-deck": "2.0.0" },
    {
      "node_modules/chart-deck/package.json": '{ "name": "chart-deck", "version": "2.0.0" }',
      "node_modules/chart-deck/ChartDeck.podspec":
        "Pod::Spec.new do |s|\n  s.name = 'ChartDeck'\n  s.version = '2.0.0'\n  s.platforms = { :ios => '13.0' }\nend\n",
      "node_modules/chart-deck/android/build.gradle": "apply plugin: 'com.android.library'\n",
      "android/settings.gradle": settings,
      "android/app/build.gradle": `apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk 24\n  }\n}\n${link}${app}`,
      "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample({ target: "15.1" }),
      "ios/Podfile": podfile,
      "ios/Podfile.lock": lock,
      ...(config === undefined ? {} : { "react-native.config.js": config }),
    },
  );
}
