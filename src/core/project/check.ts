import { createHash } from "node:crypto";
import { isOfThirdParty } from "../derive/presence.js";
import type { App, Survey, SurveyOutline } from "../model/app.js";
import type { BlindSpot, SideName } from "../model/facts.js";
import type { Finding, RawFinding } from "../model/finding.js";
import { safeAddresses } from "../model/address.js";
import { comparePlaces } from "../model/place.js";
import { withParts } from "../model/reason.js";
import { RULES } from "../rules/index.js";
import type { ProjectRule, Rule, RuleContext } from "../rules/rule.js";
import type { SettingsProblem } from "../settings/load.js";
import { sheetsFor, type Sheet } from "../model/sheet.js";
import { wiresOf } from "../needs/index.js";
import { SEVERITIES, type Severity } from "../model/finding.js";
import { noSettings, type Acceptance, type Settings } from "../settings/settings.js";

export interface Report {
  survey: Survey;
  findings: Finding[];
  /** Findings that the settings accept. */
  accepted: Finding[];
  blindSpots: (BlindSpot & { app: string })[];
  summary: { errors: number; warnings: number; notes: number; files: number; sdks: number };
}

/** The findings, and of the survey only what lists of findings say; every report is one. */
export type ReportOutline = Omit<Report, "survey"> & { survey: SurveyOutline };

export interface CheckOptions {
  settings?: Settings;
  settingsProblems?: SettingsProblem[];
  /** Sheets of SDKs, and what is wrong in them. */
  sheets?: readonly Sheet[];
  sheetProblems?: readonly SettingsProblem[];
  /** The day of the check, `YYYY-MM-DD`; decides whether an acceptance still holds. Without it none expires. */
  today?: string;
  /** Called for each app in place of judging it: gives what `judge` does. */
  perApp?: (app: App, judge: () => RuleFindings) => RuleFindings;
}

/** What rules say of one app, by the names of the rules. */
export type RuleFindings = Record<string, RawFinding[]>;

/** Holds a survey against every rule. Pure: the same survey and options give the same report. */
export function check(survey: Survey, options: CheckOptions = {}): Report {
  const settings = options.settings ?? noSettings();
  const findings: Finding[] = [];
  const seen = new Map<string, Finding>();
  const judged = survey.apps.map((app) => {
    const judge = (): RuleFindings => judgeApp(app, survey.repository, options);
    return { app, findings: options.perApp?.(app, judge) ?? judge() };
  });
  const folders = new Map(survey.apps.map(({ name, path }) => [name, path]));
  const folderOf = (app: string): string => folders.get(app) ?? "";
  for (const rule of RULES) {
    if (severityOf(rule, settings) === "off") continue;
    if ("checkProject" in rule) for (const raw of rule.checkProject(survey)) addOfRun(rule, raw);
    else for (const { app, findings: of } of judged) for (const raw of of[rule.name] ?? []) add(rule, app.name, raw);
  }
  const own = RULES.find(({ name }) => name === "project/settings");
  for (const { message, fix, place } of [...(options.settingsProblems ?? []), ...(options.sheetProblems ?? [])])
    if (own) add(own, "", { message, fix, places: [place], subject: place.file.split("/").at(-1) ?? "" });

  const open: Finding[] = [];
  const accepted: Finding[] = [];
  for (const finding of findings) {
    const acceptance = settings.accept.find((entry) => covers(entry, finding));
    if (!acceptance) open.push(finding);
    else if (acceptance.until !== undefined && options.today !== undefined && acceptance.until < options.today) {
      open.push({ ...finding, message: `${finding.message} (accepted until ${acceptance.until}: ${acceptance.reason})` });
    } else accepted.push({ ...finding, accepted: { reason: acceptance.reason, until: acceptance.until } });
  }
  open.sort(compareFindings);
  const count = (severity: Severity): number => open.filter((finding) => finding.severity === severity).length;
  return {
    survey,
    findings: open,
    accepted: accepted.sort(compareFindings),
    blindSpots: survey.apps.flatMap((app) =>
      app.blindSpots.map((spot) => ({ ...spot, what: safeAddresses(spot.what), why: withParts(spot.why, safeAddresses), app: app.name })),
    ),
    summary: { errors: count("error"), warnings: count("warning"), notes: count("note"), files: survey.filesRead, sdks: countSdks(survey) },
  };

  function addOfRun(rule: ProjectRule, { app = "", ...raw }: RawFinding & { app?: string }): void {
    add(rule, app, raw);
  }

  function add(rule: Rule | ProjectRule, app: string, written: RawFinding): void {
    // From here on it is text that goes anywhere: a baseline, a page, a service.
    const raw = {
      ...written,
      message: safeAddresses(written.message),
      fix: safeAddresses(written.fix),
      subject: safeAddresses(written.subject),
    };
    const set = settings.severities.get(rule.name) ?? settings.severities.get(rule.name.split("/")[0] as string);
    const severity = set === undefined ? (raw.severity ?? rule.severity) : set;
    if (severity === "off") return;
    // One mistake in a file that several apps share (a root script, a lock file), or that stands for both sides, is one finding.
    const key = `${rule.name}\0${raw.message}\0${raw.places.map(({ file, line, column }) => `${file}:${line}:${column}`).join(",")}`;
    const told = seen.get(key);
    if (told) {
      if (told.app === app && told.side !== raw.side) {
        told.side = undefined;
        told.fingerprint = fingerprint(rule.name, app, { ...raw, side: undefined }, folderOf(app));
      }
      return;
    }
    const finding: Finding = {
      rule: rule.name,
      severity,
      app,
      side: raw.side,
      sdk: raw.sdk,
      message: raw.message,
      fix: raw.fix,
      places: raw.places,
      fingerprint: fingerprint(rule.name, app, raw, folderOf(app)),
      ...(raw.about === undefined ? {} : { about: raw.about }),
      ...(raw.quickFix === undefined ? {} : { quickFix: raw.quickFix }),
    };
    seen.set(key, finding);
    findings.push(finding);
  }
}

/** What the rules say of one app: a function of its facts and the options, and of nothing else. */
function judgeApp(app: App, repository: string | undefined, options: CheckOptions): RuleFindings {
  const settings = options.settings ?? noSettings();
  const sheets = options.sheets ?? [];
  const context: RuleContext = {
    app,
    repository,
    settings,
    sheets: sheetsFor(app, sheets),
    wires: sheets.length > 0 ? wiresOf(app, sheets) : [],
    today: options.today,
  };
  const findings: RuleFindings = {};
  for (const rule of RULES) {
    if ("checkProject" in rule || severityOf(rule, settings) === "off") continue;
    const found = rule.check(context);
    if (found.length > 0) findings[rule.name] = found;
  }
  return findings;
}

/**
 * Made of what the finding is about, and neither of its words nor of what was found nor of where it stands (the app's own folder is left out of
 * it): it survives moved lines, renamed folders, and a value that is still wrong.
 */
function fingerprint(rule: string, app: string, raw: RawFinding, folder: string): string {
  return createHash("sha256")
    .update(
      [
        rule,
        app.split("/").at(-1),
        raw.side ?? "",
        raw.sdk ?? "",
        folder === "" ? raw.subject : raw.subject.replaceAll(`${folder}/`, ""),
      ].join("\0"),
    )
    .digest("hex")
    .slice(0, 20);
}

function severityOf(rule: { name: string; severity: Severity }, settings: Settings): Severity | "off" {
  return settings.severities.get(rule.name) ?? settings.severities.get(rule.name.split("/")[0] as string) ?? rule.severity;
}

function covers(entry: Acceptance, finding: Finding): boolean {
  if (entry.rule !== finding.rule) return false;
  if (entry.sdk !== undefined && entry.sdk !== finding.sdk) return false;
  if (entry.app !== undefined && entry.app !== finding.app) return false;
  return entry.file === undefined || finding.places.some(({ file }) => file === entry.file);
}

const SIDE_ORDER: (SideName | undefined)[] = [undefined, "shared", "android", "ios"];

/** By app, then the worst first, then by side and place. */
function compareFindings(a: Finding, b: Finding): number {
  if (a.app !== b.app) return a.app < b.app ? -1 : 1;
  return (
    SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity) ||
    SIDE_ORDER.indexOf(a.side) - SIDE_ORDER.indexOf(b.side) ||
    (a.rule < b.rule ? -1 : a.rule > b.rule ? 1 : 0) ||
    comparePlaces(a.places[0], b.places[0]) ||
    (a.message < b.message ? -1 : a.message > b.message ? 1 : 0)
  );
}

function countSdks(survey: Survey): number {
  return new Set(
    survey.apps.flatMap((app) => app.dependencies.flatMap((dependency) => (isOfThirdParty(app, dependency) ? dependency.sdk : []))),
  ).size;
}
