import type { Place } from "../model/place.js";

/** Something that is wrong in a file; `place` says where reading broke. */
export interface Problem {
  message: string;
  place: Place;
  /** A template engine's placeholder or the like: known to be unreadable, nobody's mistake. */
  template?: boolean;
}

/** The text of one file; turns offsets (UTF-16 units, from 0) into places. A byte order mark is taken off. */
export class Source {
  readonly file: string;
  readonly text: string;
  private starts: number[] | undefined;

  constructor(file: string, text: string) {
    this.file = file;
    this.text = text.charCodeAt(0) === 0xfeff ? text.slice(1) : text;
  }

  place(offset: number): Place {
    const starts = (this.starts ??= lineStarts(this.text));
    let low = 0;
    let high = starts.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((starts[middle] ?? 0) <= offset) low = middle;
      else high = middle - 1;
    }
    return { file: this.file, line: low + 1, column: offset - (starts[low] ?? 0) + 1 };
  }

  /** The offset of a place in this file. */
  offset({ line, column }: Place): number {
    const starts = (this.starts ??= lineStarts(this.text));
    return (starts[line - 1] ?? 0) + column - 1;
  }

  problem(message: string, offset: number): Problem {
    return { message, place: this.place(Math.min(offset, this.text.length)) };
  }
}

function lineStarts(text: string): number[] {
  const starts = [0];
  for (let index = text.indexOf("\n"); index !== -1; index = text.indexOf("\n", index + 1)) starts.push(index + 1);
  return starts;
}
