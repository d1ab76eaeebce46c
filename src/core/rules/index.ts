import { declaredElsewhere } from "./source/declared-elsewhere.js";
import { debugLeftOn } from "./start/debug-left-on.js";
import { importMissing } from "./start/import-missing.js";
import { startMissing } from "./start/missing.js";
import { neverReached } from "./start/never-reached.js";
import { startOrder } from "./start/order.js";
import { tooLate } from "./start/too-late.js";
import { startTwice } from "./start/twice.js";
import { startUnguarded } from "./start/unguarded.js";
import { startUnused } from "./start/unused.js";
import { wrongCall } from "./start/wrong-call.js";
import { serviceMissing } from "./parity/service-missing.js";
import { componentBroken } from "./project/component-broken.js";
import { debugOption } from "./project/debug-option.js";
import { assetMissing } from "./source/asset-missing.js";
import { buildStops } from "./project/build-stops.js";
import { extensionBroken } from "./project/extension-broken.js";
import { valueMissing } from "./project/value-missing.js";
import { onlyInVariant } from "./version/only-in-variant.js";
import { configApart } from "./project/config-apart.js";
import { flavorMissing } from "./parity/flavor-missing.js";
import { oneSided } from "./parity/one-sided.js";
import { packaging } from "./keep/packaging.js";
import { fileUnused } from "./keep/file-unused.js";
import { keepMisspelt } from "./keep/misspelt.js";
import { rulesMissing } from "./keep/rules-missing.js";
import { inAddress } from "./key/in-address.js";
import { inTheOpen } from "./key/in-the-open.js";
import { environment } from "./key/environment.js";
import { sidesSwapped } from "./key/sides-swapped.js";
import { shape } from "./key/shape.js";
import { placesApart } from "./key/places-apart.js";
import { keyPlaceholder } from "./key/placeholder.js";
import { keyMissing } from "./key/missing.js";
import { unneeded } from "./permit/unneeded.js";
import { host } from "./permit/host.js";
import { scheme } from "./permit/scheme.js";
import { misspelt } from "./permit/misspelt.js";
import { pairBroken } from "./permit/pair-broken.js";
import { entryMissing } from "./permit/entry-missing.js";
import { purposeMissing } from "./permit/purpose-missing.js";
import { permissionMissing } from "./permit/permission-missing.js";
import { templateLine } from "./native/template-line.js";
import { unregistered } from "./native/unregistered.js";
import { notEmbedded } from "./native/not-embedded.js";
import { frameworkMissing } from "./native/framework-missing.js";
import { linkedTwice } from "./native/linked-twice.js";
import { leftOut } from "./native/left-out.js";
import { notLinked } from "./native/not-linked.js";
import { patchApart } from "./version/patch-apart.js";
import { withdrawn } from "./version/withdrawn.js";
import { companionMissing } from "./version/companion-missing.js";
import { wrapperApart } from "./version/wrapper-apart.js";
import { serviceFileMisplaced } from "./identity/service-file-misplaced.js";
import { serviceFileMismatch } from "./identity/service-file-mismatch.js";
import { idsDiffer } from "./identity/ids-differ.js";
import { versionUnset } from "./identity/version-unset.js";
import { watchApart } from "./identity/watch-apart.js";
import { placeholderId } from "./identity/placeholder-id.js";
import { belowNeed } from "./level/below-need.js";
import { leftToDefault } from "./level/left-to-default.js";
import { methodLimit } from "./level/method-limit.js";
import { storeFloor } from "./level/store-floor.js";
import { desugaringOff } from "./level/desugaring-off.js";
import { placeholderUnset } from "./key/placeholder-unset.js";
import { pageSize } from "./native/page-size.js";
import { processorMissing } from "./native/processor-missing.js";
import { libraryDoubled } from "./native/library-doubled.js";
import { classesDoubled } from "./version/classes-doubled.js";
import { raised } from "./version/raised.js";
import { limitedByPackage } from "./permit/limited-by-package.js";
import { reasonInvalid } from "./permit/reason-invalid.js";
import { manifestMissing } from "./permit/manifest-missing.js";
import { purposeTwice } from "./permit/purpose-twice.js";
import { reasonMissing } from "./permit/reason-missing.js";
import { sliceMissing } from "./native/slice-missing.js";
import { levelOrder } from "./level/order.js";
import { spread } from "./level/spread.js";
import { frameworkApart } from "./level/framework-apart.js";
import { toolsApart } from "./level/tools-apart.js";
import { fileOutsideTarget } from "./project/file-outside-target.js";
import { handlerMissing } from "./project/handler-missing.js";
import { halfMissing } from "./native/half-missing.js";
import { pluginUnlisted } from "./native/plugin-unlisted.js";
import { setupMissing } from "./project/setup-missing.js";
import { settingsRule } from "./project/settings.js";
import { unreadable } from "./project/unreadable.js";
import type { ProjectRule, Rule } from "./rule.js";
import { binaryMissing } from "./source/binary-missing.js";
import { notTaken } from "./source/not-taken.js";
import { buildPlugin } from "./source/build-plugin.js";
import { insecure } from "./source/insecure.js";
import { outsideProject } from "./source/outside-project.js";
import { repositoryMissing } from "./source/repository-missing.js";
import { repositoryRetired } from "./source/repository-retired.js";
import { workspaceBypassed } from "./source/workspace-bypassed.js";
import { centralApart } from "./version/central-apart.js";
import { conflict } from "./version/conflict.js";
import { familyApart } from "./version/family-apart.js";
import { floating } from "./version/floating.js";
import { lockMissing } from "./version/lock-missing.js";
import { lockStale } from "./version/lock-stale.js";
import { sidesApart } from "./version/sides-apart.js";
import { twoRoutes } from "./version/two-routes.js";

/** Every rule, in the order in which people work. */
export const RULES: (Rule | ProjectRule)[] = [
  serviceFileMismatch,
  serviceFileMisplaced,
  placeholderId,
  idsDiffer,
  versionUnset,
  watchApart,
  lockMissing,
  lockStale,
  floating,
  centralApart,
  conflict,
  twoRoutes,
  raised,
  classesDoubled,
  sidesApart,
  wrapperApart,
  familyApart,
  companionMissing,
  withdrawn,
  patchApart,
  repositoryMissing,
  repositoryRetired,
  insecure,
  outsideProject,
  binaryMissing,
  notTaken,
  declaredElsewhere,
  buildPlugin,
  workspaceBypassed,
  belowNeed,
  leftToDefault,
  spread,
  levelOrder,
  methodLimit,
  toolsApart,
  frameworkApart,
  storeFloor,
  desugaringOff,
  notLinked,
  leftOut,
  linkedTwice,
  frameworkMissing,
  notEmbedded,
  unregistered,
  libraryDoubled,
  sliceMissing,
  pageSize,
  processorMissing,
  templateLine,
  permissionMissing,
  purposeMissing,
  entryMissing,
  limitedByPackage,
  reasonMissing,
  manifestMissing,
  purposeTwice,
  reasonInvalid,
  pairBroken,
  misspelt,
  scheme,
  host,
  unneeded,
  keyMissing,
  placeholderUnset,
  keyPlaceholder,
  placesApart,
  shape,
  sidesSwapped,
  environment,
  inAddress,
  inTheOpen,
  rulesMissing,
  fileUnused,
  keepMisspelt,
  packaging,
  startMissing,
  neverReached,
  startTwice,
  tooLate,
  startOrder,
  startUnguarded,
  wrongCall,
  importMissing,
  startUnused,
  debugLeftOn,
  oneSided,
  flavorMissing,
  serviceMissing,
  componentBroken,
  debugOption,
  buildStops,
  extensionBroken,
  valueMissing,
  assetMissing,
  onlyInVariant,
  configApart,
  unreadable,
  handlerMissing,
  setupMissing,
  halfMissing,
  pluginUnlisted,
  fileOutsideTarget,
  settingsRule,
];

export const RULE_NAMES: string[] = RULES.map(({ name }) => name);

export function findRule(name: string): Rule | ProjectRule | undefined {
  return RULES.find((rule) => rule.name === name);
}
