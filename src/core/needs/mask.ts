/** A key as it may be shown: first and last characters and the length. */
export function mask(value: string): string {
  if (value.length === 0) return "(empty)";
  const shown = value.length >= 16 ? 3 : value.length >= 8 ? 1 : 0;
  const text = shown === 0 ? "…" : `${value.slice(0, shown)}…${value.slice(-Math.min(shown, 2))}`;
  return `${text} (${value.length} characters)`;
}
