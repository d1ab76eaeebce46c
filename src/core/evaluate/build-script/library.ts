import type { Data, ListData, MapData } from "../../syntax/data.js";
import {
  asText,
  BUILT,
  copyOf,
  elementOf,
  isTouched,
  newList,
  newMap,
  NONE,
  same,
  textValue,
  truth,
  UNKNOWN,
  type Known,
  type ListDocument,
  type ProjectInHand,
  type Written,
} from "./values.js";
import { reason, type Reason } from "../../model/reason.js";

/** What a capability writes: an entitlement, with the values where the call gives them, or a framework that is linked. */
export interface Capability {
  entitlement?: string;
  values?: "argument" | "development" | readonly string[];
  framework?: string;
}

/** What members of the editor's library stand for. */
export interface LibraryTables {
  /** Methods that add capabilities. */
  capabilities: Readonly<Record<string, Capability | undefined>>;
  /** The entitlement of each type of capability. */
  capabilityTypes: Readonly<Record<string, string | undefined>>;
  /** The entry of `UIBackgroundModes` of each option. */
  backgroundOptions: Readonly<Record<string, string | undefined>>;
}

/** What the library of the editor's build scripts asks of the interpreter. */
export interface Editing {
  readonly tables: LibraryTables;
  /** Whether it is not known that what runs is run at all. */
  readonly uncertain: boolean;
  /** Files as they are now, by their names. */
  readonly documents: Map<string, MapData>;
  readonly inHand: MapData[];
  /** What has been opened to be edited: it counts when it is written. */
  readonly begun: (ProjectInHand | ListDocument)[];
  /** Called when a project is written. */
  commit(project: ProjectInHand): void;
  open(part: string, why: Reason, from: Written): void;
  put(map: MapData, key: Known | undefined, element: Data, from: Written): void;
  partOf(data: Data): string | undefined;
  call(closure: Known, given: readonly Known[]): Known;
}

/** Entries of a property list of which a build's settings tell whether they are there. */
const TOLD = /^(CFBundleURLTypes|LSApplicationQueriesSchemes|UIBackgroundModes|NS\w*UsageDescription)$/;

export const PROPERTY_LIST = "Info.plist";
export const ENTITLEMENTS = "entitlements";

/** What a path of the built project names: its property list, its entitlements, or nothing that is followed. */
function documentAt(path: string | undefined): string | undefined {
  if (path === undefined || !path.includes(BUILT)) return undefined;
  if (/[/\\]Info\.plist$/.test(path) && !/Framework[/\\]|Tests[/\\]|\.bundle[/\\]|Extension/.test(path)) return PROPERTY_LIST;
  return path.endsWith(".entitlements") ? ENTITLEMENTS : undefined;
}

/** An object of the library; `undefined` where the library has no such class. */
export function made(editing: Editing, type: string, given: readonly Known[], from: Written): Known | undefined {
  switch (type) {
    case "PlistDocument": {
      const document: ListDocument = { file: undefined, root: newMap(from), read: undefined, written: false, from };
      editing.begun.push(document);
      return { is: "document", document };
    }
    case "PlistElementString":
    case "PlistElementBoolean":
    case "PlistElementInteger":
    case "PlistElementReal":
      return given[0] ? { is: "data", data: elementOf(given[0], from) } : UNKNOWN;
    case "PlistElementArray":
      return { is: "data", data: newList(from) };
    case "PlistElementDict":
      return { is: "data", data: newMap(from) };
    case "PBXProject":
    case "ProjectCapabilityManager":
      return { is: "project", project: emptyProject(editing, from) };
    case "StreamWriter":
    case "StreamReader":
    case "FileInfo":
    case "FileStream": {
      const path = asText(given[0]);
      if (documentAt(path) !== undefined || path?.endsWith(".pbxproj")) editing.open("*", reason("writes-file-itself"), from);
      return UNKNOWN;
    }
    default:
      return undefined;
  }
}

function emptyProject(editing: Editing, from: Written): ProjectInHand {
  const project: ProjectInHand = { links: [], settings: [], entitlements: [], backgroundModes: [], written: false, from };
  editing.begun.push(project);
  return project;
}

/** What a script edits and never writes, so that nothing of it comes into the app. */
export function unwritten({ begun }: Editing): Written[] {
  return begun.flatMap((one) => {
    if (one.written) return [];
    const isEdited =
      "root" in one
        ? one.file !== undefined && one.read !== undefined && !sameData(one.read, one.root)
        : one.links.length + one.settings.length + one.entitlements.length + one.backgroundModes.length > 0;
    return isEdited ? [one.from] : [];
  });
}

function sameData(a: Data, b: Data): boolean {
  if (a.kind === "map" && b.kind === "map")
    return a.entries.size === b.entries.size && [...a.entries].every(([key, { value }]) => sameData(value, b.entries.get(key)?.value ?? a));
  if (a.kind === "list" && b.kind === "list")
    return a.items.length === b.items.length && a.items.every((item, index) => sameData(item, b.items[index] ?? a));
  return a.kind === "scalar" && b.kind === "scalar" && a.value === b.value;
}

/** Members of enumerations and constants of the system's library. */
export function staticProperty(type: string, name: string, from: Written): Known | undefined {
  if (/^(BackgroundModesOptions|PBXCapabilityType|BuildTarget|BuildTargetGroup|RuntimePlatform)$/.test(type))
    return { is: "names", names: [name === "iPhone" ? "iOS" : name] };
  return /^[sS]tring$/.test(type) && name === "Empty" ? textValue("", from) : undefined;
}

/** Calls that only look, print or move files about. */
const HARMLESS =
  /^(Debug|Console|Directory|DirectoryInfo|FileUtil|EditorUtility|EditorPrefs|AssetDatabase|Environment|Assert|Regex|Convert|Array|Enumerable|UnityEngine|Application|Math|Mathf)$/;

/** A call of a class's own method; `undefined` where the library has none of the kind. */
// eslint-disable-next-line complexity -- one case for each function that a class has
export function staticCall(editing: Editing, type: string, name: string, given: readonly Known[], from: Written): Known | undefined {
  const texts = given.map(asText);
  const whole = texts.every((text) => text !== undefined);
  switch (type) {
    case "Path":
      if (name === "Combine" && whole)
        return textValue(
          (texts as string[]).reduce((path, part) => (/^[/\\]/.test(part) ? part : `${path.replace(/[/\\]$/, "")}/${part}`)),
          from,
        );
      if (texts[0] === undefined) return UNKNOWN;
      if (name === "GetFileName") return textValue(texts[0].split(/[/\\]/).at(-1) ?? "", from);
      if (name === "GetFullPath" || name === "ChangeExtension") return given[0];
      if (name === "GetDirectoryName") return textValue(texts[0].replace(/[/\\][^/\\]*$/, ""), from);
      return UNKNOWN;
    case "PBXProject":
      if (name === "GetPBXProjectPath") return textValue(`${texts[0] ?? BUILT}/Unity-iPhone.xcodeproj/project.pbxproj`, from);
      if (/^Get\w*Target\w*Name$/.test(name)) return textValue(name === "GetUnityTestTargetName" ? "tests" : "Unity-iPhone", from);
      return undefined;
    case "File":
      return fileCall(editing, name, given, from);
    case "string":
    case "String":
      return textCall(name, given, from);
    case "PBXProjectExtensions":
      return given[0]?.is === "project" ? projectCall(editing, given[0].project, name, given.slice(1), from, from) : undefined;
    case "Process":
      editing.open("*", reason("starts-program"), from);
      return UNKNOWN;
    default:
      return HARMLESS.test(type) ? UNKNOWN : undefined;
  }
}

function fileCall(editing: Editing, name: string, given: readonly Known[], from: Written): Known {
  const path = asText(given[0]);
  if (/^(ReadAllText|ReadAllLines|ReadAllBytes|OpenRead|OpenText)$/.test(name)) return given[0] ? { is: "content", of: given[0] } : UNKNOWN;
  if (name === "Exists") return path?.endsWith(PROPERTY_LIST) || path?.endsWith(".pbxproj") ? truth(true) : UNKNOWN;
  if (/^(WriteAll|AppendAll)/.test(name)) {
    const content = given[1];
    const target = documentAt(path);
    if (content?.is === "content" && (content.of.is === "document" || content.of.is === "project")) return NONE;
    if (target !== undefined) editing.open(target === ENTITLEMENTS ? ENTITLEMENTS : "*", reason("writes-file-itself"), from);
    else if (path === undefined ? given.some(isTouched) : path.endsWith(".pbxproj")) editing.open("*", reason("writes-file-itself"), from);
  } else if (/^(Copy|Move|Replace)$/.test(name)) {
    const target = documentAt(asText(given[1]));
    if (target !== undefined) editing.open(target === ENTITLEMENTS ? ENTITLEMENTS : "*", reason("puts-file-in-place"), from);
  }
  return UNKNOWN;
}

function textCall(name: string, given: readonly Known[], from: Written): Known {
  const texts = given.map(asText);
  if (name === "Join") {
    const parts = given.length === 2 && given[1]?.is === "list" ? given[1].items.map(asText) : texts.slice(1);
    const [separator] = texts;
    return separator === undefined || parts.includes(undefined) ? UNKNOWN : textValue(parts.join(separator), from);
  }
  if (name === "IsNullOrEmpty" || name === "IsNullOrWhiteSpace")
    return given[0]?.is === "none" ? truth(true) : truth(texts[0] === undefined ? undefined : texts[0].trim() === "");
  if (texts.some((text) => text === undefined)) return UNKNOWN;
  const [first = "", ...rest] = texts as string[];
  if (name === "Format")
    return textValue(
      first.replace(/\{(\d+)[^}]*\}/g, (_, index: string) => rest[Number(index)] ?? ""),
      from,
    );
  if (name === "Concat") return textValue(texts.join(""), from);
  return UNKNOWN;
}

/** A property of a value, or an element by `[key]`; `undefined` where it has none that is known. */
// eslint-disable-next-line complexity -- one case for each property of a value
export function propertyOf(editing: Editing, target: Known, name: string): Known | undefined {
  switch (target.is) {
    case "document":
      return name === "root" ? { is: "data", data: target.document.root } : undefined;
    case "data":
      if (name === "values") return target;
      if (name === "value") return dataText(target.data);
      if (name === "Count" || name === "Length") return { is: "number", number: sizeOf(target.data) };
      if (name.startsWith("[") && target.data.kind === "map") return elementNamed(editing, target.data, name.slice(1, -1));
      if (name.startsWith("[") && target.data.kind === "list") {
        const item = target.data.items[Number(name.slice(1, -1))];
        return item ? { is: "data", data: item } : undefined;
      }
      return undefined;
    case "list":
      return name === "Count" || name === "Length" ? { is: "number", number: target.items.length } : undefined;
    case "map":
      if (name === "Count") return { is: "number", number: target.entries.length };
      if (name === "Keys") return { is: "list", items: target.entries.map(([key]) => key) };
      return name === "Values" ? { is: "list", items: target.entries.map(([, value]) => value) } : undefined;
    case "pair":
      return name === "Key" ? target.key : name === "Value" ? target.value : undefined;
    case "text":
      return name === "Length" ? { is: "number", number: target.text.length } : undefined;
    default:
      return undefined;
  }
}

function elementNamed(editing: Editing, map: MapData, key: string): Known {
  const found = map.entries.get(key);
  if (found) return { is: "data", data: found.value };
  // At the top of the list only some entries are known not to be there before a script writes them.
  return editing.inHand.includes(map) && !TOLD.test(key) ? { is: "slot", map, key } : NONE;
}

function dataText(data: Data): Known {
  return data.kind === "scalar" && typeof data.value === "string" && !data.open ? textValue(data.value, data) : UNKNOWN;
}

function sizeOf(data: Data): number {
  return data.kind === "map" ? data.entries.size : data.kind === "list" ? data.items.length : 0;
}

/** A call on a value; `undefined` where it has no such method that is known. `written` is where its first argument stands. */
export function callOn(
  editing: Editing,
  target: Known,
  name: string,
  given: readonly Known[],
  from: Written,
  written: Written,
): Known | undefined {
  if (name === "ToString" && target.is !== "document" && target.is !== "project")
    return target.is === "data" ? dataText(target.data) : target;
  switch (target.is) {
    case "document":
      return documentCall(editing, target.document, name, given, from);
    case "project":
      return projectCall(editing, target.project, name, given, from, written);
    case "slot":
      return slotCall(editing, target.map, target.key, name, from);
    case "data":
      if (/^As(Dict|Array|String|Boolean|Integer|Real)$/.test(name)) return /String$/.test(name) ? dataText(target.data) : target;
      if (target.data.kind === "map") return dictCall(editing, target.data, name, given, from, written);
      return target.data.kind === "list" ? arrayCall(editing, target.data, name, given, from) : undefined;
    case "list":
      return listCall(editing, target.items, name, given);
    case "map":
      return mapCall(target.entries, name, given);
    case "text":
      return textMethod(target, name, given);
    case "names":
      return name === "HasFlag" ? UNKNOWN : undefined;
    case "closure":
      return name === "Invoke" ? editing.call(target, given) : undefined;
    default:
      return undefined;
  }
}

function documentCall(editing: Editing, document: ListDocument, name: string, given: readonly Known[], from: Written): Known | undefined {
  switch (name) {
    case "ReadFromFile":
    case "ReadFromString":
    case "ReadFromStream": {
      const [first] = given;
      const path = asText(first?.is === "content" ? first.of : first);
      document.file = documentAt(path);
      if (path === undefined) editing.open("*", reason("list-it-reads-unclear"), from);
      const known = document.file === undefined ? undefined : editing.documents.get(document.file);
      document.root = known ? copyOf(known) : newMap(from);
      document.read = known;
      if (document.file !== undefined) editing.inHand.push(document.root);
      return NONE;
    }
    case "WriteToFile":
    case "WriteToString":
    case "WriteToStream": {
      const path = asText(given[0]);
      const file = name === "WriteToFile" && path !== undefined ? documentAt(path) : document.file;
      document.written = true;
      if (editing.uncertain && file !== undefined)
        editing.open(file === ENTITLEMENTS ? ENTITLEMENTS : "*", reason("written-conditionally"), from);
      else if (file !== undefined) editing.documents.set(file, document.root);
      return { is: "content", of: { is: "document", document } };
    }
    case "Create":
      document.root = newMap(from);
      return NONE;
    default:
      return undefined;
  }
}

/** An entry of which nothing tells whether it is there: what is made of it is there from then on. */
function slotCall(editing: Editing, map: MapData, key: string, name: string, from: Written): Known | undefined {
  if (name !== "AsDict" && name !== "AsArray") return UNKNOWN;
  const data = name === "AsDict" ? newMap(from) : newList(from);
  if (editing.uncertain) editing.open(key, reason("conditional"), from);
  else map.entries.set(key, { start: from.start, value: data });
  return { is: "data", data };
}

// eslint-disable-next-line complexity -- one case for each function of a dictionary
function dictCall(
  editing: Editing,
  map: MapData,
  name: string,
  given: readonly Known[],
  from: Written,
  written: Written,
): Known | undefined {
  const [key, value] = given;
  switch (name) {
    case "SetString":
    case "SetBoolean":
    case "SetInteger":
    case "SetReal":
    case "SetDate":
    case "Add":
      editing.put(map, key, elementOf(value ?? UNKNOWN, written), written);
      return NONE;
    case "CreateDict":
    case "CreateArray": {
      const data = name === "CreateDict" ? newMap(from) : newList(from);
      editing.put(map, key, data, written);
      return { is: "data", data };
    }
    case "ContainsKey": {
      const text = asText(key);
      if (text === undefined) return UNKNOWN;
      const known = elementNamed(editing, map, text);
      return truth(known.is === "slot" ? undefined : known.is !== "none");
    }
    case "TryGetValue": {
      const text = asText(key);
      const known = text === undefined ? UNKNOWN : elementNamed(editing, map, text);
      return truth(known.is === "data" ? true : known.is === "none" ? false : undefined);
    }
    case "Remove": {
      const text = asText(key);
      if (text === undefined || editing.uncertain) editing.open(text ?? "*", reason("takes-entry-out"), from);
      else map.entries.delete(text);
      return UNKNOWN;
    }
    default:
      return undefined;
  }
}

function arrayCall(editing: Editing, list: ListData, name: string, given: readonly Known[], from: Written): Known | undefined {
  const push = (data: Data): Known => {
    if (editing.uncertain || (data.kind === "scalar" && data.open))
      editing.open(editing.partOf(list) ?? "*", reason("added-value-made"), from);
    else list.items.push(data);
    return { is: "data", data };
  };
  const items = list.items.map((data): Known => ({ is: "data", data }));
  switch (name) {
    case "AddString":
    case "AddBoolean":
    case "AddInteger":
    case "AddReal":
    case "Add":
      return push(elementOf(given[0] ?? UNKNOWN, from));
    case "AddDict":
      return push(newMap(from));
    case "AddArray":
      return push(newList(from));
    case "Remove":
    case "RemoveAt":
    case "RemoveAll":
    case "Clear":
    case "Insert":
    case "AddRange":
      editing.open(editing.partOf(list) ?? "*", reason("changes-list", { call: name }), from);
      return UNKNOWN;
    default:
      return listCall(editing, items, name, given);
  }
}

// eslint-disable-next-line complexity -- one case for each function of a list
function listCall(editing: Editing, items: Known[], name: string, given: readonly Known[]): Known | undefined {
  const [first] = given;
  const asks = (item: Known): boolean | undefined => {
    const answer = first?.is === "closure" ? editing.call(first, [item]) : UNKNOWN;
    return answer.is === "truth" ? answer.truth : undefined;
  };
  switch (name) {
    case "Any":
    case "Exists": {
      if (!first) return truth(items.length > 0);
      const answers = items.map(asks);
      return truth(answers.includes(true) ? true : answers.includes(undefined) ? undefined : false);
    }
    case "Contains": {
      const answers = items.map((item) => (first ? same(item, first) : undefined));
      return truth(answers.includes(true) ? true : answers.includes(undefined) ? undefined : false);
    }
    case "Find":
    case "First":
    case "FirstOrDefault": {
      if (!first) return items[0] ?? NONE;
      const answers = items.map(asks);
      const found = answers.findIndex((answer) => answer !== false);
      return found === -1 ? NONE : answers[found] === true ? items[found] : { is: "unknown", touched: items.some(isTouched) };
    }
    case "ForEach":
      for (const item of items) if (first) editing.call(first, [item]);
      return NONE;
    case "Select":
      return { is: "list", items: items.map((item) => (first ? editing.call(first, [item]) : UNKNOWN)) };
    case "Reverse":
      return { is: "list", items: [...items].reverse() };
    case "Where": {
      const answers = items.map(asks);
      return answers.includes(undefined) ? undefined : { is: "list", items: items.filter((_, index) => answers[index]) };
    }
    case "Concat":
      return first?.is === "list" ? { is: "list", items: [...items, ...first.items] } : undefined;
    case "Distinct":
    case "ToArray":
    case "ToList":
    case "OfType":
    case "Cast":
      return { is: "list", items };
    case "Add":
      if (first) items.push(first);
      return NONE;
    case "AddRange":
      if (first?.is === "list") items.push(...first.items);
      return NONE;
    case "Count":
      return first ? UNKNOWN : { is: "number", number: items.length };
    default:
      return undefined;
  }
}

function mapCall(entries: [Known, Known][], name: string, given: readonly Known[]): Known | undefined {
  const [key, value] = given;
  if (name === "Add" && key && value) {
    entries.push([key, value]);
    return NONE;
  }
  if ((name === "ContainsKey" || name === "TryGetValue") && key) {
    const answers = entries.map(([other]) => same(other, key));
    return truth(answers.includes(true) ? true : answers.includes(undefined) ? undefined : false);
  }
  return undefined;
}

function textMethod(target: Known & { is: "text" }, name: string, given: readonly Known[]): Known | undefined {
  const [a, b] = given.map(asText);
  const { text } = target;
  switch (name) {
    case "Replace":
      return a !== undefined && b !== undefined ? textValue(a === "" ? text : text.replaceAll(a, b), target) : UNKNOWN;
    case "Trim":
      return textValue(text.trim(), target);
    case "ToLower":
    case "ToLowerInvariant":
      return textValue(text.toLowerCase(), target);
    case "StartsWith":
      return truth(a === undefined ? undefined : text.startsWith(a));
    case "EndsWith":
      return truth(a === undefined ? undefined : text.endsWith(a));
    case "Contains":
      return truth(a === undefined ? undefined : text.includes(a));
    case "Equals":
      return truth(a === undefined ? undefined : text === a);
    case "Split":
      return a === undefined || a === "" ? UNKNOWN : { is: "list", items: text.split(a).map((part) => textValue(part, target)) };
    default:
      return UNKNOWN;
  }
}

/** Settings of a target that link, and those that say nothing of what an app needs. */
const HARMLESS_PROJECT =
  /^(ReadFrom\w+|TargetGuidByName|Get\w+|Find\w+|Contains\w+|AddFile|AddFileToBuild\w*|AddFolderReference|AddShellScript\w*|InsertShellScript\w*|AddSourcesBuildPhase|AddResourcesBuildPhase|AddFrameworksBuildPhase|AddCopyFilesBuildPhase|AddBuildConfig|AddKnownRegion|AddLocaleVariantFile|AddTargetDependency|SetTeamId|RemoveFile\w*|SetCompileFlags\w*|ProjectGuid|BuildConfig\w+|AddPublicHeaderToBuild|AddRemotePackageReferenceAt\w+|AddRemotePackageFrameworkToProject|WriteToString)$/;

// eslint-disable-next-line complexity -- one case for each function of the project that is written
function projectCall(
  editing: Editing,
  project: ProjectInHand,
  name: string,
  given: readonly Known[],
  from: Written,
  written: Written,
): Known | undefined {
  const texts = given.map(asText);
  const uncertain = (part: string): boolean => {
    if (editing.uncertain) editing.open(part, reason("conditional"), from);
    return editing.uncertain;
  };
  switch (name) {
    case "WriteToFile":
    case "WriteToString":
      project.written = true;
      if (!uncertain("project")) editing.commit(project);
      return { is: "content", of: { is: "project", project } };
    case "AddFile":
    case "FindFileGuidByProjectPath":
    case "FindFileGuidByRealPath":
      // The file stands for its id.
      return given[0] ?? UNKNOWN;
    case "AddFrameworkToProject": {
      const framework = texts[1];
      if (framework === undefined) editing.open("frameworks", reason("framework-name-made"), from);
      else if (!uncertain("frameworks")) project.links.push({ name: framework, linked: true, embedded: false, from: written });
      return NONE;
    }
    case "RemoveFrameworkFromProject":
      editing.open("frameworks", reason("takes-framework-out"), from);
      return NONE;
    case "AddFileToEmbedFrameworks": {
      const file = texts[1];
      if (file === undefined) editing.open("frameworks", reason("embedded-name-made"), from);
      else if (!uncertain("frameworks"))
        project.links.push({ name: file.split(/[/\\]/).at(-1) ?? file, linked: true, embedded: true, from: written });
      return NONE;
    }
    case "AddBuildProperty":
    case "SetBuildProperty":
    case "AddBuildPropertyForConfig":
    case "SetBuildPropertyForConfig": {
      const [, setting, value] = texts;
      if (setting === undefined) editing.open("settings", reason("setting-name-made"), from);
      else if (!uncertain("settings"))
        project.settings.push({ name: setting, value: value === undefined ? UNKNOWN : (given[2] ?? UNKNOWN), from: written });
      return NONE;
    }
    case "UpdateBuildProperty":
    case "UpdateBuildPropertyForConfig":
      editing.open("settings", reason("changes-build-settings", { call: name }), from);
      return NONE;
    case "AddCapability": {
      const type = given[1]?.is === "names" ? given[1].names[0] : undefined;
      const entitlement = type === undefined ? undefined : editing.tables.capabilityTypes[type];
      if (entitlement === undefined) editing.open(ENTITLEMENTS, reason("adds-capability"), from);
      else if (!uncertain(ENTITLEMENTS)) project.entitlements.push({ name: entitlement, values: [], from });
      return NONE;
    }
    case "AddBackgroundModes": {
      const modes = given[0]?.is === "names" ? given[0].names : undefined;
      const entries = modes?.map((mode) => editing.tables.backgroundOptions[mode]);
      if (!entries || entries.includes(undefined)) editing.open("UIBackgroundModes", reason("modes-made"), from);
      else if (!uncertain("UIBackgroundModes"))
        for (const mode of entries) project.backgroundModes.push({ name: mode as string, from: written });
      return NONE;
    }
  }
  const capability = editing.tables.capabilities[name];
  if (capability) {
    if (uncertain(capability.entitlement === undefined ? "frameworks" : ENTITLEMENTS)) return NONE;
    if (capability.framework !== undefined) project.links.push({ name: capability.framework, linked: true, embedded: false, from });
    if (capability.entitlement === undefined) return NONE;
    const values =
      capability.values === "argument"
        ? given[0]?.is === "list"
          ? given[0].items.flatMap((item) => asText(item) ?? [])
          : []
        : capability.values === "development"
          ? given[0]?.is === "truth"
            ? [given[0].truth ? "development" : "production"]
            : []
          : [...(capability.values ?? [])];
    project.entitlements.push({ name: capability.entitlement, values, from });
    return NONE;
  }
  if (/^Add[A-Z]\w*$/.test(name) && !HARMLESS_PROJECT.test(name)) {
    editing.open(ENTITLEMENTS, reason("writes-unknown", { call: name }), from);
    return NONE;
  }
  return HARMLESS_PROJECT.test(name) ? UNKNOWN : undefined;
}
