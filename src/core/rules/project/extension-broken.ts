import type { App, ExtensionFault } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { inWords } from "../../model/suggest.js";
import { takesIn } from "../../model/xcode.js";
import { iosExample, xcodeExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (id: string) =>
  iosExample(
    {},
    {
      "Pilot.xcodeproj/project.pbxproj": xcodeExample({
        objects: `T2 = { isa = PBXNativeTarget; name = Tides; productType = "com.apple.product-type.app-extension"; productReference = R2; buildConfigurationList = L3; buildPhases = ( ); };
    R2 = { isa = PBXFileReference; path = Tides.appex; sourceTree = BUILT_PRODUCTS_DIR; };
    E1 = { isa = PBXCopyFilesBuildPhase; dstSubfolderSpec = 13; files = ( E2, ); };
    E2 = { isa = PBXBuildFile; fileRef = R2; };
    L3 = { isa = XCConfigurationList; buildConfigurations = ( C9, ); };
    C9 = { isa = XCBuildConfiguration; name = Release; buildSettings = { PRODUCT_BUNDLE_IDENTIFIER = ${id}; }; };`,
      })
        .replace("targets = ( T1, )", "targets = ( T1, T2, )")
        .replace("buildPhases = ( )", "buildPhases = ( E1, )"),
    },
  );

const WORDS: Record<ExtensionFault["what"], (fault: ExtensionFault) => { message: string; fix: string }> = {
  "not embedded": ({ target, name, near }) => ({
    message: `the extension ${target} is built and is in no app: no target copies ${name}`,
    fix: `embed ${name} in ${near ?? "the app"}`,
  }),
  "watch not embedded": ({ target, name, near }) => ({
    message: `the watch app ${target} is built and is in no app: no target copies ${name}`,
    fix: `embed ${name} in ${near ?? "the app"} (Embed Watch Content)`,
  }),
  "watch folder": ({ target, name, near }) => ({
    message: `the watch app ${target} is copied to ${name}: the phone does not find it there`,
    fix: `copy it to ${near ?? ""}`,
  }),
  "watch system": ({ target, near }) => ({
    message: `${target} is copied to where the watch's app is taken from, and is not built for the watch: it cannot be installed`,
    fix: `set SDKROOT of the target to ${near ?? ""}`,
  }),
  companion: ({ target, name, near }) => ({
    message: `the watch app ${target} says that it belongs to ${name}, and lies in ${near ?? ""}: the app cannot be installed`,
    fix: `write ${near ?? ""}`,
  }),
  "no companion": ({ target, name, near }) => ({
    message: `the watch app ${target} does not say which app it belongs to (${name}): the app cannot be installed`,
    fix: `set ${name} to the id of ${near ?? "the app"}`,
  }),
  "installed by itself": ({ target }) => ({
    message: `${target} is part of the app and is installed by itself as well (SKIP_INSTALL is NO): the archive is none of an app`,
    fix: "set SKIP_INSTALL to YES",
  }),
  "list copied": ({ target, name }) => ({
    message: `${target} copies its property list ${name} as a file too, as it lies in a folder of the target: two steps make one file, and the build stops`,
    fix: "take the file out of the target's members",
  }),
  id: ({ target, name, near }) => ({
    message: `the extension ${target} has the id ${name}, which does not begin with the app's: the app cannot be installed`,
    fix: `let it begin with ${near ?? ""}`,
  }),
  group: ({ target, name, near }) => ({
    message: `the extension ${target} is in the app group ${name}, the app is ${near === undefined ? "in none" : `in ${near}`}: they share nothing`,
    fix: "put both in one group",
  }),
  point: ({ target, name, near }) => ({
    message: `the extension ${target} names the extension point ${name}, which does not exist: the system never starts it`,
    fix: `write ${near ?? ""}`,
  }),
  "no point": ({ target }) => ({
    message: `the property list of the extension ${target} names no extension point: the app cannot be installed`,
    fix: "add NSExtension with NSExtensionPointIdentifier",
  }),
  "no class": ({ target }) => ({
    message: `the property list of the extension ${target} names no class to begin with: the system never starts it`,
    fix: "add NSExtensionPrincipalClass to NSExtension",
  }),
  class: ({ target, name, near }) => ({
    message: `the extension ${target} names the class ${name}, which its code does not have${near === undefined ? "" : `; it has ${near}`}`,
    fix: near === undefined ? "write the class" : `name ${near}, or the class ${name}`,
  }),
  version: ({ target, name, near }) => ({
    message: `the extension ${target} has ${name}, and its app has ${near ?? ""}: the store refuses the upload, or warns`,
    fix: `give it ${near ?? "the app's"}`,
  }),
  "no push": ({ target, near }) => ({
    message: `${target} changes notifications before they are shown, and ${near ?? "the app"} has no entitlement for push (aps-environment): none ever comes`,
    fix: "add aps-environment to the entitlements of the app",
  }),
  level: ({ target, name, near }) => ({
    message: `${target} runs from iOS ${name} on, and its app from ${near ?? ""}: on the systems between, notifications are shown as they were sent`,
    fix: `set IPHONEOS_DEPLOYMENT_TARGET of the extension to ${near ?? "the app's"}`,
  }),
  keychain: ({ target, name }) => ({
    message: `${target} is in the keychain group ${name}, which does not begin with the prefix of the team: it is not granted`,
    fix: `write $(AppIdentifierPrefix)${name}`,
  }),
  domain: ({ target, name }) => ({
    message: `${target} is associated with ${name}, which is not of the form service:domain: links do not open the app`,
    fix: "write applinks: and the domain alone, without https and path",
  }),
  "link filter": ({ target, name }) => ({
    message: `a filter for links in ${target} lacks the category ${name}: links do not open the app`,
    fix: `add ${name} to its category`,
  }),
};

export const extensionBroken = defineRule({
  name: "project/extension-broken",
  severity: "error",
  title: "An extension, app group or associated domain that the system does not take",
  looksAt:
    "App extensions of the Xcode project: their ids in every configuration against the app's, their versions, whether they name an extension point and a principal class, these and app groups, and whether an app embeds them; the same of an app for the watch, and the app that it names as its companion. Keychain groups without the prefix of a team. Associated domains in the entitlements of all targets or in an Expo configuration, its filters for links on Android, and the app groups that code names against those of the entitlements.",
  silentFor: "Android but for Expo; values that build settings give.",
  why: "The store or the device refuses the app, or the system never starts the extension and opens no link; nothing is told when it builds.",
  advice: "Write it as the system takes it; Xcode's Signing & Capabilities shows each target.",
  examples: { reported: app("example.maresia.tides"), silent: app("example.maresia.pilot.tides") },
  check({ app: model }) {
    return [
      ...model.extensionFaults.map((fault): RawFinding => ({
        side: fault.what === "link filter" ? "android" : "ios",
        ...WORDS[fault.what](fault),
        ...(fault.what === "version" || fault.what === "level" || fault.what === "installed by itself"
          ? { severity: "warning" as const }
          : {}),
        places: [fault.at],
        subject: `${fault.what} ${fault.target} ${fault.what === "domain" ? fault.name : ""}`,
      })),
      ...unknownGroups(model),
      ...groupsOfOthers(model),
    ];
  },
});

/** Groups that the code of an extension asks for, and that others are in: what it reads there is empty. */
function groupsOfOthers({ appGroups, code, ios, partTargets, openParts }: App): RawFinding[] {
  if (!ios || appGroups.some(({ name }) => name.includes("$"))) return [];
  const isOpen = openParts.some(({ side, part }) => side === "ios" && part === "entitlements");
  const read = partTargets.flatMap(({ target, entitlementsOpen }) => (entitlementsOpen ? [] : target));
  return [...(isOpen ? [] : [ios.target]), ...read].flatMap((target) => {
    const own = new Set(appGroups.flatMap((group) => (group.target === target.name ? group.name : [])));
    return (code?.systemNames ?? []).flatMap(({ kind, name, at }): RawFinding[] => {
      const isElsewhere = appGroups.some((group) => group.name === name);
      if (kind !== "app group" || own.has(name) || !isElsewhere || !takesIn(target, at.file)) return [];
      return [
        {
          side: "ios",
          message: `the code of ${target.name} uses the app group ${name}, and ${own.size === 0 ? "the target is in none" : `the target is in ${inWords([...own])}`}`,
          fix: `add ${name} to com.apple.security.application-groups of ${target.name}`,
          places: [at, target.at],
          subject: `group ${name} ${target.name}`,
        },
      ];
    });
  });
}

/** Groups that code asks for and that no target is in: it gets nothing. Source: Apple, "containerURL(forSecurityApplicationGroupIdentifier:)". */
function unknownGroups({ kind: framework, appGroups, code, ios }: App): RawFinding[] {
  const known = new Set(appGroups.map(({ name }) => name));
  if (!ios || (ios.generated && framework !== "dotnet") || [...known].some((name) => name.includes("$"))) return [];
  return (code?.systemNames ?? []).flatMap(({ kind, name, at }): RawFinding[] =>
    kind === "app group" && !known.has(name)
      ? [
          {
            side: "ios",
            message: `code uses the app group ${name}, but ${known.size === 0 ? "no target is in any" : `the targets are in ${inWords([...known])}`}`,
            fix: `add ${name} to com.apple.security.application-groups of each target that uses it`,
            places: [at],
            subject: `group ${name}`,
          },
        ]
      : [],
  );
}
