import { isForDevelopment, type App, type DebugOption } from "../../model/app.js";
import { closing } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { buildRegions, variantAt } from "../platforms/build-regions.js";
import type { SourceFile } from "./sources.js";

/** Support for developers that is switched on in every build, and scripts that every build loads from the machine of a developer. */
export function developmentOptions(app: App, sources: readonly SourceFile[]): DebugOption[] {
  if (app.kind !== "react-native" && app.kind !== "expo") return [];
  return sources.flatMap((source): DebugOption[] => {
    if (source.side === "shared" || source.guards.some(({ kind }) => kind === "debug" || kind === "variant")) return [];
    const text = withoutComments(source.text);
    const on =
      /\b(?:getUseDeveloperSupport\s*\(\s*\)\s*(?::\s*Boolean\s*)?(?:=|\{\s*(?:return)?)|useDeveloperSupport\s*(?::\s*Boolean\s*)?=)\s*true\b/.exec(
        text,
      );
    if (source.side === "android")
      return on ? [{ what: "developer support", side: "android", text: "useDeveloperSupport", at: source.place(on.index) }] : [];
    const asks = /\bfunc\s+(?:bundleURL|sourceURL)\s*\([^{]*\{|-\s*\(NSURL\s*\*\)\s*(?:bundleURL|sourceURLForBridge)\b[^{]*\{/.exec(text);
    if (!asks) return [];
    const body = text.slice(asks.index, closing(text, asks.index + asks[0].length - 1));
    const regions = buildRegions(source.text);
    const served = [...body.matchAll(/\bjsBundleURL(?:ForBundleRoot)?\b|https?:\/\/(?:localhost|\d+\.\d+\.\d+\.\d+):8081/g)].find(
      ({ index }) => !isForDevelopment(variantAt(regions, asks.index + index)),
    );
    const offset = asks.index + (served?.index ?? 0);
    if (!served || /forResource|URLForResource|jsbundle/.test(body)) return [];
    return [{ what: "development server", side: "ios", text: "the packager (bundleURL)", at: source.place(offset) }];
  });
}
