/** npm's order and ranges, by npm's own library; plus the notations of a dependency that are no ranges. */
import semver from "semver";

export type Specifier =
  | { kind: "range"; range: string }
  | { kind: "tag"; tag: string }
  | { kind: "git"; url: string; ref?: string; semver?: string }
  | { kind: "path"; path: string; linked: boolean }
  | { kind: "url"; url: string }
  | { kind: "workspace"; range: string }
  | { kind: "alias"; name: string; range: string }
  | { kind: "catalog"; name: string };

/** Reads the right-hand side of a dependency in `package.json`. Source: npm documentation, "package.json, dependencies". */
// eslint-disable-next-line complexity -- one question for each form of a specifier
export function parseSpecifier(text: string): Specifier {
  const spec = text.trim();
  if (spec.startsWith("workspace:")) return { kind: "workspace", range: spec.slice(10) };
  if (spec.startsWith("catalog:")) return { kind: "catalog", name: spec.slice(8) || "default" };
  const path = /^(file:|link:|portal:)(.*)$/.exec(spec);
  if (path) return { kind: "path", path: path[2] as string, linked: path[1] !== "file:" };
  if (/^(\.{1,2}|~)?\//.test(spec) || /^\.{1,2}$/.test(spec)) return { kind: "path", path: spec, linked: false };
  const alias = /^npm:((?:@[^/@]+\/)?[^@]+)(?:@(.*))?$/.exec(spec);
  if (alias) return { kind: "alias", name: alias[1] as string, range: alias[2] ?? "*" };
  if (
    /^(git(\+[a-z]+)?:|git@)/.test(spec) ||
    /^(github|gitlab|bitbucket|gist):/.test(spec) ||
    /^[\w.-]+\/[\w.-]+(#.*)?$/.test(spec) ||
    /^https?:.*\.git(#.*)?$/.test(spec)
  ) {
    const [url = spec, ref] = spec.split("#");
    if (ref?.startsWith("semver:")) return { kind: "git", url, semver: ref.slice(7) };
    return ref ? { kind: "git", url, ref } : { kind: "git", url };
  }
  if (/^https?:/.test(spec)) return { kind: "url", url: spec };
  if (spec === "" || semver.validRange(spec) !== null) return { kind: "range", range: spec || "*" };
  return { kind: "tag", tag: spec };
}

export function compare(a: string, b: string): number {
  return semver.compare(semver.coerce(a, { includePrerelease: true }) ?? "0.0.0", semver.coerce(b, { includePrerelease: true }) ?? "0.0.0");
}

/** Whether a version lies in a range, as npm decides it. */
export function satisfies(version: string, range: string): boolean {
  return semver.satisfies(version, range);
}

/** Whether some version lies in both of two ranges; `undefined` where one of them is none. */
export function rangesMeet(one: string, other: string): boolean | undefined {
  return semver.validRange(one) === null || semver.validRange(other) === null ? undefined : semver.intersects(one, other);
}

/** A range that takes any version. */
export function takesAnything(range: string): boolean {
  const set = semver.validRange(range);
  return set === "*" || set === "" || set === ">=0.0.0";
}
