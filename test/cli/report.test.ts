/// <reference lib="dom" />
import { existsSync, readFileSync } from "node:fs";
import path from "node:path";
import { pathToFileURL } from "node:url";
import puppeteer, { type Browser, type Page } from "puppeteer-core";
import { afterAll, beforeAll, describe, expect, inject, it } from "vitest";
import { enredo } from "../helpers/in-process.js";
import { temporaryFolder, write } from "../helpers/program.js";

const CHROMIUM = [
  process.env.CHROMIUM,
  "/usr/bin/chromium",
  "/usr/bin/chromium-browser",
  "/usr/bin/google-chrome",
  "/Applications/Chromium.app/Contents/MacOS/Chromium",
].find((file) => file !== undefined && existsSync(file));

let page: string;
const { demo } = inject("sampleApps");
beforeAll(async () => {
  page = path.join(temporaryFolder(), "report.html");
  expect(await enredo(["report", demo, "--output", page])).toMatchObject({ code: 0, stdout: "" });
});

describe("report", () => {
  it("is one page that names nothing outside of itself", () => {
    const text = readFileSync(page, "utf8");
    expect(text).toMatch(/^<!doctype html>/i);
    expect(text).not.toMatch(/(?:src|href)="(?!#)/);
    expect(text).not.toMatch(/ style="| on\w+="/);
    expect(text).toContain("default-src 'none'");
  });

  it("holds every finding, readable without scripts, and no key in full", async () => {
    const text = readFileSync(page, "utf8");
    const { findings } = JSON.parse((await enredo(["check", demo, "--json"])).stdout) as { findings: unknown[] };
    expect(text.match(/<article\s/g)).toHaveLength(findings.length);
    for (const secret of ["mr-5c0e77d19b2f4a8864", "qm_live_91c0e7d2ab5f4836d0c1e2fb", "tbp92d0c7e1a4b8f3650e9c7d1a4b82"])
      expect(text).not.toContain(secret);
  });

  it("takes nothing of a project as markup", async () => {
    const folder = temporaryFolder({
      "settings.gradle": "include ':app'\n",
      "app/build.gradle":
        "apply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk 24\n  }\n}\ndependencies {\n  implementation 'example.x:\"><script>alert(1)</script><img src=x onerror=alert(2)>:+'\n}\n",
    });
    const text = (await enredo(["report", folder])).stdout;
    expect(text.match(/<script/g)).toHaveLength(1);
    expect(text).not.toContain("<img");
  });
});

describe.skipIf(CHROMIUM === undefined)("report in a browser", () => {
  let browser: Browser;
  const problems: string[] = [];
  const open = async (hash = ""): Promise<Page> => {
    const tab = await browser.newPage();
    tab.on("console", (message) => problems.push(message.text()));
    tab.on("pageerror", (error) => problems.push(String(error)));
    tab.on("request", (request) => {
      if (!request.url().startsWith("file:")) problems.push(`request ${request.url()}`);
    });
    await tab.goto(pathToFileURL(page).href + hash);
    return tab;
  };
  const shown = (tab: Page): Promise<number> =>
    tab.$$eval(
      "article",
      (items) => items.filter((item) => !(item as HTMLElement).hidden && (item as HTMLElement).offsetParent !== null).length,
    );

  beforeAll(async () => {
    browser = await puppeteer.launch({ executablePath: CHROMIUM as string, headless: true, args: ["--no-sandbox"] });
  });
  afterAll(async () => {
    await browser.close();
  });

  it("loads without an error and without asking for anything", async () => {
    const tab = await open();
    expect(await tab.title()).toBe("SDK wiring of the apps");
    expect(await tab.$$eval("svg", (all) => all.length)).toBeGreaterThan(10);
    expect(problems).toEqual([]);
    await tab.close();
  });

  it("filters by app, side, SDK, severity and words, says how many are left, and shows all again", async () => {
    const tab = await open();
    const left = (): Promise<string | null> => tab.$eval("#count", (element) => element.textContent);
    const all = await tab.$$eval("article", (items) => items.length);
    expect(await left()).toBe(`${all} of ${all} shown`);
    await tab.select("select[name=app]", "Pilot");
    const pilot = await shown(tab);
    await tab.select("select[name=severity]", "error");
    const errors = await shown(tab);
    await tab.select("select[name=sdk]", "moorid");
    const moorid = await shown(tab);
    expect(all > pilot && pilot > errors && errors > moorid && moorid > 0).toBe(true);
    expect(await left()).toBe(`${moorid} of ${all} shown`);
    await tab.type("input[name=q]", "no such words");
    expect(await shown(tab)).toBe(0);
    await tab.click("button[type=reset]");
    await tab.waitForFunction((count: number) => document.getElementById("count")?.textContent === `${count} of ${count} shown`, {}, all);
    await tab.keyboard.press("/");
    await tab.keyboard.type("level/below-need");
    expect(await tab.$$eval("article:not([hidden])", (items) => items.every((item) => item.textContent.includes("level/below-need")))).toBe(
      true,
    );
    expect(problems).toEqual([]);
    await tab.close();
  });

  it("keeps the filter in its address, and opens what an address leads to", async () => {
    const tab = await open();
    await tab.select("select[name=app]", "Pilot");
    const address = tab.url();
    const pilot = await shown(tab);
    await tab.close();
    const again = await open(new URL(address).hash);
    expect(await again.$eval("select[name=app]", (field) => (field as HTMLSelectElement).value)).toBe("Pilot");
    expect(await shown(again)).toBe(pilot);
    // From an SDK to its findings, from a finding to its SDK.
    await again.evaluate(() => document.querySelector<HTMLElement>("#app-pilot-sdk-quaymap a[data-filter]")?.click());
    await again.waitForFunction(() => location.hash.includes("sdk=quaymap"));
    expect(await shown(again)).toBeGreaterThan(0);
    expect(
      await again.$$eval("article:not([hidden])", (items) => items.every((item) => (item as HTMLElement).dataset.sdk === "quaymap")),
    ).toBe(true);
    await again.evaluate(() => document.querySelector<HTMLElement>('article:not([hidden]) a[href="#app-pilot-sdk-quaymap"]')?.click());
    await again.waitForFunction(() => document.querySelector<HTMLDetailsElement>("#app-pilot-sdk-quaymap")?.open === true);
    const isSeen = await again.$eval("#app-pilot-sdk-quaymap", (element) => (element as HTMLElement).offsetParent !== null);
    expect(isSeen).toBe(true);
    await again.close();
  });

  it("leads nowhere that is not there", async () => {
    const tab = await open();
    const lost = await tab.$$eval("a[href^='#']", (links) =>
      links
        .map((link) => (link.getAttribute("href") ?? "").slice(1).split("?")[0] ?? "")
        .filter((id) => document.getElementById(id) === null),
    );
    expect(lost).toEqual([]);
    const ids = await tab.$$eval("[id]", (all) => all.map(({ id }) => id));
    expect(ids.length).toBe(new Set(ids).size);
    await tab.close();
  });

  it("shows all of it in print", async () => {
    const tab = await open();
    await tab.emulateMediaType("print");
    await tab.evaluate(() => dispatchEvent(new Event("beforeprint")));
    const all = await tab.$$eval("article", (items) => items.length);
    expect(await shown(tab)).toBe(all);
    expect(await tab.$$eval("details", (items) => items.filter((item) => !item.open).length)).toBe(0);
    await tab.close();
  });

  it("can be used by the keyboard, and names its parts for screen readers", async () => {
    const tab = await open();
    await tab.keyboard.press("Tab");
    expect(await tab.evaluate(() => document.activeElement?.textContent)).toBe("Skip to the content");
    const unnamed = await tab.$$eval(
      "svg[role=img], [role=group], form, nav, section",
      (all) => all.filter((item) => !item.getAttribute("aria-label") && !item.getAttribute("aria-labelledby")).length,
    );
    expect(unnamed).toBe(0);
    const heads = await tab.$$eval("h1, h2, h3, h4", (all) => all.map(({ tagName }) => Number(tagName[1])));
    heads.slice(1).forEach((level, index) => expect(level - (heads[index] ?? 0)).toBeLessThanOrEqual(1));
    await tab.close();
  });

  it("does not scroll sideways on a narrow screen, and keeps contrast in the dark", async () => {
    const tab = await open();
    await tab.setViewport({ width: 380, height: 700 });
    expect(await tab.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
    await tab.emulateMediaFeatures([{ name: "prefers-color-scheme", value: "dark" }]);
    const [ink, paper] = await tab.evaluate(() => {
      const { color, backgroundColor } = getComputedStyle(document.body);
      return [color, backgroundColor].map((text) => (text.match(/\d+/g) ?? []).slice(0, 3).reduce((sum, part) => sum + Number(part), 0));
    });
    expect((ink ?? 0) - (paper ?? 0)).toBeGreaterThan(450);
    await tab.close();
  });
});

describe("report of one app", () => {
  const shared = {
    "settings.gradle": "include ':app'\n",
    "app/build.gradle":
      "apply plugin: 'com.android.application'\nandroid {\n  compileSdk 35\n  defaultConfig {\n    applicationId 'example.maresia.pilot'\n    minSdk 24\n    targetSdk 35\n  }\n}\n",
  };

  it("has no ✓ where something about the whole folder is wrong, and names no part that is not there", async () => {
    const fine = (await enredo(["report", temporaryFolder(shared)])).stdout;
    expect(fine).toContain("✓ Nothing in the files stands in the way");
    const wrong = (await enredo(["report", temporaryFolder({ ...shared, "enredo.yaml": "flors: {}\n" })])).stdout;
    expect(wrong).not.toContain("✓ Nothing in the files");
    expect(wrong).toContain("about the whole folder");
    for (const page of [fine, wrong]) for (const [, id] of page.matchAll(/href="#([^"?]+)"/g)) expect(page).toContain(`id="${id ?? ""}"`);
  });

  it("is not ready on a side whose shared code is not", async () => {
    const text = (await enredo(["report", path.join(demo, "tidegame"), "--sheets", path.join(demo, "enredo/sheets")])).stdout;
    expect(text).toMatch(/<h3>iOS<\/h3>\s*<p class="verdict">\s*<strong class="error">✗ Not ready: \d+ errors in the shared code/);
  });
});

describe("report of a project with broken input", () => {
  it("still comes", async () => {
    const folder = temporaryFolder();
    write(folder, {
      "settings.gradle": "include ':app'\n",
      "app/build.gradle": "apply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    applicationId 'a.b'\n",
    });
    const { code, stdout } = await enredo(["report", folder]);
    expect(code).toBe(0);
    expect(stdout).toContain("</html>");
  });
});
