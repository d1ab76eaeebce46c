// The JSON Schemas of the documents, made from their types (src/views/json/types.ts). scripts/docs.mjs writes them.
import path from "node:path";
import { fileURLToPath } from "node:url";
import { createGenerator } from "ts-json-schema-generator";

const root = fileURLToPath(new URL("..", import.meta.url));

/** The documents by the name in their `schema`. */
const DOCUMENTS = {
  baseline: "BaselineDocument",
  check: "CheckDocument",
  compare: "CompareDocument",
  confirm: "ConfirmDocument",
  diff: "DiffDocument",
  fleet: "FleetDocument",
  levels: "LevelsDocument",
  needs: "NeedsDocument",
  patch: "PatchDocument",
  permits: "PermitsDocument",
  rule: "RuleDocument",
  rules: "RulesDocument",
  "sheet-check": "SheetCheckDocument",
  sheets: "SheetsDocument",
  startup: "StartupDocument",
  survey: "SurveyDocument",
  trace: "TraceDocument",
};

/** The schemas by the names of their files. */
export function schemas() {
  const documents = generatorOf("src/views/json/types.ts");
  const written = Object.entries(DOCUMENTS).map(([name, type]) => schemaFile(name, documents, type));
  return Object.fromEntries([...written, schemaFile("line", generatorOf("src/core/fleet/lines.ts"), "Line")]);
}

function generatorOf(file) {
  return createGenerator({
    path: path.join(root, file),
    tsconfig: path.join(root, "tsconfig.json"),
    topRef: false,
    // Fields may be added: a reader must not fail at one.
    additionalProperties: true,
    skipTypeCheck: true,
  });
}

function schemaFile(name, generator, type) {
  const head = { $id: `https://enredo.example/schemas/${name}.schema.json`, title: `enredo.${name}/1` };
  return [`${name}.schema.json`, `${JSON.stringify({ ...head, ...generator.createSchema(type) }, undefined, 2)}\n`];
}
