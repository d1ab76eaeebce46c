import { COMMON_FLAGS, DIR_ARG, EnredoCommand, isTold } from "./base.js";
import { core } from "./core.js";

/** What `enredo` without a command shows. */
export default class NextCommand extends EnredoCommand {
  static override summary = "What to do next in this folder";
  static override hidden = true;
  static override args = DIR_ARG;
  static override flags = COMMON_FLAGS;

  async run(): Promise<void> {
    const { args, flags } = await this.parse(NextCommand);
    const style = this.style(flags);
    const lines = [
      `${style.bold("Enredo")} checks how third-party SDKs are wired into mobile apps. \`enredo --help\` lists its commands.`,
      "",
    ];
    const steps: [command: string, why: string][] = [];
    const step = (command: string, why: string): void => void steps.push([command, why]);
    try {
      const loaded = await this.load(args.dir, flags);
      const report = await this.reportOf(loaded.project, flags);
      const { tracedSdks } = await core();
      const { clean, plural } = await import("../views/text/style.js");
      const { apps } = report.survey;
      const sdks = [...new Set(apps.flatMap(tracedSdks))];
      const described = new Set(apps.flatMap((app) => app.sheets));
      const { errors, warnings } = report.summary;
      lines.push(
        `Here: ${plural(apps.length, "app")} (${apps
          .slice(0, 5)
          .map(({ name }) => clean(name))
          .join(
            ", ",
          )}${apps.length > 5 ? ", …" : ""}), ${plural(sdks.length, "SDK")}, ${plural(errors, "error")}, ${plural(warnings, "warning")}.`,
        "",
      );
      step("enredo check", errors + warnings > 0 ? "the findings, and what to do" : "nothing is wrong; this is for CI");
      if (report.findings.some(({ quickFix }) => quickFix !== undefined && quickFix.length > 0))
        step("enredo patch | git apply", "fixes what can be fixed safely");
      const worst =
        report.findings.find(({ sdk }) => sdk !== undefined && sdks.includes(sdk))?.sdk ??
        sdks.find((sdk) => described.has(sdk)) ??
        sdks[0];
      if (worst !== undefined) step(`enredo trace ${worst}`, "every wire of this SDK");
      const bare = sdks.find((sdk) => !described.has(sdk));
      if (bare !== undefined) step(`enredo sheet draft ${bare}`, "writes down what it needs; it has no sheet yet");
      step("enredo startup", "what runs at launch, in order");
    } catch (error) {
      if (!isTold(error)) throw error;
      const { clean } = await import("../views/text/style.js");
      lines.push(`Here: ${clean(error.message.split(":")[0] ?? "")}.`, "");
      step("enredo demo", "creates sample apps and shows what it finds in them");
      step("enredo check DIR", "checks the app in another folder");
    }
    const width = Math.max(...steps.map(([command]) => command.length)) + 2;
    for (const [command, why] of steps) lines.push(`  ${style.bold(command.padEnd(width))}${why}`);
    this.output(`${lines.join("\n")}\n`);
  }
}
