import type { AndroidSide, TemplateLine } from "../../model/app.js";
import type { GradleModule } from "../../model/gradle.js";
import { textOf } from "../../model/value.js";
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
