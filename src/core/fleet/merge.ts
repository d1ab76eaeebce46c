import { compareAny, releaseOf } from "../versions/ecosystem.js";
import { SEVERITIES, type Severity } from "../model/finding.js";
import type { FleetTally, ProjectTally, SdkTally } from "./tally.js";
import type { Policy } from "../settings/settings.js";
import { violationsOf } from "./policy.js";
import { order, type Fleet, type FleetApp, type FleetLevel, type FleetPermit, type FleetRule, type FleetSdk } from "./fleet.js";

const DAY = 24 * 60 * 60 * 1000;

/** From so many days on an answer is called old, where the policy says nothing. */
const OLD = 30;

/**
 * The tables over all answers. The same lines give the same tables, in whatever order they were read.
 * @param day the day of the question, `YYYY-MM-DD`
 */
export function fleetOf(tally: FleetTally, policy: Policy | undefined, day: string): Fleet {
  const projects = [...tally.projects.values()].sort((a, b) => order(a.project, b.project));
  const maxAge = policy?.maxAge ?? OLD;
  const ageOf = ({ at }: ProjectTally): number => Math.max(0, Math.floor((Date.parse(`${day}T23:59:59Z`) - Date.parse(at)) / DAY));
  const alike = new Map<string, number>();
  for (const { apps: own } of projects) for (const app of own.keys()) alike.set(app.toLowerCase(), (alike.get(app.toLowerCase()) ?? 0) + 1);
  const named = projects.flatMap((project) =>
    [...project.apps.values()]
      .sort((a, b) => order(a.app, b.app))
      .map((app) => ({
        project,
        app,
        name: nameOf(project.project, app.app, alike.get(app.app.toLowerCase()) === 1),
        age: ageOf(project),
      })),
  );
  const apps = named.map(({ project, app, name, age }): FleetApp => ({
    name,
    project: project.project,
    kind: app.kind,
    at: project.at,
    age,
    counts: app.counts,
    blindSpots: app.blindSpots,
  }));
  const unanswered = [
    ...[...tally.brokenOff]
      .filter(([project]) => !tally.projects.has(project))
      .map(([project, { at, message }]) => ({ project, why: `${message} (${at})` })),
    ...(policy?.projects ?? []).flatMap((project) =>
      tally.projects.has(project) || tally.brokenOff.has(project) ? [] : [{ project, why: "the policy lists it, but there is no answer" }],
    ),
    ...projects
      .filter(({ apps: own }) => ![...own.keys()].some((app) => app !== ""))
      .map(({ project }) => ({ project, why: "no app in its answer" })),
    ...projects
      .filter((project) => ageOf(project) > maxAge)
      .map((project) => ({ project: project.project, why: `the answer is ${ageOf(project)} days old (${project.at.slice(0, 10)})` })),
  ].sort((a, b) => order(a.project, b.project));
  const fleet: Fleet = {
    day,
    projects: projects.length,
    apps,
    sdks: sdksOf(named.map(({ name, app }) => ({ name, sdks: app.sdks.values() }))),
    levels: levelsOf(named.map(({ name, app }) => ({ name, levels: app.levels }))),
    rules: rulesOf(named.map(({ name, app }) => ({ name, rules: app.rules }))),
    permits: permitsOf(named.map(({ name, app }) => ({ name, permits: app.permits }))),
    unanswered,
    problems: [
      ...tally.problems,
      ...[...tally.brokenOff]
        .filter(([project]) => tally.projects.has(project))
        .map(([project, { at, message }]) => ({ at, message: `${project}: ${message}; another answer is used` })),
    ],
    superseded: [...tally.superseded].map(([project, answers]) => ({ project, answers })).sort((a, b) => order(a.project, b.project)),
    violations: [],
    linesRead: tally.linesRead,
  };
  if (policy) fleet.violations = violationsOf(fleet, named, policy);
  return fleet;
}

/** What an app is called in the fleet: by its own name where no other has it. */
function nameOf(project: string, app: string, alone: boolean): string {
  return app === "" ? `${project} (folder)` : alone ? app : `${project}/${app}`;
}

function pushed<Key, Item>(map: Map<Key, Item[]>, key: Key, item: Item): void {
  const list = map.get(key);
  if (list) list.push(item);
  else map.set(key, [item]);
}

function sdksOf(apps: { name: string; sdks: Iterable<SdkTally> }[]): FleetSdk[] {
  const groups = new Map<string, { tally: SdkTally; name: string }[]>();
  for (const { name, sdks } of apps) for (const tally of sdks) pushed(groups, `${tally.sdk}\0${tally.side}`, { tally, name });
  return [...groups.values()]
    .flatMap((group): FleetSdk[] => {
      const [first] = group;
      if (!first) return [];
      const versions = new Map<string | null, string[]>();
      const fullest = new Map<string, string>();
      for (const { tally, name } of group) {
        const release = tally.version === null ? null : releaseOf(tally.version);
        pushed(versions, release, name);
        if (release !== null && tally.version !== null && tally.version.length > (fullest.get(release) ?? "").length)
          fullest.set(release, tally.version);
      }
      const ecosystemOf = new Map(group.map(({ tally }) => [tally.version, tally.ecosystem]));
      const sorted = [...versions]
        .map(([release, names]) => ({ version: release === null ? null : (fullest.get(release) ?? release), apps: names }))
        .sort((a, b) =>
          a.version === null
            ? 1
            : b.version === null
              ? -1
              : compareAny(ecosystemOf.get(b.version), b.version, a.version) || order(a.version, b.version),
        );
      const [newest] = sorted;
      return [
        {
          sdk: first.tally.sdk,
          side: first.tally.side,
          packages: [...new Set(group.map(({ tally }) => tally.package))].sort(order),
          versions: sorted,
          behind: sorted
            .slice(1)
            .reduce((sum, { version, apps: names }) => sum + (version === null || newest?.version === null ? 0 : names.length), 0),
        },
      ];
    })
    .sort((a, b) => count(b) - count(a) || order(a.sdk, b.sdk) || order(a.side, b.side));
}

function count({ versions }: FleetSdk): number {
  return versions.reduce((sum, { apps }) => sum + apps.length, 0);
}

function levelsOf(apps: { name: string; levels: ReadonlyMap<string, string | null> }[]): FleetLevel[] {
  const groups = new Map<string, Map<string | null, string[]>>();
  for (const { name, levels } of apps)
    for (const [key, value] of levels) {
      const values = groups.get(key) ?? new Map<string | null, string[]>();
      groups.set(key, values);
      pushed(values, value, name);
    }
  return [...groups]
    .sort(([a], [b]) => order(a, b))
    .map(([key, values]) => {
      const [side = "", level = ""] = key.split(" ");
      return {
        side,
        level,
        values: [...values]
          .map(([value, names]) => ({ value, apps: names }))
          .sort((a, b) => (a.value === null ? 1 : b.value === null ? -1 : compareAny(undefined, a.value, b.value))),
      };
    });
}

function rulesOf(apps: { name: string; rules: ReadonlyMap<string, Record<Severity, number>> }[]): FleetRule[] {
  const groups = new Map<string, FleetRule>();
  for (const { name, rules } of apps)
    for (const [rule, counts] of rules) {
      const entry = groups.get(rule) ?? { rule, severity: "note" as Severity, findings: 0, apps: [] };
      groups.set(rule, entry);
      entry.findings += SEVERITIES.reduce((sum, severity) => sum + counts[severity], 0);
      const worst = SEVERITIES.find((severity) => counts[severity] > 0) ?? "note";
      if (SEVERITIES.indexOf(worst) < SEVERITIES.indexOf(entry.severity)) entry.severity = worst;
      entry.apps.push(name);
    }
  return [...groups.values()].sort(
    (a, b) =>
      SEVERITIES.indexOf(a.severity) - SEVERITIES.indexOf(b.severity) ||
      b.apps.length - a.apps.length ||
      b.findings - a.findings ||
      order(a.rule, b.rule),
  );
}

function permitsOf(apps: { name: string; permits: ReadonlyMap<string, ReadonlySet<string>> }[]): FleetPermit[] {
  const groups = new Map<string, { apps: string[]; by: Set<string> }>();
  for (const { name, permits } of apps)
    for (const [key, by] of permits) {
      const entry = groups.get(key) ?? { apps: [], by: new Set() };
      groups.set(key, entry);
      entry.apps.push(name);
      for (const one of by) entry.by.add(one);
    }
  return [...groups]
    .map(([key, entry]) => {
      const [side = "", kind = "", name = ""] = key.split("\0");
      return { side, kind, name, apps: entry.apps, by: [...entry.by].sort(order) };
    })
    .sort((a, b) => order(a.side, b.side) || order(a.kind, b.kind) || b.apps.length - a.apps.length || order(a.name, b.name));
}
