import type { App, AppFacts } from "../model/app.js";
import type { Dependency, Ecosystem } from "../model/facts.js";
import { sdkIdOf } from "../model/sdk-id.js";
import { sheetsFor, type Sheet } from "../model/sheet.js";
import { isPackageOf, WRAPPERS } from "./presence.js";
import { withSheetLevels } from "./sheet-levels.js";

/** An app with the ids that sheets give its SDKs, and the sheets of the SDKs that are in it. */
export interface Identified {
  app: App;
  matched: readonly Sheet[];
}

/**
 * Which SDK each package of an app is, by the sheets that hold for it, and the levels that these ask for. A view: the facts stay as they are.
 */
export function identified(facts: AppFacts, all: readonly Sheet[]): Identified {
  const sheets = sheetsFor(facts, all);
  const of = (ecosystem: Ecosystem, name: string): Sheet | undefined => sheets.find((sheet) => isPackageOf(sheet, ecosystem, name));
  const byWrapper = (name: string): Sheet | undefined =>
    sheets.find((sheet) => WRAPPERS.some((ecosystem) => isPackageOf(sheet, ecosystem, name)));
  const asked = <T extends { by: string; sdk?: string | undefined }>(facts_: readonly T[]): T[] =>
    facts_.map((fact) => {
      const sheet = byWrapper(fact.by);
      return sheet ? { ...fact, sdk: sheet.sdk } : fact;
    });
  const linking = facts.linking.map((fact) => {
    const sheet = byWrapper(fact.package);
    return sheet ? { ...fact, sdk: sheet.sdk } : fact;
  });
  const matched = new Set<Sheet>();
  // The pod by which a package of shared code comes in is part of the same SDK.
  const pods = new Map(linking.flatMap(({ side, native, sdk }) => (side === "ios" ? [[native, sdk] as const] : [])));
  const dependencies = facts.dependencies.map((dependency): Dependency => {
    const sheet = of(dependency.ecosystem, dependency.name);
    if (sheet) matched.add(sheet);
    const pod = dependency.ecosystem === "cocoapods" ? pods.get(dependency.name.split("/")[0] as string) : undefined;
    return { ...dependency, sdk: pod ?? sheet?.sdk ?? dependency.sdk };
  });
  const owners = new Map<string, Dependency>();
  for (const dependency of dependencies) {
    const key = `${dependency.ecosystem} ${dependency.name}`;
    if (!owners.has(key)) owners.set(key, dependency);
  }
  const app: App = {
    ...facts,
    dependencies: dependencies.map((pod) => (of(pod.ecosystem, pod.name) ? pod : ofItsPackage(pod, owners))),
    linking,
    requiredLevels: asked(facts.requiredLevels),
    repositoryNeeds: asked(facts.repositoryNeeds),
    packageNeeds: asked(facts.packageNeeds),
    sheets: [...matched].map(({ sdk }) => sdk),
    sheetDifferences: [],
  };
  return { app: withSheetLevels(app, [...matched]), matched: [...matched] };
}

/** A pod that lies in a package of shared code is that package's native half, whatever it is called, installed or not. */
function ofItsPackage(pod: Dependency, owners: ReadonlyMap<string, Dependency>): Dependency {
  const { broughtBy } = pod;
  if (!broughtBy) return pod;
  const owner = owners.get(`${broughtBy.ecosystem} ${broughtBy.name}`);
  return {
    ...pod,
    sdk: owner?.sdk ?? sdkIdOf(broughtBy.ecosystem, broughtBy.name),
    platform: pod.platform || (owner?.platform ?? false),
  };
}
