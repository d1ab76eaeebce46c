import type { Entry } from "../../../model/facts.js";
import { textOf } from "../../../model/value.js";
import { closing } from "../../../syntax/code/callee.js";
import { withoutComments } from "../../../syntax/comments.js";
import { startOf } from "../../../model/place.js";
import { join } from "../../../model/paths.js";
import { ancestors, readManifest } from "../../packages/packages.js";
import type { FactSink } from "../../sink.js";
import type { Discovery } from "../framework.js";
import { iosSources, nativeSources } from "../native-sources.js";

/** Kinds of entries that the configuration states, and what people call each. */
const TITLES: Partial<Record<Entry["kind"], string>> = {
  permission: "the permission",
  purposeText: "the purpose text",
  urlScheme: "the URL scheme",
  queriedScheme: "the queried scheme",
  backgroundMode: "the background mode",
  entitlement: "the entitlement",
};

/** Whether people wanted an entry: what a plugin words by itself, and the permissions that it brings, say nothing of that. */
function isWanted({ kind, by, removed, value }: Entry): boolean {
  return !removed && value?.kind !== "unknown" && !(kind === "permission" && by !== undefined);
}

/**
 * Entries that the configuration states, against those of a native project that lies in the tree: the configuration no longer reaches it by itself.
 * Source: docs.expo.dev, "Continuous Native Generation" (prebuild), "Existing native projects".
 */
export function compareEntries(app: FactSink, configured: readonly Entry[], side: "android" | "ios"): void {
  // Without what they are held against nothing can be told to be missing in it.
  if ((side === "android" ? app.manifests : app.propertyLists).length === 0) return;
  for (const entry of configured) {
    const title = TITLES[entry.kind];
    if (title === undefined || entry.side !== side || !isWanted(entry)) continue;
    const native = app.entries.filter(
      ({ kind, name, side: of, removed }) => kind === entry.kind && name === entry.name && of === side && !removed,
    );
    const [first] = native;
    const [wanted, has] = [textOf(entry.value), textOf(first?.value)];
    const what = `${title} ${entry.name}`;
    if (!first)
      app.configuredOtherwise({
        what,
        side,
        configured: { kind: "known", text: wanted ?? entry.name, place: entry.at },
        native: undefined,
      });
    else if (
      (entry.kind === "purposeText" || entry.kind === "entitlement") &&
      wanted !== undefined &&
      has !== undefined &&
      !native.some(({ value }) => textOf(value) === wanted) &&
      // Words in other languages stand in files of their own; a variable is filled in by the build.
      !/\$[({]/.test(has + wanted) &&
      first.value &&
      entry.value
    )
      app.configuredOtherwise({ what, side, configured: entry.value, native: first.value });
  }
}

/** React Native itself, which the app has to declare beside Expo. Source: the `peerDependencies` of expo. */
export function noteFramework(project: Discovery["project"], app: FactSink, path: string): void {
  const around = ancestors(project, path).flatMap((folder) => readManifest(project, folder) ?? []);
  const [own] = around;
  if (own && !around.some(({ declarations }) => declarations.some(({ name }) => name === "react-native")))
    app.templateLine({ line: "framework in package.json", side: app.android ? "android" : "ios", at: startOf(own.file) });
}

/**
 * Lines by which native projects of React Native take in modules of Expo. Source: docs.expo.dev, "Install Expo modules in an existing React Native
 * project".
 */
export function readTemplateLines(discovery: Discovery, app: FactSink): void {
  const { project } = discovery;
  noteAndroidLines(discovery, app);
  noteGradleLines(project, app);
  if (!app.ios) return;
  const pods = app.ios.pods?.file;
  const podfile = pods === undefined ? undefined : project.text(pods);
  if (podfile && pods !== undefined && !/\buse_expo_modules!/.test(withoutComments(podfile.text, "hash")))
    app.templateLine({ line: "modules' pods", side: "ios", at: startOf(pods) });
  const code = iosSources(discovery, app.ios, /\.(swift|mm|m|h)$/);
  const delegate = code.find(({ text, source }) => /AppDelegate\.(swift|mm|m)$/.test(source.file) && /\bAppDelegate\b/.test(text));
  const isTold = ({ text }: { text: string }): boolean =>
    /\b(ExpoAppDelegate|EXAppDelegateWrapper|EXAppDelegatesLoader|ExpoAppDelegateSubscriberManager)\b/.test(text);
  if (delegate && !code.some(isTold)) app.templateLine({ line: "modules' delegate", side: "ios", at: startOf(delegate.source.file) });
  const launch = delegate && /\bdidFinishLaunchingWithOptions\b[^{]*\{/.exec(delegate.text);
  if (!delegate || !launch || !/\bclass\s+\w*AppDelegate\s*:\s*(ExpoAppDelegate|EXAppDelegateWrapper)\b/.test(delegate.text)) return;
  const open = launch.index + launch[0].length - 1;
  if (!/\bsuper\s*\.\s*application\s*\(/.test(delegate.text.slice(open, closing(delegate.text, open))))
    app.templateLine({ line: "modules' launch", side: "ios", at: startOf(delegate.source.file) });
}

/** What the application and the activity hand to the modules. */
function noteAndroidLines(discovery: Discovery, app: FactSink): void {
  const android = app.android && nativeSources(discovery, join(app.android.module.folder, "src"), /\.(kt|java)$/);
  const application = android?.find(({ text }) => /\bReactApplication\b/.test(text));
  if (application && !android?.some(({ text }) => /\bApplicationLifecycleDispatcher\s*\.\s*onApplicationCreate\b/.test(text)))
    app.templateLine({ line: "modules' dispatcher", side: "android", at: startOf(application.source.file) });
  const host = android?.find(({ text }) => /\bDefaultReactNativeHost\s*\(/.test(text));
  if (host && !android?.some(({ text }) => /\bReactNativeHostWrapper\s*\(|\bExpoReactHost\w*\s*[(.]/.test(text)))
    app.templateLine({ line: "modules' host", side: "android", at: startOf(host.source.file) });
  const activity = android?.find(({ text }) => /\bDefaultReactActivityDelegate\s*\(|\bclass\s+\w+\s*:\s*ReactActivity\s*\(/.test(text));
  if (activity && !android?.some(({ text }) => /\bReactActivityDelegateWrapper\s*\(/.test(text)))
    app.templateLine({ line: "modules' activity", side: "android", at: startOf(activity.source.file) });
}

/**
 * Lines of the Gradle scripts by which modules are taken in. Source: docs.expo.dev, "Install Expo modules in an existing project", the template of SDK 53
 * (expo-autolinking-settings, expo-root-project).
 */
function noteGradleLines(project: Discovery["project"], app: FactSink): void {
  const build = app.android?.build;
  const textOf = (file: string | undefined): string | undefined =>
    file === undefined || !project.tree.isFile(file) ? undefined : withoutComments(project.text(file)?.text ?? "");
  const [settings, root] = [textOf(build?.settingsFile), textOf(build?.root.buildFile)];
  if (settings === undefined || build?.settingsFile === undefined) return;
  if (!/\buseExpoModules\s*\(/.test(settings))
    app.templateLine({ line: "modules in settings", side: "android", at: startOf(build.settingsFile) });
  const script = textOf(app.android?.module.buildFile);
  // The settings take other packages in too, and nothing puts them into the app.
  if (
    script !== undefined &&
    app.android?.module.buildFile !== undefined &&
    /\bautolinkLibraries\w*\s*\(/.test(settings) &&
    !/\bautolinkLibrariesWithApp\b|\bapplyNativeModules\w*|\bapply\s*\(?\s*from\b/.test(script)
  )
    app.templateLine({ line: "packages in app", side: "android", at: startOf(app.android.module.buildFile) });
  const asksRoot = /\brootProject\.ext\.\w+/.test(script ?? "");
  if (
    /\bexpo-autolinking-settings\b/.test(settings) &&
    root !== undefined &&
    build.root.buildFile !== undefined &&
    asksRoot &&
    !/\bexpo-root-project\b|\bext\b/.test(root)
  )
    app.templateLine({ line: "modules' root", side: "android", at: startOf(build.root.buildFile) });
}
