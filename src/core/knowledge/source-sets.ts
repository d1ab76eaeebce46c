import type { SideName } from "../model/facts.js";

/**
 * Source sets of Kotlin Multiplatform, by where their code runs; those of desktops, browsers and other systems are in no phone's app. Source:
 * kotlinlang.org, "Hierarchical project structure" (default hierarchy template).
 */
const SOURCE_SETS: readonly { names: RegExp; side: SideName | "none" }[] = [
  { names: /^common$/, side: "shared" },
  { names: /^android(Arm|X)?(32|64|86)?$/, side: "android" },
  { names: /^(ios|apple|native)(Arm64|Arm32|X64|SimulatorArm64)?$/, side: "ios" },
  { names: /^(jvm|desktop|js|wasmJs|wasmWasi|wasm|web|macos\w*|tvos\w*|watchos\w*|linux\w*|mingw\w*)$/, side: "none" },
];

/**
 * Where the code of a file runs that lies in a source set of Kotlin Multiplatform: a side, `shared` by both, or `none` of the phones;
 * `undefined` for other files.
 * @param file path of the file or of a folder below the source set
 */
export function sourceSetSide(file: string): SideName | "none" | undefined {
  const name = /(?:^|\/)src\/([a-z]\w*)Main\/(?:kotlin|java)(?:\/|$)/.exec(file)?.[1];
  return name === undefined ? undefined : sideOfSet(name);
}

/** @param set name of a source set, with or without `Main` */
export function sideOfSet(set: string): SideName | "none" | undefined {
  const name = set.replace(/Main$/, "");
  return SOURCE_SETS.find(({ names }) => names.test(name))?.side;
}

/** The source set whose configuration it is: `androidMain` of `androidMainImplementation`. Source: kotlinlang.org, "Adding dependencies on multiplatform libraries". */
export function sourceSetOf(configuration: string): string | undefined {
  const [, set, kind] = /^([a-z]\w*(Main|Test))(?=[A-Z])/.exec(configuration) ?? [];
  return set !== undefined && (kind === "Main" || sideOfSet(set.slice(0, -4)) !== undefined) ? set : undefined;
}

/** `freeImplementation` is for one flavour. Source: developer.android.com, "Add build dependencies", "Dependency configurations". */
export function variantOfConfiguration(configuration: string): { variant?: string } {
  if (sourceSetOf(configuration) !== undefined) return {};
  const variant = /^(\w+?)(Implementation|Api|RuntimeOnly|Compile)$/.exec(configuration)?.[1];
  return variant === undefined ? {} : { variant };
}

/** Source sets of tests. A flavour may have a name with "test" in it (`latest`). */
const OF_TESTS = /^(test|androidTest)|^(?:common|ios\w*|apple|native|jvm|androidUnit|androidInstrumented)Test$/;

/**
 * What the Android plugin calls the source set of a folder below `src/`: `main` for `androidMain` of Kotlin Multiplatform too; `undefined` for
 * those of tests and of other systems. Sources: developer.android.com, "Configure build variants"; kotlinlang.org, "Android source set layout".
 */
export function androidSet(folder: string): string | undefined {
  if (OF_TESTS.test(folder)) return undefined;
  const side = folder.endsWith("Main") ? sideOfSet(folder) : undefined;
  return side === "android" ? "main" : side === undefined ? folder : undefined;
}
