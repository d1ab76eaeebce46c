import { samePlace, type Place } from "../../model/place.js";
import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { textOf } from "../../model/value.js";
import { isWhole } from "../../derive/whole-side.js";
import { reversedValues } from "../../derive/service-ids.js";
import { mask } from "../../needs/mask.js";
import { findingsFromWires } from "../from-wires.js";
import { iosExample, xcodeExample } from "../examples.js";
import { defineRule } from "../rule.js";

const objects = `F1 = { isa = PBXFileReference; path = Harbour.plist; sourceTree = "<group>"; };\n    B1 = { isa = PBXBuildFile; fileRef = F1; };\n    R1 = { isa = PBXResourcesBuildPhase; files = ( B1, ); };`;
const project = xcodeExample({ objects, children: ["F1"], settings: "INFOPLIST_FILE = Info.plist;" }).replace(
  "buildPhases = ( )",
  "buildPhases = ( R1, )",
);
const ios = (scheme: string) =>
  iosExample(
    {},
    {
      "Pilot.xcodeproj/project.pbxproj": project,
      "Harbour.plist":
        '<plist version="1.0"><dict>\n<key>BUNDLE_ID</key>\n<string>example.maresia.pilot</string>\n<key>CLIENT_ID</key>\n<string>42-pilot.apps.harbour.example</string>\n<key>REVERSED_CLIENT_ID</key>\n<string>example.harbour.apps.42-pilot</string>\n</dict></plist>\n',
      "Info.plist": `<plist version="1.0"><dict>\n<key>CFBundleURLTypes</key>\n<array><dict><key>CFBundleURLSchemes</key><array><string>${scheme}</string></array></dict></array>\n</dict></plist>\n`,
    },
  );

export const scheme = defineRule({
  name: "permit/scheme",
  severity: "error",
  title: "A URL scheme is missing or wrong",
  looksAt:
    "URL schemes that sheets require, literal or built from a key, and schemes that the app queries; links of a Cordova page that its configuration does not let the system open. Without a sheet: a value of a service file that is another one reversed, which is meant to be a scheme; a scheme that ends in a key with one or two wrong characters; schemes of the two sides that differ in one or two characters; a scheme on one side alone where shared code waits for links or has an address under it; schemes of other apps that code asks for, against LSApplicationQueriesSchemes and the queries of the manifest; what is no scheme.",
  why: "The other app or the browser cannot return to the app: sign-in and payment end on a page that does not close.",
  advice: "Write the scheme exactly as the vendor builds it.",
  examples: { reported: ios("pilot"), silent: ios("example.harbour.apps.42-pilot") },
  check({ app, wires }) {
    return [
      ...findingsFromWires(wires, { rule: "permit/scheme" }),
      ...findingsFromWires(wires, { kinds: ["serviceFile"], problems: ["scheme"] }),
      ...reversed(app, wires),
      ...nearlyAlike(app),
      ...comesBackOnOneSide(app),
      ...askedUnlisted(app, wires),
      ...malformed(app),
      ...app.blockedLinks.map(({ scheme: name, at, list }) => ({
        side: "shared" as const,
        severity: "warning" as const,
        message: `a page has links with ${name}, and the configuration does not let them leave the app: a tap does nothing`,
        fix: `add <allow-intent href="${name}*" /> to config.xml`,
        places: [at, list],
        subject: `link ${name}`,
      })),
      ...tails(app).filter(
        ({ places: [own] }) =>
          !wires.some(
            ({ need, state, places }) =>
              need.kind === "urlScheme" && state === "loose" && own && places.some((place) => samePlace(place, own)),
          ),
      ),
    ];
  },
});

function reversed(app: App, wires: Parameters<typeof findingsFromWires>[0]): RawFinding[] {
  const known = new Set(wires.filter(({ need }) => need.kind === "serviceFile").flatMap(({ places }) => places.map(({ file }) => file)));
  return app.serviceFiles.flatMap((file) => {
    if (file.side !== "ios" || file.read === false || known.has(file.file)) return [];
    // Schemes that cannot be worked out may well be the one.
    const schemes = app.entries.filter(({ kind, side }) => kind === "urlScheme" && side === "ios");
    if (schemes.some(({ value }) => value?.kind === "unknown")) return [];
    return reversedValues(file).flatMap(({ key, value }) => {
      if (schemes.some(({ name }) => name === value.text)) return [];
      return [
        {
          side: "ios" as const,
          message: `${key} in ${file.file} is meant to be a URL scheme, but the property list does not have it`,
          fix: `add the value of ${key} to CFBundleURLSchemes in the property list`,
          places: [value.place],
          subject: `${file.file.split("/").at(-1) ?? ""} ${key}`,
        },
      ];
    });
  });
}

/** A scheme as it may be shown: one with many digits is made from a key. */
function shown(text: string): string {
  return (text.match(/\d/g)?.length ?? 0) > 3 ? mask(text) : text;
}

/** The schemes that a side of the app takes itself, as far as they are known. */
function ownSchemes({ entries }: App, side: "android" | "ios"): Map<string, Place> {
  return new Map(
    entries.flatMap((entry) => {
      const text = textOf(entry.value) ?? entry.name;
      return entry.kind === "urlScheme" && entry.side === side && entry.by === undefined && !/^https?$|[$({]/.test(text)
        ? [[text, entry.at]]
        : [];
    }),
  );
}

/** The one pair of schemes that each side has alone and that differ in one or two characters: links that open one side do not open the other. */
function nearlyAlike(app: App): RawFinding[] {
  const [android, ios] = [ownSchemes(app, "android"), ownSchemes(app, "ios")];
  if (android.size === 0 || ios.size === 0) return onOneSide(app, android, ios);
  const [androidAlone, iosAlone] = [[...android].filter(([text]) => !ios.has(text)), [...ios].filter(([text]) => !android.has(text))];
  const pairs = androidAlone.flatMap((one) =>
    iosAlone.flatMap((other) => (one[0].length >= 6 && distance(one[0], other[0]) <= 2 ? [[one, other] as const] : [])),
  );
  const [pair, ...more] = pairs;
  // Schemes of several builds are alike.
  if (!pair || more.length > 0) return [];
  const [first, second] = pair;
  return [
    {
      severity: "warning",
      message: `the URL scheme is ${shown(first[0])} on Android and ${shown(second[0])} on iOS`,
      fix: "use one scheme on both sides",
      places: [first[1], second[1]],
      subject: "nearly alike",
    },
  ];
}

/** A scheme that shared code has in an address, so that others come back to the app by it, and that one side alone takes. */
function comesBackOnOneSide(app: App): RawFinding[] {
  const taken = (side: "android" | "ios") => app.entries.filter(({ kind, side: of }) => kind === "urlScheme" && of === side);
  const told = onOneSide(app, ownSchemes(app, "android"), ownSchemes(app, "ios"));
  return (app.code?.systemNames ?? []).flatMap(({ kind, name, at }): RawFinding[] => {
    if (kind !== "own address" || told.length > 0) return [];
    const [android, ios] = [ownSchemes(app, "android").get(name), ownSchemes(app, "ios").get(name)];
    const [lacks, stated] = android ? (["ios", android] as const) : (["android", ios] as const);
    if ((android && ios) || !stated || !app[lacks] || !isWhole({ ...app, unseenPackages: [] }, lacks)) return [];
    if (taken(lacks).some((entry) => entry.name === name || entry.value?.kind === "unknown" || /[$({]/.test(entry.name))) return [];
    return [
      {
        side: lacks,
        severity: "warning",
        message: `code has an address under ${shown(name)}:, which opens the app on ${lacks === "ios" ? "Android" : "iOS"} alone`,
        fix: `add the scheme on ${lacks === "ios" ? "iOS" : "Android"} too`,
        places: [at, stated],
        subject: `comes back ${name}`,
      },
    ];
  });
}

/** A scheme of one side, where shared code waits for links and the other side has none at all. */
function onOneSide(app: App, android: ReadonlyMap<string, Place>, ios: ReadonlyMap<string, Place>): RawFinding[] {
  const listener = app.code?.systemNames.find(({ kind, side }) => kind === "link listener" && (side === "shared" || side === "ios"));
  const [lacks, [scheme, at] = []] = ios.size === 0 ? (["ios", [...android][0]] as const) : (["android", [...ios][0]] as const);
  const has = app.entries.some(({ kind, side }) => kind === "urlScheme" && side === lacks);
  // Of what only packages could add that are not here, the app's own scheme is none.
  if (!listener || scheme === undefined || at === undefined || has || !app[lacks] || !isWhole({ ...app, unseenPackages: [] }, lacks))
    return [];
  return [
    {
      side: lacks,
      severity: "warning",
      message: `code waits for links, and ${shown(scheme)}: opens the app on ${lacks === "ios" ? "Android" : "iOS"} alone`,
      fix: `add the scheme on ${lacks === "ios" ? "iOS" : "Android"} too`,
      places: [at, listener.at],
      subject: "on one side",
    },
  ];
}

/** A scheme that ends in a key follows it when the key changes. */
function tails(app: App): RawFinding[] {
  const keys = keysOf(app);
  const findings: RawFinding[] = [];
  for (const entry of app.entries) {
    const own = textOf(entry.value) ?? entry.name;
    if (entry.kind !== "urlScheme" || entry.by !== undefined || own.length < 13 || [...keys.keys()].some((key) => own.endsWith(key)))
      continue;
    for (const [key, { name, place }] of keys) {
      const tail = own.slice(-key.length);
      const prefix = own.slice(0, own.length - key.length);
      if (!/^[A-Za-z][A-Za-z.+-]{0,20}$/.test(prefix) || tail.length !== key.length || distance(tail, key) > 2) continue;
      findings.push({
        side: entry.side,
        message: `the URL scheme ${prefix}${mask(tail)} ends in almost the value of ${name === "" ? "a key in the code" : name}, ${mask(key)}`,
        fix: `write it as ${prefix} followed by exactly the key`,
        places: [entry.value?.place ?? entry.at, place],
        subject: `${entry.side} ${prefix} ${name}`,
      });
      break;
    }
  }
  return findings;
}

/** Schemes that no list has to name. Source: Apple, "LSApplicationQueriesSchemes"; developer.android.com, "Package visibility filtering on Android". */
const OF_THE_SYSTEM =
  /^(https?|mailto|tel|telprompt|sms|facetime|facetime-audio|maps|itms|itms-apps|app-settings|file|ftp|data|about|javascript|blob|geo|market|intent)$/;

/** Values that look like keys, with where they stand. */
function keysOf(app: App): Map<string, { name: string; place: RawFinding["places"][number] }> {
  const keys = new Map<string, { name: string; place: RawFinding["places"][number] }>();
  for (const entry of app.entries) {
    const text = textOf(entry.value);
    if (
      text !== undefined &&
      entry.value &&
      entry.kind !== "urlScheme" &&
      entry.by === undefined &&
      /^[A-Za-z0-9_-]{12,60}$/.test(text) &&
      (text.match(/\d/g)?.length ?? 0) >= 6
    )
      keys.set(text, { name: entry.name, place: entry.value.place });
  }
  return keys;
}

/** Schemes of other apps that code asks for and that the lists of the sides do not name: the answer is always no. */
function askedUnlisted(app: App, wires: Parameters<typeof findingsFromWires>[0]): RawFinding[] {
  if (app.kind === "cordova" || app.kind === "unity") return [];
  const told = new Set(wires.flatMap(({ need, state, wanted }) => (need.kind === "queriedScheme" && state !== "connected" ? wanted : [])));
  const own = new Set(app.entries.flatMap(({ kind, name, value }) => (kind === "urlScheme" ? (textOf(value) ?? name) : [])));
  return (app.code?.systemNames ?? []).flatMap(({ kind, name, side, at }): RawFinding[] => {
    if (kind !== "asked scheme" || OF_THE_SYSTEM.test(name) || told.has(name)) return [];
    const sides = (side === "shared" ? (["ios", "android"] as const) : [side]).filter(
      (one) => app[one] && (isWhole(app, one) || isAlmostListed(app, one, name)),
    );
    return sides.flatMap((one): RawFinding[] => {
      const listed = app.entries.filter(({ kind: of, side: where }) => of === "queriedScheme" && where === one);
      if (listed.some((entry) => entry.name.toLowerCase() === name) || own.has(name)) return [];
      if (one === "android" && app.entries.some(({ kind: of, name: what }) => of === "permission" && what.endsWith(".QUERY_ALL_PACKAGES")))
        return [];
      return [
        {
          side: one,
          severity: one === "ios" ? "error" : "warning",
          message: `code asks whether an app opens ${name}:, but ${one === "ios" ? "LSApplicationQueriesSchemes does not list it" : "the manifest's queries do not name it"}: the answer is always no`,
          fix: one === "ios" ? `add ${name} to LSApplicationQueriesSchemes` : `add an intent with android:scheme="${name}" to <queries>`,
          places: [at],
          subject: `asked ${one} ${name}`,
        },
      ];
    });
  });
}

/** Whether the list has a name that is one letter off: nothing else is meant to be there. */
function isAlmostListed({ entries }: App, side: "android" | "ios", scheme: string): boolean {
  return entries.some(
    ({ kind, side: of, name }) =>
      kind === "queriedScheme" && of === side && scheme.length > 3 && distance(name.toLowerCase(), scheme) === 1,
  );
}

/** What is more than a scheme, or none: no address with it can be opened. Source: RFC 3986, 3.1. Underscores, which it does not allow, are passed. */
function malformed({ entries }: App): RawFinding[] {
  return entries.flatMap(({ kind, side, name, value, by, at }): RawFinding[] => {
    const text = textOf(value) ?? (value === undefined ? name : "");
    if (kind !== "urlScheme" || side !== "ios" || by !== undefined || text === "" || /[$({]/.test(text)) return [];
    if (/^[A-Za-z][\w+.-]*$/.test(text)) return [];
    return [
      {
        side,
        message: `${shown(text)} is no URL scheme: it is a letter, then letters, digits, + - and .`,
        fix: "write the scheme alone, without :// and what follows",
        places: [value?.place ?? at],
        subject: "malformed scheme",
      },
    ];
  });
}
