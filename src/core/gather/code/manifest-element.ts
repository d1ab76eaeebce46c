import type { ComponentFault } from "../../model/code.js";
import type { XmlElement } from "../../syntax/xml.js";

/** An attribute of the platform's on an element of a manifest. */
export const valueOf = (element: XmlElement, name: string): string | undefined => element.attributes.get(`android:${name}`)?.value;

/** What is wrong with an element, at the attribute that says it, or at the element where there is none. */
export function faultAt(element: XmlElement, attribute: string, fault: Omit<ComponentFault, "side" | "element" | "at">): ComponentFault {
  const start = element.attributes.get(`android:${attribute}`)?.start ?? element.start;
  return { ...fault, side: "android", element: element.name, at: element.source.place(start) };
}
