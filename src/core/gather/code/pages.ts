import type { App } from "../../model/app.js";
import type { CodeFacts } from "../../model/code.js";
import { withoutComments } from "../../syntax/comments.js";
import { isScript, type SourceFile } from "./sources.js";

/** Calls that go to an address; the address may come after the method's name. */
const REQUEST =
  /(?<!\bwindow\.|InAppBrowser\.)\b(?:fetch|open|ajax|get|post|put|patch|delete|request|getJSON|load|WebSocket|EventSource|axios)\s*\(\s*(?:\{\s*(?:\w+\s*:\s*["'][^"'\n]*["']\s*,\s*){0,4}url\s*:\s*)?(?:["']\w+["']\s*,\s*)?["'`](https?|wss?):\/\/([\w.-]+)/g;

/** Requests of shared scripts to hosts that are written out. */
export function requestsOf(sources: readonly SourceFile[]): CodeFacts["requests"] {
  const found: CodeFacts["requests"] = [];
  for (const source of sources) {
    if (source.side !== "shared" || !isScript(source.language) || !source.text.includes("://")) continue;
    for (const match of withoutComments(source.text).matchAll(REQUEST))
      found.push({
        scheme: match[1] as string,
        host: match[2] as string,
        at: source.place(match.index + match[0].length - (match[2] as string).length),
      });
  }
  return found;
}

/** What a file asks when it looks at the platform, or whether something is there. */
const LOOKS = /\bplatformId\b|\bdevice\.platform\b|\bisAndroid\b|\bisIOS\b|\bplatform\.is\b|\bgetPlatform\b|userAgent/i;

/** Calls of packages that are on one side alone, in files that look neither at the platform nor whether the package is there. */
export function oneSidedCalls({ oneSidedPackages }: App, sources: readonly SourceFile[]): CodeFacts["oneSidedCalls"] {
  return oneSidedPackages.flatMap(({ package: name, sdk, lacks, names, at: declared }) => {
    for (const source of sources) {
      if (source.side !== "shared" || !isScript(source.language)) continue;
      const text = withoutComments(source.text);
      if (LOOKS.test(text)) continue;
      for (const global of names) {
        const call = new RegExp(`(?<![\\w$])${global.replace(/[.$]/g, "\\$&")}\\.\\w+\\s*\\(`).exec(text);
        const asked = new RegExp(
          `\\bif\\s*\\([^)\\n]{0,200}${global.replace(/[.$]/g, "\\$&")}|${global.replace(/[.$]/g, "\\$&")}\\s*&&|typeof\\s+${global.replace(/[.$]/g, "\\$&")}`,
        ).test(text);
        if (call && !asked) return [{ package: name, sdk, lacks, name: global, declared, at: source.place(call.index) }];
      }
    }
    return [];
  });
}
