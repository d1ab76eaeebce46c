import type { CallPart } from "../../../../evaluate/frame.js";
import { evaluate } from "../../../../evaluate/interpret.js";
import { NOTHING, textIn, toValue, type Result } from "../../../../evaluate/values.js";
import { join } from "../../../../model/paths.js";
import type { Place } from "../../../../model/place.js";
import { known, type Value } from "../../../../model/value.js";
import { callName, positional } from "../../../../syntax/script/ast.js";
import { accessor, emptyCatalog, readCatalog, type Catalog } from "./catalog.js";
import type { Block, GradleHost } from "./host.js";

/** `versionCatalogs { create("libs") { … } }`, `libs { … }` */
export const CATALOGS: Block = {
  calls: {},
  other: (call, host) => {
    if (!call.block()) return undefined;
    const name = /^(create|register|named|getByName|maybeCreate)$/.test(call.name) ? textIn(call.positional()[0]?.result) : call.name;
    if (name === undefined) return undefined;
    const { catalogs } = host.reading.variables;
    if (!catalogs.has(name)) catalogs.set(name, emptyCatalog());
    // What a script puts into it may be more than is seen.
    Object.assign(catalogs.get(name) ?? {}, { whole: false });
    return host.inside(call, { block: "catalog", name });
  },
};

function catalogOf({ reading, standing }: GradleHost): Catalog {
  return reading.variables.catalogs.get(standing.name ?? "") ?? emptyCatalog();
}

function texts(call: CallPart): (Value | undefined)[] {
  return call.positional().map(({ result }) => toValue(result, call.place));
}

/** The calls that fill a catalog. Source: docs.gradle.org, "Version catalogs, Programming catalogs". */
export const CATALOG: Block = {
  calls: {
    from: (call, host) => {
      const catalog = catalogOf(host);
      for (const { result } of call.positional()) for (const path of filesIn(result)) take(catalog, host, path, call.place);
      return NOTHING;
    },
    version: (call, host) => {
      const [alias, version] = texts(call);
      if (alias?.kind === "known" && version) catalogOf(host).versions.set(accessor(alias.text), version);
      return NOTHING;
    },
    library: (call, host) => {
      const [alias, second, third] = texts(call);
      if (alias?.kind !== "known" || second?.kind !== "known") return NOTHING;
      const [group, artifact, version] = third?.kind === "known" ? [second.text, third.text] : second.text.split(":");
      if (group && artifact)
        catalogOf(host).libraries.set(accessor(alias.text), {
          group,
          artifact,
          version: version ? known(version, second.place) : undefined,
          at: second.place,
        });
      return NOTHING;
    },
    plugin: (call, host) => {
      const [alias, id] = texts(call);
      if (alias?.kind === "known" && id?.kind === "known")
        catalogOf(host).plugins.set(accessor(alias.text), { id: id.text, version: undefined, at: id.place });
      return NOTHING;
    },
    bundle: (call, host) => {
      const [alias, members] = call.positional();
      const name = textIn(alias?.result);
      if (name !== undefined && members?.result.kind === "list")
        catalogOf(host).bundles.set(accessor(name), members.result.items.flatMap((item) => textIn(item) ?? []).map(accessor));
      return NOTHING;
    },
    versionRef: versioned,
    versionref: versioned,
    withoutVersion: versioned,
  },
  inExpressions: true,
  // `library("a", "g", "a").version("1")`
  other: (call, host) => (call.name === "version" && call.expr.callee.kind === "member" ? versioned(call, host) : undefined),
};

/** `library("a", "g", "n").versionRef("v")`, `plugin("p", "id").version("1")`: the version of what was just declared. */
function versioned(call: CallPart, host: GradleHost): Result | undefined {
  const { callee } = call.expr;
  const object = callee.kind === "member" ? callee.object : undefined;
  if (object?.kind !== "call") return undefined;
  evaluate(object, call.frame);
  const first = positional(object)[0];
  const alias = first && textIn(evaluate(first, call.frame));
  const [given] = texts(call);
  if (alias === undefined || given?.kind !== "known") return NOTHING;
  const catalog = catalogOf(host);
  const version = call.name === "version" ? given : catalog.versions.get(accessor(given.text));
  const declared = callName(object) === "plugin" ? catalog.plugins.get(accessor(alias)) : catalog.libraries.get(accessor(alias));
  if (declared) declared.version = version;
  return NOTHING;
}

function filesIn(result: Result): string[] {
  if (result.kind === "known") return [result.text];
  if (result.kind === "list") return result.items.flatMap(filesIn);
  return result.kind === "object" && result.name === "files" ? (result.of as Result[]).flatMap(filesIn) : [];
}

function take(catalog: Catalog, { reading }: GradleHost, path: string, at: Place): void {
  const resolved = join(reading.build.folder, path);
  const file = readCatalog(reading.project, resolved);
  if (!file) {
    // What lies out of the tree is not known, and what is fetched has no file.
    if (resolved.endsWith(".toml") && !resolved.startsWith("..") && !reading.project.tree.isFile(resolved))
      reading.module.paths.push({ text: path, resolved, kind: "catalog", exists: false, side: "android", generated: false, at });
    return;
  }
  for (const key of ["versions", "libraries", "bundles", "plugins"] as const)
    for (const [alias, item] of file[key]) (catalog[key] as Map<string, unknown>).set(alias, item);
}
