import { distance } from "fastest-levenshtein";
import { DESCRIBED_ACTIONS, SYSTEM_BASES, type SystemBase } from "../../knowledge/component-permissions.js";
import type { ComponentFault } from "../../model/code.js";
import { children, descendants, type XmlElement } from "../../syntax/xml.js";
import { faultAt, valueOf } from "./manifest-element.js";
import type { SourceFile } from "./sources.js";

/** A class of the app's own: what stands behind its name, and where. */
interface OwnClass {
  header: string;
  source: Pick<SourceFile, "text">;
}

const simpleName = (element: XmlElement): string => valueOf(element, "name")?.split(".").at(-1) ?? "";

/**
 * Components that the system starts by an action, and whose elements lack it, the description that goes with it, or the permission that keeps others out:
 * by what their class is an heir of, or by the action that they have.
 */
export function systemFaults(classesNamed: (name: string) => readonly OwnClass[], roots: readonly XmlElement[]): ComponentFault[] {
  return ["service", "receiver", "provider", "activity"].flatMap((tag) => {
    const all = roots.flatMap((root) => descendants(root, tag));
    const byName = new Map<string, XmlElement[]>();
    for (const one of all) {
      const name = simpleName(one);
      const known = byName.get(name);
      if (known) known.push(one);
      // Providers of queries have none.
      else if (name !== "") byName.set(name, [one]);
    }
    // What two manifests say of one component is merged.
    return [...byName].flatMap(([simple, same]): ComponentFault[] => {
      const [element] = same;
      if (!element || same.some((one) => /^remove/.test(one.attributes.get("tools:node")?.value ?? ""))) return [];
      const actions = same.flatMap((one) => descendants(one, "action").flatMap((action) => valueOf(action, "name") ?? []));
      const [type, another] = tag === "activity" ? [] : classesNamed(simple);
      const base = type && !another ? baseOf(type) : undefined;
      return [...(base ? baseFaults(base, same, actions) : []), ...undescribed(base, element, same, actions)];
    });
  });
}

function baseFaults({ actions: wanted, asks }: SystemBase, same: readonly XmlElement[], actions: readonly string[]): ComponentFault[] {
  const [element] = same;
  if (!element) return [];
  const name = valueOf(element, "name") ?? "";
  const near = wanted[0];
  const states = (attribute: string, value: string): boolean => same.some((one) => valueOf(one, attribute) === value);
  // A name that is almost right is told as such.
  if (near !== undefined && actions.length === 0) return [faultAt(element, "name", { what: "service without action", name, near })];
  if (element.name === "provider") {
    const lacks =
      asks !== undefined && !states("permission", asks)
        ? asks
        : !states("exported", "true")
          ? "exported"
          : states("grantUriPermissions", "true")
            ? undefined
            : "grantUriPermissions";
    return lacks === undefined ? [] : [faultAt(element, "name", { what: "documents", name, near: lacks })];
  }
  const isKept = same.some((one) => one.attributes.has("android:permission"));
  return asks === undefined || isKept ? [] : [faultAt(element, "name", { what: "action permission", name: `${name} `, near: asks })];
}

/** The action of a component that has nothing but the description which goes with it. */
function actionOf(same: readonly XmlElement[]): string | undefined {
  const data = new Set(same.flatMap((one) => children(one, "meta-data").flatMap((element) => valueOf(element, "name") ?? [])));
  return Object.entries(DESCRIBED_ACTIONS).find(([, name]) => data.has(name))?.[0];
}

/** What a component is for is said in a file of its own, which meta-data name. */
function undescribed(
  base: SystemBase | undefined,
  element: XmlElement,
  same: readonly XmlElement[],
  actions: readonly string[],
): ComponentFault[] {
  const ofBase = base && actions.some((action) => base.actions.includes(action)) ? base.data : undefined;
  const reverse = actions.length === 0 ? actionOf(same) : undefined;
  if (!base && reverse !== undefined)
    return [faultAt(element, "name", { what: "service without action", name: valueOf(element, "name") ?? "", near: reverse })];
  const wanted = ofBase ?? actions.flatMap((action) => (Object.hasOwn(DESCRIBED_ACTIONS, action) ? DESCRIBED_ACTIONS[action] : []))[0];
  // A name that is almost right is told as such.
  const isDescribed = same.some((one) =>
    children(one, "meta-data").some((data) => distance(valueOf(data, "name") ?? "", wanted ?? "") <= 2),
  );
  return wanted === undefined || isDescribed
    ? []
    : [
        faultAt(element, "name", {
          what: "service without description",
          name: valueOf(element, "name") ?? "",
          near: wanted,
          // An activity has other ways in.
          ...(element.name === "activity" ? { unsure: true } : {}),
        }),
      ];
}

/** What the class is an heir of, where its file imports that from the platform. */
function baseOf({ header, source }: OwnClass): SystemBase | undefined {
  const above = /^[^{]*?(?:\bextends\s+|:\s*)(?:[\w.]+\.)?(\w+)/.exec(header.replace(/^\s*(?:<[^>]*>)?\s*(?:\([^)]*\))?/, ""))?.[1];
  const base = above === undefined || !Object.hasOwn(SYSTEM_BASES, above) ? undefined : SYSTEM_BASES[above];
  return base && above !== undefined && source.text.includes(`${base.from}.${above}`) ? base : undefined;
}
