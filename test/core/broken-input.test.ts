import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { compareSides } from "../../src/core/project/compare.js";
import { tracesOf, reportOf } from "../helpers/memory.js";
import { checkDocument } from "../../src/views/json/documents.js";
import { surveyDocument } from "../../src/views/json/survey.js";
import { checkText } from "../../src/views/text/check.js";
import { levelsText } from "../../src/views/text/levels.js";
import { surveyText } from "../../src/views/text/survey.js";
import { againstBaseline, baselineOf } from "../../src/core/project/baseline.js";
import type { Report } from "../../src/core/project/check.js";
import { confirmLog } from "../../src/core/project/confirm/confirm.js";
import { readLog } from "../../src/core/project/confirm/read-log.js";
import { diffStates } from "../../src/core/project/diff.js";
import { MemoryTree } from "../../src/core/files/memory.js";
import { ProjectFiles } from "../../src/core/gather/project-files.js";
import { planPatch } from "../../src/core/project/patch/plan.js";
import { RULES } from "../../src/core/rules/index.js";
import { noSettings } from "../../src/core/settings/settings.js";
import { findSheets } from "../../src/core/project/sheet-files.js";
import { loadSheets } from "../../src/core/sheets/load.js";
import { traceOf, tracedSdks } from "../../src/core/needs/index.js";
import { permitsOf } from "../../src/core/project/permits.js";
import { startupOf } from "../../src/core/project/startup.js";
import { folderIndex } from "../../src/core/project/survey.js";
import { codeQuality, githubAnnotations } from "../../src/views/ci/annotations.js";
import { junitXml } from "../../src/views/ci/junit.js";
import { sarifLog } from "../../src/views/ci/sarif.js";
import { startupDot, startupMermaid } from "../../src/views/graph/startup.js";
import { reportPage } from "../../src/views/html/report.js";
import { cycloneDx } from "../../src/views/json/cyclonedx.js";
import { startupDocument } from "../../src/views/json/startup.js";
import { checkMarkdown } from "../../src/views/markdown/check.js";
import { diffMarkdown } from "../../src/views/markdown/diff.js";
import { unifiedDiff } from "../../src/views/patch/unified.js";
import { diffText } from "../../src/views/text/diff.js";
import { startupText } from "../../src/views/text/startup.js";
import { styleFor } from "../../src/views/text/style.js";
import { apps } from "../helpers/apps.js";
import { damage, damaged } from "../helpers/damage.js";

/** Forms that are read as trees: half of one is told from a whole one. */
const TREE = /\.(json|xml|plist|pbxproj|gradle|kts|csproj|toml)$|Podfile$/;
const merge = (text: string): string => {
  const lines = text.split("\n");
  const half = Math.ceil(lines.length / 2);
  return [...lines.slice(0, half), "<<<<<<< HEAD", "=======", ">>>>>>> other", ...lines.slice(half)].join("\n");
};
const cut = (text: string): string => text.split("\n").slice(0, -3).join("\n");

describe.each(apps)("half-edited files of $name", ({ files }) => {
  const own = Object.keys(files).filter((file) => !file.startsWith("enredo/") && !/(^|\/)(README\.md|\.gitignore)$/.test(file));
  const toldOf = (report: Awaited<ReturnType<typeof reportOf>>) =>
    new Set(report.findings.map(({ rule, places: [place] }) => `${rule} ${place?.file ?? ""}`));

  it.each([
    ["a merge that was not finished", merge],
    ["a file that ends too early", cut],
  ])("%s is reported, and nothing is concluded from what is missing in it", async (_, damage) => {
    const before = toldOf(await reportOf(files));
    for (const file of own) {
      if (damage === cut && !TREE.test(file)) continue;
      const report = await reportOf({ ...files, [file]: damage(files[file] as string) });
      const unreadable = report.findings.filter(({ rule }) => rule === "project/unreadable");
      expect(report.survey.apps, file).toHaveLength(1);
      expect(
        unreadable.every(({ places: [place] }) => place?.file === file),
        file,
      ).toBe(true);
      // Where the whole text is code or a file that is not read, nothing is to be said.
      if (unreadable.length === 0) continue;
      const fresh = [...toldOf(report)].filter((told) => !before.has(told) && !told.startsWith("project/unreadable"));
      expect(fresh, `${file}: ${report.findings.map(({ message }) => message).join("; ")}`).toEqual([]);
    }
  });
});

describe("damaged files", () => {
  const whole = new Map<string, Report>();
  it("never stop the rest of the answer", async () => {
    for (const { name, files } of apps) whole.set(name, await reportOf(files));
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...apps.map(({ name }) => name)),
        fc.array(fc.tuple(fc.nat(1_000_000), damage), { minLength: 1, maxLength: 4 }),
        async (app, damages) => {
          const files = { ...apps.find(({ name }) => name === app)?.files };
          const names = Object.keys(files);
          for (const [pick, one] of damages) {
            const name = names[pick % names.length] as string;
            files[name] = damaged(files[name] as string, one);
          }
          const report = await reportOf(files);
          const style = styleFor({ color: false, width: 80 });
          checkText(report, style, { verbose: true, quiet: false });
          surveyText(report.survey, style, { verbose: true, quiet: false });
          levelsText(report.survey, style, { verbose: true });
          JSON.stringify([checkDocument(report), surveyDocument(report.survey)]);
          const tree = new MemoryTree(files);
          const project = new ProjectFiles(tree);
          const { sheets } = await loadSheets(findSheets(project, folderIndex(project, noSettings())));
          const startups = report.survey.apps.map((one) => ({ app: one, sides: startupOf(one, sheets) }));
          startupText(startups, style, { verbose: true });
          startupDot(startups);
          startupMermaid(startups);
          JSON.stringify([startupDocument("/", startups), sarifLog(report, RULES, "0.0.0"), codeQuality(report)]);
          for (const text of [
            checkMarkdown(report),
            githubAnnotations(report),
            junitXml(report, RULES, () => true),
            reportPage(report, {
              tracesOf: (one) => tracedSdks(one).map((sdk) => traceOf(one, sheets, sdk)),
              startupOf: (one) => startupOf(one, sheets),
              permitsOf: (one) => permitsOf(one, sheets),
            }),
          ])
            expect(text).not.toMatch(/\[object Object\]/);
          cycloneDx(report.survey, "0.0.0");
          const diffs = diffStates({ report: whole.get(app) as Report, sheets }, { report, sheets });
          diffMarkdown(diffs, "a", "b");
          diffText(diffs, style, { before: "a", after: "b", verbose: true });
          againstBaseline(report, baselineOf(whole.get(app) as Report));
          for (const [name, text] of Object.entries(files))
            if (name.endsWith(".log")) for (const one of report.survey.apps) confirmLog(one, sheets, readLog(text), undefined);
          if ((damages[0]?.[0] ?? 0) % 10 === 0)
            unifiedDiff((await planPatch({ tree, report, sheets, settings: noSettings(), options: { sheets } })).files);
          for (const app of report.survey.apps) compareSides(app, []);
          await tracesOf(files, "quaymap");
          for (const { places, message, fix } of report.findings) {
            expect(`${message}${fix}`).not.toMatch(/undefined|\[object|NaN/);
            for (const { line, column } of places) expect(line > 0 && column > 0).toBe(true);
          }
        },
      ),
      { numRuns: Number(process.env.FUZZ_RUNS ?? 150), seed: Number(process.env.FUZZ_SEED ?? 20_261), endOnFailure: true },
    );
  }, 3_600_000);
});
