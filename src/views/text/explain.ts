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
            ...shownFile(example[file] ?? "")
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
    ...part("How to fix it", rule.advice),
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
  return `${lines.join("\n")}\n\nenredo explain RULE tells what a rule looks at, why, and how to fix it.\n`;
}

/** The page of a rule for docs/rules; `answer` is what a check says of the reported example. */
export function ruleMarkdown(rule: AnyRule, answer: string): string {
  const { name, title, severity, looksAt, silentFor, why, advice, examples } = rule;
  const differing = (of: Record<string, string>, other: Record<string, string>): string[] =>
    Object.keys(of).filter((file) => of[file] !== other[file]);
  const block = (example: Record<string, string>, files: string[]): string =>
    files.flatMap((file) => (file in example ? [`\`${file}\`\n\n\`\`\`\n${shownFile(example[file] ?? "")}\n\`\`\`\n`] : [])).join("\n");
  const part = (head: string, text: string | undefined): string[] => (text === undefined ? [] : [`## ${head}`, "", text.trimEnd(), ""]);
  return `${[
    `# ${name}`,
    "",
    `**${title}** (${severity})`,
    "",
    ...part("What it looks at", looksAt),
    ...part("Where it cannot apply", silentFor),
    ...part("Why it matters", why),
    ...part("How to fix it", advice),
    ...part(
      "Reported",
      block(examples.reported, differing(examples.reported, examples.silent)) || "The file named in the fixed state is not there.",
    ),
    ...part("What a check says", `\`\`\`\n${answer}\n\`\`\``),
    ...part(
      "Not reported",
      block(examples.silent, differing(examples.silent, examples.reported)) || "The same project without the file named above.",
    ),
  ].join("\n")}`;
}

/** A file of an example as text; of binary data how much it is. */
function shownFile(text: string): string {
  return text.includes("\0") ? `(binary data, ${text.length} bytes)` : text.trimEnd();
}
