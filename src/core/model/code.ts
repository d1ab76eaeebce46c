import type { DebugOption } from "./app.js";
import type { SideName } from "./facts.js";
import type { Place } from "./place.js";
import { reason, type Reason } from "./reason.js";
import type { Value } from "./value.js";

/** Languages whose source code is read. */
export const LANGUAGES = ["kotlin", "java", "swift", "objc", "javascript", "typescript", "tsx", "dart", "csharp"] as const;
export type Language = (typeof LANGUAGES)[number];

/** What a name stands for, as written. */
export interface CodeValue {
  text: string;
  from: number;
  to: number;
  /** It is made when somebody asks for it. */
  lazy?: true | undefined;
  /** The name is for each of what the text holds. */
  element?: true | undefined;
}

/** Something that a condition around a call asks. */
export interface Guard {
  text: string;
  /** `debug`: only in debug builds; `platform`: only on one platform; `emulator`: on no real phone; `variant`: in one flavour of the app; `never`: in no build for phones; `presence`: whether something is there; `other`. */
  kind: "debug" | "release" | "android" | "ios" | "emulator" | "variant" | "never" | "presence" | "other";
  /** It is asked when the code is compiled. */
  compiled?: true;
}

export interface CodeArgument {
  label: string | undefined;
  text: string;
  /** The text of a string literal without parts that are worked out. */
  literal: string | undefined;
  from: number;
}

/** A call, or an assignment to a property of something. */
export interface CodeCall {
  /** The called name with what stands before it, arguments left out: `Quaymap.shared.start`. */
  callee: string;
  /** The selector of an Objective-C message: `startWithKey:options:`. */
  selector: string | undefined;
  assignment: boolean;
  from: number;
  /** Offset of the called name itself. */
  at: number;
  arguments: CodeArgument[];
  /** Index of the function in which it stands; -1 outside of any. */
  in: number;
  guards: Guard[];
  /** Names of the calls to which the closures around it are handed over, outermost first. */
  closures: string[];
  /** Offsets of these calls: what stands in one closure has the same. */
  closuresAt: number[];
  /** Called only where the receiver is there (`x?.start()`). */
  optional: boolean;
}

export interface CodeFunction {
  name: string;
  /** The type in which it stands; "" outside. */
  type: string;
  /** In scripts: the last name of the object of which it is a part, as `push` of `App.push = { … }` and of what a function gives that is called there. */
  owner?: string;
  kind: "function" | "constructor" | "initializer" | "property";
  /** The name with its argument labels, where the language has them: `application:didFinishLaunchingWithOptions:`. */
  selector: string;
  annotations: string[];
  /** Called by whoever knows the type above (override, interface method). */
  overrides: boolean;
  isStatic: boolean;
  /** Its calls give something to go through or to call, and its code runs only then. */
  iterates?: boolean;
  from: number;
  to: number;
}

export interface CodeType {
  name: string;
  /** What it extends and implements, as written. */
  supers: string[];
  annotations: string[];
  /** Adds to a type that is declared elsewhere. */
  extension: boolean;
  from: number;
  to: number;
}

export interface CodeImport {
  /** As the language writes it: `example.quaymap.Quaymap`, `@quaymap/react-native`, `QuaymapSDK/Quaymap.h`. */
  source: string;
  /** What the file calls it; empty for imports without a name. */
  names: { local: string; imported: string }[];
  from: number;
}

/** What one source file says, with offsets. */
export interface CodeFile {
  language: Language;
  imports: CodeImport[];
  types: CodeType[];
  functions: CodeFunction[];
  calls: CodeCall[];
  /** Names with a text that is written right behind them. */
  constants: Map<string, { text: string; from: number }>;
  /** Variables, with the type that their declaration or first value names. */
  variables: Map<string, string>;
  /** What variables, properties, and functions that only give something back stand for; `null` where a file has several of the name. */
  values: Map<string, CodeValue | null>;
  /** In scripts: the types of which objects are made that have a name, as `push` of `App.push = new Push()`. */
  made: Map<string, string>;
  /** Attributes of the whole file (`[assembly: …]`) with their arguments. */
  attributes: { name: string; text: string; from: number }[];
  /** The text with comments blanked out, of the same length. */
  plain: string;
  /** Parts that the grammar could not read, as ranges. */
  errors: { from: number; to: number }[];
}

/** When in the life of an app something runs. `later`: on another screen than the first, or when something happens. */
export const LIFE_CYCLE_PHASES = ["beforeLaunch", "provider", "launch", "firstScreen", "later"] as const;
export type LifeCyclePhase = (typeof LIFE_CYCLE_PHASES)[number];

export type CodeNeedKind = "start" | "use" | "registration" | "debugOnly" | "withdrawn" | "import";

/** Of a call that nothing reaches, where no more than that is known. */
export const NOTHING_LEADS = reason("nothing-leads-there");

export interface SdkArgument {
  label: string | undefined;
  text: string;
  /** What it comes to in all builds, where that is known. */
  value: Value | undefined;
  /** What it comes to in variants that have values of their own. */
  byVariant: { variant: string; value: Value }[];
  /** The expression for which the text stands, through names. */
  written: string;
  /** The entry of the app's property list that it asks for, and that is in none of them. */
  lacks?: string;
  at: Place;
}

/** One way on which an entry point leads to a call. */
export interface CallWay {
  sure: boolean;
  phase: LifeCyclePhase;
  guards: Guard[];
  isolate: string | undefined;
  /** The entry point is a screen that the system opens. */
  screen: boolean;
  /** The entry point, in words, and its file. */
  entry: string;
  entryFile: string;
  /** Where the calls stand that lead from the entry point to it. */
  trail: Place[];
  /** It runs again on each render of its component. */
  repeats: boolean;
  /** Whatever asks for it, it runs once. */
  once: boolean;
}

/** When a call is made, by one of the ways that lead to it. */
export type CallMoment = Pick<
  SdkCall,
  "phase" | "entry" | "behind" | "entryFile" | "isolate" | "order" | "lane" | "ordered" | "sure" | "ready" | "background" | "guards"
>;

/** A call of an SDK in the app's own code, and when it runs. */
export interface SdkCall {
  sdk: string;
  /** The side whose code it stands in. */
  side: SideName;
  /** What the sheet says about it; `heuristicStart`: no sheet tells, and it is named like a start. */
  kind: CodeNeedKind | "heuristicStart";
  /** The name that the sheet gives, or the call as it is written. */
  name: string;
  callee: string;
  /** The function around it: `PilotApplication.onCreate`; the file's name outside of any. */
  within: string;
  arguments: SdkArgument[];
  /** Conditions around it and around the calls that lead to it. */
  guards: Guard[];
  /** `entry`: some entry point leads to it; `possible`: nothing rules out that it runs; `never`: nothing in the app leads to it. */
  reach: "entry" | "possible" | "never";
  /** Why nothing leads to it. */
  unreached: Reason | undefined;
  phase: LifeCyclePhase | undefined;
  /** The entry point that leads to it, in words. */
  entry: string | undefined;
  /** Entry points of the same moment that certainly come before that one, where the moment has no order of its own. */
  behind?: readonly string[];
  /** The file of that entry point. */
  entryFile: string | undefined;
  /** The function at which the isolate begins that it runs in, where that is not the app's own. */
  isolate: string | undefined;
  /** Position in the order of its side's calls; `undefined` where no entry point leads to it. */
  order: number | undefined;
  /** It waits for an event or for something to be ready. */
  ready: boolean;
  /** Its place in the order is certain: it is not handed over to run at some time. */
  ordered: boolean;
  /** No call on the way to it can mean another function. */
  sure: boolean;
  /** The closures that are run later than what stands beside them, outermost first; what has the same lane runs in order. */
  lane: string;
  /** Of shared code to which entry points of both phones lead: when it runs on each of them. */
  moments?: Partial<Record<"android" | "ios", CallMoment>>;
  /** All ways on which entry points lead to it, at most a few. */
  ways: CallWay[];
  /** It runs on another thread than the one that starts the app, as far as that is visible. */
  background: boolean;
  /** The name is the sheet's to the letter, without anything in between. */
  exact: boolean;
  /** Parts of the code around it could not be read. */
  doubtful: boolean;
  /** Calls `x?.start()`. */
  optional: boolean;
  at: Place;
}

/** Something that a system component does before the application's own code runs. */
export interface AutoStart {
  kind: "provider" | "initializer";
  /** Name of the class. */
  name: string;
  /** The library that brings it. */
  by: string | undefined;
  /** Taken out by a merge marker. */
  removed: boolean;
  /** Initializers that must run before it. */
  needs: { name: string; at: Place }[];
  /** Higher ones come first. */
  initOrder: number;
  /** Position among those of its kind, from 1, when they are run in order. */
  position: number;
  at: Place;
}

/** A service or native module that one side asks for by name, and another offers. */
export interface BridgeFact {
  kind:
    | "native module"
    | "view manager"
    | "method channel"
    | "event channel"
    | "message channel"
    | "platform view"
    | "generated interface"
    | "channel method"
    | "service"
    | "declaration"
    | "plugin"
    | "native function"
    | "native class"
    | "native method"
    | "module function"
    | "event"
    | "view property"
    | "view of a module"
    | "root component"
    | "action"
    | "member"
    | "plugin method";
  /** Empty where something is offered under a name that cannot be made out. */
  name: string;
  /** Asked for, and offered by neither side: the name of which it seems to be a misspelling, empty where nothing is near. */
  near?: string;
  /** What to do about that, where it is no other name. */
  advice?: string;
  role: "asked" | "offered";
  side: SideName;
  /** The phone on which shared code asks for it, where it is one alone. */
  on?: "android" | "ios";
  guards: Guard[];
  at: Place;
}

/** A component that the system makes by its name, and that cannot start. */
export interface ComponentFault {
  what:
    | "class"
    | "exported"
    /** A method of a life cycle is overridden without a call of what it overrides. */
    | "super not called"
    | "service type"
    | "scene delegate"
    | "storyboard"
    | "no name"
    | "filter without action"
    | "filter without data"
    | "unnamed list"
    | "link category"
    | "link host"
    | "link closed"
    | "link path"
    | "link scheme"
    | "link host of code"
    | "link prefix"
    | "action permission"
    | "service never in front"
    | "service without type"
    | "file provider"
    | "authority"
    | "initializer"
    | "resource"
    | "resource of variants"
    | "interface class"
    | "interface outlet"
    | "interface action"
    | "icon set"
    | "launcher closed"
    | "service closed"
    | "service without action"
    | "service without description"
    | "alias target"
    | "filter category"
    | "picture in picture"
    | "shortcut"
    | "pending intent"
    | "channel"
    | "query"
    | "idle registry"
    | "file path"
    | "policy"
    | "page bridge"
    | "documents"
    | "account type"
    | "own permission"
    | "layout class"
    | "no handler"
    | "feature"
    | "link unverified"
    /** Each link opens the framework's activity once more. */
    | "link mode"
    | "right to left"
    | "orientation"
    | "health rationale"
    | "no start on TV"
    | "no banner"
    | "touchscreen"
    | "no watch"
    | "widget without action"
    | "widget without provider"
    | "undeclared"
    | "merge conflict"
    | "initializer class"
    | "no launcher"
    | "bundle key"
    | "launch screen"
    | "scene manifest"
    | "first screen"
    | "outside the target";
  side: "android" | "ios";
  /** The element of a manifest, or the key of a property list. */
  element: string;
  name: string;
  /** What is there in its place, or what is missing beside it. */
  near: string | undefined;
  /** What was not read may have it. */
  unsure?: boolean;
  at: Place;
}

/** Something that the native code of one side names, and whose other half is not there. */
export interface ModuleHalf {
  what:
    | "swift class"
    | "swift method"
    | "listed event"
    | "generated class"
    | "generated header"
    | "generated package"
    | "specification method"
    | "component class"
    | "left out specification"
    | "generating plugin"
    | "permission alias"
    | "named callback"
    | "code generation"
    | "no answer"
    | "other answer"
    | "option"
    | "event value"
    | "module event"
    | "view event";
  side: SideName;
  name: string;
  /** What is there in its place: a like name, or a file; `undefined` where nothing is. */
  near: string | undefined;
  at: Place;
}

/**
 * An asset, or a file of a font, that is `listed` and not there; one that code loads and is `absent`, or that is there and `unlisted`; a `family` of
 * fonts that code asks for and that is almost one that is listed; what texts in several languages are made of.
 */
export interface AssetFault {
  what:
    | "listed"
    | "absent"
    | "uncopied"
    | "unlisted"
    | "family"
    | "texts"
    | "not generated"
    | "listed font"
    | "unlisted font"
    | "font of one side"
    | "picture"
    | "alternate icon"
    | "picture of one side"
    | "icon font";
  asset: string;
  /** What is there in its place. */
  near?: string;
  at: Place;
}

/** A name in a scene, in code or in settings of a Unity project that leads nowhere, or to what is not in the app. */
export interface SceneFault {
  what:
    | "handler"
    | "by name"
    | "coroutine"
    | "not static"
    | "message object"
    | "message method"
    | "tag"
    | "scene"
    | "scene off"
    | "scene unlisted"
    | "scene number"
    | "resource"
    | "resource ending"
    | "resource outside"
    | "asset"
    | "without id"
    | "id twice"
    | "unset key"
    | "kept assembly"
    | "kept type";
  name: string;
  /** What it is looked for in, or what asks for it. */
  of?: string;
  /** What is there in its place. */
  near?: string;
  at: Place;
}

/** A name in a page of an app in .NET, or in what sets it up, that leads nowhere. */
export interface PageFault {
  what:
    | "handler"
    | "class"
    | "host page"
    | "web view script"
    | "library file"
    | "assembly"
    | "selector"
    | "component"
    | "service"
    | "web views"
    | "platform class"
    | "type"
    | "resource"
    | "unmerged"
    | "merged later"
    | "dictionary"
    | "route"
    | "callback"
    | "callback scheme"
    | "callback category"
    | "base call"
    | "other namespace"
    | "not initialized"
    | "app of the builder"
    | "base of the start"
    | "exported method"
    | "undeclared component"
    | "half"
    | "provider"
    | "unprovided"
    | "replaced value"
    | "text"
    | "root element"
    | "plugin event"
    | "icon"
    | "embedded file"
    | "member"
    | "options"
    | "view handler"
    | "window"
    | "data of the page"
    | "route parameter"
    | "kept assembly"
    | "kept type";
  name: string;
  /** What a name is looked for in. */
  of?: string;
  /** What is there in its place, or what it belongs to. */
  near: string | undefined;
  /** It may be meant. */
  unsure?: true;
  at: Place;
}

/** An import of a file of the app's own that is not there. */
export interface LostImport {
  name: string;
  /** Where it would be. */
  file: string;
  /** The file that imports it is used itself. */
  certain: boolean;
  /** The file is there, and gives out nothing of that name. */
  inFile?: true;
  at: Place;
}

/** A function that is called from another isolate, as a release build does not keep it, or as no other isolate finds it. */
export interface IsolateHandler {
  /** Its name; "" where it has none. */
  name: string;
  callee: string;
  /** No code has a function of that name. */
  lost?: true;
  at: Place;
}

/** Code of Android that asks for a permission, or cannot do without it. */
export interface PermissionRequest {
  /** It stands in code that somebody else wrote, of which the app may not use all. */
  unsure?: true;
  /** One of them has to be declared. */
  names: readonly string[];
  /** What the code does, as a sentence goes on after "the app's code". */
  does: string;
  at: Place;
}

/** What code of a module of Android takes by name and the build does not have under it. */
export interface AndroidName {
  /**
   * `Kotlin`: a source file in Kotlin, of each module that has some. `binding`: a class for a layout that is not there; `binding off`: one in a
   * module that makes none. `resource`: a member of the class of resources. `settings`: a field of the class of settings of another module.
   * `library`: a native library that is loaded. `package`: another app that is asked for. `manifest package`: one other than the namespace.
   */
  kind: "Kotlin" | "binding" | "binding off" | "resource" | "settings" | "library" | "package" | "manifest package";
  name: string;
  /** What is there besides. */
  near: string | undefined;
  /** Path of the Gradle module that the file belongs to. */
  module: string;
  at: Place;
}

/** A name by which code means something that is declared elsewhere, or that the system calls. */
export interface SystemName {
  kind:
    | "plist key"
    /** The code goes on without it. */
    | "optional plist key"
    | "app group"
    | "accessory protocol"
    | "activity type"
    | "accuracy purpose"
    | "asked scheme"
    | "plain address"
    | "link listener"
    | "method"
    | "second main"
    | "no main"
    /** Nothing that `main` of Dart does shows the app. */
    | "nothing shown"
    /** The framework is bound in one zone, and the app runs in another. */
    | "zones apart"
    | "condition"
    | "editor code"
    | "capability"
    | "background task"
    | "permission constant"
    | "platform name"
    /** An address under a scheme that opens the app itself. */
    | "own address"
    /** Names that a list of the target has to have. */
    | "bonjour service"
    | "merchant"
    | "container"
    | "tag session";
  name: string;
  /** What it is meant to be, or what is there besides. */
  near: string | undefined;
  side: SideName;
  at: Place;
}

/** What is known of an app's own source code. */
export interface CodeFacts {
  calls: SdkCall[];
  /** The first import of each SDK per file. */
  imports: {
    sdk: string;
    package: string;
    side: SideName;
    /** The build type, configuration or flavour that alone takes the import. */
    variant?: string | undefined;
    at: Place;
  }[];
  /** Files that call an SDK by a name that nothing in the file brings in. */
  missingImports: { sdk: string | undefined; callee: string; wanted: string; side: SideName; at: Place }[];
  /** Files that have the words of a sheet's start, whether or not a call of it was found. */
  mentioned: { sdk: string; name: string; side: SideName; at: Place }[];
  autoStarts: AutoStart[];
  bridges: BridgeFact[];
  /** Calls of plugins before the framework is bound, in Flutter. */
  unbound: { sdk: string; callee: string; at: Place }[];
  /** Imports of packages that another module, target or package declares. */
  elsewhere: {
    sdk: string | undefined;
    package: string;
    owner: string;
    declaredIn: string[];
    /** The one phone that has it, where code of both imports it. */
    only?: "android" | "ios";
    side: SideName;
    at: Place;
  }[];
  /**
   * What code for all builds of an Android app takes from the build: fields of its settings, strings, the class of settings itself; and what
   * shared scripts take from files of the environment, as variables (`env`) or as members of an object that a package makes of one file (`config`).
   */
  generated: { kind: "buildConfig" | "string" | "class" | "env" | "config" | "extra"; name: string; at: Place; bundler?: true }[];
  /** What packages need once in the app (`what`), and that no code has: the first place that uses them. */
  lackingRoots: { package: string; what: string; without: string; at: Place; isStep?: true }[];
  /** Screens and routes that code asks for by a name that no navigator has. */
  lostScreens: { what: "screen" | "route" | "path" | "parameter"; name: string; near: string | undefined; at: Place }[];
  /** Variables of the environment in Dart, and settings in C# (`of`), that code reads and no file has which it loads, or reads before it loads one (`isFirst`). */
  unsetVariables: { name: string; files: string[]; isFirst: boolean; of?: "the settings"; at: Place }[];
  /** What code of a module of Android takes that the build has to make, or to have. */
  androidNames: readonly AndroidName[];
  /** Classes (`Viewer`) and functions (`Viewer.install`) of Android that code for all builds uses, and only some variants have. */
  inVariants: { name: string; variants: string[]; declared: Place; at: Place }[];
  /** Packages with native code that no own file mentions in any way. */
  unused: { package: string; sdk: string; at: Place }[];
  /** Classes that only a system file can bring to life, and that none names. */
  unnamed: { name: string; what: string; side: SideName; wanted: string; at: Place }[];
  /** Components of the system that cannot start. */
  components: ComponentFault[];
  /** Native modules of which only one half is there. */
  halves: ModuleHalf[];
  /** Assets of a Flutter app that do not come into it. */
  assets: AssetFault[];
  lostImports: LostImport[];
  pageFaults: PageFault[];
  isolateHandlers: IsolateHandler[];
  /** What code switches on for developers in every build. */
  debugOptions: DebugOption[];
  /** The first place where shared code goes to the network by itself. */
  network: { what: string; at: Place } | undefined;
  systemNames: readonly SystemName[];
  /** Permissions of Android that code asks for. */
  permissionRequests: readonly PermissionRequest[];
  /** Requests of shared scripts whose host is written out. */
  requests: { scheme: string; host: string; at: Place }[];
  /** Calls in shared code of packages that are on one side alone, without a look at the platform. */
  /** Calls of the framework's own interfaces in code that both phones run, by the name that SHARED_INTERFACES has for them. */
  sharedCalls: { name: string; at: Place }[];
  oneSidedCalls: { package: string; sdk: string; lacks: "android" | "ios"; name: string; declared: Place; at: Place }[];
  /** Purpose texts of iOS that the app needs for what another app does on Android, so that no permission goes with them there. */
  lentPurposes: readonly string[];
  /** Source files of iOS that no target compiles, with a type of theirs that the code of a target uses. */
  outside: { file: string; name: string; at: Place; used: Place }[];
  /** Names in a Unity project that lead nowhere. */
  sceneFaults: SceneFault[];
  /** Sides whose entry points were found. */
  entries: { side: SideName; phase: LifeCyclePhase; title: string; at: Place }[];
  /** Files that were parsed: of them only calls count, not words. */
  parsed: ReadonlySet<string>;
  /** Own files that could be read, per side. */
  files: { side: SideName; searched: number; parsed: number }[];
}
