import { compareIn } from "../../versions/ecosystem.js";
import type { Exclusion, MavenMetadata, Request } from "./maven-metadata.js";

/** A package that the app gets in the end. */
export interface GraphNode {
  group: string;
  artifact: string;
  version: string;
  /** Who asks for it, and for which version; the app itself under no name. */
  asked: { by: string | undefined; version: string | undefined }[];
  /** The packages by way of which it comes, the app's own first; empty for what the app asks for itself. */
  way: string[];
}

export interface Graph {
  nodes: GraphNode[];
  /** Packages whose description is in no store, or whose version cannot be told: what they bring is not known. */
  gaps: { name: string; version: string | undefined; by: string | undefined }[];
}

const MOST_STEPS = 50_000;
const MOST_ROUNDS = 40;
/** A version that stands for several: a range, or a prefix. */
const OPEN = /[[\](),]|\+$|^latest\./;

export const nameOf = ({ group, artifact }: { group: string; artifact: string }): string => `${group}:${artifact}`;

/**
 * The packages that an app gets, as Gradle chooses them: of all versions that are asked for the highest, with the constraints of what is taken;
 * a strict version of the app itself wins. Editions of Gradle differ in whether a version still counts that only a package asked for which gave
 * way to another version of itself: where that makes a difference, the package is a gap. So it is where a request of the app that stands under a
 * condition makes one.
 * Source: docs.gradle.org, "Dependency Resolution" (conflict resolution, constraints, exclusions).
 */
export function resolveGraph(roots: readonly Request[], forced: ReadonlyMap<string, string>, metadata: MavenMetadata): Graph {
  const pinned = new Map(forced);
  for (const root of roots)
    if (root.strict && root.version !== undefined && !forced.has(nameOf(root))) pinned.set(nameOf(root), root.version);
  const certain = roots.filter(({ perhaps }) => !perhaps);
  const ways = [false, true].flatMap((keeps) =>
    [roots, ...(certain.length < roots.length ? [certain] : [])].map((asked) => new Resolution(asked, pinned, metadata, keeps).graph()),
  );
  const [first, ...others] = ways as [Graph, ...Graph[]];
  const versions = others.map(({ nodes }) => new Map(nodes.map((node) => [nameOf(node), node.version])));
  const nodes = first.nodes.filter((node) => versions.every((of) => of.get(nameOf(node)) === node.version));
  const sure = new Set(nodes.map(nameOf));
  const gaps = new Map(ways.flatMap((way) => way.gaps.map((gap) => [gap.name, gap])));
  for (const node of ways.flatMap((way) => way.nodes))
    if (!sure.has(nameOf(node))) gaps.set(nameOf(node), { name: nameOf(node), version: undefined, by: node.asked[0]?.by });
  return { nodes, gaps: [...gaps.values()] };
}

/** One package while versions are chosen. */
interface Module {
  name: string;
  group: string;
  artifact: string;
  /** Every version that was asked for so far. */
  seen: Set<string>;
  selected: string | undefined;
  /** Waits for its version to be chosen anew. */
  waiting: boolean;
  incoming: Set<Edge>;
  outgoing: Edge[];
  /** What was left out when it was followed last; `undefined` before. */
  without: readonly Exclusion[] | undefined;
}

interface Edge {
  from: Module;
  to: Module;
  request: Request;
  /** What is left out of what comes by it. */
  without: readonly Exclusion[];
}

/** Follows packages in the order of Gradle: what is asked for in two versions waits until nothing else is left to follow. */
class Resolution {
  private readonly modules = new Map<string, Module>();
  private readonly constraints = new Map<string, Map<string, string>>();
  private readonly root = module({ group: "", artifact: "" });
  private readonly open: Module[] = [];
  private readonly conflicts: Module[] = [];
  private readonly gaps = new Map<string, Graph["gaps"][number]>();
  private steps = 0;

  /** @param keeps whether a version counts that nothing asks for any more */
  constructor(
    private readonly roots: readonly Request[],
    private readonly pinned: ReadonlyMap<string, string>,
    private readonly metadata: MavenMetadata,
    private readonly keeps: boolean,
  ) {
    this.root.selected = "app";
    this.open.push(this.root);
    this.settle();
    for (let round = 0; !keeps && round < MOST_ROUNDS && this.reselect(); round++) this.settle();
  }

  graph(): Graph {
    const nodes: GraphNode[] = [];
    const seen = new Map<Module, string[]>([[this.root, []]]);
    const open = [this.root];
    for (let next = open.shift(); next; next = open.shift())
      for (const { to } of next.outgoing) {
        if (seen.has(to)) continue;
        const way = next === this.root ? [] : [...(seen.get(next) ?? []), next.name];
        seen.set(to, way);
        if (to.selected === undefined) continue;
        const asked = [...to.incoming].map(({ from, request }) => ({
          by: from === this.root ? undefined : from.name,
          version: request.version,
        }));
        nodes.push({ group: to.group, artifact: to.artifact, version: to.selected, asked, way });
        open.push(to);
      }
    const found = new Set([...seen.keys()].map(({ name }) => name));
    const gaps = [...this.gaps.values()].filter(({ name }) => found.has(name));
    if (this.steps <= MOST_STEPS) return { nodes, gaps };
    // Not at its end: nothing of it is sure.
    return { nodes: [], gaps: [...gaps, ...nodes.map((node) => ({ name: nameOf(node), version: undefined, by: node.asked[0]?.by }))] };
  }

  private settle(): void {
    for (;;) {
      const next = this.open.shift();
      if (this.steps++ > MOST_STEPS) return;
      if (next) this.follow(next);
      else {
        const waiting = this.conflicts.shift();
        if (!waiting) return;
        waiting.waiting = false;
        waiting.selected = highest(this.keeps ? waiting.seen : this.askedFor(waiting));
        this.open.push(waiting);
      }
    }
  }

  /** The versions that are asked for now. */
  private askedFor({ name, incoming }: Module): Set<string> {
    const pin = this.pinned.get(name);
    if (pin !== undefined) return new Set([pin]);
    const asked = [...incoming].flatMap(({ request: { version } }) => (version === undefined || OPEN.test(version) ? [] : [version]));
    const held = [...(this.constraints.get(name) ?? [])].flatMap(([version, by]) => (this.isIn(by) ? [version] : []));
    return new Set([...asked, ...held]);
  }

  private isIn(name: string): boolean {
    const owner = this.modules.get(name);
    return owner === undefined || owner.incoming.size > 0;
  }

  /** Chooses anew where a version is taken that nothing asks for any more. */
  private reselect(): boolean {
    let changed = false;
    for (const one of this.modules.values()) {
      const best = one.incoming.size > 0 ? highest(this.askedFor(one)) : undefined;
      if (best === undefined || best === one.selected) continue;
      this.leave(one);
      one.selected = best;
      one.without = undefined;
      this.open.push(one);
      changed = true;
    }
    return changed;
  }

  private follow(one: Module): void {
    if (one.selected === undefined || (one !== this.root && one.incoming.size === 0)) {
      this.leave(one);
      one.without = undefined;
      return;
    }
    const without = commonTo([...one.incoming].map((edge) => edge.without));
    if (one.without && same(one.without, without)) return;
    this.leave(one);
    one.without = without;
    const { group, artifact, selected: version } = one;
    const requests = one === this.root ? this.roots : this.metadata.requestsOf({ group, artifact, version });
    if (!requests) this.gaps.set(one.name, { name: one.name, version, by: [...one.incoming][0]?.from.name || undefined });
    else this.take(one, requests, without);
  }

  private take(one: Module, requests: readonly Request[], without: readonly Exclusion[]): void {
    for (const request of requests) {
      const name = nameOf(request);
      if (request.kind === "platform") {
        const { group, artifact, version } = request;
        const listed = version === undefined ? undefined : this.metadata.requestsOf({ group, artifact, version }, "platform");
        if (listed) this.take(one, listed, without);
        else this.gaps.set(name, { name, version, by: one.name || undefined });
      } else if (request.kind === "constraint") {
        if (request.version === undefined) continue;
        const held = this.constraints.get(name) ?? new Map<string, string>();
        this.constraints.set(name, held.set(request.version, one.name));
        const target = this.modules.get(name);
        if (target && target.incoming.size > 0) this.register(target, request.version);
      } else if (!without.some((exclusion) => isExcluded(exclusion, request))) this.connect(one, request, without);
    }
  }

  private connect(from: Module, request: Request, without: readonly Exclusion[]): void {
    const name = nameOf(request);
    let to = this.modules.get(name);
    if (!to) this.modules.set(name, (to = module(request)));
    const all = [...without, ...request.exclusions, ...(request.alone ? [{ group: "*", artifact: "*" }] : [])];
    const edge: Edge = { from, to, request, without: all };
    from.outgoing.push(edge);
    to.incoming.add(edge);
    const version = this.pinned.get(name) ?? request.version;
    if (version !== undefined && OPEN.test(version)) this.gaps.set(name, { name, version, by: from.name || undefined });
    else if (version !== undefined) this.register(to, version);
    for (const [held, by] of this.constraints.get(name) ?? []) if (this.isIn(by)) this.register(to, held);
    if (to.selected === undefined && !to.waiting) this.gaps.set(name, { name, version, by: from.name || undefined });
    else if (!to.waiting) this.open.push(to);
  }

  private register(one: Module, version: string): void {
    if (this.pinned.has(one.name) && version !== this.pinned.get(one.name)) return;
    if (one.seen.has(version)) return;
    one.seen.add(version);
    this.gaps.delete(one.name);
    if (one.waiting) return;
    if (one.selected === undefined) {
      one.selected = version;
      this.open.push(one);
      return;
    }
    one.waiting = true;
    one.selected = undefined;
    this.leave(one);
    one.without = undefined;
    this.conflicts.push(one);
  }

  /** Takes back what a package brought. */
  private leave(one: Module): void {
    for (const edge of one.outgoing) {
      edge.to.incoming.delete(edge);
      // Looked at first: what nothing brings any more takes its own back.
      this.open.unshift(edge.to);
    }
    one.outgoing = [];
  }
}

function module({ group, artifact }: { group: string; artifact: string }): Module {
  return {
    name: group === "" ? "" : nameOf({ group, artifact }),
    group,
    artifact,
    seen: new Set(),
    selected: undefined,
    waiting: false,
    incoming: new Set(),
    outgoing: [],
    without: undefined,
  };
}

function highest(versions: ReadonlySet<string>): string | undefined {
  let best: string | undefined;
  for (const version of versions) if (best === undefined || compareIn("maven", version, best) > 0) best = version;
  return best;
}

/** What is left out on every way. */
function commonTo(ways: readonly (readonly Exclusion[])[]): readonly Exclusion[] {
  const [first = [], ...rest] = ways;
  const unique = [...new Map(first.map((exclusion) => [nameOf(exclusion), exclusion])).values()];
  return unique.filter((exclusion) => rest.every((way) => way.some((other) => nameOf(other) === nameOf(exclusion))));
}

function same(a: readonly Exclusion[], b: readonly Exclusion[]): boolean {
  return a.length === b.length && a.every((exclusion, index) => nameOf(exclusion) === nameOf(b[index] as Exclusion));
}

export function isExcluded(exclusion: Exclusion, request: { group: string; artifact: string }): boolean {
  return (
    (exclusion.group === "*" || exclusion.group === request.group) &&
    (exclusion.artifact === "*" || exclusion.artifact === request.artifact)
  );
}
