import type { Place } from "../../core/model/place.js";
import { placeText } from "../text/labels.js";
import { clean } from "../text/style.js";

/** Markup that may go into a page as it is. */
export class Markup {
  constructor(readonly text: string) {}
}

type Part = Markup | string | number | undefined | false | readonly Part[];

/** Builds markup; every text that is put in is escaped, so that nothing of a project becomes markup. */
export function markup(strings: TemplateStringsArray, ...parts: Part[]): Markup {
  return new Markup(strings.reduce((text, piece, index) => text + piece + (index < parts.length ? shown(parts[index]) : ""), ""));
}

function shown(part: Part): string {
  if (part === undefined || part === false) return "";
  if (part instanceof Markup) return part.text;
  if (Array.isArray(part)) return (part as readonly Part[]).map(shown).join("");
  return escaped(String(part as string | number));
}

function escaped(text: string): string {
  return clean(text).replace(/[&<>"']/g, (char) => `&#${char.charCodeAt(0)};`);
}

/** A place in a file; where it is broken over lines, after a folder. */
export function placeMarkup(place: Place): Markup {
  return markup`<code>${placeText(place)
    .split("/")
    .map((part, index) => (index === 0 ? part : markup`/<wbr />${part}`))}</code>`;
}
