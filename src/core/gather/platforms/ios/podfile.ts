import { execute, runClosure } from "../../../evaluate/interpret.js";
import { scriptFrame, type Assignment, type CallPart, type Frame } from "../../../evaluate/frame.js";
import { NOTHING, textIn, toValue, type Result } from "../../../evaluate/values.js";
import type { Place } from "../../../model/place.js";
import { reason } from "../../../model/reason.js";
import { parentOf } from "../../../model/paths.js";
import { misspelling } from "../../../model/suggest.js";
import { known, unknown, type UnknownValue, type EitherValue, type Unread, type Value } from "../../../model/value.js";
import type { Source } from "../../../syntax/source.js";
import type { ProjectFiles } from "../../project-files.js";
import { RubyHost, type HelperScripts } from "./ruby-host.js";

export interface PodDeclaration {
  name: string;
  /** Requirements, joined with commas; absent when none is given. */
  requirement: Value | undefined;
  target: string;
  options: Map<string, Value>;
  conditional: boolean;
  at: Place;
}

export interface PodTarget {
  name: string;
  abstract: boolean;
  parent: string | undefined;
  platform: Value | undefined;
  at: Place;
}

export interface Podfile {
  file: string;
  at: Place;
  targets: PodTarget[];
  pods: PodDeclaration[];
  sources: { url: Value; at: Place }[];
  /** Deployment targets that hooks write into the pods' projects. */
  hookTargets: Value[];
  usesFrameworks: boolean;
  /** Helpers of frameworks that bring pods of their own (`use_react_native!`). */
  helpers: { name: string; at: Place }[];
  /** Calls that set something up, with what each is given: `a`, `linkage: static`. */
  calls: { name: string; given: Value[]; at: Place }[];
  projects: string[];
  /** Configurations that the Podfile gives a kind of build. */
  configurations: { name: string; at: Place }[];
  /** What was not understood, in a place that can declare pods: what it could have given, why it did not, where. */
  unread: Unread[];
  /** Commands that are almost one of CocoaPods: installing stops at them. */
  misspelt: { name: string; right: string; at: Place }[];
  source: Source;
}

/** Calls by which frameworks bring pods of their own. */
const HELPER = /^use_.*!$|^flutter_install_all_ios_pods$|^install_all_flutter_pods$/;

/** Commands of Podfiles that say nothing of what is read here. Source: CocoaPods, "Podfile Syntax Reference". */
const SILENT = new Set([
  "inherit!",
  "workspace",
  "plugin",
  "install!",
  "use_modular_headers!",
  "inhibit_all_warnings!",
  "ensure_bundler!",
  "set_arc_compatibility_flag!",
  "generate_bridge_support!",
  "supports_swift_versions",
  "script_phase",
  "script_phases",
  "podspec",
  "current_target_definition",
]);

/** Commands that say what the app is made of; the others set something up. */
const OWN_COMMANDS = new Set([
  "platform",
  "target",
  "abstract_target",
  "pod",
  "source",
  "project",
  "xcodeproj",
  "require",
  "require_relative",
]);

const COMMANDS: readonly string[] = [
  ...SILENT,
  ...OWN_COMMANDS,
  "use_frameworks!",
  "post_install",
  "pre_install",
  "post_integrate",
  "pre_integrate",
  // Of the frameworks' own scripts. Sources: the templates of React Native, Expo and Flutter.
  "use_react_native!",
  "use_native_modules!",
  "prepare_react_native_project!",
  "react_native_post_install",
  "use_expo_modules!",
  "flutter_install_all_ios_pods",
  "flutter_ios_podfile_setup",
  "flutter_additional_ios_build_settings",
  "min_ios_version_supported",
];

/** Reads a Podfile. Source: CocoaPods, "Podfile Syntax Reference". */
export function readPodfile(project: ProjectFiles, file: string, helpers: HelperScripts): Podfile | undefined {
  const script = project.script(file, "ruby");
  if (!script) return undefined;
  const podfile: Podfile = {
    file,
    at: { file, line: 1, column: 1 },
    targets: [],
    pods: [],
    sources: [],
    hookTargets: [],
    usesFrameworks: false,
    helpers: [],
    calls: [],
    projects: [],
    configurations: [],
    unread: [],
    misspelt: [],
    source: script.source,
  };
  const reading: Reading = { podfile, platform: undefined };
  execute(
    script.body,
    scriptFrame(script.source, new PodfileHost(project, parentOf(file), helpers, reading, { target: undefined, hook: false })),
  );
  const { platform } = reading;
  for (const target of podfile.targets) target.platform ??= inherited(podfile.targets, target) ?? platform;
  if (podfile.targets.length === 0 && platform)
    podfile.targets.push({ name: "", abstract: true, parent: undefined, platform, at: platform.place });
  return podfile;
}

/** What one reading of a Podfile found. */
interface Reading {
  podfile: Podfile;
  /** The platform outside of all targets. */
  platform: Value | undefined;
}

/** Where a command stands. */
interface Standing {
  target: string | undefined;
  hook: boolean;
}

class PodfileHost extends RubyHost {
  constructor(
    project: ProjectFiles,
    folder: string,
    helpers: HelperScripts,
    private readonly reading: Reading,
    private readonly standing: Standing,
  ) {
    super(project, folder, helpers);
  }

  private within(standing: Partial<Standing>): PodfileHost {
    return new PodfileHost(this.project, this.folder, this.helpers, this.reading, { ...this.standing, ...standing });
  }

  override call(call: CallPart): Result | undefined {
    this.note(call);
    return this.command(call) ?? super.call(call) ?? this.unknownCommand(call);
  }

  /** Every call by a plain name, with what it is given. */
  private note(call: CallPart): void {
    const { name, path, place, isStatement } = call;
    if (!isStatement || path?.length !== 1 || OWN_COMMANDS.has(name)) return;
    const named = [...call.named()].map(([key, { result }]): Value => {
      const value = toValue(result, place);
      return value.kind === "known"
        ? known(`${key}: ${value.text}`, value.place)
        : unknown(reason("setting-depends-on-build", { name: key }), place);
    });
    const given = [...call.positional().map(({ result }) => toValue(result, place)), ...named];
    this.reading.podfile.calls.push({ name, given, at: place });
  }

  /** A command of Podfiles, on its own or on `self`. */
  // eslint-disable-next-line complexity -- one case for each command of a Podfile
  private command(call: CallPart): Result | undefined {
    const { name, path, frame, place } = call;
    if (!path || path.length > 2 || (path.length === 2 && path[0] !== "self")) return undefined;
    const { podfile } = this.reading;
    switch (name) {
      case "platform":
        this.platform(call);
        return NOTHING;
      case "target":
      case "abstract_target":
        this.target(call);
        return NOTHING;
      case "pod":
        if (!this.standing.hook) this.pod(call);
        return NOTHING;
      case "source": {
        const [first] = call.positional();
        if (first) podfile.sources.push({ url: toValue(first.result, place), at: frame.source.place(first.expr.start) });
        return NOTHING;
      }
      case "project":
      case "xcodeproj": {
        const text = textIn(call.positional()[0]?.result);
        if (text !== undefined) podfile.projects.push(text);
        for (const { result, expr } of call.positional().slice(1))
          for (const key of result.kind === "map" ? result.entries.keys() : [])
            podfile.configurations.push({ name: key, at: frame.source.place(expr.start) });
        for (const [key, { expr }] of call.named()) podfile.configurations.push({ name: key, at: frame.source.place(expr.start) });
        return NOTHING;
      }
      case "use_frameworks!":
        podfile.usesFrameworks = true;
        return NOTHING;
      case "post_install":
      case "pre_install":
      case "post_integrate":
      case "pre_integrate": {
        const block = call.block();
        const installer = unknown(reason("known-when-pods-installed"), place);
        if (block) runClosure(block, [installer], { ...frame, host: this.within({ hook: true }) });
        return NOTHING;
      }
      default:
        break;
    }
    if (SILENT.has(name)) return NOTHING;
    if (!HELPER.test(name) || misspelling(name, COMMANDS) !== undefined) return undefined;
    podfile.helpers.push({ name, at: place });
    return unknown(reason("call-known-when-pods-installed", { call: name }), place);
  }

  /** A method that nothing here defines. With a block, what stands in it may happen; with pods in its name, it may bring some. */
  private unknownCommand(call: CallPart): Result | undefined {
    const { name, path, frame, place } = call;
    if (path?.length !== 1) return undefined;
    const block = call.block();
    // A bare name may be a value that somebody asks for; not one with the sign of a command, or that only lacks it.
    const isCommand = call.isStatement || name.length > 15 || (call.expr.bare && (name.endsWith("!") || COMMANDS.includes(`${name}!`)));
    const right = (this.standing.hook && name.length < 16) || !isCommand ? undefined : misspelling(name, COMMANDS);
    if (right !== undefined) this.reading.podfile.misspelt.push({ name, right, at: place });
    if (block) {
      call.frame.run.fork(
        [block, undefined],
        () => place,
        (way) => way && runClosure(way, [], { ...frame, conditional: true }),
      );
      return unknown(reason("undefined-call"), place);
    }
    const { target, hook } = this.standing;
    // A name in capitals is a constant of CocoaPods itself.
    if (hook || target === undefined || !/(^|_)pods?(_|$|!)/i.test(name) || /^[A-Z]/.test(name)) return undefined;
    this.reading.podfile.unread.push({
      what: `what ${name} brings to the target ${target}`,
      why: reason("undefined-call"),
      at: place,
    });
    return undefined;
  }

  assign(assignment: Assignment): boolean {
    if (assignment.statement.target.kind !== "index" || assignment.key !== "IPHONEOS_DEPLOYMENT_TARGET") return false;
    this.reading.podfile.hookTargets.push(toValue(assignment.value(), assignment.frame.source.place(assignment.statement.value.start)));
    return true;
  }

  private platform(call: CallPart): void {
    const [system, version] = call.positional();
    if (textIn(system?.result) !== "ios") return;
    const value = version ? toValue(version.result, call.place) : unknown(reason("no-version"), call.place);
    const owner = this.reading.podfile.targets.find((target) => target.name === this.standing.target);
    if (owner) owner.platform = value;
    else this.reading.platform = value;
  }

  private target(call: CallPart): void {
    const { frame, place } = call;
    const [first] = call.positional();
    const block = call.block();
    const label = first && toValue(first.result, place);
    const inside = (target: string | undefined, open: boolean): Frame => ({
      ...frame,
      host: this.within({ target }),
      conditional: frame.conditional || open,
    });
    const options = label?.kind === "either" ? label.options : label ? [label] : [];
    let named = false;
    for (const option of options) {
      if (option.kind !== "known") continue;
      named = true;
      this.reading.podfile.targets.push({
        name: option.text,
        abstract: call.name === "abstract_target",
        parent: this.standing.target,
        platform: undefined,
        at: option.place,
      });
      if (block) runClosure(block, [], inside(option.text, options.length > 1));
    }
    if (named || !block) return;
    if (label?.kind === "unknown") this.reading.podfile.unread.push({ what: "a target and its pods", why: label.why, at: place });
    runClosure(block, [], inside(this.standing.target, false));
  }

  private pod(call: CallPart): void {
    const { frame, place } = call;
    const { podfile } = this.reading;
    const [first, ...rest] = call.positional();
    if (!first) return;
    const name = toValue(first.result, frame.source.place(first.expr.start));
    const target = this.standing.target ?? "";
    if (name.kind !== "known") {
      return this.unnamedPod(name, podfile, target, place);
    }
    const options = new Map<string, Value>();
    const requirements: Value[] = [];
    for (const { result, expr } of rest) {
      const at = frame.source.place(expr.start);
      if (result.kind === "map") for (const [key, value] of result.entries) options.set(key, toValue(value, at));
      else if (result.kind === "list") requirements.push(...result.items.map((item) => toValue(item, at)));
      else if (result.kind !== "nothing") requirements.push(toValue(result, at));
    }
    for (const [key, { result, expr }] of call.named()) {
      if (result.kind === "nothing") continue;
      const at = frame.source.place(expr.start);
      const texts = /^configurations?$/.test(key) && result.kind === "list" ? result.items.map(textIn) : undefined;
      const named = texts?.every((text) => text !== undefined) ? known(texts.join(", "), at) : undefined;
      options.set(key, named ?? toValue(result, at));
    }
    podfile.pods.push({
      name: name.text,
      requirement: joinRequirements(requirements),
      target,
      options,
      conditional: frame.conditional,
      at: name.place,
    });
  }

  /** A pod whose name is not in the files, or depends on the build. */
  private unnamedPod(name: UnknownValue | EitherValue, podfile: Podfile, target: string, place: Place): void {
    for (const option of name.kind === "either" ? name.options : [])
      if (option.kind === "known")
        podfile.pods.push({ name: option.text, requirement: undefined, target, options: new Map(), conditional: true, at: option.place });
    podfile.unread.push({
      what: `a pod${target === "" ? "" : ` of the target ${target}`}`,
      why: name.kind === "unknown" ? name.why : reason("name-open"),
      at: place,
    });
    return;
  }
}

function inherited(targets: PodTarget[], target: PodTarget): Value | undefined {
  const seen = new Set<string>();
  let current = targets.find((candidate) => candidate.name === target.parent);
  while (current && !seen.has(current.name)) {
    if (current.platform) return current.platform;
    seen.add(current.name);
    const { parent } = current;
    current = targets.find((candidate) => candidate.name === parent);
  }
  return undefined;
}

function joinRequirements(values: Value[]): Value | undefined {
  const [first] = values;
  if (!first || values.length === 1) return first;
  const unknownOne = values.find((value) => value.kind !== "known");
  if (unknownOne) return unknownOne;
  return known(values.map((value) => (value.kind === "known" ? value.text : "")).join(", "), first.place);
}
