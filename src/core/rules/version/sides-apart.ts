import type { Dependency } from "../../model/facts.js";
import { uniquePlaces } from "../../model/place.js";
import { textOf } from "../../model/value.js";
import { androidBlock, androidExample, iosExample } from "../examples.js";
import { defineRule } from "../rule.js";

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
  title: "The two sides have different major versions of an SDK",
  looksAt:
    "Native packages of one name on both sides whose versions are counted alike; a major version apart is reported. Sides whose numbers are far apart count on their own and are passed over.",
  why: "The vendor changes behaviour, keys or data formats with a major version: the two apps then do not do the same.",
  mend: "Bring both sides to the same major version, or list the SDK in enredo.yaml (mayDiffer: { versions: [name] }).",
  examples: { reported: { ...android, ...ios("3.9.0") }, silent: { ...android, ...ios("4.1.0") } },
  check({ app, settings }) {
    const byside = (side: "android" | "ios"): Map<string, Dependency> => {
      const found = new Map<string, Dependency>();
      for (const dependency of app.dependencies) {
        if (
          dependency.side !== side ||
          dependency.ecosystem === "npm" ||
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
    return [...byside("android")].flatMap(([sdk, left]) => {
      const other = right.get(sdk);
      if (!other || settings.versionsMayDiffer.includes(sdk)) return [];
      const a = major(left) ?? 0;
      const b = major(other) ?? 0;
      if (a === b || Math.abs(a - b) > NEAR) return [];
      return [
        {
          sdk,
          message: `${sdk} is ${version(left)} on Android and ${version(other)} on iOS`,
          fix: `bring both sides to the same major version, or list ${sdk} under mayDiffer.versions in enredo.yaml`,
          places: uniquePlaces([left.declared?.place ?? left.places[0], other.declared?.place ?? other.places[0]]),
          subject: `${sdk} ${a} ${b}`,
        },
      ];
    });
  },
});

function version(dependency: Dependency): string {
  return dependency.locked ?? textOf(dependency.declared) ?? "?";
}

function major(dependency: Dependency): number | undefined {
  const match = /^(?:from |~>? ?|= ?|[[(])?\s*v?(\d+)\./.exec(version(dependency));
  return match ? Number(match[1]) : undefined;
}
