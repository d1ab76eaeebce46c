import type { Dependency } from "../model/facts.js";

/** Folders of names that hosts and flows give to branches. */
const BRANCH = /^(?:refs\/heads|heads|feature|feat|bugfix|fix|hotfix|release|support|chore|dependabot|renovate)\//;

/**
 * What a reference to a Git repository follows: a revision and a tag stay where they are, a branch moves. A name with a version of three
 * parts in it (`quaymap-v4.2.0`) is a tag, as is one that begins like a version; whoever names a branch so is believed to leave it alone.
 */
export function gitReference(ref: string | undefined, url: string): NonNullable<Dependency["reference"]> {
  if (ref === undefined || ref === "") return { kind: "none", text: url };
  if (/^[0-9a-f]{7,40}$/.test(ref)) return { kind: "revision", text: ref };
  if (/^(?:refs\/)?tags\//.test(ref)) return { kind: "tag", text: ref };
  if (BRANCH.test(ref)) return { kind: "branch", text: ref };
  return { kind: /^v?\d/.test(ref) || /(?:^|[-_/@+v])\d+\.\d+\.\d+/.test(ref) ? "tag" : "branch", text: ref };
}
