/** The code that a component's file comes to, and where each of its characters stands in the file. */
export interface ComponentScript {
  text: string;
  offsetOf: (at: number) => number;
}

/** A text that is put together from pieces of another one. */
export class Pieces implements ComponentScript {
  text = "";
  private readonly pieces: { at: number; from: number; length: number }[] = [];

  constructor(private readonly original: string) {}

  take(from: number, to: number): void {
    this.pieces.push({ at: this.text.length, from, length: to - from });
    this.text += this.original.slice(from, to);
  }

  add(text: string): void {
    this.text += text;
  }

  /** Where a character stands in the file; of what was added the end of what is before it. */
  readonly offsetOf = (at: number): number => {
    let [low, high] = [0, this.pieces.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.pieces[middle]?.at ?? 0) > at) high = middle;
      else low = middle + 1;
    }
    const piece = this.pieces[low - 1];
    return piece ? piece.from + Math.min(at - piece.at, piece.length) : 0;
  };
}
