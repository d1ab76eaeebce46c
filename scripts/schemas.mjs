// The JSON Schemas of the documents, made from their types (src/views/json/types.ts). scripts/docs.mjs writes them.
import path from "node:path";
import { fileURLToPath } from "node:url";
import { createGenerator } from "ts-json-schema-generator";

const root = fileURLToPath(new URL("..", import.meta.url));

/** The documents by the name in their `schema`. */
const DOCUMENTS = {
  check: "CheckDocument",
  compare: "CompareDocument",
  confirm: "ConfirmDocument",
  diff: "DiffDocument",
  levels: "LevelsDocument",
  needs: "NeedsDocument",
  permits: "PermitsDocument",
  startup: "StartupDocument",
  survey: "SurveyDocument",
  trace: "TraceDocument",
};

/** The schemas by the names of their files. */
export function schemas() {
  const generator = createGenerator({
    path: path.join(root, "src/views/json/types.ts"),
    tsconfig: path.join(root, "tsconfig.json"),
    topRef: false,
    // Fields may be added: a reader must not fail at one.
    additionalProperties: true,
    skipTypeCheck: true,
  });
  return Object.fromEntries(
    Object.entries(DOCUMENTS).map(([name, type]) => [
      `${name}.schema.json`,
      `${JSON.stringify({ $id: `https://enredo.example/schemas/${name}.schema.json`, title: `enredo.${name}/1`, ...generator.createSchema(type) }, undefined, 2)}\n`,
    ]),
  );
}
