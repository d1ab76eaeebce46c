import ignore from "ignore";

/** Tells whether a path (a folder's ends with `/`) is ignored by the settings' patterns, in the notation of `.gitignore`. */
export function ignoreMatcher(patterns: readonly string[]): (path: string) => boolean {
  if (patterns.length === 0) return () => false;
  const matcher = ignore().add([...patterns]);
  return (path) => !path.startsWith("../") && path !== "" && path !== "/" && matcher.ignores(path);
}
