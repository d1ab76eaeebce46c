import type { App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import { isWithin } from "../../model/paths.js";
import { withoutComments } from "../../syntax/comments.js";
import { children, descendants, type XmlElement } from "../../syntax/xml.js";
import { xmlResource } from "../platforms/android/manifest.js";
import type { ProjectFiles } from "../project-files.js";
import type { Resources } from "./android-resources.js";
import { faultAt, valueOf } from "./manifest-element.js";
import { declaredNames, isOfTheApp, shortcutFaults } from "./manifest-references.js";
import type { SourceFile } from "./sources.js";

/** Packages that only apps on a watch have; others of the group are for the phone beside it. Source: developer.android.com, "Wear OS releases". */
const ON_WATCHES =
  /^androidx\.wear\.(compose:compose-(material|foundation|navigation)\w*|tiles:tiles|protolayout:protolayout|watchface:watchface)$/;

/**
 * What a watch or a television asks of an app before its store offers it or its home screen shows it. Sources: developer.android.com, "Get started
 * with TV apps" (leanback, touchscreen, LEANBACK_LAUNCHER, home screen banner), "Get started with Wear OS" (android.hardware.type.watch).
 */
export function deviceFaults({ android, kind, dependencies }: App, roots: readonly XmlElement[]): ComponentFault[] {
  if (!android || android.generated || kind === "unity") return [];
  // A module of the app may have the activity, or say what devices it is for.
  const features = roots.flatMap((root) => children(root, "uses-feature"));
  const feature = (name: string): XmlElement | undefined => features.find((element) => valueOf(element, "name") === name);
  const applications = roots.flatMap((root) => children(root, "application"));
  const application = applications.find(({ source }) => isWithin(source.file, android.module.folder));
  if (!application) return [];
  const faults: ComponentFault[] = [];
  const tell = (element: XmlElement, what: ComponentFault["what"], name = ""): void =>
    void faults.push({ ...faultAt(element, "name", { what, name, near: undefined }), unsure: what !== "no start on TV" });
  const television = firstOnTelevision(roots);
  const leanback = feature("android.software.leanback");
  if (
    leanback &&
    valueOf(leanback, "required") !== "false" &&
    !television &&
    roots.some((root) => descendants(root, "activity").length > 0)
  )
    tell(leanback, "no start on TV");
  if (television) {
    if (![television, ...applications].some(({ attributes }) => attributes.has("android:banner")))
      tell(television, "no banner", valueOf(television, "name"));
    const touch = feature("android.hardware.touchscreen");
    if (valueOf(touch ?? application, "required") !== "false") tell(touch ?? television, "touchscreen");
  }
  const onWatch = dependencies.find(
    ({ ecosystem, side, name, test, in: within }) =>
      ecosystem === "maven" && side === "android" && !test && within === android.module.path && ON_WATCHES.test(name),
  );
  if (onWatch && !feature("android.hardware.type.watch") && !features.some((element) => /type\.\w+$/.test(valueOf(element, "name") ?? "")))
    tell(application, "no watch", onWatch.name);
  return faults;
}

/** The activity that the home screen of a television starts. */
function firstOnTelevision(roots: readonly XmlElement[]): XmlElement | undefined {
  return roots
    .flatMap((root) => ["activity", "activity-alias"].flatMap((tag) => descendants(root, tag)))
    .find((activity) =>
      descendants(activity, "category").some((category) => valueOf(category, "name") === "android.intent.category.LEANBACK_LAUNCHER"),
    );
}

const PROVIDER = "android.appwidget.provider";
const UPDATE = "android.appwidget.action.APPWIDGET_UPDATE";

/** Attributes of files that a component names by `meta-data` and that hold the class of an activity. Sources: the pages of NAMES_IN_MANIFESTS. */
const CLASSES: Readonly<Record<string, readonly string[]>> = {
  [PROVIDER]: ["configure"],
  "android.accessibilityservice": ["settingsActivity"],
  "android.service.wallpaper": ["settingsActivity"],
  "android.service.dream": ["settingsActivity"],
  "android.view.im": ["settingsActivity"],
};

/**
 * Widgets of the home screen that are not offered, and what the files that components name say of classes and resources which are not there. Source:
 * developer.android.com, "Create a simple widget" (declare the widget in the manifest, AppWidgetProviderInfo).
 */
export function widgetFaults(
  project: ProjectFiles,
  app: App,
  roots: readonly XmlElement[],
  sources: readonly SourceFile[],
  resources: Resources,
): ComponentFault[] {
  return roots.flatMap((root) =>
    ["receiver", "service", "activity"].flatMap((tag) =>
      descendants(root, tag).flatMap((component): ComponentFault[] => {
        const data = children(component, "meta-data");
        const name = valueOf(component, "name") ?? "";
        return [
          ...(tag === "receiver" ? lackOfWidget(component, name, data, sources) : []),
          ...data.flatMap((element) => namedFile(project, app, root, element, roots, resources)),
        ];
      }),
    ),
  );
}

function lackOfWidget(receiver: XmlElement, name: string, data: readonly XmlElement[], sources: readonly SourceFile[]): ComponentFault[] {
  const fault = (what: ComponentFault["what"]): ComponentFault[] => [faultAt(receiver, "name", { what, name, near: undefined })];
  const actions = descendants(receiver, "action").flatMap((action) => valueOf(action, "name") ?? []);
  const isProvider = data.some((element) => valueOf(element, "name") === PROVIDER);
  // A name that is almost right is told as such.
  if (isProvider) return actions.some((action) => action.includes("APPWIDGET")) ? [] : fault("widget without action");
  if (!actions.includes(UPDATE) || data.some((element) => /appwidget/i.test(valueOf(element, "name") ?? ""))) return [];
  const simple = name.slice(name.lastIndexOf(".") + 1);
  // One that only hears of it is no widget.
  const isWidget = sources.some(
    ({ side, text }) =>
      side === "android" &&
      text.includes(simple) &&
      new RegExp(`\\bclass\\s+${simple}\\b[^{;]*\\b(?:AppWidgetProvider|GlanceAppWidgetReceiver)\\b`).test(withoutComments(text)),
  );
  return isWidget ? fault("widget without provider") : [];
}

/** The file of resources that an element of meta-data names. */
function namedFile(
  project: ProjectFiles,
  app: App,
  root: XmlElement,
  element: XmlElement,
  roots: readonly XmlElement[],
  resources: Resources,
): ComponentFault[] {
  const resource = /^@xml\/(\w+)$/.exec(valueOf(element, "resource") ?? "")?.[1];
  const module = app.android?.modules.find(({ folder }) => isWithin(root.source.file, folder));
  const file = resource !== undefined && module ? xmlResource(project, module, resource) : undefined;
  const list = file === undefined ? undefined : project.xml(file)?.root;
  if (!list) return [];
  const declared = declaredNames(project, app, roots);
  const classes = (CLASSES[valueOf(element, "name") ?? ""] ?? []).flatMap((attribute): ComponentFault[] => {
    const name = valueOf(list, attribute);
    // Classes of libraries are in the libraries' manifests.
    return name === undefined || !isOfTheApp(app, name) || declared.has(name.split(/[.$]/).at(-1) ?? name)
      ? []
      : [faultAt(list, attribute, { what: "undeclared", name, near: undefined })];
  });
  const shortcuts = valueOf(element, "name") === "android.app.shortcuts" ? shortcutFaults(app, list, declared) : [];
  return [...classes, ...shortcuts, ...resources.missing(list, true)];
}
