import type * as Core from "../core/index.js";

/** The core, loaded where a command first needs it. In the built program it is a file of its own (scripts/build.mjs). */
export async function core(): Promise<typeof Core> {
  return import("../core/index.js");
}
