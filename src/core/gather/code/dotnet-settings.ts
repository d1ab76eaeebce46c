import type { App } from "../../model/app.js";
import type { CodeFacts, PageFault } from "../../model/code.js";
import { baseName } from "../../model/paths.js";
import { nearest } from "../../model/suggest.js";
import { argumentsIn, isInSight } from "../../syntax/code/callee.js";
import { entriesOf, type Data } from "../../syntax/data.js";
import type { ProjectFiles } from "../project-files.js";
import { withoutUncalled } from "./dotnet-services.js";
import type { ScriptClasses, ScriptCode } from "./script-classes.js";

type Unset = CodeFacts["unsetVariables"];

const STREAM = /\bGetManifestResourceStream\s*\(/g;
const ASSET = /\bOpenAppPackageFileAsync\s*\(\s*"([^"\n]+)"\s*\)/g;
/** Ways to give settings to a builder; of those that are not the first two nobody can tell what they bring. */
const ADDED =
  /\.\s*(Add(?:JsonStream|Configuration|JsonFile|InMemoryCollection|EnvironmentVariables|UserSecrets|\w*Configuration\w*))\s*(?:<[^<>()]*>)?\s*\(/g;
const CERTAIN = /^Add(JsonStream|Configuration)$/;

/** `Configuration["A:B"]`, `config.GetValue<int>("A:B")`, `configuration.GetSection("A")`. */
const READ =
  /\b\w*[cC]onfig(?:uration)?\s*(?:\[\s*"([^"\n]+)"\s*\]\s*(\?\?)?|\.\s*(?:GetValue\s*<[^<>()]+>|Get(?:Required)?Section)\s*\(\s*"([^"\n]+)"\s*(,)?)/g;

/**
 * Embedded files that code of .NET opens by a name which no item has, and settings that it reads and no file of them has, or before they are added. Sources:
 * learn.microsoft.com, "Manifest resource names" (root namespace, folders, LogicalName), "Configuration in .NET" (keys with `:`, case-insensitive; what is
 * not there is null).
 */
export function dotnetSettings(project: ProjectFiles, app: App, { all }: ScriptClasses): { faults: PageFault[]; unset: Unset } {
  const faults = lostResources(app, all);
  return { faults, unset: faults.length > 0 ? [] : unsetSettings(project, app, all) };
}

/** The text between the quotes of the argument that a call is given, where it is one. */
function textGiven(code: string, open: number): string | undefined {
  const [given = "", more] = argumentsIn(code, open);
  return more === undefined ? /^\s*"([^"\\\n]+)"\s*$/.exec(given)?.[1] : undefined;
}

function lostResources({ bundledFiles }: App, all: readonly ScriptCode[]): PageFault[] {
  const files = bundledFiles.flatMap(({ kind, name, file }) => (kind === "embedded" ? [{ name, file }] : []));
  if (files.some(({ name }) => name === undefined)) return [];
  return all.flatMap(({ source, code }) =>
    [...code.matchAll(STREAM)].flatMap((match): PageFault[] => {
      const name = textGiven(code, match.index + match[0].length - 1);
      if (name === undefined || name.endsWith(".resources") || files.some((file) => file.name === name)) return [];
      // Assemblies of others have names of their own.
      if (!all.some((one) => [...one.code.matchAll(/\bnamespace\s+([\w.]+)/g)].some(([, own = ""]) => name.startsWith(`${own}.`))))
        return [];
      const last = name.split(".").slice(-2).join(".").toLowerCase();
      const near =
        files.find((file) => baseName(file.file).toLowerCase() === last)?.name ??
        nearest(
          name,
          files.flatMap((file) => file.name ?? []),
        );
      return [{ what: "embedded file", name, near, at: source.place(match.index) }];
    }),
  );
}

/** The keys of files of settings that code adds, in small letters; `undefined` where more may be added, or nothing is read from files. */
function keysAdded(project: ProjectFiles, app: App, all: readonly ScriptCode[]): { keys: Set<string>; files: string[] } | undefined {
  const keys = new Set<string>();
  const files = new Set<string>();
  const take = (data: Data, path: string): void => {
    for (const [key, { value }] of entriesOf(data)) {
      const own = path === "" ? key : `${path}:${key}`;
      keys.add(own.toLowerCase());
      if (value.kind === "map") take(value, own);
    }
  };
  for (const { code } of all)
    for (const match of code.matchAll(ADDED)) {
      if (!CERTAIN.test(match[1] as string)) return undefined;
      const opened = [
        ...[...code.matchAll(STREAM)].map((one) => {
          const name = textGiven(code, one.index + one[0].length - 1);
          return app.bundledFiles.find((file) => name !== undefined && file.name === name)?.file;
        }),
        ...[...code.matchAll(ASSET)].map(
          (one) => app.bundledFiles.find(({ kind, file }) => kind === "asset" && baseName(file) === baseName(one[1] as string))?.file,
        ),
      ];
      if (opened.length === 0 || opened.includes(undefined)) return undefined;
      for (const file of opened) if (file !== undefined) files.add(file);
    }
  for (const file of files) {
    const root = project.json(file)?.root;
    if (!root) return undefined;
    take(root, "");
  }
  return { keys, files: [...files] };
}

function unsetSettings(project: ProjectFiles, app: App, written: readonly ScriptCode[]): Unset {
  // Settings of a web page's own, and of a host of other kind, come by other ways.
  if (!written.some(({ code }) => code.search(READ) !== -1)) return [];
  const all = withoutUncalled(written);
  const setup = all.find(({ code }) => /\bMauiApp\s*\.\s*CreateBuilder\s*\(/.test(code));
  const known = setup && keysAdded(project, app, all);
  if (!known) return [];
  const told = new Set<string>();
  return all.flatMap(({ source, code }) => {
    // Other things are called so, too.
    if (source.side !== "shared" || source.file.endsWith(".razor") || !/\bIConfiguration\b|\.\s*Configuration\b/.test(code)) return [];
    const added = source === setup.source ? placesOfAdding(code, all) : [];
    return [...code.matchAll(READ)].flatMap((match): Unset => {
      const name = match[1] ?? match[3] ?? "";
      if (told.has(name) || match[2] !== undefined || match[4] !== undefined || /^\s*\?\?/.test(code.slice(match.index + match[0].length)))
        return [];
      const isFirst = added.length > 0 && added.every((at) => at > match.index && isInSight(code, match.index, at));
      if (!isFirst && known.keys.has(name.toLowerCase())) return [];
      told.add(name);
      return [{ name, files: known.files, isFirst, of: "the settings", at: source.place(match.index) }];
    });
  });
}

/** Where settings are added in a file: by a call, or by one of a method that does. */
function placesOfAdding(code: string, all: readonly ScriptCode[]): number[] {
  const own = all.flatMap((one) =>
    [...one.code.matchAll(/\bstatic\s+[\w.<>]+\s+(\w+)\s*\(\s*this\s+\w+/g)].flatMap((match) => {
      const body = one.code.slice(match.index, match.index + 1_500).split(/\n\s*(?:public|private|internal)\s/)[0] ?? "";
      return body.search(ADDED) === -1 ? [] : [match[1] as string];
    }),
  );
  const called = own.flatMap((name) => [...code.matchAll(new RegExp(`\\.\\s*${name}\\s*\\(`, "g"))].map(({ index }) => index));
  return called.length > 0 ? called : [...code.matchAll(ADDED)].map(({ index }) => index);
}
