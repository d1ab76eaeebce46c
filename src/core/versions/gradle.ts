/**
 * Gradle's order of versions and its notations.
 * Source: Gradle user guide, "Declaring versions and ranges" (version ordering; the special words are listed there).
 */

/** Words that stand above any other word, in this order; `dev` stands below. */
const SPECIAL: Record<string, number> = { dev: -1, rc: 1, snapshot: 2, final: 3, ga: 4, release: 5, sp: 6 };

function parts(version: string): string[] {
  return version.match(/\d+|[^\d._+-]+/g) ?? [];
}

/** Negative when `a` is older than `b`, positive when newer, 0 when they rank alike. */
export function compare(a: string, b: string): number {
  const left = parts(a);
  const right = parts(b);
  const shared = Math.min(left.length, right.length);
  for (let index = 0; index < shared; index++) {
    const order = comparePart(left[index] as string, right[index] as string);
    if (order !== 0) return order;
  }
  if (left.length > shared) return isNumber(left[shared] as string) ? 1 : -1;
  if (right.length > shared) return isNumber(right[shared] as string) ? -1 : 1;
  return 0;
}

function comparePart(a: string, b: string): number {
  if (a === b) return 0;
  const aNumber = isNumber(a);
  const bNumber = isNumber(b);
  if (aNumber && bNumber) return compareNumbers(a, b);
  if (aNumber !== bNumber) return aNumber ? 1 : -1;
  const aSpecial = SPECIAL[a.toLowerCase()];
  const bSpecial = SPECIAL[b.toLowerCase()];
  if (aSpecial !== undefined) return aSpecial - (bSpecial ?? 0);
  if (bSpecial !== undefined) return -bSpecial;
  return a < b ? -1 : 1;
}

function isNumber(part: string): boolean {
  return /^\d+$/.test(part);
}

/** Compares digits of any length. */
export function compareNumbers(a: string, b: string): number {
  const left = a.replace(/^0+(?=\d)/, "");
  const right = b.replace(/^0+(?=\d)/, "");
  if (left.length !== right.length) return left.length - right.length;
  return left < right ? -1 : left > right ? 1 : 0;
}

/** True for a notation that leaves the version open: `1.+`, `+`, `latest.release`, a range. */
export function isDynamic(notation: string): boolean {
  return notation.endsWith("+") || notation.startsWith("latest.") || isRange(notation);
}

export function isRange(notation: string): boolean {
  return /^[[(\]].*,.*[\])[]$/.test(notation) || /^\[[^,]+\]$/.test(notation);
}

/**
 * Whether `version` fits the notation. A plain version is what Gradle calls *required*: this one or newer.
 * `strict` takes a plain version literally (`strictly`, `!!`).
 */
export function satisfies(version: string, notation: string, strict = false): boolean {
  const text = notation.trim();
  if (text.endsWith("!!")) return satisfies(version, text.slice(0, -2), true);
  if (text === "+" || text.startsWith("latest.")) return true;
  if (text.endsWith("+") && !isRange(text)) {
    // "1.+" and "1.2+" take every version that starts with what stands before the plus.
    const prefix = text.slice(0, -1);
    return version.startsWith(prefix) || version === prefix.replace(/[._-]$/, "");
  }
  if (isRange(text)) return inRange(version, text);
  return strict ? compare(version, text) === 0 : compare(version, text) >= 0;
}

function inRange(version: string, range: string): boolean {
  const single = /^\[([^,]+)\]$/.exec(range);
  if (single) return compare(version, (single[1] as string).trim()) === 0;
  const match = /^([[(\]])\s*([^,]*?)\s*,\s*([^,]*?)\s*([\])[])$/.exec(range);
  if (!match) return false;
  const [, open, low = "", high = "", close] = match;
  if (low) {
    const order = compare(version, low);
    if (open === "[" ? order < 0 : order <= 0) return false;
  }
  if (high) {
    const order = compare(version, high);
    if (close === "]" ? order > 0 : order >= 0) return false;
    // An open upper end leaves out the pre-releases of that end as well: [1.0,2.0[ has no 2.0-rc1.
    if (close !== "]" && version.startsWith(high) && /^[-.]?[a-zA-Z]/.test(version.slice(high.length))) return false;
  }
  return true;
}
