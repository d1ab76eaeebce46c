import { NATIVE_NAME, PLATFORM_PACKAGES } from "../../knowledge/platform-packages.js";
import type { App } from "../../model/app.js";
import type { PackageNeed } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import { checkPackageNeed } from "../../needs/derived.js";
import { textOf } from "../../model/value.js";
import { satisfiesIn } from "../../versions/ecosystem.js";
import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet('on: android, companion: "example.quaymap:quaymap-tiles"');

export const companionMissing = defineRule({
  name: "version/companion-missing",
  severity: "error",
  title: "A package that the SDK requires is missing or too old",
  looksAt:
    "Companions that a sheet names, and the peer dependencies of installed packages, of packages without native code only those on packages that are named like ones with it; optional ones are left out; of those that are installed without being declared, the ones whose native code is then not linked. Newer versions than the range allows are not reported. Of a Unity project what packages of the tree ask for in their manifests: other packages, and the editor.",
  why: "It is not installed automatically: the build stops, or the part that needs it fails when it is used.",
  advice: "Add the package, or raise it to the version named.",
  examples: {
    reported: { ...quaymapAndroid(), ...sheet },
    silent: {
      ...quaymapAndroid(),
      ...sheet,
      "app/build.gradle": (quaymapAndroid()["app/build.gradle"] ?? "").replace(
        "dependencies {\n",
        "dependencies {\n  implementation 'example.quaymap:quaymap-tiles:4.2.0'\n",
      ),
    },
  },
  check({ app, wires }) {
    return [...findingsFromWires(wires, { rule: "version/companion-missing" }), ...peers(app), ...unmet(app)];
  },
});

/** What packages of the tree ask for in their own manifests, held against what the lock has. */
function unmet({ packageRequirements }: App): RawFinding[] {
  return packageRequirements.flatMap(({ by, sdk, name, wanted, found }) => {
    const text = textOf(wanted);
    if (text === undefined || (found !== undefined && !isOlder(found, text))) return [];
    return [
      {
        side: "shared",
        sdk,
        message: `${by} requires ${name} ${text}; this app has ${found ?? "none"}`,
        fix: `raise ${name} to ${text}`,
        places: [wanted.place],
        subject: `${by} ${name} ${text}`,
      },
    ];
  });
}

/** Whether a version is below another: versions of packages, or of the editor, whose letters come behind the numbers. */
function isOlder(version: string, wanted: string): boolean {
  const fits = satisfiesIn("unity", version, wanted);
  if (fits !== undefined) return !fits;
  const [own, asked] = [version, wanted].map((text) => (/^\d+(?:\.\d+)*/.exec(text)?.[0] ?? "").split(".").map(Number)) as [
    number[],
    number[],
  ];
  const differing = asked.findIndex((part, index) => (own[index] ?? 0) !== part);
  return differing !== -1 && (own[differing] ?? 0) < (asked[differing] ?? 0);
}

function peers(app: App): RawFinding[] {
  return app.packageNeeds.flatMap((need) => {
    if (need.from !== "peerDependencies" || need.requirement === undefined) return [];
    const own = app.dependencies.find(({ ecosystem, name }) => ecosystem === "npm" && name === need.name);
    if (!own) return undeclared(app, need);
    const result = checkPackageNeed(app, need);
    if (result.state !== "loose" || result.found === undefined) return [];
    const version = result.found;
    return [
      {
        side: own.side,
        sdk: need.sdk,
        message: `${need.by} requires ${need.name} ${need.requirement}; this app has ${version}`,
        fix: `update ${need.name} to a version in ${need.requirement}`,
        places: [own.lockedAt ?? own.places[0], need.at].filter((place) => place !== undefined),
        subject: `${need.by} ${need.name} ${need.requirement}`,
      },
    ];
  });
}

/**
 * A package that another one wants and that package.json does not name. Package managers add it by themselves, unless they are told not to;
 * but only what package.json names is linked. Source: the React Native command line, docs/autolinking.md.
 */
function undeclared(app: App, { undeclared: how, ...need }: PackageNeed): RawFinding[] {
  const absent = how === "not at all" && NATIVE_NAME.test(need.name);
  if ((!absent && how !== "with native code") || PLATFORM_PACKAGES.npm.test(need.name)) return [];
  return [
    {
      side: need.side,
      sdk: need.sdk,
      message: absent
        ? `${need.by} requires ${need.name}, which is not installed`
        : `${need.by} requires ${need.name}, which is installed but not linked, as package.json does not list it`,
      fix: `add ${need.name} to the dependencies in package.json`,
      places: [app.dependencies.find(({ ecosystem, name }) => ecosystem === "npm" && name === need.by)?.places[0], need.at].filter(
        (place) => place !== undefined,
      ),
      subject: `${need.by} ${need.name} undeclared`,
    },
  ];
}
