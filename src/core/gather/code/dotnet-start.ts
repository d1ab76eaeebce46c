import type { PageFault } from "../../model/code.js";
import { withoutUncalled } from "./dotnet-services.js";
import { attributesBefore, type ScriptCode } from "./script-classes.js";

/** What keeps an app in MAUI from starting, and what its code has that the system never finds. */
export function startFaults(all: readonly ScriptCode[]): PageFault[] {
  return [...startOfApp(all), ...windowless(all), ...unregisteredHandlers(all), ...unexported(all), ...undeclaredComponents(all)];
}

/** Classes that start the shared app on each phone, and the platforms' own that a slip puts in their place. Source: learn.microsoft.com, ".NET MAUI single project" (Platforms). */
const STARTS = [
  {
    near: "MauiAppCompatActivity",
    plain: /^(Activity|AppCompatActivity|FragmentActivity|ComponentActivity)$/,
    marks: /\bMainLauncher\s*=\s*true\b/,
  },
  { near: "MauiApplication", plain: /^Application$/, marks: /\[\s*Application\b/ },
  { near: "MauiUIApplicationDelegate", plain: /^(UIApplicationDelegate|UIResponder)$/, marks: /\[\s*Register\s*\(\s*"AppDelegate"/ },
] as const;

/** What the start of an app in MAUI cannot do without: the app that the builder is told, and the classes that start it. */
function startOfApp(all: readonly ScriptCode[]): PageFault[] {
  const made = all.flatMap(({ source, code }) => {
    const match = /\bMauiApp\s*\.\s*CreateBuilder\s*\(/.exec(code);
    return match ? [{ code, at: source.place(match.index) }] : [];
  });
  const [first] = made;
  // Libraries have ways of their own to say it, and so has an app that shows single views of MAUI.
  if (!first || all.some(({ code }) => /\.\s*UseMaui(Embedding|EmbeddedApp)\b/.test(code))) return [];
  // Whatever else the builder is made to use may set one.
  const isTold = all.some(({ code }) => /\.\s*Use(?!MauiCommunityToolkit|MauiMaps\b)\w+\s*[<(]/.test(code));
  const found: PageFault[] = isTold ? [] : [{ what: "app of the builder", name: "CreateMauiApp", near: undefined, at: first.at }];
  for (const { near, plain, marks } of STARTS) {
    if (all.some(({ code }) => new RegExp(`:[^{;]*\\b${near}\\b`).test(code))) continue;
    for (const { source, code } of all)
      for (const match of code.matchAll(/\bclass\s+(\w+)\s*:\s*(?:global::)?([\w.]+)/g)) {
        const base = (match[2] ?? "").split(".").at(-1) ?? "";
        if (plain.test(base) && marks.test(attributesBefore(code, match.index)))
          found.push({ what: "base of the start", name: match[1] as string, of: base, near, at: source.place(match.index) });
      }
  }
  return found;
}

/** An application that says neither way what it shows. Source: learn.microsoft.com, ".NET MAUI windows" (CreateWindow; MainPage before .NET 9). */
function windowless(all: readonly ScriptCode[]): PageFault[] {
  const app = all.flatMap(({ code }) => /\bUseMauiApp\s*<\s*(?:[\w.]+\.)?(\w+)\s*>/.exec(code)?.[1] ?? [])[0];
  if (
    app === undefined ||
    all.some(({ code }) =>
      /\bCreateWindow\b|\bMainPage\s*=|\bOpenWindow\b|\.\s*Use\w*(?:Prism|Mvvm|Navigation|Reactive|Shiny)\w*\s*[<(]/.test(code),
    )
  )
    return [];
  return all.flatMap(({ source, code }): PageFault[] => {
    const head = new RegExp(`\\bclass\\s+${app}\\s*(?:\\([^()]*\\)\\s*)?:\\s*(?:[\\w.]+\\.)?Application\\b`).exec(code);
    return head ? [{ what: "window", name: app, near: undefined, at: source.place(head.index) }] : [];
  });
}

/** Handlers of views of the app's own that nothing registers. Source: learn.microsoft.com, "Create custom controls with .NET MAUI handlers" (AddHandler). */
function unregisteredHandlers(all: readonly ScriptCode[]): PageFault[] {
  if (!all.some(({ code }) => /:\s*ViewHandler\s*</.test(code))) return [];
  const called = withoutUncalled(all);
  const isOpen = called.some(({ code }) =>
    [...code.matchAll(/\b(?:Try)?AddHandler\s*(<[^<>]*>)?\s*\(\s*([^)]*)/g)].some(
      ([, types, given = ""]) => types === undefined && !/^typeof\b/.test(given),
    ),
  );
  if (isOpen || !all.some(({ code }) => /\bMauiApp\s*\.\s*CreateBuilder\s*\(/.test(code))) return [];
  return all.flatMap(({ source, code }) =>
    [...code.matchAll(/\b(?:abstract\s+)?(?:partial\s+)?class\s+(\w+)\s*(?:\([^()]*\)\s*)?:\s*ViewHandler\s*<\s*(\w+)\s*,/g)].flatMap(
      (match): PageFault[] => {
        const [head, of = "", view = ""] = match;
        if (head.startsWith("abstract")) return [];
        const isOwn = all.some((one) => new RegExp(`\\bclass\\s+${view}\\b`).test(one.code));
        const isAdded = called.some((one) =>
          new RegExp(`\\b(?:(?:Try)?AddHandler|ElementHandler)\\b[^;]*?\\b(?:${of}|${view})\\b`).test(one.code),
        );
        // One that others extend is registered by their names.
        const isBase = all.some((one) => new RegExp(`:\\s*${of}\\b`).test(one.code));
        return !isOwn || isAdded || isBase
          ? []
          : [{ what: "view handler", name: view, of, near: undefined, at: source.place(match.index) }];
      },
    ),
  );
}

/**
 * Methods of a delegate that the system calls by a selector, and that the framework's delegate does not have. Source: learn.microsoft.com, "UIApplicationDelegate"
 * (the selector of each method); MauiUIApplicationDelegate overrides none of them.
 */
const SELECTORS: Readonly<Record<string, string>> = {
  RegisteredForRemoteNotifications: "application:didRegisterForRemoteNotificationsWithDeviceToken:",
  FailedToRegisterForRemoteNotifications: "application:didFailToRegisterForRemoteNotificationsWithError:",
  DidReceiveRemoteNotification: "application:didReceiveRemoteNotification:fetchCompletionHandler:",
};

function unexported(all: readonly ScriptCode[]): PageFault[] {
  return all.flatMap(({ source, code }) => {
    if (!/\bclass\s+\w+\s*:\s*(?:global::)?[\w.]*\bMauiUIApplicationDelegate\b(?![^{]*\bIUIApplicationDelegate\b)/.test(code)) return [];
    return [...code.matchAll(/\bpublic\s+(?:async\s+)?void\s+(\w+)\s*\(\s*UIApplication\b/g)].flatMap((match): PageFault[] => {
      const name = match[1] as string;
      const selector = Object.hasOwn(SELECTORS, name) ? SELECTORS[name] : undefined;
      const before = code.slice(Math.max(...[";", "{", "}"].map((sign) => code.lastIndexOf(sign, match.index))) + 1, match.index);
      return selector === undefined || /\bExport\b/.test(before)
        ? []
        : [{ what: "exported method", name, near: selector, at: source.place(match.index) }];
    });
  });
}

/** Attributes by which a class gets into the manifest, by the end of the name of what it extends. Source: learn.microsoft.com, "Android manifest in .NET". */
const DECLARED_BY: readonly (readonly [base: RegExp, attribute: string])[] = [
  [/Activity$/, "Activity"],
  [/BroadcastReceiver$/, "BroadcastReceiver"],
  [/Service$/, "Service"],
];

function undeclaredComponents(all: readonly ScriptCode[]): PageFault[] {
  return all.flatMap(({ source, code }) =>
    !code.includes("IntentFilter")
      ? []
      : [...code.matchAll(/\bclass\s+(\w+)\s*:\s*(?:global::)?([\w.]+)/g)].flatMap((match): PageFault[] => {
          const attributes = attributesBefore(code, match.index);
          const [, attribute] = DECLARED_BY.find(([base]) => base.test(match[2] as string)) ?? [];
          if (attribute === undefined || !/\[\s*(?:[\w.]+\.)?IntentFilter\b/.test(attributes)) return [];
          return new RegExp(`(?:\\[|,)\\s*(?:[\\w.]+\\.)?${attribute}(?:Attribute)?\\s*[(\\],]`).test(attributes)
            ? []
            : [{ what: "undeclared component", name: match[1] as string, near: attribute, at: source.place(match.index) }];
        }),
  );
}
