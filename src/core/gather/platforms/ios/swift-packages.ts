import type { Dependency } from "../../../model/facts.js";
import { baseName, isWithin, join, parentOf } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import { packageIdentity } from "../../../model/sdk-id.js";
import { known } from "../../../model/value.js";
import { describe, type Requirement } from "../../../versions/swiftpm.js";
import type { XmlElement } from "../../../syntax/xml.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink, IosReading } from "../../sink.js";
import { readPackageResolved, type ResolvedPackage } from "./locks.js";
import { readSwiftManifest, type ManifestDependency, type SwiftManifest } from "./swift-manifest.js";
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

/** How many folders above a project are searched for a workspace that takes it in. */
const MOST_ABOVE = 4;

/**
 * The workspaces beside a project, and those above it that take it in; the nearest first. Source: developer.apple.com, "Managing multiple projects
 * and their dependencies" (workspaces refer to projects by paths from their own folder).
 */
function workspacesAround(project: ProjectFiles, xcode: XcodeProject): string[] {
  const found: string[] = [];
  let folder = xcode.folder;
  for (let step = 0; step <= MOST_ABOVE; step++) {
    for (const { name, kind } of project.tree.list(folder)) {
      if (kind !== "folder" || !name.endsWith(".xcworkspace")) continue;
      const workspace = join(folder, name);
      if (step === 0 || takesIn(project, workspace, folder, xcode.path)) found.push(workspace);
    }
    if (folder === "" || folder.startsWith("..")) break;
    folder = parentOf(folder);
  }
  return found;
}

function takesIn(project: ProjectFiles, workspace: string, folder: string, path: string): boolean {
  const file = join(workspace, "contents.xcworkspacedata");
  const root = project.tree.isFile(file) ? project.xml(file)?.root : undefined;
  if (!root) return false;
  const refers = (element: XmlElement, base: string): boolean =>
    element.children.some((child) => {
      const [how = "", to = ""] = (child.attributes.get("location")?.value ?? "").split(/:(.*)/s);
      const place = how === "container" ? join(folder, to) : join(base, to);
      return child.name === "FileRef" ? place === path : child.name === "Group" && refers(child, place);
    });
  return refers(root, folder);
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

  constructor(
    private readonly context: SwiftContext,
    private readonly app: FactSink,
    private readonly side: IosReading,
  ) {
    const { project, xcode } = context;
    const workspaces = [join(xcode.path, "project.xcworkspace"), ...workspacesAround(project, xcode)];
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
    this.noteLocked();
    if (this.remote > 0)
      this.app.lock({
        manager: "swiftpm",
        side: "ios",
        manifest: xcode.packages[0]?.at ?? xcode.start,
        lockName: "Package.resolved",
        lock: this.lockFile,
        expected: this.context.versioned,
        needed: true,
        installedApart: [],
        declaredApart: [],
      });
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
    // Its code is the app's own, wherever in the repository it lies.
    if (!isWithin(folder, this.app.path) && !folder.startsWith("..") && !LAID_DOWN.test(`${folder}/`))
      this.app.sourceFolder({ folder, side: "ios" });
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
    for (const { path, pathAt, binary, takes } of manifest.targets) {
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
