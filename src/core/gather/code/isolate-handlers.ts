import type { App } from "../../model/app.js";
import type { IsolateHandler } from "../../model/code.js";
import { argumentsIn } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import type { SourceFile } from "./sources.js";

/** Calls that hand a function to another isolate: the framework's own, and those of packages whose name says so. */
const HANDS_OVER =
  /\b(?:PluginUtilities\s*\.\s*getCallbackHandle|[A-Z]\w*(?:\s*\.\s*instance)?\s*\.\s*(?:on|set|register)\w*Background(?:Message|Handler|Callback|Notification\w*|Task|Fetch|Response|Event)\w*)\s*\(/g;

const ENTRY_POINT = /@pragma\s*\(\s*['"]vm:entry-point['"]/;

/**
 * Functions that another isolate calls without the mark that keeps them in a release build, or without a name by which it finds them. Source:
 * the Dart SDK, "Dart VM entry-point pragma annotations"; api.flutter.dev, "PluginUtilities.getCallbackHandle" (top-level or static functions).
 */
export function isolateHandlers({ kind }: App, sources: readonly SourceFile[]): IsolateHandler[] {
  if (kind !== "flutter") return [];
  const dart = sources.filter(({ language }) => language === "dart");
  const found: IsolateHandler[] = [];
  for (const source of dart) {
    if (!/getCallbackHandle|Background/.test(source.text)) continue;
    const text = withoutComments(source.text);
    for (const match of text.matchAll(HANDS_OVER)) {
      const callee = match[0].replace(/\s*\($/, "").replace(/\s+/g, "");
      const [first = ""] = argumentsIn(text, match.index + match[0].length - 1);
      const given = first.trim().replace(/^\w+\s*:\s*/, "");
      if (/^(?:async\s*)?\(?[\w\s,<>?]*\)?\s*(?:async\s*)?(?:=>|\{)/.test(given))
        found.push({ name: "", callee, at: source.place(match.index) });
      const name = /^(?:[A-Z]\w*\.)?(\w+)$/.exec(given)?.[1];
      if (name === undefined || !/^_?[a-z]/.test(name)) continue;
      const declared = dart.flatMap((other) => {
        if (!other.text.includes(name)) return [];
        const code = other === source ? text : withoutComments(other.text);
        const at = new RegExp(
          `^([ \\t]*)(?:static\\s+)?(?:(?:Future|FutureOr)(?:<[^\\n>]*>+)?|void|dynamic|bool)\\s+${name}\\s*\\(`,
          "m",
        ).exec(code);
        return at ? [{ other, code, offset: at.index, inClass: at[1] !== "" && !/\bstatic\b/.test(at[0]) }] : [];
      });
      const [only, ...others] = declared;
      if (!only || others.length > 0 || only.inClass) continue;
      if (!isMarked(only.code, only.offset)) found.push({ name, callee, at: only.other.place(only.offset) });
    }
  }
  return [...found, ...namedEntryPoints(sources, dart)];
}

/** Entry points that native code runs by their names. Source: docs.flutter.dev, "Add a Flutter screen" (custom entry points). */
function namedEntryPoints(sources: readonly SourceFile[], dart: readonly SourceFile[]): IsolateHandler[] {
  if (dart.length === 0) return [];
  return sources.flatMap((source) => {
    if ((source.side !== "android" && source.side !== "ios") || !/[eE]ntrypoint/.test(source.text)) return [];
    const text = withoutComments(source.text);
    const named = [
      ...text.matchAll(
        /\bwithEntrypoint\s*:\s*@?"(\w+)"(?!\s*,?\s*libraryURI\s*:\s*@?")|\brunWithEntrypoint\s*:\s*@"(\w+)"(?!\s*libraryURI)|\bDartEntrypoint\s*\([^"()]*(?:\([^()]*\)[^"()]*)*"(\w+)"\s*\)/g,
      ),
    ];
    return named.flatMap((match): IsolateHandler[] => {
      const name = (match[1] ?? match[2] ?? match[3]) as string;
      const declared = new RegExp(`^(?:[\\w<>?]+\\s+)?${name}\\s*\\([^;]*\\)\\s*(?:async\\s*)?(?:=>|\\{)`, "m");
      const homes = dart.flatMap((other) => {
        const code = other.text.includes(name) ? withoutComments(other.text) : "";
        const found = declared.exec(code);
        return found ? [{ other, code, offset: found.index }] : [];
      });
      const [home] = homes;
      if (!home) return [{ name, callee: "native code", lost: true, at: source.place(match.index) }];
      return name === "main" || isMarked(home.code, home.offset)
        ? []
        : [{ name, callee: "native code", at: home.other.place(home.offset) }];
    });
  });
}

/** Whether the mark stands between the end of the statement before and a function. */
function isMarked(code: string, offset: number): boolean {
  const before = code.slice(Math.max(0, offset - 400), offset);
  return ENTRY_POINT.test(before.slice(Math.max(before.lastIndexOf(";"), before.lastIndexOf("}")) + 1));
}
