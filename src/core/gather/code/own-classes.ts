import { withoutComments } from "../../syntax/comments.js";
import type { SourceFile } from "./sources.js";

/** A class of the app's own code for Android. */
export interface OwnClass {
  /** With its package. */
  full: string;
  name: string;
  package: string;
  /** What stands behind its name, up to its body. */
  header: string;
  source: SourceFile;
  offset: number;
  abstract: boolean;
}

/** Where the header of a class without a body ends. */
const NEXT_DECLARATION =
  /\n\s*(?=@|(?:(?:public|private|internal|protected|open|abstract|data|sealed|enum)\s+)*(?:class|object|interface|fun|val|var)\b)/;

export function classesIn(source: SourceFile): OwnClass[] {
  const text = withoutComments(source.text);
  const own = /^\s*package\s+([\w.]+)/m.exec(text)?.[1] ?? "";
  return [...text.matchAll(/((?:\b(?:abstract|sealed)\s+)?)\b(?:class|object|interface)\s+(\w+)(?=([^{;]{0,400}))/g)].map(
    (match): OwnClass => ({
      full: own === "" ? (match[2] as string) : `${own}.${match[2] as string}`,
      name: match[2] as string,
      package: own,
      header: (match[3] ?? "").split(NEXT_DECLARATION, 1)[0] ?? "",
      source,
      offset: match.index + match[0].indexOf(match[2] as string, (match[1] ?? "").length),
      abstract: match[1] !== "" || /\babstract\b[^\n]*$/.test(text.slice(text.lastIndexOf("\n", match.index) + 1, match.index)),
    }),
  );
}

export function isJvm({ side, language }: SourceFile): boolean {
  return side === "android" && (language === "kotlin" || language === "java");
}

/** The app's own classes for Android, looked for where they can be: no file is read for what it does not name. */
export class OwnClasses {
  private readonly sources: readonly SourceFile[];
  private readonly packages = new Map<string, SourceFile[]>();
  private readonly read = new Map<SourceFile, OwnClass[]>();

  constructor(sources: readonly SourceFile[]) {
    this.sources = sources.filter(isJvm);
    for (const source of this.sources) {
      const own = /^\s*package\s+([\w.]+)/m.exec(source.text.slice(0, 4_000))?.[1] ?? "";
      const list = this.packages.get(own);
      if (list) list.push(source);
      else this.packages.set(own, [source]);
    }
  }

  get any(): boolean {
    return this.sources.length > 0;
  }

  hasPackage(name: string): boolean {
    return this.packages.has(name);
  }

  /** The classes of a simple name, in any package. */
  named(name: string): OwnClass[] {
    return this.sources.filter(({ text }) => text.includes(name)).flatMap((source) => this.of(source).filter((type) => type.name === name));
  }

  inPackage(name: string): OwnClass[] {
    return (this.packages.get(name) ?? []).flatMap((source) => this.of(source));
  }

  private of(source: SourceFile): OwnClass[] {
    const known = this.read.get(source) ?? classesIn(source);
    this.read.set(source, known);
    return known;
  }
}
