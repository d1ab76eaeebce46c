import { brokenFileOf } from "../../derive/incomplete.js";
import { isWhole } from "../../derive/whole-side.js";
import { ANDROID_PERMISSION_PREFIX } from "../../knowledge/android-permissions.js";
import { PERMISSION_PAIRS } from "../../knowledge/permission-pairs.js";
import type { App } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { textOf } from "../../model/value.js";
import { reactNativeExample, iosExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (purpose: string) =>
  reactNativeExample(
    {},
    {
      "android/app/src/main/AndroidManifest.xml":
        '<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n  <uses-permission android:name="android.permission.CAMERA" />\n  <application />\n</manifest>\n',
      ...iosExample(
        { settings: "INFOPLIST_FILE = Info.plist;" },
        {
          "ios/Info.plist": `<plist version="1.0"><dict>\n<key>CFBundleName</key>\n<string>Deckpass</string>\n${purpose}</dict></plist>\n`,
        },
        "ios/",
      ),
    },
  );

export const pairBroken = defineRule({
  name: "permit/pair-broken",
  severity: "warning",
  title: "A capability is requested on one side only",
  looksAt:
    "In hybrid apps, where both sides run the same code: permissions in the app's own manifest against the purpose texts, and purpose texts against the permissions where Android never grants the capability without one. A permission that a package adds is reported as a note. Photos and files are left out.",
  silentFor: "Native apps, whose two sides may do different things.",
  why: "The shared code uses the capability on both sides: on the side that does not request it the app is terminated, or the call fails.",
  advice: "Request it on the other side as well, or remove it if nothing uses it.",
  examples: { reported: app(""), silent: app("<key>NSCameraUsageDescription</key>\n<string>Scans the boarding pass.</string>\n") },
  // eslint-disable-next-line complexity -- one question after the other for each pair; the first that has an answer gives the finding
  check({ app: model, wires }) {
    if (!model.shared || !isWhole(model, "android") || !isWhole(model, "ios")) return [];
    // What one side seems to lack may stand in a file that could not be read.
    if (brokenFileOf(model, "shared") !== undefined) return [];
    const findings: RawFinding[] = [];
    for (const { capability, android, shows = android, ios, always } of PERMISSION_PAIRS) {
      const names = new Set(android.map((name) => ANDROID_PERMISSION_PREFIX + name));
      const permissions = model.entries.filter(({ kind, name, removed }) => kind === "permission" && names.has(name) && !removed);
      const showing = permissions.filter(
        ({ name, variant }) => variant === undefined && shows.some((one) => name === ANDROID_PERMISSION_PREFIX + one),
      );
      const own = showing.find(({ by }) => by === undefined);
      // A package that brings the permission along, and that goes into the iOS app too.
      const brought = showing.find(
        ({ by }) => by !== undefined && model.dependencies.some(({ name, side }) => name === by && side === "ios"),
      );
      const texts = model.entries.filter(({ kind, name }) => kind === "purposeText" && ios.includes(name));
      const filled = texts.find(({ value }) => (textOf(value) ?? "?").trim() !== "");
      if (own && !filled) {
        findings.push({
          side: "ios",
          message: `Android requests ${capability} (${own.name}), but iOS has no ${ios[0] ?? ""}`,
          fix: `add ${ios[0] ?? ""} to the property list, or remove the permission if nothing uses ${capability}`,
          places: [own.at, ...texts.map(({ at }) => at)],
          subject: `${own.name} ${ios[0] ?? ""}`,
        });
      } else if (brought && texts.length === 0) {
        findings.push({
          side: "ios",
          severity: "note",
          message: `${brought.by ?? ""} requests ${capability} on Android (${brought.name}), but iOS has no ${ios[0] ?? ""}`,
          fix: `add ${ios[0] ?? ""} to the property list, if the app uses ${capability}`,
          places: [brought.at],
          subject: `${brought.by ?? ""} ${brought.name} ${ios[0] ?? ""}`,
        });
      } else if (wires.some(({ need, state, wanted }) => need.kind === "permission" && state === "missing" && names.has(wanted))) {
        // The SDK that needs it is reported already.
        continue;
      } else if (always && filled && permissions.length === 0 && !isOfRecorder(model, ios)) {
        findings.push({
          side: "android",
          message: `iOS requests ${capability} (${filled.name}), but Android has no ${[...names][0] ?? ""}`,
          fix: `add the permission to the manifest, or remove the purpose text if nothing uses ${capability}`,
          places: [filled.at],
          subject: `${filled.name} ${[...names][0] ?? ""}`,
        });
      }
    }
    return findings;
  },
});

/** Whether the purpose is that of a recorder of films, which on Android is another app: the app itself needs no permission there. */
const isOfRecorder = ({ code }: App, keys: readonly string[]): boolean => keys.some((key) => code?.lentPurposes.includes(key) ?? false);
