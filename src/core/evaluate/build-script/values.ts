import { listOf, mapOf, scalarOf, type Data, type ListData, type MapData } from "../../syntax/data.js";
import type { Source } from "../../syntax/source.js";
import type { SyntaxNode } from "../../syntax/code/grammars.js";
import { reason, type Reason } from "../../model/reason.js";

/** Stands in texts for the folder into which the editor builds. */
export const BUILT = "\0";

/** A file of build scripts with its syntax tree. */
export interface ScriptFile {
  source: Source;
  root: SyntaxNode;
}

/** A property list that a script has in its hands: its edits count when it writes it. */
export interface ListDocument {
  file: string | undefined;
  root: MapData;
  /** What it was when it was read. */
  read: MapData | undefined;
  written: boolean;
  from: Written;
}

/** What a script does to an Xcode project before it writes it. */
export interface ProjectInHand {
  links: { name: string; linked: boolean; embedded: boolean; from: Written }[];
  settings: { name: string; value: Known; from: Written }[];
  entitlements: { name: string; values: string[]; from: Written }[];
  backgroundModes: { name: string; from: Written }[];
  written: boolean;
  /** Where it was opened. */
  from: Written;
}

/** Where something is written. */
export interface Written {
  source: Source;
  start: number;
}

/** A value while a build script is evaluated. */
export type Known =
  | ({ is: "text"; text: string } & Written)
  | { is: "number"; number: number }
  | { is: "truth"; truth: boolean }
  | { is: "none" }
  | { is: "list"; items: Known[] }
  | { is: "map"; entries: [Known, Known][] }
  | { is: "pair"; key: Known; value: Known }
  | { is: "data"; data: Data }
  | { is: "slot"; map: MapData; key: string }
  | { is: "document"; document: ListDocument }
  | { is: "project"; project: ProjectInHand }
  | { is: "content"; of: Known }
  | { is: "names"; names: string[] }
  | { is: "closure"; node: SyntaxNode; scope: Scope }
  | { is: "object"; type: string; fields: Map<string, Known> }
  | { is: "unknown"; touched: boolean };

/** Names in a function of a script, and where its text stands. */
export interface Scope {
  file: ScriptFile;
  type: string;
  names: Map<string, Known>;
  outer: Scope | undefined;
}

export const UNKNOWN: Known = { is: "unknown", touched: false };
export const TOUCHED: Known = { is: "unknown", touched: true };
export const NONE: Known = { is: "none" };

export function truth(value: boolean | undefined): Known {
  return value === undefined ? UNKNOWN : { is: "truth", truth: value };
}

export function textValue(text: string, { source, start }: Written): Known {
  return { is: "text", text, source, start };
}

/** What a value says as a text. */
export function asText(value: Known | undefined): string | undefined {
  if (value?.is === "text") return value.text;
  if (value?.is === "number") return String(value.number);
  if (value?.is === "data" && value.data.kind === "scalar" && value.data.value !== null && !value.data.open)
    return String(value.data.value);
  return undefined;
}

/** Whether a value is, or leads to, what a script edits: whoever gets it may edit it too. */
export function isTouched(value: Known): boolean {
  switch (value.is) {
    case "text":
      return value.text === BUILT || (value.text.includes(BUILT) && /(Info\.plist|\.pbxproj|\.xcodeproj|\.entitlements)$/.test(value.text));
    case "data":
    case "slot":
    case "document":
    case "project":
    case "content":
      return true;
    case "list":
      return value.items.some(isTouched);
    case "map":
      return value.entries.some(([, inner]) => isTouched(inner));
    case "object":
      return [...value.fields.values()].some(isTouched);
    case "unknown":
      return value.touched;
    default:
      return false;
  }
}

/** Whether two values are the same; `undefined` where that cannot be told. */
export function same(a: Known, b: Known): boolean | undefined {
  if (a.is === "unknown" || b.is === "unknown" || a.is === "slot" || b.is === "slot") return undefined;
  if (a.is === "none" || b.is === "none") return a.is === b.is;
  if (a.is === "names" && b.is === "names") return a.names.join() === b.names.join();
  if (a.is === "truth" && b.is === "truth") return a.truth === b.truth;
  const [left, right] = [asText(a), asText(b)];
  return left === undefined || right === undefined ? undefined : left === right;
}

/** A copy that can be edited without the other. */
export function copyOf<T extends Data>(data: T): T {
  const copied: Data =
    data.kind === "map"
      ? { ...data, entries: new Map([...data.entries].map(([key, entry]) => [key, { ...entry, value: copyOf(entry.value) }])) }
      : data.kind === "list"
        ? { ...data, items: data.items.map((item) => copyOf(item)) }
        : { ...data };
  return copied as T;
}

/** A value as an element of a property list. */
export function elementOf(value: Known, from: Written): Data {
  switch (value.is) {
    case "data":
      return value.data;
    case "text":
      return value.text.includes(BUILT) ? openScalar(from, reason("made-when-built")) : scalarOf(value.source, value.start, value.text);
    case "number":
      return scalarOf(from.source, from.start, value.number);
    case "truth":
      return scalarOf(from.source, from.start, value.truth);
    default:
      return openScalar(from, reason("build-script-makes-it"));
  }
}

function openScalar({ source, start }: Written, why: Reason): Data {
  return { ...scalarOf(source, start, null), open: { kind: "unknown", why, place: source.place(start) } };
}

export function newMap({ source, start }: Written): MapData {
  return mapOf(source, start);
}

export function newList({ source, start }: Written): ListData {
  return listOf(source, start);
}
