import type { CodeFunction, Language } from "../../model/code.js";
import { baseName } from "../../model/paths.js";
import type { FunctionRef } from "./function-ref.js";

/** The name that Kotlin has for what Swift and Objective-C call `doInit…`. */
export function withoutDo(name: string): string[] {
  return name.startsWith("doInit") ? [`init${name.slice(6)}`] : [];
}

/** `maps.ios.kt` → `Maps_iosKt`. */
export function kotlinFileType(file: string): string {
  const stem = baseName(file).replace(/\.kt$/, "").replace(/\W/g, "_");
  return `${stem.charAt(0).toUpperCase()}${stem.slice(1)}Kt`;
}

/**
 * The type whose functions are those of a Kotlin file outside of any type, to other languages. Sources: kotlinlang.org, "Calling Kotlin from Java"
 * (package-level functions), "Interoperability with Swift/Objective-C" (top-level functions).
 */
export function isOfKotlinFile(receiver: readonly string[], { source }: FunctionRef): boolean {
  if (source.language !== "kotlin") return false;
  const own = receiver.at(-1);
  if (own === kotlinFileType(source.file)) return true;
  return own !== undefined && /^\s*@file:\s*(?:\[\s*)?JvmName\(\s*"(\w+)"/m.exec(source.text)?.[1] === own;
}

/**
 * The names by which the other of Apple's languages can call a function, beside its own: `configureWithKey:` is `configure(withKey:)` in Swift, and
 * `handleURL:` is `handle(_:)`, so that any beginning of the name by whole words may be it; `start(app:)` is `startWithApp:` in Objective-C.
 * What Kotlin calls `initMaps` is `doInitMaps` to both, as `init` has a meaning of its own there.
 * Sources: kotlinlang.org, "Interoperability with Swift/Objective-C"; swift.org, "Swift API Design Guidelines"; developer.apple.com, "Importing Objective-C into Swift", "Importing Swift into Objective-C".
 */
export function bridgedNames({ name, selector, kind }: CodeFunction, language: Language): string[] {
  if (kind !== "function") return [];
  if (language === "kotlin") return name.startsWith("init") ? [`doI${name.slice(1)}`] : [];
  if (language === "objc") {
    const words = name.split(/(?<=[a-z0-9])(?=[A-Z])/);
    return words.slice(1).map((_, index) => words.slice(0, index + 1).join(""));
  }
  if (language !== "swift") return [];
  const label = /^\w+\((\w+):/.exec(selector)?.[1];
  if (label === undefined) return [];
  const capital = `${label[0]?.toUpperCase() ?? ""}${label.slice(1)}`;
  return [`${name}${capital}`, `${name}With${capital}`];
}
