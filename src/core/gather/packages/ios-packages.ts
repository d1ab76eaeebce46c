import { PRIVACY_MANIFEST } from "../../knowledge/restricted-interfaces.js";
import type { Dependency } from "../../model/facts.js";
import { baseName, isWithin, join, parentOf } from "../../model/paths.js";
import { packageIdentity, sdkIdOf } from "../../model/sdk-id.js";
import { at, textAt } from "../../syntax/data.js";
import { filesMatching } from "../globbing.js";
import { readPodspec, type Podspec } from "../platforms/ios/podspec.js";
import { noHelpers } from "../platforms/ios/ruby-host.js";
import { readSwiftManifest, type ManifestTarget, type SwiftManifest } from "../platforms/ios/swift-manifest.js";
import type { ProjectFiles } from "../project-files.js";
import type { FactSink } from "../sink.js";
import { readAppleFramework } from "./apple-frameworks.js";
import { readGuardedFiles, readGuardedPod } from "./guarded-uses.js";
import { readPodPrivacy, readPrivacyManifest } from "./privacy-manifests.js";

/** Whose a part is, as findings name it, and the SDK. */
interface Owner {
  by: string;
  sdk: string;
}

/** Source: capacitorjs.com, "Cordova Plugins" (the pod that a sync writes for them). */
const COPIES = /(^|\/)capacitor-cordova-ios-plugins$/;

const FRAMEWORK = /\.(xc)?framework$/;
const SOURCE = /\.(swift|mm?)$/;

/** What the iOS packages that lie on this machine bring and use: installed pods, pods of the repository, checkouts of Swift packages. */
export function readIosPackages(project: ProjectFiles, app: FactSink): void {
  readPods(project, app);
  readSwiftPackages(project, app);
}

/** What a specification takes into the app besides what it depends on. */
export function readPodContents(project: ProjectFiles, app: FactSink, spec: Podspec, owner: Owner): void {
  app.iosPackageRead({ name: owner.by, by: owner.by });
  readGuardedPod(project, app, spec, owner);
  readPodPrivacy(project, app, spec, owner.by);
  for (const pattern of spec.vendored)
    for (const framework of filesMatching(project.tree, parentOf(spec.file), pattern))
      readAppleFramework(project, app, join(parentOf(spec.file), framework), owner.by, owner.sdk);
}

function readPods(project: ProjectFiles, app: FactSink): void {
  const podfile = app.ios?.pods?.file;
  if (podfile === undefined) return;
  const seen = new Set<string>();
  for (const dependency of app.dependencies) {
    const { ecosystem, name, platform, test, sdk, broughtBy, reference } = dependency;
    const [root] = name.split("/") as [string];
    if (ecosystem !== "cocoapods" || platform || test || broughtBy || seen.has(root)) continue;
    seen.add(root);
    if (reference?.kind === "path") {
      const folder = join(parentOf(podfile), reference.text);
      // Plugins are read where they are installed: here lie copies of their files.
      if (COPIES.test(folder)) continue;
      const file = [`${root}.podspec`, `${root}.podspec.json`].map((one) => join(folder, one)).find((one) => project.tree.isFile(one));
      const spec = file === undefined ? undefined : readPodspec(project, file, noHelpers);
      if (spec) readPodContents(project, app, spec, { by: root, sdk });
    } else readInstalledPod(project, app, join(parentOf(podfile), `Pods/${root}`), { by: root, sdk });
  }
}

/** An installed pod is left with those of its files that go into the build. Source: CocoaPods, `Sandbox::PodDirCleaner`. */
function readInstalledPod(project: ProjectFiles, app: FactSink, folder: string, owner: Owner): void {
  if (!project.tree.isFolder(folder)) return;
  app.iosPackageRead({ name: owner.by, by: owner.by });
  readFolder(project, app, folder, [], owner);
}

/** All that a folder brings whose files go into the build, but for some of them. */
function readFolder(project: ProjectFiles, app: FactSink, folder: string, exclude: readonly string[], owner: Owner): void {
  const files = filesMatching(project.tree, folder, "**/*")
    .filter((path) => !exclude.some((left) => isWithin(path, left)))
    .map((path) => join(folder, path));
  const frameworks = files.filter((path) => FRAMEWORK.test(path) && !/\.(xc)?framework\//.test(path));
  const loose = files.filter((path) => !/\.(xc)?framework(\/|$)/.test(path));
  for (const framework of frameworks) readAppleFramework(project, app, framework, owner.by, owner.sdk);
  for (const file of loose) if (baseName(file) === PRIVACY_MANIFEST) readPrivacyManifest(project, app, file, { by: owner.by, taken: true });
  readGuardedFiles(
    project,
    app,
    loose.filter((file) => SOURCE.test(file)),
    owner,
  );
}

/** A Swift package whose files are here. */
interface Checkout extends Owner {
  /** As the app names it. */
  name: string;
  folder: string;
  manifest: SwiftManifest;
  /** The repository's own: what it asks for was told when it was found. */
  own: boolean;
  artifacts: string | undefined;
}

/**
 * Swift packages as far as the app takes them in: from the products that its target has, by what their targets need.
 * Source: Swift Package Manager documentation, PackageDescription (Product, Target).
 */
function readSwiftPackages(project: ProjectFiles, app: FactSink): void {
  const { ios } = app;
  if (!ios || ios.target.packageProducts.length === 0) return;
  const checkouts = checkoutsOf(project, app);
  if (checkouts.length === 0) return;
  const reached = new Map<ManifestTarget, Checkout>();
  const take = (name: string, from?: Checkout): void => {
    const own = from?.manifest.targets.find((target) => target.name === name);
    if (own && from) return takeTarget(own, from);
    for (const checkout of checkouts)
      for (const target of checkout.manifest.targets)
        if (checkout.manifest.productTargets.get(name)?.includes(target.name)) takeTarget(target, checkout);
  };
  const takeTarget = (target: ManifestTarget, checkout: Checkout): void => {
    if (reached.has(target)) return;
    reached.set(target, checkout);
    for (const need of target.needs) take(need, checkout);
  };
  for (const { product } of ios.target.packageProducts) take(product);
  for (const checkout of new Set(reached.values())) {
    // A target whose framework was not fetched is not here.
    if (whole(project, reached, checkout)) app.iosPackageRead({ name: checkout.name, by: checkout.by });
    if (!checkout.own && checkout.manifest.iosTarget)
      app.required({ level: "iosTarget", value: checkout.manifest.iosTarget, by: checkout.by, sdk: checkout.sdk, from: "Package.swift" });
  }
  for (const [target, checkout] of reached) readTarget(project, app, target, checkout);
}

function whole(project: ProjectFiles, reached: ReadonlyMap<ManifestTarget, Checkout>, checkout: Checkout): boolean {
  return [...reached].every(([target, of]) => of !== checkout || !target.binary || frameworkOf(project, target, checkout) !== undefined);
}

/** The framework of a target that is one, where it lies here. */
function frameworkOf({ tree }: ProjectFiles, { name, path }: ManifestTarget, { folder, artifacts }: Checkout): string | undefined {
  const beside = artifacts === undefined ? [] : filesMatching(tree, artifacts, `${name}/*.xcframework`);
  const framework = path !== undefined ? join(folder, path) : beside[0] && join(artifacts ?? "", beside[0]);
  return framework !== undefined && tree.isFolder(framework) ? framework : undefined;
}

function readTarget(project: ProjectFiles, app: FactSink, target: ManifestTarget, checkout: Checkout): void {
  const { folder, by, sdk } = checkout;
  if (target.binary) {
    const framework = frameworkOf(project, target, checkout);
    if (framework !== undefined) readAppleFramework(project, app, framework, by, sdk);
    return;
  }
  const places = target.path === undefined ? ["Sources", "Source", "src", "srcs"].map((name) => `${name}/${target.name}`) : [target.path];
  const source = places.map((path) => join(folder, path)).find((path) => project.tree.isFolder(path));
  if (source !== undefined) readFolder(project, app, source, target.exclude, { by, sdk });
}

function checkoutsOf(project: ProjectFiles, app: FactSink): Checkout[] {
  const { tree } = project;
  const found = new Map<string, Checkout>();
  const open = (name: string, folder: string, owner: Owner, own: boolean, artifacts?: string): void => {
    const file = join(folder, "Package.swift");
    const manifest = !found.has(folder) && tree.isFile(file) ? readSwiftManifest(project, file) : undefined;
    if (manifest) found.set(folder, { name, folder, manifest, own, artifacts, ...owner, by: manifest.name ?? owner.by });
  };
  for (const { kind, side, resolved } of app.paths)
    if (kind === "package" && side === "ios" && resolved !== undefined)
      open(resolved, resolved, { by: baseName(resolved), sdk: sdkIdOf("swiftpm", baseName(resolved)) }, true);
  const remote = app.dependencies.filter(({ ecosystem, test }) => ecosystem === "swiftpm" && !test);
  for (const folder of remote.length === 0 ? [] : checkoutFolders(project, app))
    for (const entry of tree.list(folder)) {
      const dependency = remote.find(({ name }) => packageIdentity(name) === entry.name.toLowerCase());
      if (dependency && !dependency.platform)
        open(
          dependency.name,
          join(folder, entry.name),
          ownerOf(dependency),
          false,
          join(parentOf(folder), `artifacts/${entry.name.toLowerCase()}`),
        );
    }
  return [...found.values()];
}

function ownerOf({ name, sdk }: Dependency): Owner {
  return { by: name.replace(/^.*\//, "").replace(/\.git$/, ""), sdk };
}

/**
 * Where checkouts of packages lie: where a build was told to keep them, a build folder in the tree, or the folder for this project below the one
 * for all. Source: developer.apple.com, "xcodebuild" (-clonedSourcePackagesDirPath, -derivedDataPath); Xcode's `info.plist` (WorkspacePath).
 */
function checkoutFolders(project: ProjectFiles, app: FactSink): string[] {
  const { tree, packageFolders } = project;
  const base = app.ios?.folder ?? "";
  const near = [...new Set([base, parentOf(base), ""])].flatMap((folder) =>
    ["SourcePackages", ".build", "build/SourcePackages", "DerivedData/SourcePackages"].map((name) => join(folder, `${name}/checkouts`)),
  );
  const given = packageFolders.flatMap((folder) => [join(folder, "checkouts"), join(folder, "SourcePackages/checkouts")]);
  const derived = packageFolders
    .filter((folder) => baseName(folder) === "DerivedData")
    .flatMap((folder) => tree.list(folder).map(({ name }) => join(folder, name)))
    .filter((folder) => isBuildOf(project, app, folder))
    .map((folder) => join(folder, "SourcePackages/checkouts"));
  return [...near, ...given, ...derived].filter((folder) => tree.isFolder(folder));
}

/** Whether a folder with what a build laid down is one of this project. */
function isBuildOf(project: ProjectFiles, app: FactSink, folder: string): boolean {
  const list = join(folder, "info.plist");
  const { place } = project.tree;
  if (place === undefined || !project.tree.isFile(list)) return false;
  const workspace = textAt(at(project.plist(list)?.root, "WorkspacePath"));
  return workspace !== undefined && parentOf(workspace) === join(place, app.ios?.folder ?? "");
}
