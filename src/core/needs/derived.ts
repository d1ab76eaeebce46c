import { sideOf, sideOfLevel, type App } from "../model/app.js";
import type { LevelName, LinkingFact, PackageNeed, SideName } from "../model/facts.js";
import { uniquePlaces } from "../model/place.js";
import { reason } from "../model/reason.js";
import { possibleTexts, textOf } from "../model/value.js";
import { statementsOf } from "../derive/level-statements.js";
import { isWhole } from "../derive/whole-side.js";
import { normalizedUrl, usableRepositories } from "../derive/repositories.js";
import { compareLevels, isLevel } from "../versions/level.js";
import { compareIn, satisfiesIn } from "../versions/ecosystem.js";
import { rangesMeet } from "../versions/npm.js";
import { NATIVE_NAME, PLATFORM_PACKAGES } from "../knowledge/platform-packages.js";
import { homeOf } from "./context.js";
import type { Need, Wire } from "./wire.js";

/** What a need that packages bring is asked of. */
interface Subject {
  app: App;
  sdk: string;
  side: SideName;
  /** The levels and wanted values that a sheet has asked for already: a sheet wins over what is derived. */
  told: ReadonlySet<string>;
}

/** A wire whose need has no number yet. */
type Derived = Pick<Need, "kind" | "what" | "derived" | "at"> & Pick<Wire, "state" | "found" | "wanted" | "why" | "fix" | "places">;

/** What packages state in their own metadata, in the order in which it is told. */
const SOURCES: readonly ((subject: Subject) => Derived[])[] = [
  linking,
  levels,
  repositories,
  generatedCode,
  permissions,
  purposeTexts,
  packages,
];

/**
 * The needs that installed packages state in their own metadata, checked against the app. `from` numbers the first step; `told` are the levels
 * and wanted values that a sheet has asked for already.
 */
export function derivedWires(app: App, sdk: string, side: SideName, from: number, told: ReadonlySet<string>): Wire[] {
  return SOURCES.flatMap((source) => source({ app, sdk, side, told })).map(({ kind, what, derived, at, ...result }, index) => ({
    need: { sdk, side, kind, step: from + index, what, why: undefined, derived, at },
    problem: undefined,
    ...result,
  }));
}

function linking({ app, sdk, side }: Subject): Derived[] {
  return app.linking
    .filter((fact) => notLinked(fact) && fact.side === side && sdkOf(app, fact.package) === sdk)
    .map(({ package: name, native, declared, list, refresh }) => {
      const why = list
        ? reason("list-without", { list: list.file.split("/").at(-1) ?? list.file, native })
        : reason("not-linked", { native });
      return {
        kind: "dependency",
        what: `native code of ${name}`,
        derived: `files of ${name}`,
        at: declared,
        state: "missing",
        found: undefined,
        wanted: native,
        why,
        fix: refresh ?? RELINK,
        places: list ? [list] : [],
      };
    });
}

/** Each level once, as the first package asks for it. */
function levels({ app, sdk, side, told }: Subject): Derived[] {
  const asked = app.requiredLevels.flatMap((required) => {
    const wanted = textOf(required.value);
    return required.sdk !== sdk ||
      sideOfLevel(required.level) !== side ||
      required.from === "sheet" ||
      told.has(required.level) ||
      wanted === undefined
      ? []
      : [[`${required.level} ${wanted}`, { required, wanted }] as const];
  });
  return [...new Map(asked.toReversed())].toReversed().map(([what, { required, wanted }]) => ({
    kind: required.level as Need["kind"],
    what,
    derived: `${required.from} of ${required.by}`,
    at: required.value.place,
    ...checkRequired(app, side, required.level, wanted),
  }));
}

function checkRequired(app: App, side: SideName, level: LevelName, wanted: string): Omit<Derived, "kind" | "what" | "derived" | "at"> {
  const statements = statementsOf(app, level);
  const tooLow = (text: string): boolean => isLevel(text) && compareLevels(text, wanted) < 0;
  const low = statements.filter(({ value }) => possibleTexts(value).length > 0 && possibleTexts(value).every(tooLow));
  // What the framework gives where the app states nothing, as `levels` shows it.
  const given = statements.length === 0 ? textOf(sideOf(app, side)?.effective[level]) : undefined;
  const known = given !== undefined || statements.some(({ value }) => possibleTexts(value).length > 0);
  const [first] = low;
  const givenLow = given !== undefined && tooLow(given);
  const shown = first ? low : statements;
  return {
    state: first || givenLow ? "loose" : known ? "connected" : "unknown",
    found: given ?? ([...new Set(shown.flatMap(({ value }) => possibleTexts(value)))].join(", ") || undefined),
    wanted: `${wanted} or higher`,
    why: known ? undefined : reason("level-missing"),
    fix: first ? `raise ${level} to ${wanted} in ${first.value.place.file}` : givenLow ? `set ${level} to ${wanted}` : undefined,
    places: uniquePlaces(shown.map(({ value }) => value.place)),
  };
}

function repositories({ app, sdk, side, told }: Subject): Derived[] {
  if (side !== "android" || !app.android) return [];
  const usable = usableRepositories(app, app.android);
  const clear = usable.length > 0 && !usable.some((repository) => repository.kind === "url" && textOf(repository.url) === undefined);
  return app.repositoryNeeds
    .filter((repository) => repository.sdk === sdk && !told.has(repository.url))
    .map((repository) => {
      const found = usable.find(({ url }) => normalizedUrl(textOf(url) ?? "") === normalizedUrl(repository.url));
      return {
        kind: "repository",
        what: `repository ${repository.url}`,
        derived: `android folder of ${repository.by}`,
        at: repository.at,
        state: found ? "connected" : clear ? "missing" : "unknown",
        found: undefined,
        wanted: repository.url,
        why: found || clear ? undefined : reason("repositories-open"),
        fix: found || !clear ? undefined : `add maven { url '${repository.url}' } in ${usable[0]?.at.file ?? ""}`,
        places: found ? [found.at] : [],
      };
    });
}

function generatedCode({ app, sdk, side }: Subject): Derived[] {
  if (side === "shared") return [];
  const framework = app.dependencies.find((dependency) => dependency.ecosystem === "npm" && dependency.name === "react-native");
  const version = app.shared?.framework.installed ?? framework?.locked ?? exactOf(textOf(framework?.declared));
  // Source: reactnative.dev, release 0.68: the first that reads codegenConfig.
  const reads = version === undefined ? undefined : compareIn("npm", version, "0.68.0") >= 0;
  return app.codegen
    .filter((fact) => sdkOf(app, fact.package) === sdk)
    .map(({ package: name, name: title, at }) => ({
      kind: "dependency",
      what: `native code generated from ${title}`,
      derived: `codegen settings of ${name}`,
      at,
      state: reads === undefined ? "unknown" : reads ? "connected" : "unneeded",
      found: version,
      wanted: title,
      why:
        reads === undefined
          ? reason("react-native-version-open")
          : reads
            ? undefined
            : reason("react-native-generates-none", { version: version ?? "" }),
      fix: undefined,
      places: [at],
    }));
}

function permissions({ app, sdk, side }: Subject): Derived[] {
  return app.entries.flatMap((permission): Derived[] => {
    const { by, kind, name, at } = permission;
    if (kind !== "permission" || permission.side !== side || by === undefined || sdkOf(app, by) !== sdk) return [];
    const removed = app.entries.find((entry) => entry.kind === "permission" && entry.removed && entry.name === name);
    return [
      {
        kind,
        what: `permission ${name}`,
        derived: `manifest of ${by}`,
        at,
        state: removed ? "loose" : "connected",
        found: removed ? "removed by a merge marker" : `comes with ${by}`,
        wanted: name,
        why: undefined,
        fix: removed ? "remove the marker if the SDK should work in full" : undefined,
        places: [removed?.at ?? at],
      },
    ];
  });
}

/** Purpose texts that the native code of the SDK's packages needs. */
function purposeTexts({ app, sdk, side, told }: Subject): Derived[] {
  if (side !== "ios") return [];
  return app.guardedUses.flatMap(({ keys, by, sdk: own, perhaps, at }): Derived[] => {
    const [key = ""] = keys;
    if (own !== sdk || by === undefined || perhaps || keys.some((one) => told.has(one))) return [];
    const found = app.entries.find(
      ({ kind, name, side: of, removed, value }) =>
        kind === "purposeText" && of === "ios" && !removed && keys.includes(name) && (textOf(value) ?? "?").trim() !== "",
    );
    const seen = isWhole(app, "ios");
    return [
      {
        kind: "purposeText",
        what: `purpose text ${found?.name ?? key}`,
        derived: `native code of ${by}`,
        at,
        state: found ? "connected" : seen ? "missing" : "unknown",
        found: found ? "there" : undefined,
        wanted: key,
        why: found || seen ? undefined : reason("property-list-missing"),
        fix: found || !seen ? undefined : `add ${key} to ${homeOf(app, "ios", "plist")}, with a sentence saying what it is used for`,
        places: found ? [found.at] : [at],
      },
    ];
  });
}

function packages({ app, sdk, side }: Subject): Derived[] {
  return app.packageNeeds.flatMap((fact): Derived[] => {
    // What shared code has to bring is told on each side on which the package has native code.
    const here =
      fact.side === side || (fact.side === "shared" && app.dependencies.some((own) => own.name === fact.by && own.side === side));
    if (fact.sdk !== sdk || !here || fact.requirement === undefined) return [];
    const result = checkPackageNeed(app, fact);
    // That the framework itself is there goes without saying.
    if (result.state === "connected" && fact.from === "peerDependencies" && PLATFORM_PACKAGES.npm.test(fact.name)) return [];
    const what = `${fact.name} ${fact.requirement}`;
    const fix = { loose: `bring ${fact.name} to a version in ${fact.requirement}`, missing: `add ${fact.name} to package.json` };
    return [
      {
        kind: "dependency",
        what,
        derived: `${fact.from} of ${fact.by}`,
        at: fact.at,
        wanted: what,
        fix: result.state === "loose" || result.state === "missing" ? fix[result.state] : undefined,
        ...result,
      },
    ];
  });
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
// eslint-disable-next-line complexity -- one question after the other; the first that has an answer gives it
export function checkPackageNeed(app: App, need: PackageNeed): Pick<Wire, "state" | "found" | "why" | "places"> {
  const range = need.requirement ?? "";
  const candidates = app.dependencies.filter(
    (dependency) =>
      dependency.ecosystem === need.ecosystem &&
      dependency.name === need.name &&
      (dependency.side === need.side || need.ecosystem === "npm"),
  );
  const [first] = candidates;
  if (!first)
    return need.from === "peerDependencies"
      ? undeclaredPeer(need)
      : { state: "connected", found: "comes with the package", why: undefined, places: [need.at] };
  const version = candidates
    .map((dependency) => dependency.locked ?? exactOf(textOf(dependency.declared)))
    .find((text) => text !== undefined);
  const places = [first.lockedAt ?? first.declared?.place ?? first.places[0]].filter((place) => place !== undefined);
  const declared = textOf(first.declared);
  // No version of the declared range would do.
  if (
    version === undefined &&
    declared !== undefined &&
    (need.ecosystem === "npm" || need.ecosystem === "cordova") &&
    rangesMeet(declared, range) === false
  )
    return { state: "loose", found: declared, why: undefined, places };
  if (version === undefined) return { state: "unknown", found: undefined, why: reason("own-version-open"), places };
  const fits =
    need.ecosystem === "maven"
      ? mavenFits(version, range, first.fixedBy === "a forced version" || (textOf(first.declared) ?? "").endsWith("!!"))
      : satisfiesIn(need.ecosystem, version, range);
  if (fits === undefined) return { state: "unknown", found: version, why: reason("range-unreadable"), places };
  // A peer of a newer version than its asker was tried with mostly works; nobody can tell from the files.
  const lowest = need.from === "peerDependencies" ? /\d+(\.\d+)*/.exec(range)?.[0] : undefined;
  if (!fits && lowest !== undefined && compareIn("npm", version, lowest) >= 0)
    return { state: "unknown", found: version, why: reason("newer-than-made-for", { version, package: need.by }), places };
  return { state: fits ? "connected" : "loose", found: version, why: undefined, places };
}

/** A peer that package.json does not name: whether it is there all the same. */
function undeclaredPeer({ undeclared, name, at }: PackageNeed): Pick<Wire, "state" | "found" | "why" | "places"> {
  const result = { found: undefined, why: undefined, places: [] };
  switch (undeclared) {
    case "without native code":
      return { ...result, state: "connected", found: "installed", places: [at] };
    case "linked by hand":
      return { ...result, state: "connected", found: undeclared, places: [at] };
    case "with native code":
      return { ...result, state: "missing", found: "installed, but only what package.json lists is linked" };
    case "not at all":
      return NATIVE_NAME.test(name) && !PLATFORM_PACKAGES.npm.test(name)
        ? { ...result, state: "missing" }
        : { ...result, state: "unknown", why: reason("not-installed-perhaps-no-matter") };
    default:
      return { ...result, state: "unknown", why: reason("named-as-peer") };
  }
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
