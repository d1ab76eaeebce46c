/** A dot segment, a doubled slash, or a slash at either end. */
const NEEDS_CARE = /(^|\/)\.\.?(\/|$)|\/\/|^\/|\/$/;

/** Joins path parts with `/` and resolves `.` and `..`; the result may start with `../` when it leaves the root. */
export function join(...parts: string[]): string {
  if (parts.length === 2) {
    const [first, second] = parts as [string, string];
    // The usual case: two clean paths.
    if (!NEEDS_CARE.test(second) && !NEEDS_CARE.test(first)) return first === "" ? second : second === "" ? first : `${first}/${second}`;
  }
  const segments: string[] = [];
  for (const part of parts) {
    for (const segment of part.split("/")) {
      if (segment === "" || segment === ".") continue;
      if (segment === ".." && segments.length > 0 && segments.at(-1) !== "..") segments.pop();
      else segments.push(segment);
    }
  }
  return segments.join("/");
}

export function parentOf(path: string): string {
  const slash = path.lastIndexOf("/");
  return slash === -1 ? "" : path.slice(0, slash);
}

export function baseName(path: string): string {
  return path.slice(path.lastIndexOf("/") + 1);
}

/** True when `path` is `folder` or lies below it. */
export function isWithin(path: string, folder: string): boolean {
  return folder === "" ? !path.startsWith("../") : path === folder || path.startsWith(`${folder}/`);
}

/** An absolute path in any system's notation, or one that starts in a home folder. */
export function isAbsolutePath(path: string): boolean {
  return /^(\/|[A-Za-z]:[\\/]|\\\\|~\/|\$\{?HOME\}?\/|\$\(HOME\)\/)/.test(path);
}

/** How `target` is reached from the folder `from`, both relative to the same root. */
export function relativeTo(from: string, target: string): string {
  const a = from === "" ? [] : from.split("/");
  const b = target === "" ? [] : target.split("/");
  let shared = 0;
  while (shared < a.length && shared < b.length && a[shared] === b[shared]) shared++;
  return [...a.slice(shared).map(() => ".."), ...b.slice(shared)].join("/") || ".";
}

/** Files that a package manager or a build lays down, or a framework's sync. Source: capacitorjs.com, "Cordova Plugins", "cap sync". */
export function isInstalled(file: string): boolean {
  return /(^|\/)(?:(?:node_modules|Pods|\.gradle|\.yarn|DerivedData|Carthage\/Checkouts|\.build|capacitor-cordova-(?:android|ios)-plugins)\/|capacitor\.build\.gradle$)/.test(
    file,
  );
}
