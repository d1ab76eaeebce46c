import { linkingExample } from "./examples.js";
import { defineRule } from "../rule.js";

const automatic =
  "plugins { id 'com.facebook.react.settings' }\nextensions.configure { ex -> ex.autolinkLibrariesFromCommand() }\ninclude ':app'\n";
const manual =
  "include ':chart-deck'\nproject(':chart-deck').projectDir = new File(rootProject.projectDir, '../node_modules/chart-deck/android')\n";

export const linkedTwice = defineRule({
  name: "native/linked-twice",
  severity: "error",
  title: "A package is linked by hand and automatically",
  looksAt:
    "Files of an installed plugin that were copied into the project. Modules that the Android settings include from an installed package while the framework links packages by itself. Pods that are also listed by hand do no harm: they are installed once.",
  why: "The package comes in twice: classes are duplicated and the build stops, or its module is registered two times.",
  advice: "Remove the package's lines from the settings and the app's dependencies.",
  examples: {
    reported: linkingExample({ settings: automatic + manual, app: "dependencies {\n  implementation project(':chart-deck')\n}\n" }),
    silent: linkingExample(),
  },
  check({ app }) {
    const copies = app.copies.map(({ package: name, sdk, side, at, declared }) => ({
      side,
      sdk,
      message: `${at.file} is a file of ${name}, which adds it as well`,
      fix: "remove the copy from the project",
      places: [at, declared],
      subject: `${name} ${at.file.split("/").at(-1) ?? ""}`,
    }));
    const manual = app.linking.flatMap(({ package: name, sdk, side, automatic: itself, manual: place, off, declared }) =>
      side !== "android" || !itself || !place || off
        ? []
        : [
            {
              side,
              sdk,
              message: `${name} is linked by hand, but the framework links it automatically`,
              fix: `remove ${name} from the settings and the app's dependencies`,
              places: [place, declared],
              subject: name,
            },
          ],
    );
    return [...manual, ...copies];
  },
});
