import type { App, DebugOption } from "../../model/app.js";
import type { PageFault } from "../../model/code.js";
import { nearest, slipOf } from "../../model/suggest.js";
import { argumentsIn, closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { keptOff, underConditions } from "../platforms/directives.js";
import { startFaults } from "./dotnet-start.js";
import { attributesBefore, type ScriptClasses, type ScriptCode } from "./script-classes.js";
import type { SourceFile } from "./sources.js";

/** What code in C# names and the app does not have: routes, classes of a platform, the activity of a sign-in; calls that its own methods hide. */
export function dotnetNames(app: App, classes: ScriptClasses, routes: readonly string[]): PageFault[] {
  const { all } = classes;
  return [
    ...platformClasses(all),
    ...lostRoutes(classes, routes),
    ...lostParameters(classes),
    ...(app.android ? callbacks(classes) : []),
    ...hiddenCalls(all),
    ...partialHalves(classes, [...(app.android ? (["Android"] as const) : []), ...(app.ios ? (["iOS"] as const) : [])]),
    ...emptyPages(all),
    ...startFaults(all),
  ];
}

/** A text in code: written out, a constant, or the name of a class. */
function textIn(classes: ScriptClasses, written: string): string | undefined {
  const plain = written.trim();
  return (
    /^"([^"\\]*)"$/.exec(plain)?.[1] ??
    /^nameof\s*\(\s*(?:\w+\s*\.\s*)*(\w+)\s*\)$/.exec(plain)?.[1] ??
    /^typeof\s*\(\s*(?:\w+\s*\.\s*)*(\w+)\s*\)\s*\.\s*Name$/.exec(plain)?.[1] ??
    (/^[\w.]+$/.test(plain) ? classes.constant(plain) : undefined)
  );
}

/** The text of an interpolation, with `\0` for what is worked out. */
function interpolated(classes: ScriptClasses, written: string): string | undefined {
  const inner = /^\$"((?:[^"\\]|\\.)*)"$/.exec(written.trim())?.[1];
  return inner?.replace(/\{([^{}:]*)(?::[^{}]*)?\}/g, (_, part: string) => textIn(classes, part) ?? "\0");
}

/**
 * Routes that code goes to and nothing registers: the call throws.
 * Source: learn.microsoft.com, ".NET MAUI Shell navigation" (RegisterRoute, Route of Shell items, absolute and relative routes, "..").
 */
function lostRoutes(classes: ScriptClasses, inPages: readonly string[]): PageFault[] {
  const known = new Set(inPages.flatMap((route) => route.split("/")));
  let open = inPages.some((route) => route.includes("{"));
  for (const { code } of classes.all) {
    for (const match of code.matchAll(/\bRegisterRoute\s*\(/g)) {
      const [given = ""] = argumentsIn(code, match.index + match[0].length - 1);
      const route = textIn(classes, given);
      if (route === undefined) open = true;
      else for (const part of route.split("/")) known.add(part);
    }
    // Source: learn.microsoft.com, ".NET MAUI Community Toolkit, register services" (the last argument is the route).
    for (const match of code.matchAll(/\bAdd(?:Singleton|Transient|Scoped)WithShellRoute\s*(?:<[^()]*>)?\s*\(/g)) {
      const given = argumentsIn(code, match.index + match[0].length - 1);
      const route = given.map((part) => textIn(classes, part)).find((part) => part !== undefined);
      if (route === undefined) open = true;
      else for (const part of route.split("/")) known.add(part);
    }
    for (const [, given = ""] of code.matchAll(/\bRoute\s*=\s*([^,;{}]+)/g)) known.add(textIn(classes, given) ?? "");
  }
  if (known.size === 0) return [];
  const told = new Set<string>();
  return classes.all.flatMap(({ source, code }) =>
    [...code.matchAll(/(?<!\.\s*)\bGoToAsync\s*\(|\bCurrent\s*\??\s*\.\s*GoToAsync\s*\(/g)].flatMap((match): PageFault[] => {
      const [given = ""] = argumentsIn(code, match.index + match[0].length - 1);
      const route = textIn(classes, given) ?? interpolated(classes, given);
      const parts = route?.split("?")[0]?.split("/") ?? [];
      return parts.flatMap((part): PageFault[] => {
        if (part === "" || part === "." || part === ".." || part.includes("\0") || known.has(part) || told.has(part)) return [];
        const others = [...known].filter(Boolean);
        if (open && slipOf(part, others) === undefined) return [];
        const near = nearest(part, others);
        told.add(part);
        return [{ what: "route", name: part, near, at: source.place(match.index) }];
      });
    }),
  );
}

/**
 * What code hands to a route in its query and neither the page nor what that names takes. Source: learn.microsoft.com, ".NET MAUI Shell navigation" (pass
 * data: QueryProperty, IQueryAttributable, on the page or on its binding context).
 */
function lostParameters(classes: ScriptClasses): PageFault[] {
  const pages = new Map<string, string>();
  for (const { code } of classes.all)
    for (const match of code.matchAll(/\bRegisterRoute\s*\(/g)) {
      const [given = "", type = ""] = argumentsIn(code, match.index + match[0].length - 1);
      const route = textIn(classes, given);
      const page = /\btypeof\s*\(\s*(?:\w+\s*\.\s*)*(\w+)\s*\)/.exec(type)?.[1];
      if (route !== undefined && page !== undefined) pages.set(route, page);
    }
  if (pages.size === 0) return [];
  const known = new Map<string, ReadonlySet<string> | undefined>();
  const taking = (page: string): ReadonlySet<string> | undefined => {
    if (!known.has(page)) known.set(page, parametersOf(classes, page));
    return known.get(page);
  };
  const told = new Set<string>();
  return classes.all.flatMap(({ source, code }) =>
    [...code.matchAll(/\bGoToAsync\s*\(/g)].flatMap((match): PageFault[] => {
      const given = argumentsIn(code, match.index + match[0].length - 1);
      const text = textIn(classes, given[0] ?? "") ?? interpolated(classes, given[0] ?? "");
      const [, route = "", query = ""] = /^(?:\/\/)?([\w-]+)\?(.+)$/.exec(text ?? "") ?? [];
      const page = pages.get(route);
      const taken = page === undefined ? undefined : taking(page);
      if (!taken) return [];
      return query.split("&").flatMap((part): PageFault[] => {
        const name = part.split("=")[0] ?? "";
        if (!/^\w+$/.test(name) || taken.has(name) || told.has(`${route} ${name}`)) return [];
        told.add(`${route} ${name}`);
        return [
          {
            what: "route parameter",
            name,
            of: route,
            near: nearest(name, [...taken]),
            ...(taken.size === 0 ? { unsure: true as const } : {}),
            at: source.place(match.index),
          },
        ];
      });
    }),
  );
}

/** The parameters that a page, or a type which its code names, takes; `undefined` where one takes all of them, or the page is not here. */
function parametersOf(classes: ScriptClasses, page: string): ReadonlySet<string> | undefined {
  const own = classes.filesOf(page);
  if (own.length === 0) return undefined;
  const named = new Set(own.flatMap(({ code }) => code.match(/\b[A-Z]\w+\b/g) ?? []));
  const found = new Set<string>();
  for (const { code } of classes.all) {
    if (!/\bIQueryAttributable\b|\bApplyQueryAttributes\b|\bQueryProperty\b/.test(code)) continue;
    // A base class of whose heirs nobody here knows may take them for all.
    const types = [...code.matchAll(/\bclass\s+(\w+)/g)].map(([, name = ""]) => name);
    const isNamed = types.some((name) => named.has(name));
    if (/\bIQueryAttributable\b|\bApplyQueryAttributes\b/.test(code) && (isNamed || /\babstract\b|Base\b/.test(code))) return undefined;
    if (!isNamed) continue;
    for (const match of code.matchAll(/\bQueryProperty(?:Attribute)?\s*\(/g)) {
      const name = textIn(classes, argumentsIn(code, match.index + match[0].length - 1)[1] ?? "");
      if (name === undefined) return undefined;
      found.add(name);
    }
  }
  return found;
}

/**
 * A sign-in in the browser comes back to an activity that takes the scheme of its callback.
 * Source: learn.microsoft.com, "Web authenticator" (WebAuthenticatorCallbackActivity, its intent filter).
 */
function callbacks(classes: ScriptClasses): PageFault[] {
  const asked = classes.all.flatMap(({ source, code }) => {
    const match = /\bWebAuthenticator\b[\s\S]{0,60}?\bAuthenticateAsync\s*\(/.exec(code);
    if (!match || source.guards.some(({ kind }) => kind === "ios") || keptOff(code)(match.index).has("android")) return [];
    const given = code.slice(match.index, closing(code, match.index + match[0].length - 1));
    const uris = [...given.matchAll(/\bnew\s+Uri\s*\(\s*([^()]+?)\s*\)/g)].flatMap(([, text = ""]) => textIn(classes, text) ?? []);
    const scheme = uris.flatMap((uri) => /^([a-z][\w+.-]*):/i.exec(uri)?.[1] ?? []).find((one) => !/^https?$/i.test(one));
    return [{ scheme, at: source.place(match.index) }];
  });
  const [first] = asked;
  if (!first) return [];
  const homes = classes.all.flatMap(({ source, code }) =>
    [...code.matchAll(/\bclass\s+(\w+)\s*:\s*[\w.,\s]*?\bWebAuthenticatorCallbackActivity\b/g)].map((match) => ({
      type: match[1] as string,
      attributes: attributesBefore(code, match.index),
      at: source.place(match.index),
    })),
  );
  const [home] = homes;
  const scheme = asked.find((one) => one.scheme !== undefined)?.scheme;
  if (!home) return [{ what: "callback", name: scheme ?? "the callback", near: undefined, at: first.at }];
  const stated = homes.flatMap(({ attributes }) =>
    [...attributes.matchAll(/\bDataSchemes?\s*=\s*([^,\])]+)/g)].map(([, given = ""]) => textIn(classes, given)),
  );
  if (
    scheme !== undefined &&
    stated.length > 0 &&
    !stated.includes(undefined) &&
    !stated.some((one) => one?.toLowerCase() === scheme.toLowerCase())
  )
    return [{ what: "callback scheme", name: scheme, near: stated[0], at: home.at }];
  const lacks = ["Browsable", "Default"].find(
    (category) => !new RegExp(`\\bCategory${category}\\b|category\\.${category.toUpperCase()}`).test(home.attributes),
  );
  return lacks === undefined || !/\bIntentFilter\b/.test(home.attributes)
    ? []
    : [{ what: "callback category", name: home.type, near: `Category${lacks}`, at: home.at }];
}

/** Methods of the framework's own start and of activities that a subclass has to call. */
const CALLED: readonly { type: RegExp; methods: RegExp }[] = [
  { type: /^(MauiUIApplicationDelegate|FormsApplicationDelegate)$/, methods: /^(FinishedLaunching|WillFinishLaunching)$/ },
  {
    type: /^(MauiApplication|MauiAppCompatActivity|FormsAppCompatActivity|AppCompatActivity|Activity)$/,
    methods: /^On(Create|Start|Resume|Pause|Stop|Destroy)$/,
  },
];

/**
 * Overrides that hide what the framework does at its start. Sources: learn.microsoft.com, "Create a MAUI app" (MauiUIApplicationDelegate makes the app in
 * FinishedLaunching); developer.android.com, "Activity" (derived classes must call through to the super class).
 */
function hiddenCalls(all: readonly ScriptCode[]): PageFault[] {
  return all.flatMap(({ source, code }) =>
    [...code.matchAll(/\boverride\s+(?:async\s+)?[\w?.<>]+\s+(\w+)\s*\(/g)].flatMap((match): PageFault[] => {
      const name = match[1] as string;
      const heads = [...code.slice(0, match.index).matchAll(/\bclass\s+(\w+)\s*:\s*(?:global::)?([\w.]+)/g)];
      const head = heads.at(-1);
      const base = head?.[2]?.split(".").at(-1) ?? "";
      if (!CALLED.some(({ type, methods }) => type.test(base) && methods.test(name))) return [];
      const after = closing(code, match.index + match[0].length - 1) + 1;
      const open = /^\s*(=>|\{)/.exec(code.slice(after, after + 80));
      if (!open) return [];
      const from = after + open[0].length - 1;
      const body = open[1] === "{" ? code.slice(from, closing(code, from)) : code.slice(from, code.indexOf(";", from) + 1);
      return new RegExp(`\\bbase\\s*\\.\\s*${name}\\s*\\(`).test(body)
        ? []
        : [{ what: "base call", name, near: base, at: source.place(match.index) }];
    }),
  );
}

/** The namespace of a file; C# has one for most. */
function namespaceOf(code: string): string {
  return /\bnamespace\s+([\w.]+)/.exec(code)?.[1] ?? "";
}

/**
 * Members of a partial class that its part for both phones uses, and that its half for one of them alone has. Source: learn.microsoft.com, "Invoke platform
 * code" (partial classes and methods: one half for each platform).
 */
function lostHalves(classes: ScriptClasses, sides: readonly ("Android" | "iOS")[]): PageFault[] {
  if (sides.length < 2) return [];
  const sideOf = ({ source }: ScriptCode): string | undefined =>
    /(?:^|\/)Platforms\/(\w+)\//.exec(source.file)?.[1] ?? /\.(Android|iOS)\.cs$/i.exec(source.file)?.[1];
  return classes.all.flatMap((whole): PageFault[] => {
    if (sideOf(whole) !== undefined || !whole.code.includes("partial")) return [];
    return [...whole.code.matchAll(/\bpartial\s+class\s+(\w+)/g)].flatMap((match): PageFault[] => {
      const type = match[1] as string;
      const head = new RegExp(`\\bpartial\\s+class\\s+${type}\\b`);
      const parts = classes.filesOf(type).filter(({ code }) => head.test(code));
      if (parts.every((part) => sideOf(part) === undefined)) return [];
      const membersOn = (side: string): Set<string> =>
        new Set(
          parts
            .filter((part) => sideOf(part)?.toLowerCase() === side.toLowerCase())
            .flatMap(({ code }) => [
              ...[...code.matchAll(/\b(?:public|internal|private|protected|static)\s[^;{}()=]*?\b(\w+)\s*(?:\(|\{|=>|=|;)/g)].map(
                ([, name = ""]) => name,
              ),
              ...[...code.matchAll(/\bpartial\s+[\w.<>?[\],]+\s+(\w+)\s*\(/g)].map(([, name = ""]) => name),
            ]),
        );
      const others = parts.filter((part) => sideOf(part) === undefined);
      // What is called on something else, and types, have names of their own.
      const used = new Set(
        others.flatMap(({ code }) =>
          [...code.matchAll(/(?<![\w.]|\bnew\s+)(?:this\s*\.\s*)?([A-Z]\w+)\s*(?=[(,;)\]])/g)].map(([, name = ""]) => name),
        ),
      );
      const declared = new Set(
        others.flatMap(({ code }) =>
          [...code.matchAll(/[\w>?\]]\s+(\w+)\s*(?:\([^()]*\)\s*(?:\{|=>)|\{|=>)/g)].map(([, name = ""]) => name),
        ),
      );
      return sides.flatMap((side): PageFault[] => {
        const [own, other] = [membersOn(side), membersOn(side === "iOS" ? "Android" : "iOS")];
        // What stands between conditions of the compiler may be for the other one alone.
        const lost = [...other].find((name) => used.has(name) && !own.has(name) && !declared.has(name) && name !== type);
        return lost === undefined || others.some(({ code }) => new RegExp(`#\\s*if[\\s\\S]*\\b${lost}\\b[\\s\\S]*#\\s*endif`).test(code))
          ? []
          : [{ what: "half", name: lost, of: type, near: side, at: whole.source.place(match.index) }];
      });
    });
  });
}

/** Halves of a partial class that lie in another namespace: they are another class. Source: learn.microsoft.com, "Invoke platform code" (partial classes). */
function partialHalves(classes: ScriptClasses, sides: readonly ("Android" | "iOS")[]): PageFault[] {
  const { all } = classes;
  const found = lostHalves(classes, sides);
  if (found.length > 0) return found;
  return all.flatMap(({ source, code }): PageFault[] => {
    if (/(^|\/)Platforms\//.test(source.file)) return [];
    return [...code.matchAll(/\bpartial\s+class\s+(\w+)/g)].flatMap((match): PageFault[] => {
      const type = match[1] as string;
      const body = code.slice(match.index, closing(code, code.indexOf("{", match.index)));
      if (!/\bpartial\s+[\w.<>?[\],]+\s+\w+\s*\([^(){}]*\)\s*;/.test(body)) return [];
      const own = namespaceOf(code);
      return ["Android", "iOS"].flatMap((platform): PageFault[] => {
        const halves = all.filter(
          (other) =>
            other.source.file.includes(`Platforms/${platform}/`) && new RegExp(`\\bpartial\\s+class\\s+${type}\\b`).test(other.code),
        );
        const [half] = halves;
        return !half || halves.some((other) => namespaceOf(other.code) === own)
          ? []
          : [{ what: "other namespace", name: type, near: own, at: half.source.place(half.code.search(/\bnamespace\b/)) }];
      });
    });
  });
}

/** Pages whose constructors never read their XAML: they stay empty. Source: learn.microsoft.com, "XAML in .NET MAUI" (InitializeComponent). */
function emptyPages(all: readonly ScriptCode[]): PageFault[] {
  return all.flatMap(({ source, code }): PageFault[] => {
    const type = source.file.endsWith(".xaml.cs") ? /\bpartial\s+class\s+(\w+)/.exec(code)?.[1] : undefined;
    const made = type === undefined ? null : new RegExp(`\\b(?:public|internal|protected)\\s+${type}\\s*\\(`).exec(code);
    return !made || type === undefined || /\bInitializeComponent\b|\bLoadFromXaml\b|\bResourceDictionary\b/.test(code)
      ? []
      : [{ what: "not initialized", name: type, near: undefined, at: source.place(made.index) }];
  });
}

/** Classes of one platform's folder that shared code names and the folder does not have. */
function platformClasses(all: readonly ScriptCode[]): PageFault[] {
  return all.flatMap(({ source, code }) =>
    /(^|\/)Platforms\//.test(source.file)
      ? []
      : [...code.matchAll(/(?<![\w.])Platforms\.(iOS|Android)\.([A-Z]\w*)/g)].flatMap((match): PageFault[] => {
          const [, platform = "", name = ""] = match;
          const own = all.filter((other) => other.source.file.includes(`Platforms/${platform}/`));
          if (
            own.length === 0 ||
            own.some((other) => new RegExp(`\\b(?:class|enum|record|struct|interface)\\s+${name}\\b`).test(other.code))
          )
            return [];
          return [{ what: "platform class", name, near: platform, at: source.place(match.index) }];
        }),
  );
}

/** Tools for developers that are added under no condition. Source: learn.microsoft.com, "Use browser developer tools with ASP.NET Core Blazor Hybrid". */
export function developerTools(app: App, sources: readonly SourceFile[]): DebugOption[] {
  if (app.kind !== "dotnet") return [];
  return sources.flatMap((source) => {
    if (source.language !== "csharp" || !source.text.includes("AddBlazorWebViewDeveloperTools")) return [];
    const code = withoutComments(source.text);
    const isConditional = underConditions(code);
    const match = /\bAddBlazorWebViewDeveloperTools\s*\(/.exec(code);
    const line = match ? code.slice(code.lastIndexOf("\n", match.index) + 1, match.index) : "";
    return match && !isConditional(match.index) && !/\bif\b|Debug/i.test(line)
      ? [{ what: "page inspection", side: "shared", text: "AddBlazorWebViewDeveloperTools", at: source.place(match.index) }]
      : [];
  });
}
