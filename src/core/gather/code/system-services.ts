import { SERVICE_BASES } from "../../knowledge/component-permissions.js";
import type { ComponentFault } from "../../model/code.js";
import { children, descendants, type XmlElement } from "../../syntax/xml.js";
import { faultAt, valueOf } from "./manifest-element.js";
import type { SourceFile } from "./sources.js";

/** A class of the app's own: what stands behind its name, and where. */
interface OwnClass {
  header: string;
  source: Pick<SourceFile, "text">;
}

/** Services of the app's own that the system starts by an action, and whose elements lack it or the description that goes with it. */
export function serviceFaults(classesNamed: (name: string) => readonly OwnClass[], roots: readonly XmlElement[]): ComponentFault[] {
  const services = roots.flatMap((root) => descendants(root, "service"));
  const simpleName = (service: XmlElement): string => valueOf(service, "name")?.split(".").at(-1) ?? "";
  return services.flatMap((service): ComponentFault[] => {
    const name = valueOf(service, "name") ?? "";
    // What two manifests say of one service is merged.
    const same = services.filter((other) => simpleName(other) === simpleName(service));
    const [type, another] = same[0] === service ? classesNamed(simpleName(service)) : [];
    const base = type && !another ? baseOf(type) : undefined;
    if (!type || !base || /^remove/.test(service.attributes.get("tools:node")?.value ?? "")) return [];
    const actions = same.flatMap((one) => descendants(one, "action").flatMap((action) => valueOf(action, "name") ?? []));
    // A name that is almost right is told as such.
    if (!actions.some((action) => base.actions.includes(action))) {
      const [wanted = ""] = base.actions;
      return actions.length > 0 ? [] : [faultAt(service, "name", { what: "service without action", name, near: wanted })];
    }
    const isDescribed = same.some((one) => children(one, "meta-data").some((data) => valueOf(data, "name") === base.data));
    return base.data === undefined || isDescribed
      ? []
      : [faultAt(service, "name", { what: "service without description", name, near: base.data })];
  });
}

/** What the class is an heir of, where its file imports that from the platform. */
function baseOf({ header, source }: OwnClass): (typeof SERVICE_BASES)[string] | undefined {
  const above = /^[^{]*?(?:\bextends\s+|:\s*)(?:[\w.]+\.)?(\w+)/.exec(header.replace(/^\s*(?:<[^>]*>)?\s*(?:\([^)]*\))?/, ""))?.[1];
  const base = above === undefined || !Object.hasOwn(SERVICE_BASES, above) ? undefined : SERVICE_BASES[above];
  return base && above !== undefined && source.text.includes(`${base.from}.${above}`) ? base : undefined;
}
