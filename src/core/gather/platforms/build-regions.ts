/** A part of a source text that only one kind of build takes, from and to as offsets. */
export interface BuildRegion {
  from: number;
  to: number;
  variant: "debug" | "release";
}

/** A text with more such conditions is none that a person wrote. */
const MOST = 400;

const opposite = { debug: "release", release: "debug" } as const;

/** Conditions that tell a debug build from a release build, with what makes them the opposite in the first group. */
const CONDITION =
  /\bif\s*\(?\s*(!?)\s*(?:(BuildConfig\.DEBUG|__DEV__|kDebugMode|Debug\.isDebugBuild)|(kReleaseMode)|process\.env\.NODE_ENV\s*([!=])==?\s*["'](\w+)["'])\s*\)?\s*\{/g;

/**
 * The parts of a text behind `#if DEBUG` and its like, and in the blocks of `if (BuildConfig.DEBUG)`, `if (__DEV__)`, `if (kDebugMode)`.
 * A look at the text alone: what else a condition asks for makes no region.
 */
export function buildRegions(text: string): BuildRegion[] {
  const regions: BuildRegion[] = [];
  if (/^[ \t]*#\s*if/m.test(text)) directiveRegions(text, regions);
  for (const match of text.matchAll(CONDITION)) {
    if (regions.length > MOST) break;
    const [all, not, debug, , equal, environment] = match;
    let variant: BuildRegion["variant"] =
      debug !== undefined ? "debug" : environment === undefined ? "release" : environment === "production" ? "release" : "debug";
    if (equal === "!") variant = opposite[variant];
    if (not === "!") variant = opposite[variant];
    const open = match.index + all.length - 1;
    const end = closingBrace(text, open);
    regions.push({ from: open, to: end, variant });
    const otherwise = /^\}\s*else\s*\{/.exec(text.slice(end, end + 40));
    if (otherwise) {
      const from = end + otherwise[0].length - 1;
      regions.push({ from, to: closingBrace(text, from), variant: opposite[variant] });
    }
  }
  return regions;
}

function directiveRegions(text: string, regions: BuildRegion[]): void {
  const open: { from: number; variant: BuildRegion["variant"] | undefined }[] = [];
  const close = (to: number): void => {
    const last = open.pop();
    if (last?.variant) regions.push({ from: last.from, to, variant: last.variant });
  };
  for (const match of text.matchAll(/^[ \t]*#\s*(if|ifdef|ifndef|else|elseif|elif|endif)\b([^\n]*)/gm)) {
    const [, word = "", rest = ""] = match;
    const end = match.index + match[0].length;
    if (word.startsWith("if")) {
      const plain = /^\s*\(?\s*(!?)\s*(?:defined\s*\(?\s*)?DEBUG\b\s*\)*\s*(?:==\s*1)?\s*(?:\/\/.*)?$/.exec(rest);
      const debug = plain && (plain[1] === "!") === (word === "ifndef");
      open.push({ from: end, variant: plain ? (debug ? "debug" : "release") : undefined });
    } else {
      const before = open.at(-1)?.variant;
      close(match.index);
      if (word === "else") open.push({ from: end, variant: before && opposite[before] });
      else if (word !== "endif") open.push({ from: end, variant: undefined });
    }
  }
}

/** Where the block ends that a brace opens; texts with braces in them count as code. */
function closingBrace(text: string, open: number): number {
  let depth = 0;
  for (let at = open; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === 0x7b) depth++;
    else if (code === 0x7d && --depth === 0) return at;
  }
  return text.length;
}

/** The build that alone takes what stands at an offset, by the innermost region; `undefined` where all do. */
export function variantAt(regions: readonly BuildRegion[], offset: number): BuildRegion["variant"] | undefined {
  let inner: BuildRegion | undefined;
  for (const region of regions)
    if (offset > region.from && offset < region.to && (!inner || region.to - region.from < inner.to - inner.from)) inner = region;
  return inner?.variant;
}
