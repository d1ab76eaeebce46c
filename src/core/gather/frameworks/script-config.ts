import { withoutComments } from "../../syntax/comments.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";
import { scriptFrame, type Assignment, type CallPart, type Frame, type Host } from "../../evaluate/frame.js";
import { execute, invoke } from "../../evaluate/interpret.js";
import { fromData, isValue, mapOf as mapResult, NOTHING, textIn, type Result } from "../../evaluate/values.js";
import { join, parentOf } from "../../model/paths.js";
import { reason } from "../../model/reason.js";
import { unknown, type Value } from "../../model/value.js";
import { listOf, mapOf, scalarOf, type Data } from "../../syntax/data.js";
import type { Source } from "../../syntax/source.js";

/**
 * Reads the object that a settings file in JavaScript or TypeScript exports, statically: literals, constants of the file, what is assigned to
 * them, spreads, functions that return an object, other files of the project. What cannot be worked out is there with the reason. JSON files
 * are read as they are.
 */
export function readExportedObject(project: ProjectFiles, file: string, environment?: Environment): Data | undefined {
  if (file.endsWith(".json")) return project.json(file)?.root;
  const script = project.script(file);
  const exported = exportsOf(project, file, 0, environment);
  return script && exported && toData(exported.result, script.source, script.source.offset(exported.at), project);
}

/**
 * What a settings file exports by a name that nothing in it defines: the tool stops when it loads the file.
 * @param app takes the fact, with the place of the name
 */
export function noteLostExport(project: ProjectFiles, app: FactSink, file: string): void {
  const source = /\.[cm]?[jt]s$/.test(file) && project.tree.isFile(file) ? project.text(file) : undefined;
  const code = source && withoutComments(source.text);
  const match = code && /(?:^|\n)[ \t]*(?:export\s+default|module\.exports\s*=)\s+([A-Za-z_$][\w$]*)[ \t]*(?:;|\n|$)/.exec(code);
  const name = match?.[1];
  if (!source || !code || !match || name === undefined || /^(?:undefined|null|true|false|require|exports|module)$/.test(name)) return;
  const others = code.slice(0, match.index) + code.slice(match.index + match[0].length);
  if (new RegExp(`(?<![\\w$.])${name.replaceAll("$", "\\$")}(?![\\w$])`).test(others)) return;
  const at = source.place(match.index + match[0].lastIndexOf(name));
  app.pathFollowed({ text: name, resolved: undefined, kind: "variable", exists: false, side: "shared", generated: false, at });
}

/** The script compiler's own settings, as a function that never says when its answer holds. Source: babeljs.io, "Config Function API" (api.cache). */
export function noteUnsaidCache(project: ProjectFiles, app: FactSink, folder: string): void {
  for (const name of ["babel.config.js", "babel.config.cjs"]) {
    const source = project.tree.isFile(join(folder, name)) ? project.text(join(folder, name)) : undefined;
    const code = source && withoutComments(source.text);
    const made = code && /\bmodule\.exports\s*=\s*(?:function\s*\w*\s*\(\s*(\w*)|(\w+)\s*=>|\(\s*(\w*)\s*\)\s*=>)/.exec(code);
    if (!source || !code || !made || /\b(?:cache|env|caller)\b/.test(code)) continue;
    // Whoever is handed it may say so.
    const given = made[1] ?? made[2] ?? made[3] ?? "";
    if (given !== "" && new RegExp(`\\b${given}\\b`).test(code.slice(made.index + made[0].length))) continue;
    app.templateLine({ line: "cache of the scripts' settings", side: app.android ? "android" : "ios", at: source.place(made.index) });
  }
}

/** The value of a variable of the environment; `null` for one that is not set, `undefined` for one of which nobody knows. */
export type Environment = (name: string) => Value | null | undefined;

/** What a settings file exports, worked out; `undefined` where it exports nothing that can be found. */
export function exportsOf(
  project: ProjectFiles,
  file: string,
  depth = 0,
  environment?: Environment,
): { result: Result; at: { line: number; column: number; file: string } } | undefined {
  const script = project.script(file);
  if (!script || depth > 4) return undefined;
  const host = new SettingsHost(project, file, depth, environment);
  const frame = scriptFrame(script.source, host);
  execute(script.body, frame);
  let result = host.exported ?? lastObject(frame);
  // A function that is called with what the tool has already.
  if (result?.kind === "function") result = invoke(result, [mapResult([["config", mapResult([])]])], new Map(), undefined, frame);
  return result && { result, at: host.exportedAt ?? script.source.place(0) };
}

class SettingsHost implements Host {
  exported: Result | undefined;
  exportedAt: { line: number; column: number; file: string } | undefined;

  constructor(
    private readonly project: ProjectFiles,
    private readonly file: string,
    private readonly depth: number,
    private readonly environment: Environment | undefined,
  ) {}

  lookup(path: readonly string[], frame: Frame, at: number): Result | undefined {
    const dotted = path.join(".");
    if (dotted === "undefined") return NOTHING;
    const stated = path[0] === "process" && path[1] === "env" && path.length === 3 ? this.environment?.(path[2] as string) : undefined;
    if (stated !== undefined) return stated ?? NOTHING;
    if (path[0] === "process" && path[1] === "env") return unknown(reason("environment"), frame.source.place(at));
    if (dotted === "__dirname") return { kind: "known", text: ".", place: frame.source.place(at) };
    if (dotted === "module.exports" || dotted === "exports.default") return this.exported ?? mapResult([]);
    return undefined;
  }

  // eslint-disable-next-line complexity -- one question for each function that is known
  call(call: CallPart): Result | undefined {
    const { name, path, place } = call;
    const dotted = path?.join(".");
    if (dotted === "require")
      return this.required(textIn(call.positional()[0]?.result)) ?? unknown(reason("package-or-file-not-read"), place);
    if (dotted === "path.join" || dotted === "path.resolve") {
      const parts = call.positional().map(({ result }) => textIn(result));
      return parts.every((part) => part !== undefined) ? { kind: "known", text: join(...(parts as string[])), place } : undefined;
    }
    if (/readFileSync$/.test(name)) {
      const file = textIn(call.positional()[0]?.result);
      const source = file === undefined ? undefined : this.project.text(join(parentOf(this.file), file));
      return source && { kind: "known", text: source.text, place: source.place(0) };
    }
    if (dotted === "JSON.parse") {
      const text = call.positional()[0]?.result;
      if (text?.kind === "known" && this.project.text(text.place.file)?.text === text.text)
        return fromData(this.project.json(text.place.file)?.root);
      return undefined;
    }
    // `defineConfig({ … })`, `withPlugin(config, …)`: functions of packages that give back what they are given.
    if (path?.length === 1 && /^(define|with|create|export)/i.test(name)) {
      const [first] = call.positional();
      if (first?.result.kind === "map" || first?.result.kind === "function") return first.result;
    }
    return undefined;
  }

  /** What another file of the project exports. */
  private required(path: string | undefined): Result | undefined {
    if (path === undefined || !/^\.\.?(\/|$)/.test(path)) return undefined;
    const base = join(parentOf(this.file), path);
    const file = ["", ".js", ".ts", ".cjs", ".mjs", ".json", "/index.js", "/index.ts"]
      .map((ending) => base + ending)
      .find((candidate) => this.project.tree.isFile(candidate));
    if (file === undefined || file.startsWith("../")) return undefined;
    if (file.endsWith(".json")) return fromData(this.project.json(file)?.root);
    return exportsOf(this.project, file, this.depth + 1, this.environment)?.result;
  }

  assign(assignment: Assignment): boolean {
    const { path, frame, statement } = assignment;
    const dotted = path?.join(".");
    if (dotted === "module.exports" || dotted === "exports.default" || dotted === "exports") {
      this.exported = assignment.value();
      this.exportedAt = frame.source.place(statement.value.start);
      return true;
    }
    // `exports.base = …`, one after the other.
    const named = path?.[0] === "exports" ? path.slice(1) : path?.[0] === "module" && path[1] === "exports" ? path.slice(2) : [];
    const [name] = named;
    if (name === undefined || named.length > 1 || (this.exported !== undefined && this.exported.kind !== "map")) return false;
    this.exported = mapResult([...(this.exported?.entries ?? []), [name, assignment.value()]]);
    this.exportedAt ??= frame.source.place(statement.value.start);
    return true;
  }
}

/** The last object that stands in the file: what a form of export that is not known exports. */
function lastObject(frame: Frame): Result | undefined {
  return [...frame.variables.cells.values()].findLast(({ kind }) => kind === "map" || kind === "function");
}

function toData(result: Result, source: Source, start: number, project: ProjectFiles): Data | undefined {
  // What stands in another file has its places there.
  const [own, at] = isValue(result) ? placed(result.place, source, start, project) : [source, start];
  if (result.kind === "known") return scalarOf(own, at, result.type === "boolean" ? result.text === "true" : result.text);
  if (result.kind === "list")
    return listOf(
      source,
      start,
      result.items.flatMap((item) => toData(item, source, start, project) ?? []),
    );
  if (result.kind === "either" || result.kind === "unknown") return { ...scalarOf(own, at, null), open: result };
  if (result.kind !== "map") return undefined;
  const map = mapOf(source, start);
  for (const [key, value] of result.entries) {
    const place = result.keys?.get(key);
    const [keySource, keyStart] = place ? placed(place, source, start, project) : [source, start];
    const data = toData(value, keySource, keyStart, project);
    if (data) map.entries.set(key, { start: keyStart, value: data });
  }
  return map;
}

function placed(
  place: { file: string; line: number; column: number },
  source: Source,
  start: number,
  project: ProjectFiles,
): [Source, number] {
  if (place.file === source.file) return [source, source.offset(place)];
  const other = project.text(place.file);
  return other ? [other, other.offset(place)] : [source, start];
}
