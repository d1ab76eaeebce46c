import { brokenFileOf } from "../../derive/incomplete.js";
import { SHARED_INTERFACES } from "../../knowledge/shared-interfaces.js";
import type { App } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { isWhole } from "../../derive/whole-side.js";
import { ASSOCIATED_DOMAINS } from "../../knowledge/extension-points.js";
import { textOf } from "../../model/value.js";
import { baseName } from "../../model/paths.js";
import type { PackageKey } from "../../model/sheet.js";
import type { Sheet } from "../../model/sheet.js";
import { codeName } from "../../needs/code-names.js";
import { presenceOf } from "../../derive/presence.js";
import { androidBlock, androidExample, iosExample, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (podfile: string) => ({
  ...Object.fromEntries(
    Object.entries(androidExample(`${androidBlock()}dependencies {\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n}\n`)).map(
      ([file, text]) => [`android/${file}`, text],
    ),
  ),
  ...iosExample({}, { "ios/Podfile": `platform :ios, '15.0'\ntarget 'Pilot' do\n${podfile}end\n` }, "ios/"),
  ...quaymapSheet(),
});

/** Packages by which an SDK comes to each side. */
const OF_SIDE: Record<"android" | "ios", PackageKey[]> = { android: ["maven"], ios: ["cocoapods", "swiftpm", "carthage"] };

export const oneSided = defineRule({
  name: "parity/one-sided",
  severity: "warning",
  title: "An SDK is on one side only",
  looksAt:
    "SDKs whose sheet has packages for both sides, in apps with both sides; calls that a sheet lists under use, in the native code of one side only; Cordova plugins for one of the phones that shared code calls without asking, and interfaces of React Native, Flutter, Capacitor and Cordova that are for one of them; files that come in a pair for the two sides (x.android.json, x.ios.json); domains whose links open a hybrid app on one side, where the other takes none. Without a sheet nothing tells that an SDK exists for the other side.",
  silentFor: "Apps of one side only.",
  why: "A feature was added on one side and forgotten on the other, or removed from one side only.",
  advice: "Add it on the other side, or list the SDK in enredo.yaml (mayDiffer: { oneSided: [name] }).",
  examples: { reported: app("  pod 'TollbuoyKit', '3.1.0'\n"), silent: app("  pod 'QuaymapSDK', '4.2.0'\n") },
  check({ app: model, sheets, settings }) {
    if (!model.android || !model.ios) return [];
    return [
      ...sheets.flatMap((sheet) => oneSidedSdk(model, sheet, settings.oneSided)),
      ...sheets.flatMap((sheet) => oneSidedFeatures(model, sheet, settings.oneSided)),
      ...halfPairs(model),
      ...oneSidedPlugins(model, settings.oneSided),
      ...oneSidedInterfaces(model),
      ...oneSidedLinks(model, settings.oneSided),
    ];
  },
});

/** Domains whose links open the app on one side, where the other takes no links of any domain. Only of apps with code for both. */
function oneSidedLinks(app: App, meant: readonly string[]): RawFinding[] {
  const own = app.entries.filter(({ by, variant, removed }) => by === undefined && variant === undefined && !removed);
  const android = own.flatMap(({ kind, side, name, value, at }) =>
    kind === "linkHost" && side === "android" ? [{ host: textOf(value) ?? name, at }] : [],
  );
  const domains = own.filter(({ kind, side, name }) => kind === "entitlement" && side === "ios" && name === ASSOCIATED_DOMAINS);
  const ios = domains.flatMap(({ value, at }) => {
    const host = /^applinks:(?:\*\.)?([^?]+)/.exec(textOf(value) ?? "")?.[1];
    return host === undefined ? [] : [{ host, at }];
  });
  // Any domain of a side that lacks these, also one of a package or for other things than links, says that it was thought of.
  const lacks = domains.length === 0 ? "ios" : "android";
  const [link] = lacks === "ios" ? android : ios;
  const isThought = lacks === "android" && app.entries.some(({ kind }) => kind === "linkHost");
  if (!app.shared || !link || isThought || /[$({*]/.test(link.host) || meant.includes(link.host)) return [];
  if (!isWhole({ ...app, unseenPackages: [] }, lacks)) return [];
  return [
    {
      side: lacks,
      severity: "note",
      message: `links to ${link.host} open the app on ${lacks === "ios" ? "Android" : "iOS"} alone`,
      fix: `${lacks === "ios" ? `add applinks:${link.host} to the associated domains` : `add an intent filter for https://${link.host}`}, or list ${link.host} under mayDiffer.oneSided in enredo.yaml`,
      places: [link.at],
      subject: `links ${lacks}`,
    },
  ];
}

/** Plugins that are for one of the phones alone, where shared code calls them on both. */
function oneSidedPlugins({ code }: App, meant: readonly string[]): RawFinding[] {
  return (code?.oneSidedCalls ?? []).flatMap(({ package: name, sdk, lacks, name: called, declared, at }) =>
    meant.includes(sdk)
      ? []
      : [
          {
            side: lacks,
            sdk,
            message: `${name} has nothing for ${lacks === "ios" ? "iOS" : "Android"}, but the shared code calls ${called} without checking the platform`,
            fix: "check the platform first, or use a plugin for both",
            places: [at, declared],
            subject: `plugin ${name} ${lacks}`,
          },
        ],
  );
}

/** Interfaces of the framework that are for one of the phones alone. */
function oneSidedInterfaces({ kind, code }: App): RawFinding[] {
  return (code?.sharedCalls ?? []).flatMap(({ name, at }): RawFinding[] => {
    const known = SHARED_INTERFACES.find((one) => one.name === name && one.kinds.includes(kind));
    if (!known || !("phone" in known.needs)) return [];
    const [own, other] = known.needs.phone === "ios" ? ["iOS", "Android"] : ["Android", "iOS"];
    return [
      {
        side: known.needs.phone === "ios" ? "android" : "ios",
        message: `code for both phones uses ${name}, which is for ${own} alone, and does not check the platform: on ${other} ${known.otherwise}`,
        fix: `check the platform first, or do something else on ${other}`,
        places: [at],
        subject: `interface ${name}`,
      },
    ];
  });
}

function oneSidedSdk(app: App, sheet: Sheet, meant: readonly string[]): RawFinding[] {
  if (meant.includes(sheet.sdk) || !(["android", "ios"] as const).every((side) => existsFor(sheet, side))) return [];
  const android = presenceOf(app, sheet, "android");
  const ios = presenceOf(app, sheet, "ios");
  const here = android ?? ios;
  if ((android && ios) || !here) return [];
  // Linking that a setting switches off is reported as that.
  if (app.linking.some(({ sdk, off }) => sdk === sheet.sdk && off !== undefined)) return [];
  // A package of shared code that is not installed may bring the other side.
  if (here.packages.some(({ nativeUnknown }) => nativeUnknown)) return [];
  if (brokenFileOf(app, android ? "ios" : "android") !== undefined) return [];
  const [side, other] = android ? ["Android", "iOS"] : ["iOS", "Android"];
  return [
    {
      side: android ? "ios" : "android",
      sdk: sheet.sdk,
      message: `${sheet.sdk} is on ${side} only; it exists for ${other}, and nothing says that this is intended`,
      fix: `add it on ${other}, or list ${sheet.sdk} under mayDiffer.oneSided in enredo.yaml`,
      places: here.packages.flatMap(({ places }) => places.slice(0, 1)),
      subject: `${sheet.sdk} ${side}`,
    },
  ];
}

/** Whether an SDK has a package for a side: one of the side's own, or one for several platforms of which the sheet tells needs there. */
function existsFor(sheet: Sheet, side: "android" | "ios"): boolean {
  return (
    OF_SIDE[side].some((key) => sheet.packages.has(key)) ||
    (sheet.packages.has("nuget") && sheet.needs.some(({ on }) => on === side || on === "both"))
  );
}

/** Calls that a sheet lists under use for both sides, and that the native code of one side makes only. */
function oneSidedFeatures(app: App, sheet: Sheet, meant: readonly string[]): RawFinding[] {
  const { code } = app;
  if (!code || meant.includes(sheet.sdk) || app.kind !== "native" || !presenceOf(app, sheet, "android") || !presenceOf(app, sheet, "ios"))
    return [];
  if (
    (["android", "ios"] as const).some(
      (side) => brokenFileOf(app, side) !== undefined || !code.files.some((files) => files.side === side && files.searched > 0),
    )
  )
    return [];
  return sheet.needs.flatMap((need): RawFinding[] => {
    const names = { android: codeName(need.value, "android"), ios: codeName(need.value, "ios") };
    if (need.kind !== "use" || need.on !== "both" || names.android === undefined || names.ios === undefined) return [];
    const calls = code.calls.filter(
      ({ sdk, kind, name }) => sdk === sheet.sdk && kind === "use" && (name === names.android || name === names.ios),
    );
    const [first] = calls;
    if (!first || calls.some(({ side }) => side !== first.side) || (first.side !== "android" && first.side !== "ios")) return [];
    const other = first.side === "android" ? "ios" : "android";
    const title = other === "ios" ? "iOS" : "Android";
    return [
      {
        side: other,
        sdk: sheet.sdk,
        message: `${first.callee} of ${sheet.sdk} is called on ${other === "ios" ? "Android" : "iOS"} only; the ${title} code does not call ${names[other] ?? ""}`,
        fix: `call it on ${title} too, or list ${sheet.sdk} under mayDiffer.oneSided in enredo.yaml`,
        places: [first.at],
        subject: `${sheet.sdk} use ${names.android} ${first.side}`,
      },
    ];
  });
}

function halfPairs(app: App): RawFinding[] {
  const halves = app.namedFiles.filter(({ file }) => /[._-](android|ios)\.\w+$/i.test(file));
  const half = (file: string): string =>
    baseName(file)
      .toLowerCase()
      .replace(/[._-](android|ios)(\.\w+)$/, "$2");
  return halves.flatMap(({ file, side }) => {
    if (side === "shared" || halves.some((other) => other.side !== side && half(other.file) === half(file))) return [];
    const missing = side === "android" ? "ios" : "android";
    return [
      {
        side: missing,
        message: `${file} is for ${side === "ios" ? "iOS" : "Android"}, but there is no such file for ${missing === "ios" ? "iOS" : "Android"}`,
        fix: `add ${baseName(file).replace(/(android|ios)(\.\w+)$/i, `${missing}$2`)}, or remove the remaining one`,
        places: [{ file, line: 1, column: 1 }],
        subject: half(file),
      },
    ];
  });
}
