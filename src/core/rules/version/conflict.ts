import type { QuickFix } from "../../model/quick-fix.js";
import type { App } from "../../model/app.js";
import type { Dependency } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import { variantOfConfiguration } from "../../knowledge/source-sets.js";
import { isInstalled } from "../../model/paths.js";
import { uniquePlaces } from "../../model/place.js";
import { textOf } from "../../model/value.js";
import { satisfiesIn } from "../../versions/ecosystem.js";
import * as gradle from "../../versions/gradle.js";
import { areApart, describe, type Requirement } from "../../versions/swiftpm.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const project = (version: string) =>
  androidExample(
    `${androidBlock()}dependencies {\n  implementation project(':charts')\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n}\n`,
    {
      "settings.gradle": "include ':app', ':charts'\n",
      "charts/build.gradle": `apply plugin: 'com.android.library'\ndependencies {\n  implementation 'example.quaymap:quaymap-android:${version}'\n}\n`,
    },
  );

export const conflict = defineRule({
  name: "version/conflict",
  severity: "error",
  title: "An SDK is in one side in two versions",
  looksAt:
    "The same package declared with different versions by modules of one Android app or by Swift packages of one iOS app, and requirements of Swift packages that no version meets; a binary in the tree whose name carries another version; a native package installed twice; versions that a build forces below what is asked for.",
  why: "The build silently picks one of them, and the part written for the other fails at run time; two copies of native code do not link.",
  advice: "Declare the version once, in a catalog or a shared property, and use it everywhere.",
  examples: { reported: project("4.0.1"), silent: project("4.2.0") },
  check({ app }) {
    const findings: RawFinding[] = [];
    const groups = new Map<string, Dependency[]>();
    for (const dependency of app.dependencies) {
      if (
        !dependency.direct ||
        dependency.test ||
        dependency.conditional ||
        (dependency.ecosystem !== "maven" && dependency.ecosystem !== "swiftpm")
      )
        continue;
      if (dependency.fixedBy === "a forced version") continue;
      // What installed packages declare for themselves gives way to the highest version.
      if (dependency.ecosystem === "maven" && isInstalled(dependency.places[0]?.file ?? "")) continue;
      const key = `${dependency.side} ${dependency.ecosystem} ${dependency.name.toLowerCase().replace(/\.git$/, "")}${variantOf(dependency)}`;
      const group = groups.get(key);
      if (group) group.push(dependency);
      else groups.set(key, [dependency]);
    }
    for (const [key, group] of groups) {
      const exact = group.filter((dependency) => isExact(dependency));
      const versions = [...new Set(exact.map((dependency) => (textOf(dependency.declared) ?? "").replace(/!!$/, "")))];
      const [first] = exact;
      if (versions.length < 2 || !first) continue;
      const listed = exact.map((dependency) => `${textOf(dependency.declared) ?? ""} in ${dependency.in}`);
      findings.push({
        side: first.side,
        sdk: first.sdk,
        ...(areNear(first, versions) ? { severity: "warning" } : {}),
        message: `${first.name} is declared in ${versions.length} versions: ${[...new Set(listed)].slice(0, 4).join(", ")}`,
        fix: "declare the version once and use it in every module",
        places: uniquePlaces(exact.flatMap((dependency) => [dependency.declared?.place, dependency.places[0]])),
        subject: key,
        ...alignment(exact),
      });
    }
    overriddenApart(app, findings);
    findings.push(...forcedDown(app), ...[...groups].flatMap(([key, group]) => unmeetable(key, group)));
    for (const { name, versions } of app.doubles) {
      findings.push({
        side: "shared",
        message: `${name} has native code and is installed in ${versions.length} versions: ${versions.map(({ version }) => version).join(", ")}`,
        fix: "bring everything that depends on it to one version; native code can be linked only once",
        places: uniquePlaces(versions.map(({ at }) => at)),
        subject: name,
      });
    }
    return findings;
  },
});

/** The flavour or build type whose builds alone have a package: there another version than that of the others is meant. */
function variantOf({ ecosystem, scope }: Dependency): string {
  const { variant } = ecosystem === "maven" ? variantOfConfiguration(scope) : {};
  return variant === undefined ? "" : ` of ${variant}`;
}

/** Whether the highest of some versions of a registry, which the build takes, is meant to be able to stand for the others. Source: semver.org. */
function areNear({ ecosystem }: Dependency, versions: readonly string[]): boolean {
  const majors = new Set(versions.map((version) => /^(\d+)\./.exec(version)?.[1]));
  return ecosystem === "maven" && majors.size === 1 && !majors.has(undefined) && !majors.has("0");
}

/** Packages that are overridden with a version out of the range that is declared. */
function overriddenApart(app: App, findings: RawFinding[]): void {
  for (const { name, sdk, side, declared, overridden, ecosystem, locked } of app.dependencies) {
    const version = locked ?? /^\d[\w.+-]*$/.exec(textOf(declared) ?? "")?.[0];
    const wanted = textOf(overridden);
    if (!overridden || !declared || wanted === undefined || version === undefined || satisfiesIn(ecosystem, version, wanted) !== false)
      continue;
    findings.push({
      side,
      sdk,
      severity: "warning",
      message: `${name} is overridden with ${textOf(declared) ?? ""}, outside the ${wanted} that is declared`,
      fix: "declare the version that is really used, and remove the override when nothing needs it any more",
      places: uniquePlaces([declared.place, overridden.place]),
      subject: `override ${ecosystem} ${name}`,
    });
  }
}

/**
 * Requirements of Swift packages that no version meets: the packages cannot be resolved. Source: Swift Package Manager documentation, "Resolving
 * versions" (one version of each package for the whole graph).
 */
function unmeetable(key: string, group: readonly Dependency[]): RawFinding[] {
  if (group[0]?.ecosystem !== "swiftpm") return [];
  for (const [index, first] of group.entries())
    for (const second of group.slice(index + 1)) {
      const [a, b] = [first.requirement as Requirement | undefined, second.requirement as Requirement | undefined];
      if (!a || !b || (a.kind === "exact" && b.kind === "exact") || areApart(a, b) !== true) continue;
      return [
        {
          side: first.side,
          sdk: first.sdk,
          message: `no version of ${first.name} is both ${describe(a)}, as ${first.in} asks, and ${describe(b)}, as ${second.in} asks: the packages cannot be resolved`,
          fix: "bring the two requirements together",
          places: uniquePlaces([first.declared?.place, second.declared?.place]),
          subject: `apart ${key}`,
        },
      ];
    }
  return [];
}

/** Versions that a build forces below what one of its scripts asks for. Source: docs.gradle.org, `ResolutionStrategy.force`. */
function forcedDown({ android, dependencies }: App): RawFinding[] {
  const modules = android && !android.generated ? [...new Set([android.build.root, ...android.modules])] : [];
  return modules.flatMap((module) =>
    module.dependencies.flatMap((forced): RawFinding[] => {
      const version = textOf(forced.version);
      if (forced.kind !== "force" || version === undefined || forced.conditional) return [];
      const name = `${forced.group}:${forced.artifact}`;
      const above = dependencies.find((other) => {
        const declared = textOf(other.declared);
        return (
          other.ecosystem === "maven" &&
          other.side === "android" &&
          other.name === name &&
          !other.test &&
          declared !== undefined &&
          isExact(other) &&
          gradle.compare(version, declared) < 0
        );
      });
      if (!above) return [];
      return [
        {
          side: "android",
          severity: "warning",
          sdk: above.sdk,
          message: `${name} is forced to ${version}, below the ${textOf(above.declared) ?? ""} that ${above.in} asks for`,
          fix: "force the version that is asked for, or remove what forces it",
          places: uniquePlaces([forced.places[0], above.declared?.place, above.places[0]]),
          subject: `forced ${name}`,
        },
      ];
    }),
  );
}

function isExact(dependency: Dependency): boolean {
  const declared = textOf(dependency.declared);
  if (declared === undefined) return false;
  if (dependency.ecosystem === "swiftpm") return (dependency.requirement as { kind?: string } | undefined)?.kind === "exact";
  return !gradle.isDynamic(declared);
}

/** Brings Gradle versions that are written out to the highest of them. */
function alignment(exact: readonly Dependency[]): { quickFix?: QuickFix[] } {
  if (exact.some(({ ecosystem }) => ecosystem !== "maven")) return {};
  const texts = exact.map(({ declared }) => textOf(declared) ?? "");
  const highest = texts.reduce((a, b) => (gradle.compare(a, b) < 0 ? b : a));
  const quickFix = exact.flatMap(({ declared }): QuickFix[] => {
    const text = textOf(declared) ?? "";
    return text === highest || !declared ? [] : [{ do: "replace", at: declared.place, from: text, to: highest }];
  });
  return { quickFix };
}
