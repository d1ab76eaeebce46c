import { join, parentOf } from "../../../model/paths.js";
import { nearest } from "../../../model/suggest.js";
import { variantNames } from "../../../model/variants.js";
import type { NpmManifest } from "../../packages/packages.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";

/** What follows a flag, joined by a sign or a blank, in quotes or without. */
const flag = (names: string): RegExp => new RegExp(`--(?:${names})(?:=|\\s+)(?:"([^"]+)"|'([^']+)'|(\\S+))`);
const SCHEME = flag("scheme");
const MODE = flag("mode|variant");

/**
 * Schemes and variants that scripts of the package run the app by, against those that there are. Source: the framework's command line, `run-ios`
 * (scheme) and `run-android` (mode; before release 0.72 of the command line, variant).
 */
export function noteRunScripts(project: ProjectFiles, app: FactSink, manifest: NpmManifest): void {
  const { android, ios } = app;
  const schemes = ios
    ? project.tree
        .list(join(parentOf(ios.projectFile), "xcshareddata/xcschemes"))
        .flatMap(({ name }) => (name.endsWith(".xcscheme") ? name.replace(/\.xcscheme$/, "") : []))
    : [];
  const variants = android && android.module.unread.length === 0 ? variantNames(android.module) : [];
  for (const { command, at } of manifest.scripts) {
    const note = (text: string | undefined, known: readonly string[], kind: "scheme" | "variant", side: "android" | "ios"): void => {
      // The name of a task begins with a capital letter, whichever way the variant is written.
      const isKnown =
        text === undefined || known.some((name) => name === text || (kind === "variant" && name.toLowerCase() === text.toLowerCase()));
      const near = isKnown ? undefined : nearest(text, known);
      // Schemes of one machine are not in the repository.
      if (text !== undefined && near !== undefined)
        app.pathFollowed({ text, resolved: undefined, kind, exists: false, side, generated: false, at, near });
    };
    const given = (form: RegExp): string | undefined =>
      form
        .exec(command)
        ?.slice(1)
        .find((part) => part !== undefined);
    if (/\brun-ios\b/.test(command)) note(given(SCHEME), schemes, "scheme", "ios");
    if (/\brun-android\b/.test(command)) note(given(MODE), variants, "variant", "android");
  }
}
