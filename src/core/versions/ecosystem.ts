import type { Ecosystem } from "../model/facts.js";
import * as gradle from "./gradle.js";
import * as npm from "./npm.js";
import * as nuget from "./nuget.js";
import * as pub from "./pub.js";
import * as rubygems from "./rubygems.js";
import * as swiftpm from "./swiftpm.js";
import * as unity from "./unity.js";

/** What versions have in common that are said in more or fewer parts: `1.4` and `1.4.0` name one release, `1.4` and `1.4.1` two. */
export function releaseOf(version: string): string {
  return /^\d+(?:\.\d+)+$/.test(version) ? version.replace(/(?:\.0+)+$/, "") : version;
}

/** Orders two texts as the ecosystem orders versions; those that are none for it as Gradle does, which takes any text. */
export function compareAny(ecosystem: Ecosystem | undefined, a: string, b: string): number {
  try {
    return compareIn(ecosystem, a, b);
  } catch {
    return gradle.compare(a, b);
  }
}

/** Orders two versions as the ecosystem does. */
export function compareIn(ecosystem: Ecosystem | undefined, a: string, b: string): number {
  switch (ecosystem) {
    case "cocoapods":
      return rubygems.isValid(a) && rubygems.isValid(b) ? rubygems.compare(a, b) : gradle.compare(a, b);
    case "npm":
    case "cordova":
      return npm.compare(padded(a), padded(b));
    case "swiftpm":
    case "carthage":
      return swiftpm.compare(padded(a), padded(b));
    case "pub":
      return pub.compare(padded(a), padded(b));
    case "nuget":
      return nuget.compare(a, b);
    case "unity":
      return unity.compare(padded(a), padded(b));
    default:
      return gradle.compare(a, b);
  }
}

/** Whether a version lies in a range of its ecosystem's notation; `undefined` when the notation is none. */
export function satisfiesIn(ecosystem: Ecosystem | undefined, version: string, range: string): boolean | undefined {
  try {
    switch (ecosystem) {
      case "cocoapods":
        return rubygems.isValid(version) ? rubygems.satisfies(version, range) : undefined;
      case "npm":
      case "cordova":
        return npm.satisfies(padded(version), range);
      case "maven":
        return gradle.satisfies(version, range, !gradle.isDynamic(range));
      case "pub":
        return pub.satisfies(padded(version), range);
      case "nuget":
        return nuget.satisfies(version, range);
      case "unity":
        return unity.satisfies(padded(version), range);
      default:
        return npm.satisfies(padded(version), range);
    }
  } catch {
    return undefined;
  }
}

/** Three numbers, where people write one or two. */
function padded(version: string): string {
  const match = /^v?(\d+)(?:\.(\d+))?(?:\.(\d+))?(.*)$/.exec(version);
  return match ? `${match[1] ?? "0"}.${match[2] ?? "0"}.${match[3] ?? "0"}${match[4] ?? ""}` : version;
}
