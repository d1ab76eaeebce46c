import { brokenFileOf } from "../../derive/incomplete.js";
import type { Dependency, PackageManager } from "../../model/facts.js";
import { isInstalled } from "../../model/paths.js";
import { textOf } from "../../model/value.js";
import * as gradle from "../../versions/gradle.js";
import * as npm from "../../versions/npm.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (version: string): string =>
  `${androidBlock()}dependencies {\n  implementation 'example.quaymap:quaymap-android:${version}'\n}\n`;

export const floating = defineRule({
  name: "version/floating",
  severity: "warning",
  title: "A version is not pinned",
  looksAt:
    "Declared versions that do not say which one is built (+, latest, any, *, a Git branch, no version at all) where neither a lock file nor a BOM, a catalog, a constraint or the framework pins it.",
  why: "A release of the SDK changes your app without a commit, and last month's build cannot be reproduced.",
  advice: "Declare a version, or pin it with a lock file.",
  examples: { reported: androidExample(app("4.+")), silent: androidExample(app("4.2.0")) },
  check({ app }) {
    const { dependencies, locks } = app;
    const seen = new Set<string>();
    // A package that a lock file does not have yet is the business of version/lock-stale.
    const locked = new Set(locks.flatMap(({ lock, manager }) => (lock === undefined ? [] : (ECOSYSTEM_OF[manager] ?? []))));
    // A package that a central list leaves out is told as that.
    const leftOut = new Set(app.centralVersions.flatMap(({ name, what }) => (what === "no version" ? name : [])));
    return dependencies.flatMap((dependency) => {
      if (leftOut.has(dependency.name)) return [];
      const found = openNotation(dependency);
      const key = `${dependency.ecosystem} ${dependency.name}`;
      const ofSide = `${dependency.side} ${key}`;
      // The version may stand in the part of a file that could not be read.
      if (dependency.declared === undefined && !dependency.reference && brokenFileOf(app, dependency.side) !== undefined) return [];
      // What lies in the repository has the version that it has there.
      if (app.ownPackages.some(({ name }) => dependency.ecosystem === "npm" && name === dependency.name)) return [];
      if (found === undefined || seen.has(ofSide) || locked.has(dependency.ecosystem)) return [];
      seen.add(ofSide);
      return [
        {
          // A package says so for itself, and only its vendor can pin it there.
          ...(dependency.places.every(({ file }) => isInstalled(file)) ? { severity: "note" as const } : {}),
          side: dependency.side,
          sdk: dependency.sdk,
          message: `the version of ${dependency.name} is not pinned: ${found}`,
          fix: "declare the version that was tested, or commit a lock file",
          places: dependency.places,
          subject: key,
        },
      ];
    });
  },
});

const ECOSYSTEM_OF: Partial<Record<PackageManager, Dependency["ecosystem"]>> = {
  npm: "npm",
  yarn: "npm",
  pnpm: "npm",
  cocoapods: "cocoapods",
  swiftpm: "swiftpm",
  carthage: "carthage",
  pub: "pub",
  nuget: "nuget",
  unity: "unity",
};

// eslint-disable-next-line complexity -- one case for each ecosystem
function openNotation(dependency: Dependency): string | undefined {
  if (!dependency.direct || dependency.test || dependency.locked !== undefined || dependency.fixedBy !== undefined) return undefined;
  if (dependency.route === "path" || dependency.route === "binary") return undefined;
  if (dependency.declared && dependency.declared.kind !== "known") return undefined;
  const declared = textOf(dependency.declared);
  if (dependency.reference?.kind === "branch") return `it follows the branch ${dependency.reference.text}`;
  if (dependency.reference?.kind === "none") return "it follows the default branch of a Git repository";
  switch (dependency.ecosystem) {
    case "maven":
      if (declared === undefined) return "no version is declared";
      return gradle.isDynamic(declared) && !gradle.isRange(declared) ? `"${declared}"` : undefined;
    case "cocoapods":
      if (dependency.reference) return undefined;
      return declared === undefined ? "no version is declared" : undefined;
    case "npm": {
      const specifier = npm.parseSpecifier(declared ?? "*");
      if (specifier.kind === "tag") return `"${declared ?? ""}"`;
      return specifier.kind === "range" && npm.takesAnything(specifier.range) ? `"${declared ?? ""}"` : undefined;
    }
    case "pub":
      return declared === undefined || declared === "any" ? `"${declared ?? "any"}"` : undefined;
    case "nuget":
      return declared === undefined ? "no version is declared" : declared.includes("*") ? `"${declared}"` : undefined;
    case "cordova":
      return declared === undefined || declared === "*" || declared === "latest" ? `"${declared ?? "no version"}"` : undefined;
    case "carthage":
      return declared === undefined ? "no version is declared" : undefined;
    default:
      return undefined;
  }
}
