import { ofRelease, type App } from "../../model/app.js";
import type { Entry } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import { textOf } from "../../model/value.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const WATCH = "android.hardware.type.watch";
const STANDALONE = "com.google.android.wearable.standalone";

const app = (id: string) =>
  androidExample(androidBlock(), {
    "settings.gradle": "include ':app', ':wear'\n",
    "wear/build.gradle": `apply plugin: 'com.android.application'\n\n${androidBlock("minSdk 30\n    targetSdk 35\n    versionCode 2", id)}\n`,
    "wear/src/main/AndroidManifest.xml": `<manifest xmlns:android="http://schemas.android.com/apk/res/android">\n  <uses-feature android:name="${WATCH}" />\n  <application>\n    <meta-data android:name="${STANDALONE}" android:value="false" />\n  </application>\n</manifest>\n`,
  });

export const watchApart = defineRule({
  name: "identity/watch-apart",
  severity: "error",
  title: "A watch app that does not go with its phone app",
  looksAt:
    "Apps for watches (android.hardware.type.watch) beside the one phone app of the same Gradle build: their application ids where the manifest says that the watch app needs the phone's, and their version codes where the ids are the same.",
  silentFor: "Builds with several phone apps, watch apps that stand alone under an id of their own, and values that the files do not give.",
  why: "Data and messages between phone and watch reach only an app of the same id; the store takes each version code of an id once.",
  advice: "Give both the same application id, and a version code of its own to each.",
  examples: { reported: app("example.maresia.pilot.wear"), silent: app("example.maresia.pilot") },
  checkProject: ({ apps }) =>
    apps.flatMap((watch) => (has(watch, WATCH) ? apart(watch, phonesBeside(watch, apps)).map((raw) => ({ ...raw, app: watch.name })) : [])),
});

function featureOf(app: App, name: string): Entry | undefined {
  return app.entries.find((entry) => entry.kind === "feature" && entry.side === "android" && entry.by === undefined && entry.name === name);
}

const has = (app: App, name: string): boolean => featureOf(app, name) !== undefined;

/** Apps of the same build that are for phones. */
function phonesBeside({ android }: App, apps: readonly App[]): App[] {
  return apps.filter(
    (other) =>
      other.android !== undefined &&
      other.android.build.folder === android?.build.folder &&
      ![WATCH, "android.software.leanback", "android.hardware.type.television", "android.hardware.type.automotive"].some((name) =>
        has(other, name),
      ),
  );
}

function apart(watch: App, [phone, another]: readonly App[]): RawFinding[] {
  const [own, theirs] = [watch, phone].map((app) => ofRelease(app?.android?.ids ?? []));
  const [id, phoneId] = [textOf(own?.value), textOf(theirs?.value)];
  if (!phone || another || !own || !theirs || id === undefined || phoneId === undefined) return [];
  if (id !== phoneId) {
    const standalone = watch.entries.find(({ kind, side, name }) => kind === "metaData" && side === "android" && name === STANDALONE);
    if (textOf(standalone?.value) !== "false" || !standalone) return [];
    return [
      {
        side: "android",
        message: `the watch app is ${id} and needs the phone's (${STANDALONE} is false), which is ${phoneId}: they do not find each other`,
        fix: `give the watch app the id ${phoneId}`,
        places: [own.at, theirs.at, standalone.at],
        subject: `id ${id}`,
      },
    ];
  }
  const [code, phoneCode] = [watch, phone].map(
    ({ android }) => android?.module.settings.find(({ block, name }) => block === "defaultConfig" && name === "versionCode")?.values[0],
  );
  const text = textOf(code);
  if (!code || !phoneCode || text === undefined || text !== textOf(phoneCode)) return [];
  return [
    {
      side: "android",
      message: `the watch app and the phone app are both ${id} with the version code ${text}: the store takes it once`,
      fix: "give each a version code of its own",
      places: [code.place, phoneCode.place],
      subject: `version code ${id}`,
    },
  ];
}
