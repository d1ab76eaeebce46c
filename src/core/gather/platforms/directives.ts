import { PLATFORM_OF } from "../../knowledge/platform-symbols.js";
import type { SideName } from "../../model/facts.js";

type Phone = Exclude<SideName, "shared">;

const PHONES: readonly Phone[] = ["android", "ios"];
const NONE: ReadonlySet<Phone> = new Set();

/** The platforms off which conditions such as `#if ANDROID` keep a place of a text; asked for an offset. */
export function keptOff(text: string): (offset: number) => ReadonlySet<Phone> {
  if (!/^[ \t]*#\s*if/m.test(text)) return () => NONE;
  const regions: { from: number; to: number; off: Phone[] }[] = [];
  const open: { from: number; before: string[]; condition: string }[] = [];
  const close = (to: number): void => {
    const last = open.at(-1);
    if (!last) return;
    const off = PHONES.filter(
      (phone) => isCompiled(last.condition, phone) === false || last.before.some((condition) => isCompiled(condition, phone) === true),
    );
    if (off.length > 0) regions.push({ from: last.from, to, off });
  };
  for (const match of text.matchAll(/^[ \t]*#\s*(if|elif|else|endif)\b([^\n]*)/gm)) {
    const [all, word = "", rest = ""] = match;
    const from = match.index + all.length;
    const condition = rest.replace(/\/\/.*$/, "").trim();
    if (word === "if") {
      open.push({ from, before: [], condition });
      continue;
    }
    close(match.index);
    const last = open.pop();
    if (word !== "endif" && last)
      open.push({ from, before: [...last.before, last.condition], condition: word === "elif" ? condition : "true" });
  }
  close(text.length);
  return (offset) => {
    const found = new Set<Phone>();
    for (const { from, to, off } of regions) if (offset >= from && offset < to) for (const phone of off) found.add(phone);
    return found;
  };
}

/** Whether an offset of a text stands between directives of the preprocessor. */
export function underConditions(text: string): (offset: number) => boolean {
  const regions: { from: number; to: number }[] = [];
  let depth = 0;
  for (const { 1: word, index } of text.matchAll(/^[ \t]*#[ \t]*(if|endif)\b/gm)) {
    if (word === "if" && depth++ === 0) regions.push({ from: index, to: text.length });
    const last = regions.at(-1);
    if (word === "endif" && depth > 0 && --depth === 0 && last) last.to = index;
  }
  return (offset) => regions.some(({ from, to }) => offset >= from && offset < to);
}

/**
 * Whether a condition holds for a platform; `undefined` where it asks for something else.
 * @param defined tells of other symbols whether they are defined for the platform
 */
export function isCompiled(
  condition: string,
  phone: Phone,
  defined?: (symbol: string, phone: Phone) => boolean | undefined,
): boolean | undefined {
  const tokens = condition.match(/&&|\|\||[!()]|\w+/g) ?? [];
  let index = 0;
  const primary = (): boolean | undefined => {
    const token = tokens[index++];
    if (token === "!") {
      const value = primary();
      return value === undefined ? undefined : !value;
    }
    if (token === "(") {
      const value = either();
      index++;
      return value;
    }
    if (token === "true" || token === "false") return token === "true";
    const platform = token === undefined ? undefined : PLATFORM_OF[token];
    return platform === undefined ? (token === undefined ? undefined : defined?.(token, phone)) : platform === phone;
  };
  const both = (): boolean | undefined => {
    let value = primary();
    while (tokens[index] === "&&") {
      index++;
      const other = primary();
      value = value === false || other === false ? false : value === undefined || other === undefined ? undefined : true;
    }
    return value;
  };
  const either = (): boolean | undefined => {
    let value = both();
    while (tokens[index] === "||") {
      index++;
      const other = both();
      value = value === true || other === true ? true : value === undefined || other === undefined ? undefined : false;
    }
    return value;
  };
  // Deeper than any person writes it.
  return tokens.length > 200 ? undefined : either();
}
