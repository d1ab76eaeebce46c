import { stringify } from "yaml";
import type { App } from "../model/app.js";
import type { Dependency, Entry, EntryKind, SideName } from "../model/facts.js";
import type { Place } from "../model/place.js";

/** What a kind of need sees when a sheet is drafted from an app in which the SDK works. */
export interface DraftSubject {
  app: App;
  sdk: string;
  /** The SDK's packages in the app. */
  packages: readonly Dependency[];
  /** Whether a name shows that it is the SDK's. */
  mentions: (text: string) => boolean;
}

/** One need of a drafted sheet. */
export interface DraftedNeed {
  on: SideName | "both";
  /** As YAML on one line. */
  value: string;
  /** Where it was seen. */
  from: Place;
  /** Why it may not be the SDK's, in words that follow "unsure:". */
  unsure?: string;
  /** For some apps only. */
  optional?: boolean;
  /** Further places of the same. */
  also?: readonly Place[];
}

/** Text as a scalar of YAML. */
export function scalar(text: string): string {
  return stringify(text, { lineWidth: 0 }).trimEnd();
}

/** Entries of a kind that the app states or the SDK's packages bring, and that no merge marker takes out. */
export function entriesFor({ app, packages }: DraftSubject, kind: EntryKind): Entry[] {
  return app.entries.filter(
    (entry) => entry.kind === kind && !entry.removed && (entry.by === undefined || packages.some(({ name }) => name === entry.by)),
  );
}

/** A draft of a need whose value is the name of an entry that shows that it is the SDK's. */
export function draftEntries(kind: EntryKind, unsure?: string): (subject: DraftSubject) => DraftedNeed[] {
  return (subject) =>
    entriesFor(subject, kind)
      .filter(({ name }) => subject.mentions(name))
      .map(({ side, name, at }) => ({ on: side, value: scalar(name), from: at, ...(unsure === undefined ? {} : { unsure }) }));
}
