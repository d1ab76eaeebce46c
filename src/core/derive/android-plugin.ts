import type { App } from "../model/app.js";
import { ANDROID_PLUGIN } from "../knowledge/android-build.js";
import { PLATFORM_PLUGIN } from "../knowledge/platform-packages.js";
import type { BuildPluginFact } from "../model/facts.js";
import { textOf } from "../model/value.js";
import { hasOwnPlugins, isSeen } from "./own-plugins.js";

/** The first number of a version; `NaN` where it is not known. */
export function majorOf(version: string | undefined): number {
  return Number(/^\d+/.exec(version ?? "")?.[0] ?? Number.NaN);
}

/**
 * The Android plugin that the release of the framework brings at least, where nothing else says which it is. Source: the version catalogs of
 * @react-native/gradle-plugin 0.73.4 (8.1.1) and 0.79.2 (8.8.2), read 2026-11-30.
 */
export function leastPlugin({ android, shared, dependencies }: App): string | undefined {
  const stated = textOf(android?.effective.androidPlugin);
  const declared = dependencies.find(({ ecosystem, name }) => ecosystem === "npm" && name === "react-native")?.declared;
  const installed = shared?.framework.package === "react-native" ? shared.framework.installed : undefined;
  const release = installed ?? textOf(declared);
  return stated ?? (Number(/^\D?0\.(\d+)\./.exec(release ?? "")?.[1] ?? Number.NaN) >= 73 ? "8" : undefined);
}

/** Ids of plugins that may apply others: those of a team's own conventions. */
const MAY_APPLY = /convention|application|library|module|feature|^[^.]*$|\.(android|app|kmp|multiplatform)$(?<!hilt\.android)/i;

/** Plugins of Expo for the root and the settings: they name versions, and apply none of Android's. Source: the template of Expo's SDK 53. */
const OF_EXPO = /^expo-(?:root-project|autolinking-settings|autolinking)$/;

/** Whether a plugin may apply others, and state what no script says. */
export const mayApply = (id: string): boolean => !PLATFORM_PLUGIN.test(id) && !OF_EXPO.test(id) && MAY_APPLY.test(id);

/**
 * Where a module, the application's unless another is named, applies the Android plugin, if neither it nor the scripts around it has a setting of such a
 * name, and nothing else may state one.
 */
export function unsaid({ android }: App, name: RegExp, module = android?.module): BuildPluginFact | undefined {
  if (!android || !module || android.generated) return undefined;
  const { build } = android;
  const applied = module.plugins.find(({ id, applied: is, conditional }) => is && !conditional && ANDROID_PLUGIN.test(id));
  const around = [module, build.root, build.settings];
  if (!applied || module.unread.length + build.root.unread.length > 0 || hasOwnPlugins(build, module)) return undefined;
  if (around.some((one) => one.settings.some((setting) => name.test(setting.name)))) return undefined;
  // The settings' own plugin of Android says it for all modules; what one of the build's own says was read with the module.
  const mayState = ({ id }: BuildPluginFact): boolean => id === "com.android.settings" || (mayApply(id) && !isSeen(build, { id }));
  return around.some(({ plugins }) => plugins.some(mayState)) ? undefined : applied;
}
