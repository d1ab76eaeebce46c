import { evaluate, execute } from "../../../../evaluate/interpret.js";
import { scriptFrame, Variables, type CallPart, type Frame } from "../../../../evaluate/frame.js";
import { Run } from "../../../../evaluate/run.js";
import { NOTHING, textIn, toValue, type Result } from "../../../../evaluate/values.js";
import { isAbsolutePath, join } from "../../../../model/paths.js";
import { reason } from "../../../../model/reason.js";
import type { Value } from "../../../../model/value.js";
import { callName, type Argument, type CallExpr, type Expr, type Script } from "../../../../syntax/script/ast.js";
import type { Source } from "../../../../syntax/source.js";
import type { CatalogPlugin } from "./catalog.js";
import { GradleHost, type Block } from "./host.js";
import { AT_PROJECT, tell } from "./reading.js";

/** `plugins { id("x") version "y" apply false; alias(libs.plugins.z); java }` */
export const PLUGINS: Block = {
  calls: {},
  other: (call, host) => {
    const { frame } = call;
    const { expr, extras } = unchained(call.expr);
    // Kotlin: `java` and `` `kotlin-dsl` `` alone
    if (expr.kind !== "call" || (expr.bare && expr.args.length === 0)) {
      const name = expr.kind === "call" ? callName(expr) : undefined;
      if (name !== undefined && call.path?.length === 1) applyPlugin(name, undefined, !host.standing.forBuild, expr.start, host, frame);
      return NOTHING;
    }
    const versionExpr = extras.find(({ name }) => name === "version")?.value;
    const applyExpr = extras.find(({ name }) => name === "apply")?.value;
    const applied = isApplied(frame, host, applyExpr);
    const version = versionExpr && toValue(evaluate(versionExpr, frame), frame.source.place(versionExpr.start));
    const first = expr.args[0]?.value;
    if (!first) return NOTHING;
    const named = evaluate(first, frame);
    const name = callName(expr);
    if (named.kind === "object" && named.name === "plugin") {
      const plugin = named.of as CatalogPlugin;
      applyPlugin(plugin.id, version ?? plugin.version, applied, first.start, host, frame);
      return NOTHING;
    }
    const id = textIn(named);
    if (id === undefined) {
      if (named.kind === "unknown") tell(host.reading, "a build plugin", named.why, call.place);
      return NOTHING;
    }
    applyPlugin(name === "kotlin" ? `org.jetbrains.kotlin.${id}` : id, version, applied, first.start, host, frame);
    return NOTHING;
  },
  holds: "a build plugin",
};

/** Whether the plugin is applied where it is named. */
function isApplied(frame: Frame, host: GradleHost, applyExpr: Expr | undefined): boolean {
  return !host.standing.forBuild && textIn(applyExpr && evaluate(applyExpr, frame)) !== "false";
}

/** `id("x").version("y").apply(false)`: what is said of a plugin, and the call that names it. */
function unchained(given: CallExpr): { expr: Expr; extras: Argument[] } {
  const extras = [...given.infix];
  let expr: Expr = given;
  while (
    expr.kind === "call" &&
    expr.callee.kind === "member" &&
    expr.callee.object?.kind === "call" &&
    /^(version|apply)$/.test(expr.callee.name)
  ) {
    const value = expr.args[0]?.value;
    if (value) extras.push({ name: expr.callee.name, value });
    expr = expr.callee.object;
    if (expr.kind === "call") extras.push(...expr.infix);
  }
  return { expr, extras };
}

/** A plugin that is named; a convention plugin of the build is read where it is applied. */
export function applyPlugin(
  id: string,
  version: Value | undefined,
  applied: boolean,
  offset: number,
  host: GradleHost,
  frame: Frame,
): void {
  const { reading } = host;
  reading.module.plugins.push({
    id,
    version,
    applied,
    conditional: frame.conditional,
    module: reading.module.path,
    at: frame.source.place(offset),
  });
  if (!applied) return;
  const convention = reading.build.conventions.get(id);
  if (!convention || reading.applied.has(`plugin ${id}`)) return;
  reading.applied.add(`plugin ${id}`);
  const { run, conditional } = frame;
  execute(convention.body, frameWithHelpers(convention.source, new GradleHost(reading, AT_PROJECT), { run, conditional }));
}

/** The frame of a script that sees the functions and types of the build's own code. */
export function frameWithHelpers(source: Source, host: GradleHost, options: { run?: Run; conditional?: boolean } = {}): Frame {
  const { build } = host.reading;
  if (build.helpers.length === 0) return scriptFrame(source, host, options);
  build.helpersSeen ??= declared(build.helpers, host);
  return scriptFrame(source, host, { ...options, shared: new Variables(build.helpersSeen, "shared") });
}

/** What helpers declare: a function runs where it is called, whoever declared it. */
function declared(helpers: readonly Script[], host: GradleHost): Variables {
  const variables = new Variables(undefined, "shared");
  const run = new Run();
  for (const { source, body } of helpers) execute(body, { ...scriptFrame(source, host, { run, shared: variables }), variables });
  return variables;
}

/** A script of the project that is applied: its statements count as if they stood here, with variables of their own. */
export function applyScript(result: Result, call: CallPart, host: GradleHost): void {
  const { reading } = host;
  const path = textIn(result);
  if (path === undefined) {
    const why = result.kind === "unknown" ? result.why : reason("script-path-missing");
    tell(reading, "what an applied script says", why, call.place);
    return;
  }
  if (/^https?:/.test(path)) {
    tell(reading, `what ${path} says`, reason("fetched-when-built"), call.place);
    return;
  }
  const file = relativeFile(reading.variables.folder, path);
  if (file === undefined || reading.applied.has(file)) return;
  reading.applied.add(file);
  const script = reading.project.script(file, file.endsWith(".kts") ? undefined : "groovy");
  if (!script) {
    // Where it is asked for first whether it is there, nothing is lost.
    if (call.frame.conditional || OF_FRAMEWORKS.test(file)) return;
    tell(reading, `what ${path} says`, reason("script-gone"), call.place, "lost");
    reading.module.paths.push({
      text: path,
      resolved: file,
      kind: "script",
      exists: false,
      side: "android",
      generated: /(^|\/)(build|node_modules|CordovaLib|\.\w+)\//.test(file) || file.startsWith(".."),
      at: call.place,
    });
    return;
  }
  execute(script.body, scriptFrame(script.source, host, { run: call.frame.run, conditional: call.frame.conditional }));
}

/**
 * Scripts that a framework brings with its packages, and that add its modules and dependencies and nothing else. Sources: the templates of
 * React Native (0.60 to 0.74) and of Expo.
 */
const OF_FRAMEWORKS =
  /(^|\/)node_modules\/(@react-native-community\/cli-platform-android\/native_modules\.gradle|react-native\/react\.gradle|expo\/scripts\/autolinking\.gradle)$/;

function relativeFile(folder: string, path: string): string | undefined {
  return isAbsolutePath(path) ? undefined : join(folder, path);
}
