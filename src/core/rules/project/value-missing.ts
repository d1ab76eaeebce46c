import { distance } from "fastest-levenshtein";
import { PLATFORM_BUILD_PLUGIN } from "../../knowledge/platform-packages.js";
import { brokenFileOf } from "../../derive/incomplete.js";
import { hasOwnPlugins, isSeen } from "../../derive/own-plugins.js";
import type { App, PartTarget } from "../../model/app.js";
import type { Entry } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import type { Place } from "../../model/place.js";
import { placeholdersGiven, type GradleModule } from "../../model/gradle.js";
import { inWords } from "../../model/suggest.js";
import { buildsWithout, DIMENSION } from "../../model/variants.js";
import { textOf } from "../../model/value.js";
import { takesIn } from "../../model/xcode.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";
import type { CodeFacts } from "../../model/code.js";

const code = (field: string) =>
  androidExample(
    androidBlock('minSdk 24\n    targetSdk 35\n    buildConfigField "String", "QUAYMAP_KEY", "\\"qm_live_01234567\\""').replace(
      "android {",
      "android {\n  buildFeatures { buildConfig true }",
    ),
    {
      "app/src/main/java/example/maresia/pilot/PilotApplication.kt": `package example.maresia.pilot\n\nclass PilotApplication : android.app.Application() {\n  override fun onCreate() {\n    Quaymap.start(this, BuildConfig.${field})\n  }\n}\n`,
    },
  );

export const valueMissing = defineRule({
  name: "project/value-missing",
  severity: "error",
  title: "A name for which the build has no value",
  looksAt:
    "Placeholders in the app's manifests against manifestPlaceholders; fields of BuildConfig and strings that code takes, against those that the build and the resources define, in every variant; layouts and other resources by their generated classes; classes and functions that only the source set of some variant has and code for all builds uses; build settings in property lists that one configuration defines and another does not, and those of URL schemes that none defines; keys of the property list that code reads; variables that shared scripts and Dart code take from .env files, and that Expo does not build in; values of an Expo configuration that scripts read; properties of a .NET build that are almost one that is set; dimensions of flavours; build types of the app that its modules and packages do not have, without matchingFallbacks.",
  silentFor: "Names that plugins, convention scripts or values from outside of the files may define.",
  why: "The build of that variant stops, or the app starts without the value, in the very build that testers do not run.",
  advice: "Define the value for every variant, or write the name as it is defined.",
  examples: { reported: code("QUAYMAP_KY"), silent: code("QUAYMAP_KEY") },
  check({ app }) {
    return [
      ...placeholders(app),
      ...properties(app),
      ...fromEnvironment(app),
      ...extras(app),
      ...unsetVariables(app),
      ...fromCode(app),
      ...generatedClasses(app),
      ...buildSettings(app),
      ...dimensions(app),
      ...fallbacks(app),
      ...plistKeys(app),
      ...conditions(app),
      ...app.lostProperties.map(({ name, near, of, at }) => ({
        side: "shared" as const,
        message:
          of === "options"
            ? `the options of ${name} are read by no plugin`
            : of
              ? `a condition asks for the configuration ${name}, which there is not: what it guards is in no build`
              : `the build asks for the property ${name}, which nothing sets: it is empty`,
        fix: of ? `write ${near}` : `write ${near}, which is set`,
        places: [at],
        subject: `${of ?? "property"} ${name}`,
      })),
    ];
  },
});

/** Symbols in conditions of C# that no build sets, and that are almost those of a platform. */
function conditions({ code }: App): RawFinding[] {
  return (code?.systemNames ?? []).flatMap(({ kind, name, near, side, at }): RawFinding[] =>
    kind !== "condition" || near === undefined
      ? []
      : [
          {
            side,
            message: `a condition asks for ${name}, which no build sets: what stands under it is in no app`,
            fix: `write ${near}`,
            places: [at],
            subject: `condition ${name}`,
          },
        ],
  );
}

/** Whether all that the build of the application's module states is in its script. */
function isWhole({ android }: App): boolean {
  return android !== undefined && !android.generated && !hasOwnPlugins(android.build, android.module) && android.module.unread.length === 0;
}

/** A word that was meant: one letter or a part of the word is another. */
function meant(word: string, known: Iterable<string>): string | undefined {
  const plain = (text: string): string => text.toLowerCase().replaceAll("_", "");
  let best: string | undefined;
  for (const other of known) {
    const far = distance(plain(word), plain(other));
    const near = far <= 2 && Math.min(word.length, other.length) > 4;
    // `GULLPOST_APIKEY` for `GULLPOST_KEY`: the same first and last letters of a long name.
    const alike = far <= 4 && word.length > 9 && word.slice(0, 6) === other.slice(0, 6) && word.slice(-3) === other.slice(-3);
    // `API_HOSTNAME` for `API_HOST`.
    const longer = Math.min(word.length, other.length) > 6 && word.includes("_") && (word.startsWith(other) || other.startsWith(word));
    if ((near || alike || longer) && (best === undefined || far < distance(plain(word), plain(best)))) best = other;
  }
  return best;
}

/** Names that scripts put into fields and resources of the build, and that are almost those of properties of Gradle which the project has. */
function properties({ entries }: App): RawFinding[] {
  const given = new Set(entries.flatMap(({ kind, name }) => (kind === "gradleProperty" ? name : [])));
  const told = new Set<string>();
  return entries.flatMap(({ kind, side, by, value, at }): RawFinding[] => {
    if (side !== "android" || by !== undefined || (kind !== "buildConfig" && kind !== "string" && kind !== "placeholder")) return [];
    const name = value?.kind === "unknown" && /\.gradle(\.kts)?$/i.test(at.file) ? value.lacks : undefined;
    if (name === undefined || told.has(name) || given.has(name)) return [];
    told.add(name);
    const near = meant(name, given) ?? [...given].find((other) => words(other) === words(name));
    if (near === undefined) return [];
    return [
      {
        side: "android",
        message: `the build takes the property ${name}, which nothing defines`,
        fix: `write ${near}, as gradle.properties has it`,
        places: [value?.place ?? at],
        subject: `property ${name}`,
      },
    ];
  });
}

/** The words of a name, whatever their order. */
function words(name: string): string {
  return (name.match(/[A-Z]?[a-z0-9]+|[A-Z]+/g) ?? [])
    .map((word) => word.toLowerCase())
    .sort((a, b) => a.localeCompare(b))
    .join(" ");
}

function placeholders(app: App): RawFinding[] {
  const { android } = app;
  const given = android && isWhole(app) ? placeholdersGiven(android.module) : undefined;
  if (!android || !given) return [];
  const told = new Set<string>();
  const asked = [
    ...app.entries.flatMap(({ side, by, value, at }) =>
      // What a script cannot work out is no placeholder of a manifest.
      side === "android" && by === undefined && value?.kind === "unknown" && value.lacks !== undefined && /\.xml$/i.test(at.file)
        ? [{ name: value.lacks, at: value.place ?? at }]
        : [],
    ),
    ...app.placeholderNeeds.filter(({ by }) => by === undefined),
  ];
  return asked.flatMap(({ name, at }): RawFinding[] => {
    const variants = given.get(name);
    if (told.has(name) || variants?.has("")) return [];
    told.add(name);
    if (variants) {
      // The manifest of a flavour is for that one alone.
      const without = at.file === app.manifests[0] ? buildsWithout(android.module, variants) : [];
      if (without.length === 0) return [];
      return [
        {
          side: "android",
          message: `the manifest takes the placeholder ${name}, but builds of ${inWords(without)} have none`,
          fix: `define ${name} for ${inWords(without)} too, or in defaultConfig`,
          places: [at],
          subject: `placeholder ${name}`,
        },
      ];
    }
    const near = meant(name, given.keys());
    return [
      {
        side: "android",
        message: `the manifest takes the placeholder ${name}, but no build defines it`,
        fix:
          near === undefined
            ? `add ${name} to manifestPlaceholders in ${android.module.buildFile ?? ""}`
            : `write ${near}, which the build defines`,
        places: [at],
        subject: `placeholder ${name}`,
      },
    ];
  });
}

// eslint-disable-next-line complexity -- one question after the other for each name
function fromCode(app: App): RawFinding[] {
  const { android, code: facts } = app;
  if (!android || !facts || !isWhole(app)) return [];
  const { module } = android;
  const applied = app.buildPlugins.filter(({ module: of, applied: is }) => is && of === module.path);
  const plain = applied.every((plugin) => PLATFORM_BUILD_PLUGIN.test(plugin.id) || isSeen(android.build, plugin));
  const named = (kind: Entry["kind"]): Entry[] => app.entries.filter((entry) => entry.kind === kind && entry.side === "android");
  const findings: RawFinding[] = [];
  for (const { kind, name, at } of facts.generated) {
    if (kind === "env" || kind === "config" || kind === "extra") continue;
    if (kind === "class") {
      // A plugin of a framework asks for it in its own way.
      const off = applied.some(({ id }) => id === "com.facebook.react") ? undefined : settingsOff(app);
      if (off)
        findings.push({
          side: "android",
          message: `code uses BuildConfig, but the build does not make it: ${off}`,
          fix: `add buildFeatures { buildConfig = true } to ${module.buildFile ?? "the build script"}`,
          places: [at],
          subject: "BuildConfig",
        });
      continue;
    }
    const all = named(kind);
    const own = all.filter((entry) => entry.name === name);
    const title = kind === "string" ? `the string ${name}` : `the field ${name} of BuildConfig`;
    if (own.length === 0) {
      const near = meant(name, new Set(all.map((entry) => entry.name)));
      if (near === undefined && (!plain || (kind === "string" && !isOwnClass(app)))) continue;
      findings.push({
        side: "android",
        message: `code takes ${title}, but the app defines none`,
        fix:
          near === undefined
            ? kind === "string"
              ? `add ${name} to the strings of the app`
              : `add ${name} with buildConfigField to ${module.buildFile ?? "the build script"}`
            : `write ${near}, which is there`,
        places: [at],
        subject: `${kind} ${name}`,
      });
    } else if (own.every(({ variant }) => variant !== undefined)) {
      const without = buildsWithout(
        module,
        own.map(({ variant }) => variant as string),
      );
      if (without.length > 0)
        findings.push({
          side: "android",
          message: `code for all builds takes ${title}, but builds of ${inWords(without)} have none`,
          fix: `define ${name} for ${inWords(without)} too, or for all builds`,
          places: [at, ...own.map((entry) => entry.at)],
          subject: `${kind} ${name}`,
        });
    }
  }
  namesOfVariants(facts, module, findings);
  return findings;
}

/** Types of resources that stand in files of values, which plugins may write too. */
const OF_VALUES = /^R\.(plurals|color|dimen|integer|bool|array|drawable)\./;

/** Classes that only some builds have and code of all builds uses. */
function namesOfVariants(facts: CodeFacts, module: GradleModule, findings: RawFinding[]): void {
  for (const { name, variants, declared, at } of facts.inVariants) {
    const without = buildsWithout(module, variants);
    if (without.length > 0)
      findings.push({
        side: "android",
        message: `code for all builds uses ${name}, but only ${inWords(variants)} ${variants.length === 1 ? "has" : "have"} it: builds of ${inWords(without)} do not compile`,
        fix: `add ${name} to src/${without[0] ?? ""}, or use it in src/${variants[0] ?? ""} only`,
        places: [at, declared],
        subject: `class ${name}`,
      });
  }
}

/** Members of classes that the build makes of resources, layouts and settings, where nothing else can bring them. */
function generatedClasses(app: App): RawFinding[] {
  const { android, code: facts } = app;
  if (!android || !facts) return [];
  const modules = new Map(android.modules.map((module) => [module.path, module]));
  return facts.androidNames.flatMap(({ kind, name, near, module: path, at }): RawFinding[] => {
    const module = modules.get(path);
    if (!module || module.unread.length > 0 || hasOwnPlugins(android.build, module)) return [];
    const plain = module.plugins.every(
      (plugin) => !plugin.applied || PLATFORM_BUILD_PLUGIN.test(plugin.id) || isSeen(android.build, plugin),
    );
    const where = module.buildFile ?? module.folder;
    const told = (message: string, fix: string): RawFinding[] => [
      { side: "android", message, fix, places: [at], subject: `${kind} ${path} ${name}` },
    ];
    switch (kind) {
      case "binding off":
        return told(
          `code uses ${name}, but ${path} makes no classes for its layouts`,
          `add buildFeatures { viewBinding = true } to ${where}`,
        );
      case "binding":
        return told(
          `code uses ${name}, but no layout of the app makes it`,
          near === undefined ? "add the layout, or remove what uses it" : `write ${near}, or rename the layout`,
        );
      case "resource":
        return isOwnClass(app) && (plain || !OF_VALUES.test(name))
          ? told(
              `code takes ${name}, but no module of the app has that resource`,
              near === undefined ? "add the resource, or remove what uses it" : `write ${near}, which is there`,
            )
          : [];
      case "settings":
        return told(
          `code takes ${name} of the BuildConfig of ${path}, which does not have it`,
          near === undefined ? `add ${name} with buildConfigField to ${where}` : `import the BuildConfig of ${near}, which has it`,
        );
      default:
        return [];
    }
  });
}

/**
 * Whether the class of resources of a module has those of the module alone. Source: developer.android.com, "Android Gradle plugin 8.0 release notes"
 * (android.nonTransitiveRClass is true by default).
 */
function isOwnClass(app: App): boolean {
  const { android, entries, dependencies, kind } = app;
  // A file that could not be read may have it.
  if (brokenFileOf(app, "android") !== undefined) return false;
  const version = Number(/^(\d+)\./.exec(textOf(android?.effective.androidPlugin) ?? "")?.[1] ?? NaN);
  const property = entries.find((entry) => entry.kind === "gradleProperty" && entry.name === "android.nonTransitiveRClass");
  const on = property ? textOf(property.value)?.trim() === "true" : version >= 8;
  return on && (kind === "native" || kind === "flutter" || dependencies.every(({ nativeUnknown }) => !nativeUnknown));
}

/** Files of an environment of its own; others are laid over them on one machine, or in tests. */
const ENVIRONMENT = /^(dev|stag|prod|release|live|qa|beta)/i;

/** What shared scripts take from files of the environment. A file for one environment takes the place of the plain one where a package reads it. */
function fromEnvironment(app: App): RawFinding[] {
  const all = app.entries.filter(({ kind }) => kind === "env");
  const names = new Set(all.map(({ name }) => name));
  if (names.size === 0) return [];
  const fileOf = new Map(all.map(({ variant, at }) => [variant, at.file]));
  // Vite gives scripts what begins with its prefix alone. Source: vite.dev, "Env Variables and Modes".
  const isPrefixed = all.some(({ name }) => name.startsWith("VITE_")) || app.code?.generated.some(({ name }) => name.startsWith("VITE_"));
  return (app.code?.generated ?? []).flatMap(({ kind, name, at, bundler }): RawFinding[] => {
    if (kind !== "env" && kind !== "config") return [];
    if (bundler && isPrefixed && names.has(name) && !/^(VITE_|BASE_URL$|MODE$|DEV$|PROD$|SSR$)/.test(name))
      return notBuiltIn(name, at, "VITE_");
    if (app.kind === "expo" && kind === "env" && names.has(name) && !name.startsWith("EXPO_") && isBuiltByExpo(app, at))
      return notBuiltIn(name, at, "EXPO_PUBLIC_");
    const own = all.filter((entry) => entry.name === name);
    const near = own.length > 0 ? undefined : meant(name, names);
    const subject = `env ${name}`;
    if (near !== undefined)
      return [
        {
          side: "shared",
          message: `code takes ${name} from the environment, but no file defines it`,
          fix: `write ${near}, which is there`,
          places: [at, ...all.filter((entry) => entry.name === near).map((entry) => entry.at)],
          subject,
        },
      ];
    if (kind !== "config" || own.length === 0 || app.kind !== "react-native") return [];
    const without = [...fileOf].filter(
      ([variant]) => (variant === undefined || ENVIRONMENT.test(variant)) && !own.some((entry) => entry.variant === variant),
    );
    if (without.length === 0) return [];
    return [
      {
        side: "shared",
        message: `code takes ${name} from the environment, but ${inWords(without.map(([, file]) => file))} ${without.length === 1 ? "does" : "do"} not define it`,
        fix: `define ${name} there too`,
        places: [at, ...own.map((entry) => entry.at)],
        subject,
      },
    ];
  });
}

/** Packages that put other variables into scripts. */
const OTHER_VARIABLES = /dotenv|inline-environment|-env(-|$)|env-vars/;

/** Whether a script is built into the app by Expo alone: settings and routes of a server see the whole environment. */
function isBuiltByExpo({ dependencies, configPlugins }: App, { file }: Place): boolean {
  if (dependencies.some(({ ecosystem, name }) => ecosystem === "npm" && OTHER_VARIABLES.test(name))) return false;
  if (/\.config\.[cm]?[jt]s$|\+api\.[jt]sx?$|(^|\/)(scripts?|plugins?|tools|server|api)\//.test(file)) return false;
  return !configPlugins.some(({ name }) => name.startsWith("./") && file.includes(name.slice(2)));
}

/** Source: docs.expo.dev, "Environment variables in Expo" (only names with the prefix are in the app). */
function notBuiltIn(name: string, at: Place, prefix: string): RawFinding[] {
  return [
    {
      side: "shared",
      message: `code takes ${name} from the environment, but only names that begin with ${prefix} are built into the app`,
      fix: `call it ${prefix}${name}, if everybody may read it`,
      places: [at],
      subject: `env ${name}`,
    },
  ];
}

/** Variables of Dart code, and settings of C#, that no file has which code loads, or that it reads too early. */
function unsetVariables({ code }: App): RawFinding[] {
  return (code?.unsetVariables ?? []).map(({ name, files, isFirst, of, at }) => {
    const loads = of === undefined ? "dotenv.load" : "the settings are added";
    return {
      side: "shared",
      message: isFirst
        ? `code reads ${name} before ${loads}: ${of === undefined ? "reading it fails" : "it is null"}`
        : files.length === 0
          ? `code takes ${name} from ${of ?? "the environment"}, but no file is added to ${of === undefined ? "it" : "them"}: it is null`
          : `code takes ${name} from ${of ?? "the environment"}, but ${inWords(files)} ${files.length === 1 ? "does" : "do"} not define it`,
      fix: isFirst
        ? of === undefined
          ? "await dotenv.load first"
          : "add the file of settings first"
        : files.length === 0
          ? "add the file of settings to the builder's Configuration"
          : `define ${name} there, or write the name as it is defined`,
      places: [at],
      subject: `env ${name}`,
    };
  });
}

/** Names below `extra` that Expo adds itself. */
const OWN_EXTRA = /^(eas|router|expoClient|expoGo)$/;

/** What code reads of the configuration's own values, and what is almost there. */
function extras(app: App): RawFinding[] {
  const known = new Set(
    app.entries.flatMap(({ kind, name }) =>
      kind === "option" && name.startsWith("extra ") ? [(name.slice(6).split(".")[0] ?? "") as string] : [],
    ),
  );
  return (app.code?.generated ?? []).flatMap(({ kind, name, at }): RawFinding[] => {
    const near =
      kind !== "extra" || known.has(name) || OWN_EXTRA.test(name)
        ? undefined
        : (meant(name, known) ?? [...known].find((other) => name.length > 4 && (other.startsWith(name) || name.startsWith(other))));
    if (near === undefined) return [];
    return [
      {
        side: "shared",
        message: `code reads extra.${name} of the configuration, which has no such value`,
        fix: `write ${near}, which is there`,
        places: [at],
        subject: `extra ${name}`,
      },
    ];
  });
}

/** Settings that property lists take and that Xcode or the project's own settings give. Source: developer.apple.com, "Build settings reference". */
const GIVEN_SETTINGS = [
  "PRODUCT_BUNDLE_IDENTIFIER",
  "PRODUCT_BUNDLE_PACKAGE_TYPE",
  "PRODUCT_MODULE_NAME",
  "PRODUCT_NAME",
  "EXECUTABLE_NAME",
  "DEVELOPMENT_LANGUAGE",
  "MARKETING_VERSION",
  "CURRENT_PROJECT_VERSION",
  "TARGET_NAME",
  "AppIdentifierPrefix",
  "TeamIdentifierPrefix",
];

/** Why the build makes no class of settings. Source: developer.android.com, "Android Gradle plugin 8.0 release notes" (buildConfig is off). */
function settingsOff(app: App): string | undefined {
  const { android } = app;
  const version = textOf(android?.effective.androidPlugin);
  const major = Number(/^(\d+)\./.exec(version ?? "")?.[1] ?? NaN);
  if (!android || !(major >= 8)) return undefined;
  const stated = android.module.settings.filter(({ block, name }) => block === "buildFeatures" && name === "buildConfig");
  if (stated.some(({ values }) => textOf(values[0]) !== "false")) return undefined;
  if (app.entries.some(({ kind, name }) => kind === "gradleProperty" && name === "android.defaults.buildfeatures.buildconfig"))
    return undefined;
  return stated.length > 0 ? "buildConfig is false" : `Android plugin ${version ?? ""} leaves it out unless it is asked for`;
}

function buildSettings(app: App): RawFinding[] {
  const defined = new Map<string, Entry[]>();
  for (const entry of app.entries) if (entry.kind === "buildSetting") defined.set(entry.name, [...(defined.get(entry.name) ?? []), entry]);
  const configurations = app.ios?.target.configurations.map(({ name }) => name) ?? [];
  const told = new Set<string>();
  // eslint-disable-next-line complexity -- the words for each way in which a setting is missing
  return app.entries.flatMap((entry) => {
    const lacks = entry.side === "ios" && entry.kind !== "buildSetting" && entry.value?.kind === "unknown" ? entry.value.lacks : undefined;
    if (lacks === undefined || told.has(lacks) || entry.by !== undefined) return [];
    const elsewhere = (defined.get(lacks) ?? []).flatMap(({ variant }) => variant ?? []);
    const near = elsewhere.length > 0 || GIVEN_SETTINGS.includes(lacks) ? undefined : meant(lacks, [...defined.keys(), ...GIVEN_SETTINGS]);
    // A scheme is nobody's but the project's own; other values may be of settings that Xcode gives.
    const own = entry.kind === "urlScheme" && !/^(PRODUCT|TARGET|EXECUTABLE|BUNDLE|WRAPPER|FULL_PRODUCT)/.test(lacks);
    if (elsewhere.length === 0 && near === undefined && !own) return [];
    // A mark of one configuration is meant to be its own.
    if (elsewhere.length > 0 && (defined.get(lacks) ?? []).every(({ value }) => /^(yes|no|true|false|[01]|)$/i.test(textOf(value) ?? "?")))
      return [];
    told.add(lacks);
    const without = configurations.filter((name) => !elsewhere.includes(name));
    return [
      {
        side: "ios" as const,
        message:
          near === undefined && elsewhere.length > 0
            ? `${lacks} is defined for ${inWords(elsewhere)} and not for ${inWords(without)}: there the value is empty`
            : `${lacks} is defined nowhere: the value is empty`,
        fix:
          near === undefined
            ? `define ${lacks}${elsewhere.length > 0 ? ` for ${inWords(without)} too` : ""}`
            : `write ${near}, which is defined`,
        places: [entry.value?.place ?? entry.at, ...(defined.get(lacks) ?? []).map(({ at }) => at)],
        subject: `build setting ${lacks}`,
      },
    ];
  });
}

/** Source: developer.android.com, "Configure product flavors" (flavor dimensions). */
function dimensions(app: App): RawFinding[] {
  const { android } = app;
  if (!android || !isWhole(app)) return [];
  const { settings } = android.module;
  const stated = settings.filter(({ name, block }) => block === "" && /^flavorDimensions?$/.test(name));
  const known = new Set(stated.flatMap(({ values }) => values.flatMap((value) => textOf(value) ?? [])));
  if (stated.length > 0 && (known.size === 0 || stated.some(({ values }) => values.some((value) => value.kind !== "known")))) return [];
  const flavors = new Map(settings.flatMap(({ block, at }) => (/^flavor:[^.]+$/.test(block) ? [[block, at] as const] : [])).toReversed());
  const placed = new Map(
    settings.flatMap(({ block, name, values }) => (DIMENSION.test(name) ? [[block, textOf(values[0])] as const] : [])),
  );
  // Source: developer.android.com, "Configure build variants" (flavor dimensions): with several each flavour has to say which is its own.
  const unplaced = known.size < 2 ? [] : [...flavors].filter(([block]) => !placed.has(block));
  const bare =
    flavors.size === 0 || [...flavors].some(([block]) => !placed.has(block))
      ? []
      : [...known].filter((dimension) => ![...placed.values()].includes(dimension));
  const first = stated[0]?.at;
  return [
    ...unplaced.map(([block, at]) => ({
      side: "android" as const,
      message: `the flavour ${block.slice(7)} says no dimension, and there are ${known.size}: the build stops`,
      fix: `write dimension "${[...known][0] ?? ""}" or another of them`,
      places: [at],
      subject: `dimension of ${block}`,
    })),
    ...(first && [...placed.values()].every((text) => text !== undefined) ? bare : []).map((dimension) => ({
      side: "android" as const,
      message: `the dimension ${dimension} has no flavour: the build stops`,
      fix: "give it a flavour, or take it out of flavorDimensions",
      places: [first as NonNullable<typeof first>],
      subject: `dimension ${dimension}`,
    })),
    ...settings.flatMap(({ block, name, values }) => {
      const [value] = values;
      const text = textOf(value);
      if (!block.startsWith("flavor:") || !DIMENSION.test(name) || !value || text === undefined || known.has(text)) return [];
      return [
        {
          side: "android" as const,
          message: `the flavour ${block.slice(7)} is of the dimension ${text}, which flavorDimensions does not list`,
          fix: known.size === 0 ? `add flavorDimensions += "${text}"` : `write ${[...known][0] ?? ""}, or add ${text} to flavorDimensions`,
          places: [value.place],
          subject: `dimension ${text}`,
        },
      ];
    }),
  ];
}

/** Source: developer.android.com, "Configure build variants" (matchingFallbacks). */
function fallbacks(app: App): RawFinding[] {
  const { android } = app;
  if (!android || !isWhole(app)) return [];
  const { module, build } = android;
  const types = new Map<string, RawFinding["places"][number]>();
  for (const { block, at } of module.settings) {
    const type = /^buildType:([^.]+)$/.exec(block)?.[1];
    if (type !== undefined && !/^(debug|release)$/.test(type) && !types.has(type)) types.set(type, at);
  }
  return [...types].flatMap(([type, at]): RawFinding[] => {
    const stated = module.settings.filter(({ block }) => block === `buildType:${type}`);
    if (stated.some(({ name }) => name === "matchingFallbacks" || name === "initWith")) return [];
    const lacking = module.modules.flatMap(({ path }) => {
      const other = build.modules.get(path);
      const isLibrary = other?.plugins.some(({ id }) => id === "com.android.library") ?? false;
      return other && isLibrary && other.unread.length === 0 && !other.settings.some(({ block }) => block.startsWith(`buildType:${type}`))
        ? [path]
        : [];
    });
    const brought = app.dependencies.find(({ native, nativeUnknown }) => native?.android === true && nativeUnknown !== true)?.name;
    const [first] = [...lacking, ...(brought === undefined ? [] : [brought])];
    if (first === undefined) return [];
    return [
      {
        side: "android",
        message: `${first} has no build type ${type}, and the app's names no matchingFallbacks: builds of ${type} do not find it`,
        fix: `add matchingFallbacks = ["release"] (or debug) to the build type ${type}`,
        places: [at],
        subject: `build type ${type}`,
      },
    ];
  });
}

/** Keys that are Apple's own: the system or the build gives them. */
const SYSTEM_KEY = /^(CFBundle|NS|UI|LS|MinimumOS|DT|BuildMachine|ITS|MK|CA|Apple|BG)/;

/**
 * Keys that code reads of the property list, and that no configuration has. Source: developer.apple.com, "Bundle", `object(forInfoDictionaryKey:)`.
 */
function plistKeys(app: App): RawFinding[] {
  const { ios, code } = app;
  const [list] = app.propertyLists;
  if (!ios || ios.generated || list === undefined || brokenFileOf(app, "ios") !== undefined) return [];
  // A script may write what the list does not have.
  if (ios.target.scripts.some((script) => /PlistBuddy|plutil|defaults write/.test(script))) return [];
  const known = new Set(
    app.entries.flatMap(({ kind, side, name }) => (side === "ios" && (kind === "plist" || kind === "purposeText") ? name : [])),
  );
  const others = new Set(app.furtherTargets.flatMap(({ entries }) => entries.map(({ name }) => name)));
  const ofParts = app.partTargets.flatMap((part) => plistKeysOfPart(app, part));
  const own = (code?.systemNames ?? []).flatMap(({ kind, name, at }): RawFinding[] => {
    const isOptional = kind === "optional plist key";
    if (kind !== "plist key" && !isOptional) return [];
    if (known.has(name) || others.has(name) || SYSTEM_KEY.test(name) || !takesIn(ios.target, at.file)) return [];
    const near = meant(name, known);
    if (isOptional && near === undefined) return [];
    return [
      {
        side: "ios",
        ...(near === undefined ? { severity: "warning" as const } : {}),
        message: `code reads ${name} of the property list, which has no such key`,
        fix: near === undefined ? `add ${name} to ${list}` : `write ${near}, which is there`,
        places: [at, { file: list, line: 1, column: 1 }],
        subject: `plist ${name}`,
      },
    ];
  });
  return [...own, ...ofParts];
}

/** The same of an extension or an app for the watch: the key has to be in its own list. */
function plistKeysOfPart({ code, ios }: App, { target, entries, propertyLists: [list] }: PartTarget): RawFinding[] {
  if (list === undefined || target.scripts.some((script) => /PlistBuddy|plutil|defaults write/.test(script))) return [];
  const known = new Set(entries.flatMap(({ kind, name }) => (kind === "plist" || kind === "purposeText" ? name : [])));
  return (code?.systemNames ?? []).flatMap(({ kind, name, at }): RawFinding[] => {
    // What the app takes in as well may be meant for it alone.
    if (kind !== "plist key" || known.has(name) || SYSTEM_KEY.test(name) || !takesIn(target, at.file)) return [];
    if (ios && takesIn(ios.target, at.file)) return [];
    return [
      {
        side: "ios",
        severity: "warning",
        message: `the code of ${target.name} reads ${name} of its property list, which has no such key`,
        fix: `add ${name} to the property list of ${target.name}`,
        places: [at, { file: list, line: 1, column: 1 }],
        subject: `plist ${name} ${target.name}`,
      },
    ];
  });
}
