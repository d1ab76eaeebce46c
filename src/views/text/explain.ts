import type { ProjectRule, Rule } from "../../core/rules/rule.js";
import { wrapped } from "./layout.js";
import { SEVERITY_MARKS, type Style } from "./style.js";

type AnyRule = Rule | ProjectRule;

/** What a rule says of itself, with its two examples. */
export function explainText(rule: AnyRule, style: Style): string {
  const { sign, word } = SEVERITY_MARKS[rule.severity];
  const part = (title: string, text: string): string[] => [style.bold(title), wrapped(style, text, 2), ""];
  const changed = Object.keys(rule.examples.reported).filter((file) => rule.examples.reported[file] !== rule.examples.silent[file]);
  const added = Object.keys(rule.examples.silent).filter((file) => !(file in rule.examples.reported));
  const show = (example: Record<string, string>, files: string[]): string[] =>
    files.flatMap((file) =>
      file in example
        ? [
            `  ${style.place(file)}`,
            ...(example[file] ?? "")
              .trimEnd()
              .split("\n")
              .map((line) => `    ${line}`),
            "",
          ]
        : [],
    );
  return [
    `${style.bold(rule.name)}  ${sign} ${word}`,
    rule.title,
    "",
    ...part("What it looks at", rule.looksAt),
    ...(rule.silentFor === undefined ? [] : part("Where it cannot apply", rule.silentFor)),
    ...part("Why it matters", rule.why),
    ...part("How to mend it", rule.advice),
    style.bold("Reported"),
    ...show(rule.examples.reported, changed.length > 0 ? changed : Object.keys(rule.examples.reported).slice(0, 1)),
    style.bold("Not reported"),
    ...show(rule.examples.silent, [...changed, ...added]),
  ]
    .join("\n")
    .trimEnd()
    .concat("\n");
}

export function ruleListText(rules: readonly AnyRule[], style: Style): string {
  const lines: string[] = [];
  let concern = "";
  for (const rule of rules) {
    const own = rule.name.split("/")[0] as string;
    if (own !== concern) lines.push(...(concern ? [""] : []), style.bold(own));
    concern = own;
    lines.push(`  ${rule.name.padEnd(28)} ${SEVERITY_MARKS[rule.severity].word.padEnd(8)} ${rule.title}`);
  }
  return `${lines.join("\n")}\n\nenredo explain RULE tells what a rule looks at, why, and how to mend it.\n`;
}

/** The page of a rule for docs/rules. */
export function ruleMarkdown(rule: AnyRule): string {
  const changed = Object.keys(rule.examples.silent).filter((file) => rule.examples.reported[file] !== rule.examples.silent[file]);
  const reportedFiles = Object.keys(rule.examples.reported).filter((file) => rule.examples.reported[file] !== rule.examples.silent[file]);
  const block = (example: Record<string, string>, files: string[]): string =>
    files.flatMap((file) => (file in example ? [`\`${file}\`\n\n\`\`\`\n${(example[file] ?? "").trimEnd()}\n\`\`\`\n`] : [])).join("\n");
  return `# ${rule.name}\n\n**${rule.title}** (${rule.severity})\n\n## What it looks at\n\n${rule.looksAt}\n\n${rule.silentFor === undefined ? "" : `## Where it cannot apply\n\n${rule.silentFor}\n\n`}## Why it matters\n\n${rule.why}\n\n## How to mend it\n\n${rule.advice}\n\n## Reported\n\n${block(rule.examples.reported, reportedFiles) || "The file named in the mended state is not there.\n"}\n## Not reported\n\n${block(rule.examples.silent, changed) || "The same project without the file named above.\n"}`;
}
