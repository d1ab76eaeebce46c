import type { App, DebugOption } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { textOf } from "../../model/value.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (attribute: string) =>
  androidExample(androidBlock(), {
    "app/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n  <application${attribute}>\n  </application>\n</manifest>\n`,
  });

const WORDS: Record<DebugOption["what"], (text: string) => { message: string; fix: string }> = {
  debuggable: (text) => ({
    message: `${text} makes release builds debuggable: stores refuse them`,
    fix: "remove it; the debug build type is debuggable by itself",
  }),
  "test only": (text) => ({ message: `${text} is in every build: such a build cannot be installed from a store`, fix: "remove it" }),
  "development server": (text) => ({
    message: `the app loads its pages from ${text} in every build`,
    fix: "remove it, or set it only where a development server runs",
  }),
  "developer support": (text) => ({
    message: `${text} is true in every build: a release opens the menu for developers and looks for their machine`,
    fix: "write BuildConfig.DEBUG in place of true",
  }),
  "debug symbol": (text) => ({
    message: `${text}: code for debug builds is in the release`,
    fix: "remove DEBUG there; only the debug configuration has it",
  }),
  archive: (text) => ({
    message: `${text}: what is sent to the store is a debug build`,
    fix: "let it archive the configuration for releases",
  }),
  "development client": (text) => ({
    message: `${text} is true: what it builds opens the launcher for developers`,
    fix: "remove it there",
  }),
  "page inspection": (text) => ({
    message: `${text} is on in every build: anybody can look into the pages of a release`,
    fix: "remove it: debug builds have it by themselves",
  }),
};

export const debugOption = defineRule({
  name: "project/debug-option",
  severity: "warning",
  title: "An option for development reaches release builds",
  looksAt:
    "android:debuggable and android:testOnly in the app's own manifests, debuggable in the release build type and its signing with the debug key (a note), DEBUG among the conditions of a release configuration, schemes that archive the debug configuration, a release whose bundle id is that of development, the development server and the inspection of pages in Capacitor's configuration; the development client in a build profile for production; developer support and the packager as the only source of scripts in React Native's native code; and, as a note, that every host may be reached without encryption, on either side. What stands under a condition or in the files of debug builds is left alone.",
  why: "A store refuses the build, or everybody can look into the app or at what it sends.",
  advice: "Move the option to the debug build, or remove it.",
  examples: { reported: app(' android:debuggable="true"'), silent: app("") },
  check({ app: model }) {
    const findings: RawFinding[] = [...model.debugOptions, ...(model.code?.debugOptions ?? [])].map(({ what, side, text, at }) => ({
      side,
      ...WORDS[what](text),
      places: [at],
      subject: `${what} ${side}`,
    }));
    debuggableReleases(model, findings);
    findings.push(...signedForDebugging(model), ...idOfDevelopment(model));
    for (const { kind, name, side, value, variant, by, at } of model.entries) {
      // The hosts that a Cordova page may reach are another matter.
      if (/(^|\/)config\.xml$/.test(at.file)) continue;
      if (
        kind !== "clearText" ||
        name !== "*" ||
        side === "shared" ||
        variant !== undefined ||
        by !== undefined ||
        textOf(value) !== "true"
      )
        continue;
      findings.push({
        side,
        severity: "note",
        message: `every host may be reached without encryption on ${side === "ios" ? "iOS" : "Android"}, in every build`,
        fix:
          side === "ios"
            ? "allow the hosts that need it under NSExceptionDomains"
            : "allow the hosts that need it in a network security configuration, or move the attribute to the debug manifest",
        places: [at],
        subject: `clear text ${side}`,
      });
    }
    return findings;
  },
});

/** Release builds that can be debugged. */
function debuggableReleases(model: App, findings: RawFinding[]): void {
  for (const { block, name, values, conditional } of model.android?.module.settings ?? []) {
    const [value] = values;
    if (block !== "buildType:release" || !/^(is|set)?debuggable$/i.test(name) || conditional || textOf(value) !== "true" || !value)
      continue;
    findings.push({
      side: "android",
      ...WORDS.debuggable("debuggable true in the release build type"),
      places: [value.place],
      subject: "debuggable release",
    });
  }
}

/** A release that is signed with the key of every machine of a developer. Source: developer.android.com, "Sign your app". */
function signedForDebugging({ kind, android }: App): RawFinding[] {
  const settings = android?.module.settings ?? [];
  // Templates of frameworks begin so; who has made a signing for the release has it to use it.
  const own = settings.some(({ block }) => /^signingConfigs\.(?!debug\b)/.test(block));
  if (kind !== "native" && !own) return [];
  return settings.flatMap(({ block, name, values, conditional }): RawFinding[] => {
    const [value] = values;
    if (block !== "buildType:release" || name !== "signingConfig" || conditional || !value) return [];
    if (textOf(value) !== "debug") return [];
    return [
      {
        side: "android",
        severity: "note",
        message: "the release build is signed with the debug key: a store refuses it",
        fix: "give the release a signingConfig of its own, or sign the bundle after the build",
        places: [value.place],
        subject: "signing of release",
      },
    ];
  });
}

/** A bundle id that ends as those of builds for developers do, for the release alone. */
function idOfDevelopment({ ios }: App): RawFinding[] {
  const ids = (ios?.ids ?? []).flatMap(({ value, variant = "" }) =>
    value.kind === "known" ? [{ text: value.text, variant, at: value.place }] : [],
  );
  return ids.flatMap(({ text, variant, at }): RawFinding[] => {
    const stem = /^(.+)\.(?:dev|debug|develop|development|staging|test|qa)$/i.exec(text)?.[1];
    if (!/^release$/i.test(variant) || stem === undefined || !ids.some((other) => /^debug$/i.test(other.variant) && other.text === stem))
      return [];
    return [
      {
        side: "ios",
        message: `the bundle id of ${variant} is ${text}, and that of Debug is ${stem}: the two are swapped`,
        fix: `give ${variant} the id ${stem}`,
        places: [at],
        subject: "bundle id of release",
      },
    ];
  });
}
