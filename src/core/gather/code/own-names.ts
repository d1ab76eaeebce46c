import { distance } from "fastest-levenshtein";
import { ofRelease, type App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import { textOf } from "../../model/value.js";
import { argumentsIn } from "../../syntax/code/callee.js";
import { withoutComments } from "../../syntax/comments.js";
import { descendants, type XmlElement } from "../../syntax/xml.js";
import { COMPONENTS } from "../platforms/android/components.js";
import type { ProjectFiles } from "../project-files.js";
import { meantBy, namedLists } from "./android-calls.js";
import { faultAt, valueOf } from "./manifest-element.js";
import type { SourceFile } from "./sources.js";

/**
 * Names that an app gives itself and that several of its files have to write alike: authorities of its providers, types of its accounts, permissions.
 * Sources: developer.android.com, "Create a sync adapter" (contentAuthority, accountType), the references of `AccountManager.addAccountExplicitly` (the caller
 * has to be the authenticator of the type) and `ContentResolver`, "<permission>".
 */
export function ownNameFaults(
  project: ProjectFiles,
  app: App,
  roots: readonly XmlElement[],
  sources: readonly SourceFile[],
): ComponentFault[] {
  return [...accountFaults(project, app, roots, sources), ...authorityNames(project, app, roots, sources), ...permissionFaults(roots)];
}

/** Types of accounts that the app's authenticators do not have. */
function accountFaults(project: ProjectFiles, app: App, roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const types = namedLists(project, app, roots, "android.accounts.AccountAuthenticator").map(
    (list) => list && valueOf(list, "accountType"),
  );
  const known = types.flatMap((type) => (type === undefined || /[@$]/.test(type) ? [] : type));
  const [own] = known;
  if (own === undefined || known.length < types.length) return [];
  const adapters = namedLists(project, app, roots, "android.content.SyncAdapter").flatMap((list): ComponentFault[] => {
    const type = list && valueOf(list, "accountType");
    // Accounts of others may be kept in step too.
    if (!list || type === undefined || /[@$]/.test(type) || known.includes(type) || !beginsAlike(type, own)) return [];
    return [faultAt(list, "accountType", { what: "account type", name: type, near: own, unsure: true })];
  });
  const jvm = sources.filter(({ side, language }) => side === "android" && /^(kotlin|java)$/.test(language));
  const made = jvm.flatMap((source): ComponentFault[] => {
    if (!source.text.includes("addAccountExplicitly")) return [];
    const text = withoutComments(source.text);
    return [...text.matchAll(/(?<!\w)Account\s*\(/g)].flatMap((match): ComponentFault[] => {
      const type = meantBy(argumentsIn(text, match.index + match[0].length - 1)[1], [text]);
      if (type === undefined || type.startsWith("@") || known.includes(type)) return [];
      return [{ what: "account type", side: "android", element: "call", name: type, near: own, at: source.place(match.index) }];
    });
  });
  return [...adapters, ...made];
}

/** Whether two names begin alike, as those of one maker do. */
const beginsAlike = (one: string, other: string): boolean => one.split(".").slice(0, 2).join() === other.split(".").slice(0, 2).join();

/** The name that is a letter or two off: those of one maker have most of their letters in common. */
const slipIn = (name: string, known: readonly string[]): string | undefined => known.find((other) => distance(other, name) <= 2);

const SYNC_CALL =
  /\bContentResolver\s*\.\s*(?:setIsSyncable|setSyncAutomatically|requestSync|addPeriodicSync|cancelSync|getSyncAutomatically|getIsSyncable)\s*\(/g;

/** Authorities that are almost one of the app's providers'. */
function authorityNames(project: ProjectFiles, app: App, roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const id = textOf(ofRelease(app.android?.ids ?? [])?.value);
  const known = roots.flatMap((root) =>
    descendants(root, "provider").flatMap((provider) =>
      (valueOf(provider, "authorities") ?? "")
        .split(";")
        .map((name) => name.replace(/\$\{(?:applicationId|packageName)\}/g, () => id ?? "${")),
    ),
  );
  for (const { language, text } of sources)
    if (language === "csharp" && text.includes("ContentProvider"))
      for (const [, list = ""] of withoutComments(text).matchAll(
        /\[\s*ContentProvider\s*\(\s*(?:new\s*(?:string\s*)?\[\s*\]\s*\{|\[)([^\]}]*)[\]}]/g,
      ))
        known.push(...[...list.matchAll(/"([^"]+)"/g)].map((match) => match[1] as string));
  if (known.length === 0 || known.some((name) => /[@$]/.test(name))) return [];
  // Apps of one maker have authorities that are much alike.
  const isOwn = (name: string): boolean => id !== undefined && (name === id || name.startsWith(`${id}.`));
  const slip = (name: string): string | undefined =>
    known.includes(name) || !isOwn(name) || /[@$%]/.test(name) ? undefined : slipIn(name, known);
  const adapters = namedLists(project, app, roots, "android.content.SyncAdapter").flatMap((list): ComponentFault[] => {
    const name = list && valueOf(list, "contentAuthority");
    const near = name === undefined ? undefined : slip(name);
    return list && name !== undefined && near !== undefined ? [faultAt(list, "contentAuthority", { what: "authority", name, near })] : [];
  });
  const told = new Set<string>();
  const written = sources.flatMap((source) => {
    if (source.side !== "android" || !/^(kotlin|java)$/.test(source.language) || !/content:\/\/|\bContentResolver\b/.test(source.text))
      return [];
    const text = withoutComments(source.text);
    const names: [name: string | undefined, offset: number][] = [
      ...[...text.matchAll(/"content:\/\/([\w.]+)(?=["/])/g)].map((match): [string, number] => [match[1] as string, match.index]),
      ...[...text.matchAll(SYNC_CALL)].map((match): [string | undefined, number] => [
        meantBy(argumentsIn(text, match.index + match[0].length - 1)[1], [text]),
        match.index,
      ]),
    ];
    return names.flatMap(([name, offset]): ComponentFault[] => {
      const near = name === undefined ? undefined : slip(name);
      if (name === undefined || near === undefined || told.has(name)) return [];
      told.add(name);
      return [{ what: "authority", side: "android", element: "call", name, near, at: source.place(offset) }];
    });
  });
  return [...adapters, ...written];
}

/** Components that are for who has a permission of the app's own which is almost one that it declares. */
function permissionFaults(roots: readonly XmlElement[]): ComponentFault[] {
  const declared = roots.flatMap((root) => descendants(root, "permission").flatMap((permission) => valueOf(permission, "name") ?? []));
  if (declared.length === 0) return [];
  return roots.flatMap((root) =>
    COMPONENTS.flatMap((tag) =>
      descendants(root, tag).flatMap((component) =>
        ["permission", "readPermission", "writePermission"].flatMap((attribute): ComponentFault[] => {
          const name = valueOf(component, attribute);
          if (name === undefined || declared.includes(name) || /[@$]/.test(name)) return [];
          const near = slipIn(name, declared);
          return near === undefined ? [] : [faultAt(component, attribute, { what: "own permission", name, near })];
        }),
      ),
    ),
  );
}
