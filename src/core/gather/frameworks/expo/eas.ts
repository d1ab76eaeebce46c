import { join } from "../../../model/paths.js";
import type { Place } from "../../../model/place.js";
import { known, type Value } from "../../../model/value.js";
import { at, entriesOf, placeOf, textAt, valueAt, type Data } from "../../../syntax/data.js";
import type { ProjectFiles } from "../../project-files.js";

/** A profile by which a service builds the app. */
export interface BuildProfile {
  name: string;
  /** Variables of the environment, those of the profiles that it extends first. */
  env: ReadonlyMap<string, Value>;
  /** Built with the client for development. */
  development: boolean;
  /** Where it says so. */
  at: Place;
}

/** The build profiles of an app, in the order of the file. Source: docs.expo.dev, "Configure EAS Build with eas.json". */
export function buildProfiles(project: ProjectFiles, folder: string): BuildProfile[] {
  const file = join(folder, "eas.json");
  const all = project.tree.isFile(file) ? at(project.json(file)?.root, "build") : undefined;
  return entriesOf(all).flatMap(([name, { value }]) => {
    const chain: Data[] = [];
    for (let one: Data | undefined = value; one && !chain.includes(one) && chain.length < 8;) {
      chain.unshift(one);
      const above: string | undefined = textAt(one, "extends");
      one = above === undefined ? undefined : at(all, above);
    }
    const env = new Map<string, Value>();
    for (const one of chain)
      for (const [variable, { value: text }] of entriesOf(at(one, "env"))) env.set(variable, known(textAt(text) ?? "", placeOf(text)));
    const client = chain.map((one) => valueAt(one, "developmentClient")).findLast((one) => one !== undefined);
    return [{ name, env, development: client?.kind === "known" && client.text === "true", at: client?.place ?? placeOf(value) }];
  });
}

/**
 * What a release sees of the environment: `undefined` for a variable that may have any value, `null` for one that only other profiles set.
 */
export function environmentOfRelease(project: ProjectFiles, folder: string): (name: string) => Value | null | undefined {
  const profiles = buildProfiles(project, folder);
  const release = profiles.find(({ name }) => name === "production") ?? profiles.find(({ name }) => /prod|release|store|live/i.test(name));
  if (!release) return () => undefined;
  const elsewhere = new Set(profiles.flatMap(({ env }) => [...env.keys()]));
  return (name) => release.env.get(name) ?? (elsewhere.has(name) ? null : undefined);
}

/**
 * Whether the service counts builds itself: it does unless the settings say that the files count. Source: docs.expo.dev, "App version management"
 * (appVersionSource: remote by default since version 12 of the command line).
 */
export function hasRemoteVersions(project: ProjectFiles, folder: string): boolean {
  const file = join(folder, "eas.json");
  return project.tree.isFile(file) && textAt(project.json(file)?.root, "cli", "appVersionSource") !== "local";
}
