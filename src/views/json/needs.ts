import type { PackageNeeds, PackagePage } from "../../core/project/package-needs/index.js";
import { wireDocument } from "./trace.js";
import type { NeedsDocument } from "./types.js";

/** `needs --json`. */
export function needsDocument(root: string, name: string, all: readonly PackageNeeds[], page: PackagePage | undefined): NeedsDocument {
  return {
    schema: "enredo.needs/1",
    root,
    package: name,
    page: page?.page.file ?? null,
    apps: all.map(({ app, sdk, isIn, trace }) => ({
      name: app.name,
      kind: app.kind,
      path: app.path || ".",
      sdk,
      isIn,
      sides: Object.fromEntries(trace.sides.map(({ side, wires }) => [side, wires.map(wireDocument)])),
    })),
    byHand: (page?.rest ?? []).map(({ file, section, line, optional, text }) => ({ file, section, line, optional, text })),
    elsewhere: (page?.links ?? []).map(({ to, line }) => ({ to, line })),
  };
}
