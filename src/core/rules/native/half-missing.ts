import type { ModuleHalf } from "../../model/code.js";
import { linkingExample } from "./examples.js";
import { defineRule } from "../rule.js";

const app = (swift: string) => ({
  ...linkingExample(),
  "ios/Pilot/Tide.m":
    "#import <React/RCTBridgeModule.h>\n\n@interface RCT_EXTERN_MODULE(Tide, NSObject)\nRCT_EXTERN_METHOD(level:(RCTPromiseResolveBlock)resolve rejecter:(RCTPromiseRejectBlock)reject)\n@end\n",
  "ios/Pilot/Tide.swift": swift,
});

/** What each half lacks, and what to do about it. */
const WORDS: Record<ModuleHalf["what"], (half: ModuleHalf) => { message: string; fix: string }> = {
  "swift class": ({ name, near }) => ({
    message: `RCT_EXTERN_MODULE names the class ${name}, but no Swift class has this name in Objective-C${near === name ? `: class ${name} has no @objc(${name})` : near === undefined ? "" : `; there is @objc(${near})`}`,
    fix: `write @objc(${name}) before the class`,
  }),
  "swift method": ({ name, near }) => {
    const method = name.split(" ", 1)[0] ?? name;
    return near === method
      ? {
          message: `the module declares ${name}, but the Swift method is not visible to Objective-C`,
          fix: `write @objc before func ${method}`,
        }
      : {
          message: `the module declares ${name}, but the Swift class has no such method${near === undefined ? "" : `; it has ${near}`}`,
          fix: "use one name in both files",
        };
  },
  "listed event": ({ name }) => ({
    message: `the module sends the event ${name}, but supportedEvents does not list it: sending it fails`,
    fix: `add ${name} to supportedEvents`,
  }),
  "generated class": ({ name, near }) => ({
    message: `${name} is made by the code generation from ${name.replace(/Spec$/, "")}.ts, which is not in its folder${near === undefined || near === "" ? "" : /\.\w+$/.test(near) ? `; there is ${near}` : ` ${near}`}`,
    fix: "put the specification in the folder that jsSrcsDir of codegenConfig names, under this name",
  }),
  "generated header": ({ name, near }) => ({
    message: `the header of ${name} is imported, but the code generation makes ${near ?? "another one"}`,
    fix: `import <${near ?? ""}/${near ?? ""}.h>, or change the name in codegenConfig`,
  }),
  "generated package": ({ name, near = "" }) => ({
    message: `${name} is made in the package ${near}, and the class looks for it in another one: the app is not compiled`,
    fix: `import ${near}.${name}, or change javaPackageName in codegenConfig`,
  }),
  "specification method": ({ name, near, side }) => ({
    message: `the specification has ${name}, and the class on ${side === "ios" ? "iOS" : "Android"} has no such method${near === undefined ? "" : `; it has ${near}`}: ${side === "ios" ? "calling it ends the app" : "the app is not compiled"}`,
    fix: "write the method as the specification has it",
  }),
  "component class": ({ name, near = "" }) => ({
    message: `codegenConfig gives the component ${name} to the class ${near}, which the iOS code does not have`,
    fix: "name the class that shows the component",
  }),
  "left out specification": ({ name, near = "" }) => ({
    message: `codegenConfig is for ${near} alone, and ${name} is a specification of the other kind: nothing is made of it`,
    fix: 'write "type": "all"',
  }),
  "permission alias": ({ name, near }) => ({
    message: `the plugin asks for the permissions ${name}, and its annotation has no such alias${near === undefined ? "" : `; it has ${near}`}: nothing is asked for`,
    fix: near === undefined ? "add the alias to the permissions of the annotation" : `write ${near}`,
  }),
  "named callback": ({ name, near }) => ({
    message: `the plugin waits for an answer in ${name}, and has no callback of that name${near === undefined ? "" : `; it has ${near}`}: the answer is lost`,
    fix: near === undefined ? "mark the method with @PermissionCallback or @ActivityCallback" : `write ${near}`,
  }),
  "generating plugin": ({ name, near = "" }) => ({
    message: `${name} is made by the build plugin com.facebook.react, which ${near} does not apply`,
    fix: `add apply plugin: "com.facebook.react" to ${near}`,
  }),
  "module event": ({ name, near }) => ({
    message: `the module sends ${name}, but its definition does not list the event: no script hears it`,
    fix: near === undefined ? "list it in Events(…)" : `send ${near}, which is listed, or list this one in Events(…)`,
  }),
  "view event": ({ name, near }) => ({
    message: `the definition lists the event ${name}, but the view has no dispatcher of that name: it is never sent`,
    fix: near === undefined ? "give the view an EventDispatcher of that name" : `rename ${near}: the dispatcher has the name of its event`,
  }),
  "no answer": ({ name }) => ({
    message: `${name} never answers its call: the caller waits forever`,
    fix: "answer on every way: resolve or reject, the result of the channel",
  }),
  "other answer": ({ name, near, side }) => ({
    message: `${name} returns a promise on ${side === "ios" ? "iOS" : "Android"} and a callback on ${near === "ios" ? "iOS" : "Android"}: on one side the script is called once at most`,
    fix: "give both sides the same return type",
  }),
  option: ({ name, near = "" }) => {
    const [read = "", given = ""] = near.split(" ");
    return { message: `${name} reads ${read}, which no call gives; calls give ${given}`, fix: `read ${given}` };
  },
  "event value": ({ name, near = "", side }) => {
    const [read = "", given = ""] = near.split(" ");
    return {
      message: `scripts read ${read} of the event ${name}, which ${side === "ios" ? "iOS" : "Android"} does not send; it sends ${given}`,
      fix: `send ${read}`,
    };
  },
  "code generation": ({ name, near }) => ({
    message: `${name} is made by the code generation, but ${near ?? "package.json"} has no codegenConfig`,
    fix: `add codegenConfig with name, type and jsSrcsDir to ${near ?? "package.json"}`,
  }),
};

export const halfMissing = defineRule({
  name: "native/half-missing",
  severity: "error",
  title: "A native module is only half there",
  looksAt:
    "The app's own native modules: the Swift class and methods that an RCT_EXTERN_MODULE names, the events that a module sends and those that it lists, methods that are given a promise and never look at it, those of a module of Expo and the dispatchers of its views, the classes and headers that React Native's code generation makes and native code takes; methods that a plugin of Capacitor lists, that answer no call or otherwise on the other side, and the options that they read; values that scripts read of an event; methods of Flutter's channels that never answer, or read a value by a key that no call hands over.",
  silentFor: "Apps that are not built with React Native, Expo, Capacitor or Flutter, and modules that packages bring.",
  why: "The build fails, or the module is not there, or its event ends in an error when it is first sent.",
  advice: "Use one name in both halves, and keep the specifications where the code generation looks for them.",
  examples: {
    reported: app(
      "import React\n\nclass Tide: NSObject {\n  @objc func level(_ resolve: RCTPromiseResolveBlock, rejecter reject: RCTPromiseRejectBlock) { resolve(2) }\n}\n",
    ),
    silent: app(
      "import React\n\n@objc(Tide)\nclass Tide: NSObject {\n  @objc func level(_ resolve: RCTPromiseResolveBlock, rejecter reject: RCTPromiseRejectBlock) { resolve(2) }\n}\n",
    ),
  },
  check({ app: model }) {
    return (model.code?.halves ?? []).map((half) => ({
      side: half.side,
      ...WORDS[half.what](half),
      places: [half.at],
      subject: `${half.what} ${half.name} ${half.side}`,
    }));
  },
});
