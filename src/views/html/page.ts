import { createHash } from "node:crypto";
import { markup, Markup } from "./markup.js";
import { SCRIPT } from "./script.js";
import { STYLE } from "./style.js";

/** A part of the page: a heading that can be linked to, and what stands below it. */
export interface Part {
  id: string;
  title: string;
  body: Markup | readonly Markup[];
  /** Parts of its own, for the list of contents. */
  inner?: { id: string; title: string }[];
}

/** One self-contained page: nothing is loaded, and nothing but its own style and script may run in it. */
export function pageOf({
  title,
  dim,
  head,
  parts,
  foot,
}: {
  title: string;
  dim: string;
  head: Markup;
  parts: readonly Part[];
  foot: string;
}): string {
  const policy = `default-src 'none'; style-src '${hash(STYLE)}'; script-src '${hash(SCRIPT)}'; base-uri 'none'; form-action 'none'`;
  return markup`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta http-equiv="Content-Security-Policy" content="${new Markup(policy)}" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>${title}</title>
        ${new Markup(`<style>${STYLE}</style>`)}
      </head>
      <body>
        <a class="skip" href="#${parts[0]?.id}">Skip to the content</a>
        <nav aria-label="Contents">
          <ul>
            ${parts.map(
              (part) =>
                markup`<li>
                  <a href="#${part.id}">${part.title}</a>${
                    part.inner && part.inner.length > 0
                      ? markup`<ul>
                          ${part.inner.map((one) => markup`<li><a href="#${one.id}">${one.title}</a></li>`)}
                        </ul>`
                      : undefined
                  }
                </li>`,
            )}
          </ul>
        </nav>
        <div class="page">
          <header>
            <h1>${title}</h1>
            <p class="dim path">${dim}</p>
            ${head}
          </header>
          <main>
            ${parts.map(
              ({ id, title: name, body }) =>
                markup`<section aria-labelledby="${id}">
                  <h2 id="${id}">${name}</h2>
                  ${body}
                </section>`,
            )}
          </main>
          <footer>${foot}</footer>
        </div>
        ${new Markup(`<script>${SCRIPT}</script>`)}
      </body>
    </html> `.text;
}

function hash(text: string): string {
  return `sha256-${createHash("sha256").update(text).digest("base64")}`;
}

/**
 * A table that scrolls by itself where it is wider than the page. One that `stacks` has its cells below each other on a narrow screen, each with
 * its `data-label`.
 */
export function tableOf(label: string, head: readonly (string | Markup)[], rows: readonly Markup[], stacks = false): Markup {
  return markup`<div class="${stacks ? "scroll stacks" : "scroll"}" tabindex="0" role="group" aria-label="${label}">
    <table>
      <thead>
        <tr>
          ${head.map((cell) => markup`<th scope="col">${cell}</th>`)}
        </tr>
      </thead>
      <tbody>
        ${rows}
      </tbody>
    </table>
  </div>`;
}
