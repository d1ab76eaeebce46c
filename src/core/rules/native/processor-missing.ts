import { ARCHITECTURES } from "../../knowledge/unity.js";
import { isForDevelopment, type App } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { inWords } from "../../model/suggest.js";
import { textOf } from "../../model/value.js";
import { WIDER_PROCESSORS } from "../../knowledge/store-floors.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";
import { byBringer, someOf } from "./bringers.js";

const library = (processor: string) => ({ [`app/src/main/jniLibs/${processor}/libtidewire.so`]: "library" });

export const processorMissing = defineRule({
  name: "native/processor-missing",
  severity: "warning",
  title: "A native library exists for 32-bit devices only",
  looksAt:
    "Native libraries of the app's modules, of archives and of packages: each one for a 32-bit processor needs a counterpart for its 64-bit successor, from any source. Also builds for 32-bit processors alone: abiFilters of a module, the architectures of a Unity project. Libraries of the app's own for each processor that abiFilters names. Libraries that only debug builds have do not count.",
  silentFor: "iOS, and packages from registries that are not on this machine.",
  why: "On a 64-bit device the library is not found, and the app crashes on first use. The store has rejected such apps since 2019-08-01.",
  advice: "Use a version of the SDK that has both, or leave the library out.",
  examples: {
    reported: androidExample(androidBlock(), library("armeabi-v7a")),
    silent: androidExample(androidBlock(), { ...library("armeabi-v7a"), ...library("arm64-v8a") }),
  },
  check({ app }) {
    const there = new Set(app.nativeLibraries.map(({ processor, name }) => `${processor} ${name}`));
    const wide = (processor: string): string | undefined => WIDER_PROCESSORS.find(([narrow]) => narrow === processor)?.[1];
    const lone = app.nativeLibraries.filter(({ processor, name, variant }) => {
      const wanted = wide(processor);
      // Libraries for emulators of the narrow kind are left out by most, and shipped to nobody.
      return !isForDevelopment(variant) && wanted === "arm64-v8a" && !there.has(`${wanted} ${name}`);
    });
    const narrow = narrowBuild(app);
    if (narrow) return [narrow];
    return [
      ...withoutNamed(app),
      ...[...byBringer(lone)].map(([by, libraries]) => ({
        side: "android" as const,
        sdk: libraries[0]?.sdk,
        message: `${by === undefined ? "the app's own" : `${by}:`} ${someOf(libraries.map(({ name }) => name))} for ${libraries[0]?.processor ?? ""} has no counterpart for arm64-v8a: 64-bit devices do not find it`,
        fix: by === undefined ? "add the library built for arm64-v8a" : `use a version of ${by} that has arm64-v8a`,
        places: libraries.slice(0, 3).map(({ file }) => ({ file, line: 1, column: 1 })),
        subject: `${by ?? ""} processor`,
      })),
    ];
  },
});

/** Processors that the build names, and for which one of the app's own libraries is not there although it is for others. */
function withoutNamed({ android, nativeLibraries }: App): RawFinding[] {
  const stated = (android?.generated ? [] : (android?.module.settings ?? [])).filter(
    ({ name, block, conditional }) => name === "abiFilters" && !conditional && !/debug/i.test(block),
  );
  const named = [...new Set(stated.flatMap(({ values }) => values.flatMap((value) => textOf(value) ?? [])))];
  const own = nativeLibraries.filter(({ by, variant }) => (by === undefined || by.startsWith(":")) && !isForDevelopment(variant));
  const libraries = new Map<string, string[]>();
  for (const { name, processor } of own) libraries.set(name, [...(libraries.get(name) ?? []), processor]);
  return [...libraries].flatMap(([name, processors]): RawFinding[] => {
    const [lacks] = named.filter((processor) => ARM_OR_EMULATOR.test(processor) && !processors.includes(processor));
    const [first] = stated;
    const file = own.find((library) => library.name === name)?.file;
    // What lacks the wide one of a pair is told otherwise.
    if (lacks === undefined || lacks === "arm64-v8a" || !first || file === undefined) return [];
    return [
      {
        side: "android",
        message: `the build takes in ${lacks}, for which ${name} is not there: on such a device the app crashes when it loads it`,
        fix: `add ${name} for ${lacks}, or take ${lacks} out of abiFilters`,
        places: [first.at, { file, line: 1, column: 1 }],
        subject: `processor ${lacks} ${name}`,
      },
    ];
  });
}

/** Source: developer.android.com, "Android ABIs". */
const ARM_OR_EMULATOR = /^(armeabi-v7a|arm64-v8a|x86|x86_64)$/;

/** A build that takes in no 64-bit code at all. Sources: developer.android.com, "NdkOptions" (abiFilters); docs.unity3d.com, "AndroidArchitecture". */
function narrowBuild({ kind, android, options }: App): RawFinding | undefined {
  const wide = /^(arm64-v8a|x86_64)$/;
  const stated = [
    ...(android?.generated ? [] : (android?.modules ?? [])).flatMap(({ settings }) =>
      settings.flatMap(({ name, block, values, conditional, at }) =>
        name === "abiFilters" && !conditional && !/debug/i.test(block) ? [{ values: values.map(textOf), at }] : [],
      ),
    ),
    ...options.flatMap(({ side, name, values, at }) => (side === "android" && name === ARCHITECTURES ? [{ values, at }] : [])),
  ];
  const processors = stated.flatMap(({ values }) => values);
  const [first] = stated;
  if (!first || processors.length === 0 || processors.some((text) => text === undefined || wide.test(text))) return undefined;
  return {
    side: "android",
    severity: "error",
    sdk: undefined,
    message: `the build takes in ${inWords([...new Set(processors.flatMap((text) => text ?? []))])} alone: the store rejects apps without 64-bit code`,
    fix: kind === "unity" ? "take in arm64-v8a too, which asks for IL2CPP as the scripting backend" : "take in arm64-v8a too",
    places: [first.at],
    subject: "architectures",
  };
}
