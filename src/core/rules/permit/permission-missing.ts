import { targetOf, type App } from "../../model/app.js";
import type { Entry } from "../../model/facts.js";
import { broughtPermissions } from "../../knowledge/component-permissions.js";
import { PERMISSION_SINCE } from "../../knowledge/android-permissions.js";
import { brokenFileOf } from "../../derive/incomplete.js";
import { isWhole } from "../../derive/whole-side.js";
import { homeOf } from "../../needs/context.js";
import type { Wire } from "../../needs/wire.js";
import type { RawFinding } from "../../model/finding.js";
import type { Place } from "../../model/place.js";
import { hasLostModules, type GradleDependency } from "../../model/gradle.js";
import { textOf } from "../../model/value.js";
import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: android, permission: android.permission.ACCESS_FINE_LOCATION");

export const permissionMissing = defineRule({
  name: "permit/permission-missing",
  severity: "error",
  title: "A permission that an SDK or the app's code needs is missing",
  looksAt:
    "The permissions in the app's manifests, its modules' and those that installed libraries bring, against what sheets require; and against those that the app's own code requests or cannot do without; permissions that are requested only up to a level at which they do not exist yet; in a Flutter or React Native app whose code goes to the network, the permission for it in the main manifest, and in each Capacitor app; the fine location without the coarse one; calls of the platform that need a permission which is granted with the installation, or which a person grants, in Kotlin, Java and C#; records of health, and permissions that took the place of older ones which devices below still ask for.",
  why: "The call that needs it fails on the device, often without a message.",
  advice: "Add the permission to the main manifest.",
  examples: {
    reported: { ...quaymapAndroid(), ...sheet },
    silent: {
      ...quaymapAndroid({
        manifest: ["COARSE", "FINE"]
          .map((one) => `  <uses-permission android:name="android.permission.ACCESS_${one}_LOCATION" />\n`)
          .join(""),
      }),
      ...sheet,
    },
  },
  check({ wires, app }) {
    return [
      ...findingsFromWires(wires, { rule: "permit/permission-missing" }),
      ...networkWithoutPermission(app),
      ...requestedByCode(app, wires),
      ...neverGranted(app),
      ...fineAlone(app),
      ...beforeTheNew(app),
    ];
  },
});

/** Source: developer.android.com, "Request location permissions" (from target level 31 on the coarse one has to be requested with the fine one). */
function fineAlone({ android, entries }: App): RawFinding[] {
  const [coarse, fine] = ["COARSE", "FINE"].map((name) => `android.permission.ACCESS_${name}_LOCATION`);
  const of = (wanted: string | undefined) =>
    entries.filter(({ kind, side, name, removed }) => kind === "permission" && side === "android" && name === wanted && !removed);
  const [own] = of(fine).filter(({ by, variant }) => by === undefined && variant === undefined);
  if (!own || own.limits !== undefined || of(coarse).length > 0 || !(targetOf({ android }) >= 31)) return [];
  return [
    {
      side: "android",
      severity: "note",
      message: `${own.name} is requested without ${coarse ?? ""}: from target level 31 on the system ignores a request for it alone`,
      fix: `add <uses-permission android:name="${coarse ?? ""}" /> beside it`,
      places: [own.at],
      subject: "fine location alone",
    },
  ];
}

/**
 * Permissions that took the place of older ones, which devices below that level still ask for. Sources: developer.android.com, "Bluetooth permissions"
 * (BLUETOOTH and, for who looks for devices, BLUETOOTH_ADMIN up to level 30), "Access media files from shared storage" (READ_EXTERNAL_STORAGE up to level 32).
 */
const SUCCESSORS: readonly { names: readonly string[]; since: number; before: string; also?: string; perhaps?: true }[] = [
  { names: ["BLUETOOTH_CONNECT", "BLUETOOTH_SCAN", "BLUETOOTH_ADVERTISE"], since: 31, before: "BLUETOOTH" },
  { names: ["BLUETOOTH_SCAN", "BLUETOOTH_ADVERTISE"], since: 31, before: "BLUETOOTH_ADMIN", perhaps: true },
  {
    names: ["READ_MEDIA_IMAGES", "READ_MEDIA_VIDEO", "READ_MEDIA_AUDIO"],
    since: 33,
    before: "READ_EXTERNAL_STORAGE",
    also: "WRITE_EXTERNAL_STORAGE",
  },
];

/** A new permission whose older one is missing, or ends before the new one begins. */
function beforeTheNew({ kind: framework, android, entries }: App): RawFinding[] {
  const lowest = Number(textOf(android?.effective.minSdk));
  return SUCCESSORS.flatMap(({ names, since, before, also, perhaps }): RawFinding[] => {
    const of = (wanted: readonly (string | undefined)[]): Entry[] =>
      entries.filter(
        ({ kind, side, name, removed }) =>
          kind === "permission" && side === "android" && !removed && wanted.some((one) => name === `android.permission.${one ?? ""}`),
      );
    const [own] = of(names).filter(({ by, variant }) => by === undefined && variant === undefined);
    const older = of([before, also]);
    const highest = older.map(({ limits }) => (limits?.highest === undefined ? Infinity : Number(limits.highest)));
    // Of what only some need, and where packages of shared code bring their own, it is told where it is asked for and ends too early.
    if (
      !own ||
      ((perhaps || framework !== "native") && older.length === 0) ||
      !(lowest < since) ||
      highest.some((level) => !(level < since - 1))
    )
      return [];
    const [first] = older;
    const old = `android.permission.${before}`;
    return [
      {
        side: "android",
        severity: "warning",
        message: first
          ? `${old} is requested up to level ${first.limits?.highest ?? ""}, and ${own.name} exists from ${since} on: on the devices between nothing is granted`
          : `${own.name} exists from level ${since} on, and the app runs from ${lowest}: on older devices it needs ${old}, which no manifest declares`,
        fix: `add <uses-permission android:name="${old}" android:maxSdkVersion="${since - 1}" />`,
        places: first ? [first.at, own.at] : [own.at],
        subject: `${old} before`,
      },
    ];
  });
}

const INTERNET = "android.permission.INTERNET";

/**
 * Flutter's template asks for the network in the manifests of debug and profile builds alone. Told only where nothing else can bring the
 * permission. Source: docs.flutter.dev, "Networking" (Android), "Build and release an Android app" (app manifest).
 */
function networkWithoutPermission(app: App): RawFinding[] {
  if (app.kind === "capacitor") return pagesWithoutPermission(app);
  const network = app.code?.network;
  const [manifest] = app.manifests;
  if ((app.kind !== "flutter" && app.kind !== "react-native") || !app.android || !network || manifest === undefined) return [];
  const main = app.manifests.find((file) => file.includes("/main/")) ?? manifest;
  const permissions = app.entries.filter(({ kind, side, name }) => kind === "permission" && side === "android" && name === INTERNET);
  // Only what is asked for in debug builds shows that the release lacks it: packages of the other framework may bring it.
  if (app.kind === "react-native" && permissions.length === 0) return withoutPermission(app, main, network);
  if (app.kind === "react-native" && !permissions.every(({ variant }) => /debug/i.test(variant ?? ""))) return [];
  const inAll = permissions.some(({ variant, removed }) => !removed && (variant === undefined || /release$/i.test(variant)));
  // Binaries from registries may bring it: those that plugins name, and those of a plugin that is not here.
  const closed = app.dependencies.every(
    ({ side, platform, test, ecosystem, nativeUnknown, name }) =>
      side === "ios" ||
      platform ||
      test ||
      (ecosystem === "pub" && nativeUnknown !== true && !app.packageNeeds.some(({ by, ecosystem: of }) => by === name && of === "maven")),
  );
  if (inAll || (app.kind === "flutter" && !closed) || app.android.module.dependencies.some(isForeign)) return [];
  return [
    {
      side: "android",
      message: `${network.what} goes to the network, but the main manifest does not request ${INTERNET}: it fails in release builds`,
      fix: `add <uses-permission android:name="${INTERNET}" /> to ${main}`,
      places: [network.at, { file: main, line: 1, column: 1 }],
      subject: INTERNET,
    },
  ];
}

/** No manifest that is here has it; one of a package that is not here, or of its libraries, may. */
function withoutPermission(app: App, main: string, network: { what: string; at: Place }): RawFinding[] {
  if (app.android?.generated) return [];
  return [
    {
      side: "android",
      severity: "warning",
      message: `${network.what} goes to the network, and no manifest that is here requests ${INTERNET}`,
      fix: `add <uses-permission android:name="${INTERNET}" /> to ${main}`,
      places: [network.at, { file: main, line: 1, column: 1 }],
      subject: INTERNET,
    },
  ];
}

/**
 * The web view of Capacitor serves the app's own pages under an address, which Android refuses to an app without the permission; the framework's library
 * does not bring it. Sources: the manifests of @capacitor/android 4 to 8, read 2026-12-01; capacitorjs.com, "Setting Permissions" (Android).
 */
function pagesWithoutPermission({ android, entries, manifests }: App): RawFinding[] {
  const [main] = manifests;
  if (!android || android.generated || main === undefined) return [];
  if (
    entries.some(
      ({ kind, side, name, removed, variant }) =>
        kind === "permission" && side === "android" && name === INTERNET && !removed && !/debug/i.test(variant ?? ""),
    )
  )
    return [];
  return [
    {
      side: "android",
      severity: "warning",
      message: `no manifest that is here requests ${INTERNET}: the app shows none of its pages`,
      fix: `add <uses-permission android:name="${INTERNET}" /> to ${main}`,
      places: [{ file: main, line: 1, column: 1 }],
      subject: INTERNET,
    },
  ];
}

/** A package that may bring permissions: those of AndroidX and of Kotlin do not bring the one for the network. */
function isForeign({ kind, group, configuration }: GradleDependency): boolean {
  return (
    kind === "module" &&
    !/^(androidx\.(?!media3|car|health|privacysandbox)|org\.jetbrains)/.test(group) &&
    !/desugaring|^test|^androidTest|^debug/i.test(configuration)
  );
}

/**
 * What code requests and no manifest declares is denied without a question. Source: developer.android.com, "Request runtime permissions".
 */
function requestedByCode(app: App, wires: readonly Wire[]): RawFinding[] {
  if (!app.android || !isWhole(app, "android") || brokenFileOf(app, "android") !== undefined) return [];
  const main = app.manifests.find((file) => file.includes("/main/")) ?? homeOf(app, "android", "manifest");
  const told = new Set(wires.flatMap(({ need, state, wanted }) => (need.kind === "permission" && state !== "connected" ? wanted : [])));
  const there = new Map<string, Entry[]>();
  for (const entry of app.entries)
    if (entry.kind === "permission" && entry.side === "android") there.set(entry.name, [...(there.get(entry.name) ?? []), entry]);
  // A module that was not found may declare any, and a library from a registry may bring what it needs.
  if (app.android && hasLostModules(app.android.build, app.android.modules)) return [];
  const open = app.dependencies.some(
    ({ ecosystem, side, platform, test, name }) =>
      (ecosystem === "maven" || ecosystem === "nuget") &&
      side !== "ios" &&
      !platform &&
      !test &&
      !app.graph?.packages.some((known) => known.name === name),
  );
  const brought = broughtPermissions(app);
  // eslint-disable-next-line complexity -- the words for each way in which a permission is missing
  return (app.code?.permissionRequests ?? []).flatMap(({ names, does, unsure, at }): RawFinding[] => {
    if (names.some((name) => told.has(name) || app.editorPermissions.includes(name) || brought.has(name))) return [];
    const declared = names.flatMap((name) => there.get(name) ?? []);
    const usable = declared.filter(({ removed, variant }) => !removed && !/debug/i.test(variant ?? ""));
    const [name = ""] = names;
    if (usable.length > 0) return [];
    const [taken] = declared;
    return [
      {
        side: "android",
        ...((open || unsure) && !taken ? { severity: "warning" as const } : {}),
        message: `the app's code ${does}, but ${taken?.removed ? "a merge marker takes the permission out" : taken ? `only the ${taken.variant ?? "debug"} manifest declares it` : `no manifest declares ${does.endsWith(name) ? "it" : name}`}: ${does.endsWith(name) ? "the system denies it" : "the call fails"}`,
        fix: taken?.removed
          ? `remove the marker from ${taken.at.file}`
          : `add <uses-permission android:name="${name}" /> to ${main}${open && !taken ? ", unless a library declares it" : ""}`,
        places: [taken?.removed ? taken.at : { file: main, line: 1, column: 1 }, at],
        subject: name,
        ...(taken?.removed || !app.manifests.includes(main) ? {} : { quickFix: [{ do: "permission", file: main, name }] }),
      },
    ];
  });
}

/** Permissions that the manifest asks for up to a level of the system at which they do not exist yet. */
function neverGranted({ entries }: App): RawFinding[] {
  return entries.flatMap(({ kind, side, name, by, removed, limits, at }): RawFinding[] => {
    const since = PERMISSION_SINCE[name];
    const highest = Number(limits?.highest);
    if (kind !== "permission" || side !== "android" || by !== undefined || removed || since === undefined || !(highest < since)) return [];
    return [
      {
        side,
        message: `${name} is requested up to level ${highest}, but exists from ${since} on: nobody is granted it`,
        fix: "remove android:maxSdkVersion, or the permission",
        places: [at],
        subject: `${name} ${highest}`,
      },
    ];
  });
}
