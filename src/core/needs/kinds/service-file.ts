import { hasOwnPlugins } from "../../derive/own-plugins.js";
import { foreignTo } from "../../derive/service-ids.js";
import { isForDevelopment } from "../../model/app.js";
import { baseName, join, parentOf } from "../../model/paths.js";
import { itemsIn, mainText, textIn, type NeedPart } from "../../model/sheet.js";
import { reason } from "../../model/reason.js";
import { textOf } from "../../model/value.js";
import { buildsWithout } from "../../model/variants.js";
import { wildcard } from "../../model/wildcard.js";
import type { WireResult, NeedOnSide } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { scalar, type DraftedNeed, type DraftSubject } from "../drafting.js";
import { FLAG, PATH, TEXT, WORDS, optional, table, tables, words } from "../form.js";
import { mask } from "../mask.js";

export const serviceFile: NeedDefinition = {
  title: "service file",
  rules: ["identity/service-file-mismatch", "identity/service-file-misplaced", "key/missing", "permit/scheme"],
  draft,
  main: "name",
  form: table(
    {
      name: { ...WORDS, holds: "path" },
      // The folder in which it must lie, from the application's module or the folder of the Xcode project on.
      folder: optional(PATH),
      // Path with dots to the value that must equal the app's id; `*` stands for every item of a list.
      idKey: optional(TEXT),
      // Values inside the file that must show up somewhere else: the path to each, where, and whether its dot-separated parts are reversed.
      show: optional(
        tables({ value: TEXT, as: words("urlScheme", "plist", "manifest", "string"), name: optional(TEXT), reversed: optional(FLAG) }),
      ),
    },
    { short: PATH },
  ),
  files: "service",
  check,
};

// eslint-disable-next-line complexity -- one question after the other; the first that is not met gives the answer
function check({ app, need, side }: NeedOnSide): WireResult {
  const name = mainText(need.value, "name");
  const idKey = textIn(need.value, "idKey");
  const folder = textIn(need.value, "folder")?.replace(/^\.\/|\/+$/g, "");
  const everywhere = app.serviceFiles.filter((file) => file.side === side && wildcard(name, baseName(file.file)));
  const files = folder === undefined ? everywhere : everywhere.filter(({ file }) => liesIn(app, side, file, folder));
  const [elsewhere] = everywhere;
  if (folder !== undefined && elsewhere && files.length === 0)
    return {
      state: "loose",
      problem: "misplaced",
      wanted: `${name} in ${folder}`,
      found: elsewhere.file,
      why: reason("read-in-folder", { folder }),
      fix: `move it to ${folder} in ${(side === "android" ? app.android?.module.folder : app.ios?.folder) || "the project"}`,
      places: [{ file: elsewhere.file, line: 1, column: 1 }],
    };
  const [first] = files;
  if (!first) {
    if (app.leftOutOfGit.has(name)) return { state: "unknown", wanted: name, why: reason("ignored-by-git") };
    const where = side === "android" ? (app.android?.module.folder ?? "the app's module") : `the target ${app.ios?.target.name ?? ""}`;
    return { state: "missing", problem: "absent", wanted: name, fix: `put ${name} into ${where}` };
  }
  // Where the sheet says where it lies, that is where the SDK reads it.
  const read = folder === undefined ? files.filter((file) => file.read !== false) : files;
  const start = { file: first.file, line: 1, column: 1 };
  if (read.length === 0)
    return {
      state: "loose",
      problem: "misplaced",
      wanted: name,
      found: first.file,
      why: first.why,
      fix: first.advice,
      places: [start],
    };
  for (const file of read) {
    const stated =
      idKey === undefined
        ? file.ids.map(({ value }) => value)
        : [...file.texts].filter(([path]) => wildcard(idKey, path)).map(([, value]) => value);
    const [one] = stated;
    const ids = one && foreignTo(app, file, read, new Set(stated.map(({ text }) => text)));
    if (one && ids)
      return {
        state: "loose",
        problem: "mismatch",
        wanted: [...ids].join(" or "),
        found: stated.map(({ text }) => text).join(", "),
        fix: `download ${name} again for ${[...ids][0] ?? "this app"}`,
        places: [one.place],
      };
  }
  const variants = read.map(({ variant }) => variant);
  if (!variants.includes(undefined) && variants.every((variant) => /debug/i.test(variant ?? "")))
    return {
      state: "loose",
      problem: "variant",
      wanted: name,
      found: `only for ${variants.join(", ")}`,
      fix: `put one for the release build into ${app.android?.module.folder || "the app's module"}`,
      places: [start],
    };
  const without = side === "android" ? buildsLacking(app, variants) : [];
  if (without.length > 0)
    return {
      state: "loose",
      problem: "variant",
      wanted: name,
      found: `only for ${variants.join(", ")}`,
      why: reason("build-finds-none", { variants: without.join(", ") }),
      fix: `put one for ${without.join(", ")} into src/${without[0] ?? ""}, or one for all into ${app.android?.module.folder || "the app's module"}`,
      places: [start],
    };
  for (const show of itemsIn(need.value, "show")) {
    const result = checkShown(app, side, read[0] ?? first, show);
    if (result) return { ...result, wanted: result.wanted };
  }
  return {
    state: "connected",
    wanted: name,
    found: read.map(({ file }) => file).join(", "),
    places: read.map(({ file }) => ({ file, line: 1, column: 1 })),
  };
}

/** Whether a file lies in a folder of the side: directly, or in the same folder of a variant. */
function liesIn({ android, ios }: NeedOnSide["app"], side: NeedOnSide["side"], file: string, folder: string): boolean {
  const base = side === "android" ? android?.module.folder : ios?.folder;
  const own = parentOf(file);
  return base !== undefined && (own === join(base, folder) || own.replace(/(^|\/)src\/[^/]+/, "$1src/main") === join(base, folder));
}

/** The builds of an app that find no file, where only variants have one. */
function buildsLacking({ android }: NeedOnSide["app"], variants: readonly (string | undefined)[]): string[] {
  if (!android || android.generated || android.module.unread.length > 0 || hasOwnPlugins(android.build, android.module)) return [];
  // Builds for development may go without.
  return buildsWithout(
    android.module,
    variants.map((variant) => variant ?? ""),
  ).filter((name) => !isForDevelopment(name) && !/debug$/i.test(name));
}

/** A value of a service file that must show up elsewhere, and does not. */
function checkShown(
  app: NeedOnSide["app"],
  side: NeedOnSide["side"],
  file: NeedOnSide["app"]["serviceFiles"][number],
  show: NeedPart,
): WireResult | undefined {
  const path = textIn(show, "value") ?? "";
  const value = [...file.texts].find(([key]) => wildcard(path, key))?.[1];
  if (!value) return undefined;
  const text = textIn(show, "reversed") === "true" ? value.text.split(".").reverse().join(".") : value.text;
  const name = textIn(show, "name");
  const kinds = { urlScheme: "urlScheme", plist: "plist", manifest: "metaData", string: "string" } as const;
  const kind = kinds[textIn(show, "as") as keyof typeof kinds];
  const shown = app.entries.some(
    (entry) =>
      entry.side === side &&
      entry.kind === kind &&
      (kind === "urlScheme" ? entry.name === text : (name === undefined || entry.name === name) && textOf(entry.value) === text),
  );
  if (shown) return undefined;
  const as =
    kind === "urlScheme" ? "as a URL scheme" : `as ${name ?? "an entry"} in ${side === "ios" ? "the property list" : "the manifest"}`;
  return {
    state: "loose",
    problem: "scheme",
    wanted: `${mask(text)} ${as}`,
    found: "not there",
    fix: `add the value of ${path} in ${file.file} ${as}${textIn(show, "reversed") === "true" ? ", its parts reversed" : ""}`,
    places: [value.place],
  };
}

function draft({ app, mentions }: DraftSubject): DraftedNeed[] {
  return app.serviceFiles
    .filter(({ file, read }) => read !== false && mentions(baseName(file)))
    .map(({ file, side }) => ({ on: side, value: scalar(baseName(file)), from: { file, line: 1, column: 1 } }));
}
