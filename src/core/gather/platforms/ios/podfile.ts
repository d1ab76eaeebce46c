import { join, parentOf } from "../../../model/paths.js";
import type { ProjectFiles } from "../../project-files.js";
import type { Place } from "../../../model/place.js";
import { known, unknown, type Value } from "../../../model/value.js";
import type { Data } from "../../../syntax/data.js";
import { callName, pathOf, plainText, positional, type CallExpr, type Expr, type Script, type Statement } from "../../../syntax/script/ast.js";
import {
  evaluate,
  evaluateValue,
  NOTHING,
  toValue,
  truth,
  type FunctionResult,
  type Result,
  type Scope,
  assigned,
  runRounds,
  eitherWay,
  MOST_ROUNDS,
} from "../../../evaluate/evaluate.js";
import type { Source } from "../../../syntax/source.js";

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
  /** Pods whose name could not be worked out: whose, why, where. */
  unread: { what: string; why: string; at: Place }[];
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
  /** The block that the method being read was given. */
  block?: CallExpr["closure"];
}

/** Reads a Podfile. Source: CocoaPods, "Podfile Syntax Reference". */
export function readPodfile(project: ProjectFiles, file: string, helpers: HelperScripts): Podfile | undefined {
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
    unread: [],
    source: script.source,
  };
  const globals = new Map<string, Result>();
  const scope = rubyScope(project, script.source, globals, helpers);
  let platform: Value | undefined;

  /** Reads statements; `true` where they end early (`next`, `return`), `perhaps` where that depends on the build. */
  const visit = (body: Statement[], given: Context): boolean | "perhaps" => {
    let context = given;
    if (context.depth > 30) return false;
    for (const statement of body) {
      if (statement.kind === "function")
        globals.set(statement.name, { kind: "function", parameters: statement.parameters, body: statement.body, scope });
    }
    for (const statement of body) {
      if (statement.kind === "if") {
        const inner: Context = { ...context, depth: context.depth + 1 };
        if (statement.loop && rounds(statement.loop.names, evaluate(statement.loop.list, scope), statement.then, inner)) continue;
        const decided = statement.loop ? undefined : truth(evaluate(statement.test, scope), scope.source);
        const ends =
          decided !== undefined
            ? [visit(decided ? statement.then : statement.otherwise, inner)]
            : eitherWay(globals, [statement.then, statement.otherwise], (branch) => visit(branch, { ...inner, conditional: true }));
        if (ends.every((end) => end === true)) return true;
        // What stands behind runs only where nothing ended before.
        if (ends.some((end) => end !== false)) context = { ...context, conditional: true };
      } else if (
        statement.kind === "return" ||
        (statement.kind === "expression" && statement.value.kind === "name" && /^(next|break)$/.test(statement.value.name))
      ) {
        return true;
      } else if (statement.kind === "assign") {
        assign(statement, context);
      } else if (statement.kind === "expression") {
        if (statement.value.kind === "call") call(statement.value, context);
        else if (statement.value.kind === "binary" && statement.value.operator === "<<" && statement.value.left.kind === "name") {
          // list << item
          const { left, right } = statement.value;
          const list = globals.get(left.name);
          if (list?.kind === "list") globals.set(left.name, { kind: "list", items: [...list.items, evaluate(right, scope)] });
        } else if (statement.value.kind === "member" && statement.value.name === "call" && statement.value.object?.kind === "name") {
          const held = globals.get(statement.value.object.name);
          if (held?.kind === "function" && context.depth < 20) follow(held, [], context);
        } else if (statement.value.kind === "name") bare(statement.value.name, statement.value.start, context);
      }
    }
    return context.conditional && !given.conditional ? "perhaps" : false;
  };

  /** A method of the script that is called: its statements count as if they stood here, with its own variables. */
  const follow = (target: FunctionResult, args: CallExpr["args"], context: Context, block?: CallExpr["closure"]): void => {
    const saved = new Map(globals);
    const plain = args.filter(({ name }) => name === undefined);
    const values = target.parameters.map(({ name, fallback }, index) => {
      const value = args.find((arg) => arg.name === name)?.value ?? plain[index]?.value ?? fallback;
      return [name, value ? evaluate(value, scope) : NOTHING] as const;
    });
    for (const [name, value] of values) globals.set(name, value);
    visit(target.body, { ...context, depth: context.depth + 5, block });
    for (const { name } of target.parameters) {
      const before = saved.get(name);
      if (before) globals.set(name, before);
      else globals.delete(name);
    }
  };

  /** Reads a body once for each item of a list that is known; `false` where it is not. */
  const rounds = (names: readonly string[], list: Result, body: Statement[], context: Context): boolean =>
    runRounds(
      names,
      list,
      () => script.source.place(body[0]?.start ?? 0),
      globals,
      () => visit(body, { ...context, depth: context.depth + 1 }),
    );

  const assign = (statement: Extract<Statement, { kind: "assign" }>, context: Context): void => {
    const { target, value } = statement;
    if (target.kind === "index" && plainText(target.index) === "IPHONEOS_DEPLOYMENT_TARGET") {
      podfile.hookTargets.push(evaluateValue(value, scope));
      return;
    }
    if (target.kind === "index" && target.object.kind === "name") {
      const [map, key] = [globals.get(target.object.name), evaluate(target.index, scope)];
      if (map?.kind === "map" && key.kind === "known")
        globals.set(target.object.name, { kind: "map", entries: new Map([...map.entries, [key.text, evaluate(value, scope)]]) });
      return;
    }
    if (target.kind !== "name") return;
    if (statement.operator === "||=" && globals.has(target.name)) return;
    globals.set(target.name, evaluate(assigned(statement), scope));
    if (value.kind === "call") call(value, context);
    else if (value.kind === "name") bare(value.name, value.start, context);
  };

  const bare = (name: string, start: number, context: Context): void => {
    if (name === "use_frameworks!") podfile.usesFrameworks = true;
    else if (HELPER.test(name) && name !== "use_modular_headers!") podfile.helpers.push({ name, at: script.source.place(start) });
    const local = globals.get(name);
    if (local?.kind === "function" && context.depth < 10 && local.scope === scope) follow(local, [], context);
    else if (name === "yield" && context.block) visit(context.block.body, { ...context, depth: context.depth + 1, block: undefined });
    else untold(name, start, local, context);
  };

  /** A method that nothing here defines, with pods in its name: it may bring some. */
  const untold = (name: string, start: number, local: Result | undefined, context: Context): void => {
    if (local || context.hook || context.target === undefined || !/(^|_)pods?(_|$|!)/i.test(name) || HELPER.test(name)) return;
    podfile.unread.push({
      what: `what ${name} brings to the target ${context.target}`,
      why: "no file that was read defines it",
      at: script.source.place(start),
    });
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
      follow(local, expr.args, context, expr.closure);
      return;
    }
    if (name === "call" && expr.callee.kind === "member" && expr.callee.object?.kind === "name") {
      const held = globals.get(expr.callee.object.name);
      if (held?.kind === "function" && context.depth < 20) return follow(held, expr.args, context);
    }
    if (name === "yield" && context.block) {
      const { block } = context;
      block.parameters.forEach((parameter, index) => {
        const value = positional(expr)[index];
        globals.set(parameter, value ? evaluate(value, scope) : NOTHING);
      });
      visit(block.body, { ...context, depth: context.depth + 1, block: undefined });
      return;
    }
    if (!expr.closure) return untold(name, expr.start, local, context);
    // ['A', 'B'].each do |name| … end, installer.pods_project.targets.each do |target| … end
    const object = expr.callee.kind === "member" ? expr.callee.object : undefined;
    const loops = /^(each|each_pair|map|each_with_index|each_entry|reverse_each)$/.test(name) && object && !context.hook;
    const list = loops ? evaluate(object, scope) : name === "times" && object && !context.hook ? upTo(evaluate(object, scope)) : undefined;
    const names = expr.closure.parameters;
    if (list && rounds(name === "each_with_index" ? names.slice(0, 1) : names, list, expr.closure.body, context)) return;
    visit(expr.closure.body, { ...context, depth: context.depth + 1 });
  };

  /** `3.times`: the numbers from 0 on. */
  const upTo = (count: Result): Result | undefined =>
    count.kind === "known" && count.type === "number" && Number(count.text) <= MOST_ROUNDS
      ? {
          kind: "list",
          items: Array.from({ length: Math.max(0, Number(count.text)) }, (_, index): Result => ({ ...count, text: String(index) })),
        }
      : undefined;

  const addPod = (expr: CallExpr, context: Context): void => {
    const [first, ...rest] = positional(expr);
    if (!first || context.hook) return;
    const name = evaluateValue(first, scope);
    if (name.kind !== "known") {
      if (name.kind === "either")
        for (const option of name.options)
          if (option.kind === "known")
            podfile.pods.push({
              name: option.text,
              requirement: undefined,
              target: context.target ?? "",
              options: new Map(),
              conditional: true,
              at: option.place,
            });
      podfile.unread.push({
        what: `a pod${context.target === undefined ? "" : ` of the target ${context.target}`}`,
        why: name.kind === "unknown" ? name.why : "its name depends on the build",
        at: script.source.place(expr.start),
      });
      return;
    }
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
export function rubyScope(project: ProjectFiles, source: Source, globals: Map<string, Result>, helpers: HelperScripts): Scope {
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

function typed(value: string | number | boolean, plain: Result & { kind: "known" }): Result {
  return typeof value === "string" ? plain : { ...plain, type: typeof value === "number" ? "number" : "boolean" };
}

function fromData(data: Data | undefined): Result {
  if (!data) return NOTHING;
  if (data.kind === "scalar")
    return data.value === null ? NOTHING : typed(data.value, known(String(data.value), data.source.place(data.start)));
  if (data.kind === "list") return { kind: "list", items: data.items.map(fromData) };
  return { kind: "map", entries: new Map([...data.entries].map(([key, entry]) => [key, fromData(entry.value)])) };
}

function collectFunctions(
  script: Script,
  body: Statement[],
  prefix: string,
  into: Map<string, Result>,
  project: ProjectFiles,
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
