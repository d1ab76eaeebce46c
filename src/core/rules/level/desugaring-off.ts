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
  title: "A library needs newer Java interfaces than old systems have",
  looksAt:
    "What the metadata of Android archives says of desugaring of the Java library, against isCoreLibraryDesugaringEnabled in the application's module.",
  silentFor: "iOS, what comes from a registry and is on this machine nowhere, and builds with convention plugins or made by a framework.",
  why: "The build stops when it checks the metadata of its libraries.",
  advice: "Switch it on in compileOptions, and add the desugaring library as coreLibraryDesugaring.",
  examples: {
    reported: androidExample(block(""), archive),
    silent: androidExample(block("  compileOptions {\n    coreLibraryDesugaringEnabled true\n  }\n"), archive),
  },
  check({ app }) {
    const { android } = app;
    if (!android || android.generated || android.build.hasConventions || android.module.unread.length > 0) return [];
    const { module } = android;
    const setting = module.settings.findLast(({ name }) => /^(isC|c)oreLibraryDesugaringEnabled$/.test(name));
    if (setting && textOf(setting.values[0]) !== "false") return [];
    return app.desugaringNeeds.map(({ by, sdk, at }) => ({
      side: "android" as const,
      sdk,
      message: `${by} needs desugaring of the Java library; the application's module does not switch it on`,
      fix: `set coreLibraryDesugaringEnabled to true in compileOptions of ${module.buildFile ?? module.folder}`,
      places: [setting?.at ?? { file: module.buildFile ?? module.folder, line: 1, column: 1 }, at],
      subject: `${by} desugaring`,
    }));
  },
});
