import type { CodeFile, Guard } from "../../model/code.js";
import { escaped } from "./mentions.js";
import type { Program } from "./program.js";

/** Words of all languages that declare what keeps its value. */
const KEEPS = "\\b(?:const|val|let|final|readonly|static)\\b";

/** Conditions that ask a constant of the app's own which is always the same: what is behind it runs never, or as if it were not there. */
export function settleConstants(program: Program): void {
  const known = new Map<string, boolean | undefined>();
  for (const { code, source } of program.files)
    for (const { guards } of code.calls)
      for (let i = guards.length - 1; i >= 0; i--) {
        const guard = guards[i] as Guard;
        const asked =
          guard.compiled || (guard.kind !== "other" && guard.kind !== "presence")
            ? undefined
            : /^(not \()?(!?)\s*((?:[A-Za-z_$][\w$]*\.)*([A-Za-z_$][\w$]{2,}))\)?$/.exec(guard.text);
        if (!asked) continue;
        const [, not, turned, path = "", name = ""] = asked;
        const key = `${source.file} ${path}`;
        if (!known.has(key)) known.set(key, valueOf(program, code, path.split("."), name));
        const value = known.get(key);
        if (value === undefined) continue;
        if (value === ((not === undefined) === (turned === ""))) guards.splice(i, 1);
        else guards[i] = { kind: "never", text: `behind ${path}, which is always ${String(value)}` };
      }
}

/** The value of a constant that a file declares outside of functions, or a type whose name stands before it. */
function valueOf(program: Program, code: CodeFile, path: readonly string[], name: string): boolean | undefined {
  const type = path.length > 1 ? path.at(-2) : undefined;
  const own = type === undefined || /^(?:this|self|Self)$/.test(type);
  const ranges = own ? [{ code, from: 0, to: code.plain.length }] : program.types(type).map((one) => ({ code: one.code, ...one.type }));
  const found = ranges.flatMap(({ code: { plain, functions }, from, to }) =>
    [
      ...plain
        .slice(from, to)
        .matchAll(
          new RegExp(`${KEEPS}[^=\\n;{}()]{0,60}?\\b${escaped(name)}\\b[^=\\n;(){}]{0,40}=\\s*(true|false)\\s*(?=[;\\n,}]|$)`, "g"),
        ),
    ].filter(({ index }) => !functions.some((fn) => fn.kind === "function" && fn.from < from + index && fn.to > from + index)),
  );
  const [only, ...more] = found;
  // What gets another value later is no constant.
  const isSet = ranges.some(({ code: { plain } }) =>
    new RegExp(`(?:^|[;{}\\n(])\\s*(?:[\\w$]+\\.)*${escaped(name)}\\s*=(?!=)`).test(plain),
  );
  return only && more.length === 0 && !isSet && !/\bvar\b/.test(only[0]) ? only[1] === "true" : undefined;
}
