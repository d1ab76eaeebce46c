import { brokenFileOf } from "../../derive/incomplete.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (charts: string) => ({
  ...androidExample(
    `${androidBlock()}dependencies {\n  implementation project(':charts')\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n}\n`,
  ),
  "settings.gradle": "include ':app', ':charts'\n",
  "charts/build.gradle": `apply plugin: 'com.android.library'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    minSdk 24\n  }\n}\n${charts}`,
  "charts/src/main/java/example/maresia/charts/Chart.kt":
    "package example.maresia.charts\n\nimport example.quaymap.Quaymap\n\nclass Chart {\n  fun show() = Quaymap.show()\n}\n",
});

export const declaredElsewhere = defineRule({
  name: "source/declared-elsewhere",
  severity: "warning",
  title: "A package is imported where it is not declared",
  looksAt:
    "Imports in the Kotlin and Java files of each Android module against the packages that it and the modules that it depends on declare; imports in the Swift files of each Xcode target against the Swift package products and pods that the target links. Namespaces that the code of one assembly of a Unity project uses, against the assemblies to which it refers; namespaces and packages that the code of a project of .NET uses, against the projects to which it refers and what these have; packages that scripts of React Native and Expo import and that no package.json around, lock or installation has; packages of Dart that the app or a package of the tree imports and does not declare, packages that a package of the repository imports and only the app declares, and packages of Dart and of Android that only tests declare; what Kotlin code that both phones share imports and only one of them has, pods that Kotlin code imports and no module takes; packages of a module of the same build that the file's own neither depends on nor gets handed on, and libraries that the build's catalog has and no module takes; packages of the repository whose script does not depend on the framework that their code takes.",
  silentFor:
    "Apps of one module or target, and shared code but that of Flutter, Unity, .NET, React Native, Expo, Capacitor and Cordova apps with a builder.",
  why: "The module does not build on its own, or builds only as long as another one happens to bring in the package.",
  advice: "Declare the package in the module or target whose code imports it.",
  examples: { reported: app(""), silent: app("dependencies {\n  implementation 'example.quaymap:quaymap-android:4.2.0'\n}\n") },
  check({ app: model }) {
    // What a file declares that could not be read in full is not known.
    const found = (model.code?.elsewhere ?? []).filter(({ side }) => brokenFileOf(model, side) === undefined);
    return found.map(({ sdk, package: name, owner, declaredIn, only, side, at }) => ({
      side,
      sdk,
      message: only
        ? `${owner} imports ${name}, which only ${only === "ios" ? "iOS" : "Android"} has`
        : declaredIn.length === 0
          ? `${owner} imports ${name}, which nothing declares`
          : `${owner} imports ${name}, but only ${declaredIn.join(", ")} declares it`,
      fix: only
        ? "expect it in the shared code and give it in each phone's source set, or move the code there"
        : declaredIn.length === 0
          ? `add ${name} to the dependencies of ${owner}`
          : `declare ${name} in ${owner} too`,
      places: [at],
      subject: `${name} ${owner}`,
    }));
  },
});
