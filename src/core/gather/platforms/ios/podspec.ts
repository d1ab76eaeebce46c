import { execute, runClosure } from "../../../evaluate/interpret.js";
import { scriptFrame, type Assignment, type CallPart, type Frame } from "../../../evaluate/frame.js";
import { mapOf, NOTHING, textIn, toValue, type ObjectResult, type Result } from "../../../evaluate/values.js";
import { PODSPEC_ATTRIBUTES } from "../../../knowledge/known-names.js";
import { misspelling } from "../../../model/suggest.js";
import { parentOf } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import { reason } from "../../../model/reason.js";
import { either, textOf, type Unread, type Value } from "../../../model/value.js";
import { withoutComments } from "../../../syntax/comments.js";
import { at, entriesOf, itemsOf, textAt, textsOf, valueAt, type Data } from "../../../syntax/data.js";
import type { ProjectFiles } from "../../project-files.js";
import { RubyHost, type HelperScripts } from "./ruby-host.js";

export interface PodDependency {
  name: string;
  requirement: string | undefined;
  /** Asked for under a condition that is not known. */
  conditional: boolean;
  at: Place;
}

/** What a pod's specification says about iOS. */
export interface Podspec {
  file: string;
  name: string;
  version: string | undefined;
  iosTarget: Value | undefined;
  dependencies: PodDependency[];
  /** System frameworks and libraries that the pod links, by file name. */
  frameworks: string[];
  /** Binaries that come with the pod. */
  vendored: string[];
  /** Patterns of the files that it puts into the app, in bundles or not, and whether some could not be worked out. */
  resources: string[];
  resourcesOpen: boolean;
  /** It runs commands before it is built, which may write any of its files. */
  prepares: boolean;
  /** The source files of each part by its name, "" for the pod itself: patterns, those left out, and whether some could not be worked out. */
  parts: Map<string, { sources: string[]; excluded: string[]; open: boolean }>;
  /** The parts that an app gets that names none: all where it does not say. */
  defaults: string[];
  /** What it asks for and could not be worked out: what, why, where. */
  unread: Unread[];
  /** Attributes that are almost one of a specification: it cannot be read. */
  misspelt: { name: string; right: string; at: Place }[];
  /** Attributes without which no pod is installed, and that it does not have. */
  lacking: string[];
  at: Place;
}

/**
 * Attributes without which a specification is refused, by the names that each may have. Source: guides.cocoapods.org, "Podspec Syntax Reference" ("Root
 * specification", required); the license that is missing is a warning.
 */
const REQUIRED = [["name"], ["version"], ["summary"], ["source"], ["authors", "author"], ["homepage"]] as const;

/** Reads a podspec in Ruby or JSON. Source: CocoaPods, "Podspec Syntax Reference". */
export function readPodspec(project: ProjectFiles, file: string, helpers: HelperScripts): Podspec | undefined {
  // What a specification says depends on the helpers that the app's framework brings.
  const inputs = [file, helpers.of];
  return project.memo(`specification ${inputs.join(" ")}`, () =>
    project.part("specification", inputs, () =>
      file.endsWith(".json") ? readJsonSpec(project, file) : readRubySpec(project, file, helpers),
    ),
  );
}

function readJsonSpec(project: ProjectFiles, file: string): Podspec | undefined {
  const root = project.json(file)?.root;
  const name = valueAt(root, "name");
  if (name?.kind !== "known") return undefined;
  const dependencies: PodDependency[] = [];
  for (const [key, { value, start }] of entriesOf(at(root, "dependencies")))
    dependencies.push({
      name: key,
      requirement: textsOf(value).join(", ") || undefined,
      conditional: false,
      at: value.source.place(start),
    });
  return {
    file,
    name: name.text,
    version: textAt(root, "version"),
    iosTarget: valueAt(root, "platforms", "ios"),
    dependencies,
    frameworks: [...textsOf(at(root, "frameworks")).map(framework), ...textsOf(at(root, "libraries")).map(library)],
    vendored: [...textsOf(at(root, "vendored_frameworks")), ...textsOf(at(root, "vendored_libraries"))],
    resources: [
      ...textsOf(at(root, "resources")),
      ...["resource_bundles", "resource_bundle"].flatMap((key) => entriesOf(at(root, key)).flatMap(([, { value }]) => textsOf(value))),
    ],
    resourcesOpen: false,
    prepares: at(root, "prepare_command") !== undefined || at(root, "script_phases") !== undefined,
    unread: [],
    misspelt: [],
    lacking: REQUIRED.flatMap((names) => (names.some((one) => at(root, one)) ? [] : names[0])),
    ...jsonParts(root),
    at: name.place,
  };
}

function jsonParts(root: Data | undefined): Pick<Podspec, "parts" | "defaults"> {
  const of = (data: Data | undefined) => ({
    sources: [...textsOf(at(data, "source_files")), ...textsOf(at(data, "ios", "source_files"))],
    excluded: [...textsOf(at(data, "exclude_files")), ...textsOf(at(data, "ios", "exclude_files"))],
    open: false,
  });
  const parts = new Map([["", of(root)]]);
  for (const item of itemsOf(at(root, "subspecs"))) parts.set(textAt(item, "name") ?? "", of(item));
  const stated = textsOf(at(root, "default_subspecs"));
  return { parts, defaults: stated.length > 0 ? stated : [...parts.keys()] };
}

function readRubySpec(project: ProjectFiles, file: string, helpers: HelperScripts): Podspec | undefined {
  const script = project.script(file, "ruby");
  if (!script) return undefined;
  const spec: Podspec = {
    file,
    name: file.replace(/^.*\//, "").replace(/\.podspec$/, ""),
    version: undefined,
    iosTarget: undefined,
    dependencies: [],
    frameworks: [],
    vendored: [],
    resources: [],
    resourcesOpen: false,
    prepares: false,
    unread: [],
    misspelt: [],
    lacking: [],
    parts: new Map(),
    defaults: [],
    at: { file, line: 1, column: 1 },
  };
  const reading: Reading = { spec, attributes: new Map(), ofSubspec: undefined, made: false };
  execute(script.body, scriptFrame(script.source, new PodspecHost(project, parentOf(file), helpers, reading)));
  // Nobody's name is a name of an author.
  const isEmpty = (name: string): boolean => {
    const result = reading.attributes.get(name);
    return !result || result.kind === "nothing" || (textIn(result) === "" && !name.startsWith("author"));
  };
  if (reading.made && !isHandedOn(script.source.text)) spec.lacking = REQUIRED.flatMap((names) => (names.every(isEmpty) ? names[0] : []));
  if (!reading.made) spec.unread.push({ what: "all that it asks for", why: reason("specification-not-reached"), at: spec.at });
  spec.iosTarget ??= reading.ofSubspec;
  if (spec.defaults.length === 0) spec.defaults = [...spec.parts.keys()];
  return spec;
}

/** Whether something else than its block may state attributes of a specification: what it is handed to, or a name that is worked out. */
function isHandedOn(text: string): boolean {
  const name = /\bdo\s*\|\s*(\w+)\s*\|/.exec(text)?.[1] ?? "s";
  const handed = new RegExp(`\\b(?!install_modules_dependencies\\b)\\w+[ (]\\s*${name}\\s*(?:[,)]|$)`, "m");
  return /\b(?:public_|__)?send\b|\battributes_hash\b|\bstore_attribute\b/.test(text) || handed.test(withoutComments(text, "hash"));
}

interface Reading {
  spec: Podspec;
  /** Whether the script came as far as a specification. */
  made: boolean;
  /** Attributes that a specification can be asked for again. */
  attributes: Map<string, Result>;
  /** The level of the first subspec that states one: the pod's where it states none itself. */
  ofSubspec: Value | undefined;
}

/** A specification as its script holds it: which part, and for which system. */
interface SpecPart {
  subspec: boolean;
  /** Its name, with those of the parts around it; "" for the pod itself. */
  name: string;
  /** Only of tests, which no app takes in. */
  test: boolean;
  system: string | undefined;
}

const SYSTEMS = /^(ios|osx|macos|tvos|watchos|visionos)$/;

class PodspecHost extends RubyHost {
  constructor(
    project: ProjectFiles,
    folder: string,
    helpers: HelperScripts,
    private readonly reading: Reading,
  ) {
    super(project, folder, helpers);
  }

  private part(part: Partial<SpecPart>, of: SpecPart = { subspec: false, name: "", test: false, system: undefined }): ObjectResult {
    return { kind: "object", name: "specification", of: { ...of, ...part } };
  }

  override call(call: CallPart): Result | undefined {
    const { path, name, frame } = call;
    if (name === "new" && path?.at(-2) === "Spec" && /^(Pod|Spec)$/.test(path[0] as string)) {
      const block = call.block();
      const whole = this.part({});
      this.reading.made = true;
      if (block) runClosure(block, [whole], frame);
      return whole;
    }
    const receiver = call.expr.callee.kind === "member" ? call.receiver() : undefined;
    const part = partIn(receiver);
    if (!part) return super.call(call);
    return this.command(part, receiver as ObjectResult, call);
  }

  // eslint-disable-next-line complexity -- one case for each command of a specification
  private command(part: SpecPart, whole: ObjectResult, call: CallPart): Result {
    const { name, frame } = call;
    if (SYSTEMS.test(name)) return this.part({ system: name }, part);
    const block = call.block();
    switch (name) {
      case "dependency":
        if (isIos(part) && !part.test) this.dependency(call);
        return NOTHING;
      case "subspec":
      case "app_spec":
      case "test_spec":
        // Levels in subspecs and their dependencies count as the pod's.
        if (block) {
          const own = textIn(call.positional()[0]?.result) ?? "?";
          const inner = { subspec: true, name: part.name === "" ? own : `${part.name}/${own}`, test: part.test || name !== "subspec" };
          runClosure(block, [this.part(inner, part)], frame);
        }
        return NOTHING;
      case "tap":
        if (block) runClosure(block, [whole], frame);
        return whole;
      case "platform":
      case "platforms": {
        const given = call.positional();
        if (given.length > 0)
          this.platform(
            part,
            given.length > 1 ? { kind: "list", items: given.map(({ result }) => result) } : (given[0]?.result as Result),
            call.place,
            frame,
          );
        return NOTHING;
      }
      default:
        break;
    }
    if (call.expr.bare) return this.reading.attributes.get(name) ?? NOTHING;
    // `s.name 'Quay'` is a way to write `s.name = 'Quay'`.
    const [first] = call.positional();
    if (first) this.attribute(part, name, first.result, frame.source.place(first.expr.start), frame);
    // `s.source :path => '.'` is a map without its braces.
    else if (call.named().size > 0)
      this.attribute(part, name, mapOf([...call.named()].map(([key, { result }]) => [key, result] as const)), call.place, frame);
    return NOTHING;
  }

  assign(assignment: Assignment): boolean {
    const { key, frame } = assignment;
    const part = partIn(assignment.receiver());
    if (!part || key === undefined) return false;
    this.attribute(part, key, assignment.value(), frame.source.place(assignment.statement.value.start), frame);
    return true;
  }

  private dependency(call: CallPart): void {
    const { frame, place } = call;
    const { spec } = this.reading;
    const [first, ...rest] = call.positional();
    if (!first) return;
    const name = toValue(first.result, frame.source.place(first.expr.start));
    if (name.kind !== "known") {
      spec.unread.push({ what: "a pod", why: name.kind === "unknown" ? name.why : reason("name-open"), at: place });
      return;
    }
    const asked = rest.flatMap(({ result }) => (result.kind === "list" ? result.items : result.kind === "nothing" ? [] : [result]));
    const texts = asked.map(textIn);
    const complete = texts.every((text) => text !== undefined);
    if (!complete) {
      const open = asked.map((result) => toValue(result, place)).find(({ kind }) => kind !== "known");
      spec.unread.push({
        what: `the version of ${name.text}`,
        why: open?.kind === "unknown" ? open.why : reason("depends-on-build"),
        at: place,
      });
    }
    spec.dependencies.push({
      name: name.text,
      requirement: complete && texts.length > 0 ? texts.join(", ") : undefined,
      conditional: frame.conditional,
      at: name.place,
    });
  }

  private attribute(part: SpecPart, key: string, result: Result, place: Place, frame: Frame): void {
    const { spec, attributes } = this.reading;
    if (key === "deployment_target") {
      if (part.system === "ios") this.level(part, toValue(result, place), frame);
      return;
    }
    this.noteMisspelt(key, place);
    if (key === "platform" || key === "platforms") return this.platform(part, result, place, frame);
    if (!part.subspec && part.system === undefined) attributes.set(key, result);
    if (!isIos(part)) return;
    const texts = (): string[] => textsIn(result);
    if (/^(source|exclude)_files$/.test(key) && !part.test) this.sources(part, key === "source_files", result, frame);
    else if (/^default_subspecs?$/.test(key)) spec.defaults = texts();
    if (/^(weak_)?frameworks?$/.test(key)) spec.frameworks.push(...texts().map(framework));
    else if (/^(weak_)?librar(y|ies)$/.test(key)) spec.frameworks.push(...texts().map(library));
    else if (/^resource(s|_bundles?)$/.test(key)) this.resources(result);
    else if (/^vendored_(frameworks?|librar(y|ies))$/.test(key)) spec.vendored.push(...texts());
    else if (/^(prepare_command|script_phases?)$/.test(key)) spec.prepares = true;
    if (part.subspec) return;
    if (key === "name" && result.kind === "known") {
      spec.name = result.text;
      spec.at = result.place;
    } else if (key === "version") spec.version = textIn(result);
  }

  private noteMisspelt(key: string, at: Place): void {
    const right = misspelling(key, PODSPEC_ATTRIBUTES);
    if (right !== undefined) this.reading.spec.misspelt.push({ name: key, right, at });
  }

  private resources(result: Result): void {
    const { spec } = this.reading;
    const open = [result];
    for (let next = open.pop(); next; next = open.pop()) {
      if (next.kind === "map") open.push(...next.entries.values());
      else if (next.kind === "list") open.push(...next.items);
      else if (next.kind === "known") spec.resources.push(...textsIn(next));
      else if (next.kind !== "nothing") spec.resourcesOpen = true;
    }
  }

  /** The last statement counts; one under a condition leaves open which files are taken in. */
  private sources({ name, system }: SpecPart, taken: boolean, result: Result, frame: Frame): void {
    const { parts } = this.reading.spec;
    const part = parts.get(name) ?? { sources: [], excluded: [], open: false };
    const flat = (item: Result): Result[] => (item.kind === "list" ? item.items.flatMap(flat) : [item]);
    const items = flat(result);
    if (frame.conditional || !items.every(({ kind }) => kind === "known")) part.open = true;
    const patterns = items.flatMap((item) => textIn(item) ?? []);
    // What is said for the system comes on top of what is said for all.
    const list = taken ? "sources" : "excluded";
    part[list] = system === undefined ? patterns : [...part[list], ...patterns];
    parts.set(name, part);
  }

  /** `:ios, '12.0'`, `{ :ios => '12.0' }`; a system alone states no level. */
  private platform(part: SpecPart, result: Result, place: Place, frame: Frame): void {
    const stated =
      result.kind === "map"
        ? result.entries.get("ios")
        : result.kind === "list" && textIn(result.items[0]) === "ios"
          ? result.items[1]
          : undefined;
    if (stated && stated.kind !== "nothing") this.level(part, toValue(stated, place), frame);
  }

  /** The last statement counts, beside what was stated before where a condition is around it. */
  private level(part: SpecPart, value: Value, frame: Frame): void {
    const { reading } = this;
    if (part.subspec) reading.ofSubspec ??= value;
    else {
      const before = reading.spec.iosTarget;
      reading.spec.iosTarget = frame.conditional && before ? either([before, value], value.place) : value;
    }
  }
}

function partIn(result: Result | undefined): SpecPart | undefined {
  return result?.kind === "object" && result.name === "specification" ? (result.of as SpecPart) : undefined;
}

function isIos({ system }: SpecPart): boolean {
  return system === undefined || system === "ios";
}

function textsIn(result: Result): string[] {
  if (result.kind === "list") return result.items.flatMap(textsIn);
  return result.kind === "known" ? (textOf(result)?.split(/,\s*/) ?? []) : [];
}

function framework(name: string): string {
  return name.endsWith(".framework") ? name : `${name}.framework`;
}

function library(name: string): string {
  return `lib${name}.tbd`;
}
