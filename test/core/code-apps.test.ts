import { readFileSync, readdirSync } from "node:fs";
import path from "node:path";
import { beforeAll, describe, expect, it } from "vitest";
import { ROOT } from "../helpers/program.js";
import { reportOf } from "../helpers/memory.js";
import { changed, type Files } from "../helpers/mistakes.js";
import { deckpass, pilot } from "../helpers/native-apps.js";
import { monorepo, older } from "../helpers/dotnet-apps.js";
import { configured } from "../helpers/expo-apps.js";
import { packaged } from "../helpers/unity-apps.js";
import { kiosk, quayside } from "../helpers/web-apps.js";

const FOLDER = path.join(ROOT, "test/cases/code");

/** What somebody does to an app: texts that are replaced in files, files that come and go; and the rules that tell it, or nothing. */
interface Change {
  what: string;
  told: string | null;
  edits?: [file: string, from: string, to: string][];
  more?: Record<string, string>;
  less?: string[];
}

/** Apps that other tests have too. */
const SHARED: Readonly<Record<string, Files>> = {
  "native-wiring": pilot,
  "cordova-wiring": quayside,
  "capacitor-wiring": kiosk,
  "expo-wiring": configured,
  "dotnet-wiring": monorepo,
  "dotnet-older": older,
  "react-native-wiring": deckpass,
  "unity-wiring": packaged,
};

/** The files of an app, each behind its name (a line that begins with `--- `, which an object of a scene does too); what package managers lay down is kept below `installed`. */
function filesOf(name: string): Files {
  const shared = SHARED[name];
  if (shared) return shared;
  const [, ...parts] = readFileSync(path.join(FOLDER, `${name}.app.txt`), "utf8").split(/^--- (?!!u!)/m);
  return Object.fromEntries(
    parts.map((part) => {
      const end = part.indexOf("\n");
      return [part.slice(0, end).replace(/^installed\//, "node_modules/"), part.slice(end + 1)];
    }),
  );
}

function changesOf(name: string): Change[] {
  const lines = readFileSync(path.join(FOLDER, `${name}.changes.jsonl`), "utf8").split("\n");
  return lines.filter((line) => line !== "").map((line) => JSON.parse(line) as Change);
}

async function toldOf(files: Readonly<Record<string, string | Uint8Array>>): Promise<string[]> {
  const { findings } = await reportOf(files);
  return findings.map(({ rule, severity, message }) => `${severity} ${rule}: ${message}`);
}

type Laid = Readonly<Record<string, string | Uint8Array>>;
interface Way {
  title: string;
  lay: (files: Laid) => Laid;
}
const moved = (files: Laid, to: (file: string) => string): Laid =>
  Object.fromEntries(Object.entries(files).map(([file, content]) => [file.startsWith("enredo/") ? file : to(file), content]));
const rewritten = (files: Laid, of: RegExp, text: (content: string) => string): Laid =>
  Object.fromEntries(
    Object.entries(files).map(([file, content]) => [file, typeof content === "string" && of.test(file) ? text(content) : content]),
  );
const BESIDES = `Copyright. Quaymap.start(key); Brinelog.start(); import Quaymap; @main func main() { don't "quote`;

/** Ways to lay down one and the same app. */
const WAYS: readonly Way[] = [
  { title: "in a folder of a repository", lay: (files) => moved(files, (file) => `apps/one/${file}`) },
  { title: "with line ends of Windows", lay: (files) => rewritten(files, /(?<!\.lock)$/, (text) => text.replace(/\r?\n/g, "\r\n")) },
  {
    title: "with comments in front",
    lay: (files) =>
      rewritten(files, /^(?!node_modules).*\.(kt|java|swift|dart|m|mm|cs)$/, (text) => `/*\n * ${BESIDES}\n */\n// ${BESIDES}\n${text}`),
  },
  { title: "in a folder with spaces", lay: (files) => moved(files, (file) => `My Apps/Häfen (1)/${file}`) },
  {
    title: "with byte order marks",
    lay: (files) =>
      rewritten(
        files,
        /\.(cs|xml|json|kt|java|swift|dart|tsx?|js|gradle|kts|csproj|props|plist|yaml)$/,
        (text) => `\ufeff${text.replace(/^\ufeff/, "")}`,
      ),
  },
  {
    title: "beside others",
    lay: (files) => ({
      ...moved(files, (file) => `mobile/${file}`),
      "server/package.json": '{ "name": "server", "dependencies": { "express": "4.0.0" } }',
      "server/index.js": "class MainActivity {}\nQuaymap.start();\n",
      "tools/Gen.kt": "class MapStarter { fun start() { Quaymap.start() } }\n",
    }),
  },
];

const apps = readdirSync(FOLDER)
  .filter((file) => file.endsWith(".changes.jsonl"))
  .map((file) => [file.replace(".changes.jsonl", "")]);
// The two phones of one app, whose types have the same names: what is done to one is told as if it were alone.
const together = ["kotlin", "swift"];

describe.each([...apps, together])("source code as people write it: %s", (...names) => {
  const app: Files = Object.assign({}, ...names.map(filesOf)) as Files;
  const changes = names.flatMap(changesOf);
  const apply = ({ edits = [], more = {}, less = [] }: Change): Record<string, string | Uint8Array> => {
    const files = Object.fromEntries(Object.entries(app).filter(([file]) => !less.includes(file)));
    return changed({ ...files, ...more }, edits);
  };

  let before: string[] = [];
  beforeAll(async () => {
    before = await toldOf(app);
  });
  const news = async (change: Change): Promise<string[]> => (await toldOf(apply(change))).filter((finding) => !before.includes(finding));
  const alarms = (findings: readonly string[]): string[] =>
    findings.filter((finding) => !/^note |package-lock\.json, yarn\.lock/.test(finding));

  it("is quiet", () => expect(alarms(before)).toEqual([]));

  it.each(changes.filter(({ told }) => told !== null))("tells: $what", async (change) => {
    const found = await news(change);
    expect(
      found.filter((finding) => new RegExp(`^\\w+ (?:${change.told ?? ""}): `).test(finding)),
      found.join("\n"),
    ).not.toEqual([]);
  });

  it.each(changes.filter(({ told }) => told === null))("is quiet: $what", async (change) => expect(alarms(await news(change))).toEqual([]));

  // Of many, since each is a run of its own; which way goes with which change is by their position.
  it.each(changes.flatMap((change, at) => (at % 24 === 5 ? [{ ...change, way: WAYS[((at / 24) % WAYS.length) | 0] as Way }] : [])))(
    "$way.title: $what",
    async ({ way, ...change }) => {
      const rules = (findings: readonly string[]): string[] => [...new Set(findings.map((finding) => finding.replace(/:.*/s, "")))].sort();
      const laid = async (files: Readonly<Record<string, string | Uint8Array>>): Promise<string[]> => rules(await toldOf(way.lay(files)));
      expect(await laid(app)).toEqual(rules(before));
      expect(await laid(apply(change))).toEqual(rules(await toldOf(apply(change))));
    },
  );
});
