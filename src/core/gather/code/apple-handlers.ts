import { ASSOCIATED_DOMAINS } from "../../knowledge/extension-points.js";
import { takesLibraries, type App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import type { Entry } from "../../model/facts.js";
import { textOf } from "../../model/value.js";
import { withoutComments } from "../../syntax/comments.js";
import type { SourceFile } from "./sources.js";

interface Handled {
  /** Whether an entry says that the app takes something. */
  entry: (entry: Entry) => boolean;
  what: string;
  /** What shows that code takes it: a method of a delegate, a modifier of SwiftUI, or a look at what the app was opened with. */
  takes: RegExp;
}

/**
 * What an app says that it is opened with, and the ways in which code takes it. Sources: developer.apple.com, "Add Home Screen quick actions", "Defining a custom URL scheme
 * for your app", "Supporting universal links in your app", the references of `UIApplicationDelegate`, `UIWindowSceneDelegate` and SwiftUI's `onOpenURL`.
 */
const HANDLED: readonly Handled[] = [
  {
    entry: ({ kind, name }) => kind === "plist" && name === "UIApplicationShortcutItems",
    what: "quick actions",
    takes: /\bperformActionFor(?:ShortcutItem)?\b|\bshortcutItem\b|\bUIApplicationShortcutItem\b|\bLaunchOptionsShortcutItemKey\b/,
  },
  {
    entry: ({ kind, by }) => kind === "urlScheme" && by === undefined,
    what: "links of its own scheme",
    takes:
      /\bopenURL\s*:\s*\(|\bopen\s+\w+\s*:\s*URL\b|\bopenURLContexts\b|\bonOpenURL\b|\burlContexts\b|\bhandleOpenURL\b|\bhandleOpen\s|LaunchOptionsURLKey\b|\[\s*\.url\s*\]|\bURLContexts\b|\bkAEGetURL\b/i,
  },
  {
    entry: ({ kind, name, value }) =>
      kind === "entitlement" && name === ASSOCIATED_DOMAINS && textOf(value)?.startsWith("applinks:") === true,
    what: "links of a domain",
    takes:
      /\bcontinueUserActivity\b|\bcontinue\s+\w+\s*:\s*NSUserActivity\b|\bonContinueUserActivity\b|\bonOpenURL\b|\buserActivities\b|NSUserActivityTypeBrowsingWeb\b|LaunchOptionsUserActivity\w*Key\b/,
  },
];

/** Entries by which the system opens a native app, where no code of it looks at what it was opened with, and no library can. */
export function unhandledOpenings(app: App, sources: readonly SourceFile[]): ComponentFault[] {
  const { kind, ios, entries } = app;
  // A library may take the delegate's methods for itself.
  if (kind !== "native" || !ios || ios.generated || takesLibraries(app, "ios")) return [];
  const texts = sources.flatMap(({ side, text }) => (side === "ios" ? withoutComments(text) : []));
  // Where the delegate is not among what was read, it may do so.
  if (!texts.some((text) => /\bUIApplicationDelegate\b|\bUI(?:Window)?SceneDelegate\b|:\s*(?:SwiftUI\.)?App\b/.test(text))) return [];
  return HANDLED.flatMap(({ entry: isMeant, what, takes }): ComponentFault[] => {
    const entry = entries.find((one) => one.side === "ios" && isMeant(one));
    if (!entry || texts.some((text) => takes.test(text))) return [];
    return [{ what: "no handler", side: "ios", element: nameOf(entry), name: what, near: undefined, at: entry.at }];
  });
}

const nameOf = ({ kind, name }: Entry): string => (kind === "urlScheme" ? "CFBundleURLTypes" : name);

/** Code that asks to be woken, and has no method that is called then. Source: developer.apple.com, "setMinimumBackgroundFetchInterval". */
export function unhandledFetches({ kind, ios }: App, sources: readonly SourceFile[]): ComponentFault[] {
  const own =
    (kind === "dotnet" || (kind === "native" && !ios?.generated)) && ios
      ? sources.filter(({ side, text }) => side === "ios" && /[bB]ackgroundFetch|[pP]erformFetch/.test(text))
      : [];
  // In .NET what runs at the events of an app may be said in code of both phones.
  const texts = kind === "dotnet" ? sources.filter(({ text }) => text.includes("erformFetch")) : own;
  const isTaken = /\bperformFetchWithCompletionHandler\b|\boverride\s+void\s+PerformFetch\s*\(|\.\s*PerformFetch\s*\(/;
  if (texts.some(({ text }) => isTaken.test(withoutComments(text)))) return [];
  return own.slice(0, 1).flatMap((source): ComponentFault[] => {
    const offset = withoutComments(source.text).search(/\b[sS]etMinimumBackgroundFetchInterval\s*[(:]/);
    return offset === -1
      ? []
      : [
          {
            what: "no handler",
            side: "ios",
            element: "call",
            name: "application(_:performFetchWithCompletionHandler:)",
            near: undefined,
            at: source.place(offset),
          },
        ];
  });
}
