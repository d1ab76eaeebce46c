import { isForDevelopment } from "../../model/app.js";
import { wildcard } from "../../model/wildcard.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";
import { someOf } from "./bringers.js";

const libraries = {
  "app/libs/tidewire-1.4.aar!/jni/arm64-v8a/libtide.so": "one",
  "app/libs/quaymap-4.2.aar!/jni/arm64-v8a/libtide.so": "another",
};
const dependencies = "\ndependencies {\n  implementation files('libs/tidewire-1.4.aar', 'libs/quaymap-4.2.aar')\n}\n";

export const libraryDoubled = defineRule({
  name: "native/library-doubled",
  severity: "error",
  title: "Two libraries contain a native library of the same name",
  looksAt:
    "Native libraries of the app's modules, of archives and of packages, by processor and name, and the packaging options that choose one or leave them out. Libraries that a framework's own build settles do not count.",
  silentFor: "iOS, and packages from registries that are not on this machine.",
  why: "The build stops when it packages the app, as it cannot tell which one to take.",
  advice: "Use versions of the SDKs that work together, or choose the first with a packaging option where both are the same library.",
  examples: {
    reported: androidExample(androidBlock() + dependencies, libraries),
    silent: androidExample(
      androidBlock().replace(/\}\n$/, "  packagingOptions {\n    jniLibs {\n      pickFirsts += ['lib/*/libtide.so']\n    }\n  }\n}\n") +
        dependencies,
      libraries,
    ),
  },
  check({ app }) {
    const chosen = app.options
      .filter(({ side, name }) => side === "android" && /^(pickFirsts?|excludes?|merges?)$/.test(name))
      .flatMap(({ values }) => values);
    const groups = new Map<string, typeof app.nativeLibraries>();
    for (const library of app.nativeLibraries) {
      if (isForDevelopment(library.variant) || (app.shared && SETTLED.test(library.name))) continue;
      const path = `lib/${library.processor}/${library.name}`;
      if (chosen.some((pattern) => wildcard(pattern.replace(/^\/+/, "").replaceAll("**", "*"), path))) continue;
      groups.set(path, [...(groups.get(path) ?? []), library]);
    }
    const told = new Map<string, (typeof app.nativeLibraries)[number][]>();
    for (const group of groups.values()) {
      const together = group.filter(
        ({ by, variant }) =>
          variant === undefined || group.some((other) => other.by !== by && (other.variant === undefined || other.variant === variant)),
      );
      const bringers = [...new Set(together.map(({ by }) => by ?? "the app itself"))];
      if (bringers.length > 1) told.set(bringers.join(" and "), [...(told.get(bringers.join(" and ")) ?? []), ...group]);
    }
    return [...told].map(([bringers, group]) => ({
      side: "android" as const,
      sdk: group[0]?.sdk,
      message: `${bringers} both contain ${someOf(group.map(({ name }) => name))}`,
      fix: "use versions that work together, or choose one with pickFirsts in the packaging options for jniLibs",
      places: group.slice(0, 2).map(({ file }) => ({ file, line: 1, column: 1 })),
      subject: `${bringers} doubled`,
    }));
  },
});

/** What the build of a framework chooses by itself. Source: React Native's Gradle plugin, its packaging options; the C++ runtime of the NDK. */
const SETTLED = /^lib(c\+\+_shared|fbjni|jsi|hermes\w*|react\w*|jsc|folly\w*|glog\w*|turbomodule\w*)\.so$/;
