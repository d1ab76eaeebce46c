import { existsSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from "node:fs";
import path from "node:path";
import { Flags } from "@oclif/core";
import type { PatchPlan, PatchedFile } from "../core/project/patch/plan.js";
import type { UnifiedDiff } from "../views/patch/unified.js";
import { suggestion } from "../core/model/suggest.js";
import { holdsPassword } from "../core/model/address.js";
import type { PatchDocument } from "../views/json/types.js";
import { COMMON_FLAGS, DIR_ARG, EnredoCommand, UsageProblem, Exact } from "./base.js";
import { core } from "./core.js";
import { reasonText } from "../core/model/reason.js";

export default class PatchCommand extends EnredoCommand {
  static override summary = "A unified diff that fixes what can be fixed safely";
  static override description =
    "Prints what `git apply` takes, with paths from DIR. Each change is checked against the rules first: its finding goes away, and no new one appears. Lines are shown as they are, including keys. --write applies it.";
  static override examples = [
    "<%= config.bin %> patch",
    "<%= config.bin %> patch | git apply",
    "<%= config.bin %> patch --rule level/below-need --write",
  ];
  static override args = DIR_ARG;
  static override flags = {
    ...COMMON_FLAGS,
    rule: Flags.string({
      description: "only findings of this rule (may be repeated)",
      multiple: true,
      multipleNonGreedy: true,
      helpValue: "RULE",
    }),
    accept: Flags.string({
      description: "accept the findings of this rule in the settings, with a reason to fill in (may be repeated)",
      multiple: true,
      multipleNonGreedy: true,
      helpValue: "RULE",
    }),
    write: Flags.boolean({ description: "change the files, all or none" }),
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(PatchCommand);
    const { DiskTree, RULE_NAMES, acceptEntries, secretsOf, withoutSecrets } = await core();
    for (const rule of [...(flags.rule ?? []), ...(flags.accept ?? [])])
      if (!RULE_NAMES.includes(rule)) throw new UsageProblem(`there is no rule "${rule}"; ${suggestion(rule, RULE_NAMES) ?? ""}`);
    const loaded = await this.load(args.dir, flags);
    const report = await this.reportOf(loaded.project, flags);
    const tree = new DiskTree(path.resolve(args.dir));
    const plan =
      flags.accept !== undefined && flags.rule === undefined
        ? { files: [], mended: [], left: [] }
        : await loaded.project.patch({ rules: flags.rule });
    const files = [...plan.files];
    if (flags.accept !== undefined) {
      const accepted = acceptEntries(
        tree,
        report.findings.filter(({ rule }) => flags.accept?.includes(rule)),
      );
      if (accepted) files.push(accepted);
    }
    const { unifiedDiff } = await import("../views/patch/unified.js");
    const secrets = new Set(loaded.survey.apps.flatMap((app) => [...secretsOf(app, loaded.sheets.sheets)]));
    const isSecret = (line: string): boolean => holdsPassword(line) || withoutSecrets(line, secrets) !== line;
    const inService = !flags.write && !flags.json && (process.env.GITHUB_ACTIONS !== undefined || process.env.TF_BUILD !== undefined);
    const commands = inService ? files.filter((file) => SERVICE_COMMAND.test(unifiedDiff([file]).text)).map(({ file }) => file) : [];
    const { text: diff, shows } = unifiedDiff(
      files.filter(({ file }) => !commands.includes(file)),
      isSecret,
    );
    if (flags.write) writeAll(path.resolve(args.dir), files);
    // On a screen nothing of a file may do more than be seen; a program gets every byte.
    else if (!flags.json) this.output(process.stdout.isTTY ? diff : new Exact(diff));
    if (flags.json)
      this.output(
        this.json(
          {
            schema: "enredo.patch/1",
            root: loaded.survey.root,
            written: flags.write ?? false,
            diff,
            mended: plan.mended.map(({ rule, app, message, fingerprint }) => ({ rule, app, message, fingerprint })),
            left: plan.left.map(({ finding: { rule, app, message, fingerprint }, why }) => ({
              rule,
              app,
              message,
              fingerprint,
              why: reasonText(why),
            })),
            shows,
          } satisfies PatchDocument,
          true,
        ),
      );
    this.sum(report.findings.length, files.length, plan, { commands, shows, written: flags.write ?? false, verbose: flags.verbose });
  }

  /** What was fixed and what was not, in lines beside the patch. */
  private sum(
    findings: number,
    files: number,
    { mended, left }: PatchPlan,
    {
      commands,
      shows,
      written,
      verbose,
    }: { commands: readonly string[]; shows: UnifiedDiff["shows"]; written: boolean; verbose: boolean | undefined },
  ): void {
    const done = `${mended.length} ${mended.length === 1 ? "finding" : "findings"} fixed in ${files} ${files === 1 ? "file" : "files"}`;
    this.say(
      `enredo: ${files === 0 ? "nothing here can be fixed by a patch" : `${done}${written ? ", written" : ""}`}; ${findings - mended.length} left`,
    );
    for (const { finding, why } of left.slice(0, verbose ? undefined : 5))
      this.say(`  not fixed: ${finding.rule} ${finding.message}: ${reasonText(why)}`);
    for (const file of commands) this.say(`  left out: ${file}: it has lines that the CI service would take for commands`);
    if (!written)
      for (const { file, line } of shows) this.say(`  the patch shows a key or password, in a line that it needs: ${file}:${line}`);
  }
}

/** A line of a patch that a service would run. Source: docs.github.com, "Workflow commands"; learn.microsoft.com, "Logging commands". */
const SERVICE_COMMAND = /^[ +-]?\s*::|##[\w-]*\[/m;

/** Writes all files or none; a file that changed since it was read stops it. */
function writeAll(root: string, files: readonly PatchedFile[]): void {
  const full = (file: string): string => path.join(root, ...file.split("/"));
  for (const { file, before } of files) {
    const now = existsSync(full(file)) ? readFileSync(full(file), "utf8") : "";
    if (now !== before) throw new UsageProblem(`${file} was changed in the meantime; nothing was written, run it again`);
  }
  const written: string[] = [];
  const renamed: PatchedFile[] = [];
  try {
    for (const { file, after } of files) {
      const mode = existsSync(full(file)) ? statSync(full(file)).mode : 0o644;
      const temporary = `${full(file)}.enredo-${process.pid}`;
      writeFileSync(temporary, after, { mode, flag: "wx" });
      written.push(temporary);
    }
    for (const file of files) {
      renameSync(`${full(file.file)}.enredo-${process.pid}`, full(file.file));
      renamed.push(file);
    }
  } catch (error) {
    for (const { file, before } of renamed) {
      if (before === "") rmSync(full(file), { force: true });
      else writeFileSync(full(file), before);
    }
    for (const temporary of written) rmSync(temporary, { force: true });
    throw new UsageProblem(`nothing was written: ${(error as Error).message}`);
  }
}
