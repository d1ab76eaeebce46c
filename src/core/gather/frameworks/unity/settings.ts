import { BACKGROUND_BITS, CUSTOM_BACKGROUND, NETWORK_PERMISSIONS, PERMISSIONS_BY_USE, USAGE_TEXTS } from "../../../knowledge/unity.js";
import { join } from "../../../model/paths.js";
import { reason } from "../../../model/reason.js";
import { unknown, type Value } from "../../../model/value.js";
import {
  at,
  entriesOf,
  itemsOf,
  listOf,
  mapOf,
  placeOf,
  scalarOf,
  textAt,
  valueAt,
  type Data,
  type MapData,
} from "../../../syntax/data.js";
import type { Discovery } from "../framework.js";
import type { FactSink } from "../../sink.js";
import { foldersIn, isEditorFolder, type UnityProject } from "./project.js";
import type { Source } from "../../../syntax/source.js";

/** A level of the player settings; 0 leaves it to the editor. */
export function levelOf(settings: Data, key: string): Value | undefined {
  const value = valueAt(settings, key);
  return value?.kind === "known" && (value.text === "0" || value.text === "") ? undefined : value;
}

/**
 * The id of a side: the player settings' own, or the one that the editor makes of company and product, which is told only where both are plain
 * words. Source: docs.unity3d.com, "Player settings" (Override Default Package Name, Override Default Bundle Identifier).
 */
export function idOf(settings: Data, side: "android" | "ios"): Value | undefined {
  const ids = at(settings, "applicationIdentifier");
  const stated = (side === "android" ? ["Android"] : ["iPhone", "iOS"]).map((name) => valueAt(ids, name)).find((value) => value);
  if (stated) return stated;
  const [company, product] = [valueAt(settings, "companyName"), valueAt(settings, "productName")];
  if (company?.kind !== "known" || product?.kind !== "known") return undefined;
  if (!/^[A-Za-z][A-Za-z0-9]*$/.test(company.text) || !/^[A-Za-z][A-Za-z0-9]*$/.test(product.text))
    return unknown(reason("editor-makes-id"), product.place);
  return { kind: "known", text: `com.${company.text}.${product.text}`, place: product.place };
}

/** What the player settings write into the property list. Source: docs.unity3d.com, "iOS Player settings". */
export function listOfSettings({ settings }: UnityProject): MapData {
  const list = mapOf(settings.source, settings.start);
  const put = (key: string, value: Data, start = value.start): void => void list.entries.set(key, { start, value });
  for (const [setting, key] of USAGE_TEXTS) {
    const text = at(settings, setting);
    // The editor writes no entry for an empty text.
    if (text?.kind === "scalar" && text.value !== null && String(text.value).trim() !== "") put(key, text);
  }
  const schemes = itemsOf(at(settings, "iOSURLSchemes"));
  const [first] = schemes;
  if (first) {
    const type = mapOf(first.source, first.start);
    type.entries.set("CFBundleURLSchemes", { start: first.start, value: listOf(first.source, first.start, [...schemes]) });
    put("CFBundleURLTypes", listOf(first.source, first.start, [type]));
  }
  const bits = at(settings, "iOSBackgroundModes");
  const number = Number(textAt(bits) ?? "0");
  if (bits && number > 0 && textAt(settings, "iosAppInBackgroundBehavior") === CUSTOM_BACKGROUND)
    put(
      "UIBackgroundModes",
      listOf(
        bits.source,
        bits.start,
        BACKGROUND_BITS.flatMap((mode, bit) => ((number >> bit) & 1 ? scalarOf(bits.source, bits.start, mode) : [])),
      ),
    );
  return list;
}

/** Permissions that the editor adds by itself: by a setting, or since scripts use what needs them. */
export function readPermissions(discovery: Discovery, unity: UnityProject, app: FactSink): void {
  if (!app.android) return;
  const { project } = discovery;
  const force = at(unity.settings, "ForceInternetPermission");
  const forced = textAt(force) === "1";
  if (force && forced)
    for (const name of NETWORK_PERMISSIONS) app.entry({ kind: "permission", side: "android", name, value: undefined, at: placeOf(force) });
  const told = new Set<string>();
  let binary = false;
  for (const root of unity.roots)
    for (const [folder, { files }] of foldersIn(discovery, root)) {
      if (isEditorFolder(folder)) continue;
      for (const name of files) {
        if (name.endsWith(".dll")) binary = true;
        const source = name.endsWith(".cs") ? project.text(join(folder, name)) : undefined;
        if (!source) continue;
        notePermissions(app, told, source);
      }
    }
  // Whether anything uses the network, or what compiled code of the project uses, the files do not tell.
  for (const name of forced ? [] : NETWORK_PERMISSIONS) app.permissionByEditor(name);
  for (const name of binary ? PERMISSIONS_BY_USE.flatMap(({ permissions }) => permissions) : [])
    if (!told.has(name)) app.permissionByEditor(name);
}

/** Permissions that the editor adds for what a script uses. */
function notePermissions(app: FactSink, told: Set<string>, source: Source): void {
  for (const { uses, permissions } of PERMISSIONS_BY_USE) {
    const found = permissions.some((permission) => !told.has(permission)) ? uses.exec(source.text) : null;
    if (!found) continue;
    for (const permission of permissions) {
      told.add(permission);
      app.entry({
        kind: "permission",
        side: "android",
        name: permission,
        value: undefined,
        at: source.place(found.index),
        by: "the editor",
      });
    }
  }
}

/** Whether release builds shrink their code, and the file with the project's own rules. Source: docs.unity3d.com, "Android Player settings" (Minify). */
export function minifies({ settings }: UnityProject): Value | undefined {
  return valueAt(settings, "AndroidMinifyRelease");
}

/** Names of the settings that switch a custom file on, which older editors do not have. */
export function switchedOff({ settings }: Pick<UnityProject, "settings">, name: string): boolean {
  return entriesOf(settings).some(([key, { value }]) => key === name && textAt(value) === "0");
}
