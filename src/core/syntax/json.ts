import { printParseErrorCode, visit, type ParseErrorCode } from "jsonc-parser";
import { listOf, mapOf, scalarOf, type Data, type DataFile, type ListData, type MapData } from "./data.js";
import { isInstalled } from "../model/paths.js";
import type { Source } from "./source.js";

/** The parser recurses: deeper texts would exhaust the stack. */
const DEEPEST = 500;

/** Thrown out of the parser at the first value that is nested too deeply. */
class TooDeep extends Error {}

/**
 * Files that their tools read as JSON and nothing more. Sources: docs.npmjs.com, "package.json" ("it must be actual JSON"); capacitorjs.com,
 * "Capacitor Configuration".
 */
const STRICT = /(^|\/)(package\.json|capacitor\.config\.json)$/;

/** Reads JSON in one pass, with comments and trailing commas allowed where tools allow them; what follows such a place is read all the same. */
export function readJson(source: Source): DataFile {
  const builder = new Builder(source);
  const isStrict = STRICT.test(source.file) && !isInstalled(source.file);
  try {
    visit(source.text, builder, { allowTrailingComma: !isStrict, disallowComments: isStrict, allowEmptyContent: false });
  } catch (error) {
    if (!(error instanceof TooDeep)) throw error;
    return { source, root: undefined, problems: [source.problem(`nested more than ${DEEPEST} levels deep`, 0)] };
  }
  const { first, root } = builder;
  const problems = first ? [source.problem(`not valid JSON: ${spaced(printParseErrorCode(first.error))}`, first.offset)] : [];
  return { source, root, problems };
}

/** Makes the tree of what the parser meets. */
class Builder {
  root: Data | undefined;
  first: { error: ParseErrorCode; offset: number } | undefined;
  /** The objects and lists around, and for each object the key that waits for its value. */
  private readonly around: (MapData | ListData)[] = [];
  private readonly keys: ({ name: string; start: number } | undefined)[] = [];

  constructor(private readonly source: Source) {}

  private add(data: Data): void {
    const parent = this.around.at(-1);
    if (!parent) this.root ??= data;
    else if (parent.kind === "list") parent.items.push(data);
    else {
      const key = this.keys.at(-1);
      if (key) parent.entries.set(key.name, { start: key.start, value: data });
      this.keys[this.keys.length - 1] = undefined;
    }
  }

  private open(data: MapData | ListData): void {
    if (this.around.length === DEEPEST) throw new TooDeep();
    this.add(data);
    this.around.push(data);
    this.keys.push(undefined);
  }

  private close(): void {
    this.around.pop();
    this.keys.pop();
  }

  readonly onObjectBegin = (offset: number): void => this.open(mapOf(this.source, offset));
  readonly onArrayBegin = (offset: number): void => this.open(listOf(this.source, offset));
  readonly onObjectEnd = (): void => this.close();
  readonly onArrayEnd = (): void => this.close();

  readonly onObjectProperty = (name: string, offset: number): void => {
    this.keys[this.keys.length - 1] = { name, start: offset + 1 };
  };

  readonly onLiteralValue = (value: string | number | boolean | null, offset: number): void =>
    this.add(scalarOf(this.source, typeof value === "string" ? offset + 1 : offset, value));

  readonly onError = (error: ParseErrorCode, offset: number): void => {
    this.first ??= { error, offset };
  };
}

function spaced(code: string): string {
  return code.replace(/([a-z])([A-Z])/g, "$1 $2").toLowerCase();
}
