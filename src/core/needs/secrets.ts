import type { App } from "../model/app.js";
import { textOf } from "../model/value.js";
import { looksLikeToken } from "../knowledge/key-shapes.js";
import { sheetsFor, type Sheet } from "../model/sheet.js";
import { KEY_KINDS, keyEntries } from "./keys.js";
import { mask } from "./mask.js";

/** Shorter values are no keys, and would be found in ordinary words. */
const SHORTEST = 8;

/** The values of an app that are keys or may be: by what a sheet says, by their form, or by the name that they stand under. */
export function secretsOf(app: App, sheets: readonly Sheet[]): Set<string> {
  const found = new Set<string>();
  const ids = new Set([app.android, app.ios].flatMap((side) => side?.ids.flatMap(({ value }) => textOf(value) ?? []) ?? []));
  const add = (text: string | undefined): void => {
    if (text !== undefined && text.length >= SHORTEST && !/\s|^\$[({]|^@/.test(text) && !ids.has(text)) found.add(text);
  };
  for (const sheet of sheetsFor(app, sheets))
    for (const need of sheet.needs)
      if (need.kind === "key")
        for (const side of ["android", "ios"] as const)
          for (const { value } of keyEntries(app, sheet, need, side).entries) add(textOf(value));
  for (const { kind, name, value } of app.entries) {
    const text = KEY_KINDS.has(kind) || kind === "code" ? textOf(value) : undefined;
    if (text !== undefined && (looksLikeToken(text) || /(key|token|secret|password|passwd)$/i.test(name))) add(text);
  }
  for (const { texts } of app.serviceFiles) for (const value of texts.values()) if (looksLikeToken(value.text)) add(value.text);
  return found;
}

/** A text with the secrets in it masked, the longest first. */
export function withoutSecrets(text: string, secrets: Iterable<string>): string {
  let shown = text;
  for (const secret of [...secrets].sort((a, b) => b.length - a.length))
    if (shown.includes(secret)) shown = shown.replaceAll(secret, mask(secret));
  return shown;
}

/** The same, and what merely has the form of a key masked too: for text that comes from a running app. */
export function withoutTokens(text: string, secrets: Iterable<string>): string {
  return withoutSecrets(text, secrets).replace(/[A-Za-z0-9][\w.-]{13,119}[\w]/g, (word) => (looksLikeToken(word) ? mask(word) : word));
}
