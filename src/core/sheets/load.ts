import type { KeptValues } from "../files/tree.js";
import { suggestion } from "../model/suggest.js";
import type { InputProblem } from "../settings/validate.js";
import { at, itemsOf, placeOf, textAt, textsOf, valueAt, type Data } from "../syntax/data.js";
import { Source } from "../syntax/source.js";
import { readYaml } from "../syntax/yaml.js";
import {
  AGREEMENTS,
  NEED_KINDS,
  PACKAGE_KEYS,
  type NeedKind,
  type NeedPart,
  type NeedValue,
  type Sheet,
  type SheetNeed,
} from "../model/sheet.js";
import type { Form, TextForm } from "../needs/form.js";
import { NEEDS } from "../needs/kinds/index.js";
import { patternCompiler, withoutPatterns, withPatterns, type PatternCompiler } from "./patterns.js";

/** A sheet's text and where it lies. */
export interface SheetFile {
  file: string;
  text: string;
  /** The folder whose apps it holds for; all apps without it. */
  scope?: string;
}

/** Sheets that are kept between runs, by what they were read from. */
export type KeptSheets = Pick<KeptValues, "open" | "keep">;

export interface LoadedSheets {
  sheets: Sheet[];
  problems: InputProblem[];
}

/** Sheets are small; a larger file is something else. In UTF-16 units. */
const MAX_LENGTH = 256 * 1024;

/** How many needs of a sheet are read. */
const MAX_NEEDS = 1_000;

/** Reads and validates sheets. What is wrong is reported with file and line; the other needs and the other sheets still count. */
export async function loadSheets(files: readonly SheetFile[], kept?: KeptSheets): Promise<LoadedSheets> {
  const loaded: LoadedSheets = { sheets: [], problems: [] };
  for (const { file, text, scope = "" } of files) {
    const inputs = [file, text, scope];
    let read = kept?.open("sheet", inputs)?.value as OneSheet | undefined;
    if (!read) {
      read = await readOne({ file, text, scope });
      const { sheet } = read;
      kept?.keep("sheet", inputs, {
        value: { ...read, sheet: sheet && withoutPatterns([sheet])[0] } satisfies OneSheet,
        asks: [],
        inner: [],
      });
    } else if (read.sheet) read.sheet = (await withPatterns([read.sheet]))[0];
    loaded.problems.push(...read.problems);
    const { sheet } = read;
    if (!sheet) continue;
    const twin = loaded.sheets.find((other) => other.sdk === sheet.sdk && other.scope === sheet.scope);
    if (twin) {
      loaded.problems.push({
        message: `two sheets describe ${sheet.sdk}: this one and ${twin.file}:${twin.at.line}; the other one is used`,
        fix: "keep one of them, or give them different ids",
        place: sheet.at,
      });
    } else loaded.sheets.push(sheet);
  }
  return loaded;
}

/** What was read of one sheet. */
interface OneSheet {
  sheet: Sheet | undefined;
  problems: InputProblem[];
}

async function readOne({ file, text, scope }: SheetFile & { scope: string }): Promise<OneSheet> {
  // The validator and the pattern engine are slow to load: only where there is a sheet.
  const [{ validateData }, { SheetShape }, compile] = await Promise.all([
    import("../settings/validate.js"),
    import("./shape.js"),
    patternCompiler(),
  ]);
  const source = new Source(file, text);
  const nothing = (message: string, fix: string): OneSheet => ({ sheet: undefined, problems: [{ message, fix, place: source.place(0) }] });
  if (text.length > MAX_LENGTH)
    return nothing(`the sheet is larger than ${MAX_LENGTH / 1024} kB`, "a sheet is a short YAML file for one SDK");
  const yaml = readYaml(source);
  const problems = yaml.problems.map(({ message, place }): InputProblem => ({
    message: `the sheet is ${message}`,
    fix: "fix the YAML at this line",
    place,
  }));
  const { root } = yaml;
  if (root?.kind !== "map")
    return problems.length > 0
      ? { sheet: undefined, problems }
      : nothing("the sheet has no keys", "write sdk:, packages: and needs:, as `enredo sheet new` does");
  const needs = at(root, "needs");
  if (needs?.kind === "list" && needs.items.length > MAX_NEEDS) {
    problems.push({
      message: `the sheet has ${needs.items.length} needs; the first ${MAX_NEEDS} are read`,
      fix: "a sheet is a short YAML file for one SDK",
      place: placeOf(needs.items[MAX_NEEDS] ?? needs),
    });
    needs.items.length = MAX_NEEDS;
  }
  const invalid = validateData(root, SheetShape);
  problems.push(...invalid);
  const sheet = readSheet(root, file, scope, compile, problems, (from, to) =>
    invalid.some(({ place: { line, column } }) => isBefore(from, { line, column }) && !isBefore(to, { line, column })),
  );
  return { sheet, problems };
}

type Position = { line: number; column: number };

/** Whether one position stands before another, or at it. */
function isBefore(a: Position, b: Position): boolean {
  return a.line < b.line || (a.line === b.line && a.column <= b.column);
}

/** @param isInvalid whether the validator objects to something between two positions of the file */
function readSheet(
  root: Data,
  file: string,
  scope: string,
  compile: PatternCompiler,
  problems: InputProblem[],
  isInvalid: (from: Position, to: Position) => boolean,
): Sheet | undefined {
  const sdk = valueAt(root, "sdk");
  if (sdk?.kind !== "known" || !/^[a-z0-9][a-z0-9._-]*$/.test(sdk.text)) return undefined;
  const agree = textAt(root, "agree");
  const sheet: Sheet = {
    sdk: sdk.text,
    title: textAt(root, "title") ?? sdk.text,
    docs: textAt(root, "docs"),
    file,
    scope,
    agree: AGREEMENTS.find((word) => word === agree),
    packages: new Map(),
    needs: [],
    patterns: new Map(),
    searches: new Map(),
    at: sdk.place,
  };
  for (const key of PACKAGE_KEYS) {
    const names = textsOf(at(root, "packages", key)).filter((name) => name !== "");
    if (names.length > 0) sheet.packages.set(key, names);
  }
  const items = itemsOf(at(root, "needs"));
  for (const [index, item] of items.entries()) {
    const next = items[index + 1];
    const need = readNeed(item, problems);
    // What was found wrong in it is told; the need itself counts for nothing.
    if (isInvalid(placeOf(item), next ? placeOf(next) : { line: Infinity, column: 1 })) continue;
    const value = need && at(item, need.kind);
    if (need && value && sidesFit(need, problems) && textsFit(value, need.kind, sheet, compile, problems)) sheet.needs.push(need);
  }
  return sheet;
}

function readNeed(item: Data, problems: InputProblem[]): SheetNeed | undefined {
  if (item.kind !== "map") return undefined;
  const kinds = NEED_KINDS.filter((kind) => item.entries.has(kind));
  const [kind] = kinds;
  if (kinds.length !== 1 || !kind) {
    const written = [...item.entries.keys()].map((key) => suggestion(key, NEED_KINDS)).find((text) => text !== undefined);
    problems.push({
      message: kinds.length === 0 ? "this need does not say what is needed" : `this need says ${kinds.length} things: ${kinds.join(", ")}`,
      fix: kinds.length === 0 ? (written ?? "add one kind of need, such as minSdk or permission") : "write one entry for each of them",
      place: placeOf(item),
    });
    return undefined;
  }
  const on = textAt(item, "on");
  const value = at(item, kind);
  if (!value || (on !== "android" && on !== "ios" && on !== "both" && on !== "shared") || !isUsable(kind, value)) return undefined;
  const asked = plain(value);
  if (asked === undefined || Array.isArray(asked)) return undefined;
  return {
    kind,
    value: asked as NeedValue,
    on,
    from: textAt(item, "from"),
    before: textAt(item, "before"),
    frameworks: textsOf(at(item, "framework")),
    variant: textAt(item, "variant"),
    with: textAt(item, "with"),
    ...(textAt(item, "uses") === undefined ? {} : { uses: textAt(item, "uses") as string }),
    why: textAt(item, "why"),
    ...(textAt(item, "optional") === "true" ? { optional: true } : {}),
    at: item.source.place(item.entries.get(kind)?.start ?? item.start),
    valueAt: placeOf(value),
  };
}

/** The value of a need, free of its source. */
function plain(data: Data): NeedPart | undefined {
  if (data.kind === "scalar") return textAt(data);
  const items = data.kind === "list" ? data.items.map((item) => plain(item)) : [];
  if (data.kind === "list") return items.filter((item) => item !== undefined);
  return Object.fromEntries(
    [...data.entries].flatMap(([key, { value }]): [string, NeedPart][] => {
      const part = plain(value);
      return part === undefined ? [] : [[key, part]];
    }),
  );
}

/** A need whose value has the wrong form was reported by the validator and cannot be held against anything. */
function isUsable(kind: NeedKind, value: Data): boolean {
  if (value.kind === "scalar") return typeof value.value === "string" ? value.value !== "" : typeof value.value === "number";
  if (value.kind !== "map") return false;
  const { main, form } = NEEDS[kind];
  return main === undefined ? form.form === "table" : (textAt(value, main) ?? "") !== "";
}

/** The texts in a value that are patterns or names of files, as its form says. */
function special(value: Data | undefined, form: Form): { node: Data; text: string; holds: NonNullable<TextForm["holds"]> }[] {
  if (!value) return [];
  switch (form.form) {
    case "text":
      return form.holds !== undefined && value.kind === "scalar" && typeof value.value === "string"
        ? [{ node: value, text: value.value, holds: form.holds }]
        : [];
    case "table":
      return value.kind === "scalar" && form.short
        ? special(value, form.short)
        : Object.entries(form.keys).flatMap(([key, inner]) => special(at(value, key), inner));
    case "tables":
      return itemsOf(value).flatMap((item) => special(item, form.of));
    default:
      return [];
  }
}

/** Compiles the patterns of a need into its sheet, and looks at its names of files, which are names inside the project. */
function textsFit(value: Data, kind: NeedKind, sheet: Sheet, compile: PatternCompiler, problems: InputProblem[]): boolean {
  for (const { node, text, holds } of special(value, NEEDS[kind].form)) {
    if (holds === "path") {
      if (!/(^|[\\/])\.\.([\\/]|$)|^[\\/~]|^[A-Za-z]:/.test(text)) continue;
      problems.push({
        message: `"${text}" points outside the project`,
        fix: "give the name of a file inside the project",
        place: placeOf(node),
      });
      return false;
    }
    try {
      if (holds === "search") sheet.searches.set(text, compile(text, false));
      else sheet.patterns.set(text, compile(text, true));
    } catch (error) {
      problems.push({
        message: `"${text.slice(0, 60)}" is not a usable pattern: ${(error as Error).message}`,
        fix: "write a regular expression without lookaround and backreferences",
        place: placeOf(node),
      });
      return false;
    }
  }
  return true;
}

/** A need that its side cannot have is a mistake of the sheet. */
function sidesFit(need: SheetNeed, problems: InputProblem[]): boolean {
  const { side } = NEEDS[need.kind];
  if (side === undefined || need.on === side || need.on === "both") return true;
  problems.push({
    message: `${need.kind} exists on ${side === "ios" ? "iOS" : "Android"} only; on: ${need.on} cannot have it`,
    fix: `write on: ${side}, or a kind of need of ${need.on}`,
    place: need.at,
  });
  return false;
}
