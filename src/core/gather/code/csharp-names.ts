import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { SystemName } from "../../model/code.js";
import { LOOK_ALIKES, PLATFORM_OF } from "../../knowledge/platform-symbols.js";
import { withoutComments } from "../../syntax/comments.js";
import { underConditions } from "../platforms/directives.js";
import type { SourceFile } from "./sources.js";

/**
 * What the compiler of C# takes otherwise than it is meant: symbols in conditions that are almost those of a platform, and code of Unity's editor
 * that would go into the app. Sources: docs.unity3d.com, "Conditional compilation" and "Special folder names" (Editor); learn.microsoft.com,
 * "Preprocessor directives" (symbols of target frameworks).
 */
export function csharpNames({ kind, buildSymbols }: App, sources: readonly SourceFile[]): SystemName[] {
  if (kind !== "unity" && kind !== "dotnet") return [];
  const shared = sources.filter(({ language, text }) => language === "csharp" && /#\s*(?:el)?if\b|\bUnityEditor\b/.test(text));
  const meant = Object.keys(PLATFORM_OF).filter(
    (name) =>
      name.startsWith("UNITY_") === (kind === "unity") && (PLATFORM_OF[name] !== "other" || /^(UNITY_EDITOR|MACCATALYST)$/.test(name)),
  );
  const known = new Set([
    ...Object.keys(PLATFORM_OF),
    ...LOOK_ALIKES,
    ...(buildSymbols ? [...buildSymbols.open, ...buildSymbols.defined.android, ...buildSymbols.defined.ios] : []),
    ...sources.flatMap(({ text }) => [...text.matchAll(/^[ \t]*#[ \t]*define[ \t]+(\w+)/gm)].map(([, name = ""]) => name)),
  ]);
  return shared.flatMap((source) => [
    ...misspelt(source, meant, known),
    ...(kind === "unity" && source.side === "shared" ? editorCode(source) : []),
  ]);
}

function misspelt(source: SourceFile, meant: readonly string[], known: ReadonlySet<string>): SystemName[] {
  return [...withoutComments(source.text).matchAll(/^[ \t]*#[ \t]*(?:el)?if\b(.*)$/gm)].flatMap((line) =>
    [...(line[1] as string).matchAll(/\b[A-Za-z_]\w{2,}\b/g)].flatMap(({ 0: name, index }): SystemName[] => {
      if (known.has(name)) return [];
      const near = meant.find(
        (other) =>
          other.toLowerCase() === name.toLowerCase() ||
          (other.length > 6 && name.length > 6 && distance(other, name) <= 2) ||
          // A letter more than a short one, or less than a longer one.
          (distance(other, name) === 1 && name.length > 3 && !/[\d_]$/.test(name) && (name.startsWith(other) || other.startsWith(name))),
      );
      return near === undefined
        ? []
        : [
            {
              kind: "condition",
              name,
              near,
              side: source.side,
              at: source.place(line.index + line[0].length - (line[1] as string).length + index),
            },
          ];
    }),
  );
}

/** The first use of the editor's library that stands under no condition: one of the project's own may hold in the editor alone. */
function editorCode(source: SourceFile): SystemName[] {
  const plain = withoutComments(source.text).replace(/"(?:[^"\\\n]|\\.)*"/g, (text) => " ".repeat(text.length));
  const isConditional = underConditions(plain);
  const use = [...plain.matchAll(/\bUnityEditor\b(?!\s*=)/g)].find(({ index }) => !isConditional(index));
  return use ? [{ kind: "editor code", name: "UnityEditor", near: undefined, side: "shared", at: source.place(use.index) }] : [];
}
