import { levelTable, type LevelRow } from "../../core/derive/level-table.js";
import type { Survey } from "../../core/model/app.js";
import type { LevelFact, SideName } from "../../core/model/facts.js";
import { reasonText } from "../../core/model/reason.js";
import { textOf } from "../../core/model/value.js";
import { compareLevels, isLevel } from "../../core/versions/level.js";
import { appLine } from "./check.js";
import { placeText, SIDE_TITLES } from "./labels.js";
import { wrapped } from "./layout.js";
import { valueText } from "./survey.js";
import { clean, type Style } from "./style.js";

const OWNERS: Record<LevelFact["owner"], string> = { app: "", module: "module", project: "", podfile: "", pods: "", package: "package" };

/** The ledger of levels: who states each, who asks for how much, and how much room is left. */
export function levelsText(survey: Survey, style: Style, options: { verbose: boolean; side?: SideName }): string {
  const lines: string[] = [];
  for (const app of survey.apps) {
    lines.push(appLine(app, style), "");
    const table = levelTable(app).filter((line) => !options.side || line.side === options.side);
    let side: string | undefined;
    for (const line of table) {
      if (line.side !== side) lines.push(`  ${style.bold(SIDE_TITLES[line.side])}`);
      side = line.side;
      lines.push(...levelLines(line, style, options.verbose), "");
    }
    if (table.length === 0) lines.push("  no levels found", "");
  }
  return `${lines.join("\n").trimEnd()}\n`;
}

function levelLines(line: LevelRow, style: Style, verbose: boolean): string[] {
  const value = valueText(line.effective);
  const lines = [`    ${style.bold(line.level.padEnd(15))}${value.padEnd(10)}${verdict(line, style)}`.trimEnd()];
  if (line.effective?.kind === "unknown") lines.push(wrapped(style, style.dim(clean(reasonText(line.effective.why))), 19));
  const rows: { label: string; value: string; place: string; bad?: boolean }[] = [];
  for (const fact of distinct(line.declared)) {
    const owner = OWNERS[fact.owner];
    const variants = fact.variants.length > 0 ? ` (${fact.variants.join(", ")})` : "";
    rows.push({
      label: `set by ${owner ? `${owner} ` : ""}${fact.of}${variants}`,
      value: valueText(fact.value),
      place: placeText(fact.value.place),
    });
  }
  if (line.effectiveFrom && line.effective)
    rows.push({ label: `set by ${line.effectiveFrom}`, value, place: placeText(line.effective.place) });
  const requiredLevels = verbose ? line.requiredLevels : line.requiredLevels.slice(0, 5);
  const has = textOf(line.effective);
  for (const required of requiredLevels) {
    const asked = textOf(required.value);
    const bad = has !== undefined && asked !== undefined && isLevel(has) && isLevel(asked) && compareLevels(has, asked) < 0;
    rows.push({ label: `required by ${required.by}`, value: valueText(required.value), place: placeText(required.value.place), bad });
  }
  for (const row of rows) {
    const head = `${" ".repeat(6)}${clean(row.label).padEnd(38)} ${row.value.padEnd(8)}`;
    const text = row.bad ? style.error(`${head}✗`) : `${head} `;
    lines.push(
      head.length + 2 + row.place.length <= style.width
        ? `${text} ${style.place(row.place)}`
        : `${text.trimEnd()}\n${" ".repeat(10)}${style.place(row.place)}`,
    );
  }
  if (line.requiredLevels.length > requiredLevels.length)
    lines.push(style.dim(`      and ${line.requiredLevels.length - requiredLevels.length} more; --verbose lists them`));
  return lines;
}

function verdict(line: LevelRow, style: Style): string {
  const further = line.tooLowIn.length > 0 ? style.error(`✗ too low in ${clean(line.tooLowIn.join(", "))}`) : "";
  return [shippedVerdict(line, style), further].filter(Boolean).join("  ");
}

function shippedVerdict(line: LevelRow, style: Style): string {
  if (line.headroom === undefined) return "";
  if (line.headroom < 0) return style.error(`✗ too low: ${valueText(line.requiredLevels[0]?.value)} is needed`);
  return line.headroom === 0 ? style.good("✓ just enough") : style.good(`✓ ${line.headroom} to spare`);
}

/** Statements that differ only in their variant stand in one row. */
function distinct(facts: LevelFact[]): (LevelFact & { variants: string[] })[] {
  const rows = new Map<string, LevelFact & { variants: string[] }>();
  for (const fact of facts) {
    const key = [fact.owner, fact.of, valueText(fact.value), fact.value.kind === "known" ? "" : placeText(fact.value.place)].join("\0");
    const row = rows.get(key);
    if (!row) rows.set(key, { ...fact, variants: fact.variant ? [fact.variant] : [] });
    else if (fact.variant) row.variants.push(fact.variant);
  }
  return [...rows.values()];
}
