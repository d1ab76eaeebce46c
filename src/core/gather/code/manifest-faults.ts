import { broughtPermissions, COMPONENT_PERMISSIONS } from "../../knowledge/component-permissions.js";
import { ASSOCIATED_DOMAINS } from "../../knowledge/extension-points.js";
import { INTENT_ACTIONS, INTENT_CATEGORIES } from "../../knowledge/intent-names.js";
import { ofRelease, type App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import { isWithin } from "../../model/paths.js";
import { intentSlip } from "../platforms/android/manifest.js";
import { nearest } from "../../model/suggest.js";
import { sourceSetOfManifest } from "../../model/variants.js";
import { textOf } from "../../model/value.js";
import { argumentsIn } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { children, descendants, type XmlElement } from "../../syntax/xml.js";
import { COMPONENTS, declaredIn } from "../platforms/android/components.js";
import type { ProjectFiles } from "../project-files.js";
import { Resources } from "./android-resources.js";
import { callFaults, listsOfAttributes } from "./android-calls.js";
import { referenceFaults } from "./manifest-references.js";
import { deviceFaults, widgetFaults } from "./device-faults.js";
import { manifestGaps } from "./manifest-gaps.js";
import { ownNameFaults } from "./own-names.js";
import { faultAt, valueOf } from "./manifest-element.js";
import type { SourceFile } from "./sources.js";

/** What the elements of the app's own manifests lack, so that the system does not do what they are written for. */
export function manifestFaults(
  project: ProjectFiles,
  app: App,
  roots: readonly XmlElement[],
  sources: readonly SourceFile[],
  views: readonly SourceFile[] = [],
): ComponentFault[] {
  const resources = new Resources(project, app);
  const initializersOff = roots.some((root) =>
    descendants(root, "provider").some(
      (provider) => valueOf(provider, "name") === STARTUP && provider.attributes.get("tools:node")?.value === "remove",
    ),
  );
  let requested: ReadonlySet<string> | undefined;
  const permissions = (): ReadonlySet<string> => (requested ??= permissionsOf(app));
  return [
    ...roots.flatMap((root) => [
      ...linkFaults(app, root),
      ...actionFaults(app, root, permissions),
      ...providerFaults(root, sources, initializersOff),
      ...resources.missing(root),
    ]),
    ...manifestGaps(project, app, roots),
    ...roots.flatMap(closedLaunchers),
    ...launcherFaults(project, app, roots, sources),
    ...deviceFaults(app, roots),
    ...widgetFaults(project, app, roots, sources, resources),
    ...listsOfAttributes(project, app).flatMap(({ list }) => (list ? resources.missing(list, true) : [])),
    ...referenceFaults(project, app, roots, sources),
    ...callFaults(project, app, roots, sources, views),
    ...ownNameFaults(project, app, roots, [...sources, ...views]),
    ...mergeConflicts(app, roots),
    ...authorityFaults(app, roots, [...sources, ...views]),
    ...schemeFaults(app, roots, sources),
    ...prefixFaults(app, sources),
  ];
}

/** Source: developer.android.com, "<activity>" (android:exported): what the launcher starts has to be open to other apps. */
function closedLaunchers(root: XmlElement): ComponentFault[] {
  return ["activity", "activity-alias"].flatMap((tag) =>
    descendants(root, tag).flatMap((activity): ComponentFault[] => {
      const begins = children(activity, "intent-filter").some((filter) =>
        children(filter, "category").some((category) => /\.(LEANBACK_)?LAUNCHER$/.test(valueOf(category, "name") ?? "")),
      );
      return begins && valueOf(activity, "exported") === "false"
        ? [faultAt(activity, "exported", { what: "launcher closed", name: valueOf(activity, "name") ?? "it", near: undefined })]
        : [];
    }),
  );
}

/** Kinds of apps whose first activity the framework writes, or names in another way. */
const OF_OTHERS: ReadonlySet<App["kind"]> = new Set<App["kind"]>(["unity", "dotnet", "cordova"]);

/** Categories of the first activity, on a phone, a television or as the home of the device. */
const FIRST = /^android\.intent\.category\.(LAUNCHER|LEANBACK_LAUNCHER|HOME|SECONDARY_HOME|CAR_MODE|INFO)$/;

/**
 * An app that the launcher does not show: no filter has both the action and the category. A native app may be opened by others alone, so that it is
 * told of one only where a filter has half of it, or none of its components is for others. Source: developer.android.com, "Intents and intent filters"
 * (ACTION_MAIN, CATEGORY_LAUNCHER).
 */
function launcherFaults(project: ProjectFiles, app: App, roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const { android, kind, libraryManifests } = app;
  if (!android || android.generated || OF_OTHERS.has(kind)) return [];
  const own = roots.filter(({ source }) => isWithin(source.file, android.module.folder));
  const activities = own.flatMap((root) => ["activity", "activity-alias"].flatMap((tag) => descendants(root, tag)));
  const named = (filter: XmlElement, tag: string): string[] => children(filter, tag).flatMap((element) => valueOf(element, "name") ?? []);
  const filters = roots.flatMap((root) => descendants(root, "intent-filter"));
  const isMain = (filter: XmlElement): boolean => named(filter, "action").includes("android.intent.action.MAIN");
  const isFirst = (filter: XmlElement): boolean => named(filter, "category").some((name) => FIRST.test(name));
  const [first] = activities;
  if (filters.some((filter) => isMain(filter) && isFirst(filter))) return [];
  // A name that is almost right is told as such.
  const almost = (tag: string, known: readonly string[]): boolean =>
    filters.some((filter) => named(filter, tag).some((name) => intentSlip(name, known) !== undefined));
  if (almost("action", INTENT_ACTIONS) || almost("category", INTENT_CATEGORIES)) return [];
  if (libraryManifests.some(({ file }) => declaredIn(project, file).launchers.length > 0)) return [];
  if (!first) return undeclaredActivity(own, sources, kind === "native" ? OWN_ACTIVITY : FIRST_ACTIVITY);
  const half = filters.find((filter) => isMain(filter) || isFirst(filter));
  const isForOthers = roots.some((root) =>
    COMPONENTS.some((tag) =>
      descendants(root, tag).some(
        (component) => valueOf(component, "exported") === "true" || component.attributes.has("android:permission"),
      ),
    ),
  );
  if (kind === "native" && !half && (filters.length > 0 || isForOthers)) return [];
  return [
    faultAt(half ?? first, "name", {
      what: "no launcher",
      name: half ? (isMain(half) ? "category" : "action") : "filter",
      near: undefined,
    }),
  ];
}

/** A framework's activity that the app has as a class and no manifest declares. Sources: the templates of React Native, Flutter and Capacitor. */
const FIRST_ACTIVITY = /\bclass\s+\w+\s*(?::|extends)\s*(?:ReactActivity|Flutter(?:Fragment)?Activity|BridgeActivity)\b/;

/** A class of the app's own that is an activity and of which there can be one; apps of services alone (keyboards, wallpapers) have none. */
const OWN_ACTIVITY = /(?:^|\n)[ \t]*(?:(?:public|internal|final|@\w+)\s+)*class\s+\w+\s*(?:\(\s*\)\s*)?(?::|extends)\s*\w*Activity\b/;

function undeclaredActivity(own: readonly XmlElement[], sources: readonly SourceFile[], form: RegExp): ComponentFault[] {
  const [application] = own.flatMap((root) => descendants(root, "application"));
  if (!application || !sources.some(({ side, text }) => side === "android" && form.test(text))) return [];
  return [faultAt(application, "name", { what: "no launcher", name: "activity", near: undefined })];
}

/**
 * Attributes of one component that two manifests state otherwise: they cannot be merged. Source: developer.android.com, "Manage manifest files" (merge
 * conflict heuristics, merge rule markers).
 */
function mergeConflicts({ android }: App, roots: readonly XmlElement[]): ComponentFault[] {
  const id = textOf(ofRelease(android?.ids ?? [])?.value);
  const valueIn = (text: string): string | undefined => {
    const whole = text.replace(/\$\{(?:applicationId|packageName)\}/g, () => id ?? "${");
    return whole.includes("${") ? undefined : whole;
  };
  const seen = new Map<string, XmlElement[]>();
  return roots.flatMap((root) =>
    COMPONENTS.flatMap((tag) =>
      descendants(root, tag).flatMap((component): ComponentFault[] => {
        const name = valueOf(component, "name");
        if (name === undefined || name.startsWith(".")) return [];
        const earlier = seen.get(`${tag} ${name}`) ?? [];
        seen.set(`${tag} ${name}`, [...earlier, component]);
        const above = earlier.find((one) => meet(one, component));
        const marked = (mark: string): string => [above, component].map((one) => one?.attributes.get(mark)?.value ?? "").join(" ");
        if (!above || marked("tools:replace").trim() !== "" || /replace|remove/.test(marked("tools:node"))) return [];
        return [...component.attributes].flatMap(([attribute, { value }]): ComponentFault[] => {
          const other = above.attributes.get(attribute)?.value;
          if (!attribute.startsWith("android:") || other === undefined) return [];
          const [a, b] = [valueIn(value), valueIn(other)];
          return a === undefined || b === undefined || a === b
            ? []
            : [faultAt(component, attribute.slice(8), { what: "merge conflict", name: `${attribute} of ${name}`, near: other })];
        });
      }),
    ),
  );
}

/** Whether the manifests of two components meet in one build: those of two flavours or build types do not, or not for certain. */
function meet(one: XmlElement, other: XmlElement): boolean {
  const [set, otherSet] = [one, other].map(({ source }) => sourceSetOfManifest(source.file));
  return one.source.file !== other.source.file && (set === "main" || otherSet === "main");
}

const VIEW = "android.intent.action.VIEW";
/** Schemes of the web and of the system, for which a filter may be meant otherwise. */
const OF_THE_SYSTEM = /^(https?|file|content|geo|tel|mailto|sms|smsto|mms|mmsto|market|intent|data|about|ftp|package)$/;
const CATEGORIES = ["DEFAULT", "BROWSABLE"].map((name) => `android.intent.category.${name}`);

/**
 * Filters for addresses of the web that nobody's tap reaches. Source: developer.android.com, "Create deep links to app content" and "Verify Android
 * App Links" (action, categories, scheme and host).
 */
function linkFaults(app: App, root: XmlElement): ComponentFault[] {
  const again = openedAgain(app, root);
  if (again) return [again];
  const closed = new Set(
    descendants(root, "activity").flatMap((activity) =>
      valueOf(activity, "exported") === "false" ? children(activity, "intent-filter") : [],
    ),
  );
  return descendants(root, "intent-filter").flatMap((filter): ComponentFault[] => {
    const named = (tag: string): string[] => children(filter, tag).flatMap((element) => valueOf(element, "name") ?? []);
    const data = children(filter, "data");
    const schemes = data.flatMap((element) => valueOf(element, "scheme") ?? []);
    if (!named("action").includes(VIEW)) return [];
    const categories = named("category");
    const written = schemes.find((scheme) => !scheme.includes("$"));
    const shaped = [
      ...data.flatMap((element) => pathFaults(element)),
      // Links from a browser come from another app.
      ...(closed.has(filter) && categories.some((name) => name.endsWith(".BROWSABLE"))
        ? [faultAt(filter, "autoVerify", { what: "link closed", name: written === undefined ? "links" : `${written}:`, near: undefined })]
        : []),
    ];
    if (shaped.length > 0) return shaped;
    const ofTheApp = schemes.length > 0 && schemes.every((scheme) => !OF_THE_SYSTEM.test(scheme));
    if (ofTheApp && !data.some((element) => element.attributes.has("android:mimeType"))) {
      // One that has neither is for who knows the component's name.
      const lacking = CATEGORIES.filter((name) => !categories.includes(name));
      const [scheme = ""] = schemes;
      // Other apps may be the only ones that are to find it: links are meant where the other side takes them.
      const isLink = app.entries.some(
        ({ kind, side, name }) => kind === "urlScheme" && side === "ios" && (name === scheme || scheme.includes("$")),
      );
      return lacking.length !== 1 || (lacking[0]?.endsWith("BROWSABLE") === true && !isLink)
        ? []
        : [faultAt(filter, "autoVerify", { what: "link category", name: `${scheme}:`, near: lacking[0] })];
    }
    if (!schemes.some((scheme) => /^https?$/.test(scheme))) return [];
    return webLinks(app, root, filter, categories);
  });
}

/** What the templates of frameworks write, of which one activity holds the whole app. Sources: the templates of Flutter, React Native, Capacitor and Cordova. */
const LAUNCH_MODE: Partial<Record<App["kind"], string>> = {
  flutter: "singleTop",
  "react-native": "singleTask",
  expo: "singleTask",
  capacitor: "singleTask",
  cordova: "singleTop",
};

/** The activity of a framework's app that takes links, where the system starts it anew for each. Source: developer.android.com, "Tasks and the back stack". */
function openedAgain(app: App, root: XmlElement): ComponentFault | undefined {
  const mode = LAUNCH_MODE[app.kind];
  const activity = descendants(root, "activity").find((one) => {
    const filters = children(one, "intent-filter");
    const has = (filter: XmlElement, tag: string, name: string): boolean =>
      children(filter, tag).some((element) => valueOf(element, "name") === name);
    return (
      filters.some((filter) => has(filter, "category", "android.intent.category.LAUNCHER")) &&
      filters.some((filter) => has(filter, "action", VIEW) && has(filter, "category", CATEGORIES[1] as string))
    );
  });
  if (mode === undefined || !activity) return undefined;
  const own = valueOf(activity, "launchMode");
  return own === undefined || own === "standard"
    ? faultAt(activity, "launchMode", { what: "link mode", name: valueOf(activity, "name") ?? "the activity", near: mode })
    : undefined;
}

/** What a filter for links of the web lacks. */
function webLinks(app: App, root: XmlElement, filter: XmlElement, categories: readonly string[]): ComponentFault[] {
  // One that takes any address is a browser's.
  const host = children(filter, "data").flatMap((element) => valueOf(element, "host") ?? []);
  const isVerified = (one: XmlElement): boolean => valueOf(one, "autoVerify") === "true";
  if (host.length === 0 && !isVerified(filter)) return [];
  const missing = CATEGORIES.filter((name) => !categories.includes(name));
  const name = host[0] ?? "https";
  // One filter that asks for it may be meant for all.
  const shared =
    missing.length > 0 || descendants(root, "intent-filter").some(isVerified) ? undefined : host.find((one) => opensOnIos(app, one));
  return [
    ...(shared === undefined ? [] : [faultAt(filter, "autoVerify", { what: "link unverified", name: shared, near: undefined })]),
    ...missing.map((near) => faultAt(filter, "autoVerify", { what: "link category", name, near })),
    ...(host.length === 0 ? [faultAt(filter, "autoVerify", { what: "link host", name, near: undefined })] : []),
  ];
}

/** Whether links to a host open the app of the other side. */
const opensOnIos = ({ entries }: App, host: string): boolean =>
  entries.some(
    ({ kind, side, name, value }) =>
      kind === "entitlement" &&
      side === "ios" &&
      name === ASSOCIATED_DOMAINS &&
      textOf(value)?.replace(/\?.*$/, "").toLowerCase() === `applinks:${host.toLowerCase()}`,
  );

/** Source: developer.android.com, the element `data` of a manifest (a path begins with a slash, a host is a name alone). */
function pathFaults(data: XmlElement): ComponentFault[] {
  const paths = ["path", "pathPrefix"].flatMap((name): ComponentFault[] => {
    const value = valueOf(data, name);
    return value === undefined || value === "" || /^[/$@{]/.test(value)
      ? []
      : [faultAt(data, name, { what: "link path", name: value, near: `/${value}` })];
  });
  const host = valueOf(data, "host");
  const right = host?.replace(/^[a-z]+:\/\//i, "").replace(/[/:].*$/, "");
  return host !== undefined && !host.includes("${") && right !== host
    ? [...paths, faultAt(data, "host", { what: "link path", name: host, near: right })]
    : paths;
}

/** Permissions that the app has in the end: its own, and those that packages of the platform bring. */
export function permissionsOf(app: App): ReadonlySet<string> {
  const own = app.entries.flatMap(({ kind, side, name, removed }) => (kind === "permission" && side === "android" && !removed ? name : []));
  return new Set([...own, ...broughtPermissions(app)]);
}

/** Components that listen to what the system sends only with a permission. */
function actionFaults({ dependencies }: App, root: XmlElement, permissions: () => ReadonlySet<string>): ComponentFault[] {
  // The manifest of a package that is not on this machine may request it.
  const isUnseen = ({ ecosystem, side, platform, test }: App["dependencies"][number]): boolean =>
    ecosystem === "maven" && side === "android" && !platform && !test;
  return ["receiver", "service"].flatMap((tag) =>
    descendants(root, tag).flatMap((element): ComponentFault[] => {
      const actions = descendants(element, "action").flatMap((action) => valueOf(action, "name") ?? []);
      for (const action of actions) {
        const { requests, asks, open } = COMPONENT_PERMISSIONS[action] ?? {};
        if (open && valueOf(element, "exported") === "false")
          return [faultAt(element, "exported", { what: "service closed", name: valueOf(element, "name") ?? "", near: undefined })];
        const lacks =
          requests !== undefined && !permissions().has(requests)
            ? requests
            : asks !== undefined && valueOf(element, "permission") !== asks && !element.attributes.has("tools:node")
              ? asks
              : undefined;
        if (lacks !== undefined)
          return [
            faultAt(element, "name", {
              what: "action permission",
              name: `${valueOf(element, "name") ?? ""} ${action}`,
              near: lacks,
              ...(lacks === requests && dependencies.some(isUnseen) ? { unsure: true } : {}),
            }),
          ];
      }
      return [];
    }),
  );
}

/** Addresses of the app's own that code has under a scheme that is almost the one that a filter takes, for the same host. */
function schemeFaults(app: App, roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const entries = app.entries.filter(({ kind }) => kind === "urlScheme");
  if (entries.some(({ value, name }) => value?.kind === "unknown" || /[$({]/.test(textOf(value) ?? name))) return [];
  const own = new Set(entries.map(({ value, name }) => textOf(value) ?? name));
  const hosts = new Set(
    roots.flatMap((root) =>
      descendants(root, "intent-filter").flatMap((filter) => {
        const data = children(filter, "data");
        const ofTheWeb = data.some((element) => /^https?$/.test(valueOf(element, "scheme") ?? ""));
        return ofTheWeb ? [] : data.flatMap((element) => valueOf(element, "host") ?? []);
      }),
    ),
  );
  if (own.size === 0) return [];
  const ofScheme = hostsOf(app, roots);
  const told = new Set<string>();
  return sources.flatMap((source) => {
    if (!source.text.includes("://")) return [];
    return [...withoutComments(source.text).matchAll(/["'`]([a-z][\w.+-]*):\/\/([\w.-]+)/gi)].flatMap((match): ComponentFault[] => {
      const [, scheme = "", host = ""] = match;
      const taken = ofScheme.get(scheme);
      if (
        source.side !== "ios" &&
        taken &&
        taken.size > 0 &&
        !taken.has(host) &&
        !/[*]/.test([...taken].join("")) &&
        !told.has(`${scheme} ${host}`) &&
        LEADS_BACK.test(lineAt(source.text, match.index))
      ) {
        told.add(`${scheme} ${host}`);
        return [
          {
            what: "link host of code",
            side: "android",
            element: "data",
            name: `${scheme}://${host}`,
            near: [...taken].join(" or "),
            at: source.place(match.index + 1),
          },
        ];
      }
      const isMeant = hosts.has(host) || LEADS_BACK.test(lineAt(source.text, match.index));
      if (!isMeant || own.has(scheme) || OF_THE_SYSTEM.test(scheme) || told.has(scheme)) return [];
      const near =
        nearest(scheme, [...own]) ?? [...own].find((other) => other.length > 4 && (scheme.startsWith(other) || other.startsWith(scheme)));
      if (near === undefined) return [];
      told.add(scheme);
      return [
        { what: "link scheme", side: "android", element: "data", name: `${scheme}://${host}`, near, at: source.place(match.index + 1) },
      ];
    });
  });
}

/**
 * Prefixes of links that scripts wait for and that neither side takes. Source: reactnavigation.org, "Configuring links" (prefixes).
 */
function prefixFaults({ kind, entries }: App, sources: readonly SourceFile[]): ComponentFault[] {
  const own = entries.filter((one) => one.kind === "urlScheme" || one.kind === "linkHost" || one.name === ASSOCIATED_DOMAINS);
  const known = own.map(({ value, name }) => (value ? textOf(value) : name));
  if (kind !== "react-native" || known.some((text) => text === undefined || /[$({*]/.test(text))) return [];
  const names = (of: "urlScheme" | "linkHost"): string[] =>
    entries.flatMap((one) => (one.kind === of ? (textOf(one.value) ?? one.name) : []));
  const schemes = new Set(names("urlScheme"));
  const domains = known.flatMap((text) => /^applinks:([^?]+)/.exec(text ?? "")?.[1] ?? []);
  const hosts = new Set([...names("linkHost"), ...domains].map((host) => host.toLowerCase()));
  return sources.flatMap((source) => {
    if (source.side !== "shared" || !/\bprefixes\b/.test(source.text)) return [];
    const list = /\bprefixes\s*:\s*\[([^\]]*)\]/.exec(withoutComments(source.text));
    const inside = list?.[1];
    if (!list || inside === undefined) return [];
    return [...inside.matchAll(/["'`]([a-z][\w.+-]*):\/\/([\w.-]*)/gi)].flatMap((match): ComponentFault[] => {
      const [, scheme = "", host = ""] = match;
      const ofTheWeb = /^https?$/.test(scheme);
      const [name, all] = ofTheWeb ? [host.toLowerCase(), hosts] : [scheme, schemes];
      if (all.size === 0 || all.has(name) || name === "" || /^exp/.test(name)) return [];
      const near = nearest(name, [...all]) ?? [...all].find((other) => name.endsWith(`.${other}`) || other.endsWith(`.${name}`));
      // A machine of the team's, or a page that opens elsewhere.
      if (ofTheWeb && near === undefined) return [];
      const shown = (text: string): string => (ofTheWeb ? `https://${text}` : `${text}://`);
      const at = source.place(list.index + list[0].indexOf(inside) + match.index);
      return [
        {
          what: "link prefix",
          side: "android",
          element: "prefix",
          name: shown(name),
          near: near === undefined ? undefined : shown(near),
          at,
        },
      ];
    });
  });
}

/** Words of a line whose address others are told, so that they come back by it. */
const LEADS_BACK = /^(?!.*open_?url).*(?:redirect|callback|return|deep ?link|success|cancel)/i;

const lineAt = (text: string, at: number): string => text.slice(text.lastIndexOf("\n", at) + 1, at);

/** The hosts that the filters of the app's own schemes take, where all of them name theirs. */
function hostsOf({ entries }: App, roots: readonly XmlElement[]): Map<string, Set<string>> {
  const found = new Map<string, Set<string>>();
  const open = new Set<string>();
  // What a placeholder stands for is known by where it stands.
  const given = entries.filter(({ kind, side }) => kind === "urlScheme" && side === "android");
  for (const root of roots)
    for (const filter of descendants(root, "intent-filter")) {
      const data = children(filter, "data");
      const hosts = data.flatMap((element) => valueOf(element, "host") ?? []);
      for (const element of data) {
        const attribute = element.attributes.get("android:scheme");
        if (!attribute) continue;
        const place = element.source.place(attribute.start);
        const entry = attribute.value.includes("$") ? given.find(({ at }) => at.file === place.file && at.line === place.line) : undefined;
        const scheme = entry ? (textOf(entry.value) ?? entry.name) : attribute.value;
        if (scheme.includes("$")) return new Map();
        if (OF_THE_SYSTEM.test(scheme)) continue;
        if (hosts.length === 0 || hosts.some((host) => /[$*]/.test(host))) open.add(scheme);
        found.set(scheme, new Set([...(found.get(scheme) ?? []), ...hosts]));
      }
    }
  for (const scheme of open) found.delete(scheme);
  return found;
}

const FILE_PROVIDER = /\.FileProvider$/;
const STARTUP = "androidx.startup.InitializationProvider";

/**
 * Providers that stop the app when it starts, and initializers that their provider does not find. Sources: developer.android.com, "FileProvider"
 * ("Specifying available files", `attachInfo`), "App Startup" ("Set up manifest entries").
 */
function providerFaults(root: XmlElement, sources: readonly SourceFile[], off: boolean): ComponentFault[] {
  return descendants(root, "provider").flatMap((provider): ComponentFault[] => {
    const name = valueOf(provider, "name") ?? "";
    const taken = provider.attributes.get("tools:node")?.value === "remove";
    if (FILE_PROVIDER.test(name) && !taken) {
      const paths = children(provider, "meta-data").some((data) => valueOf(data, "name") === "android.support.FILE_PROVIDER_PATHS");
      return [
        ...(valueOf(provider, "grantUriPermissions") === "true"
          ? []
          : [faultAt(provider, "grantUriPermissions", { what: "file provider", name, near: "grantUriPermissions" })]),
        ...(valueOf(provider, "exported") === "true"
          ? [faultAt(provider, "exported", { what: "file provider", name, near: "exported" })]
          : []),
        // A subclass may be given its paths by code.
        ...(paths || !name.startsWith("androidx.core.content.")
          ? []
          : [faultAt(provider, "name", { what: "file provider", name, near: "paths" })]),
      ];
    }
    if (name !== STARTUP) return [];
    return children(provider, "meta-data").flatMap((data): ComponentFault[] => {
      const initializer = valueOf(data, "name") ?? "";
      const simple = initializer.slice(initializer.lastIndexOf(".") + 1);
      const own = sources.filter(
        ({ side, text }) =>
          side === "android" && text.includes(simple) && new RegExp(`\\bclass\\s+${simple}\\b[^{]*\\bInitializer\\b`).test(text),
      );
      const [only, other] = own;
      const removed = data.attributes.get("tools:node")?.value === "remove";
      if (simple === "" || !only || removed) return [];
      const full = `${/^\s*package\s+([\w.]+)/m.exec(only.text)?.[1] ?? ""}.${simple}`;
      if (!other && initializer !== full && !initializer.startsWith("."))
        return [faultAt(data, "name", { what: "initializer class", name: initializer, near: full })];
      if (taken || off) return [faultAt(data, "name", { what: "initializer", name: initializer, near: "removed" })];
      return valueOf(data, "value") === "androidx.startup"
        ? []
        : [faultAt(data, "value", { what: "initializer", name: initializer, near: valueOf(data, "value") ?? "" })];
    });
  });
}

/** The authority of a file provider as code writes it: what follows the app's id. */
const OF_THE_APP =
  /^(?:(?:\w+\.)*(?:packageName|getPackageName\(\)|BuildConfig\.APPLICATION_ID)\s*\+\s*)?"(?:\$\{?[\w.()]*(?:packageName|APPLICATION_ID)\}?)?(\.[\w.]+)"$/;

/** Code that asks for the address of a file from a provider that no manifest has. Source: developer.android.com, "FileProvider" (getUriForFile). */
function authorityFaults({ dependencies, android }: App, roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const id = textOf(ofRelease(android?.ids ?? [])?.value);
  const authorities = roots.flatMap((root) =>
    descendants(root, "provider").flatMap((provider) => (valueOf(provider, "authorities") ?? "").split(";")),
  );
  const isUnseen = dependencies.some(({ side, native, platform, test }) => side !== "ios" && native?.android && !platform && !test);
  const told = new Set<string>();
  return sources.flatMap((source) => {
    if (source.side !== "android" || !source.text.includes("getUriForFile")) return [];
    const text = withoutComments(source.text);
    return [...text.matchAll(/\bgetUriForFile\s*\(/g)].flatMap((match): ComponentFault[] => {
      const open = match.index + match[0].length - 1;
      const [, authority = ""] = argumentsIn(text, open);
      const written = /^"([\w.]+)"$/.exec(authority.trim())?.[1];
      const suffix =
        OF_THE_APP.exec(authority.trim())?.[1] ??
        (id !== undefined && written?.startsWith(`${id}.`) ? written.slice(id.length) : undefined);
      if (suffix === undefined || told.has(suffix) || authorities.some((known) => known.endsWith(suffix))) return [];
      told.add(suffix);
      const near = authorities[0];
      const fault = { what: "authority", side: "android", element: "provider", name: suffix, near } as const;
      return [{ ...fault, ...(near === undefined && isUnseen ? { unsure: true } : {}), at: source.place(match.index) }];
    });
  });
}
