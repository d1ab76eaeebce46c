import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { reason, reasonText, withParts } from "../../src/core/model/reason.js";
import { REASONS } from "../../src/core/model/reasons.js";

const SOURCES = join(import.meta.dirname, "../../src");

describe("reasons", () => {
  it("become sentences with what they speak of, the reasons behind them as well", () => {
    expect(reasonText(reason("encrypted"))).toBe("it is encrypted");
    expect(reasonText(reason("larger-than", { size: 32 }))).toBe("it is larger than 32 MB");
    const behind = reason("script-may-add", { why: reason("sets", { name: "MARKETING_VERSION" }) });
    expect(reasonText(behind)).toBe("a build script may add it: it sets MARKETING_VERSION");
  });

  it("take what a project calls something as it is", () => {
    expect(reasonText(reason("without-value", { name: "{name} $& $1" }))).toBe("{name} $& $1 has no value in the files");
  });

  it("are changed part by part, and are plain data", () => {
    const before = reason("brought-by", { why: reason("started-by", { entry: "main" }), package: "lighthouse" });
    const after = withParts(before, (text) => text.toUpperCase());
    expect(reasonText(after)).toBe("by MAIN; brought by LIGHTHOUSE");
    expect(reasonText(before)).toBe("by main; brought by lighthouse");
    expect(JSON.parse(JSON.stringify(before))).toEqual(before);
  });

  it("are worded to stand behind a colon, and each is given somewhere", () => {
    const texts = readdirSync(SOURCES, { recursive: true, encoding: "utf8" })
      .filter((file) => file.endsWith(".ts") && !file.endsWith("reasons.ts"))
      .map((file) => readFileSync(join(SOURCES, file), "utf8"));
    const all = new Set(texts.flatMap((text) => [...text.matchAll(/"([a-z\d-]+)"/g)].map(([, code]) => code)));
    expect(Object.keys(REASONS).filter((code) => !all.has(code))).toEqual([]);
    expect(Object.values(REASONS).filter((sentence: string) => sentence.trim() === "" || sentence.endsWith("."))).toEqual([]);
  });
});
