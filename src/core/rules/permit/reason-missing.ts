import { brokenFileOf } from "../../derive/incomplete.js";
import { usesWithoutReason } from "../../derive/reasons.js";
import { PRIVACY_MANIFEST, REASONS_ASKED_FROM, RESTRICTED_INTERFACES } from "../../knowledge/restricted-interfaces.js";
import { inWords } from "../../model/suggest.js";
import type { RawFinding } from "../../model/finding.js";
import type { App } from "../../model/app.js";
import { baseName } from "../../model/paths.js";
import { iosExample, privacyManifest } from "../examples.js";
import { defineRule } from "../rule.js";

const source = { "Pilot/Log.swift": 'import Foundation\n\nfunc seen() {\n  UserDefaults.standard.set(true, forKey: "seen")\n}\n' };
const xcode = { synchronized: ["Pilot"] };

export const reasonMissing = defineRule({
  name: "permit/reason-missing",
  severity: "error",
  title: "Code uses a required-reason API, but no privacy manifest gives a reason",
  looksAt:
    "APIs for file timestamps, system boot time, disk space, active keyboards and user defaults: in the source files of the shipped target, in those that the podspecs and manifests of installed packages take in, and among the symbols that dynamic frameworks import; against the privacy manifests that get into the app, its own and those of its packages. Also a privacy manifest that is in no target.",
  silentFor:
    "Code under a preprocessor's condition, static libraries, pods and Swift packages that are not on this machine, iOS projects that a framework generates, and APIs that a language has its own names for (.NET).",
  why: "The store rejects the upload.",
  advice:
    "Say in the app's privacy manifest why each API category is used, with one of the reasons that the platform's documentation lists.",
  examples: {
    reported: iosExample(xcode, source),
    silent: iosExample(xcode, { ...source, [`Pilot/${PRIVACY_MANIFEST}`]: privacyManifest("UserDefaults", "CA92.1") }),
  },
  check({ app, today }) {
    const { ios } = app;
    if (!ios || ios.generated || brokenFileOf(app, "ios") !== undefined) return [];
    return [...withoutReason(app, today), ...leftOut(app)];
  },
});

function withoutReason(app: App, today: string | undefined): RawFinding[] {
  if (today !== undefined && today < REASONS_ASKED_FROM) return [];
  const own = app.privacyManifests.filter(({ by }) => by === undefined);
  const without = usesWithoutReason(app);
  return [...new Set(without.map(({ by }) => by))].map((by): RawFinding => {
    const open = without.filter((use) => use.by === by);
    const kinds = open.flatMap(({ category }) => RESTRICTED_INTERFACES.filter((kind) => kind.category === category));
    const manifest = own.find(({ taken }) => taken)?.file;
    const idle = own.find(({ taken }) => !taken)?.file;
    const file = manifest ?? idle;
    return {
      side: "ios",
      sdk: open[0]?.sdk,
      ...(by === undefined ? {} : { severity: "warning" as const }),
      message: `${by ?? "the app's own code"} uses ${inWords(kinds.map(({ title }) => title))}, but ${manifest === undefined ? "no privacy manifest in the app" : "the app's privacy manifest"} gives ${manifest === undefined ? "a" : "no"} reason for it`,
      fix: `${manifest ? `add to NSPrivacyAccessedAPITypes in ${manifest}` : idle ? `add ${idle} to the target, with` : `add a ${PRIVACY_MANIFEST} to the target, with`} ${inWords(kinds.map(({ category, reasons: codes }) => `${category} (${codes.join(", ")}: the one that applies)`))}`,
      places: [...(file === undefined ? [] : [{ file, line: 1, column: 1 }]), ...open.map(({ at }) => at)],
      subject: `${by ?? ""} ${kinds.map(({ category }) => category).join(" ")}`,
    };
  });
}

function leftOut({ privacyManifests, ios }: App): RawFinding[] {
  const own = privacyManifests.filter(({ by }) => by === undefined);
  if (own.some(({ taken }) => taken)) return [];
  return own.map(({ file }) => ({
    side: "ios",
    sdk: undefined,
    severity: "warning",
    message:
      baseName(file) === PRIVACY_MANIFEST
        ? `${file} is in no target, so it is not in the app`
        : `${file} is not named ${PRIVACY_MANIFEST}: the system ignores it`,
    fix: baseName(file) === PRIVACY_MANIFEST ? `add ${file} to the target ${ios?.target.name ?? ""}` : `name it ${PRIVACY_MANIFEST}`,
    places: [{ file, line: 1, column: 1 }],
    subject: file,
  }));
}
