import { findingsFromWires } from "../from-wires.js";
import { quaymapIos, quaymapSheet } from "../examples.js";
import { isForDevelopment, type App } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { textOf } from "../../model/value.js";
import { brokenFileOf } from "../../derive/incomplete.js";
import { isWhole } from "../../derive/whole-side.js";
import { homeOf } from "../../needs/context.js";
import type { Wire } from "../../needs/wire.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: ios, purposeText: NSLocationWhenInUseUsageDescription");

export const purposeMissing = defineRule({
  name: "permit/purpose-missing",
  severity: "error",
  title: "A purpose text is missing or empty",
  looksAt:
    "The purpose texts in the property lists of all configurations and in the languages of InfoPlist.strings, against what sheets require and against the protected APIs that code uses which certainly goes into the app: files of the shipped target, shared code, installed packages by the source files of their podspecs and manifests, and frameworks by the symbols that they import. Code under a preprocessor's condition, and parts of a pod that are not installed, do not count.",
  why: "The system terminates the app when it requests the resource, and the store rejects it.",
  advice: "Say in one sentence, in the reader's language, what the app uses the resource for.",
  examples: {
    reported: { ...quaymapIos(), ...sheet },
    silent: { ...quaymapIos("  <key>NSLocationWhenInUseUsageDescription</key>\n  <string>Shows where the ferry is.</string>\n"), ...sheet },
  },
  check({ app, wires }) {
    return [
      ...findingsFromWires(wires, { rule: "permit/purpose-missing" }),
      ...missingForUses(app, wires),
      ...missingInParts(app),
      ...emptyTexts(app),
    ];
  },
});

/** Texts that the app for the watch needs in its own list. Source: developer.apple.com, "NSHealthShareUsageDescription" and others (watchOS). */
function missingInParts(app: App): RawFinding[] {
  const { partTargets, partUses } = app;
  // A text that seems to be missing may stand in a file that could not be read.
  if (brokenFileOf(app, "ios") !== undefined) return [];
  return partUses.flatMap(({ target: name, capability, keys, perhaps, at }): RawFinding[] => {
    const part = partTargets.find(({ target }) => target.name === name);
    const [key = ""] = keys;
    const isThere = part?.entries.some((entry) => entry.kind === "purposeText" && keys.includes(entry.name));
    if (!part || isThere || perhaps) return [];
    const [list] = part.propertyLists;
    return [
      {
        side: "ios",
        message: `the code of ${name} uses ${capability}, but its property list has no ${key}: the system ends the app on the watch`,
        fix: `add ${key} to the property list of ${name}, with a sentence saying what it is used for`,
        places: [...(list === undefined ? [] : [{ file: list, line: 1, column: 1 }]), at],
        subject: `${name} ${key}`,
      },
    ];
  });
}

/** Texts that are there and say nothing in one of the app's languages. */
function emptyTexts({ emptyTexts: texts }: App): RawFinding[] {
  return texts.map(({ key, language, at }) => ({
    side: "ios",
    message: `${key} is empty in the language ${language}`,
    fix: "write the sentence in that language, or remove the line",
    places: [at],
    subject: `${language} ${key}`,
  }));
}

/** Texts that code needs which uses a guarded interface; those of which a sheet's need was told are left out. */
function missingForUses(app: App, wires: readonly Wire[]): RawFinding[] {
  // A text that seems to be missing may stand in a file that could not be read.
  const { unseenPackages } = app;
  // Of the app's own use it is told all the same where only packages that are not here could write the text.
  const whole = isWhole(app, "ios");
  if (!(whole || isWhole({ ...app, unseenPackages: [] }, "ios")) || brokenFileOf(app, "ios") !== undefined) return [];
  const texts = app.entries.filter(
    ({ kind, side, value, removed }) => kind === "purposeText" && side === "ios" && !removed && (textOf(value) ?? "?").trim() !== "",
  );
  // What builds for development alone have is not shipped.
  const filled = new Set(texts.filter(({ variant }) => !isForDevelopment(variant)).map(({ name }) => name));
  const told = new Set(wires.flatMap(({ need, state, wanted }) => (need.kind === "purposeText" && state !== "connected" ? wanted : [])));
  const missing = app.guardedUses.filter(({ keys }) => !keys.some((key) => filled.has(key) || told.has(key)));
  // A text that serves for several uses of one package is asked for once.
  const first = missing.filter(
    (use) => !missing.some((other) => other.by === use.by && other !== use && use.keys.slice(1).includes(other.keys[0] ?? "")),
  );
  const home = homeOf(app, "ios", "plist");
  return first
    .filter(({ by }) => whole || by === undefined)
    .map(({ capability, keys: [key = ""], by, sdk, perhaps, at }) => ({
      side: "ios",
      sdk,
      ...(perhaps ? { severity: "note" as const } : whole ? {} : { severity: "warning" as const }),
      message: perhaps
        ? `${by === undefined ? "the app's own code" : by} can request ${capability}, but the property list has no ${key}`
        : `${by === undefined ? "the app's own code" : by} uses ${capability}, but the property list has no ${key}: ${by === undefined ? "the system ends the app, or " : ""}the store rejects the upload`,
      fix: `add ${key} to ${home}, with a sentence saying what it is used for${whole ? "" : `, unless ${unseenPackages[0]?.name ?? "a package"} writes it: its files are not here`}`,
      places: [{ file: home, line: 1, column: 1 }, at],
      subject: `${by ?? ""} ${key}`,
    }));
}
