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
    "Files of an installed plugin that were copied into the project. Modules that the Android settings include from an installed package while the framework links packages by itself. Pods that are named by hand as well do no harm: they are taken once.",
  why: "The package comes in twice: classes are duplicated and the build stops, or its module is registered two times.",
  advice: "Take the lines for the package out of the settings and the app's dependencies.",
  examples: {
    reported: linkingExample({ settings: automatic + manual, app: "dependencies {\n  implementation project(':chart-deck')\n}\n" }),
    silent: linkingExample(),
  },
  check({ app }) {
    const copies = app.copies.map(({ package: name, sdk, side, at, declared }) => ({
      side,
      sdk,
      message: `${at.file} is a file of ${name}, which brings it as well`,
      fix: "take the copy out of the project",
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
              message: `${name} is linked by hand, and the framework links it by itself`,
              fix: `take ${name} out of the settings and of the app's dependencies`,
              places: [place, declared],
              subject: name,
            },
          ],
    );
    return [...manual, ...copies];
  },
});
