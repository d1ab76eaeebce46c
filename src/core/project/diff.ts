import { diffArrays } from "diff";
import type { Report } from "./check.js";
import type { App } from "../model/app.js";
import { LEVELS, type Dependency, type Entry, type SideName } from "../model/facts.js";
import type { Finding } from "../model/finding.js";
import { possibleTexts, textOf, type Value } from "../model/value.js";
import type { Sheet } from "../model/sheet.js";
import { startupOf } from "./startup.js";
import { PHASE_TITLES } from "../needs/calls.js";
import { mask } from "../needs/mask.js";
import { secretsOf, withoutSecrets, withoutTokens } from "../needs/secrets.js";

export type ChangeKind = "SDK" | "level" | "permission" | "purpose text" | "setting" | "repository" | "build plugin" | "start";

/** One thing of an app's wiring that is not as it was. */
export interface Change {
  kind: ChangeKind;
  how: "added" | "removed" | "changed";
  side: SideName;
  /** What it is about: a package, a level, a permission. */
  what: string;
  before: string | undefined;
  after: string | undefined;
  sdk: string | undefined;
  /** Where it stands now, or stood before. */
  at: { file: string; line: number; column: number } | undefined;
}

export interface AppDiff {
  name: string;
  app: App;
  /** Only one of the two has the app. */
  only: "before" | "after" | undefined;
  changes: Change[];
  findings: { fresh: Finding[]; gone: Finding[]; still: number };
}

export interface State {
  report: Report;
  sheets: readonly Sheet[];
}

/** What changed in the wiring from one state to another, app by app. Pure. */
export function diffStates(before: State, after: State): AppDiff[] {
  const diffs: AppDiff[] = [];
  const rest = [...before.report.survey.apps];
  for (const app of after.report.survey.apps) {
    const index = rest.findIndex((other) => other.name === app.name && other.kind === app.kind);
    const old = index === -1 ? rest.find((other) => other.path === app.path && other.kind === app.kind) : rest[index];
    if (old) rest.splice(rest.indexOf(old), 1);
    diffs.push({
      name: app.name,
      app,
      only: old ? undefined : "after",
      changes: old ? changesOf(old, app, before.sheets, after.sheets) : [],
      findings: compareFindings(
        old ? before.report.findings.filter((finding) => finding.app === old.name) : [],
        after.report.findings.filter((finding) => finding.app === app.name),
      ),
    });
  }
  for (const app of rest)
    diffs.push({
      name: app.name,
      app,
      only: "before",
      changes: [],
      findings: compareFindings(
        before.report.findings.filter((finding) => finding.app === app.name),
        [],
      ),
    });
  return diffs;
}

/** By fingerprints, each as often as it is there. */
function compareFindings(before: readonly Finding[], after: readonly Finding[]): AppDiff["findings"] {
  const open = new Map<string, Finding[]>();
  for (const finding of before) open.set(finding.fingerprint, [...(open.get(finding.fingerprint) ?? []), finding]);
  const fresh = after.filter((finding) => open.get(finding.fingerprint)?.pop() === undefined);
  const gone = [...open.values()].flat();
  return { fresh, gone, still: after.length - fresh.length };
}

/** A fact by which two states are compared: the same key on both sides is the same thing. */
interface Fact {
  kind: ChangeKind;
  side: SideName;
  what: string;
  value: string;
  sdk: string | undefined;
  at: Change["at"];
  /** When a start runs; what stands before it is part of its value, for reading. */
  phase?: string;
}

function changesOf(before: App, after: App, sheetsBefore: readonly Sheet[], sheetsAfter: readonly Sheet[]): Change[] {
  const secrets = new Set([...secretsOf(before, sheetsBefore), ...secretsOf(after, sheetsAfter)]);
  const shown = (change: Change): Change => ({
    ...change,
    what: withoutSecrets(change.what, secrets),
    before: change.before === undefined ? undefined : withoutSecrets(change.before, secrets),
    after: change.after === undefined ? undefined : withoutSecrets(change.after, secrets),
  });
  const [old, now] = [factsOf(before, sheetsBefore), factsOf(after, sheetsAfter)];
  const changes: Change[] = [];
  const unmoved = inSameOrder(old, now);
  for (const [key, fact] of now) {
    const was = old.get(key);
    if (was?.value === fact.value || (was?.phase === fact.phase && unmoved.has(key))) continue;
    changes.push({ ...pick(fact), how: was ? "changed" : "added", before: was?.value, after: fact.value });
  }
  for (const [key, fact] of old) if (!now.has(key)) changes.push({ ...pick(fact), how: "removed", before: fact.value, after: undefined });
  const kinds: ChangeKind[] = ["SDK", "level", "permission", "purpose text", "setting", "repository", "build plugin", "start"];
  return changes
    .map(shown)
    .sort(
      (a, b) =>
        kinds.indexOf(a.kind) - kinds.indexOf(b.kind) ||
        (a.side < b.side ? -1 : a.side > b.side ? 1 : a.what < b.what ? -1 : a.what > b.what ? 1 : 0),
    );
}

/** Starts whose order among each other is what it was: others came in between, went, or moved past them. */
function inSameOrder(old: ReadonlyMap<string, Fact>, now: ReadonlyMap<string, Fact>): Set<string> {
  const same = new Set<string>();
  for (const side of ["android", "ios"] as const) {
    const [before, after] = [old, now].map((facts) =>
      [...facts].filter(([, fact]) => fact.kind === "start" && fact.side === side).map(([key]) => key),
    ) as [string[], string[]];
    // Of two that changed places, it is the same one that moved in either direction.
    const [one, other] = before.join() < after.join() ? [before, after] : [after, before];
    for (const { added, removed, value } of diffArrays(one, other)) if (!added && !removed) for (const key of value) same.add(key);
  }
  return same;
}

function pick({ kind, side, what, sdk, at }: Fact): Pick<Change, "kind" | "side" | "what" | "sdk" | "at"> {
  return { kind, side, what, sdk, at };
}

function factsOf(app: App, sheets: readonly Sheet[]): Map<string, Fact> {
  const facts = new Map<string, Fact>();
  const add = (kind: ChangeKind, side: SideName, what: string, value: string, at: Change["at"], sdk?: string, phase?: string): void => {
    const key = `${kind}\0${side}\0${what}`;
    const known = facts.get(key);
    if (!known) facts.set(key, { kind, side, what, value, at, sdk, phase });
    else if (phase !== undefined)
      Object.assign(known, { value: `${known.value} and ${value}`, phase: `${known.phase ?? ""} and ${phase}` });
    else if (!known.value.split(" and ").includes(value)) known.value = [...known.value.split(" and "), value].sort().join(" and ");
  };
  for (const dependency of app.dependencies) {
    if (dependency.platform || dependency.test) continue;
    add("SDK", dependency.side, dependency.name, versionText(dependency), dependency.places[0], dependency.sdk);
  }
  addLevels(app, add);
  for (const entry of app.entries) {
    const kind = KIND_OF[entry.kind];
    if (kind === undefined || (entry.by !== undefined && entry.kind !== "permission")) continue;
    const value = entry.removed ? "taken out" : entryText(entry);
    add(
      kind,
      entry.side,
      `${kind === "setting" ? `${TITLES[entry.kind] ?? entry.kind} ` : ""}${entry.kind === "urlScheme" || entry.kind === "queriedScheme" ? withoutTokens(entry.name, []) : entry.name}${entry.variant === undefined ? "" : ` (${entry.variant})`}`,
      value,
      entry.at,
    );
  }
  for (const { url, kind, at, for: purpose } of app.repositories)
    add("repository", at.file.endsWith("Podfile") ? "ios" : "android", textOf(url) ?? kind, purpose, at);
  for (const { id, version, applied, at } of app.buildPlugins)
    if (applied) add("build plugin", "android", id, version ? valueText(version) : "there", at);
  addStarts(app, sheets, add);
  return facts;
}

const KIND_OF: Partial<Record<Entry["kind"], ChangeKind>> = {
  permission: "permission",
  purposeText: "purpose text",
  component: "setting",
  metaData: "setting",
  placeholder: "setting",
  buildConfig: "setting",
  urlScheme: "setting",
  queriedScheme: "setting",
  backgroundTask: "setting",
  linkHost: "setting",
  address: "setting",
  host: "setting",
  clearText: "setting",
  entitlement: "setting",
  backgroundMode: "setting",
  accessReason: "setting",
  collectedData: "setting",
  trackingDomain: "setting",
  env: "setting",
  variable: "setting",
};

const TITLES: Partial<Record<Entry["kind"], string>> = {
  component: "component",
  metaData: "meta-data",
  placeholder: "placeholder",
  buildConfig: "build field",
  urlScheme: "URL scheme",
  queriedScheme: "queried scheme",
  backgroundTask: "background task",
  linkHost: "host of links",
  clearText: "clear text",
  backgroundMode: "background mode",
  accessReason: "required-reason API",
  collectedData: "collected data",
  trackingDomain: "tracking domain",
};

/** The levels of both sides. */
function addLevels(
  app: App,
  add: (kind: ChangeKind, side: SideName, what: string, value: string, at: Change["at"], sdk?: string, phase?: string) => void,
): void {
  for (const side of [app.android, app.ios]) {
    if (!side) continue;
    for (const level of LEVELS) {
      const value = side.effective[level];
      if (value) add("level", side.side, level, valueText(value), value.place);
    }
  }
}

/** Starts, each with its moment and what it comes after. */
function addStarts(
  app: App,
  sheets: readonly Sheet[],
  add: (kind: ChangeKind, side: SideName, what: string, value: string, at: Change["at"], sdk?: string, phase?: string) => void,
): void {
  for (const { side, steps } of startupOf(app, sheets)) {
    const order = steps.filter(({ kind, side: of }) => (kind === "start" || kind === "likely start") && (of === side || of === "shared"));
    order.forEach((step, index) => {
      const phase = step.phase === undefined ? "at some time" : (PHASE_TITLES[step.phase].split(",")[0] ?? "");
      const place = index > 0 ? `after ${order[index - 1]?.sdk ?? ""}` : "first";
      add("start", side, `${step.sdk ?? ""} ${step.what}`, `${phase}, ${place}`, step.at, step.sdk, phase);
    });
  }
}

/** What an entry holds; what may be a key is masked. */
function entryText({ kind, value }: Entry): string {
  if (!value) return "there";
  if (value.kind !== "known") return valueText(value);
  if (value.text === "") return "(empty)";
  return kind === "purposeText" || kind === "entitlement" || /^(true|false|\d{1,3})$/.test(value.text) ? value.text : mask(value.text);
}

function valueText(value: Value | undefined): string {
  if (!value) return "not stated";
  if (value.kind === "known") return value.text;
  return value.kind === "unknown" ? "not known" : possibleTexts(value).join(" or ") || "not known";
}

function versionText({ declared, locked, reference, route }: Dependency): string {
  const stated = declared ? valueText(declared) : reference ? `${route} ${reference.text}` : "there";
  return locked === undefined || locked === stated ? stated : `${stated}, locked ${locked}`;
}

/** The app with only what it did not have before: what a change brought in. Packages stay, so that the SDK is known. */
export function broughtIn(before: App, after: App): App {
  const fresh = <T>(old: readonly T[], now: readonly T[], key: (item: T) => string): T[] => {
    const known = new Set(old.map(key));
    return now.filter((item) => !known.has(key(item)));
  };
  const code =
    after.code === undefined
      ? {}
      : {
          code: {
            ...after.code,
            calls: fresh(before.code?.calls ?? [], after.code.calls, ({ side, callee, within }) => `${side} ${callee} ${within}`),
            imports: fresh(before.code?.imports ?? [], after.code.imports, ({ side, package: name, at }) => `${side} ${name} ${at.file}`),
          },
        };
  return {
    ...after,
    ...code,
    entries: fresh(
      before.entries,
      after.entries,
      ({ kind, side, name, variant, removed }) => `${kind} ${side} ${name} ${variant ?? ""} ${String(removed ?? false)}`,
    ),
    repositories: fresh(before.repositories, after.repositories, ({ kind, url }) => `${kind} ${textOf(url) ?? ""}`),
    buildPlugins: fresh(before.buildPlugins, after.buildPlugins, ({ id, applied }) => `${id} ${String(applied)}`),
    serviceFiles: fresh(before.serviceFiles, after.serviceFiles, ({ file }) => file),
    rulesFiles: after.rulesFiles.map((file) => ({
      ...file,
      rules: fresh(
        before.rulesFiles.flatMap(({ rules }) => rules),
        file.rules,
        ({ text }) => text,
      ),
    })),
    links: fresh(before.links, after.links, ({ name, target, embedded }) => `${name} ${target} ${String(embedded)}`),
  };
}
