import type * as Core from "../core/internal.js";

/** The core, loaded where a command first needs it. In the built program it is a file of its own (scripts/build.mjs). */
export async function core(): Promise<typeof Core> {
  return import("../core/internal.js");
}
