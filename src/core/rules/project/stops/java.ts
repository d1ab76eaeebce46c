import { leastPlugin, majorOf } from "../../../derive/android-plugin.js";
import { PLATFORM_PLUGIN } from "../../../knowledge/platform-packages.js";
import type { App } from "../../../model/app.js";
import type { RawFinding } from "../../../model/finding.js";
import type { AndroidSetting, GradleModule } from "../../../model/gradle.js";
import { textOf } from "../../../model/value.js";

/**
 * Releases of Java that do not go together. Sources: kotlinlang.org, "Check for JVM target compatibility of related compile tasks" (an error by default from
 * Gradle 8.0 on); the message of javac, "source release requires target release".
 */
export function targetsApart(app: App, module: GradleModule): RawFinding[] {
  const java = one(module, "compileOptions", "targetCompatibility");
  const source = one(module, "compileOptions", "sourceCompatibility");
  const kotlin = one(module, "kotlinOptions", "jvmTarget");
  if (java === "open" || source === "open" || kotlin === "open") return [];
  if (module.settings.some(({ name, block }) => /toolchain/i.test(name) || /toolchain/i.test(block))) return [];
  const left = java ? release(java) : fallback(app, module);
  if (source && !java && release(source) > left)
    return [
      apart(
        module,
        [source],
        `compiles Java ${release(source)} for ${left}, as targetCompatibility is not set`,
        "targetCompatibility and sourceCompatibility",
      ),
    ];
  if (!kotlin || Number.isNaN(left) || Number.isNaN(release(kotlin)) || left === release(kotlin) || !isChecked(app)) return [];
  const unsaid = java ? "" : ", as targetCompatibility is not set,";
  return [
    apart(
      module,
      java ? [kotlin, java] : [kotlin],
      `compiles Java for ${left}${unsaid} and Kotlin for ${release(kotlin)}`,
      "targetCompatibility and jvmTarget",
    ),
  ];
}

/** The one statement of a setting; `open` where there are several, or one under a condition. */
function one({ settings }: GradleModule, block: string, name: string): AndroidSetting | "open" | undefined {
  const [first, ...more] = settings.filter((setting) => setting.block === block && setting.name === name);
  return more.length > 0 || first?.conditional ? "open" : first;
}

/** 8 for `1.8` and for `8`; not a number where it is not known. */
const release = (setting: AndroidSetting): number => Number(textOf(setting.values[0])?.replace(/^1\.(?=\d)/, ""));

/** Plugins of frameworks that set it. Source: @react-native/gradle-plugin, `configureJavaToolChains`. */
const SETS_JAVA = /^com\.facebook\.react|^expo/;

/**
 * What Java is compiled for where nothing says it; not a number where something else may. Source: developer.android.com, "Java versions in Android builds"
 * (8, before version 9 of the Android plugin).
 */
function fallback(app: App, module: GradleModule): number {
  const { android } = app;
  const plugin = majorOf(leastPlugin(app));
  const plugins = [module, ...(android ? [android.build.root, android.build.settings] : [])].flatMap((scripts) => scripts.plugins);
  const isPlain =
    plugin >= 7 && plugin < 9 && module.unread.length === 0 && plugins.every(({ id }) => PLATFORM_PLUGIN.test(id) && !SETS_JAVA.test(id));
  return isPlain && module.settings.every(({ block }) => block !== "java") ? 8 : Number.NaN;
}

function isChecked({ android, entries }: App): boolean {
  return (
    majorOf(textOf(android?.effective.gradle)) >= 8 &&
    !entries.some(({ kind, name }) => kind === "gradleProperty" && name === "kotlin.jvm.target.validation.mode")
  );
}

function apart(module: GradleModule, at: readonly AndroidSetting[], message: string, names: string): RawFinding {
  return {
    side: "android",
    message: `${module.path} ${message}: the build refuses that`,
    fix: `set ${names} to the same release in ${module.buildFile ?? module.folder}`,
    places: at.map((setting) => setting.at),
    subject: `jvm targets ${module.path}`,
  };
}
