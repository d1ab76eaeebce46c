import { BLOCK_SETTINGS, CONFIGURATIONS, PLATFORM_ARTIFACTS } from "../../../../knowledge/gradle-names.js";
import type { AndroidSide } from "../../../../model/app.js";
import type { GradleModule } from "../../../../model/gradle.js";
import { isInstalled } from "../../../../model/paths.js";
import { misspelling } from "../../../../model/suggest.js";
import type { FactSink } from "../../../sink.js";

/** Names in the scripts of a build that are almost one that Gradle or the Android plugin knows: the build stops at them, or passes them over. */
export function noteMisspeltSettings(app: FactSink, { build, modules }: AndroidSide): void {
  const own = new Set([build.settings, build.root, ...modules].filter(({ folder }) => !isInstalled(`${folder}/`)));
  for (const module of own) noteModuleNames(app, module);
}

/** Such names in the script of one module. */
export function noteModuleNames(app: FactSink, module: GradleModule): void {
  for (const { what, name, right, at } of module.strayNames) app.misspelling({ what, name, right, side: "android", at });
  noteSettings(app, module);
  const known = new Set([...CONFIGURATIONS, ...module.configurations]);
  for (const { configuration: name, group, artifact, places } of module.dependencies) {
    noteConfiguration(app, name, known, places[0]);
    const notation = `${group}:${artifact}`;
    const right = misspelling(notation, PLATFORM_ARTIFACTS, 1);
    const [at] = places;
    if (at && right !== undefined) app.misspelling({ what: "artifact", name: notation, right, side: "android", at });
  }
  for (const { configuration: name, at } of module.modules) noteConfiguration(app, name, known, at);
}

function noteSettings(app: FactSink, { settings }: GradleModule): void {
  for (const { block, name, at } of settings) {
    const of = block.replace(/^(flavor|buildType):\w+$/, "$1").replace(/^signingConfigs\.\w+$/, "signingConfigs");
    const right = Object.hasOwn(BLOCK_SETTINGS, of) ? misspelling(name, BLOCK_SETTINGS[of] ?? []) : undefined;
    if (right !== undefined) app.misspelling({ what: "setting", name, right, side: "android", at });
  }
}

/** What a source set has, which may have any name. */
const OF_SOURCE_SET = /(Implementation|Api|CompileOnly|RuntimeOnly|AnnotationProcessor)$/;

function noteConfiguration(
  app: FactSink,
  name: string,
  known: ReadonlySet<string>,
  at: GradleModule["modules"][number]["at"] | undefined,
): void {
  const right = !at || OF_SOURCE_SET.test(name) ? undefined : misspelling(name, known);
  if (at && right !== undefined) app.misspelling({ what: "configuration", name, right, side: "android", at });
}
