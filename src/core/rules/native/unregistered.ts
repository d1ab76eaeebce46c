import type { RawFinding } from "../../model/finding.js";
import { linkingExample } from "./examples.js";
import { defineRule } from "../rule.js";
import type { App, PluginGap } from "../../model/app.js";

export const unregistered = defineRule({
  name: "native/unregistered",
  severity: "error",
  title: "Nothing links the packages' native code",
  looksAt:
    "Whether the Android settings, the app's build script and the Podfile have the framework's own mechanism that links packages with native code, or name each of them by hand; packages of native modules, modules, plugins, activities, services (also those of an SDK's base class) and receivers in the app's own code that no list and no manifest names; widgets that no bundle has, delegates of an app of SwiftUI, of a watch app and of the center of notifications that nothing takes; names by which a Flutter plugin of the tree or a module of Expo is taken in and that its code does not have; podspecs of the repository under another name than their file, without source files, or without the framework whose headers their code takes; plugins of Cordova of the repository: files, classes, selectors, variables and imports that their description and their code do not have of each other, and calls that nobody answers.",
  silentFor:
    "Unity, which writes its list of plugins on every build. Of native and .NET apps their components are looked at, of Flutter the app's own plugins, of Expo its own modules.",
  why: "The packages are installed but none of their native code is in the app: each one fails on its first call.",
  advice: "Put the lines of the framework's template back: the settings plugin on Android, use_native_modules! in the Podfile.",
  examples: {
    reported: linkingExample({
      podfile: "platform :ios, '15.1'\ntarget 'Pilot' do\nend\n",
      lock: "PODS:\n  - Yoga (0.0.0)\n\nDEPENDENCIES:\n  - Yoga\n",
    }),
    silent: linkingExample(),
  },
  check({ app }) {
    const findings: RawFinding[] = [];
    for (const side of ["android", "ios"] as const) {
      const loose = app.linking.filter(
        (fact) => fact.side === side && !fact.automatic && !fact.manual && !fact.off && fact.installed !== true,
      );
      const [first] = loose;
      if (!first) continue;
      const call = first.by ?? "use_native_modules!";
      const names = loose.map((fact) => fact.package);
      const where =
        side === "ios"
          ? `iOS: the Podfile has no ${call}`
          : `Android: ${first.lacks ? `${first.lacks.file} has no ${first.lacks.call}` : "the settings do not link packages"}`;
      findings.push({
        side,
        sdk: loose.length === 1 ? first.sdk : undefined,
        message: `nothing links ${names.slice(0, 3).join(", ")}${names.length > 3 ? ` and ${names.length - 3} more` : ""} on ${where}`,
        fix:
          side === "ios"
            ? `call ${call} in the target of the Podfile`
            : first.lacks
              ? `restore ${first.lacks.call}, as in the framework's template`
              : "restore the framework's settings plugin in the settings",
        places: [first.lacks ? { file: first.lacks.file, line: 1, column: 1 } : (first.list ?? first.declared), first.declared],
        subject: `${side} ${names.join(" ")}`,
      });
    }
    for (const { name, what, side, wanted, at } of app.code?.unnamed ?? []) {
      if (what === "application class") continue;
      findings.push({
        side,
        // An SDK may take the delegate and hand it on.
        ...(what === "delegate of notifications" ? { severity: "warning" as const } : {}),
        message: `${name} is ${/^[aeiou]/.test(what) ? "an" : "a"} ${what} that nothing registers`,
        fix: `add it to ${wanted}`,
        places: [at],
        subject: `${side} ${name}`,
      });
    }
    gapsOfPlugins(app, findings);
    return findings;
  },
});

/** Of these a plugin may have several. */
const SEVERAL: ReadonlySet<NonNullable<PluginGap["what"]>> = new Set<NonNullable<PluginGap["what"]>>([
  "unlisted source",
  "method for Objective-C",
  "no answer",
  "callback not kept",
  "variable",
]);

/** Plugins that a package names and does not have, or has and does not name. */
function gapsOfPlugins(app: App, findings: RawFinding[]): void {
  for (const { package: name, side, type, what, at } of app.pluginGaps) {
    if (what !== undefined) {
      findings.push({
        side,
        ...(what === "no answer" ? { severity: "warning" as const } : {}),
        message: MISNAMED[what](name, type ?? ""),
        fix: FIX_OF[what] ?? "use the name from the code",
        places: [at],
        subject: `${side} ${name} ${what}${SEVERAL.has(what) ? ` ${type ?? ""}` : ""}`,
      });
      continue;
    }
    findings.push({
      side,
      message:
        type === undefined
          ? `${name} has a plugin for ${side === "ios" ? "iOS" : "Android"} in its code that its list of platforms does not name`
          : `${name} names the plugin ${type} for ${side === "ios" ? "iOS" : "Android"}, but its code has no such class`,
      fix:
        type === undefined
          ? app.kind === "expo"
            ? "add the side and its class to the module's configuration"
            : `add ${side} with its pluginClass to the platforms in the package's pubspec.yaml`
          : "use the class name from the code",
      places: [at],
      subject: `${side} ${name} ${type === undefined ? "side" : "class"}`,
    });
  }
}

const FIX_OF: Partial<Record<NonNullable<PluginGap["what"]>, string>> = {
  "package of a side": "write the package among the dependencies, or correct its name",
  "no plugin": "let the class implement FlutterPlugin",
  "closed class": "make the class public",
  "product of Swift": "name the product so in products of Package.swift",
  "not packed": "add it to files in its package.json",
  "name of the podspec": "give the file the name of the pod, or the pod that of the file",
  "sources of the podspec": "name them in source_files",
  "framework of the podspec": "call install_modules_dependencies(s), or depend on React-Core",
  podspec: "add a podspec beside its package.json",
  "unlisted source": "name it as a source-file in plugin.xml",
  "class for Objective-C": "write @objc with the name of the class in front of it",
  "method for Objective-C": "write @objc with its name and a colon in front of it, as in @objc(name:)",
  "callback not kept": "keep the callback (setKeepCallback) before the result is sent",
  "no answer": "send a result to the callback",
  import: "name what brings it in plugin.xml: a framework, a pod, or a plugin that this one depends on",
  variable: "declare it as a preference in plugin.xml",
};

/** What a plugin names and does not have. */
const MISNAMED: Record<NonNullable<PluginGap["what"]>, (name: string, type: string) => string> = {
  "class of Dart": (name, type) => `${name} names the class ${type} of Dart, but its library has no such class: the app is not compiled`,
  "package of a class": (name, type) => `${name} says that its plugin class is in the package ${type}, but its code is in another one`,
  "no plugin": (name, type) => `${name} names the plugin ${type}, which is no FlutterPlugin: what registers it is not compiled`,
  "closed class": (name, type) => `${name} names the plugin ${type}, which is not public: what registers it does not see it`,
  "product of Swift": (name, type) => `the Swift package of ${name} has no product ${type}, by which the framework takes it in`,
  "not packed": (name, type) => `files in the package.json of ${name} leave out ${type}: who installs the package gets no native code`,
  "name of the podspec": (name, type) =>
    `the podspec of ${name} is for a pod called ${type}, which is not the name of its file: CocoaPods refuses it`,
  "unlisted source": (name, type) => `${name} uses ${type}, which its plugin.xml does not name: it is in no app`,
  "class for Objective-C": (name, type) =>
    `${name} names the class ${type}, which Swift gives another name for Objective-C: the framework does not find it`,
  "method for Objective-C": (name, type) =>
    `scripts of ${name} call ${type}, and its method has another selector or none: the framework does not find it`,
  "callback not kept": (name, type) =>
    `${name} answers ${type} with no result yet and does not keep the callback: what comes later reaches nobody`,
  "no answer": (name, type) => `scripts of ${name} wait for an answer to ${type}, and its native code never sends one`,
  import: (name, type) => `${name} imports ${type} for this side, and its plugin.xml brings nothing that could have it`,
  variable: (name, type) => `plugin.xml of ${name} puts in the variable ${type}, which it does not declare: its name stays`,
  "sources of the podspec": (name) => `the podspec of ${name} names no source files: nothing of its code is in the app`,
  "framework of the podspec": (name) =>
    `the podspec of ${name} asks for nothing of the framework, whose headers its code takes: it is not compiled`,
  podspec: (name) => `${name} has code for iOS and no podspec: nothing takes it into the iOS app`,
  "package of a side": (name, type) => `${name} leaves a side to the package ${type}, which it does not depend on`,
};
