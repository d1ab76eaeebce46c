import type { Severity } from "../model/finding.js";
import type { LevelName } from "../model/facts.js";
import type { Place } from "../model/place.js";

/** A finding that a team has decided to live with. */
export interface Acceptance {
  rule: string;
  sdk?: string;
  app?: string;
  file?: string;
  reason: string;
  /** Last day on which it holds, `YYYY-MM-DD`. */
  until?: string;
  place: Place;
}

export interface Pairing {
  name?: string;
  android: string;
  ios: string;
  at: { android: Place; ios: Place };
}

/** What a fleet of apps has agreed on: `enredo fleet` holds the answers of all projects against it. */
export interface Policy {
  /** SDK, by its id or one of its packages → version that every app which has it must have at least. */
  sdks: ReadonlyMap<string, string>;
  /** Level → value that every app must have at least. */
  levels: ReadonlyMap<string, string>;
  /** Rules, or concerns of rules, that no app may break. */
  rules: readonly string[];
  /** Projects that must have answered. */
  projects: readonly string[];
  /** How many days old an answer may be. */
  maxAge: number | undefined;
}

/** The tool's settings for a project, as read from `enredo.yaml`. */
export interface Settings {
  file: string | undefined;
  severities: Map<string, Severity | "off">;
  ignore: string[];
  pair: Pairing[];
  /** Floors that the team has set: an app's level must not be lower. */
  floors: Map<LevelName, { value: string; place: Place }>;
  /** SDKs and apps where a difference between the sides is meant. */
  idsMayDiffer: string[] | true;
  versionsMayDiffer: string[];
  oneSided: string[];
  accept: Acceptance[];
  /** For `enredo fleet` alone. */
  policy: Policy | undefined;
}

export function noSettings(): Settings {
  return {
    file: undefined,
    severities: new Map(),
    ignore: [],
    pair: [],
    floors: new Map(),
    idsMayDiffer: [],
    versionsMayDiffer: [],
    oneSided: [],
    accept: [],
    policy: undefined,
  };
}
