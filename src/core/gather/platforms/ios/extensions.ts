import { distance } from "fastest-levenshtein";
import { ASSOCIATED_DOMAIN, ASSOCIATED_DOMAINS, EXTENSION_POINTS } from "../../../knowledge/extension-points.js";
import { join } from "../../../model/paths.js";
import { known, textOf, type KnownValue } from "../../../model/value.js";
import { takesIn } from "../../../model/xcode.js";
import { withoutComments } from "../../../syntax/comments.js";
import { at, entriesOf, itemsOf, placeOf, textAt, type Data } from "../../../syntax/data.js";
import { filesMatching } from "../../globbing.js";
import type { FactSink, IosReading } from "../../sink.js";
import { infoPlist, type IosContext } from "./side.js";
import type { IosConfiguration, IosTarget } from "./xcode-project.js";

/** Source: developer.apple.com, "Keychain Access Groups Entitlement" (each begins with the prefix of the team). */
const KEYCHAIN = "keychain-access-groups";
const GROUPS = "com.apple.security.application-groups";

/** What extensions of the app need so that the system takes them, and the groups and domains that its targets name in their entitlements. */
export function readExtensions(context: IosContext, app: FactSink, side: IosReading): void {
  const { targets } = context.xcode;
  for (const target of targets) noteEntitlements(context, app, target);
  for (const target of targets.filter(({ type }) => /\.(app|extensionkit)-extension$/.test(type))) {
    const hosts = targets.filter(({ copied }) => target.product !== undefined && copied.includes(target.product));
    // Where other kinds of targets are apps too (a watch's), the extension may be theirs by other ways.
    if (hosts.length === 0 && target.product !== undefined && targets.filter(({ type }) => type.endsWith(".application")).length === 1)
      app.extensionFault({ what: "not embedded", target: target.name, name: target.product, near: side.target.name, at: target.at });
    for (const host of hosts) {
      noteIds(app, target, host);
      noteVersions(context, app, target, host);
      noteGroups(app, target, host);
    }
    notePoint(context, app, target);
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
  const configuration = target.configurations.find(({ name }) => name === target.defaultConfiguration) ?? target.configurations[0];
  const other = host.configurations.find(({ name }) => name === configuration?.name);
  if (!configuration || !other) return;
  for (const key of ["CFBundleShortVersionString", "CFBundleVersion"]) {
    const [own, theirs] = [versionOf(context, configuration, key), versionOf(context, other, key)];
    if (own && theirs && own.text !== theirs.text)
      app.extensionFault({ what: "version", target: target.name, name: `${key} ${own.text}`, near: theirs.text, at: own.place });
  }
}

/** A version that a property list states or takes from a build setting, or that a setting alone gives. */
function versionOf(context: IosContext, configuration: IosConfiguration, key: string): KnownValue | undefined {
  const list = infoPlist(context, configuration);
  const entry = list && at(list, key);
  const text = textAt(entry);
  const setting = key === "CFBundleVersion" ? "CURRENT_PROJECT_VERSION" : "MARKETING_VERSION";
  if (entry && text !== undefined && !text.includes("$")) return known(text, placeOf(entry));
  const named = text === undefined ? setting : /^\$[({](\w+)[)}]$/.exec(text)?.[1];
  const value = named === undefined ? undefined : configuration.settings.value(named);
  return value?.kind === "known" ? value : undefined;
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
  const configuration = target.configurations.find(({ name }) => name === target.defaultConfiguration) ?? target.configurations[0];
  const extension = configuration && at(infoPlist({ project, ...context }, configuration), "NSExtension");
  const point = at(extension, "NSExtensionPointIdentifier");
  const text = textAt(point);
  if (point && text !== undefined && !text.includes("$") && !EXTENSION_POINTS.includes(text)) {
    const near = EXTENSION_POINTS.find((other) => distance(other, text) <= 3);
    if (near !== undefined) app.extensionFault({ what: "point", target: target.name, name: text, near, at: placeOf(point) });
  }
  noteLackingPoint({ project, ...context }, app, target, configuration);
  const principal = at(extension, "NSExtensionPrincipalClass");
  const type = /^\$\(PRODUCT_MODULE_NAME\)\.(\w+)$/.exec(textAt(principal) ?? "")?.[1];
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
  return file !== undefined && project.tree.isFile(file) ? project.plist(file)?.root : undefined;
}
