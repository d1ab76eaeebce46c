import { join } from "../../../model/paths.js";
import { sdkIdOf } from "../../../model/sdk-id.js";
import type { SideName } from "../../../model/facts.js";
import { at, placeOf, textAt, textsOf } from "../../../syntax/data.js";
import { ASSEMBLY_KEYS } from "../../../knowledge/known-names.js";
import { noteMisspeltKeys } from "../../misspelt-names.js";
import type { FactSink } from "../../sink.js";
import type { Discovery } from "../framework.js";
import { foldersIn, isDefined, type UnityProject } from "./project.js";

interface Assembly {
  name: string;
  guid: string | undefined;
}

/**
 * Assemblies: those for the editor or for tests are in no app; those that leave out a platform are not in that side; references lead to others by
 * name or by the id of their file. Source: docs.unity3d.com, "Assembly Definition file format".
 */
export function readAssemblies(discovery: Discovery, unity: UnityProject, app: FactSink): void {
  const { project } = discovery;
  const files = unity.roots.flatMap((root) =>
    [...foldersIn(discovery, root)].flatMap(([folder, of]) =>
      of.files.filter((name) => name.endsWith(".asmdef")).map((name) => ({ folder, file: join(folder, name) })),
    ),
  );
  const all: Assembly[] = files.map(({ file }) => ({
    name: textAt(project.json(file)?.root, "name") ?? "",
    guid: /^guid:\s*(\w+)/m.exec(project.tree.isFile(`${file}.meta`) ? (project.text(`${file}.meta`)?.text ?? "") : "")?.[1],
  }));
  for (const { folder, file } of files) {
    const root = project.json(file)?.root;
    noteMisspeltKeys(app, root, ASSEMBLY_KEYS);
    const include = textsOf(at(root, "includePlatforms"));
    const exclude = textsOf(at(root, "excludePlatforms"));
    const constraints = textsOf(at(root, "defineConstraints"));
    const aside =
      (include.length > 0 && include.every((platform) => platform === "Editor")) ||
      constraints.includes("UNITY_INCLUDE_TESTS") ||
      constraints.some((constraint) => isUnmet(constraint, app)) ||
      textsOf(at(root, "optionalUnityReferences")).includes("TestAssemblies");
    app.assembly(folder, {
      aside,
      name: textAt(root, "name") ?? "",
      references: textsOf(at(root, "references")).flatMap((reference) => {
        const guid = /^GUID:(\w+)$/i.exec(reference)?.[1];
        return guid === undefined ? reference : (all.find((other) => other.guid === guid)?.name ?? []);
      }),
    });
    // For one platform, with the editor beside it to try it there.
    if (
      aside ||
      !app.android ||
      !app.ios ||
      (include.length > 0 && include.filter((platform) => platform !== "Editor").length <= 1 && !namedForBoth(discovery, folder))
    )
      continue;
    const sides: [SideName & ("android" | "ios"), string][] = [
      ["android", "Android"],
      ["ios", "iOS"],
    ];
    const out = sides.filter(([, platform]) => (include.length > 0 ? !include.includes(platform) : exclude.includes(platform)));
    // One that is for one platform only is a platform's own code.
    if (out.length !== 1) continue;
    const [[side]] = out as [["android" | "ios", string]];
    const list = at(root, include.length > 0 ? "includePlatforms" : "excludePlatforms");
    const place = list ? placeOf(list) : { file, line: 1, column: 1 };
    const name = textAt(root, "name") ?? file;
    app.linkage({
      package: name,
      sdk: sdkIdOf("unity", name),
      side,
      automatic: true,
      off: place,
      manual: undefined,
      native: name,
      installed: undefined,
      declared: place,
      list: undefined,
    });
  }
}

/** Whether no build for phones has the symbol that an assembly asks for. Source: docs.unity3d.com, "Assembly Definition Inspector" (Define Constraints). */
function isUnmet(constraint: string, { buildSymbols }: FactSink): boolean {
  return (
    buildSymbols !== undefined &&
    /^\w+$/.test(constraint) &&
    (["android", "ios"] as const).every((side) => isDefined(buildSymbols, side, constraint, false) === false)
  );
}

/** Whether the code of an assembly looks at both platforms, so that it is meant for both. */
function namedForBoth(discovery: Discovery, folder: string): boolean {
  for (const [below, { files }] of foldersIn(discovery, folder))
    for (const name of files) {
      const text = name.endsWith(".cs") ? discovery.project.text(join(below, name))?.text : undefined;
      if (text !== undefined && /\bUNITY_ANDROID\b/.test(text) && /\bUNITY_(IOS|IPHONE)\b/.test(text)) return true;
    }
  return false;
}
