import { sideOf, sideOfLevel, type App } from "../model/app.js";
import type { LinkingFact, PackageNeed, SideName } from "../model/facts.js";
import { uniquePlaces } from "../model/place.js";
import { possibleTexts, textOf } from "../model/value.js";
import { statementsOf } from "../derive/level-statements.js";
import { normalizedUrl, usableRepositories } from "../derive/repositories.js";
import { compareLevels, isLevel } from "../versions/level.js";
import { compareIn, satisfiesIn } from "../versions/ecosystem.js";
import { NATIVE_NAME, PLATFORM_PACKAGES } from "../knowledge/platform-packages.js";
import type { Need, Wire } from "./wire.js";

/**
 * The needs that installed packages state in their own metadata, checked against the app. `from` numbers the first step; `told` are the levels
 * and wanted values that a sheet has asked for already.
 */
export function derivedWires(app: App, sdk: string, side: SideName, from: number, told: ReadonlySet<string>): Wire[] {
  const wires: Wire[] = [];
  const need = (kind: Need["kind"], what: string, derived: string, at: Need["at"]): Need => ({
    sdk,
    side,
    kind,
    step: from + wires.length,
    what,
    why: undefined,
    derived,
    at,
  });
  for (const { package: name, side: linked, native, declared, list, refresh } of app.linking.filter(notLinked)) {
    if (linked !== side || sdkOf(app, name) !== sdk) continue;
    const why = `${list?.file.split("/").at(-1) ?? "the list of what is linked"} has no ${native}`;
    wires.push({
      need: { ...need("dependency", `native code of ${name}`, `files of ${name}`, declared), why },
      state: "missing",
      problem: undefined,
      found: undefined,
      wanted: native,
      why,
      fix: refresh ?? RELINK,
      places: list ? [list] : [],
    });
  }
  for (const required of app.requiredLevels) {
    // A sheet wins over what is derived.
    if (required.sdk !== sdk || sideOfLevel(required.level) !== side || required.from === "sheet" || told.has(required.level)) continue;
    const wanted = textOf(required.value);
    if (wanted === undefined) continue;
    const statements = statementsOf(app, required.level);
    const low = statements.filter(
      ({ value }) =>
        possibleTexts(value).length > 0 && possibleTexts(value).every((text) => isLevel(text) && compareLevels(text, wanted) < 0),
    );
    // What the framework gives where the app states nothing, as `levels` shows it.
    const given = statements.length === 0 ? textOf(sideOf(app, side)?.effective[required.level]) : undefined;
    const known = given !== undefined || statements.some(({ value }) => possibleTexts(value).length > 0);
    const what = `${required.level} ${wanted}`;
    if (wires.some((wire) => wire.need.what === what)) continue;
    const tooLow = given !== undefined && isLevel(given) && compareLevels(given, wanted) < 0;
    wires.push({
      need: need(required.level as Need["kind"], what, `${required.from} of ${required.by}`, required.value.place),
      state: low.length > 0 || tooLow ? "loose" : known ? "connected" : "unknown",
      problem: undefined,
      found:
        given ?? ([...new Set((low.length > 0 ? low : statements).flatMap(({ value }) => possibleTexts(value)))].join(", ") || undefined),
      wanted: `${wanted} or higher`,
      why: known ? undefined : "the level is not in the files",
      fix: low[0]
        ? `raise ${required.level} to ${wanted} in ${low[0].value.place.file}`
        : tooLow
          ? `set ${required.level} to ${wanted}`
          : undefined,
      places: uniquePlaces((low.length > 0 ? low : statements).map(({ value }) => value.place)),
    });
  }
  if (side === "android" && app.android) {
    const usable = usableRepositories(app, app.android);
    const clear = usable.length > 0 && !usable.some((repository) => repository.kind === "url" && textOf(repository.url) === undefined);
    for (const repository of app.repositoryNeeds) {
      if (repository.sdk !== sdk || told.has(repository.url)) continue;
      const found = usable.find(({ url }) => normalizedUrl(textOf(url) ?? "") === normalizedUrl(repository.url));
      wires.push({
        need: need("repository", `repository ${repository.url}`, `android folder of ${repository.by}`, repository.at),
        state: found ? "connected" : clear ? "missing" : "unknown",
        problem: undefined,
        found: undefined,
        wanted: repository.url,
        why: found || clear ? undefined : "the repositories of this build are not all in the files",
        fix: found || !clear ? undefined : `add maven { url '${repository.url}' } in ${usable[0]?.at.file ?? ""}`,
        places: found ? [found.at] : [],
      });
    }
  }
  for (const { package: name, name: title, at } of side === "shared" ? [] : app.codegen) {
    if (sdkOf(app, name) !== sdk) continue;
    const framework = app.dependencies.find((dependency) => dependency.ecosystem === "npm" && dependency.name === "react-native");
    const version = app.shared?.framework.installed ?? framework?.locked ?? exactOf(textOf(framework?.declared));
    // Source: reactnative.dev, release 0.68: the first that reads codegenConfig.
    const reads = version === undefined ? undefined : compareIn("npm", version, "0.68.0") >= 0;
    wires.push({
      need: need("dependency", `native code generated from ${title}`, `codegen settings of ${name}`, at),
      state: reads === undefined ? "unknown" : reads ? "connected" : "unneeded",
      problem: undefined,
      found: version,
      wanted: title,
      why:
        reads === undefined
          ? "the version of React Native is not certain"
          : reads
            ? undefined
            : `React Native ${version ?? ""} does not generate it`,
      fix: undefined,
      places: [at],
    });
  }
  for (const permission of app.entries) {
    if (permission.kind !== "permission" || permission.side !== side || permission.by === undefined || sdkOf(app, permission.by) !== sdk)
      continue;
    const removed = app.entries.find((entry) => entry.kind === "permission" && entry.removed && entry.name === permission.name);
    wires.push({
      need: need("permission", `permission ${permission.name}`, `manifest of ${permission.by}`, permission.at),
      state: removed ? "loose" : "connected",
      problem: undefined,
      found: removed ? "taken out by a merge marker" : `comes with ${permission.by}`,
      wanted: permission.name,
      why: undefined,
      fix: removed ? "take the marker out, if the SDK should work in full" : undefined,
      places: [removed?.at ?? permission.at],
    });
  }
  for (const fact of app.packageNeeds) {
    // What shared code has to bring is told on each side on which the package has native code.
    const here =
      fact.side === side || (fact.side === "shared" && app.dependencies.some((own) => own.name === fact.by && own.side === side));
    if (fact.sdk !== sdk || !here || fact.requirement === undefined) continue;
    const result = checkPackageNeed(app, fact);
    // That the framework itself is there goes without saying.
    if (result.state === "connected" && fact.from === "peerDependencies" && PLATFORM_PACKAGES.npm.test(fact.name)) continue;
    wires.push({
      need: need("dependency", `${fact.name} ${fact.requirement}`, `${fact.from} of ${fact.by}`, fact.at),
      problem: undefined,
      found: result.found,
      wanted: `${fact.name} ${fact.requirement}`,
      state: result.state,
      why: result.why,
      fix:
        result.state === "loose"
          ? `bring ${fact.name} to a version in ${fact.requirement}`
          : result.state === "missing"
            ? `add ${fact.name} to package.json`
            : undefined,
      places: result.places,
    });
  }
  return wires;
}

/** What brings a list of linked pods up to date. */
export const RELINK = "run pod install and commit the lock file";

/** Whether the last installation left out a package that should have been linked. */
export function notLinked({ installed, off, automatic, manual }: LinkingFact): boolean {
  return installed === false && !off && (automatic || manual !== undefined);
}

function sdkOf(app: App, by: string): string | undefined {
  return app.dependencies.find(({ name }) => name === by)?.sdk;
}

/** Whether the app's own version of a package fits what another package asks for. */
export function checkPackageNeed(app: App, need: PackageNeed): Pick<Wire, "state" | "found" | "why" | "places"> {
  const range = need.requirement ?? "";
  const candidates = app.dependencies.filter(
    (dependency) =>
      dependency.ecosystem === need.ecosystem &&
      dependency.name === need.name &&
      (dependency.side === need.side || need.ecosystem === "npm"),
  );
  const [first] = candidates;
  if (!first) {
    if (need.from === "peerDependencies")
      switch (need.undeclared) {
        case undefined:
          return { state: "unknown", found: undefined, why: "the app's own package.json names it as a peer only", places: [] };
        case "without native code":
        case "linked by hand":
          return {
            state: "connected",
            found: need.undeclared === "linked by hand" ? need.undeclared : "installed",
            why: undefined,
            places: [need.at],
          };
        case "with native code":
          return { state: "missing", found: "installed, but only what package.json names is linked", why: undefined, places: [] };
        case "not at all":
          return NATIVE_NAME.test(need.name) && !PLATFORM_PACKAGES.npm.test(need.name)
            ? { state: "missing", found: undefined, why: undefined, places: [] }
            : { state: "unknown", found: undefined, why: "it is not installed; without native code it may not matter", places: [] };
      }
    return { state: "connected", found: "comes with the package", why: undefined, places: [need.at] };
  }
  const version = candidates
    .map((dependency) => dependency.locked ?? exactOf(textOf(dependency.declared)))
    .find((text) => text !== undefined);
  const places = [first.lockedAt ?? first.declared?.place ?? first.places[0]].filter((place) => place !== undefined);
  if (version === undefined) return { state: "unknown", found: undefined, why: "the app's version of it is not certain", places };
  const fits =
    need.ecosystem === "maven"
      ? mavenFits(version, range, first.fixedBy === "a forced version" || (textOf(first.declared) ?? "").endsWith("!!"))
      : satisfiesIn(need.ecosystem, version, range);
  if (fits === undefined) return { state: "unknown", found: version, why: "the range cannot be read", places };
  // A peer of a newer version than its asker was tried with mostly works; nobody can tell from the files.
  const lowest = need.from === "peerDependencies" ? /\d+(\.\d+)*/.exec(range)?.[0] : undefined;
  if (!fits && lowest !== undefined && compareIn("npm", version, lowest) >= 0)
    return { state: "unknown", found: version, why: `${version} is newer than what ${need.by} was made for`, places };
  return { state: fits ? "connected" : "loose", found: version, why: undefined, places };
}

/** Gradle takes the highest version: only a forced lower one, or another major version, does not fit. */
function mavenFits(version: string, wanted: string, forced: boolean): boolean {
  const plain = wanted.replace(/!!$/, "");
  if (!/^\d[\w.-]*$/.test(plain)) return satisfiesIn("maven", version.replace(/!!$/, ""), plain) ?? true;
  const own = version.replace(/!!$/, "");
  if (forced && compareIn("maven", own, plain) < 0) return false;
  return own.split(".")[0] === plain.split(".")[0];
}

function exactOf(declared: string | undefined): string | undefined {
  return declared !== undefined && /^v?\d[\w.-]*(!!)?$/.test(declared) && !declared.endsWith("+") ? declared : undefined;
}
