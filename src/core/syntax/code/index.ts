import type { CodeFile } from "../../model/code.js";
import { namesOfClause } from "./imports.js";
import { parseTree, type SyntaxNode } from "./grammars.js";
import { isScript, type Language } from "./languages.js";
import { readCodeTree } from "./read.js";

/** Reads a source file whose grammar is loaded; `undefined` when it is not, or the text takes too long. */
export function readCode(language: Language, source: string): CodeFile | undefined {
  const text = withoutReturns(source);
  const root = parseTree(
    language,
    language === "objc"
      ? withoutMacros(text)
      : language === "kotlin"
        ? withoutNewKotlin(text)
        : language === "dart"
          ? withoutExtensionTypes(text)
          : text,
  );
  if (!root) return undefined;
  const file = readCodeTree(language, text, root);
  if (isScript(language)) addRequires(file);
  return file;
}

/** The whole tree of a source file whose grammar is loaded, with offsets in its text; `undefined` when that takes too long. */
export function treeOf(language: Language, source: string): SyntaxNode | undefined {
  return parseTree(language, withoutReturns(source));
}

/** Not every grammar knows Windows line ends everywhere; a space in place of the first sign keeps every offset. */
function withoutReturns(source: string): string {
  return source.includes("\r") ? source.replace(/\r\n/g, " \n") : source;
}

/**
 * Macros of Objective-C that stand where the grammar expects declarations, as what they mean: a method, or nothing. The
 * length of the text and its lines stay as they are.
 */
function withoutMacros(text: string): string {
  return text
    .replace(
      /^([ \t]*)(RCT_[A-Z_]*METHOD|CAP_METHOD)\(([^\n]*?)\)([ \t]*(?:\{|$))/gm,
      (_, space: string, name: string, inside: string, rest: string) =>
        /^\w+[\s:]*\(|^\w+$/.test(inside)
          ? `${space}${"- (void)".padEnd(name.length + 1)}${inside} ${rest}`
          : " ".repeat(space.length + name.length + inside.length + 2) + rest,
    )
    .replace(
      /^[ \t]*(?:NS_ASSUME_NONNULL_(?:BEGIN|END)|RCT_EXPORT_(?:PRE_REGISTERED_)?MODULE(?:_NO_LOAD)?\([^\n]*\)|RCT_EXPORT_VIEW_PROPERTY\([^\n]*\)|CAP_PLUGIN\([^\n]*)[ \t]*$/gm,
      (line) => " ".repeat(line.length),
    );
}

/**
 * Kotlin without what is newer than its grammar, or that the grammar takes for something else: modifiers of Kotlin Multiplatform (what they say,
 * the source set of the file says too), guards of branches, context parameters. The length of the text and its lines stay as they are. Source:
 * kotlinlang.org, "Expected and actual declarations", "Guard conditions in when expressions", "Context parameters".
 */
function withoutNewKotlin(text: string): string {
  const spaces = (found: string): string => found.replace(/[^\n]/g, " ");
  return text
    .replace(MULTIPLATFORM_MODIFIER, spaces)
    .replace(
      /^([ \t]*(?:!?(?:is|in)[ \t]+)?[^\n{}=>]{1,300}?)([ \t]if\b[^\n{}]{0,300}?)(?=[ \t]*->)/gm,
      (_, test: string, guard: string) => test + spaces(guard),
    )
    .replace(
      /^[ \t]*context[ \t]*\([^()\n]*\)(?=\s*(?:@|fun\b|val\b|var\b|public\b|private\b|internal\b|protected\b|override\b|suspend\b|inline\b))/gm,
      spaces,
    );
}

/** Extension types of Dart as classes, which its grammar knows. The length of the text stays as it is. Source: dart.dev, "Extension types". */
function withoutExtensionTypes(text: string): string {
  return text.replace(
    /\bextension(\s+)type(\s+)((?:const\s+)?)(\w+(?:\s*<[^<>{}]*>)?)(\s*(?:\.\w+)?\([^(){}]*\))/g,
    (_, gap: string, space: string, constant: string, name: string, held: string) =>
      `class${" ".repeat(9 + gap.length - 1)}${space}${" ".repeat(constant.length)}${name}${held.replace(/[^\n]/g, " ")}`,
  );
}

const MULTIPLATFORM_MODIFIER =
  /(?<![\w.])(?:expect|actual)(?=[ \t]+(?:(?:public|internal|private|protected|override|suspend|inline|data|sealed|abstract|open|value|annotation|enum|lateinit|const|operator|infix|tailrec|fun|val|var|class|object|interface|typealias|constructor)\b))/g;

/** `export … from "y"`, `const x = require("y")` and `await import("y")` are imports too. */
function addRequires(file: CodeFile): void {
  for (const match of file.plain.matchAll(/\bexport\s*(\*(?:\s+as\s+\w+)?|\{[^}]*\})\s*from\s*["']([^"'\n]+)["']/g))
    file.imports.push({ source: match[2] as string, names: match[1]?.startsWith("{") ? namesOfClause(match[1]) : [], from: match.index });
  for (const match of file.plain.matchAll(
    /(?:\b(?:const|let|var)\s+([\w$]+|\{[^}]*\})\s*=\s*)?(?:await\s+)?\b(?:require|import)\(\s*["']([^"']+)["']\s*\)(?:\.(\w+))?/g,
  )) {
    const names = namesOfClause(match[1] ?? "").map((name) => ({
      ...name,
      imported: name.imported === "default" ? (match[3] ?? "default") : name.imported,
    }));
    file.imports.push({ source: match[2] as string, names, from: match.index });
  }
}

export { languageOf, type Language } from "./languages.js";
