import { leastPlugin, majorOf, mayApply, unsaid } from "../../derive/android-plugin.js";
import { hasOwnPlugins } from "../../derive/own-plugins.js";
import { ANDROID_PLUGIN, ANDROID_PROCESSORS, GIVEN_FIELD } from "../../knowledge/android-build.js";
import type { App } from "../../model/app.js";
import type { AndroidName } from "../../model/code.js";
import type { RawFinding } from "../../model/finding.js";
import type { AndroidSetting, GradleModule } from "../../model/gradle.js";
import { PLATFORM_PLUGIN } from "../../knowledge/platform-packages.js";
import { isInstalled } from "../../model/paths.js";
import { inWords, nearest } from "../../model/suggest.js";
import { textOf } from "../../model/value.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";
import { besideAndroidX, OF_ANDROIDX, withoutAndroidX } from "./stops/android-x.js";
import { targetsApart } from "./stops/java.js";
import { unsigned } from "./stops/signing.js";

const app = (minify: boolean) =>
  androidExample(
    androidBlock().replace(
      /\}\n$/,
      `  buildTypes {\n    release {\n      minifyEnabled ${minify}\n      shrinkResources true\n    }\n  }\n}\n`,
    ),
  );

export const buildStops = defineRule({
  name: "project/build-stops",
  severity: "error",
  title: "Two statements of the build that do not go together",
  looksAt:
    "On Android: resources that are shrunk without the code, Compose without the plugin for its compiler (Kotlin 2.0 and later), accessors of modules that the settings do not switch on, Java and Kotlin compiled for different releases of Java (Gradle 8 and later), desugaring without its library, modules without a namespace (version 8 of the Android plugin and later) or without a level to compile against, a signing configuration that is not there, what is no application id or bundle id, texts of BuildConfig without quotes, processors that there are not, Kotlin code without its plugin, packages of manifests beside another namespace, repositories of a module where the settings forbid them, packages of AndroidX without android.useAndroidX, packages of the old support library beside them without android.enableJetifier, settings of the Android plugin in a script that does not apply it, and attributes of manifests that are neither true nor false. On iOS: lines of InfoPlist.strings without their end, and single values of the property list where the system reads lists. Versions in the configuration of a Cordova app that a system does not take. Members of a workspace of Dart that do not say that they are. In a Unity project, code outside of the editor's folders and assemblies that uses its library.",
  silentFor: "Of native iOS all but texts; modules to which a plugin of the build's own may do more.",
  why: "The build stops, for some in the release build only.",
  advice: "Change one of the two.",
  examples: { reported: app(false), silent: app(true) },
  check({ app: model }) {
    const { android } = model;
    const editor = [...editorCode(model), ...unfitValues(model), ...unfitBundleId(model)];
    if (!android) return editor;
    const plain = [...(android.generated ? [] : android.modules), ...model.packageModules].filter(
      (module) => module.unread.length === 0 && !hasOwnPlugins(android.build, module),
    );
    const names = namesByModule(model);
    return [
      ...editor,
      ...plain.flatMap((module) => [
        ...shrunkAlone(module),
        ...composeAlone(model, module),
        ...accessorsAlone(model, module),
        ...targetsApart(model, module),
        ...desugaredAlone(module),
        ...withoutPlugin(model, module),
        ...withoutNamespace(model, module),
        ...(module === android.module ? [] : withoutCompileLevel(model, module)),
        ...unsigned(module),
        ...unquoted(module),
        ...unknownProcessors(module),
        ...withoutKotlin(model, module, names.get(module.path) ?? []),
        ...packagesApart(model, names.get(module.path) ?? [], module),
      ]),
      ...oneWordId(model),
      ...withoutCompileLevel(model),
      ...(android.generated ? [] : [...forbidden(model), ...withoutAndroidX(model), ...besideAndroidX(model)]),
    ];
  },
});

type Unfit = App["unfitValues"][number];

/** A value that is refused, and what it has to be. */
const refused =
  (wanted: string, fix = `write ${wanted}`) =>
  ({ what, value }: Unfit): { message: string; fix: string } => ({
    message: `the ${what} ${value} is refused: it has to be ${wanted}`,
    fix,
  });

const UNFIT: Record<Unfit["what"], (fact: Unfit) => { message: string; fix: string }> = {
  "version code": refused("a whole number"),
  level: refused("a whole number on Android, and a version on iOS"),
  "localized text": refused("ended with a semicolon", "end the line with a semicolon"),
  "bundle version": refused("up to three whole numbers with dots between them"),
  "attribute of a manifest": refused("true or false"),
  "property of the build": refused("true or false"),
  list: ({ value }) => ({
    message: `${value} of the property list has one value, and the system reads a list: it finds nothing there`,
    fix: "write a list (<array>)",
  }),
  "bridging header": ({ value }) => ({
    message: `${value} sets no bridging header, as other configurations of the target do: Swift code does not see there what the header brings`,
    fix: "set SWIFT_OBJC_BRIDGING_HEADER in all configurations of the target",
  }),
  "block without a plugin": ({ value }) => {
    const [path = "", block = "", plugin = ""] = value.split("|");
    return { message: `${path} has ${block} and does not apply ${plugin}: the build stops`, fix: `apply ${plugin}` };
  },
  "target of shared code": ({ value }) => {
    const [path = "", target = "", user = ""] = value.split("|");
    return {
      message:
        user === ""
          ? `${path} applies the Android plugin and has code for Android, and its shared code has no target for it (${target})`
          : `${path} has no target ${target}, for which ${user} takes it in: the build stops`,
      fix: `add ${target}() to its targets`,
    };
  },
  "workspace member": ({ value }) => ({
    message: `${value} is a member of the workspace and does not say so: packages cannot be fetched`,
    fix: "write resolution: workspace",
  }),
  "package without a name": ({ value }) => ({
    message: `${value} has no name: packages cannot be fetched`,
    fix: "write name: and the package's name",
  }),
  "package without a constraint": ({ value }) => ({
    message: `${value} does not say which Dart it is for: packages cannot be fetched`,
    fix: "write environment: with sdk: and the versions of Dart",
  }),
  "section of a plugin": ({ value, side }) => ({
    message: `the plugin ${value} does not name its class for ${side === "ios" ? "iOS" : "Android"}${side === "android" ? " with the package of it" : ""}: packages cannot be fetched`,
    fix: `write pluginClass${side === "android" ? " and package" : ""} below ${side}, or dartPluginClass, ffiPlugin or default_package`,
  }),
  "attribute of a pod": ({ value }) => {
    const [name = "", ...lacking] = value.split(/,? /);
    return {
      message: `the specification of ${name} has no ${lacking.join(", no ")}: pods cannot be installed`,
      fix: `state ${inWords(lacking)} in it`,
    };
  },
  "source of a mapping": ({ value }) => ({
    message: `no source is called ${value}: the packages that the mapping gives to it are not found`,
    fix: `add ${value} to packageSources, or write the name of one that is there`,
  }),
  "address of Gradle": () => ({
    message: "the wrapper's properties have no distributionUrl: it does not know which Gradle to fetch, and nothing is built",
    fix: "put distributionUrl back, as gradle wrapper writes it",
  }),
};

/** What is said of one module, which a plugin of the build's own may bring. */
const OF_A_MODULE: ReadonlySet<Unfit["what"]> = new Set<Unfit["what"]>(["block without a plugin", "target of shared code"]);

function unfitValues({ unfitValues: values, android }: App): RawFinding[] {
  const isBroughtElsewhere = ({ what, value }: Unfit): boolean => {
    const module = OF_A_MODULE.has(what) ? android?.build.modules.get(value.split("|")[0] as string) : undefined;
    return android !== undefined && module !== undefined && hasOwnPlugins(android.build, module);
  };
  return values
    .filter((fact) => !isBroughtElsewhere(fact))
    .map((fact) => ({
      side: fact.side,
      ...UNFIT[fact.what](fact),
      places: [fact.at],
      subject: `${fact.what} ${fact.value}`,
    }));
}

/** Source: docs.unity3d.com, "Special folder names" (Editor): the editor's library is in no app. */
function editorCode({ code }: App): RawFinding[] {
  return (code?.systemNames ?? []).flatMap(({ kind, at }): RawFinding[] =>
    kind !== "editor code"
      ? []
      : [
          {
            side: "shared",
            message: "code of the app uses UnityEditor, which only the editor has: the build for a device stops",
            fix: "move the file to a folder Editor, or put what uses it under #if UNITY_EDITOR",
            places: [at],
            subject: `editor ${at.file}`,
          },
        ],
  );
}

function isOn(setting: AndroidSetting | undefined): boolean {
  return textOf(setting?.values[0]) === "true" && setting?.conditional !== true;
}

/** Source: developer.android.com, "Enable app optimization" (resource shrinking works only with code shrinking). */
function shrunkAlone({ settings, buildFile, folder }: GradleModule): RawFinding[] {
  return settings.flatMap((setting): RawFinding[] => {
    const { name, block, at } = setting;
    if (!/^(isS|s)hrinkResources$/.test(name) || !block.startsWith("buildType:") || !isOn(setting)) return [];
    const stated = settings.filter((other) => other.block === block && /^((isM|m)inifyEnabled|initWith)$/.test(other.name));
    if (stated.some((other) => other.name === "initWith" || textOf(other.values[0]) !== "false")) return [];
    return [
      {
        side: "android",
        message: `${block.slice("buildType:".length)} shrinks resources but not the code: the Android plugin refuses that`,
        fix: `set ${name.startsWith("is") ? "isMinifyEnabled" : "minifyEnabled"} to true in ${buildFile ?? folder}, or leave out ${name}`,
        places: [at],
        subject: `shrink ${block}`,
      },
    ];
  });
}

const COMPOSE_PLUGIN = "org.jetbrains.kotlin.plugin.compose";

/** Source: developer.android.com, "Compose Compiler Gradle plugin" (required from Kotlin 2.0 on). */
function composeAlone({ android }: App, module: GradleModule): RawFinding[] {
  const plugin = module.plugins.find(({ id, applied, conditional }) => applied && !conditional && id === "org.jetbrains.compose");
  const on = plugin ?? module.settings.find((setting) => setting.block === "buildFeatures" && setting.name === "compose" && isOn(setting));
  const kotlin = textOf(android?.effective.kotlin);
  if (!on || kotlin === undefined || !/^([2-9]|\d\d+)\./.test(kotlin)) return [];
  if (module.plugins.some(({ id, applied }) => applied && id !== "org.jetbrains.compose" && /compose/i.test(id))) return [];
  return [
    {
      side: "android",
      message: `${module.path} uses Compose with Kotlin ${kotlin}, but does not apply ${COMPOSE_PLUGIN}`,
      fix: `apply the plugin ${COMPOSE_PLUGIN} in ${module.buildFile ?? module.folder}, in the version of Kotlin`,
      places: [on.at],
      subject: `compose ${module.path}`,
    },
  ];
}

/** Source: docs.gradle.org, "Type-safe project accessors" (enableFeaturePreview, before Gradle 9 at least). */
function accessorsAlone({ android }: App, { modules, path, buildFile }: GradleModule): RawFinding[] {
  const used = modules.find(({ byAccessor }) => byAccessor);
  if (!android?.build.accessorsOff || !used || !(majorOf(textOf(android.effective.gradle)) < 9)) return [];
  // Settings may be given it by a plugin.
  if (android.build.settings.plugins.some(({ id, applied }) => applied && !PLATFORM_PLUGIN.test(id) && !id.startsWith("com.gradle.")))
    return [];
  return [
    {
      side: "android",
      message: `${path} names modules by accessors (projects.…), which the settings do not switch on: the build stops`,
      fix: `add enableFeaturePreview("TYPESAFE_PROJECT_ACCESSORS") to ${android.build.settingsFile ?? "the settings"}`,
      places: [used.at],
      subject: `accessors ${buildFile ?? path}`,
    },
  ];
}

/** Source: developer.android.com, "Java 8+ API desugaring support" (the library goes with the switch). */
function desugaredAlone(module: GradleModule): RawFinding[] {
  const on = module.settings.find(
    (setting) => setting.block === "compileOptions" && /^(isC|c)oreLibraryDesugaringEnabled$/.test(setting.name) && isOn(setting),
  );
  if (!on || module.dependencies.some(({ configuration }) => /desugaring/i.test(configuration))) return [];
  return [
    {
      side: "android",
      message: `${module.path} switches core library desugaring on, but coreLibraryDesugaring has no library: the build refuses that`,
      fix: `add coreLibraryDesugaring("com.android.tools:desugar_jdk_libs:…") to the dependencies in ${module.buildFile ?? module.folder}`,
      places: [on.at],
      subject: `desugaring ${module.path}`,
    },
  ];
}

/** Source: developer.android.com, "Configure the app module", "Set the application ID" (at least two segments, each beginning with a letter). */
function oneWordId({ android }: App): RawFinding[] {
  return (android?.ids ?? []).flatMap(({ value }): RawFinding[] => {
    const text = textOf(value);
    if (text === undefined || text === "" || /[$({]/.test(text) || /^[A-Za-z]\w*(\.[A-Za-z]\w*)+$/.test(text)) return [];
    return [
      {
        side: "android",
        message: `${text} is no application id: it has two or more parts of letters, digits and _, each beginning with a letter`,
        fix: "write it like a domain turned around, example.maresia.pilot",
        places: [value.place],
        subject: `id ${text}`,
      },
    ];
  });
}

/** Source: developer.apple.com, "CFBundleIdentifier" (letters, digits, hyphens and periods). */
function unfitBundleId({ ios }: App): RawFinding[] {
  return (ios?.ids ?? []).flatMap(({ value }): RawFinding[] => {
    const text = textOf(value);
    if (text === undefined || text === "" || /[$({]/.test(text) || /^[A-Za-z0-9.-]+$/.test(text)) return [];
    return [
      {
        side: "ios",
        message: `${text} is no bundle id: it has letters, digits, hyphens and periods alone, and the store rejects another`,
        fix: `write it without ${[...new Set(text.replace(/[A-Za-z0-9.-]/g, ""))].join(" ")}`,
        places: [value.place],
        subject: `bundle id ${text}`,
      },
    ];
  });
}

/** Source: developer.android.com, "Android Gradle plugin 8.0 release notes" (the namespace must stand in the build script). */
function withoutNamespace(app: App, module: GradleModule): RawFinding[] {
  const { android } = app;
  const plugin = leastPlugin(app);
  const applied = module.plugins.find(({ id, applied: is, conditional }) => is && !conditional && ANDROID_PLUGIN.test(id));
  if (!(majorOf(plugin) >= 8) || !applied || !android || isInstalled(`${module.folder}/`)) return [];
  // The root and other scripts may reach into modules.
  if (
    [module, android.build.root].some(
      ({ settings, unread }) => unread.length > 0 || settings.some(({ name }) => name === "namespace" || name === "setNamespace"),
    )
  )
    return [];
  return [
    {
      side: "android",
      message: `${module.path} has no namespace, which Android plugin ${plugin ?? ""} asks for`,
      fix: `add namespace = "…" to android { } in ${module.buildFile ?? module.folder}`,
      places: [applied.at],
      subject: `namespace ${module.path}`,
    },
  ];
}

/**
 * Nothing says which level the app is compiled against. Sources: developer.android.com, "Configure the app module" (compileSdk is required); the
 * settings plugin of Android (com.android.settings) may say it for all modules.
 */
function withoutCompileLevel(app: App, module: GradleModule | undefined = app.android?.module): RawFinding[] {
  const applied = module && !isInstalled(`${module.folder}/`) ? unsaid(app, COMPILE_LEVEL, module) : undefined;
  if (!module || !applied) return [];
  return [
    {
      side: "android",
      message: `${module.path} does not say which level it is compiled against (compileSdk): the build stops`,
      fix: `add compileSdk to android { } in ${module.buildFile ?? module.folder}`,
      places: [applied.at],
      subject: `compileSdk ${module.path}`,
    },
  ];
}

/** What says it, in any of its forms, for one module or for all of them. */
const COMPILE_LEVEL = /^(set)?compileSdk/i;

/**
 * Settings of the Android plugin in a script that does not apply it. Another plugin than those of the platforms may apply it. Source: developer.android.com,
 * "Android Gradle plugin" (com.android.application, com.android.library).
 */
function withoutPlugin({ android }: App, module: GradleModule): RawFinding[] {
  const setting = module.settings.find(({ block, name }) => block === "" && /^(compileSdk(Version)?|namespace)$/.test(name));
  if (!android || !setting || setting.conditional || setting.at.file !== module.buildFile || isInstalled(`${module.folder}/`)) return [];
  const applied = [android.build.root, module].flatMap(({ plugins }) => plugins.filter((plugin) => plugin.applied));
  if (applied.some(({ id }) => /^com\.android\.|^android(-library)?$/.test(id) || mayApply(id))) return [];
  if (android.build.root.unread.length > 0) return [];
  return [
    {
      side: "android",
      message: `${module.path} has settings of the Android plugin and does not apply it: the build stops`,
      fix: `apply ${module === android.module ? "com.android.application" : "com.android.library"} in ${module.buildFile}`,
      places: [setting.at],
      subject: `Android plugin ${module.path}`,
    },
  ];
}

/**
 * Texts of BuildConfig without quotes: the value is put into the class as it is. Source: developer.android.com, "Gradle tips and recipes"
 * (buildConfigField: "remember to escape the quotes").
 */
function unquoted({ settings, path }: GradleModule): RawFinding[] {
  const fields = settings.filter(({ name }) => name === "buildConfigField");
  const names = new Set(fields.map(({ values }) => textOf(values[1])));
  return fields.flatMap(({ values, conditional }): RawFinding[] => {
    const [type, name, value] = values.map(textOf);
    const at = values[2]?.place;
    if (!/^(java\.lang\.)?String$/.test(type ?? "") || value === undefined || name === undefined || !at || conditional) return [];
    // A word of its own would be another field of the class; an address is no expression at all. Names of classes have capital letters.
    const isWord = /^[A-Za-z_$][\w$]*$/.test(value) && value !== "null" && !GIVEN_FIELD.test(value) && !names.has(value);
    const isText =
      /^[a-z][a-z+.-]*:\/\//i.test(value) || /^[a-z0-9-]+(\.[a-z0-9-]+)+\.[a-z]{2,}(\/|$)/.test(value) || /^\d+[A-Za-z_-]/.test(value);
    if (value !== "" && !isWord && !isText) return [];
    return [
      {
        side: "android",
        message: `the field ${name} of BuildConfig in ${path} is a String without quotes: the class does not compile`,
        fix: 'put quotes inside the text: \'"…"\' in Groovy, "\\"…\\"" in Kotlin',
        places: [at],
        subject: `field ${path} ${name}`,
      },
    ];
  });
}

function unknownProcessors({ settings }: GradleModule): RawFinding[] {
  return settings.flatMap(({ name, block, values }) =>
    name !== "abiFilters" && !(name === "include" && /splits\.abi$/.test(block))
      ? []
      : values.flatMap((value): RawFinding[] => {
          const text = textOf(value);
          const near = text === undefined || ANDROID_PROCESSORS.includes(text) ? undefined : nearest(text, ANDROID_PROCESSORS);
          if (text === undefined || near === undefined) return [];
          return [
            {
              side: "android",
              message: `${text} is no processor that Android has: native libraries for it are nowhere`,
              fix: `write ${near}`,
              places: [value.place],
              subject: `processor ${text}`,
            },
          ];
        }),
  );
}

/** What code takes of classes that the build makes, by its module. */
function namesByModule({ code }: App): ReadonlyMap<string, AndroidName[]> {
  const found = new Map<string, AndroidName[]>();
  for (const name of code?.androidNames ?? []) {
    const known = found.get(name.module);
    if (known) known.push(name);
    else found.set(name.module, [name]);
  }
  return found;
}

/** Sources: kotlinlang.org, "Configure a Gradle project"; developer.android.com, "Android Gradle plugin 9.0" (Kotlin is built in). */
function withoutKotlin(app: App, module: GradleModule, names: readonly AndroidName[]): RawFinding[] {
  const { kind } = app;
  const first = names.find((name) => name.kind === "Kotlin");
  const applied = module.plugins.filter((plugin) => plugin.applied);
  const plugin = majorOf(leastPlugin(app));
  if (!first || !OF_CLASSES.has(kind) || !(plugin < 9)) return [];
  if (
    !applied.some(({ id }) => ANDROID_PLUGIN.test(id)) ||
    applied.some(({ id }) => /kotlin(?!.*(kapt|serialization|parcelize|extensions|compose|\.plugin\.))/.test(id))
  )
    return [];
  return [
    {
      side: "android",
      message: `${module.path} has code in Kotlin, but applies no plugin that compiles it: its classes are missing`,
      fix: `apply the plugin org.jetbrains.kotlin.android in ${module.buildFile ?? module.folder}`,
      places: [first.at],
      subject: `Kotlin ${module.path}`,
    },
  ];
}

/** Source: developer.android.com, "Android Gradle plugin 8.0 release notes" (the package of a manifest is no longer the namespace). */
function packagesApart({ android }: App, names: readonly AndroidName[], module: GradleModule): RawFinding[] {
  if (!(majorOf(textOf(android?.effective.androidPlugin)) >= 8)) return [];
  return names.flatMap(({ kind, name, near = "", at }): RawFinding[] =>
    kind !== "manifest package"
      ? []
      : [
          {
            side: "android",
            message: `the manifest of ${module.path} has the package ${name}, and its namespace is ${near}: the build refuses that`,
            fix: "remove package from the manifest",
            places: [at],
            subject: `manifest package ${module.path}`,
          },
        ],
  );
}

/** Source: docs.gradle.org, "Centralizing repository declarations" (RepositoriesMode). */
function forbidden(model: App): RawFinding[] {
  return [...withoutAddress(model), ...forbiddenOfModules(model)];
}

/** Source: docs.gradle.org, "Declaring repositories" (a repository of the kind maven has a url). */
function withoutAddress({ android }: App): RawFinding[] {
  const all = android ? [android.build.settings, android.build.root, ...android.build.modules.values()] : [];
  return all.flatMap(({ repositories }) =>
    repositories.flatMap(({ empty, at }): RawFinding[] =>
      !empty || isInstalled(at.file)
        ? []
        : [
            {
              side: "android",
              message: "a repository names no address: the build stops",
              fix: "write its url, or remove the block",
              places: [at],
              subject: `repository ${at.file} without url`,
            },
          ],
    ),
  );
}

function forbiddenOfModules({ android, repositories }: App): RawFinding[] {
  const mode = android?.build.settings.settings.find(({ name }) => name === "repositoriesMode");
  if (!android || !mode || textOf(mode.values[0]) !== "FAIL_ON_PROJECT_REPOS") return [];
  const modules = new Set([android.build.root, ...android.build.modules.values()].map(({ path }) => path));
  return repositories.flatMap(({ module, for: what, at }): RawFinding[] =>
    what === "packages" && modules.has(module)
      ? [
          {
            side: "android",
            message: `${module === ":" ? "the root script" : module} declares a repository, which the settings forbid (FAIL_ON_PROJECT_REPOS)`,
            fix: "move it to dependencyResolutionManagement in the settings",
            places: [at, mode.at],
            subject: `repository ${module}`,
          },
        ]
      : [],
  );
}

/** Kinds of apps with classes of their own for Android. */
const OF_CLASSES: ReadonlySet<App["kind"]> = new Set<App["kind"]>([...OF_ANDROIDX, "native"]);
