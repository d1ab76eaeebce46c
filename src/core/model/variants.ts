import type { GradleModule } from "./gradle.js";

/**
 * The build types or flavours of a module that get nothing of what only some variants have; nothing where all builds get it, and where that
 * cannot be told. Source: developer.android.com, "Configure build variants".
 * @param having variants by the names of their build types, flavours or source sets
 */
export function buildsWithout({ settings }: GradleModule, having: Iterable<string>): string[] {
  const has = new Set(having);
  if (has.size === 0) return [];
  const types = new Set(["debug", "release"]);
  const flavors = new Map<string, string>();
  for (const { block, name, values } of settings) {
    const type = /^buildType:([^.]+)$/.exec(block)?.[1];
    const flavor = /^flavor:([^.]+)$/.exec(block)?.[1];
    if (type !== undefined) types.add(type);
    if (flavor === undefined) continue;
    const [value] = values;
    if (!flavors.has(flavor)) flavors.set(flavor, "");
    if (name === "dimension" && value?.kind === "known") flavors.set(flavor, value.text);
  }
  // A build type that begins as another has what that one has.
  for (const { block, name } of settings) if (name === "initWith") has.add(/^buildType:([^.]+)$/.exec(block)?.[1] ?? "");
  const known = [...has].filter((name) => name !== "");
  if (known.every((name) => types.has(name))) return [...types].filter((name) => !has.has(name));
  const dimensions = new Set(known.map((name) => flavors.get(name)));
  // Combined variants, and values of several dimensions: any build may have one of them.
  if (dimensions.has(undefined) || dimensions.size > 1) return [];
  const [dimension] = dimensions;
  return [...flavors].flatMap(([name, of]) => (of === dimension && !has.has(name) ? [name] : []));
}
