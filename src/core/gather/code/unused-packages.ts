import type { App } from "../../model/app.js";
import type { CodeFacts } from "../../model/code.js";
import { join } from "../../model/paths.js";
import { type Data, at, textAt } from "../../syntax/data.js";
import { findInstalled, readManifest } from "../packages/packages.js";
import type { ProjectFiles } from "../project-files.js";
import type { AppCode } from "./app-code.js";
import { escaped } from "./mentions.js";
import { type SourceFile, isScript } from "./sources.js";

/** Packages of shared code with native parts that nothing of the app's own names: no source file and no configuration. */
export function unusedPackages(project: ProjectFiles, { app, sources }: AppCode): CodeFacts["unused"] {
  const { shared } = app;
  if (!shared || sources.filter(({ side }) => side === "shared").length === 0) return [];
  const configs = new Set<string>();
  for (const folder of new Set([app.path, shared.folder, ""]))
    for (const { name, kind } of project.tree.list(folder))
      if (
        kind === "file" &&
        /\.(json|[cm]?[jt]s|ya?ml)$|rc$/.test(name) &&
        !/^(package(-lock)?|pnpm-lock|yarn)\b|lock\.(json|yaml)$|^pubspec/.test(name)
      )
        configs.add(join(folder, name));
  const texts = [...configs].map((file) => project.text(file)?.text ?? "");
  const scripts = project.text(join(shared.folder, "package.json"))?.text ?? "";
  let asked: Set<string> | undefined;
  // eslint-disable-next-line complexity -- one question after the other; what is left after all is not used
  const unused = app.dependencies.flatMap(({ ecosystem, name, sdk, direct, test, platform, native, nativeUnknown, places }) => {
    if (!direct || test || platform || (ecosystem !== "npm" && ecosystem !== "pub") || app.kind === "cordova") return [];
    if (!(native?.android || native?.ios) || nativeUnknown) return [];
    // Another package can ask the app for it, and use it itself.
    if (app.packageNeeds.some((need) => need.name === name && need.by !== name)) return [];
    if (ecosystem === "pub" && /_(android|ios|darwin|platform_interface|foundation)$/.test(name)) return [];
    const written = ecosystem === "pub" ? `package:${name}/` : name;
    if (sources.some(({ text }) => text.includes(written)) || texts.some((text) => text.includes(name))) return [];
    const inScripts = (scripts.match(new RegExp(`["'/ ]${escaped(name)}["'/ ]`, "g")) ?? []).length;
    const [at] = places;
    if (inScripts > 1 || !at) return [];
    // Only for what is left: this looks into every package.
    if (
      ecosystem === "npm" &&
      ((asked ??= askedByPackages(project, app, shared.folder)).has(name) || worksUnnamed(project, app, shared.folder, name))
    )
      return [];
    return [{ package: name, sdk, at }];
  });
  // What is loaded by a name that is only made when it runs can be any package.
  const dynamic = ({ side, language, text }: SourceFile): boolean =>
    side === "shared" && isScript(language) && /\b(?:require|import)\(\s*[^"'`\s)/]/.test(text);
  return unused.length === 0 || sources.some(dynamic) ? [] : unused;
}

/** What the installed packages that the app declares name among their own dependencies or peers, optional ones too. */
function askedByPackages(project: ProjectFiles, app: App, folder: string): Set<string> {
  const names = new Set<string>();
  for (const name of new Set(app.dependencies.flatMap((other) => (other.ecosystem === "npm" ? other.name : [])))) {
    const installed = findInstalled(project, folder, name);
    for (const declaration of (installed && readManifest(project, installed.folder)?.declarations) ?? [])
      if (declaration.section !== "devDependencies" && declaration.name !== name) names.add(declaration.name);
  }
  return names;
}

/**
 * Whether a package does its work without being named: it has no code for scripts to import, a plugin of its own for the configuration, or
 * components that the system starts.
 */
function worksUnnamed(project: ProjectFiles, app: App, folder: string, name: string): boolean {
  const installed = findInstalled(project, folder, name);
  if (!installed) return true;
  const root = readManifest(project, installed.folder)?.root;
  const file = (path: string): boolean => project.tree.isFile(join(installed.folder, path));
  const main = root && (textAt(root, "main") ?? textAt(root, "module") ?? textAt(root, "react-native"));
  const script = main !== undefined || at(root as Data, "exports") !== undefined || ["index.js", "index.ts", "index.tsx"].some(file);
  if (!script || file("app.plugin.js")) return true;
  return app.entries.some(({ kind, by }) => kind === "component" && by === name);
}
