import { GUARDED_CALLS } from "../../knowledge/permission-requests.js";
import { withoutComments } from "../../syntax/comments.js";
import type { SourceFile } from "./sources.js";

/**
 * Code in C# for one phone, as the same code would be written in Java or Swift, so that what is known of the platforms' own interfaces holds for it.
 * Texts stay as they are, and places are those of the file. Sources: learn.microsoft.com, "Binding a Java library" (names of methods, properties, constants and
 * namespaces) and "Objective-C bindings: API design guidelines" (Url, Id, Shared…).
 */
export function nativeViews(sources: readonly SourceFile[]): SourceFile[] {
  return sources.flatMap((source) => {
    if (source.language !== "csharp" || source.side === "shared" || !/^[ \t]*(?:global\s+)?using\s/m.test(source.text)) return [];
    return source.side === "android" ? viewOf(source, "java", androidPiece, androidImports) : viewOf(source, "swift", applePiece, () => "");
  });
}

/** Texts, which stay; directives that bring names in; and a name with the members that are asked of it. */
const PIECE =
  /[@$]*"(?:\\.|""|[^"\\\n])*"|^[ \t]*(?:global\s+)?using\s+(?:static\s+)?(?:\w+\s*=\s*)?(?<using>[\w.]+)\s*;|\(int\)\s*|(?<annotation>\[\s*JavascriptInterface\s*\]\s*\[\s*(?:Java\.Interop\.)?Export\b[^\]]*\]|\[\s*(?:Java\.Interop\.)?Export\b[^\]]*\]\s*\[\s*JavascriptInterface\s*\]|\[\s*JavascriptInterface\s*,\s*(?:Java\.Interop\.)?Export\b[^\]]*\]|\[\s*(?:Java\.Interop\.)?Export\b[^\]]*,\s*JavascriptInterface\s*\])|(?<made>[\w.]+)\??\s+(?<variable>\w+)\s*=\s*new\s*(?=\()|(?<fresh>\bnew\s+)?(?<chain>(?:\bglobal::)?\b[A-Za-z_]\w*(?:\s*[!?]*\s*\.\s*[A-Za-z_]\w*)*|(?<=[)\]!?]\s*)\.\s*[A-Za-z_]\w*)(?=(?<call>\s*\()?)/gm;

interface Piece {
  using?: string;
  made?: string;
  variable?: string;
  fresh?: string;
  chain?: string;
  call?: string;
  /** Methods that pages see are marked so, and exported. */
  annotation?: string;
}

function viewOf(
  source: SourceFile,
  language: SourceFile["language"],
  spelt: (piece: Piece, written: string) => string,
  imports: (text: string) => string,
): SourceFile {
  const text = withoutComments(source.text);
  const pieces: string[] = [];
  let [at, length] = [0, 0];
  /** Where what was written otherwise ends in the view, and in the file. */
  const [inView, inFile]: [number[], number[]] = [[0], [0]];
  for (const match of text.matchAll(PIECE)) {
    const [written] = match;
    const own = /^[@$]*"/.test(written) ? written : spelt((match.groups ?? {}) as Piece, written);
    pieces.push(text.slice(at, match.index), own);
    length += match.index - at + own.length;
    at = match.index + written.length;
    if (own.length === written.length) continue;
    inView.push(length);
    inFile.push(at);
  }
  pieces.push(text.slice(at), imports(text));
  const offsetIn = (offset: number): number => {
    let [low, high] = [0, inView.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((inView[middle] ?? 0) <= offset) low = middle + 1;
      else high = middle;
    }
    const [from = 0, of = 0] = [inView[low - 1], inFile[low - 1]];
    return Math.min(of + offset - from, inFile[low] ?? text.length);
  };
  return { ...source, language, text: pieces.join(""), place: (offset) => source.place(offsetIn(offset)) };
}

const small = (name: string): string => name.charAt(0).toLowerCase() + name.slice(1);
const constant = (name: string): string => name.replace(/(?<=[a-z\d])(?=[A-Z])/g, "_").toUpperCase();
const membersOf = (chain: string): string[] => chain.replace(/[\s!?]+|global::/g, "").split(".");

/** Namespaces that begin so are packages; the class stands before the last member, or is the last. */
const PACKAGES = /^(?:Android|AndroidX|Java|Javax)$/;

/** Lists of constants that are types of their own, by what the platform has in their place. */
const LISTS: readonly [type: RegExp, prefix: string][] = [
  [/^ForegroundService$/, "ServiceInfo.FOREGROUND_SERVICE_"],
  [/^(\w+?)Types?$/, "$1.TYPE_"],
];

function androidPiece({ using, made, variable, fresh = "", chain, call, annotation }: Piece, written: string): string {
  if (annotation !== undefined) return "@JavascriptInterface";
  if (using !== undefined) return `import ${packageOf(using)}.*;`;
  if (made !== undefined && variable !== undefined) return `${made} ${variable} = new ${lastOf(made)}`;
  if (chain === undefined) return written.startsWith("(int)") ? "" : written;
  if (fresh !== "") return `new ${lastOf(chain)}`;
  if (/^(?:global::)?Java\.Lang\.Object$/.test(chain)) return "Object";
  const members = membersOf(chain);
  const [head = "", ...others] = PACKAGES.test(members[0] ?? "") ? members.slice(-2) : members;
  const last = others.pop();
  if (last === undefined) return head;
  const owner = others.at(-1) ?? head;
  const before = [head, ...others.map((name) => (/^[A-Z]/.test(head) ? name : small(name)))].join(".");
  if (call !== undefined || !/^[A-Z]/.test(owner)) return `${before}.${small(last)}`;
  const list = LISTS.find(([type]) => type.test(owner));
  return list && others.length === 0 ? owner.replace(list[0], list[1]) + constant(last) : `${before}.${constant(last)}`;
}

const lastOf = (chain: string): string => membersOf(chain).at(-1) ?? "";
const packageOf = (namespace: string): string => namespace.toLowerCase();

/** Classes that something is known of, by their whole names, which code of the platform brings in one by one. */
const KNOWN_CLASSES: readonly (readonly [pack: string, name: string])[] = [
  ...new Set(GUARDED_CALLS.flatMap(({ imports }) => (imports !== undefined && /^[a-z.\d]+\.[A-Z]\w*$/.test(imports) ? imports : []))),
].map((whole) => [whole.slice(0, whole.lastIndexOf(".")), whole.slice(whole.lastIndexOf(".") + 1)]);

/** Classes of packages that the file uses, and those that it names as a whole. */
function androidImports(text: string): string {
  const lower = text.toLowerCase();
  const used = KNOWN_CLASSES.filter(([pack, name]) => text.includes(name) && lower.includes(`using ${pack};`));
  const whole = [...text.matchAll(/\b((?:Android|AndroidX|Java)(?:\.[A-Z]\w*)+)\.([A-Z]\w*)/g)].map(
    (match) => [packageOf(match[1] as string), match[2] as string] as const,
  );
  return [...used, ...whole].map(([pack, name]) => `\nimport ${pack}.${name};`).join("");
}

function applePiece({ using, made, variable, fresh, chain, call }: Piece, written: string): string {
  if (using !== undefined) return `import ${using}`;
  if (made !== undefined && variable !== undefined) return `${variable} = ${native(lastOf(made))}`;
  if (chain === undefined) return written;
  if (fresh !== undefined) return native(lastOf(chain)) + (call === undefined ? "()" : "");
  const [head = "", ...others] = membersOf(chain);
  return native([head, ...others.map(small)].join("."));
}

/** Abbreviations that bindings write as words. */
const native = (name: string): string =>
  name
    .replace(/Url(?![a-z])/g, "URL")
    .replace(/NFCNdef/g, "NFCNDEF")
    .replace(/^NEVpn/, "NEVPN")
    .replace(/\bshared(?:Manager|InstanceManager|AccessoryManager)\b/g, "shared")
    .replace(/\bdefaultStore\b/g, "default");
