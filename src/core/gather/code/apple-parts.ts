import type { App } from "../../model/app.js";
import type { CodeFacts, ComponentFault } from "../../model/code.js";
import { takesIn } from "../../model/xcode.js";
import { withoutComments } from "../../syntax/comments.js";
import type { SourceFile } from "./sources.js";

/** A type of Swift with what stands behind its colon. */
const TYPES = /\b(?:final\s+)?(struct|class)\s+(\w+)\s*(?:<[^>{]*>)?\s*:\s*([^{]*)\{/g;

interface AppleType {
  name: string;
  above: string[];
  source: SourceFile;
  text: string;
  offset: number;
}

/** What only lives when another type of its target names it, by what it conforms to. */
const NAMED_BY_OTHERS: readonly [above: string, what: string, wanted: string][] = [
  ["UIApplicationDelegate", "application delegate", "the app: @UIApplicationDelegateAdaptor(…) in its App"],
  ["WKApplicationDelegate", "delegate of the watch app", "the app: @WKApplicationDelegateAdaptor(…) in its App"],
];

/**
 * Widgets that no bundle has, and delegates that an app of SwiftUI does not take. Sources: developer.apple.com, "WidgetBundle" (an extension with several
 * widgets has a bundle that lists them), "UIApplicationDelegateAdaptor", "WKApplicationDelegateAdaptor".
 */
export function unnamedAppleTypes({ ios, partTargets }: App, sources: readonly SourceFile[]): CodeFacts["unnamed"] {
  if (!ios || ios.generated) return [];
  return [ios.target, ...partTargets.map(({ target }) => target)].flatMap((target) => {
    const own = sources.filter(({ side, language, file }) => side === "ios" && language === "swift" && takesIn(target, file));
    if (!own.some(({ text }) => /\b(WidgetBundle|UIApplicationDelegate|WKApplicationDelegate)\b/.test(text))) return [];
    const types = own.flatMap(typesIn);
    const texts = own.map(({ text }) => withoutComments(text));
    const isNamed = (name: string): boolean => {
      const word = new RegExp(`(?<!\\b(?:struct|class|extension)\\s+)\\b${name}\\b`);
      return texts.some((text) => word.test(text));
    };
    const isMarked = ({ text, offset }: AppleType): boolean =>
      /@(main|UIApplicationMain)\b[^;{}]*$/.test(text.slice(Math.max(0, offset - 200), offset));
    const bundle = types.find(({ above }) => above.includes("WidgetBundle"));
    const isSwiftUi = types.some((type) => type.above.some((name) => name === "App" || name === "SwiftUI.App") && isMarked(type));
    return types.flatMap((type): CodeFacts["unnamed"] => {
      const { name, above, source, offset } = type;
      if (isMarked(type) || isNamed(name)) return [];
      const tell = (what: string, wanted: string): CodeFacts["unnamed"] => [{ name, what, side: "ios", wanted, at: source.place(offset) }];
      if (bundle && above.some((one) => /^(SwiftUI\.)?(Widget|ControlWidget)$/.test(one)))
        return tell("widget", `the body of ${bundle.name}`);
      const lone = isSwiftUi ? NAMED_BY_OTHERS.find(([one]) => above.includes(one)) : undefined;
      return lone ? tell(lone[1], lone[2]) : [];
    });
  });
}

function typesIn(source: SourceFile): AppleType[] {
  const text = withoutComments(source.text);
  return [...text.matchAll(TYPES)].map((match) => ({
    name: match[2] as string,
    above:
      (match[3] ?? "")
        .split(/\bwhere\b/)[0]
        ?.split(",")
        .map((one) => one.trim()) ?? [],
    source,
    text,
    offset: match.index,
  }));
}

/** Calls over the network that nobody asks for: the registry is made, and is not told what it is to take. Source: developer.apple.com, "PKPushRegistry". */
export function idleRegistries({ ios }: App, sources: readonly SourceFile[]): ComponentFault[] {
  const own = ios ? sources.filter(({ side, text }) => side === "ios" && text.includes("PKPushRegistry")) : [];
  if (own.length === 0 || own.some(({ text }) => /\b[dD]esiredPushTypes\b/.test(withoutComments(text)))) return [];
  return own.slice(0, 1).flatMap((source): ComponentFault[] => {
    const offset = withoutComments(source.text).search(/\bPKPushRegistry\s*\(|\bPKPushRegistry\s+alloc\b/);
    return offset === -1
      ? []
      : [{ what: "idle registry", side: "ios", element: "call", name: "PKPushRegistry", near: undefined, at: source.place(offset) }];
  });
}

/** A center of notifications that is given a delegate, in either language: by itself, or under a name that tells of it. */
const GIVEN_DELEGATE =
  /\b(?:current\s*\(\s*\)|UNUserNotificationCenter\s*\.\s*Current|currentNotificationCenter\s*\]?|\w*(?:[cC]enter|[nN]otif\w*))\s*[?!]?\s*\.\s*[dD]elegate\s*=|\bcurrentNotificationCenter\s*\]\s*setDelegate\s*:|\w*(?:[cC]enter|[nN]otif\w*)\s+setDelegate\s*:/;

/** Names that stand for the center, whatever they are. */
const NAMED_CENTER = /\b(\w+)\s*(?::\s*\w+\s*)?=\s*\[?\s*UNUserNotificationCenter\b/g;

/**
 * A delegate of the center of notifications with methods that the center is to call, and that nothing hands to it. Source: developer.apple.com,
 * "UNUserNotificationCenterDelegate" (assign it before the app finishes launching).
 */
export function notificationDelegates({ kind, ios }: App, sources: readonly SourceFile[]): CodeFacts["unnamed"] {
  // Plugins of frameworks take the delegate for themselves, and hand on.
  if ((kind !== "native" && kind !== "dotnet") || !ios) return [];
  const own = sources.filter(({ side, text }) => side === "ios" && /UNUserNotificationCenter|UserNotifications/.test(text));
  const isGiven = (whole: string): boolean => {
    const text = withoutComments(whole);
    const names = [...text.matchAll(NAMED_CENTER)].map(([, name = ""]) => name);
    return (
      GIVEN_DELEGATE.test(text) ||
      names.some((name) => new RegExp(`\\b${name}\\s*\\.\\s*[dD]elegate\\s*=|\\b${name}\\s+setDelegate\\s*:`).test(text))
    );
  };
  if (own.some(({ text }) => isGiven(text))) return [];
  return own.flatMap((source): CodeFacts["unnamed"] => {
    const text = withoutComments(source.text);
    const match =
      source.language === "objc"
        ? /@interface\s+(\w+)\s*[^<{;@]*<[^>]*\bUNUserNotificationCenterDelegate\b/.exec(text)
        : /\b(?:class|extension)\s+(\w+)\s*:[^{]*\bI?UNUserNotificationCenterDelegate\b/.exec(text);
    if (
      !match ||
      !/\bfunc\s+userNotificationCenter\s*\(|"userNotificationCenter:|\)\s*userNotificationCenter\s*:|\boverride\s+void\s+(?:DidReceive|WillPresent)/.test(
        text,
      )
    )
      return [];
    return [
      {
        name: match[1] as string,
        what: "delegate of notifications",
        side: "ios",
        wanted: "the center: UNUserNotificationCenter.current().delegate = …",
        at: source.place(match.index),
      },
    ];
  });
}
