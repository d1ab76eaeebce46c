import { androidSet } from "../../knowledge/source-sets.js";
import { GIVEN_FIELD } from "../../knowledge/android-build.js";
import type { App } from "../../model/app.js";
import type { CodeFacts } from "../../model/code.js";
import { namespaceIn, sourceFolders } from "../../model/gradle.js";
import { isWithin } from "../../model/paths.js";
import { withoutComments } from "../../syntax/comments.js";
import { buildRegions, variantAt } from "../platforms/build-regions.js";
import { isScript, type SourceFile } from "./sources.js";

/** The source sets of a file of a module: `main`, a build type, a flavour or both in one, and those that name its folder. */
function sourceSetsOf(file: string, folder: string, named: readonly { folder: string; set: string }[]): string[] {
  const written = isWithin(file, folder) ? /^\/?src\/([^/]+)\/(?:java|kotlin)\//.exec(file.slice(folder.length))?.[1] : undefined;
  const own = written === undefined ? undefined : androidSet(written);
  return [...new Set([...(own === undefined ? [] : [own]), ...named.flatMap((other) => (isWithin(file, other.folder) ? other.set : []))])];
}

/**
 * What code for all builds of the application's module takes from the build by name: fields of its class of settings, string resources; and
 * classes and functions that only source sets of some variants have. Each name once.
 */
// eslint-disable-next-line complexity -- one question after the other for each name
export function generatedNames({ android }: App, sources: readonly SourceFile[]): Pick<CodeFacts, "generated" | "inVariants"> {
  const generated: CodeFacts["generated"] = fromEnvironment(sources);
  if (!android) return { generated, inVariants: [] };
  const { folder } = android.module;
  const namespace = namespaceIn(android.module);
  const named = sourceFolders(android.module);
  const sets = new Map<string, { source: SourceFile; text: string }[]>();
  for (const source of sources) {
    if (source.side !== "android") continue;
    for (const set of sourceSetsOf(source.file, folder, named)) {
      if (/test/i.test(set)) continue;
      const list = sets.get(set) ?? [];
      if (list.length === 0) sets.set(set, list);
      list.push({ source, text: "" });
    }
  }
  const told = new Set<string>();
  for (const entry of sets.get("main") ?? []) {
    const { source } = entry;
    if (!/\bBuildConfig\.|\bR\.string\./.test(source.text) && sets.size === 1) continue;
    const text = (entry.text = withoutComments(source.text));
    const own = (name: string): boolean => {
      const imported = new RegExp(`^[ \\t]*import\\s+([\\w.]+)\\.${name}\\b(?!\\.)`, "m").exec(text)?.[1];
      return imported === undefined || imported === namespace;
    };
    let regions: ReturnType<typeof buildRegions> | undefined;
    for (const [kind, pattern, of] of [
      ["buildConfig", /\bBuildConfig\.([A-Z]\w*)/g, "BuildConfig"],
      ["string", /(?<![\w.])R\.string\.(\w+)/g, "R"],
    ] as const) {
      for (const match of text.matchAll(pattern)) {
        const name = match[1] as string;
        if (GIVEN_FIELD.test(name) && kind === "buildConfig") {
          if (!told.has("BuildConfig") && own(of)) generated.push({ kind: "class", name: of, at: source.place(match.index) });
          told.add("BuildConfig");
          continue;
        }
        if (told.has(`${kind} ${name}`) || !own(of) || variantAt((regions ??= buildRegions(source.text)), match.index) !== undefined)
          continue;
        told.add(`${kind} ${name}`);
        generated.push({ kind, name, at: source.place(match.index) });
      }
    }
  }
  return { generated, inVariants: sets.size > 1 ? inVariants(sets) : [] };
}

/** Variables of the environment that shared scripts take where they have no other value. */
function fromEnvironment(sources: readonly SourceFile[]): CodeFacts["generated"] {
  const found: CodeFacts["generated"] = [];
  const told = new Set<string>();
  for (const source of sources) {
    if (source.side !== "shared" || !isScript(source.language) || !/\bConfig\.|\benv\./.test(source.text)) continue;
    const text = withoutComments(source.text);
    const made = /\bimport\s+(?:\{[^}]*\bConfig\b[^}]*\}|Config\b[^;"']*)\s*from\s*["'][^."'][^"']*["']/.test(text);
    for (const match of text.matchAll(/\b(?:(process\.env|import\.meta\.env)|Config)\.([A-Z][A-Z0-9_]+)\b(\s*(?:\?\?|\|\|))?/g)) {
      const [, variables, name = "", otherwise] = match;
      const kind = variables === undefined ? ("config" as const) : ("env" as const);
      if (otherwise !== undefined || told.has(name) || (kind === "config" && !made)) continue;
      told.add(name);
      const bundler = variables?.startsWith("import") === true;
      found.push({ kind, name, at: source.place(match.index), ...(bundler ? { bundler } : {}) });
    }
  }
  return [...found, ...extrasOf(sources)];
}

/** Values of an Expo configuration that code reads by name. Source: docs.expo.dev, "Constants". */
function extrasOf(sources: readonly SourceFile[]): CodeFacts["generated"] {
  const found: CodeFacts["generated"] = [];
  const told = new Set<string>();
  for (const source of sources) {
    if (source.side !== "shared" || !isScript(source.language) || !/\bextra\b/.test(source.text) || !/\bConstants\b/.test(source.text))
      continue;
    for (const match of withoutComments(source.text).matchAll(/\b(?:expoConfig|manifest)\s*[?!]?\.\s*extra\s*[?!]?\.\s*([A-Za-z_]\w*)/g)) {
      const name = match[1] as string;
      if (told.has(name)) continue;
      told.add(name);
      found.push({ kind: "extra", name, at: source.place(match.index) });
    }
  }
  return found;
}

/** Top-level classes of Kotlin and Java. */
const TYPE =
  /^(?:@\w+[ \t]+)*(?:(?:public|internal|open|final|abstract|data|sealed)[ \t]+)*(?:object|class|interface|enum class|enum)[ \t]+([A-Z]\w*)/gm;

function inVariants(sets: ReadonlyMap<string, { source: SourceFile; text: string }[]>): CodeFacts["inVariants"] {
  const declared = new Map<string, { set: string; source: SourceFile; offset: number }[]>();
  for (const [set, files] of sets)
    for (const { source } of files)
      for (const match of source.text.matchAll(TYPE)) {
        const list = declared.get(match[1] as string) ?? [];
        if (list.length === 0) declared.set(match[1] as string, list);
        list.push({ set, source, offset: match.index });
      }
  const found: CodeFacts["inVariants"] = [];
  for (const [name, places] of declared) {
    const [first] = places;
    if (!first || places.some(({ set }) => set === "main")) continue;
    const pattern = new RegExp(`(?<![\\w.])${name}(?:\\.(\\w+)\\s*\\(|\\s*[.(])`, "g");
    const told = new Set<string>();
    for (const { source, text } of sets.get("main") ?? []) {
      for (const match of text.matchAll(pattern)) {
        const member = match[1];
        const uses = (title: string, variants: string[]): void => {
          if (told.has(title)) return;
          told.add(title);
          found.push({ name: title, variants, declared: first.source.place(first.offset), at: source.place(match.index) });
        };
        uses(name, [...new Set(places.map(({ set }) => set))]);
        if (member === undefined) continue;
        const having = places.filter(({ source: other }) => new RegExp(`\\b${member}\\b`).test(other.text));
        if (having.length > 0 && having.length < places.length) uses(`${name}.${member}`, [...new Set(having.map(({ set }) => set))]);
      }
    }
  }
  return found;
}
