import { distance } from "fastest-levenshtein";
import { APPLE_CAPABILITIES } from "../../knowledge/apple-capabilities.js";
import type { App } from "../../model/app.js";
import type { SystemName } from "../../model/code.js";
import { join } from "../../model/paths.js";
import { textOf } from "../../model/value.js";
import { takesIn } from "../../model/xcode.js";
import { anyOf } from "../../syntax/code/any-of.js";
import { closing, isInSight } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { buildRegions, variantAt } from "../platforms/build-regions.js";
import { platformNames } from "./platform-names.js";
import { looksAtPlatform, type SourceFile } from "./sources.js";

/** Words without which a file names nothing that is looked for here. */
const HINTS = anyOf([
  /InfoDictionary|infoDictionary|group\.|BG(?:AppRefresh|Processing)TaskRequest|backgroundTask|canOpenURL|canLaunch|CanOpenAsync|TryOpenAsync|https?:|did(?:Register|Receive|Finish)|_tcp|_udp|merchant\.|iCloud\.|NFCTagReaderSession|willPresent|openURL|continue|@main\b|BGTaskScheduler|EASession|NSUserActivity|FullAccuracy|PKPayment|\bCK[A-Z]|\bNSNetService|\bMC[A-Z]\w+|\bLinking\b|deepLinkActivated|appUrlOpen/,
]);

const OF_APPLE = anyOf(APPLE_CAPABILITIES.map(({ pattern }) => pattern));

/** A call that asks whether another app is there, with a scheme that is written out. */
const ASKS =
  /\b(?:canOpenURL|canLaunchUrl|canLaunchUrlString|canLaunch|CanOpenAsync|TryOpenAsync)\s*[(:]\s*(?:\[?\s*(?:NSURL|Uri|URL)\s*(?:\.\s*parse\s*|URLWithString\s*:\s*|)\(?\s*(?:string\s*:\s*)?)?@?["'`]([A-Za-z][\w+.-]*):/g;

/** Where code names an address without encryption that it goes to. */
const GOES_TO =
  /\b(?:URL\s*\(\s*(?:string\s*:\s*)?|MediaItem\s*\.\s*fromUri\s*\(\s*|URLWithString\s*:\s*@|fetch\s*\(\s*|Uri\s*\.\s*parse\s*\(\s*|\.baseUrl\s*\(\s*|[bB]ase_?U[rR][lL]\w*["']?\s*[:=]\s*|source\s*=\s*\{\s*\{[^{}]{0,80}?\buri\s*:\s*|(?:Image\.network|NetworkImage)\s*\(\s*|new\s+(?:Uri|WebSocket)\s*\(\s*|\bGet(?:String|Stream|ByteArray)?Async\s*\(\s*|\.url\s*\(\s*)["'`](http|ws):\/\/([^"'`\s]+)/g;

/**
 * Shared code that waits for the links which open the app. Sources: reactnative.dev, "Linking"; docs.unity3d.com, "Deep linking"; capacitorjs.com,
 * "App API" (appUrlOpen).
 */
const LISTENS = /\bLinking\s*\.\s*addEventListener\s*\(\s*["']url["']|\bdeepLinkActivated\s*\+=|\baddListener\s*\(\s*["']appUrlOpen["']/;

/** What shows that a file connects by itself. */
const CONNECTS =
  /\b(?:URLSession|URLRequest|NSURLConnection|dataTask|openConnection|HttpURLConnection|OkHttpClient|Request\.Builder|Retrofit|HttpClient|AVPlayer(?:Item)?|AVURLAsset|http\.(?:get|post|put|patch|delete|Client)|WebSocket|Dio)\b/;

/** A line that hands an address to the browser or to another app. */
const IN_BROWSER =
  /\b(?:ACTION_VIEW|Intent|startActivity|launchUrl|launch|openURL|SFSafari\w*|CustomTabs\w*|Link|Browser|OpenAsync|open)\b/;

/** A line that is for debug builds from there on. */
const IN_DEBUG = /\b(?:__DEV__|kDebugMode|BuildConfig\.DEBUG|isDebug\w*|IsDebug\w*)\b/;

/**
 * Names by which code means what the project declares elsewhere: keys of the property list, groups of apps, schemes of other apps, addresses
 * without encryption; and methods that the system calls by their names.
 */
export function systemNames(app: App, sources: readonly SourceFile[], views: readonly SourceFile[]): SystemName[] {
  const found = new Map<string, SystemName>();
  const mains: SourceFile[] = [];
  for (const source of [...sources, ...views.filter(({ side }) => side === "ios")]) {
    if (!mayName(source)) continue;
    const text = withoutComments(source.text);
    const regions = /^[ \t]*#\s*if|BuildConfig|kDebugMode|__DEV__/m.test(text) ? buildRegions(source.text) : [];
    const add = (kind: SystemName["kind"], name: string, offset: number, near?: string): void => {
      // What one target has another may lack.
      const key = `${kind} ${name} ${ownersOf(app, kind, source.file)}`;
      if (!found.has(key) && variantAt(regions, offset) === undefined)
        found.set(key, { kind, name, near, side: source.side, at: source.place(offset) });
    };
    for (const match of text.matchAll(ASKS)) add("asked scheme", (match[1] ?? "").toLowerCase(), match.index);
    if (source.side === "ios") schemesBuilt(text, add);
    plainAddresses(text, add);
    const listens = source.side === "shared" ? LISTENS.exec(text) : null;
    if (listens) add("link listener", "", listens.index);
    if (source.language === "csharp" && /ApplicationDelegate|NotificationCenterDelegate/.test(text))
      for (const [name, near, offset] of misnamedSelectors(text)) add("method", name, offset, near);
    if (source.side !== "ios") continue;
    // Handed on to scripts: links are meant.
    const handed = app.shared ? /\bRCTLinkingManager\s*[.\s]\s*application\b/.exec(text) : null;
    if (handed) add("link listener", "", handed.index);
    namesOfApple(app, text, add);
    if (/^[ \t]*@main\b/m.test(text) && app.ios && takesIn(app.ios.target, source.file)) mains.push(source);
  }
  for (const one of [withoutMain(app, sources), nothingShown(app, sources), zonesApart(app, sources), secondMain(mains)])
    if (one) found.set(one.kind, one);
  return [...found.values(), ...platformNames(app, sources), ...ownAddresses(app, sources)];
}

/** What a target has to say itself, for its own code. */
const OF_A_TARGET: ReadonlySet<SystemName["kind"]> = new Set<SystemName["kind"]>([
  "plist key",
  "optional plist key",
  "capability",
  "app group",
  "plain address",
]);

function ownersOf({ ios }: App, kind: SystemName["kind"], file: string): string {
  return !OF_A_TARGET.has(kind) ? "" : (ios?.allTargets ?? []).flatMap((target) => (takesIn(target, file) ? target.name : [])).join();
}

/** Addresses in shared code that lead back to the app, by the schemes that it takes on either side; the first of each scheme. */
function ownAddresses({ entries }: App, sources: readonly SourceFile[]): SystemName[] {
  const schemes = new Set(
    entries.flatMap(({ kind, name, value, by }) => (kind === "urlScheme" && by === undefined ? (textOf(value) ?? name) : [])),
  );
  const found = new Map<string, SystemName>();
  for (const source of schemes.size > 0 ? sources : []) {
    // One that looks at the platform may do on each what goes there.
    if (source.side !== "shared" || source.guards.length > 0 || !source.text.includes("://") || looksAtPlatform(source.text)) continue;
    for (const match of withoutComments(source.text).matchAll(/["'`]([a-z][\w.+-]*):\/\//gi)) {
      const name = match[1] as string;
      if (schemes.has(name) && !/^https?$/.test(name) && !found.has(name))
        found.set(name, { kind: "own address", name, near: undefined, side: "shared", at: source.place(match.index + 1) });
    }
  }
  return [...found.values()];
}

/** Whether code of builds that ship may ask the system for something by a name. */
function mayName({ text, side, guards }: SourceFile): boolean {
  const any = HINTS(text) || (side === "ios" && OF_APPLE(text));
  return any && !guards.some(({ kind }) => kind === "debug" || kind === "variant");
}

/** Two files of the target say where it begins. */
function secondMain([first, second]: readonly SourceFile[]): SystemName | undefined {
  if (!first || !second) return undefined;
  const at = second.place(withoutComments(second.text).search(/@main\b/));
  return { kind: "second main", name: second.file, near: first.file, side: "ios", at };
}

/** Schemes of addresses that are made before they are asked for. */
function schemesBuilt(text: string, add: (kind: SystemName["kind"], name: string, offset: number, near?: string) => void): void {
  for (const match of text.matchAll(/\bcanOpenURL\s*[(:]\s*(\w+)\b/g)) {
    const form = new RegExp(
      `\\b${match[1] as string}\\s*=\\s*\\[?\\s*(?:NS)?URL(?:\\s*\\(\\s*string\\s*:|\\s+URLWithString\\s*:)\\s*@?"([A-Za-z][\\w+.-]*):`,
      "g",
    );
    // The nearest above: others may have the same name.
    const made = [...text.slice(0, match.index).matchAll(form)].at(-1);
    if (made) add("asked scheme", (made[1] as string).toLowerCase(), match.index);
  }
}

/** Addresses without encryption to which the code connects. */
function plainAddresses(text: string, add: (kind: SystemName["kind"], name: string, offset: number, near?: string) => void): void {
  for (const match of text.matchAll(GOES_TO)) {
    const line = text.slice(text.lastIndexOf("\n", match.index) + 1, match.index);
    // An address alone may be for the browser.
    const isSure = !/^(?:URL|Uri)\b/.test(match[0]) || CONNECTS.test(text);
    if (isSure && !IN_DEBUG.test(line) && !IN_BROWSER.test(line)) add("plain address", match[2] ?? "", match.index);
  }
}

/** Tasks in the background by their names. Source: developer.apple.com, "BGTaskScheduler", "BGTaskRequest", SwiftUI's `backgroundTask(_:action:)`. */
const TASKS =
  /\bforTaskWithIdentifier\s*:\s*@?"([\w.-]+)"|\bregisterForTaskWithIdentifier\s*:\s*@"([\w.-]+)"|\bBG(?:AppRefresh|Processing)TaskRequest\s*\(\s*identifier\s*:\s*"([\w.-]+)"|\.backgroundTask\s*\(\s*\.appRefresh\s*\(\s*"([\w.-]+)"|\bBGTaskScheduler\s*\.\s*Shared\s*\.\s*Register\s*\(\s*"([\w.-]+)"|\bBG(?:AppRefresh|Processing)TaskRequest\s*\(\s*"([\w.-]+)"/g;

/**
 * Names that a list of the target has to have. Sources: developer.apple.com, "NSBonjourServices", "MCNearbyServiceBrowser" (serviceType; the service is
 * `_type._tcp`), "EASession", "NSUserActivity", "PKPaymentRequest", "CKContainer", "NFCTagReaderSession".
 */
const NAMED_IN_LISTS: readonly { kind: SystemName["kind"]; form: RegExp; listed?: (name: string) => string }[] = [
  {
    kind: "bonjour service",
    form: /\bMC(?:NearbyService(?:Browser|Advertiser)|BrowserViewController|AdvertiserAssistant)\b[^;{}]{0,200}?\bserviceType\s*:\s*@?"([a-z\d-]{1,15})"|\bMCNearbyService(?:Browser|Advertiser)\s*\([^;{}:]{0,200}"([a-z\d-]{1,15})"\s*\)/g,
    listed: (name) => `_${name}._tcp`,
  },
  {
    kind: "accessory protocol",
    form: /\bEASession\b[^;{}]{0,160}?\bforProtocol\s*:\s*@?"([\w.-]+)"|\bEASession\s*\([^;{}"]{0,160}?"([\w.-]+)"\s*\)/g,
  },
  {
    kind: "activity type",
    form: /\bNSUserActivity\b[^;{}]{0,60}?(?:\(\s*activityType|\binitWithActivityType)\s*:\s*@?"([\w.-]+)"|\bNSUserActivity\s*\(\s*"([\w.-]+)"/g,
  },
  {
    kind: "bonjour service",
    form: /\.bonjour(?:WithTXTRecord)?\s*\(\s*type\s*:\s*"(_[\w-]+\._(?:tcp|udp))\.?"|\bsearchForServices\s*\(\s*ofType\s*:\s*"(_[\w-]+\._(?:tcp|udp))\.?"|\bsearchForServicesOfType\s*:\s*@"(_[\w-]+\._(?:tcp|udp))\.?"|\bsearchForServices\s*\(\s*"(_[\w-]+\._(?:tcp|udp))\.?"/g,
  },
  {
    kind: "accuracy purpose",
    form: /\brequestTemporaryFullAccuracyAuthorization(?:WithPurposeKey)?\s*(?:\(\s*withPurposeKey\s*:|:|\()\s*@?"([\w.-]+)"/g,
  },
  { kind: "merchant", form: /\b[mM]erchantIdentifier\s*=\s*@?"(merchant\.[\w.-]+)"/g },
  {
    kind: "container",
    form: /\bCKContainer\s*\(\s*identifier\s*:\s*"(iCloud\.[\w.-]+)"|\bcontainerWithIdentifier\s*:\s*@"(iCloud\.[\w.-]+)"|\bCKContainer\s*\.\s*fromIdentifier\s*\(\s*"(iCloud\.[\w.-]+)"/g,
  },
  { kind: "tag session", form: /\b(NFCTagReaderSession)\s*(?:\(|alloc\b)/g },
];

/** Groups of apps in texts: those of the project's targets, and what is almost one of them. */
function groupsIn({ appGroups }: App, text: string): [name: string, offset: number][] {
  if (appGroups.length === 0) return [];
  const known = new Set(appGroups.map(({ name }) => name));
  return [...text.matchAll(/"(group\.[\w-]+(?:\.[\w-]+)+)"/g)].flatMap((match): [string, number][] => {
    const name = match[1] as string;
    const parts = new Set(name.split("."));
    const isMeant = [...known].some((other) => other === name || other.split(".").filter((part) => parts.has(part)).length >= 3);
    return isMeant ? [[name, match.index]] : [];
  });
}

/** Capabilities, tasks, groups and methods that the system of Apple knows by name. */
function namesOfApple(app: App, text: string, add: (kind: SystemName["kind"], name: string, offset: number, near?: string) => void): void {
  for (const { does, pattern } of APPLE_CAPABILITIES) {
    const match = pattern.exec(text);
    if (match) add("capability", does, match.index);
  }
  for (const match of text.matchAll(TASKS)) add("background task", match.slice(1).find((name) => name !== undefined) ?? "", match.index);
  for (const [name, offset] of plistKeysIn(text)) add(isOptional(text, offset) ? "optional plist key" : "plist key", name, offset);
  for (const match of text.matchAll(
    /(?:\bsuiteName\s*:\s*@?|\bforSecurityApplicationGroupIdentifier\s*:\s*@?|initWithSuiteName\s*:\s*@?|\bNSUserDefaults\s*\(\s*|\bgetContainerURL\s*\(\s*)"(group\.[^"\\\n]+)"/g,
  ))
    add("app group", match[1] as string, match.index);
  for (const [name, offset] of groupsIn(app, text)) add("app group", name, offset);
  for (const { kind, form, listed } of NAMED_IN_LISTS)
    for (const match of text.matchAll(form)) {
      const name = match.slice(1).find((one) => one !== undefined) ?? "";
      add(kind, listed ? listed(name) : name, match.index);
    }
  for (const [name, near, offset] of misnamedMethods(text)) add("method", name, offset, near);
}

/** Where an app of Apple's begins. Source: developer.apple.com, "UIApplicationMain", "main". */
const MAIN = /@main\b|@UIApplicationMain\b|\bUIApplicationMain\s*\(|\bint\s+main\s*\(/;

/** Source: learn.microsoft.com, "UIApplication.Main". */
const MAIN_OF_DOTNET = /\bUIApplication\s*\.\s*Main\s*(?:<[^<>]*>)?\(/;

/** A delegate of the app's own, or one of a framework's, and the app of SwiftUI. */
const DELEGATES: Readonly<Record<string, RegExp>> = {
  swift:
    /\bclass\s+(\w+)\s*:[^{]*\b(?:UIApplicationDelegate|RCTAppDelegate|FlutterAppDelegate|ExpoAppDelegate|CDVAppDelegate)\b|\bstruct\s+(\w+)\s*:\s*(?:SwiftUI\.)?App\b/,
  objc: /@implementation\s+(\w+)\s(?=(?:(?!@end)[\s\S])*\bapplication:\s*\(\s*UIApplication\s*\*\s*\)\s*\w+\s+didFinishLaunchingWithOptions:)/,
  csharp: /\bclass\s+(\w+)\s*:\s*(?:\w+\.)*(?:Maui)?UIApplicationDelegate\b/,
};

/**
 * Where an app made with Flutter begins, and no file of it shows anything. A function of a package that is called for it may. Source: api.flutter.dev,
 * `runApp`, `runWidget`.
 */
function nothingShown({ kind, shared }: App, sources: readonly SourceFile[]): SystemName | undefined {
  if (kind !== "flutter" || !shared) return undefined;
  const dart = sources.filter(({ language, side }) => language === "dart" && side === "shared");
  const first = dart.find(({ file }) => file === join(shared.folder, "lib/main.dart"));
  // A file that takes nothing of the framework is none that was meant to show anything.
  if (!first || !/package:flutter\//.test(first.text) || dart.some(({ text }) => /\brun(?:App|Widget)\b/.test(text))) return undefined;
  const plain = withoutComments(first.text);
  const main = /(?:^|\n)\s*(?:@\w+[^\n]*\n\s*)?(?:void\s+|Future<void>\s+|Future\s+)?main\s*\(/.exec(plain);
  const called = [...plain.matchAll(/(?<![\w.])([a-z]\w*)\s*(?:<[^<>()]*>)?\(/g)].map((match) => match[1] as string);
  const isOwn = (name: string): boolean => dart.some(({ text }) => new RegExp(`\\b[\\w<>?]+\\s+${name}\\s*\\(`).test(text));
  if (!main || called.some((name) => /^(?:run|boot|start|launch|init)/.test(name) && !isOwn(name))) return undefined;
  return {
    kind: "nothing shown",
    name: "main",
    near: undefined,
    side: "shared",
    at: first.place(main.index + main[0].lastIndexOf("main")),
  };
}

/**
 * The framework of Flutter is bound outside of the zone in which the app runs. Source: docs.flutter.dev, "Zone mismatch" (3.10): errors and timers of the app are
 * in the zone in which it was bound.
 */
function zonesApart({ kind }: App, sources: readonly SourceFile[]): SystemName | undefined {
  if (kind !== "flutter") return undefined;
  for (const source of sources) {
    if (source.language !== "dart" || !/\brunZoned(?:Guarded)?\b/.test(source.text) || !/\brunApp\s*\(/.test(source.text)) continue;
    const plain = withoutComments(source.text);
    const bound = [...plain.matchAll(/\b(\w+Binding)\s*\.\s*ensureInitialized\s*\(/g)];
    for (const match of plain.matchAll(/\brunZoned(?:Guarded)?\s*(?:<[^()]*>)?\(/g)) {
      const end = closing(plain, match.index + match[0].length - 1);
      const runs = plain.slice(match.index, end).search(/\brunApp\s*\(/) >= 0;
      const first = bound.find(({ index }) => index < match.index && isInSight(plain, index, match.index));
      if (runs && first && !bound.some(({ index }) => index > match.index && index < end))
        return { kind: "zones apart", name: first[1] as string, near: undefined, side: "shared", at: source.place(first.index) };
    }
  }
  return undefined;
}

/**
 * The delegate of an app in which nothing is marked as its beginning. Sources: docs.swift.org, "Attributes" (main); developer.apple.com,
 * "UIApplicationMain", "App" (SwiftUI).
 */
function withoutMain({ ios, kind }: App, sources: readonly SourceFile[]): SystemName | undefined {
  const isDotnet = kind === "dotnet";
  if (!ios || (ios.generated && !isDotnet) || kind === "unity") return undefined;
  const own = sources.filter(({ side, file, language }) =>
    isDotnet ? language === "csharp" && side !== "android" : side === "ios" && takesIn(ios.target, file),
  );
  const form = isDotnet ? MAIN_OF_DOTNET : MAIN;
  const isHome = isDotnet ? /(^|\/)(?:Main|Program|Application)\.cs$/ : /(^|\/)main\.mm?$/;
  const hasHome = own.some(({ file }) => isHome.test(file));
  if (own.some(({ text, file }) => (form.test(text) && form.test(withoutComments(text))) || /(^|\/)main\.swift$/.test(file)))
    return undefined;
  // Each source that the target compiles has to be here.
  if (ios.target.sources.some((file) => /\.(swift|mm?)$/.test(file) && !own.some((source) => source.file === file))) return undefined;
  for (const source of own) {
    // Where it is a function, it may stand in a file that is not here: told where the file is that should have it.
    if (source.language !== "swift" && !hasHome) continue;
    const match = DELEGATES[source.language]?.exec(withoutComments(source.text));
    const name = match?.slice(1).find((group) => group !== undefined);
    if (match && name !== undefined) {
      const near = { objc: "main", csharp: "Main" }[source.language as "objc" | "csharp"];
      return { kind: "no main", name, near, side: "ios", at: source.place(match.index) };
    }
  }
  return undefined;
}

/**
 * Whether what is read at an offset may be absent: it is asked whether it is there, something else is taken in its place, or it is a switch that is
 * off where it is absent.
 */
function isOptional(text: string, offset: number): boolean {
  const line = text.slice(text.lastIndexOf("\n", offset) + 1, offset);
  const end = text.indexOf("\n", offset);
  const behind = text.slice(offset, end === -1 ? text.length : end);
  if (
    /\bif\s+(?:let|var)\b|\bif\s*\(/.test(line) ||
    /\?\?\s*(?!"")\S|[!=]=\s*(?:nil\b|true\b|YES\b)|\bas\?\s+Bool\b|\bboolValue\b/.test(behind)
  )
    return true;
  const name = /(\w+)\s*=\s*\[/.exec(line)?.[1];
  return (
    name !== undefined &&
    new RegExp(`\\bif\\s*\\(\\s*!?${name}\\b|\\b${name}\\s*(?:\\?[^.]|[!=]=\\s*nil\\b)`).test(text.slice(offset, offset + 600))
  );
}

/** Keys of the property list that code reads: written out, or handed to a function that reads what it is given. */
function plistKeysIn(text: string): [name: string, offset: number][] {
  if (!/[iI]nfoDictionary/.test(text)) return [];
  const found: [string, number][] = [];
  for (const match of text.matchAll(
    /\b(?:forInfoDictionaryKey\s*:\s*@?|objectForInfoDictionaryKey\s*:\s*@?|infoDictionary\s*\??\s*\[\s*@?)"([\w.]+)"/g,
  ))
    found.push([match[1] as string, match.index]);
  // Functions whose parameter is the key.
  const readers = [...text.matchAll(/\bfunc\s+(\w+)\s*\(\s*(?:_\s+|\w+\s+)?(\w+)\s*:\s*String\b[^{]*\{([^{}]{0,400})/g)].flatMap(
    ([, name = "", parameter = "", body = ""]) =>
      new RegExp(`(?:forInfoDictionaryKey\\s*:\\s*|infoDictionary\\s*\\??\\s*\\[\\s*)${parameter}\\b`).test(body) ? [name] : [],
  );
  for (const name of readers)
    for (const match of text.matchAll(new RegExp(`(?<!func\\s)\\b${name}\\s*\\(\\s*(?:\\w+\\s*:\\s*)?"([\\w.]+)"`, "g")))
      found.push([match[1] as string, match.index]);
  return found;
}

/**
 * Methods of delegates of the app, by the labels behind their first argument. Source: Apple, "UIApplicationDelegate", "UISceneDelegate",
 * "UIWindowSceneDelegate", "UNUserNotificationCenterDelegate".
 */
const METHODS: readonly string[] = [
  "application didFinishLaunchingWithOptions",
  "application willFinishLaunchingWithOptions",
  "application didRegisterForRemoteNotificationsWithDeviceToken",
  "application didFailToRegisterForRemoteNotificationsWithError",
  "application didReceiveRemoteNotification",
  "application performActionFor",
  "application performFetchWithCompletionHandler",
  "application handleEventsForBackgroundURLSession",
  "application configurationForConnecting",
  "application didDiscardSceneSessions",
  "application supportedInterfaceOrientationsFor",
  "application willContinueUserActivityWithType",
  "application didFailToContinueUserActivityWithType",
  "application didUpdate",
  "application shouldAllowExtensionPointIdentifier",
  "application viewControllerWithRestorationIdentifierPath",
  "application shouldSaveSecureApplicationState",
  "application shouldRestoreSecureApplicationState",
  "application userDidAcceptCloudKitShareWith",
  "application handlerFor",
  "application open",
  "application continue",
  "scene willConnectTo",
  "scene openURLContexts",
  "scene continue",
  "scene willContinueUserActivityWithType",
  "scene didFailToContinueUserActivityWithType",
  "scene didUpdate",
  "userNotificationCenter willPresent",
  "userNotificationCenter didReceive",
  "userNotificationCenter openSettingsFor",
];

/** Methods whose selector has another label than Swift's, behind their first argument. */
const SELECTORS: readonly string[] = [
  "userNotificationCenter willPresentNotification",
  "userNotificationCenter didReceiveNotificationResponse",
  "userNotificationCenter openSettingsForNotification",
  "application openURL",
  "application continueUserActivity",
  "scene continueUserActivity",
  "scene willConnectToSession",
];

const isKnown = (name: string): boolean => METHODS.includes(name) || SELECTORS.includes(name);

/** The same of methods in C# that are given their selector. Source: learn.microsoft.com, "Objective-C selectors in .NET for iOS" (Export). */
function misnamedSelectors(text: string): [name: string, near: string, offset: number][] {
  return [...text.matchAll(/\[\s*Export\s*\(\s*"(application|scene|userNotificationCenter):(\w+):/g)].flatMap(
    (match): [string, string, number][] => {
      const name = `${match[1] as string} ${match[2] as string}`;
      const near = isKnown(name) || name.length < 25 ? undefined : [...METHODS, ...SELECTORS].find((other) => distance(other, name) <= 3);
      return near === undefined ? [] : [[name, near, match.index]];
    },
  );
}

/** Methods whose label is almost one of the system's: it never calls them. */
function misnamedMethods(text: string): [name: string, near: string, offset: number][] {
  return [
    ...text.matchAll(/\bfunc\s+(application|scene|userNotificationCenter)\s*\(\s*_\s+\w+\s*:\s*[\w.]+\s*,\s*(\w+)\s+\w+\s*:/g),
  ].flatMap((match): [string, string, number][] => {
    const name = `${match[1] as string} ${match[2] as string}`;
    if (METHODS.includes(name)) return [];
    const near = METHODS.find((other) => distance(other, name) <= (name.length > 30 ? 3 : 2));
    return near === undefined ? [] : [[name, near, match.index]];
  });
}
