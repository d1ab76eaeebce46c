import { isForDevelopment } from "../../model/app.js";
import type { SdkCall } from "../../model/code.js";
import { guardOf } from "../../syntax/code/guard.js";
import { codeNeed, fault, checkCalls } from "../calls.js";
import type { WireFault } from "../wire.js";

export const debugOnly = codeNeed("only in debug builds", ["start/debug-left-on"], (subject) =>
  checkCalls(subject, (_, live) => leftOn(live, subject.sheet.sdk), { optional: true }),
);

const OFF = /^(?:@?(?:false|NO|0|nil|null|none|\.none|["']?(?:off|none|error)["']?)|\w*\.(?:none|off|error|NONE|OFF|ERROR))$/i;

/** What is off, asks whether the build is one for debugging, or comes in a variable that may be either. */
function mayBeOff(text: string): boolean {
  // `BuildConfig.BUILD_TYPE == "debug"`
  const asked = /[!=]=/.test(text) ? guardOf(text, false).kind : "other";
  if (asked === "debug" || asked === "release") return asked === "debug";
  // On in release builds alone.
  if (/^!\s*(?:\w+\.)*(?:DEBUG|kDebugMode|__DEV__|isDebug\w*)$|DEBUG\.not(?:\(\))?$|^(?:kReleaseMode|RELEASE)$/.test(text.trim()))
    return false;
  return (
    OFF.test(text.trim()) ||
    /debug|__DEV__|kReleaseMode|NODE_ENV/i.test(text.replace(/LogLevel\.\w+|\.debug\b|["']debug["']/g, "")) ||
    /^(?!true$|YES$|yes$)_?[a-z]\w*$/.test(text.trim())
  );
}

/** What comes to a text that is off in all builds but those for debugging, or may. */
function isOffInReleases({ byVariant, value }: SdkCall["arguments"][number]): boolean {
  if (value?.kind === "known") return OFF.test(value.text.trim());
  const shipped = byVariant.filter(({ variant }) => !isForDevelopment(variant));
  return byVariant.length > 0 && shipped.every(({ value: own }) => own.kind !== "known" || OFF.test(own.text.trim()));
}

/** Test modes and talkative logs outside of conditions that keep them out of a release. */
function leftOn(live: readonly SdkCall[], sdk: string): WireFault[] {
  const open = live.filter(
    (call) =>
      !call.doubtful &&
      call.exact &&
      !call.guards.some(({ kind }) => kind === "debug" || kind === "other" || kind === "presence") &&
      !call.arguments.some((argument) => mayBeOff(argument.written) || isOffInReleases(argument)),
  );
  const [first] = open;
  if (!first) return [];
  return [
    fault(
      "debug",
      `${first.callee} of ${sdk} in ${first.within} reaches release builds`,
      "put it behind a condition for debug builds, or remove it",
      open,
      `in ${first.within}, in every build`,
    ),
  ];
}
