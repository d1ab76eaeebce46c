import type { GradleModule } from "./gradle.js";
import { textOf } from "./value.js";

/** A build of the application: a flavour of each dimension, and a build type. */
interface BuildVariant {
  flavors: readonly string[];
  type: string;
}

/** The build types and flavours of a module by their dimensions, in the order in which names of variants are put together. */
interface VariantMatrix {
  types: readonly string[];
  dimensions: readonly (readonly string[])[];
  /** The script may leave out some of the combinations. */
  filtered: boolean;
}

/** Statements by which a script takes variants out. Source: developer.android.com, "Configure build variants" (filter variants). */
const FILTER = /^(variantFilter|beforeVariants|ignore|setIgnore)$/;

/** How a flavour says its dimension; the longer name is that of old Android plugins. Source: developer.android.com, "Android Gradle plugin release notes" (3.0). */
export const DIMENSION = /^(flavorD|setD|d)imension$/;

/** More combinations than a build has in earnest. */
const MOST_VARIANTS = 1_000;

function matrixOf({ settings }: GradleModule): VariantMatrix {
  const types = new Set(["debug", "release"]);
  const flavors = new Map<string, string>();
  const order: string[] = [];
  for (const { block, name, values } of settings) {
    const type = /^buildType:([^.]+)$/.exec(block)?.[1];
    const flavor = /^flavor:([^.]+)$/.exec(block)?.[1];
    if (type !== undefined) types.add(type);
    if (block === "" && /^flavorDimensions?$/.test(name)) order.push(...values.flatMap((value) => textOf(value) ?? []));
    if (flavor === undefined) continue;
    if (!flavors.has(flavor)) flavors.set(flavor, "");
    const text = DIMENSION.test(name) ? textOf(values[0]) : undefined;
    if (text !== undefined) flavors.set(flavor, text);
  }
  const dimensions = [...new Set([...order, ...flavors.values()])].map((dimension) =>
    [...flavors].flatMap(([flavor, of]) => (of === dimension ? [flavor] : [])),
  );
  return {
    types: [...types],
    dimensions: dimensions.filter((names) => names.length > 0),
    filtered: settings.some(({ name }) => FILTER.test(name)),
  };
}

function variantsOf({ types, dimensions }: VariantMatrix): BuildVariant[] {
  const count = dimensions.reduce((product, names) => product * names.length, types.length);
  if (count > MOST_VARIANTS) return [];
  const flavors = dimensions.reduce<string[][]>((all, names) => all.flatMap((before) => names.map((name) => [...before, name])), [[]]);
  return flavors.flatMap((of) => types.map((type) => ({ flavors: of, type })));
}

/** `stagingPlay`, `stagingPlayDebug` */
function joined(names: readonly string[]): string {
  return names.map((name, index) => (index === 0 ? name : `${name[0]?.toUpperCase() ?? ""}${name.slice(1)}`)).join("");
}

/**
 * The source sets that a build takes beside the one of all builds. Source: developer.android.com, "Configure build variants" (source sets).
 */
function sourceSetsOf({ flavors, type }: BuildVariant): string[] {
  return [type, ...flavors, joined(flavors), joined([...flavors, type])];
}

/**
 * The build types, flavours or variants of a module that get nothing of what only some source sets have; nothing where all builds get it, and
 * where that cannot be told.
 * @param having names of build types, flavours or source sets
 * @param among only builds that take this source set
 */
export function buildsWithout(module: GradleModule, having: Iterable<string>, among = "main"): string[] {
  const has = new Set(having);
  if (has.size === 0 || has.has("")) return [];
  const matrix = matrixOf(module);
  // A build type that begins as another has what that one has.
  for (const { block, name } of module.settings) if (name === "initWith") has.add(/^buildType:([^.]+)$/.exec(block)?.[1] ?? "");
  const all = variantsOf(matrix).filter((variant) => among === "main" || sourceSetsOf(variant).includes(among));
  const without = all.filter((variant) => !sourceSetsOf(variant).some((name) => has.has(name)));
  if (without.length === 0) return [];
  const lacks = (of: (variant: BuildVariant) => boolean): boolean => all.every((variant) => !of(variant) || without.includes(variant));
  for (const names of [...matrix.dimensions, matrix.types]) {
    const isOf = (name: string) => (variant: BuildVariant) => variant.type === name || variant.flavors.includes(name);
    const whole = names.filter((name) => lacks(isOf(name)));
    if (without.every((variant) => whole.some((name) => isOf(name)(variant)))) return whole;
  }
  return matrix.filtered ? [] : without.map(({ flavors, type }) => joined([...flavors, type]));
}

/** The source set in which a manifest lies, by its usual place. */
export function sourceSetOfManifest(file: string): string {
  return /(?:^|\/)src\/(\w+)\/AndroidManifest\.xml$/.exec(file)?.[1] ?? "main";
}

/** The names of all source sets that some build of a module takes. */
export function knownSourceSets(module: GradleModule): ReadonlySet<string> {
  const matrix = matrixOf(module);
  return new Set(["main", ...matrix.types, ...matrix.dimensions.flat(), ...variantsOf(matrix).flatMap(sourceSetsOf)]);
}

/** The names of the variants of a module: `stagingDebug`. */
export function variantNames(module: GradleModule): string[] {
  return variantsOf(matrixOf(module)).map(({ flavors, type }) => joined([...flavors, type]));
}
