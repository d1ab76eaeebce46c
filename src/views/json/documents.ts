import { PackageURL } from "packageurl-js";
import type { Report } from "../../core/check.js";
import { ledgerOf } from "../../core/ledger.js";
import { sidesOf, type App, type Side, type Survey } from "../../core/model/app.js";
import type { Dependency, LevelFact } from "../../core/model/facts.js";
import type { Finding } from "../../core/model/finding.js";
import { possibleTexts, textOf, type Value } from "../../core/model/value.js";
import { packageIdentity } from "../../core/platforms/ios/locks.js";

/** `check --json`: see docs/architecture.md, "JSON documents". */
export function checkDocument(report: Report): unknown {
  return {
    schema: "enredo.check/1",
    root: report.survey.root,
    apps: report.survey.apps.map((app) => ({ name: app.name, kind: app.kind, path: app.path || ".", sides: sidesOf(app) })),
    findings: report.findings.map(withoutMend),
    accepted: report.accepted.map(withoutMend),
    blindSpots: report.blindSpots.map(({ app, side, what, why, places }) => ({ app, side, what, why, places })),
    summary: report.summary,
  };
}

/** A finding as documents show it: how it would be mended is the business of `patch`. */
export function withoutMend(finding: Finding): Record<string, unknown> {
  return Object.fromEntries(Object.entries(finding).filter(([key]) => key !== "mend"));
}

/** `survey --json`. */
export function surveyDocument(survey: Survey): unknown {
  return {
    schema: "enredo.survey/1",
    root: survey.root,
    apps: survey.apps.map((app) => ({
      name: app.name,
      kind: app.kind,
      path: app.path || ".",
      sides: {
        ...(app.android ? { android: sideDocument(app.android) } : {}),
        ...(app.ios ? { ios: sideDocument(app.ios) } : {}),
        ...(app.shared
          ? {
              shared: {
                framework: {
                  ...app.shared.framework,
                  declared: textOf(app.shared.framework.declared) ?? null,
                  installed: app.shared.framework.installed ?? null,
                },
              },
            }
          : {}),
      },
      sdks: app.dependencies.map(dependencyDocument),
      repositories: app.repositories.map(({ kind, url, for: purpose, at }) => ({ kind, ...valueFields(url), for: purpose, places: [at] })),
      buildPlugins: app.buildPlugins.map(({ id, version, applied, module, at }) => ({
        id,
        version: textOf(version) ?? null,
        applied,
        module,
        places: [at],
      })),
      blindSpots: app.blindSpots,
    })),
    unreadable: survey.unreadable.map(({ file, message, place }) => ({ file, message, places: [place] })),
  };
}

function sideDocument(side: Side): unknown {
  const [first] = side.ids;
  return {
    id: textOf(first?.value) ?? null,
    ids: side.ids.map(({ value, variant }) => ({ ...valueFields(value), variant: variant ?? null, places: [value.place] })),
    folder: side.folder || ".",
    levels: Object.fromEntries(
      Object.entries(side.effective).map(([level, value]) => [level, { ...valueFields(value), places: [value.place] }]),
    ),
  };
}

/** A value, `null` with the reason, or `null` with all the values that it may have. */
function valueFields(value: Value | undefined): { value: string | null; why?: string; either?: string[] } {
  if (!value) return { value: null };
  if (value.kind === "known") return { value: value.text };
  if (value.kind === "unknown") return { value: null, why: value.why };
  return { value: null, why: "depends on the build", either: possibleTexts(value) };
}

function dependencyDocument(dependency: Dependency): unknown {
  return {
    sdk: dependency.sdk,
    side: dependency.side,
    purl: purlOf(dependency),
    name: dependency.name,
    ecosystem: dependency.ecosystem,
    declared: textOf(dependency.declared) ?? null,
    ...(dependency.declared && dependency.declared.kind !== "known" ? { why: valueFields(dependency.declared).why } : {}),
    locked: dependency.locked ?? null,
    route: dependency.route,
    scope: dependency.scope,
    in: dependency.in,
    direct: dependency.direct,
    test: dependency.test,
    platform: dependency.platform,
    places: dependency.places,
  };
}

/** The package URL, with the locked version or else the exact declared one; `null` for a binary. */
export function purlOf(dependency: Dependency): string | null {
  const { ecosystem, name } = dependency;
  const declared = textOf(dependency.declared);
  const version =
    dependency.locked ?? (declared !== undefined && /^v?\d[\w.+-]*$/.test(declared) && !declared.endsWith("+") ? declared : undefined);
  const make = (type: string, namespace: string | undefined, plain: string, subpath?: string): string =>
    new PackageURL(type, namespace, plain, version, undefined, subpath).toString();
  try {
    switch (ecosystem) {
      case "maven": {
        const [group, artifact = ""] = name.split(":");
        return make("maven", group, artifact);
      }
      case "cocoapods": {
        const [root = "", ...subspec] = name.split("/");
        return make("cocoapods", undefined, root, subspec.join("/") || undefined);
      }
      case "pub":
        return make("pub", undefined, name);
      case "nuget":
        return make("nuget", undefined, name);
      case "cordova":
      case "npm": {
        const [scope, plain] = name.startsWith("@") ? name.split("/") : [undefined, name];
        return make("npm", scope, plain ?? name);
      }
      case "swiftpm":
      case "carthage": {
        const address = /^(?:\w+:\/\/)?(?:[^@/]+@)?([^:/]+)[:/](.*)$/.exec(name.replace(/\.git$/, ""));
        const path = (address?.[2] ?? "").split("/").filter(Boolean);
        path.pop();
        return version === undefined || !address ? null : make("swift", [address[1], ...path].join("/"), packageIdentity(name));
      }
      default:
        return null;
    }
  } catch {
    return null;
  }
}

/** `levels --json`. */
export function levelsDocument(survey: Survey): unknown {
  return {
    schema: "enredo.levels/1",
    root: survey.root,
    apps: survey.apps.map((app) => ({ name: app.name, kind: app.kind, path: app.path || ".", sides: sideLedgers(app) })),
  };
}

function sideLedgers(app: App): Record<string, unknown[]> {
  const sides: Record<string, unknown[]> = {};
  for (const line of ledgerOf(app)) {
    (sides[line.side] ??= []).push({
      level: line.level,
      declared: line.declared.map((fact: LevelFact) => ({
        ...valueFields(fact.value),
        by: fact.of,
        owner: fact.owner,
        ...(fact.variant ? { variant: fact.variant } : {}),
        places: [fact.value.place],
      })),
      effective: valueFields(line.effective).value,
      ...(line.effective?.kind === "unknown" ? { why: line.effective.why } : {}),
      ...(line.effectiveFrom ? { effectiveFrom: line.effectiveFrom } : {}),
      demands: line.demands.map((demand) => ({
        by: demand.by,
        from: demand.from,
        ...valueFields(demand.value),
        places: [demand.value.place],
      })),
      headroom: line.headroom ?? null,
    });
  }
  return sides;
}
