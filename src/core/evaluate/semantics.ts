import type { KnownValue } from "../model/value.js";

/** The languages whose expressions are worked out: what an operator means differs in each. */
export type DialectName = "groovy" | "kotlin" | "ruby" | "javascript" | "swift";

/** The language of a script, by its name. */
export function dialectOf(file: string): DialectName {
  if (/(^|\/)(Podfile|Gemfile|Fastfile)$|\.(rb|podspec)$/.test(file)) return "ruby";
  if (file.endsWith(".swift")) return "swift";
  if (/\.kts?$/.test(file)) return "kotlin";
  return /\.[cm]?[jt]sx?$/.test(file) ? "javascript" : "groovy";
}

type Kind = "text" | "number" | "boolean";

export function kindOf(value: KnownValue): Kind {
  return value.type ?? "text";
}

/**
 * Whether a value counts as true. Sources: groovy-lang.org, "Semantics", "Groovy Truth"; ruby-doc.org, "Control Expressions"; tc39.es,
 * ToBoolean; Kotlin and Swift take nothing but booleans (`undefined`: no such program would run).
 */
export function isTrue(value: KnownValue, dialect: DialectName): boolean | undefined {
  const kind = kindOf(value);
  if (kind === "boolean") return value.text === "true";
  switch (dialect) {
    case "ruby":
      return true;
    case "groovy":
    case "javascript":
      return kind === "number" ? Number(value.text) !== 0 : value.text !== "";
    default:
      return undefined;
  }
}

/** What an operator between two known values gives, with its kind; `undefined` where the language has no such operation, or it is not known. */
export function compute(
  operator: string,
  left: KnownValue,
  right: KnownValue,
  dialect: DialectName,
): { text: string; type?: "number" | "boolean" } | undefined {
  const [a, b] = [kindOf(left), kindOf(right)];
  const numbers = a === "number" && b === "number";
  switch (operator) {
    case "==":
    case "===":
    case "!=":
    case "!==": {
      // Values of two kinds are equal by rules of each language's own; what is the same text is not told to be another.
      if (a !== b) return undefined;
      const same = numbers ? Number(left.text) === Number(right.text) : left.text === right.text;
      return { text: String(same === operator.startsWith("=")), type: "boolean" };
    }
    case "+":
      if (numbers) return sum(left.text, right.text, 1);
      if (a === "text" && b === "text") return { text: left.text + right.text };
      // Ruby and Swift join texts with texts alone; Kotlin wants the text first.
      if (dialect === "groovy" || dialect === "javascript" || (dialect === "kotlin" && a === "text"))
        return a === "text" || b === "text" ? { text: left.text + right.text } : undefined;
      return undefined;
    case "-":
      return numbers ? sum(left.text, right.text, -1) : undefined;
    case "*":
      return numbers && /^-?\d+$/.test(left.text) && /^-?\d+$/.test(right.text)
        ? { text: String(BigInt(left.text) * BigInt(right.text)), type: "number" }
        : undefined;
    case "<":
    case ">":
    case "<=":
    case ">=": {
      if (!numbers) return undefined;
      const [x, y] = [Number(left.text), Number(right.text)];
      const holds = operator === "<" ? x < y : operator === ">" ? x > y : operator === "<=" ? x <= y : x >= y;
      return { text: String(holds), type: "boolean" };
    }
    default:
      return undefined;
  }
}

/** Of whole numbers, and of decimal ones with all their places: scripts with such sums count money or versions, and none of them in binary. */
function sum(a: string, b: string, sign: 1 | -1): { text: string; type: "number" } | undefined {
  const plain = /^-?\d{1,30}(\.\d{1,30})?$/;
  if (!plain.test(a) || !plain.test(b)) return undefined;
  const places = Math.max(...[a, b].map((text) => text.split(".")[1]?.length ?? 0));
  const scaled = (text: string): bigint => {
    const [whole = "", part = ""] = text.split(".");
    return BigInt(whole + part.padEnd(places, "0"));
  };
  const total = scaled(a) + BigInt(sign) * scaled(b);
  if (places === 0) return { text: String(total), type: "number" };
  const digits = String(total < 0n ? -total : total).padStart(places + 1, "0");
  return { text: `${total < 0n ? "-" : ""}${digits.slice(0, -places)}.${digits.slice(-places)}`, type: "number" };
}

/** A text read as a boolean. Sources: Groovy's StringGroovyMethods.toBoolean; kotlinlang.org, String.toBoolean; java.lang.Boolean.parseBoolean. */
export function toBoolean(text: string, dialect: DialectName): boolean {
  return dialect === "groovy" ? /^\s*(y|true|1)\s*$/i.test(text) : text.toLowerCase() === "true";
}

/** A text read as a whole number; `undefined` where the language would stop. Ruby reads as far as there are digits. */
export function toInteger(text: string, dialect: DialectName): string | undefined {
  if (dialect === "ruby" || dialect === "javascript") return /^\s*(-?\d+)/.exec(text)?.[1] ?? (dialect === "ruby" ? "0" : undefined);
  return /^-?\d+$/.test(dialect === "groovy" ? text.trim() : text) ? text.trim() : undefined;
}
