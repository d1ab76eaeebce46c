import { distance } from "fastest-levenshtein";
import type { BridgeFact } from "../../model/code.js";
import { withoutComments } from "../../syntax/comments.js";
import type { SourceFile } from "./sources.js";

/**
 * Functions and classes of native code that C# asks for by name, where the project's own native code has what they seem to mean under another
 * one. What libraries offer is not in the files, so that a name which nothing here resembles is left alone.
 * Source: docs.unity3d.com, "Native plug-ins for iOS" (DllImport of __Internal), "Call Java and Kotlin plug-in code" (AndroidJavaClass).
 */
export function nativeInterfaces(sources: readonly SourceFile[]): BridgeFact[] {
  const found: BridgeFact[] = [];
  const shared = sources.filter(({ language, side }) => language === "csharp" && side === "shared");
  found.push(...functionsOfC(shared, sources), ...classesOfJava(shared, sources));
  return found;
}

function functionsOfC(shared: readonly SourceFile[], sources: readonly SourceFile[]): BridgeFact[] {
  const asked = shared.flatMap((source) =>
    [
      ...source.text.matchAll(
        /\[DllImport\s*\(\s*"__Internal"([^\]\n]{0,200})\]\s*(?:\[[^\]\n]{0,200}\]\s*)*(?:(?:private|public|internal|protected|static|extern|unsafe)\s+)+[\w.[\]<>*]+\s+(\w+)\s*\(/g,
      ),
    ].map((match) => ({
      source,
      name: /EntryPoint\s*=\s*"(\w+)"/.exec(match[1] ?? "")?.[1] ?? (match[2] as string),
      from: match.index,
    })),
  );
  if (asked.length === 0) return [];
  const offered = new Set<string>();
  for (const { text, language, file } of sources) {
    if (language !== "objc" && !/\.(c|cpp|swift|h)$/.test(file)) continue;
    const plain = withoutComments(text);
    for (const match of plain.matchAll(/@_cdecl\(\s*"(\w+)"/g)) offered.add(match[1] as string);
    if (language === "objc" || /\.(c|cpp)$/.test(file))
      for (const match of plain.matchAll(
        /^[ \t]*(?:extern[ \t]+"C"[ \t]+)?(?:const[ \t]+)?[A-Za-z_][\w*]{0,80}[ \t*]{1,8}(\w+)[ \t]*\([^;{}()]{0,400}\)[ \t]*(?:\r?\n[ \t]*)?\{/gm,
      ))
        offered.add(match[1] as string);
  }
  const names = new Set(asked.map(({ name }) => name));
  return misspelt(
    asked,
    offered,
    [...offered].filter((name) => !names.has(name)),
    "native function",
  );
}

function classesOfJava(shared: readonly SourceFile[], sources: readonly SourceFile[]): BridgeFact[] {
  const offered = new Set<string>();
  for (const { text, language } of sources) {
    if (language !== "java" && language !== "kotlin") continue;
    const plain = withoutComments(text);
    const of = /^[ \t]*package\s+([\w.]+)/m.exec(plain)?.[1];
    for (const match of plain.matchAll(/\b(?:class|object|interface|enum)\s+(\w+)/g))
      offered.add(of === undefined ? (match[1] as string) : `${of}.${match[1] as string}`);
  }
  if (offered.size === 0) return [];
  const packages = new Set([...offered].map(packageOf));
  const asked = shared.flatMap((source) =>
    [...source.text.matchAll(/new\s+AndroidJava(?:Class|Object)\s*\(\s*"([\w.$/]+)"/g)].map((match) => ({
      source,
      name: (match[1] as string).replaceAll("/", "."),
      from: match.index,
    })),
  );
  const names = new Set(asked.map(({ name }) => name));
  // A package that own code declares is mostly the team's alone.
  return misspelt(
    asked.filter(({ name }) => packages.has(packageOf(name)) && !name.includes("$")),
    offered,
    [...offered].filter((name) => !names.has(name)),
    "native class",
  );
}

function packageOf(name: string): string {
  return name.split(".").slice(0, -1).join(".");
}

interface Asked {
  source: SourceFile;
  name: string;
  from: number;
}

/** Names that nothing offers and that resemble one which nobody asks for. */
function misspelt(
  asked: readonly Asked[],
  offered: ReadonlySet<string>,
  unasked: readonly string[],
  kind: BridgeFact["kind"],
): BridgeFact[] {
  return asked.flatMap(({ source, name, from }) => {
    if (offered.has(name)) return [];
    const near = unasked
      .map((other) => ({ other, apart: other.startsWith(name) || name.startsWith(other) ? 1 : distance(other, name) }))
      .filter(({ other, apart }) => apart <= Math.max(1, Math.floor(Math.min(other.length, name.length) / 5)))
      .sort((a, b) => a.apart - b.apart)[0];
    return near
      ? [{ kind, name, near: near.other, role: "asked" as const, side: "shared" as const, guards: [], at: source.place(from) }]
      : [];
  });
}
