import { Ajv, type ValidateFunction } from "ajv";
import { existsSync, readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, inject, it } from "vitest";
import { parse } from "yaml";
import { settingsSchema } from "../../src/core/sheets/schema.js";
import { schemas } from "../../scripts/schemas.mjs";
import { enredo } from "../helpers/in-process.js";
import { ROOT, temporaryFolder } from "../helpers/program.js";

/** The published JSON Schemas, against what the program really gives. */

const folder = path.join(ROOT, "schemas");
const published = new Map(readdirSync(folder).map((name) => [name, readFileSync(path.join(folder, name), "utf8")]));

/** A schema under which a field that no type names is a mistake. */
function closed(schema: unknown): unknown {
  if (Array.isArray(schema)) return schema.map(closed);
  if (schema === null || typeof schema !== "object") return schema;
  const inner = Object.fromEntries(Object.entries(schema).map(([key, value]) => [key, closed(value)]));
  return "properties" in inner && inner.type === "object" ? { additionalProperties: false, ...inner } : inner;
}

describe("the schemas of documents", () => {
  const { demo } = inject("sampleApps");

  it("are those of the types", () => {
    expect(Object.fromEntries(published)).toEqual({
      ...schemas(),
      "settings.schema.json": `${JSON.stringify(settingsSchema(), undefined, 2)}\n`,
    });
  });

  it("take the settings that the README shows, and no others", () => {
    const readme = readFileSync(path.join(ROOT, "README.md"), "utf8");
    const shown = [...readme.matchAll(/```yaml\n([\s\S]*?)```/g)]
      .map((match) => match[1] ?? "")
      .find((text) => text.startsWith("severity:"));
    const validate = new Ajv({ strict: false }).compile(JSON.parse(published.get("settings.schema.json") ?? "") as object);
    expect(validate(parse(shown ?? "")), JSON.stringify(validate.errors)).toBe(true);
    expect(validate({ floors: { minSdk: "low" } })).toBe(false);
    expect(validate({ accept: [{ rule: "native/left-out" }] })).toBe(false);
    expect(validate({ flors: {} })).toBe(false);
  });

  it("line fits each line of an answer, and fleet what is made of answers", async () => {
    const answer = path.join(temporaryFolder(), "demo.ndjson");
    await enredo(["check", demo, "--format", "ndjson", "--output", answer]);
    const lines = readFileSync(answer, "utf8").trimEnd().split("\n");
    const schema = JSON.parse(published.get("line.schema.json") ?? "") as { definitions: Record<string, object>; anyOf: object[] };
    const ajv = new Ajv({ strict: false, discriminator: false });
    for (const validate of [ajv.compile(schema), ajv.compile(closed({ ...schema, $id: "closed" }) as object)])
      for (const line of lines) expect(validate(JSON.parse(line)), `${line} ${JSON.stringify(validate.errors)}`).toBe(true);
    expect(ajv.compile({ ...schema, $id: "other" })({ ...(JSON.parse(lines[0] ?? "") as object), record: "none" })).toBe(false);
    expect(new Set(lines.map((line) => (JSON.parse(line) as { record: string }).record))).toEqual(
      new Set(["run", "app", "side", "level", "sdk", "permit", "finding", "blindSpot", "end"]),
    );
    const document = JSON.parse((await enredo(["fleet", answer, "--json"])).stdout) as object;
    const fleet = new Ajv({ strict: false }).compile(closed(JSON.parse(published.get("fleet.schema.json") ?? "")) as object);
    expect(fleet(document), JSON.stringify(fleet.errors)).toBe(true);
  });

  it.each<[string, string[]]>([
    ["check", ["check"]],
    ["survey", ["survey"]],
    ["levels", ["levels"]],
    ["trace", ["trace", "quaymap"]],
    ["trace", ["trace", "quaymap", "--at", "9.0.0"]],
    ["compare", ["compare"]],
    ["permits", ["permits"]],
    ["needs", ["needs", "@quaymap/react-native"]],
    ["startup", ["startup"]],
    ["confirm", ["confirm", "LOG"]],
    ["diff", ["diff", "BEFORE"]],
    ["patch", ["patch"]],
    ["baseline", ["check", "--baseline", "BASELINE", "--write-baseline"]],
    ["sheets", ["sheet", "list"]],
    ["sheet-check", ["sheet", "check"]],
    ["rules", ["explain"]],
    ["rule", ["explain", "level/below-need"]],
  ])("%s fits what `%s` gives", async (name, [command = "", ...args]) => {
    const given = args.map((arg) =>
      arg.replace("LOG", path.join(demo, "pilot/logs/android-launch.log")).replace("BEFORE", path.join(demo, "deckpass")),
    );
    const baseline = path.join(temporaryFolder(), "baseline.json");
    const withFile = given.map((arg) => (arg === "BASELINE" ? baseline : arg));
    const { stdout, stderr } = await enredo([command, ...withFile, ...(command === "explain" ? [] : [demo]), "--json"]);
    const document = JSON.parse((existsSync(baseline) ? readFileSync(baseline, "utf8") : stdout) || "null") as { schema?: string };
    expect(document?.schema, stderr).toBe(`enredo.${name}/1`);
    const schema = JSON.parse(published.get(`${name}.schema.json`) ?? "") as object;
    const ajv = new Ajv({ allErrors: false, strict: false });
    for (const validate of [ajv.compile(schema), ajv.compile(closed({ ...schema, $id: "closed" }) as object)] as ValidateFunction[]) {
      expect(validate(document), JSON.stringify(validate.errors)).toBe(true);
      expect(validate({ ...document, schema: "another" })).toBe(false);
    }
  });
});
