import { COMMON_FLAGS, DIR_ARG, EnredoCommand } from "./base.js";

export default class PermitsCommand extends EnredoCommand {
  static override summary =
    "The ledger of permissions, purpose texts, entitlements, background modes: who brings each, and its counterpart";
  static override description =
    "What the finished app asks users for and declares to the system, on each side: the app's own entries and those that packages and archives add, as manifests are merged. A dot marks what users are asked for when the app runs. What packages from registries add is read from Gradle's cache on this machine, and from folders given with --packages.";
  static override examples = [
    "<%= config.bin %> permits",
    "<%= config.bin %> permits apps/deckpass --verbose",
    "<%= config.bin %> permits --json",
  ];
  static override args = DIR_ARG;
  static override flags = COMMON_FLAGS;

  async run(): Promise<void> {
    const { args, flags } = await this.parse(PermitsCommand);
    const { project, survey, sheets } = await this.load(args.dir, flags);
    this.warnOf(sheets.problems);
    const apps = (await project.permits()).map(({ answer }) => ({
      ...answer,
      sides: answer.sides.filter(({ side }) => flags.side === undefined || side === flags.side),
    }));
    if (flags.json) {
      const { permitsDocument } = await import("../views/json/permits.js");
      this.output(this.json(permitsDocument(survey.root, apps)));
      return;
    }
    const { permitsText } = await import("../views/text/permits.js");
    this.output(permitsText(apps, this.style(flags), flags.verbose ?? false));
  }
}
