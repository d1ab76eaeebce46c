import { foldersBelow } from "../../files/walk.js";
import { join } from "../../model/paths.js";
import { withoutComments } from "../../syntax/comments.js";
import type { Source } from "../../syntax/source.js";
import type { Discovery } from "./framework.js";

/** A source file of a native project, with its text without the comments. */
export interface NativeSource {
  source: Source;
  text: string;
}

/** Source files below a folder that mention something; what package managers and builds lay down is left out. */
export function nativeSources({ project, index }: Discovery, folder: string, names: RegExp, mentioned = /^/): NativeSource[] {
  return [...foldersBelow(index, folder)].flatMap(([below, { files }]) =>
    /(^|\/)(Pods|build|DerivedData)(\/|$)/.test(below)
      ? []
      : files.flatMap((name) => {
          const source = names.test(name) ? project.text(join(below, name)) : undefined;
          return source && mentioned.test(source.text) ? [{ source, text: withoutComments(source.text) }] : [];
        }),
  );
}
