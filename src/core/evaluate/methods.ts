import { truthValue, unknown, type KnownValue } from "../model/value.js";
import { LIST_METHODS, type ListMethod } from "./list-methods.js";
import { MAP_METHODS, type MapMethod } from "./map-methods.js";
import { OPEN } from "./operators.js";
import { TEXT_METHODS, type TextMethod } from "./text-methods.js";
import { joined, numberOf, type PatternResult, type Result } from "./values.js";
import type { MethodCall } from "./method.js";

/** Methods and properties that change the form of a value and not what it says. */
const TRANSPARENT = new Set([
  "get",
  "asProvider",
  "orNull",
  "value",
  "to_sym",
  "freeze",
  "dup",
  "clone",
  "itself",
  "getOrNull",
  "forUseAtConfigurationTime",
  "string",
  "toVersion",
  "of",
  "jvmTarget",
  "requiredVersion",
  "asFile",
  "path",
  "absolutePath",
  "toPath",
  "toFile",
  "intern",
  "squish",
  "with_indifferent_access",
  "toMutableList",
  "toMutableMap",
  "toSet",
  "asList",
  "toTypedArray",
  "lazy",
]);

/** What a method gives; `undefined` where it is none of those that are worked out. */
export function callMethod(receiver: Result, call: MethodCall): Result | undefined {
  const { name, args, place } = call;
  if (receiver.kind === "either") {
    const results = receiver.options.map((option) => callMethod(option, call));
    return results.every((result) => result !== undefined) ? joined(results, place) : unknown(OPEN, place);
  }
  const common = commonMethod(receiver, call);
  if (common) return common;
  let found: Result | undefined;
  if (receiver.kind === "known") found = ofText(receiver, TEXT_METHODS.get(name), call);
  else if (receiver.kind === "list") found = ofList(receiver, LIST_METHODS.get(name), call);
  else if (receiver.kind === "map") found = ofMap(receiver, MAP_METHODS.get(name), call);
  else if (receiver.kind === "pattern") found = ofPattern(receiver, call);
  if (found) return found;
  return TRANSPARENT.has(name) && args.length === 0 && !call.block && receiver.kind !== "map" ? receiver : undefined;
}

function ofText(receiver: KnownValue, method: TextMethod | undefined, call: MethodCall): Result | undefined {
  return method?.(receiver, call);
}

function ofList(receiver: Result & { kind: "list" }, method: ListMethod | undefined, call: MethodCall): Result | undefined {
  return method?.(receiver, call);
}

function ofMap(receiver: Result & { kind: "map" }, method: MapMethod | undefined, call: MethodCall): Result | undefined {
  return method?.(receiver, call);
}

/** A pattern that is asked for a text gives what the text gives for the pattern. */
function ofPattern(receiver: PatternResult, call: MethodCall): Result | undefined {
  const name = { test: "test", exec: "match", match: "match", "match?": "match?" }[call.name];
  const [text] = call.args;
  // With this flag it goes on where the call before it ended.
  if (name === undefined || !text || receiver.flags.includes("g")) return undefined;
  return callMethod(text, { ...call, name, args: [receiver] });
}

/** What every value answers to. */
// eslint-disable-next-line complexity -- one case for each method that every value has
function commonMethod(receiver: Result, { name, args, block, place, run, runOn, frame }: MethodCall): Result | undefined {
  switch (name) {
    case "nil?":
      return receiver.kind === "unknown" ? unknown(OPEN, place) : truthValue(receiver.kind === "nothing", place);
    case "to_a":
      if (receiver.kind === "nothing") return { kind: "list", items: [] };
      return undefined;
    case "to_s":
      return receiver.kind === "nothing" ? { kind: "known", text: "", place } : undefined;
    case "to_i":
      return receiver.kind === "nothing" ? numberOf(0, place) : undefined;
    case "isNullOrEmpty":
    case "isNullOrBlank":
    case "blank?":
    case "empty?":
      return receiver.kind === "nothing" ? truthValue(true, place) : undefined;
    case "orEmpty":
      return receiver.kind === "nothing" ? { kind: "known", text: "", place } : receiver.kind === "unknown" ? receiver : undefined;
    // Kotlin's and Groovy's ways to do something with a value.
    case "let":
    case "use":
    case "then":
    case "yield_self":
      if (!block) return undefined;
      return receiver.kind === "nothing" ? receiver : run(block, [receiver]);
    case "run":
    case "with":
      if (!block || frame.dialect === "ruby") return undefined;
      return receiver.kind === "nothing" ? receiver : runOn(block, receiver).value;
    case "apply":
      return block && frame.dialect === "kotlin" ? runOn(block, receiver).self : undefined;
    case "also":
    case "tap":
      if (!block) return undefined;
      if (name === "tap" && frame.dialect === "groovy") return runOn(block, receiver).self;
      run(block, [receiver]);
      return receiver;
    default:
      return receiver.kind === "nothing" && args.length === 0 && /^(trim|strip|toInteger|toString)$/.test(name) ? receiver : undefined;
  }
}
