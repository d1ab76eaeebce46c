import { evaluate, execute, mayChange, runClosure } from "../../../../evaluate/interpret.js";
import type { Assignment, CallPart, Frame, Host } from "../../../../evaluate/frame.js";
import { NOTHING, textIn, type Result } from "../../../../evaluate/values.js";
import { REPOSITORY_CALLS, SCRIPT_BLOCKS, SCRIPT_CALLS } from "../../../../knowledge/gradle-names.js";
import { misspelling } from "../../../../model/suggest.js";
import type { Expr, Statement } from "../../../../syntax/script/ast.js";
import { isApart } from "../configurations.js";
import { ANDROID, androidAssign, androidValue } from "./android-block.js";
import { CATALOG, CATALOGS } from "./catalogs-block.js";
import { APPLY, CONFIGURATIONS, EXTRA, KOTLIN, COCOAPODS, POD, PROJECT, RESOLUTION, assignAtProject } from "./project-block.js";
import { CONSTRAINTS, DEPENDENCIES } from "./dependencies-block.js";
import { PLUGINS } from "./plugins-block.js";
import { EXCLUSIVE, REPOSITORIES, REPOSITORY, assignInRepository } from "./repositories-block.js";
import { libraryCall, projectValue } from "./values.js";
import { AT_PROJECT, delegateOf, tell, type BlockName, type Delegate, type Reading, type Standing } from "./reading.js";
import { reason, type Reason } from "../../../../model/reason.js";

/** What a call means in a block; `undefined` where it means nothing there. */
export type Handler = (call: CallPart, host: GradleHost) => Result | undefined;

/** The calls that have a meaning in a block, by name; what is not among them goes to `other`. */
export interface Block {
  calls: Readonly<Record<string, Handler>>;
  other?: Handler;
  /** `other` also looks at calls within expressions. */
  inExpressions?: boolean;
  /** What a statement could have given that is not understood; without it nothing is told. */
  holds?: string;
  assign?(assignment: Assignment, path: readonly string[], host: GradleHost): boolean;
}

const BLOCKS: Record<BlockName, Block> = {
  project: { ...PROJECT, assign: assignAtProject },
  plugins: PLUGINS,
  dependencies: DEPENDENCIES,
  constraints: CONSTRAINTS,
  repositories: REPOSITORIES,
  repository: { ...REPOSITORY, assign: assignInRepository },
  exclusiveContent: EXCLUSIVE,
  android: { ...ANDROID, assign: androidAssign },
  level: { calls: {}, assign: androidAssign },
  catalogs: CATALOGS,
  catalog: CATALOG,
  configurations: CONFIGURATIONS,
  resolutionStrategy: RESOLUTION,
  kotlin: KOTLIN,
  cocoapods: COCOAPODS,
  pod: POD,
  extra: EXTRA,
  apply: APPLY,
};

/** Names by which a script means its own project. */
const OWN_PROJECT: ReadonlySet<string> = new Set(["project", "this", "self", "target", "delegate", "owner", "it", "settings"]);

/** Gives meaning to the scripts of one Gradle project. */
export class GradleHost implements Host {
  constructor(
    readonly reading: Reading,
    readonly standing: Standing = AT_PROJECT,
  ) {}

  at(standing: Partial<Standing>, reading = this.reading): GradleHost {
    return new GradleHost(reading, { ...this.standing, ...standing });
  }

  /** Runs the closure of a call as what stands in another place. */
  inside(call: CallPart, standing: Partial<Standing>, argument?: Result): Result | undefined {
    const block = call.block();
    if (!block) return undefined;
    const host = this.at(standing);
    runClosure(block, [argument ?? delegateOf(host.reading, host.standing)], { ...call.frame, host });
    return NOTHING;
  }

  lookup(path: readonly string[], frame: Frame, at: number): Result | undefined {
    const { reading } = this;
    // In Kotlin it is what the block around configures.
    if (path.length === 1 && path[0] === "this" && frame.dialect === "kotlin") return delegateOf(reading, this.standing);
    if (path.length === 1 && OWN_PROJECT.has(path[0] as string) && path[0] !== "it") return delegateOf(reading, AT_PROJECT);
    if (path[0] === "android" || (path[0] === "project" && path[1] === "android")) {
      const rest = path.slice(path.indexOf("android") + 1);
      return (
        androidValue(reading, rest) ?? (rest.length < 2 ? delegateOf(reading, { ...AT_PROJECT, block: "android", path: rest }) : undefined)
      );
    }
    return projectValue(path, reading, frame, at);
  }

  call(call: CallPart): Result | undefined {
    const { path } = call;
    const { callee } = call.expr;
    if (!path && callee.kind === "member") return this.onResult(call);
    if (!path && callee.kind !== "text") return undefined;
    const { host, rest } = this.addressed(call, path ?? [call.name]);
    if (!host) return libraryCall(call, this.reading);
    const [only, ...further] = rest;
    const scoped = only !== undefined && further.length === 0 && path && path.length > 1 ? host.scoped(call, only) : undefined;
    if (scoped) return scoped;
    return host.dispatch(call, rest) ?? libraryCall(call, host.reading) ?? this.unknownBlock(call);
  }

  /** A call on what another call gives: `project(":app").dependencies { }`, `extensions.getByType(X).apply { }`. */
  private onResult(call: CallPart): Result | undefined {
    const { callee } = call.expr;
    const block = BLOCKS[this.standing.block];
    // `id("x").version("y")` is read as a whole.
    if (this.standing.block === "plugins") return block.other?.(call, this);
    const chained = this.standing.block === "catalog" ? block.calls[call.name]?.(call, this) : undefined;
    if (chained) return chained;
    const receiver = call.receiver();
    if (receiver?.kind === "object" && receiver.name === "delegate" && callee.kind === "member") {
      const { reading, standing } = receiver.of as Delegate;
      const host = new GradleHost(reading, standing);
      return host.scoped(call, call.name) ?? host.dispatch(call, [call.name]) ?? libraryCall(call, reading) ?? this.unknownBlock(call);
    }
    return libraryCall(call, this.reading);
  }

  /** `extension.apply { }` and its likes, on a block that is held in a variable. Source: kotlinlang.org, "Scope functions". */
  private scoped(call: CallPart, name: string): Result | undefined {
    if (!/^(?:apply|run|also|let)$/.test(name) || !call.block()) return undefined;
    this.inside(call, {});
    return delegateOf(this.reading, this.standing);
  }

  /** The project and block that a dotted name leads to, and what is left of it. */
  private addressed(call: CallPart, path: readonly string[]): { host: GradleHost | undefined; rest: readonly string[] } {
    const head = path[0] as string;
    const result = path.length > 1 ? call.frame.variables.get(head) : undefined;
    if (result?.kind === "object" && result.name === "delegate") {
      const { reading, standing } = result.of as Delegate;
      return { host: new GradleHost(reading, standing), rest: path.slice(1) };
    }
    // A value of the script: its methods are those of its kind.
    if (result) return { host: undefined, rest: path };
    if (path.length === 1) return { host: this, rest: path };
    const own = path.findIndex((step, index) => index === path.length - 1 || !OWN_PROJECT.has(step));
    const rest = path.slice(own);
    if (rest[0] === "rootProject" && rest.length > 1) {
      const root = this.reading.build.projects.get(":");
      return { host: new GradleHost(root ?? this.reading), rest: rest.slice(1) };
    }
    return { host: own > 0 ? new GradleHost(this.reading) : this, rest };
  }

  /** A call by the tables of the blocks: where it stands, then those of the whole project. */
  dispatch(call: CallPart, path: readonly string[]): Result | undefined {
    const { standing } = this;
    if (standing.block === "android" && path.length > 1 && path[0] !== "android")
      return this.at({ path: [...standing.path, ...path.slice(0, -1)] }).dispatch(call, path.slice(-1));
    if (standing.block !== "project" || path.length > 1) {
      const outer = path.length > 1 ? this.outer(path, call) : undefined;
      if (outer) return outer;
    }
    const block = BLOCKS[standing.block];
    const name = path.at(-1) as string;
    const handler = path.length === 1 || standing.block === "android" ? block.calls[name] : undefined;
    const listed = handler && Object.hasOwn(block.calls, name) ? handler(call, this) : undefined;
    // What has no meaning of its own is a command where it stands alone, and else a value that is asked for.
    const own = listed ?? (call.isStatement || block.inExpressions ? block.other?.(call, this) : undefined);
    if (own) return own;
    const general = ofProject(standing, name);
    return general && (path.length === 1 || standing.block !== "android")
      ? general(call, this.at({ block: "project", path: [] }))
      : undefined;
  }

  /** `android.defaultConfig { }`, `configurations.all { }`, `extensions.extraProperties.set(…)`: blocks that are named in one go. */
  // eslint-disable-next-line complexity -- one case for each block that a path can begin with
  private outer(path: readonly string[], call: CallPart): Result | undefined {
    const [first, ...rest] = path as [string, ...string[]];
    switch (first) {
      case "android":
        return this.at({ block: "android", path: rest.slice(0, -1) }).dispatch(call, rest.slice(-1));
      case "configurations":
        if (rest.slice(0, -1).some(isApart)) return NOTHING;
        return this.at({ block: rest.includes("resolutionStrategy") ? "resolutionStrategy" : "configurations" }).dispatch(
          call,
          rest.slice(-1),
        );
      case "resolutionStrategy":
        return this.standing.block === "configurations"
          ? this.at({ block: "resolutionStrategy" }).dispatch(call, rest.slice(-1))
          : undefined;
      case "kotlin":
      case "dependencyResolutionManagement":
      case "pluginManagement":
      case "gradle":
        return this.at({ block: first === "kotlin" ? "kotlin" : "project", forBuild: first === "pluginManagement" }).dispatch(
          call,
          rest.slice(-1),
        );
      case "repositories":
        return this.at({ block: "repositories" }).dispatch(call, rest.slice(-1));
      case "dependencies":
        return this.at({ block: "dependencies" }).dispatch(call, rest.slice(-1));
      case "buildscript":
        return this.at({ forBuild: true }).dispatch(call, rest);
      case "ext":
      case "extra":
        return EXTRA.calls[rest.at(-1) as string]?.(call, this);
      case "plugins":
      case "pluginManager":
        if (rest.length === 1 && /^(?:run|apply|also|let)$/.test(rest[0] as string) && call.block())
          return this.at({ block: "apply" }).inside(call, {});
        return /^(apply|with\w+|whenPluginAdded)$/.test(rest.at(-1) ?? "") ? PROJECT.calls[rest.at(-1) as string]?.(call, this) : undefined;
      case "repositoriesMode":
      case "extensions":
        return PROJECT.calls[rest.at(-1) as string]?.(call, this);
      default:
        return undefined;
    }
  }

  /** The names that a call can have where it stands, as far as a slip of one is worth telling. */
  private callsKnown(call: CallPart): readonly string[] {
    const { block } = this.standing;
    if (block === "repositories") return REPOSITORY_CALLS;
    if (block !== "project") return [];
    return call.block() ? SCRIPT_BLOCKS : call.isStatement && !call.expr.bare ? SCRIPT_CALLS : [];
  }

  /** A block of a plugin that is not known: what stands in it is the plugin's. */
  private unknownBlock(call: CallPart): Result | undefined {
    const { holds } = BLOCKS[this.standing.block];
    const named = call.path?.length === 1;
    const meant = named ? misspelling(call.name, this.callsKnown(call)) : undefined;
    if (meant !== undefined && !call.frame.variables.get(call.name))
      this.reading.module.strayNames.push({ what: call.block() ? "block" : "call", name: call.name, right: meant, at: call.place });
    if (holds !== undefined && named && call.isStatement && !call.frame.variables.get(call.name) && !isQuestion(call))
      tell(this.reading, holds, reason("call-not-understood", { call: call.name }), call.place);
    if (!call.block() || (call.path && call.frame.variables.get(call.path[0] as string))) return undefined;
    // Loops over what nobody knows are looked into; other blocks are not.
    if (
      /^(each|forEach|eachWithIndex|forEachIndexed|collect|map|all|configureEach|let|also|apply|run|with|use|repeat|buildList|buildSet|buildMap|buildString)$/.test(
        call.name,
      )
    )
      return undefined;
    const block = call.block();
    if (block) mayChange(block, reason("depends-on-call", { call: call.name }));
    const why = /^(exec|javaexec)$/.test(call.name) ? reason("program-output") : reason("call-unknown", { call: call.name });
    return { kind: "unknown", why, place: call.place };
  }

  assign(assignment: Assignment): boolean {
    const { path, frame } = assignment;
    const result = path && path.length > 1 ? frame.variables.get(path[0] as string) : undefined;
    if (result?.kind === "object" && result.name === "delegate") {
      const { reading, standing } = result.of as Delegate;
      const host = new GradleHost(reading, standing);
      return host.assignHere(assignment, path?.slice(1) ?? []);
    }
    if (result) return false;
    return this.assignHere(assignment, path ?? targetPath(assignment.statement.target, assignment) ?? []);
  }

  private assignHere(assignment: Assignment, path: readonly string[]): boolean {
    const block = BLOCKS[this.standing.block];
    if (block.assign?.(assignment, path, this)) return true;
    return this.standing.block === "project" ? false : assignAtProject(assignment, path, this);
  }

  type(statement: Extract<Statement, { kind: "type" }>, frame: Frame): boolean {
    // A plugin class: what its function does happens to the project that it is applied to.
    const apply = statement.body.find((member) => member.kind === "function" && member.name === "apply");
    if (apply?.kind !== "function") return false;
    const rest: Statement[] = statement.body.filter((member) => member !== apply);
    const inner: Frame = { ...frame };
    execute(rest, inner);
    const project = delegateOf(this.reading, AT_PROJECT);
    runClosure({ kind: "function", parameters: apply.parameters, body: apply.body, frame: inner, isMethod: false }, [project], inner);
    return true;
  }

  lost(_: Expr, why: Reason, frame: Frame): void {
    const { holds } = BLOCKS[this.standing.block];
    if (holds !== undefined && !frame.conditional) tell(this.reading, holds, why, frame.source.place(_.start));
  }
}

/** What the command means in every block of a project. */
function ofProject(standing: Standing, name: string): Handler | undefined {
  return standing.block === "project" || !Object.hasOwn(PROJECT.calls, name) ? undefined : PROJECT.calls[name];
}

/** Whether a call only asks for a value. */
function isQuestion(call: CallPart): boolean {
  return (
    call.expr.bare === true || /^(get|find|has|is|to)[A-Z]|^(println|print|file|files|uri|logger|require|check|error)$/.test(call.name)
  );
}

/** The steps of `a.b["c"]`, and of `project(":x").y`, whose call is no step. */
function targetPath(target: Expr, assignment: Assignment): string[] | undefined {
  if (target.kind === "name") return [target.name];
  if (target.kind === "member") {
    const before = target.object ? targetPath(target.object, assignment) : [];
    return before && [...before, target.name];
  }
  if (target.kind === "index") {
    const before = targetPath(target.object, assignment);
    const key = textIn(evaluate(target.index, assignment.frame));
    return before && key !== undefined ? [...before, key] : undefined;
  }
  return target.kind === "call" ? [] : undefined;
}
