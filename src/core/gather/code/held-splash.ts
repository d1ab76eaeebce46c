import type { App } from "../../model/app.js";
import { inComment, type SourceFile } from "./sources.js";

/**
 * A splash screen that is to stay until code hides it, where none does: the app shows nothing else. Sources: docs.expo.dev, "SplashScreen"
 * (preventAutoHideAsync); capacitorjs.com, "Splash Screen API" (launchAutoHide).
 */
export function heldSplash(app: App, sources: readonly SourceFile[]): App["templateLines"][number][] {
  const shared = sources.filter(({ side }) => side === "shared");
  const place = app.splashStays ?? heldByCode(shared);
  const hides = ({ text }: SourceFile): boolean => /SplashScreen|splash-screen/.test(text) && /\bhide(?:Async)?\b/.test(text);
  if (!place || shared.some(hides)) return [];
  return (["android", "ios"] as const).flatMap((side) => (app[side] ? [{ line: "splash hidden" as const, side, at: place }] : []));
}

function heldByCode(shared: readonly SourceFile[]): App["splashStays"] {
  for (const source of shared) {
    const match = /\bSplashScreen\s*\.\s*preventAutoHideAsync\s*\(/.exec(source.text);
    if (match && !inComment(source.text, match.index)) return source.place(match.index);
  }
  return undefined;
}
