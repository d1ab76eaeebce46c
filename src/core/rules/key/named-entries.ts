import type { App } from "../../model/app.js";
import type { Entry, EntryKind } from "../../model/facts.js";
import { KEY_KINDS } from "../../needs/keys.js";

/** A name that says that its value is a key, an id or a secret. */
const KEY_NAME =
  /(api|app|application|client|license|licence|project|sdk|map|access|auth|write|public|private|secret)[\s_.-]?(key|id|token|secret)$|(^|[_.-]|[a-z])([Kk]ey|KEY|[Tt]oken|TOKEN|[Ss]ecret|SECRET)$/;

export function isKeyName(name: string): boolean {
  return KEY_NAME.test(name) || /(api|app|client|access|auth|license)[\s_.-]?(key|id|token|secret)$/i.test(name);
}

/** Entries of the app itself in which a key may stand. */
export function keyEntriesOf(app: App): Entry[] {
  return app.entries.filter(({ kind, by }) => KEY_KINDS.has(kind) && by === undefined);
}

/** Where an entry stands, in words. */
export function entryTitle({ kind, name }: Entry): string {
  const titles: Partial<Record<EntryKind, string>> = {
    metaData: "the meta-data",
    placeholder: "the manifest placeholder",
    string: "the string resource",
    buildConfig: "the build config field",
    plist: "the property-list entry",
    buildSetting: "the build setting",
    env: "the variable",
    variable: "the variable of the plugin",
    code: "the value in the code",
  };
  return name === "" ? "a value in the code" : `${titles[kind] ?? kind} ${name}`;
}
