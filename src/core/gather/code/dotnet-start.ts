import type { PageFault } from "../../model/code.js";
import { attributesBefore, type ScriptCode } from "./script-classes.js";

/** What keeps an app in MAUI from starting, and what its code has that the system never finds. */
export function startFaults(all: readonly ScriptCode[]): PageFault[] {
  return [...startOfApp(all), ...unexported(all), ...undeclaredComponents(all)];
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
