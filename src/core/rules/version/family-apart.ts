import type { BuildPluginFact, Dependency } from "../../model/facts.js";
import type { RawFinding } from "../../model/finding.js";
import { uniquePlaces } from "../../model/place.js";
import { textOf } from "../../model/value.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (last: string): string =>
  `${androidBlock()}dependencies {\n  implementation 'example.quaymap:quaymap-core:4.2.0'\n  implementation 'example.quaymap:quaymap-routes:4.2.0'\n  implementation 'example.quaymap:quaymap-search:4.2.0'\n  implementation 'example.quaymap:quaymap-offline:${last}'\n}\n`;

/** So many members at one and the same version show that the vendor releases them together. */
const TOGETHER = 3;

export const familyApart = defineRule({
  name: "version/family-apart",
  severity: "warning",
  title: "Packages that are released together are at different versions",
  looksAt:
    "Packages of one Maven group or one npm scope: where at least three are at the very same version, the one that is not. Two packages of one group that a sheet names together, at different major versions. Processors of code and the library for which they make it. Build plugins of Android and of Kotlin, which have one version. Libraries that the podspec and the Swift package of a package of the repository ask for. Further packages of a framework that must agree, and versions that a framework's release expects, where it ships its table.",
  why: "Such packages call each other's internals. A mix compiles and then fails at run time.",
  advice: "Bring the odd one to the others' version; better, declare the version once or use the vendor's BOM.",
  examples: { reported: androidExample(app("4.0.0")), silent: androidExample(app("4.2.0")) },
  check({ app: { dependencies, agreements, buildPlugins, sheets } }) {
    const families = familiesOf(dependencies);
    const findings: RawFinding[] = agreements.map(({ title, members, wanted }) => ({
      message: `${title}: ${members.map(({ name, version }) => `${name} ${version}`).join(", ")}${wanted === undefined ? "" : `; expected ${wanted}`}`,
      fix: wanted === undefined ? "bring them to one version" : `bring ${members.map(({ name }) => name).join(", ")} to ${wanted}`,
      places: uniquePlaces(members.map(({ at }) => at)),
      subject: title,
    }));
    findings.push(...PLUGIN_FAMILIES.flatMap(([title, form]) => pluginsApart(title, form, buildPlugins)));
    findings.push(...processorsApart(dependencies));
    findings.push(...releasedTogether(dependencies));
    findings.push(...[...families].flatMap(([family, members]) => apartIn(family, [...members.values()], sheets)));
    return findings;
  },
});

/**
 * Build plugins that are one release and cannot be loaded in two versions. Sources: developer.android.com, "Android Gradle plugin" (plugins of one
 * version); kotlinlang.org, "Gradle" (compiler plugins have the version of Kotlin).
 */
const PLUGIN_FAMILIES: readonly [title: string, form: RegExp][] = [
  ["the Android plugins", /^com\.android\.(application|library|dynamic-feature|test|asset-pack|kotlin\.multiplatform\.library)$/],
  ["the Kotlin plugins", /^org\.jetbrains\.kotlin\.(android|jvm|multiplatform|kapt|plugin\.\w+)$/],
];

/** The version that most of them have, and how many have it. */
function commonVersion(members: readonly Dependency[]): [string, number] {
  const counts = new Map<string, number>();
  for (const version of members.map((member) => versionOf(member) ?? "")) counts.set(version, (counts.get(version) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0] ?? ["", 0];
}

/** Members of a family that are of another version than most of it, or, where a sheet says that two are one SDK, than each other. */
function apartIn(family: string, members: readonly Dependency[], sheets: readonly string[]): RawFinding[] {
  const [common, count] = commonVersion(members);
  const odd = members.filter((member) => versionOf(member) !== common);
  const [one, other, ...further] = members;
  const isSheets = one?.sdk !== undefined && one.sdk === other?.sdk && sheets.includes(one.sdk);
  if (one && other && further.length === 0 && isSheets && major(versionOf(one)) !== major(versionOf(other)))
    return [
      {
        side: one.side,
        sdk: one.sdk,
        message: `${one.name} is ${versionOf(one) ?? ""}, and ${other.name} of the same SDK is ${versionOf(other) ?? ""}`,
        fix: "bring them to one version",
        places: uniquePlaces([one.declared?.place, one.places[0], other.declared?.place, other.places[0]]),
        subject: family,
      },
    ];
  const [first] = odd;
  // A family that is only half at one version is none.
  if (!first || count < TOGETHER || odd.length * 3 > count || odd.some((member) => major(versionOf(member)) !== major(common))) return [];
  return [
    {
      side: first.side,
      sdk: first.sdk,
      message: `${odd.map((member) => `${member.name} is ${versionOf(member) ?? ""}`).join(", ")}; ${count} others of ${family} are ${common}`,
      fix: `bring ${odd.map(({ name }) => name).join(", ")} to ${common}`,
      places: uniquePlaces(odd.flatMap((member) => [member.declared?.place, member.places[0]])),
      subject: family,
    },
  ];
}

/** Direct dependencies of the families that have one version, by family and name. */
function familiesOf(dependencies: readonly Dependency[]): Map<string, Map<string, Dependency>> {
  const families = new Map<string, Map<string, Dependency>>();
  for (const dependency of dependencies) {
    const family = familyOf(dependency);
    const version = versionOf(dependency);
    if (!family || version === undefined || !dependency.direct || dependency.test || dependency.platform) continue;
    const members = families.get(family) ?? new Map<string, Dependency>();
    members.set(dependency.name, dependency);
    families.set(family, members);
  }
  return families;
}

/** Groups of the platform whose modules have one version. Source: developer.android.com, "Get started with Media3" (all modules must be of the same version). */
const OF_ONE_VERSION: readonly string[] = ["androidx.media3"];

function releasedTogether(dependencies: readonly Dependency[]): RawFinding[] {
  return OF_ONE_VERSION.flatMap((group): RawFinding[] => {
    const members = dependencies.filter(
      ({ ecosystem, name, direct, test }) => ecosystem === "maven" && direct && !test && name.startsWith(`${group}:`),
    );
    const stated = [
      ...new Map(members.flatMap((member) => (versionOf(member) === undefined ? [] : [[member.name, member] as const]))).values(),
    ];
    if (new Set(stated.map(versionOf)).size < 2) return [];
    return [
      {
        side: "android",
        message: `modules of ${group} are of several versions: ${stated.map((member) => `${member.name.slice(group.length + 1)} ${versionOf(member) ?? ""}`).join(", ")}`,
        fix: "bring them to one version",
        places: uniquePlaces(stated.flatMap((member) => [member.declared?.place, member.places[0]])),
        subject: group,
      },
    ];
  });
}

function pluginsApart(title: string, form: RegExp, plugins: readonly BuildPluginFact[]): RawFinding[] {
  const stated = plugins.flatMap((plugin) => {
    const version = textOf(plugin.version);
    return form.test(plugin.id) && version !== undefined && /^\d+\.\d/.test(version) && !plugin.conditional
      ? [{ ...plugin, text: version }]
      : [];
  });
  if (new Set(stated.map(({ text }) => text)).size < 2) return [];
  const told = [...new Map(stated.map((plugin) => [`${plugin.id} ${plugin.text}`, plugin])).values()];
  return [
    {
      side: "android",
      severity: "error",
      message: `${title} have several versions: ${told.map(({ id, text }) => `${id} ${text}`).join(", ")}`,
      fix: "give them one version: the build stops with two",
      places: uniquePlaces(told.flatMap(({ version, at }) => [version?.place, at])),
      subject: title,
    },
  ];
}

/** The ending of the name of what makes code for a library while it is built. */
const OF_PROCESSOR = /-(compiler|processor|annotation-processor|ksp|apt|codegen)$/;

/** Processors and the libraries for which they make code: the two know each other's classes. */
function processorsApart(dependencies: readonly Dependency[]): RawFinding[] {
  return dependencies.flatMap((processor): RawFinding[] => {
    const version = versionOf(processor);
    if (processor.ecosystem !== "maven" || version === undefined || !/^(kapt|ksp|annotationProcessor)/.test(processor.scope)) return [];
    if (!OF_PROCESSOR.test(processor.name)) return [];
    const stem = processor.name.replace(OF_PROCESSOR, "");
    const library = dependencies.find(
      (other) =>
        other.ecosystem === "maven" &&
        !other.test &&
        other.in === processor.in &&
        (other.name === stem || other.name.startsWith(`${stem}-`)),
    );
    const own = library && versionOf(library);
    if (!library || own === undefined || own === version || !library.direct) return [];
    return [
      {
        side: "android",
        sdk: library.sdk,
        message: `${processor.name} is ${version}, and ${library.name}, for which it makes code, is ${own}`,
        fix: `bring ${processor.name} to ${own}`,
        places: uniquePlaces([processor.declared?.place, processor.places[0], library.declared?.place, library.places[0]]),
        subject: `processor ${processor.name}`,
      },
    ];
  });
}

function familyOf({ ecosystem, name, side }: Dependency): string | undefined {
  if (ecosystem === "maven") return name.split(":")[0];
  if (ecosystem === "npm" && side !== "shared") return /^(@[^/]+)\//.exec(name)?.[1];
  return undefined;
}

function versionOf(dependency: Dependency): string | undefined {
  const text = dependency.locked ?? textOf(dependency.declared);
  return text !== undefined && /^\d+(\.\d+)+/.test(text) ? text : undefined;
}

function major(version: string | undefined): string {
  return version?.split(".")[0] ?? "";
}
