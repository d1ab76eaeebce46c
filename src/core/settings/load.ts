import type { FileTree } from "../files/tree.js";
import { LEVELS, type LevelName } from "../model/facts.js";
import { suggestion } from "../model/suggest.js";
import { at, entriesOf, itemsOf, placeOf, textAt, textsOf, valueAt, type Data } from "../syntax/data.js";
import { Source } from "../syntax/source.js";
import { readYaml } from "../syntax/yaml.js";
import type { Severity } from "../model/finding.js";
import { noSettings, type Policy, type Settings } from "./settings.js";
import type { InputProblem } from "./validate.js";

const SETTINGS_FILES = ["enredo.yaml", "enredo.yml"];

/** Something wrong in the settings file. */
export type SettingsProblem = InputProblem;

export interface LoadedSettings {
  settings: Settings;
  problems: SettingsProblem[];
}

/** Finds the settings file at the root of the tree. */
export function findSettings(tree: FileTree): string | undefined {
  return SETTINGS_FILES.find((file) => tree.isFile(file));
}

/**
 * Reads and validates a settings file. What is wrong is reported with its line; what is right still counts.
 * `ruleNames` are the rules that severities and acceptances may name.
 */
export async function loadSettings(file: string, text: string, ruleNames: readonly string[]): Promise<LoadedSettings> {
  const settings: Settings = { ...noSettings(), file };
  const { root, source, problems: syntax } = readYaml(new Source(file, text));
  const problems: SettingsProblem[] = syntax.map(({ message, place }) => ({
    message: `the settings file is ${message}`,
    fix: "fix the YAML at this line",
    place,
  }));
  if (!root || (root.kind === "scalar" && root.value === null)) return { settings, problems };
  if (root.kind !== "map")
    return {
      settings,
      problems: [
        ...problems,
        {
          message: "the settings file has no settings: keys are expected",
          fix: "write keys such as accept: or severity:",
          place: source.place(0),
        },
      ],
    };

  // The validator is slow to load: only where there is something to validate.
  const [{ validateData }, { SettingsShape }] = await Promise.all([import("./validate.js"), import("./shape.js")]);
  problems.push(...validateData(root, SettingsShape));
  readSeverities(root, ruleNames, settings, problems);
  settings.ignore = textsOf(at(root, "ignore"));
  for (const item of itemsOf(at(root, "pair"))) {
    const android = valueAt(item, "android");
    const ios = valueAt(item, "ios");
    if (android?.kind === "known" && ios?.kind === "known")
      settings.pair.push({
        name: textAt(item, "name"),
        android: android.text,
        ios: ios.text,
        at: { android: android.place, ios: ios.place },
      });
  }
  for (const [name, { value }] of entriesOf(at(root, "floors"))) {
    if ((LEVELS as readonly string[]).includes(name) && value.kind === "scalar")
      settings.floors.set(name as LevelName, { value: String(value.value), place: placeOf(value) });
  }
  if (textAt(root, "mayDiffer", "ids") === "true") settings.idsMayDiffer = true;
  settings.versionsMayDiffer = textsOf(at(root, "mayDiffer", "versions"));
  settings.oneSided = textsOf(at(root, "mayDiffer", "oneSided"));
  readAccept(root, ruleNames, settings, problems);
  settings.policy = readPolicy(at(root, "policy"), ruleNames, problems);
  return { settings, problems };
}

function readSeverities(root: Data, ruleNames: readonly string[], settings: Settings, problems: SettingsProblem[]): void {
  const concerns = [...new Set(ruleNames.map((name) => name.split("/")[0] as string))];
  const map = at(root, "severity");
  for (const [name, { value, start }] of entriesOf(map)) {
    const place = value.source.place(start);
    if (!ruleNames.includes(name) && !concerns.includes(name)) {
      problems.push({
        message: `there is no rule or concern "${name}"`,
        fix: suggestion(name, [...ruleNames, ...concerns]) ?? "`enredo explain` lists the rules",
        place,
      });
      continue;
    }
    const word = textAt(value);
    // YAML reads a bare `off` as text, and older writers as false.
    const severity = word === "false" ? "off" : word;
    if (severity === "error" || severity === "warning" || severity === "note" || severity === "off")
      settings.severities.set(name, severity satisfies Severity | "off");
    else
      problems.push({
        message: `"${word ?? ""}" is not a severity`,
        fix: suggestion(word ?? "", ["error", "warning", "note", "off"]) ?? "use error, warning, note or off",
        place: placeOf(value),
      });
  }
}

function readAccept(root: Data, ruleNames: readonly string[], settings: Settings, problems: SettingsProblem[]): void {
  for (const item of itemsOf(at(root, "accept"))) {
    const rule = textAt(item, "rule");
    const reason = textAt(item, "reason");
    if (rule === undefined || reason === undefined || reason.trim() === "") continue;
    if (!ruleNames.includes(rule)) {
      const value = at(item, "rule");
      problems.push({
        message: `there is no rule "${rule}"`,
        fix: suggestion(rule, ruleNames) ?? "`enredo explain` lists the rules",
        place: placeOf(value ?? item),
      });
      continue;
    }
    const until = textAt(item, "until");
    if (until !== undefined && (!/^\d{4}-\d{2}-\d{2}$/.test(until) || Number.isNaN(Date.parse(until)))) continue;
    settings.accept.push({
      rule,
      reason,
      sdk: textAt(item, "sdk"),
      app: textAt(item, "app"),
      file: textAt(item, "file"),
      until,
      place: placeOf(item),
    });
  }
}

function readPolicy(policy: Data | undefined, ruleNames: readonly string[], problems: SettingsProblem[]): Policy | undefined {
  if (policy?.kind !== "map") return undefined;
  const versions = (part: string): Map<string, string> => {
    const known = new Map<string, string>();
    for (const [name, { value }] of entriesOf(at(policy, part))) {
      const version = value.kind === "scalar" && value.value !== null ? String(value.value) : "";
      if (/^v?\d[\w.+-]*$/.test(version)) known.set(name, version);
      // Of levels the validator says it.
      else if (part === "sdks")
        problems.push({
          message: `the minimum version of ${name} is not a version: "${version}"`,
          fix: "write one such as 4.2.0",
          place: placeOf(value),
        });
    }
    return known;
  };
  const concerns = ruleNames.map((name) => name.split("/")[0] as string);
  const rules = itemsOf(at(policy, "rules")).flatMap((item) => {
    const name = textAt(item);
    if (name !== undefined && (ruleNames.includes(name) || concerns.includes(name))) return [name];
    problems.push({
      message: `there is no rule or concern "${name ?? ""}"`,
      fix: suggestion(name ?? "", [...ruleNames, ...concerns]) ?? "`enredo explain` lists the rules",
      place: placeOf(item),
    });
    return [];
  });
  const maxAge = textAt(policy, "maxAge");
  return {
    sdks: versions("sdks"),
    levels: versions("levels"),
    rules,
    projects: textsOf(at(policy, "projects")),
    maxAge: maxAge !== undefined && /^\d+$/.test(maxAge) ? Number(maxAge) : undefined,
  };
}
