import type { App } from "../../model/app.js";
import type { BridgeFact } from "../../model/code.js";
import type { SideName } from "../../model/facts.js";
import type { Place } from "../../model/place.js";
import { keptOff } from "../platforms/directives.js";
import { inComment, type SourceFile } from "./sources.js";

/** What shared code makes or hands to the container of services: `new Door()`, `AddTransient<IDoor, Door>()`, `AddSingleton<Door>()`. */
const MADE =
  /\bnew\s+([A-Z]\w*)\s*[({]|\b(?:Try)?Add(?:Singleton|Transient|Scoped)\s*<\s*(?:[\w.]+\s*,\s*)?([A-Z]\w*)\s*>\s*\(|\bDependencyService\s*\.\s*Register\s*<\s*(?:[\w.]+\s*,\s*)?([A-Z]\w*)\s*>/g;

/** The side of a file: that of its folder, or the one for which its name has it compiled. */
function sideOf({ side, guards }: SourceFile): SideName {
  return side !== "shared" ? side : ((["android", "ios"] as const).find((own) => guards.some(({ kind }) => kind === own)) ?? "shared");
}

/**
 * Types of the app's own that the files of one platform alone declare and code of both makes: the other platform's build stops. Source:
 * learn.microsoft.com, "Configure multi-targeting" (files by folder and by name).
 */
export function oneSidedTypes({ kind, android, ios }: App, sources: readonly SourceFile[]): BridgeFact[] {
  if (kind !== "dotnet" || !android || !ios) return [];
  const own = sources.filter(({ language }) => language === "csharp");
  const declared = new Map<string, SourceFile[]>();
  for (const source of own)
    for (const [, name = ""] of source.text.matchAll(/\b(?:class|record|struct)\s+([A-Z]\w*)/g))
      declared.set(name, [...(declared.get(name) ?? []), source]);
  const alone = new Map(
    [...declared].flatMap(([name, files]) => {
      const [first] = files;
      const side = first && sideOf(first);
      return first && side !== "shared" && files.every((file) => sideOf(file) === side) ? [[name, first] as const] : [];
    }),
  );
  if (alone.size === 0) return [];
  return own.flatMap((source) => {
    if (source.side !== "shared" || source.guards.length > 0) return [];
    const off = keptOff(source.text);
    return [...source.text.matchAll(MADE)].flatMap((match): BridgeFact[] => {
      const name = match[1] ?? match[2] ?? match[3] ?? "";
      const home = alone.get(name);
      if (!home || inComment(source.text, match.index) || off(match.index).size > 0) return [];
      const fact = (role: BridgeFact["role"], of: SideName, at: Place): BridgeFact => {
        return { kind: "service", name: `class ${name}`, role, side: of, guards: [], at };
      };
      const offer = home.place(Math.max(0, home.text.search(new RegExp(`\\b${name}\\b`))));
      return [fact("asked", "shared", source.place(match.index)), fact("offered", sideOf(home), offer)];
    });
  });
}

/** Members of a class that others use by its name: `public const string Maps = …`, `internal static string Maps => …`. */
const STATIC_MEMBER =
  /\b(?:public|internal)\s+(?:(?:new|static|readonly|partial|async)\s+)*(?:const|static)\s+(?:(?:readonly|async)\s+)*[\w.<>?[\],]+\s+(\w+)\s*(?==|\(|\{)/g;

/**
 * Members that a class has under a condition for one platform alone, and that code of both uses. Source: learn.microsoft.com, "Preprocessor
 * directives" (conditional compilation).
 */
export function oneSidedMembers({ kind, android, ios }: App, sources: readonly SourceFile[]): BridgeFact[] {
  if (kind !== "dotnet" || !android || !ios) return [];
  const own = sources.filter(({ language, side }) => language === "csharp" && side === "shared");
  return own.flatMap((home) => {
    const off = keptOff(home.text);
    const classes = [...home.text.matchAll(/\b(?:class|struct|record)\s+([A-Z]\w*)/g)];
    const [first] = classes;
    if (!first || classes.length > 1 || !/^[ \t]*#\s*if/m.test(home.text) || /\bpartial\b/.test(home.text)) return [];
    const members = new Map<string, { at: number; off: ReadonlySet<"android" | "ios"> }[]>();
    for (const match of home.text.matchAll(STATIC_MEMBER)) {
      const name = match[1] as string;
      members.set(name, [...(members.get(name) ?? []), { at: match.index + match[0].lastIndexOf(name), off: off(match.index) }]);
    }
    return [...members].flatMap(([name, declared]): BridgeFact[] => {
      const lacks = (["android", "ios"] as const).filter((phone) => declared.every((one) => one.off.has(phone)));
      const [missing, both] = lacks;
      const [declaration] = declared;
      if (missing === undefined || both !== undefined || !declaration) return [];
      const use = new RegExp(`(?<![\\w.])(?:\\w+\\.)*${first[1] ?? ""}\\s*\\.\\s*${name}\\b`);
      return own.flatMap((source): BridgeFact[] => {
        const at = source.guards.length === 0 ? source.text.search(use) : -1;
        if (at === -1 || inComment(source.text, at) || keptOff(source.text)(at).size > 0) return [];
        const fact = (role: BridgeFact["role"], side: SideName, place: Place): BridgeFact => {
          return { kind: "member", name: `${first[1] ?? ""}.${name}`, role, side, guards: [], at: place };
        };
        return [
          fact("asked", "shared", source.place(at)),
          fact("offered", missing === "android" ? "ios" : "android", home.place(declaration.at)),
        ];
      });
    });
  });
}
