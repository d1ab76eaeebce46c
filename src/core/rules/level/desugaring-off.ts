import { hasOwnPlugins } from "../../derive/own-plugins.js";
import { textOf } from "../../model/value.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const archive = {
  "app/libs/tidewire-1.4.aar!/AndroidManifest.xml": '<manifest package="example.tidewire" />',
  "app/libs/tidewire-1.4.aar!/META-INF/com/android/build/gradle/aar-metadata.properties":
    "minCompileSdk=34\ncoreLibraryDesugaringEnabled=true\n",
};
const dependency = "\ndependencies {\n  implementation files('libs/tidewire-1.4.aar')\n}\n";
const block = (more: string): string => androidBlock().replace(/\}\n$/, `${more}}\n`) + dependency;

export const desugaringOff = defineRule({
  name: "level/desugaring-off",
  severity: "error",
  title: "A library needs core library desugaring",
  looksAt:
    "What the metadata of Android archives says about core library desugaring, against isCoreLibraryDesugaringEnabled in the application's module.",
  silentFor:
    "iOS, packages from registries that are not on this machine, builds with convention plugins, and builds that a framework generates.",
  why: "The build stops when it checks the metadata of its libraries.",
  advice: "Enable it in compileOptions, and add the desugaring library as coreLibraryDesugaring.",
  examples: {
    reported: androidExample(block(""), archive),
    silent: androidExample(block("  compileOptions {\n    coreLibraryDesugaringEnabled true\n  }\n"), archive),
  },
  check({ app }) {
    const { android } = app;
    if (!android || android.generated || hasOwnPlugins(android.build, android.module) || android.module.unread.length > 0) return [];
    const { module } = android;
    const setting = module.settings.findLast(({ name }) => /^(isC|c)oreLibraryDesugaringEnabled$/.test(name));
    if (setting && textOf(setting.values[0]) !== "false") return [];
    return app.desugaringNeeds.map(({ by, sdk, at }) => ({
      side: "android" as const,
      sdk,
      message: `${by} needs core library desugaring, but the application's module does not enable it`,
      fix: `set coreLibraryDesugaringEnabled to true in compileOptions of ${module.buildFile ?? module.folder}`,
      places: [setting?.at ?? { file: module.buildFile ?? module.folder, line: 1, column: 1 }, at],
      subject: `${by} desugaring`,
    }));
  },
});
