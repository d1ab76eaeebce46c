import { join, parentOf } from "../../../model/paths.js";
import { textAt } from "../../../syntax/data.js";
import { compare as comparePub } from "../../../versions/pub.js";
import type { ProjectFiles } from "../../project-files.js";

/** A release of Flutter, with the Dart that it brings. */
export interface FlutterRelease {
  flutter: string;
  dart: string;
}

/** Whether an app asks for a release or a later one, by the constraints of its pubspec and of the lock that was made for it. */
export function asksForAtLeast(project: ProjectFiles, pubspec: string, release: FlutterRelease): boolean {
  const root = project.yaml(pubspec)?.root;
  const lock = project.yaml(join(parentOf(pubspec), "pubspec.lock"))?.root;
  return (["flutter", "dart"] as const).some((name) =>
    [root && textAt(root, "environment", name === "dart" ? "sdk" : name), lock && textAt(lock, "sdks", name)].some((text) => {
      const least = /(?:\^|>=)\s*(\d+\.\d+\.\d+)/.exec(text ?? "")?.[1];
      return least !== undefined && comparePub(least, release[name]) >= 0;
    }),
  );
}
