import { join } from "../../../model/paths.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import type { Place } from "../../../model/place.js";
import { at, entriesOf, itemsOf, placeOf, textAt, type Data } from "../../../syntax/data.js";
import { binaryForm } from "../../platforms/ios/binary.js";
import type { FactSink } from "../../sink.js";
import type { DetectedApp, Discovery } from "../framework.js";
import { foldersIn, type UnityProject } from "./project.js";

const BINARY = /\.(aar|jar|a|framework|xcframework|bundle|so)$/;
const SOURCE = /\.(mm|m|swift|c|cpp|java|kt)$/;
const ANDROID = /\.(aar|jar|so|java|kt)$/;

/**
 * Native plugins in the tree, binaries and sources; their import settings say for which platforms they are taken, what they link and whether
 * they are embedded. Source: docs.unity3d.com, "Import and configure plug-ins", "Plug-in Inspector" (Add to Embedded Binaries, Framework
 * dependencies).
 */
export function readNativePlugins(discovery: Discovery, detected: DetectedApp, unity: UnityProject, app: FactSink): void {
  const { project } = discovery;
  for (const root of unity.roots)
    for (const [folder, { files, folders }] of foldersIn(discovery, root)) {
      if (/\.(framework|xcframework|bundle|androidlib)(\/|$)/.test(folder)) continue;
      for (const name of [...files, ...folders]) {
        const isBinary = BINARY.test(name);
        if (!isBinary && !SOURCE.test(name)) continue;
        const native: "android" | "ios" = ANDROID.test(name) ? "android" : "ios";
        if (!app[native]) continue;
        const file = join(folder, name);
        const meta = project.tree.isFile(`${file}.meta`) ? project.lockYaml(`${file}.meta`)?.root : undefined;
        const start = { file: meta ? `${file}.meta` : file, line: 1, column: 1 };
        const of = settingsFor(meta, native);
        // Sources beside those of a phone are for other machines, unless their folder says otherwise.
        const off =
          of.enabled === false &&
          (isBinary ? ANDROID.test(name) || !takenElsewhere(meta) : isForPhone(folder, native) || !takenElsewhere(meta));
        if (of.enabled === false) {
          if (off) noteOff(app, name, native, of, start);
          continue;
        }
        if (native === "ios") readLinks(discovery, app, name, file, of, isBinary, start);
        if (isBinary)
          app.dependency({
            side: native,
            ecosystem: "binary",
            name,
            route: "binary",
            scope: "Assets",
            in: detected.name,
            file,
            places: [start],
          });
      }
    }
}

/** A native plugin that the import settings keep out. */
function noteOff(
  app: FactSink,
  name: string,
  native: "android" | "ios",
  of: PlatformSettings,
  start: { file: string; line: number; column: number },
): void {
  app.linkage({
    package: name,
    sdk: sdkIdOf("binary", name),
    side: native,
    automatic: true,
    off: of.at ?? start,
    manual: undefined,
    native: name,
    installed: undefined,
    declared: start,
    list: undefined,
  });
}

/** Whether a folder is named for a side. */
function isForPhone(folder: string, side: "android" | "ios"): boolean {
  return new RegExp(`(^|/)${side}(/|$)`, "i").test(folder);
}

function readLinks(
  { project }: Discovery,
  app: FactSink,
  name: string,
  file: string,
  { settings }: PlatformSettings,
  isBinary: boolean,
  start: Place,
): void {
  const target = "UnityFramework";
  const frameworks = at(settings, "FrameworkDependencies");
  for (const framework of (textAt(frameworks) ?? "")
    .split(";")
    .map((part) => part.trim())
    .filter(Boolean))
    app.linked({
      name: /\.\w+$/.test(framework) ? framework : `${framework}.framework`,
      target,
      linked: true,
      embedded: false,
      form: undefined,
      system: true,
      at: frameworks ? placeOf(frameworks) : start,
    });
  if (!isBinary || name.endsWith(".bundle")) return;
  const embed = at(settings, "AddToEmbeddedBinaries");
  app.linked({
    name,
    target,
    linked: true,
    embedded: textAt(embed) === "true",
    form: binaryForm(project.tree, file),
    system: false,
    at: embed ? placeOf(embed) : start,
  });
}

interface PlatformSettings {
  /** Whether the platform takes the plugin; `undefined` where the settings do not tell. */
  enabled: boolean | undefined;
  settings: Data | undefined;
  at: Place | undefined;
}

/** The settings of each platform by its name, in the three forms of the importer: pairs in a list, pairs under one name, a table. */
function platforms(meta: Data | undefined): { names: string[]; of: Data | undefined }[] {
  const data = at(meta, "PluginImporter", "platformData");
  const pair = (item: Data): { names: string[]; of: Data | undefined } => {
    const first = at(item, "first");
    const names =
      first?.kind === "map" ? [...first.entries].flatMap(([key, { value }]) => [key, textAt(value) ?? ""]) : [textAt(first) ?? ""];
    return { names, of: at(item, "second") };
  };
  return [
    ...itemsOf(data).map(pair),
    ...entriesOf(data).map(([name, { value }]) => (at(value, "first") ? pair(value) : { names: [name], of: value })),
  ];
}

function settingsFor(meta: Data | undefined, side: "android" | "ios"): PlatformSettings {
  const wanted = side === "android" ? /^Android/ : /^(iPhone|iOS)/;
  const all = platforms(meta);
  const own = all.find(({ names }) => names.some((name) => wanted.test(name)));
  if (own) {
    const enabled = at(own.of, "enabled");
    return { enabled: textAt(enabled) === "1", settings: at(own.of, "settings"), at: enabled && placeOf(enabled) };
  }
  const any = all.find(({ names }) => names.includes("Any"));
  return { enabled: any && textAt(any.of, "enabled") === "1" ? true : undefined, settings: undefined, at: undefined };
}

/** Whether another platform takes the plugin, the editor aside. */
function takenElsewhere(meta: Data | undefined): boolean {
  return platforms(meta).some(({ names, of }) => !names.some((name) => /^(Editor|Any)$/.test(name)) && textAt(of, "enabled") === "1");
}
