import { baseName } from "../../model/paths.js";
import { codeNeed, namesOf } from "../calls.js";
import type { WireResult, NeedOnSide } from "../context.js";
import { scalar, type DraftedNeed, type DraftSubject } from "../drafting.js";
import { reason } from "../../model/reason.js";

export const importNeed = codeNeed("import", ["start/import-missing"], check, draft);

function check(subject: NeedOnSide): WireResult {
  const { app, side, sheet } = subject;
  const { own, wanted } = namesOf(subject);
  if (wanted === undefined) return { state: "unneeded", wanted: "", why: reason("sheet-asks-no-code") };
  const missing = (app.code?.missingImports ?? []).filter((fact) => fact.sdk === sheet.sdk && fact.side === side);
  const [first] = missing;
  if (first) {
    const message = `${first.callee} is called in ${baseName(first.at.file)}, but nothing there imports ${first.wanted}`;
    const fix = `import ${first.wanted} in ${first.at.file}`;
    return {
      state: "loose",
      problem: "import",
      wanted,
      found: "not imported where it is called",
      fix,
      places: missing.map((fact) => fact.at),
      faults: [{ problem: "import", message, fix, found: undefined, why: undefined, places: missing.map((fact) => fact.at) }],
    };
  }
  const names = own.map(({ name }) => name);
  const imports = (app.code?.imports ?? []).filter((fact) => fact.sdk === sheet.sdk && fact.side === side);
  if (imports.length > 0)
    return {
      state: "connected",
      wanted,
      found: `in ${imports.length === 1 ? baseName(imports[0]?.at.file ?? "") : `${imports.length} files`}`,
      places: imports.map((fact) => fact.at),
    };
  const text = app.codeNames.filter((fact) => fact.side === side && names.includes(fact.name));
  if (text.length > 0) return { state: "connected", wanted, found: "in the source code", places: text.map((fact) => fact.at) };
  return { state: "unknown", wanted, why: reason("not-in-sources") };
}

function draft({ app, sdk }: DraftSubject): DraftedNeed[] {
  const imports = (app.code?.imports ?? []).filter((fact) => fact.sdk === sdk && fact.side === "shared");
  return [...new Map(imports.toReversed().map((fact) => [fact.package, fact])).values()]
    .toReversed()
    .map(({ side, package: name, at }) => ({ on: side, value: scalar(name), from: at }));
}
