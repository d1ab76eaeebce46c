import type { Place } from "../model/place.js";
import type { Value } from "../model/value.js";
import type { Problem, Source } from "./source.js";

/** One tree for every data format (JSON, YAML, TOML, property list, lock files), with the offsets of each part. */
export type Data = MapData | ListData | ScalarData;

export interface MapData {
  kind: "map";
  source: Source;
  start: number;
  entries: Map<string, Entry>;
}

export interface Entry {
  /** Offset of the key. */
  start: number;
  value: Data;
}

export interface ListData {
  kind: "list";
  source: Source;
  start: number;
  items: Data[];
}

export interface ScalarData {
  kind: "scalar";
  source: Source;
  start: number;
  value: string | number | boolean | null;
  /** Where a program makes the value: what it may be, or why that cannot be told. */
  open?: Value;
}

/** What reading a data file gives: as much of the tree as could be read, and what is wrong. */
export interface DataFile {
  source: Source;
  root: Data | undefined;
  problems: Problem[];
}

export function mapOf(source: Source, start: number): MapData {
  return { kind: "map", source, start, entries: new Map() };
}

export function listOf(source: Source, start: number, items: Data[] = []): ListData {
  return { kind: "list", source, start, items };
}

export function scalarOf(source: Source, start: number, value: ScalarData["value"]): ScalarData {
  return { kind: "scalar", source, start, value };
}

/** Follows keys (text) and indexes (numbers) down from `data`. */
export function at(data: Data | undefined, ...path: (string | number)[]): Data | undefined {
  let current = data;
  for (const step of path) {
    if (!current) return undefined;
    if (typeof step === "number") current = current.kind === "list" ? current.items[step] : undefined;
    else current = current.kind === "map" ? current.entries.get(step)?.value : undefined;
  }
  return current;
}

/** A scalar's text (numbers and booleans as written in JSON); `undefined` for anything else. */
export function textAt(data: Data | undefined, ...path: (string | number)[]): string | undefined {
  const found = at(data, ...path);
  return found?.kind === "scalar" && found.value !== null ? String(found.value) : undefined;
}

/** A scalar as a value with its place. */
export function valueAt(data: Data | undefined, ...path: (string | number)[]): Value | undefined {
  const found = at(data, ...path);
  if (found?.kind === "scalar" && found.open) return found.open;
  if (found?.kind !== "scalar" || found.value === null) return undefined;
  return { kind: "known", text: String(found.value), place: placeOf(found) };
}

export function entriesOf(data: Data | undefined): [string, Entry][] {
  return data?.kind === "map" ? [...data.entries] : [];
}

export function itemsOf(data: Data | undefined): Data[] {
  return data?.kind === "list" ? data.items : [];
}

/** Texts of the scalars in a list; a single scalar counts as a list of one. */
export function textsOf(data: Data | undefined): string[] {
  const items = data?.kind === "scalar" ? [data] : itemsOf(data);
  return items.flatMap((item) => textAt(item) ?? []);
}

export function placeOf(data: Data): Place {
  return data.source.place(data.start);
}

export function keyPlace(map: Data | undefined, key: string): Place | undefined {
  const entry = map?.kind === "map" ? map.entries.get(key) : undefined;
  return entry && map ? map.source.place(entry.start) : undefined;
}
