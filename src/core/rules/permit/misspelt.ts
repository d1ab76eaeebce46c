import { distance } from "fastest-levenshtein";
import { ANDROID_PERMISSION_PREFIX, ANDROID_PERMISSIONS, HEALTH_PERMISSIONS } from "../../knowledge/android-permissions.js";
import { GRADLE_PROPERTIES } from "../../knowledge/known-names.js";
import { misspelling } from "../../model/suggest.js";
import { MANIFEST_ELEMENTS } from "../../knowledge/manifest-elements.js";
import { BACKGROUND_MODES, PLIST_KEYS, PURPOSE_KEYS, TRANSPORT_KEYS } from "../../knowledge/purpose-keys.js";
import type { RawFinding } from "../../model/finding.js";
import type { SideName } from "../../model/facts.js";
import type { Place } from "../../model/place.js";
import { isInstalled, isWithin, join } from "../../model/paths.js";
import { textOf } from "../../model/value.js";
import { quaymapAndroid } from "../examples.js";
import { defineRule } from "../rule.js";
import type { App } from "../../model/app.js";

/** Source: developer.apple.com, "APS Environment Entitlement". */
const APS_ENVIRONMENTS: readonly string[] = ["development", "production"];

const permission = (name: string): string => `  <uses-permission android:name="${name}" />\n`;

export const misspelt = defineRule({
  name: "permit/misspelt",
  severity: "error",
  title: "A misspelt name",
  looksAt:
    "Permissions in the platform's own namespace, purpose texts and further keys of the property list, background modes, keys of transport security, elements of the app's own manifests, actions and categories of intent filters, features of devices, names of meta-data that the system looks for and permissions of services that it binds, words of attributes; names of platforms that scripts compare with; preferences, platforms and plugins in the configuration of a Cordova app. Names that a kind of file knows, where one is almost one of them: keys of package.json, pubspec.yaml, the configurations of Expo, of its modules and of Capacitor, the manifest and assemblies of Unity; elements and attributes of manifests, of network settings, of Cordova's configuration and plugins, of lists for the trimmer and of native packages; blocks, settings, configurations, properties and repositories of Gradle builds, packages of the platform, the address of Gradle; entitlements; properties, items, platforms and conditions of .NET projects; commands of Podfiles, attributes of specifications, build settings of Xcode; marks of Unity's templates. All of them are one or two letters from a name on the lists, or the same in other letters. A permission in a namespace of its own is left alone, and so is what the files ask for by its own name.",
  why: "The platforms ignore unknown names without a message: the permission is not requested, the text is not shown.",
  advice: "Use the suggested name.",
  examples: {
    reported: quaymapAndroid({ manifest: permission("android.permission.ACCESS_FINE_LOCATON") }),
    silent: quaymapAndroid({
      manifest: permission("android.permission.ACCESS_FINE_LOCATION") + permission("example.maresia.permission.CAMRA"),
    }),
  },
  // eslint-disable-next-line complexity -- one case for each kind of name
  check({ app }) {
    const findings: RawFinding[] = [];
    const seen = new Set<string>();
    const report = (side: SideName, what: string, name: string, right: string, at: Place): void => {
      const key = `${at.file}:${at.line}:${at.column}`;
      if (seen.has(key)) return;
      seen.add(key);
      findings.push({
        side,
        message: `the ${what} ${name} does not exist; ${right} does`,
        fix: `write ${right}`,
        places: [at],
        subject: `${what} ${name}`,
        // An element's name stands at its end too.
        ...(what === "element" ? {} : { quickFix: [{ do: "replace" as const, at, from: name, to: right }] }),
      });
    };
    for (const { kind, name, value, by, at } of app.entries) {
      if (by !== undefined && !isOwn(app, at)) continue;
      if (kind === "gradleProperty") {
        const right = misspelling(name, GRADLE_PROPERTIES);
        if (right !== undefined) report("android", "property", name, right, at);
      } else if (kind === "permission") {
        const right = rightPermission(name);
        if (right !== undefined) report("android", "permission", name, right, at);
      } else if (kind === "purposeText" || (kind === "plist" && !name.includes("."))) {
        // Long names leave room for a word that is not there.
        const right =
          nearest(name, PURPOSE_KEYS, name.endsWith("UsageDescription") && name.length > 24 ? 4 : 2) ??
          nearest(name, PLIST_KEYS, name.length > 20 ? 3 : 1);
        if (right !== undefined) report("ios", "key", name, right, at);
      } else if (kind === "plist" && name.startsWith("NSAppTransportSecurity.")) {
        const own = name.slice(name.lastIndexOf(".") + 1);
        const right = /[A-Z]/.test(own) ? nearest(own, TRANSPORT_KEYS, 2) : undefined;
        if (right !== undefined) report("ios", "key", own, right, at);
      } else if (kind === "entitlement" && name === "aps-environment") {
        const text = textOf(value) ?? "";
        const right = nearest(text, APS_ENVIRONMENTS, 3);
        if (right !== undefined) report("ios", "push environment", text, right, value?.place ?? at);
      } else if (kind === "backgroundMode" && !/[$(]/.test(name)) {
        const right = nearest(name, BACKGROUND_MODES, 2);
        if (right !== undefined) report("ios", "background mode", name, right, at);
      }
    }
    for (const { kind, name, near, side, at } of app.code?.systemNames ?? [])
      if (near !== undefined && (kind === "permission constant" || kind === "platform name"))
        report(side, kind === "platform name" ? "platform" : "permission", name, near, at);
    for (const { what, name, right, side, at } of app.misspellings) report(side, what, name, right, at);
    reportElements(app, report);
    return findings;
  },
});

/** Whether what a module or a package says stands in a file of the repository: others cannot be mended there. */
function isOwn({ kind, path }: App, { file }: Place): boolean {
  return !isInstalled(file) && !/^\.\.|!\//.test(file) && !(kind === "cordova" && isWithin(file, join(path, "plugins")));
}

/** Elements of the manifest that do not exist. */
function reportElements(app: App, report: (side: SideName, what: string, name: string, right: string, at: Place) => void): void {
  for (const { name, at } of app.elements) {
    if (name.includes(":")) continue;
    const right = name.length < 5 ? undefined : nearest(name, MANIFEST_ELEMENTS, name.length < 8 ? 1 : 2);
    if (right !== undefined) report("android", "element", name, right, at);
  }
}

function rightPermission(name: string): string | undefined {
  if (/^android\.permission\.\w+\./.test(name)) return misspelling(name, HEALTH_PERMISSIONS);
  const dot = name.lastIndexOf(".");
  const prefix = name.slice(0, dot + 1);
  const own = name.slice(dot + 1);
  // Only names that are meant to be the platform's: its prefix, or the prefix with a letter wrong.
  if (
    prefix !== ANDROID_PERMISSION_PREFIX &&
    (distance(prefix.toLowerCase(), ANDROID_PERMISSION_PREFIX) > 2 || !ANDROID_PERMISSIONS.includes(own.toUpperCase()))
  )
    return undefined;
  if (prefix === ANDROID_PERMISSION_PREFIX && ANDROID_PERMISSIONS.includes(own)) return undefined;
  const right = ANDROID_PERMISSIONS.includes(own)
    ? own
    : ANDROID_PERMISSIONS.includes(own.toUpperCase())
      ? own.toUpperCase()
      : nearest(own, ANDROID_PERMISSIONS, own.length < 8 ? 1 : 2);
  return right === undefined ? undefined : ANDROID_PERMISSION_PREFIX + right;
}

/** The known name that is at most so many letters away; a known name is near nothing. */
function nearest(name: string, known: readonly string[], most: number): string | undefined {
  if (known.includes(name)) return undefined;
  let best: string | undefined;
  let least = most + 1;
  for (const candidate of known) {
    if (Math.abs(candidate.length - name.length) > most) continue;
    // Wrong case is one mistake, however many letters it takes.
    const apart = candidate.toLowerCase() === name.toLowerCase() ? 1 : distance(candidate, name);
    if (apart < least) {
      least = apart;
      best = candidate;
    }
  }
  return best;
}
