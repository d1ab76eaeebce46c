import type { NeedKind, SheetNeed } from "../../model/sheet.js";
import { mainText } from "../../model/sheet.js";
import type { NeedDefinition } from "../definition.js";
import { SETTING_NEEDS } from "../settings.js";
import { backgroundMode } from "./background-mode.js";
import { buildPlugin } from "./build-plugin.js";
import { companion } from "./companion.js";
import { debugOnly } from "./debug-only.js";
import { embed } from "./embed.js";
import { entitlement } from "./entitlement.js";
import { host } from "./host.js";
import { importNeed } from "./import.js";
import { keepRule } from "./keep-rule.js";
import { key } from "./key.js";
import { LEVEL_NEEDS } from "./levels.js";
import { licenceFile } from "./licence-file.js";
import { linkerFlag } from "./linker-flag.js";
import { logLine } from "./log-line.js";
import { manifestEntry } from "./manifest-entry.js";
import { packaging } from "./packaging.js";
import { permission } from "./permission.js";
import { plistEntry } from "./plist-entry.js";
import { privacyManifest } from "./privacy-manifest.js";
import { purposeText } from "./purpose-text.js";
import { queriedScheme } from "./queried-scheme.js";
import { registration } from "./registration.js";
import { repository } from "./repository.js";
import { searchPath } from "./search-path.js";
import { serviceFile } from "./service-file.js";
import { start } from "./start.js";
import { systemFramework } from "./system-framework.js";
import { urlScheme } from "./url-scheme.js";
import { use } from "./use.js";
import { withdrawn } from "./withdrawn.js";

/** Every kind of need. */
export const NEEDS: Readonly<Record<NeedKind, NeedDefinition>> = {
  ...LEVEL_NEEDS,
  repository,
  buildPlugin,
  companion,
  serviceFile,
  licenceFile,
  key,
  permission,
  purposeText,
  manifestEntry,
  plistEntry,
  entitlement,
  backgroundMode,
  urlScheme,
  queriedScheme,
  host,
  privacyManifest,
  systemFramework,
  linkerFlag,
  embed,
  searchPath,
  keepRule,
  packaging,
  ...SETTING_NEEDS,
  import: importNeed,
  start,
  registration,
  use,
  debugOnly,
  withdrawn,
  logLine,
};

/** A need in a few words. */
export function describe(need: SheetNeed, side: string): string {
  const { what, title, main = "name" } = NEEDS[need.kind];
  return what?.(need, side) ?? `${title} ${mainText(need.value, main)}`;
}
