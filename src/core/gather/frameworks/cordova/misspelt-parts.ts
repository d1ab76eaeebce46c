import { APPLE_MODULES } from "../../../knowledge/apple-frameworks.js";
import { MANIFEST_ATTRIBUTES, PROPERTY_LIST_KEYS } from "../../../knowledge/known-names.js";
import { MANIFEST_ELEMENTS } from "../../../knowledge/manifest-elements.js";
import type { SideName } from "../../../model/facts.js";
import { baseName } from "../../../model/paths.js";
import { misspelling } from "../../../model/suggest.js";
import { allElements, children, descendants, type XmlElement } from "../../../syntax/xml.js";
import { noteMisspeltAttributes } from "../../misspelt-names.js";
import { insertionPoint } from "../../packages/cordova-plugin.js";
import type { FactSink } from "../../sink.js";

const MANIFEST = "AndroidManifest.xml";

/** Words that an attribute can have. Sources: cordova.apache.org, "Plugin.xml" and "Config.xml" (edit-config, framework, engine), "Icons". */
const WORDS: readonly (readonly [element: string, attribute: string, words: readonly string[]])[] = [
  ["edit-config", "mode", ["merge", "overwrite", "remove"]],
  ["framework", "type", ["podspec", "projectReference", "gradleReference"]],
  ["engine", "name", ["cordova", "cordova-android", "cordova-ios", "cordova-electron", "cordova-browser", "cordova-plugman"]],
  ["icon", "density", ["ldpi", "mdpi", "hdpi", "xhdpi", "xxhdpi", "xxxhdpi"]],
];

/**
 * What a configuration or a plugin's description writes into the files of the platforms, and the words of attributes: names that are almost right.
 * Source: cordova.apache.org, "Plugin.xml" (config-file, edit-config).
 */
export function noteMisspeltParts(app: FactSink, root: XmlElement): void {
  for (const owner of [root, ...children(root, "platform")]) {
    const name = owner === root ? undefined : owner.attributes.get("name")?.value;
    if (name !== undefined && name !== "android" && name !== "ios") continue;
    const side = name ?? "shared";
    for (const element of [owner, ...owner.children]) {
      if (element === owner || element.name !== "platform") noteWords(app, element, side);
      if (element.name === "config-file" || element.name === "edit-config") noteManifest(app, element);
      if (element.name === "framework" && name === "ios") noteFramework(app, element);
    }
    for (const engines of children(owner, "engines")) for (const engine of engines.children) noteWords(app, engine, side);
  }
}

function noteWords(app: FactSink, element: XmlElement, side: SideName): void {
  for (const [of, attribute, words] of WORDS) {
    const written = of === element.name ? element.attributes.get(attribute) : undefined;
    const right = written && misspelling(written.value, words);
    if (written && right !== undefined)
      app.misspelling({ what: attribute, name: written.value, right, side, at: element.source.place(written.start) });
  }
}

function noteFramework(app: FactSink, { attributes, source }: XmlElement): void {
  const src = attributes.get("src");
  const name = /^(\w+)\.framework$/.exec(src?.value ?? "")?.[1];
  if (!src || name === undefined || attributes.get("custom")?.value === "true") return;
  const right = misspelling(name, APPLE_MODULES);
  if (right !== undefined) app.misspelling({ what: "framework", name, right, side: "ios", at: source.place(src.start) });
}

/** Keys below one of a property list. */
function noteKeys(app: FactSink, element: XmlElement, parent: string): void {
  const known = PROPERTY_LIST_KEYS.get(`${parent}.[]`) ?? PROPERTY_LIST_KEYS.get(parent);
  for (const { text, source, textStart } of known ? descendants(element, "key") : []) {
    const right = misspelling(text.trim(), known ?? []);
    if (right !== undefined)
      app.misspelling({ what: "key", name: text.trim(), right, side: "ios", at: source.place(Math.max(0, textStart)) });
  }
}

/** What goes into the manifest: the name of its file, the way to the place, and the elements. */
function noteManifest(app: FactSink, element: XmlElement): void {
  const { target, parent } = insertionPoint(element);
  const [inFile, inParent] = element.name === "edit-config" ? ["file", "target"] : ["target", "parent"];
  const at = (attribute: string) => element.source.place(element.attributes.get(attribute)?.start ?? element.start);
  const file = baseName(target);
  const right = file === MANIFEST ? undefined : misspelling(file, [MANIFEST]);
  if (right !== undefined) app.misspelling({ what: "file", name: file, right, side: "android", at: at(inFile) });
  if (file !== MANIFEST) return noteKeys(app, element, parent);
  for (const [, word = ""] of parent.matchAll(/\/([a-z][\w-]*)(?=[/[]|$)/g)) {
    const meant = misspelling(word, MANIFEST_ELEMENTS);
    if (meant !== undefined) app.misspelling({ what: "element", name: word, right: meant, side: "android", at: at(inParent) });
  }
  for (const child of element.children) {
    for (const { name, source, start } of allElements(child)) {
      const meant = misspelling(name, MANIFEST_ELEMENTS);
      if (meant !== undefined) app.misspelling({ what: "element", name, right: meant, side: "android", at: source.place(start + 1) });
    }
    noteMisspeltAttributes(app, child, "android", MANIFEST_ATTRIBUTES, "android");
  }
}
