import { isWithin } from "./paths.js";
import type { Place } from "./place.js";

/** A target of an Xcode project. */
export interface IosTargetFacts {
  name: string;
  type: string;
  configurations: { name: string }[];
  /** Configuration that an archive is made with, as far as the project says. */
  defaultConfiguration: string;
  at: Place;
  /** Names of linked or embedded frameworks and libraries. */
  linked: { name: string; path: string | undefined; at: Place }[];
  embedded: { name: string; at: Place }[];
  /** Files that the target copies into the app, relative to the survey's root. */
  resources: string[];
  /** Names of files that it copies, into whichever folder. */
  copied: string[];
  /** Source files that the target compiles. */
  sources: string[];
  /** Folders whose files belong to the target by lying there, */
  synchronized: string[];
  /** but for these. */
  leftOut: string[];
  /** Texts of the target's script phases. */
  scripts: string[];
  /** Those among them that run behind the phase that compiles the sources. */
  scriptsBehindSources: string[];
  /** Product names of Swift packages, with the address of the package, and whether the target links each. */
  packageProducts: { product: string; package: string | undefined; location?: string; linked: boolean; at: Place }[];
  /** Source files that the target compiles, where the project names each. */
  sourcesAt: ReadonlyMap<string, Place>;
  /** Files that it copies into the app, where the project names each. */
  resourcesAt: ReadonlyMap<string, Place>;
}

/** Whether a target takes in a file: it is listed, or lies in a folder of the target's and is not left out there. */
export function takesIn({ sources, resources, synchronized, leftOut }: IosTargetFacts, file: string): boolean {
  if (sources.includes(file) || resources.includes(file)) return true;
  return synchronized.some((folder) => isWithin(file, folder)) && !leftOut.some((path) => isWithin(file, path));
}
