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

export interface Computed {
  text: string;
  type?: "number" | "boolean";
}

/** What an operator between two known values gives, with its kind; `undefined` where the language has no such operation, or it is not known. */
// eslint-disable-next-line complexity -- one case for each operator; what it means differs by language
export function compute(operator: string, left: KnownValue, right: KnownValue, dialect: DialectName): Computed | undefined {
  const [a, b] = [kindOf(left), kindOf(right)];
  const numbers = a === "number" && b === "number";
  switch (operator) {
    case "==":
    case "===":
    case "!=":
    case "!==": {
      // JavaScript's loose comparison of two kinds is a matter of its own.
      if (a !== b && dialect === "javascript" && operator.length === 2) return undefined;
      const same = a === b && (numbers ? Number(left.text) === Number(right.text) : left.text === right.text);
      return { text: String(same === operator.startsWith("=")), type: "boolean" };
    }
    case "+":
      if (numbers) return sum(left.text, right.text, 1, dialect);
      return joinsTexts(a, b, dialect) ? { text: left.text + right.text } : undefined;
    case "-":
      if (numbers) return sum(left.text, right.text, -1, dialect);
      return dialect === "groovy" && a === "text" ? { text: left.text.replace(right.text, () => "") } : undefined;
    case "*":
      if (numbers) return product(left.text, right.text, dialect);
      return a === "text" && b === "number" && (dialect === "ruby" || dialect === "groovy") ? repeated(left.text, right.text) : undefined;
    case "/":
    case "%":
      return numbers ? quotient(operator, left.text, right.text, dialect) : undefined;
    case "**":
      return numbers && dialect !== "kotlin" && /^\d{1,3}$/.test(left.text) && /^\d{1,2}$/.test(right.text)
        ? { text: String(BigInt(left.text) ** BigInt(right.text)), type: "number" }
        : undefined;
    case "<":
    case ">":
    case "<=":
    case ">=":
    case "<=>": {
      if (!numbers && (a !== "text" || b !== "text")) return undefined;
      const order = numbers ? Number(left.text) - Number(right.text) : left.text < right.text ? -1 : left.text > right.text ? 1 : 0;
      return ordered(operator, order);
    }
    default:
      return undefined;
  }
}

/** What a comparison gives for two things of which the first is smaller (below 0), equal (0) or larger. */
export function ordered(operator: string, order: number): Computed | undefined {
  if (operator === "<=>") return { text: String(Math.sign(order)), type: "number" };
  const holds =
    operator === "<"
      ? order < 0
      : operator === ">"
        ? order > 0
        : operator === "<="
          ? order <= 0
          : operator === ">="
            ? order >= 0
            : undefined;
  return holds === undefined ? undefined : { text: String(holds), type: "boolean" };
}

/** Ruby and Swift join texts with texts alone; Kotlin wants the text first; Groovy and JavaScript one of the two. */
function joinsTexts(a: Kind, b: Kind, dialect: DialectName): boolean {
  if (a === "text" && b === "text") return true;
  if (dialect === "kotlin") return a === "text";
  return (dialect === "groovy" || dialect === "javascript") && (a === "text" || b === "text");
}

function repeated(text: string, count: string): Computed | undefined {
  const times = Number(count);
  return Number.isInteger(times) && times >= 0 && text.length * times <= 10_000 ? { text: text.repeat(times) } : undefined;
}

const WHOLE = /^-?\d{1,15}$/;
const DECIMAL = /^-?\d{1,15}(\.\d{1,15})?$/;

function product(a: string, b: string, dialect: DialectName): Computed | undefined {
  if (WHOLE.test(a) && WHOLE.test(b)) return { text: String(BigInt(a) * BigInt(b)), type: "number" };
  return dialect !== "groovy" && DECIMAL.test(a) && DECIMAL.test(b) ? floating(Number(a) * Number(b), dialect) : undefined;
}

/** Sources: ruby-doc.org, Integer (rounds down); groovy-lang.org, "Math operations" (a decimal); kotlinlang.org, Int.div (towards zero). */
function quotient(operator: "/" | "%", a: string, b: string, dialect: DialectName): Computed | undefined {
  if (!DECIMAL.test(a) || !DECIMAL.test(b) || Number(b) === 0) return undefined;
  const whole = WHOLE.test(a) && WHOLE.test(b);
  const [x, y] = [Number(a), Number(b)];
  if (operator === "%") {
    if (!whole) return undefined;
    return { text: String(dialect === "ruby" ? ((x % y) + y) % y : (x % y) + 0), type: "number" };
  }
  if (whole && dialect === "ruby") return { text: String(Math.floor(x / y)), type: "number" };
  if (whole && (dialect === "kotlin" || dialect === "swift")) return { text: String(Math.trunc(x / y)), type: "number" };
  // A decimal where it ends; Groovy rounds the others in its own way.
  if (dialect === "groovy") return /^-?\d+(\.\d{1,9})?$/.test(String(x / y)) ? { text: String(x / y), type: "number" } : undefined;
  return floating(x / y, dialect);
}

/** A number of binary floating point as its language writes it: Ruby and Kotlin always with a point. */
function floating(value: number, dialect: DialectName): Computed | undefined {
  if (!Number.isFinite(value) || Math.abs(value) >= 1e15) return undefined;
  const text = String(value);
  return { text: dialect !== "javascript" && /^-?\d+$/.test(text) ? `${text}.0` : text, type: "number" };
}

/** Of whole numbers, and of Groovy's decimal ones with all their places. */
function sum(a: string, b: string, sign: 1 | -1, dialect: DialectName): Computed | undefined {
  const plain = /^-?\d{1,30}(\.\d{1,30})?$/;
  if (!plain.test(a) || !plain.test(b)) return undefined;
  // Only Groovy's decimals are exact.
  if (dialect !== "groovy" && (a.includes(".") || b.includes("."))) return floating(Number(a) + sign * Number(b), dialect);
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
  // A decimal number loses what stands behind the point.
  if (/^-?\d+\.\d+$/.test(text)) return dialect === "groovy" || dialect === "kotlin" ? undefined : text.split(".")[0];
  if (dialect === "ruby" || dialect === "javascript") return /^\s*(-?\d+)/.exec(text)?.[1] ?? (dialect === "ruby" ? "0" : undefined);
  return /^-?\d+$/.test(dialect === "groovy" ? text.trim() : text) ? text.trim() : undefined;
}
