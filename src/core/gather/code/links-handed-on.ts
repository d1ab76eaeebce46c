import { ASSOCIATED_DOMAINS } from "../../knowledge/extension-points.js";
import type { App } from "../../model/app.js";
import { startOf, type Place } from "../../model/place.js";
import { withoutComments } from "../../syntax/comments.js";
import { isScript, type SourceFile } from "./sources.js";

/** The two calls that hand links on. */
const OPENED = /\bRCTLinkingManager\b[^;{}]{0,160}?\bopen(?:URL)?\s*:/;
const CONTINUED = /\bRCTLinkingManager\b[^;{}]{0,160}?\bcontinue(?:UserActivity)?\s*:/;

/** Scripts that take links which open the app. Source: reactnative.dev, "Linking". */
const TAKES_LINKS = /\bLinking\s*\.\s*(addEventListener|getInitialURL)\b|\blinking\s*=\s*\{/;

/**
 * The app delegate of a React Native app with schemes of its own that does not hand on the links which its scripts take. Source: reactnative.dev,
 * "Linking" (iOS: RCTLinkingManager).
 */
export function unhandedLinks({ kind, ios, entries }: App, sources: readonly SourceFile[]): Place | undefined {
  if (kind === "capacitor") return unhandedDomains(entries, sources);
  if (kind !== "react-native" || !ios || ios.generated) return undefined;
  if (!entries.some((entry) => entry.kind === "urlScheme" && entry.side === "ios" && entry.by === undefined)) return undefined;
  const native = sources.filter(({ side, file }) => side === "ios" && /\.(swift|mm?)$/.test(file));
  const delegate = native.find(({ text }) => /\bclass\s+\w*AppDelegate\b|@implementation\s+\w*AppDelegate\b/.test(withoutComments(text)));
  const texts = native.map(({ text }) => withoutComments(text));
  if (!delegate || texts.some((text) => /\bExpoAppDelegate\b|\bEXAppDelegateWrapper\b/.test(text))) return undefined;
  // Links with a scheme come one way, those of a domain another.
  const hands = (form: RegExp): boolean => texts.some((text) => form.test(text));
  const domains = entries.some((entry) => entry.kind === "entitlement" && entry.side === "ios" && entry.name === ASSOCIATED_DOMAINS);
  if (hands(OPENED) && (!domains || hands(CONTINUED))) return undefined;
  return sources.some(({ side, language, text }) => side === "shared" && isScript(language) && TAKES_LINKS.test(text))
    ? startOf(delegate.file)
    : undefined;
}

/**
 * The app delegate of a Capacitor app with domains of its own that does not hand on their links. Source: capacitorjs.com, "Deep Links" (iOS:
 * application(_:continue:restorationHandler:) of the template).
 */
function unhandedDomains(entries: App["entries"], sources: readonly SourceFile[]): Place | undefined {
  if (!entries.some(({ kind, side, name }) => kind === "entitlement" && side === "ios" && name === ASSOCIATED_DOMAINS)) return undefined;
  const native = sources
    .filter(({ side, file }) => side === "ios" && /\.(swift|mm?)$/.test(file))
    .map((source) => ({ source, text: withoutComments(source.text) }));
  const delegate = native.find(({ text }) => /\bclass\s+\w*AppDelegate\b/.test(text) && /\bimport\s+Capacitor\b/.test(text));
  const hands =
    /\bApplicationDelegateProxy\.shared\.application\s*\([^()]*\bcontinue\b|\.capacitorOpenUniversalLink\b|\bhandleContinueActivity\b|\bSceneDelegateProxy\b/;
  const waits = /\baddListener\s*\(\s*["']appUrlOpen["']/;
  return delegate && !native.some(({ text }) => hands.test(text)) && sources.some(({ side, text }) => side === "shared" && waits.test(text))
    ? startOf(delegate.source.file)
    : undefined;
}

/** Where scripts look at links, in any of the ways that packages have. */
const LOOKS_AT_LINKS =
  /\bLinking\b|\buseURL\b|\buseLinkingURL\b|\blinking=\{|\blinking\s*[:,}]|expo-router|expo-linking|appUrlOpen|getLaunchUrl|handleOpenURL|[dD]eep[-_ ]?[lL]ink|[uU]niversal[-_ ]?[lL]ink|[aA]pp[lL]ink/;

/**
 * Domains whose links open an app of React Native or Capacitor on both phones, where no script looks at a link: the app comes to the front, and stays where it was.
 * Sources: reactnative.dev, "Linking" (handling deep links); capacitorjs.com, "Deep Links" (appUrlOpen).
 */
export function unreadLinks({ kind, android, ios, entries }: App, sources: readonly SourceFile[]): Place | undefined {
  if ((kind !== "react-native" && kind !== "capacitor") || !android || !ios) return undefined;
  const host = entries.find(
    (one) => one.kind === "linkHost" && one.side === "android" && one.by === undefined && one.variant === undefined,
  );
  const domain = entries.some((one) => one.kind === "entitlement" && one.side === "ios" && one.name === ASSOCIATED_DOMAINS);
  const scripts = sources.filter(({ side, language }) => side === "shared" && isScript(language));
  if (!host || !domain || scripts.length === 0 || scripts.some(({ text }) => LOOKS_AT_LINKS.test(text))) return undefined;
  return host.at;
}
