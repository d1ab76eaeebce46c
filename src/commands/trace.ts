import { Args, Flags } from "@oclif/core";
import type { Wire } from "../core/needs/wire.js";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand } from "./base.js";
import { core } from "./core.js";

export default class TraceCommand extends EnredoCommand {
  static override summary = "Every wire of one SDK in the vendor's order, on each side, with places";
  static override description = "The needs in the SDK's sheet come first, then those of its package files.";
  static override examples = ["<%= config.bin %> trace quaymap", "<%= config.bin %> trace quaymap --at 5.0.0"];
  static override args = {
    sdk: Args.string({ description: "short id of the SDK, as survey shows it, or the name of its package", required: true }),
    ...DIR_ARG,
  };
  static override flags = {
    ...COMMON_FLAGS,
    at: Flags.string({ description: "what an upgrade to this version would additionally need", helpValue: "VERSION" }),
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(TraceCommand);
    const { project, survey, sheets } = await this.load(args.dir, flags);
    this.warnOf(sheets.problems);
    const { traceOf } = await core();
    const wanted = await project.trace(args.sdk, { at: flags.at });
    const sdk = wanted[0]?.answer.sdk ?? args.sdk;
    const keep = <T extends { side: string }>(sides: T[]): T[] =>
      sides.filter(({ side }) => flags.side === undefined || side === flags.side);
    const traces = wanted.map(({ app, answer }) => ({ app, trace: { ...answer, sides: keep(answer.sides) } }));
    const present = traces.filter(({ trace }) => trace.sides.length > 0);
    const shown = present.length > 0 ? present : traces.slice(0, 1);
    const additional = (app: (typeof traces)[number]["app"], wires: Wire[]): Wire[] => {
      const today = traceOf(app, sheets.sheets, sdk).sides.flatMap((entry) => entry.wires);
      const applies = (wire: Wire): boolean =>
        today.some(({ need, state }) => need.at === wire.need.at && need.side === wire.need.side && state !== "unneeded");
      return wires.filter((wire) => wire.need.derived === undefined && wire.state !== "unneeded" && !applies(wire));
    };
    if (flags.json) {
      const { traceDocument } = await import("../views/json/trace.js");
      this.output(this.json(traceDocument(survey.root, sdk, shown, flags.at === undefined ? undefined : { at: flags.at, additional })));
      return;
    }
    const { traceText, upgradeText } = await import("../views/text/trace.js");
    const options = { verbose: flags.verbose, at: flags.at };
    this.output(
      flags.at === undefined
        ? traceText(shown, this.style(flags), options)
        : upgradeText(
            shown.map(({ app, trace }) => ({
              app,
              sdk,
              at: flags.at as string,
              wires: additional(
                app,
                trace.sides.flatMap(({ wires }) => wires),
              ),
            })),
            this.style(flags),
            options,
          ),
    );
  }
}
