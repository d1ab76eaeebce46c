import type { App, Side, Survey } from "../../core/model/app.js";
import { ofRelease } from "../../core/model/app.js";
import { referenceText, type Dependency, type LevelName, type SideName } from "../../core/model/facts.js";
import { isOfThirdParty } from "../../core/derive/presence.js";
import { packageIdentity } from "../../core/model/sdk-id.js";
import { inWords } from "../../core/model/suggest.js";
import { possibleTexts, textOf, type Value } from "../../core/model/value.js";
import { appLine } from "./check.js";
import { placeText, SIDE_TITLES } from "./labels.js";
import { table, wrapped } from "./layout.js";
import { clean, plural, type Style } from "./style.js";

const LEVEL_TITLES: Record<LevelName, string> = {
  minSdk: "minSdk",
  targetSdk: "targetSdk",
  compileSdk: "compileSdk",
  iosTarget: "iosTarget",
  kotlin: "Kotlin",
  swift: "Swift",
  androidPlugin: "Android plugin",
  gradle: "Gradle",
  java: "Java",
};

/** What is in here: each app with its sides, ids, levels and SDKs. */
export function surveyText(survey: Survey, style: Style, options: { verbose: boolean; quiet: boolean; side?: SideName }): string {
  const lines: string[] = [];
  for (const app of survey.apps) {
    lines.push(appLine(app, style), "");
    for (const side of [app.android, app.ios])
      if (side && (!options.side || options.side === side.side)) lines.push(...sideLines(side, style));
    if (app.shared && (!options.side || options.side === "shared")) {
      const { name, declared, installed } = app.shared.framework;
      lines.push(
        wrapped(
          style,
          `${style.bold(SIDE_TITLES.shared.padEnd(12))}${name}${declared ? ` ${valueText(declared)}` : ""}${installed ? `, ${installed} installed` : declared && app.kind !== "unity" ? ", not installed" : ""}`,
          2,
        ),
      );
    }
    lines.push("", ...sdkLines(app, style, options), "");
  }
  if (!options.quiet)
    lines.push(style.dim(`${plural(survey.apps.length, "app")}, ${plural(survey.filesRead, "file")} read in ${clean(survey.root)}`));
  return `${lines.join("\n").trimEnd()}\n`;
}

function sideLines(side: Side, style: Style): string[] {
  const first = ofRelease(side.ids);
  const others = new Set(side.ids.map(({ value }) => textOf(value)).filter((text) => text !== undefined && text !== textOf(first?.value)));
  const id = first ? valueText(first.value) : "no id found";
  const levels = (Object.entries(side.effective) as [LevelName, Value][]).map(
    ([level, value]) => `${LEVEL_TITLES[level]} ${valueText(value)}`,
  );
  const head = `  ${style.bold(SIDE_TITLES[side.side].padEnd(12))}${clean(id)}${others.size > 0 ? style.dim(` and ${[...others].map((text) => clean(text ?? "")).join(", ")}`) : ""}`;
  return levels.length > 0 ? [head, wrapped(style, style.dim(levels.join(", ")), 14)] : [head];
}

/** A value, all the values that it may have, or `unknown`. */
export function valueText(value: Value | undefined): string {
  if (!value) return "–";
  const texts = possibleTexts(value);
  return texts.length > 0 ? clean(texts.join(" or ")) : "unknown";
}

function sdkLines(app: App, style: Style, options: { verbose: boolean; side?: SideName }): string[] {
  const wanted = app.dependencies.filter((dependency) => !options.side || dependency.side === options.side);
  const shown = wanted.filter(
    (dependency) =>
      options.verbose ||
      (dependency.direct &&
        !dependency.platform &&
        !dependency.test &&
        (dependency.route !== "registry" || isOfThirdParty(app, dependency) || mayBeNative(dependency))),
  );
  const hidden = wanted.length - shown.length;
  if (shown.length === 0 && hidden === 0) return ["  no third-party packages found"];
  const rows = merged(app, shown).map(({ dependency, name, sides, places }) => [
    clean(name),
    sidesText(dependency, sides),
    routeText(dependency),
    declaredText(dependency),
    clean(dependency.locked ?? "–"),
    `${style.place(placeText(dependency.places[0] ?? { file: app.path, line: 1, column: 1 }))}${places.size > 1 ? style.dim(` and ${places.size - 1} more`) : ""}${dependency.conditional ? style.dim(", under a condition") : ""}${dependency.variant === undefined ? "" : style.dim(`, in ${clean(dependency.variant)}`)}`,
  ]);
  const lines: string[] = [];
  if (rows.length > 0) lines.push(table(style, ["SDK", "side", "route", "declared", "locked", "where"], rows));
  if (hidden > 0) {
    const platform = wanted.filter((dependency) => !shown.includes(dependency) && dependency.platform).length;
    const indirect = wanted.filter((dependency) => !shown.includes(dependency) && !dependency.platform && !dependency.direct).length;
    const tests = wanted.filter((one) => !shown.includes(one) && !one.platform && one.direct && one.test).length;
    const rest = hidden - platform - indirect - tests;
    const parts = [
      platform > 0 ? `${platform} of the platform` : "",
      indirect > 0 ? `${indirect} that others bring` : "",
      tests > 0 ? `${tests} for tests` : "",
      rest > 0 ? `${rest} without native code` : "",
    ].filter(Boolean);
    lines.push(wrapped(style, style.dim(`and ${parts.join(", ")}; --verbose lists them`), 2));
  }
  return lines;
}

/** Whether a package may have native code, where packages lie outside of the project or are not installed, so that nothing tells. */
function mayBeNative({ ecosystem, nativeUnknown }: Dependency): boolean {
  return ecosystem === "nuget" || nativeUnknown === true;
}

function sidesText({ nativeUnknown }: Dependency, sides: ReadonlySet<SideName>): string {
  if (nativeUnknown && sides.size === 1 && sides.has("shared")) return "native part unknown";
  return inWords((["android", "ios", "shared"] as const).filter((side) => sides.has(side)).map((side) => SIDE_TITLES[side]));
}

/** What is declared; for a Git reference the branch, tag or revision. */
function declaredText(dependency: Dependency): string {
  const reference = referenceText(dependency);
  if (reference !== undefined) return clean(reference);
  return dependency.declared ? valueText(dependency.declared) : (dependency.fixedBy ?? "–");
}

interface PackageRow {
  dependency: Dependency;
  /** The SDK, where a sheet describes it or packages of several names are it; else the package's own name. */
  name: string;
  sides: Set<SideName>;
  places: Set<string>;
}

/** One row for a package that several modules or targets, or both sides, declare alike. */
function merged({ sheets }: Partial<Pick<App, "sheets">>, dependencies: readonly Dependency[]): PackageRow[] {
  const rows = new Map<string, PackageRow>();
  const names = new Map<string, Set<string>>();
  for (const { sdk, name } of dependencies) names.set(sdk, (names.get(sdk) ?? new Set()).add(name));
  for (const dependency of dependencies) {
    const isNamed = sheets?.includes(dependency.sdk) === true || (names.get(dependency.sdk)?.size ?? 0) > 1;
    const name = isNamed ? dependency.sdk : shortName(dependency);
    const key = [name, dependency.ecosystem, dependency.name, textOf(dependency.declared) ?? "", dependency.locked ?? ""].join("\0");
    const row = rows.get(key) ?? { dependency, name, sides: new Set(), places: new Set() };
    row.sides.add(dependency.side);
    for (const place of dependency.places.slice(0, 1)) row.places.add(placeText(place));
    rows.set(key, row);
  }
  const order: SideName[] = ["android", "ios", "shared"];
  return [...rows.values()].sort((a, b) =>
    a.name === b.name ? order.indexOf(a.dependency.side) - order.indexOf(b.dependency.side) : a.name < b.name ? -1 : 1,
  );
}

/** A package's own name; of an address its last part. */
function shortName({ ecosystem, name }: Dependency): string {
  return ecosystem === "swiftpm" || ecosystem === "carthage" ? packageIdentity(name) : name;
}

const ECOSYSTEM_TITLES: Record<Dependency["ecosystem"], string> = {
  maven: "Maven",
  cocoapods: "pod",
  swiftpm: "Swift package",
  npm: "npm",
  pub: "pub",
  nuget: "NuGet",
  unity: "Unity package",
  cordova: "Cordova plugin",
  carthage: "Carthage",
  binary: "binary",
};

function routeText(dependency: Dependency): string {
  const title = ECOSYSTEM_TITLES[dependency.ecosystem];
  if (dependency.route === "git") return `${title}, Git`;
  if (dependency.route === "path") return `${title}, path`;
  return title;
}
