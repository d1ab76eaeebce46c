import { ANDROID_PERMISSION_PREFIX, ASKED_PERMISSIONS, HEALTH_PERMISSIONS } from "../../knowledge/android-permissions.js";
import { GUARDED_INTERFACES } from "../../knowledge/guarded-interfaces.js";
import { RECORDERS } from "../../knowledge/permission-pairs.js";
import { GUARDED_CALLS, PAGE_CAPTURE, PERMISSION_DIALOGS, type GuardedCall } from "../../knowledge/permission-requests.js";
import { targetOf, type App } from "../../model/app.js";
import type { Language, PermissionRequest, SystemName } from "../../model/code.js";
import type { Place } from "../../model/place.js";
import { namespaceIn } from "../../model/gradle.js";
import { nearest } from "../../model/suggest.js";
import { anyOf } from "../../syntax/code/any-of.js";
import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { withDeviceNames } from "./device-instances.js";
import type { SourceFile } from "./sources.js";

const wordsOf = (framework: GuardedCall["framework"]): RegExp[] =>
  GUARDED_CALLS.flatMap((call) => (call.framework === framework ? call.pattern : []));

const OF_JVM = anyOf([/[pP]ermission/, ...wordsOf("jvm"), ...wordsOf("native")]);

const OF_PAGES = anyOf([/PermissionsAndroid|getUserMedia|@capacitor\//]);

/** Words without which a file has none of it, by its language: most files are told by one of them. */
const MAY_ASK: Partial<Record<Language, (text: string) => boolean>> = {
  kotlin: OF_JVM,
  java: OF_JVM,
  javascript: OF_PAGES,
  typescript: OF_PAGES,
  tsx: OF_PAGES,
  csharp: anyOf([
    /RequestUserPermission|RequestPermissions|\bI(?:Geolocation|MediaPicker|Contacts|Connectivity|Battery|Vibration|HapticFeedback|Flashlight)\b/,
    ...wordsOf("dotnet"),
    ...wordsOf("unity"),
  ]),
};

/** What the app's own code asks the system for, each once. */
export interface GuardedRequests {
  /** By permissions of Android. */
  permissions: PermissionRequest[];
  /** What needs a text in the property list of iOS: one of the keys. */
  texts: { capability: string; keys: readonly string[]; at: Place }[];
}

/** Reads it from the sources; code for debug builds alone, and for one flavour, is left out. */
export function guardedRequests({ kind, android }: App, sources: readonly SourceFile[], views: readonly SourceFile[]): GuardedRequests {
  const target = targetOf({ android });
  const namespaces = (android?.modules ?? []).flatMap((module) => namespaceIn(module) ?? []);
  const asking = askingFunctions(sources);
  const permissions = new Map<string, PermissionRequest>();
  const texts = new Map<string, GuardedRequests["texts"][number]>();
  for (const source of sources) {
    if (!MAY_ASK[source.language]?.(source.text) || source.guards.some((guard) => guard.kind === "debug" || guard.kind === "variant"))
      continue;
    const text = withoutComments(source.text);
    for (const request of named(source, text, asking)) keep(permissions, request.names, request);
    for (const { capability, permissions: names = [], texts: keys = [], at } of [
      ...healthRecords(source, text),
      ...called(kind, source, text).filter(({ since }) => since === undefined || target >= since),
      ...captured(kind, source, text),
    ]) {
      const [android, ios] = [runsOn(source, "android"), runsOn(source, "ios")];
      if (android && names.length > 0)
        keep(permissions, names, {
          names,
          does: `uses ${capability}`,
          at,
          ...(isOfOthers(source, text, namespaces) ? { unsure: true } : {}),
        });
      if (ios && keys.length > 0) keep(texts, keys, { capability, keys, at });
    }
  }
  for (const view of views) ofNative(kind, target, view, permissions, texts);
  return { permissions: [...permissions.values()], texts: [...texts.values()] };
}

/** What code in C# for one phone calls of the platform's own interfaces. */
function ofNative(
  kind: App["kind"],
  target: number,
  view: SourceFile,
  permissions: Map<string, PermissionRequest>,
  texts: Map<string, GuardedRequests["texts"][number]>,
): void {
  if (view.guards.some((guard) => guard.kind === "debug" || guard.kind === "variant")) return;
  for (const { capability, permissions: names = [], at, since } of called(kind, view, view.text))
    if (names.length > 0 && (since === undefined || target >= since)) keep(permissions, names, { names, does: `uses ${capability}`, at });
  for (const { capability, pattern, keys } of view.language === "swift" ? GUARDED_INTERFACES : []) {
    const match = pattern.exec(view.text);
    if (match) keep(texts, keys, { capability, keys, at: view.place(match.index) });
  }
}

/** Whether a file of Kotlin or Java is of a package that has not even its beginning in common with those of the app's modules. */
function isOfOthers({ language }: SourceFile, text: string, namespaces: readonly string[]): boolean {
  if ((language !== "kotlin" && language !== "java") || namespaces.length === 0) return false;
  const own = /^\s*package\s+([\w.]+)/m.exec(text)?.[1]?.split(".").slice(0, 2).join(".");
  return own !== undefined && !namespaces.some((name) => name === own || name.startsWith(`${own}.`));
}

function keep<T>(found: Map<string, T>, names: readonly string[], one: T): void {
  const key = names.join(" ");
  if (!found.has(key)) found.set(key, one);
}

function runsOn({ side, guards }: SourceFile, one: "android" | "ios"): boolean {
  if (side !== "shared") return side === one;
  const only = guards.filter(({ kind }) => kind === "android" || kind === "ios");
  return only.length === 0 || only.some(({ kind }) => kind === one);
}

/** Functions of the app's own Kotlin and Java code that ask for the permissions which they are given, by their names. */
function askingFunctions(sources: readonly SourceFile[]): ReadonlySet<string> {
  const found = new Set<string>();
  for (const { language, text: whole } of sources) {
    if ((language !== "kotlin" && language !== "java") || !whole.includes("requestPermissions")) continue;
    const text = withoutComments(whole);
    for (const match of text.matchAll(/\brequestPermissions\s*\(\s*(?:[\w.]+\s*,\s*)?(\w+)\s*,/g)) {
      const given = match[1] as string;
      const declared = [
        ...text.slice(Math.max(0, match.index - 600), match.index).matchAll(/\b(\w{3,})\s*\(([^(){}]*)\)[^(){};]*(?:[{=]|$)/g),
      ].at(-1);
      if (declared && new RegExp(`\\b${given}\\b`).test(declared[2] ?? "")) found.add(declared[1] as string);
    }
  }
  return found;
}

/** Whether a name stands among what a call of one of some functions is given. */
function isGivenTo(functions: ReadonlySet<string>, text: string, at: number): boolean {
  if (functions.size === 0) return false;
  const before = text.slice(Math.max(0, at - 300), at);
  return [...before.matchAll(/\b(\w{3,})\s*\(/g)].some(
    (match) =>
      functions.has(match[1] as string) &&
      !/[;{}]/.test(before.slice(match.index)) &&
      closing(before, match.index + match[0].length - 1) >= before.length,
  );
}

/** Permissions by their names, in files that ask a person for them, and where they are given to a function of the app's own that does. */
function named(source: SourceFile, text: string, asking: ReadonlySet<string>): PermissionRequest[] {
  const dialog = PERMISSION_DIALOGS.find(({ languages }) => languages.includes(source.language));
  if (!dialog || !runsOn(source, "android")) return [];
  const asks = dialog.asks.test(text);
  return [...text.matchAll(dialog.names)].flatMap((match): PermissionRequest[] => {
    if (!asks && !isGivenTo(asking, text, match.index)) return [];
    const written = match[1] ?? match[2] ?? "";
    const name = ANDROID_PERMISSION_PREFIX + (/[a-z]/.test(written) ? written.replace(/(?<=[a-z])(?=[A-Z])/g, "_").toUpperCase() : written);
    if (!ASKED_PERMISSIONS.has(name) || isLookedAt(text, match.index, match.index + match[0].length, written)) return [];
    return [{ names: [name], does: `requests ${name}`, at: source.place(match.index) }];
  });
}

const CHECKED = /\bcheck\w*Permissions?\s*\([^()]*$/;
const COMPARED_BEFORE = /(?:\bequals\s*\(|[=!]==?|\bcase)\s*$/;
const COMPARED_AFTER = /^"?\s*(?:[=!]==?|->|\.equals\b|:(?!:))/;

/**
 * Whether code only looks at a permission's name: asks whether it was granted, or compares it with one that it was given. So does code that asks for
 * what its caller names: `if (name.equals("CAMERA")) requestPermissions(new String[] { CAMERA }, …)`.
 */
function isLookedAt(text: string, from: number, to: number, name: string): boolean {
  const before = text.slice(Math.max(0, from - 300), from);
  if (CHECKED.test(before) || COMPARED_BEFORE.test(before) || COMPARED_AFTER.test(text.slice(to, to + 20))) return true;
  const block = before.slice(before.lastIndexOf("}") + 1);
  const given = block.lastIndexOf(`"${name}"`);
  return given !== -1 && (COMPARED_BEFORE.test(block.slice(0, given)) || COMPARED_AFTER.test(block.slice(given + name.length + 2)));
}

/**
 * Members of React Native's list of permissions that it does not have: asking for one is refused. Source: reactnative.dev, "PermissionsAndroid"
 * (permissions that require prompting the user).
 */
export function misnamedConstants(sources: readonly SourceFile[]): SystemName[] {
  return sources.flatMap((source): SystemName[] => {
    if (source.side !== "shared" || !source.text.includes("PermissionsAndroid")) return [];
    return [...withoutComments(source.text).matchAll(/\bPermissionsAndroid\s*\.\s*PERMISSIONS\s*\.\s*([A-Z_]+)\b/g)].flatMap(
      (match): SystemName[] => {
        const name = match[1] as string;
        const near = ASKED_PERMISSIONS.has(ANDROID_PERMISSION_PREFIX + name)
          ? undefined
          : nearest(
              name,
              [...ASKED_PERMISSIONS].map((one) => one.slice(ANDROID_PERMISSION_PREFIX.length)),
            );
        return near === undefined ? [] : [{ kind: "permission constant", name, near, side: "shared", at: source.place(match.index) }];
      },
    );
  });
}

/**
 * Records of health that code asks to read or to write, by the class of a record: `HeartRateRecord` is of HEART_RATE. Those whose permission has another name
 * are left out. Source: developer.android.com, "Health Connect data types".
 */
function healthRecords(source: SourceFile, text: string): Guarded[] {
  if (!text.includes("HealthPermission")) return [];
  return [...text.matchAll(/\bget(Read|Write)Permission\s*(?:<\s*(\w+?)Record\s*>\s*\(|\(\s*(\w+?)Record\s*(?:::class|\.class))/g)].flatMap(
    (match) => {
      const record = (match[2] ?? match[3] ?? "").replace(/(?<=[a-z\d])(?=[A-Z])/g, "_").toUpperCase();
      const name = `android.permission.health.${(match[1] as string).toUpperCase()}_${record}`;
      return HEALTH_PERMISSIONS.includes(name)
        ? [{ capability: `records of health (${record})`, permissions: [name], at: source.place(match.index) }]
        : [];
    },
  );
}

type Guarded = Pick<GuardedCall, "capability" | "permissions" | "texts" | "since"> & { at: Place };

const LOOKS_WHETHER_GRANTED = /\bcheck(?:Self|Calling|CallingOrSelf)?Permission\b|\bPERMISSION_GRANTED\b|\bPermission\.Granted\b/i;

function called(kind: App["kind"], source: SourceFile, text: string): Guarded[] {
  const named = kind === "dotnet" ? withDeviceNames(text) : { text, offset: (at: number) => at };
  return GUARDED_CALLS.flatMap((call): Guarded[] => {
    const isMeant =
      (call.framework === kind || call.framework === "jvm") &&
      call.languages.includes(source.language) &&
      (call.imports === undefined || text.includes(call.imports));
    // Code that expects to be refused goes on without.
    const isReady =
      call.framework === "jvm" && (text.includes("SecurityException") || (call.asked === true && LOOKS_WHETHER_GRANTED.test(text)));
    const match = isMeant && !isReady ? call.pattern.exec(named.text) : null;
    return match ? [{ ...call, at: source.place(named.offset(match.index)) }] : [];
  });
}

/** Whether the app has films recorded, which on Android another app does. */
export function lentPurposes({ kind, dependencies }: App, sources: readonly SourceFile[]): string[] {
  const isLent =
    dependencies.some(({ name }) => RECORDERS.packages.has(name)) ||
    sources.some(({ language, text }) => kind === "dotnet" && language === "csharp" && RECORDERS.ofDotnet.test(text));
  return isLent ? [RECORDERS.text] : [];
}

/** What pages in the app's web view capture. */
function captured(kind: App["kind"], source: SourceFile, text: string): Guarded[] {
  if ((kind !== "cordova" && kind !== "capacitor") || source.side !== "shared") return [];
  return [...text.matchAll(/\bgetUserMedia\s*\(/g)].flatMap((match) => {
    const wanted = text.slice(match.index, closing(text, match.index + match[0].length - 1));
    const at = source.place(match.index);
    return PAGE_CAPTURE.flatMap(({ member, ...guarded }) => (member.test(wanted) ? [{ ...guarded, at }] : []));
  });
}
