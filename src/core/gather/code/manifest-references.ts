import { SENT_BY_OTHERS } from "../../knowledge/component-permissions.js";
import { targetOf, type App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import { namespaceIn } from "../../model/gradle.js";
import { textOf } from "../../model/value.js";
import { withoutComments } from "../../syntax/comments.js";
import { children, descendants, type XmlElement } from "../../syntax/xml.js";
import { declaredIn } from "../platforms/android/components.js";
import type { ProjectFiles } from "../project-files.js";
import { faultAt, valueOf } from "./manifest-element.js";
import type { SourceFile } from "./sources.js";

/** Names of components that manifests declare, the app's own and those of its libraries that are here, without their packages. */
export function declaredNames(project: ProjectFiles, app: App, roots: readonly XmlElement[]): ReadonlySet<string> {
  const files = new Set([...roots.map(({ source }) => source.file), ...app.libraryManifests.map(({ file }) => file)]);
  const aliases = roots.flatMap((root) => descendants(root, "activity-alias").map((alias) => simpleName(valueOf(alias, "name") ?? "")));
  const own = [...files].flatMap((file) =>
    declaredIn(project, file).components.flatMap(({ tag, name }) => (tag === "activity-alias" ? [] : simpleName(name))),
  );
  return new Set([...own, ...aliases]);
}

const simpleName = (name: string): string => name.split(/[.$]/).at(-1) ?? name;

/** Whether a class is in the package of one of the app's modules. */
export function isOfTheApp({ android }: App, name: string): boolean {
  return (android?.modules ?? []).some((module) => name.startsWith(`${namespaceIn(module) ?? ""}.`));
}

/** What elements of the manifests say of other components, of what is sent to them and of what they do, and what does not fit that. */
export function referenceFaults(
  project: ProjectFiles,
  app: App,
  roots: readonly XmlElement[],
  sources: readonly SourceFile[],
): ComponentFault[] {
  const declared = declaredNames(project, app, roots);
  return [
    ...roots.flatMap((root) => [...aliasFaults(app, root, declared), ...filterFaults(root)]),
    ...pictureFaults(roots, sources),
    ...healthFaults(app, roots),
    ...rightToLeft(app, roots, sources),
  ];
}

/** Source: developer.android.com, "<activity-alias>" (the target is an activity that the manifest declares). */
function aliasFaults(app: App, root: XmlElement, declared: ReadonlySet<string>): ComponentFault[] {
  return descendants(root, "activity-alias").flatMap((alias): ComponentFault[] => {
    const target = valueOf(alias, "targetActivity");
    if (/^remove/.test(alias.attributes.get("tools:node")?.value ?? "")) return [];
    if (target === undefined || /[${}@]/.test(target) || declared.has(simpleName(target))) return [];
    // Those of libraries are in manifests that may not be here.
    if (!target.startsWith(".") && target.includes(".") && !isOfTheApp(app, target)) return [];
    return [faultAt(alias, "targetActivity", { what: "alias target", name: valueOf(alias, "name") ?? "", near: target })];
  });
}

function filterFaults(root: XmlElement): ComponentFault[] {
  return ["activity", "activity-alias"].flatMap((tag) =>
    descendants(root, tag).flatMap((activity) =>
      children(activity, "intent-filter").flatMap((filter): ComponentFault[] => {
        const named = (of: string): string[] => children(filter, of).flatMap((element) => valueOf(element, "name") ?? []);
        const action = named("action").find((name) => SENT_BY_OTHERS.test(name));
        return action === undefined || named("category").some((name) => /\.category\.DEFAULT$|^(?!android\.)/.test(name))
          ? []
          : [faultAt(filter, "label", { what: "filter category", name: action, near: undefined })];
      }),
    ),
  );
}

/** Source: reactnative.dev, "Right-to-Left Layout Support" (android:supportsRtl); developer.android.com, "<application>". */
function rightToLeft({ kind }: App, roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const applications = roots.flatMap((root) => children(root, "application"));
  const [application] = applications;
  if (kind !== "react-native" || !application || applications.some((one) => !/^(false)?$/.test(valueOf(one, "supportsRtl") ?? "")))
    return [];
  const source = sources.find(
    ({ side, text }) =>
      side === "shared" &&
      text.includes("I18nManager") &&
      /\bI18nManager\s*\.\s*(?:forceRTL|allowRTL)\s*\(\s*(?!false\b)/.test(withoutComments(text)),
  );
  return source ? [faultAt(application, "supportsRtl", { what: "right to left", name: "I18nManager", near: undefined })] : [];
}

const INTO_PICTURE = /(?<![\w.])(?:this\s*\.\s*|super\s*\.\s*)?enterPictureInPictureMode\s*\(/;

/** Source: developer.android.com, "Add videos using picture-in-picture" (declare that the activity supports it). */
function pictureFaults(roots: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const activities = roots.flatMap((root) => descendants(root, "activity"));
  return sources.flatMap((source): ComponentFault[] => {
    if (source.side !== "android" || !source.text.includes("enterPictureInPictureMode")) return [];
    const text = withoutComments(source.text);
    const own = activities.filter((activity) => new RegExp(`\\bclass\\s+${simpleName(valueOf(activity, "name") ?? "")}\\b`).test(text));
    const [activity, another] = own;
    if (!activity || another || !INTO_PICTURE.test(text)) return [];
    const name = valueOf(activity, "name") ?? "";
    const isAllowed = activities.some(
      (one) => valueOf(one, "name") === name && !/^(false)?$/.test(valueOf(one, "supportsPictureInPicture") ?? ""),
    );
    return isAllowed ? [] : [faultAt(activity, "name", { what: "picture in picture", name, near: undefined })];
  });
}

const RATIONALE = "androidx.health.ACTION_SHOW_PERMISSIONS_RATIONALE";
const USAGE = "android.intent.category.HEALTH_PERMISSIONS";
/** The level at which the system itself keeps records of health. */
const IN_THE_SYSTEM = 34;

/**
 * An app that asks for records of health has a screen that says what for, by one action up to level 33 and by another from then on. Source:
 * developer.android.com, "Get started with Health Connect" (show your app's privacy policy dialog).
 */
function healthFaults({ android, dependencies, entries }: App, roots: readonly XmlElement[]): ComponentFault[] {
  const asked = entries.some(
    ({ kind, side, name, by }) =>
      kind === "permission" && side === "android" && by === undefined && name.startsWith("android.permission.health."),
  );
  const [application] = roots.flatMap((root) => children(root, "application"));
  if (!asked || !application || !android || !dependencies.some(({ name }) => name === "androidx.health.connect:connect-client")) return [];
  const has = (tag: string, name: string): boolean =>
    roots.some((root) => descendants(root, tag).some((element) => valueOf(element, "name") === name));
  const fault = (near: string): ComponentFault[] => [
    faultAt(application, "name", { what: "health rationale", name: "", near, unsure: true }),
  ];
  return [
    ...(has("action", RATIONALE) || Number(textOf(android.effective.minSdk)) >= IN_THE_SYSTEM ? [] : fault(RATIONALE)),
    ...(has("category", USAGE) || !(targetOf({ android }) >= IN_THE_SYSTEM) ? [] : fault(USAGE)),
  ];
}

/** Shortcuts of a file of resources that lead nowhere. Source: developer.android.com, "Create shortcuts" (targetClass, targetPackage). */
export function shortcutFaults(app: App, list: XmlElement, declared: ReadonlySet<string>): ComponentFault[] {
  const ids = app.android?.ids.map(({ value }) => textOf(value)) ?? [];
  return descendants(list, "intent").flatMap((intent): ComponentFault[] => {
    const [type, id] = [valueOf(intent, "targetClass"), valueOf(intent, "targetPackage")];
    const isLost = type !== undefined && isOfTheApp(app, type) && !declared.has(simpleName(type));
    const [own] = ids;
    const isForeign = id !== undefined && !/[@${]/.test(id) && own !== undefined && !ids.includes(undefined) && !ids.includes(id);
    return [
      ...(isLost ? [faultAt(intent, "targetClass", { what: "shortcut", name: type, near: undefined })] : []),
      ...(isForeign ? [faultAt(intent, "targetPackage", { what: "shortcut", name: id, near: own })] : []),
    ];
  });
}
