import { idsDiffer } from "./identity/ids-differ.js";
import { placeholderId } from "./identity/placeholder-id.js";
import { belowNeed } from "./level/below-need.js";
import { leftToDefault } from "./level/left-to-default.js";
import { methodLimit } from "./level/method-limit.js";
import { levelOrder } from "./level/order.js";
import { spread } from "./level/spread.js";
import { toolsApart } from "./level/tools-apart.js";
import { settingsRule } from "./project/settings.js";
import { unreadable } from "./project/unreadable.js";
import type { ProjectRule, Rule } from "./rule.js";
import { binaryMissing } from "./source/binary-missing.js";
import { buildPlugin } from "./source/build-plugin.js";
import { insecure } from "./source/insecure.js";
import { outsideProject } from "./source/outside-project.js";
import { repositoryMissing } from "./source/repository-missing.js";
import { repositoryRetired } from "./source/repository-retired.js";
import { workspaceBypassed } from "./source/workspace-bypassed.js";
import { conflict } from "./version/conflict.js";
import { familyApart } from "./version/family-apart.js";
import { floating } from "./version/floating.js";
import { lockMissing } from "./version/lock-missing.js";
import { lockStale } from "./version/lock-stale.js";
import { sidesApart } from "./version/sides-apart.js";
import { twoRoutes } from "./version/two-routes.js";

/** Every rule, in the order in which people work. */
export const RULES: (Rule | ProjectRule)[] = [
  placeholderId,
  idsDiffer,
  lockMissing,
  lockStale,
  floating,
  conflict,
  twoRoutes,
  sidesApart,
  familyApart,
  repositoryMissing,
  repositoryRetired,
  insecure,
  outsideProject,
  binaryMissing,
  buildPlugin,
  workspaceBypassed,
  belowNeed,
  leftToDefault,
  spread,
  levelOrder,
  methodLimit,
  toolsApart,
  unreadable,
  settingsRule,
];

export const RULE_NAMES: string[] = RULES.map(({ name }) => name);

export function findRule(name: string): Rule | ProjectRule | undefined {
  return RULES.find((rule) => rule.name === name);
}
