import { stringify } from "yaml";
import { RUNTIME_PERMISSIONS } from "../knowledge/android-permissions.js";
import type { App } from "../model/app.js";
import type { Entry, SideName } from "../model/facts.js";
import { baseName } from "../model/paths.js";
import type { Place } from "../model/place.js";
import { textOf } from "../model/value.js";
import { isPlaceholderText } from "../knowledge/placeholder-texts.js";
import { usableRepositories } from "../derive/repositories.js";
import { KEY_OF, type PackageKey } from "../model/sheet.js";

/** Parts of names that say nothing about whose they are. */
const COMMON = new Set([
  "android",
  "ios",
  "sdk",
  "react",
  "native",
  "core",
  "mobile",
  "kit",
  "swift",
  "lib",
  "library",
  "plugin",
  "gradle",
  "git",
  "github",
  "maven",
  "https",
  "client",
  "app",
  "apps",
  "com",
  "org",
  "net",
  "www",
  "example",
]);

/**
 * Writes a sheet out of the wiring that one SDK has in an app. Each line says where it came from; what only may belong to the SDK is
 * marked `unsure`. With `everything` all that the app states counts as the SDK's: for an app that holds only what came with it.
 * `undefined` when the SDK is not in the app.
 */
export function draftSheet(app: App, sdk: string, { everything = false } = {}): string | undefined {
  const packages = app.dependencies.filter((dependency) => dependency.sdk === sdk && !dependency.test);
  if (packages.length === 0) return undefined;
  const words = wordsOf(
    sdk,
    packages.map(({ name }) => name),
  );
  const mentions = (text: string): boolean => {
    if (everything) return true;
    const plain = text.toLowerCase().replace(/[^a-z0-9]/g, "");
    return words.some((word) => plain.includes(word));
  };
  const lines: string[] = [`sdk: ${sdk}`, `title: ${scalar(sdk.charAt(0).toUpperCase() + sdk.slice(1))}`, "packages:"];
  const byKey = new Map<PackageKey, Map<string, Place>>();
  for (const { ecosystem, name, places } of packages) {
    const key = KEY_OF[ecosystem];
    const place = places[0];
    if (key && place) byKey.set(key, (byKey.get(key) ?? new Map<string, Place>()).set(name, byKey.get(key)?.get(name) ?? place));
  }
  for (const need of app.packageNeeds) {
    const key = KEY_OF[need.ecosystem];
    if (key && need.sdk === sdk && need.from !== "peerDependencies" && mentions(need.name))
      byKey.set(key, (byKey.get(key) ?? new Map<string, Place>()).set(need.name, need.at));
  }
  for (const [key, names] of byKey) {
    const list = [...names];
    const [only] = list;
    if (list.length === 1 && only) lines.push(`  ${key}: ${scalar(only[0])}${from(only[1])}`);
    else lines.push(`  ${key}:`, ...list.map(([name, place]) => `    - ${scalar(name)}${from(place)}`));
  }
  lines.push("needs:");
  const before = lines.length;
  const need = (side: SideName | "both", kind: string, value: string, place: Place | undefined, unsure?: string): void => {
    lines.push(`  - on: ${side}`, `    ${kind}: ${value}${from(place)}${unsure === undefined ? "" : `; unsure: ${unsure}`}`);
  };

  for (const { level, value, by } of app.requiredLevels.filter((required) => required.sdk === sdk)) {
    const text = textOf(value);
    if (text !== undefined)
      need(level === "iosTarget" || level === "swift" ? "ios" : "android", level, JSON.stringify(text), value.place, undefined);
    void by;
  }
  if (app.android) {
    const urls = new Set<string>();
    for (const { url, at } of app.repositoryNeeds.filter((fact) => fact.sdk === sdk))
      if (urls.size < urls.add(url).size) need("android", "repository", scalar(url), at);
    for (const { url, at } of usableRepositories(app, app.android)) {
      const text = textOf(url);
      if (
        text !== undefined &&
        /^https?:/.test(text) &&
        mentions(/^https?:\/\/([^/]+)/.exec(text)?.[1] ?? "") &&
        urls.size < urls.add(text).size
      )
        need("android", "repository", scalar(text), at);
    }
    const plugins = new Map(app.buildPlugins.filter(({ id, applied }) => applied && mentions(id)).map((plugin) => [plugin.id, plugin.at]));
    for (const [id, at] of plugins) need("android", "buildPlugin", scalar(id), at);
  }
  for (const file of app.serviceFiles.filter((candidate) => candidate.read !== false && mentions(baseName(candidate.file))))
    need(file.side, "serviceFile", scalar(baseName(file.file)), { file: file.file, line: 1, column: 1 });
  draftKeys(app, mentions, need, lines);
  for (const entry of app.entries) {
    if (entry.removed) continue;
    const foreign = entry.by !== undefined && !packages.some(({ name }) => name === entry.by);
    if (foreign) continue;
    switch (entry.kind) {
      case "permission":
        if (entry.by !== undefined) break;
        if (RUNTIME_PERMISSIONS.has(entry.name)) need("android", "permission", scalar(entry.name), entry.at, `keep it if ${sdk} uses it`);
        break;
      case "purposeText":
        if (entry.variant === undefined) need("ios", "purposeText", scalar(entry.name), entry.at, `keep it if ${sdk} uses it`);
        break;
      case "component":
        if (entry.by === undefined && mentions(entry.name))
          need(
            "android",
            "manifestEntry",
            `{ element: service, name: ${scalar(entry.name)} }`,
            entry.at,
            "set element to what the manifest has",
          );
        break;
      case "entitlement":
      case "backgroundMode":
        if (mentions(entry.name)) need("ios", entry.kind, scalar(entry.name), entry.at);
        break;
      case "urlScheme":
      case "queriedScheme":
        if (mentions(entry.name))
          need(
            entry.side,
            entry.kind,
            scalar(entry.name),
            entry.at,
            entry.kind === "urlScheme" ? "build it from its key if the vendor does" : undefined,
          );
        break;
      case "host":
        if (mentions(entry.name)) need(entry.side, "host", scalar(entry.name), entry.at);
        break;
      default:
        break;
    }
  }
  for (const { rules, by } of app.rulesFiles)
    if (by === undefined) for (const { text, at } of rules) if (mentions(text)) need("android", "keepRule", scalar(text), at);
  for (const { name, form, embedded, at } of app.links) {
    if (!mentions(name) || form === undefined) continue;
    need(
      "ios",
      "embed",
      `{ name: ${scalar(name)}, kind: ${form} }`,
      at,
      embedded === (form === "dynamic") ? undefined : "the app links it another way",
    );
  }
  draftCode(app, sdk, need);
  if (lines.length === before) lines[lines.length - 1] = "needs: []";
  return `${lines.join("\n")}\n`;
}

/** Starts and imports in the app's own code. */
function draftCode(
  app: App,
  sdk: string,
  need: (side: SideName | "both", kind: string, value: string, place: Place | undefined, unsure?: string) => void,
): void {
  const told = new Set<string>();
  for (const { sdk: own, side, kind, callee, reach, phase, at } of app.code?.calls ?? []) {
    if (own !== sdk || (kind !== "heuristicStart" && kind !== "start") || reach === "never" || told.has(`${side} ${callee}`)) continue;
    told.add(`${side} ${callee}`);
    const when = phase === "launch" || phase === "beforeLaunch" || phase === "provider" ? ", at: launch" : "";
    need(side, "start", `{ ${side}: ${scalar(callee)}${when} }`, at, kind === "heuristicStart" ? "it is named like a start" : undefined);
  }
  for (const { sdk: own, side, package: name, at } of app.code?.imports ?? []) {
    if (own !== sdk || side !== "shared" || told.has(`import ${name}`)) continue;
    told.add(`import ${name}`);
    need(side, "import", scalar(name), at);
  }
}

function draftKeys(
  app: App,
  mentions: (text: string) => boolean,
  need: (side: SideName | "both", kind: string, value: string, place: Place | undefined, unsure?: string) => void,
  lines: string[],
): void {
  const forms: Partial<Record<Entry["kind"], string>> = {
    metaData: "manifest",
    plist: "plist",
    string: "string",
    placeholder: "placeholder",
    buildConfig: "buildConfig",
    env: "env",
    asset: "asset",
  };
  const found = app.entries.filter((entry) => {
    const text = textOf(entry.value);
    return (
      forms[entry.kind] !== undefined &&
      entry.by === undefined &&
      mentions(entry.name) &&
      text !== undefined &&
      text.length >= 6 &&
      !/\s/.test(text) &&
      !isPlaceholderText(text) &&
      !/^(true|false)$/.test(text)
    );
  });
  if (found.length === 0) return;
  const places = [...new Map(found.map((entry) => [`${entry.kind} ${entry.name}`, entry])).values()];
  const sides = new Set(places.map(({ side }) => side));
  const on = sides.has("android") && sides.has("ios") ? "both" : sides.has("ios") ? "ios" : sides.has("android") ? "android" : "both";
  need(
    on,
    "key",
    `{ name: key, in: [${places.map((entry) => `${forms[entry.kind] ?? ""}: ${scalar(entry.name)}`).join(", ")}] }`,
    places[0]?.at,
    "one key or several; add the shape that the vendor gives it",
  );
  for (const entry of places.slice(1)) lines.push(`    # also at ${entry.at.file}:${entry.at.line}`);
}

function from(place: Place | undefined): string {
  return place === undefined ? "  # found in the app" : `  # from ${place.file}:${place.line}`;
}

function scalar(text: string): string {
  return stringify(text, { lineWidth: 0 }).trimEnd();
}

/** Words by which names show that they are the SDK's. */
function wordsOf(sdk: string, names: readonly string[]): string[] {
  const words = new Set<string>([sdk.replace(/[^a-z0-9]/g, "")]);
  for (const name of names) {
    for (const word of name
      .replace(/([a-z0-9])([A-Z])/g, "$1-$2")
      .toLowerCase()
      .split(/[^a-z0-9]+/))
      if (word.length >= 5 && !COMMON.has(word) && sdk.includes(word)) words.add(word);
  }
  return [...words].filter((word) => word.length >= 4);
}
