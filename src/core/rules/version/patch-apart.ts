import { linkingExample } from "../native/examples.js";
import { defineRule } from "../rule.js";

const patch = "diff --git a/node_modules/chart-deck/index.js b/node_modules/chart-deck/index.js\n";

export const patchApart = defineRule({
  name: "version/patch-apart",
  severity: "warning",
  title: "A package patch is for another version, or nothing applies it",
  looksAt:
    "Files in patches/, by the package and version in their names, against what is locked or installed; whether a script of the manifest applies them.",
  silentFor: "Apps without packages of npm.",
  why: "The patch no longer applies, or is applied to other code: the bug that it fixed is back.",
  advice: "Recreate the patch for the installed version, or remove it if the package no longer needs it.",
  examples: {
    reported: { ...linkingExample(), "patches/chart-deck+1.0.0.patch": patch },
    silent: { ...linkingExample(), "patches/chart-deck+2.0.0.patch": patch },
  },
  check({ app }) {
    return app.patches.flatMap(({ package: name, sdk, made, has, applied, at }) =>
      has === made && applied
        ? []
        : [
            {
              side: "shared" as const,
              sdk,
              message:
                has === undefined
                  ? `a patch is for ${name} ${made}, which the app no longer has`
                  : has !== made
                    ? `a patch is for ${name} ${made}; the app has ${has}`
                    : `a patch is for ${name}, but no script applies it`,
              fix:
                has === undefined
                  ? "remove the patch"
                  : has !== made
                    ? `check whether ${name} ${has} still needs it, and recreate it`
                    : "apply the patches in a postinstall script",
              places: [at],
              subject: `patch ${name}`,
            },
          ],
    );
  },
});
