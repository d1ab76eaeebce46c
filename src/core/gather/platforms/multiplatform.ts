import type { AndroidSide, TemplateLine } from "../../model/app.js";
import type { GradleModule } from "../../model/gradle.js";
import { textOf } from "../../model/value.js";
import { join } from "../../model/paths.js";
import { startOf } from "../../model/place.js";
import { withoutComments } from "../../syntax/comments.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";
import { configurationOf } from "./ios/side.js";
import type { IosTarget } from "./ios/xcode-project.js";

/** A module that makes frameworks of Kotlin code for Xcode, with their names; one that is not written out is `undefined`. */
export interface FrameworkModule {
  module: GradleModule;
  script: string;
  names: (string | undefined)[];
}

/** Source: kotlinlang.org, "Build final native binaries" (baseName). */
export function frameworkModules(project: ProjectFiles, modules: readonly GradleModule[]): FrameworkModule[] {
  return modules.flatMap((module) => {
    const isShared = module.plugins.some(({ id, applied }) => applied && /multiplatform$/.test(id));
    const text = isShared && module.buildFile !== undefined ? project.text(module.buildFile)?.text : undefined;
    const script = text?.includes("baseName") ? withoutComments(text) : "";
    const names = [...script.matchAll(/\bbaseName\b(?:\s*(?:=|\.set\()\s*"([\w.-]+)")?/g)].map((match) => match[1]);
    return names.length === 0 ? [] : [{ module, script, names }];
  });
}

/** Tasks of Gradle that make a framework for the build that Xcode does. Source: kotlinlang.org, "Direct integration", "Use Kotlin from a local Swift package". */
const MAKES_FRAMEWORK =
  /\b(?:embedAndSignAppleFrameworkForXcode|embedSwiftExportForXcode|syncFramework|assemble\w*XCFramework|packForXcode|linkPod\w*)\b/;

/** What has to hold in an Xcode project that takes in Kotlin code by a build phase. */
export function noteKotlinFramework(project: ProjectFiles, app: FactSink, android: AndroidSide, target: IosTarget | undefined): void {
  const makers = frameworkModules(project, android.modules);
  if (!target || makers.length === 0) return;
  const line = (name: TemplateLine): void => app.templateLine({ line: name, side: "ios", at: target.at });
  const task = new RegExp(`(?:^|[\\s"':])(:[\\w:.-]+):(?=\\w*(?:${MAKES_FRAMEWORK.source.replace(/\\b/g, "")}))`);
  const phase = target.scripts.find((script) => MAKES_FRAMEWORK.test(script));
  if (phase === undefined) {
    if (isTakenIn(project, app, target, makers)) line("framework of Kotlin");
  } else {
    const module = task.exec(phase)?.[1];
    if (module !== undefined && !android.build.modules.has(module)) line("module of the framework");
    else if (target.scriptsBehindSources.includes(phase)) line("order of the framework");
    if (textOf(configurationOf(target)?.settings.value("ENABLE_USER_SCRIPT_SANDBOXING")) === "YES") line("sandbox of the framework");
  }
  // Each is written out, and the one for devices is not among them.
  for (const { script } of makers)
    if (/\bios(?:X64|SimulatorArm64)\s*\(/.test(script) && !/\bios(?:Arm64)?\s*\(/.test(script)) {
      line("framework for devices");
      break;
    }
}

/** Whether Swift code of the target imports a framework by its name, and nothing else of the project can bring it. */
function isTakenIn(project: ProjectFiles, app: FactSink, target: IosTarget, makers: readonly FrameworkModule[]): boolean {
  // Another script, a pod or package of the repository's own, or a framework that was made before.
  if (target.scripts.some((script) => /gradle/i.test(script)) || target.packageProducts.some(({ location }) => location === undefined))
    return false;
  if (app.dependencies.some(({ side, route, ecosystem }) => side === "ios" && (route === "path" || ecosystem === "binary"))) return false;
  const names = makers.flatMap((maker) => maker.names);
  if (target.linked.some(({ name }) => names.includes(name.replace(/\.(?:xc)?framework$/, "")))) return false;
  return target.sources.some(
    (file) =>
      file.endsWith(".swift") &&
      [...(project.text(file)?.text.matchAll(/^[ \t]*import\s+(\w+)/gm) ?? [])].some(([, name]) => names.includes(name as string)),
  );
}

/** Blocks of the Kotlin plugins in a script, each with the plugin that has it. Sources: kotlinlang.org, "Multiplatform Gradle DSL reference", "CocoaPods overview". */
const BLOCKS = [
  {
    name: "cocoapods { }",
    form: /^[ \t]*cocoapods\s*\{/m,
    plugin: "org.jetbrains.kotlin.native.cocoapods",
    applied: /native\.cocoapods$|^cocoapods$/,
  },
  {
    name: "the dependencies of compose",
    form: /\b(?:implementation|api)\s*\(\s*compose\.(?:runtime|foundation|material3?|ui|animation)\b/,
    plugin: "org.jetbrains.compose",
    applied: /^org\.jetbrains\.compose$/,
  },
  {
    name: "targets of shared code",
    form: /^[ \t]*(?:androidTarget|iosArm64|iosSimulatorArm64)\s*(?:\(|\{)/m,
    plugin: "org.jetbrains.kotlin.multiplatform",
    applied: /multiplatform$/,
  },
] as const;

const IOS_TARGETS = ["iosArm64", "iosSimulatorArm64", "iosX64"] as const;

/**
 * Modules of shared Kotlin code whose script lost a plugin, or a target that others need of it. Only of modules to which no plugin of the build's own does more.
 * Source: kotlinlang.org, "Multiplatform Gradle DSL reference" (targets; a module can be taken in for a target that it has).
 */
export function noteSharedModules(project: ProjectFiles, app: FactSink, android: AndroidSide): void {
  const { build } = android;
  const own = new Map(
    [...build.modules.values()].flatMap((module) => {
      const text =
        module.buildFile === undefined || module.unread.some(({ what }) => !/^a dependency\b/.test(what))
          ? undefined
          : project.text(module.buildFile)?.text;
      if (text === undefined || !/\bkotlin\b/.test(text) || !isPlain(build, module)) return [];
      return [[module.path, { module, script: withoutComments(text) }] as const];
    }),
  );
  const at = (module: GradleModule) => startOf(module.buildFile ?? module.folder);
  const above = build.root.buildFile === undefined ? "" : (project.text(build.root.buildFile)?.text ?? "");
  const isForAll = /\b(?:sub|all)projects\s*\{/.test(withoutComments(above));
  const applies = ({ plugins }: GradleModule, form: RegExp): boolean => plugins.some(({ id, applied }) => applied && form.test(id));
  for (const { module, script } of own.values()) {
    const lost = isForAll
      ? undefined
      : BLOCKS.find(({ form, applied }) => form.test(script) && !applies(module, applied) && !applies(build.root, applied));
    if (lost)
      app.unfitValue({
        what: "block without a plugin",
        value: `${module.path}|${lost.name}|${lost.plugin}`,
        side: "android",
        at: at(module),
      });
    // Targets that a function of the build's own makes are not seen.
    if (lost || !applies(module, /multiplatform$/) || !ANY_TARGET.test(script)) continue;
    if (
      applies(module, /^com\.android\.(?:application|library)$/) &&
      !/\bandroidTarget\b|\bandroid\s*\(|\bandroidLibrary\s*\{/.test(script) &&
      project.tree.isFolder(join(module.folder, "src/androidMain"))
    )
      app.unfitValue({ what: "target of shared code", value: `${module.path}|androidTarget||`, side: "android", at: at(module) });
    for (const { path, configuration, conditional, at: place } of module.modules) {
      const other = own.get(path);
      if (!other || conditional || !/^(?:commonMain|iosMain|nativeMain|appleMain)/.test(configuration)) continue;
      const [ours, theirs] = [script, other.script].map((text) => new Set(IOS_TARGETS.filter((target) => targetForm(target).test(text))));
      const lacking = IOS_TARGETS.find((target) => ours?.has(target) && !theirs?.has(target));
      // Targets that are given in a loop or by a function are not seen.
      if (lacking && theirs && theirs.size > 0)
        app.unfitValue({ what: "target of shared code", value: `${path}|${lacking}|${module.path}|`, side: "ios", at: place });
    }
  }
}

const ANY_TARGET = /\b(?:ios\w*|jvm|js|wasmJs|macos\w*)\s*(?:\(|\{)/;

const targetForm = (target: string): RegExp => new RegExp(`\\b(?:${target}|ios)\\s*(?:\\(|\\{)`);

/** Whether no plugin of the build's own, as far as their scripts are here, is applied to a module. */
function isPlain({ conventions, openConventions }: AndroidSide["build"], { plugins }: GradleModule): boolean {
  return !plugins.some(({ id, applied }) => applied && (conventions.includes(id) || openConventions.includes(id)));
}
