import type { GradleBuildFacts, GradleModule } from "./gradle.js";
import type { IosTargetFacts } from "./xcode.js";
import type {
  BlindSpot,
  BuildPluginFact,
  CodeName,
  RequiredLevel,
  Dependency,
  Entry,
  IdFact,
  LevelFact,
  LevelName,
  LinkFact,
  LinkingFact,
  LockFact,
  NamedFile,
  NativeLibrary,
  OptionFact,
  PackageNeed,
  PackageGraph,
  PathFact,
  RepositoryFact,
  RepositoryNeed,
  RulesFile,
  ServiceFile,
  ShrinkFact,
  SideName,
} from "./facts.js";
import type { CodeFacts, ComponentFault } from "./code.js";
import { isWithin } from "./paths.js";
import type { Place } from "./place.js";
import type { Reason } from "./reason.js";
import { textOf, type Value } from "./value.js";

export const APP_KINDS = ["native", "react-native", "expo", "flutter", "cordova", "capacitor", "dotnet", "unity"] as const;
export type AppKind = (typeof APP_KINDS)[number];

/** One side of an app. */
export interface Side {
  side: SideName;
  /** Folder of the native project, relative to the root. */
  folder: string;
  ids: IdFact[];
  levels: LevelFact[];
  /** The level that the app gets in the end, per level. */
  effective: Partial<Record<LevelName, Value>>;
  /** Levels that nothing in the project states: the framework's or the platform's default holds. */
  defaults: Partial<Record<LevelName, { value: Value; from: string }>>;
  /** Of levels that are left to a default which is not known: what it is at least, since the framework itself asks for it. */
  defaultAtLeast?: Partial<Record<LevelName, string>>;
  /** The native project is written by the framework when it builds, and is not in the files. */
  generated?: boolean;
  /** Where the project says that it leaves a level to the framework. */
  leftTo?: Partial<Record<LevelName, Place>>;
}

export interface AndroidSide extends Side {
  side: "android";
  build: GradleBuildFacts;
  /** The application's module. */
  module: GradleModule;
  /** The app's own modules that go into it, the application's first. */
  modules: GradleModule[];
  /** The `gradle.properties` of the build, where it is there. */
  propertiesFile?: string;
}

/** Whether libraries of others are in on a side, which may do what the app's own files do not. */
export const takesLibraries = ({ dependencies }: Pick<App, "dependencies">, side: "android" | "ios"): boolean =>
  dependencies.some((one) => one.side === side && !one.platform && !one.test);

/** The target level of the Android side, or what it is at least where it is left to a default; not a number where nobody knows. */
export function targetOf({ android }: { android?: Pick<AndroidSide, "effective" | "defaultAtLeast"> | undefined }): number {
  return Number(textOf(android?.effective.targetSdk) ?? android?.defaultAtLeast?.targetSdk);
}

export interface IosSide extends Side {
  side: "ios";
  projectFile: string;
  /** Xcode projects that belong together with it: its own, those to which it refers, and those of its workspaces. */
  projects: string[];
  /** Bundle ids that the property list writes out, where the build has another. */
  idsApart: { written: Value & { kind: "known" }; setting: Value & { kind: "known" } }[];
  targets: IosTargetFacts[];
  /** Every target of the project, extensions and frameworks too. */
  allTargets: IosTargetFacts[];
  /** The target that is shipped. */
  target: IosTargetFacts;
  usesPods: boolean;
  pods?: PodsFact;
  /** Swift packages that the project takes from repositories, by what their modules are likely called, in lower case. */
  likelyModules?: readonly { package: string; names: readonly string[] }[];
}

/** What the Podfile and its lock say of linking. */
export interface PodsFact {
  file: string;
  /** Helpers of frameworks that bring pods of their own. */
  helpers: string[];
  declared: Map<string, Place>;
  locked: Map<string, { version: string; at: Place }> | undefined;
  lockFile: string;
  usesFrameworks: boolean;
  /** The targets that the Podfile names, each within which. */
  targets: { name: string; parent: string | undefined }[];
}

/** An application target beside the one that an app is read from: its property list and entitlements, and what it links. */
export interface FurtherTarget {
  target: IosTargetFacts;
  entries: Entry[];
  propertyLists: string[];
  /** The targets of the Podfile whose pods it gets: its own, and those around it. */
  podTargets: string[];
  /** Addresses of the Swift packages of which it takes a product. */
  packages: string[];
}

/** A target that is shipped inside the app: an extension, or the app for the watch. */
export interface PartTarget {
  target: IosTargetFacts;
  runsOn: "phone" | "watch";
  entries: Entry[];
  propertyLists: string[];
  /** Its list of entitlements was named and could not be read. */
  entitlementsOpen: boolean;
}

/** Something of an extension that the system does not take. */
export interface ExtensionFault {
  what:
    | "not embedded"
    | "id"
    | "group"
    | "point"
    | "no point"
    | "class"
    | "no class"
    | "version"
    | "keychain"
    | "domain"
    | "link filter"
    | "watch not embedded"
    | "watch folder"
    | "watch system"
    | "companion"
    | "no companion"
    | "installed by itself"
    | "list copied"
    | "no push"
    | "level";
  target: string;
  name: string;
  /** What it has to be or to begin with, or what is there in its place. */
  near: string | undefined;
  at: Place;
}

/** A line of a framework's template by what it does. */
/** A target of a Swift package of the repository. */
export interface SwiftModule {
  name: string;
  /** Where its sources lie. */
  folder: string;
  package: string;
  /** Modules and products that it takes in, and those that these take in. */
  sees: readonly string[];
  /** Products of other packages that it takes itself, with their addresses. */
  takes: readonly { product: string; location: string }[];
  /** The packages that its own asks for, by their identities. */
  beside: readonly string[];
  /** The products of its package that name it. */
  products: readonly string[];
  /** Whether some dependency of its package could not be made out. */
  open: boolean;
}

/** A pod of the repository: its module, its files of Swift, and the modules of other pods that it sees. */
export interface OwnPod {
  name: string;
  module: string;
  files: readonly string[];
  sees: readonly string[];
  /** Whether others can bring it more modules than those: pods whose own needs are not here, or archives. */
  open: boolean;
}

/** A plugin of the tree that names what it does not have; without a type one that has code for a side which it does not name. */
export interface PluginGap {
  package: string;
  side: "android" | "ios";
  type: string | undefined;
  /** What `type` is, where it is no native class. */
  what?:
    | "class of Dart"
    | "package of a class"
    | "package of a side"
    | "podspec"
    | "no plugin"
    | "closed class"
    | "product of Swift"
    | "not packed"
    | "name of the podspec"
    | "sources of the podspec"
    | "framework of the podspec"
    | "unlisted source"
    | "class for Objective-C"
    | "method for Objective-C"
    | "no answer"
    | "callback not kept"
    | "variable"
    | "import";
  at: Place;
}

export type TemplateLine =
  | "Kotlin of plugins"
  | "framework in package.json"
  | "framework in pubspec.yaml"
  | "number of the build"
  | "links read"
  | "launch of plugins"
  | "engine's library"
  | "engine's namespace"
  | "repository of plugins"
  | "script after the build"
  | "framework's package"
  | "single project"
  | "platform of the items"
  | "bound library"
  | "binding's switch"
  | "binding's definitions"
  | "trimmer's list"
  | "framework of Kotlin"
  | "module of the framework"
  | "order of the framework"
  | "sandbox of the framework"
  | "framework for devices"
  | "target framework"
  | "plugin loader"
  | "source of the app"
  | "icons of the list"
  | "id of the app"
  | "versions of the app"
  | "engine's level"
  | "engine's classes"
  | "assets of the engine"
  | "cache of the scripts' settings"
  | "entry of the app"
  | "id of the platform"
  | "address of updates"
  | "package of updates"
  | "package of development builds"
  | "packages of the router"
  | "package of the platform"
  | "folder of the build"
  | "version of the app"
  | "settings of the pods"
  | "root of the framework"
  | "build plugin"
  | "order of build plugins"
  | "version of the bundle"
  | "links on one side"
  | "scheme of the router"
  | "script of plugins"
  | "framework's module"
  | "pods of the target"
  | "framework's pods"
  | "packages in settings"
  | "switch of the engine"
  | "framework's view"
  | "framework's script"
  | "framework's library"
  | "folder of the library"
  | "packages in app"
  | "native loader"
  | "start of the framework"
  | "links handed on"
  | "push handed on"
  | "call of super"
  | "embedding"
  | "registration"
  | "pods of plugins"
  | "pods file"
  | "pods file of this build"
  | "settings of this build"
  | "generated file"
  | "implicit engine"
  | "template in use"
  | "page script"
  | "pods of packages"
  | "pods' post install"
  | "merged libraries"
  | "platform of the list"
  | "ready handler"
  | "module in settings"
  | "module as dependency"
  | "module's pods"
  | "module's post install"
  | "library manifest"
  | "repository of the engine"
  | "engine that runs"
  | "plugins of the engine"
  | "activity of the engine"
  | "package of plugins"
  | "pages in the target"
  | "configuration in the target"
  | "splash hidden"
  | "edits written"
  | "dependencies mark"
  | "engine's modules"
  | "library folders"
  | "launcher activity"
  | "exported activity"
  | "engine's activity"
  | "modules' dispatcher"
  | "modules' activity"
  | "modules' launch"
  | "modules in settings"
  | "modules' root"
  | "settings of updates"
  | "modules' pods"
  | "modules' delegate"
  | "modules' host"
  | "ready event"
  | "order of registration"
  | "framework's build plugin"
  | "bundle of scripts"
  | "framework's activity"
  | "framework's delegate"
  | "build of the framework"
  | "settings plugin"
  | "class path of the framework"
  | "framework in app"
  | "engine of scripts"
  | "new architecture"
  | "component of the activity"
  | "component of the delegate"
  | "bundle of the release"
  | "provider of generated code"
  | "folders of the workspace"
  | "command line"
  | "framework's switch"
  | "scripts of the pods"
  | "configuration of the pods"
  | "core pods"
  | "app in settings"
  | "head that is no app";

/** An option that is meant for development, where release builds get it too. */
export interface DebugOption {
  what:
    | "debuggable"
    | "test only"
    | "development server"
    | "debug symbol"
    | "developer support"
    | "page inspection"
    | "development client"
    | "archive";
  side: SideName;
  /** As it is written. */
  text: string;
  at: Place;
}

/** A page of an app that is made of pages: the scripts that it loads, and its policy. */
export interface WebPage {
  file: string;
  /** The app begins with it. */
  first: boolean;
  scripts: string[];
  /** It loads more in ways that are not followed. */
  open: boolean;
  policy?: { text: string; at: Place };
  /** The first script that stands in the page itself. */
  inline?: Place;
}

/** An assembly of shared code: whether it is for tests or the editor alone, and the assemblies that its code may use, by their names. */
export interface AssemblyFact {
  aside: boolean;
  name: string;
  references: readonly string[];
}

/** What the files say of one thing that is shipped under one name: plain data, frozen when gathering ends. */
export interface AppFacts {
  readonly name: string;
  readonly kind: AppKind;
  readonly path: string;
  readonly android?: AndroidSide;
  readonly ios?: IosSide;
  /** The folder of the shared code, in a hybrid. */
  readonly shared?: { folder: string; framework: FrameworkFact };
  readonly dependencies: readonly Dependency[];
  readonly requiredLevels: readonly RequiredLevel[];
  readonly repositories: readonly RepositoryFact[];
  readonly repositoryNeeds: readonly RepositoryNeed[];
  readonly buildPlugins: readonly BuildPluginFact[];
  readonly paths: readonly PathFact[];
  readonly locks: readonly LockFact[];
  /** Everything that a lock file has, direct or not: ecosystem and name with a space between. */
  readonly lockedNames: ReadonlySet<string>;
  /** Places where a script or CI builds the Xcode project although pods ask for the workspace. */
  readonly workspaceBypasses: readonly { command: string; at: Place }[];
  /** The same native package installed more than once. */
  readonly doubles: readonly { name: string; versions: { version: string; at: Place }[] }[];
  readonly blindSpots: readonly BlindSpot[];
  /** Files of the app that could not be read in full, with the side that they belong to. */
  readonly broken: ReadonlyMap<string, SideName>;
  readonly entries: readonly Entry[];
  readonly serviceFiles: readonly ServiceFile[];
  readonly namedFiles: readonly NamedFile[];
  readonly shrink: readonly ShrinkFact[];
  readonly rulesFiles: readonly RulesFile[];
  readonly links: readonly LinkFact[];
  readonly options: readonly OptionFact[];
  readonly linking: readonly LinkingFact[];
  readonly packageNeeds: readonly PackageNeed[];
  /** Names that sheets require, where the app's own source files have them. */
  readonly codeNames: readonly CodeName[];
  /** Sides whose source files could be looked through. */
  readonly codeRead: readonly SideName[];
  /** Names of files that sheets require and that version control leaves out. */
  readonly leftOutOfGit: ReadonlySet<string>;
  /** What a framework's configuration says and the native project says otherwise; `files` names the two where they are others. */
  readonly configuredApart: readonly {
    what: string;
    side: "android" | "ios" | "shared";
    configured: Value;
    /** Absent where the native project has nothing of it. */
    native: Value | undefined;
    files?: readonly [string, string];
    /** The first is written from the second: what only that has is gone then. */
    isWritten?: boolean;
  }[];
  /**
   * Files that the build lays into the app under a name: as resources of an assembly (`embedded`), or as assets of the package. A resource whose name is
   * worked out while it is built has none.
   */
  readonly bundledFiles: readonly { kind: "embedded" | "asset"; name: string | undefined; file: string }[];
  /** Packages that do not fit a central list of versions: not in it, or with a version of their own beside it. */
  readonly centralVersions: readonly {
    name: string;
    what: "no version" | "own version" | "list switched off" | "none at all";
    side: SideName;
    at: Place;
    list: Place;
  }[];
  /** Packages that no source is to be asked for, by a list that says which source has which. */
  readonly uncovered: readonly { package: string; sdk: string; side: SideName; at: Place; list: Place }[];
  /** Links of pages that the configuration does not let the system open, and the list of those that it does. */
  readonly blockedLinks: readonly { scheme: string; at: Place; list: Place }[];
  /** Projects of the tree that no project of the app refers to, by their names. */
  readonly otherProjects: readonly string[];
  /** Projects that another refers to and cannot take in, as they are made for newer or other frameworks. */
  readonly unfitProjects: readonly { project: string; side: "android" | "ios"; offers: string; wanted: string; at: Place; owner: Place }[];
  /** Flavours of the Android side that the framework asks Xcode for by name, and that are not there. */
  readonly flavorGaps: readonly { flavor: string; lacks: "scheme" | "configuration"; at: Place; project: string }[];
  /** Plugins of the tree that name a class which their code does not have, or that have code for a side which they do not name. */
  readonly pluginGaps: readonly PluginGap[];
  /** Lines of the framework's template that the native projects lack. */
  readonly templateLines: readonly { line: TemplateLine; side: "android" | "ios"; at: Place }[];
  /** What is meant for development alone and is in every build. */
  readonly debugOptions: readonly DebugOption[];
  /** Source files that a project takes out of what it compiles, for each side from whose build they are gone. */
  readonly uncompiled: ReadonlyMap<string, readonly ("android" | "ios")[]>;
  /** Packages with native code that only a package of the repository asks for, where the framework links what the app itself lists. */
  readonly throughPackages: readonly { package: string; by: string; in: string; side: "android" | "ios"; at: Place }[];
  /** Packages of the repository whose scripts are the app's own code: how they are imported, and which of their files that may mean. */
  readonly ownPackages: readonly {
    name: string;
    folder: string;
    entries: readonly string[];
    /** No package, but a name for a folder of the app (`@` for `src`) that its settings give. */
    alias?: true;
  }[];
  /** Folders with code of the app that do not lie below its own: the package whose library one is, and the one phone that shared code runs on. */
  readonly sourceFolders: readonly { folder: string; side: SideName; package?: string; only?: "android" | "ios" }[];
  /** Modules of Swift in packages of the repository that the app takes in. */
  readonly swiftModules: readonly SwiftModule[];
  /** Pods of the repository that the app takes in, with their code. */
  readonly ownPods: readonly OwnPod[];
  /** Modules of Android packages of the repository that the app's build takes in beside its own. */
  readonly packageModules: readonly GradleModule[];
  /** Plugins that a framework's configuration names, and whether a package of the project brings them. */
  /** Sides of which the framework's configuration leaves open what it adds: it is worked out by a program. */
  readonly openConfig: readonly SideName[];
  /** Sides that are written from a configuration and from plugins which could all be read: what is not there is not in the app. */
  readonly wholeConfig: readonly { side: SideName; file: string }[];
  /**
   * Parts of a native project that is written when it is built of which a script that cannot be followed may change something: an entry of
   * the property list by its name, `entitlements`, `frameworks`, `settings`, or `*` for all.
   */
  readonly openParts: readonly { side: "android" | "ios"; part: string; why: Reason; at: Place }[];
  readonly webPages: readonly WebPage[];
  /** Origins that a configuration lets the app's pages talk to. */
  readonly webOrigins: readonly { origin: string; at: Place }[];
  /** Packages of shared code that have native code for one side alone, with the names by which shared code calls them. */
  readonly oneSidedPackages: readonly { package: string; sdk: string; lacks: "android" | "ios"; names: readonly string[]; at: Place }[];
  /**
   * Patches of installed packages that lie in the project: the version that each was made for, and the one that the app has (absent: the package is
   * not in the app). `applied`: something applies them.
   */
  readonly patches: readonly { package: string; sdk: string; made: string; has: string | undefined; applied: boolean; at: Place }[];
  /** Entries of a list that the framework writes, of packages which the app no longer declares. */
  readonly leftovers: readonly { package: string; sdk: string; side: "android" | "ios"; refresh: string; at: Place }[];
  /** Packages whose files are not here: what they add when the project is built is not known. */
  readonly unseenPackages: readonly { name: string; sdk: string }[];
  /** Permissions that the framework adds when something uses what needs them, which the files do not tell. */
  readonly editorPermissions: readonly string[];
  /** What packages of the tree ask for, by their own manifests, and what there is; `found` is absent where there is nothing. */
  readonly packageRequirements: readonly { by: string; sdk: string; name: string; wanted: Value; found: string | undefined }[];
  /** The symbols with which shared code is compiled, per side, and those of which nothing tells whether they are defined. */
  readonly buildSymbols?: { defined: Readonly<Record<"android" | "ios", readonly string[]>>; open: readonly string[] };
  /** Installed packages with a config plugin that the configuration from which the native projects are made does not list. */
  readonly unlistedPlugins: readonly { package: string; sdk: string; config: string; at: Place[] }[];
  /** The configuration of the framework that hands options to packages. */
  readonly optionsIn?: string;
  /** The names that what the app's configuration hands to its code (`extra` of Expo) can have; absent where it can have any. */
  readonly optionNames?: readonly string[] | undefined;
  readonly configPlugins: readonly { name: string; found: boolean; open: readonly ("android" | "ios")[]; at: Place }[];
  /** Files of an installed package that stand in the project a second time. */
  readonly copies: readonly { package: string; sdk: string; side: "android" | "ios"; at: Place; declared: Place }[];
  /** Packages that must be at versions near each other, as their framework says. */
  readonly agreements: readonly { title: string; members: { name: string; version: string; at: Place }[]; wanted: string | undefined }[];
  /** The app's own manifests and property lists that could be read. */
  readonly manifests: readonly string[];
  readonly propertyLists: readonly string[];
  /** Folders whose code is an assembly of its own, and whether that is for tests or the editor alone; the nearest folder above a file decides. */
  readonly assemblies: ReadonlyMap<string, AssemblyFact>;
  /** What further targets of the Xcode project that are apps too have of their own. */
  readonly furtherTargets: readonly FurtherTarget[];
  /** Targets that are shipped inside the app: its extensions, and its app for the watch. */
  readonly partTargets: readonly PartTarget[];
  /** What the code of these uses of what the system guards. */
  readonly partUses: readonly { target: string; capability: string; keys: readonly string[]; perhaps: boolean; at: Place }[];
  /** Packages whose native interfaces the framework generates from a specification, by their codegen settings. */
  readonly codegen: readonly { package: string; name: string; at: Place }[];
  /** What comes with the packages of the Android side; absent where none of their descriptions is on this machine. */
  readonly graph?: PackageGraph;
  readonly nativeLibraries: readonly NativeLibrary[];
  /** Archives and libraries of classes that the Android side gets as files. */
  readonly androidLibraries: readonly AndroidLibrary[];
  /** Archives that lie in a folder for them in a module of the Android side, and that nothing of the build takes. */
  readonly looseArchives: readonly { module: string; file: string }[];
  /** What pods of the repository ask of other pods. */
  readonly podRequirements: readonly { name: string; requirement: string; by: string; at: Place }[];
  /** Entitlements that only builds for debugging have. */
  readonly debugEntitlements: readonly { name: string; at: Place }[];
  /** What an extension of the iOS app, or an entry of its entitlements, lacks so that the system takes it. */
  readonly extensionFaults: readonly ExtensionFault[];
  /** Components that the system cannot start, where attributes of the code write them into the manifest. */
  readonly componentFaults: readonly ComponentFault[];
  /** Names and values that nobody understands, each with the one that is meant. */
  readonly misspellings: readonly { what: string; name: string; right: string; side: SideName; at: Place }[];
  /** Purpose texts that are empty in a language of the app. */
  readonly emptyTexts: readonly { key: string; language: string; at: Place }[];
  /** Values that a build or a system refuses. */
  readonly unfitValues: readonly {
    what:
      | "version code"
      | "bundle version"
      | "level"
      | "localized text"
      | "bridging header"
      /** `:module|block|plugin`. */
      | "block without a plugin"
      /** `:module|target|user`, without a user where it is the target of Android. */
      | "target of shared code"
      | "list"
      | "workspace member"
      | "package without a name"
      | "package without a constraint"
      | "section of a plugin"
      | "attribute of a pod"
      | "source of a mapping"
      | "attribute of a manifest"
      | "property of the build"
      | "address of Gradle";
    value: string;
    side: SideName;
    at: Place;
  }[];
  /** Folders of plugins that the project has itself, beside its app. */
  readonly ownPlugins: readonly string[];
  /** Properties of the build that are asked for and that nothing sets, with one of almost the same name that is set. */
  readonly lostProperties: readonly { name: string; near: string; of?: "configuration" | "options"; at: Place }[];
  /** Files that a production build takes in place of others. */
  readonly replacedFiles: readonly { file: string; by: string }[];
  /** Where a configuration says that the splash screen stays until code hides it. */
  readonly splashStays: Place | undefined;
  /** Groups of apps in the entitlements of the targets. */
  readonly appGroups: readonly { target: string; name: string; at: Place }[];
  /** Interfaces that the iOS system guards and that code in the app uses: the keys of which the property list needs one; own code under no name. */
  readonly guardedUses: readonly {
    capability: string;
    keys: readonly string[];
    by: string | undefined;
    sdk: string | undefined;
    perhaps: boolean;
    at: Place;
  }[];
  /** Interfaces for whose use the store wants a reason, and that code in the app uses; own code under no name. */
  readonly restrictedUses: readonly { category: string; by: string | undefined; sdk: string | undefined; at: Place }[];
  /** Privacy manifests of the app and of its packages, and whether they get into the app. */
  readonly privacyManifests: readonly PrivacyManifest[];
  /** Packages of which it cannot be told whether they bring a privacy manifest. */
  readonly privacyOpen: readonly string[];
  /** iOS packages whose files are on this machine and were read: as the app names them, and as facts say who brings something. */
  readonly iosPackagesRead: readonly { name: string; by: string }[];
  /** Frameworks in parts, one for each kind of system. */
  readonly frameworks: readonly { name: string; by: string; sdk: string; devices: boolean; simulators: boolean; at: Place }[];
  /** Libraries that come as files and have classes of the same names. */
  readonly doubledClasses: readonly { first: string; second: string; count: number; example: string; sdk: string; at: Place[] }[];
  /** Libraries that need newer Java interfaces to be made available on old systems, by their own metadata. */
  readonly desugaringNeeds: readonly { by: string; sdk: string; at: Place }[];
  /** Placeholders in manifests of libraries and in the app's own (by nobody), which the app's build has to give a value. */
  readonly placeholderNeeds: readonly { name: string; by: string | undefined; sdk: string | undefined; at: Place }[];
  /** Names of library packages whose minimum level the app's manifest sets aside. */
  readonly overriddenLibraries: readonly string[];
  /** Manifests that packages bring. */
  readonly libraryManifests: readonly { file: string; by: string }[];
  /** Elements of the app's own manifests. */
  readonly elements: readonly { name: string; parent: string; at: Place }[];
}

/** A library that the Android side gets as a file, in the tree or where packages were fetched to. */
export interface AndroidLibrary {
  file: string;
  /** Who brings it, as people know it: the file's name, a package, an artifact. */
  by: string;
  sdk: string;
  /** The flavour or build type that has it; absent where all do. */
  variant?: string | undefined;
  /** Where the app asks for it, or for what brings it. */
  places: Place[];
  /** It comes as a package: `platform` for one of the platform itself, `open` where its version may be another in the end. */
  fetched?: { platform: boolean; open: boolean };
}

/** A privacy manifest: the reasons that it gives for the use of interfaces. */
export interface PrivacyManifest {
  file: string;
  /** The package that brings it; absent for the app's own. */
  by: string | undefined;
  /** Whether it gets into the app. */
  taken: boolean;
  reasons: readonly { category: string; reasons: readonly string[]; at: Place }[];
  /** Where it says that the app tracks people, and names no domain for it. */
  tracksNowhere?: Place;
  /** It takes in what the manifests of all pods say. */
  merges?: true;
}

/** An app as rules and needs see it: its facts, with what sheets and the source code add to them. */
export interface App extends AppFacts {
  /** SDKs of this app that a sheet describes: what asks the app for something is known for them. */
  readonly sheets: readonly string[];
  /** What the source code says; absent when it was not read. */
  readonly code?: CodeFacts;
  /** Levels for which a sheet and the package's own files say different things; the sheet's counts. */
  readonly sheetDifferences: readonly { sdk: string; level: LevelName; sheet: Value; own: Value; by: string }[];
}

export interface FrameworkFact {
  name: string;
  package: string;
  declared: Value | undefined;
  installed: string | undefined;
}

/** Everything that was found under a folder. */
export interface Survey {
  root: string;
  /** Depth of the version-control root above `root`, as a path (`""` when it is `root` itself); `undefined` when there is none. */
  repository: string | undefined;
  apps: readonly App[];
  /** Folders with shared code of a framework and without any native project. */
  withoutNative: { folder: string; kind: AppKind }[];
  /** Project files that are no app, and why, where no app was found at all. */
  noApps: { file: string; why: Reason }[];
  /** Folders that a setting pairs, where no app's side of that kind lies. */
  unpaired: { side: "android" | "ios"; folder: string; at: Place }[];
  unreadable: { file: string; message: string; place: Place; template: boolean }[];
  /** Files and folders that lie outside of the repository, where a link or a path leads; they were not read. */
  passedOver: { file: string; why: Reason }[];
  /** Whether a file was given up because it took too long: another run may see more. */
  cutShort: boolean;
  filesRead: number;
}

/** Of an app what lists of findings say: its name, kind, place and sides. */
export type AppOutline = Pick<App, "name" | "kind" | "path"> & { android?: object; ios?: object; shared?: object };

/** Of a survey what lists of findings say. */
export type SurveyOutline = Pick<Survey, "root" | "repository"> & { apps: readonly AppOutline[] };

/** What kinds of app are called. */
export const KIND_TITLES: Record<AppKind, string> = {
  native: "native",
  "react-native": "React Native",
  expo: "Expo",
  flutter: "Flutter",
  cordova: "Cordova",
  capacitor: "Capacitor",
  dotnet: ".NET",
  unity: "Unity",
};

export function outlineOf({ root, repository, apps }: Survey): SurveyOutline {
  const mark = (side: object | undefined): object | undefined => side && {};
  return {
    root,
    repository,
    apps: apps.map((app) => ({
      name: app.name,
      kind: app.kind,
      path: app.path,
      android: mark(app.android),
      ios: mark(app.ios),
      shared: mark(app.shared),
    })),
  };
}

export function sidesOf(app: AppOutline): SideName[] {
  const sides: SideName[] = [];
  if (app.android) sides.push("android");
  if (app.ios) sides.push("ios");
  if (app.shared) sides.push("shared");
  return sides;
}

/** How much a variant's name speaks of the build that is shipped. */
function shipped(variant: string | undefined): number {
  if (variant === undefined) return 1;
  const debug = /debug|profile/i.test(variant) ? -4 : 0;
  const other = /(^|[^a-z])(dev|develop|development|stag|staging|stage|test|qa|uat|alpha|beta|internal|mock|local|nightly)/i.test(
    variant.replace(/([a-z])([A-Z])/g, "$1-$2"),
  )
    ? -2
    : 0;
  return debug + other + (/release/i.test(variant) ? 2 : 0) + (/prod|live|store/i.test(variant) ? 1 : 0);
}

/** Of things that each variant has, the one of the build that is shipped; the first of several. */
export function ofRelease<T extends { variant: string | undefined }>(items: readonly T[]): T | undefined {
  let best: T | undefined;
  for (const item of items) if (!best || shipped(item.variant) > shipped(best.variant)) best = item;
  return best;
}

/** Whether a variant is one that is made for developers and not shipped, by its name. */
export function isForDevelopment(variant: string | undefined): boolean {
  return variant !== undefined && /debug/i.test(variant);
}

/**
 * The package of the repository in whose folder a file lies, the nearest one; `undefined` for the app's own files, also where a package lies around
 * the app that shows what it does.
 */
export function ownPackageOf(
  { ownPackages, path }: Pick<AppFacts, "ownPackages" | "path">,
  file: string,
): AppFacts["ownPackages"][number] | undefined {
  let nearest: AppFacts["ownPackages"][number] | undefined;
  for (const own of ownPackages) {
    if (own.alias || !isWithin(file, own.folder) || (isWithin(path, own.folder) && isWithin(file, path))) continue;
    if (nearest === undefined || own.folder.length > nearest.folder.length) nearest = own;
  }
  return nearest;
}

export function sideOf(app: Pick<AppFacts, "android" | "ios">, side: SideName): Side | undefined {
  return side === "android" ? app.android : side === "ios" ? app.ios : undefined;
}

/** Which side a level belongs to. */
export function sideOfLevel(level: LevelName): "android" | "ios" {
  return level === "iosTarget" || level === "swift" ? "ios" : "android";
}
