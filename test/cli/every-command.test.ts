import fc from "fast-check";
import { rmSync } from "node:fs";
import path from "node:path";
import { afterAll, describe, expect, it } from "vitest";
import { apps } from "../helpers/apps.js";
import { damage, damaged } from "../helpers/damage.js";
import { enredo } from "../helpers/in-process.js";
import { temporaryFolder, write } from "../helpers/program.js";

const out = temporaryFolder();
interface Laid {
  files: Record<string, string>;
  folder: string;
  whole: string;
  log: string | undefined;
}

const laid = new Map<string, Laid>(
  apps.map(({ name, files }) => {
    const folder = temporaryFolder(files);
    return [name, { files, folder, whole: temporaryFolder(files), log: Object.keys(files).find((file) => file.endsWith(".log")) }];
  }),
);
afterAll(() => {
  for (const folder of [out, ...[...laid.values()].flatMap(({ folder, whole }) => [folder, whole])])
    rmSync(folder, { recursive: true, force: true });
});

const FORMATS = ["text", "json", "sarif", "junit", "markdown", "github", "gitlab"];
const log = { "startup.log": "11-24 08:00:00.000  100  100 I Quaymap : ready\n" };

/** Every command with its forms; `{}` stands for the folder of the app, `{whole}` for an undamaged copy of it. */
const COMMANDS = [
  ...FORMATS.map((format) => `check {} --format ${format}`),
  "check {} --verbose",
  "check {} --baseline {out}/baseline.json",
  "check {} --side ios --min-severity warning",
  "check {whole} --sheets {}/enredo/sheets",
  ...["text", "json", "cyclonedx"].map((format) => `survey {} --format ${format}`),
  "levels {}",
  "levels {} --json",
  "trace quaymap {}",
  "trace brinelog {} --json",
  "trace quaymap {} --at 9.0.0",
  "compare {} --verbose",
  "compare {} --json",
  "compare {whole} --with {}",
  "permits {}",
  "needs @quaymap/react-native {}",
  "needs @quaymap/react-native {} --json",
  "needs @quaymap/react-native {} --sheet",
  "permits {} --json",
  ...["text", "json", "dot", "mermaid"].map((format) => `startup {} --format ${format}`),
  "confirm {log} {}",
  "confirm {log} {} --json",
  "diff {whole} {}",
  "diff {} {whole} --json",
  "diff {whole} {} --format markdown",
  "patch {}",
  "patch {} --json",
  "report {} --output {out}/report.html",
  "report {} --json",
  "sheet list {}",
  "sheet list {} --json",
  "sheet check {}",
  "sheet draft quaymap --from {}",
  "sheet draft brinelog --from {}",
  "next {}",
];

describe("every command on damaged files", () => {
  it("ends with 0, 1 or 2 and a sentence, never with a stack trace of a crash", async () => {
    write(out, log);
    // Held against in the runs with a baseline; empty, so that all findings are new.
    write(out, { "baseline.json": '{ "schema": "enredo.baseline/1", "findings": [] }' });
    const told = new Map<string, number>();
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...laid.keys()),
        fc.constantFrom(...COMMANDS),
        fc.array(fc.tuple(fc.nat(1_000_000), damage), { minLength: 1, maxLength: 4 }),
        async (app, command, damages) => {
          const { folder, whole, files, log: ownLog } = laid.get(app) as Laid;
          const names = Object.keys(files);
          const broken: Record<string, string> = {};
          for (const [pick, one] of damages) {
            const name = names[pick % names.length] as string;
            broken[name] = damaged(broken[name] ?? (files[name] as string), one);
          }
          write(folder, broken);
          const places: Record<string, string> = { "": folder, whole, out, log: path.join(ownLog ? folder : out, ownLog ?? "startup.log") };
          const args = command.split(" ").map((word) => word.replace(/\{(\w*)\}/, (_, name: string) => places[name] as string));
          const { code, stderr } = await enredo(args, { cache: null, traces: true });
          for (const name of Object.keys(broken)) write(folder, { [name]: files[name] as string });
          const said = `${command}: ${stderr}`;
          expect([0, 1, 2], said).toContain(code);
          expect(said).not.toMatch(/\b(Type|Range|Reference|Syntax|Runtime|Internal|Validation)Error\b/);
          if (code === 2) {
            expect(said).toMatch(/enredo: \S/);
            const [first = ""] = stderr.split("\n");
            const kind = first.replace(/\/\S+/g, "PATH").replace(/"[^"]*"/g, "NAME");
            told.set(kind, (told.get(kind) ?? 0) + 1);
          }
        },
      ),
      { numRuns: Number(process.env.FUZZ_RUNS ?? 120), seed: Number(process.env.FUZZ_SEED ?? 20_262), endOnFailure: true },
    );
    if (process.env.FUZZ_RUNS !== undefined) console.log(told);
  }, 7_200_000);
});
