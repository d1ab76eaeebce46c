import { REASONS, type ReasonCode } from "./reasons.js";

export type { ReasonCode };

/**
 * Why something is not known, not read, or does not hold: a code of `REASONS`, and what it speaks of. It is what code compares; the
 * sentence for people is made by `reasonText` where something is shown.
 */
export interface Reason {
  code: ReasonCode;
  params?: Readonly<Record<string, Part>>;
}

/** What a reason speaks of: a name, a number, or the reason behind it. */
export type Part = string | number | Reason;

/** The names in braces of a sentence. */
type NamesIn<Sentence extends string> = Sentence extends `${string}{${infer Name}}${infer Rest}` ? Name | NamesIn<Rest> : never;
type ParamsOf<Code extends ReasonCode> = NamesIn<(typeof REASONS)[Code]>;

/** A reason with all that its sentence speaks of: what is missing or too much does not compile. */
export function reason<Code extends ReasonCode>(
  code: Code,
  ...[params]: [ParamsOf<Code>] extends [never] ? [] : [Readonly<Record<ParamsOf<Code>, Part>>]
): Reason {
  return params === undefined ? { code } : { code, params };
}

/** The sentence for a reason: without a full stop, and in lower case but for names, as it stands behind a colon. */
export function reasonText({ code, params }: Reason): string {
  const sentence: string = REASONS[code];
  if (params === undefined) return sentence;
  return sentence.replace(/\{(\w+)\}/g, (_, name: string) => {
    const part = params[name] ?? "";
    return typeof part === "object" ? reasonText(part) : String(part);
  });
}

/** The same reason with its texts changed, those of the reasons behind it as well. */
export function withParts({ code, params }: Reason, change: (text: string) => string): Reason {
  if (params === undefined) return { code };
  const changed = ([name, part]: [string, Part]): [string, Part] => [
    name,
    typeof part === "string" ? change(part) : typeof part === "number" ? part : withParts(part, change),
  ];
  return { code, params: Object.fromEntries(Object.entries(params).map(changed)) };
}
