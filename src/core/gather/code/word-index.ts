/** How many names are looked for by searching the texts before their words are taken down. */
const MOST_SEARCHES = 60;

const WORD = /[\w$]+/g;

/** Finds the texts that have a name as a whole word, in a time that does not grow with names × texts. */
export class WordIndex<T extends { text: string }> {
  private searches = 0;
  private byWord: Map<string, T[]> | undefined;

  constructor(private readonly texts: readonly T[]) {}

  /** The texts in which a name stands, in their order, comments included. */
  having(name: string): readonly T[] {
    if (name === "") return [];
    if (!/^[\w$]+$/.test(name) || (!this.byWord && this.searches++ < MOST_SEARCHES))
      return this.texts.filter(({ text }) => text.includes(name));
    return (this.byWord ??= this.takeDown()).get(name) ?? [];
  }

  private takeDown(): Map<string, T[]> {
    const found = new Map<string, T[]>();
    for (const one of this.texts)
      for (const [word] of one.text.matchAll(WORD)) {
        const list = found.get(word);
        if (!list) found.set(word, [one]);
        else if (list.at(-1) !== one) list.push(one);
      }
    return found;
  }
}
