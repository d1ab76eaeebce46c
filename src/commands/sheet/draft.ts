import { Args, Flags } from "@oclif/core";
import { suggestion } from "../../core/model/suggest.js";
import { COMMON_FLAGS, EnredoCommand, UsageProblem } from "../base.js";

export default class SheetDraftCommand extends EnredoCommand {
  static override summary = "Write a sheet out of an app in which the SDK works";
  static override description = "Each line says where it came from; what a person has to look at is marked unsure.";
  static override examples = [
    "<%= config.bin %> sheet draft quaymap --from apps/deckpass",
    "<%= config.bin %> sheet draft quaymap --from . --output enredo/sheets/quaymap.sdk.yaml",
  ];
  static override args = { sdk: Args.string({ description: "short id of the SDK, as survey shows it", required: true }) };
  static override flags = {
    from: Flags.string({ description: "folder of the app", default: ".", helpValue: "DIR" }),
    app: COMMON_FLAGS.app,
    config: COMMON_FLAGS.config,
    output: Flags.string({ description: "write to this file instead of stdout", helpValue: "FILE" }),
    verbose: COMMON_FLAGS.verbose,
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(SheetDraftCommand);
    const { survey } = await this.load(flags.from, flags);
    const { draftSheet, tracedSdks } = await import("../../core/index.js");
    for (const app of survey.apps) {
      const draft = draftSheet(app, args.sdk);
      if (draft === undefined) continue;
      this.output(draft, flags.output);
      return;
    }
    const known = [...new Set(survey.apps.flatMap(tracedSdks))].sort();
    throw new UsageProblem(`no SDK is called "${args.sdk}"; ${suggestion(args.sdk, known) ?? ""} Found: ${known.slice(0, 20).join(", ")}`);
  }
}
