import path from "node:path";
import { pathToFileURL } from "node:url";
import { expect, it } from "vitest";
import { enredo, type RunOptions } from "../helpers/in-process.js";
import { ROOT, type Run } from "../helpers/program.js";

it("every command in the guide and the how-to pages gives what the page shows", async () => {
  const { pages, stalePages } = (await import(pathToFileURL(path.join(ROOT, "scripts/guide.mjs")).href)) as {
    pages: string[];
    stalePages(start: (args: string[], options: RunOptions) => Promise<Run>): Promise<Map<string, string>>;
  };
  expect(pages.length).toBeGreaterThan(6);
  const commands: string[] = [];
  const stale = await stalePages((args, options) => {
    commands.push(args.join(" "));
    return enredo(args, options);
  });
  expect([...stale.keys()]).toEqual([]);
  expect(commands.length).toBeGreaterThan(20);
});
