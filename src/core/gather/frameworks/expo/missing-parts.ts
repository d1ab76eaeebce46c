import { OF_EXPO_ROUTER } from "../../../knowledge/expo-plugins.js";
import type { TemplateLine } from "../../../model/app.js";
import { startOf, type Place } from "../../../model/place.js";
import { at, entriesOf, placeOf, textAt, type Data } from "../../../syntax/data.js";
import { ancestors, findInstalled, readManifest } from "../../packages/packages.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";
import { buildProfiles } from "./eas.js";

/** An app as its configuration and its list of packages have it. */
export interface ExpoApp {
  project: ProjectFiles;
  app: FactSink;
  /** The app's folder. */
  path: string;
  config: { root: Data; file: string };
  /** The native projects are written from the configuration. */
  generated: boolean;
}

/** What the configuration, the build profiles and the list of packages of an app have of each other, and lack. */
export function noteMissingParts(whole: ExpoApp): void {
  const { project, app, path } = whole;
  const around = ancestors(project, path).flatMap((folder) => readManifest(project, folder) ?? []);
  const [own] = around;
  if (!own) return;
  const declares = (name: string): boolean =>
    around.some(({ declarations }) => declarations.some((one) => one.name === name)) || findInstalled(project, path, name) !== undefined;
  const tell = (line: TemplateLine, place: Place, side: "android" | "ios" = app.android ? "android" : "ios"): void =>
    app.templateLine({ line, side, at: place });
  const manifest = startOf(own.file);
  if (whole.generated && !declares("react-native")) tell("framework in package.json", manifest);
  if (declares("expo-router") && OF_EXPO_ROUTER.some((name) => !declares(name))) tell("packages of the router", manifest);
  noteEntry(whole, textAt(own.root, "main"), () => tell("entry of the app", manifest));
  if (whole.generated) noteIds(whole, tell);
  noteUpdates(whole, declares, tell);
  const client = buildProfiles(project, path).find(({ development }) => development);
  if (client && !declares("expo-dev-client")) tell("package of development builds", client.at);
}

/**
 * An app that names no file to begin with, and has none of those that are taken then. Source: docs.expo.dev, "registerRootComponent" (main; without it,
 * expo/AppEntry takes App from the app's folder).
 */
function noteEntry({ project, path }: ExpoApp, main: string | undefined, tell: () => void): void {
  const isThere = project.tree.list(path).some(({ name }) => /^(?:App|index)(?:\.\w+)*\.[jt]sx?$/.test(name));
  if (main === undefined && !isThere) tell();
}

/** What templates state of both platforms, whichever is built. */
const OF_LOOKS =
  /^(?:supportsTablet|icon|adaptiveIcon|splash|edgeToEdgeEnabled|predictiveBackGestureEnabled|softwareKeyboardLayoutMode|versionCode|buildNumber)$/;

/** Source: docs.expo.dev, "app.json / app.config.js" (android.package, ios.bundleIdentifier: needed to write the native projects). */
function noteIds({ app, config: { root } }: ExpoApp, tell: (line: TemplateLine, at: Place, side: "android" | "ios") => void): void {
  const [android, ios] = [at(root, "android", "package"), at(root, "ios", "bundleIdentifier")];
  const side = android ? "ios" : "android";
  // A platform of which nothing but looks is stated is perhaps not built.
  const isMeant = entriesOf(at(root, side)).some(([key]) => !OF_LOOKS.test(key));
  if (app.android && app.ios && (android === undefined) !== (ios === undefined) && isMeant)
    tell("id of the platform", placeOf(at(root, side) as Data), side);
}

/** Source: docs.expo.dev, "EAS Update" (updates.url, runtimeVersion, expo-updates; a channel in a build profile). */
function noteUpdates(
  { config: { root }, generated }: ExpoApp,
  declares: (name: string) => boolean,
  tell: (line: TemplateLine, at: Place) => void,
): void {
  const url = at(root, "updates", "url");
  const version = at(root, "runtimeVersion");
  if (url && generated && !declares("expo-updates")) tell("package of updates", placeOf(url));
  else if (!url && version && declares("expo-updates") && textAt(root, "updates", "enabled") !== "false")
    tell("address of updates", placeOf(version));
}
