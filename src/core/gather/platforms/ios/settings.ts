import type { ProjectFiles } from "../../project-files.js";
import { join, parentOf } from "../../../model/paths.js";
import { reason, type Reason } from "../../../model/reason.js";
import { known, unknown, type Value } from "../../../model/value.js";
import type { Place } from "../../../model/place.js";
import { entriesOf, placeOf, type Data } from "../../../syntax/data.js";

/** A layer of build settings, from the weakest (project's configuration file) to the strongest (target). */
export interface SettingLayer {
  /** Where the layer comes from, for messages. */
  from: "project file" | "project" | "target file" | "target";
  values: Map<string, { text: string; condition: string; place: Place }[]>;
  /** A configuration file that is named and not there, or that may be there elsewhere. */
  missing?: string;
  /** Whether references in braces may get their values where the project is written. */
  openBraces?: boolean;
  /** The configuration file that it is, and all that it includes, there or not. */
  file?: string;
  includes?: string[];
}

/** What the settings of a configuration are worked out from, as plain data: layers, what is always there, and where the configuration stands. */
export type SettingLayers = [layers: SettingLayer[], builtIn: Map<string, string>, start: Place];

/** Settings of one configuration of a target, resolved as Xcode does it. Source: Xcode help, "Build settings reference" and "Configuration settings file". */
export class BuildSettings {
  constructor(
    private readonly layers: SettingLayer[],
    private readonly builtIn: Map<string, string>,
    private readonly start: Place,
  ) {}

  /** What they are worked out from: the values themselves stay these settings' own. */
  get plain(): SettingLayers {
    return [this.layers.map((layer) => ({ ...layer, values: new Map(layer.values) })), this.builtIn, this.start];
  }

  /** The resolved value; `undefined` when no layer has the setting. */
  value(name: string): Value | undefined {
    return this.resolve(name, this.layers.length - 1, new Set());
  }

  /** The layers that state the setting, strongest first. */
  statements(name: string): { from: SettingLayer["from"]; value: Value }[] {
    const result: { from: SettingLayer["from"]; value: Value }[] = [];
    for (let index = this.layers.length - 1; index >= 0; index--) {
      const layer = this.layers[index] as SettingLayer;
      const entry = pick(layer.values.get(name));
      if (entry) result.push({ from: layer.from, value: this.substitute(entry.text, entry.place, name, index, new Set([name])) });
    }
    return result;
  }

  /** States a setting in the strongest layer, where something other than a project file decides it. */
  state(name: string, value: Value & { kind: "known" }): void {
    this.layers.at(-1)?.values.set(name, [{ text: value.text, condition: "", place: value.place }]);
  }

  /** Every setting that some layer states. */
  names(): string[] {
    return [...new Set(this.layers.flatMap((layer) => [...layer.values.keys()]))];
  }

  /** A text with its references to settings worked out. */
  expand(text: string, place: Place): Value {
    return this.substitute(text, place, "", this.layers.length - 1, new Set());
  }

  /** The configuration file of the target, or else of the project, with all that it includes. */
  get file(): { file: string; includes: readonly string[] } | undefined {
    const layer = this.layers.findLast(({ file }) => file !== undefined);
    return layer?.file === undefined ? undefined : { file: layer.file, includes: layer.includes ?? [] };
  }

  get missingFiles(): string[] {
    return this.layers.flatMap((layer) => layer.missing ?? []);
  }

  private resolve(name: string, from: number, busy: Set<string>): Value | undefined {
    for (let index = from; index >= 0; index--) {
      const layer = this.layers[index] as SettingLayer;
      const entry = pick(layer.values.get(name));
      if (entry) return this.substitute(entry.text, entry.place, name, index, new Set([...busy, name]));
    }
    const fixed = this.builtIn.get(name);
    return fixed === undefined ? undefined : known(fixed, this.start);
  }

  private substitute(text: string, place: Place, name: string, layer: number, busy: Set<string>): Value {
    let why: Reason | undefined;
    /** A setting that no file defines. */
    let lacks: string | undefined;
    const expand = (input: string, depth: number): string => {
      if (depth > 20) return input;
      return input.replace(
        /\$(?:\(([^()]*(?:\([^()]*\)[^()]*)*)\)|\{([^{}]*)\})/g,
        (whole, round: string | undefined, curly: string | undefined) => {
          const inner = expand(round ?? curly ?? "", depth + 1);
          const [variable = "", ...operators] = inner.split(":");
          let found: Value | undefined;
          if (variable === "inherited") found = this.resolve(name, layer - 1, busy) ?? known("", place);
          else if (!busy.has(variable)) found = this.resolve(variable, this.layers.length - 1, busy);
          if (found?.kind !== "known") {
            const fallback = operators.find((operator) => operator.startsWith("default="));
            if (fallback) return fallback.slice(8);
            const isOpen = curly !== undefined && this.layers.some(({ openBraces }) => openBraces);
            const missing = isOpen ? "the environment" : this.missingFiles.find((file) => mayDefine(file, variable));
            why ??=
              found?.kind === "unknown"
                ? found.why
                : missing
                  ? reason("may-come-from", { name: variable, file: missing })
                  : reason("without-value", { name: variable });
            if (!found && !missing) lacks ??= variable;
            return whole;
          }
          return operators.reduce(transform, found.text);
        },
      );
    };
    const result = expand(text, 0);
    if (why === undefined) return known(result, place);
    return lacks === undefined ? unknown(why, place) : { ...unknown(why, place), lacks };
  }
}

/** Files that a tool writes, and what it defines in them. Sources: CocoaPods' target support files; Flutter's Generated.xcconfig. */
const WRITTEN: readonly (readonly [file: RegExp, names: RegExp])[] = [
  [/(^|\/)Pods-[^/]+\.xcconfig$/, /^(PODS|COCOAPODS|FRAMEWORK|HEADER|LIBRARY|OTHER|GCC|CLANG|LD|SWIFT|USE|EMBEDDED|ALWAYS|CONFIGURATION)_/],
  [/(^|\/)Flutter\/Generated\.xcconfig$/, /^(FLUTTER|DART|COCOAPODS|EXCLUDED|TRACK|TREE|PACKAGE|SYMROOT)/],
];

/** Whether a settings file that is not there can define a name. */
function mayDefine(file: string, name: string): boolean {
  return WRITTEN.find(([form]) => form.test(file))?.[1].test(name) ?? true;
}

/** Source: Xcode build settings, operators on references. */
function transform(text: string, operator: string): string {
  switch (operator) {
    case "rfc1034identifier":
      return text.replace(/[^A-Za-z0-9.-]/g, "-");
    case "c99extidentifier":
    case "identifier":
      return text.replace(/[^A-Za-z0-9_]/g, "_");
    case "lower":
      return text.toLowerCase();
    case "upper":
      return text.toUpperCase();
    default:
      return text;
  }
}

/** The statement that holds on a device: one with a device condition goes before a plain one, the last plain one counts. */
function pick(entries: { text: string; condition: string; place: Place }[] | undefined): { text: string; place: Place } | undefined {
  if (!entries) return undefined;
  const device = entries.findLast(({ condition }) => /sdk=iphoneos/.test(condition));
  return device ?? entries.findLast(({ condition }) => condition === "");
}

export function layerOf(from: SettingLayer["from"], settings: Data | undefined): SettingLayer {
  const layer: SettingLayer = { from, values: new Map() };
  for (const [key, { value }] of entriesOf(settings)) {
    const match = /^([^[]+)((?:\[[^\]]*\])*)$/.exec(key);
    const text =
      value.kind === "list"
        ? value.items.map((item) => (item.kind === "scalar" ? String(item.value) : "")).join(" ")
        : value.kind === "scalar"
          ? String(value.value)
          : undefined;
    if (!match || text === undefined) continue;
    add(layer, match[1] as string, {
      text,
      condition: (match[2] ?? "").replace(/^\[|\]$/g, ""),
      place: placeOf(value.kind === "list" && value.items[0] ? value.items[0] : value),
    });
  }
  return layer;
}

function add(layer: SettingLayer, key: string, entry: { text: string; condition: string; place: Place }): void {
  const list = layer.values.get(key);
  if (list) list.push(entry);
  else layer.values.set(key, [entry]);
}

/** A configuration file with its includes, the included settings first. */
export function layerOfFile(project: ProjectFiles, from: SettingLayer["from"], file: string): SettingLayer {
  const includes: string[] = [];
  const layer: SettingLayer = { from, values: new Map(), file, includes };
  const visit = (path: string, depth: number, optional: boolean): void => {
    const config = project.tree.isFile(path) ? project.xcconfig(path) : undefined;
    if (!config) {
      // What the pods' own file defines is nobody's to name; one that may be there holds what is kept out of the repository.
      if (!optional || !/(^|\/)Pods\//.test(path)) layer.missing ??= path;
      return;
    }
    if (depth > 20) return;
    for (const include of config.includes) {
      const target = join(parentOf(path), include.path);
      includes.push(target);
      visit(target, depth + 1, include.optional);
    }
    for (const setting of config.settings)
      add(layer, setting.key, { text: setting.value, condition: setting.condition, place: config.source.place(setting.valueStart) });
  };
  visit(file, 0, false);
  return layer;
}
