/** Requirements of Swift packages. Source: Swift Package Manager documentation, PackageDescription, "Package.Dependency.Requirement". */
import semver from "semver";

export type Requirement =
  | { kind: "exact"; version: string }
  | { kind: "upToNextMajor"; version: string }
  | { kind: "upToNextMinor"; version: string }
  | { kind: "range"; from: string; to: string; closed: boolean }
  | { kind: "branch"; name: string }
  | { kind: "revision"; name: string };

/** `1`, `1.2` and `v1.2.3` as full semantic versions; `undefined` for anything else. */
export function normalize(version: string): string | undefined {
  const match = /^v?(\d+)(?:\.(\d+))?(?:\.(\d+))?([-+].*)?$/.exec(version.trim());
  if (!match) return undefined;
  return semver.valid(`${match[1]}.${match[2] ?? 0}.${match[3] ?? 0}${match[4] ?? ""}`) ?? undefined;
}

/** Negative when `a` is older than `b`; versions that are none rank below all others. */
export function compare(a: string, b: string): number {
  const left = normalize(a);
  const right = normalize(b);
  if (!left || !right) return left ? 1 : right ? -1 : a < b ? -1 : a > b ? 1 : 0;
  return semver.compare(left, right);
}

/** Whether a version meets the requirement; a branch or revision is met by none. A range takes pre-releases only when its lower end is one. */
export function satisfies(version: string, requirement: Requirement): boolean {
  const parsed = normalize(version);
  if (!parsed) return false;
  switch (requirement.kind) {
    case "exact":
      return compare(parsed, requirement.version) === 0;
    case "upToNextMajor":
    case "upToNextMinor": {
      const from = normalize(requirement.version);
      if (!from) return false;
      const limit =
        requirement.kind === "upToNextMajor" ? `${semver.major(from) + 1}.0.0` : `${semver.major(from)}.${semver.minor(from) + 1}.0`;
      return between(parsed, from, limit, false);
    }
    case "range": {
      const from = normalize(requirement.from);
      const to = normalize(requirement.to);
      return from !== undefined && to !== undefined && between(parsed, from, to, requirement.closed);
    }
    default:
      return false;
  }
}

function between(version: string, from: string, to: string, closed: boolean): boolean {
  if (semver.prerelease(version) && !semver.prerelease(from) && !(closed && semver.prerelease(to))) return false;
  if (semver.lt(version, from)) return false;
  if (closed ? semver.gt(version, to) : semver.gte(version, to)) return false;
  // 2.0.0-beta is not below the 2.0.0 that an open range ends with.
  return closed || !(semver.prerelease(version) && semver.compare(core(version), to) === 0 && !semver.prerelease(to));
}

function core(version: string): string {
  return version.replace(/[-+].*$/, "");
}

/** Whether no version can meet two requirements; `undefined` where one of them is no range of versions. */
export function areApart(a: Requirement, b: Requirement): boolean | undefined {
  const [left, right] = [rangeOf(a), rangeOf(b)];
  if (!left || !right) return undefined;
  const [lower, upper] = semver.lte(left.from, right.from) ? [left, right] : [right, left];
  return lower.closed ? semver.lt(lower.to, upper.from) : semver.lte(lower.to, upper.from);
}

/** The versions that meet a requirement: from one, up to another that is in it or not. */
function rangeOf(requirement: Requirement): { from: string; to: string; closed: boolean } | undefined {
  if (requirement.kind === "branch" || requirement.kind === "revision") return undefined;
  const from = normalize(requirement.kind === "range" ? requirement.from : requirement.version);
  if (from === undefined) return undefined;
  switch (requirement.kind) {
    case "exact":
      return { from, to: from, closed: true };
    case "upToNextMajor":
      return { from, to: `${semver.major(from) + 1}.0.0`, closed: false };
    case "upToNextMinor":
      return { from, to: `${semver.major(from)}.${semver.minor(from) + 1}.0`, closed: false };
    case "range": {
      const to = normalize(requirement.to);
      return to === undefined ? undefined : { from, to, closed: requirement.closed };
    }
  }
}

export function describe(requirement: Requirement): string {
  switch (requirement.kind) {
    case "exact":
      return requirement.version;
    case "upToNextMajor":
      return `from ${requirement.version}`;
    case "upToNextMinor":
      return `~ ${requirement.version}`;
    case "range":
      return `${requirement.from}${requirement.closed ? "…" : "..<"}${requirement.to}`;
    case "branch":
      return `branch ${requirement.name}`;
    case "revision":
      return `revision ${requirement.name}`;
  }
}
