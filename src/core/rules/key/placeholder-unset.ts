import { hasOwnPlugins } from "../../derive/own-plugins.js";
import { placeholdersGiven } from "../../model/gradle.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const archive = {
  "app/libs/tollbuoy-5.1.aar!/AndroidManifest.xml":
    '<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="example.tollbuoy"><application><activity android:name=".Return"><intent-filter><data android:scheme="${tollbuoyScheme}" /></intent-filter></activity></application></manifest>',
};
const dependency = "\ndependencies {\n  implementation files('libs/tollbuoy-5.1.aar')\n}\n";

export const placeholderUnset = defineRule({
  name: "key/placeholder-unset",
  severity: "error",
  title: "A library's manifest needs a placeholder that the build does not define",
  looksAt:
    "Placeholders in the manifests of archives and installed packages, against the manifestPlaceholders of the application's module in all its variants. The app's id is always there.",
  silentFor: "iOS, builds whose placeholders are computed by code, builds with convention plugins, and builds that a framework generates.",
  why: "The build stops when the manifests are merged.",
  advice: "Give the placeholder a value in manifestPlaceholders, as the SDK's page says.",
  examples: {
    reported: androidExample(androidBlock() + dependency, archive),
    silent: androidExample(
      androidBlock("minSdk 24\n    targetSdk 35\n    manifestPlaceholders = [tollbuoyScheme: 'pilot']") + dependency,
      archive,
    ),
  },
  check({ app }) {
    const { android } = app;
    if (!android || android.generated || hasOwnPlugins(android.build, android.module) || android.module.unread.length > 0) return [];
    const { module } = android;
    const given = placeholdersGiven(module);
    if (!given) return [];
    return app.placeholderNeeds
      .filter(({ name, by }) => by !== undefined && !given.has(name))
      .map(({ name, by, sdk, at }) => ({
        side: "android" as const,
        sdk,
        message: `the manifest of ${by ?? ""} needs the placeholder ${name}, but the build does not define it`,
        fix: `add ${name} to manifestPlaceholders in ${module.buildFile ?? module.folder}`,
        places: [{ file: module.buildFile ?? module.folder, line: 1, column: 1 }, at],
        subject: `${by ?? ""} ${name}`,
      }));
  },
});
