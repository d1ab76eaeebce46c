import { distance } from "fastest-levenshtein";
import { foldersBelow } from "../../../files/walk.js";
import type { Entry, EntryKind } from "../../../model/facts.js";
import { join } from "../../../model/paths.js";
import { targetOf } from "../../../model/app.js";
import type { Place } from "../../../model/place.js";
import { reason } from "../../../model/reason.js";
import { known, unknown, type Value } from "../../../model/value.js";
import { withoutComments } from "../../../syntax/comments.js";
import type { Source } from "../../../syntax/source.js";
import type { Discovery } from "../framework.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import { declaredIn } from "../../platforms/android/components.js";
import {
  COMPONENT_PERMISSIONS,
  DESCRIBED_ACTIONS,
  SENT_BY_OTHERS,
  SYSTEM_BASES,
  WIDGET_BASE,
  type SystemBase,
} from "../../../knowledge/component-permissions.js";
import { FOREGROUND_SERVICE_PERMISSIONS, FOREGROUND_TYPES_SINCE } from "../../../knowledge/foreground-services.js";
import { NAMES_IN_MANIFESTS } from "../../../knowledge/manifest-names.js";
import type { ComponentFault } from "../../../model/code.js";
import { intentSlip } from "../../platforms/android/manifest.js";
import { keptOff } from "../../platforms/directives.js";
import { buildRegions, variantAt } from "../../platforms/build-regions.js";
import type { UnitOfApp } from "./packages.js";
import type { DotnetProject } from "./project.js";

/** Folders of a project whose code goes into other platforms. */
const ELSEWHERE = /(^|\/)(bin|obj|Platforms\/(iOS|Windows|MacCatalyst|MacOS|tvOS|Tizen))(\/|$)/;
/** Types of attributes that write the manifest, without their ending. */
const WRITES =
  /\[\s*(?:assembly\s*:)?[^\]]*\b(UsesPermission|UsesFeature|MetaData|IntentFilter|Application|Activity|Service|BroadcastReceiver|ContentProvider)/;

/** An attribute as it is written: its type's last name and its arguments, by position and by name. */
interface Attribute {
  type: string;
  positional: Argument[];
  named: Map<string, Argument>;
  offset: number;
}

interface Argument {
  text: string;
  offset: number;
}

/**
 * Attributes in the code of a project that write entries of the Android manifest. Source: learn.microsoft.com, "Android manifest in .NET".
 * Texts, constants of the app's own code and lists of these are worked out; others are unknown.
 */
export function readAttributes(discovery: Discovery, app: FactSink, units: readonly UnitOfApp[]): void {
  const classes: MarkedClasses = new Map();
  for (const { project, platforms } of units) if (platforms.includes("android")) readUnit(discovery, app, project, units, classes);
  noteComponents(discovery.project, app, classes, units);
  for (const [name, marked] of classes) noteSystemService(app, name, marked);
}

function readUnit(discovery: Discovery, app: FactSink, project: DotnetProject, units: readonly UnitOfApp[], classes: MarkedClasses): void {
  let constants: Map<string, string | undefined> | undefined;
  for (const { source, code } of codeOf(discovery, project)) {
    if (!WRITES.test(code)) continue;
    constants ??= constantsOf(discovery, units);
    const lookUp = constants;
    const regions = buildRegions(code);
    const off = keptOff(code);
    for (const attribute of attributesIn(code)) {
      if (off(attribute.offset).has("android")) continue;
      const variant = variantAt(regions, attribute.offset);
      const owner = variant === undefined ? ownerOf(code, attribute.offset) : undefined;
      if (owner !== undefined) classes.set(owner, [...(classes.get(owner) ?? []), { attribute, source }]);
      const put = (kind: EntryKind, { text, offset }: Argument, value?: Argument): void => {
        const at = source.place(offset);
        for (const name of textsOf(text, lookUp)) {
          const entry: Entry = {
            kind,
            side: "android",
            name: kind === "permission" ? permissionName(name) : name,
            value: value ? valueOf(value, lookUp, source.place(value.offset)) : kind === "urlScheme" ? known(name, at) : undefined,
            at,
          };
          if (variant !== undefined) entry.variant = variant;
          app.entry(entry);
        }
      };
      note(attribute, put);
    }
  }
}

/** An attribute on a class. */
interface Marked {
  attribute: Attribute;
  source: Source;
}

/** The attributes of each class, by its name. */
type MarkedClasses = Map<string, Marked[]>;

/** The class that attributes stand before. */
function ownerOf(code: string, offset: number): string | undefined {
  const match = /\bclass\s+(\w+)/.exec(code.slice(offset, offset + LONGEST));
  // Nothing but attributes and modifiers is between.
  return match && !/[;{}]\s*$|\bclass\b/.test(code.slice(offset, offset + match.index).replace(/\{[^{}]*\}/g, "")) ? match[1] : undefined;
}

const COMPONENT = /^(Activity|Service|BroadcastReceiver)$/;

/**
 * What the attributes of components lack so that the system takes them. Sources: learn.microsoft.com, "Android manifest in .NET"; developer.android.com,
 * "Create deep links to app content", "Foreground service types are required", "android:exported".
 */
function noteComponents(project: ProjectFiles, app: FactSink, classes: MarkedClasses, units: readonly UnitOfApp[]): void {
  let launchers = app.manifests.reduce((sum, file) => sum + (file.endsWith(".xml") ? declaredIn(project, file).launchers.length : 0), 0);
  const frameworks = units.flatMap((unit) => unit.project.frameworks);
  const modern = frameworks.some(({ platform, version }) => platform === "android" && Number.parseFloat(version) >= 6);
  let first: { name: string; at: Place } | undefined;
  const permissions = new Set(app.entries.flatMap(({ kind, name }) => (kind === "permission" ? name : [])));
  for (const [name, marked] of classes) {
    const own = marked.find(({ attribute }) => COMPONENT.test(attribute.type));
    if (!own) continue;
    const { attribute, source } = own;
    const at = source.place(attribute.offset);
    const element = attribute.type === "BroadcastReceiver" ? "receiver" : attribute.type.toLowerCase();
    if (attribute.type === "Activity") {
      first ??= { name, at };
      if (/^true$/.test(attribute.named.get("MainLauncher")?.text ?? "")) {
        launchers++;
        const exported = attribute.named.get("Exported");
        if (exported && /^false$/.test(exported.text.trim()))
          app.componentFault({
            what: "launcher closed",
            side: "android",
            element,
            name,
            near: undefined,
            at: source.place(exported.offset),
          });
      }
    }
    const filters = marked.filter((one) => one.attribute.type === "IntentFilter");
    for (const { attribute: filter } of filters) {
      if (filter.positional.some(({ text }) => /ActionMain|intent\.action\.MAIN/.test(text))) launchers++;
      noteLinkCategories(app, filter, source);
    }
    if (modern && filters.length > 0 && needsExported(attribute))
      app.componentFault({ what: "exported", side: "android", element, name, near: undefined, at });
    noteServiceTypes(app, attribute, permissions, element, name, at);
  }
  if (first && launchers === 0)
    app.componentFault({ what: "no launcher", side: "android", element: "activity", name: first.name, near: undefined, at: first.at });
}

/** Actions of the platform by the constants of its binding: `Intent.ActionBootCompleted`. */
function actionsOf({ positional }: Attribute): { name: string; text: string; offset: number }[] {
  return positional.flatMap(({ text, offset }) =>
    [...text.matchAll(/"([^"]+)"|\b(?:(\w+)\s*\.\s*)?((?:Action[A-Z]\w*)|ServiceInterface)\b/g)].map((match) => {
      const [written, literal, type, constant = ""] = match;
      const own = constant
        .replace(/^Action/, "")
        .replace(/(?<=[a-z\d])(?=[A-Z])/g, "_")
        .toUpperCase();
      const prefix =
        type === "AppWidgetManager"
          ? "android.appwidget.action."
          : type === "NfcAdapter"
            ? "android.nfc.action."
            : type === "Intent"
              ? "android.intent.action."
              : undefined;
      // What stands alone is a constant of the class that the component is an heir of.
      return { name: literal ?? (prefix === undefined ? INHERITED : prefix + own), text: written, offset: offset + match.index };
    }),
  );
}

const INHERITED = "inherited";

/** The class that a component is an heir of, and what the platform says of that. */
function baseOf(source: Source, name: string): { base: SystemBase | undefined; text: string } {
  const text = withoutComments(source.text);
  const above = new RegExp(`\\bclass\\s+${name}\\s*:\\s*(?:[\\w.]+\\.)?(\\w+)`).exec(text)?.[1];
  const base =
    above === "AppWidgetProvider"
      ? WIDGET_BASE
      : above !== undefined && Object.hasOwn(SYSTEM_BASES, above)
        ? SYSTEM_BASES[above]
        : undefined;
  // The binding has the packages of the platform as its namespaces.
  return { base: base && text.toLowerCase().includes(base.from) ? base : undefined, text };
}

type Tell = (what: ComponentFault["what"], near: string | undefined, of?: string, unsure?: true) => void;

/** What a component that the system starts, or sends something to, lacks in its attributes. Sources: those of COMPONENT_PERMISSIONS and SYSTEM_BASES. */
function noteSystemService(app: FactSink, name: string, marked: readonly Marked[]): void {
  const own = marked.find(({ attribute }) => COMPONENT.test(attribute.type));
  if (!own) return;
  const { attribute, source } = own;
  const element = attribute.type === "BroadcastReceiver" ? "receiver" : attribute.type.toLowerCase();
  const tell: Tell = (what, near, of = name, unsure) =>
    app.componentFault({ what, side: "android", element, name: of, near, at: source.place(attribute.offset), ...(unsure && { unsure }) });
  const filters = marked.filter((one) => one.attribute.type === "IntentFilter");
  const { base, text } = baseOf(source, name);
  const [first = ""] = base?.actions ?? [];
  const actions = filters.map((one) => actionsOf(one.attribute).map((action) => action.name));
  // A constant may be any.
  const isIdle =
    base === WIDGET_BASE &&
    actions.every((list) => list.length > 0 && !list.some((one) => one === INHERITED || base.actions.includes(one)));
  if (base && base.actions.length > 0 && attribute.type !== "ContentProvider" && (filters.length === 0 || isIdle))
    tell("service without action", first);
  if (base?.asks !== undefined && !attribute.named.has("Permission")) tell("action permission", base.asks, `${name} `);
  for (const { name: written, offset } of filters.flatMap(({ attribute: filter }) => actionsOf(filter))) {
    const action = written === INHERITED ? first : written;
    const right = intentSlip(action, NAMES_IN_MANIFESTS.action?.known ?? []);
    if (right !== undefined) app.misspelling({ what: "action", name: action, right, side: "android", at: source.place(offset) });
    noteAction(app, attribute, name, action, tell);
  }
  noteDescription(base, marked, tell);
  noteSent(app, filters);
  noteCalls(app, attribute, text, tell);
}

/** What a component is for is said in a file of its own, which an attribute names; and one that has such an attribute is started by the action that goes with it. */
function noteDescription(base: SystemBase | undefined, marked: readonly Marked[], tell: Tell): void {
  const actions = marked.flatMap(({ attribute }) =>
    attribute.type === "IntentFilter" ? actionsOf(attribute).map(({ name }) => name) : [],
  );
  const given = marked.flatMap(({ attribute }) =>
    attribute.type === "MetaData"
      ? [/^"([^"]+)"$/.exec((attribute.named.get("Name") ?? attribute.positional[0])?.text.trim() ?? "")?.[1]]
      : [],
  );
  // A constant may be any.
  if (given.includes(undefined)) return;
  const wanted = base?.data ?? actions.flatMap((action) => (Object.hasOwn(DESCRIBED_ACTIONS, action) ? DESCRIBED_ACTIONS[action] : []))[0];
  if (wanted !== undefined && actions.length > 0 && !given.some((name) => distance(name ?? "", wanted) <= 2))
    // An activity has other ways in.
    tell("service without description", wanted, undefined, marked.some(({ attribute }) => attribute.type === "Activity") || undefined);
  const action = actions.length > 0 || base ? undefined : Object.entries(DESCRIBED_ACTIONS).find(([, name]) => given.includes(name))?.[0];
  if (action !== undefined) tell("service without action", action);
}

/** What an action asks for: of the app, or of the component itself. */
function noteAction(app: FactSink, { named }: Attribute, name: string, action: string, tell: Tell): void {
  const { requests, asks, open } = Object.hasOwn(COMPONENT_PERMISSIONS, action) ? (COMPONENT_PERMISSIONS[action] ?? {}) : {};
  const isRequested = app.entries.some((entry) => entry.kind === "permission" && entry.side === "android" && entry.name === requests);
  if (requests !== undefined && !isRequested) tell("action permission", requests, `${name} ${action}`);
  const given = named.get("Permission")?.text ?? "";
  const constant = /(\w+)\s*$/.exec(given)?.[1];
  const asked = /"([^"]+)"/.exec(given)?.[1] ?? (constant === undefined ? undefined : permissionName(constant));
  // A constant of the app's own may be it.
  const isNamed = /^\w+$/.test(given);
  if (asks !== undefined && asked !== asks && !isNamed) tell("action permission", asks, `${name} ${action}`);
  if (open && named.get("Exported")?.text.trim() === "false") tell("service closed", undefined);
}

/** What the class itself does that its attribute has to allow. */
function noteCalls(app: FactSink, { type, named }: Attribute, text: string, tell: Tell): void {
  if (type === "Activity" && /(?<![\w.])EnterPictureInPictureMode\s*\(/.test(text) && !named.has("SupportsPictureInPicture"))
    tell("picture in picture", undefined);
  const isInFront = type === "Service" && /(?<![\w.])(?:base\.|this\.)?StartForeground\s*\(/.test(text);
  if (isInFront && targetOf(app) >= FOREGROUND_TYPES_SINCE && !named.has("ForegroundServiceType")) tell("service without type", undefined);
}

/** Filters for what other apps send, without the category that it comes by. */
function noteSent(app: FactSink, filters: readonly Marked[]): void {
  for (const { attribute: filter, source } of filters) {
    const sent = actionsOf(filter).find(({ name }) => SENT_BY_OTHERS.test(name));
    const categories = filter.named.get("Categories")?.text ?? "";
    if (sent && !/CategoryDefault|category\.DEFAULT/.test(categories) && !/^\w+$/.test(categories.trim()))
      app.componentFault({
        what: "filter category",
        side: "android",
        element: "intent-filter",
        name: sent.name,
        near: undefined,
        at: source.place(filter.offset),
      });
  }
}

/** A component that says nothing of others: the build takes an activity that is opened first for exported. */
const needsExported = ({ named }: Attribute): boolean => !named.has("Exported") && !named.has("MainLauncher");

/** Categories without which Android opens no links of a filter in the app. */
function noteLinkCategories(app: FactSink, filter: Attribute, source: Source): void {
  const schemes = filter.named.get("DataScheme")?.text ?? filter.named.get("DataSchemes")?.text ?? "";
  const categories = filter.named.get("Categories")?.text ?? "";
  const isView = filter.positional.some(({ text }) => /\bActionView\b|intent\.action\.VIEW/.test(text));
  if (!isView || !/"https?"/.test(schemes) || !/^(new\b|\[)/.test(categories.trim())) return;
  for (const category of ["DEFAULT", "BROWSABLE"])
    if (!new RegExp(`Category${category}\\b|category\\.${category}`, "i").test(categories))
      app.componentFault({
        what: "link category",
        side: "android",
        element: "intent-filter",
        name: /"([^"]*)"/.exec(filter.named.get("DataHost")?.text ?? "")?.[1] ?? "https",
        near: `android.intent.category.${category}`,
        at: source.place(filter.offset),
      });
}

/** Permissions that the types of a foreground service ask for. */
function noteServiceTypes(app: FactSink, attribute: Attribute, permissions: Set<string>, element: string, name: string, at: Place): void {
  for (const [, type = ""] of (attribute.named.get("ForegroundServiceType")?.text ?? "").matchAll(/\bType(\w+)/g)) {
    const wanted = FOREGROUND_SERVICE_PERMISSIONS[`${type[0]?.toLowerCase() ?? ""}${type.slice(1)}`];
    for (const permission of wanted === undefined ? [] : [wanted, "android.permission.FOREGROUND_SERVICE"])
      if (!permissions.has(permission)) app.componentFault({ what: "service type", side: "android", element, name, near: permission, at });
  }
}

// eslint-disable-next-line complexity -- one case for each attribute, each a line or two
function note({ type, positional, named }: Attribute, put: (kind: EntryKind, name: Argument, value?: Argument) => void): void {
  const name = named.get("Name") ?? positional[0];
  switch (type) {
    case "UsesPermission":
      if (name) put("permission", name);
      return;
    case "UsesFeature":
      if (name) put("feature", name);
      return;
    case "MetaData": {
      const value = named.get("Value") ?? named.get("Resource");
      if (positional[0]) put("metaData", positional[0], value);
      return;
    }
    case "IntentFilter":
      for (const key of ["DataScheme", "DataSchemes"]) {
        const scheme = named.get(key);
        if (scheme) put("urlScheme", scheme);
      }
      for (const key of ["DataHost", "DataHosts"]) {
        const host = named.get(key);
        if (host && /"https?"/.test(named.get("DataScheme")?.text ?? named.get("DataSchemes")?.text ?? "")) put("linkHost", host);
      }
      return;
    case "Application": {
      const clear = named.get("UsesCleartextTraffic");
      if (clear) put("clearText", { text: '"*"', offset: clear.offset }, clear);
      return;
    }
    case "Activity":
    case "Service":
    case "BroadcastReceiver":
    case "ContentProvider": {
      const component = named.get("Name");
      if (component) put("component", component);
      return;
    }
    default:
  }
}

function* codeOf({ index, project }: Discovery, unit: DotnetProject): Generator<{ source: Source; code: string }> {
  for (const [folder, { files }] of foldersBelow(index, unit.folder)) {
    if (ELSEWHERE.test(folder.slice(unit.folder.length))) continue;
    for (const name of files) {
      if (!name.endsWith(".cs") || /\.(iOS|MacCatalyst|Windows|Tizen)\.cs$/i.test(name)) continue;
      const source = project.text(join(folder, name));
      if (source && source.text.length < 1_000_000) yield { source, code: withoutComments(source.text) };
    }
  }
}

/** Constants of texts in the app's code, by name and by type and name; nothing where several have the name and differ. */
function constantsOf(discovery: Discovery, units: readonly UnitOfApp[]): Map<string, string | undefined> {
  const found = new Map<string, string | undefined>();
  for (const { project } of units)
    for (const { code } of codeOf(discovery, project)) {
      if (!code.includes("const ")) continue;
      const types = [...code.matchAll(/\b(?:class|struct|interface|record)\s+(\w+)/g)];
      let owner = 0;
      for (const match of code.matchAll(/\bconst\s+string\s+(\w+)\s*=\s*@?"([^"\\]*)"/g)) {
        const [, name, text] = match as unknown as [string, string, string];
        found.set(name, found.has(name) && found.get(name) !== text ? undefined : text);
        while ((types[owner + 1]?.index ?? Infinity) < match.index) owner++;
        const type = types[owner];
        if (type && type.index < match.index) found.set(`${type[1] ?? ""}.${name}`, text);
      }
    }
  return found;
}

/** All attributes in brackets where a declaration can have some: at the start of a line, or after another one. */
function attributesIn(code: string): Attribute[] {
  const found: Attribute[] = [];
  for (const match of code.matchAll(/(?:^|[\n;{}\]])[ \t]*\[/g)) {
    const open = match.index + match[0].length - 1;
    const end = closing(code, open);
    if (end === -1) continue;
    const target = /^\s*(?:assembly|module|type|field|property|return)\s*:/.exec(code.slice(open + 1, end));
    for (const part of parts(code, open + 1 + (target?.[0].length ?? 0), end)) {
      const head = /^\s*([\w.]+?)(?:Attribute)?\s*(\(|$)/.exec(part.text);
      if (!head) continue;
      const type = (head[1] as string).split(".").at(-1) as string;
      const attribute: Attribute = { type, positional: [], named: new Map(), offset: part.offset };
      if (head[2] === "(") {
        const from = part.offset + head[0].length;
        const to = closing(code, from - 1);
        for (const argument of parts(code, from, to === -1 ? end : to)) {
          const named = /^\s*(\w+)\s*[=:](?![=:>])\s*/.exec(argument.text);
          const text = named ? argument.text.slice(named[0].length) : argument.text;
          const space = text.length - text.trimStart().length;
          const value = { text: text.trim(), offset: argument.offset + (named?.[0].length ?? 0) + space };
          if (named) attribute.named.set(named[1] === "name" ? "Name" : (named[1] as string), value);
          else if (value.text !== "") attribute.positional.push(value);
        }
      }
      found.push(attribute);
    }
  }
  return found;
}

/** The parts of a list between commas. */
function parts(code: string, from: number, to: number): Argument[] {
  const found: Argument[] = [];
  let start = from;
  let depth = 0;
  for (let index = from; index < to; index++) {
    const character = code[index] as string;
    if (character === '"') index = afterText(code, index) - 1;
    else if ("([{".includes(character)) depth++;
    else if (")]}".includes(character)) depth--;
    else if (character === "," && depth === 0) {
      found.push({ text: code.slice(start, index), offset: start });
      start = index + 1;
    }
  }
  return [...found, { text: code.slice(start, to), offset: start }];
}

/** No attribute is longer. */
const LONGEST = 5_000;

function closing(code: string, open: number): number {
  let depth = 0;
  for (let index = open; index < Math.min(code.length, open + LONGEST); index++) {
    const character = code[index] as string;
    if (character === '"') index = afterText(code, index) - 1;
    else if ("([{".includes(character)) depth++;
    else if (")]}".includes(character) && --depth === 0) return index;
  }
  return -1;
}

function afterText(code: string, quote: number): number {
  for (let index = quote + 1; index < code.length; index++) {
    if (code[index] === "\\") index++;
    else if (code[index] === '"' || code[index] === "\n") return index + 1;
  }
  return code.length;
}

/** What an argument is: a text, a constant, or a list of these; of what cannot be worked out, nothing. */
function textsOf(text: string, constants: ReadonlyMap<string, string | undefined>): string[] {
  const list = /^(?:new\s*(?:string)?\s*\[\s*\]\s*)?[[{]([\s\S]*)[\]}]$/.exec(text);
  if (list) return parts(list[1] as string, 0, (list[1] as string).length).flatMap((part) => textsOf(part.text.trim(), constants));
  const plain = /^@?"((?:[^"\\]|\\.)*)"$/.exec(text);
  if (plain) return [plain[1] as string];
  if (/^(?:global::)?[\w.]+$/.test(text)) {
    const known_ =
      constants.get(text) ?? constants.get(text.split(".").slice(-2).join(".")) ?? constants.get(text.split(".").at(-1) as string);
    if (known_ !== undefined) return [known_];
    const permission = /(?:^|\.)Permission\.(\w+)$/.exec(text);
    if (permission) return [permission[1] as string];
  }
  return [];
}

function valueOf({ text }: Argument, constants: ReadonlyMap<string, string | undefined>, at: Place): Value {
  const [first] = textsOf(text, constants);
  if (first !== undefined) return known(first, at);
  return /^(true|false|-?\d+)$/.test(text) ? known(text, at) : unknown(reason("neither-text-nor-constant"), at);
}

/** `AccessFineLocation` of the platform's class of permissions is `android.permission.ACCESS_FINE_LOCATION`. */
function permissionName(name: string): string {
  return /^\w+$/.test(name) ? `android.permission.${name.replace(/([a-z0-9])([A-Z])/g, "$1_$2").toUpperCase()}` : name;
}
