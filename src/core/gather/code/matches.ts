import type { CodeCall, CodeFile, SdkCall } from "../../model/code.js";
import { inFull } from "./program.js";
import { START_VERB, type SourceFile, isScript } from "./sources.js";
import { type Wanted, type WantedName, fits, packageOfImport } from "./wanted.js";

export interface Match {
  sdk: string;
  kind: SdkCall["kind"];
  name: string;
  exact: boolean;
}

const KIND_ORDER: SdkCall["kind"][] = ["start", "registration", "withdrawn", "debugOnly", "use", "import", "heuristicStart"];

/** What a call is of, by the sheets' names or by what the file imports. */
export function matchOf(written: CodeCall, code: CodeFile, source: SourceFile, wanted: Wanted): Match | undefined {
  const call = inFull(written);
  let best: Match | undefined;
  const last = call.callee.split(".").at(-1) as string;
  for (const name of wanted.names) {
    if (name.kind === "import" || !sideFits(name, source, call)) continue;
    const tail = name.segments.at(-1) as string;
    if (
      tail !== last &&
      tail !== "init" &&
      !(call.selector !== undefined && last.startsWith(tail)) &&
      !(call.assignment && tail === `set${last.charAt(0).toUpperCase()}${last.slice(1)}`) &&
      !(call.callee.split(".").length === 1)
    )
      continue;
    const owner = (imported: string): boolean => packageOfImport(wanted, code.language, imported)?.sdk === name.sdk;
    const how = fits(call, name, code, owner);
    if (!how) continue;
    const match: Match = { sdk: name.sdk, kind: name.kind, name: name.name, exact: how === "exact" };
    if (
      !best ||
      Number(match.exact) > Number(best.exact) ||
      (match.exact === best.exact && KIND_ORDER.indexOf(match.kind) < KIND_ORDER.indexOf(best.kind))
    )
      best = match;
  }
  return best ?? startLike(call, code, source, wanted);
}

/** Shared files of .NET and Unity hold code of one platform between conditions, and what .NET shares can be started in each phone's own project. */
function sideFits(name: WantedName, source: SourceFile, call: CodeCall): boolean {
  if (name.side === source.side || (name.side === "shared" && source.language === "csharp")) return true;
  return source.side === "shared" && source.language === "csharp" && call.guards.some(({ kind }) => kind === name.side);
}

const PLAIN_START = /^(?:start|init|initiali[sz]e|configure)$/i;
/** Parts of packages' names that are no vendor's. */
const NO_VENDOR =
  /^(?:android|client|common|core|maui|microsoft|plugin|system|xamarin|communitytoolkit|extensions|controls|flutter|native|mobile)$/;

/** A call that is named like a start, on something that a package of the app brings, where no sheet tells the package's start. */
function startLike(call: CodeCall, code: CodeFile, source: SourceFile, wanted: Wanted): Match | undefined {
  if (source.imports.length === 0 || call.assignment) return undefined;
  const parts = call.callee.split(".");
  const last = parts.at(-1) as string;
  if (!START_VERB.test(last) || parts.length > 4) return undefined;
  const made = typeOfObject(parts, code);
  const head = made ?? (parts[0] as string);
  const binding = code.imports.find(({ names }) => names.some(({ local }) => local === head));
  let imported = binding ? packageOfImport(wanted, code.language, binding.source) : undefined;
  if (!binding && parts.length > 1 && /^[A-Z]/.test(head) && !isScript(code.language)) {
    const stem = (text: string): string => text.toLowerCase().replace(/sdk|kit|_flutter|flutter_|[-_.]/g, "");
    imported = source.imports.find(
      (entry) => stem(entry.package.split(/[/:]/).at(-1) ?? "") === stem(head) || stem(entry.sdk) === stem(head),
    );
  }
  const namedAfter = imported || binding ? undefined : vendorOf(parts, code, source, wanted);
  imported ??= namedAfter;
  if (!imported || wanted.names.some(({ sdk, kind }) => sdk === imported.sdk && kind === "start")) return undefined;
  return { sdk: imported.sdk, kind: "heuristicStart", name: call.callee, exact: made === undefined && namedAfter === undefined };
}

/** Vendors name their classes after themselves: `GullpostClient` of `Gullpost.Maui`. One that the app has written is its own. */
function vendorOf(
  parts: readonly string[],
  { language }: CodeFile,
  { imports }: SourceFile,
  { ownTypes }: Wanted,
): SourceFile["imports"][number] | undefined {
  const [head = "", verb = "", more] = parts;
  if (
    more !== undefined ||
    !PLAIN_START.test(verb) ||
    ownTypes.has(head) ||
    !/^[A-Z]/.test(head) ||
    !/^(csharp|swift|dart)$/.test(language)
  )
    return undefined;
  return imports.find((entry) =>
    entry.package.split(/[/:.]/).some((part) => {
      const name = part.toLowerCase().replace(/sdk|kit|_flutter|flutter_|[-_]/g, "");
      return name.length >= 5 && !NO_VENDOR.test(name) && head.toLowerCase().startsWith(name) && /^[A-Z]/.test(head.slice(name.length));
    }),
  );
}

/** The type of an object of the app's own that is set up: `client.init()` where `client` is a `Tide`. Starting one is often no start of the whole. */
function typeOfObject(parts: readonly string[], { variables }: CodeFile): string | undefined {
  const [object, verb] = /^(?:this|self)$/.test(parts[0] as string) ? parts.slice(1) : parts;
  if (object === undefined || verb === undefined || parts.at(-1) !== verb || !/^_?(?:init|initiali[sz]e|configure|set_?up)/i.test(verb))
    return undefined;
  return variables.get(object);
}
