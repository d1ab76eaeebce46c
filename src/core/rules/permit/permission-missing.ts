import type { App } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: android, permission: android.permission.ACCESS_FINE_LOCATION");

export const permissionMissing = defineRule({
  name: "permit/permission-missing",
  severity: "error",
  title: "A permission that an SDK needs is missing",
  looksAt:
    "The permissions in the app's manifests, its modules' and those that installed libraries bring, against what sheets require; in a Flutter or React Native app whose code goes to the network, the permission for it in the main manifest.",
  why: "The call that needs it fails on the device, often without a message.",
  advice: "Add the permission to the main manifest.",
  examples: {
    reported: { ...quaymapAndroid(), ...sheet },
    silent: { ...quaymapAndroid({ manifest: `  <uses-permission android:name="android.permission.ACCESS_FINE_LOCATION" />\n` }), ...sheet },
  },
  check({ wires, app }) {
    return [...findingsFromWires(wires, { rule: "permit/permission-missing" }), ...networkWithoutPermission(app)];
  },
});

const INTERNET = "android.permission.INTERNET";

/**
 * Flutter's template asks for the network in the manifests of debug and profile builds alone. Told only where nothing else can bring the
 * permission. Source: docs.flutter.dev, "Networking" (Android), "Build and release an Android app" (app manifest).
 */
function networkWithoutPermission(app: App): RawFinding[] {
  const network = app.code?.network;
  const [manifest] = app.manifests;
  if ((app.kind !== "flutter" && app.kind !== "react-native") || !app.android || !network || manifest === undefined) return [];
  const main = app.manifests.find((file) => file.includes("/main/")) ?? manifest;
  const permissions = app.entries.filter(({ kind, side, name }) => kind === "permission" && side === "android" && name === INTERNET);
  // Only what is asked for in debug builds shows that the release lacks it: packages of the other framework may bring it.
  if (app.kind === "react-native" && !(permissions.length > 0 && permissions.every(({ variant }) => /debug/i.test(variant ?? ""))))
    return [];
  const inAll = permissions.some(({ variant, removed }) => !removed && (variant === undefined || /release$/i.test(variant)));
  // Binaries from registries may bring it: those that plugins name, and those of a plugin that is not here.
  const closed = app.dependencies.every(
    ({ side, platform, test, ecosystem, nativeUnknown, name }) =>
      side === "ios" ||
      platform ||
      test ||
      (ecosystem === "pub" && nativeUnknown !== true && !app.packageNeeds.some(({ by, ecosystem: of }) => by === name && of === "maven")),
  );
  if (inAll || (app.kind === "flutter" && !closed) || app.android.module.dependencies.some(({ kind }) => kind === "module")) return [];
  return [
    {
      side: "android",
      message: `${network.what} goes to the network, but the main manifest does not request ${INTERNET}: it fails in release builds`,
      fix: `add <uses-permission android:name="${INTERNET}" /> to ${main}`,
      places: [network.at, { file: main, line: 1, column: 1 }],
      subject: INTERNET,
    },
  ];
}
