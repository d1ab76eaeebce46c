import type { SideName } from "../../core/model/facts.js";
import type { Place } from "../../core/model/place.js";
import { clean } from "./style.js";

/** What people call each side. */
export const SIDE_TITLES: Record<SideName, string> = { android: "Android", ios: "iOS", shared: "Shared code" };

/** A place as `file:line:column`. */
export function placeText(place: Place): string {
  return clean(`${place.file}:${place.line}:${place.column}`);
}
