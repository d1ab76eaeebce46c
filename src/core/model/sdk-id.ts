import type { Ecosystem } from "./facts.js";

const FILLERS = new Set([
  "android",
  "ios",
  "sdk",
  "swift",
  "objc",
  "ktx",
  "mobile",
  "apple",
  "spm",
  "xcframework",
  "framework",
  "dynamic",
  "static",
  "lib",
  "library",
]);
const GENERIC = new Set([
  "react-native",
  "core",
  "app",
  "sdk",
  "mobile",
  "native",
  "client",
  "react-native-sdk",
  "rn",
  "capacitor",
  "expo",
  "cordova",
]);

/**
 * A short id for the SDK that a package belongs to, from its name alone, so that `quaymap-android`, `QuaymapSDK` and
 * `@quaymap/react-native` meet under `quaymap`.
 */
export function sdkIdOf(ecosystem: Ecosystem, name: string): string {
  switch (ecosystem) {
    case "maven":
      return shorten(name.split(":")[1] ?? name);
    case "cocoapods":
      return shorten(name.split("/")[0] as string);
    case "npm": {
      const scoped = /^@([^/]+)\/(.+)$/.exec(name);
      const plain = scoped ? (GENERIC.has(scoped[2] as string) ? (scoped[1] as string) : (scoped[2] as string)) : name;
      return shorten(plain.replace(/^react-native-|-react-native$/g, ""));
    }
    case "cordova":
      return shorten(name.replace(/^@[^/]+\//, "").replace(/^(cordova|phonegap)-plugin-|-cordova(-plugin)?$|^cordova-/g, ""));
    case "pub":
      // One package for each platform, and one that names no platform.
      return shorten(
        name
          .replace(/_(android|ios|darwin|web|macos|linux|windows|platform_interface|avfoundation|foundation|wkwebview)$/, "")
          .replace(/^flutter_|_flutter$/g, ""),
      );
    case "nuget":
      return shorten(name.replace(/^Xamarin\./, "").replace(/\.(Maui|Android|iOS|Forms|Xamarin|Bindings?)(?=\.|$)/gi, ""));
    case "unity": {
      const [owner = name, ...rest] = name.replace(/^com\.|^[a-z]{2,3}\./, "").split(".");
      // What only says that it is one for the engine is no name.
      return shorten(rest.filter((part) => !/^(unity|sdk|plugin|upm)$/i.test(part)).join("-") || owner);
    }
    case "swiftpm":
    case "carthage":
      return shorten((name.replace(/\/+$/, "").split(/[/:]/).at(-1) ?? name).replace(/\.git$/, ""));
    case "binary":
      return shorten(
        (name.split("/").at(-1) ?? name)
          .replace(/\.(aar|jar|framework|xcframework|a|dylib)$/, "")
          .replace(/-\d[\w.]*$/, "")
          .replace(/^lib(?=[A-Z])/, ""),
      );
  }
}

/** The version in the name of an archive or library: `tidewire-1.4.aar`, `quaymap-4.2.0-release.aar`. */
export function versionInName(name: string): string | undefined {
  return /[-_]v?(\d+(?:\.\d+)+(?:[-.](?!release|debug)\w+)*)(?:-(?:release|debug))?\.(?:aar|jar)$/i.exec(name)?.[1];
}

function shorten(name: string): string {
  const words = name
    .replace(/([a-z0-9])([A-Z])/g, "$1-$2")
    .replace(/([A-Z]+)([A-Z][a-z])/g, "$1-$2")
    .toLowerCase()
    .split(/[-_.\s]+/)
    .filter(Boolean);
  const kept = [...words];
  while (kept.length > 1 && FILLERS.has(kept.at(-1) as string)) kept.pop();
  while (kept.length > 1 && FILLERS.has(kept[0] as string)) kept.shift();
  return kept.join("-") || name.toLowerCase();
}

/** The name by which Swift packages are told apart: the last part of the address, lower case, without `.git`. */
export function packageIdentity(location: string): string {
  return (location.replace(/\/+$/, "").split(/[/:]/).at(-1) ?? location).replace(/\.git$/, "").toLowerCase();
}

/** The name under which the code of a pod is imported. Source: CocoaPods, "Podspec Syntax Reference" (module_name: what cannot stand in it becomes _). */
export function moduleOfPod(pod: string): string {
  return (pod.split("/")[0] as string).replace(/[-+.]/g, "_");
}
