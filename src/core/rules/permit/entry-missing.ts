import { brokenFileOf } from "../../derive/incomplete.js";
import { isWhole } from "../../derive/whole-side.js";
import { APPLE_CAPABILITIES, type AppleCapability } from "../../knowledge/apple-capabilities.js";
import { SHARED_INTERFACES } from "../../knowledge/shared-interfaces.js";
import { targetOf, type App } from "../../model/app.js";
import type { SystemName } from "../../model/code.js";
import type { Entry } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import { inWords, nearest } from "../../model/suggest.js";
import { textOf } from "../../model/value.js";
import { takesIn } from "../../model/xcode.js";
import type { Wire } from "../../needs/wire.js";
import { findingsFromWires } from "../from-wires.js";
import { quaymapIos, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: ios, backgroundMode: location");

export const entryMissing = defineRule({
  name: "permit/entry-missing",
  severity: "error",
  title: "An entry that an SDK or the app's code needs is missing",
  looksAt:
    "Components, meta-data and features of the manifest, entries of the property list, entitlements and background modes, against what sheets require. Background modes, entitlements and identifiers of background tasks that the app's own code for iOS cannot do without, in every configuration that is not for debugging; entitlements that the code of its extensions and of its app for the watch needs, in their own. Entitlements that builds for debugging have and a release with entitlements has not. Services of the local network, merchants, containers of iCloud, kinds of tags and purposes of the exact location that code names, against the lists of the target; in C# as in Swift and Objective-C. Other apps that code of Android asks for by their name, against the queries of the manifest. What the property list has to say for interfaces of React Native and Flutter that shared code uses.",
  silentFor: "Code of packages; apps whose property list or entitlements a tool writes.",
  why: "The SDK or the code is there but part of it never runs: no message arrives, no file is shared, its settings do not reach it.",
  advice: "Add the entry to the file named, for all variants that ship.",
  examples: {
    reported: { ...quaymapIos(), ...sheet },
    silent: { ...quaymapIos("  <key>UIBackgroundModes</key>\n  <array>\n    <string>location</string>\n  </array>\n"), ...sheet },
  },
  check({ app, wires }) {
    return [
      ...findingsFromWires(wires, { rule: "permit/entry-missing" }),
      ...ownCode(app, wires),
      ...partsCode(app),
      ...unseenApps(app),
      ...inDebugAlone(app),
      ...sharedCode(app),
    ];
  },
});

/** What the property list has to say for calls of the framework's own interfaces in shared code. */
function sharedCode(app: App): RawFinding[] {
  const { ios, kind, code, entries } = app;
  if (!ios || brokenFileOf(app, "ios") !== undefined) return [];
  // The configuration of Expo alone gives what is asked for here.
  if (ios.generated ? kind !== "expo" || app.openConfig.includes("ios") : !isWhole(app, "ios")) return [];
  return (code?.sharedCalls ?? []).flatMap(({ name, at }): RawFinding[] => {
    const known = SHARED_INTERFACES.find((one) => one.name === name && one.kinds.includes(kind));
    if (!known || !("plist" in known.needs)) return [];
    const { key, right, orAbsent, fix } = known.needs.plist;
    const here = entries.filter((entry) => entry.side === "ios" && (entry.name === key || entry.name === `INFOPLIST_KEY_${key}`));
    const isRight = ({ value }: Entry): boolean => value?.kind !== "known" || right.test(value.text);
    if (here.length === 0 ? orAbsent : here.some(isRight)) return [];
    const stated = here.map(({ value }) => textOf(value) ?? "").join(", ");
    return [
      {
        side: "ios",
        severity: "warning",
        message: `shared code uses ${name}, but ${ios.generated ? `by the configuration ${key} is ${stated}` : here.length === 0 ? `the property list has no ${key}` : `the property list says ${key} ${stated}`}: on iOS ${known.otherwise}`,
        fix,
        places: [at, ...here.map((entry) => entry.at)],
        subject: `${name} ${key}`,
      },
    ];
  });
}

/** A capability that was added to the list of the builds that developers run. */
function inDebugAlone({ debugEntitlements, openParts }: App): RawFinding[] {
  if (openParts.some(({ part }) => part === "entitlements")) return [];
  return debugEntitlements.map(({ name, at }) => ({
    side: "ios",
    severity: "warning",
    message: `the entitlement ${name} is in the builds for debugging alone: what is shipped goes without it`,
    fix: `add ${name} to the entitlements of the release`,
    places: [at],
    subject: `entitlement ${name} in debug`,
  }));
}

/** Source: developer.android.com, "Package visibility filtering on Android" (for apps that target 30 or higher). */
function unseenApps({ android, code, entries }: App): RawFinding[] {
  if (
    !android ||
    !(targetOf({ android }) >= 30) ||
    entries.some(({ kind, name }) => kind === "permission" && name.endsWith(".QUERY_ALL_PACKAGES"))
  )
    return [];
  return (code?.androidNames ?? []).flatMap(({ kind, name, near, at }): RawFinding[] =>
    kind !== "package"
      ? []
      : [
          {
            side: "android",
            severity: "warning",
            message: `code asks for the app ${name}, but the manifest's queries do not name it: the system says that it is not there`,
            fix: near === undefined ? `add <package android:name="${name}" /> to <queries>` : `write ${near}, which the queries name`,
            places: [at],
            subject: `package ${name}`,
          },
        ],
  );
}

/** Frameworks whose iOS project people keep themselves. */
const KEPT: ReadonlySet<App["kind"]> = new Set<App["kind"]>(["native", "react-native", "expo", "flutter", "capacitor", "dotnet"]);

/** What the app's own code for iOS cannot do without, and what no list of the target has. */
function ownCode(app: App, wires: readonly Wire[]): RawFinding[] {
  const { ios, code } = app;
  if (
    !ios ||
    (ios.generated && app.kind !== "dotnet") ||
    !code ||
    !KEPT.has(app.kind) ||
    app.propertyLists.length === 0 ||
    !isWhole(app, "ios")
  )
    return [];
  if (brokenFileOf(app, "ios") !== undefined || app.configPlugins.some(({ open }) => open.includes("ios"))) return [];
  return code.systemNames.flatMap((name) => {
    // Projects of .NET take in what lies in their folders.
    if (app.kind !== "dotnet" && !takesIn(ios.target, name.at.file)) return [];
    if (name.kind === "background task") return backgroundTask(app, name);
    const list = Object.hasOwn(LISTS, name.kind) ? LISTS[name.kind] : undefined;
    if (list) return unlisted(app, name, list);
    const capability = name.kind === "capability" ? APPLE_CAPABILITIES.find(({ does }) => does === name.name) : undefined;
    return capability ? capabilityOf(app, capability, name, wires) : [];
  });
}

function capabilityOf(app: App, { does, needs, otherwise }: AppleCapability, { at }: SystemName, wires: readonly Wire[]): RawFinding[] {
  const [kind, wanted] = entryOf(needs);
  if (kind === "entitlement" && app.openParts.some(({ part }) => part === "entitlements")) return [];
  if (kind === "backgroundMode" && app.entries.some(({ name }) => name === "INFOPLIST_KEY_UIBackgroundModes")) return [];
  // A sheet asks for it too.
  if (wires.some(({ need, state, wanted: of }) => need.kind === kind && of.includes(wanted) && state === "missing")) return [];
  const here = app.entries.filter(
    (entry) =>
      entry.side === "ios" &&
      ((entry.kind === kind && entry.name === wanted && !isNo(entry)) || (kind === "plist" && entry.name === `INFOPLIST_KEY_${wanted}`)),
  );
  const without = configurationsWithout(app, here);
  if (without === undefined) return [];
  const title = TITLES[kind](wanted);
  return [
    {
      side: "ios",
      message: `the app's code ${does}, but ${without === "" ? "" : `in ${without} `}${title} is missing: ${otherwise}`,
      fix: FIXES[kind](wanted),
      places: [at, ...here.map((entry) => entry.at)],
      subject: `${kind} ${wanted}`,
    },
  ];
}

type Kind = "entitlement" | "backgroundMode" | "plist";

function entryOf(needs: AppleCapability["needs"]): [kind: Kind, name: string] {
  if ("entitlement" in needs) return ["entitlement", needs.entitlement];
  return "plist" in needs ? ["plist", needs.plist] : ["backgroundMode", needs.backgroundMode];
}

const TITLES: Record<Kind, (name: string) => string> = {
  entitlement: (name) => `the entitlement ${name}`,
  backgroundMode: (name) => `the background mode ${name}`,
  plist: (name) => `${name} in the property list`,
};

const FIXES: Record<Kind, (name: string) => string> = {
  entitlement: (name) => `add ${name} to the entitlements of the target`,
  backgroundMode: (name) => `add ${name} to UIBackgroundModes in the property list`,
  plist: (name) => `add ${name} with the value YES to the property list`,
};

/** An entry that says no. */
const isNo = ({ kind, value }: Entry): boolean => kind === "plist" && /^(false|no|0)$/i.test(textOf(value) ?? "");

/** What the code of parts of the app (its extensions, its app for the watch) cannot do without, and their own lists do not have. */
function partsCode(app: App): RawFinding[] {
  const { code, partTargets } = app;
  if (!code || partTargets.length === 0 || brokenFileOf(app, "ios") !== undefined) return [];
  return partTargets.flatMap(({ target, entries, entitlementsOpen }) =>
    (entitlementsOpen ? [] : code.systemNames).flatMap(({ kind, name, at }): RawFinding[] => {
      const capability = kind === "capability" ? APPLE_CAPABILITIES.find(({ does }) => does === name) : undefined;
      // Extensions are not registered for messages, and ask for time by the app.
      if (!capability || !("entitlement" in capability.needs) || capability.needs.entitlement === "aps-environment") return [];
      const wanted = capability.needs.entitlement;
      if (!takesIn(target, at.file) || entries.some((entry) => entry.kind === "entitlement" && entry.name === wanted)) return [];
      return [
        {
          side: "ios",
          message: `the code of ${target.name} ${capability.does}, but its entitlements lack ${wanted}: ${capability.otherwise}`,
          fix: `add ${wanted} to the entitlements of ${target.name}`,
          places: [at, target.at],
          subject: `entitlement ${wanted} ${target.name}`,
        },
      ];
    }),
  );
}

/** The configurations, in words, that an entry is missing in and that are not for debugging; "" for all of them, `undefined` for none. */
function configurationsWithout({ ios }: App, here: readonly Entry[]): string | undefined {
  if (here.length === 0) return "";
  if (here.some(({ variant }) => variant === undefined)) return undefined;
  const without = (ios?.target.configurations ?? []).filter(
    ({ name }) => !/debug|develop/i.test(name) && !here.some(({ variant }) => variant === name),
  );
  return without.length === 0 ? undefined : inWords(without.map(({ name }) => name));
}

interface NameList {
  kind: Kind;
  /** The entitlement, or the key of the property list, whose items are names. */
  of: string;
  /** The names are keys, with a text each. */
  keys?: true;
  /** What stands in it for the name. */
  wanted?: string;
  /** Only what is almost in the list: others may be meant otherwise. */
  almost?: true;
  does: (name: string) => string;
  otherwise: string;
}

/** Lists that have to have what code names. */
const LISTS: Partial<Record<SystemName["kind"], NameList>> = {
  "bonjour service": {
    kind: "plist",
    of: "NSBonjourServices",
    does: (name) => `looks for ${name} in the local network`,
    otherwise: "the system finds none",
  },
  "accessory protocol": {
    kind: "plist",
    of: "UISupportedExternalAccessoryProtocols",
    does: (name) => `talks to accessories by ${name}`,
    otherwise: "no session begins",
  },
  "activity type": {
    kind: "plist",
    of: "NSUserActivityTypes",
    almost: true,
    does: (name) => `hands over the activity ${name}`,
    otherwise: "no other device takes it up",
  },
  "accuracy purpose": {
    kind: "plist",
    of: "NSLocationTemporaryUsageDescriptionDictionary",
    keys: true,
    does: (name) => `asks for the exact location with the purpose ${name}`,
    otherwise: "the request fails",
  },
  merchant: {
    kind: "entitlement",
    of: "com.apple.developer.in-app-payments",
    does: (name) => `takes payments for ${name}`,
    otherwise: "the payment sheet does not show",
  },
  container: {
    kind: "entitlement",
    of: "com.apple.developer.icloud-container-identifiers",
    does: (name) => `keeps data in ${name}`,
    otherwise: "the system ends it there",
  },
  "tag session": {
    kind: "entitlement",
    of: "com.apple.developer.nfc.readersession.formats",
    wanted: "TAG",
    does: () => "reads tags by NFCTagReaderSession",
    otherwise: "no session begins",
  },
};

function unlisted(app: App, { name, at }: SystemName, { kind, of, wanted = name, keys, almost, does, otherwise }: NameList): RawFinding[] {
  const entries = app.entries.filter((entry) => entry.side === "ios" && entry.kind === kind);
  const listed =
    kind === "plist" ? entries.filter((entry) => entry.name.startsWith(`${of}.`)) : entries.filter((entry) => entry.name === of);
  // Without the entitlement the code is told by what it does; a build setting may give the whole list.
  if (kind === "entitlement" ? listed.length === 0 : entries.some((entry) => entry.name === of && entry.value !== undefined)) return [];
  const has = ({ name: key, value }: Entry): boolean =>
    keys ? key === `${of}.${wanted}` : value?.kind !== "known" || value.text.includes("$") || value.text.replace(/\.$/, "") === wanted;
  const near =
    almost &&
    nearest(
      wanted,
      listed.flatMap(({ value }) => textOf(value) ?? []),
    );
  if (listed.some(has) || (almost && near === undefined) || app.openParts.some(({ part }) => part === "entitlements")) return [];
  return [
    {
      side: "ios",
      message: `the app's code ${does(name)}, and ${of} does not list ${wanted}: ${otherwise}`,
      fix: near === undefined ? `add ${wanted} to ${of}` : `write ${near}, which is listed`,
      places: [at, ...listed.map((entry) => entry.at)],
      subject: `${of} ${wanted}`,
    },
  ];
}

const TASKS = "BGTaskSchedulerPermittedIdentifiers";

/** Source: Apple, "BGTaskScheduler", register(forTaskWithIdentifier:using:launchHandler:): an identifier that the list does not have. */
function backgroundTask(app: App, { name, at }: SystemName): RawFinding[] {
  const listed = app.entries.filter((entry) => entry.side === "ios" && entry.kind === "backgroundTask");
  // A value of a setting, or a pattern.
  if (listed.some((entry) => entry.name === name || entry.value?.kind !== "known" || entry.name.includes("*"))) return [];
  return [
    {
      side: "ios",
      message: `the app's code registers the background task ${name}, which ${TASKS} does not list: the system ends it there`,
      fix: `add ${name} to ${TASKS} in the property list`,
      places: [at, ...listed.map((entry) => entry.at)],
      subject: `task ${name}`,
    },
  ];
}
