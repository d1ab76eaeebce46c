import { absentEntry, evaluateValue } from "../../../../evaluate/interpret.js";
import type { CallPart, Frame } from "../../../../evaluate/frame.js";
import { isValue, NOTHING, textIn, toValue, type Result } from "../../../../evaluate/values.js";
import type { GradleDependency } from "../../../../model/gradle.js";
import { isAbsolutePath, join } from "../../../../model/paths.js";
import type { Place } from "../../../../model/place.js";
import { reason } from "../../../../model/reason.js";
import { PLATFORM_PLUGIN } from "../../../../knowledge/platform-packages.js";
import { nearest } from "../../../../model/suggest.js";
import { known, type Value } from "../../../../model/value.js";
import { callName, namedArg, plainText, type CallExpr, type ClosureExpr, type Expr } from "../../../../syntax/script/ast.js";
import type { CatalogLibrary } from "./catalog.js";
import type { Block, GradleHost, Handler } from "./host.js";
import { tell, type Delegate } from "./reading.js";

/** Names of configurations, as the Android plugin and the usual processors give them; other calls among dependencies are none of a package. */
const CONFIGURATION = /(implementation|api|compileOnly|runtimeOnly|compile|classpath|annotationProcessor|kapt|ksp|coreLibraryDesugaring)$/i;

/** What declares nothing. */
const SILENT: Handler = () => NOTHING;

/** What is known of a declaration beside what it names. */
interface Declaring {
  host: GradleHost;
  frame: Frame;
  configuration: string;
  kind: GradleDependency["kind"];
  closure: ClosureExpr | undefined;
}

const declare: Handler = (call, host) => {
  const { name, frame, path } = call;
  if (path && path.length > 1) return undefined;
  const args = call.positional().filter(({ result }) => result.kind !== "function");
  const block = call.block();
  if (args.length === 0 && call.named().size === 0) {
    if (call.expr.bare) return undefined;
    // Blocks that group: source sets, flavours.
    if (block && !/^[a-z]\w*(Implementation|Api|Only)$/.test(name)) return host.inside(call, {});
    return block || CONFIGURATION.test(name) ? NOTHING : undefined;
  }
  if (VALUE_CALL.test(name)) return undefined;
  const configuration = configurationOf((name === "add" ? textIn(args[0]?.result) : undefined) ?? name, host);
  const declaring: Declaring = {
    host,
    frame,
    configuration,
    kind: configuration === "classpath" ? "classpath" : "module",
    closure: call.expr.closure ?? closureIn(call),
  };
  if (call.named().size > 0) {
    const entries = new Map([...call.named()].map(([key, { result }]) => [key, result]));
    const first = [...call.named().values()][0];
    byParts(declaring, entries, first ? first.expr : call.expr);
  }
  for (const { result, expr } of name === "add" ? args.slice(1) : args) declareOne(declaring, result, expr);
  return NOTHING;
};

/** The configuration that a name means: among those of a source set of Kotlin Multiplatform its own. */
function configurationOf(name: string, { standing: { sourceSet } }: GradleHost): string {
  return sourceSet === undefined ? name : `${sourceSet}${name.charAt(0).toUpperCase()}${name.slice(1)}`;
}

/** Calls that give what a dependency is declared with. */
const VALUE_CALL =
  /^(project|platform|enforcedPlatform|files|fileTree|kotlin|testFixtures|variantOf|npm|devNpm|gradleApi|localGroovy|create|file|uri|property|findProperty|hasProperty|println|print|exclude|getenv)$/;

function closureIn(call: CallPart): ClosureExpr | undefined {
  const last = call.expr.args.at(-1)?.value;
  return last?.kind === "closure" ? last : undefined;
}

export const DEPENDENCIES: Block = {
  calls: {
    constraints: (call, host) => host.inside(call, { block: "constraints" }),
    components: SILENT,
    modules: SILENT,
    artifactTypes: SILENT,
    attributesSchema: SILENT,
    registerTransform: SILENT,
    exclude: SILENT,
  },
  other: declare,
  holds: "a dependency",
};

export const CONSTRAINTS: Block = {
  calls: {},
  other: (call, host) => {
    const { frame, name } = call;
    const declaring: Declaring = { host, frame, configuration: name, kind: "constraint", closure: call.expr.closure ?? closureIn(call) };
    for (const { result, expr } of call.positional()) if (result.kind !== "function") declareOne(declaring, result, expr);
    return call.expr.bare ? undefined : NOTHING;
  },
  holds: "a constraint",
};

/** `force "a:b:1"` of a resolution strategy. */
export function forced(call: CallPart, host: GradleHost): Result {
  const declaring: Declaring = { host, frame: call.frame, configuration: "force", kind: "force", closure: undefined };
  for (const { result, expr } of call.positional()) declareOne(declaring, result, expr);
  return NOTHING;
}

/** One thing that is declared: by a text, or by what another call or a catalog gives. */
function declareOne(declaring: Declaring, result: Result, expr: Expr): void {
  const { frame } = declaring;
  const at = frame.source.place(expr.start);
  switch (result.kind) {
    case "list":
      result.items.forEach((item, index) => {
        const own = expr.kind === "list" ? (expr.items[index] ?? expr) : expr;
        const perhaps = index >= (result.perhapsFrom ?? Infinity);
        declareOne(perhaps ? { ...declaring, frame: { ...frame, conditional: true } } : declaring, item, own);
      });
      return;
    case "map":
      byParts(declaring, result.entries, expr);
      return;
    case "object":
      declareObject(declaring, result, expr, at);
      return;
    case "nothing": {
      const absent = absentEntry(expr, frame);
      if (absent) byNotation(declaring, absent as Value, expr);
      return;
    }
    case "function":
    case "pattern":
      return;
    default:
      byNotation(declaring, result, expr);
  }
}

function declareObject(declaring: Declaring, { name, of }: Result & { kind: "object" }, expr: Expr, at: Place): void {
  const { host, frame, configuration, kind, closure } = declaring;
  const { module } = host.reading;
  switch (name) {
    case "platform":
      declareOne({ ...declaring, kind: "bom" }, of as Result, argumentOf(expr) ?? expr);
      return;
    case "delegate":
    case "module":
      module.modules.push({
        path: name === "module" ? (of as string) : (of as Delegate).reading.module.path,
        configuration,
        conditional: frame.conditional,
        at: frame.source.place((argumentOf(expr) ?? expr).start),
        ...(/^projects\./.test(frame.source.text.slice(expr.start, expr.end)) ? { byAccessor: true } : {}),
      });
      return;
    case "files":
      for (const file of of as Result[]) if (isValue(file)) addFile(host, file, configuration, frame.conditional);
      return;
    case "libraries":
      for (const library of of as CatalogLibrary[])
        module.dependencies.push({
          configuration,
          group: library.group,
          artifact: library.artifact,
          version: richVersionIn(closure, frame) ?? library.version,
          places: library.at.file === at.file && library.at.line === at.line ? [at] : [at, library.at],
          kind,
          conditional: frame.conditional,
          ...takenWith(closure, ""),
        });
      return;
    default:
      return;
  }
}

/** The first argument of a call that was written here: where the name of a module or a platform stands. */
function argumentOf(expr: Expr): Expr | undefined {
  if (expr.kind !== "call") return undefined;
  return (expr.args.find(({ name }) => name === "path") ?? expr.args.find(({ name }) => name === undefined))?.value;
}

/** `group: "a", name: "b", version: "c"` */
function byParts(declaring: Declaring, parts: ReadonlyMap<string, Result>, expr: Expr): void {
  const { host, frame, configuration, kind, closure } = declaring;
  const at = frame.source.place(expr.start);
  const part = (name: string): Value | undefined => {
    const found = parts.get(name);
    return found && found.kind !== "nothing" ? toValue(found, at) : undefined;
  };
  const [group, artifact, ending, version] = [part("group"), part("name"), part("ext"), part("version")];
  if (!group && artifact?.kind === "known" && ending?.kind === "known") {
    addArchive(declaring, version?.kind === "known" ? `${artifact.text}-${version.text}` : artifact.text, ending.text, artifact.place);
    return;
  }
  if (group?.kind !== "known" || artifact?.kind !== "known") {
    const open = [group, artifact].find((value) => value?.kind !== "known");
    if (parts.has("path")) {
      const path = textIn(parts.get("path"));
      if (path !== undefined) host.reading.module.modules.push({ path, configuration, conditional: frame.conditional, at });
    } else if (kind === "module" && CONFIGURATION.test(configuration))
      tell(host.reading, `a dependency (${configuration})`, open?.kind === "unknown" ? open.why : reason("name-missing"), at);
    return;
  }
  host.reading.module.dependencies.push({
    configuration,
    group: group.text,
    artifact: artifact.text,
    version: version ?? richVersionIn(closure, frame),
    places: [group.place.file === at.file ? group.place : at],
    kind,
    conditional: frame.conditional,
    ...takenWith(closure, ""),
  });
}

/** A dependency by its notation `group:artifact:version`. */
// eslint-disable-next-line complexity -- the forms of a notation; each option of a value has one
function byNotation(declaring: Declaring, value: Value, expr: Expr): void {
  const { host, frame, configuration, kind, closure } = declaring;
  const at = frame.source.place(expr.start);
  const options = value.kind === "either" ? value.options : [value];
  const conditional = frame.conditional || options.length > 1;
  for (const option of options) {
    const notation = option.kind === "known" ? option.text : leadingText(expr);
    if (notation === undefined) {
      // A part of a name whose version alone is not known was told with its reason.
      if (option.kind === "unknown" && option.absent && !frame.conditional) noteAbsent(host, option, at);
      if (option.kind === "unknown" && kind === "module" && CONFIGURATION.test(configuration)) {
        if (/^[a-z]\w*(?:\.|$)/.test(option.lacks ?? ""))
          noteLost({ ...option, lacks: option.lacks?.replace(/\..*/s, "") ?? "" }, conditional, at, host);
        tell(host.reading, `a dependency (${configuration})`, option.why, at);
      }
      continue;
    }
    const archive = /^:?([^:]*):([^:@]+)@(aar|jar)$/.exec(notation);
    if (notation.startsWith(":") && archive) {
      const [, name = "", version = "", ending = "aar"] = archive;
      addArchive(declaring, name === "" ? version : `${name}-${version}`, ending, option.kind === "known" ? option.place : at);
      continue;
    }
    const [group, artifact, written] = notation.split("@")[0]?.split(":") ?? [];
    if (!group || !artifact || /\s/.test(group)) continue;
    if (option.kind === "unknown" && option.absent && !frame.conditional) noteAbsent(host, option, at);
    noteLost(option, conditional, at, host);
    let version: Value | undefined;
    if (option.kind === "known") version = written ? versionValue(written, expr, option.place, frame) : undefined;
    else version = option.kind === "unknown" ? option : undefined;
    version ??= richVersionIn(closure, frame);
    host.reading.module.dependencies.push({
      configuration,
      group,
      artifact,
      version,
      places: [option.kind === "known" && option.place.file === at.file ? option.place : at],
      kind,
      conditional,
      ...takenWith(closure, notation),
    });
  }
}

/** A name in the notation that nothing in the files gives a value. */
function noteLost(option: Value, conditional: boolean, at: Place, host: GradleHost): void {
  const lost = option.kind === "unknown" && !option.absent && !conditional ? option.lacks : undefined;
  if (lost === undefined || !/^[A-Za-z_]\w*$/.test(lost) || !at.file.endsWith(".gradle")) return;
  const near = nearest(lost, [...host.reading.variables.extra.keys()]);
  host.reading.module.lostNames.push({
    name: lost,
    at: option.place.file === at.file ? option.place : at,
    ...(near === undefined ? {} : { near }),
  });
}

/** What a script takes from a map of its own that has no such entry: Gradle refuses the declaration. */
export function noteAbsent(
  { reading: { module, build } }: GradleHost,
  { lacks = "", absent, place }: Pick<Value & { kind: "unknown" }, "lacks" | "absent" | "place">,
  at: Place,
): void {
  // A plugin may set a property of the module that applies it.
  if (/^(project\.)?ext\./.test(lacks) && module.plugins.some(({ id, applied }) => applied && !PLATFORM_PLUGIN.test(id))) return;
  // The root script lies elsewhere: there is none, or a module alone stands in its place.
  if (lacks.startsWith("rootProject.") && (build.projects.get(":")?.module.buildFile === undefined || module.path === ":")) return;
  if (module.paths.some((path) => path.kind === "property" && path.text === lacks)) return;
  const written = place.file === at.file ? at : place;
  module.paths.push({
    text: lacks,
    resolved: undefined,
    kind: "property",
    exists: false,
    side: "android",
    generated: false,
    at: written,
    ...(absent?.near === undefined ? {} : { near: absent.near }),
  });
}

/** The version inside a notation; when it came from a variable, the variable's own place. */
function versionValue(text: string, expr: Expr, at: Place, frame: Frame): Value {
  const last = expr.kind === "text" && expr.parts.length > 1 ? expr.parts.at(-1) : undefined;
  if (last !== undefined && typeof last !== "string") {
    const value = evaluateValue(last, frame);
    if (value.kind === "known" && value.text === text)
      return { ...known(text, value.place), ...(value.fallback ? { fallback: true } : {}) };
  }
  return known(text, at);
}

/** An archive in a `flatDir` repository, which has files by their names: in `libs` unless the build names another folder. */
function addArchive({ host: { reading }, configuration }: Declaring, name: string, ending: string, at: Place): void {
  const file = `${name}.${ending}`;
  const { module, project } = reading;
  const resolved = [`libs/${file}`, `aars/${file}`, `../libs/${file}`]
    .map((path) => join(module.folder, path))
    .find((path) => project.tree.isFile(path));
  module.paths.push({
    text: file,
    resolved,
    kind: "binary",
    // Which folder the repository means is not known here: only what is found is told.
    exists: resolved === undefined ? undefined : true,
    side: "android",
    generated: false,
    at,
    configuration,
  });
}

function addFile({ reading }: GradleHost, value: Value, configuration: string, conditional: boolean): void {
  const { module, project } = reading;
  if (value.kind !== "known" || !/\.(aar|jar)$/.test(value.text)) return;
  const absolute = isAbsolutePath(value.text);
  const resolved = absolute ? undefined : join(module.folder, value.text);
  module.paths.push({
    text: value.text,
    resolved,
    kind: "binary",
    // What only some builds take in may be on their machines alone.
    exists: resolved === undefined || (conditional && !project.tree.isFile(resolved)) ? undefined : project.tree.isFile(resolved),
    side: "android",
    generated: /(^|\/)(build|node_modules)\//.test(value.text),
    at: value.place,
    configuration,
  });
}

/**
 * What a declaration leaves out of what comes with it: `exclude`, `transitive = false`, a notation with the ending of a file.
 * Source: docs.gradle.org, "Customizing resolution of a dependency directly".
 */
function takenWith(closure: ClosureExpr | undefined, notation: string): Pick<GradleDependency, "exclusions" | "alone"> {
  const exclusions: { group: string; artifact: string }[] = [];
  let alone = notation.includes("@");
  for (const statement of closure?.body ?? []) {
    if (statement.kind === "expression" && statement.value.kind === "call" && callName(statement.value) === "exclude")
      exclusions.push(exclusionIn(statement.value));
    if (statement.kind === "assign" && statement.target.kind === "name" && /^(isT|t)ransitive$/.test(statement.target.name))
      alone ||= statement.value.kind === "literal" && statement.value.text === "false";
  }
  return { ...(exclusions.length > 0 ? { exclusions } : {}), ...(alone ? { alone } : {}) };
}

/** `exclude group: 'a', module: 'b'` */
export function exclusionIn(call: CallExpr): { group: string; artifact: string } {
  const of = (name: string): string => plainText(namedArg(call, name)) ?? "*";
  return { group: of("group"), artifact: of("module") };
}

/** `version { strictly("1.0") }` in the closure of a dependency. */
function richVersionIn(closure: ClosureExpr | undefined, frame: Frame): Value | undefined {
  for (const statement of closure?.body ?? []) {
    if (statement.kind !== "expression" || statement.value.kind !== "call" || callName(statement.value) !== "version") continue;
    for (const inner of statement.value.closure?.body ?? []) {
      if (inner.kind !== "expression" || inner.value.kind !== "call") continue;
      const kind = callName(inner.value);
      const first = inner.value.args[0]?.value;
      if (!first || !/^(strictly|require|prefer)$/.test(kind ?? "")) continue;
      const value = evaluateValue(first, frame);
      return value.kind === "known" && kind === "strictly" && !/[[\](),]/.test(value.text) ? { ...value, text: `${value.text}!!` } : value;
    }
  }
  return undefined;
}

/** The plain text that a notation with an unknown version starts with. */
function leadingText(expr: Expr): string | undefined {
  if (expr.kind === "binary" && expr.operator === "+") return leadingText(expr.left);
  if (expr.kind !== "text") return undefined;
  const [first] = expr.parts;
  return typeof first === "string" && first.split(":").length >= 3 ? first : undefined;
}
