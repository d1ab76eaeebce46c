import { uniquePlaces } from "../../model/place.js";
import { linkingExample } from "./examples.js";
import { defineRule } from "../rule.js";

export const leftOut = defineRule({
  name: "native/left-out",
  severity: "warning",
  title: "Linking is disabled for a side",
  looksAt: "Settings that disable linking of a package with native code for Android or iOS, where nothing links it by hand.",
  silentFor: "Native apps, and frameworks without a setting that disables a package for one side.",
  why: "The shared code calls the package on both sides; on the side where it is disabled the call fails.",
  advice: "Remove the setting, guard the calls by platform, or accept the finding with the reason.",
  examples: {
    reported: linkingExample({
      config: "module.exports = {\n  dependencies: {\n    'chart-deck': { platforms: { ios: null } },\n  },\n};\n",
    }),
    silent: linkingExample({ config: "module.exports = {\n  dependencies: {},\n};\n" }),
  },
  check({ app }) {
    return app.linking.flatMap(({ package: name, sdk, side, off, manual, declared }) =>
      off === undefined || manual !== undefined
        ? []
        : [
            {
              side,
              sdk,
              message: `linking of ${name} is disabled for ${side === "ios" ? "iOS" : "Android"} by a setting`,
              fix: "remove the setting, or guard the calls of the package by platform",
              places: uniquePlaces([off, declared]),
              subject: `${name} ${side}`,
            },
          ],
    );
  },
});
