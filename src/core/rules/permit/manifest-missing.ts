import { findingsFromWires } from "../from-wires.js";
import { privacyManifest, quaymapIos, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: ios, privacyManifest: own");
const pod = (files: Record<string, string>) => ({
  ...quaymapIos(),
  ...sheet,
  "Pods/QuaymapSDK/Sources/Map.swift": "import UIKit\n",
  ...files,
});

export const manifestMissing = defineRule({
  name: "permit/manifest-missing",
  severity: "error",
  title: "An SDK that must carry a privacy manifest does not",
  looksAt:
    "Sheets that ask for one, against the files of the SDK that lie on this machine: installed pods, packages with a podspec, checkouts of Swift packages, frameworks in the project. Unknown where some of its files do not.",
  silentFor: "Android.",
  why: "The store publishes a list of SDKs that must carry a privacy manifest, and rejects uploads with one that does not.",
  advice: "Take a version of the SDK that ships the manifest.",
  examples: {
    reported: pod({}),
    silent: pod({ "Pods/QuaymapSDK/PrivacyInfo.xcprivacy": privacyManifest("UserDefaults", "CA92.1") }),
  },
  check({ wires }) {
    return findingsFromWires(wires, { rule: "permit/manifest-missing" });
  },
});
