import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { CodeFacts } from "../../model/code.js";
import { withoutComments } from "../../syntax/comments.js";
import { isScript, type SourceFile } from "./sources.js";

/** A file with its text without remarks. */
interface Plain {
  source: SourceFile;
  text: string;
}

/** A name that is asked for, and where. */
interface Asked {
  what: "screen" | "route" | "path" | "parameter";
  name: string;
  source: SourceFile;
  at: number;
}

/**
 * Screens and routes that code asks for by a name which no navigator has. Only where all names are written out. Sources: reactnavigation.org, "Navigating" (an
 * action for a screen that is not there is not handled); pub.dev, go_router ("Named routes", "Path parameters").
 */
export function lostScreens(app: App, sources: readonly SourceFile[]): CodeFacts["lostScreens"] {
  const has = (ecosystem: string, name: string): boolean =>
    app.dependencies.some((one) => one.ecosystem === ecosystem && one.name === name);
  const isRouted = has("npm", "@react-navigation/native") && !has("npm", "expo-router") && !has("npm", "react-native-navigation");
  if (!isRouted && !has("pub", "go_router")) return [];
  const plain = sources.flatMap((source): Plain[] =>
    source.side === "shared" && (isRouted ? isScript(source.language) : source.language === "dart") && WORDS.test(source.text)
      ? [{ source, text: withoutComments(source.text) }]
      : [],
  );
  const { known, asked } = isRouted ? ofScripts(plain) : ofDart(plain);
  const told = new Set<string>();
  return asked.flatMap(({ what, name, source, at }) => {
    const names = known[what];
    const isThere = !names || names.size === 0 || name === "" || names.has(name) || told.has(`${what} ${name}`);
    if (isThere) return [];
    told.add(`${what} ${name}`);
    const near =
      [...names].find((other) => distance(other, name) <= 2) ?? [...names].find((other) => name.startsWith(other) && other.length > 2);
    return [{ what, name, near, at: source.place(at) }];
  });
}

const WORDS = /\bScreen\b|navigat|initialRouteName|GoRoute|\.(?:go|push|replace|pushReplacement)(?:Named)?\s*\(|pathParameters/;

type Found = { known: Partial<Record<Asked["what"], Set<string>>>; asked: Asked[] };

const SCREEN =
  /<\s*(?:[A-Z]\w*\s*\.\s*)?Screen\b(?:[^<>]|=>|<(?!\s*\/?[A-Z]\w*\.Screen)[^<>]*>)*?\bname\s*=\s*(?:\{\s*)?(["'])(\w[\w ./-]*)\1/g;
const GO =
  /\b\w*[nN]avigat\w*(?:\s*\.\s*current|\s*\(\s*\))?\s*[?!]?\s*\.\s*(?:navigate|push|replace|jumpTo|popTo)\s*(?:<[^()]*>)?\(\s*(["'])(\w[\w ./-]*)\1/g;

function ofScripts(files: readonly Plain[]): Found {
  const screens = new Set<string>();
  const asked: Asked[] = [];
  for (const { source, text } of files) {
    // Navigators that are made of an object, and names that code works out.
    if (/\bcreate\w*Navigator\s*(?:<[^()]*>)?\(\s*\{|\bcreateStaticNavigation\b/.test(text)) return { known: {}, asked: [] };
    const written = [...text.matchAll(SCREEN)];
    if (written.length < [...text.matchAll(/<\s*[A-Z]\w*\s*\.\s*Screen\b/g)].length) return { known: {}, asked: [] };
    for (const match of written) screens.add(match[2] as string);
    for (const form of [GO, /\binitialRouteName\s*[=:]\s*(?:\{\s*)?(["'])(\w[\w ./-]*)\1/g])
      for (const match of text.matchAll(form))
        asked.push({ what: "screen", name: match[2] as string, source, at: match.index + match[0].length - 1 });
  }
  return { known: { screen: screens }, asked };
}

function ofDart(files: readonly Plain[]): Found {
  const names = new Set<string>();
  const paths = new Set<string>();
  const parameters = new Set<string>();
  const asked: Asked[] = [];
  for (const { source, text } of files) {
    for (const match of text.matchAll(/\b(?:Typed)?GoRoute(?:<\w+>)?\s*\(/g)) {
      const head = text.slice(match.index, match.index + 300).split(/\b(?:routes|builder|pageBuilder|redirect)\s*:/, 1)[0] ?? "";
      const path = /\bpath\s*:\s*(["'])([^"'$]*)\1/.exec(head)?.[2];
      if (path === undefined || /\bname\s*:(?!\s*["'])/.test(head)) return { known: {}, asked: [] };
      const name = /\bname\s*:\s*(["'])([^"'$]*)\1/.exec(head)?.[2];
      if (name !== undefined) names.add(name);
      const parts = path.split("/").filter((part) => part !== "");
      paths.add(parts[0]?.startsWith(":") ? "*" : (parts[0] ?? ""));
      for (const part of parts) if (part.startsWith(":")) parameters.add(part.slice(1).replace(/\(.*$/, ""));
    }
    for (const match of text.matchAll(/\bcontext\s*\.\s*(?:go|push|replace|pushReplacement)Named\s*(?:<[^()]*>)?\(\s*(["'])([^"'$]+)\1/g))
      asked.push({ what: "route", name: match[2] as string, source, at: match.index + match[0].length - 1 });
    for (const match of text.matchAll(
      /\bcontext\s*\.\s*(?:go|push|replace|pushReplacement)\s*(?:<[^()]*>)?\(\s*(["'])\/([^"'$?/]*)[^"'$]*\1/g,
    ))
      asked.push({ what: "path", name: match[2] as string, source, at: match.index + match[0].length - 1 });
    for (const match of text.matchAll(/\bpathParameters\s*\[\s*(["'])(\w+)\1/g))
      asked.push({ what: "parameter", name: match[2] as string, source, at: match.index });
  }
  // A parameter at the beginning takes any.
  return { known: { route: names, parameter: parameters, ...(paths.has("*") ? {} : { path: paths }) }, asked };
}
