import type { CodeImport } from "../../model/code.js";
import type { Language } from "./languages.js";

/** The imports of one import statement. */
export function importsOf(language: Language, statement: string, from: number): CodeImport[] {
  switch (language) {
    case "kotlin":
    case "java": {
      const match = /^import\s+(?:static\s+)?([\w.]*\w)(\.\*)?(?:\s+as\s+(\w+))?/.exec(statement);
      if (!match) return [];
      const source = match[1] as string;
      const imported = source.split(".").at(-1) as string;
      return [{ source, names: match[2] ? [] : [{ local: match[3] ?? imported, imported }], from }];
    }
    case "swift": {
      const match = /\bimport\s+(?:(?:class|struct|func|enum|protocol|var|let|typealias)\s+)?([\w.]+)/.exec(statement);
      return match ? [{ source: match[1] as string, names: [], from }] : [];
    }
    case "objc": {
      const match = /^#\s*(?:import|include)\s*[<"]([^>"]+)[>"]|^@import\s+([\w.]+)/.exec(statement);
      return match ? [{ source: (match[1] ?? match[2]) as string, names: [], from }] : [];
    }
    case "dart": {
      const match =
        /^(?:import|export)\s+['"]([^'"]+)['"](?:\s+(?:deferred\s+)?as\s+(\w+))?/.exec(statement) ??
        /^['"]([^'"]+)['"](?:\s+(?:deferred\s+)?as\s+(\w+))?/.exec(statement);
      return match ? [{ source: match[1] as string, names: match[2] === undefined ? [] : [{ local: match[2], imported: "" }], from }] : [];
    }
    case "csharp": {
      const match = /^(?:global\s+)?using\s+(?:static\s+)?(?:(\w+)\s*=\s*)?([\w.]+)/.exec(statement);
      if (!match) return [];
      const source = match[2] as string;
      return [{ source, names: match[1] === undefined ? [] : [{ local: match[1], imported: source.split(".").at(-1) as string }], from }];
    }
    default:
      return scriptImport(statement, from);
  }
}

function scriptImport(statement: string, from: number): CodeImport[] {
  const source = /["']([^"']+)["']\s*(?:with\s*\{[^}]*\}\s*)?;?\s*$/.exec(statement)?.[1];
  // Imports of types alone are gone at run time.
  if (source === undefined || /^import\s+type\b/.test(statement)) return [];
  const clause = /^import\s+([\s\S]*?)\s+from\s+["']/.exec(statement)?.[1] ?? "";
  return [{ source, names: namesOfClause(clause), from }];
}

/** `a, { b as c }`, `* as d`, and the left side of `const { b: c } = require("x")`. */
export function namesOfClause(clause: string): { local: string; imported: string }[] {
  const names: { local: string; imported: string }[] = [];
  const whole = /\*\s*as\s+(\w+)/.exec(clause)?.[1];
  if (whole !== undefined) names.push({ local: whole, imported: "*" });
  const braces = /\{([\s\S]*)\}/.exec(clause)?.[1];
  for (const part of braces?.split(",") ?? []) {
    const match = /^\s*(?!type\s+\w)([\w$]+)(?:\s*(?:as|:)\s*([\w$]+))?/.exec(part);
    if (match) names.push({ local: match[2] ?? (match[1] as string), imported: match[1] as string });
  }
  const own = /^\s*([A-Za-z_$][\w$]*)/.exec(clause.replace(/\{[\s\S]*\}/, ""))?.[1];
  if (own !== undefined) names.push({ local: own, imported: "default" });
  return names;
}
