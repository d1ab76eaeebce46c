import type { RawFinding } from "../../../model/finding.js";
import type { GradleModule } from "../../../model/gradle.js";
import { textOf } from "../../../model/value.js";

/**
 * Signing configurations that are not there, and those that lack a part. Sources: developer.android.com, "Sign your app" (signing configurations are made in
 * signingConfigs, with a key store, its password, an alias and its password); the Android plugin's message, "SigningConfig is missing required property".
 */
export function unsigned(module: GradleModule): RawFinding[] {
  const { settings } = module;
  const made = new Map<string, Set<string>>([["debug", new Set<string>(PARTS)]]);
  for (const { block, name } of settings) {
    const of = /^signingConfigs\.(\w+)/.exec(block)?.[1];
    if (of === undefined) continue;
    made.set(of, (made.get(of) ?? new Set()).add(name.replace(/^set([A-Z])/, (_, letter: string) => letter.toLowerCase())));
  }
  const told = new Set<string>();
  return settings.flatMap(({ block, name, values: [value], conditional }): RawFinding[] => {
    const text = textOf(value);
    if (name !== "signingConfig" || text === undefined || text === "null" || !value || conditional) return [];
    if (!/^(buildType|flavor|defaultConfig)/.test(block)) return [];
    const parts = made.get(text);
    if (!parts) {
      const others = [...made.keys()].filter((other) => other !== "debug");
      return [
        {
          side: "android",
          message: `${block.replace(/^\w+:/, "")} is signed with ${text}, which signingConfigs does not have`,
          fix: others.length > 0 ? `write ${others.join(" or ")}, or add ${text} to signingConfigs` : `make ${text} in signingConfigs`,
          places: [value.place],
          subject: `signing ${module.path} ${block}`,
        },
      ];
    }
    const lacking = PARTS.filter((part) => !parts.has(part));
    if (lacking.length === 0 || lacking.length === PARTS.length || parts.has("initWith") || told.has(text)) return [];
    told.add(text);
    return [
      {
        side: "android",
        message: `the signing configuration ${text} has no ${lacking.join(", no ")}: a release cannot be signed`,
        fix: `set ${lacking.join(" and ")} in signingConfigs`,
        places: [value.place],
        subject: `signing part ${module.path} ${text}`,
      },
    ];
  });
}

const PARTS = ["storeFile", "storePassword", "keyAlias", "keyPassword"] as const;
