import type { ProjectFiles } from "../../project-files.js";
import type { Place } from "../../../model/place.js";
import { known, type Value } from "../../../model/value.js";
import { at, entriesOf, textAt, textsOf, valueAt } from "../../../syntax/data.js";
import { callName, pathOf, positional, type Expr, type Statement } from "../../../syntax/script/ast.js";
import { evaluate, evaluateValue, toValue, truth, type Result, type Scope, assigned, eitherWay } from "../../../evaluate/evaluate.js";
import { rubyScope, type HelperScripts } from "./podfile.js";

export interface PodDependency {
  name: string;
  requirement: string | undefined;
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
  at: Place;
}

/** Reads a podspec in Ruby or JSON. Source: CocoaPods, "Podspec Syntax Reference". */
export function readPodspec(project: ProjectFiles, file: string, helpers: HelperScripts): Podspec | undefined {
  // What a specification says depends on the helpers that the app's framework brings.
  let ofProject = cache.get(project);
  if (!ofProject) cache.set(project, (ofProject = new Map()));
  let specs = ofProject.get(helpers);
  if (!specs) ofProject.set(helpers, (specs = new Map()));
  if (!specs.has(file)) specs.set(file, file.endsWith(".json") ? readJsonSpec(project, file) : readRubySpec(project, file, helpers));
  return specs.get(file);
}

const cache = new WeakMap<ProjectFiles, Map<HelperScripts, Map<string, Podspec | undefined>>>();

function readJsonSpec(project: ProjectFiles, file: string): Podspec | undefined {
  const root = project.json(file)?.root;
  const name = valueAt(root, "name");
  if (name?.kind !== "known") return undefined;
  const dependencies: PodDependency[] = [];
  for (const [key, { value, start }] of entriesOf(at(root, "dependencies")))
    dependencies.push({ name: key, requirement: textsOf(value).join(", ") || undefined, at: value.source.place(start) });
  return {
    file,
    name: name.text,
    version: textAt(root, "version"),
    iosTarget: valueAt(root, "platforms", "ios"),
    dependencies,
    frameworks: [...textsOf(at(root, "frameworks")).map(framework), ...textsOf(at(root, "libraries")).map(library)],
    vendored: [...textsOf(at(root, "vendored_frameworks")), ...textsOf(at(root, "vendored_libraries"))],
    at: name.place,
  };
}

function readRubySpec(project: ProjectFiles, file: string, helpers: HelperScripts): Podspec | undefined {
  const script = project.script(file);
  if (!script) return undefined;
  const globals = new Map<string, Result>();
  const scope: Scope = rubyScope(project, script.source, globals, helpers);
  const spec: Podspec = {
    file,
    name: file.replace(/^.*\//, "").replace(/\.podspec$/, ""),
    version: undefined,
    iosTarget: undefined,
    dependencies: [],
    frameworks: [],
    vendored: [],
    at: { file, line: 1, column: 1 },
  };

  const visit = (body: Statement[], variable: string | undefined, depth: number): void => {
    if (depth > 12) return;
    for (const statement of body) {
      if (statement.kind === "if") {
        const decided = truth(evaluate(statement.test, scope), scope.source);
        if (decided !== undefined) visit(decided ? statement.then : statement.otherwise, variable, depth + 1);
        else eitherWay(globals, [statement.then, statement.otherwise], (branch) => visit(branch, variable, depth + 1));
      } else if (statement.kind === "assign") {
        const path = pathOf(statement.target);
        if (path?.length === 1) globals.set(path[0] as string, evaluate(assigned(statement), scope));
        else if (path && path[0] === variable) attribute(path.slice(1), statement.value);
      } else if (statement.kind === "expression" && statement.value.kind === "call") {
        const call = statement.value;
        const name = callName(call);
        const object = call.callee.kind === "member" ? call.callee.object : undefined;
        if (name === "new" && call.closure) visit(call.closure.body, call.closure.parameters[0], depth + 1);
        else if (name === "dependency" && pathOf(object)?.[0] === variable) {
          const [first, ...rest] = positional(call).map((arg) => evaluate(arg, scope));
          if (first?.kind !== "known") continue;
          const texts = rest
            .flatMap((result) => (result.kind === "list" ? result.items : [result]))
            .map((result) => (result.kind === "known" ? result.text : undefined));
          spec.dependencies.push({
            name: first.text,
            requirement: texts.length > 0 && texts.every((text) => text !== undefined) ? texts.join(", ") : undefined,
            at: first.place,
          });
        } else if (name === "platform" && pathOf(object)?.[0] === variable) {
          const [system, version] = positional(call);
          const text = system && evaluate(system, scope);
          if (text?.kind === "known" && text.text === "ios" && version) lower(evaluateValue(version, scope));
        } else if ((name === "subspec" || name === "default_subspec") && call.closure) {
          const parameter = call.closure.parameters[0];
          // Levels in subspecs and their dependencies count as the pod's.
          if (parameter) visit(call.closure.body, parameter, depth + 1);
        } else if (call.closure && (name === "tap" || name === "each")) visit(call.closure.body, variable, depth + 1);
      }
    }
  };

  const lower = (value: Value): void => {
    spec.iosTarget ??= value;
  };

  const texts = (value: Expr): string[] => {
    const result = evaluate(value, scope);
    return (result.kind === "list" ? result.items : [result]).flatMap((item) => (item.kind === "known" ? item.text.split(/,\s*/) : []));
  };

  const attribute = (path: string[], value: Expr): void => {
    const key = path.join(".");
    if (key === "name") {
      const name = evaluateValue(value, scope);
      if (name.kind === "known") {
        spec.name = name.text;
        spec.at = name.place;
      }
    } else if (key === "version") {
      const version = evaluateValue(value, scope);
      if (version.kind === "known") spec.version = version.text;
    } else if (/^(ios\.)?(weak_)?frameworks?$/.test(key)) spec.frameworks.push(...texts(value).map(framework));
    else if (/^(ios\.)?librar(y|ies)$/.test(key)) spec.frameworks.push(...texts(value).map(library));
    else if (/^(ios\.)?vendored_(frameworks?|librar(y|ies))$/.test(key)) spec.vendored.push(...texts(value));
    else if (key === "ios.deployment_target") lower(evaluateValue(value, scope));
    else if (key === "platforms" || key === "platform") {
      const result = evaluate(value, scope);
      if (result.kind === "map") {
        const ios = result.entries.get("ios");
        if (ios) lower(toValue(ios, value, scope));
      } else if (result.kind === "list") {
        const [system, version] = result.items;
        if (system?.kind === "known" && system.text === "ios" && version) lower(toValue(version, value, scope));
      } else if (value.kind === "text") lower(known("", script.source.place(value.start)));
    }
  };

  visit(script.body, undefined, 0);
  if (spec.iosTarget?.kind === "known" && spec.iosTarget.text === "") spec.iosTarget = undefined;
  return spec;
}

function framework(name: string): string {
  return name.endsWith(".framework") ? name : `${name}.framework`;
}

function library(name: string): string {
  return `lib${name}.tbd`;
}
