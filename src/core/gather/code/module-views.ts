import type { AndroidSide } from "../../model/app.js";
import type { GradleModule } from "../../model/gradle.js";
import { parentOf } from "../../model/paths.js";

/** The modules of a build, asked for by their files and by what they see of each other. */
export class ModuleViews {
  private readonly byFolder: ReadonlyMap<string, GradleModule>;
  private readonly handed = new Map<GradleModule, ReadonlySet<string>>();
  private byPlainPath: Map<string, GradleModule> | undefined;

  constructor(
    private readonly build: AndroidSide["build"],
    modules: Iterable<GradleModule> = build.modules.values(),
  ) {
    this.byFolder = new Map([...modules].map((module) => [module.folder, module]));
  }

  /** The module in whose folder a file lies, the nearest above it. */
  of(file: string): GradleModule | undefined {
    for (let folder = parentOf(file); ; folder = parentOf(folder)) {
      const found = this.byFolder.get(folder);
      if (found || folder === "" || folder.startsWith("../")) return found;
    }
  }

  /** The modules whose code a module sees: those that it depends on, and what they hand on. */
  handedTo(module: GradleModule): ReadonlySet<string> {
    const known = this.handed.get(module);
    if (known) return known;
    const handing = new Set<string>();
    const open = module.modules.map(({ path }) => path);
    for (let path = open.pop(); path !== undefined; path = open.pop()) {
      const found = this.build.modules.get(path.startsWith(":") ? path : `:${path}`) ?? this.called(path);
      if (!found || handing.has(found.path)) continue;
      handing.add(found.path);
      open.push(...found.modules.filter(({ configuration }) => /api/i.test(configuration)).map((reference) => reference.path));
    }
    this.handed.set(module, handing);
    return handing;
  }

  /** `projects.coreUi` is `:coreUi` or `:core-ui`. */
  private called(path: string): GradleModule | undefined {
    const plain = (text: string): string => text.replace(/[-_.:]/g, "").toLowerCase();
    this.byPlainPath ??= new Map([...this.build.modules.values()].toReversed().map((module) => [plain(module.path), module]));
    return this.byPlainPath.get(plain(path));
  }
}
