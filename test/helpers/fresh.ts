import { existsSync, readdirSync, statSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";

const ROOT = fileURLToPath(new URL("../..", import.meta.url));

/** Says that what is built is older than the sources that it is built from, before a test says something else. */
export function expectFresh(built: string, ...sources: string[]): void {
  const file = path.join(ROOT, built);
  if (!existsSync(file)) throw new Error(`${built} is not there: npm run build`);
  const { mtimeMs } = statSync(file);
  for (const folder of sources)
    for (const entry of readdirSync(path.join(ROOT, folder), { recursive: true, withFileTypes: true })) {
      const source = path.join(entry.parentPath, entry.name);
      if (entry.isFile() && statSync(source).mtimeMs > mtimeMs)
        throw new Error(`${built} is older than ${path.relative(ROOT, source)}: npm run build`);
    }
}
