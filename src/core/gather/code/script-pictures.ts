import type { FolderIndex } from "../../files/walk.js";
import type { App } from "../../model/app.js";
import type { AssetFault } from "../../model/code.js";
import { withoutComments } from "../../syntax/comments.js";
import type { ProjectFiles } from "../project-files.js";
import { Resources } from "./android-resources.js";
import { picturesOf } from "./apple-pictures.js";
import { looksAtPlatform, type SourceFile } from "./sources.js";

/** Pictures of the native app that scripts show by their names. Source: reactnative.dev, "Images" (images from hybrid app's resources). */
export function scriptPictures(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): AssetFault[] {
  const { kind, android, ios } = app;
  if (kind !== "react-native" || !android || android.generated || !ios || ios.generated) return [];
  let sides: { android: ReadonlySet<string>; ios: ReadonlyMap<string, string> } | undefined;
  const told = new Set<string>();
  return sources.flatMap((source) => {
    if (source.side !== "shared" || source.guards.length > 0 || !source.text.includes("uri")) return [];
    const text = withoutComments(source.text);
    return [...text.matchAll(/\bsource\s*=\s*\{\s*\{\s*uri\s*:\s*["']([A-Za-z]\w*)["']/g)].flatMap((match): AssetFault[] => {
      const name = match[1] as string;
      const before = text.slice(Math.max(0, text.lastIndexOf(";", match.index)), match.index);
      if (told.has(name) || looksAtPlatform(before)) return [];
      told.add(name);
      if (!sides) {
        const resources = new Resources(project, app);
        sides = {
          android: new Set(["drawable", "mipmap"].flatMap((type) => [...resources.of(type).keys()])),
          ios: picturesOf(project, index, ios.folder),
        };
      }
      const [onAndroid, onIos] = [sides.android.has(name), sides.ios.has(name.toLowerCase())];
      if (onAndroid && onIos) return [];
      const near = onAndroid ? "iOS" : onIos ? "Android" : undefined;
      return [
        {
          what: near === undefined ? "picture" : "picture of one side",
          asset: name,
          ...(near === undefined ? {} : { near }),
          at: source.place(match.index),
        },
      ];
    });
  });
}
