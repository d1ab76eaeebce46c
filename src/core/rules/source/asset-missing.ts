import type { AssetFault, SceneFault } from "../../model/code.js";
import { flutterExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (name: string) => {
  const base = flutterExample();
  return {
    ...base,
    "pubspec.yaml": `${base["pubspec.yaml"] ?? ""}flutter:\n  assets:\n    - assets/\n`,
    "assets/harbour.json": "{}\n",
    "lib/main.dart": `import 'package:flutter/material.dart';\nimport 'package:flutter/services.dart';\n\nvoid main() async {\n  WidgetsFlutterBinding.ensureInitialized();\n  await rootBundle.loadString('assets/${name}.json');\n  runApp(const SizedBox());\n}\n`,
  };
};

const WORDS: Record<AssetFault["what"], (asset: string, near: string) => { message: string; fix: string }> = {
  listed: (asset) => ({
    message: `pubspec.yaml lists the asset ${asset}, which is not there: the build stops`,
    fix: `put it there, or take it out of the list`,
  }),
  uncopied: (asset: string) => ({
    message: `a page shows ${asset}, which the builder does not copy into the app`,
    fix: "list its folder among the assets in angular.json",
  }),
  absent: (asset) => ({ message: `the app loads the asset ${asset}, which is not there`, fix: "write the name of a file that is there" }),
  unlisted: (asset) => ({
    message: `code loads the asset ${asset}, which pubspec.yaml does not list: it is not in the app`,
    fix: `add ${asset}, or its folder with a / at the end, to the assets of pubspec.yaml`,
  }),
  family: (asset, near) => ({
    message: `the font family ${asset} is asked for, but the app has none of that name: the system's font is shown`,
    fix: `write ${near}, which is there`,
  }),
  "listed font": (asset, near) => ({
    message: `the property list names the font ${asset}, which the target does not have: the system's font is shown`,
    fix: `write ${near}`,
  }),
  "unlisted font": (asset) => ({
    message: `the font ${asset} is in the iOS app, but UIAppFonts does not name it: the system's font is shown`,
    fix: `add ${asset} to UIAppFonts`,
  }),
  "font of one side": (asset) => ({
    message: `the font family ${asset} is asked for, but the Android app has no file of that name: the system's font is shown`,
    fix: `put the file into app/src/main/assets/fonts under the name ${asset}`,
  }),
  picture: (asset, near) => ({
    message: `code takes the picture ${asset}, which no catalog and no file of the app has: nothing is shown`,
    fix: near === "" ? "add the picture, or write the name of one that is there" : `write ${near}, which is there`,
  }),
  "picture of one side": (asset, near) => ({
    message: `code takes the picture ${asset} of the app itself, which ${near} does not have: nothing is shown there`,
    fix: `add ${asset} to ${near === "iOS" ? "an asset catalog of the iOS app" : "the drawables of the Android app"}`,
  }),
  "icon font": (asset) => ({
    message:
      asset === "Icons"
        ? "code shows Icons, and pubspec.yaml does not say uses-material-design: true: boxes are shown in their place"
        : "code shows CupertinoIcons, and no dependency brings their font: boxes are shown in their place",
    fix: asset === "Icons" ? "add uses-material-design: true below flutter in pubspec.yaml" : "add cupertino_icons to the dependencies",
  }),
  "alternate icon": (asset, near) => ({
    message: `code takes the icon ${asset}, which CFBundleAlternateIcons does not have: the icon stays as it is`,
    fix: near === "" ? `add ${asset} to CFBundleAlternateIcons in the property list` : `write ${near}, which is there`,
  }),
  texts: (asset) => ({
    message: `l10n.yaml names ${asset}, which is not there: the app's texts are not generated`,
    fix: "put it there, or name what is there",
  }),
  "not generated": () => ({
    message: "code imports the generated texts, but pubspec.yaml does not say generate: true below flutter",
    fix: "add generate: true below flutter in pubspec.yaml",
  }),
};

const IN_UNITY: Partial<Record<SceneFault["what"], (fault: SceneFault) => { message: string; fix: string }>> = {
  resource: ({ name, near }) => ({
    message: `code loads the resource ${name}, which no folder Resources has: nothing is loaded`,
    fix: near === undefined ? "write the name of a file in a folder Resources" : `write ${near}, which is there`,
  }),
  "resource ending": ({ name, near = "" }) => ({
    message: `code loads the resource ${name} with the ending of its file: nothing is found under that name`,
    fix: `write ${near}`,
  }),
  "resource outside": ({ name, near = "" }) => ({
    message: `code loads the resource ${name}, but ${near} lies in no folder Resources: it is not in the app under that name`,
    fix: "move the file into a folder Resources, or let a field of a scene hold it",
  }),
  asset: ({ name, of = "" }) => ({
    message: `${of} holds an asset of the class ${name} that is gone: the field is empty`,
    fix: `restore the asset with the file that holds its id, or choose another in the field ${of}`,
  }),
  "without id": ({ name }) => ({
    message: `${name} has no .meta file: each editor gives it another id, and scenes lose the script`,
    fix: `commit ${name}.meta as the editor wrote it`,
  }),
  "id twice": ({ name, near = "" }) => ({
    message: `${name} has the id of ${near}: the editor gives one of them a new one, and scenes lose that script`,
    fix: `delete the .meta file of the copy, and let the editor make it anew`,
  }),
};

export const assetMissing = defineRule({
  name: "source/asset-missing",
  severity: "error",
  title: "An asset that the app loads is not in it",
  looksAt:
    "In Flutter, the assets and the files of fonts that pubspec.yaml lists, families of fonts that code writes almost as listed, what the texts of l10n.yaml are generated from, and the assets that the app's own code loads by a name that is written out, against the files that are there, those of packages of the tree too; pictures for other densities count. In React Native, families of fonts in styles against the files of Android, and the fonts of the iOS target against UIAppFonts. On iOS, pictures that code takes by a name that is written out, against the catalogs and files of the project. In .NET, fonts and pictures that pages name and files that code opens. In Unity, resources that code loads by their names, settings and prefabs of the app's own classes that scenes hold, and the files that hold the ids of scripts. Folders are listed without those below them.",
  silentFor: "Assets of fetched packages, names that are worked out, and what is kept out of the repository.",
  why: "The build stops, or the app shows a hole where the asset should be, or it stops at its start when the asset holds its settings.",
  advice: "List the file or its folder, and write its name as it is, with the same capital letters.",
  examples: { reported: app("harbor"), silent: app("harbour") },
  check({ app: model }) {
    const inUnity = (model.code?.sceneFaults ?? []).flatMap((fault) => {
      const words = IN_UNITY[fault.what]?.(fault);
      return words
        ? [{ side: "shared" as const, ...words, places: [fault.at], subject: `${fault.what} ${fault.of ?? ""} ${fault.name}` }]
        : [];
    });
    const others = (model.code?.assets ?? []).map(({ what, asset, near, at }) => ({
      side: "shared" as const,
      ...(/family|font|picture/.test(what) ? { severity: "warning" as const } : {}),
      ...WORDS[what](asset, near ?? ""),
      places: [at],
      subject: `${what} ${asset}`,
    }));
    return [...others, ...inUnity];
  },
});
