import { foldersBelow } from "../../../files/walk.js";
import type { Entry } from "../../../model/facts.js";
import { baseName, join } from "../../../model/paths.js";
import { known, textOf, type Value } from "../../../model/value.js";
import { at, valueAt, type Data } from "../../../syntax/data.js";
import { children, descendants } from "../../../syntax/xml.js";
import type { FactSink } from "../../sink.js";
import type { Discovery } from "../framework.js";
import { hasRemoteVersions } from "./eas.js";

/** A setting of the configuration and what the native projects have in its place. */
interface Setting {
  what: string;
  configured: Value | undefined;
  android: Value | undefined;
  ios: Value | undefined;
}

/**
 * Settings that stand in the configuration, and once more in native projects that lie in the tree. Sources: docs.expo.dev, "app.json / app.config.js"
 * (version, runtimeVersion, updates, newArchEnabled, jsEngine), "Updates: existing native projects" (expo.modules.updates.*, EXUpdates*),
 * "App version management".
 */
export function compareSettings(discovery: Discovery, app: FactSink, folder: string, root: Data): void {
  const android = new AndroidSettings(discovery, app);
  const ios = new IosSettings(discovery, app);
  const remote = hasRemoteVersions(discovery.project, folder);
  const settings: Setting[] = [
    {
      what: "the version",
      configured: valueAt(root, "version"),
      android: android.ofScript("versionName"),
      ios: ios.ofList("CFBundleShortVersionString"),
    },
    ...(remote
      ? []
      : [
          {
            what: "the version code",
            configured: valueAt(root, "android", "versionCode"),
            android: android.ofScript("versionCode"),
            ios: undefined,
          },
          {
            what: "the build number",
            configured: valueAt(root, "ios", "buildNumber"),
            android: undefined,
            ios: ios.ofList("CFBundleVersion"),
          },
        ]),
    {
      what: "the runtime version of updates",
      configured: valueAt(root, "runtimeVersion"),
      android: android.ofMetaData("EXPO_RUNTIME_VERSION"),
      ios: ios.ofUpdates("EXUpdatesRuntimeVersion"),
    },
    {
      what: "the address of updates",
      configured: valueAt(root, "updates", "url"),
      android: android.ofMetaData("EXPO_UPDATE_URL"),
      ios: ios.ofUpdates("EXUpdatesURL"),
    },
    {
      what: "updates.enabled",
      configured: valueAt(root, "updates", "enabled"),
      android: android.ofMetaData("ENABLED"),
      ios: ios.ofUpdates("EXUpdatesEnabled"),
    },
    {
      what: "the new architecture",
      configured: valueAt(root, "newArchEnabled"),
      android: android.ofProperties("newArchEnabled"),
      ios: ios.ofPodfile("newArchEnabled"),
    },
  ];
  for (const setting of settings) compare(app, setting);
  noteUpdatesOnOneSide(app, settings);
  compareEngines(app, android.ofProperties("hermesEnabled"), ios.ofPodfile("expo.jsEngine"));
  ios.noteUpdatesFile();
}

function compare(app: FactSink, { what, configured, android, ios }: Setting): void {
  if (isPlain(configured)) {
    for (const [side, native] of [
      ["android", android],
      ["ios", ios],
    ] as const)
      if (isPlain(native) && !isSame(native.text, configured.text)) app.configuredOtherwise({ what, side, configured, native });
    return;
  }
  // Without a word of the configuration the sides are held against each other.
  if (isPlain(android) && isPlain(ios) && !isSame(android.text, ios.text))
    app.configuredOtherwise({ what, side: "shared", configured: android, native: ios, files: ["Android", "iOS"] });
}

/** Where updates come from, which one of two native projects says and the other does not. Source: docs.expo.dev, "Updates: existing native projects". */
function noteUpdatesOnOneSide(app: FactSink, settings: readonly Setting[]): void {
  const address = settings.find(({ what }) => what === "the address of updates");
  const { android, ios } = address ?? {};
  const stated = isPlain(android) ? android : isPlain(ios) ? ios : undefined;
  const isOff = settings.some(
    ({ what, ...sides }) => what === "updates.enabled" && [sides.android, sides.ios].some((side) => textOf(side) === "false"),
  );
  if (!address || !stated || isOff || !app.android || !app.ios || (android && ios)) return;
  app.configuredOtherwise({ what: address.what, side: android ? "ios" : "android", configured: stated, native: undefined });
}

/** Whether two texts are the same, or versions that differ in zeros at their end: 1.0 is 1.0.0. */
function isSame(one: string, other: string): boolean {
  const plain = (text: string): string => (/^\d+(\.\d+)+$/.test(text) ? text.replace(/(\.0+)+$/, "") : text);
  return plain(one) === plain(other);
}

function isPlain(value: Value | undefined): value is Value & { kind: "known" } {
  // A default is there for a build that is given nothing else.
  return value?.kind === "known" && value.text !== "" && !value.fallback && !/[$@({]/.test(value.text);
}

function compareEngines(app: FactSink, hermes: Value | undefined, engine: Value | undefined): void {
  if (!isPlain(hermes) || !isPlain(engine) || (hermes.text === "true") === (engine.text === "hermes")) return;
  app.agreement({
    title: "the sides run scripts in different engines",
    members: [
      { name: "hermesEnabled", version: hermes.text, at: hermes.place },
      { name: "expo.jsEngine", version: engine.text, at: engine.place },
    ],
    wanted: undefined,
  });
}

class AndroidSettings {
  constructor(
    private readonly discovery: Discovery,
    private readonly app: FactSink,
  ) {}

  ofScript(name: string): Value | undefined {
    return this.app.android?.module.settings.find((setting) => setting.name === name && setting.block === "defaultConfig")?.values[0];
  }

  ofProperties(name: string): Value | undefined {
    return this.app.entries.find((entry: Entry) => entry.kind === "gradleProperty" && entry.name === name)?.value;
  }

  /** The value of an entry of the manifest for updates; a text of the resources in its place. */
  ofMetaData(name: string): Value | undefined {
    const { project } = this.discovery;
    for (const file of this.app.manifests) {
      const root = project.xml(file)?.root;
      const [application] = root ? children(root, "application") : [];
      const element = (application ? descendants(application, "meta-data") : []).find(
        ({ attributes }) => attributes.get("android:name")?.value === `expo.modules.updates.${name}`,
      );
      const stated = element?.attributes.get("android:value");
      if (!element || !stated) continue;
      const resource = /^@string\/(\w+)$/.exec(stated.value)?.[1];
      if (resource === undefined) return known(stated.value, element.source.place(stated.start));
      return this.app.entries.find(({ kind, side, name: own }) => kind === "string" && side === "android" && own === resource)?.value;
    }
    return undefined;
  }
}

/** The file with the settings of updates, below the folder of the app's target. */
const UPDATES = "Expo.plist";

class IosSettings {
  private readonly updates: string | undefined;

  constructor(
    private readonly discovery: Discovery,
    private readonly app: FactSink,
  ) {
    const { index } = discovery;
    const folder = app.ios?.folder;
    this.updates =
      folder === undefined
        ? undefined
        : [...foldersBelow(index, folder)].flatMap(([below, { files }]) =>
            !/\/(Pods|build)(\/|$)/.test(below) && files.includes(UPDATES) ? [join(below, UPDATES)] : [],
          )[0];
  }

  /** An entry of the property list; the target's setting where it stands for one. */
  ofList(key: string): Value | undefined {
    const [list] = this.app.propertyLists;
    const root = list === undefined ? undefined : this.discovery.project.plist(list)?.root;
    const value = valueAt(root, key);
    const setting = /^\$[({](\w+)[)}]$/.exec(textOf(value) ?? "")?.[1];
    return setting === undefined ? value : this.app.ios?.target.configurations.at(-1)?.settings.value(setting);
  }

  ofUpdates(key: string): Value | undefined {
    const stated = this.updates === undefined ? undefined : at(this.discovery.project.plist(this.updates)?.root, key);
    return stated?.kind === "scalar" ? known(String(stated.value), stated.source.place(stated.start)) : undefined;
  }

  ofPodfile(key: string): Value | undefined {
    const folder = this.app.ios?.folder;
    const file = folder === undefined ? undefined : join(folder, "Podfile.properties.json");
    const { project } = this.discovery;
    return file !== undefined && project.tree.isFile(file) ? valueAt(project.json(file)?.root, key) : undefined;
  }

  /** The settings of updates are read from the app itself. */
  noteUpdatesFile(): void {
    const target = this.app.ios?.target;
    if (!target || this.updates === undefined || target.synchronized.length > 0 || target.resources.length === 0) return;
    if (this.app.dependencies.some(({ name }) => name === "expo-updates") && !target.resources.some((file) => baseName(file) === UPDATES))
      this.app.templateLine({ line: "settings of updates", side: "ios", at: target.at });
  }
}
