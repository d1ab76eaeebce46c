import type { CodeFunction, Language } from "../../model/code.js";

/**
 * The names by which the other of Apple's languages can call a function, beside its own: `configureWithKey:` is `configure(withKey:)` in Swift, and
 * `handleURL:` is `handle(_:)`, so that any beginning of the name by whole words may be it; `start(app:)` is `startWithApp:` in Objective-C.
 * Sources: swift.org, "Swift API Design Guidelines"; developer.apple.com, "Importing Objective-C into Swift", "Importing Swift into Objective-C".
 */
export function bridgedNames({ name, selector, kind }: CodeFunction, language: Language): string[] {
  if (kind !== "function") return [];
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
