/**
 * Versions of Unity packages: SemVer; what a manifest asks for is this version or a newer one that another package asks for.
 * Source: docs.unity3d.com, "Package dependency and resolution".
 */
import semver from "semver";

export function compare(a: string, b: string): number {
  const left = semver.parse(a);
  const right = semver.parse(b);
  if (!left || !right) return left ? 1 : right ? -1 : 0;
  return left.compare(right);
}

export function satisfies(version: string, asked: string): boolean | undefined {
  return semver.valid(version) === null || semver.valid(asked) === null ? undefined : compare(version, asked) >= 0;
}
