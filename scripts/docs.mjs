// Writes what is generated from the code: the pages of the rules, and the JSON Schema of sheets. Run after a build.
import { mkdirSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import { build } from "esbuild";
import { Application } from "typedoc";
import { schemas } from "./schemas.mjs";

/** The day of the answers on the pages of rules. */
const DAY = "2026-11-28";
const root = fileURLToPath(new URL("..", import.meta.url));
const bundle = path.join(root, ".build/docs.mjs");
await build({
  absWorkingDir: root,
  entryPoints: ["scripts/docs-source.ts"],
  outfile: bundle,
  bundle: true,
  platform: "node",
  mainFields: ["module", "main"],
  format: "esm",
  logLevel: "warning",
  banner: { js: 'import { createRequire as enredoRequire } from "node:module"; const require = enredoRequire(import.meta.url);' },
});
const { RULES, ruleAnswer, ruleMarkdown, settingsSchema, sheetSchema } = await import(pathToFileURL(bundle).href);
const rules = path.join(root, "docs/rules");
mkdirSync(rules, { recursive: true });
for (const name of readdirSync(rules)) rmSync(path.join(rules, name), { recursive: true });
const lines = ["# Rules", "", "In the order in which people work. Generated from the rules themselves.", ""];
let concern = "";
for (const rule of RULES) {
  const [own, name] = rule.name.split("/");
  if (own !== concern) lines.push(`## ${own}`, "", "| rule | severity | reports |", "|---|---|---|");
  concern = own;
  const file = `${own}/${name}.md`;
  mkdirSync(path.join(rules, own), { recursive: true });
  writeFileSync(path.join(rules, file), ruleMarkdown(rule, await ruleAnswer(rule, DAY)));
  lines.push(`| [${rule.name}](${file}) | ${rule.severity} | ${rule.title} |`);
  if (RULES[RULES.indexOf(rule) + 1]?.name.split("/")[0] !== own) lines.push("");
}
writeFileSync(path.join(rules, "README.md"), `${lines.join("\n").trimEnd()}\n`);
mkdirSync(path.join(root, "sheets"), { recursive: true });
writeFileSync(path.join(root, "sheets/sheet.schema.json"), `${JSON.stringify(sheetSchema(), undefined, 2)}\n`);
mkdirSync(path.join(root, "schemas"), { recursive: true });
writeFileSync(path.join(root, "schemas/settings.schema.json"), `${JSON.stringify(settingsSchema(), undefined, 2)}\n`);
for (const [file, text] of Object.entries(schemas())) writeFileSync(path.join(root, "schemas", file), text);
console.log(`${RULES.length} rules and the schemas of sheets, settings and documents written`);

const api = await Application.bootstrapWithPlugins({ options: path.join(root, "typedoc.json"), logLevel: "Error" });
await api.generateOutputs(await api.convert());
console.log("the reference of the door written");

await (await import("./guide.mjs")).renewPages();
