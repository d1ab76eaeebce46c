import type { Assignment, CallPart } from "../../../../evaluate/frame.js";
import { NOTHING, textIn, toValue, type Result } from "../../../../evaluate/values.js";
import type { RepositoryFact } from "../../../../model/facts.js";
import type { Value } from "../../../../model/value.js";
import type { Block, GradleHost, Handler } from "./host.js";
import type { RepositoryDraft } from "./reading.js";

/** A repository with a name of its own, with the groups that its block limits it to. */
const plain =
  (kind: RepositoryFact["kind"]): Handler =>
  (call, host) => {
    const draft: RepositoryDraft = { url: undefined, groups: [] };
    host.inside(call, { block: "repository", repository: draft });
    add(host, call, kind, undefined, draft.groups);
    return NOTHING;
  };

const byAddress: Handler = (call, host) => {
  const draft: RepositoryDraft = { url: undefined, groups: [] };
  const given = call.named().get("url") ?? call.positional().find(({ result }) => result.kind !== "function");
  if (given) draft.url = toValue(given.result, call.frame.source.place(given.expr.start));
  host.inside(call, { block: "repository", repository: draft });
  const { source, conditional } = call.frame;
  const isEmpty =
    draft.url === undefined &&
    !conditional &&
    call.block() !== undefined &&
    !/url|apply|with/i.test(source.text.slice(call.expr.start, call.expr.end));
  add(host, call, "url", draft.url, draft.groups, isEmpty);
  return NOTHING;
};

function add(
  host: GradleHost,
  call: CallPart,
  kind: RepositoryFact["kind"],
  url: Value | undefined,
  own: readonly string[],
  isEmpty = false,
): void {
  const { reading, standing } = host;
  reading.module.repositories.push({
    kind,
    url,
    for: standing.forBuild ? "plugins" : "packages",
    groups: [...standing.groups, ...own],
    module: reading.module.path,
    ...(call.frame.conditional ? { conditional: true } : {}),
    ...(isEmpty ? { empty: true } : {}),
    at: url?.kind === "known" ? url.place : call.place,
  });
}

export const REPOSITORIES: Block = {
  calls: {
    google: plain("google"),
    mavenCentral: plain("mavenCentral"),
    gradlePluginPortal: plain("gradlePluginPortal"),
    jcenter: plain("jcenter"),
    mavenLocal: plain("mavenLocal"),
    flatDir: (call, host) => {
      add(host, call, "flatDir", undefined, []);
      return NOTHING;
    },
    maven: byAddress,
    ivy: byAddress,
    exclusiveContent: (call, host) => {
      // Its filter can stand behind the repository that it limits.
      const draft: RepositoryDraft = { url: undefined, groups: [] };
      const before = host.reading.module.repositories.length;
      host.inside(call, { block: "exclusiveContent", repository: draft });
      for (const repository of host.reading.module.repositories.slice(before))
        repository.groups = [...new Set([...repository.groups, ...draft.groups])];
      return NOTHING;
    },
    all: () => NOTHING,
    configureEach: () => NOTHING,
    removeIf: () => NOTHING,
    remove: () => NOTHING,
    addLast: () => NOTHING,
  },
  holds: "a repository",
};

export const EXCLUSIVE: Block = {
  calls: {
    forRepository: (call, host) => host.inside(call, { block: "repositories" }),
    forRepositories: () => NOTHING,
    filter: (call, host) => host.inside(call, { block: "repository" }),
  },
};

/** Groups that a repository is limited to, by the call that names them. */
function limited(call: CallPart, host: GradleHost): Result {
  const text = textIn(call.positional()[0]?.result);
  if (text !== undefined)
    host.standing.repository?.groups.push(call.name.includes("Regex") ? `/${text}/` : call.name.includes("Subgroups") ? `${text}.*` : text);
  return NOTHING;
}

const nested: Handler = (call, host) => host.inside(call, {});

const address: Handler = (call, host) => {
  const [given] = call.positional();
  if (given && host.standing.repository) host.standing.repository.url = toValue(given.result, call.frame.source.place(given.expr.start));
  return NOTHING;
};

export const REPOSITORY: Block = {
  calls: {
    url: address,
    setUrl: address,
    artifactUrls: () => NOTHING,
    content: nested,
    filter: nested,
    mavenContent: nested,
    includeGroup: limited,
    includeGroupByRegex: limited,
    includeGroupAndSubgroups: limited,
    includeModule: limited,
    includeModuleByRegex: limited,
  },
  // Credentials and the like.
  other: (call) =>
    call.path?.length === 1 &&
    !call.expr.bare &&
    (call.block() !== undefined || call.expr.args.length > 0) &&
    !/^(uri|file|property|findProperty|getenv)$/.test(call.name)
      ? NOTHING
      : undefined,
};

export function assignInRepository(assignment: Assignment, path: readonly string[], host: GradleHost): boolean {
  const draft = host.standing.repository;
  if (path.at(-1) === "url" && path.length === 1 && draft)
    draft.url = toValue(assignment.value(), assignment.frame.source.place(assignment.statement.value.start));
  return true;
}
