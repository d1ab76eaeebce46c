import path from "node:path";
import { Args, Flags } from "@oclif/core";
import { choices } from "../../core/model/suggest.js";
import { DiskTree } from "../../core/files/disk.js";
import type { App, Survey } from "../../core/model/app.js";
import type { PageNeed } from "../../core/needs/draft.js";
import { COMMON_FLAGS, EnredoCommand, UsageProblem, type CommonFlags } from "../base.js";
import { core } from "../core.js";
import { reasonText } from "../../core/model/reason.js";

export default class SheetDraftCommand extends EnredoCommand {
  static override summary = "Write a sheet from an app in which the SDK works";
  static override description =
    "From the app's own wiring, from what the code of the SDK's packages uses, and from the pages that come with them. Each line says where it came from; what a person has to check is marked unsure.";
  static override examples = [
    "<%= config.bin %> sheet draft quaymap --from apps/deckpass",
    "<%= config.bin %> sheet draft quaymap --from . --output enredo/sheets/quaymap.sdk.yaml",
  ];
  static override args = { sdk: Args.string({ description: "short id of the SDK, as survey shows it", required: true }) };
  static override flags = {
    between: Flags.string({
      description: "write it from what a change added: two revisions of this repository",
      helpValue: "REV1..REV2",
      exclusive: ["from"],
    }),
    from: Flags.string({ description: "folder of the app", default: ".", helpValue: "DIR" }),
    app: COMMON_FLAGS.app,
    config: COMMON_FLAGS.config,
    output: Flags.string({ description: "write to this file instead of stdout", helpValue: "FILE" }),
    verbose: COMMON_FLAGS.verbose,
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(SheetDraftCommand);
    const { broughtIn, draftSheet, sdkCalled, tracedSdks } = await core();
    const { before, survey } =
      flags.between === undefined
        ? { before: undefined, survey: (await this.load(flags.from, flags)).survey }
        : await this.revisions(flags.between, flags);
    const known = [...new Set(survey.apps.flatMap(tracedSdks))].sort();
    const sdk = sdkCalled(args.sdk, known, survey.apps) ?? args.sdk;
    for (const app of survey.apps) {
      const old = before?.apps.find(({ name }) => name === app.name);
      const draft = old
        ? draftSheet(broughtIn(old, app), sdk, { everything: true })
        : draftSheet(app, sdk, { steps: await this.pagesOf(app, sdk, flags.from) });
      if (draft === undefined) continue;
      this.output(draft, flags.output);
      return;
    }
    throw new UsageProblem(`no SDK is called "${args.sdk}"; ${choices(args.sdk, known, "third-party SDK")}`);
  }

  /** What the pages of an SDK's installed packages ask for; nothing where none is here. */
  private async pagesOf({ dependencies, path: from }: App, sdk: string, dir: string): Promise<PageNeed[] | undefined> {
    const { pageOfPackage, pagesBeside, ProjectFiles, readPage } = await core();
    const project = new ProjectFiles(new DiskTree(path.resolve(dir)));
    const names = new Set(
      dependencies.flatMap(({ sdk: of, name, ecosystem, test }) =>
        of === sdk && !test && /^(npm|pub|cordova)$/.test(ecosystem) ? name : [],
      ),
    );
    const found: PageNeed[] = [];
    let pages = 0;
    for (const name of names) {
      const page = pageOfPackage(project, name, from);
      if (!page) continue;
      pages++;
      const { steps } = await readPage(page, name, pagesBeside(project, path.posix.dirname(page.file)));
      found.push(
        ...steps.map(({ on, kind, value, optional, file, line }) => ({ on, kind, value, optional, at: { file, line, column: 1 } })),
      );
    }
    return pages === 0 ? undefined : found;
  }

  /** What the repository here held before a change, and after it. */
  private async revisions(between: string, flags: CommonFlags): Promise<{ before: Survey; survey: Survey }> {
    const [, from, to] = /^(.+?)\.\.\.?(.+)$/.exec(between) ?? [];
    if (from === undefined || to === undefined)
      throw new UsageProblem(`--between takes two revisions, such as main..HEAD; "${between}" is not that`);
    const { openRevision } = await core();
    const surveys: Survey[] = [];
    for (const revision of [from, to]) {
      const opened = openRevision(process.cwd(), revision);
      if (!opened.ok) throw new UsageProblem(reasonText(opened.why));
      surveys.push((await this.load(opened.tree, flags)).survey);
    }
    return { before: surveys[0] as Survey, survey: surveys[1] as Survey };
  }
}
