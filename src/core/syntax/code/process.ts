import { fork, type ChildProcess } from "node:child_process";
import path from "node:path";
import type { CodeFile, Language } from "../../model/code.js";
import { grammarFolder } from "./grammars.js";

/** What is sent to the process that parses: languages to make ready, or a file. */
export type ToParser = { languages: Language[] } | { id: number; language: Language; text: string };

/** What comes back: it runs, it begins with a file, a file's code, or why there is none. */
export type FromParser = { ready: true } | { begun: number } | { id: number; code: CodeFile } | { id: number; failed: string };

/** What became of a file: its code, or why there is none, in words that follow "it could not be read:". */
export type ParsedCode = { code: CodeFile } | { failed: string };

/** How long one file may take, in milliseconds. Some shapes keep a grammar busy for ever, and only ending the process stops it. */
const FILE_LIMIT = 1_900;
/** After so many files that had to be stopped, the others of the same call are not tried any more. */
const MOST_STOPPED = 4;
/** How long the process may take to start, in milliseconds. */
const START_LIMIT = 30_000;

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

/** Reads files of source code in a process of its own; in the order of the files. Never rejects: what could not be read says why. */
export async function parseCode(files: readonly { language: Language; text: string }[]): Promise<ParsedCode[]> {
  const results: ParsedCode[] = [];
  let stopped = 0;
  let flags = true;
  while (results.length < files.length) {
    if (stopped >= MOST_STOPPED) {
      results.push({ failed: "other files took too long to parse" });
      continue;
    }
    parser = parser?.usable ? parser : new Parser(flags);
    const end = await parser.read(files.slice(results.length), results);
    if (end === "done") break;
    if (end === "stopped") {
      stopped++;
      results.push({ failed: "it takes too long to parse" });
    } else if (end === "not started" && flags) flags = false;
    else results.push({ failed: end === "not started" ? "the process that parses does not start" : "it ends the parser" });
  }
  return results;
}

class Parser {
  private readonly child: ChildProcess | undefined;
  private readonly started: Promise<boolean>;
  private next = 0;
  private listener: ((message: FromParser | undefined) => void) | undefined;
  usable = true;

  /** @param baseline whether V8 is to use its baseline compiler alone */
  constructor(baseline: boolean) {
    // Options for Node.js that a person sets are for their own programs.
    const env = Object.fromEntries(Object.entries(process.env).filter(([name]) => name !== "NODE_OPTIONS"));
    try {
      this.child = fork(path.join(grammarFolder(), "parse.cjs"), [], {
        execArgv: baseline ? ["--liftoff-only"] : [],
        env,
        serialization: "advanced",
        stdio: ["ignore", "ignore", "ignore", "ipc"],
        ...{ windowsHide: true },
      });
    } catch {
      this.usable = false;
      this.started = Promise.resolve(false);
      return;
    }
    const { child } = this;
    this.started = new Promise((resolve) => {
      const limit = setTimeout(() => resolve(false), START_LIMIT);
      limit.unref();
      const settle = (ready: boolean): void => {
        clearTimeout(limit);
        if (!ready) this.usable = false;
        resolve(ready);
      };
      child.on("message", (message: FromParser) => {
        if ("ready" in message) settle(true);
        else this.listener?.(message);
      });
      child.on("error", () => {
        settle(false);
        this.listener?.(undefined);
      });
      child.on("exit", () => {
        settle(false);
        this.listener?.(undefined);
      });
    });
    process.once("exit", () => child.kill("SIGKILL"));
    this.idle();
  }

  send(message: ToParser): void {
    if (this.usable && this.child?.connected) this.child.send(message, () => undefined);
  }

  /** An idle process keeps no program from ending. */
  private idle(): void {
    this.child?.unref();
    this.child?.channel?.unref();
  }

  /** Reads files into `results`; says how it ended. */
  async read(
    files: readonly { language: Language; text: string }[],
    results: ParsedCode[],
  ): Promise<"done" | "stopped" | "ended" | "not started"> {
    this.child?.ref();
    this.child?.channel?.ref();
    try {
      if (!(await this.started)) return "not started";
      return await new Promise((resolve) => {
        const first = this.next;
        let limit: NodeJS.Timeout | undefined;
        let open = files.length;
        const end = (how: "done" | "stopped" | "ended"): void => {
          clearTimeout(limit);
          this.listener = undefined;
          if (how !== "done") {
            this.usable = false;
            this.child?.kill("SIGKILL");
          }
          resolve(how);
        };
        this.listener = (message) => {
          clearTimeout(limit);
          if (message === undefined) end("ended");
          else if ("begun" in message) {
            // This process may have been busy for as long, with the answer waiting to be read: one more look.
            limit = setTimeout(() => (limit = setTimeout(() => end("stopped"), 20)), FILE_LIMIT);
          } else if ("id" in message && message.id >= first) {
            results.push("code" in message ? { code: message.code } : { failed: message.failed });
            if (--open === 0) end("done");
          }
        };
        for (const { language, text } of files) this.send({ id: this.next++, language, text });
      });
    } finally {
      this.idle();
    }
  }
}
