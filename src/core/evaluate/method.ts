import type { Place } from "../model/place.js";
import type { Frame } from "./frame.js";
import type { FunctionResult, Result } from "./values.js";

/** A call of a method that the languages bring along. */
export interface MethodCall {
  name: string;
  args: readonly Result[];
  block: FunctionResult | undefined;
  place: Place;
  frame: Frame;
  /** Runs a closure and gives its value. */
  run(fn: FunctionResult, args: readonly Result[]): Result;
  /** Runs a closure for its effects once for each item; the end of the loop is the loop's. */
  rounds(fn: FunctionResult, items: readonly (readonly Result[])[], perhapsFrom?: number): void;
  /** What a parameter of the closure that ran last held in the end. */
  last(parameter: string): Result | undefined;
  /** Runs a closure in which calls without a receiver are made on something: what that is in the end, and the closure's value. */
  runOn(fn: FunctionResult, self: Result): { value: Result; self: Result };
  /** Gives what it was called on another value, where that is a variable. */
  store(value: Result): void;
}

/** One function under all names that the languages have for it. */
export function table<T>(entries: Record<string, T>): ReadonlyMap<string, T> {
  const found = new Map<string, T>();
  for (const [names, fn] of Object.entries(entries)) for (const name of names.split(" ")) found.set(name, fn);
  return found;
}
