import type { ProjectFiles } from "../../project-files.js";
import type { Place } from "../../../model/place.js";
import { known, type Value } from "../../../model/value.js";
import { callName, namedArg, pathOf, plainText, positional, type CallExpr, type Expr, type Statement } from "../../../syntax/script/ast.js";
import type { Requirement } from "../../../versions/swiftpm.js";

export interface ManifestDependency {
  /** Where the manifest gives it a name. */
  name: string | undefined;
  location: string;
  local: boolean;
  requirement: Requirement | undefined;
  at: Place;
}

/** A target of a package, of those kinds that can get into an app. */
export interface ManifestTarget {
  name: string;
  /** Linked as it was built before; its `path` is the binary. */
  binary: boolean;
  /** Its folder from that of the package; absent where it is not stated. */
  path: string | undefined;
  pathAt: Place | undefined;
  /** Files and folders in it that are left out. */
  exclude: string[];
  /** Names of targets that it takes in, in this package or others. */
  needs: string[];
  /** Those that it names without a package: targets of this one, or products that have the name of their package. */
  named: { name: string; at: Place }[];
  /** Files and folders that it takes in as resources, by their paths in it. */
  resources: { path: string; at: Place }[];
  /** Products that it takes, with the package that it names for each. */
  takes: { product: string; package: string; at: Place }[];
}

export interface SwiftManifest {
  file: string;
  name: string | undefined;
  iosTarget: Value | undefined;
  products: string[];
  /** The targets of each product that names them. */
  productTargets: Map<string, string[]>;
  /** What products name as their targets. */
  productParts: { name: string; at: Place }[];
  targets: ManifestTarget[];
  /** Names of all targets, of tests and tools too; `undefined` where one could not be made out. */
  targetNames: string[] | undefined;
  dependencies: ManifestDependency[];
  /** Whether some dependency could not be made out. */
  open: boolean;
}

/** Reads `Package.swift`. Source: Swift Package Manager documentation, PackageDescription. */
export function readSwiftManifest(project: ProjectFiles, file: string): SwiftManifest | undefined {
  const script = project.script(file);
  if (!script) return undefined;
  const manifest: SwiftManifest = {
    file,
    name: undefined,
    iosTarget: undefined,
    products: [],
    productTargets: new Map(),
    productParts: [],
    targets: [],
    targetNames: [],
    dependencies: [],
    open: false,
  };
  const constants = new Map<string, Expr>();
  const textOfExpr = (expr: Expr | undefined): string | undefined => plainText(expr?.kind === "name" ? constants.get(expr.name) : expr);
  const itemsOfExpr = (expr: Expr | undefined): Expr[] => {
    const target = expr?.kind === "name" ? constants.get(expr.name) : expr;
    return target?.kind === "list" ? target.items : [];
  };
  const place = (expr: Expr): Place => script.source.place(expr.start);

  const readPackage = (call: CallExpr): void => {
    manifest.name = textOfExpr(namedArg(call, "name"));
    for (const item of itemsOfExpr(namedArg(call, "platforms"))) {
      if (item.kind !== "call" || callName(item) !== "iOS") continue;
      const [version] = positional(item);
      const constant = pathOf(version)?.at(-1);
      const text = textOfExpr(version) ?? (constant ? /^v(\d+(?:_\d+)*)$/.exec(constant)?.[1]?.replaceAll("_", ".") : undefined);
      if (version && text) manifest.iosTarget = known(text, place(version));
    }
    for (const item of itemsOfExpr(namedArg(call, "products"))) {
      const name = item.kind === "call" ? textOfExpr(namedArg(item, "name")) : undefined;
      if (!name || item.kind !== "call") continue;
      manifest.products.push(name);
      manifest.productTargets.set(
        name,
        itemsOfExpr(namedArg(item, "targets")).flatMap((target) => textOfExpr(target) ?? []),
      );
      for (const target of itemsOfExpr(namedArg(item, "targets"))) {
        const part = textOfExpr(target);
        if (part !== undefined) manifest.productParts.push({ name: part, at: place(target) });
      }
    }
    addAll(namedArg(call, "targets"), addTarget, () => (manifest.targetNames = undefined));
    addAll(namedArg(call, "dependencies"), addDependency, () => (manifest.open = true));
  };

  /** Each item of a list, and a word where it is none, or is put together. */
  const addAll = (list: Expr | undefined, add: (item: Expr) => void, open: () => void): void => {
    const items = itemsOfExpr(list);
    const written = list?.kind === "name" ? constants.get(list.name) : list;
    if (list !== undefined && written?.kind !== "list") open();
    for (const item of items) add(item);
  };
  /** What a constant of the script stands for. */
  const meant = (expr: Expr): Expr => (expr.kind === "name" ? (constants.get(expr.name) ?? expr) : expr);

  const addTarget = (item: Expr): void => {
    const kind = item.kind === "call" ? callName(item) : undefined;
    const name = item.kind === "call" ? textOfExpr(namedArg(item, "name")) : undefined;
    if (name === undefined) manifest.targetNames = undefined;
    else manifest.targetNames?.push(name);
    if (item.kind !== "call" || name === undefined || !/^(target|binaryTarget)$/.test(kind ?? "")) return;
    const pathExpr = namedArg(item, "path");
    const needs = itemsOfExpr(namedArg(item, "dependencies")).map(meant);
    manifest.targets.push({
      name,
      binary: kind === "binaryTarget",
      path: textOfExpr(namedArg(item, "path")),
      pathAt: pathExpr && place(pathExpr),
      exclude: itemsOfExpr(namedArg(item, "exclude")).flatMap((path) => textOfExpr(path) ?? []),
      needs: needs.flatMap(
        (need) => textOfExpr(need) ?? (need.kind === "call" ? (textOfExpr(namedArg(need, "name") ?? positional(need)[0]) ?? []) : []),
      ),
      takes: needs.flatMap((need) => {
        const [product, of] = need.kind === "call" ? [textOfExpr(namedArg(need, "name")), textOfExpr(namedArg(need, "package"))] : [];
        return product === undefined || of === undefined ? [] : [{ product, package: of, at: place(need) }];
      }),
      named: needs.flatMap((need) => {
        const text =
          textOfExpr(need) ??
          (need.kind === "call" && /^(target|byName)$/.test(callName(need) ?? "") ? textOfExpr(namedArg(need, "name")) : undefined);
        return text === undefined ? [] : [{ name: text, at: place(need) }];
      }),
      resources: itemsOfExpr(namedArg(item, "resources")).flatMap((resource) => {
        const path = resource.kind === "call" ? textOfExpr(positional(resource)[0]) : undefined;
        return path === undefined ? [] : [{ path, at: place(resource) }];
      }),
    });
  };

  const addDependency = (item: Expr): void => {
    if (item.kind !== "call" || callName(item) !== "package") {
      manifest.open = true;
      return;
    }
    const path = textOfExpr(namedArg(item, "path"));
    const url = textOfExpr(namedArg(item, "url"));
    const at = place(namedArg(item, "url") ?? namedArg(item, "path") ?? item);
    const name = textOfExpr(namedArg(item, "name"));
    if (path !== undefined) manifest.dependencies.push({ name, location: path, local: true, requirement: undefined, at });
    else if (url !== undefined) manifest.dependencies.push({ name, location: url, local: false, requirement: requirementIn(item), at });
    else manifest.open = true;
  };

  const requirementIn = (call: CallExpr): Requirement | undefined => {
    for (const [name, kind] of [
      ["from", "upToNextMajor"],
      ["exact", "exact"],
    ] as const) {
      const version = textOfExpr(namedArg(call, name));
      if (version !== undefined) return { kind, version };
    }
    for (const kind of ["branch", "revision"] as const) {
      const name = textOfExpr(namedArg(call, kind));
      if (name !== undefined) return { kind, name };
    }
    for (const expr of positional(call)) {
      if (expr.kind === "binary" && (expr.operator === "..<" || expr.operator === "...")) {
        const from = textOfExpr(expr.left);
        const to = textOfExpr(expr.right);
        if (from !== undefined && to !== undefined) return { kind: "range", from, to, closed: expr.operator === "..." };
      }
      if (expr.kind !== "call") continue;
      const version = textOfExpr(namedArg(expr, "from") ?? positional(expr)[0]);
      if (version === undefined) continue;
      const name = callName(expr);
      if (name === "upToNextMajor" || name === "upToNextMinor" || name === "exact") return { kind: name, version };
      if (name === "branch" || name === "revision") return { kind: name, name: version };
    }
    return undefined;
  };

  const visit = (body: Statement[]): void => {
    for (const statement of body) {
      if (statement.kind === "assign") {
        const path = pathOf(statement.target);
        if (path?.length === 1) constants.set(path[0] as string, statement.value);
        if (statement.value.kind === "call" && callName(statement.value) === "Package") readPackage(statement.value);
        if (path?.join(".") === "package.dependencies") addAll(statement.value, addDependency, () => (manifest.open = true));
        else if (path?.[0] === "package" && path[1] === "targets") manifest.targetNames = undefined;
      } else if (
        statement.kind === "expression" &&
        statement.value.kind === "call" &&
        pathOf(statement.value.callee)?.join(".") === "package.dependencies.append"
      ) {
        for (const item of positional(statement.value)) addDependency(item);
      } else if (statement.kind === "if") visit([...statement.then, ...statement.otherwise]);
    }
  };
  visit(script.body);
  return manifest;
}
