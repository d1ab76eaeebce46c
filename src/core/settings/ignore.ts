import ignore from "ignore";

/** Tells whether a path (a folder's ends with `/`) is ignored by the settings' patterns, in the notation of `.gitignore`. */
export function ignoreMatcher(patterns: readonly string[]): (path: string) => boolean {
  if (patterns.length === 0) return () => false;
  const matcher = ignore().add([...patterns]);
  // `legacy/**` names all that is in a folder and not the folder: where nothing is taken back, there is no reason to enter it.
  const takesBack = patterns.some((pattern) => pattern.startsWith("!"));
  return (path) =>
    !path.startsWith("../") &&
    path !== "" &&
    path !== "/" &&
    (matcher.ignores(path) || (!takesBack && path.endsWith("/") && matcher.ignores(`${path}any name`)));
}
