import { leastPlugin, majorOf } from "../../../derive/android-plugin.js";
import type { App } from "../../../model/app.js";
import type { RawFinding } from "../../../model/finding.js";
import { isInstalled } from "../../../model/paths.js";
import { startOf } from "../../../model/place.js";
import { textOf } from "../../../model/value.js";

/**
 * Packages of the old support library beside those of AndroidX, which have the same classes. Source: developer.android.com, "Migrate to AndroidX"
 * (android.enableJetifier).
 */
export function besideAndroidX({ android, dependencies, entries }: App): RawFinding[] {
  const own = dependencies.filter(({ ecosystem, side, test, direct }) => ecosystem === "maven" && side === "android" && !test && direct);
  const old = own.find(({ name, places }) => name.startsWith("com.android.support:") && !isInstalled(places[0]?.file ?? ""));
  const property = entries.find(({ kind, name }) => kind === "gradleProperty" && name === "android.enableJetifier");
  const [place] = old?.places ?? [];
  if (!android || !old || !place || (property && textOf(property.value)?.trim().toLowerCase() !== "false")) return [];
  if (!own.some(({ name }) => name.startsWith("androidx."))) return [];
  return [
    {
      side: "android",
      message: `the app has ${old.name} beside packages of AndroidX, and android.enableJetifier is ${property ? "false" : "not set"}: both bring the same classes`,
      fix: "take its successor in AndroidX instead, or add android.enableJetifier=true to gradle.properties",
      places: property ? [place, property.at] : [place],
      subject: "enableJetifier",
    },
  ];
}

/** Kinds of apps whose framework itself needs AndroidX. Sources: reactnative.dev, docs.flutter.dev, capacitorjs.com (their templates). */
export const OF_ANDROIDX: ReadonlySet<App["kind"]> = new Set<App["kind"]>(["react-native", "expo", "flutter", "capacitor"]);

/** Source: developer.android.com, "Migrate to AndroidX" (the build checks the property; on by itself from version 9 of the plugin). */
export function withoutAndroidX(app: App): RawFinding[] {
  const { kind, android, dependencies, entries } = app;
  const plugin = majorOf(leastPlugin(app));
  const property = entries.find(({ kind, name }) => kind === "gradleProperty" && name === "android.useAndroidX");
  if (!android || !(plugin >= 4 && plugin < 9) || (property && textOf(property.value)?.trim().toLowerCase() !== "false")) return [];
  const first = dependencies.find(
    ({ ecosystem, side, name, test }) => ecosystem === "maven" && side === "android" && !test && name.startsWith("androidx."),
  );
  const [place] = first?.places ?? [];
  if (!first && OF_ANDROIDX.has(kind)) return withoutOfFramework(app, property);
  if (!first || !place) return [];
  return [
    {
      side: "android",
      message: `the app has ${first.name}, but android.useAndroidX is ${property ? "false" : "not set"}: the build refuses packages of AndroidX`,
      fix: "add android.useAndroidX=true to gradle.properties",
      places: property ? [property.at, place] : [place],
      subject: "useAndroidX",
    },
  ];
}

/** The same where no package of the app is of AndroidX, and its framework is: told where the property stands, or could. */
function withoutOfFramework({ android }: App, property: App["entries"][number] | undefined): RawFinding[] {
  const file = android?.propertiesFile;
  if (file === undefined || android?.generated) return [];
  return [
    {
      side: "android",
      message: `android.useAndroidX is ${property ? "false" : "not set"}, and the framework is made with AndroidX: the build stops`,
      fix: "write android.useAndroidX=true in gradle.properties",
      places: [property?.at ?? startOf(file)],
      subject: "useAndroidX",
    },
  ];
}
