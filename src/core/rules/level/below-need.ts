import type { App } from "../../model/app.js";
import { isInstalled } from "../../model/paths.js";
import { sideOfLevel } from "../../model/app.js";
import { furtherApps } from "../../derive/further-targets.js";
import { statementsOf } from "../../derive/level-statements.js";
import type { LevelFact, LevelName } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import type { QuickFix } from "../../model/quick-fix.js";
import { uniquePlaces } from "../../model/place.js";
import { possibleTexts, textOf, type Value } from "../../model/value.js";
import { compareLevels, isLevel } from "../../versions/level.js";
import { androidBlock, reactNativeExample } from "../examples.js";
import { defineRule } from "../rule.js";
import type { Settings } from "../../settings/settings.js";

const chart = {
  "node_modules/chart-deck/package.json": '{ "name": "chart-deck", "version": "2.0.0" }',
  "node_modules/chart-deck/android/build.gradle":
    "apply plugin: 'com.android.library'\nandroid {\n  defaultConfig {\n    minSdkVersion 26\n  }\n}\n",
};

export const belowNeed = defineRule({
  name: "level/below-need",
  severity: "error",
  title: "A level is lower than something in the app requires",
  looksAt:
    "The minimum and compile level on Android and the deployment target on iOS, against what installed packages, local modules and the team's own minimum require.",
  why: "The build fails when manifests are merged or pods are installed; where it does not, the app crashes on the devices in between.",
  advice: "Raise the level at the place shown, or use a version of the package that requires less.",
  examples: {
    reported: reactNativeExample({ "chart-deck": "2.0.0" }, chart),
    silent: reactNativeExample(
      { "chart-deck": "2.0.0" },
      { ...chart, "android/app/build.gradle": `apply plugin: 'com.android.application'\n${androidBlock("minSdk 26\n    targetSdk 35")}` },
    ),
  },
  check({ app, settings }) {
    const requiredLevels = requiredLevelsOf(app, settings);
    const own = singles(app, requiredLevels);
    // What the whole project says has been told for the shipped target.
    const further = furtherApps(app).flatMap(({ target, app: seen }) =>
      singles(
        seen,
        requiredLevelsOf(seen, settings).filter(({ level }) => level === "iosTarget"),
        target,
      ),
    );
    return together([...own, ...podfile(app, requiredLevels), ...further]);
  },
});

/** Every demand that a level of the app is too low for; of a further target only what it states itself. */
function singles(app: App, requiredLevels: readonly Ask[], target?: string): Single[] {
  const byLevel = new Map<LevelName, LevelFact[]>();
  return requiredLevels.flatMap(({ level, value, by, sdk, from }) => {
    const side = sideOfLevel(level);
    const wanted = textOf(value);
    if (wanted === undefined || !isLevel(wanted)) return [];
    let statements = byLevel.get(level);
    if (!statements)
      byLevel.set(level, (statements = statementsOf(app, level).filter(({ owner }) => target === undefined || owner === "app")));
    const low = statements.filter((fact) => isBelow(fact.value, wanted));
    const [first] = low;
    if (!first) return [];
    const found = possibleTexts(first.value)[0] ?? "";
    const where = variantsOf(low);
    const finding: RawFinding = {
      side,
      sdk,
      // What a package itself is compiled with is advice; what its metadata asks for stops the build.
      ...(from === "own compile level" ? { severity: "warning" as const } : {}),
      message: `${from === "settings" ? "the team's minimum is" : `${by} needs`} ${level} ${wanted}; this app has ${found}${where}`,
      fix: from === "settings" ? `raise ${level} to ${wanted}, the team's minimum` : `raise ${level} to ${wanted} in ${ownFile(first)}`,
      places: uniquePlaces([...low.flatMap((fact) => [fact.value.place, fact.at]), value.place]),
      subject: `${by} ${level} ${wanted}${target === undefined ? "" : ` ${target}`}`,
      // Only where each statement is one plain value.
      ...(low.every(({ value: { kind } }) => kind === "known")
        ? { quickFix: raised(app, level, low, highestOf(requiredLevels, level) ?? wanted) }
        : {}),
    };
    return [{ finding, ask: { level, wanted, by, found, where, target } }];
  });
}

/** What a package's podspec says of its platform, read by CocoaPods against that of the Podfile. */
const OF_PODS = /^(podspec|its pod scripts)$/;

/**
 * Pods that the Podfile's platform is too low for, where the app's own target is not: their installation stops. Source: CocoaPods, "Podfile Syntax
 * Reference" (platform), "Podspec Syntax Reference" (deployment_target).
 */
function podfile(app: App, requiredLevels: readonly Ask[]): Single[] {
  const platforms = (app.ios?.levels ?? []).filter(({ level, owner }) => level === "iosTarget" && owner === "podfile");
  const [platform] = platforms;
  const found = textOf(platform?.value);
  if (!platform || platforms.length > 1 || found === undefined) return [];
  const own = statementsOf(app, "iosTarget");
  return requiredLevels.flatMap(({ level, value, by, sdk, from }) => {
    const wanted = textOf(value);
    if (level !== "iosTarget" || !OF_PODS.test(from) || wanted === undefined || !isLevel(wanted) || !isBelow(platform.value, wanted))
      return [];
    if (own.some((fact) => isBelow(fact.value, wanted))) return [];
    const finding: RawFinding = {
      side: "ios",
      sdk,
      message: `${by} needs ${level} ${wanted}; the Podfile's platform is ${found}: its pod is not installed`,
      fix: `raise the platform to ${wanted} in ${platform.value.place.file}`,
      places: uniquePlaces([platform.value.place, value.place]),
      subject: `${by} ${level} ${wanted} podfile`,
    };
    return [{ finding, ask: { level, wanted, by, found, where: " (the Podfile's platform)", target: undefined } }];
  });
}

interface Single {
  finding: RawFinding;
  ask: { level: LevelName; wanted: string; by: string; found: string; where: string; target: string | undefined };
}

/** So many that one low level is too low for are one finding. */
const SEVERAL = 3;

/** One low level is one mistake, however many packages ask for more. */
function together(single: readonly Single[]): RawFinding[] {
  const groups = new Map<string, Single[]>();
  for (const finding of single) {
    const { level, found, where, target } = finding.ask;
    const key = `${level}\0${found}\0${where}\0${target ?? ""}`;
    groups.set(key, [...(groups.get(key) ?? []), finding]);
  }
  return [...groups.values()].flatMap((group): RawFinding[] => {
    if (group.length < SEVERAL) return group.map(({ finding }) => finding);
    const sorted = [...group].sort((a, b) => compareLevels(b.ask.wanted, a.ask.wanted) || (a.ask.by < b.ask.by ? -1 : 1));
    const [{ ask, finding: first }] = sorted as [Single];
    const { level, found, where, target } = ask;
    const byWanted = new Map<string, string[]>();
    for (const { ask: one } of sorted) byWanted.set(one.wanted, [...(byWanted.get(one.wanted) ?? []), one.by]);
    const list = [...byWanted]
      .map(([wanted, names]) => `${names.join(", ")} ${names.length === 1 ? "needs" : "need"} ${wanted}`)
      .join("; ");
    return [
      {
        side: first.side,
        sdk: first.sdk,
        message: `${level} ${found}${where} is too low for ${group.length} packages: ${list}`,
        fix: first.fix,
        places: uniquePlaces(sorted.flatMap(({ finding }) => finding.places)),
        subject: `${level} of several${target === undefined ? "" : ` ${target}`}`,
        ...(group.every(({ finding }) => finding.severity === "warning") ? { severity: "warning" as const } : {}),
        ...(first.quickFix === undefined ? {} : { quickFix: first.quickFix }),
      },
    ];
  });
}

/** Where the level is to be stated: not in a file that is installed, as a framework's default is. */
function ownFile({ value: { place }, at }: LevelFact): string {
  return isInstalled(place.file) ? at.file : place.file;
}

/** Of several demands the highest: whatever asks for less has what it needs then too. */
function highestOf(requiredLevels: readonly Ask[], level: LevelName): string | undefined {
  const wanted = requiredLevels.flatMap((ask) => (ask.level === level ? (textOf(ask.value) ?? []) : [])).filter(isLevel);
  return wanted.sort(compareLevels).at(-1);
}

/** The statements at the level that is wanted; with the app's deployment target the one that the Podfile states beside it. */
function raised(app: App, level: LevelName, low: readonly LevelFact[], wanted: string): QuickFix[] {
  const beside = (app.ios?.levels ?? []).filter(
    (fact) =>
      level === "iosTarget" &&
      fact.level === level &&
      fact.owner === "podfile" &&
      fact.value.kind === "known" &&
      fact.value.place.file === app.ios?.pods?.file &&
      isBelow(fact.value, wanted),
  );
  return [...low, ...beside].map((fact) => ({ do: "replace", at: fact.value.place, from: textOf(fact.value) ?? "", to: wanted }));
}

interface Ask {
  level: LevelName;
  value: Value;
  by: string;
  sdk: string | undefined;
  from: string;
}

/** One demand per asker and level, the highest; the team's floors count as demands. */
function requiredLevelsOf(app: App, settings: Settings): Ask[] {
  const asks: Ask[] = app.requiredLevels.map(({ level, value, by, sdk, from }) => ({ level, value, by, sdk, from }));
  for (const [level, { value, place }] of settings.floors)
    asks.push({ level, value: { kind: "known", text: value, place }, by: "the team's settings", sdk: undefined, from: "settings" });
  const highest = new Map<string, Ask>();
  for (const ask of asks) {
    const key = `${ask.level} ${ask.by}`;
    const known = highest.get(key);
    const text = textOf(ask.value);
    if (text === undefined) continue;
    if (!known || compareLevels(text, textOf(known.value) ?? "0") > 0) highest.set(key, ask);
  }
  // A package of shared code and the pod made from it are two names for one demand, which stands in one podspec.
  const packages = new Set(app.dependencies.flatMap(({ ecosystem, name }) => (ecosystem === "npm" ? name : [])));
  const spec = ({ level, value: { place } }: Ask): string | undefined =>
    /\.podspec(\.json)?$/.test(place.file) ? `${level} ${place.file}:${place.line}` : undefined;
  const told = new Set([...highest.values()].filter(({ by }) => packages.has(by)).map(spec));
  return [...highest.values()].filter((ask) => packages.has(ask.by) || spec(ask) === undefined || !told.has(spec(ask)));
}

function isBelow(value: Value, wanted: string): boolean {
  const texts = possibleTexts(value);
  return texts.length > 0 && texts.every((text) => isLevel(text) && compareLevels(text, wanted) < 0);
}

function variantsOf(facts: LevelFact[]): string {
  const variants = facts.flatMap(({ variant }) => variant ?? []);
  return variants.length > 0 &&
    variants.length < 4 &&
    facts.length === variants.length &&
    !(variants.includes("Release") && variants.includes("Debug"))
    ? ` in ${variants.join(", ")}`
    : "";
}
