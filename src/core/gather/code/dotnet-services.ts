import type { PageFault } from "../../model/code.js";
import { baseName } from "../../model/paths.js";
import { DEVICE_SERVICES } from "../../knowledge/device-services.js";
import { argumentsIn, closing } from "../../syntax/code/callee.js";
import type { ScriptCode } from "./script-classes.js";

/** The type of a value that is given by its name, as its declaration or the function of the app's own says that made it. */
function typeOfValue(code: string, given: readonly string[], all: readonly ScriptCode[]): string | undefined {
  const device =
    given.length === 1 ? /^\s*(?:[\w.]+\.)?([A-Z]\w+)\s*\.\s*(?:Default|Current)\s*$/.exec(given[0] as string)?.[1] : undefined;
  if (device !== undefined && DEVICE_SERVICES.has(`I${device}`)) return `I${device}`;
  const name = given.length === 1 ? /^\s*([a-z_]\w*)\s*$/.exec(given[0] as string)?.[1] : undefined;
  const declared =
    name === undefined
      ? null
      : new RegExp(`\\b(var|[A-Z][\\w.]*)\\s+${name}\\s*=\\s*(?:new\\s+([\\w.]+)\\s*[({]|([\\w.]+)\\.(\\w+)\\s*\\()`).exec(code);
  if (!declared) return undefined;
  const [, type = "var", made, home = "", by = ""] = declared;
  if (type !== "var") return last(type);
  if (made !== undefined) return last(made);
  const gives = new RegExp(`\\bstatic\\s+(?:async\\s+)?([A-Z]\\w*)\\s+${by}\\s*\\(`);
  const own = new RegExp(`\\b(?:class|record|struct)\\s+${last(home)}\\b`);
  return all.flatMap(({ code: text }) => (own.test(text) ? (gives.exec(text)?.[1] ?? []) : []))[0];
}

const REGISTERS = /\b(?:Try)?Add(?:Keyed)?(?:Singleton|Transient|Scoped)(?:WithShellRoute)?\s*(?:<([^>();]+)>)?\s*\(/g;

/**
 * Types of the app's own that the constructor of a registered class, or of the application, asks for and that nothing registers: told where all is
 * registered by its type, without a scan of assemblies.
 * @param shown pages that a shell makes by their type: one whose constructor asks for something has to be registered itself
 */
// eslint-disable-next-line complexity -- one question for each way in which services are registered and asked for
export function unregisteredServices(written: readonly ScriptCode[], shown: readonly string[]): PageFault[] {
  const all = withoutUncalled(written);
  const setup = all.filter(({ code }) => code.search(REGISTERS) !== -1);
  if (
    setup.length === 0 ||
    all.some(({ code }) => /\.\s*Scan\s*\(|GetTypes\s*\(|\bAutofac\b|\bRegisterTypes\b|\bPrism\b|DefinedTypes/.test(code))
  )
    return [];
  // Whatever else is added or configured by a type may be handed out, too: `AddHttpClient<TideClient>()`.
  const registered = new Set(
    all.flatMap(({ code }) =>
      [...code.matchAll(/\.\s*(?:Try)?(?:Add|Register|Configure|Map|Use)\w*\s*<([^>();]+)>\s*\(/g)].flatMap((match) =>
        (match[1] as string).split(",").map(last),
      ),
    ),
  );
  const made = new Set<string>();
  for (const { code } of setup)
    for (const match of code.matchAll(REGISTERS)) {
      const given = argumentsIn(code, match.index + match[0].length - 1);
      const types = [
        ...(match[1]?.split(",") ?? []),
        ...given.flatMap((part) => [...(/\btypeof\s*\(\s*([\w.]+)\s*\)/g.exec(part)?.slice(1) ?? [])]),
      ];
      const made_ = given.flatMap((part) => /\bnew\s+([\w.]+)\s*[({]/.exec(part)?.[1] ?? []);
      // A value, whose type its declaration may tell; where it does not, any may be registered.
      const held = types.length + made_.length === 0 ? typeOfValue(code, given, all) : undefined;
      if (types.length + made_.length === 0 && held === undefined) return [];
      if (held !== undefined) registered.add(held);
      for (const type of [...types, ...made_]) registered.add(last(type));
      // One that code makes gets what the code gives it.
      if (made_.length === 0 && !given.some((part) => part.includes("=>"))) for (const type of types.slice(-1)) made.add(last(type));
    }
  for (const { code } of all) for (const [, type = ""] of code.matchAll(/\bUseMauiApp\s*<\s*([\w.]+)\s*>/g)) made.add(last(type));
  const declared = new Map<string, ScriptCode>();
  for (const one of all)
    for (const [, name = ""] of one.code.matchAll(/\b(?:class|interface|record)\s+(\w+)/g))
      if (!declared.has(name)) declared.set(name, one);
  const told = new Set<string>();
  // What code asks the container for by its type.
  const asked = all.flatMap(({ source, code }) =>
    [...code.matchAll(/\bGetRequiredService\s*<\s*([\w.]+)\s*>\s*\(\s*\)/g)].flatMap((match): PageFault[] => {
      const name = last(match[1] as string);
      if (!declared.has(name) || registered.has(name) || told.has(name)) return [];
      told.add(name);
      return [{ what: "service", name, near: "GetRequiredService", at: source.place(match.index) }];
    }),
  );
  // What components are given. Source: learn.microsoft.com, "ASP.NET Core Blazor dependency injection".
  const injected = all.flatMap(({ source, code }) =>
    [...code.matchAll(/\[\s*Inject\s*\]\s*(?:(?:public|private|protected|internal|required)\s+)*([\w.]+)\s+\w+\s*\{/g)].flatMap(
      (match): PageFault[] => {
        const name = last(match[1] as string);
        if (!declared.has(name) || registered.has(name) || told.has(name)) return [];
        told.add(name);
        return [
          {
            what: "service",
            name,
            near: baseName(source.file).replace(/\..*$/, ""),
            at: source.place(match.index + match[0].indexOf(name)),
          },
        ];
      },
    ),
  );
  const given = [...made].flatMap((type): PageFault[] => {
    const home = declared.get(type);
    if (!home) return [];
    // A constructor of its own, or one in the head of the class.
    const constructors = [...home.code.matchAll(new RegExp(`\\bpublic\\s+${type}\\s*\\(|\\b(?:class|record)\\s+${type}\\s*\\(`, "g"))];
    const [only] = constructors;
    if (!only || constructors.length > 1) return [];
    const open = only.index + only[0].length - 1;
    return argumentsIn(home.code, open).flatMap((part): PageFault[] => {
      const options = /^\s*IOptions(?:Monitor|Snapshot)?\s*<\s*([\w.]+)\s*>/.exec(part)?.[1];
      const asked = options ?? /^\s*(?:\[[^\]]*\]\s*)?([\w.]+)\s+\w+\s*$/.exec(part)?.[1];
      const name = asked === undefined ? undefined : last(asked);
      // A value that has a default, a type of a package, one that is registered.
      if (name === undefined || registered.has(name) || told.has(name) || part.includes("=")) return [];
      if (!declared.has(name) && !DEVICE_SERVICES.has(name)) return [];
      told.add(name);
      return [{ what: options === undefined ? "service" : "options", name, near: type, at: home.source.place(open) }];
    });
  });
  return [
    ...asked,
    ...injected,
    ...given,
    ...unregisteredPages(
      shown.filter((type) => !registered.has(type) && !told.has(type)),
      declared,
    ),
  ];
}

/** Pages that a shell makes by their type, none of which has a constructor that asks for nothing. */
function unregisteredPages(shown: readonly string[], declared: ReadonlyMap<string, ScriptCode>): PageFault[] {
  return [...new Set(shown)].flatMap((type): PageFault[] => {
    const home = declared.get(type);
    if (!home) return [];
    const constructors = [...home.code.matchAll(new RegExp(`\\bpublic\\s+${type}\\s*\\(|\\b(?:class|record)\\s+${type}\\s*\\(`, "g"))];
    const asks = ({ index, 0: text }: RegExpExecArray): boolean =>
      argumentsIn(home.code, index + text.length - 1).some((part) => /\w/.test(part) && !part.includes("="));
    const [only] = constructors;
    return only && constructors.every(asks) ? [{ what: "service", name: type, near: "the shell", at: home.source.place(only.index) }] : [];
  });
}

/** Registrations that stand in a method which adds services and which nothing calls are none. */
export function withoutUncalled(all: readonly ScriptCode[]): ScriptCode[] {
  const added = all.flatMap(({ code }) =>
    [...code.matchAll(/\bstatic\s+[\w.<>]+\s+(\w+)\s*\(\s*this\s+(?:IServiceCollection|MauiAppBuilder)\b/g)].map(([, name = ""]) => name),
  );
  const uncalled = added.filter(
    (name) => !all.some(({ code }) => new RegExp(`(?:\\.|=>?|[(,])\\s*${name}\\b(?!\\s*\\(\\s*this\\b)`).test(code)),
  );
  if (uncalled.length === 0) return [...all];
  const head = new RegExp(`\\bstatic\\s+[\\w.<>]+\\s+(?:${uncalled.join("|")})\\s*\\(\\s*this\\b[^{;]*?\\)\\s*(?:\\{|=>)`, "g");
  return all.map(({ source, code }) => {
    let text = code;
    for (const match of code.matchAll(head)) {
      const open = match.index + match[0].length - 1;
      const end = match[0].endsWith("{") ? closing(code, open) : (/;/.exec(code.slice(open))?.index ?? 0) + open;
      text = text.slice(0, open) + text.slice(open, end).replace(/[^\n]/g, " ") + text.slice(end);
    }
    return { source, code: text };
  });
}

function last(type: string): string {
  return type.trim().split(".").at(-1) ?? type;
}
