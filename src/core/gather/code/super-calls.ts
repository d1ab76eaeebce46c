import type { ComponentFault } from "../../model/code.js";
import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import type { SourceFile } from "./sources.js";

/**
 * Methods of activities and fragments that end the app where an override does not call what it overrides. Sources: developer.android.com,
 * `android.app.Activity` and `androidx.fragment.app.Fragment` ("Derived classes must call through to the super class's implementation of this method.
 * If they do not, an exception will be thrown"), read 2026-12-02.
 */
const MUST_CALL: Readonly<Record<string, readonly string[]>> = {
  Activity: ["onCreate", "onStart", "onRestart", "onResume", "onPostCreate", "onPostResume", "onPause", "onStop", "onDestroy"],
  Fragment: ["onAttach", "onCreate", "onStart", "onResume", "onPause", "onStop", "onDestroyView", "onDestroy", "onDetach"],
};

/** The head of a class above which stands another class: `class A : B()`, `class A extends B`, `class A : B` of C#. */
const HEAD = /\bclass\s+\w+(?:<[^<>{}]*>)?\s*(?:\([^(){}]*\)\s*)?(?:(?::|extends)\s*)([^{};]*)\{/g;

/** Overrides of the methods of a life cycle that do not call what they override: the system ends the app there. */
export function withoutSuper(sources: readonly SourceFile[]): ComponentFault[] {
  return sources.flatMap((source) => {
    if (!/(?:Activity|Fragment)\b/.test(source.text) || !/override|\bextends\b/.test(source.text)) return [];
    const text = withoutComments(source.text);
    return [...text.matchAll(HEAD)].flatMap((head) => {
      const [above = ""] = (head[1] as string).split(",", 1);
      const kind = /\w*?(Activity|Fragment)\s*(?:<[^<>]*>)?\s*(?:\(|$|\bimplements\b)/.exec(above.trim())?.[1];
      const open = head.index + head[0].length - 1;
      return kind === undefined ? [] : overridesIn(source, text, open, MUST_CALL[kind] as readonly string[]);
    });
  });
}

function overridesIn(source: SourceFile, text: string, open: number, names: readonly string[]): ComponentFault[] {
  const body = text.slice(open, closing(text, open));
  const words = source.language === "csharp" ? names.map((name) => name[0]?.toUpperCase() + name.slice(1)) : names;
  const form = {
    kotlin: `\\boverride\\s+(?:suspend\\s+)?fun\\s+(${words.join("|")})\\s*\\(`,
    java: `\\b(?:public|protected)\\s+void\\s+(${words.join("|")})\\s*\\(`,
    csharp: `\\boverride\\s+(?:async\\s+)?void\\s+(${words.join("|")})\\s*\\(`,
  }[source.language as "kotlin" | "java" | "csharp"];
  return [...body.matchAll(new RegExp(form, "g"))].flatMap((match): ComponentFault[] => {
    const name = match[1] as string;
    // What stands in an object inside of the class is that object's.
    if (depthAt(body, match.index) !== 1) return [];
    const parameters = match.index + match[0].length - 1;
    const end = closing(body, parameters) + 1;
    const start = body.slice(end).search(/[{=;]/) + end;
    const block = body[start] === "{" ? body.slice(start, closing(body, start)) : body.slice(start, body.indexOf("\n", start));
    if (new RegExp(`\\b(?:super(?:<\\w+>)?(?:@\\w+)?|base)\\s*\\.\\s*${name}\\s*\\(`).test(block)) return [];
    return [
      {
        what: "super not called",
        side: "android",
        element: source.language === "csharp" ? "base" : "super",
        name,
        near: undefined,
        at: source.place(open + match.index + match[0].indexOf(name)),
      },
    ];
  });
}

/** How many braces are open at an offset. */
function depthAt(text: string, at: number): number {
  let depth = 0;
  for (let index = 0; index < at; index++) {
    if (text[index] === "{") depth++;
    else if (text[index] === "}") depth--;
  }
  return depth;
}
