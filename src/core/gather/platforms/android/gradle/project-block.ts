import { evaluate, runClosure } from "../../../../evaluate/interpret.js";
import type { Assignment, CallPart, Frame } from "../../../../evaluate/frame.js";
import { mapOf, NOTHING, textIn, toValue, type Result } from "../../../../evaluate/values.js";
import { PLATFORM_PLUGIN } from "../../../../knowledge/platform-packages.js";
import { join } from "../../../../model/paths.js";
import { reason } from "../../../../model/reason.js";
import { known, unknown } from "../../../../model/value.js";
import { callName, pathOf, type Expr } from "../../../../syntax/script/ast.js";
import { androidAssign, mark } from "./android-block.js";
import { exclusionIn, forced } from "./dependencies-block.js";
import { GradleHost, type Block, type Handler } from "./host.js";
import { isApart } from "../configurations.js";
import { applyPlugin, applyScript } from "./plugins-block.js";
import { AT_PROJECT, buildFileIn, delegateOf, tell, type Reading } from "./reading.js";
import { property, rootOf } from "./variables.js";

/** What stands inside means the same as outside. */
const wrapping: Handler = (call, host) => host.inside(call, {});

/** What tools of the build do when they run: nothing of it is a fact. */
const ignored: Handler = () => NOTHING;

/** What `apply` is given by a name: written out, or in a map (`apply(mapOf("plugin" to "x"))` in Kotlin). */
function givenToApply(call: CallPart, name: "plugin" | "from"): { result: Result; expr: Expr } | undefined {
  const named = call.named().get(name);
  if (named) return named;
  const [first] = call.positional();
  const result = first?.result.kind === "map" ? first.result.entries.get(name) : undefined;
  return result && { result, expr: call.expr };
}

const apply: Handler = (call, host) => {
  const [plugin, from] = [givenToApply(call, "plugin"), givenToApply(call, "from")];
  if (from) applyScript(from.result, call, host);
  if (plugin) applyNamed(plugin.result, plugin.expr, call, host);
  if (plugin || from) return NOTHING;
  const [first] = call.positional();
  if (first && call.path && /^(plugins|pluginManager)$/.test(call.path.at(-2) ?? "")) {
    applyNamed(first.result, call.expr, call, host);
    return NOTHING;
  }
  return call.path?.length === 1 ? host.inside(call, { block: "apply" }) : undefined;
};

function applyNamed(result: Result, expr: Expr, call: CallPart, host: GradleHost): void {
  const id = textIn(result);
  if (id !== undefined) applyPlugin(id, undefined, true, expr.start, host, call.frame);
  else if (result.kind === "unknown" && expr.kind !== "name" && expr.kind !== "member")
    tell(host.reading, "a build plugin", result.why, call.place);
}

/** `apply { plugin("x"); from("y") }`; on an object it is Kotlin's own way to configure it. */
export const APPLY: Block = {
  calls: {
    // Among plugins that are configured: `with(pluginManager) { apply("x") }`.
    apply: (call, host) => {
      for (const { result, expr } of call.positional()) applyNamed(result, expr, call, host.at({ block: "project" }));
      return call.positional().length > 0 ? NOTHING : undefined;
    },
    plugin: (call, host) => {
      for (const { result, expr } of call.positional()) applyNamed(result, expr, call, host.at({ block: "project" }));
      return NOTHING;
    },
    from: (call, host) => {
      for (const { result } of call.positional()) applyScript(result, call, host.at({ block: "project" }));
      return NOTHING;
    },
  },
};

/** Runs a closure for other projects of the build, at once, as Gradle does. */
function forProjects(call: CallPart, readings: readonly Reading[]): Result | undefined {
  const block = call.block();
  if (!block) return undefined;
  for (const reading of readings)
    runClosure(block, [delegateOf(reading, AT_PROJECT)], { ...call.frame, host: new GradleHost(reading, AT_PROJECT) });
  return NOTHING;
}

function below({ reading }: GradleHost, withOwn: boolean): Reading[] {
  const { projects } = reading.build;
  const { path } = reading.module;
  const others = [...projects.values()].filter(
    ({ module }) => module !== reading.module && (path === ":" || module.path.startsWith(`${path}:`)),
  );
  return withOwn ? [reading, ...others] : others;
}

/**
 * `rootProject.allprojects { }` in a module: it reaches every project of the build. A package that is read for itself does not see them; what it
 * gives them is marked.
 */
const handedToAll: Handler = (call, host) => {
  if (!call.path?.includes("rootProject")) return undefined;
  const { projects } = host.reading.build;
  const root = projects.get(":");
  if (root)
    return forProjects(
      call,
      [...projects.values()].filter((one) => call.name === "allprojects" || one !== root),
    );
  const { repositories } = host.reading.module;
  const before = repositories.length;
  const result = forProjects(call, [host.reading]);
  for (const repository of repositories.slice(before)) repository.forAll = true;
  return result;
};

const later: Handler = (call, host) => {
  const block = call.block();
  const { frame } = call;
  if (block) host.reading.deferred.push(() => runClosure(block, [delegateOf(host.reading, host.standing)], { ...frame, host }));
  return NOTHING;
};

/** Plugins by their classes, as scripts name them. Source: the reference of the Android Gradle plugin; kotlinlang.org. */
const PLUGIN_CLASSES: readonly (readonly [name: RegExp, id: string])[] = [
  [/\bAppPlugin\b/, "com.android.application"],
  [/\bLibraryPlugin\b/, "com.android.library"],
  [/\bKotlinAndroidPluginWrapper\b/, "org.jetbrains.kotlin.android"],
];

const OTHER_IDS: Readonly<Record<string, string>> = {
  "kotlin-android": "org.jetbrains.kotlin.android",
  android: "com.android.application",
};

/**
 * What is done as soon as a plugin is applied: before what the script of the module says itself, and only where the plugin is; of plugins that
 * are not named, under a condition. Source: docs.gradle.org, `PluginManager.withPlugin`, `PluginContainer`.
 */
const withPlugins: Handler = (call, host) => {
  const block = call.block();
  if (!block) return undefined;
  const { frame } = call;
  const [first] = call.positional();
  // `withType(AppPlugin)`, in Kotlin `withType<AppPlugin>`.
  const written = frame.source.text.slice(call.expr.start, call.expr.end).split("{", 1)[0] as string;
  const named = textIn(first?.result) ?? PLUGIN_CLASSES.find(([name]) => name.test(written))?.[1];
  const { module } = host.reading;
  host.reading.deferred.push(() => {
    const plain = (id: string): string => OTHER_IDS[id] ?? id;
    const applied = module.plugins.filter((plugin) => plugin.applied);
    const has = named !== undefined && applied.some(({ id, conditional }) => !conditional && plain(id) === plain(named));
    // A plugin of the build's own may apply any.
    if (named !== undefined && !has && applied.every(({ id }) => PLATFORM_PLUGIN.test(id))) return;
    const own = module.settings.splice(0);
    runClosure(block, [delegateOf(host.reading, host.standing)], { ...frame, host, conditional: frame.conditional || !has });
    module.settings.push(...own);
  });
  return NOTHING;
};

const extension: Handler = (call, host) => {
  const asked = extensionAsked(call);
  if (asked === "versionCatalogs") return { kind: "object", name: "catalogs", of: undefined };
  if (asked === "android") {
    const standing = { ...AT_PROJECT, block: "android" as const };
    return host.inside(call, standing) ?? delegateOf(host.reading, standing);
  }
  if (call.name === "configure" && call.path?.length === 1) {
    const [projects] = call.positional();
    const found = projects?.result.kind === "list" ? projects.result.items : projects ? [projects.result] : [];
    const readings = found.flatMap((item) =>
      item.kind === "object" && item.name === "delegate" ? [(item.of as { reading: Reading }).reading] : [],
    );
    if (readings.length > 0) return forProjects(call, readings);
  }
  return asked === "kotlin"
    ? host.inside(call, { block: "kotlin" })
    : (host.inside(call, {}) ?? unknown(reason("plugin-extension"), call.place));
};

/** Which extension `configure<ApplicationExtension> { }`, `extensions.getByType(X)` and `extensions.configure("android")` mean. */
function extensionAsked(call: CallPart): string | undefined {
  const { expr, frame } = call;
  const head = frame.source.text.slice(expr.start, expr.closure?.start ?? expr.end);
  if (/\bVersionCatalog/.test(head)) return "versionCatalogs";
  if (/Extension\b/.test(head)) {
    if (/Kotlin\w*Extension/.test(head)) return "kotlin";
    const android = /(Application|Library|Base|App|Common|Test|DynamicFeature|TestedExtension)\w*Extension/.test(head);
    return android && !/Java\w*Extension|Compose/.test(head) ? "android" : undefined;
  }
  return /["']android["']/.test(head) ? "android" : undefined;
}

/** Calls at the level of a project or of the settings. Source: docs.gradle.org, the interfaces Project, Settings and Gradle. */
export const PROJECT: Block = {
  calls: {
    apply,
    include: (call, host) => {
      for (const { result, expr } of call.positional()) {
        const at = call.frame.source.place(expr.start);
        for (const text of result.kind === "list" ? result.items : [result]) {
          const path = textIn(text);
          if (path !== undefined) host.reading.build.include(path.startsWith(":") ? path : `:${path}`, at);
          else if (text.kind === "unknown") tell(host.reading, "a module", text.why, at);
        }
      }
      return NOTHING;
    },
    includeBuild: (call, host) => {
      const [first] = call.positional();
      const folder = textIn(first?.result);
      if (folder !== undefined) host.reading.build.included.push({ folder: join(host.reading.module.folder, folder), at: call.place });
      else if (first?.result.kind === "unknown") tell(host.reading, "a build that is taken in", first.result.why, call.place);
      return NOTHING;
    },
    buildscript: (call, host) => host.inside(call, { forBuild: true }),
    pluginManagement: (call, host) => host.inside(call, { forBuild: true }),
    plugins: (call, host) => host.inside(call, { block: "plugins" }),
    allprojects: (call, host) => handedToAll(call, host) ?? forProjects(call, below(host, true)),
    subprojects: (call, host) => handedToAll(call, host) ?? forProjects(call, below(host, false)),
    // `gradle.beforeProject { }` in the settings.
    beforeProject: (call, host) => forProjects(call, below(host, true)),
    afterProject: (call, host) => forProjects(call, below(host, true)),
    project: (call, host) => {
      const path = textIn(call.named().get("path")?.result ?? call.positional()[0]?.result);
      if (path === undefined) return call.expr.bare ? undefined : host.inside(call, {});
      const target = host.reading.build.projects.get(path.startsWith(":") ? path : `:${path}`);
      if (call.block()) return target ? forProjects(call, [target]) : NOTHING;
      return target && delegateOf(target, AT_PROJECT);
    },
    configure: extension,
    the: extension,
    getByType: extension,
    findByType: extension,
    getByName: (call, host) =>
      /["']android["']/.test(call.frame.source.text.slice(call.expr.start, call.expr.end)) ? extension(call, host) : host.inside(call, {}),
    findByName: (call, host) =>
      /["']android["']/.test(call.frame.source.text.slice(call.expr.start, call.expr.end)) ? extension(call, host) : undefined,
    androidComponents: (call, host) => {
      const { source } = call.frame;
      // Which variants it takes out is not worked out: only that it may.
      const text = source.text.slice(call.expr.start, call.expr.end);
      if (/\bbeforeVariants\b/.test(text)) mark(call, host, "beforeVariants");
      if (/\bversionCode\b/.test(text)) mark(call, host, "versionCodeOfVariants");
      return undefined;
    },
    java: (call, host) => {
      if (/\btoolchain\b/.test(call.frame.source.text.slice(call.expr.start, call.expr.end))) mark(call, host, "javaToolchain");
      return undefined;
    },
    ext: (call, host) => host.inside(call, { block: "extra" }),
    extra: (call, host) => host.inside(call, { block: "extra" }),
    versionCatalogs: (call, host) => host.inside(call, { block: "catalogs" }),
    repositories: (call, host) => host.inside(call, { block: "repositories" }),
    dependencies: (call, host) => host.inside(call, { block: "dependencies" }),
    android: (call, host) => host.inside(call, { block: "android", path: [] }),
    configurations: (call, host) => host.inside(call, { block: "configurations" }),
    resolutionStrategy: (call, host) => host.inside(call, { block: "resolutionStrategy" }),
    kotlin: (call, host) => (call.block() ? host.inside(call, { block: "kotlin" }) : undefined),
    sourceSets: (call, host) => host.inside(call, { block: "kotlin" }),
    cocoapods: (call, host) => host.inside(call, { block: "cocoapods" }),
    jvmToolchain: (call, host) => {
      const [first] = call.positional();
      if (first)
        host.reading.module.settings.push({
          block: "",
          name: "jvmToolchain",
          values: [toValue(first.result, call.place)],
          named: new Map(),
          conditional: call.frame.conditional,
          at: call.place,
        });
      return NOTHING;
    },
    set: (call, host) => {
      if (!call.path?.includes("repositoriesMode")) return undefined;
      mode(call.expr.args[0]?.value, host, call.frame);
      return NOTHING;
    },
    afterEvaluate: later,
    projectsEvaluated: later,
    beforeEvaluate: wrapping,
    whenReady: ignored,
    withPlugin: withPlugins,
    withId: withPlugins,
    evaluationDependsOn: ignored,
    dependencyResolutionManagement: wrapping,
    settings: wrapping,
    with: (call, host) => {
      const [first] = call.positional();
      const of =
        first?.result.kind === "object" && first.result.name === "delegate"
          ? (first.result.of as { reading: Reading; standing: GradleHost["standing"] })
          : undefined;
      const block = call.block();
      if (!block) return undefined;
      if (/^(?:plugins|pluginManager)$/.test(pathOf(first?.expr)?.at(-1) ?? "")) return host.inside(call, { block: "apply" });
      runClosure(block, [first?.result ?? NOTHING], { ...call.frame, host: of ? new GradleHost(of.reading, of.standing) : host });
      return NOTHING;
    },
    run: (call, host) => (call.path?.length === 1 || isDelegate(call) ? host.inside(call, {}) : undefined),
    also: (call, host) => (isDelegate(call) ? host.inside(call, {}) : undefined),
    let: (call, host) => (isDelegate(call) ? host.inside(call, {}) : undefined),
    whenPluginAdded: withPlugins,
    withType: (call, host) => (call.path?.includes("plugins") ? withPlugins(call, host) : NOTHING),
    task: ignored,
    tasks: ignored,
    register: (call) => (call.path?.[0] === "tasks" ? NOTHING : undefined),
    publishing: ignored,
    signing: ignored,
    dependencyLocking: ignored,
  },
};

function isDelegate(call: CallPart): boolean {
  const head = call.path?.[0];
  const result = head === undefined ? call.receiver() : call.frame.variables.get(head);
  return result?.kind === "object" && result.name === "delegate";
}

function mode(value: Expr | undefined, host: GradleHost, frame: Frame): void {
  const name = pathOf(value)?.at(-1);
  if (name === undefined || !value) return;
  const at = frame.source.place(value.start);
  host.reading.module.settings.push({
    block: "",
    name: "repositoriesMode",
    values: [known(name, at)],
    named: new Map(),
    conditional: false,
    at,
  });
}

export const CONFIGURATIONS: Block = {
  calls: {
    resolutionStrategy: (call, host) => host.inside(call, { block: "resolutionStrategy" }),
    force: (call, host) => forced(call, host),
    exclude: (call, host) => {
      host.reading.module.exclusions.push(exclusionIn(call.expr));
      return NOTHING;
    },
  },
  other: (call, host) => {
    const name = /^(create|register|maybeCreate)$/.test(call.name) ? textIn(call.positional()[0]?.result) : call.name;
    if (name === undefined || !/^(all|each|every|configureEach|named|getByName|matching|withType|with|run|apply)$/.test(name))
      host.reading.module.configurations.push(name ?? call.name);
    return isApart(call.path?.at(-1) ?? "") ? NOTHING : host.inside(call, {});
  },
};

export const RESOLUTION: Block = {
  calls: {
    force: (call, host) => forced(call, host),
    // Plugins may be given a version, or another module, where they are asked for.
    eachPlugin: (call, host) => {
      mark(call, host, "eachPlugin");
      return NOTHING;
    },
    eachDependency: ignored,
    dependencySubstitution: ignored,
    componentSelection: ignored,
    capabilitiesResolution: ignored,
  },
};

const IN_KOTLIN: Record<string, Handler | undefined> = {
  // Source: developer.android.com, "Set up the Android Gradle Library Plugin for KMP".
  androidLibrary: (call, host) => host.inside(call, { block: "android", path: [] }),
  cocoapods: (call, host) => host.inside(call, { block: "cocoapods" }),
  // `androidMain.dependencies { }`, or below the block of a source set.
  dependencies: (call, host) => host.inside(call, { block: "dependencies", ...ofSourceSet(call.path?.at(-2)) }),
};

/** Source: kotlinlang.org, "Adding dependencies on multiplatform libraries". */
function ofSourceSet(name: string | undefined): { sourceSet?: string } {
  return name !== undefined && /^[a-z]\w*(?:Main|Test)$/.test(name) ? { sourceSet: name } : {};
}

/** Multiplatform builds: source sets and their dependencies. */
export const KOTLIN: Block = {
  calls: {},
  other: (call, host) => {
    const set = ofSourceSet(named(call));
    const inside = call.block() ? (IN_KOTLIN[call.name]?.(call, host) ?? host.inside(call, set)) : undefined;
    return set.sourceSet === undefined ? inside : delegateOf(host.reading, { ...host.standing, ...set });
  },
  inExpressions: true,
  assign: (assignment, path, host) => {
    // val commonMain by getting { dependencies { } }
    const { statement, frame } = assignment;
    const { value } = statement;
    const how = value.kind === "call" ? callName(value) : value.kind === "name" ? value.name : undefined;
    if (statement.operator !== "by" || !/^(getting|creating)$/.test(how ?? "")) return false;
    const own = host.at(ofSourceSet(path.at(-1)));
    evaluate(statement.value, { ...frame, host: own });
    frame.run.write(frame.variables.cells, path.at(-1) ?? "", delegateOf(own.reading, own.standing));
    return true;
  },
};

/** The source set that a call is for: `androidMain { }`, `getByName("androidMain") { }`, `androidMain.get()`. */
function named(call: CallPart): string | undefined {
  if (/^(?:get|apply|configure)$/.test(call.name) && call.path) return call.path.at(-2);
  return /^(?:getByName|named|create|maybeCreate|register)$/.test(call.name) ? textIn(call.positional()[0]?.result) : call.name;
}

/** Pods that shared Kotlin code takes. Source: kotlinlang.org, "Add dependencies on a Pod library". */
export const COCOAPODS: Block = {
  calls: {
    pod: (call, host) => {
      const [first, second] = call.positional().filter(({ result }) => result.kind !== "function");
      const name = first && toValue(first.result, call.place);
      if (name?.kind !== "known") {
        tell(host.reading, "a pod", name?.kind === "unknown" ? name.why : reason("name-open"), call.place);
        return NOTHING;
      }
      const given = call.named().get("version") ?? second;
      const pod = { version: given && toValue(given.result, call.frame.source.place(given.expr.start)) };
      host.inside(call, { block: "pod", pod });
      host.reading.module.pods.push({ name: name.text, version: pod.version, at: name.place });
      return NOTHING;
    },
  },
  other: (call, host) => (call.path?.length === 1 ? (host.inside(call, { block: "extra", name: "ignored" }) ?? NOTHING) : undefined),
  assign: (assignment, path, host) => {
    if (path.join(".") === "ios.deploymentTarget")
      host.reading.module.podTarget = toValue(assignment.value(), assignment.frame.source.place(assignment.statement.value.start));
    return true;
  },
  holds: "a pod",
};

export const POD: Block = {
  calls: {},
  other: (call) => (call.path?.length === 1 && !call.expr.bare ? NOTHING : undefined),
  assign: (assignment, path, host) => {
    if (path.at(-1) === "version" && host.standing.pod)
      host.standing.pod.version = toValue(assignment.value(), assignment.frame.source.place(assignment.statement.value.start));
    return true;
  },
};

/** Extra properties: `ext { x = 1; set("y", 2) }`, `extra["z"] = 3`. */
export const EXTRA: Block = {
  calls: {
    set: (call, host) => {
      const [key, value] = call.positional();
      const name = textIn(key?.result);
      if (name !== undefined && value) setExtra(host, call.frame, name, value.result);
      return NOTHING;
    },
    apply: (call, host) => (call.block() ? host.inside(call, { block: "extra" }) : undefined),
  },
  // Groovy: `ext { minSdk 21 }` calls a setter
  other: (call, host) => {
    const [value] = call.positional();
    if (host.standing.name === "ignored") return NOTHING;
    if (
      call.path?.length !== 1 ||
      call.positional().length !== 1 ||
      !value ||
      call.block() ||
      /^(file|uri|property|findProperty|hasProperty|getenv|println)$/.test(call.name)
    )
      return undefined;
    setExtra(host, call.frame, call.name, value.result);
    return NOTHING;
  },
  assign: (assignment, path, host) => {
    if (assignment.statement.declared || path.length !== 1) return false;
    if (host.standing.name === "ignored") return true;
    setExtra(host, assignment.frame, path[0] as string, assignment.value());
    return true;
  },
};

function setExtra(host: GradleHost, frame: Frame, name: string, value: Result, ofRoot = false): void {
  const { variables } = host.reading;
  frame.run.write((ofRoot ? rootOf(variables) : variables).extra, name, value);
}

/** An assignment at the level of a project: extra properties, folders of modules, delegates, properties of the project itself. */
// eslint-disable-next-line complexity -- the targets that an assignment can have, the most particular first
export function assignAtProject(assignment: Assignment, path: readonly string[], host: GradleHost): boolean {
  const { statement, frame } = assignment;
  const { target } = statement;
  if (statement.operator === "by") return delegated(assignment, host);
  if (path.at(-1) === "projectDir" && target.kind === "member") {
    placeModule(assignment, host);
    return true;
  }
  if (path[0] === "android" && path.length > 1) return androidAssign(assignment, path.slice(1), host.at({ block: "android", path: [] }));
  if (path.includes("repositoriesMode")) {
    mode(statement.value, host, frame);
    return true;
  }
  if (path.at(-1) === "forcedModules") {
    addForced(frame, assignment, host);
    return true;
  }
  const extra = path.findIndex((step) => step === "ext" || step === "extra" || step === "extraProperties");
  if (extra !== -1 && extra < path.length - 1) {
    writeExtra(path.slice(extra + 1), assignment.value(), path[0] === "rootProject", host, frame);
    return true;
  }
  const own = path[0] === "project" || path[0] === "rootProject" ? path.slice(1) : path;
  const [first] = own;
  // `versions.quay = "1"` where a property holds a map.
  if (own.length > 1 && first !== undefined && property(host.reading.variables, first)?.kind === "map") {
    writeExtra(own, assignment.value(), false, host, frame);
    return true;
  }
  // `versions << [quay: "1"]`, `versions = …`: a property that is there gets another value.
  if (own.length === 1 && first !== undefined && !statement.declared && property(host.reading.variables, first)) {
    writeExtra(own, assignment.value(), false, host, frame);
    return true;
  }
  if (own.length === 1 && /^(version|group|description)$/.test(first ?? "") && !statement.declared && host.standing.block === "project") {
    setExtra(host, frame, first as string, assignment.value());
    return true;
  }
  return false;
}

/** Versions that are forced for all configurations. */
function addForced(frame: Frame, assignment: Assignment, host: GradleHost): void {
  const value = assignment.value();
  for (const item of value.kind === "list" ? value.items : []) {
    const [group, artifact, version] = textIn(item)?.split(":") ?? [];
    if (!group || !artifact || item.kind !== "known") continue;
    const known_ = version === undefined ? undefined : known(version, item.place);
    host.reading.module.dependencies.push({
      configuration: "force",
      group,
      artifact,
      version: known_,
      places: [item.place],
      kind: "force",
      conditional: frame.conditional,
    });
  }
}

/** Writes into an extra property, or into the map that it holds. */
function writeExtra(path: readonly string[], value: Result, ofRoot: boolean, host: GradleHost, frame: Frame): void {
  const [first, ...rest] = path as [string, ...string[]];
  const { variables } = host.reading;
  const before = property(ofRoot ? rootOf(variables) : variables, first);
  setExtra(host, frame, first, rest.length === 0 ? value : inserted(before, rest, value), ofRoot);
}

function inserted(holder: Result | undefined, path: readonly string[], value: Result): Result {
  const [first, ...rest] = path as [string, ...string[]];
  const entries = holder?.kind === "map" ? holder.entries : new Map<string, Result>();
  return mapOf([...entries, [first, rest.length === 0 ? value : inserted(entries.get(first), rest, value)]]);
}

/**
 * The folder of a module whose path begins with what only the build knows, by what follows: `file("${checkout}/core/sync")` is `core/sync` beside the
 * settings when a module lies there.
 */
function folderByEnd(value: Expr, { reading }: GradleHost, frame: Frame): string | undefined {
  const written = frame.source.text.slice(value.start, value.end);
  const end = /(?:\}\/|,\s*["'])([\w.-]+(?:\/[\w.-]+)*)["']\s*\)?(?:\s*as\s+File)?$/.exec(written)?.[1];
  const folder = end === undefined ? undefined : join(reading.module.folder, end);
  return folder !== undefined && buildFileIn(reading.project, folder) !== undefined ? folder : undefined;
}

/** `project(":x").projectDir = file("../x")` */
function placeModule(assignment: Assignment, host: GradleHost): void {
  const { statement, frame } = assignment;
  const { target } = statement;
  const object = target.kind === "member" ? target.object : undefined;
  const path =
    object?.kind === "call" && callName(object) === "project" ? textIn(evaluate(object.args[0]?.value ?? object, frame)) : undefined;
  if (path === undefined) return;
  const value = toValue(assignment.value(), frame.source.place(statement.value.start));
  const folder = value.kind === "known" ? join(host.reading.module.folder, value.text) : folderByEnd(statement.value, host, frame);
  if (value.kind === "unknown" && folder === undefined) tell(host.reading, `the module ${path}`, value.why, value.place);
  host.reading.build.place(path.startsWith(":") ? path : `:${path}`, folder, frame.source.place(statement.value.start));
}

/** `val x by extra("1")`, `val x by extra { "1" }`, `val x: String by project`. */
function delegated({ statement, frame }: Assignment, host: GradleHost): boolean {
  const name = statement.target.kind === "name" ? statement.target.name : undefined;
  if (name === undefined) return false;
  const { value } = statement;
  const hold = (result: Result): void => frame.run.write(frame.variables.cells, name, result);
  if (value.kind === "call" && callName(value) === "extra") {
    const last = value.closure?.body.at(-1);
    const first = value.args[0]?.value ?? (last?.kind === "expression" ? last.value : undefined);
    if (!first) return true;
    const result = evaluate(first, frame);
    setExtra(host, frame, name, result);
    hold(result);
    return true;
  }
  if (value.kind === "call" && callName(value) === "lazy") {
    const block = value.closure;
    hold(
      block ? runClosure({ kind: "function", parameters: block.parameters, body: block.body, frame, isMethod: false }, [], frame) : NOTHING,
    );
    return true;
  }
  const owner = pathOf(value);
  if (!owner || !/^(project|rootProject|extra|ext|settings)$/.test(owner.at(-1) ?? "")) return false;
  const { variables } = host.reading;
  const found = property(owner[0] === "rootProject" ? rootOf(variables) : variables, name);
  hold(found ?? unknown(reason("no-property", { name }), frame.source.place(statement.target.start)));
  return true;
}
