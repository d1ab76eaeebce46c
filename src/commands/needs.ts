import { existsSync, readFileSync, statSync } from "node:fs";
import path from "node:path";
import { Args, Flags } from "@oclif/core";
import { DiskTree } from "../core/files/disk.js";
import type { Survey } from "../core/model/app.js";
import type { PackageNeeds, PackagePage, Page } from "../core/project/package-needs/index.js";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand, UsageProblem, type CommonFlags } from "./base.js";
import { core } from "./core.js";

export default class NeedsCommand extends EnredoCommand {
  static override summary = "What a package needs you to do, by its own page and files, and what of it is done";
  static override description =
    "Reads the README of the installed package (or of --from FOLDER, or another page with --page FILE), takes the steps under its setup headings, and checks each against the app. What the page says for some apps only is optional. What has to be done by hand, or was not understood, is listed with its heading.";
  static override examples = [
    "<%= config.bin %> needs @quaymap/react-native",
    "<%= config.bin %> needs @tollbuoy/react-native --from ~/Downloads/package",
    "<%= config.bin %> needs @quaymap/react-native --page setup.html --sheet > enredo/sheets/quaymap.sdk.yaml",
  ];
  static override args = { package: Args.string({ description: "name of the package", required: true }), ...DIR_ARG };
  static override flags = {
    ...COMMON_FLAGS,
    from: Flags.string({ description: "folder of a package that is not in the project yet", helpValue: "FOLDER" }),
    page: Flags.string({ description: "a page in Markdown or HTML, saved from the vendor", helpValue: "FILE", exclusive: ["from"] }),
    sheet: Flags.boolean({ description: "write a sheet with the steps instead of holding them against the app" }),
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(NeedsCommand);
    const { packageNeeds, readPage, sheetFromPage } = await core();
    const { survey } = await this.load(args.dir, flags);
    const found = await this.pageFor(
      args.package,
      args.dir,
      survey.apps.map((app) => app.path),
      flags,
    );
    const isKnown = survey.apps.some(({ dependencies }) => dependencies.some(({ name }) => name === args.package));
    if (!found && !isKnown && flags.from === undefined)
      throw new UsageProblem(
        `no page of ${args.package} is here: it is not installed; give its folder with --from, or a saved page with --page`,
      );
    const page = found && (await readPage(found.page, args.package, found.beside));
    if (flags.sheet) {
      if (!page) throw new UsageProblem(`no page of ${args.package} is here; give one with --page`);
      const own = survey.apps.flatMap(({ dependencies }) => dependencies).find(({ name }) => name === args.package);
      const { sdk } = packageNeeds(survey.apps[0] as (typeof survey.apps)[number], args.package, undefined);
      this.output(sheetFromPage(page, args.package, own?.ecosystem ?? "npm", sdk));
      return;
    }
    const all =
      isKnown || flags.from === undefined
        ? survey.apps.map((app) => packageNeeds(app, args.package, page))
        : await this.asGuest(args, flags, survey, page);
    const having = all.filter(({ isIn }) => isIn);
    const shown = (having.length > 0 ? having : all.slice(0, 1)).map((needs) => ({
      ...needs,
      trace: { ...needs.trace, sides: needs.trace.sides.filter(({ side }) => flags.side === undefined || side === flags.side) },
    }));
    if (flags.json) {
      const { needsDocument } = await import("../views/json/needs.js");
      this.output(this.json(needsDocument(survey.root, args.package, shown, page)));
      return;
    }
    const { needsText } = await import("../views/text/needs.js");
    this.output(needsText(shown, page, this.style(flags), flags.verbose ?? false));
  }

  /** What the first app would have to do for a package that lies in a folder, read as if it were installed. */
  private async asGuest(
    args: { package: string; dir: string },
    flags: CommonFlags & { from?: string },
    survey: Survey,
    page: PackagePage | undefined,
  ): Promise<PackageNeeds[]> {
    const { packageNeeds, withPackage } = await core();
    const [app] = survey.apps;
    const tree = app && withPackage(new DiskTree(path.resolve(args.dir)), app, args.package, new DiskTree(path.resolve(flags.from ?? "")));
    const seen = tree && (await this.load(tree, flags)).survey.apps.find(({ name }) => name === app.name);
    return seen ? [packageNeeds(seen, args.package, page, true)] : survey.apps.map((one) => packageNeeds(one, args.package, page));
  }

  private async pageFor(
    name: string,
    dir: string,
    apps: readonly string[],
    { page, from }: { page?: string; from?: string },
  ): Promise<{ page: Page; beside?: (path: string) => Page | undefined } | undefined> {
    const { pageIn, pageOfPackage, pagesBeside, ProjectFiles } = await core();
    const slashed = (file: string): string => file.split(path.sep).join("/");
    if (page !== undefined) {
      if (!existsSync(page) || !statSync(page).isFile()) throw new UsageProblem(`there is no page ${page}`);
      return { page: { file: slashed(page), text: readFileSync(page, "utf8") } };
    }
    if (from !== undefined) {
      if (!statSync(from, { throwIfNoEntry: false })?.isDirectory()) throw new UsageProblem(`there is no folder ${from}`);
      const project = new ProjectFiles(new DiskTree(path.resolve(from)));
      const found = pageIn(project, "");
      if (!found) {
        if (!project.tree.isFile("package.json") && !project.tree.isFile("pubspec.yaml"))
          throw new UsageProblem(`the folder ${from} holds no package: it has no package.json, pubspec.yaml or README`);
        return undefined;
      }
      const named = (one: Page): Page => ({ ...one, file: slashed(path.join(from, one.file)) });
      const beside = pagesBeside(project, "");
      return {
        page: named(found),
        beside: (to) => {
          const further = beside(to);
          return further && named(further);
        },
      };
    }
    const project = new ProjectFiles(new DiskTree(path.resolve(dir)));
    for (const app of apps) {
      const found = pageOfPackage(project, name, app);
      if (found) return { page: found, beside: pagesBeside(project, path.posix.dirname(found.file)) };
    }
    return undefined;
  }
}
