import type { CodeArgument } from "../../model/code.js";
import { known } from "../../model/value.js";
import type { ArgumentValue } from "./argument-values.js";
import { functionOf, type FunctionRef } from "./function-ref.js";
import type { Scenes } from "./scenes.js";

/**
 * The value of an argument that is a field of a script, as the scenes and assets hold it that are built: what stands there takes the place of what
 * the field has in code. Nothing where they differ, or hold none. Source: docs.unity3d.com, "Script serialization".
 */
export function serializedValue(scenes: Scenes, { text }: CodeArgument, ref: FunctionRef): Partial<ArgumentValue> {
  if (ref.code.language !== "csharp") return {};
  const [, first, second] = /^(?:this\.)?([A-Za-z_]\w*)(?:\.([A-Za-z_]\w*))?$/.exec(text) ?? [];
  if (first === undefined) return {};
  if (second === undefined && !isField(ref, first)) return {};
  const script = second === undefined ? scenes.idOfScript(ref.source.file) : idOfHeld(scenes, ref, first);
  if (script === undefined) return {};
  const values = scenes.valuesOf(script, second ?? first);
  const [value] = values;
  return value && values.every((other) => other.text === value.text) ? { value: known(value.text, value.at), byVariant: [] } : {};
}

/** The script of what a field of the class holds. */
function idOfHeld(scenes: Scenes, ref: FunctionRef, holder: string): string | undefined {
  const type = new RegExp(`\\b([A-Z]\\w*)\\s+${holder}\\s*[;=]`).exec(ref.code.plain)?.[1];
  return type === undefined ? undefined : scenes.idOfClass(type);
}

/** Whether a name is a field of the class, and neither a parameter nor a variable of the function. */
function isField(ref: FunctionRef, name: string): boolean {
  const declared = new RegExp(`\\b(?:string|String)\\s+${name}\\s*[;=,)]`, "g");
  const fn = functionOf(ref);
  const places = [...ref.code.plain.matchAll(declared)].map(({ index }) => index);
  return places.length > 0 && !places.some((at) => fn !== undefined && at >= fn.from && at < fn.to);
}
