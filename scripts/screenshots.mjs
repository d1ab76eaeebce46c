// Draws the output of the main commands on the demo apps as pictures for the README and the docs. Needs Chromium: CHROMIUM names the program.
import { execFileSync, spawnSync } from "node:child_process";
import { mkdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";
import AnsiToHtml from "ansi-to-html";
import puppeteer from "puppeteer-core";

const root = fileURLToPath(new URL("..", import.meta.url));
// Pages show where they were made: one name, so that the same output gives the same picture.
const scratch = path.join(tmpdir(), "enredo-pictures");
rmSync(scratch, { recursive: true, force: true });
mkdirSync(scratch);
const target = path.join(root, "docs/screenshots");
const chromium = process.env.CHROMIUM ?? "chromium";
mkdirSync(target, { recursive: true });

const run = (args) =>
  spawnSync(process.execPath, [path.join(root, "bin/enredo.js"), ...args], {
    cwd: scratch,
    encoding: "utf8",
    env: { ...process.env, FORCE_COLOR: "1", NO_COLOR: "", COLUMNS: "128" },
    maxBuffer: 1 << 26,
  }).stdout;

const page = (title, text) => {
  const convert = new AnsiToHtml({
    fg: "#d8dee9",
    bg: "#1c2028",
    escapeXML: true,
    colors: { 8: "#8b949e", 1: "#ff7b72", 2: "#7ee787", 3: "#e3b341", 6: "#79c0ff" },
  });
  return `<!doctype html><meta charset="utf-8"><title>${title}</title><style>body{margin:0;background:#1c2028}pre{margin:0;padding:18px 22px;color:#d8dee9;font:13px/1.36 "DejaVu Sans Mono",monospace;white-space:pre}b{color:#fff}</style><pre><span style="color:#8b949e">$ enredo ${title}</span>\n\n${convert.toHtml(text.replaceAll("\u001b[2m", "\u001b[90m").replaceAll("\u001b[22m", "\u001b[0m"))}</pre>`;
};

const draw = (name, args, shown = args.join(" ")) => {
  const file = path.join(scratch, `${name}.html`);
  writeFileSync(file, page(shown, run(args)));
  execFileSync(
    chromium,
    [
      "--headless",
      "--no-sandbox",
      "--disable-gpu",
      "--hide-scrollbars",
      "--no-first-run",
      "--disable-background-networking",
      "--disable-component-update",
      "--disable-sync",
      `--user-data-dir=${path.join(scratch, "profile")}`,
      "--window-size=1280,800",
      `--screenshot=${path.join(target, `${name}.png`)}`,
      pathToFileURL(file).href,
    ],
    { stdio: "ignore" },
  );
  console.log(`docs/screenshots/${name}.png`);
};

try {
  draw("demo", ["demo", "apps"]);
  draw("survey", ["survey", "apps"]);
  draw("check", ["check", "apps"]);
  draw("check-hybrid", ["check", "apps/crewboard"]);
  draw("levels", ["levels", "apps"]);
  draw("trace", ["trace", "quaymap", "apps", "--app", "deckpass"]);
  draw("startup", ["startup", "apps", "--app", "pilot"]);
  draw("confirm", ["confirm", "apps/pilot/logs/ios-launch.log", "apps"]);
  draw("compare", ["compare", "apps"]);
  draw("needs", ["needs", "@quaymap/react-native", "apps/deckpass"]);
  draw("permits", ["permits", "apps", "--app", "deckpass"]);
  for (const name of ["crewboard", "deckpass", "kiosk", "lockkeeper", "logbook", "pilot", "quayside", "tidegame"])
    run(["check", `apps/${name}`, "--format", "ndjson", "--output", `answers/${name}.ndjson`]);
  draw("sheet-list", ["sheet", "list", "apps"]);
  draw("patch", ["patch", "apps"]);
  run(["demo", "mended", "--clean"]);
  draw("diff", ["diff", "mended/pilot", "apps/pilot"]);
  const browser = await puppeteer.launch({
    executablePath: chromium.includes("/") ? chromium : `/usr/bin/${chromium}`,
    headless: true,
    args: ["--no-sandbox"],
  });
  const html = (name, args) => {
    const file = path.join(scratch, `${name}.html`);
    writeFileSync(file, run(args));
    return file;
  };
  const all = html("report", ["report", "apps"]);
  const one = html("report-of-one", ["report", "apps/deckpass", "--sheets", "apps/enredo/sheets"]);
  const fleet = html("fleet", ["fleet", "answers", "--format", "html"]);
  for (const [name, file, width, scheme, at] of [
    ["report", one, 1280, "light", ""],
    ["report-apps", all, 1280, "light", ""],
    ["report-dark", one, 1280, "dark", "app-deckpass-sdk-quaymap"],
    ["report-narrow", one, 420, "light", "app-deckpass-levels"],
    ["fleet-page", fleet, 1280, "light", "sdks"],
  ]) {
    const tab = await browser.newPage();
    await tab.setViewport({ width, height: 800 });
    await tab.emulateMediaFeatures([{ name: "prefers-color-scheme", value: scheme }]);
    await tab.goto(`${pathToFileURL(file).href}#${at}`);
    await tab.screenshot({ path: path.join(target, `${name}.png`) });
    console.log(`docs/screenshots/${name}.png`);
  }
  await browser.close();
} finally {
  rmSync(scratch, { recursive: true, force: true });
}
