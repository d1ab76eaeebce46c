import fc from "fast-check";

/** One accident that happens to a text. */
export type Damage = { kind: "cut" | "flip" | "drop" | "double" | "swap" | "insert"; at: number; size: number; text: string };

export const damage: fc.Arbitrary<Damage> = fc.record({
  kind: fc.constantFrom("cut", "flip", "drop", "double", "swap", "insert"),
  at: fc.nat(1_000_000),
  size: fc.nat(60),
  text: fc.oneof(
    fc.string({ maxLength: 8 }),
    fc.constantFrom(
      "{",
      "}",
      "(((((",
      '"',
      "'",
      "`",
      "/*",
      "<!--",
      "]]>",
      "<<<<<<< ours\n",
      "${",
      "$(",
      "\u0000",
      "\uFEFF",
      "\r\n",
      ": &a",
      "*a",
      "#{",
      "do",
    ),
  ),
});

export function damaged(text: string, { kind, at, size, text: added }: Damage): string {
  const index = text.length === 0 ? 0 : at % text.length;
  switch (kind) {
    case "cut":
      return text.slice(0, index);
    case "flip":
      return text.slice(0, index) + String.fromCharCode(text.charCodeAt(index) ^ (1 << (size % 7))) + text.slice(index + 1);
    case "drop":
      return text.slice(0, index) + text.slice(index + size);
    case "double":
      return text.slice(0, index) + text.slice(index, index + size * 10) + text.slice(index);
    case "insert":
      return text.slice(0, index) + added + text.slice(index);
    case "swap": {
      const lines = text.split("\n");
      const one = at % lines.length;
      const other = (at + size) % lines.length;
      [lines[one], lines[other]] = [lines[other] as string, lines[one] as string];
      return lines.join("\n");
    }
  }
}
