import { distance } from "fastest-levenshtein";
import type { App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import { isInstalled, join } from "../../model/paths.js";
import { resourceFolders } from "../platforms/android/manifest.js";
import type { ProjectFiles } from "../project-files.js";
import type { Source } from "../../syntax/source.js";
import type { OwnClasses } from "./own-classes.js";
import type { SourceFile } from "./sources.js";

/** Kinds of resources that name classes: views, fragments, behaviours. */
const WITH_CLASSES = /^(layout|navigation|xml|menu)(-|$)/;

/**
 * A class with its package as a file of resources writes it: an element, or an attribute. Source: developer.android.com, "Create custom view components", "Fragments",
 * "Design navigation graphs", "Organize your settings" (android:fragment), "CoordinatorLayout" (layout_behavior).
 */
const NAMED =
  /<([a-z]\w*(?:\.\w+)+)(?=[\s/>])|\b(?:class|android:name|android:fragment|app:fragment|app:layout_behavior|app:layoutManager|app:actionViewClass|app:actionProviderClass)\s*=\s*"([a-z]\w*(?:\.[\w$]+)+)"/g;

/** Elements whose name is a class; others have an attribute of that name which nobody reads. */
const NAMED_BY_CLASS = /^<(?:fragment|dialog|activity|androidx\.fragment\.app\.FragmentContainerView)\b/;

/** Classes that layouts and the like name in a package of the app's own, which has none of that name: the app ends when they are shown. */
export function layoutClasses(project: ProjectFiles, app: App, classes: OwnClasses, sources: readonly SourceFile[]): ComponentFault[] {
  if (!classes.any) return [];
  const told = new Set<string>();
  return filesWithClasses(project, app).flatMap(({ set, name, source }): ComponentFault[] =>
    [...source.text.matchAll(NAMED)].flatMap((match): ComponentFault[] => {
      const full = (match[1] ?? match[2]) as string;
      const tag = source.text.slice(source.text.lastIndexOf("<", match.index), match.index);
      if (told.has(full) || (match[0].startsWith("android:name") && !NAMED_BY_CLASS.test(tag))) return [];
      told.add(full);
      const fault = unknownClass(classes, full);
      // One that code does not show by its name may be left over.
      const isOpen = set.startsWith("layout") && !isShown(name.replace(".xml", ""), sources);
      return fault
        ? [
            {
              what: "layout class",
              side: "android",
              element: `${set}/${name}`,
              name: full,
              near: fault.near,
              ...(isOpen ? { unsure: true } : {}),
              at: source.place(match.index),
            },
          ]
        : [];
    }),
  );
}

/** The files of resources of the app's own modules that may name classes. */
function filesWithClasses(project: ProjectFiles, { android }: App): { set: string; name: string; source: Source }[] {
  return (android?.modules ?? []).flatMap((module) =>
    (isInstalled(`${module.folder}/`) ? [] : resourceFolders(project, module)).flatMap(({ folder }) =>
      project.tree.list(folder).flatMap(({ name: set, kind }) =>
        kind !== "folder" || !WITH_CLASSES.test(set)
          ? []
          : project.tree.list(join(folder, set)).flatMap(({ name }) => {
              const source = name.endsWith(".xml") ? project.text(join(folder, set, name)) : undefined;
              return source ? [{ set, name, source }] : [];
            }),
      ),
    ),
  );
}

/** Whether code names a layout: by its resource, or by the class that is made for it. */
function isShown(name: string, sources: readonly SourceFile[]): boolean {
  const binding = `${name.replace(/(?:^|_)(\w)/g, (_, letter: string) => letter.toUpperCase())}Binding`;
  return sources.some(({ text }) => text.includes(`layout.${name}`) || text.includes(binding));
}

function unknownClass(classes: OwnClasses, full: string): { near: string | undefined } | undefined {
  const parts = full.replaceAll("$", ".").split(".");
  // Classes in classes begin with a capital as well.
  const outer = parts.findIndex((part) => /^[A-Z]/.test(part));
  if (outer <= 0) return undefined;
  const own = parts.slice(0, outer).join(".");
  if (!classes.hasPackage(own)) return undefined;
  const missing = parts.slice(outer).find((name) => classes.named(name).length === 0);
  if (missing === undefined) return undefined;
  const near = classes.inPackage(own).find(({ name }) => distance(name, missing) <= Math.max(2, missing.length / 4));
  return { near: near?.full };
}
