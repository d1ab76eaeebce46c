import { isUntold } from "../knowledge/generated-projects.js";
import type { Place } from "../model/place.js";
import { reason, type Reason } from "../model/reason.js";
import { isTable, mainText, type Sheet, type SheetNeed } from "../model/sheet.js";
import type { NeedOnSide } from "./context.js";

/** The part of a generated project that holds what a need asks for. */
const PART: Partial<Record<SheetNeed["kind"], string>> = {
  urlScheme: "CFBundleURLTypes",
  queriedScheme: "LSApplicationQueriesSchemes",
  backgroundMode: "UIBackgroundModes",
  host: "NSAppTransportSecurity",
  entitlement: "entitlements",
  systemFramework: "frameworks",
  embed: "frameworks",
  linkerFlag: "settings",
  searchPath: "settings",
};

/** What an SDK's own package writes for itself alone; everything else may be written by any. */
const OWN: ReadonlySet<SheetNeed["kind"]> = new Set(["key", "urlScheme", "plistEntry"]);

/** Kinds of need that a script which changes the Gradle project can meet. */
const IN_GRADLE: ReadonlySet<SheetNeed["kind"]> = new Set([
  "key",
  "permission",
  "manifestEntry",
  "urlScheme",
  "queriedScheme",
  "host",
  "serviceFile",
  "keepRule",
  "repository",
]);

/** Why what is missing may be there after all, and where that is decided. */
export interface LeftOpen {
  why: Reason;
  places: Place[];
}

/**
 * Why what is missing in the model of a generated project can be there after all: a script that cannot be followed may add it, or a
 * package whose files are not here. A package that a sheet describes adds, of what others need too, only what its sheet asks for.
 */
export function leftOpen(subject: NeedOnSide, wanted: string): LeftOpen | undefined {
  const { app, need, side } = subject;
  const { kind } = need;
  const open = app.openParts.filter((part) => part.side === side);
  const part = PART[kind];
  const script =
    side === "android"
      ? IN_GRADLE.has(kind)
        ? open[0]
        : undefined
      : open.find((one) => one.part === "*" || one.part === "project" || one.part === part || wanted.includes(one.part));
  if (script) return { why: reason("script-may-add", { why: script.why }), places: [script.at] };
  if (side === "android" ? isUntold(app.kind, side, kind) : kind === "serviceFile" || kind === "licenceFile")
    return { why: reason("generated-when-built"), places: [] };
  const unseen = side === "ios" ? unseenPackage(subject) : undefined;
  return unseen === undefined ? undefined : { why: reason("package-may-add", { package: unseen }), places: [] };
}

/** A package whose files are not here and that may bring what a need asks for. */
function unseenPackage({ app, sheet, need, sheets }: Pick<NeedOnSide, "app" | "sheet" | "need" | "sheets">): string | undefined {
  return app.unseenPackages.find(({ name, sdk: written }) => {
    const sdk = app.dependencies.find((dependency) => dependency.name === name)?.sdk ?? written;
    if (sdk === sheet.sdk) return true;
    if (OWN.has(need.kind)) return false;
    const other = sheets.find((candidate) => candidate.sdk === sdk);
    return other === undefined || other.needs.some((one) => one.kind === need.kind && textOfNeed(one) === textOfNeed(need));
  })?.name;
}

function textOfNeed({ value }: Sheet["needs"][number]): string {
  return isTable(value) ? mainText(value, "key") : mainText(value, "");
}
