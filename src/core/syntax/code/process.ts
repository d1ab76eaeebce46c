import type { ChildProcess } from "node:child_process";
import { availableParallelism, loadavg } from "node:os";
import { deserialize } from "node:v8";
import type { CodeFile, Language } from "../../model/code.js";
import { forkParser, type ForkedParser } from "./child.js";
import type { SyntaxNode } from "./grammars.js";
import { reason, type Reason } from "../../model/reason.js";

/** What is sent to the process that parses: languages to make ready, or a file, of which its code or its whole tree is asked for. */
export type ToParser = { languages: Language[] } | { id: number; language: Language; text: string; wanted: "code" | "tree" };

/** What comes back: it runs, it begins with a file, a file's code or tree as packed bytes (`v8.serialize`), or why there is none. */
export type FromParser = { ready: true } | { begun: number } | { id: number; packed: Uint8Array } | { id: number; failed: Reason };

/** What became of a file: its code, or why there is none. */
export type ParsedCode = { code: CodeFile } | { failed: Reason };
export type ParsedTree = { tree: SyntaxNode } | { failed: Reason };

/**
 * How long one file may take, in milliseconds, on a machine with nothing else to do. Some shapes keep a grammar busy for ever, and only ending
 * the process stops it.
 */
const FILE_LIMIT = 1_900;
/** How many times as long it may be at most, where more programs want to run than there are processors. */
const MOST_PATIENCE = 4;
/** After so many files that had to be stopped, the others of the same call are not tried any more. */
const MOST_STOPPED = 4;
/** How long the process may take to start, in milliseconds. */
const START_LIMIT = 30_000;

/** How much longer things take now than on an idle machine; 1 where the system does not say. */
function patience(): number {
  return Math.min(MOST_PATIENCE, Math.max(1, (loadavg()[0] ?? 0) / availableParallelism()));
}

/** A file that waits for its code. `batch` counts the files of one run that had to be stopped. */
interface Request {
  language: Language;
  text: string;
  wanted: "code" | "tree";
  batch: Batch;
  resolve: (result: Uint8Array | { failed: Reason }) => void;
}

/** The files of one run. */
export interface Batch {
  stopped: number;
  /** What earlier runs read in files of the same text. */
  kept?: KeptCode | undefined;
}

/** Code of files that is kept between runs, by what it was read from. */
export interface KeptCode {
  open(name: string, inputs: readonly string[]): { value: unknown } | undefined;
  keep(name: string, inputs: readonly string[], made: { value: unknown; asks: readonly string[]; inner: readonly string[] }): unknown;
}

let parser: Parser | undefined;

/**
 * Starts the process that parses and makes languages ready, so that it gets to work beside this one. V8's optimising compiler takes
 * seconds for some grammars, its baseline compiler milliseconds; which of them it uses can on Node.js 24 only be said when a process starts.
 */
export function startParser(languages: Iterable<Language>): void {
  const list = [...languages];
  if (list.length === 0) return;
  if (!parser?.usable) parser = new Parser(true);
  parser.send({ languages: list });
}

/** Takes over a process that was started before this code was loaded; nothing happens where that did not work, and a second one is ended. */
export function adoptParser(forked: ForkedParser | undefined): void {
  if (!forked) return;
  const { child } = forked;
  if (parser?.usable) child.kill("SIGKILL");
  else if (child.exitCode === null && child.connected) parser = new Parser(true, forked);
}

/**
 * Reads a file of source code in a process of its own, which begins with it as soon as it has done with those before. Never rejects: what
 * could not be read says why.
 */
export function parseCode(file: { language: Language; text: string }, batch: Batch): Promise<ParsedCode> {
  return parsed(file, "code", batch, (code) => ({ code: code as CodeFile }));
}

/** The same for the whole syntax tree of a file, where more than its calls is needed: what a program that runs at build time does. */
export function parseWhole(file: { language: Language; text: string }, batch: Batch): Promise<ParsedTree> {
  return parsed(file, "tree", batch, (tree) => ({ tree: tree as SyntaxNode }));
}

function parsed<T>(
  { language, text }: { language: Language; text: string },
  wanted: "code" | "tree",
  batch: Batch,
  of: (value: unknown) => T,
): Promise<T | { failed: Reason }> {
  const inputs = [language, text];
  const known = batch.kept?.open(wanted, inputs);
  if (known) return Promise.resolve(of(deserialize(known.value as Uint8Array)));
  return new Promise((resolve) =>
    enqueue({
      language,
      text,
      wanted,
      batch,
      resolve: (result) => {
        if (!(result instanceof Uint8Array)) return resolve(result);
        batch.kept?.keep(wanted, inputs, { value: result, asks: [], inner: [] });
        resolve(of(deserialize(result)));
      },
    }),
  );
}

function enqueue(request: Request): void {
  if (request.batch.stopped >= MOST_STOPPED) request.resolve({ failed: reason("parser-busy") });
  else (parser = parser?.usable ? parser : new Parser(parser?.flags ?? true)).read(request);
}

class Parser {
  private readonly child: ChildProcess | undefined;
  private next = 0;
  /** What was sent and is not answered, in order. */
  private readonly open = new Map<number, Request>();
  private limit: NodeJS.Timeout | undefined;
  private readonly startLimit: NodeJS.Timeout;
  private ready = false;
  usable = true;
  /** Whether the next process is to be started with the same options: some do not know them. */
  flags: boolean;

  /**
   * @param baseline whether V8 is to use its baseline compiler alone
   * @param forked a process that runs already
   */
  constructor(baseline: boolean, forked = forkParser(baseline)) {
    this.flags = baseline;
    this.startLimit = setTimeout(() => this.end("not started"), START_LIMIT);
    this.startLimit.unref();
    if (!forked) {
      // What is sent to it meanwhile is given back.
      setImmediate(() => this.end("not started"));
      return;
    }
    this.child = forked.child;
    if (forked.ready) this.hear({ ready: true });
    const { child } = this;
    child.on("message", (message: FromParser) => this.hear(message));
    child.on("error", () => this.end(this.ready ? "ended" : "not started"));
    child.on("exit", () => this.end(this.ready ? "ended" : "not started"));
    this.idle();
  }

  send(message: ToParser): void {
    if (this.usable && this.child?.connected) this.child.send(message, () => undefined);
  }

  read(request: Request): void {
    const id = this.next++;
    this.open.set(id, request);
    this.child?.ref();
    this.child?.channel?.ref();
    this.send({ id, language: request.language, text: request.text, wanted: request.wanted });
  }

  private hear(message: FromParser): void {
    if ("ready" in message) {
      this.ready = true;
      clearTimeout(this.startLimit);
      return;
    }
    clearTimeout(this.limit);
    if ("begun" in message) {
      // This process may have been busy for as long, with the answer waiting to be read: one more look.
      this.limit = setTimeout(() => (this.limit = setTimeout(() => this.end("stopped"), 20)), FILE_LIMIT * patience());
      return;
    }
    const request = this.open.get(message.id);
    this.open.delete(message.id);
    if (this.open.size === 0) this.idle();
    request?.resolve("packed" in message ? message.packed : { failed: message.failed });
  }

  /** The end of the process: the file that it was at is given up, the ones behind go to another. */
  private end(how: "stopped" | "ended" | "not started"): void {
    if (!this.usable) return;
    this.usable = false;
    clearTimeout(this.limit);
    clearTimeout(this.startLimit);
    this.child?.kill("SIGKILL");
    const [first, ...behind] = this.open.values();
    this.open.clear();
    if (!first) return;
    if (how === "not started") {
      // Once more without the options; without a process that starts there is no code at all.
      if (!this.flags) for (const { resolve } of [first, ...behind]) resolve({ failed: reason("parser-does-not-start") });
      else {
        this.flags = false;
        for (const request of [first, ...behind]) enqueue(request);
      }
      return;
    }
    if (how === "stopped") first.batch.stopped++;
    first.resolve({ failed: how === "stopped" ? reason("parses-too-long") : reason("ends-parser") });
    for (const request of behind) enqueue(request);
  }

  /** An idle process keeps no program from ending. */
  private idle(): void {
    this.child?.unref();
    this.child?.channel?.unref();
  }
}
