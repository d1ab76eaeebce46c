import { foldersBelow } from "../../files/walk.js";
import { join } from "../../model/paths.js";
import { takesIn, type IosTargetFacts } from "../../model/xcode.js";
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

/** Source files below an iOS project: headers, and what one of its targets takes in; all of it where the targets list nothing. */
export function iosSources(
  discovery: Discovery,
  { folder, allTargets }: { folder: string; allTargets: readonly IosTargetFacts[] },
  names: RegExp,
  mentioned?: RegExp,
): NativeSource[] {
  const listing = allTargets.filter(({ sources, synchronized }) => sources.length + synchronized.length > 0);
  return nativeSources(discovery, folder, names, mentioned).filter(
    ({ source: { file } }) => listing.length === 0 || /\.h(pp)?$/.test(file) || listing.some((target) => takesIn(target, file)),
  );
}
