import type { Place } from "./place.js";
import { reason, type Reason } from "./reason.js";

/** A value that was worked out; `place` is where its text is written. */
export interface KnownValue {
  kind: "known";
  text: string;
  place: Place;
  /** True when the value is the fallback of a look-up that found nothing (`findProperty("x") ?: 21`). */
  fallback?: boolean;
  /** What it is where it was worked out; a text without it. */
  type?: "number" | "boolean";
}

/** A value that cannot be worked out from the files, and why. */
export interface UnknownValue {
  kind: "unknown";
  why: Reason;
  place: Place;
  /** The name or call, as written, to which no file gives a value. */
  lacks?: string;
  /** The map that it is asked of is known as a whole, and has no such entry; the entry that may be meant. */
  absent?: { near?: string };
}

/** A value that depends on something only the build knows: each option is possible. */
export interface EitherValue {
  kind: "either";
  options: Value[];
  place: Place;
}

export type Value = KnownValue | UnknownValue | EitherValue;

export function truthValue(value: boolean, place: Place): KnownValue {
  return { kind: "known", text: String(value), type: "boolean", place };
}

export function known(text: string, place: Place): KnownValue {
  return { kind: "known", text, place };
}

export function unknown(why: Reason, place: Place): UnknownValue {
  return { kind: "unknown", why, place };
}

/** A name (`has no value`) or another expression that no file gives a value. */
export function lacking(what: string, place: Place, name = true): UnknownValue {
  return { kind: "unknown", why: name ? reason("without-value", { name: what }) : reason("not-worked-out", { what }), place, lacks: what };
}

/** Joins alternatives; equal ones collapse, so that a condition without effect leaves a plain value. */
export function either(options: readonly Value[], place: Place): Value {
  const flat = options.flatMap((option) => (option.kind === "either" ? option.options : [option]));
  const seen = new Map<string, Value>();
  for (const option of flat) {
    const key = option.kind === "known" ? `=${option.text}` : option.kind === "unknown" ? "?" : "";
    if (!seen.has(key)) seen.set(key, option);
  }
  const distinct = [...seen.values()];
  const only = distinct[0];
  if (!only) return unknown(reason("no-alternative"), place);
  return distinct.length === 1 ? only : { kind: "either", options: distinct, place };
}

/** The text of a value that is certain, otherwise `undefined`. */
export function textOf(value: Value | undefined): string | undefined {
  return value?.kind === "known" ? value.text : undefined;
}

/** All texts that a value may have; empty when any of them is unknown. */
export function possibleTexts(value: Value | undefined): string[] {
  if (!value) return [];
  if (value.kind === "known") return [value.text];
  if (value.kind === "unknown") return [];
  const texts = value.options.map(possibleTexts);
  return texts.some((list) => list.length === 0) ? [] : texts.flat();
}

/** What a script would have given, and why it did not. */
export interface Unread {
  what: string;
  why: Reason;
  at: Place;
  /** It was understood: what it names is not in the files. */
  lost?: true;
}
