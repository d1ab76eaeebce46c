import { distance } from "fastest-levenshtein";
import { mayApply } from "../../derive/android-plugin.js";
import { GOOGLE_ONLY_GROUPS, PLATFORM_PLUGIN } from "../../knowledge/platform-packages.js";
import type { AndroidSide, App } from "../../model/app.js";
import type { Dependency, RepositoryFact } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import type { GradleModule } from "../../model/gradle.js";
import { isInstalled } from "../../model/paths.js";
import type { Place } from "../../model/place.js";
import { textOf } from "../../model/value.js";
import { compare } from "../../versions/gradle.js";
import { mayMirror, normalizedUrl, usableRepositories } from "../../derive/repositories.js";
import { androidBlock, androidExample } from "../examples.js";
import { findingsFromWires } from "../from-wires.js";
import { defineRule } from "../rule.js";

const app = `${androidBlock()}dependencies {\n  implementation 'androidx.core:core-ktx:1.15.0'\n}\n`;

export const repositoryMissing = defineRule({
  name: "source/repository-missing",
  severity: "error",
  title: "A package's repository is not declared",
  looksAt:
    "Where the app's packages are looked up (settings, or the modules' own repositories, whichever the build uses), against packages that only Google's repository has and repositories that sheets require or that installed packages name for their own dependencies. The Android plugin, against the repositories for plugins. Google's repository alone, where Maven Central is needed too. A limit to a group that is a letter or two off from one that the app has.",
  silentFor:
    "Apps without Gradle scripts in the tree (.NET, Expo before the native folders are made), and builds whose repositories are defined outside the files.",
  why: "The build cannot find the package. With a repository declared in the wrong block (for plugins instead of packages, or in a module while the settings forbid it) the message does not say so.",
  advice:
    "Declare the repository where this build looks: dependencyResolutionManagement in the settings, or allprojects in the root script.",
  examples: {
    reported: androidExample(app, { "build.gradle": "allprojects {\n  repositories {\n    mavenCentral()\n  }\n}\n" }),
    silent: androidExample(app),
  },
  check({ app: model, wires }) {
    const side = model.android;
    const fromSheets: RawFinding[] = [
      ...findingsFromWires(wires, { rule: "source/repository-missing" }),
      ...uncovered(model),
      ...withoutPluginRepository(side),
    ];
    if (!side) return fromSheets;
    const repositories = usableRepositories(model, side);
    fromSheets.push(...withoutAny(model, side, repositories));
    // None at all: they come from somewhere that cannot be seen.
    if (repositories.length === 0 || repositories.some((repository) => repository.kind === "url" && textOf(repository.url) === undefined))
      return fromSheets;
    if (isPartOfBuild(side)) return fromSheets;
    const findings: RawFinding[] = [...fromSheets];
    const told = new Set(wires.flatMap(({ need, wanted }) => (need.kind === "repository" ? normalizedUrl(wanted) : [])));
    const first = repositories[0] as RepositoryFact;
    // Source: @react-native/gradle-plugin, `configureRepositories`: the framework's plugin adds it to every project.
    const isAdded = model.buildPlugins.some(({ id, applied }) => applied && id === "com.facebook.react");
    if (!repositories.some(isGoogle) && !isAdded) {
      const wanting = model.dependencies.find(
        (dependency) =>
          dependency.ecosystem === "maven" &&
          dependency.route === "registry" &&
          !dependency.test &&
          GOOGLE_ONLY_GROUPS.test(dependency.name) &&
          !isInPlatformTools(dependency),
      );
      // Source: developer.android.com, "AAPT2" (from 3.2 on the plugin takes its packager of resources from Google's repository, as the modules' own packages).
      const plugin = model.buildPlugins.find(({ id, applied }) => applied && id === "com.android.application");
      // An address in the place of the public ones may be a mirror of all.
      const mayHoldAll = !repositories.some(({ kind }) => kind === "mavenCentral") && repositories.some(({ kind }) => kind === "url");
      const version = side.effective.androidPlugin;
      const takesTools = version === undefined || (version.kind === "known" && !isBelow(version.text, "3.2"));
      if (!wanting && plugin && !mayHoldAll && takesTools)
        findings.push({
          side: "android",
          message:
            "the Android plugin takes its tools (aapt2) from Google's repository, and google() is not among the repositories of this build",
          fix: `add google() in ${first.at.file}`,
          places: [first.at, plugin.at],
          subject: "google",
        });
      if (wanting) {
        findings.push({
          side: "android",
          sdk: wanting.sdk,
          message: `${wanting.name} comes from Google's repository, and google() is not among the repositories of this build`,
          fix: `add google() in ${first.at.file}`,
          places: [first.at, ...wanting.places.slice(0, 1)],
          subject: "google",
        });
      }
    }
    findings.push(...withoutCentral(model, repositories, isAdded));
    findings.push(...idleFilters(model, repositories));
    const known = new Set(repositories.map((repository) => normalizedUrl(textOf(repository.url) ?? "")));
    const hasMirror = repositories.some(mayMirror);
    for (const need of model.repositoryNeeds) {
      if (known.has(normalizedUrl(need.url)) || told.has(normalizedUrl(need.url)) || hasMirror) continue;
      known.add(normalizedUrl(need.url));
      findings.push({
        side: "android",
        sdk: need.sdk,
        message: `${need.by} needs ${need.dependency} from ${need.url}, which is not among the repositories of this build`,
        fix: `add maven { url '${need.url}' } in ${first.at.file}`,
        places: [first.at, need.at],
        subject: need.url,
        quickFix: [{ do: "repository", after: first.at, url: need.url }],
      });
    }
    return findings;
  },
});

/** Modules that are not there give the application no repositories, and the framework's own build none of those that packages are in. */
const isNoScript = (what: string, { kind }: App): boolean =>
  what.startsWith("the module ") || (kind === "flutter" && what === "a build that is taken in");

/** Plugins of frameworks that add the public repositories. Sources: @react-native/gradle-plugin, `configureRepositories`; expo-modules-autolinking. */
const ADDS_REPOSITORIES = /^(com\.facebook\.react|expo)/;

/**
 * A build that says where its plugins come from and not where its packages do. The framework's plugin of Flutter adds the one of its engine alone. Source:
 * docs.gradle.org, "Declaring repositories" (a build has none by default).
 */
function withoutAny(model: App, { build, generated, module, modules }: AndroidSide, usable: readonly RepositoryFact[]): RawFinding[] {
  const { settings, root } = build;
  const all = [settings, root, ...modules];
  const declared = all.flatMap(({ repositories }) => repositories);
  const first = declared.find(({ for: what }) => what === "plugins");
  // Those of another module are for that one alone, and a folder of archives is none for packages by their names.
  const others = modules.filter((one) => one !== module).flatMap(({ repositories }) => repositories);
  const isOthers = (one: RepositoryFact): boolean => one.kind === "flatDir" || (others.includes(one) && one.forAll !== true);
  if (generated || usable.length > 0 || !first || root === module) return [];
  if (declared.some((one) => one.for === "packages" && !isOthers(one))) return [];
  if (
    settings.buildFile === undefined ||
    root.buildFile === undefined ||
    all.some(({ unread }) => unread.some(({ what }) => !isNoScript(what, model)))
  )
    return [];
  if (build.conventions.length > 0 || build.hasOwnCode) return [];
  const plugins = all.flatMap((one) => one.plugins.filter(({ applied }) => applied));
  if (plugins.some(({ id }) => mayApply(id) || ADDS_REPOSITORIES.test(id))) return [];
  // A plugin of the settings is often made for that.
  if (settings.plugins.some(({ id, applied }) => applied && !PLATFORM_PLUGIN.test(id) && !id.startsWith("com.gradle."))) return [];
  const wanting = model.dependencies.find(
    ({ ecosystem, route, test, places }) => ecosystem === "maven" && route === "registry" && !test && places[0]?.file === module.buildFile,
  );
  const [at] = wanting?.places ?? [];
  if (!wanting || !at) return [];
  return [
    {
      side: "android",
      sdk: wanting.sdk,
      message: `no repository is declared for packages, those for plugins alone: ${wanting.name} is not found`,
      fix: `add repositories with google() and mavenCentral() to dependencyResolutionManagement in the settings, or to allprojects in ${root.buildFile}`,
      places: [at, first.at],
      subject: "no repositories",
    },
  ];
}

/**
 * The Android plugin where the repositories for plugins do not have it: those of a script's class path, or those that the settings give to plugins with a
 * version. Source: developer.android.com, "Android Gradle plugin release notes" (from 3.0 on it is in Google's repository alone); docs.gradle.org, "Using
 * Plugins" (without pluginManagement, plugins are looked up in the plugin portal alone, which does not have it).
 */
function withoutPluginRepository(side: AndroidSide | undefined): RawFinding[] {
  if (!side || side.generated) return [];
  const { build } = side;
  const scripts = [build.root, ...build.modules.values()].filter(({ folder }) => !isInstalled(`${folder}/`));
  for (const module of scripts) {
    const dependency = module.dependencies.find(
      ({ group, artifact, kind }) => kind === "classpath" && group === "com.android.tools.build" && artifact === "gradle",
    );
    const [at] = dependency?.places ?? [];
    if (!dependency || !at || isBelow(textOf(dependency.version), "3.0") || module.unread.length > 0) continue;
    return at.file === module.buildFile ? lacking(at, ofPlugins(module), `the repositories of buildscript in ${at.file}`) : [];
  }
  const named = [build.settings, build.root]
    .flatMap(({ plugins }) => plugins)
    .find(({ id, version }) => /^com\.android\./.test(id) && version);
  const { settings } = build;
  const isOpen = settings.unread.some(({ what }) => /repositor/.test(what)) || settings.buildFile === undefined;
  if (!named || build.settingsFile === undefined || isOpen) return [];
  return lacking(named.at, ofPlugins(settings), `pluginManagement in ${build.settingsFile}`);
}

function ofPlugins({ repositories }: GradleModule): RepositoryFact[] {
  return repositories.filter((repository) => repository.for === "plugins");
}

/** What repositories for plugins lack of what the Android plugin needs: it is in Google's, and what it needs itself in others. */
function lacking(at: Place, repositories: readonly RepositoryFact[], where: string): RawFinding[] {
  if (isGoogleAlone(repositories)) return [noCentral(at, repositories[0]?.at, "for plugins")];
  return mayHaveGoogle(repositories) ? [] : [noGoogle(at, repositories[0]?.at, where)];
}

/**
 * Google's repository alone: packages of others, and what its own packages and the Android plugin need themselves, are in Maven Central. Source: the
 * index of maven.google.com; kotlin-stdlib, which AndroidX and the Android plugin depend on, is not in it.
 */
function withoutCentral(model: App, repositories: readonly RepositoryFact[], isAdded: boolean): RawFinding[] {
  if (isAdded || !isGoogleAlone(repositories)) return [];
  const wanting = model.dependencies.find(({ ecosystem, route, test }) => ecosystem === "maven" && route === "registry" && !test);
  // Kotlin's plugin adds its library, which is in Maven Central. Source: kotlinlang.org, "Configure a Gradle project" (dependency on the standard library).
  const kotlin = model.buildPlugins.find(({ id, applied }) => applied && /^(?:org\.jetbrains\.)?kotlin[.-]android$/.test(id));
  const at = wanting?.places[0] ?? kotlin?.at;
  return at ? [noCentral(at, repositories[0]?.at, "of this build")] : [];
}

/** The one public repository and no other, which an address in its place could be; those that are limited to groups of others have nothing of what is missing. */
function isGoogleAlone(repositories: readonly RepositoryFact[]): boolean {
  return repositories.some(({ kind }) => kind === "google") && repositories.every((one) => one.kind === "google" || isForOthers(one));
}

/** Limited to groups, and none of them has Kotlin's library. */
function isForOthers({ groups }: RepositoryFact): boolean {
  return groups.length > 0 && groups.every((group) => /^[\w-]+(?:\.[\w-]+)+$/.test(group) && !"org.jetbrains.kotlin".startsWith(group));
}

function noCentral(at: Place, first: Place | undefined, which: string): RawFinding {
  return {
    side: "android",
    severity: "warning",
    message: `google() alone is among the repositories ${which}: what is in Maven Central, and Google's packages need it too, is not found`,
    fix: `add mavenCentral() ${first ? `in ${first.file}` : "beside it"}`,
    places: first ? [at, first] : [at],
    subject: `central ${which}`,
  };
}

/** Whether repositories for plugins may have what Google's has: it is one of them, or an address in the place of the public ones. */
function mayHaveGoogle(repositories: readonly RepositoryFact[]): boolean {
  const isPublic = repositories.some(({ kind }) => kind === "mavenCentral" || kind === "gradlePluginPortal" || kind === "jcenter");
  return repositories.some(
    (one) => one.kind === "mavenLocal" || one.kind === "flatDir" || isGoogle(one) || (one.kind === "url" && !isPublic),
  );
}

function noGoogle(at: Place, first: Place | undefined, where: string): RawFinding {
  return {
    side: "android",
    message:
      "the Android plugin comes from Google's repository, and google() is not among the repositories for plugins: the build does not find it",
    fix: `add google() to ${where}`,
    places: first ? [at, first] : [at],
    subject: "google for plugins",
  };
}

/** Whether the rest of the build lies elsewhere: nothing says where the Android plugin comes from, and the settings or the root script are not there. */
function isPartOfBuild({ build, module, effective }: AndroidSide): boolean {
  const isWhole = build.settings.buildFile !== undefined && build.root.buildFile !== undefined && build.root !== module;
  return effective.androidPlugin === undefined && !isWhole;
}

/**
 * Packages that came with the tools of the platform, and that old plugins of Android look for there. Source: developer.android.com, "Support Library
 * setup" (from 26 on they are in Google's repository alone).
 */
function isInPlatformTools({ name, declared }: Dependency): boolean {
  return name.startsWith("com.android.support:") && isBelow(textOf(declared), "26");
}

const isBelow = (version: string | undefined, other: string): boolean => version !== undefined && compare(version, other) < 0;

function isGoogle(repository: RepositoryFact): boolean {
  return repository.kind === "google" || /(maven\.google\.com|dl\.google\.com)/.test(textOf(repository.url) ?? "") || mayMirror(repository);
}

/** Packages that a list of sources by package gives to none. */
function uncovered({ uncovered: found }: App): RawFinding[] {
  return found.map(({ package: name, sdk, side, at, list }) => ({
    side,
    sdk,
    message: `no source may be used for ${name}: no pattern of the mapping covers it`,
    fix: `add a pattern for ${name} to the source that has it, in ${list.file}`,
    places: [at, list],
    subject: `mapping ${name}`,
  }));
}

/** Repositories whose limit to a group is one letter off from a group that the app has. */
function idleFilters({ dependencies }: App, repositories: readonly RepositoryFact[]): RawFinding[] {
  const groups = new Set(
    dependencies.flatMap(({ ecosystem, name, side }) => (ecosystem === "maven" && side === "android" ? (name.split(":")[0] ?? name) : [])),
  );
  const limits = new Set(repositories.flatMap(({ groups: own }) => own));
  return repositories.flatMap(({ groups: own, at }) =>
    own.flatMap((group): RawFinding[] => {
      if (!/^[\w.-]+$/.test(group) || [...groups].some((other) => other === group || other.startsWith(`${group}.`))) return [];
      const near = [...groups].find((other) => !limits.has(other) && distance(other, group) <= Math.max(2, Math.floor(other.length / 4)));
      if (near === undefined) return [];
      return [
        {
          side: "android",
          severity: "warning",
          message: `a repository is limited to ${group}, and the app has no package of that group; it has ${near}`,
          fix: `write ${near}`,
          places: [at],
          subject: `limit ${group}`,
        },
      ];
    }),
  );
}
