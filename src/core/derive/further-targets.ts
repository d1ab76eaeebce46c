import type { App } from "../model/app.js";
import type { Entry } from "../model/facts.js";

/** Kinds of entry that come from a target's own property list, entitlements and build settings. */
const ENTRIES_OF_TARGET: ReadonlySet<string> = new Set([
  "purposeText",
  "plist",
  "urlScheme",
  "queriedScheme",
  "backgroundMode",
  "clearText",
  "host",
  "entitlement",
  "buildSetting",
] satisfies Entry["kind"][]);

/**
 * The app as each further application target of its Xcode project is built: with that target's property list, entitlements and levels, and
 * only with the packages that are surely in it. What cannot be told of a target (its source files, what is linked into it by hand) is as in
 * the shipped one, and is not to be judged by these.
 */
export function furtherApps(app: App): { target: string; app: App }[] {
  const { ios } = app;
  if (!ios) return [];
  const shared = app.entries.filter(({ side, kind, by }) => side !== "ios" || by !== undefined || !ENTRIES_OF_TARGET.has(kind));
  return app.furtherTargets.map(({ target, entries, propertyLists, podTargets, packages }) => {
    const dependencies = app.dependencies.filter(
      ({ side, direct, ecosystem, name, in: within }) =>
        side === "ios" &&
        direct &&
        ((ecosystem === "cocoapods" && podTargets.includes(within)) || (ecosystem === "swiftpm" && packages.includes(name))),
    );
    const sdks = new Set(dependencies.map(({ sdk }) => sdk));
    return {
      target: target.name,
      app: {
        ...app,
        ios: { ...ios, target, levels: ios.levels.filter(({ owner, of }) => owner !== "app" || of === target.name) },
        entries: [...shared, ...entries],
        propertyLists,
        furtherTargets: [],
        dependencies,
        requiredLevels: app.requiredLevels.filter(({ level, sdk }) => level === "iosTarget" && sdk !== undefined && sdks.has(sdk)),
      },
    };
  });
}
