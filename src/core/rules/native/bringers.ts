import type { NativeLibrary } from "../../model/facts.js";

/** Native libraries by who brings them: the app itself under no name. */
export function byBringer(libraries: readonly NativeLibrary[]): Map<string | undefined, NativeLibrary[]> {
  const groups = new Map<string | undefined, NativeLibrary[]>();
  for (const library of libraries) groups.set(library.by, [...(groups.get(library.by) ?? []), library]);
  return groups;
}

/** Some names, the rest by their number. */
export function someOf(names: readonly string[]): string {
  const single = [...new Set(names)];
  return single.length > 4 ? `${single.slice(0, 3).join(", ")} and ${single.length - 3} more` : single.join(", ");
}
