/** `format("%s-%02d", "a", 3)`: the conversions that version and path texts are made with; `undefined` for others. */
export function formatted(pattern: string, values: readonly string[]): string | undefined {
  let next = 0;
  let known = true;
  const text = pattern.replace(
    /%(?:(\d+)\$)?(-?0?\d*)(?:\.(\d+))?([sdifx%])/g,
    (_, at: string | undefined, width: string, digits: string | undefined, kind: string) => {
      if (kind === "%") return "%";
      const value = values[at === undefined ? next++ : Number(at) - 1];
      if (value === undefined || (kind !== "s" && !/^-?\d+(\.\d+)?$/.test(value))) {
        known = false;
        return "";
      }
      const plain =
        kind === "f"
          ? Number(value).toFixed(digits === undefined ? 6 : Math.min(20, Number(digits)))
          : kind === "x"
            ? Number(value).toString(16)
            : kind === "s"
              ? value
              : String(Math.trunc(Number(value)));
      const length = Math.min(200, Math.abs(Number(width.replace(/^(-?)0/, "$1") || "0")));
      if (width.startsWith("-")) return plain.padEnd(length);
      return plain.padStart(length, width.startsWith("0") ? "0" : " ");
    },
  );
  return known && !/%[^%\s]/.test(pattern.replace(/%(?:\d+\$)?-?0?\d*(?:\.\d+)?[sdifx%]/g, "")) ? text : undefined;
}
