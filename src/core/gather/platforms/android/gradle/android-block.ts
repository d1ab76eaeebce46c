import { absentEntry, evaluate } from "../../../../evaluate/interpret.js";
import type { Assignment, CallPart, Frame, Given } from "../../../../evaluate/frame.js";
import { NOTHING, textIn, toValue, type Result } from "../../../../evaluate/values.js";
import { ANDROID_BLOCKS, RULES_FILES } from "../../../../knowledge/gradle-names.js";
import { misspelling } from "../../../../model/suggest.js";
import type { Place } from "../../../../model/place.js";
import { reason } from "../../../../model/reason.js";
import { known, unknown, type Value } from "../../../../model/value.js";
import { callName, plainText, type Expr } from "../../../../syntax/script/ast.js";
import { noteAbsent } from "./dependencies-block.js";
import type { Block, GradleHost, Handler } from "./host.js";
import { delegateOf, type Reading } from "./reading.js";

const LEVELS = new Set(["compileSdk", "minSdk", "targetSdk"]);

/** Unlike an entry of a map, one of these that is not set is no nothing but an error. Source: docs.gradle.org, "ExtraPropertiesExtension". */
const EXTRA_PROPERTY = /^(?:rootProject\.|project\.)?ext\./;

/** Calls that only wrap: what stands inside means the same as outside. */
const WRAPPING = /^(apply|run|also|let|with|all|each|forEach|configureEach|matching|withType|afterEvaluate)$/;

/** Calls that open one of the things that a block is a list of. */
const NAMING = /^(create|register|getByName|named|maybeCreate|configure|getAt)$/;

/** Blocks that are lists of what has a name. */
const CONTAINERS =
  /^(buildTypes|productFlavors|signingConfigs|sourceSets|flavorDimensions|applicationVariants|libraryVariants|dynamicFeatures)$/;

/** What the Android plugin makes where nothing declares it. Source: developer.android.com, "Configure build variants". */
const BUILD_TYPES = ["debug", "release"];

/** One of the things that a block is a list of, also where it is asked for in the middle of a statement. */
const element: Handler = (call, host) => (CONTAINERS.test(host.standing.path.at(-1) ?? "") ? androidCall(call, host) : undefined);

export const ANDROID: Block = {
  calls: {
    getByName: element,
    named: element,
    maybeCreate: element,
    create: element,
    register: element,
    creating: (call, host) => host.inside(call, {}),
    registering: (call, host) => host.inside(call, {}),
    getting: (call, host) => host.inside(call, {}),
    repositories: (call, host) => host.inside(call, { block: "repositories" }),
    dependencies: (call, host) => host.inside(call, { block: "dependencies" }),
  },
  other: (call, host) => androidCall(call, host),
  holds: "a setting of android",
};

// eslint-disable-next-line complexity -- the forms of a block or a command, the most particular first
function androidCall(call: CallPart, host: GradleHost): Result | undefined {
  const { name, frame } = call;
  if (/^(println|print|logger|require|check|error)$/.test(name)) return NOTHING;
  const around = host.standing.path;
  const block = call.block();
  const given = call.positional().filter(({ result }) => result.kind !== "function");
  if (block && LEVELS.has(name)) return host.inside(call, { block: "level", path: [...around, name] });
  if (block && NAMING.test(name)) {
    const label = textIn(given[0]?.result);
    if (label !== undefined) {
      noteSigning(call, host, label);
      return host.inside(call, { path: [...around, label] });
    }
    return given[0]?.result.kind === "unknown" ? { kind: "unknown", why: given[0].result.why, place: call.place } : host.inside(call, {});
  }
  if (block && WRAPPING.test(name)) return name === "all" || /[eE]ach$/.test(name) ? eachNamed(call, host) : host.inside(call, {});
  if (NAMING.test(name) && given.length > 0 && CONTAINERS.test(around.at(-1) ?? "")) {
    const label = textIn(given[0]?.result);
    if (label !== undefined && !/^(?:getByName|named|getAt)$/.test(name)) noteSigning(call, host, label);
    return label === undefined ? undefined : delegateOf(host.reading, { ...host.standing, path: [...around, label] });
  }
  if (
    block &&
    given.every(({ result }) => textIn(result) !== undefined) &&
    !/^(manifestPlaceholders|buildConfigField|resValue)$/.test(name)
  ) {
    const meant = around.length === 0 && given.length === 0 ? misspelling(name, ANDROID_BLOCKS) : undefined;
    if (meant !== undefined) host.reading.module.strayNames.push({ what: "block", name, right: meant, at: call.place });
    noteSigning(call, host, name);
    return host.inside(call, { path: [...around, name] });
  }
  // A name alone is the block of that name: `defaultConfig.minSdk`, `buildTypes`.
  if (call.expr.bare && call.positional().length === 0) return undefined;
  if (call.expr.args.length === 0 && !block) return NOTHING;
  addSetting(host, around, name, given, call.named(), call.frame, frame.source.place(Math.max(0, call.expr.callee.end - name.length)));
  return NOTHING;
}

/** A setting of which nothing but that it is stated is known. */
export function mark({ place }: Pick<CallPart, "place">, host: GradleHost, name: string, block = ""): void {
  host.reading.module.settings.push({ block, name, values: [], named: new Map(), conditional: true, at: place });
}

/** A signing configuration is there, whatever is said of it. */
function noteSigning(call: Pick<CallPart, "place">, host: GradleHost, name: string): void {
  const around = host.standing.path;
  if (around.at(-1) === "signingConfigs") mark(call, host, "isMade", blockName([...around, name]));
}

/** `buildTypes.all { }`: the same for each that is there. */
function eachNamed(call: CallPart, host: GradleHost): Result | undefined {
  const { path } = host.standing;
  const container = path.at(-1) ?? "";
  if (/Variants$/.test(container) && /\bversionCode/.test(call.frame.source.text.slice(call.expr.start, call.expr.end)))
    mark(call, host, "versionCodeOfVariants");
  if (container !== "buildTypes" && container !== "productFlavors") return host.inside(call, {});
  const prefix = container === "buildTypes" ? "buildType:" : "flavor:";
  const declared = host.reading.module.settings.flatMap(({ block }) =>
    block.startsWith(prefix) ? [block.slice(prefix.length).split(".")[0] as string] : [],
  );
  for (const label of new Set([...(container === "buildTypes" ? BUILD_TYPES : []), ...declared]))
    host.inside(call, { path: [...path, label] });
  return NOTHING;
}

export function androidAssign(assignment: Assignment, path: readonly string[], host: GradleHost): boolean {
  const { statement, frame } = assignment;
  const around = host.standing.path;
  if (statement.operator === "by") return path.length === 1 && delegated(assignment, path[0] as string, around, host);
  if (path.length === 0) return false;
  const { target } = statement;
  const place = frame.source.place(
    Math.max(0, target.kind === "name" || target.kind === "member" ? target.end - target.name.length : target.start),
  );
  const given = (): Given[] => [{ result: assignment.value(), expr: statement.value }];
  if (host.standing.block === "level") {
    if (path.at(-1) !== "version") return true;
    addSetting(host, around.slice(0, -1), around.at(-1) as string, given(), new Map(), frame, frame.source.place(statement.value.start));
    return true;
  }
  const own = path[0] === "this" || path[0] === "it" ? path.slice(1) : path;
  const steps = [...around, ...own];
  const key = steps.indexOf("manifestPlaceholders");
  if (key !== -1 && key === steps.length - 2) {
    const named = new Map([
      [steps[key + 1] as string, { result: assignment.value(), expr: statement.value, start: statement.value.start }],
    ]);
    addSetting(host, steps.slice(0, key), "manifestPlaceholders", [], named, frame, frame.source.place(target.start));
    return true;
  }
  if (target.kind === "index") return false;
  // What is added to a list of the plugin's own is a value of it.
  const plain = statement.operator === "=" ? given() : [{ result: evaluate(statement.value, frame), expr: statement.value }];
  addSetting(host, steps.slice(0, -1), steps.at(-1) as string, plain, new Map(), frame, place);
  return true;
}

/** `val upload by creating { }`: one of the things that the block is a list of, by the name of the variable. */
function delegated({ statement: { value }, frame }: Assignment, name: string, around: readonly string[], host: GradleHost): boolean {
  const how = value.kind === "call" ? callName(value) : value.kind === "name" ? value.name : undefined;
  if (!CONTAINERS.test(around.at(-1) ?? "") || !/^(getting|creating|registering|existing)$/.test(how ?? "")) return false;
  const own = host.at({ path: [...around, name] });
  noteSigning({ place: frame.source.place(value.start) }, host, name);
  evaluate(value, { ...frame, host: own });
  frame.run.write(frame.variables.cells, name, delegateOf(own.reading, own.standing));
  return true;
}

/** A value that a script reads back from what it set. */
export function androidValue({ module }: Reading, path: readonly string[]): Result | undefined {
  const name = path.at(-1);
  if (name === undefined || path.length === 0) return undefined;
  const block = blockName(path.slice(0, -1));
  const setting = module.settings.findLast((candidate) => candidate.block === block && plainName(candidate.name) === plainName(name));
  return setting?.values[0];
}

/** `minSdkVersion` and `minSdk` are one setting. */
function plainName(name: string): string {
  return name.replace(/^(min|target|compile)SdkVersion$/, "$1Sdk");
}

function addSetting(
  host: GradleHost,
  blocks: readonly string[],
  name: string,
  given: readonly Given[],
  options: ReadonlyMap<string, Given>,
  frame: Frame,
  at: Place,
): void {
  const values: Value[] = [];
  const named = new Map<string, Value>();
  for (const { result, expr } of given) {
    const place = frame.source.place(expr.start);
    if (result.kind === "map") for (const [key, value] of result.entries) named.set(key, toValue(value, place));
    else if (result.kind === "list") for (const item of result.items) values.push(toValue(item, place));
    else {
      // A level that a map does not have, or an extra property that nothing sets: the build stops.
      const absent = result.kind === "nothing" && !frame.conditional ? absentEntry(expr, frame) : undefined;
      if (absent?.kind === "unknown" && (LEVELS.has(plainName(name)) || EXTRA_PROPERTY.test(absent.lacks ?? "")))
        noteAbsent(host, absent, place);
      values.push(name === "signingConfig" ? signingOf(expr, frame) : valueOf(result, expr, frame));
      if (/^proguardFiles?$/.test(name)) noteRulesFile(host, expr, place);
    }
  }
  for (const [key, { result, expr }] of options) named.set(key, valueOf(result, expr, frame));
  const plain = name.replace(/^(set|is)(?=[A-Z])|^add(?=ManifestPlaceholders$)/, "");
  host.reading.module.settings.push({
    block: blockName(blocks),
    name: plain === name ? name : `${plain[0]?.toLowerCase() ?? ""}${plain.slice(1)}`,
    values,
    named,
    conditional: frame.conditional,
    at,
  });
}

/** Rules that the Android plugin brings are asked for by the name of their file. */
function noteRulesFile(host: GradleHost, expr: Expr, at: Place): void {
  const name = expr.kind === "call" && callName(expr) === "getDefaultProguardFile" ? plainText(expr.args[0]?.value) : undefined;
  const right = name === undefined ? undefined : misspelling(name, RULES_FILES);
  if (name !== undefined && right !== undefined) host.reading.module.strayNames.push({ what: "file of rules", name, right, at });
}

/** The signing that is named, as far as it is by a name: `signingConfigs.debug`, `signingConfigs.getByName("debug")`. */
function signingOf(expr: Expr, frame: Frame): Value {
  const written = frame.source.text.slice(expr.start, expr.end);
  const name = /^signingConfigs\s*(?:\.\s*(?:getByName|named)\(\s*["'](\w+)["']\s*\)(?:\.get\(\))?|\.(\w+)|\[\s*["'](\w+)["']\s*\])$/.exec(
    written,
  );
  const place = frame.source.place(expr.start);
  const text = name?.[1] ?? name?.[2] ?? name?.[3];
  return text === undefined ? unknown(reason("signing-missing"), place) : known(text, place);
}

function valueOf(result: Result, expr: Expr, frame: Frame): Value {
  return toValue(result, frame.source.place(expr.start));
}

/** `["productFlavors", "free"]` → `flavor:free`; anything deeper keeps its names with dots. */
function blockName(blocks: readonly string[]): string {
  const [first, second, ...rest] = blocks;
  if (first === "productFlavors" && second !== undefined) return [`flavor:${second}`, ...rest].join(".");
  if (first === "buildTypes" && second !== undefined) return [`buildType:${second}`, ...rest].join(".");
  return blocks.join(".");
}
