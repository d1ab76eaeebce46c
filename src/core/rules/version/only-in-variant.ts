import type { App } from "../../model/app.js";
import type { Dependency, SideName } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import { isWithin } from "../../model/paths.js";
import { sourceSetOf } from "../../knowledge/source-sets.js";
import { inWords } from "../../model/suggest.js";
import { buildsWithout } from "../../model/variants.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (configuration: string) =>
  androidExample(`${androidBlock()}dependencies {\n  ${configuration} 'example.quaymap:quaymap-android:4.2.0'\n}\n`, {
    "app/src/main/java/example/maresia/pilot/PilotApplication.kt":
      "package example.maresia.pilot\n\nimport example.quaymap.Quaymap\n\nclass PilotApplication : android.app.Application() {\n  override fun onCreate() {\n    Quaymap.start(this)\n  }\n}\n",
  });

export const onlyInVariant = defineRule({
  name: "version/only-in-variant",
  severity: "error",
  title: "Code for all builds uses a package that only some builds have",
  looksAt:
    "Imports in code that every build compiles, against packages that are declared for a build type or a flavour alone (debugImplementation), and pods for some configurations alone.",
  silentFor:
    "Imports in source sets of a variant and behind conditions of the compiler, and packages that another declaration brings to all builds.",
  why: "The release does not compile, which shows at the worst moment; or it does, and the class is not there.",
  advice: "Declare the package for all builds, or move the code to the variant that has it.",
  examples: { reported: app("debugImplementation"), silent: app("implementation") },
  check({ app: model }) {
    const told = new Set<string>();
    return (model.code?.imports ?? []).flatMap(({ package: name, sdk, side, variant, at }): RawFinding[] => {
      if (variant !== undefined || told.has(`${side} ${name}`)) return [];
      const declared = model.dependencies.filter((dependency) => dependency.side === side && dependency.name === name);
      const restricted = declared.flatMap((dependency) => variantOf(dependency) ?? []);
      // Another package of the group may have what is imported.
      const forAll = model.dependencies.some(
        (other) => other.side === side && !other.test && groupOf(other) === groupOf(declared[0]) && variantOf(other) === undefined,
      );
      if (declared.length === 0 || forAll || restricted.length < declared.length || !isOfApp(model, side, at.file)) return [];
      const without = lacking(model, side, restricted);
      if (without.length === 0) return [];
      told.add(`${side} ${name}`);
      return [
        {
          side,
          sdk,
          message: `code for all builds imports ${name}, but only builds of ${inWords([...new Set(restricted)])} have it, and those of ${inWords(without)} do not`,
          fix: `declare ${name} for all builds, or keep the code that uses it to ${restricted[0] ?? ""}`,
          places: [at, ...declared.flatMap(({ places }) => places.slice(0, 1))],
          subject: name,
          about: name,
        },
      ];
    });
  },
});

/** The group of a package of Maven; of others the package itself. */
function groupOf(dependency: Dependency | undefined): string | undefined {
  return dependency?.ecosystem === "maven" ? dependency.name.split(":")[0] : dependency?.name;
}

/** The build type, flavour or configurations that alone have a package. Source: developer.android.com, "Add build dependencies". */
function variantOf({ variant, scope, side, test }: Dependency): string[] | undefined {
  if (variant !== undefined) return variant.split(", ");
  const named =
    side === "android" && !test && sourceSetOf(scope) === undefined ? /^(\w+?)(?:Implementation|Api)$/.exec(scope)?.[1] : undefined;
  return named === undefined || /test/i.test(named) ? undefined : [named];
}

function lacking({ android, ios }: App, side: SideName, variants: readonly string[]): string[] {
  if (side === "android") return android ? buildsWithout(android.module, variants) : [];
  return ios?.target.configurations.map(({ name }) => name).filter((name) => !variants.includes(name)) ?? [];
}

/** Other modules and targets have packages of their own. */
function isOfApp({ android, ios }: App, side: SideName, file: string): boolean {
  if (side === "android") return android !== undefined && isWithin(file, android.module.folder);
  return side === "ios" && ios !== undefined && (ios.target.sources.includes(file) || ios.allTargets.length === 1);
}
