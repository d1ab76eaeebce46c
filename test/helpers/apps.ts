import { readdirSync, readFileSync, statSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";

const demo = fileURLToPath(new URL("../../demo", import.meta.url));

function filesBelow(folder: string, prefix = "", into: Record<string, string> = {}): Record<string, string> {
  for (const name of readdirSync(folder)) {
    const full = path.join(folder, name);
    if (statSync(full).isDirectory()) filesBelow(full, `${prefix}${name}/`, into);
    else into[`${prefix}${name}`] = readFileSync(full, "utf8");
  }
  return into;
}

/** Each sample app with what is installed in it and the sheets. */
export const apps = readdirSync(demo)
  .filter((name) => name !== "sheets")
  .map((name) => {
    const files = { ...filesBelow(path.join(demo, name, "project")), ...filesBelow(path.join(demo, "sheets"), "enredo/sheets/") };
    try {
      Object.assign(files, filesBelow(path.join(demo, name, "installed")));
    } catch {
      // Not every app has something installed.
    }
    return { name, files };
  });
