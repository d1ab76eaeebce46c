import { builtIn } from "../../../evaluate/built-in.js";
import { evaluate, execute, runClosure } from "../../../evaluate/interpret.js";
import { scriptFrame, Variables, type CallPart, type Frame, type Host } from "../../../evaluate/frame.js";
import { Run } from "../../../evaluate/run.js";
import {
  fromData,
  fromText,
  listOf,
  NOTHING,
  textIn,
  type FunctionResult,
  type ObjectResult,
  type Result,
} from "../../../evaluate/values.js";
import { isInstalled, join, parentOf, relativeTo } from "../../../model/paths.js";
import { reason } from "../../../model/reason.js";
import { either, known, truthValue, unknown } from "../../../model/value.js";
import { callOf, type Expr, type Script } from "../../../syntax/script/ast.js";
import type { Source } from "../../../syntax/source.js";
import type { ProjectFiles } from "../../project-files.js";
import { filesMatching } from "../../globbing.js";

/** Helpers that a framework's scripts define: whose they are, and the scripts to read, if they are installed. */
export interface HelperScripts {
  of: string;
  scripts(): Script[];
}

/** Of what brings none. */
export const noHelpers: HelperScripts = { of: "", scripts: () => [] };

const ENVIRONMENT: ObjectResult = { kind: "object", name: "environment", of: undefined };

/** Names by which frameworks give values to Podfiles and podspecs; what else their scripts define is not followed. */
const HELPER_VALUE = /_(version|supported|target|sdk)(_|$)|^[A-Z]/i;

/**
 * What Ruby scripts of CocoaPods see: files inside the project, other scripts of it, values of the framework's scripts. Paths are kept relative
 * to the folder of the script that is read.
 */
export class RubyHost implements Host {
  private defined: Variables | undefined;

  constructor(
    protected readonly project: ProjectFiles,
    /** The folder of the script. */
    protected readonly folder: string,
    protected readonly helpers: HelperScripts,
  ) {}

  lookup(path: readonly string[], frame: Frame, at: number): Result | undefined {
    const [first] = path;
    if (path.length === 1)
      switch (first) {
        case "ENV":
          return ENVIRONMENT;
        case "__dir__":
          return known(this.pathTo(parentOf(frame.source.file)), frame.source.place(at));
        case "__FILE__":
          return known(
            join(this.pathTo(parentOf(frame.source.file)), frame.source.file.split("/").at(-1) as string),
            frame.source.place(at),
          );
        case "self":
          return { kind: "object", name: "self", of: undefined };
        default:
          break;
      }
    if (path.length === 1 && !HELPER_VALUE.test(first as string)) return undefined;
    const found = this.helperVariables(frame).get(first as string);
    return path.length === 1 && found?.kind !== "function" ? found : undefined;
  }

  private pathTo(folder: string): string {
    return relativeTo(this.folder, folder) || ".";
  }

  /** What the framework's scripts define: read when it is asked for. */
  private helperVariables(frame: Frame): Variables {
    if (this.defined) return this.defined;
    this.defined = new Variables(undefined, "shared");
    for (const script of this.helpers.scripts()) {
      // Only what they define: nothing of it is run for its own sake.
      const body = script.body.filter(({ kind }) => kind === "function" || kind === "type" || kind === "assign");
      execute(body, {
        ...scriptFrame(script.source, new RubyHost(this.project, this.folder, noHelpers), { run: new Run(), shared: this.defined }),
        dialect: frame.dialect,
      });
    }
    return this.defined;
  }

  call(call: CallPart): Result | undefined {
    const { name, path, frame } = call;
    const dotted = path?.join(".") ?? name;
    const known_ = this.filesCall(dotted, call) ?? this.requireCall(dotted, call) ?? this.reflection(call);
    if (known_) return known_;
    if (name === "[]" || name === "fetch") {
      const receiver = call.receiver();
      if (receiver?.kind === "object" && receiver.name === "environment") return fromEnvironment(call);
    }
    if (path && path[0] === "ENV") return fromEnvironment(call);
    const helper = path && HELPER_VALUE.test(path.at(-1) as string) ? this.helperFunction(path, frame) : undefined;
    if (!helper) return undefined;
    const given = call.positional().map(({ result }) => result);
    const inner: Frame = { ...frame, host: new RubyHost(this.project, this.folder, this.helpers) };
    return runClosure(helper, given, inner);
  }

  private helperFunction(path: readonly string[], frame: Frame): FunctionResult | undefined {
    let at: Result | undefined = this.helperVariables(frame).get(path[0] as string);
    for (const step of path.slice(1)) at = at?.kind === "map" ? at.entries.get(step) : undefined;
    return at?.kind === "function" ? at : undefined;
  }

  /** A file inside the project that a path means; `undefined` where it leads out. */
  private inside(path: string): string | undefined {
    const file = join(this.folder, path);
    return file === ".." || file.startsWith("../") || path.startsWith("/") ? undefined : file;
  }

  // eslint-disable-next-line complexity -- one case for each function of files and folders
  private filesCall(dotted: string, call: CallPart): Result | undefined {
    const { place } = call;
    const args = (): (string | undefined)[] => call.positional().map(({ result }) => textIn(result));
    const first = (): string | undefined => args()[0];
    switch (dotted) {
      case "File.join":
      case "Pathname.join": {
        const parts = args();
        if (parts.length === 0 || parts.some((part) => part === undefined)) return unknown(reason("path-missing"), place);
        return known(joinedPath(parts as string[]), place);
      }
      case "File.expand_path":
      case "File.absolute_path": {
        const [path, base] = args();
        if (path === undefined || (call.positional().length > 1 && base === undefined)) return unknown(reason("path-missing"), place);
        return known(joinedPath(path.startsWith("/") ? [path] : [base ?? ".", path]), place);
      }
      case "File.dirname": {
        const path = first();
        return path === undefined ? undefined : known(path.includes("/") ? path.slice(0, path.lastIndexOf("/")) : ".", place);
      }
      case "File.basename": {
        const [path, ending] = args();
        const name = path?.split("/").at(-1);
        if (name === undefined) return undefined;
        if (ending === ".*") return known(name.replace(/(.)\.[^.]*$/, "$1"), place);
        return known(ending !== undefined && name.endsWith(ending) ? name.slice(0, -ending.length) : name, place);
      }
      case "File.extname":
        return known(/[^/]\.[^./]+$/.exec(first() ?? "")?.[0].slice(1) ?? "", place);
      case "File.exist?":
      case "File.exists?":
      case "File.file?":
      case "File.directory?":
      case "Dir.exist?":
        return this.exists(first(), call);
      case "File.read":
      case "IO.read":
        return this.textOf(first(), call);
      case "File.readlines":
      case "IO.readlines": {
        const text = this.textOf(first(), call);
        return text.kind === "known" ? listOf(text.text.split(/(?<=\n)/).map((line) => known(line, text.place))) : text;
      }
      case "Dir.glob":
      case "Dir.[]":
        return this.globbed(args(), call);
      case "Hash.[]":
        return builtIn(call);
      case "Dir.pwd":
        return known(".", place);
      case "JSON.parse":
      case "YAML.load":
      case "YAML.safe_load":
        return this.parsed(call.positional()[0]?.result, call);
      case "JSON.load_file":
      case "YAML.load_file":
      case "YAML.safe_load_file":
        return this.parsed(this.textOf(first(), call), call);
      default:
        return undefined;
    }
  }

  private exists(path: string | undefined, call: CallPart): Result {
    const file = path === undefined ? undefined : this.inside(path);
    if (file === undefined) return unknown(reason("file-existence-open"), call.place);
    const { tree } = this.project;
    const there =
      call.name === "directory?" || call.path?.[0] === "Dir"
        ? tree.isFolder(file)
        : call.name === "file?"
          ? tree.isFile(file)
          : tree.isFile(file) || tree.isFolder(file);
    // What tools and people put there is not part of the project.
    const kept = /(^|\/)(node_modules|Pods|build|\.env[^/]*|local\.[^/]*|[^/]*\.local)(\/|$)/.test(file);
    return !there && kept ? unknown(reason("not-there-perhaps-when-run", { file }), call.place) : truthValue(there, call.place);
  }

  private textOf(path: string | undefined, call: CallPart): Result {
    const file = path === undefined ? undefined : this.inside(path);
    const source = file !== undefined && this.project.tree.isFile(file) ? this.project.text(file) : undefined;
    if (file !== undefined && !source) call.frame.run.fail();
    return source
      ? known(source.text, source.place(0))
      : unknown(path === undefined ? reason("file-name-missing") : reason("not-there", { what: path }), call.place);
  }

  /** What JSON or YAML holds, with the places in the file where it is the text of one. */
  private parsed(text: Result | undefined, call: CallPart): Result {
    if (text?.kind !== "known") return text?.kind === "unknown" ? text : unknown(reason("text-missing"), call.place);
    const { file } = text.place;
    if (text.place.line === 1 && this.project.text(file)?.text === text.text) {
      const data = /\.ya?ml$/.test(file) || call.path?.[0] === "YAML" ? this.project.yaml(file) : this.project.json(file);
      return data?.root ? fromData(data.root) : unknown(reason("unreadable", { what: file }), call.place);
    }
    return fromText(text.text, text.place) ?? unknown(reason("text-unreadable"), call.place);
  }

  private globbed(patterns: (string | undefined)[], call: CallPart): Result {
    const found: Result[] = [];
    for (const pattern of patterns) {
      if (pattern === undefined || this.inside(pattern) === undefined) return unknown(reason("files-outside"), call.place);
      const prefix = pattern.startsWith("./") ? "./" : "";
      for (const file of filesMatching(this.project.tree, this.folder, pattern)) found.push(known(prefix + file, call.place));
    }
    const list = listOf(found);
    const block = call.block();
    if (block) for (const item of found) runClosure(block, [item], call.frame);
    return list;
  }

  /** Other scripts of the project: their statements count as if they stood here. */
  private requireCall(dotted: string, call: CallPart): Result | undefined {
    switch (dotted) {
      case "require_relative":
      case "require":
      case "load": {
        const path = textIn(call.positional()[0]?.result);
        if (path === undefined) return NOTHING;
        const from = dotted === "require_relative" ? parentOf(call.frame.source.file) : this.folder;
        const file = [join(from, path), join(from, `${path}.rb`)].find((candidate) => this.project.tree.isFile(candidate));
        if (file !== undefined) this.run(file, call.frame);
        // A file of the project's own that is not there.
        else if ((dotted === "require_relative" || /^\.\.?\//.test(path)) && !isInstalled(join(from, path))) call.frame.run.fail();
        return NOTHING;
      }
      case "eval":
      case "instance_eval":
      case "self.instance_eval":
      case "binding.eval": {
        const text = call.positional()[0]?.result;
        if (text?.kind !== "known" || this.project.text(text.place.file)?.text !== text.text) return undefined;
        this.run(text.place.file, call.frame);
        return NOTHING;
      }
      default:
        return undefined;
    }
  }

  private readonly ran = new Set<string>();

  private run(file: string, frame: Frame): void {
    // Scripts of packages are the framework's, and are read where they are asked for.
    if (isInstalled(file) || file.startsWith("../") || this.ran.has(file)) return;
    const script = this.project.script(file, "ruby");
    if (!script) return;
    this.ran.add(file);
    const variables = new Variables(frame.variables.shared(), "script");
    execute(script.body, { ...frame, source: script.source, variables });
  }

  /** `send(:pod, …)`, `method(:pod)` */
  private reflection(call: CallPart): Result | undefined {
    const { name, path, expr, frame } = call;
    if (path?.length !== 1 && path?.[0] !== "self") return undefined;
    const [first] = call.expr.args;
    if (name === "method" && first) {
      const called = textIn(evaluate(first.value, frame));
      if (called === undefined) return undefined;
      const { start, end } = expr;
      const args: Expr = { kind: "spread", value: { kind: "name", name: "args", start, end }, start, end };
      const value = callOf({ kind: "name", name: called, start, end }, [{ value: args }], false);
      return {
        kind: "function",
        parameters: [{ name: "args", rest: "list" }],
        body: [{ kind: "expression", value, start, end }],
        frame,
        isMethod: false,
      };
    }
    if (/^(send|public_send|__send__)$/.test(name) && first) {
      const called = textIn(evaluate(first.value, frame));
      if (called === undefined) return undefined;
      return evaluate(
        { ...expr, callee: { kind: "name", name: called, start: expr.start, end: expr.start }, args: expr.args.slice(1) },
        frame,
      );
    }
    return undefined;
  }
}

function fromEnvironment(call: CallPart): Result {
  const why = unknown(reason("environment-when-installed"), call.place);
  const fallback = call.name === "fetch" ? call.positional()[1]?.result : undefined;
  return fallback?.kind === "known" ? either([why, fallback], call.place) : why;
}

function joinedPath(parts: readonly string[]): string {
  const absolute = parts[0]?.startsWith("/") ?? false;
  const path = join(...parts.map((part) => part.replace(/^\/+/, "")));
  return absolute ? `/${path}` : path === "" ? "." : path;
}

/** What a helper of the framework's scripts gives that takes no arguments. */
export function helperValue(project: ProjectFiles, source: Source, helpers: HelperScripts, name: string): Result {
  const frame = scriptFrame(source, new RubyHost(project, parentOf(source.file), helpers));
  return evaluate({ kind: "name", name, start: 0, end: 0 }, { ...frame, dialect: "ruby" });
}
