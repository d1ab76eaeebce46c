import type { CodeFile, CodeFunction } from "../../model/code.js";
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
