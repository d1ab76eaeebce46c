import { iosExample } from "../examples.js";
import { defineRule } from "../rule.js";

const podfile = { Podfile: "platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'QuaymapSDK', '4.2.0'\nend\n" };

export const workspaceBypassed = defineRule({
  name: "source/workspace-bypassed",
  severity: "warning",
  title: "The project is built instead of the workspace",
  looksAt: "Scripts, package.json, Makefiles, Fastfiles and CI files that build an Xcode project that needs its workspace for pods.",
  silentFor: "Apps without CocoaPods.",
  why: "Built from the project, the app does not see its pods: the build does not find their modules, or links what an earlier build left behind.",
  advice: "Build the workspace: -workspace Name.xcworkspace.",
  examples: {
    reported: iosExample({}, { ...podfile, "build.sh": "xcodebuild -project Pilot.xcodeproj -scheme Pilot archive\n" }),
    silent: iosExample({}, { ...podfile, "build.sh": "xcodebuild -workspace Pilot.xcworkspace -scheme Pilot archive\n" }),
  },
  check({ app }) {
    return app.workspaceBypasses.map(({ command, at }) => ({
      side: "ios" as const,
      message: `this builds the project, but the pods need the workspace: ${command.length > 70 ? `${command.slice(0, 67)}…` : command}`,
      fix: "build the .xcworkspace that CocoaPods writes",
      places: [at],
      subject: command,
    }));
  },
});
