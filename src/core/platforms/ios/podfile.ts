import { join, parentOf } from "../../model/paths.js";
import type { Project } from "../../files/project.js";
import type { Place } from "../../model/place.js";
import { known, unknown, type Value } from "../../model/value.js";
import type { Data } from "../../syntax/data.js";
import { callName, pathOf, plainText, positional, type CallExpr, type Expr, type Script, type Statement } from "../../syntax/script/ast.js";
import { evaluate, evaluateValue, NOTHING, toValue, truth, type Result, type Scope } from "../../syntax/script/evaluate.js";
import type { Source } from "../../syntax/source.js";

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
  projects: string[];
  source: Source;
}

/** Calls by which frameworks bring pods of their own. */
const HELPER = /^use_.*!$|^flutter_install_all_ios_pods$|^install_all_flutter_pods$/;

/** Helpers that a framework's scripts define: the scripts to read, if they are installed. */
export type HelperScripts = () => Script[];

/** Of what brings none. */
export const noHelpers: HelperScripts = () => [];

interface Context {
  target: string | undefined;
  conditional: boolean;
  locals: Map<string, Result>;
  hook: boolean;
  depth: number;
}

/** Reads a Podfile. Source: CocoaPods, "Podfile Syntax Reference". */
export function readPodfile(project: Project, file: string, helpers: HelperScripts): Podfile | undefined {
  const script = project.script(file);
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
    projects: [],
    source: script.source,
  };
  const globals = new Map<string, Result>();
  const scope = rubyScope(project, script.source, globals, helpers);
  let platform: Value | undefined;

  const visit = (body: Statement[], context: Context): void => {
    if (context.depth > 30) return;
    for (const statement of body) {
      if (statement.kind === "function")
        globals.set(statement.name, { kind: "function", parameters: statement.parameters, body: statement.body, scope });
    }
    for (const statement of body) {
      if (statement.kind === "if") {
        const decided = truth(evaluate(statement.test, scope), scope.source);
        const inner = { ...context, depth: context.depth + 1, conditional: context.conditional || decided === undefined };
        if (decided !== false) visit(statement.then, inner);
        if (decided !== true) visit(statement.otherwise, inner);
      } else if (statement.kind === "assign") {
        assign(statement, context);
      } else if (statement.kind === "expression") {
        if (statement.value.kind === "call") call(statement.value, context);
        else if (statement.value.kind === "name") bare(statement.value.name, statement.value.start, context);
      }
    }
  };

  const assign = (statement: Extract<Statement, { kind: "assign" }>, context: Context): void => {
    const { target, value } = statement;
    if (target.kind === "index" && plainText(target.index) === "IPHONEOS_DEPLOYMENT_TARGET") {
      podfile.hookTargets.push(evaluateValue(value, scope));
      return;
    }
    if (target.kind !== "name") return;
    if (statement.operator === "||=" && globals.has(target.name)) return;
    globals.set(target.name, evaluate(value, scope));
    if (value.kind === "call") call(value, context);
    else if (value.kind === "name") bare(value.name, value.start, context);
  };

  const bare = (name: string, start: number, context: Context): void => {
    if (name === "use_frameworks!") podfile.usesFrameworks = true;
    else if (HELPER.test(name) && name !== "use_modular_headers!") podfile.helpers.push({ name, at: script.source.place(start) });
    const local = globals.get(name);
    if (local?.kind === "function" && context.depth < 10 && local.scope === scope)
      visit(local.body, { ...context, depth: context.depth + 5 });
  };

  const call = (expr: CallExpr, context: Context): void => {
    const name = callName(expr);
    if (!name) return;
    const [first] = positional(expr);
    const at = script.source.place(expr.start);
    switch (name) {
      case "platform": {
        const [system, version] = positional(expr);
        if (plainText(system) !== "ios") return;
        const value = version ? evaluateValue(version, scope) : unknown("no version is given", at);
        const owner = podfile.targets.find((target) => target.name === context.target);
        if (owner) owner.platform = value;
        else platform = value;
        return;
      }
      case "target":
      case "abstract_target": {
        const label = first ? evaluateValue(first, scope) : undefined;
        const labels = label?.kind === "known" ? [label.text] : [];
        for (const text of labels) {
          podfile.targets.push({
            name: text,
            abstract: name === "abstract_target",
            parent: context.target,
            platform: undefined,
            at: label?.place ?? at,
          });
          if (expr.closure) visit(expr.closure.body, { ...context, target: text, depth: context.depth + 1 });
        }
        if (labels.length === 0 && expr.closure) visit(expr.closure.body, { ...context, depth: context.depth + 1 });
        return;
      }
      case "pod":
        addPod(expr, context);
        return;
      case "source":
        if (first) podfile.sources.push({ url: evaluateValue(first, scope), at: script.source.place(first.start) });
        return;
      case "project":
      case "xcodeproj": {
        const path = plainText(first);
        if (path !== undefined) podfile.projects.push(path);
        return;
      }
      case "use_frameworks!":
        podfile.usesFrameworks = true;
        return;
      case "post_install":
      case "pre_install":
      case "post_integrate":
      case "pre_integrate":
        if (expr.closure) visit(expr.closure.body, { ...context, hook: true, depth: context.depth + 1 });
        return;
      default:
        break;
    }
    if (HELPER.test(name)) podfile.helpers.push({ name, at });
    const local = globals.get(name);
    if (local?.kind === "function" && local.scope === scope && context.depth < 20) {
      const plain = positional(expr);
      local.parameters.forEach((parameter, index) => {
        const value = plain[index] ?? parameter.fallback;
        if (value) globals.set(parameter.name, evaluate(value, scope));
      });
      visit(local.body, { ...context, depth: context.depth + 5 });
      return;
    }
    if (!expr.closure) return;
    // ['A', 'B'].each do |name| … end, installer.pods_project.targets.each do |target| … end
    const object = expr.callee.kind === "member" ? expr.callee.object : undefined;
    const list = name === "each" && object && !context.hook ? evaluate(object, scope) : undefined;
    const [parameter] = expr.closure.parameters;
    if (list?.kind === "list" && parameter) {
      for (const item of list.items.slice(0, 50)) {
        globals.set(parameter, item);
        visit(expr.closure.body, { ...context, depth: context.depth + 1 });
      }
      globals.delete(parameter);
    } else visit(expr.closure.body, { ...context, depth: context.depth + 1 });
  };

  const addPod = (expr: CallExpr, context: Context): void => {
    const [first, ...rest] = positional(expr);
    if (!first || context.hook) return;
    const name = evaluateValue(first, scope);
    if (name.kind !== "known") return;
    const options = new Map<string, Value>();
    for (const arg of expr.args) if (arg.name !== undefined) options.set(arg.name, toValue(evaluate(arg.value, scope), arg.value, scope));
    const requirements: Value[] = [];
    for (const expr_ of rest) {
      const result = evaluate(expr_, scope);
      if (result.kind === "map") for (const [key, value] of result.entries) options.set(key, toValue(value, expr_, scope));
      else if (result.kind === "list") requirements.push(...result.items.map((item) => toValue(item, expr_, scope)));
      else requirements.push(toValue(result, expr_, scope));
    }
    podfile.pods.push({
      name: name.text,
      requirement: joinRequirements(requirements),
      target: context.target ?? "",
      options,
      conditional: context.conditional,
      at: name.place,
    });
  };

  visit(script.body, { target: undefined, conditional: false, locals: globals, hook: false, depth: 0 });
  for (const target of podfile.targets) target.platform ??= inherited(podfile.targets, target) ?? platform;
  if (podfile.targets.length === 0 && platform)
    podfile.targets.push({ name: "", abstract: true, parent: undefined, platform, at: platform.place });
  return podfile;
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

/** What Ruby scripts of CocoaPods see: variables, functions of the framework's scripts, JSON files beside the script. */
export function rubyScope(project: Project, source: Source, globals: Map<string, Result>, helpers: HelperScripts): Scope {
  let defined: Map<string, Result> | undefined;
  const helperFunctions = (): Map<string, Result> => {
    if (!defined) {
      defined = new Map();
      for (const script of helpers()) collectFunctions(script, script.body, "", defined, project, helpers);
    }
    return defined;
  };
  const find = (path: string[]): Result | undefined => {
    const own = globals.get(path[0] as string);
    if (own && path.length === 1) return own;
    if (own?.kind === "map" && path.length === 2) return own.entries.get(path[1] as string);
    if (/^[@$]?[A-Z]/.test(path[0] as string) || /_(version|supported|target|sdk)/i.test(path.at(-1) as string) || globals.size === 0) {
      return helperFunctions().get(path.join(".")) ?? (path.length === 1 ? undefined : undefined);
    }
    return undefined;
  };
  return {
    source,
    lookup(path) {
      const found = find(path);
      // Ruby calls a function by its bare name.
      if (found?.kind === "function" && found.parameters.every((parameter) => parameter.fallback)) {
        const last = evaluate(
          {
            kind: "call",
            callee: { kind: "name", name: "\0call", start: 0, end: 0 },
            args: [],
            closure: undefined,
            infix: [],
            start: 0,
            end: 0,
          },
          { source: found.scope.source, lookup: (name) => (name[0] === "\0call" ? found : undefined) },
        );
        return last;
      }
      if (path.length === 1 && path[0] === "__dir__") return known("", source.place(0));
      return found;
    },
    call(callee, call, evaluateIn) {
      const name = callee.at(-1) as string;
      if (callee.join(".") === "JSON.parse" || callee.join(".") === "YAML.load_file") {
        const path = fileArgument(call.args[0]?.value, evaluateIn);
        const file = path === undefined ? undefined : join(parentOf(source.file), path);
        if (file === undefined || file.startsWith("../")) return undefined;
        if (!project.tree.isFile(file)) return NOTHING;
        return fromData(project.json(file)?.root);
      }
      if (name === "require_relative" || name === "require") return NOTHING;
      if (callee[0] === "File" && name === "join") {
        const parts = call.args.map((arg) => evaluateIn(arg.value));
        if (parts.every((part) => part.kind === "known"))
          return known(join(...parts.map((part) => (part.kind === "known" ? part.text : ""))), source.place(call.start));
      }
      if (callee[0] === "ENV") return unknown("read from the environment when it installs", source.place(call.start));
      const found = callee.length > 1 ? helperFunctions().get(callee.join(".")) : undefined;
      if (found?.kind === "function")
        return evaluate(
          { ...call, callee: { kind: "name", name: "\0call", start: call.start, end: call.start } },
          { source, lookup: (path) => (path[0] === "\0call" ? found : find(path)) },
        );
      return undefined;
    },
  };
}

function fileArgument(expr: Expr | undefined, evaluateIn: (expr: Expr) => Result): string | undefined {
  if (expr?.kind === "call" && pathOf(expr.callee)?.join(".") === "File.read") {
    const first = expr.args[0]?.value;
    const result = first && evaluateIn(first);
    return result?.kind === "known" ? result.text : undefined;
  }
  const result = expr && evaluateIn(expr);
  return result?.kind === "known" ? result.text : undefined;
}

function fromData(data: Data | undefined): Result {
  if (!data) return NOTHING;
  if (data.kind === "scalar") return data.value === null ? NOTHING : known(String(data.value), data.source.place(data.start));
  if (data.kind === "list") return { kind: "list", items: data.items.map(fromData) };
  return { kind: "map", entries: new Map([...data.entries].map(([key, entry]) => [key, fromData(entry.value)])) };
}

function collectFunctions(
  script: Script,
  body: Statement[],
  prefix: string,
  into: Map<string, Result>,
  project: Project,
  helpers: HelperScripts,
): void {
  for (const statement of body) {
    if (statement.kind === "type")
      collectFunctions(script, statement.body, `${prefix}${statement.name.replaceAll("::", ".")}.`, into, project, helpers);
    else if (statement.kind === "function") {
      const scope: Scope = {
        source: script.source,
        lookup(path) {
          const found = into.get(path.join(".")) ?? into.get(`${prefix}${path.join(".")}`);
          if (found?.kind === "function" && found.parameters.length === 0) {
            return evaluate(
              {
                kind: "call",
                callee: { kind: "name", name: "\0call", start: 0, end: 0 },
                args: [],
                closure: undefined,
                infix: [],
                start: 0,
                end: 0,
              },
              { source: found.scope.source, lookup: (name) => (name[0] === "\0call" ? found : undefined) },
            );
          }
          return found;
        },
      };
      into.set(`${prefix}${statement.name}`, { kind: "function", parameters: statement.parameters, body: statement.body, scope });
    }
  }
}
