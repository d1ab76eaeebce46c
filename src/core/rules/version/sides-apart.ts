import type { Dependency, PackageNeed } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import { isInstalled } from "../../model/paths.js";
import { sdkIdOf } from "../../model/sdk-id.js";
import { uniquePlaces } from "../../model/place.js";
import { textOf } from "../../model/value.js";
import { androidBlock, androidExample, iosExample } from "../examples.js";
import { defineRule } from "../rule.js";
import type { Agreement } from "../../model/sheet.js";

const android = Object.fromEntries(
  Object.entries(androidExample(`${androidBlock()}dependencies {\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n}\n`)).map(
    ([file, text]) => [`android/${file}`, text],
  ),
);
const ios = (version: string) =>
  iosExample({}, { "ios/Podfile": `platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'QuaymapSDK', '${version}'\nend\n` }, "ios/");

/** Sides that count their versions apart from each other are usually further apart than this. */
const NEAR = 3;

export const sidesApart = defineRule({
  name: "version/sides-apart",
  severity: "warning",
  title: "The versions of the two sides are too far apart",
  looksAt:
    "Native packages of one name on both sides with comparable version numbers, also those that a package of the repository asks for; a different major version is reported. Sides with unrelated numbers are passed over. A sheet can say how close they must be.",
  silentFor: "Apps of one side only, and SDKs whose version is unknown on one side.",
  why: "The vendor changes behaviour, keys or data formats with a major version: the two apps then behave differently.",
  advice: "Bring both sides to the same major version, or list the SDK in enredo.yaml (mayDiffer: { versions: [name] }).",
  examples: { reported: { ...android, ...ios("3.9.0") }, silent: { ...android, ...ios("4.1.0") } },
  check({ app, settings, sheets }) {
    const byside = (side: "android" | "ios"): Map<string, Dependency> => {
      const found = new Map<string, Dependency>();
      for (const dependency of app.dependencies) {
        if (
          dependency.side !== side ||
          !/^(maven|cocoapods|swiftpm|carthage|binary|nuget)$/.test(dependency.ecosystem) ||
          !dependency.direct ||
          dependency.platform ||
          dependency.test ||
          found.has(dependency.sdk)
        )
          continue;
        if (major(dependency) !== undefined) found.set(dependency.sdk, dependency);
      }
      return found;
    };
    const right = byside("ios");
    const ofPackages = inOwnPackages(app.packageNeeds, settings.versionsMayDiffer);
    // eslint-disable-next-line complexity -- one question after the other for each pair
    const found = [...byside("android")].flatMap(([sdk, left]) => {
      const other = right.get(sdk);
      if (!other || settings.versionsMayDiffer.includes(sdk)) return [];
      const a = major(left) ?? 0;
      const b = major(other) ?? 0;
      const agree = sheets.find((sheet) => sheet.sdk === sdk)?.agree;
      // One and the same package, which the projects of both sides refer to.
      const same = left.ecosystem === "nuget" && other.ecosystem === "nuget" && left.name.toLowerCase() === other.name.toLowerCase();
      const fits =
        agree !== undefined
          ? agrees(version(left), version(other), agree)
          : same
            ? version(left) === version(other)
            : a === b || Math.abs(a - b) > NEAR;
      if (fits) return [];
      return [
        {
          sdk,
          message: `${sdk} is ${version(left)} on Android and ${version(other)} on iOS`,
          fix: `bring both sides to the same ${same && agree === undefined ? "version" : agree === undefined || agree === "major" ? "major version" : agree === "minor" ? "minor version" : "version"}, or list ${sdk} under mayDiffer.versions in enredo.yaml`,
          places: uniquePlaces([left.declared?.place ?? left.places[0], other.declared?.place ?? other.places[0]]),
          subject: sdk,
        },
      ];
    });
    return [...found, ...ofPackages];
  },
});

/** What a package of the repository asks for on both sides under one name, in different major versions. */
function inOwnPackages(needs: readonly PackageNeed[], mayDiffer: readonly string[]): RawFinding[] {
  const own = needs.filter(
    ({ at, requirement }) => !isInstalled(at.file) && !at.file.startsWith("..") && majorIn(requirement) !== undefined,
  );
  return own.flatMap((left): RawFinding[] => {
    if (left.ecosystem !== "maven") return [];
    const sdk = sdkIdOf("maven", left.name);
    const isSame = (pod: string): boolean => sdkIdOf("cocoapods", pod).replaceAll("-", "") === sdk.replaceAll("-", "");
    const right = own.find(({ by, ecosystem, name }) => by === left.by && ecosystem === "cocoapods" && isSame(name));
    const [a, b] = [majorIn(left.requirement), majorIn(right?.requirement)].map(Number) as [number, number];
    // Whoever writes the package knows of vendors that count each side for itself; one release apart is forgotten.
    if (!right || Math.abs(a - b) !== 1 || mayDiffer.includes(sdk)) return [];
    return [
      {
        sdk,
        message: `${left.by} asks for ${sdk} ${left.requirement ?? ""} on Android and ${right.requirement ?? ""} on iOS`,
        fix: `bring both sides to the same major version, or list ${sdk} under mayDiffer.versions in enredo.yaml`,
        places: uniquePlaces([left.at, right.at]),
        subject: `${left.by} ${sdk}`,
      },
    ];
  });
}

/** Whether two versions are as near as the sheet asks. */
function agrees(left: string, right: string, agreement: Agreement): boolean {
  const numbers = (text: string): string[] => (/\d+(\.\d+)*/.exec(text)?.[0] ?? "").split(".");
  const depth = { free: 0, major: 1, minor: 2, patch: 3, exact: 9 }[agreement];
  const a = numbers(left);
  const b = numbers(right);
  // A declaration that leaves a number open agrees with any.
  for (let index = 0; index < Math.min(depth, a.length, b.length); index++) if (Number(a[index]) !== Number(b[index])) return false;
  return agreement !== "exact" || left === right || /[^\d.]/.test(left + right);
}

function version(dependency: Dependency): string {
  return dependency.locked ?? textOf(dependency.declared) ?? "?";
}

function major(dependency: Dependency): number | undefined {
  return majorIn(version(dependency));
}

function majorIn(requirement: string | undefined): number | undefined {
  const match = /^(?:from |~>? ?|= ?|[[(])?\s*v?(\d+)\./.exec(requirement ?? "");
  return match ? Number(match[1]) : undefined;
}
