import { STORE_FLOORS, TOLD_BEFORE } from "../../knowledge/store-floors.js";
import { leastPlugin, majorOf, unsaid } from "../../derive/android-plugin.js";
import type { App } from "../../model/app.js";
import { possibleTexts, type Value } from "../../model/value.js";
import { compareLevels, isLevel } from "../../versions/level.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const DAY = 24 * 60 * 60 * 1000;

export const storeFloor = defineRule({
  name: "level/store-floor",
  severity: "warning",
  title: "The store does not accept an app with this target level",
  looksAt:
    "The target level of the app that is shipped, against the level that the platform's store requires on the day of the check, and up to three months before a new one applies.",
  silentFor: "iOS, and apps whose target level is not in the files.",
  why: "The upload is refused on the day of the release.",
  advice: "Raise the target level, and read what changes for apps with it. If the app goes to no store, switch the rule off.",
  examples: {
    reported: androidExample(androidBlock("minSdk 24\n    targetSdk 33")),
    silent: androidExample(androidBlock("minSdk 24\n    targetSdk 36")),
  },
  check({ app, today }) {
    const side = app.android;
    const value = side?.effective.targetSdk ?? fallback(app);
    const texts = possibleTexts(value).filter(isLevel);
    if (!side || !value || texts.length === 0 || today === undefined) return [];
    const soon = new Date(Date.parse(today) + TOLD_BEFORE * DAY).toISOString().slice(0, 10);
    const floor = STORE_FLOORS.findLast(
      ({ from, value: wanted }) => from <= soon && texts.every((text) => compareLevels(text, wanted) < 0),
    );
    if (!floor) return [];
    const fact = side.levels.find(({ level, variant }) => level === "targetSdk" && variant === undefined);
    return [
      {
        side: "android",
        sdk: undefined,
        message: `targetSdk is ${side.effective.targetSdk ? "" : "not set, so that it is minSdk, "}${texts[0] ?? ""}; the store requires ${floor.value} ${floor.from <= today ? "since" : "from"} ${floor.from}${floor.from <= today ? "" : " on"}`,
        fix: `${side.effective.targetSdk ? "raise" : "set"} targetSdk to ${floor.value}`,
        places: [fact?.value.place ?? value.place],
        subject: `targetSdk ${floor.value}`,
      },
    ];
  },
});

/**
 * What the target level is where nothing says it. Source: developer.android.com, "<uses-sdk>" (targetSdkVersion equals minSdkVersion if it is not set),
 * "Android Gradle plugin 9.0 release notes" (from then on it is compileSdk).
 */
function fallback(app: App): Value | undefined {
  return majorOf(leastPlugin(app)) < 9 && unsaid(app, /^(set)?targetSdk/i) ? app.android?.effective.minSdk : undefined;
}
