import type { App } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { versionOf } from "../../wiring/match.js";
import { compareIn, satisfiesIn } from "../../versions/ecosystem.js";
import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet('on: android, companion: "example.quaymap:quaymap-tiles"');

export const companionMissing = defineRule({
  name: "version/companion-missing",
  severity: "error",
  title: "Another package that the SDK needs is absent or too old",
  looksAt:
    "Companions that a sheet names, and the peer dependencies of installed packages with native code, optional ones left out. Newer versions than the range allows are not reported.",
  why: "Nobody installs it by themselves: the build stops, or the part that needs it fails when it is used.",
  mend: "Add the package, or raise it to the version named.",
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
    return [...findingsFromWires(wires, { kinds: ["companion"] }), ...peers(app)];
  },
});

function peers(app: App): RawFinding[] {
  return app.packageNeeds.flatMap((need) => {
    if (need.from !== "peerDependencies" || need.requirement === undefined) return [];
    const own = app.dependencies.find(({ ecosystem, name }) => ecosystem === "npm" && name === need.name);
    // Package managers add an absent peer by themselves, unless they are told not to; what is installed decides.
    if (!own) return [];
    const version = versionOf(own);
    const lowest = /\d+(\.\d+)*/.exec(need.requirement)?.[0];
    if (version === undefined || lowest === undefined || own.locked === undefined) return [];
    const fits = satisfiesIn("npm", version, need.requirement);
    if (fits !== false || compareIn("npm", version, lowest) >= 0) return [];
    return [
      {
        side: own.side,
        sdk: need.sdk,
        message: `${need.by} wants ${need.name} ${need.requirement}; this app has ${version}`,
        fix: `raise ${need.name} to a version in ${need.requirement}`,
        places: [own.lockedAt ?? own.places[0], need.at].filter((place) => place !== undefined),
        subject: `${need.by} ${need.name} ${need.requirement} ${version}`,
      },
    ];
  });
}
