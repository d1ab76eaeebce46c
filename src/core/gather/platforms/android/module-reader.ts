import { join, isAbsolutePath } from "../../../model/paths.js";
import type { ProjectFiles } from "../../project-files.js";
import { either, known, unknown, type Value } from "../../../model/value.js";
import {
  callName,
  namedArg,
  pathOf,
  plainText,
  positional,
  type Argument,
  type CallExpr,
  type ClosureExpr,
  type Expr,
  type Script,
  type Statement,
} from "../../../syntax/script/ast.js";
import {
  assigned,
  runRounds,
  eitherWay,
  evaluate,
  evaluateValue,
  toValue,
  truth,
  type FunctionResult,
  type Result,
  type Scope,
} from "../../../evaluate/evaluate.js";
import type { Source } from "../../../syntax/source.js";
import { emptyCatalog, accessor, type CatalogLibrary } from "./catalog.js";
import type { GradleDependency, GradleModule } from "./gradle-facts.js";
import { firstText, scriptScope, type ProjectVariables } from "./scope.js";

/** Where a statement stands. */
interface Context {
  source: Source;
  scope: Scope;
  locals: Map<string, Result>;
  /** Names of the blocks around it that carry meaning. */
  blocks: string[];
  conditional: boolean;
  /** Inside `buildscript` or `pluginManagement`. */
  forBuild: boolean;
  depth: number;
}

/** Blocks that only wrap: what stands inside means the same as outside. */
const WRAPPERS = new Set([
  "afterEvaluate",
  "beforeEvaluate",
  "with",
  "apply",
  "run",
  "also",
  "let",
  "project",
  "whenReady",
  "withPlugin",
  "withId",
  "configureEach",
  "all",
  "each",
  "forEach",
  "evaluationDependsOn",
  "dependencyResolutionManagement",
  "settings",
  "whenPluginAdded",
  "matching",
  "withType",
]);

const LEVEL_BLOCKS = new Set(["compileSdk", "minSdk", "targetSdk"]);

export interface SharedBlock {
  closure: ClosureExpr;
  source: Source;
  locals: Map<string, Result>;
  /** `subprojects` leaves out the root. */
  withRoot: boolean;
}

/** Reads the scripts of one Gradle project into facts. One instance per project of the build. */
export class ModuleReader {
  /** Bodies of `allprojects` and `subprojects`, to be read again for each module. */
  readonly shared: SharedBlock[] = [];
  readonly included: string[] = [];
  private readonly applied = new Set<string>();
  /** Helpers of the script that are being read, the outermost first, and how many were read in all. */
  private readonly helpers: FunctionResult[] = [];
  private expanded = 0;

  constructor(
    private readonly project: ProjectFiles,
    readonly module: GradleModule,
    readonly variables: ProjectVariables,
    /** Scripts of precompiled convention plugins, by plugin id. */
    private readonly conventions: Map<string, Script>,
    /** Told of every module that settings include: path and folder. */
    private readonly onInclude: (path: string, folder?: string) => void = () => undefined,
  ) {}

  readScript(script: Script): void {
    const locals = new Map<string, Result>();
    this.readBody(script.body, {
      source: script.source,
      scope: scriptScope(script.source, this.variables, locals),
      locals,
      blocks: [],
      conditional: false,
      forBuild: false,
      depth: 0,
    });
  }

  readShared(block: SharedBlock): void {
    const locals = new Map(block.locals);
    this.readBody(block.closure.body, {
      source: block.source,
      scope: scriptScope(block.source, this.variables, locals),
      locals,
      blocks: [],
      conditional: false,
      forBuild: false,
      depth: 1,
    });
  }

  private readBody(body: Statement[], context: Context): void {
    if (context.depth > 30) return;
    // Functions are visible before they are declared.
    for (const statement of body) {
      if (statement.kind === "function")
        context.locals.set(statement.name, {
          kind: "function",
          parameters: statement.parameters,
          body: statement.body,
          scope: context.scope,
        });
    }
    for (const statement of body) this.readStatement(statement, context);
  }

  private readStatement(statement: Statement, context: Context): void {
    switch (statement.kind) {
      case "assign":
        this.readAssignment(statement, context);
        return;
      case "if":
        this.readBranches(statement, context, (body, inner) => this.readBody(body, inner));
        return;
      case "expression":
        if (statement.value.kind === "call") this.readCall(statement.value, context);
        return;
      case "type":
        // A plugin class: what its functions do happens to the project it is applied to.
        for (const member of statement.body)
          if (member.kind === "function" && member.name === "apply") this.readBody(member.body, { ...context, depth: context.depth + 1 });
        return;
      default:
        return;
    }
  }

  /**
   * The branches of a condition, or the rounds of a loop. Of two branches of which nobody can tell which one is taken, both are read, and what
   * they assign may be either afterwards.
   */
  private readBranches(
    statement: Extract<Statement, { kind: "if" }>,
    context: Context,
    read: (body: Statement[], context: Context) => void,
  ): void {
    const inner = { ...context, depth: context.depth + 1 };
    if (statement.loop && this.readRounds(statement.loop.names, evaluate(statement.loop.list, context.scope), statement.then, inner, read))
      return;
    const decided = statement.loop ? undefined : truth(evaluate(statement.test, context.scope), context.source);
    if (decided !== undefined) {
      read(decided ? statement.then : statement.otherwise, inner);
      return;
    }
    const open = { ...inner, conditional: true };
    // Variables of the script and properties of the project alike.
    eitherWay(context.locals, [statement.then, statement.otherwise], (body) => {
      const before = new Map(this.variables.extra);
      read(body, open);
      for (const [name, now] of this.variables.extra) {
        const was = before.get(name);
        if (was !== undefined && was !== now) this.variables.extra.set(name, eitherOf(was, now));
      }
    });
  }

  /** Reads a body once for each item of a list that is known; `false` where it is not. */
  private readRounds(
    names: readonly string[],
    list: Result,
    body: Statement[],
    context: Context,
    read: (body: Statement[], context: Context) => void,
  ): boolean {
    return runRounds(
      names,
      list,
      () => context.source.place(body[0]?.start ?? 0),
      context.locals,
      () => read(body, context),
    );
  }

  /** `[…].each { }`, `listOf(…).forEach { }`: the list, and what the closure calls its items; `undefined` for other calls. */
  private loopOf(call: CallExpr, context: Context): { names: string[]; list: Result; body: Statement[] } | undefined {
    if (!call.closure || call.callee.kind !== "member" || !call.callee.object || !/^(each|forEach)$/.test(call.callee.name))
      return undefined;
    const list = evaluate(call.callee.object, context.scope);
    if (list.kind !== "list" && list.kind !== "map") return undefined;
    return { names: call.closure.parameters.length > 0 ? call.closure.parameters : ["it"], list, body: call.closure.body };
  }

  private readAssignment(statement: Extract<Statement, { kind: "assign" }>, context: Context): void {
    const { target } = statement;
    const value = assigned(statement);
    if (statement.operator === "by") return this.readDelegate(target, value, context);
    const path = pathOf(target);
    if (target.kind === "index" && pathOf(target.object)?.at(-1) === "manifestPlaceholders") {
      const { blocks } = place(pathOf(target.object) ?? [], context.blocks);
      const key = plainText(target.index);
      if (blocks[0] === "android" && key !== undefined)
        this.addSetting(blocks, "manifestPlaceholders", [{ name: key, value }], value.start, target.start, context);
      return;
    }
    const extraKey = extraName(target, path);
    if (extraKey !== undefined) {
      const owner = path?.[0] === "rootProject" ? this.variables.root : this.variables;
      owner.extra.set(extraKey, this.resultOf(value, context));
      return;
    }
    if (!path) return;
    if (statement.declared && path.length === 1) {
      context.locals.set(path[0] as string, this.resultOf(value, context));
      return;
    }
    if (context.blocks[0] === "ext" && context.blocks.length === 1 && path.length === 1) {
      this.variables.extra.set(path[0] as string, this.resultOf(value, context));
      return;
    }
    const { blocks, name } = place(path, context.blocks);
    if (name === "projectDir" && context.blocks.length === 0) return;
    if (blocks[0] === "android") {
      // What is added to a list of the plugin's own is a value of it.
      this.addSetting(blocks, name, [{ value: statement.value }], value.start, target.end - name.length, context);
      return;
    }
    if (blocks[0] === "repositories" && name === "url") return;
    if (context.locals.has(path[0] as string) && path.length === 1) {
      context.locals.set(path[0] as string, this.resultOf(value, context));
      return;
    }
    // Groovy without def: a property of the script.
    if (path.length === 1 && context.blocks.length === 0) context.locals.set(path[0] as string, this.resultOf(value, context));
  }

  /** `val x by extra("1")`, `val x by extra { "1" }`, `val x: String by project`. */
  private readDelegate(target: Expr, value: Expr, context: Context): void {
    const name = pathOf(target)?.at(-1);
    if (!name) return;
    if (value.kind === "call" && callName(value) === "extra") {
      const first = value.args[0]?.value ?? lastValue(value.closure);
      const result = first ? this.resultOf(first, context) : undefined;
      if (!result) return;
      this.variables.extra.set(name, result);
      context.locals.set(name, result);
      return;
    }
    const owner = pathOf(value);
    if (owner && /^(project|rootProject|extra|ext|settings)$/.test(owner.at(-1) ?? "")) {
      const found = context.scope.lookup([owner[0] as string, name]) ?? context.scope.lookup([name]);
      context.locals.set(name, found ?? unknown(`no property "${name}" in the files`, context.source.place(target.start)));
    }
  }

  private resultOf(expr: Expr, context: Context): Result {
    return evaluate(expr, context.scope);
  }

  private readCall(call: CallExpr, context: Context): void {
    const name = callName(call);
    if (!name) return;
    const path = pathOf(call.callee);
    const object = call.callee.kind === "member" ? call.callee.object : undefined;

    if (name === "apply" && this.readApply(call, context)) return;
    const loop = this.loopOf(call, context);
    if (
      loop &&
      this.readRounds(loop.names, loop.list, loop.body, { ...context, depth: context.depth + 1 }, (body, inner) =>
        this.readBody(body, inner),
      )
    )
      return;
    if (name === "include" && context.blocks.length === 0) return this.readInclude(call, context);
    if (name === "includeBuild") {
      const folder = firstText(call);
      if (folder !== undefined) this.included.push(join(this.module.folder, folder));
      return;
    }
    if ((name === "buildscript" || name === "pluginManagement") && call.closure) {
      return this.readBody(call.closure.body, { ...context, blocks: [], forBuild: true, depth: context.depth + 1 });
    }
    if (name === "plugins" && call.closure) return this.readPlugins(call.closure, context);
    if ((name === "allprojects" || name === "subprojects") && call.closure) {
      this.shared.push({ closure: call.closure, source: context.source, locals: context.locals, withRoot: name === "allprojects" });
      return;
    }
    if ((name === "ext" || name === "extra") && call.closure) return this.readExtra(call.closure, context);
    if (name === "set" && object && /^(ext|extra)$/.test(pathOf(object)?.at(-1) ?? "")) {
      const [key, value] = positional(call);
      const text = plainText(key);
      if (text !== undefined && value) this.variables.extra.set(text, this.resultOf(value, context));
      return;
    }
    if (name === "apply" && path?.at(-2) === "extra" && call.closure) return this.readExtra(call.closure, context);
    if (name === "set" && context.blocks[0] === "ext") {
      const [key, value] = positional(call);
      const text = plainText(key);
      if (text !== undefined && value) this.variables.extra.set(text, this.resultOf(value, context));
      return;
    }
    if (name === "versionCatalogs" && call.closure) return this.readCatalogs(call.closure, context);
    if (name === "repositories" && call.closure) return this.readRepositories(call.closure, context);
    if (name === "dependencies" && call.closure) return this.readDependencies(call.closure, context);
    if (name === "configure" || name === "the" || name === "getByType") {
      if (call.closure && this.isAndroidExtension(call, context))
        return this.readBody(call.closure.body, { ...context, blocks: ["android"], depth: context.depth + 1 });
      if (call.closure) return this.readBody(call.closure.body, { ...context, depth: context.depth + 1 });
      return;
    }
    if (name === "android" && context.blocks.length === 0 && call.closure)
      return this.readBody(call.closure.body, { ...context, blocks: ["android"], depth: context.depth + 1 });
    if (name === "resolutionStrategy" && call.closure)
      return this.readBody(call.closure.body, { ...context, blocks: ["resolutionStrategy"], depth: context.depth + 1 });
    if (name === "set" && path?.includes("repositoriesMode")) {
      const mode = pathOf(call.args[0]?.value)?.at(-1);
      if (mode)
        this.module.settings.push({
          block: "",
          name: "repositoriesMode",
          values: [known(mode, context.source.place(call.start))],
          named: new Map(),
          conditional: false,
          at: context.source.place(call.start),
        });
      return;
    }
    if (name === "force" && path) {
      for (const value of positional(call)) this.addDependency("force", value, "force", context);
      return;
    }
    if (context.blocks[0] === "android" || path?.[0] === "android") return this.readAndroidCall(call, name, path ?? [name], context);
    if (path?.[0] === "configurations" && call.closure)
      return this.readBody(call.closure.body, { ...context, blocks: ["configurations"], depth: context.depth + 1 });
    if (name === "configurations" && call.closure)
      return this.readBody(call.closure.body, { ...context, blocks: ["configurations"], depth: context.depth + 1 });
    if (context.blocks[0] === "configurations" && call.closure)
      return this.readBody(call.closure.body, { ...context, depth: context.depth + 1 });
    if ((name === "kotlin" || name === "sourceSets" || name.endsWith("Main") || name === "getByName" || name === "named") && call.closure) {
      return this.readBody(call.closure.body, { ...context, blocks: ["kotlin"], depth: context.depth + 1 });
    }
    if (name === "cocoapods" && call.closure) return this.readPods(call.closure, context);
    if (name === "jvmToolchain") {
      const value = call.args[0]?.value;
      if (value)
        this.module.settings.push({
          block: "",
          name: "jvmToolchain",
          values: [evaluateValue(value, context.scope)],
          named: new Map(),
          conditional: context.conditional,
          at: context.source.place(call.start),
        });
      return;
    }
    const local = path?.length === 1 ? context.locals.get(name) : undefined;
    if (local?.kind === "function") return this.readFunctionCall(local, call, context);
    if (WRAPPERS.has(name) && call.closure) this.readBody(call.closure.body, { ...context, depth: context.depth + 1 });
  }

  /** Pods that shared Kotlin code takes. Source: kotlinlang.org, "Add dependencies on a Pod library". */
  private readPods(closure: ClosureExpr, context: Context): void {
    for (const statement of closure.body) {
      if (statement.kind === "assign" && pathOf(statement.target)?.join(".") === "ios.deploymentTarget") {
        this.module.podTarget = evaluateValue(statement.value, context.scope);
        continue;
      }
      if (statement.kind !== "expression" || statement.value.kind !== "call" || callName(statement.value) !== "pod") continue;
      const call = statement.value;
      const [first, second] = positional(call);
      const name = first && evaluateValue(first, context.scope);
      if (name?.kind !== "known") continue;
      let version = namedArg(call, "version") ?? second;
      for (const inner of call.closure?.body ?? [])
        if (inner.kind === "assign" && pathOf(inner.target)?.at(-1) === "version") version = inner.value;
      this.module.pods.push({ name: name.text, version: version && evaluateValue(version, context.scope), at: name.place });
    }
  }

  /** A helper of the script that configures the project: its body counts as if written here. */
  private readFunctionCall(target: FunctionResult, call: CallExpr, context: Context): void {
    // A helper that calls itself has no end in the files; the same helper with other arguments has.
    if (this.helpers.includes(target) || this.expanded++ > MOST_HELPERS) return;
    const locals = new Map(context.locals);
    const plain = positional(call);
    target.parameters.forEach((parameter, index) => {
      const value = plain[index];
      if (value) locals.set(parameter.name, this.resultOf(value, context));
      else if (parameter.fallback) locals.set(parameter.name, this.resultOf(parameter.fallback, context));
    });
    for (const { name, value } of call.args) if (name !== undefined) locals.set(name, this.resultOf(value, context));
    this.helpers.push(target);
    this.readBody(target.body, {
      ...context,
      locals,
      scope: scriptScope(context.source, this.variables, locals),
      depth: context.depth + 1,
    });
    this.helpers.pop();
  }

  private isAndroidExtension(call: CallExpr, context: Context): boolean {
    const head = context.source.text.slice(call.start, call.closure?.start ?? call.end);
    return /Extension\b/.test(head)
      ? /(Application|Library|Base|App|Common|Test|DynamicFeature|TestedExtension)\w*Extension/.test(head) &&
          !/Kotlin|Java\w*Extension|Compose/.test(head)
      : /["']android["']/.test(head);
  }

  private readApply(call: CallExpr, context: Context): boolean {
    const plugin = namedArg(call, "plugin");
    const from = namedArg(call, "from");
    if (plugin) {
      const id = evaluateValue(plugin, context.scope);
      if (id.kind === "known") this.applyPlugin(id.text, undefined, true, plugin.start, context);
      return true;
    }
    if (from) {
      const path = evaluateValue(from, context.scope);
      if (path.kind === "known" && !/^https?:/.test(path.text) && !isAbsolutePath(path.text))
        this.applyFile(join(this.module.folder, path.text), context);
      return true;
    }
    const first = firstText(call);
    if (
      first !== undefined &&
      call.callee.kind === "member" &&
      /^(plugins|pluginManager)$/.test(pathOf(call.callee.object)?.at(-1) ?? "")
    ) {
      this.applyPlugin(first, undefined, true, call.start, context);
      return true;
    }
    return false;
  }

  private applyFile(file: string, context: Context): void {
    if (this.applied.has(file)) return;
    this.applied.add(file);
    const script = this.project.script(file);
    if (!script) return;
    const locals = new Map<string, Result>();
    this.readBody(script.body, {
      ...context,
      source: script.source,
      scope: scriptScope(script.source, this.variables, locals),
      locals,
      depth: context.depth + 1,
    });
  }

  private applyPlugin(id: string, version: Value | undefined, applied: boolean, offset: number, context: Context): void {
    this.module.plugins.push({
      id,
      version,
      applied,
      conditional: context.conditional,
      module: this.module.path,
      at: context.source.place(offset),
    });
    if (!applied) return;
    const convention = this.conventions.get(id);
    if (!convention || this.applied.has(`plugin ${id}`)) return;
    this.applied.add(`plugin ${id}`);
    const locals = new Map<string, Result>();
    this.readBody(convention.body, {
      source: convention.source,
      scope: scriptScope(convention.source, this.variables, locals),
      locals,
      blocks: [],
      conditional: context.conditional,
      forBuild: false,
      depth: context.depth + 1,
    });
  }

  private readPlugins(closure: ClosureExpr, context: Context): void {
    for (const statement of closure.body) {
      if (statement.kind !== "expression") continue;
      let call = statement.value;
      // Kotlin: `java` and `` `kotlin-dsl` `` alone
      if (call.kind === "name") {
        this.applyPlugin(call.name, undefined, !context.forBuild, call.start, context);
        continue;
      }
      if (call.kind !== "call") continue;
      const extras = [...call.infix];
      // id("x").version("y").apply(false)
      while (
        call.kind === "call" &&
        call.callee.kind === "member" &&
        call.callee.object?.kind === "call" &&
        /^(version|apply)$/.test(call.callee.name)
      ) {
        const value = call.args[0]?.value;
        if (value) extras.push({ name: call.callee.name, value });
        call = call.callee.object;
        if (call.kind === "call") extras.push(...call.infix);
      }
      if (call.kind !== "call") continue;
      const versionExpr = extras.find((extra) => extra.name === "version")?.value;
      const applyExpr = extras.find((extra) => extra.name === "apply")?.value;
      const applied = !context.forBuild && !(applyExpr?.kind === "literal" && applyExpr.text === "false");
      let version = versionExpr ? evaluateValue(versionExpr, context.scope) : undefined;
      const name = callName(call);
      const first = call.args[0]?.value;
      if (!first) continue;
      if (name === "alias") {
        const path = pathOf(first)?.filter((step) => step !== "get");
        const catalog = path && this.variables.catalogs.get(path[0] as string);
        const plugin = catalog?.plugins.get(path?.slice(2).join(".") ?? "");
        if (!plugin) continue;
        version ??= plugin.version;
        this.applyPlugin(plugin.id, version, applied, first.start, context);
      } else {
        const text = evaluateValue(first, context.scope);
        if (text.kind !== "known") continue;
        this.applyPlugin(name === "kotlin" ? `org.jetbrains.kotlin.${text.text}` : text.text, version, applied, first.start, context);
      }
    }
  }

  private readInclude(call: CallExpr, context: Context): void {
    for (const arg of positional(call)) {
      const result = this.resultOf(arg, context);
      const texts = result.kind === "list" ? result.items : [result];
      for (const text of texts) if (text.kind === "known") this.onInclude(text.text.startsWith(":") ? text.text : `:${text.text}`);
    }
  }

  private readExtra(closure: ClosureExpr, context: Context): void {
    const inner = { ...context, blocks: ["ext"], depth: context.depth + 1 };
    for (const statement of closure.body) {
      if (
        statement.kind === "expression" &&
        statement.value.kind === "call" &&
        callName(statement.value) !== "set" &&
        !statement.value.closure &&
        statement.value.args.length === 1
      ) {
        // Groovy: `ext { minSdk 21 }` calls a setter
        const name = callName(statement.value);
        const value = statement.value.args[0]?.value;
        if (name && value) this.variables.extra.set(name, this.resultOf(value, context));
      } else this.readStatement(statement, inner);
    }
  }

  private readCatalogs(closure: ClosureExpr, context: Context): void {
    for (const statement of closure.body) {
      if (statement.kind !== "expression" || statement.value.kind !== "call") continue;
      const call = statement.value;
      const name = callName(call) === "create" ? firstText(call) : callName(call);
      if (!name || !call.closure) continue;
      const catalog = this.variables.catalogs.get(name) ?? emptyCatalog();
      this.variables.catalogs.set(name, catalog);
      for (const inner of call.closure.body) {
        if (inner.kind !== "expression" || inner.value.kind !== "call") continue;
        const entry = inner.value;
        const [first, second, third] = positional(entry).map((arg) => evaluateValue(arg, context.scope));
        const alias = first?.kind === "known" ? accessor(first.text) : undefined;
        switch (callName(entry)) {
          case "from":
            this.catalogFile?.(entry, context, catalog);
            break;
          case "version":
            if (alias && second) catalog.versions.set(alias, second);
            break;
          case "library": {
            if (alias && second?.kind === "known") {
              const [group, artifact, version] = third?.kind === "known" ? [second.text, third.text] : second.text.split(":");
              if (group && artifact)
                catalog.libraries.set(alias, {
                  group,
                  artifact,
                  version: version ? known(version, second.place) : undefined,
                  at: second.place,
                });
            }
            break;
          }
          case "versionRef":
          case "versionref": {
            const object = entry.callee.kind === "member" ? entry.callee.object : undefined;
            if (object?.kind !== "call") break;
            const [name_, group, artifact] = positional(object).map((arg) => plainText(arg));
            if (name_ && group && artifact && first?.kind === "known") {
              catalog.libraries.set(accessor(name_), {
                group,
                artifact,
                version: catalog.versions.get(accessor(first.text)),
                at: context.source.place(object.start),
              });
            }
            break;
          }
          default:
            break;
        }
      }
    }
  }

  /** Set by the build, which knows how to read a catalog's file. */
  catalogFile: ((entry: CallExpr, context: { scope: Scope }, catalog: ReturnType<typeof emptyCatalog>) => void) | undefined;

  private readRepositories(closure: ClosureExpr, context: Context): void {
    const purpose = context.forBuild ? "plugins" : "packages";
    const visit = (body: Statement[], groups: string[]): void => {
      for (const statement of body) {
        if (statement.kind === "if") {
          visit([...statement.then, ...statement.otherwise], groups);
          continue;
        }
        if (statement.kind !== "expression") continue;
        const call = statement.value;
        const at = context.source.place(call.start);
        const name = call.kind === "call" ? callName(call) : call.kind === "name" ? call.name : undefined;
        if (!name) continue;
        const add = (kind: GradleModule["repositories"][number]["kind"], url?: Value): void => {
          const own = call.kind === "call" && call.closure ? groupsOf(call.closure) : [];
          this.module.repositories.push({
            kind,
            url,
            for: purpose,
            groups: [...groups, ...own],
            module: this.module.path,
            at: url?.kind === "known" ? url.place : at,
          });
        };
        switch (name) {
          case "google":
          case "mavenCentral":
          case "gradlePluginPortal":
          case "jcenter":
          case "mavenLocal":
            add(name);
            break;
          case "flatDir":
            add("flatDir");
            break;
          case "maven":
          case "ivy":
            if (call.kind === "call") add("url", this.repositoryUrl(call, context));
            break;
          case "exclusiveContent":
            if (call.kind === "call" && call.closure) {
              const limits = groupsOf(call.closure);
              for (const inner of call.closure.body) {
                if (
                  inner.kind === "expression" &&
                  inner.value.kind === "call" &&
                  callName(inner.value) === "forRepository" &&
                  inner.value.closure
                )
                  visit(inner.value.closure.body, limits);
                if (inner.kind === "expression" && inner.value.kind === "call" && callName(inner.value) === "forRepositories")
                  visit(
                    inner.value.args.map((arg) => ({ kind: "expression", value: arg.value, start: arg.value.start, end: arg.value.end })),
                    limits,
                  );
              }
            }
            break;
          default:
            break;
        }
      }
    };
    visit(closure.body, []);
  }

  private repositoryUrl(call: CallExpr, context: Context): Value | undefined {
    const direct = namedArg(call, "url") ?? positional(call)[0];
    const expr = direct ?? urlIn(call.closure);
    return expr ? evaluateValue(expr, context.scope) : undefined;
  }

  private readDependencies(closure: ClosureExpr, context: Context): void {
    const inner = { ...context, depth: context.depth + 1 };
    if (inner.depth > 30) return;
    for (const statement of closure.body) {
      const readInner = (body: Statement[], of: Context): void => this.readDependencies({ ...closure, body }, of);
      if (statement.kind === "if") {
        this.readBranches(statement, context, readInner);
        continue;
      }
      if (statement.kind === "assign") {
        this.readAssignment(statement, context);
        continue;
      }
      if (statement.kind !== "expression" || statement.value.kind !== "call") continue;
      const call = statement.value;
      const name = callName(call);
      if (!name) continue;
      const loop = this.loopOf(call, context);
      if (loop && this.readRounds(loop.names, loop.list, loop.body, inner, readInner)) continue;
      const helper = call.callee.kind === "name" ? context.locals.get(name) : undefined;
      if (helper?.kind === "function" && !this.helpers.includes(helper)) {
        this.readHelperInDependencies(helper, call, inner);
        continue;
      }
      if (name === "constraints" && call.closure) {
        for (const constraint of call.closure.body) {
          if (constraint.kind !== "expression" || constraint.value.kind !== "call") continue;
          const configuration = callName(constraint.value) ?? "";
          for (const value of positional(constraint.value))
            this.addDependency(configuration, value, "constraint", context, constraint.value);
        }
        continue;
      }
      if (call.closure && call.args.length === 0 && !/^[a-z]\w*(Implementation|Api|Only)$/.test(name)) {
        this.readDependencies(call.closure, inner);
        continue;
      }
      const configuration = name === "add" ? (firstText(call) ?? name) : name;
      const args = name === "add" ? call.args.slice(1) : call.args;
      const kind = configuration === "classpath" ? "classpath" : "module";
      const named = args.some((arg) => arg.name === "group" || arg.name === "ext");
      if (named) this.addMapDependency(configuration, args, kind, context, call);
      else for (const arg of args) if (arg.name === undefined) this.addDependency(configuration, arg.value, kind, context, call);
    }
  }

  /** A helper of the script that is called among the dependencies: what it declares is declared there. */
  private readHelperInDependencies(target: FunctionResult, call: CallExpr, context: Context): void {
    if (this.expanded++ > MOST_HELPERS) return;
    const locals = new Map(context.locals);
    const plain = positional(call);
    target.parameters.forEach((parameter, index) => {
      const value = plain[index] ?? parameter.fallback;
      if (value) locals.set(parameter.name, this.resultOf(value, context));
    });
    this.helpers.push(target);
    this.readDependencies(
      { kind: "closure", parameters: [], body: target.body, start: call.start, end: call.end },
      { ...context, locals, scope: scriptScope(context.source, this.variables, locals) },
    );
    this.helpers.pop();
  }

  private addMapDependency(
    configuration: string,
    args: Argument[],
    kind: GradleDependency["kind"],
    context: Context,
    call: CallExpr,
  ): void {
    const part = (name: string): Value | undefined => {
      const expr = args.find((arg) => arg.name === name)?.value;
      return expr && evaluateValue(expr, context.scope);
    };
    const group = part("group");
    const artifact = part("name");
    const ending = part("ext");
    if (!group && artifact?.kind === "known" && ending?.kind === "known") {
      const version = part("version");
      this.addArchive(version?.kind === "known" ? `${artifact.text}-${version.text}` : artifact.text, ending.text, artifact.place);
      return;
    }
    if (group?.kind !== "known" || artifact?.kind !== "known") return;
    this.push({
      configuration,
      group: group.text,
      artifact: artifact.text,
      version: part("version") ?? richVersionIn(call.closure, context),
      places: [group.place],
      kind,
      conditional: context.conditional,
    });
  }

  private push(dependency: GradleDependency): void {
    this.module.dependencies.push(dependency);
  }

  private addDependency(configuration: string, expr: Expr, kind: GradleDependency["kind"], context: Context, call?: CallExpr): void {
    const at = context.source.place(expr.start);
    if (expr.kind === "call") {
      const name = callName(expr);
      const first = expr.args.find((arg) => arg.name === undefined)?.value;
      switch (name) {
        case "platform":
        case "enforcedPlatform":
          if (first) this.addDependency(configuration, first, "bom", context);
          return;
        case "project": {
          const path = plainText(namedArg(expr, "path") ?? first);
          if (path !== undefined)
            this.module.modules.push({
              path,
              configuration,
              at: context.source.place((namedArg(expr, "path") ?? first)?.start ?? expr.start),
            });
          return;
        }
        case "files":
          for (const file of positional(expr)) this.addFile(file, context);
          return;
        case "fileTree":
          return;
        case "kotlin": {
          const module = plainText(first);
          if (module)
            this.push({
              configuration,
              group: "org.jetbrains.kotlin",
              artifact: `kotlin-${module}`,
              version: undefined,
              places: [at],
              kind,
              conditional: context.conditional,
            });
          return;
        }
        case "testFixtures":
        case "variantOf":
        case "create":
        case "dependencies":
          if (first) this.addDependency(configuration, first, kind, context, call);
          return;
        case "get":
          if (expr.callee.kind === "member" && expr.callee.object)
            this.addDependency(configuration, expr.callee.object, kind, context, call);
          return;
        default:
          break;
      }
    }
    const path = pathOf(expr);
    if (path && path.length > 1) {
      if (path[0] === "projects") {
        this.module.modules.push({ path: `:${path.slice(1).map(kebab).join(":")}`, configuration, at });
        return;
      }
      const catalog = this.variables.catalogs.get(path[0] as string);
      if (catalog) {
        const alias = path.slice(1).filter((step) => step !== "get");
        const libraries =
          alias[0] === "bundles"
            ? (catalog.bundles.get(alias.slice(1).join(".")) ?? []).map((name) => catalog.libraries.get(name))
            : [catalog.libraries.get(alias.join("."))];
        for (const library of libraries) if (library) this.pushLibrary(configuration, library, kind, at, context, call);
        return;
      }
    }
    const result = this.resultOf(expr, context);
    if (result.kind === "list") {
      if (expr.kind === "list") for (const item of expr.items) this.addDependency(configuration, item, kind, context, call);
      else for (const item of result.items) this.addNotation(configuration, item, expr, kind, context, call);
      return;
    }
    if (result.kind === "map") {
      const part = (name: string): Value | undefined => {
        const found = result.entries.get(name);
        return found && toValue(found, expr, context.scope);
      };
      const [group, artifact] = [part("group"), part("name")];
      if (group?.kind === "known" && artifact?.kind === "known")
        this.push({
          configuration,
          group: group.text,
          artifact: artifact.text,
          version: part("version"),
          places: [at],
          kind,
          conditional: context.conditional,
        });
      return;
    }
    this.addNotation(configuration, result, expr, kind, context, call);
  }

  /** A dependency by its notation `group:artifact:version`. */
  private addNotation(
    configuration: string,
    result: Result,
    expr: Expr,
    kind: GradleDependency["kind"],
    context: Context,
    call: CallExpr | undefined,
  ): void {
    const at = context.source.place(expr.start);
    const value = toValue(result, expr, context.scope);
    const options = value.kind === "either" ? value.options : [value];
    const conditional = context.conditional || options.length > 1;
    for (const option of options) {
      const notation = option.kind === "known" ? option.text : leadingText(expr);
      if (notation === undefined) {
        // A part of a name whose version alone is not known was told with its reason.
        if (option.kind === "unknown" && kind === "module" && expr.kind !== "opaque" && CONFIGURATION.test(configuration))
          this.module.unread.push({ what: `a dependency (${configuration})`, why: option.why, at });
        continue;
      }
      const archive = /^:?([^:]*):([^:@]+)@(aar|jar)$/.exec(notation);
      if (notation.startsWith(":") && archive) {
        this.addArchive(
          `${archive[1] === "" ? "" : `${archive[1] ?? ""}-`}${archive[2] ?? ""}`.replace(/^-/, ""),
          archive[3] ?? "aar",
          option.kind === "known" ? option.place : at,
        );
        continue;
      }
      const [group, artifact, written] = notation.split("@")[0]?.split(":") ?? [];
      if (!group || !artifact || /\s/.test(group)) continue;
      let version: Value | undefined;
      if (option.kind === "known") version = written ? this.versionValue(written, expr, option.place, context) : undefined;
      else version = option.kind === "unknown" ? option : undefined;
      version ??= richVersionIn(call?.closure, context);
      this.push({ configuration, group, artifact, version, places: [option.kind === "known" ? option.place : at], kind, conditional });
    }
  }

  /** The version inside a notation; when it came from a variable, the variable's own place. */
  private versionValue(text: string, expr: Expr, at: ReturnType<Source["place"]>, context: Context): Value {
    if (expr.kind === "text" && expr.parts.length > 1) {
      const last = expr.parts.at(-1);
      if (last !== undefined && typeof last !== "string") {
        const value = evaluateValue(last, context.scope);
        if (value.kind === "known" && value.text === text) return value;
      }
    }
    return known(text, at);
  }

  private pushLibrary(
    configuration: string,
    library: CatalogLibrary,
    kind: GradleDependency["kind"],
    at: ReturnType<Source["place"]>,
    context: Context,
    call: CallExpr | undefined,
  ): void {
    this.push({
      configuration,
      group: library.group,
      artifact: library.artifact,
      version: richVersionIn(call?.closure, context) ?? library.version,
      places: [at, library.at],
      kind,
      conditional: context.conditional,
    });
  }

  /** An archive in a `flatDir` repository, which has files by their names: in `libs` unless the build names another folder. */
  private addArchive(name: string, ending: string, at: ReturnType<Source["place"]>): void {
    const file = `${name}.${ending}`;
    const resolved = [`libs/${file}`, `aars/${file}`, `../libs/${file}`]
      .map((path) => join(this.module.folder, path))
      .find((path) => this.project.tree.isFile(path));
    this.module.paths.push({
      text: file,
      resolved,
      kind: "binary",
      // Which folder the repository means is not known here: only what is found is told.
      exists: resolved === undefined ? undefined : true,
      side: "android",
      generated: false,
      at,
    });
  }

  private addFile(expr: Expr, context: Context): void {
    const value = evaluateValue(expr, context.scope);
    if (value.kind !== "known" || !/\.(aar|jar)$/.test(value.text)) return;
    const absolute = isAbsolutePath(value.text);
    const resolved = absolute ? undefined : join(this.module.folder, value.text);
    this.module.paths.push({
      text: value.text,
      resolved,
      kind: "binary",
      exists: resolved === undefined ? undefined : this.project.tree.isFile(resolved),
      side: "android",
      generated: /(^|\/)(build|node_modules)\//.test(value.text),
      at: value.place,
    });
  }

  private readAndroidCall(call: CallExpr, name: string, path: string[], context: Context): void {
    const { blocks } = place(path, context.blocks);
    if (call.closure && LEVEL_BLOCKS.has(name)) {
      for (const statement of call.closure.body) {
        if (statement.kind === "assign" && pathOf(statement.target)?.join(".") === "version")
          this.addSetting(blocks, name, [{ value: statement.value }], statement.value.start, call.start, context);
      }
      return;
    }
    if (
      call.closure &&
      call.args.every((arg) => arg.name === undefined && arg.value.kind === "text") &&
      !/^(manifestPlaceholders|buildConfigField)$/.test(name)
    ) {
      const isNamed = /^(create|register|getByName|named|maybeCreate|configure)$/.test(name);
      const label = isNamed ? firstText(call) : name;
      if (label === undefined) return;
      const wrapper = (WRAPPERS.has(name) && !isNamed) || name === "configureEach";
      const around = isNamed ? [...blocks] : blocks;
      return this.readBody(call.closure.body, { ...context, blocks: wrapper ? around : [...around, label], depth: context.depth + 1 });
    }
    if (name === "repositories" || name === "dependencies") return;
    this.addSetting(blocks, name, call.args, call.start, call.callee.end - name.length, context);
  }

  private addSetting(blocks: string[], name: string, args: Argument[], _start: number, at: number, context: Context): void {
    const values: Value[] = [];
    const named = new Map<string, Value>();
    for (const arg of args) {
      const result = this.resultOf(arg.value, context);
      if (arg.name !== undefined) named.set(arg.name, toValue(result, arg.value, context.scope));
      else if (result.kind === "map") for (const [key, value] of result.entries) named.set(key, toValue(value, arg.value, context.scope));
      else if (result.kind === "list") for (const item of result.items) values.push(toValue(item, arg.value, context.scope));
      else values.push(toValue(result, arg.value, context.scope));
    }
    const plain = name.replace(/^(set|is)(?=[A-Z])|^add(?=ManifestPlaceholders$)/, "");
    this.module.settings.push({
      block: blockName(blocks.slice(1)),
      name: plain === name ? name : plain[0]?.toLowerCase() + plain.slice(1),
      values,
      named,
      conditional: context.conditional,
      at: context.source.place(Math.max(0, at)),
    });
  }
}

/** Names of configurations, as the Android plugin and the usual processors give them; other calls among dependencies are none of a package. */
const CONFIGURATION = /(implementation|api|compileOnly|runtimeOnly|compile|classpath|annotationProcessor|kapt|ksp|coreLibraryDesugaring)$/i;

/** How many calls of a script's own helpers are followed in one module. */
const MOST_HELPERS = 500;

/** What something may be that had one value and may have another. */
function eitherOf(before: Result, now: Result): Result {
  const value = (result: Result): Value | undefined =>
    result.kind === "known" || result.kind === "unknown" || result.kind === "either" ? result : undefined;
  const [a, b] = [value(before), value(now)];
  if (!b) return now;
  return a ? either([a, b], b.place) : b;
}

/** `["productFlavors", "free"]` → `flavor:free`; anything deeper keeps its names with dots. */
function blockName(blocks: string[]): string {
  const [first, second, ...rest] = blocks;
  if (first === "productFlavors" && second) return [`flavor:${second}`, ...rest].join(".");
  if (first === "buildTypes" && second) return [`buildType:${second}`, ...rest].join(".");
  return blocks.join(".");
}

/** Splits `android.defaultConfig.minSdk` inside given blocks into the blocks and the name. */
function place(path: string[], blocks: string[]): { blocks: string[]; name: string } {
  const own = path[0] === "this" || path[0] === "project" || path[0] === "it" ? path.slice(1) : path;
  return { blocks: [...blocks, ...own.slice(0, -1)], name: own.at(-1) ?? "" };
}

/** `ext.x`, `project.ext.x`, `rootProject.ext.x`, `extra["x"]`, `ext["x"]`: the name of the extra property. */
function extraName(target: Expr, path: string[] | undefined): string | undefined {
  if (target.kind === "index") {
    const owner = pathOf(target.object)?.at(-1);
    return owner === "ext" || owner === "extra" ? plainText(target.index) : undefined;
  }
  if (path && path.length >= 2 && (path.at(-2) === "ext" || path.at(-2) === "extra")) return path.at(-1);
  return undefined;
}

function lastValue(closure: ClosureExpr | undefined): Expr | undefined {
  const last = closure?.body.at(-1);
  return last?.kind === "expression" ? last.value : undefined;
}

function urlIn(closure: ClosureExpr | undefined): Expr | undefined {
  for (const statement of closure?.body ?? []) {
    if (statement.kind === "assign" && pathOf(statement.target)?.at(-1) === "url") return statement.value;
    if (statement.kind === "expression" && statement.value.kind === "call" && /^(url|setUrl)$/.test(callName(statement.value) ?? ""))
      return statement.value.args[0]?.value;
  }
  return undefined;
}

/** Groups named in `content { includeGroup("x") }` and in the filter of exclusive content. */
function groupsOf(closure: ClosureExpr): string[] {
  const groups: string[] = [];
  for (const statement of closure.body) {
    if (statement.kind !== "expression" || statement.value.kind !== "call") continue;
    const call = statement.value;
    const name = callName(call) ?? "";
    if ((name === "content" || name === "filter" || name === "mavenContent") && call.closure) groups.push(...groupsOf(call.closure));
    else if (/^include(Group|GroupByRegex|GroupAndSubgroups|Module)/.test(name)) {
      const text = firstText(call);
      if (text !== undefined) groups.push(name.includes("Regex") ? `/${text}/` : name.includes("Subgroups") ? `${text}.*` : text);
    }
  }
  return groups;
}

/** `version { strictly("1.0") }` in the closure of a dependency. */
function richVersionIn(closure: ClosureExpr | undefined, context: { scope: Scope }): Value | undefined {
  for (const statement of closure?.body ?? []) {
    if (statement.kind !== "expression" || statement.value.kind !== "call" || callName(statement.value) !== "version") continue;
    for (const inner of statement.value.closure?.body ?? []) {
      if (inner.kind !== "expression" || inner.value.kind !== "call") continue;
      const kind = callName(inner.value);
      const first = inner.value.args[0]?.value;
      if (!first || !/^(strictly|require|prefer)$/.test(kind ?? "")) continue;
      const value = evaluateValue(first, context.scope);
      return value.kind === "known" && kind === "strictly" && !/[[\](),]/.test(value.text) ? { ...value, text: `${value.text}!!` } : value;
    }
  }
  return undefined;
}

/** The plain text that a notation with an unknown version starts with. */
function leadingText(expr: Expr): string | undefined {
  if (expr.kind === "binary" && expr.operator === "+") return leadingText(expr.left);
  if (expr.kind !== "text") return undefined;
  const [first] = expr.parts;
  return typeof first === "string" && first.split(":").length >= 3 ? first : undefined;
}

/** `coreUi` → `core-ui`: how type-safe accessors write a module's name. */
function kebab(name: string): string {
  return name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);
}
