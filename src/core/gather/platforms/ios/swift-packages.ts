import type { SwiftModule } from "../../../model/app.js";
import type { Dependency } from "../../../model/facts.js";
import { baseName, isInstalled, isWithin, join } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import { packageIdentity } from "../../../model/sdk-id.js";
import { known } from "../../../model/value.js";
import { describe, type Requirement } from "../../../versions/swiftpm.js";
import { nearest } from "../../../model/suggest.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink, IosReading } from "../../sink.js";
import { readPackageResolved, type ResolvedPackage } from "./locks.js";
import { readSwiftManifest, type ManifestDependency, type SwiftManifest } from "./swift-manifest.js";
import { projectsBeside, referred, sourceFoldersOf, workspacesAround } from "./workspaces.js";
import type { XcodeProject } from "./xcode-project.js";

/** What the packages of a project are read from. */
export interface SwiftContext {
  project: ProjectFiles;
  xcode: XcodeProject;
  versioned: boolean;
}

/** Packages that a project refers to, those of the repository with what their manifests ask for, and the lock. */
export function readSwiftPackages(context: SwiftContext, app: FactSink, side: IosReading): void {
  new SwiftPackages(context, app, side).read();
}

/** The modules of packages of the repository by their folders, with what each sees: its own needs, and theirs. */
export function swiftModulesOf({ tree }: ProjectFiles, manifests: ReadonlyMap<string, SwiftManifest | undefined>): SwiftModule[] {
  const all = [...manifests].flatMap(([folder, manifest]) =>
    manifest && !LAID_DOWN.test(`${folder}/`) ? manifest.targets.map((target) => ({ folder, manifest, target })) : [],
  );
  const targetsOf = (name: string): string[] => all.flatMap(({ manifest }) => manifest.productTargets.get(name) ?? []);
  const seenBy = (name: string, seen: Set<string>): void => {
    if (seen.has(name)) return;
    seen.add(name);
    for (const { target } of all) if (target.name === name) for (const need of target.needs) seenBy(need, seen);
    for (const part of targetsOf(name)) seenBy(part, seen);
  };
  return all.flatMap(({ folder, manifest, target }): SwiftModule[] => {
    if (target.binary) return [];
    const sees = new Set<string>();
    for (const need of target.needs) seenBy(need, sees);
    const home =
      target.path ??
      ["Sources", "Source", "src", "srcs"].map((name) => `${name}/${target.name}`).find((path) => tree.isFolder(join(folder, path)));
    if (home === undefined || ABSOLUTE.test(home)) return [];
    const products = [...manifest.productTargets].flatMap(([product, parts]) => (parts.includes(target.name) ? product : []));
    return [
      {
        name: target.name,
        folder: join(folder, home),
        package: manifest.name ?? baseName(folder),
        sees: [...sees],
        takes: target.takes.flatMap(({ product, package: of }) => {
          const isMeant = ({ name, location }: ManifestDependency): boolean =>
            name === of || packageIdentity(location) === of.toLowerCase();
          const location = manifest.dependencies.find((dependency) => !dependency.local && isMeant(dependency))?.location;
          return location === undefined ? [] : [{ product, location }];
        }),
        beside: manifest.dependencies.flatMap(({ local, location }) => (local ? [] : packageIdentity(location))),
        products,
        open: manifest.open,
      },
    ];
  });
}

/** A path that leads out of the repository. */
const ABSOLUTE = /^([/~]|[A-Za-z]:)/;

/** Folders that package managers and builds lay down. */
const LAID_DOWN = /node_modules|(^|\/)(build|\.build|[Ff]lutter\/ephemeral)\//;

/**
 * Sources: Swift Package Manager documentation, PackageDescription (dependencies, products, targets and their path), "Package.resolved";
 * developer.apple.com, "Organizing your code with local packages".
 */
class SwiftPackages {
  private readonly resolved: ResolvedPackage[] | undefined;
  private readonly lockFile: string | undefined;
  private readonly manifests = new Map<string, SwiftManifest | undefined>();
  private remote = 0;
  private readonly around: readonly string[];
  private readonly beside: readonly XcodeProject[];
  /** Packages of the repository that a workspace holds beside the project: targets take their products as well. */
  private readonly inWorkspaces: readonly { folder: string; at: Place }[];

  constructor(
    private readonly context: SwiftContext,
    private readonly app: FactSink,
    private readonly side: IosReading,
  ) {
    const { project, xcode } = context;
    const around = workspacesAround(project, xcode);
    this.around = around;
    this.inWorkspaces = around.flatMap((workspace) =>
      referred(project, workspace).filter(
        ({ folder }) => project.tree.isFile(join(folder, "Package.swift")) && !LAID_DOWN.test(`${folder}/`),
      ),
    );
    this.beside = projectsBeside(project, xcode);
    const workspaces = [join(xcode.path, "project.xcworkspace"), ...around];
    this.lockFile = workspaces
      .map((workspace) => join(workspace, "xcshareddata/swiftpm/Package.resolved"))
      .find((file) => project.tree.isFile(file));
    this.resolved = this.lockFile ? readPackageResolved(project, this.lockFile) : undefined;
  }

  read(): void {
    const { xcode } = this.context;
    for (const reference of xcode.packages) {
      const { location, at } = reference;
      if (!reference.local) this.add(location, reference.requirement, this.takerOf(reference.id), at, reference.requirementAt);
      else if (ABSOLUTE.test(location)) this.follow(location, undefined, undefined, at);
      else this.readLocal(join(xcode.folder, location), at, location);
    }
    this.noteLikelyModules();
    for (const other of this.beside) this.readBeside(other);
    this.noteLostProjects();
    for (const { folder, at } of this.inWorkspaces) if (!this.manifests.has(folder)) this.readLocal(folder, at, folder);
    this.noteTakenProducts();
    this.noteModules();
    this.noteLocked();
    if (this.remote > 0)
      this.app.lock({
        manager: "swiftpm",
        side: "ios",
        manifest: xcode.packages[0]?.at ?? xcode.start,
        lockName: "Package.resolved",
        lock: this.lockFile,
        // Where a tool writes the project, the lock lies in what is kept out of the repository.
        expected: this.context.versioned && xcode.spec === undefined,
        needed: true,
        installedApart: [],
        declaredApart: [],
      });
  }

  /** What modules of packages are likely called, whose manifests are not here. */
  private noteLikelyModules(): void {
    const plain = (name: string): string =>
      name
        .toLowerCase()
        .replace(/[-_.](ios|swift|sdk|apple|spm)$/g, "")
        .replace(/\W|_/g, "");
    const remote = this.context.xcode.packages.filter(({ local }) => !local);
    this.side.likelyModules = remote.map(({ id, location }) => ({ package: id, names: [plain(id), plain(packageIdentity(location))] }));
  }

  /** Projects that a workspace names and that are not there; those that package managers lay down come later. */
  private noteLostProjects(): void {
    const { tree } = this.context.project;
    for (const { folder, at } of this.around.flatMap((workspace) => referred(this.context.project, workspace)))
      if (
        folder.endsWith(".xcodeproj") &&
        !folder.startsWith("..") &&
        !isInstalled(`${folder}/`) &&
        !LAID_DOWN.test(`${folder}/`) &&
        !tree.isFolder(folder)
      )
        this.app.pathFollowed({ text: folder, resolved: folder, kind: "project", exists: false, side: "ios", generated: false, at });
  }

  /** What another project of the repository brings to the app. */
  private readBeside(other: XcodeProject): void {
    this.side.allTargets = [...this.side.allTargets, ...other.targets];
    for (const folder of sourceFoldersOf(other, this.app.path))
      if (!isWithin(folder, this.app.path) && !folder.startsWith("..")) this.app.sourceFolder({ folder, side: "ios" });
    for (const { local, location, requirement, requirementAt, at, id } of other.packages) {
      if (ABSOLUTE.test(location)) continue;
      const taker = other.targets.find(({ packageProducts }) => packageProducts.some((product) => product.package === id));
      if (local) this.readLocal(join(other.folder, location), at, location);
      else if (taker) this.add(location, requirement, taker.name, at, requirementAt);
    }
  }

  /** The target that takes a product of a package. */
  private takerOf(id: string): string {
    return (
      this.side.targets.find(({ packageProducts }) => packageProducts.some((product) => product.package === id))?.name ??
      this.side.target.name
    );
  }

  private add(location: string, requirement: Requirement | undefined, scope: string, place: Place, at: Place | undefined): void {
    this.remote++;
    const entry = this.lockOf(location);
    this.app.dependency({
      side: "ios",
      ecosystem: "swiftpm",
      name: location,
      route: requirement?.kind === "branch" || requirement?.kind === "revision" ? "git" : "registry",
      declared: requirement ? known(describe(requirement), at ?? place) : undefined,
      requirement,
      locked: entry?.version ?? entry?.revision?.slice(0, 10),
      lockedAt: entry?.at,
      scope: "package",
      in: scope,
      reference: referenceOf(requirement),
      places: [place],
    });
  }

  private lockOf(location: string): ResolvedPackage | undefined {
    const identity = packageIdentity(location);
    return this.resolved?.find((entry) => entry.identity === identity || packageIdentity(entry.location) === identity);
  }

  private follow(text: string, resolved: string | undefined, exists: boolean | undefined, at: Place): void {
    this.app.pathFollowed({ text, resolved, kind: "package", exists, side: "ios", generated: LAID_DOWN.test(`${resolved ?? ""}/`), at });
  }

  /** A package of the repository, and those that it asks for. */
  private readLocal(folder: string, at: Place, text: string): SwiftManifest | undefined {
    if (this.manifests.has(folder)) return this.manifests.get(folder);
    const { project, xcode } = this.context;
    const file = join(folder, "Package.swift");
    const exists = project.tree.isFile(file);
    this.follow(text, folder, exists, at);
    const manifest = exists ? readSwiftManifest(project, file) : undefined;
    this.manifests.set(folder, manifest);
    if (!manifest) return undefined;
    const name = manifest.name ?? baseName(folder);
    this.noteProducts(manifest.products, xcode.packages.find(({ at: place }) => place === at)?.id, folder);
    if (manifest.iosTarget)
      this.app.required({ level: "iosTarget", value: manifest.iosTarget, by: name, sdk: undefined, from: "Package.swift" });
    const locals = new Map<ManifestDependency, SwiftManifest | undefined>();
    for (const dependency of manifest.dependencies) {
      const { local, location, requirement, at: place } = dependency;
      if (local) locals.set(dependency, this.readLocal(join(folder, location), place, location));
      else this.add(location, requirement, name, place, place);
    }
    this.noteTargets(folder, manifest, locals);
    return manifest;
  }

  /** Products that targets take of a local package, and that it does not have; where its products could be read. */
  private noteProducts(products: readonly string[], id: string | undefined, folder: string): void {
    if (id === undefined || products.length === 0) return;
    for (const { packageProducts } of this.side.targets)
      for (const { product, package: owner, at } of packageProducts)
        if (owner === id && !products.includes(product)) this.missingProduct(product, folder, at);
  }

  private missingProduct(text: string, folder: string, at: Place): void {
    this.app.pathFollowed({ text, resolved: `${folder}/Package.swift`, kind: "product", exists: false, side: "ios", generated: false, at });
  }

  /** What the targets of a manifest take of others, and where their sources lie. */
  private noteTargets(folder: string, manifest: SwiftManifest, locals: ReadonlyMap<ManifestDependency, SwiftManifest | undefined>): void {
    const { tree } = this.context.project;
    // What package managers lay down is theirs to keep in order.
    if (LAID_DOWN.test(`${folder}/`)) return;
    this.noteNames(folder, manifest);
    for (const { name, path, pathAt, binary, takes, resources } of manifest.targets) {
      const home = join(folder, path ?? `Sources/${name}`);
      for (const { path: resource, at } of tree.isFolder(home) ? resources : [])
        if (!tree.isFolder(join(home, resource)) && !tree.isFile(join(home, resource)))
          this.app.pathFollowed({
            text: resource,
            resolved: join(home, resource),
            kind: "pattern",
            exists: false,
            side: "ios",
            generated: false,
            at,
          });
      if (
        path !== undefined &&
        pathAt &&
        !binary &&
        !ABSOLUTE.test(path) &&
        !tree.isFolder(join(folder, path)) &&
        !tree.isFile(join(folder, path))
      )
        this.app.pathFollowed({
          text: path,
          resolved: join(folder, path),
          kind: "file",
          exists: false,
          side: "ios",
          generated: LAID_DOWN.test(`${join(folder, path)}/`),
          at: pathAt,
        });
      for (const { product, package: of, at } of takes) {
        const found = [...locals].find(
          ([{ name, location }, other]) => name === of || baseName(location) === of || (name === undefined && other?.name === of),
        );
        const [dependency, other] = found ?? [];
        if (dependency && other && other.products.length > 0 && !other.products.includes(product))
          this.missingProduct(product, join(folder, dependency.location), at);
      }
    }
  }

  /** Packages and targets that a manifest names in its targets and products and does not have. */
  private noteNames(folder: string, { file, targets, targetNames, productParts, dependencies, open }: SwiftManifest): void {
    const known = dependencies.flatMap(({ name, location }) => [
      ...(name === undefined ? [] : [name]),
      packageIdentity(location),
      baseName(location).replace(/\.git$/, ""),
    ]);
    const isKnown = (name: string): boolean => known.some((other) => other.toLowerCase() === name.toLowerCase());
    for (const { product, package: of, at } of open ? [] : targets.flatMap(({ takes }) => takes)) {
      // A local package can have another name than its folder.
      if (isKnown(of) || dependencies.some(({ local, location }) => local && this.manifests.get(join(folder, location))?.name === of))
        continue;
      const near = known.find((other) => other.toLowerCase().includes(of.toLowerCase()));
      this.lost("product", `${product} of ${of}`, file, at, near);
    }
    if (targetNames === undefined) return;
    for (const { name, at } of productParts)
      if (!targetNames.includes(name)) this.lost("target", name, file, at, nearest(name, targetNames));
    for (const { name, at } of targets.flatMap(({ named }) => named)) {
      const near = nearest(name, targetNames);
      // What is none of its targets can be a product of another package, which has that name then.
      if (!targetNames.includes(name) && !isKnown(name) && (near !== undefined || (dependencies.length === 0 && !open)))
        this.lost("target", name, file, at, near);
    }
  }

  private lost(kind: "product" | "target", text: string, resolved: string, at: Place, near: string | undefined): void {
    this.app.pathFollowed({
      text,
      resolved,
      kind,
      exists: false,
      side: "ios",
      generated: false,
      at,
      ...(near === undefined ? {} : { near }),
    });
  }

  /** Products without a package of their own are of local packages; where all of these could be read, one of them has to have each. */
  private noteTakenProducts(): void {
    const known = [...this.manifests.values()];
    if (known.length === 0 || known.some((manifest) => !manifest || manifest.products.length === 0)) return;
    const products = new Set(known.flatMap((manifest) => manifest?.products ?? []));
    const [first] = [...this.manifests.keys()];
    for (const { packageProducts } of this.side.targets)
      for (const { product, package: owner, at } of packageProducts)
        if (owner === undefined && !products.has(product)) this.missingProduct(product, first ?? "", at);
  }

  /** The modules of the packages; their code is the app's own, wherever in the repository it lies. */
  private noteModules(): void {
    for (const module of swiftModulesOf(this.context.project, this.manifests)) {
      if (!isWithin(module.folder, this.app.path) && !module.folder.startsWith(".."))
        this.app.sourceFolder({ folder: module.folder, side: "ios" });
      this.app.swiftModule(module);
    }
  }

  /** Packages that only others ask for. */
  private noteLocked(): void {
    for (const entry of this.resolved ?? []) {
      const isKnown = ({ ecosystem, name }: Dependency): boolean =>
        ecosystem === "swiftpm" && packageIdentity(name) === entry.identity.toLowerCase();
      if (this.app.dependencies.some(isKnown)) continue;
      this.app.dependency({
        side: "ios",
        ecosystem: "swiftpm",
        name: entry.location,
        locked: entry.version ?? entry.revision?.slice(0, 10),
        lockedAt: entry.at,
        scope: "package",
        in: this.side.target.name,
        direct: false,
        places: [entry.at],
      });
    }
  }
}

function referenceOf(requirement: Requirement | undefined): Dependency["reference"] {
  return requirement?.kind === "branch" || requirement?.kind === "revision"
    ? { kind: requirement.kind, text: requirement.name }
    : undefined;
}
