// Run by `npm version`, between writing package.json and the commit: what is unreleased in the change log becomes the new version's.
// The commit and the tag `v…` are npm's.
import { execFileSync } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";

const { version } = JSON.parse(readFileSync("package.json", "utf8"));
const date = new Date().toISOString().slice(0, 10);
const log = readFileSync("CHANGELOG.md", "utf8");
const [head, ...sections] = log.split(/^(?=## )/m);
const [unreleased, ...released] = sections;
if (!unreleased?.startsWith("## Unreleased")) throw new Error("CHANGELOG.md does not begin with ## Unreleased");
if (released.some((section) => section.startsWith(`## ${version} `))) throw new Error(`CHANGELOG.md already has ${version}`);
const entries = unreleased.replace(/^## Unreleased\n*/, "");
if (entries.trim() === "") throw new Error("nothing is unreleased: write down what changed first");
writeFileSync("CHANGELOG.md", `${head}## Unreleased\n\n## ${version} (${date})\n\n${entries}${released.join("")}`);
execFileSync("git", ["add", "CHANGELOG.md"]);
console.log(`${version}: ${entries.match(/^- /gm)?.length ?? 0} changes`);
