import type { Result } from "./values.js";
import { joined } from "./values.js";
import type { Place } from "../model/place.js";
import type { Outcome } from "./frame.js";

const MAX_STEPS = 200_000;
/** Calls of functions inside of each other, and expressions inside of each other. */
const MAX_DEPTH = 60;
const MAX_NESTING = 250;
/** Of a text, in UTF-16 units: no version, path or address is as long. */
export const MAX_TEXT = 65_536;
/** Of a list or map. */
export const MAX_ITEMS = 20_000;
/** How often a loop is run at most. */
export const MOST_ROUNDS = 2_000;
/** Milliseconds for all that one run works out. */
const TIME_LIMIT = 2_000;

type Cells = Map<string, Result>;

/** What all that is worked out for one file may spend, and what it changes: one for each file that is read. */
export class Run {
  depth = 0;
  nesting = 0;
  /** How many values could not be worked out. */
  doubts = 0;
  /** An end of something further out, on its way there. */
  leaving: Outcome | undefined;
  /** How many bodies around have something that runs where they fail. */
  guards = 0;
  /** Functions that are being run, with what was handed over. */
  readonly calls: { body: unknown; key: string }[] = [];
  private steps = 0;
  private spent = 0;
  private since: number | undefined;
  private active = 0;
  private journal: Map<Cells, Map<string, Result | undefined>> | undefined;

  /** Counts a step; `true` when nothing more may be spent. */
  exhausted(): boolean {
    if (++this.steps % 256 === 0 && this.since !== undefined && this.spent + performance.now() - this.since > TIME_LIMIT)
      this.steps = MAX_STEPS;
    return this.steps > MAX_STEPS || this.depth > MAX_DEPTH || this.nesting > MAX_NESTING;
  }

  /** Work whose time counts; that of what else is done with the file does not. */
  timed<T>(work: () => T): T {
    if (this.active++ === 0) this.since = performance.now();
    try {
      return work();
    } finally {
      if (--this.active === 0 && this.since !== undefined) {
        this.spent += performance.now() - this.since;
        this.since = undefined;
        // Many small questions are none that is too involved.
        if (this.steps < MAX_STEPS) this.steps = 0;
      }
    }
  }

  /** Says that what runs stops here for certain; only where something around it is made for that. */
  fail(): void {
    if (this.guards > 0) this.leaving = { value: undefined, end: "raise", sure: true };
  }

  /** Every change of a variable goes through here, so that it can be taken back. */
  write(cells: Cells, name: string, value: Result): void {
    if (this.journal) {
      let changed = this.journal.get(cells);
      if (!changed) this.journal.set(cells, (changed = new Map()));
      if (!changed.has(name)) changed.set(name, cells.get(name));
    }
    cells.set(name, value);
  }

  /**
   * Runs several branches of which nobody can tell which one is taken, each from the same state, and leaves in every variable all the values
   * that it may have then. A branch that `drops` says cannot have been taken leaves nothing.
   */
  fork<B, T>(branches: readonly B[], place: () => Place, work: (branch: B) => T, drops: (result: T) => boolean = () => false): T[] {
    const outer = this.journal;
    const ways: { cells: Cells; name: string; value: Result | undefined }[][] = [];
    const touched = new Map<Cells, Map<string, Result | undefined>>();
    const results: T[] = [];
    let kept = 0;
    for (const branch of branches) {
      const journal: NonNullable<Run["journal"]> = (this.journal = new Map());
      const result = work(branch);
      results.push(result);
      const way: (typeof ways)[number] = [];
      for (const [cells, names] of journal)
        for (const [name, before] of names) {
          way.push({ cells, name, value: cells.get(name) });
          if (before) cells.set(name, before);
          else cells.delete(name);
          if (!drops(result)) {
            let of = touched.get(cells);
            if (!of) touched.set(cells, (of = new Map()));
            if (!of.has(name)) of.set(name, before);
          }
        }
      if (drops(result)) continue;
      kept++;
      ways.push(way);
    }
    this.journal = outer;
    if (kept === 0) return results;
    for (const [cells, names] of touched)
      for (const [name, before] of names) {
        const values = ways.map(
          (way) => way.find((cell) => cell.cells === cells && cell.name === name)?.value ?? before ?? { kind: "nothing" as const },
        );
        this.write(cells, name, joined(values, place()));
      }
    return results;
  }
}
