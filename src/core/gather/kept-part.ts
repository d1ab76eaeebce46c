import { MARK, type AskLog, type KeptValues } from "../files/tree.js";
import type { Problem } from "../syntax/source.js";
import type { Reason } from "../model/reason.js";

/** A file that could not be read or parsed in full. */
export interface Unreadable extends Problem {
  file: string;
}

/** A file that was read, by the form in which it was parsed, and what is wrong in it. */
type Read = [key: string, problems: Unreadable[]];

/** A part as it is kept: what was made, and of each step what was read and which archives could not be opened. */
interface Kept<T> {
  made: T;
  steps: { at: Stage; read: Read[]; closed: [file: string, why: Reason][] }[];
}

/** When a step is done: with the part itself, or later, while others wait for each other. */
export type Stage = "at once" | "meanwhile" | "at the end";

/** The files that a part is made of. */
export interface PartFiles {
  kept: KeptValues;
  log: AskLog;
  /** What cannot be listed or opened so far, and why. */
  closed: Map<string, Reason>;
  problemsOf(key: string): Unreadable[];
  /** Tells what is wrong in a file, as if it had been read now. */
  note(key: string, problems: Unreadable[]): void;
}

/**
 * Plain data that is made of files in some steps, between which others may work. Where nothing changed that it rests on, `known` is what an
 * earlier run made, and nothing is to be done but to `replay` each step: what is wrong in the files that it read is told as if they had
 * been read.
 */
export class KeptPart<T> {
  readonly known: T | undefined;
  /** Stands for all that the part rests on; `undefined` until it is made, and where nothing is kept. */
  key: string | undefined;
  private readonly steps: Kept<T>["steps"] = [];
  private readonly asks = new Set<string>();
  private readonly inner = new Set<string>();

  /** @param inputs all that it rests on besides files */
  constructor(
    private readonly name: string,
    private readonly inputs: readonly string[],
    private readonly files: PartFiles | undefined,
  ) {
    const known = files?.kept.open(name, inputs);
    if (!known) return;
    const { made, steps } = known.value as Kept<T>;
    this.known = made;
    this.key = known.key;
    this.steps = steps;
    files?.log.again(known.asks);
  }

  /** Whether what is made may be kept. */
  get isKept(): boolean {
    return this.files !== undefined;
  }

  /** Tells again what the steps of an earlier run told at a stage. */
  replay(stage: Stage): void {
    const { steps, files } = this;
    if (this.known === undefined || !files) return;
    for (const { at, closed, read } of steps) {
      if (at !== stage) continue;
      for (const [file, why] of closed) files.closed.set(file, why);
      for (const [key, problems] of read) files.note(key, problems);
    }
  }

  /** Does a step; what it asks of the files is what the part rests on. */
  step<R>(work: () => R, at: Stage = "at once"): R {
    const { files } = this;
    if (!files) return work();
    const told = new Set(files.closed.keys());
    const { value, inner } = files.kept.within(() => files.log.logged(work));
    for (const id of inner) this.inner.add(id);
    const sizes = new Set(value.asks.filter((ask) => ask.startsWith("s")));
    this.steps.push({
      at,
      read: value.asks.flatMap((ask) => (ask.startsWith(MARK) ? [[ask.slice(1), files.problemsOf(ask.slice(1))]] : [])),
      closed: [...files.closed].filter(([file]) => !told.has(file) || sizes.has(`s${file}`)),
    });
    // Asks are kept in the clear, and what is wrong in a file may quote it.
    for (const ask of value.asks) if (!ask.startsWith(MARK)) this.asks.add(ask);
    return value.value;
  }

  /** Keeps what was made, at the end of the run; nothing is worked out for it where nothing is kept. */
  keep(make: () => T | undefined): void {
    const { name, inputs, files, steps, asks, inner } = this;
    const made = files && make();
    if (made === undefined) return;
    this.key = files?.kept.keep(name, inputs, { value: { made, steps } satisfies Kept<T>, asks: [...asks], inner: [...inner] });
  }
}
