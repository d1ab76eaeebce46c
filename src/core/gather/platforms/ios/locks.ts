import { packageIdentity } from "../../../model/sdk-id.js";
import { createHash } from "node:crypto";
import type { ProjectFiles } from "../../project-files.js";
import type { Place } from "../../../model/place.js";
import { at, entriesOf, itemsOf, placeOf, textAt, valueAt, type Data } from "../../../syntax/data.js";

export interface LockedPod {
  name: string;
  version: string;
  /** Requirements of other pods on it, as the lock records them. */
  dependencies: string[];
  at: Place;
}

export interface PodLock {
  file: string;
  pods: Map<string, LockedPod>;
  /** The declarations that the lock was made for: name → requirement text. */
  declared: Map<string, { text: string; at: Place }>;
  checksum: { text: string; at: Place } | undefined;
  external: Map<string, { kind: string; text: string }>;
}

const ENTRY = /^"?([^\s"(]+)(?:\s+\(([^)]*)\))?"?$/;

/** Reads `Podfile.lock` and the installed `Pods/Manifest.lock`, which have one format. Source: CocoaPods guides, "What is Podfile.lock". */
export function readPodLock(project: ProjectFiles, file: string): PodLock | undefined {
  if (!project.tree.isFile(file)) return undefined;
  const root = project.lockYaml(file)?.root;
  if (!root) return undefined;
  const lock: PodLock = { file, pods: new Map(), declared: new Map(), checksum: undefined, external: new Map() };
  for (const item of itemsOf(at(root, "PODS"))) {
    if (item.kind === "map") {
      const [first] = entriesOf(item);
      if (first) addPod(lock, first[0], item.source.place(first[1].start), itemsOf(first[1].value));
    } else if (item.kind === "scalar") addPod(lock, String(item.value), placeOf(item), []);
  }
  for (const item of itemsOf(at(root, "DEPENDENCIES"))) {
    if (item.kind !== "scalar") continue;
    const match = ENTRY.exec(String(item.value));
    if (match) lock.declared.set(match[1] as string, { text: match[2] ?? "", at: placeOf(item) });
  }
  const checksum = valueAt(root, "PODFILE CHECKSUM");
  if (checksum?.kind === "known") lock.checksum = { text: checksum.text, at: checksum.place };
  for (const [name, { value }] of entriesOf(at(root, "EXTERNAL SOURCES"))) {
    for (const kind of [":path", ":podspec", ":git"]) {
      const text = textAt(value, kind);
      if (text !== undefined) lock.external.set(name, { kind: kind.slice(1), text });
    }
  }
  return lock;
}

function addPod(lock: PodLock, text: string, place: Place, dependencies: Data[]): void {
  const match = ENTRY.exec(text.replace(/:$/, ""));
  if (!match?.[2]) return;
  lock.pods.set(match[1] as string, {
    name: match[1] as string,
    version: match[2],
    at: place,
    dependencies: dependencies.flatMap((item) => textAt(item) ?? []),
  });
}

/** SHA-1 of a Podfile, as the lock records it; Windows line ends are tried both ways. */
export function podfileChecksums(text: string): string[] {
  const sha1 = (content: string): string => createHash("sha1").update(content, "utf8").digest("hex");
  const unix = text.replaceAll("\r\n", "\n");
  return [sha1(text), sha1(unix), sha1(unix.replaceAll("\n", "\r\n")), sha1(`\ufeff${text}`)];
}

export interface ResolvedPackage {
  identity: string;
  location: string;
  version: string | undefined;
  branch: string | undefined;
  revision: string | undefined;
  at: Place;
}

/** Reads `Package.resolved`, in all three formats. Source: Swift Package Manager, PinsStore. */
export function readPackageResolved(project: ProjectFiles, file: string): ResolvedPackage[] | undefined {
  if (!project.tree.isFile(file)) return undefined;
  const root = project.json(file)?.root;
  if (!root) return undefined;
  const old = at(root, "object", "pins");
  return itemsOf(old ?? at(root, "pins")).flatMap((pin) => {
    const location = valueAt(pin, old ? "repositoryURL" : "location");
    if (location?.kind !== "known") return [];
    const version = valueAt(pin, "state", "version");
    return [
      {
        identity: textAt(pin, "identity") ?? packageIdentity(location.text),
        location: location.text,
        version: version?.kind === "known" ? version.text : undefined,
        branch: textAt(pin, "state", "branch"),
        revision: textAt(pin, "state", "revision"),
        at: version?.kind === "known" ? version.place : location.place,
      },
    ];
  });
}

export interface CarthageEntry {
  kind: string;
  location: string;
  requirement: string;
  at: Place;
}

/** Reads `Cartfile` and `Cartfile.resolved`. Source: Carthage, "Artifacts". */
export function readCartfile(project: ProjectFiles, file: string): CarthageEntry[] | undefined {
  const source = project.tree.isFile(file) ? project.text(file) : undefined;
  if (!source) return undefined;
  const entries: CarthageEntry[] = [];
  let offset = 0;
  for (const line of source.text.split("\n")) {
    const match = /^\s*(github|git|binary)\s+"([^"]+)"\s*([^#\r]*)/.exec(line);
    if (match)
      entries.push({
        kind: match[1] as string,
        location: match[2] as string,
        requirement: (match[3] ?? "").trim().replaceAll('"', ""),
        at: source.place(offset + line.indexOf('"') + 1),
      });
    offset += line.length + 1;
  }
  return entries;
}
