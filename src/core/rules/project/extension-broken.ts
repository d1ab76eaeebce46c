import type { App, ExtensionFault } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { inWords } from "../../model/suggest.js";
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
    "App extensions of the Xcode project: their ids in every configuration against the app's, their versions, whether they name an extension point and a principal class, these and app groups, and whether an app embeds them. Keychain groups without the prefix of a team. Associated domains in the entitlements of all targets or in an Expo configuration, its filters for links on Android, and the app groups that code names against those of the entitlements.",
  silentFor: "Android but for Expo; values that build settings give.",
  why: "The store or the device refuses the app, or the system never starts the extension and opens no link; nothing is told when it builds.",
  advice: "Write it as the system takes it; Xcode's Signing & Capabilities shows each target.",
  examples: { reported: app("example.maresia.tides"), silent: app("example.maresia.pilot.tides") },
  check({ app: model }) {
    return [
      ...model.extensionFaults.map((fault): RawFinding => ({
        side: fault.what === "link filter" ? "android" : "ios",
        ...WORDS[fault.what](fault),
        ...(fault.what === "version" ? { severity: "warning" as const } : {}),
        places: [fault.at],
        subject: `${fault.what} ${fault.target} ${fault.what === "domain" ? fault.name : ""}`,
      })),
      ...unknownGroups(model),
    ];
  },
});

/** Groups that code asks for and that no target is in: it gets nothing. Source: Apple, "containerURL(forSecurityApplicationGroupIdentifier:)". */
function unknownGroups({ appGroups, code, ios }: App): RawFinding[] {
  const known = new Set(appGroups.map(({ name }) => name));
  if (!ios || ios.generated || [...known].some((name) => name.includes("$"))) return [];
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
