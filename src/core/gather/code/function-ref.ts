import type { CodeFile, CodeFunction, CodeValue } from "../../model/code.js";
import type { SourceFile } from "./sources.js";

/** A function with the file in which it stands; `index` -1 is the code of the file outside of any function. */
export interface FunctionRef {
  source: SourceFile;
  code: CodeFile;
  index: number;
}

export function functionOf({ code, index }: FunctionRef): CodeFunction | undefined {
  return code.functions[index];
}

/** Values of a file that are made when somebody asks for them, by their names. */
export function lazyValues({ values }: CodeFile): [string, CodeValue][] {
  return [...values].filter((entry): entry is [string, CodeValue] => entry[1]?.lazy === true);
}
