import type { App } from "../../core/model/app.js";
import type { Finding } from "../../core/model/finding.js";

/** The ids of the parts of a page: made of names, so that an address keeps leading to the same thing when the page is made again. */
export class Anchors {
  private readonly ids = new Map<string, string>();
  private readonly taken = new Set<string>();

  app({ name, path }: Pick<App, "name" | "path">, part = ""): string {
    const app = this.of(`app\0${path}\0${name}`, `app-${name}`);
    return part === "" ? app : this.of(`${app}\0${part}`, `${app}-${part}`);
  }

  sdk(app: Pick<App, "name" | "path">, sdk: string): string {
    return this.app(app, `sdk-${sdk}`);
  }

  finding({ fingerprint, rule }: Finding, index: number): string {
    return this.of(`finding\0${index}`, `${rule.replace("/", "-")}-${fingerprint.slice(0, 8)}`);
  }

  /** Letters, digits and hyphens; a number where two things would have the same. */
  private of(key: string, words: string): string {
    const known = this.ids.get(key);
    if (known !== undefined) return known;
    const plain = words
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "")
      .slice(0, 80);
    let id = plain;
    for (let count = 2; this.taken.has(id); count++) id = `${plain}-${count}`;
    this.taken.add(id);
    this.ids.set(key, id);
    return id;
  }
}
