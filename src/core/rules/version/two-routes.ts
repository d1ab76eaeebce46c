import type { Dependency } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import { uniquePlaces } from "../../model/place.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (more: string): string =>
  `${androidBlock()}dependencies {\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n${more}}\n`;

export const twoRoutes = defineRule({
  name: "version/two-routes",
  severity: "error",
  title: "An SDK comes into one side twice",
  looksAt:
    "The same SDK as a pod and as a Swift package, as an AAR or JAR in the tree and from Maven, as a package and as a framework dragged into the project.",
  why: "Two copies mean duplicate classes or symbols: the build fails, or the app runs with one copy set up and the other used.",
  advice: "Keep one route and remove the other, with its settings.",
  examples: {
    reported: androidExample(app("  implementation files('libs/quaymap-android-4.0.0.aar')\n"), {
      "app/libs/quaymap-android-4.0.0.aar!/AndroidManifest.xml": "<manifest />",
    }),
    silent: androidExample(app("")),
  },
  check({ app: { dependencies } }) {
    const groups = new Map<string, Dependency[]>();
    for (const dependency of dependencies) {
      if (
        dependency.side === "shared" ||
        !NATIVE_ROUTES.has(dependency.ecosystem) ||
        dependency.test ||
        dependency.conditional ||
        dependency.platform
      )
        continue;
      const key = `${dependency.side} ${dependency.sdk}`;
      const group = groups.get(key);
      if (group) group.push(dependency);
      else groups.set(key, [dependency]);
    }
    const findings: RawFinding[] = [];
    for (const [key, group] of groups) {
      const routes = new Map<string, Dependency>();
      for (const dependency of group) if (!routes.has(dependency.ecosystem)) routes.set(dependency.ecosystem, dependency);
      const [first] = group;
      if (routes.size < 2 || !first) continue;
      const listed = [...routes.values()].map((dependency) => `${ROUTES[dependency.ecosystem]} ${dependency.name}`);
      findings.push({
        side: first.side,
        sdk: first.sdk,
        message: `${first.sdk} comes in by ${routes.size} routes: ${listed.join(" and ")}`,
        fix: "keep one route and remove the other",
        places: uniquePlaces([...routes.values()].flatMap((dependency) => dependency.places.slice(0, 1))),
        subject: key,
      });
    }
    return findings;
  },
});

/** Routes by which native code arrives; a wrapper beside them is how it is meant. */
const NATIVE_ROUTES: ReadonlySet<Dependency["ecosystem"]> = new Set(["maven", "cocoapods", "swiftpm", "carthage", "binary"]);

const ROUTES: Record<Dependency["ecosystem"], string> = {
  maven: "the Maven package",
  cocoapods: "the pod",
  swiftpm: "the Swift package",
  carthage: "the Carthage entry",
  npm: "the npm package",
  pub: "the pub package",
  nuget: "the NuGet package",
  unity: "the Unity package",
  cordova: "the Cordova plugin",
  binary: "the binary",
};
