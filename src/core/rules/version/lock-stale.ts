import type { App } from "../../model/app.js";
import type { Dependency, LockFact, PackageManager } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import { uniquePlaces } from "../../model/place.js";
import { textOf } from "../../model/value.js";
import * as gradle from "../../versions/gradle.js";
import * as npm from "../../versions/npm.js";
import * as rubygems from "../../versions/rubygems.js";
import { satisfiesIn } from "../../versions/ecosystem.js";
import * as swiftpm from "../../versions/swiftpm.js";
import { iosExample } from "../examples.js";
import { defineRule } from "../rule.js";

const podfile = "platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'QuaymapSDK', '~> 4.2'\nend\n";
const lock = (version: string): string =>
  `PODS:\n  - QuaymapSDK (${version})\n\nDEPENDENCIES:\n  - QuaymapSDK (~> 4.2)\n\nCOCOAPODS: 1.15.2\n`;

/** Of NuGet, whose projects have a lock each, the facts say what each lock records otherwise. */
const MANAGER_OF: Partial<Record<Dependency["ecosystem"], PackageManager[]>> = {
  npm: ["npm", "yarn", "pnpm"],
  cocoapods: ["cocoapods"],
  swiftpm: ["swiftpm"],
  carthage: ["carthage"],
  maven: ["gradle"],
  pub: ["pub"],
  unity: ["unity"],
};

export const lockStale = defineRule({
  name: "version/lock-stale",
  severity: "error",
  title: "The lock file does not match what is declared",
  looksAt:
    "Locked versions against declared ranges, packages that the lock does not have, branches that are locked as a version, the checksum that a Podfile.lock keeps of its Podfile, and installed packages against the lock, lock files of two package managers beside each other; of a Cordova app the folder of plugins and the lists of package.json.",
  why: "The next install changes versions unasked, or stops in CI, where installs are frozen. What you test is not what is built.",
  advice: "Reinstall with the package manager, review what changes, and commit the lock file.",
  examples: {
    reported: iosExample({}, { Podfile: podfile, "Podfile.lock": lock("4.1.0") }),
    silent: iosExample({}, { Podfile: podfile, "Podfile.lock": lock("4.3.1") }),
  },
  check({ app }) {
    const locks = app.locks.flatMap((fact) =>
      fact.lock === undefined || fact.broken
        ? installedOutside(fact)
        : [...outside(app, fact), ...checksum(fact), ...installedApart(fact), ...rivals(fact), ...ofOwnPods(app, fact)],
    );
    return [...locks, ...podsApart(app)];
  },
});

/** Pods that the repository's own pods ask for in another version than the lock has. */
function ofOwnPods({ podRequirements, dependencies }: App, lock: LockFact): RawFinding[] {
  if (lock.manager !== "cocoapods") return [];
  return podRequirements.flatMap(({ name, requirement, by, at }): RawFinding[] => {
    const found = dependencies.find((own) => own.ecosystem === "cocoapods" && own.name === name && own.locked !== undefined);
    if (found?.locked === undefined || satisfiesIn("cocoapods", found.locked, requirement) !== false) return [];
    return [
      {
        side: "ios",
        sdk: found.sdk,
        message: `${by} asks for ${name} ${requirement}, and ${lock.lockName} has ${found.locked}`,
        fix: `bring the two together, and reinstall`,
        places: uniquePlaces([at, found.lockedAt]),
        subject: `cocoapods ${by} ${name}`,
      },
    ];
  });
}

/** Pods of packages that the lock has in another version: the package was updated, and the pods were not installed again. */
function podsApart({ linking }: App): RawFinding[] {
  return linking.flatMap(({ native, sdk, lockedApart, declared, off }): RawFinding[] =>
    !lockedApart || off
      ? []
      : [
          {
            side: "ios",
            sdk,
            message: `the lock has the pod ${native} in ${lockedApart.locked}, and its installed package is ${lockedApart.installed}`,
            fix: "run pod install and commit the Podfile.lock",
            places: [lockedApart.at, declared],
            subject: `pod ${native}`,
          },
        ],
  );
}

/** What is installed is of an earlier state of the declarations, and no lock says which. */
function installedOutside({ side, installedOutside: found = [] }: LockFact): RawFinding[] {
  return found.map(({ name, declared, installed, at }) => ({
    side,
    severity: "warning",
    message: `${name} is declared as ${declared}, and ${installed} is installed`,
    fix: "install again, so that what is built is what is declared",
    places: [at],
    subject: `installed ${name}`,
  }));
}

/** Package managers that each lock the same packages: who installs with which decides what is built. */
function rivals({ lock, lockName, side, rivals: others = [] }: LockFact): RawFinding[] {
  return lock === undefined
    ? []
    : others.map((name) => ({
        side,
        severity: "warning" as const,
        message: `${lockName} and ${name} both lock the packages: they are of two package managers, and only one of them is kept up to date`,
        fix: "keep the one of the package manager that is used, and remove the other",
        places: [lock, `${lock.slice(0, -lockName.length)}${name}`].map((file) => ({ file, line: 1, column: 1 })),
        subject: `${lockName} ${name}`,
      }));
}

// eslint-disable-next-line complexity -- one question after the other for each package
function outside(app: App, lock: LockFact): RawFinding[] {
  const findings: RawFinding[] = [];
  // Many packages have the same range and version.
  const answers = new Map<string, boolean | undefined>();
  const reported = new Set<string>();
  for (const entry of lock.declaredApart) {
    reported.add(entry.name);
    findings.push({
      side: lock.side,
      message:
        entry.recorded === undefined
          ? `${entry.name} is declared but not in ${lock.lockName}`
          : entry.declared === undefined
            ? `${entry.name} ${entry.recorded} is in ${lock.lockName} as one that is declared, and is not declared`
            : `${entry.name} is declared as ${entry.declared}, ${lock.lockName} was made for ${entry.recorded}`,
      fix:
        lock.manager !== "cordova"
          ? `reinstall and commit ${lock.lockName}`
          : entry.recorded === undefined
            ? `add ${entry.name} to the dependencies`
            : `remove ${entry.name} and add it again`,
      places: uniquePlaces(entry.places),
      subject: `${lock.manager} ${entry.name}`,
    });
  }
  for (const dependency of app.dependencies) {
    if (
      !dependency.direct ||
      dependency.conditional ||
      reported.has(dependency.name) ||
      reported.has(`${dependency.side} ${dependency.name}`) ||
      !MANAGER_OF[dependency.ecosystem]?.includes(lock.manager)
    )
      continue;
    if (
      (dependency.route === "path" && dependency.ecosystem !== "pub") ||
      dependency.route === "binary" ||
      (dependency.fixedBy?.startsWith("the workspace") && dependency.ecosystem !== "pub") ||
      dependency.fixedBy === "a path" ||
      dependency.fixedBy?.startsWith("pnpm")
    )
      continue;
    if (dependency.scope === "optionalDependencies") continue;
    const message = mismatch(dependency, lock, answers);
    if (!message) continue;
    reported.add(`${dependency.side} ${dependency.name}`);
    findings.push({
      side: dependency.side,
      sdk: dependency.sdk,
      message,
      fix: `reinstall and commit ${lock.lockName}`,
      places: uniquePlaces([...dependency.places.slice(0, 1), dependency.lockedAt]),
      subject: `${dependency.ecosystem} ${dependency.name}`,
    });
  }
  return findings;
}

/** What to say of a declaration for which the lock has no version. */
function absent(dependency: Dependency, declared: string | undefined, lock: LockFact): string | undefined {
  const { name } = dependency;
  if (dependency.fixedBy === "the workspace") return undefined;
  // Gradle locks by configuration; only what is locked can be held against it. Forks of one specifier look different per format.
  if (dependency.ecosystem === "maven" || (dependency.ecosystem === "npm" && dependency.route !== "registry")) return undefined;
  if (dependency.ecosystem === "npm" && npm.parseSpecifier(declared ?? "*").kind !== "range") return undefined;
  return dependency.ecosystem === "npm" && declared !== undefined
    ? `${name} is declared as ${declared}, and ${lock.lockName} does not have that`
    : `${name} is declared but not in ${lock.lockName}`;
}

function mismatch(dependency: Dependency, lock: LockFact, answers: Map<string, boolean | undefined>): string | undefined {
  const { name, locked } = dependency;
  const declared = textOf(dependency.declared);
  if (dependency.declared && declared === undefined) return undefined;
  if (locked === undefined) return absent(dependency, declared, lock);
  // A branch is locked by a revision, never by a version.
  if (dependency.ecosystem === "swiftpm" && dependency.reference?.kind === "branch" && swiftpm.normalize(locked))
    return `${name} is declared as the branch ${dependency.reference.text}, ${lock.lockName} has version ${locked}`;
  if (declared === undefined || dependency.route === "git") return undefined;
  const key = `${dependency.ecosystem}\0${declared}\0${locked}`;
  let fits = answers.get(key);
  if (!answers.has(key)) answers.set(key, (fits = satisfied(dependency, declared, locked)));
  if (fits !== false) return undefined;
  return dependency.fixedBy === "the workspace"
    ? `${name} of the workspace is at ${locked}, outside the declared ${declared}`
    : `${name} is locked at ${locked}, outside the declared ${declared}`;
}

/** `undefined` when the notation is none that can be held against a version. */
function satisfied(dependency: Dependency, declared: string, locked: string): boolean | undefined {
  switch (dependency.ecosystem) {
    case "npm": {
      const specifier = npm.parseSpecifier(declared);
      return specifier.kind === "range" ? npm.satisfies(locked, specifier.range) : undefined;
    }
    case "cocoapods":
      return rubygems.isValid(locked) ? rubygems.satisfies(locked, declared) : undefined;
    case "swiftpm":
      return dependency.requirement && swiftpm.normalize(locked)
        ? swiftpm.satisfies(locked, dependency.requirement as swiftpm.Requirement)
        : undefined;
    case "carthage":
      return carthage(declared, locked);
    case "maven":
      return gradle.satisfies(locked, declared);
    case "pub":
    case "nuget":
    case "unity":
      return satisfiesIn(dependency.ecosystem, locked, declared);
    default:
      return undefined;
  }
}

/** Source: Carthage, "Artifacts, Version requirement": `>= 1.0`, `~> 1.2` (compatible by semantic versioning), `== 1.0`. */
function carthage(declared: string, locked: string): boolean | undefined {
  const match = /^(>=|~>|==)\s*(\S+)$/.exec(declared);
  const from = swiftpm.normalize(match?.[2] ?? "");
  if (!match || !from || !swiftpm.normalize(locked)) return undefined;
  if (match[1] === ">=") return swiftpm.compare(locked, from) >= 0;
  return swiftpm.satisfies(
    locked,
    match[1] === "~>"
      ? { kind: from.startsWith("0.") ? "upToNextMinor" : "upToNextMajor", version: from }
      : { kind: "exact", version: from },
  );
}

function checksum(lock: LockFact): RawFinding[] {
  if (!lock.checksum || lock.checksum.same) return [];
  return [
    {
      side: lock.side,
      message: `${lock.lockName} was written for another version of the Podfile: the checksums differ`,
      fix: "run pod install and commit the Podfile.lock",
      places: [lock.checksum.at],
      subject: `${lock.manager} checksum`,
    },
  ];
}

function installedApart(lock: LockFact): RawFinding[] {
  const [first] = lock.installedApart;
  if (!first) return [];
  const listed = lock.installedApart
    .slice(0, 3)
    .map(({ name, locked, installed }) => `${name} ${installed ?? "not there"} instead of ${locked ?? "nothing"}`);
  const rest = lock.installedApart.length - listed.length;
  return [
    {
      side: lock.side,
      severity: "warning",
      message: `the installed packages differ from ${lock.lockName}: ${listed.join(", ")}${rest > 0 ? ` and ${rest} more` : ""}`,
      fix: "reinstall on this machine",
      places: uniquePlaces(lock.installedApart.slice(0, 3).map(({ at }) => at)),
      subject: `${lock.manager} installed`,
    },
  ];
}
