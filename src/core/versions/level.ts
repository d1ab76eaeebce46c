/** Platform levels: `24` (Android) and `15.1` (iOS, tools) compare number by number; missing numbers are 0. */
export function compareLevels(a: string, b: string): number {
  const left = numbers(a);
  const right = numbers(b);
  for (let index = 0; index < Math.max(left.length, right.length); index++) {
    const difference = (left[index] ?? 0) - (right[index] ?? 0);
    if (difference !== 0) return Math.sign(difference);
  }
  return 0;
}

/** True for something that reads as a level: digits with dots (`8.0-rc-1` counts by its numbers). */
export function isLevel(text: string): boolean {
  return /^\d+(\.\d+)*([-.][A-Za-z].*)?$/.test(text.trim());
}

function numbers(text: string): number[] {
  return (/^\d+(\.\d+)*/.exec(text.trim())?.[0] ?? "0").split(".").map(Number);
}
