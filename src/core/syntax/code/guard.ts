import type { Guard } from "../../model/code.js";

const DEBUG =
  /\b(?:BuildConfig\.DEBUG|kDebugMode|__DEV__|DEBUG|isDebugBuild|UNITY_EDITOR|DEVELOPMENT_BUILD|kProfileMode|isDebuggable|isDebug|is_debug|IsDebug\w*|Debugger\.IsAttached)\b|\bNODE_ENV\b[^&|]*["']development["']|\bBUILD_TYPE\b[^&|]*["']debug["']|\bimport\.meta\.env\.DEV\b/;
/** Marks of emulators and simulators. Source: developer.android.com, "Build"; developer.apple.com, "Running code on a specific platform". */
const EMULATOR =
  /\btargetEnvironment\(\s*simulator\s*\)|\bTARGET_(?:OS_SIMULATOR|IPHONE_SIMULATOR)\b|\bis_?(?:Emulator|Simulator)\w*\b|\bBuild\.(?:FINGERPRINT|HARDWARE|PRODUCT)\b[^&|]*["'](?:generic|goldfish|ranchu|sdk\w*)["']/i;
const RELEASE =
  /\b(?:kReleaseMode|RELEASE|NDEBUG)\b|\bNODE_ENV\b[^&|]*["']production["']|\bBUILD_TYPE\b[^&|]*["']release["']|\bimport\.meta\.env\.PROD\b/;
const ANDROID =
  /\b(?:isAndroid|ANDROID|__ANDROID__|UNITY_ANDROID|TargetPlatform\.android|DevicePlatform\.Android|RuntimePlatform\.Android|Device\.Android)\b|["']android["']/i;
const IOS =
  /\b(?:isIOS|IOS|__IOS__|UNITY_IOS|UNITY_IPHONE|TargetPlatform\.iOS|DevicePlatform\.iOS|RuntimePlatform\.IPhonePlayer|Device\.iOS)\b|["']ios["']/i;
const PRESENCE =
  /\btypeof\b|[!=]==?\s*(?:null|nil|undefined)\b|\bis(?:Plugin)?Available\b|\bnative(?:Module)?\w*\b|\bin\s+window\b|\bwindow\b|\bhas\w+\(/i;

/** What a condition asks, from its text; `negated` for the other branch. */
export function guardOf(condition: string, negated: boolean): Guard {
  const text = condition
    .replace(/\s+/g, " ")
    .trim()
    .replace(/^\((.*)\)$/, "$1")
    .slice(0, 120);
  const shown = negated ? `not (${text})` : text;
  // `a || b` holds without a, so that only conditions without alternatives say something for certain.
  const plain = !/\|\|/.test(text);
  const turned = /^\s*!|[!]=|==?=?\s*false\b/.test(text.replace(/[!=]==?\s*(?:null|nil|undefined)\b/g, ""));
  const no = (negated !== turned) !== /\.not\(\)\s*$/.test(text);
  if (plain && DEBUG.test(text)) return { text: shown, kind: no ? "release" : "debug" };
  if (plain && EMULATOR.test(text)) return { text: shown, kind: no ? "other" : "emulator" };
  if (plain && RELEASE.test(text)) return { text: shown, kind: no ? "debug" : "release" };
  const android = ANDROID.test(text);
  const ios = IOS.test(text);
  if (plain && android !== ios) {
    const side = android ? "android" : "ios";
    return { text: shown, kind: no ? (side === "android" ? "ios" : "android") : side };
  }
  if (!negated && (PRESENCE.test(text) || /^[\w.?]+$/.test(text))) return { text: shown, kind: "presence" };
  return { text: shown, kind: "other" };
}
