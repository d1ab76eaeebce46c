import { BUILD_SETTINGS, ENTITLEMENT_KEYS, PROPERTY_LIST_KEYS } from "../../../knowledge/known-names.js";
import { LIST_KEYS } from "../../../knowledge/purpose-keys.js";
import { noteMisspeltKeys } from "../../misspelt-names.js";
import type { FactSink, IosReading } from "../../sink.js";
import type { Entry, EntryKind, LinkFact } from "../../../model/facts.js";
import { baseName, isInstalled, join } from "../../../model/paths.js";
import { misspelling } from "../../../model/suggest.js";
import { reason } from "../../../model/reason.js";
import { known, textOf, type Value } from "../../../model/value.js";
import { at, entriesOf, itemsOf, placeOf, textAt, textsOf, type Data } from "../../../syntax/data.js";
import { binaryForm } from "./binary.js";
import { readLocalizedTexts } from "./localized.js";
import { readExtensions, isForWatch } from "./extensions.js";
import { configurationOf, infoPlist, type IosContext } from "./side.js";
import { projectsBeside, referred, workspacesAround } from "./workspaces.js";
import type { IosConfiguration, IosTarget } from "./xcode-project.js";

/**
 * Reads the property list, the entitlements and the linking of the shipped target into entries, per configuration; and the first two of
 * the other application targets. Source: Apple, "Information Property List", "Entitlements", "NSAppTransportSecurity".
 */
export function readIosEntries(context: IosContext, app: FactSink, side: IosReading): void {
  const { entries, propertyLists } = entriesOfTarget(context, side.target);
  app.entry(...entries);
  noteOpenEntitlements(context, app, side.target);
  app.debugEntitlement(
    ...debugEntitlements(
      entries,
      side.target.configurations.map(({ name }) => name),
    ),
  );
  noteSingleValues(context, app, side.target);
  noteBundleKeys(context, app, side.target);
  noteMisspeltSettings(context, app);
  noteMisspeltEntitlements(context, app);
  noteMisspeltScripts(context, app, side.target);
  noteLostProjects(context, app);
  for (const file of propertyLists) if (!app.propertyLists.includes(file)) app.propertyList(file);
  for (const target of side.targets)
    if (target !== side.target)
      app.furtherTarget({
        target,
        ...entriesOfTarget(context, target),
        podTargets: withThoseAround(side.pods?.targets ?? [], target.name),
        packages: context.xcode.packages
          .filter(({ id }) => target.packageProducts.some((product) => product.package === id))
          .map(({ location }) => location),
      });
  for (const target of readExtensions(context, app, side)) {
    noteBundleKeys(context, app, target, true);
    app.partTarget({
      target,
      runsOn: isForWatch(target) ? "watch" : "phone",
      ...entriesOfTarget(context, target),
      entitlementsOpen: unreadEntitlements(context, target) !== undefined,
    });
  }
  readLocalizedTexts(context.project, app);
  readLinks(context, app, side.target);
  readOptions(app, side.target);
}

/** What only builds for development ask for, by the nature of it. Source: developer.apple.com, "Entitlements" (get-task-allow), "Keychain Access Groups". */
const FOR_DEBUGGING = /^(get-task-allow|keychain-access-groups|com\.apple\.security\..*)$/;

/** Entitlements of builds for debugging that no other build of a target has. */
export function debugEntitlements(entries: readonly Entry[], configurations: readonly string[]): { name: string; at: Entry["at"] }[] {
  const isDebug = (name: string): boolean => /debug|develop/i.test(name);
  if (configurations.every(isDebug)) return [];
  const own = entries.filter(({ kind }) => kind === "entitlement");
  const shipped = own.filter(({ variant }) => variant === undefined || !isDebug(variant));
  const found = new Map(
    own.flatMap(({ name, variant, at: place }) =>
      variant !== undefined && isDebug(variant) && !FOR_DEBUGGING.test(name) ? [[name, place] as const] : [],
    ),
  );
  return [...found].flatMap(([name, place]) => (shipped.some((entry) => entry.name === name) ? [] : [{ name, at: place }]));
}

/** Build settings that are almost one of Xcode's, and that nothing asks for by their name. */
function noteMisspeltSettings({ project, xcode }: IosContext, app: FactSink): void {
  const told = new Set<string>();
  for (const { settings } of xcode.targets.flatMap(({ configurations }) => configurations))
    for (const name of settings.names()) {
      const right = misspelling(name, BUILD_SETTINGS);
      const value = right === undefined || told.has(name) ? undefined : settings.value(name);
      if (right === undefined || !value) continue;
      told.add(name);
      const texts = [xcode.file, value.place.file].map((file) => (project.tree.isFile(file) ? (project.text(file)?.text ?? "") : ""));
      const isAsked = texts.some((text) => text.includes(`(${name})`) || text.includes(`{${name}}`));
      if (!isAsked) app.misspelling({ what: "build setting", name, right, side: "ios", at: value.place });
    }
}

/** Entitlements of all targets. */
function noteMisspeltEntitlements({ project, xcode }: IosContext, app: FactSink): void {
  const settings = xcode.targets.flatMap(({ configurations }) => configurations.map((one) => one.settings.value("CODE_SIGN_ENTITLEMENTS")));
  const files = settings.flatMap((value) =>
    value?.kind === "known" && value.text !== "" ? join(xcode.folder, value.text.replaceAll('"', "")) : [],
  );
  for (const file of new Set(files)) noteMisspeltKeys(app, project.plist(file)?.root, ENTITLEMENT_KEYS);
}

/** Scripts of the frameworks that build phases run. Sources: the templates of React Native and Flutter. */
const PHASE_SCRIPTS = ["react-native-xcode.sh", "with-environment.sh", "xcode_backend.sh"];

function noteMisspeltScripts({ project, xcode }: IosContext, app: FactSink, target: IosTarget): void {
  const source = project.text(join(xcode.path, "project.pbxproj"));
  for (const script of target.scripts)
    for (const [, name = ""] of script.matchAll(/([\w.-]+\.sh)\b/g)) {
      const right = misspelling(name, PHASE_SCRIPTS);
      if (right !== undefined && source)
        app.misspelling({ what: "script", name, right, side: "ios", at: source.place(Math.max(0, source.text.indexOf(name))) });
    }
}

/** Projects that the workspaces around refer to and that are not there; what package managers lay down is. Source: the form of contents.xcworkspacedata. */
function noteLostProjects({ project, xcode }: IosContext, app: FactSink): void {
  for (const workspace of workspacesAround(project, xcode))
    for (const { folder, at: place } of referred(project, workspace)) {
      if (!folder.endsWith(".xcodeproj") || folder.startsWith("..") || isInstalled(`${folder}/`) || /(^|\/)\.\w/.test(folder)) continue;
      if (!project.tree.isFolder(folder))
        app.pathFollowed({ text: folder, resolved: folder, kind: "project", exists: false, side: "ios", generated: false, at: place });
    }
}

/** Keys of the property list with one value where the system reads a list. */
function noteSingleValues(context: IosContext, app: FactSink, target: IosTarget): void {
  const lists = new Map(target.configurations.flatMap((one) => infoPlist(context, one) ?? []).map((plist) => [plist.source.file, plist]));
  for (const plist of lists.values()) {
    noteMisspeltKeys(app, plist, PROPERTY_LIST_KEYS);
    for (const [key, { value, start }] of entriesOf(plist))
      if (LIST_KEYS.has(key) && value.kind !== "list" && !(value.kind === "scalar" && value.value === null))
        app.unfitValue({ what: "list", value: key, side: "ios", at: value.source.place(start) });
  }
}

/** What every bundle that is installed has. Source: developer.apple.com, "Information Property List", "Bundle configuration"; "CFBundleVersion" (required). */
const BUNDLE_KEYS = ["CFBundleIdentifier", "CFBundleVersion", "CFBundleShortVersionString"];

/**
 * Keys without which a bundle is not installed or accepted, and the first screen, in a property list that has the others: Xcode writes them into one that it
 * generates. Source: the same; developer.apple.com, "Specifying your app's launch screen".
 */
function noteBundleKeys(context: IosContext, app: FactSink, target: IosTarget, isPart = false): void {
  const told = new Set<string>();
  for (const configuration of target.configurations) {
    const { settings } = configuration;
    const plist = infoPlist(context, configuration);
    if (!plist || plist.kind !== "map" || told.has(plist.source.file) || textOf(settings.value("GENERATE_INFOPLIST_FILE")) === "YES")
      continue;
    told.add(plist.source.file);
    const has = (key: string): boolean => at(plist, key) !== undefined || settings.names().includes(`INFOPLIST_KEY_${key}`);
    const missing = BUNDLE_KEYS.filter((key) => !has(key));
    // A list that has none of them is written by something else.
    if (missing.length > BUNDLE_KEYS.length / 2 && !isPart) continue;
    if (isPart && missing.length === BUNDLE_KEYS.length) continue;
    const place = plist.source.place(0);
    for (const name of missing)
      app.componentFault({ what: "bundle key", side: "ios", element: baseName(plist.source.file), name, near: undefined, at: place });
    if (isPart) continue;
    const begins = [...entriesOf(plist).map(([key]) => key), ...settings.names().map((name) => name.replace("INFOPLIST_KEY_", ""))];
    if (!begins.some((key) => /^UILaunch|^ASSETCATALOG_COMPILER_LAUNCHIMAGE_NAME$/.test(key)) && missing.length === 0)
      app.componentFault({
        what: "launch screen",
        side: "ios",
        element: baseName(plist.source.file),
        name: "",
        near: undefined,
        at: place,
      });
  }
}

/** A target of a Podfile and those around it, whose pods it gets too. */
function withThoseAround(targets: readonly { name: string; parent: string | undefined }[], name: string): string[] {
  const names = [name];
  for (let at = targets.find((target) => target.name === name); at?.parent !== undefined && !names.includes(at.parent);) {
    const { parent } = at;
    names.push(parent);
    at = targets.find((target) => target.name === parent);
  }
  return names;
}

function entriesOfTarget(context: IosContext, target: IosTarget): { entries: Entry[]; propertyLists: string[] } {
  const seen = new Map<string, Entry[]>();
  const propertyLists = new Set<string>();
  const add = (entry: Entry): void => {
    const key = `${entry.kind}\0${entry.name}\0${entry.at.file}:${entry.at.line}:${entry.at.column}\0${textOf(entry.value) ?? ""}`;
    const same = seen.get(key);
    if (!same) seen.set(key, [entry]);
    else if (!same.some(({ variant }) => variant === entry.variant)) same.push(entry);
  };
  for (const configuration of target.configurations) {
    const plist = infoPlist(context, configuration);
    if (plist) {
      propertyLists.add(plist.source.file);
      readInfo(plist, (text, place) => configuration.settings.expand(text, place), configuration.name, add);
    } else if (textOf(configuration.settings.value("GENERATE_INFOPLIST_FILE")) === "YES") propertyLists.add(context.xcode.file);
    readGeneratedInfo(configuration, add);
    readEntitlements(context, configuration, add);
    for (const name of configuration.settings.names()) {
      if (/^[A-Z][A-Z0-9_]*$/.test(name) && PLATFORM_SETTING.test(name)) continue;
      const value = configuration.settings.value(name);
      if (value) add({ kind: "buildSetting", side: "ios", name, value, variant: configuration.name, at: value.place });
    }
  }
  // What all configurations share is one entry.
  const entries = [...seen.values()].flatMap((same) => {
    const [first] = same;
    if (!first || same.length < target.configurations.length) return same;
    delete first.variant;
    return [first];
  });
  return { entries, propertyLists: [...propertyLists] };
}

/** Settings of the platform's own tools: nobody keeps a vendor's key in them. */
const PLATFORM_SETTING =
  /^(ALWAYS_|ASSETCATALOG_|CLANG_|CODE_SIGN|COPY_|CURRENT_PROJECT|DEBUG_|DEFINES_|DEVELOPMENT_|DYLIB_|EMBEDDED_|ENABLE_|EXCLUDED_|FRAMEWORK_|GCC_|GENERATE_|HEADER_|INFOPLIST_|INSTALL_|IPHONEOS_|LD_|LIBRARY_|LOCALIZ|MACOSX_|MARKETING_|MTL_|ONLY_|OTHER_|PODS_|PRODUCT_|PROVISIONING_|REACT_|RUN_|SDKROOT|SKIP_|STRING_|STRIP_|SUPPORT|SWIFT_|TARGETED_|USE_|USER_|VALIDATE_|VERSION|WATCHOS_|WARNING_|CONFIGURATION_|EXPANDED_|ARCHS|VALID_|BUNDLE_|TEST_|APPLICATION_)/;

/** The entries of a property list whose values stand in it as they are. */
export function listEntries(plist: Data): Entry[] {
  const found: Entry[] = [];
  readInfo(plist, known, undefined, (entry) => found.push(entry));
  return found;
}

/** The entries of a list of entitlements whose values stand in it as they are. */
export function entitlementEntries(list: Data): Entry[] {
  const found: Entry[] = [];
  readEntitlementList(list, known, undefined, (entry) => found.push(entry));
  return found;
}

type Expand = (text: string, place: Entry["at"]) => Value;

/** An entry; one that all have names no configuration. */
function entryOf(kind: EntryKind, name: string, value: Value | undefined, variant: string | undefined, place: Entry["at"]): Entry {
  return { kind, side: "ios", name, value, at: place, ...(variant === undefined ? {} : { variant }) };
}

function readInfo(plist: Data, expand: Expand, variant: string | undefined, add: (entry: Entry) => void): void {
  const push = (kind: EntryKind, name: string, value: Value | undefined, place: Entry["at"]): void =>
    add(entryOf(kind, name, value, variant, place));
  const expanded = (data: Data): Value | undefined =>
    data.kind !== "scalar" ? undefined : (data.open ?? (data.value !== null ? expand(String(data.value), placeOf(data)) : undefined));
  const visit = (data: Data, path: string, depth: number): void => {
    if (depth > 6) return;
    for (const [key, { value, start }] of entriesOf(data)) {
      const name = path === "" ? key : `${path}.${key}`;
      const place = value.source.place(start);
      if (depth === 0 && /UsageDescription$/.test(key)) push("purposeText", key, expanded(value), place);
      push("plist", name, expanded(value), place);
      if (value.kind === "map") visit(value, name, depth + 1);
      if (depth === 0 && LISTS_OF_NAMES.has(key))
        for (const item of itemsOf(value)) push("plist", `${key}.${textAt(item) ?? ""}`, expanded(item), placeOf(item));
    }
  };
  visit(plist, "", 0);
  for (const type of itemsOf(at(plist, "CFBundleURLTypes")))
    for (const scheme of itemsOf(at(type, "CFBundleURLSchemes"))) {
      const value = expanded(scheme);
      if (value) push("urlScheme", textOf(value) ?? textAt(scheme) ?? "", value, placeOf(scheme));
    }
  for (const scheme of itemsOf(at(plist, "LSApplicationQueriesSchemes")))
    push("queriedScheme", textAt(scheme) ?? "", undefined, placeOf(scheme));
  for (const task of itemsOf(at(plist, "BGTaskSchedulerPermittedIdentifiers"))) {
    const value = expanded(task);
    push("backgroundTask", textOf(value) ?? textAt(task) ?? "", value, placeOf(task));
  }
  for (const mode of itemsOf(at(plist, "UIBackgroundModes"))) push("backgroundMode", textAt(mode) ?? "", undefined, placeOf(mode));
  const security = at(plist, "NSAppTransportSecurity");
  const arbitrary = at(security, "NSAllowsArbitraryLoads");
  if (arbitrary) push("clearText", "*", known(textAt(arbitrary) ?? "", placeOf(arbitrary)), placeOf(arbitrary));
  for (const [domain, { value, start }] of entriesOf(at(security, "NSExceptionDomains"))) {
    const allowed = textAt(value, "NSExceptionAllowsInsecureHTTPLoads") ?? textAt(value, "NSTemporaryExceptionAllowsInsecureHTTPLoads");
    push("host", domain, allowed === undefined ? undefined : known(allowed, value.source.place(start)), value.source.place(start));
  }
}

/** Whether Xcode may write a property list from the settings: it does where one says so, which a file that is not there may. */
function mayGenerate({ settings }: IosConfiguration): boolean {
  const stated = settings.value("GENERATE_INFOPLIST_FILE");
  return stated === undefined ? settings.missingFiles.length > 0 : stated.kind !== "known" || /^(YES|true|1)$/i.test(stated.text);
}

/** `INFOPLIST_KEY_…` settings become entries of a generated property list. */
function readGeneratedInfo(configuration: IosConfiguration, add: (entry: Entry) => void): void {
  if (!mayGenerate(configuration)) return;
  for (const setting of configuration.settings.names()) {
    const name = /^INFOPLIST_KEY_(.+)$/.exec(setting)?.[1];
    const value = name === undefined ? undefined : configuration.settings.value(setting);
    if (name === undefined || !value) continue;
    add({
      kind: /UsageDescription$/.test(name) ? "purposeText" : "plist",
      side: "ios",
      name,
      value,
      variant: configuration.name,
      at: value.place,
    });
  }
}

function readEntitlements(context: IosContext, configuration: IosConfiguration, add: (entry: Entry) => void): void {
  const setting = textOf(configuration.settings.value("CODE_SIGN_ENTITLEMENTS"));
  if (!setting) return;
  const file = join(context.xcode.folder, setting.replaceAll('"', ""));
  const root = context.project.plist(file)?.root;
  if (root) readEntitlementList(root, (text, place) => configuration.settings.expand(text, place), configuration.name, add);
}

/** A list of entitlements that the project names and that could not be read may have any. */
function noteOpenEntitlements(context: IosContext, app: FactSink, target: IosTarget): void {
  const setting = unreadEntitlements(context, target);
  if (setting) app.partIsOpen({ side: "ios", part: "entitlements", why: reason("entitlements-not-read"), at: setting.place });
}

/** The setting by which a target names a list of entitlements that could not be read. */
function unreadEntitlements({ project, xcode }: IosContext, target: IosTarget): Value | undefined {
  return target.configurations
    .map(({ settings }) => settings.value("CODE_SIGN_ENTITLEMENTS"))
    .find((setting) => {
      const text = textOf(setting);
      if (!setting || text === "") return false;
      const file = text === undefined ? undefined : join(xcode.folder, text.replaceAll('"', ""));
      return file === undefined || !project.plist(file)?.root;
    });
}

function readEntitlementList(list: Data, expand: Expand, variant: string | undefined, add: (entry: Entry) => void): void {
  for (const [name, { value, start }] of entriesOf(list)) {
    const place = value.source.place(start);
    const texts = textsOf(value);
    for (const text of texts.length > 0 ? texts : [""]) add(entryOf("entitlement", name, expand(text, place), variant, place));
  }
}

function readLinks(context: IosContext, app: FactSink, target: IosTarget): void {
  const { tree } = context.project;
  const makers = [context.xcode, ...projectsBeside(context.project, context.xcode)].flatMap(({ targets }) => targets);
  const names = new Map<string, LinkFact>();
  const fact = (name: string, path: string | undefined, place: LinkFact["at"]): LinkFact => {
    let found = names.get(name);
    if (!found) {
      const local = path !== undefined && (tree.isFile(path) || tree.isFolder(path));
      found = {
        name,
        target: target.name,
        linked: false,
        embedded: false,
        form: local ? binaryForm(tree, path) : madeForm(makers, name),
        system: path === undefined && !makers.some(({ product }) => product === name),
        at: place,
      };
      names.set(name, found);
    }
    return found;
  };
  for (const { name, path, at: place } of target.linked) fact(name, path, place).linked = true;
  for (const { name, at: place } of target.embedded) {
    const reference = context.xcode.binaries.find((binary) => baseName(binary.path) === name);
    fact(name, reference?.resolved, place).embedded = true;
  }
  app.linked(...names.values());
  for (const maker of makers) {
    const value = names.has(maker.product ?? "") ? configurationOf(maker)?.settings.value("IPHONEOS_DEPLOYMENT_TARGET") : undefined;
    if (value) app.required({ level: "iosTarget", value, by: maker.name, sdk: undefined, from: "its target" });
  }
}

/** What a target of the repository makes of a framework. Source: developer.apple.com, "Build settings reference" (MACH_O_TYPE). */
function madeForm(makers: readonly IosTarget[], name: string): LinkFact["form"] {
  const maker = makers.find(({ product, type }) => product === name && /product-type\.framework/.test(type));
  if (!maker) return undefined;
  const kind = textOf(configurationOf(maker)?.settings.value("MACH_O_TYPE"));
  return kind === "staticlib" || maker.type.endsWith(".static")
    ? "static"
    : kind === undefined || kind === "mh_dylib"
      ? "dynamic"
      : undefined;
}

function readOptions(app: FactSink, target: IosTarget): void {
  const configuration = configurationOf(target);
  for (const name of ["OTHER_LDFLAGS", "FRAMEWORK_SEARCH_PATHS", "LIBRARY_SEARCH_PATHS", "HEADER_SEARCH_PATHS"]) {
    const value = configuration?.settings.value(name);
    if (!value) continue;
    if (value.kind === "known")
      app.option({
        side: "ios",
        name,
        values: value.text.match(/"[^"]*"|\S+/g)?.map((part) => part.replaceAll('"', "")) ?? [],
        at: value.place,
      });
    else {
      // What is written out still counts where a part comes from elsewhere.
      const written = configuration?.settings.statements(name).map(({ value: statement }) => statement) ?? [];
      app.option({
        side: "ios",
        name,
        values: written.flatMap((statement) => textOf(statement)?.split(/\s+/) ?? []),
        at: value.place,
      });
    }
  }
}

/** Lists of names that code has to keep to. */
const LISTS_OF_NAMES: ReadonlySet<string> = new Set(["NSBonjourServices", "UISupportedExternalAccessoryProtocols", "NSUserActivityTypes"]);
