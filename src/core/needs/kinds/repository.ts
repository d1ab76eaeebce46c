import { mayMirror, normalizedUrl, usableRepositories } from "../../derive/repositories.js";
import { textIn } from "../../model/sheet.js";
import { reason } from "../../model/reason.js";
import { textOf } from "../../model/value.js";
import type { WireResult, NeedOnSide } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { scalar, type DraftedNeed, type DraftSubject } from "../drafting.js";
import { matching } from "../form.js";

export const repository: NeedDefinition = {
  title: "repository",
  form: matching(/^https?:\/\/\S+$/, "repository must be an address such as https://maven.quaymap.example/releases"),
  rules: ["source/repository-missing"],
  draft,
  check,
};

function check({ app, need, side, presence }: NeedOnSide): WireResult {
  const url = textIn(need.value) ?? "";
  if (side === "ios") {
    if (!presence.packages.some(({ ecosystem }) => ecosystem === "cocoapods"))
      return { state: "unneeded", wanted: url, why: reason("no-pod") };
    const found = app.repositories.find(
      (repository) => repository.module === "Podfile" && normalizedUrl(textOf(repository.url) ?? "") === normalizedUrl(url),
    );
    return found
      ? { state: "connected", wanted: url, places: [found.at] }
      : { state: "missing", wanted: url, fix: `add source '${url}' to the Podfile` };
  }
  if (!app.android) return { state: "unneeded", wanted: url };
  if (presence.packages.length > 0 && presence.packages.every(({ ecosystem, route }) => ecosystem === "binary" || route === "path"))
    return { state: "unneeded", wanted: url, why: reason("comes-as-file") };
  const wanted = normalizedUrl(url);
  const usable = usableRepositories(app, app.android);
  const found = usable.find((repository) => normalizedUrl(textOf(repository.url) ?? "") === wanted);
  if (found) return { state: "connected", wanted: url, places: [found.at] };
  const elsewhere = app.repositories.find(
    (repository) => repository.module !== "Podfile" && normalizedUrl(textOf(repository.url) ?? "") === wanted,
  );
  const home = usable[0]?.at.file ?? app.android.build.settingsFile ?? app.android.folder;
  if (elsewhere)
    return {
      state: "loose",
      problem: "misplaced",
      wanted: url,
      found:
        elsewhere.for === "plugins"
          ? "declared for the build's plugins"
          : `declared in ${elsewhere.module}, where this build does not look`,
      fix: `declare it among the repositories for packages in ${home}`,
      places: [elsewhere.at],
    };
  if (usable.length === 0 || usable.some((repository) => repository.kind === "url" && textOf(repository.url) === undefined))
    return { state: "unknown", wanted: url, why: reason("repositories-open") };
  if (usable.some(mayMirror)) return { state: "unknown", wanted: url, why: reason("company-mirror") };
  return { state: "missing", wanted: url, fix: `add maven { url '${url}' } in ${home}`, places: usable[0] ? [usable[0].at] : [] };
}

/** Those that packages of the SDK ask for, and those of the build whose host has its name. */
function draft({ app, sdk, mentions }: DraftSubject): DraftedNeed[] {
  if (!app.android) return [];
  const asked = app.repositoryNeeds.filter((fact) => fact.sdk === sdk).map(({ url, at }) => [url, at] as const);
  const used = usableRepositories(app, app.android).flatMap(({ url, at }) => {
    const text = textOf(url) ?? "";
    const host = /^https?:\/\/([^/]+)/.exec(text)?.[1];
    return host !== undefined && mentions(host) ? [[text, at] as const] : [];
  });
  // Of the same address the first is told.
  return [...new Map([...asked, ...used].toReversed())].toReversed().map(([url, at]) => ({ on: "android", value: scalar(url), from: at }));
}
