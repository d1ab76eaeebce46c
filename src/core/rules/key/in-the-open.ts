import type { App } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { looksLikeToken } from "../../knowledge/key-shapes.js";
import { isPlaceholderText } from "../../knowledge/placeholder-texts.js";
import { baseName } from "../../model/paths.js";
import { textIn, type Sheet } from "../../model/sheet.js";
import { textOf } from "../../model/value.js";
import { isNowhere, keyEntries } from "../../needs/keys.js";
import { mask } from "../../needs/mask.js";
import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: android, key: { name: uploadToken, secret: true, in: [ buildConfig: UPLOAD_TOKEN ] }");
const android = (value: string): string => `  defaultConfig {\n    buildConfigField "String", "UPLOAD_TOKEN", ${value}\n  }\n`;

export const inTheOpen = defineRule({
  name: "key/in-the-open",
  severity: "warning",
  title: "A secret is in the repository in plain text",
  looksAt:
    "Values that a sheet marks as secret, in files that version control does not leave out; values of the shape of a key that the sheet lets stand nowhere, anywhere; variables that Expo builds into the app, and values that native projects build in, whose names say that they are secret. They are printed masked.",
  why: "Anyone who can read the repository, or open the built app, has the secret; it stays in the history after it is removed.",
  advice: "Read the value from the environment or from a file that is not committed, and have the vendor issue a new one.",
  examples: {
    reported: { ...quaymapAndroid({ android: android('"\\"up-7f3a90c2\\""') }), ...sheet },
    silent: { ...quaymapAndroid({ android: android('System.getenv("UPLOAD_TOKEN")') }), ...sheet },
  },
  check({ app, sheets, wires }) {
    const exposed = findingsFromWires(wires, { kinds: ["key"], problems: ["exposed"] });
    const found = [
      ...exposed.map((finding) => ({ ...finding, severity: "error" as const })),
      ...committed(app, sheets),
      ...builtIn(app),
      ...signingPasswords(app),
    ];
    const told = new Set(found.flatMap(({ places }) => places.map(({ file, line }) => `${file}:${line}`)));
    return [...found, ...inBinary(app).filter(({ places }) => places.every(({ file, line }) => !told.has(`${file}:${line}`)))];
  },
});

/** Variables that the framework builds into the app by their prefix, and whose name says that they are nobody's to read. */
const SECRET_NAME = /(^|_)(SECRET|PRIVATE_KEY|PASSWORD)(_KEY|_TOKEN|_VALUE)?$/i;
const PUBLIC_SECRET = /^EXPO_PUBLIC_(?:\w+_)?(?:SECRET|PRIVATE_KEY|PASSWORD)(?:_\w+)?$/;

/** Source: docs.expo.dev, "Environment variables in Expo" (do not store sensitive information in EXPO_PUBLIC_ variables). */
function builtIn({ kind, entries }: App): RawFinding[] {
  if (kind !== "expo") return [];
  return entries.flatMap(({ kind: of, name, value, at }): RawFinding[] => {
    const text = textOf(value) ?? "";
    if (of !== "env" || !PUBLIC_SECRET.test(name) || text.length < 8 || isPlaceholderText(text)) return [];
    return [
      {
        side: "shared",
        message: `${name} is built into the app, where everybody can read it: ${mask(text)}`,
        fix: "keep it on a server; what only builds need has no EXPO_PUBLIC_ in its name",
        places: [at],
        subject: `public ${name}`,
      },
    ];
  });
}

/** What native projects build into the app under a name which says that nobody is to read it, with a value that looks like a token. */
function inBinary({ entries, leftOutOfGit }: App): RawFinding[] {
  const told = new Set<string>();
  return entries.flatMap(({ kind, side, name, by, value, at }): RawFinding[] => {
    const text = textOf(value) ?? "";
    if (
      by !== undefined ||
      !/^(buildConfig|string|plist|metaData)$/.test(kind) ||
      !SECRET_NAME.test(name.replace(/([a-z])([A-Z])/g, "$1_$2"))
    )
      return [];
    if (told.has(name) || isPlaceholderText(text) || !looksLikeToken(text) || leftOutOfGit.has(baseName(at.file))) return [];
    told.add(name);
    return [
      {
        side,
        severity: "warning",
        message: `${name} is built into the app, where everybody can read it: ${mask(text)}`,
        fix: "keep it on a server, and have a new one issued",
        places: [at],
        subject: `built in ${name}`,
      },
    ];
  });
}

/** Passwords of release keystores that stand in a committed script. The one of the keystore for debugging is known to everybody. */
function signingPasswords({ android, leftOutOfGit }: App): RawFinding[] {
  const { module } = android ?? {};
  if (!module || android?.generated) return [];
  return module.settings.flatMap(({ block, name, values }): RawFinding[] => {
    const [value] = values;
    const text = textOf(value) ?? "";
    if (!/^signingConfigs\.(?!debug$)\w+$/.test(block) || !/^(store|key)Password$/.test(name) || !value) return [];
    const { file } = value.place;
    if (text.trim() === "" || text === "android" || isPlaceholderText(text)) return [];
    if (leftOutOfGit.has(baseName(file)) || /(^|\/)local\.properties$|^\.\./.test(file)) return [];
    return [
      {
        side: "android",
        severity: "warning",
        message: `${name} of ${block} is in the repository in plain text: ${mask(text)}`,
        fix: "read it from the environment or from a file that is not committed",
        places: [value.place],
        subject: `signing ${name}`,
      },
    ];
  });
}

function committed(app: App, sheets: readonly Sheet[]): RawFinding[] {
  return sheets.flatMap((sheet_) =>
    sheet_.needs.flatMap((need) => {
      if (need.kind !== "key" || isNowhere(need) || textIn(need.value, "secret") !== "true" || !app.sheets.includes(sheet_.sdk)) return [];
      return (["android", "ios"] as const).flatMap((side) => {
        if (need.on !== side && need.on !== "both") return [];
        const open = keyEntries(app, sheet_, need, side).entries.filter((entry) => {
          const text = textOf(entry.value) ?? "";
          const file = entry.value?.place.file ?? entry.at.file;
          return (
            text.trim() !== "" &&
            !isPlaceholderText(text) &&
            !app.leftOutOfGit.has(baseName(file)) &&
            !/(^|\/)local\.properties$/.test(file)
          );
        });
        const [first] = open;
        if (!first) return [];
        return [
          {
            side: first.side === "shared" ? ("shared" as const) : side,
            sdk: sheet_.sdk,
            message: `${sheet_.sdk}: a secret is in the repository in plain text: ${mask(textOf(first.value) ?? "")}`,
            fix: "read it from the environment or from a file that is not committed",
            places: open.map(({ value, at }) => value?.place ?? at),
            subject: `${sheet_.sdk} ${first.kind} ${first.name}`,
          },
        ];
      });
    }),
  );
}
