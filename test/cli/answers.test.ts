import { DuckDBInstance } from "@duckdb/node-api";
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import path from "node:path";
import { beforeAll, describe, expect, it } from "vitest";
import type { Line } from "../../src/core/fleet/lines.js";
import type { FleetDocument } from "../../src/views/json/types.js";
import { demoAnswers } from "../helpers/answers.js";
import { enredo } from "../helpers/in-process.js";
import { ROOT, temporaryFolder, write } from "../helpers/program.js";

/** Answers of many repositories, put together. */

type Fields = Record<string, unknown>;
const line = (project: string, fields: Fields): string => JSON.stringify({ schema: "enredo.line/1", project, ...fields });

interface Answer {
  at?: string;
  /** SDK → version on Android. */
  sdks?: Record<string, string | null>;
  minSdk?: string | null;
  rules?: string[];
}

/** An answer as `check --format ndjson` writes it. */
function answer(project: string, { at = new Date().toISOString(), sdks = {}, minSdk = "24", rules = [] }: Answer = {}): string[] {
  const app = project;
  const lines = [
    line(project, { record: "run", at, tool: "1.0.0" }),
    line(project, { record: "app", app, kind: "native", path: "." }),
    line(project, { record: "level", app, side: "android", level: "minSdk", value: minSdk }),
    ...Object.entries(sdks).map(([sdk, version]) =>
      line(project, {
        record: "sdk",
        app,
        side: "android",
        sdk,
        package: `example.${sdk}:${sdk}`,
        ecosystem: "maven",
        version,
        thirdParty: true,
      }),
    ),
    ...rules.map((rule) => line(project, { record: "finding", app, side: "android", rule, severity: "error", accepted: null })),
  ];
  return [...lines, line(project, { record: "end", lines: lines.length + 1 })];
}

const text = (...answers: string[][]): string =>
  answers
    .flat()
    .map((one) => `${one}\n`)
    .join("");
const fleet = async (folder: string, ...args: string[]): Promise<FleetDocument & { code: number | null }> => {
  const { stdout, stderr, code } = await enredo(["fleet", folder, "--json", ...args], { cwd: folder });
  expect(stdout, stderr).not.toBe("");
  return { ...(JSON.parse(stdout) as FleetDocument), code };
};

describe("answers of the sample apps", () => {
  let folder: string;
  let answers: string;
  beforeAll(async () => {
    folder = await demoAnswers();
    answers = path.join(folder, "answers");
  });
  const linesOf = (name: string): Line[] =>
    readFileSync(path.join(answers, `${name}.ndjson`), "utf8")
      .trimEnd()
      .split("\n")
      .map((one) => JSON.parse(one) as Line);

  it("say what the other forms say, one fact or finding a line", async () => {
    const lines = linesOf("pilot");
    const pilot = path.join(folder, "demo/pilot");
    const check = JSON.parse((await enredo(["check", pilot, "--json"])).stdout) as { findings: { fingerprint: string }[]; summary: object };
    const survey = JSON.parse((await enredo(["survey", pilot, "--json"])).stdout) as { apps: { sdks: { name: string; side: string }[] }[] };
    const of = <R extends Line["record"]>(record: R) => lines.filter((one): one is Extract<Line, { record: R }> => one.record === record);
    expect(of("finding").map(({ fingerprint }) => fingerprint)).toEqual(check.findings.map(({ fingerprint }) => fingerprint));
    expect(of("sdk").map((one) => `${one.side} ${one.package}`)).toEqual(survey.apps[0]?.sdks.map(({ side, name }) => `${side} ${name}`));
    expect(lines[0]).toMatchObject({ record: "run", project: "pilot" });
    expect(lines.at(-1)).toMatchObject({ record: "end", lines: lines.length, errors: (check.summary as { errors: number }).errors });
    for (const one of lines) for (const value of Object.values(one)) expect(typeof value === "object" && value !== null).toBe(false);
  });

  it("are named as asked, and are the whole fleet in one run", async () => {
    const { stdout } = await enredo(["check", path.join(folder, "demo"), "--format", "ndjson", "--project", "maresia"]);
    const lines = stdout
      .trimEnd()
      .split("\n")
      .map((one) => JSON.parse(one) as Line);
    expect(new Set(lines.map(({ project }) => project))).toEqual(new Set(["maresia"]));
    expect(lines.filter(({ record }) => record === "app")).toHaveLength(8);
  });

  it("are whole: what is left out of one is not taken for fine", async () => {
    const pilot = path.join(folder, "demo/pilot");
    for (const [option, name] of [
      [["--side", "ios"], "--side"],
      [["--min-severity", "error"], "--min-severity"],
      [["--baseline", "known.json"], "--baseline"],
      [["--app", "Pilot"], "--app"],
    ] as const) {
      const { code, stdout, stderr } = await enredo(["check", pilot, "--format", "ndjson", ...option]);
      expect({ code, stdout }).toEqual({ code: 2, stdout: "" });
      expect(stderr).toContain(`leave out ${name}`);
    }
    expect((await enredo(["check", pilot, "--format", "ndjson", "--app", "Pilot", "--project", "pilot-app"])).code).toBe(1);
  });

  it("are put together: versions, who is behind, levels, rules, permissions", async () => {
    const { apps, sdks, levels, rules, permits, problems, unanswered, code } = await fleet(answers);
    expect({ code, problems, unanswered }).toEqual({ code: 0, problems: [], unanswered: [] });
    expect(apps.map(({ name }) => name)).toEqual([
      "crewboard",
      "deckpass",
      "kiosk",
      "Lockkeeper",
      "logbook",
      "Pilot",
      "Quayside",
      "Tidegame",
    ]);
    for (const { project, errors } of apps)
      expect(errors).toBe(linesOf(project).filter((one) => one.record === "finding" && one.severity === "error").length);
    const quaymap = sdks.find(({ sdk, side }) => sdk === "quaymap" && side === "android");
    expect(quaymap).toMatchObject({
      behind: 4,
      versions: [
        { version: "4.2.1", apps: ["deckpass"] },
        { version: "4.2.0", apps: ["Pilot", "Quayside"] },
        { version: "4.1.0", apps: ["crewboard"] },
        { version: "4.0.1", apps: ["Tidegame"] },
      ],
    });
    expect(levels.find(({ level }) => level === "minSdk")?.values[0]).toEqual({ value: "21", apps: ["Lockkeeper"] });
    expect(rules[0]?.apps.length).toBeGreaterThan(2);
    expect(permits.find(({ name }) => name === "android.permission.POST_NOTIFICATIONS")?.by).toContain("cordova-plugin-gullpost");
  });

  it("are read from a stream, with Windows line ends and a byte order mark, as from files", async () => {
    const all = readdirSync(answers)
      .map((name) => readFileSync(path.join(answers, name), "utf8"))
      .join("");
    const other = temporaryFolder({ "all.jsonl": `\ufeff${all.replaceAll("\n", "\r\n")}` });
    expect(await fleet(other)).toEqual(await fleet(answers));
  });

  it("make a page, a table and a text that fits", async () => {
    const page = (await enredo(["fleet", answers, "--format", "html"])).stdout;
    expect(page).toContain('<h2 id="sdks">');
    expect(page).not.toMatch(/(?:src|href)="(?!#)/);
    const table = (await enredo(["fleet", answers, "--format", "csv"])).stdout.split("\r\n");
    expect(table[0]).toBe("project,app,kind,of,sdk,side,version,newest,behind");
    expect(table.find((row) => row.startsWith("tidegame,") && row.includes(",quaymap,android,"))).toMatch(/,4\.0\.1,4\.2\.1,yes$/);
    const { stdout } = await enredo(["fleet", answers], { env: { COLUMNS: "80" } });
    expect(stdout.split("\n")[0]).toBe("8 apps of 8 projects: ✗ 8 with errors, ! 4 SDKs in several versions");
    for (const row of stdout.split("\n")) expect(row.length, row).toBeLessThanOrEqual(84);
  });

  it("answer the questions of the page when a database reads them", async () => {
    const how = readFileSync(path.join(ROOT, "docs/how-to/fleet.md"), "utf8");
    const queries = [...how.matchAll(/```sql\n([\s\S]*?)```/g)].map((match) => match[1] ?? "");
    expect(queries).toHaveLength(4);
    const connection = await (await DuckDBInstance.create(":memory:")).connect();
    const rows: Record<string, unknown>[][] = [];
    for (const query of queries)
      rows.push((await connection.runAndReadAll(query.replaceAll("answers/", `${answers.replaceAll("\\", "/")}/`))).getRowObjectsJson());
    connection.closeSync();
    const { sdks, levels } = await fleet(answers);
    const quaymap = sdks.find(({ sdk, side }) => sdk === "quaymap" && side === "android")?.versions ?? [];
    // A version that another package of the SDK says stands in the lines too.
    for (const { version, apps } of quaymap)
      expect(rows[0]?.find((row) => row.version === version)?.apps).toEqual(expect.arrayContaining(apps));
    const low = levels.find(({ level }) => level === "minSdk")?.values.filter(({ value }) => value !== null && Number(value) < 24) ?? [];
    expect(rows[1]?.map(({ app }) => app)).toEqual(low.flatMap(({ apps }) => [...apps].sort()));
    expect(rows[2]?.map((row) => row.package)).toContain("cordova-plugin-gullpost");
    const errors = readdirSync(answers)
      .flatMap((name) => linesOf(name.replace(".ndjson", "")))
      .filter((one) => one.record === "finding" && one.severity === "error");
    for (const { rule, findings } of rows[3] ?? [])
      expect(errors.filter((one) => one.record === "finding" && one.rule === rule)).toHaveLength(Number(findings));
    expect(rows[3]).toHaveLength(10);
  });
});

it("a release that is written in two ways is one version", async () => {
  const of = (project: string, quaymap: string) => answer(project, { sdks: { quaymap } });
  const { sdks } = await fleet(
    temporaryFolder({ "a.ndjson": text(of("harbor", "4.2"), of("pilot", "4.2.0"), of("ferry", "4.1.0"), of("keel", "4.2.0-rc.1")) }),
  );
  expect(sdks[0]?.versions).toEqual([
    { version: "4.2.0", apps: ["harbor", "pilot"] },
    { version: "4.2.0-rc.1", apps: ["keel"] },
    { version: "4.1.0", apps: ["ferry"] },
  ]);
  expect(sdks[0]?.behind).toBe(2);
});

describe("a policy", () => {
  const folder = (policy: string): string =>
    temporaryFolder({
      "enredo.yaml": policy,
      "answers/a.ndjson": text(answer("harbor", { sdks: { quaymap: "4.9.0" }, minSdk: "21", rules: ["key/missing"] })),
      "answers/b.ndjson": text(answer("pilot", { sdks: { quaymap: "4.10.0", tidewire: null }, minSdk: null })),
      "answers/c.ndjson": text(answer("ferry", { at: "2020-01-01T08:00:00Z" })),
    });
  const broken = async (policy: string): Promise<string[]> =>
    (await fleet(folder(policy))).violations.map(({ app, subject, found }) => `${app}: ${subject} ${found ?? ""}`);

  it("holds versions, levels, rules, projects and age against each app; what is not known breaks none", async () => {
    expect(await broken("policy: { sdks: { quaymap: 4.10 } }\n")).toEqual(
      ["harbor: quaymap (android) 4.9.0", expect.stringMatching(/^ferry: answer/)].reverse(),
    );
    expect(await broken("policy: { sdks: { 'example.quaymap:quaymap': 4.10 }, maxAge: 9999 }\n")).toEqual([
      "harbor: quaymap (android) 4.9.0",
    ]);
    expect(await broken("policy: { sdks: { tidewire: 9.0.0 }, maxAge: 9999 }\n")).toEqual([]);
    expect(await broken("policy: { levels: { minSdk: 24 }, maxAge: 9999 }\n")).toEqual(["harbor: minSdk 21"]);
    expect(await broken("policy: { rules: [key], maxAge: 9999 }\n")).toEqual(["harbor: key/missing 1"]);
    expect(await broken("policy: { rules: [key/shape], maxAge: 9999 }\n")).toEqual([]);
    expect(await broken("policy: { projects: [harbor, lantern], maxAge: 9999 }\n")).toEqual([expect.stringMatching(/^lantern: answer/)]);
  });

  it("gives the exit code", async () => {
    expect((await fleet(folder("policy: { levels: { minSdk: 24 }, maxAge: 9999 }\n"))).code).toBe(1);
    expect((await fleet(folder("policy: { levels: { minSdk: 21 }, maxAge: 9999 }\n"))).code).toBe(0);
    expect((await fleet(folder("severity: {}\n"))).code).toBe(0);
  });

  it("that is wrong is not taken in part", async () => {
    for (const [policy, message] of [
      ["policy:\n  levels: { minSkd: 24 }\n", /enredo\.yaml:2: unknown key "minSkd"; did you mean "minSdk"\?/],
      ["policy:\n  rules: [kye/missing]\n", /enredo\.yaml:2: there is no rule or concern "kye\/missing"/],
      ["policy:\n  sdks: { quaymap: newest }\n", /enredo\.yaml:2: the minimum version of quaymap is not a version: "newest"/],
      ["policy:\n  maxAge: soon\n", /enredo\.yaml:2: maxAge must be a number of days/],
    ] as const) {
      const { code, stdout, stderr } = await enredo(["fleet", "answers"], { cwd: folder(policy) });
      expect({ code, stdout }).toEqual({ code: 2, stdout: "" });
      expect(stderr).toMatch(message);
    }
    const { stderr } = await enredo(["fleet", "answers"], { cwd: folder("policy: { sdks: { quaymapp: 4.2.0 } }\n") });
    expect(stderr).toContain('the policy lists the SDK quaymapp, which no app has; did you mean "quaymap"?');
  });
});

describe("answers that are not whole", () => {
  const whole = answer("harbor", { sdks: { quaymap: "4.2.0" } });

  it("are told, and the others count", async () => {
    const folder = temporaryFolder({
      "a.ndjson": text(whole),
      "broken-off.ndjson": text(answer("pilot").slice(0, -1)),
      "cut.ndjson": text(answer("ferry")).slice(0, -20),
      "empty.ndjson": "",
      "lost.ndjson": text(answer("lantern").filter((_, index) => index !== 2)),
      "none.ndjson": "no lines\nof this kind\nat all\nnor here\n",
      "newer.ndjson": '{"schema":"enredo.line/2","project":"keel","record":"run"}\n',
    });
    const { apps, unanswered, problems, code } = await fleet(folder);
    expect(code).toBe(0);
    expect(apps.map(({ name }) => name)).toEqual(["harbor"]);
    expect(unanswered.map(({ project }) => project)).toEqual(["ferry", "lantern", "pilot"]);
    expect(problems.map(({ at, message }) => `${path.basename(at)} ${message}`)).toEqual([
      expect.stringMatching(/^cut\.ndjson:4 no JSON object/),
      expect.stringMatching(/^empty\.ndjson the file is empty/),
      expect.stringMatching(/^newer\.ndjson:1 the line is enredo\.line\/2 and this edition reads enredo\.line\/1/),
      expect.stringMatching(/^none\.ndjson:1 no JSON object/),
      expect.stringMatching(/^none\.ndjson:2 /),
      expect.stringMatching(/^none\.ndjson:3 /),
      "none.ndjson and 1 further line that is not valid",
    ]);
  });

  it("give way to the newest whole one, in whatever order they are read", async () => {
    const older = answer("harbor", { at: "2026-01-01T00:00:00Z", sdks: { quaymap: "4.0.0" } });
    const newer = answer("harbor", { at: "2026-02-01T00:00:00+02:00", sdks: { quaymap: "4.1.0" } });
    const begun = answer("harbor", { at: "2026-03-01T00:00:00Z", sdks: { quaymap: "4.2.0" } }).slice(0, -1);
    for (const order of [
      [older, newer, begun],
      [newer, older, begun],
      [begun, newer, older],
    ]) {
      const { sdks, superseded } = await fleet(temporaryFolder({ "all.ndjson": text(...order) }));
      expect(sdks[0]?.versions).toEqual([{ version: "4.1.0", apps: ["harbor"] }]);
      expect(superseded).toEqual([{ project: "harbor", answers: 1 }]);
    }
  });

  it("with words and versions that nobody knows are shown as they are", async () => {
    const odd = answer("harbor", { sdks: { quaymap: "main", constructor: "1.0" } }).map((one) =>
      one
        .replace('"kind":"native"', '"kind":"constructor"')
        .replaceAll('"side":"android"', '"side":"toString"')
        .replaceAll('"maven"', '"npm"'),
    );
    const folder = temporaryFolder({
      "a.ndjson": text(odd, answer("pilot", { sdks: { quaymap: "4.2.0" } })),
      "enredo.yaml": "policy: { sdks: { quaymap: 4.2.0 } }\n",
    });
    for (const format of ["text", "html", "csv", "json"]) {
      const { code, stdout, stderr } = await enredo(["fleet", "a.ndjson", "--format", format], { cwd: folder });
      expect([format, code, stderr]).toEqual([format, expect.any(Number), ""]);
      expect(stdout).not.toContain("native code");
      expect(stdout).toContain(format === "text" || format === "html" ? "constructor" : "toString");
    }
  });

  it("are told where only results are asked for", async () => {
    const folder = temporaryFolder({ "a.ndjson": text(whole), "b.ndjson": "no line\n" });
    expect((await enredo(["fleet", folder, "--quiet"])).stderr).toContain("b.ndjson:1: no JSON object");
  });

  it("of which none is one end the command with what to do", async () => {
    const folder = temporaryFolder({ "a.ndjson": "{}\n", "b/c.txt": "" });
    const { code, stdout, stderr } = await enredo(["fleet", folder]);
    expect({ code, stdout }).toEqual({ code: 2, stdout: "" });
    expect(stderr).toContain("enredo check --format ndjson --output FILE");
    expect((await enredo(["fleet", path.join(folder, "b")])).stderr).toContain("no *.ndjson and no *.jsonl file lies in");
    expect(await enredo(["fleet", path.join(folder, "nowhere")])).toMatchObject({
      code: 2,
      stderr: expect.stringContaining("there is no file") as string,
    });
  });

  it("with a line without end, or names that are markup, commands or formulas, do nothing", async () => {
    const name = "=1+1<script>alert(1)</script>\u001b[31m::error::x\u202e";
    const folder = temporaryFolder({
      "a.ndjson": text(answer(name, { sdks: { [name]: name } }), whole),
      "long.ndjson": `{"a":"${"x".repeat(3_000_000)}"}\n`,
    });
    for (const format of ["text", "csv", "html", "json"]) {
      const { code, stdout, stderr } = await enredo(["fleet", folder, "--format", format]);
      expect(code).toBe(0);
      expect(stdout + stderr).not.toMatch(/\u001b|\u202e|^::error/m);
      if (format === "html") expect(stdout.match(/<script/g)).toHaveLength(1);
      if (format === "csv") expect(stdout).not.toMatch(/(^|,)"?=1/m);
      if (format !== "json") expect(stdout + stderr).toContain("a line is longer than 1024 kB");
    }
  });
});

it("a policy in the folder of a project is no mistake for the other commands", async () => {
  const folder = temporaryFolder();
  write(folder, {
    "settings.gradle": "include ':app'\n",
    "app/build.gradle":
      "apply plugin: 'com.android.application'\nandroid { compileSdk 35\n defaultConfig { applicationId 'a.b'\n minSdk 24 } }\n",
  });
  writeFileSync(path.join(folder, "enredo.yaml"), "policy: { levels: { minSdk: 24 } }\n");
  const { findings } = JSON.parse((await enredo(["check", folder, "--json"])).stdout) as { findings: { rule: string }[] };
  expect(findings.filter(({ rule }) => rule === "project/settings")).toEqual([]);
});
