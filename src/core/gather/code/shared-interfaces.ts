import { SHARED_INTERFACES } from "../../knowledge/shared-interfaces.js";
import type { App } from "../../model/app.js";
import type { CodeFacts, ComponentFault } from "../../model/code.js";
import { baseName } from "../../model/paths.js";
import { inWords } from "../../model/suggest.js";
import { entriesOf, itemsOf, textAt } from "../../syntax/data.js";
import type { ProjectFiles } from "../project-files.js";
import { withoutComments } from "../../syntax/comments.js";
import { looksAtPlatform, type SourceFile } from "./sources.js";

/** Calls of the framework's own interfaces in code that both phones run: the first of each. */
export function sharedCalls({ kind, android, ios }: App, sources: readonly SourceFile[]): CodeFacts["sharedCalls"] {
  const own = android && ios ? SHARED_INTERFACES.filter(({ kinds }) => kinds.includes(kind)) : [];
  if (own.length === 0) return [];
  const shared = sources.filter(({ side, guards }) => side === "shared" && guards.length === 0);
  return own.flatMap(({ name, imports, from, pattern, unless, needs }): CodeFacts["sharedCalls"] => {
    for (const source of shared) {
      if (!source.text.includes(imports) || !pattern.test(source.text) || isForTests(source.file)) continue;
      const text = withoutComments(source.text);
      const offset = text.search(pattern);
      if (offset === -1 || unless?.test(text) || (from !== undefined && !isFrom(text, imports, from))) continue;
      if ("phone" in needs && isChecked(source, text, pattern, sources)) continue;
      return [{ name, at: source.place(offset) }];
    }
    return [];
  });
}

const isForTests = (file: string): boolean =>
  /(^|\/)(__tests__|__mocks__|tests?|e2e|stories)\/|\.(test|spec|stories)\.\w+$|_test\.dart$/.test(file);

/** Whether a file takes one of some names from a module: others have modules with the same names. */
const isFrom = (text: string, module: string, names: string): boolean =>
  new RegExp(`\\b(?:${names})\\b[^;'"]*?(?:\\bfrom\\s*|\\brequire\\s*\\(\\s*)["']${module}["']`).test(text);

/** Looks at the platform that decide on nothing but what stands in them: a value of a style, a call of something else on the same line. */
const OF_ITSELF =
  /(?:\.\.\.|:)\s*Platform\s*\.\s*select\s*\(|:\s*Platform\s*\.\s*OS\s*===?\s*["']\w+["']\s*\?[^\n]*|^[ \t]*if\s*\(\s*Platform\s*\.\s*OS[^()\n]*\)\s*[A-Z]\w*\s*\.\s*\w+\s*\([^\n]*;[ \t]*$/gm;

/** Whether a file looks at the platform, or one that imports it does: then it may be called on the one phone alone. */
function isChecked(source: SourceFile, text: string, call: RegExp, sources: readonly SourceFile[]): boolean {
  if (looksAtPlatform(text.replace(OF_ITSELF, (part) => (call.test(part) ? part : ""))) || /android|ios/i.test(baseName(source.file)))
    return true;
  const parts = source.file.split("/");
  const stem = (parts.at(-1) ?? "").replace(/\.\w+$/, "");
  const name = stem === "index" ? (parts.at(-2) ?? stem) : stem;
  const imported = new RegExp(`["'][^"'\\n]*(?:^|["'/.])${name.replace(/[^\w-]/g, "\\$&")}(?:\\.\\w+)?["']`);
  return sources.some(
    (other) =>
      other !== source && other.side === "shared" && other.text.includes(name) && looksAtPlatform(other.text) && imported.test(other.text),
  );
}

/** What the framework calls an orientation, and the system of Apple. */
const ORIENTATIONS: Readonly<Record<string, string>> = {
  portraitUp: "Portrait",
  portraitDown: "PortraitUpsideDown",
  // The framework names the side of the device, the system that of its button.
  landscapeLeft: "Landscape",
  landscapeRight: "Landscape",
};

/**
 * A Flutter app that turns the screen to what its property list does not have. Sources: api.flutter.dev, `SystemChrome.setPreferredOrientations`; developer.apple.com,
 * "UISupportedInterfaceOrientations".
 */
export function askedOrientations(
  project: ProjectFiles,
  { kind, ios, propertyLists }: App,
  sources: readonly SourceFile[],
): ComponentFault[] {
  if (kind !== "flutter" || !ios || ios.generated) return [];
  const lists = propertyLists.flatMap((file) => (file.endsWith(".plist") ? (project.plist(file)?.root ?? []) : []));
  const stated = lists.flatMap((root) =>
    entriesOf(root).flatMap(([key, { value }]) =>
      key.startsWith("UISupportedInterfaceOrientations") ? itemsOf(value).flatMap((item) => textAt(item) ?? "$") : [],
    ),
  );
  if (stated.length === 0 || stated.some((text) => text.includes("$"))) return [];
  for (const source of sources) {
    if (source.side !== "shared" || !source.text.includes("setPreferredOrientations")) continue;
    const text = withoutComments(source.text);
    for (const match of text.matchAll(/\bsetPreferredOrientations\s*\(\s*(?:const\s*)?(?:<DeviceOrientation>\s*)?\[([^\]]*)\]/g)) {
      const asked = [...(match[1] ?? "").matchAll(/\bDeviceOrientation\.(\w+)/g)].map(([, name = ""]) => name);
      const wanted = asked.map((name) => ORIENTATIONS[name]);
      if (
        asked.length === 0 ||
        wanted.some((name) => name === undefined || stated.some((one) => one.startsWith(`UIInterfaceOrientation${name}`)))
      )
        continue;
      const near = inWords(stated.map((one) => one.replace("UIInterfaceOrientation", "")));
      return [{ what: "orientation", side: "ios", element: "call", name: asked.join(", "), near, at: source.place(match.index) }];
    }
  }
  return [];
}
