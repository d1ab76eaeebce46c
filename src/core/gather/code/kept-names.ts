import type { Place } from "../../model/place.js";
import { nearest, slipOf } from "../../model/suggest.js";
import { allElements, type XmlElement } from "../../syntax/xml.js";

/** A name in a file that keeps code from being stripped, and that the app does not have. */
export interface KeptFault {
  what: "kept assembly" | "kept type";
  name: string;
  /** The assembly of a class. */
  of?: string;
  near?: string;
  at: Place;
}

/** What the file's names are held against. */
export interface OwnCode {
  assemblies: ReadonlySet<string>;
  /** Assemblies that are not the app's own, and are known all the same. */
  foreign: RegExp;
  /** Simple names of the app's own classes, with the namespaces that they are declared in. */
  types: ReadonlyMap<string, ReadonlySet<string>>;
}

/**
 * Assemblies and classes of a linker's description that the app does not have: what is meant may be stripped. Sources: docs.unity3d.com, "Managed code
 * stripping" (link.xml); learn.microsoft.com, "Trimming options" (TrimmerRootDescriptor).
 */
export function keptFaults(root: XmlElement, own: OwnCode): KeptFault[] {
  return allElements(root).flatMap((element) => (element.name === "assembly" ? inAssembly(element, own) : []));
}

function inAssembly(element: XmlElement, { assemblies, foreign, types }: OwnCode): KeptFault[] {
  const stated = element.attributes.get("fullname");
  if (!stated || element.attributes.get("ignoreIfMissing")?.value === "1") return [];
  const name = stated.value.split(",")[0]?.trim() ?? "";
  if (!assemblies.has(name)) {
    const near = foreign.test(name) || name.includes("*") ? undefined : slipOf(name, [...assemblies]);
    return near === undefined ? [] : [{ what: "kept assembly", name, near, at: element.source.place(stated.start) }];
  }
  return element.children.flatMap((child): KeptFault[] => {
    const type = child.name === "type" ? child.attributes.get("fullname") : undefined;
    const simple = type?.value.split(/[.+/]/).at(-1) ?? "";
    if (!type || !/^\w+$/.test(simple)) return [];
    const spaces = [...(types.get(simple) ?? [])];
    if (spaces.some((space) => space === "" || type.value.startsWith(`${space}.`))) return [];
    const near = spaces[0] === undefined ? nearest(simple, [...types.keys()]) : `${spaces[0]}.${simple}`;
    return [{ what: "kept type", name: type.value, of: name, ...(near === undefined ? {} : { near }), at: child.source.place(type.start) }];
  });
}
