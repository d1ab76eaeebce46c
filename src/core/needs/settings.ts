import type { EntryKind, SideName } from "../model/facts.js";
import { mainText, textIn, type NeedKind } from "../model/sheet.js";
import { reason, type Reason } from "../model/reason.js";
import { possibleTexts, textOf } from "../model/value.js";
import { entriesNamed, onlyInSomeVariants, placesOf, type NeedOnSide, type WireResult } from "./context.js";
import type { NeedDefinition } from "./definition.js";
import { TEXT, VALUE, WORDS, optional, table, type TableForm } from "./form.js";

/** A setting by its name, and by its value where that matters; the name alone is the short form. */
const SETTING = table({ name: WORDS, value: optional(VALUE) }, { short: TEXT });

interface SettingKind {
  title: string;
  side?: "android" | "ios";
  form?: TableForm;
  /** Kinds of entry that it is. */
  entries: readonly EntryKind[];
  /** How the name of the entry is made from the need. */
  name?: (subject: NeedOnSide) => string;
  /** The file that it belongs into; nothing where an app has no such file. */
  home: (subject: NeedOnSide) => string | undefined;
  /** Why the app has none. */
  without: Reason;
}

/** A kind of need for something that a file of settings states by name, and perhaps with a value. */
function settingNeed({ title, side, form = SETTING, entries, name, home, without }: SettingKind): NeedDefinition {
  return {
    title,
    ...(side ? { side } : {}),
    form,
    main: "name",
    rules: ["project/setup-missing"],
    check(subject) {
      const key = name?.(subject) ?? mainText(subject.need.value, "name");
      const value = textIn(subject.need.value, "value");
      const wanted = value === undefined ? key : `${key} = ${value}`;
      if (side && subject.side !== side) return { state: "unneeded", wanted };
      const file = home(subject);
      if (file === undefined) return { state: "unneeded", wanted, why: without };
      return checkSetting(subject, { entries, key, value, wanted, file });
    },
  };
}

interface AskedSetting {
  entries: readonly EntryKind[];
  key: string;
  value: string | undefined;
  wanted: string;
  file: string;
}

function checkSetting({ app, side }: NeedOnSide, { entries, key, value, wanted, file }: AskedSetting): WireResult {
  // A variable that has to be given and is not stands there without a text.
  const here = entries
    .flatMap((kind) => entriesNamed(app, side, kind, key).here)
    .filter((entry) => textOf(entry.value) !== "" || value === "");
  const [first] = here;
  const open = openIn(app.openConfig, side);
  if (!first)
    return open
      ? { state: "unknown", wanted, why: reason("configuration-program") }
      : {
          state: "missing",
          wanted,
          fix: `add ${wanted} to ${file}`,
          // Nothing tells whether a file is there that has no entry.
          ...(app.entries.some((entry) => entries.includes(entry.kind) && entry.at.file === file)
            ? { places: [{ file, line: 1, column: 1 }] }
            : {}),
        };
  if (value !== undefined && !here.some((entry) => possibleTexts(entry.value).some((text) => sameValue(text, value)))) {
    if (here.some((entry) => entry.value?.kind === "unknown"))
      return { state: "unknown", wanted, why: reason("value-missing"), places: placesOf(here) };
    return {
      state: "loose",
      wanted,
      found: possibleTexts(first.value).join(" or ") || "there without a value",
      fix: `set it to ${value} in ${first.at.file}`,
      places: placesOf([first]),
    };
  }
  return (
    onlyInSomeVariants(app, side, here, wanted, "add it for all variants") ?? {
      state: "connected",
      wanted,
      found: value ?? (possibleTexts(first.value).join(" or ") || "there"),
      places: placesOf(here),
    }
  );
}

function openIn(open: readonly SideName[], side: SideName): boolean {
  return side === "shared" ? open.length > 0 : open.includes(side);
}

/** Texts, but whole numbers as such (`1.0` is `1`; `1.10` is not `1.1`, as it may be a version), and switches whatever their case. */
export function sameValue(found: string, wanted: string): boolean {
  return plainValue(found) === plainValue(wanted);
}

function plainValue(text: string): string {
  const plain = text.trim();
  if (/^(true|false)$/i.test(plain)) return plain.toLowerCase();
  return plain.replace(/^(-?\d+)\.0+$/, "$1");
}

/** Kinds of need that are settings. */
export const SETTING_NEEDS = {
  gradleProperty: settingNeed({
    title: "Gradle property",
    side: "android",
    entries: ["gradleProperty"],
    home: ({ app }) =>
      app.android && !app.android.generated
        ? `${app.android.build.folder === "" ? "" : `${app.android.build.folder}/`}gradle.properties`
        : undefined,
    without: reason("no-gradle-build"),
  }),
  resource: settingNeed({
    title: "string resource",
    side: "android",
    entries: ["string"],
    home: ({ app }) =>
      app.manifests.length > 0 && app.android ? `${app.android.module.folder}/src/main/res/values/strings.xml` : undefined,
    without: reason("resources-missing"),
  }),
  podfileCall: settingNeed({
    title: "call in the Podfile",
    side: "ios",
    entries: ["podfileCall"],
    home: ({ app }) => app.ios?.pods?.file,
    without: reason("no-podfile"),
  }),
  option: settingNeed({
    title: "option",
    form: table({ of: WORDS, name: WORDS, value: optional(VALUE) }),
    entries: ["option", "variable"],
    name: ({ need }) => `${textIn(need.value, "of") ?? ""} ${textIn(need.value, "name") ?? ""}`,
    home: ({ app }) => app.optionsIn,
    without: reason("no-package-options"),
  }),
  configPlugin: settingNeed({
    title: "config plugin",
    entries: ["configPlugin"],
    home: ({ app }) => (app.kind === "expo" && (app.android ?? app.ios)?.generated ? app.optionsIn : undefined),
    without: reason("no-generating-configuration"),
  }),
} satisfies Partial<Record<NeedKind, NeedDefinition>>;
