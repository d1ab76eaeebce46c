import { distance } from "fastest-levenshtein";
import { ASSOCIATED_DOMAIN, ASSOCIATED_DOMAINS, EXTENSION_POINTS } from "../../../knowledge/extension-points.js";
import { baseName, isWithin, join, parentOf } from "../../../model/paths.js";
import { known, textOf, type KnownValue, type Value } from "../../../model/value.js";
import { takesIn } from "../../../model/xcode.js";
import { withoutComments } from "../../../syntax/comments.js";
import { at, entriesOf, itemsOf, placeOf, textAt, valueAt, type Data } from "../../../syntax/data.js";
import { filesMatching } from "../../globbing.js";
import type { FactSink, IosReading } from "../../sink.js";
import { APPLICATION, applicationTargets, infoPlist, type IosContext } from "./side.js";
import type { IosConfiguration, IosTarget } from "./xcode-project.js";

/** Source: developer.apple.com, "Keychain Access Groups Entitlement" (each begins with the prefix of the team). */
const KEYCHAIN = "keychain-access-groups";
const GROUPS = "com.apple.security.application-groups";

/** What extensions of the app need so that the system takes them, and the groups and domains that its targets name in their entitlements. */
export function readExtensions(context: IosContext, app: FactSink, side: IosReading): IosTarget[] {
  const { targets } = context.xcode;
  for (const target of targets) noteEntitlements(context, app, target);
  const parts = targets.filter((target) => isExtension(target) || isWatchApp(target));
  for (const target of parts) {
    const hosts = targets.filter(({ copied }) => target.product !== undefined && copied.includes(target.product));
    const isWatch = isWatchApp(target);
    // Of several apps, and of what runs on a watch, the extension may be another's.
    const isPart = isWatch ? companionOf(context, target) !== undefined : !isForWatch(target);
    if (hosts.length === 0 && target.product !== undefined && isPart && applicationTargets(context.xcode).length === 1)
      app.extensionFault({
        what: isWatch ? "watch not embedded" : "not embedded",
        target: target.name,
        name: target.product,
        near: side.target.name,
        at: target.at,
      });
    for (const host of hosts) {
      noteIds(app, target, host);
      noteVersions(context, app, target, host);
      notePush(context, app, target, host);
      if (!isWatch) noteGroups(app, target, host);
      else noteCompanion(context, app, target, host);
    }
    if (hosts.length > 0) noteInstalled(app, target);
    if (isExtension(target)) notePoint(context, app, target);
  }
  noteListsCopied(context, app, targets);
  noteForWatch(app, targets);
  return parts;
}

/** What lies where the watch takes its app from, and is built for the phone. */
function noteForWatch(app: FactSink, targets: readonly IosTarget[]): void {
  for (const host of targets)
    for (const { name, folder } of host.placed) {
      const target = targets.find(({ product }) => product === name);
      if (target && /\/Watch\/?$/.test(folder) && target.type === APPLICATION && !isForWatch(target) && target.configurations.length > 0)
        app.extensionFault({ what: "watch system", target: target.name, name: "SDKROOT", near: "watchos", at: target.at });
    }
}

const isExtension = ({ type }: IosTarget): boolean => /\.(app|extensionkit)-extension$/.test(type);

/** An app for the watch: by the system that it is built for, or as projects before Xcode 14 called it. */
const isWatchApp = (target: IosTarget): boolean =>
  (target.type === APPLICATION && isForWatch(target)) || /\.application\.watchapp2?$/.test(target.type);

/** Whether a target is built for the watch. */
export function isForWatch({ configurations }: IosTarget): boolean {
  return configurations.some(({ settings }) => textOf(settings.value("SDKROOT")) === "watchos");
}

const COMPANION = "WKCompanionAppBundleIdentifier";

/** The id of the phone app that a watch app says it belongs to. */
function companionOf(context: IosContext, { configurations }: IosTarget): KnownValue | undefined {
  for (const configuration of configurations) {
    const value = companionIn(context, configuration);
    if (value?.kind === "known" && value.text !== "" && !value.text.includes("$")) return value;
  }
  return undefined;
}

/**
 * A watch app that does not say which phone app it belongs to, names another one, or lies where the phone does not look. Sources: developer.apple.com,
 * "WKCompanionAppBundleIdentifier"; Xcode's template ("Embed Watch Content": `$(CONTENTS_FOLDER_PATH)/Watch`).
 */
function noteCompanion(context: IosContext, app: FactSink, target: IosTarget, host: IosTarget): void {
  const folder = host.placed.find(({ name }) => name === target.product)?.folder;
  if (folder !== undefined && folder !== "" && !/\/Watch\/?$/.test(folder))
    app.extensionFault({ what: "watch folder", target: target.name, name: folder, near: "$(CONTENTS_FOLDER_PATH)/Watch", at: target.at });
  const isNamed = target.configurations.map((configuration) => {
    const own = companionIn(context, configuration);
    const above = host.configurations.find(({ name }) => name === configuration.name)?.settings.value("PRODUCT_BUNDLE_IDENTIFIER");
    const [text, phone] = [textOf(own), textOf(above)];
    if (own && text !== undefined && phone !== undefined && !`${text}${phone}`.includes("$") && text !== phone)
      app.extensionFault({ what: "companion", target: `${target.name} (${configuration.name})`, name: text, near: phone, at: own.place });
    return own !== undefined || isIndependent(context, configuration);
  });
  // Older watch apps have it in the list of their extension.
  if (!isNamed.includes(true) && target.type === APPLICATION)
    app.extensionFault({ what: "no companion", target: target.name, name: COMPANION, near: host.name, at: target.at });
}

/** The id of the phone app that a configuration of a watch app names. */
function companionIn(context: IosContext, configuration: IosConfiguration): Value | undefined {
  const list = infoPlist(context, configuration);
  return (list && valueAt(list, COMPANION)) ?? configuration.settings.value(`INFOPLIST_KEY_${COMPANION}`);
}

/** A watch app that is for the watch alone, or can be without its phone app. */
function isIndependent(context: IosContext, configuration: IosConfiguration): boolean {
  const list = infoPlist(context, configuration);
  const isStated = list && (at(list, "WKWatchOnly") ?? at(list, "WKRunsIndependentlyOfCompanionApp"));
  return (
    isStated !== undefined || configuration.settings.names().some((name) => /INFOPLIST_KEY_WK(WatchOnly|RunsIndependently)/.test(name))
  );
}

/** What is part of an app and is installed by itself in an archive, which then is none of an app. Source: developer.apple.com, TN2215 (SKIP_INSTALL). */
function noteInstalled(app: FactSink, target: IosTarget): void {
  const { settings } = defaultOf(target) ?? {};
  const value = settings?.value("SKIP_INSTALL");
  if (value?.kind === "known" && value.text === "NO")
    app.extensionFault({ what: "installed by itself", target: target.name, name: "SKIP_INSTALL", near: undefined, at: value.place });
}

/**
 * Property lists that a target copies as they are, because they lie in a folder whose files are all its own: two steps of the build make one file.
 * Source: Xcode 16's project files (membershipExceptions, which its templates have for the list).
 */
function noteListsCopied({ project, xcode }: IosContext, app: FactSink, targets: readonly IosTarget[]): void {
  for (const target of targets)
    for (const { settings } of target.configurations.slice(0, 1)) {
      const text = textOf(settings.value("INFOPLIST_FILE"))?.replaceAll('"', "") ?? "";
      const file = join(xcode.folder, text);
      const isWhole = target.synchronized.some((folder) => isWithin(file, folder)) && takesIn(target, file);
      if (isWhole && baseName(file) === "Info.plist" && project.tree.isFile(file))
        app.extensionFault({ what: "list copied", target: target.name, name: text, near: undefined, at: target.at });
    }
}

/** Source: Apple, "Information Property List", CFBundleIdentifier of app extensions: it begins with that of the app. */
function noteIds(app: FactSink, target: IosTarget, host: IosTarget): void {
  for (const { name, settings } of target.configurations) {
    const own = settings.value("PRODUCT_BUNDLE_IDENTIFIER");
    const above = host.configurations.find((configuration) => configuration.name === name)?.settings.value("PRODUCT_BUNDLE_IDENTIFIER");
    const [text, prefix] = [textOf(own), textOf(above)];
    if (own && text !== undefined && prefix !== undefined && !text.startsWith(`${prefix}.`))
      app.extensionFault({ what: "id", target: `${target.name} (${name})`, name: text, near: `${prefix}.`, at: own.place });
  }
}

/** Source: developer.apple.com, "CFBundleVersion" and "App Store Connect" (an extension has the versions of its app). */
function noteVersions(context: IosContext, app: FactSink, target: IosTarget, host: IosTarget): void {
  const configuration = defaultOf(target);
  const other = host.configurations.find(({ name }) => name === configuration?.name);
  if (!configuration || !other) return;
  for (const key of ["CFBundleShortVersionString", "CFBundleVersion"]) {
    const [own, theirs] = [versionOf(context, configuration, key), versionOf(context, other, key)];
    if (own && theirs && own.text !== theirs.text)
      app.extensionFault({ what: "version", target: target.name, name: `${key} ${own.text}`, near: theirs.text, at: own.place });
  }
}

/**
 * What changes notifications before they are shown, in an app that gets none, or that runs on systems where it does not. Sources: developer.apple.com,
 * "UNNotificationServiceExtension" (remote notifications only), "Registering your app with APNs" (aps-environment).
 */
function notePush(context: IosContext, app: FactSink, target: IosTarget, host: IosTarget): void {
  const own = defaultOf(target);
  const theirs = host.configurations.find(({ name }) => name === own?.name);
  const list = own && infoPlist(context, own);
  if (!own || !theirs || textAt(at(at(list, "NSExtension"), "NSExtensionPointIdentifier")) !== "com.apple.usernotifications.service")
    return;
  const [level, above] = [own, theirs].map(({ settings }) => settings.value("IPHONEOS_DEPLOYMENT_TARGET"));
  const [text, floor] = [textOf(level), textOf(above)];
  if (level && text !== undefined && floor !== undefined && Number(text) > Number(floor))
    app.extensionFault({ what: "level", target: target.name, name: text, near: floor, at: level.place });
  noteUnpushed(context, app, target, host, theirs);
}

/** An app whose entitlements can be read, and that has none for push. */
function noteUnpushed(
  { project, xcode }: IosContext,
  app: FactSink,
  target: IosTarget,
  host: IosTarget,
  { settings }: IosConfiguration,
): void {
  const stated = settings.value("CODE_SIGN_ENTITLEMENTS");
  const path = stated === undefined ? "" : textOf(stated);
  if (path === undefined || /[$*]/.test(path)) return;
  const file = join(xcode.folder, path.replaceAll('"', ""));
  // A list that is not there may be written by what builds.
  const entitlements = path === "" ? undefined : project.plist(file)?.root;
  if ((path === "" || entitlements) && !at(entitlements, "aps-environment"))
    app.extensionFault({ what: "no push", target: target.name, name: "aps-environment", near: host.name, at: stated?.place ?? host.at });
}

const defaultOf = (target: IosTarget): IosConfiguration | undefined =>
  target.configurations.find(({ name }) => name === target.defaultConfiguration) ?? target.configurations[0];

/** A version that a property list states or takes from a build setting, or that a setting alone gives. */
function versionOf(context: IosContext, configuration: IosConfiguration, key: string): KnownValue | undefined {
  const list = infoPlist(context, configuration);
  const entry = list && at(list, key);
  const text = textAt(entry);
  const setting = key === "CFBundleVersion" ? "CURRENT_PROJECT_VERSION" : "MARKETING_VERSION";
  if (entry && text !== undefined && !text.includes("$")) return known(text, placeOf(entry));
  const named = text === undefined ? setting : /^\$[({](\w+)[)}]$/.exec(text)?.[1];
  const value = named === undefined ? undefined : configuration.settings.value(named);
  if (value?.kind === "known") return value;
  return named === undefined ? undefined : flutterVersion(context, named);
}

/** What Flutter's tool gives by these settings: the version of the app's pubspec.yaml. Source: docs.flutter.dev, "Build and release an iOS app". */
function flutterVersion({ project, xcode }: IosContext, setting: string): KnownValue | undefined {
  const part = ["FLUTTER_BUILD_NAME", "FLUTTER_BUILD_NUMBER"].indexOf(setting);
  const version = part < 0 ? undefined : at(project.yaml(join(parentOf(xcode.folder), "pubspec.yaml"))?.root, "version");
  const text = textAt(version)?.split("+")[part];
  return version && text !== undefined && /^[\d.]+$/.test(text) ? known(text, placeOf(version)) : undefined;
}

function noteGroups(app: FactSink, target: IosTarget, host: IosTarget): void {
  const of = ({ name }: IosTarget) => app.appGroups.filter((group) => group.target === name);
  const [own, theirs] = [of(target), of(host)];
  const [first] = own;
  if (!first || own.some(({ name }) => name.includes("$")) || theirs.some(({ name }) => name.includes("$"))) return;
  if (!own.some(({ name }) => theirs.some((other) => other.name === name)))
    app.extensionFault({ what: "group", target: target.name, name: first.name, near: theirs[0]?.name, at: first.at });
}

function notePoint({ project, ...context }: IosContext, app: FactSink, target: IosTarget): void {
  const configuration = defaultOf(target);
  const extension = configuration && at(infoPlist({ project, ...context }, configuration), "NSExtension");
  const point = at(extension, "NSExtensionPointIdentifier");
  const text = textAt(point);
  if (point && text !== undefined && !text.includes("$") && !EXTENSION_POINTS.includes(text)) {
    const near = EXTENSION_POINTS.find((other) => distance(other, text) <= 3);
    if (near !== undefined) app.extensionFault({ what: "point", target: target.name, name: text, near, at: placeOf(point) });
  }
  noteLackingPoint({ project, ...context }, app, target, configuration);
  const principal = at(extension, "NSExtensionPrincipalClass");
  const [, module, type] = /^(\$[({]PRODUCT_MODULE_NAME[)}]\.)?(\w+)$/.exec(textAt(principal) ?? "") ?? [];
  if (!principal || type === undefined) return;
  const files = [
    ...target.sources,
    ...target.synchronized.flatMap((folder) => filesMatching(project.tree, folder, "**/*").map((path) => join(folder, path))),
  ].filter((file) => /\.(swift|m|mm)$/.test(file) && takesIn(target, file));
  const texts = files.flatMap((file) => project.text(file)?.text ?? []).map((source) => withoutComments(source));
  const types = texts.flatMap((source) =>
    [...source.matchAll(/(?:\bclass|@implementation|@objc\s*\()\s*(\w+)/g)].map((match) => match[1] ?? ""),
  );
  const isEmpty = target.sources.length === 0 && target.synchronized.length === 0;
  // Swift gives a class its module's name in front, but for one that says its name itself.
  if (module === undefined) {
    const isPlain = texts.some((source) => new RegExp(`@implementation\\s+${type}\\b|@objc\\s*\\(\\s*${type}\\s*\\)`).test(source));
    if (!isPlain && types.includes(type))
      app.extensionFault({
        what: "class",
        target: target.name,
        name: type,
        near: `$(PRODUCT_MODULE_NAME).${type}`,
        at: placeOf(principal),
      });
    return;
  }
  if ((texts.length > 0 || isEmpty) && !types.includes(type))
    app.extensionFault({ what: "class", target: target.name, name: type, near: types.find(Boolean), at: placeOf(principal) });
}

/** An extension whose property list does not say what it extends, or what the system makes. Source: developer.apple.com, "UNNotificationServiceExtension". */
function noteLackingPoint(context: IosContext, app: FactSink, target: IosTarget, configuration: IosConfiguration | undefined): void {
  const list = configuration && infoPlist(context, configuration);
  if (!list) return;
  const extension = at(list, "NSExtension");
  const point = textAt(extension, "NSExtensionPointIdentifier");
  const own = { target: target.name, name: "", near: undefined, at: target.at };
  const isGiven =
    configuration.settings.names().some((name) => /NSExtension/.test(name)) || at(list, "EXAppExtensionAttributes") !== undefined;
  if (point === undefined && !isGiven) app.extensionFault({ ...own, what: "no point" });
  const needsClass = point === "com.apple.usernotifications.service" || point === "com.apple.intents-service";
  if (needsClass && !entriesOf(extension).some(([key]) => /^NSExtension(PrincipalClass|MainStoryboard)$/.test(key)))
    app.extensionFault({ ...own, what: "no class" });
}

/** The groups of the target, and domains that are not written as the system takes them. */
function noteEntitlements(context: IosContext, app: FactSink, target: IosTarget): void {
  const seen = new Set<string>();
  for (const configuration of target.configurations) {
    const list = entitlementsOf(context, configuration);
    if (!list || seen.has(list.source.file)) continue;
    seen.add(list.source.file);
    for (const item of itemsOf(at(list, GROUPS))) app.appGroup({ target: target.name, name: textAt(item) ?? "", at: placeOf(item) });
    for (const item of itemsOf(at(list, KEYCHAIN))) {
      const text = textAt(item) ?? "";
      if (text !== "" && !/^\$[({](AppIdentifierPrefix|TeamIdentifierPrefix|\w*)[)}]|^[A-Z0-9]{10}\.|^com\.apple\./.test(text))
        app.extensionFault({ what: "keychain", target: target.name, name: text, near: undefined, at: placeOf(item) });
    }
    for (const item of itemsOf(at(list, ASSOCIATED_DOMAINS))) {
      const text = textAt(item) ?? "";
      if (text !== "" && !text.includes("$") && !ASSOCIATED_DOMAIN.test(text))
        app.extensionFault({ what: "domain", target: target.name, name: text, near: undefined, at: placeOf(item) });
    }
  }
}

function entitlementsOf({ project, xcode }: IosContext, { settings }: IosConfiguration): Data | undefined {
  const setting = textOf(settings.value("CODE_SIGN_ENTITLEMENTS"));
  const file = setting === undefined || setting === "" ? undefined : join(xcode.folder, setting.replaceAll('"', ""));
  return file === undefined ? undefined : project.plist(file)?.root;
}
