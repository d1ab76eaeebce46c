import type { FactSink } from "./sink.js";
import type { SideName } from "../model/facts.js";
import { isWithin, parentOf } from "../model/paths.js";

/**
 * A file that could not be read in full tells what is in its good part, and nothing about what is not in it. Facts that say "it is not
 * there" because of such a file are taken back: the finding about the file itself says what to do.
 */
export function takeBackDoubtful(app: FactSink, unreadable: Iterable<string>): void {
  for (const file of unreadable) {
    const folder = parentOf(file);
    if (isWithin(file, app.path) || isWithin(app.path, folder)) app.brokenFile(file, sideOfFile(app, file));
  }
  if (app.broken.size === 0) return;
  app.revise("locks", (locks) =>
    locks.map((lock) => ({
      ...lock,
      broken: (lock.lock !== undefined && app.broken.has(lock.lock)) || app.broken.has(lock.manifest.file),
    })),
  );
  const scripts = new Set([...app.broken.values()]);
  const isScript = [...app.broken.keys()].some((file) => /(\.gradle(\.kts)?|Podfile)$/.test(file));
  app.revise("linking", (facts) =>
    facts.map((fact) => {
      const listBroken = fact.list !== undefined && app.broken.has(fact.list.file);
      if (fact.installed === true || !(listBroken || (isScript && scripts.has(fact.side)))) return fact;
      return { ...fact, installed: undefined, automatic: true };
    }),
  );
}

function sideOfFile(app: FactSink, file: string): SideName {
  const ofAndroid = app.android && app.android.build.folder !== app.path && isWithin(file, app.android.build.folder);
  const ofIos = app.ios && app.ios.folder !== app.path && isWithin(file, app.ios.folder);
  if (ofAndroid) return "android";
  if (ofIos) return "ios";
  if (/(\.gradle(\.kts)?|AndroidManifest\.xml|libs\.versions\.toml|gradle\.lockfile)$/.test(file)) return "android";
  if (/(\.plist|\.entitlements|\.pbxproj|Podfile(\.lock)?|Package\.resolved|\.xcconfig)$/.test(file)) return "ios";
  return "shared";
}
