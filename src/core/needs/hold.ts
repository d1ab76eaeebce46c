import { isPlaceholderSentence, isPlaceholderText } from "../knowledge/placeholder-texts.js";
import type { LevelName } from "../model/facts.js";
import { isForDevelopment, sideOf, sideOfLevel } from "../model/app.js";
import { baseName } from "../model/paths.js";
import { uniquePlaces } from "../model/place.js";
import type { Mend } from "../model/mend.js";
import { possibleTexts, textOf } from "../model/value.js";
import { statementsOf } from "../derive/level-statements.js";
import { mayMirror, normalizedUrl, usableRepositories } from "../derive/repositories.js";
import { at, itemsOf, placeOf, textAt } from "../syntax/data.js";
import { LEVEL_KINDS, type NeedKind } from "../sheets/kinds.js";
import { compareLevels, isLevel } from "../versions/level.js";
import { entriesNamed, heldInVariants, homeOf, mainText, part, placesOf, type Held, type Holding } from "./context.js";
import { holdCode } from "./hold-code.js";
import { covers } from "./keep-rule.js";
import { difference, holdKey, keyValues } from "./keys.js";
import { mask } from "./mask.js";
import { versionOf } from "../derive/presence.js";
import { wildcard } from "../model/wildcard.js";
import { compareIn } from "../versions/ecosystem.js";
import { inSpan } from "../versions/span.js";

type Hold = (holding: Holding) => Held;

/** How each kind of need is held against the facts of a side. */
export const HOLDS: Record<NeedKind, Hold> = {
  ...(Object.fromEntries(LEVEL_KINDS.map((level) => [level, (holding: Holding) => holdLevel(holding, level)])) as Record<LevelName, Hold>),
  repository: holdRepository,
  buildPlugin: holdBuildPlugin,
  companion: holdCompanion,
  serviceFile: holdServiceFile,
  licenceFile: holdLicenceFile,
  key: holdKey,
  permission: holdPermission,
  purposeText: holdPurposeText,
  manifestEntry: holdManifestEntry,
  plistEntry: (holding) => holdEntry(holding, "plist"),
  entitlement: (holding) => holdEntry(holding, "entitlement"),
  backgroundMode: holdBackgroundMode,
  urlScheme: holdUrlScheme,
  queriedScheme: holdQueriedScheme,
  host: holdHost,
  systemFramework: holdSystemFramework,
  linkerFlag: (holding) => holdOption(holding, ["OTHER_LDFLAGS"], "the linker flags"),
  embed: holdEmbed,
  searchPath: (holding) =>
    holdOption(holding, ["FRAMEWORK_SEARCH_PATHS", "LIBRARY_SEARCH_PATHS", "HEADER_SEARCH_PATHS"], "the search paths"),
  keepRule: holdKeepRule,
  packaging: holdPackaging,
  import: holdCode,
  start: holdCode,
  registration: holdCode,
  use: holdCode,
  debugOnly: holdCode,
  withdrawn: holdWithdrawn,
  logLine: ({ need }) => ({ state: "unknown", wanted: textAt(need.value) ?? "", why: "only the log of a device tells" }),
};

function holdLevel({ app, need }: Holding, level: LevelName): Held {
  const wanted = textAt(need.value) ?? "";
  const side = sideOf(app, sideOfLevel(level));
  if (!side) return { state: "unneeded", wanted, why: "the app does not have this side" };
  const statements = statementsOf(app, level);
  const places = uniquePlaces(statements.flatMap(({ value, at: place }) => [value.place, place]));
  const low = statements.filter(
    ({ value }) =>
      possibleTexts(value).length > 0 && possibleTexts(value).every((text) => isLevel(text) && compareLevels(text, wanted) < 0),
  );
  const [first] = low;
  if (first)
    return {
      state: "loose",
      found: possibleTexts(first.value).join(" or "),
      wanted: `${wanted} or higher`,
      fix: `raise ${level} to ${wanted} in ${first.value.place.file}`,
      places: uniquePlaces(low.map(({ value }) => value.place)),
    };
  const effective = side.effective[level];
  if (effective?.kind === "unknown") return { state: "unknown", wanted: `${wanted} or higher`, why: effective.why, places };
  const text = textOf(effective) ?? textOf(statements[0]?.value);
  if (text !== undefined) {
    const enough = isLevel(text) && compareLevels(text, wanted) >= 0;
    return enough
      ? { state: "connected", found: text, wanted: `${wanted} or higher`, places: effective ? [effective.place] : places }
      : {
          state: "loose",
          found: text,
          wanted: `${wanted} or higher`,
          fix: `raise ${level} to ${wanted}`,
          places: effective ? [effective.place] : places,
        };
  }
  if (statements.length > 0) return { state: "unknown", wanted: `${wanted} or higher`, why: "it depends on the build", places };
  if (level !== "minSdk" && level !== "iosTarget")
    return { state: "unknown", wanted: `${wanted} or higher`, why: "nothing in the files states it" };
  return {
    state: "missing",
    wanted: `${wanted} or higher`,
    why: "nothing in the project states it: a default holds",
    fix: `set ${level} to ${wanted} or higher`,
  };
}

function holdRepository({ app, need, side, presence }: Holding): Held {
  const url = textAt(need.value) ?? "";
  if (side === "ios") {
    if (!presence.packages.some(({ ecosystem }) => ecosystem === "cocoapods"))
      return { state: "unneeded", wanted: url, why: "it does not come as a pod" };
    const found = app.repositories.find(
      (repository) => repository.module === "Podfile" && normalizedUrl(textOf(repository.url) ?? "") === normalizedUrl(url),
    );
    return found
      ? { state: "connected", wanted: url, places: [found.at] }
      : { state: "missing", wanted: url, fix: `add source '${url}' to the Podfile` };
  }
  if (!app.android) return { state: "unneeded", wanted: url };
  if (presence.packages.length > 0 && presence.packages.every(({ ecosystem, route }) => ecosystem === "binary" || route === "path"))
    return { state: "unneeded", wanted: url, why: "it comes as a file" };
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
    return { state: "unknown", wanted: url, why: "the repositories of this build are not all in the files" };
  if (usable.some(mayMirror)) return { state: "unknown", wanted: url, why: "the build uses a company's mirror, which may serve it" };
  return { state: "missing", wanted: url, fix: `add maven { url '${url}' } in ${home}`, places: usable[0] ? [usable[0].at] : [] };
}

function holdBuildPlugin({ app, need, side }: Holding): Held {
  const id = mainText(need.value, "id");
  const classpath = part(need.value, "classpath");
  if (side !== "android" || !app.android) return { state: "unneeded", wanted: id };
  const { build } = app.android;
  const named = app.buildPlugins.filter((plugin) => plugin.id === id);
  const applied = named.filter((plugin) => plugin.applied);
  const [conditional] = applied;
  if (applied.some((plugin) => !plugin.conditional))
    return { state: "connected", wanted: id, places: applied.map(({ at: place }) => place) };
  if (conditional) return { state: "unknown", wanted: id, why: "it is applied in some builds only", places: [conditional.at] };
  const onPath = [build.settings, build.root, ...build.modules.values()].flatMap((module) =>
    module.dependencies.filter(
      (dependency) =>
        dependency.kind === "classpath" &&
        (`${dependency.group}:${dependency.artifact}` === classpath ||
          dependency.group === id ||
          `${dependency.group}:${dependency.artifact}` === `${id}:${id}.gradle.plugin`),
    ),
  );
  const home = app.android.module.buildFile ?? "the app's build script";
  const there = [...named.map(({ at: place }) => place), ...onPath.flatMap(({ places }) => places.slice(0, 1))];
  if (there.length > 0)
    return { state: "loose", wanted: id, found: "brought into the build and not applied", fix: `apply ${id} in ${home}`, places: there };
  if (build.hasConventions || build.includedBuilds.some((folder) => !folder.includes("node_modules/")))
    return { state: "unknown", wanted: id, why: "convention plugins of the build may apply it" };
  return { state: "missing", wanted: id, fix: `add the build plugin ${id} and apply it in ${home}`, places: [] };
}

function holdCompanion({ app, need, side }: Holding): Held {
  const name = mainText(need.value, "package");
  const least = part(need.value, "atLeast");
  const wanted = least === undefined ? name : `${name} ${least} or newer`;
  const here = app.dependencies.filter(
    (dependency) =>
      !dependency.test &&
      (dependency.name === name || dependency.sdk === name || dependency.name.startsWith(`${name}/`)) &&
      (dependency.side === side || dependency.side === "shared" || side === "shared"),
  );
  const brought = app.packageNeeds.find((fact) => fact.name === name && (fact.side === side || side === "shared"));
  const [first] = here;
  if (!first && brought) return { state: "connected", wanted, found: `comes with ${brought.by}`, places: [brought.at] };
  if (!first) {
    const lock = [...app.lockedNames].find((locked) => locked.slice(locked.indexOf(" ") + 1) === name);
    if (lock !== undefined) return { state: "connected", wanted, found: "comes with another package, as the lock file says", places: [] };
    const other = side === "ios" ? "android" : side === "android" ? "ios" : undefined;
    // `group:artifact` is no name on iOS; what the other side has under this name is a package of that side.
    if (
      (side === "ios" && /^[\w.-]+:[\w.-]+$/.test(name)) ||
      app.dependencies.some((dependency) => dependency.name === name && dependency.side === other)
    )
      return { state: "unneeded", wanted, why: "it is a package of the other side" };
    return { state: "missing", wanted, fix: `add ${wanted}` };
  }
  const version = here.map(versionOf).find((text) => text !== undefined);
  const places = first.places.slice(0, 1);
  if (least === undefined) return { state: "connected", wanted, found: version ?? "there", places };
  if (version === undefined) return { state: "unknown", wanted, why: "its version is not in the files", places };
  if (compareIn(first.ecosystem, version, least) >= 0) return { state: "connected", wanted, found: version, places };
  return {
    state: "loose",
    wanted,
    found: version,
    fix: `raise ${name} to ${least} or newer`,
    places: [first.lockedAt ?? first.declared?.place ?? first.places[0]].filter((place) => place !== undefined),
  };
}

function holdServiceFile({ app, need, side }: Holding): Held {
  const name = mainText(need.value, "name");
  const idKey = part(need.value, "idKey");
  const files = app.serviceFiles.filter((file) => file.side === side && wildcard(name, baseName(file.file)));
  const [first] = files;
  if (!first) {
    if (app.leftOutOfGit.has(name)) return { state: "unknown", wanted: name, why: ".gitignore keeps it out of the repository" };
    const where = side === "android" ? (app.android?.module.folder ?? "the app's module") : `the target ${app.ios?.target.name ?? ""}`;
    return { state: "missing", problem: "absent", wanted: name, fix: `put ${name} into ${where}` };
  }
  const read = files.filter((file) => file.read !== false);
  const start = { file: first.file, line: 1, column: 1 };
  if (read.length === 0)
    return {
      state: "loose",
      problem: "misplaced",
      wanted: name,
      found: first.file,
      why: first.why,
      fix: first.mend,
      places: [start],
    };
  for (const file of read) {
    const stated =
      idKey === undefined
        ? file.ids.map(({ value }) => value)
        : [...file.texts].filter(([path]) => wildcard(idKey, path)).map(([, value]) => value);
    const [one] = stated;
    const ids = one && foreignTo(app, file, read, new Set(stated.map(({ text }) => text)));
    if (one && ids)
      return {
        state: "loose",
        problem: "mismatch",
        wanted: [...ids].join(" or "),
        found: stated.map(({ text }) => text).join(", "),
        fix: `download ${name} again for ${[...ids][0] ?? "this app"}`,
        places: [one.place],
      };
  }
  const variants = read.map(({ variant }) => variant);
  if (!variants.includes(undefined) && variants.every((variant) => /debug/i.test(variant ?? "")))
    return {
      state: "loose",
      problem: "variant",
      wanted: name,
      found: `only for ${variants.join(", ")}`,
      fix: `put one for the release build into ${app.android?.module.folder || "the app's module"}`,
      places: [start],
    };
  for (const show of itemsOf(at(need.value, "show"))) {
    const held = holdShown(app, side, read[0] ?? first, show);
    if (held) return { ...held, wanted: held.wanted };
  }
  return {
    state: "connected",
    wanted: name,
    found: read.map(({ file }) => file).join(", "),
    places: read.map(({ file }) => ({ file, line: 1, column: 1 })),
  };
}

/** A value of a service file that must show up elsewhere, and does not. */
function holdShown(
  app: Holding["app"],
  side: Holding["side"],
  file: Holding["app"]["serviceFiles"][number],
  show: ReturnType<typeof itemsOf>[number],
): Held | undefined {
  const path = textAt(show, "value") ?? "";
  const value = [...file.texts].find(([key]) => wildcard(path, key))?.[1];
  if (!value) return undefined;
  const text = textAt(show, "reversed") === "true" ? value.text.split(".").reverse().join(".") : value.text;
  const name = textAt(show, "name");
  const kinds = { urlScheme: "urlScheme", plist: "plist", manifest: "metaData", string: "string" } as const;
  const kind = kinds[textAt(show, "as") as keyof typeof kinds];
  const shown = app.entries.some(
    (entry) =>
      entry.side === side &&
      entry.kind === kind &&
      (kind === "urlScheme" ? entry.name === text : (name === undefined || entry.name === name) && textOf(entry.value) === text),
  );
  if (shown) return undefined;
  const as =
    kind === "urlScheme" ? "as a URL scheme" : `as ${name ?? "an entry"} in ${side === "ios" ? "the property list" : "the manifest"}`;
  return {
    state: "loose",
    problem: "scheme",
    wanted: `${mask(text)} ${as}`,
    found: "not there",
    fix: `add the value of ${path} in ${file.file} ${as}${textAt(show, "reversed") === "true" ? ", its parts reversed" : ""}`,
    places: [value.place],
  };
}

/**
 * The ids of the builds that take a service file in and for which it is not, by the ids that it states; `undefined` where it is for all of
 * them, or nothing tells. A target or a flavour is held against its own ids; what all builds take must be for one that is shipped.
 */
export function foreignTo(
  app: Holding["app"],
  file: Pick<Holding["app"]["serviceFiles"][number], "side" | "variant" | "targets" | "file">,
  all: readonly Pick<Holding["app"]["serviceFiles"][number], "side" | "variant" | "targets" | "file">[],
  stated: ReadonlySet<string>,
): Set<string> | undefined {
  const ids = idsOf(app, file.side);
  if (ids.size === 0 || stated.size === 0) return undefined;
  const own = (file.side === "android" ? app.android?.ids : app.ios?.ids) ?? [];
  const textsOf = (list: typeof own): Set<string> => new Set(list.flatMap(({ value }) => possibleTexts(value)));
  const groups: Set<string>[] = [];
  if (file.targets) for (const target of file.targets) groups.push(textsOf(own.filter(({ variant }) => variant?.startsWith(`${target} `))));
  else if (file.side === "android" && file.variant !== undefined) {
    const exact = own.filter(({ variant }) => variant === file.variant);
    // A build type's suffix goes behind the flavour's id.
    const suffixes = own.flatMap(({ value, variant }) => {
      const base = own.find((id) => id.variant === undefined);
      const [text, plain] = [textOf(value), textOf(base?.value)];
      return variant !== undefined && text !== undefined && plain !== undefined && text.startsWith(`${plain}.`)
        ? text.slice(plain.length)
        : [];
    });
    const exactTexts = [...textsOf(exact)];
    groups.push(new Set(exactTexts.length === 0 ? ids : exactTexts.flatMap((id) => [id, ...suffixes.map((suffix) => id + suffix)])));
  } else if (file.side === "android") {
    const released = own.filter(({ variant }) => !isForDevelopment(variant));
    const replaced = new Set(all.filter((other) => baseName(other.file) === baseName(file.file)).flatMap(({ variant }) => variant ?? []));
    const used = released.filter(({ variant }) => variant === undefined || !replaced.has(variant));
    groups.push(textsOf(used.length > 0 ? used : own));
  } else groups.push(ids);
  return groups.find((group) => group.size > 0 && ![...stated].some((id) => group.has(id)));
}

export function idsOf(app: Holding["app"], side: string): Set<string> {
  const ids = (side === "android" ? app.android?.ids : app.ios?.ids) ?? [];
  const texts = ids.map(({ value }) => possibleTexts(value));
  // Where an id is unknown, nothing is known to be foreign.
  if (texts.some((list) => list.length === 0)) return new Set();
  // A suffix of a build type goes behind the flavours' ids as well.
  return new Set(texts.flat());
}

function holdLicenceFile({ app, need, side }: Holding): Held {
  const name = textAt(need.value) ?? "";
  const found = app.namedFiles.filter((file) => file.side === side && wildcard(name, baseName(file.file)));
  if (found.length > 0)
    return {
      state: "connected",
      wanted: name,
      found: found.map(({ file }) => file).join(", "),
      places: found.map(({ file }) => ({ file, line: 1, column: 1 })),
    };
  if (app.leftOutOfGit.has(name)) return { state: "unknown", wanted: name, why: ".gitignore keeps it out of the repository" };
  return {
    state: "missing",
    problem: "absent",
    wanted: name,
    fix: `put ${name} into the ${side === "ios" ? "Xcode project" : "Android project"}`,
  };
}

function holdPermission({ app, need, side }: Holding): Held {
  const name = textAt(need.value) ?? "";
  if (side !== "android") return { state: "unneeded", wanted: name };
  const { here, removed } = entriesNamed(app, side, "permission", name);
  const [taken] = removed;
  if (taken) return { state: "loose", wanted: name, found: "taken out by a merge marker", fix: "take the marker out", places: [taken.at] };
  const partly = heldInVariants(app, side, here, name, "move it to the main manifest");
  if (partly) return partly;
  const [first] = here;
  if (first)
    return {
      state: "connected",
      wanted: name,
      found: first.by === undefined ? "in the manifest" : `comes with ${first.by}`,
      places: placesOf(here),
    };
  if (app.manifests.length === 0) return { state: "unknown", wanted: name, why: "the app's manifest is not in the files" };
  const [manifest] = app.manifests;
  return {
    state: "missing",
    wanted: name,
    fix: `add <uses-permission android:name="${name}" /> to ${homeOf(app, side, "manifest")}`,
    mend: manifest === undefined ? undefined : [{ do: "permission", file: manifest, name }],
  };
}

function holdPurposeText({ app, need, side }: Holding): Held {
  const name = textAt(need.value) ?? "";
  if (side !== "ios") return { state: "unneeded", wanted: name };
  const { here } = entriesNamed(app, side, "purposeText", name);
  const empty = here.find(({ value }) => value?.kind === "known" && value.text.trim() === "");
  if (empty)
    return {
      state: "missing",
      problem: "empty",
      wanted: name,
      found: "(empty)",
      fix: "say in one sentence what the app uses it for",
      places: [empty.value?.place ?? empty.at],
      mend: [purposeMend(empty.at.file, name, need.why)],
    };
  const left = here.find(({ value }) => isPlaceholderSentence(textOf(value) ?? ""));
  if (left)
    return {
      state: "loose",
      problem: "placeholder",
      wanted: name,
      found: textOf(left.value),
      fix: "say in one sentence what the app uses it for",
      places: placesOf([left]),
    };
  const partly = heldInVariants(app, side, here, name, "add it to the property lists of all configurations");
  if (partly) return partly;
  if (here.length > 0) return { state: "connected", wanted: name, found: "there", places: placesOf(here) };
  if (app.propertyLists.length === 0) return { state: "unknown", wanted: name, why: "the app's property list is not in the files" };
  return {
    state: "missing",
    problem: "absent",
    wanted: name,
    mend: app.propertyLists[0] === undefined ? undefined : [purposeMend(app.propertyLists[0], name, need.why)],
    fix: `add ${name} with a sentence that says what for, to ${homeOf(app, side, "plist")}`,
  };
}

function holdManifestEntry({ app, need, side }: Holding): Held {
  const element = part(need.value, "element") ?? "meta-data";
  const name = part(need.value, "name") ?? "";
  const value = part(need.value, "value");
  const wanted = `<${element} ${name}>${value === undefined ? "" : ` with ${value}`}`;
  if (side !== "android") return { state: "unneeded", wanted };
  const kind = element === "meta-data" ? "metaData" : element.startsWith("uses-") ? "feature" : "component";
  const { here, removed } = entriesNamed(app, side, kind, name);
  const [taken] = removed;
  if (taken) return { state: "loose", wanted, found: "taken out by a merge marker", fix: "take the marker out", places: [taken.at] };
  const [first] = here;
  if (!first) {
    if (app.manifests.length === 0) return { state: "unknown", wanted, why: "the app's manifest is not in the files" };
    return { state: "missing", wanted, fix: `add ${wanted} to ${homeOf(app, side, "manifest")}` };
  }
  if (value !== undefined && first.value && !here.some((entry) => possibleTexts(entry.value).includes(value))) {
    if (here.some((entry) => entry.value?.kind === "unknown"))
      return { state: "unknown", wanted, why: "its value is not in the files", places: placesOf(here) };
    return { state: "loose", wanted, found: possibleTexts(first.value).join(" or "), fix: `set it to ${value}`, places: placesOf([first]) };
  }
  return {
    state: "connected",
    wanted,
    found: first.by === undefined ? "in the manifest" : `comes with ${first.by}`,
    places: placesOf(here),
  };
}

function holdEntry({ app, need, side }: Holding, kind: "plist" | "entitlement"): Held {
  const key = mainText(need.value, "key");
  const value = part(need.value, "value");
  const wanted = value === undefined ? key : `${key} = ${value}`;
  if (side !== "ios") return { state: "unneeded", wanted };
  const { here } = entriesNamed(app, side, kind, key);
  const home = homeOf(app, side, kind === "plist" ? "plist" : "entitlements");
  const [first] = here;
  if (!first) {
    if (kind === "plist" && app.propertyLists.length === 0)
      return { state: "unknown", wanted, why: "the app's property list is not in the files" };
    return { state: "missing", wanted, fix: `add ${wanted} to ${home}` };
  }
  if (value !== undefined && !here.some((entry) => textOf(entry.value) === value)) {
    if (here.some((entry) => entry.value?.kind !== "known"))
      return { state: "unknown", wanted, why: "its value is not in the files", places: placesOf(here) };
    return { state: "loose", wanted, found: textOf(first.value), fix: `set it to ${value}`, places: placesOf([first]) };
  }
  const partly = heldInVariants(app, side, here, wanted, "add it for all configurations");
  return partly ?? { state: "connected", wanted, found: "there", places: placesOf(here) };
}

/** A sentence that a person has to word, from what the sheet says. */
function purposeMend(file: string, key: string, why: string | undefined): Mend {
  return { do: "plist", file, key, value: `To be worded: ${why ?? "what the app needs it for."}`, list: false };
}

function holdBackgroundMode({ app, need, side }: Holding): Held {
  const name = textAt(need.value) ?? "";
  if (side !== "ios") return { state: "unneeded", wanted: name };
  const { here } = entriesNamed(app, side, "backgroundMode", name);
  if (here.length > 0) return { state: "connected", wanted: name, found: "there", places: placesOf(here) };
  if (app.propertyLists.length === 0) return { state: "unknown", wanted: name, why: "the app's property list is not in the files" };
  const [list] = app.propertyLists;
  return {
    state: "missing",
    wanted: name,
    fix: `add ${name} to UIBackgroundModes in ${homeOf(app, side, "plist")}`,
    mend: list === undefined ? undefined : [{ do: "plist", file: list, key: "UIBackgroundModes", value: name, list: true }],
  };
}

function holdUrlScheme(holding: Holding): Held {
  const { app, sheet, need, side } = holding;
  const from = need.value.kind === "map" ? part(need.value, "key") : undefined;
  if (from === undefined) {
    const wanted = textAt(need.value) ?? "";
    return holdScheme(holding, { wanted, shown: wanted, variant: undefined });
  }
  const unclear: Held = { state: "unknown", wanted: `built from ${from}`, why: `${from}, which it is built from, has no certain value` };
  const values = keyValues(app, sheet, from, side) ?? keyValues(app, sheet, from, side === "ios" ? "android" : "ios");
  if (!values || [...values.values()].some((value) => value.trim() === "" || isPlaceholderText(value))) return unclear;
  const prefix = part(need.value, "prefix") ?? "";
  const reversed = part(need.value, "reversed") === "true";
  // Each build needs the scheme that is made of its own key.
  const answers = [...values].map(([variant, value]) =>
    holdScheme(
      holding,
      { wanted: `${prefix}${reversed ? value.split(".").reverse().join(".") : value}`, shown: `${prefix}${mask(value)}`, variant },
      values.size > 1,
    ),
  );
  return (
    answers.find(({ state }) => state !== "connected" && state !== "unknown") ??
    answers.find(({ state }) => state === "unknown") ??
    (answers[0] as Held)
  );
}

/** One scheme, of one variant where `variant` names it. */
function holdScheme(
  { app, sheet, need, side }: Holding,
  { wanted, shown, variant }: { wanted: string; shown: string; variant: string | undefined },
  several = false,
): Held {
  const from = need.value.kind === "map" ? part(need.value, "key") : undefined;
  const schemes = app.entries.filter(
    (entry) =>
      entry.kind === "urlScheme" &&
      entry.side === side &&
      !entry.removed &&
      (variant === undefined || entry.variant === undefined || entry.variant === variant),
  );
  const title = `${shown}${variant === undefined ? "" : ` in ${variant}`}`;
  const found = schemes.filter((entry) => possibleTexts(entry.value).includes(wanted) || entry.name === wanted);
  if (found.length > 0) return { state: "connected", wanted: title, found: "there", places: placesOf(found) };
  const unclear = schemes.find((entry) => entry.value?.kind === "unknown");
  if (unclear)
    return { state: "unknown", wanted: title, why: unclear.value?.kind === "unknown" ? unclear.value.why : "", places: [unclear.at] };
  const prefix = from === undefined ? undefined : part(need.value, "prefix");
  const near = schemes.find((entry) => (prefix ? entry.name.startsWith(prefix) : entry.name.toLowerCase() === wanted.toLowerCase()));
  const file = homeOf(app, side, side === "ios" ? "plist" : "manifest");
  if (near)
    return {
      state: "loose",
      problem: "scheme",
      wanted: title,
      found:
        from === undefined ? near.name : `${prefix ?? ""}${mask(near.name.slice(prefix?.length ?? 0))}${difference(near.name, wanted)}`,
      fix: several
        ? "build the scheme from the key of the same build, by a placeholder or a build setting"
        : "write the scheme exactly as it is built",
      places: placesOf([near]),
      // A patch shows lines as they are: what is built from a secret is for a person to write, and so is what differs per build.
      ...(isSecret(sheet, from) || several
        ? {}
        : { mend: [{ do: "replace" as const, at: near.value?.place ?? near.at, from: near.name, to: wanted }] }),
    };
  return { state: "missing", problem: "scheme", wanted: title, fix: `add the URL scheme ${title} to ${file}` };
}

/** Whether the sheet calls a key secret. */
function isSecret(sheet: Holding["sheet"], key: string | undefined): boolean {
  return (
    key !== undefined &&
    sheet.needs.some(({ kind, value }) => kind === "key" && part(value, "name") === key && part(value, "secret") === "true")
  );
}

function holdQueriedScheme({ app, need, side }: Holding): Held {
  const name = textAt(need.value) ?? "";
  const { here } = entriesNamed(app, side, "queriedScheme", name);
  if (here.length > 0) return { state: "connected", wanted: name, found: "there", places: placesOf(here) };
  if (side === "ios")
    return { state: "missing", wanted: name, fix: `add ${name} to LSApplicationQueriesSchemes in ${homeOf(app, side, "plist")}` };
  return { state: "missing", wanted: name, fix: `add <queries> with the scheme ${name} to ${homeOf(app, side, "manifest")}` };
}

function holdHost({ app, need, side }: Holding): Held {
  const text = textAt(need.value) ?? "";
  const host = text.replace(/^\w+:\/\//, "").replace(/[/:].*$/, "");
  if (/^https:/.test(text)) return { state: "unneeded", wanted: host, why: "hosts with encryption need no exception" };
  const all = app.entries.filter((entry) => entry.side === side && (entry.kind === "clearText" || entry.kind === "host"));
  const open = all.filter((entry) =>
    entry.kind === "clearText"
      ? textOf(entry.value) === "true"
      : (host === entry.name || host.endsWith(`.${entry.name}`)) && textOf(entry.value) !== "false" && entry.value !== undefined,
  );
  if (open.length > 0)
    return {
      state: "connected",
      wanted: host,
      found: open.some(({ kind }) => kind === "host") ? "allowed" : "every host is allowed",
      places: placesOf(open),
    };
  const closed = all.find((entry) => entry.kind === "host" && (host === entry.name || host.endsWith(`.${entry.name}`)));
  if (closed)
    return {
      state: "loose",
      wanted: host,
      found: "named, and not allowed without encryption",
      fix: `allow clear text for ${host}`,
      places: [closed.at],
    };
  if (side === "android" && app.android) {
    const target = textOf(app.android.effective.targetSdk);
    if (target !== undefined && isLevel(target) && compareLevels(target, "28") < 0 && !all.some((entry) => textOf(entry.value) === "false"))
      return { state: "connected", wanted: host, found: `allowed by default below targetSdk 28`, places: [] };
  }
  if (app.kind === "cordova") return { state: "missing", wanted: host, fix: `add <access origin="http://${host}" /> to config.xml` };
  const where =
    side === "ios" ? `NSAppTransportSecurity, NSExceptionDomains in ${homeOf(app, side, "plist")}` : "a network security configuration";
  return { state: "missing", wanted: host, fix: `allow ${host} in ${where}` };
}

function comesAsPackage({ presence }: Holding): boolean {
  return presence.packages.some(({ ecosystem }) => ecosystem === "cocoapods" || ecosystem === "swiftpm" || ecosystem === "npm");
}

function holdSystemFramework(holding: Holding): Held {
  const { app, need, side } = holding;
  const name = textAt(need.value) ?? "";
  if (side !== "ios") return { state: "unneeded", wanted: name };
  const file = /\.(framework|tbd|dylib)$/.test(name) ? name : `${name}.framework`;
  const link = app.links.find(
    (fact) => fact.linked && (fact.name === file || fact.name.replace(/\.(tbd|dylib)$/, "") === file.replace(/\.(tbd|dylib)$/, "")),
  );
  if (link) return { state: "connected", wanted: name, found: "linked", places: [link.at] };
  const flag = app.options.find(
    (option) =>
      option.name === "OTHER_LDFLAGS" &&
      option.values.some(
        (value, index) =>
          value === `-l${file.replace(/^lib|\.\w+$/g, "")}` ||
          (/^-(weak_)?framework$/.test(value) && `${option.values[index + 1] ?? ""}.framework` === file),
      ),
  );
  if (flag) return { state: "connected", wanted: name, found: "in the linker flags", places: [flag.at] };
  if (comesAsPackage(holding)) return { state: "unneeded", wanted: name, why: "the package links what it needs" };
  return { state: "missing", wanted: name, fix: `link ${file} in the target ${app.ios?.target.name ?? ""}` };
}

function holdEmbed(holding: Holding): Held {
  const { app, need, side } = holding;
  const name = part(need.value, "name") ?? "";
  const kind = part(need.value, "kind") ?? "dynamic";
  if (side !== "ios") return { state: "unneeded", wanted: name };
  const link = app.links.find((fact) => wildcard(name, fact.name));
  if (!link)
    return comesAsPackage(holding)
      ? { state: "unneeded", wanted: name, why: "it comes as a package" }
      : { state: "missing", wanted: name, fix: `link ${name} in the target` };
  if (kind === "dynamic" && !link.embedded)
    return {
      state: "loose",
      wanted: `${name}, embedded`,
      found: "linked and not embedded",
      fix: `set ${link.name} to Embed & Sign in the target ${link.target}`,
      places: [link.at],
    };
  if (kind === "static" && link.embedded)
    return {
      state: "loose",
      wanted: `${name}, not embedded`,
      found: "a static library is embedded",
      fix: `set ${link.name} to Do Not Embed in the target ${link.target}`,
      places: [link.at],
    };
  return { state: "connected", wanted: name, found: link.embedded ? "embedded" : "linked", places: [link.at] };
}

function holdOption({ app, need, side }: Holding, names: string[], title: string): Held {
  const wanted = textAt(need.value) ?? "";
  if (side !== "ios") return { state: "unneeded", wanted };
  const options = app.options.filter((option) => option.side === "ios" && names.includes(option.name));
  const found = options.find((option) => hasTokens(option.values, wanted));
  if (found) return { state: "connected", wanted, found: `in ${title}`, places: [found.at] };
  if (app.ios?.usesPods) return { state: "unknown", wanted, why: "the pods' configuration files may add it, and they are not here" };
  return { state: "missing", wanted, fix: `add ${wanted} to ${names[0] ?? ""}` };
}

/** Whether the words of an option stand in a list of options, in their order and each as a whole. */
function hasTokens(values: readonly string[], wanted: string): boolean {
  const words = (text: string): string[] => text.replace(/["']/g, "").split(/\s+/).filter(Boolean);
  const [all, own] = [values.flatMap(words), words(wanted)];
  return own.length > 0 && all.some((_, at) => own.every((word, index) => all[at + index] === word));
}

function holdKeepRule({ app, need, side }: Holding): Held {
  const rule = textAt(need.value) ?? "";
  if (side !== "android") return { state: "unneeded", wanted: rule };
  const shrunk = app.shrink.filter(({ enabled }) => textOf(enabled) !== "false");
  const [first] = shrunk;
  if (!first) return { state: "unneeded", wanted: rule, why: "no release build shrinks its code" };
  const unclear = shrunk.every(({ enabled }) => textOf(enabled) === undefined);
  const files = app.rulesFiles.filter(({ rules }) => rules.some(({ text }) => covers(text, rule)));
  const used = files.filter(
    (file) => file.by !== undefined || shrunk.some((variant) => variant.files.some(({ resolved }) => resolved === file.file)),
  );
  const placesIn = (list: typeof files) =>
    list.flatMap((file) => file.rules.filter(({ text }) => covers(text, rule)).map(({ at: place }) => place));
  if (used.length > 0) return { state: "connected", wanted: rule, found: `in ${used[0]?.file ?? ""}`, places: placesIn(used) };
  if (unclear)
    return {
      state: "unknown",
      wanted: rule,
      why: "whether the release build shrinks its code depends on the build",
      places: [first.enabled.place],
    };
  const [unused] = files;
  if (unused)
    return {
      state: "loose",
      problem: "unused",
      wanted: rule,
      found: `in ${unused.file}, which no release build uses`,
      fix: `name ${baseName(unused.file)} among the build type's proguardFiles`,
      places: placesIn(files),
    };
  const target = first.files.find(({ resolved }) => resolved !== undefined && app.rulesFiles.some((file) => file.file === resolved));
  return {
    state: "missing",
    wanted: rule,
    fix: `add the rule to ${target?.path ?? "a rules file that the release build names"}`,
    places: [first.enabled.place],
  };
}

function holdPackaging({ app, need, side }: Holding): Held {
  const option = part(need.value, "option") ?? "";
  const value = part(need.value, "value") ?? "";
  const wanted = `${option} ${value}`;
  if (side !== "android") return { state: "unneeded", wanted };
  const plain = (text: string): string => text.toLowerCase().replace(/s$/, "");
  const found = app.options.find((fact) => fact.side === "android" && plain(fact.name) === plain(option) && fact.values.includes(value));
  return found
    ? { state: "connected", wanted, found: "there", places: [found.at] }
    : { state: "missing", wanted, fix: `add ${wanted} to the packaging options in ${homeOf(app, side, "build")}` };
}

/** Names of calls that start something. */
const START = /^(?:[sS]tart|[iI]nit|[iI]nitiali[sz]e|[cC]onfigure|[sS]et[uU]p|[rR]egister)(?=$|[A-Z_])/;

function holdWithdrawn({ app, sheet, need, side, presence }: Holding): Held {
  const instead = part(need.value, "instead") ?? "";
  const versions = part(need.value, "versions");
  const fix = `use ${instead}`;
  if (versions !== undefined && presence.version !== undefined) {
    const [first] = presence.packages;
    if (first && inSpan(first.ecosystem, presence.version, versions) === true)
      return {
        state: "loose",
        wanted: instead,
        found: presence.version,
        why: `${versions} is withdrawn`,
        fix,
        places: [first.declared?.place ?? first.places[0]].filter((place) => place !== undefined),
      };
  }
  for (const item of itemsOf(at(need.value, "calls"))) {
    const call = textAt(item);
    const calls = (app.code?.calls ?? []).filter(
      (fact) => fact.side === side && fact.sdk === sheet.sdk && fact.kind === "withdrawn" && fact.name === call && fact.reach !== "never",
    );
    const [first] = calls;
    if (!first) continue;
    const places = calls.map(({ at: place }) => place);
    const message = `${first.callee} in ${first.within} is a call that the vendor of ${sheet.sdk} has withdrawn`;
    return {
      state: "loose",
      wanted: instead,
      found: call,
      why: "the call is withdrawn",
      fix,
      places,
      // A withdrawn start is a wrong call; any other one is told with the versions.
      ...(START.test(call?.split(".").at(-1) ?? "")
        ? { problem: "call" as const, faults: [{ problem: "call" as const, message, fix, found: call, why: undefined, places }] }
        : {}),
    };
  }
  return { state: "unneeded", wanted: instead, why: "nothing withdrawn is in use", places: [placeOf(need.value)].slice(1) };
}
