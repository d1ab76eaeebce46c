import { distance } from "fastest-levenshtein";
import { FOREGROUND_TYPES_SINCE, WORKER_SERVICE } from "../../knowledge/foreground-services.js";
import { takesLibraries, targetOf, type App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import { isWithin } from "../../model/paths.js";
import { textOf } from "../../model/value.js";
import { argumentsIn } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { descendants, type XmlElement } from "../../syntax/xml.js";
import { xmlResource } from "../platforms/android/manifest.js";
import type { ProjectFiles } from "../project-files.js";
import { withDeviceNames } from "./device-instances.js";
import { valueOf } from "./manifest-element.js";
import type { SourceFile } from "./sources.js";
import { withoutSuper } from "./super-calls.js";

/** What calls of the platform need of the rest of the app, in Kotlin, Java and C#: flags, channels, paths of a provider, queries. */
export function callFaults(
  project: ProjectFiles,
  app: App,
  roots: readonly XmlElement[],
  sources: readonly SourceFile[],
  views: readonly SourceFile[],
): ComponentFault[] {
  const all = sources.filter(({ side, language }) => side === "android" && /^(kotlin|java|csharp)$/.test(language));
  const own = all.filter(({ guards }) => guards.length === 0);
  const jvm = [...own, ...views].filter(({ side, guards, language }) => side === "android" && guards.length === 0 && language !== "csharp");
  return [
    ...pendingIntents(app, own),
    ...channels(all),
    ...providedFiles(project, app, roots, jvm),
    ...unseenTakers(app, jvm),
    ...unseenActions(project, app, roots, jvm),
    ...workersInFront(app, roots, jvm),
    ...policies(project, app, roots, jvm),
    ...pageBridges(jvm),
    ...features(roots, jvm),
    ...takersOfHelpers(project, app, roots, sources),
    ...withoutSuper(own),
  ];
}

const fault = (source: SourceFile, offset: number, what: ComponentFault["what"], name: string, near?: string): ComponentFault => ({
  what,
  side: "android",
  element: "call",
  name,
  near,
  at: source.place(offset),
});

/** Flags that say nothing of whether others may change the intent. */
const PLAIN_FLAGS =
  /^(?:(?:PendingIntent(?:Flags)?\s*\.\s*)?(?:0|FLAG_(?:UPDATE_CURRENT|CANCEL_CURRENT|ONE_SHOT|NO_CREATE)|UpdateCurrent|CancelCurrent|OneShot|NoCreate)(?:\s*(?:\||\bor\b)\s*(?=\S)|\s*$))+$/;

/** What code asks for the level of the system by. */
const ASKS_LEVEL = ["SDK_INT", "VERSION_CODES", "SdkInt", "IsAndroidVersionAtLeast", "BuildVersionCodes"];

/** Source: developer.android.com, "Behavior changes: Apps targeting Android 12" (specify mutability of pending intents). */
function pendingIntents(app: App, sources: readonly SourceFile[]): ComponentFault[] {
  if (!(targetOf(app) >= 31)) return [];
  return sources.flatMap((source) => {
    if (!source.text.includes("PendingIntent")) return [];
    const text = withoutComments(source.text);
    return [...text.matchAll(/\bPendingIntent\s*\.\s*[gG]et(?:Activity|Activities|Broadcast|Service|ForegroundService)\s*\(/g)].flatMap(
      (match) => {
        const flags = argumentsIn(text, match.index + match[0].length - 1)[3]?.trim() ?? "";
        // One branch of several may be for older devices, but for what is behind a line that ends the function.
        const before = text.slice(Math.max(0, match.index - 400), match.index);
        const asked = before.slice(Math.max(0, ...ASKS_LEVEL.map((word) => before.lastIndexOf(word))));
        const isForOlder = ASKS_LEVEL.some((word) => asked.startsWith(word)) && !/\breturn\b/.test(asked.split("\n", 1)[0] ?? "");
        return PLAIN_FLAGS.test(flags) && !isForOlder
          ? [fault(source, match.index, "pending intent", match[0].replace(/\s|\($/g, ""))]
          : [];
      },
    );
  });
}

/** What an argument stands for: a text, a name that the code gives one, or a resource by its own name; `undefined` where nobody knows. */
export function meantBy(argument: string | undefined, texts: readonly string[]): string | undefined {
  const written = argument?.trim() ?? "";
  const literal = /^"([^"$\\]+)"$/.exec(written)?.[1];
  if (literal !== undefined) return literal;
  const resource = /\bR\.string\.(\w+)/.exec(written)?.[1];
  if (resource !== undefined) return `@string/${resource}`;
  const name = /^(?:\w+\.)*(\w+)$/.exec(written)?.[1];
  if (name === undefined) return undefined;
  const given = new Set(
    texts.flatMap((text) =>
      [...text.matchAll(new RegExp(`\\b(?:val|String|string)\\s+${name}\\s*(?::\\s*String\\s*)?=\\s*("?[^\\n;]*)`, "g"))].map(
        ([, value = ""]) => /^"([^"$\\]+)"\s*$/.exec(value.trim())?.[1],
      ),
    ),
  );
  const [only, other] = [...given];
  return other === undefined && given.size === 1 ? only : undefined;
}

/** Source: developer.android.com, "Create and manage notification channels" (from level 26 on a notification needs a channel that was made). */
function channels(sources: readonly SourceFile[]): ComponentFault[] {
  const own = sources
    .filter(({ text }) => /\bNotification(?:Channel|Compat)?\b/.test(text))
    .map((source) => ({ source, text: withoutComments(source.text) }));
  const texts = own.map(({ text }) => text);
  const made = own.flatMap(({ text }) =>
    [...text.matchAll(/\bNotificationChannel(?:Compat\s*\.\s*Builder)?\s*\(/g)].map((match) =>
      meantBy(argumentsIn(text, match.index + match[0].length - 1)[0], texts),
    ),
  );
  // Where one of them is not known, or a list makes them, it may be any.
  if (made.length === 0 || made.includes(undefined)) return [];
  const ids = new Set(made.flatMap((id) => id ?? []));
  const told = new Set<string>();
  return own.flatMap(({ source, text }) =>
    // What a variant makes counts for all; what it shows is its own.
    (source.guards.length > 0 ? [] : [...text.matchAll(/\bNotification(?:Compat)?\s*\.\s*Builder\s*\(/g)]).flatMap(
      (match): ComponentFault[] => {
        const given = argumentsIn(text, match.index + match[0].length - 1);
        const id = given.length === 2 ? meantBy(given[1], texts) : undefined;
        if (id === undefined || ids.has(id) || told.has(id)) return [];
        told.add(id);
        const near = [...ids].find((other) => distance(other, id) <= 2) ?? (ids.size === 1 ? [...ids][0] : undefined);
        return [fault(source, match.index, "channel", id, near)];
      },
    ),
  );
}

/** Folders of an app by the call that gives them, and the element that lets a provider hand out what lies there. Source: developer.android.com, "FileProvider". */
const FOLDERS: readonly [call: RegExp, element: string][] = [
  [/\b(?:filesDir|getFilesDir\s*\(\s*\))/, "files-path"],
  [/\b(?:cacheDir|getCacheDir\s*\(\s*\))/, "cache-path"],
  [/\b(?:externalCacheDir|getExternalCacheDir\s*\(\s*\))/, "external-cache-path"],
  [/\bgetExternalFilesDir\s*\(/, "external-files-path"],
];

function providedFiles(project: ProjectFiles, app: App, roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const lists = namedLists(project, app, roots, "android.support.FILE_PROVIDER_PATHS");
  const elements = lists.flatMap((list) => list?.children.map(({ name }) => name) ?? []);
  if (lists.length === 0 || lists.includes(undefined) || elements.includes("root-path")) return [];
  return sources.flatMap((source) => {
    if (!source.text.includes("getUriForFile")) return [];
    const text = withoutComments(source.text);
    return [...text.matchAll(/\bgetUriForFile\s*\(/g)].flatMap((match): ComponentFault[] => {
      const given = argumentsIn(text, match.index + match[0].length - 1)[2]?.trim() ?? "";
      const made = /^\w+$/.test(given)
        ? [
            ...text
              .slice(Math.max(0, match.index - 1_500), match.index)
              .matchAll(new RegExp(`\\b${given}\\s*(?::\\s*File\\s*)?=\\s*([^;\\n]*)`, "g")),
          ].at(-1)?.[1]
        : given;
      const folder = made !== undefined && /^(?:new\s+)?File\s*\(/.test(made) ? FOLDERS.find(([call]) => call.test(made)) : undefined;
      if (!folder || elements.includes(folder[1])) return [];
      return [fault(source, match.index, "file path", folder[0].exec(made ?? "")?.[0].replace(/\s*\($/, "") ?? "", folder[1])];
    });
  });
}

/**
 * Interfaces of .NET that ask who can take something, by what they need in the queries. Source: learn.microsoft.com, ".NET MAUI": "Phone dialer", "Email", "SMS",
 * "Launcher", "Text to speech" (setup for Android): a scheme, or an action. A sign-in in the browser goes on without its query.
 */
const HELPERS: readonly [call: RegExp, scheme: string | undefined][] = [
  [/\bPhoneDialer\s*\.\s*(?:(?:Default|Current)\s*\.\s*)?(?:Open|IsSupported)\b/g, "tel"],
  [/\bEmail\s*\.\s*(?:(?:Default|Current)\s*\.\s*)?(?:ComposeAsync|IsComposeSupported)\b/g, "mailto"],
  [/\bSms\s*\.\s*(?:(?:Default|Current)\s*\.\s*)?(?:ComposeAsync|IsComposeSupported)\b/g, "smsto"],
  [
    /\bLauncher\s*\.\s*(?:(?:Default|Current)\s*\.\s*)?(?:TryOpenAsync|CanOpenAsync)\s*\(\s*(?:new\s+Uri\s*\(\s*)?"([a-z][\w+.-]*):/g,
    undefined,
  ],
  [/\bTextToSpeech\s*\.\s*(?:(?:Default|Current)\s*\.\s*)?(?:SpeakAsync|GetLocalesAsync)\s*\(/g, "android.intent.action.TTS_SERVICE"],
];

const OF_HELPERS = /\bI?(?:PhoneDialer|Email|Sms|Launcher|TextToSpeech)\b/;

function takersOfHelpers(project: ProjectFiles, app: App, roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const schemes = app.kind === "dotnet" ? schemesQueried(app) : undefined;
  if (!schemes) return [];
  let actions: ReadonlySet<string> | undefined;
  const told = new Set<string>();
  return sources.flatMap((source) => {
    if (source.language !== "csharp" || source.side === "ios" || !OF_HELPERS.test(source.text)) return [];
    const { text, offset } = withDeviceNames(withoutComments(source.text));
    return HELPERS.flatMap(([call, of]) =>
      [...text.matchAll(call)].flatMap((match): ComponentFault[] => {
        const name = of ?? match[1] ?? "";
        if (/^https?$/.test(name) || told.has(name)) return [];
        if (name.includes(".") ? (actions ??= actionsQueried(project, app, roots)).has(name) : schemes.has(name)) return [];
        told.add(name);
        return [fault(source, offset(match.index), "query", name)];
      }),
    );
  });
}

/** The schemes that the manifest's queries name; `undefined` where the app sees all others without a query. */
function schemesQueried(app: App): ReadonlySet<string> | undefined {
  const seesAll = app.entries.some(({ kind, name }) => kind === "permission" && name === "android.permission.QUERY_ALL_PACKAGES");
  if (seesAll || !(targetOf(app) >= 30)) return undefined;
  return new Set(app.entries.flatMap(({ kind, side, name }) => (kind === "queriedScheme" && side === "android" ? name : [])));
}

/** Where the next function or class begins, in Kotlin and in Java. */
const NEXT_FUNCTION =
  /\n\s*(?:\w+\s+)*(?:fun|void|class)\s|\n\s*(?:(?:public|private|protected|static|final|synchronized)\s+)*(?!else\b|return\b|new\b)[\w<>[\].?]+\s+\w+\s*\([^()]*\)\s*(?:throws\s[\w.,\s]+)?\{/;

/** Source: developer.android.com, "Package visibility filtering" (from target level 30 on; `resolveActivity`, `<queries>` by intent). */
function unseenTakers(app: App, sources: readonly SourceFile[]): ComponentFault[] {
  const queried = schemesQueried(app);
  if (!queried) return [];
  const told = new Set<string>();
  return sources.flatMap((source) => {
    if (!source.text.includes("resolveActivity")) return [];
    const text = withoutComments(source.text);
    return [...text.matchAll(/\bUri\s*\.\s*(?:parse|fromParts)\s*\(\s*"([a-z]+)(?::[^"]*)?"/g)].flatMap((match): ComponentFault[] => {
      const scheme = match[1] as string;
      // In the same function: up to the next one.
      const behind = text.slice(match.index, match.index + 400).split(NEXT_FUNCTION)[0] ?? "";
      if (
        /^(https?|file|content|package)$/.test(scheme) ||
        queried.has(scheme) ||
        told.has(scheme) ||
        !/\bresolveActivity\s*\(/.test(behind)
      )
        return [];
      told.add(scheme);
      return [fault(source, match.index, "query", scheme)];
    });
  });
}

/**
 * Ways to ask whether anybody takes an action, by the action that the queries have to name. Sources: developer.android.com, "Package visibility filtering",
 * `SpeechRecognizer`, `TextToSpeech` ("should declare … in the queries elements"), as known 2026-12-01.
 */
const ASKED_ACTIONS: readonly [form: RegExp, action: string, resolved: boolean][] = [
  [/\bIntent\s*\(\s*(?:MediaStore\s*\.\s*)?ACTION_IMAGE_CAPTURE\s*\)/g, "android.media.action.IMAGE_CAPTURE", true],
  [/\bIntent\s*\(\s*(?:MediaStore\s*\.\s*)?ACTION_VIDEO_CAPTURE\s*\)/g, "android.media.action.VIDEO_CAPTURE", true],
  [/\bIntent\s*\(\s*(?:RecognizerIntent\s*\.\s*)?ACTION_RECOGNIZE_SPEECH\s*\)/g, "android.speech.action.RECOGNIZE_SPEECH", true],
  [/\bIntent\s*\(\s*(?:Intent\s*\.\s*)?ACTION_DIAL\s*\)/g, "android.intent.action.DIAL", true],
  [/\bSpeechRecognizer\s*\.\s*isRecognitionAvailable\s*\(/g, "android.speech.RecognitionService", false],
  [/(?:\bnew\s+|[=(,]\s*)TextToSpeech\s*\(/g, "android.intent.action.TTS_SERVICE", false],
];

/** Actions that code asks about and that no query names. */
function unseenActions(project: ProjectFiles, app: App, roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  if (!schemesQueried(app)) return [];
  let queried: ReadonlySet<string> | undefined;
  const told = new Set<string>();
  return sources.flatMap((source) => {
    if (
      !/\bACTION_(?:IMAGE|VIDEO)_CAPTURE\b|\bACTION_DIAL\b|\bACTION_RECOGNIZE_SPEECH\b|\bSpeechRecognizer\b|\bTextToSpeech\b/.test(
        source.text,
      )
    )
      return [];
    const text = withoutComments(source.text);
    return ASKED_ACTIONS.flatMap(([form, action, resolved]) =>
      [...text.matchAll(form)].flatMap((match): ComponentFault[] => {
        queried ??= actionsQueried(project, app, roots);
        const behind = text.slice(match.index, match.index + 400).split(NEXT_FUNCTION)[0] ?? "";
        // Others have classes of these names.
        const isOwn = !resolved && !text.includes("android.speech");
        if (isOwn || queried.has(action) || told.has(action) || (resolved && !resolving(text, match.index).test(behind))) return [];
        told.add(action);
        return [fault(source, match.index, "query", action)];
      }),
    );
  });
}

/** How it is asked who takes an intent: by its name, where it has one. */
function resolving(text: string, offset: number): RegExp {
  const name = /\b(\w+)\s*=\s*(?:new\s+)?$/.exec(text.slice(Math.max(0, offset - 60), offset))?.[1];
  return name === undefined
    ? /\bresolveActivity\s*\(/
    : new RegExp(`\\b${name}\\b[^;\\n]*\\bresolveActivity\\s*\\(|\\bresolveActivity\\s*\\(\\s*${name}\\b`);
}

function actionsQueried(project: ProjectFiles, { libraryManifests }: App, roots: readonly XmlElement[]): ReadonlySet<string> {
  const all = [...roots, ...libraryManifests.flatMap(({ file }) => project.xml(file)?.root ?? [])];
  return new Set(
    all.flatMap((root) =>
      descendants(root, "queries").flatMap((queries) => descendants(queries, "action").flatMap((action) => valueOf(action, "name") ?? [])),
    ),
  );
}

/**
 * Long work that is shown while it runs, by the service of the library, whose type the app's own manifest has to state. Source: developer.android.com, "Support for
 * long-running workers" (declare foreground service types in manifest), "Foreground service types are required" (from target level 34 on).
 */
function workersInFront(app: App, roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  if (!(targetOf(app) >= FOREGROUND_TYPES_SINCE)) return [];
  const types = roots.flatMap((root) =>
    descendants(root, "service").flatMap((service) =>
      valueOf(service, "name") === WORKER_SERVICE
        ? (valueOf(service, "foregroundServiceType") ?? "").split("|").filter((type) => type !== "")
        : [],
    ),
  );
  if (types.some((type) => /[$@{]/.test(type))) return [];
  // The manifest of a library may state it.
  const isOpen = takesLibraries(app, "android");
  const told = new Set<string>();
  return sources.flatMap((source) => {
    if (!source.text.includes("ForegroundInfo") || !source.text.includes("androidx.work")) return [];
    const text = withoutComments(source.text);
    return [...text.matchAll(/(?<!\.\s*|\bclass\s+)\bForegroundInfo\s*\(/g)].flatMap((match): ComponentFault[] => {
      const given = argumentsIn(text, match.index + match[0].length - 1);
      if (given.length < 2) return [];
      const constant = /^(?:ServiceInfo\s*\.\s*)?FOREGROUND_SERVICE_TYPE_(\w+)$/.exec(given[2]?.trim() ?? "")?.[1];
      const wanted = constant?.toLowerCase().replace(/_(\w)/g, (_, letter: string) => letter.toUpperCase());
      const near = types.length === 0 ? "" : wanted !== undefined && !types.includes(wanted) ? wanted : undefined;
      if (near === undefined || told.has(near)) return [];
      told.add(near);
      const missing = fault(source, match.index, "service without type", WORKER_SERVICE, near === "" ? undefined : near);
      return [isOpen ? { ...missing, unsure: true } : missing];
    });
  });
}

/** Calls that a policy of the device allows, by the element that asks for it. Source: developer.android.com, the reference of `DevicePolicyManager` (USES_POLICY_…). */
const POLICIES: Readonly<Record<string, string>> = {
  lockNow: "force-lock",
  wipeData: "wipe-data",
  setCameraDisabled: "disable-camera",
  setPasswordQuality: "limit-password",
  setPasswordMinimumLength: "limit-password",
  setMaximumFailedPasswordsForWipe: "watch-login",
  setPasswordExpirationTimeout: "expire-password",
  setKeyguardDisabledFeatures: "disable-keyguard-features",
};

function policies(project: ProjectFiles, app: App, roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const lists = namedLists(project, app, roots, "android.app.device_admin");
  if (lists.length === 0 || lists.includes(undefined)) return [];
  const asked = new Set(
    lists.flatMap((list) => (list ? descendants(list, "uses-policies") : [])).flatMap((uses) => uses.children.map(({ name }) => name)),
  );
  const form = new RegExp(`\\.\\s*(${Object.keys(POLICIES).join("|")})\\s*\\(`, "g");
  const told = new Set<string>();
  return sources.flatMap((source) => {
    if (!source.text.includes("DevicePolicyManager")) return [];
    return [...withoutComments(source.text).matchAll(form)].flatMap((match): ComponentFault[] => {
      const name = match[1] as string;
      const near = POLICIES[name] as string;
      if (asked.has(near) || told.has(near)) return [];
      told.add(near);
      return [fault(source, match.index, "policy", name, near)];
    });
  });
}

/**
 * Calls that are refused where the manifest does not name a feature. Source: developer.android.com, "Companion device pairing" (the manifest has to declare
 * `companion_device_setup`).
 */
function features(roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const feature = "android.software.companion_device_setup";
  if (roots.some((root) => descendants(root, "uses-feature").some((element) => valueOf(element, "name") === feature))) return [];
  const source = sources.find(({ text }) => text.includes("CompanionDeviceManager") && /\.\s*associate\s*\(/.test(withoutComments(text)));
  const offset = source ? withoutComments(source.text).search(/\.\s*associate\s*\(/) : -1;
  return source ? [fault(source, offset, "feature", "associate", feature)] : [];
}

/** The file of resources that is meant in a file of the app. */
function listNamed(project: ProjectFiles, app: App, resource: string | undefined, from: string): XmlElement | undefined {
  const name = /^@xml\/(\w+)$/.exec(resource ?? "")?.[1];
  const module = app.android?.modules.find(({ folder }) => isWithin(from, folder));
  const file = name !== undefined && module ? xmlResource(project, module, name) : undefined;
  return file === undefined ? undefined : project.xml(file)?.root;
}

/** The files of resources that attributes in C# name for components; `undefined` for one that is not here. */
export function listsOfAttributes(project: ProjectFiles, app: App): { name: string; list: XmlElement | undefined }[] {
  return app.entries.flatMap(({ kind, name, value, at }) =>
    kind === "metaData" && at.file.endsWith(".cs") ? [{ name, list: listNamed(project, app, textOf(value), at.file) }] : [],
  );
}

/** The files of resources that meta-data of this name lead to; `undefined` for one that is not here. */
export function namedLists(project: ProjectFiles, app: App, roots: readonly XmlElement[], meta: string): (XmlElement | undefined)[] {
  const inElements = roots.flatMap((root) =>
    descendants(root, "meta-data").flatMap((data) =>
      valueOf(data, "name") === meta ? [listNamed(project, app, valueOf(data, "resource"), root.source.file)] : [],
    ),
  );
  const inAttributes = listsOfAttributes(project, app).flatMap(({ name, list }) => (name === meta ? [list] : []));
  return [...inElements, ...inAttributes];
}

/**
 * Objects that are given to a page, of which the page sees no method. Source: developer.android.com, the reference of `WebView.addJavascriptInterface` (only public
 * methods that are annotated with `JavascriptInterface` can be accessed).
 */
function pageBridges(sources: readonly SourceFile[]): ComponentFault[] {
  let homes: ReadonlyMap<string, readonly SourceFile[]> | undefined;
  return sources.flatMap((source) => {
    if (!source.text.includes("addJavascriptInterface")) return [];
    const text = withoutComments(source.text);
    return [...text.matchAll(/\baddJavascriptInterface\s*\(\s*(?:new\s+)?([A-Z]\w*)\s*\(/g)].flatMap((match): ComponentFault[] => {
      const name = match[1] as string;
      homes ??= homesOf(sources);
      const [own, another] = homes.get(name) ?? [];
      if (!own || another || own.text.includes("JavascriptInterface") !== (own === source)) return [];
      const type = withoutComments(own.text);
      const from = type.search(new RegExp(`\\bclass\\s+${name}\\b`));
      const body = type.slice(from);
      // What it is an heir of may have them.
      const header = body.slice(0, body.indexOf("{")).replace(/:\s*Object\b/, "");
      if (
        /\bextends\b|\bimplements\b|\)\s*:|\w\s*:\s*[A-Z]/.test(header.replace(/\([^()]*\)/, "()")) ||
        /@(?:[\w.]+\.)?JavascriptInterface\b/.test(body)
      )
        return [];
      return [fault(source, match.index, "page bridge", name)];
    });
  });
}

/** The files in which each class stands. */
function homesOf(sources: readonly SourceFile[]): ReadonlyMap<string, readonly SourceFile[]> {
  const homes = new Map<string, SourceFile[]>();
  for (const source of sources)
    for (const name of new Set([...withoutComments(source.text).matchAll(/\bclass\s+([A-Z]\w*)/g)].map((match) => match[1] as string))) {
      const known = homes.get(name);
      if (known) known.push(source);
      else homes.set(name, [source]);
    }
  return homes;
}
