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
  /** Source files that the target compiles. */
  sources: string[];
  /** Folders whose files belong to the target by lying there. */
  synchronized: string[];
  /** Texts of the target's script phases. */
  scripts: string[];
  /** Product names of Swift packages, and whether the target links each. */
  packageProducts: { product: string; package: string | undefined; linked: boolean; at: Place }[];
  /** Source files that the target compiles, where the project names each. */
  sourcesAt: ReadonlyMap<string, Place>;
}
