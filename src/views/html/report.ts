import { createHash } from "node:crypto";
import type { Report } from "../../core/project/check.js";
import { levelTable } from "../../core/derive/level-table.js";
import { sidesOf, type App } from "../../core/model/app.js";
import type { SideName } from "../../core/model/facts.js";
import type { Finding } from "../../core/model/finding.js";
import type { SideStartup } from "../../core/project/startup.js";
import type { Trace } from "../../core/needs/index.js";
import { WIRE_STATES, type WireState } from "../../core/needs/wire.js";
import { KIND_TITLES } from "../../core/model/app.js";
import { placeText, SIDE_TITLES } from "../text/check.js";
import { plural, SEVERITY_MARKS } from "../text/style.js";
import { STATE_MARKS } from "../text/trace.js";
import { levelBars, startDiagram } from "./drawings.js";
import { markup, Markup } from "./markup.js";
import { SCRIPT, STYLE } from "./style.js";

/** What the page shows beside the findings. */
export interface ReportAnswers {
  tracesOf: (app: App) => readonly Trace[];
  startupOf: (app: App) => readonly SideStartup[];
}

/** One self-contained page: nothing is loaded, and nothing but its own style and script may run in it. */
export function reportPage(report: Report, { tracesOf, startupOf }: ReportAnswers): string {
  const { survey, summary, findings, accepted, blindSpots } = report;
  const policy = `default-src 'none'; style-src '${hash(STYLE)}'; script-src '${hash(SCRIPT)}'; base-uri 'none'; form-action 'none'`;
  const page = markup`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta http-equiv="Content-Security-Policy" content="${new Markup(policy)}" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>Enredo: how the SDKs are wired</title>
        ${new Markup(`<style>${STYLE}</style>`)}
      </head>
      <body>
        <a class="skip" href="#findings">To the findings</a>
        <header>
          <h1>How the SDKs are wired</h1>
          <p class="dim">${survey.root}</p>
          <p>
            <strong class="error">✗ ${plural(summary.errors, "error")}</strong>,
            <strong class="warning">! ${plural(summary.warnings, "warning")}</strong>, ${plural(summary.notes, "note")} in
            ${plural(survey.apps.length, "app")}, ${plural(summary.sdks, "SDK")}
          </p>
          <nav aria-label="Parts of this page">
            <ul>
              <li><a href="#apps">Apps</a></li>
              <li><a href="#sdks">SDKs</a></li>
              <li><a href="#levels">Levels</a></li>
              <li><a href="#start">Start order</a></li>
              <li><a href="#findings">Findings</a></li>
              <li><a href="#unseen">What could not be seen</a></li>
            </ul>
          </nav>
        </header>
        <main>
          <section aria-labelledby="apps">
            <h2 id="apps">Apps</h2>
            ${appTable(report)}
          </section>
          <section aria-labelledby="sdks">
            <h2 id="sdks">SDKs on each side</h2>
            <p class="dim">
              Wires of each SDK by state: ${WIRE_STATES.map((state) => `${STATE_MARKS[state].sign} ${STATE_MARKS[state].word}`).join(", ")}.
            </p>
            ${survey.apps.map((app) => matrix(app, tracesOf(app)))}
          </section>
          <section aria-labelledby="levels">
            <h2 id="levels">Levels</h2>
            <p class="dim">The bar is what the app has; each red line is what somebody asks for.</p>
            ${survey.apps.map((app) => levels(app))}
          </section>
          <section aria-labelledby="start">
            <h2 id="start">Start order</h2>
            ${survey.apps.map((app, index) => startOrder(startupOf(app), app, index))}
          </section>
          <section aria-labelledby="findings">
            <h2 id="findings">Findings</h2>
            ${filterForm(findings)} ${survey.apps.map(({ name }) => findingGroup(name, name, findings))}
            ${findingGroup("", "This folder", findings)}
            ${findings.length === 0 ? markup`<p class="good">✓ Nothing to report.</p>` : undefined}
            ${
              accepted.length > 0
                ? markup`<details>
                    <summary>${plural(accepted.length, "accepted finding")}</summary>
                    ${accepted.map((finding) => markup`<p><code>${finding.rule}</code> ${finding.message}: <em>${finding.accepted?.reason}</em></p>`)}
                  </details>`
                : undefined
            }
          </section>
          <section aria-labelledby="unseen">
            <h2 id="unseen">What could not be seen</h2>
            ${
              blindSpots.length === 0
                ? markup`<p>No blind spot: every value that was looked for could be read. What the files cannot hold (settings in a console, what runs on a server) is not looked at.</p>`
                : markup`<ul>
                    ${blindSpots.map((spot) => markup`<li>${spot.app}, ${SIDE_TITLES[spot.side]}: ${spot.what}: ${spot.why}</li>`)}
                  </ul>`
            }
          </section>
        </main>
        <footer>Made by Enredo from the files alone: ${plural(summary.files, "file")} read.</footer>
        ${new Markup(`<script>${SCRIPT}</script>`)}
      </body>
    </html> `;
  return page.text;
}

function hash(text: string): string {
  return `sha256-${createHash("sha256").update(text).digest("base64")}`;
}

function appTable({ survey, findings }: Report): Markup {
  const count = (app: string, severity: Finding["severity"]): number =>
    findings.filter((finding) => finding.app === app && finding.severity === severity).length;
  const sides = (app: App): string =>
    sidesOf(app)
      .filter((side) => side !== "shared")
      .map((side) => SIDE_TITLES[side])
      .join(" and ");
  return markup`<div class="scroll" tabindex="0" role="group" aria-label="Apps">
    <table>
      <thead>
        <tr>
          <th scope="col">App</th>
          <th scope="col">Kind</th>
          <th scope="col">Sides</th>
          <th scope="col">Folder</th>
          <th scope="col">Errors</th>
          <th scope="col">Warnings</th>
          <th scope="col">Notes</th>
        </tr>
      </thead>
      <tbody>
        ${survey.apps.map(
          (app) =>
            markup`<tr>
              <th scope="row">${app.name}</th>
              <td>${KIND_TITLES[app.kind]}</td>
              <td>${sides(app)}</td>
              <td><code>${app.path || "."}</code></td>
              <td class="number">${count(app.name, "error")}</td>
              <td class="number">${count(app.name, "warning")}</td>
              <td class="number">${count(app.name, "note")}</td>
            </tr>`,
        )}
      </tbody>
    </table>
  </div>`;
}

/** An SDK a row, a side a column: its version and how many of its wires are in which state. */
function matrix(app: App, traces: readonly Trace[]): Markup {
  const sides = sidesOf(app);
  const rows = traces.map((trace) => ({ sdk: trace.sdk, trace }));
  if (rows.length === 0)
    return markup`<h3>${app.name}</h3>
      <p>No third-party SDK found.</p>`;
  const cell = (side: SideName, row: (typeof rows)[number]): Markup => {
    const found = row.trace.sides.find((entry) => entry.side === side);
    if (!found) return markup`<td class="dim">–</td>`;
    const states = (["missing", "loose", "connected", "unknown", "unneeded"] as WireState[])
      .map((state) => ({ state, number: found.wires.filter((wire) => wire.state === state).length }))
      .filter(({ number }) => number > 0);
    return markup`<td>
      ${found.version ?? "version not known"}<br /><span class="counts"
        >${states.map(({ state, number }) => markup`<span class="${state === "missing" ? "error" : state === "loose" ? "warning" : state === "connected" ? "good" : "dim"}" title="${STATE_MARKS[state].word}">${STATE_MARKS[state].sign} ${number} ${STATE_MARKS[state].word}</span> `)}</span
      >
    </td>`;
  };
  return markup`<h3>${app.name}</h3>
    <div class="scroll" tabindex="0" role="group" aria-label="SDKs of ${app.name}">
      <table>
        <thead>
          <tr>
            <th scope="col">SDK</th>
            ${sides.map((side) => markup`<th scope="col">${SIDE_TITLES[side]}</th>`)}
          </tr>
        </thead>
        <tbody>
          ${rows.map(
            (row) =>
              markup`<tr>
                <th scope="row">${row.sdk}</th>
                ${sides.map((side) => cell(side, row))}
              </tr>`,
          )}
        </tbody>
      </table>
    </div>`;
}

function levels(app: App): Markup | undefined {
  const bars = levelBars(levelTable(app), `Levels of ${app.name}`);
  return (
    bars &&
    markup`<h3>${app.name}</h3>
      ${bars}`
  );
}

function startOrder(sides: readonly SideStartup[], app: App, index: number): Markup | undefined {
  const drawn = sides.flatMap(({ side, steps, others }) => {
    const diagram = startDiagram(steps, `Start order of ${app.name} on ${SIDE_TITLES[side]}`, `${index}-${side}`);
    const never = others.filter(({ marks }) => marks.some(({ kind }) => kind === "never"));
    return diagram || never.length > 0
      ? [
          markup`<p>${SIDE_TITLES[side]}</p>
            ${diagram}${never.map((step) => markup`<p class="error">✗ ${step.sdk}: ${step.marks.map(({ text }) => text).join("; ")}</p>`)}`,
        ]
      : [];
  });
  return drawn.length === 0
    ? undefined
    : markup`<h3>${app.name}</h3>
        ${drawn}`;
}

function filterForm(findings: readonly Finding[]): Markup {
  const options = (of: (finding: Finding) => string | undefined): string[] =>
    [...new Set(findings.flatMap((finding) => of(finding) ?? []))].sort();
  const select = (name: string, label: string, values: string[], title: (value: string) => string): Markup =>
    markup`<label
      >${label}<select name="${name}">
        <option value="">all</option>
        ${values.map((value) => markup`<option value="${value}">${title(value)}</option>`)}
      </select></label
    >`;
  return markup`<form id="filter" aria-label="Filter the findings">
    ${select(
      "app",
      "App",
      options(({ app }) => app || undefined),
      (value) => value,
    )}${select(
      "side",
      "Side",
      options(({ side }) => side),
      (value) => SIDE_TITLES[value as SideName],
    )}${select(
      "sdk",
      "SDK",
      options(({ sdk }) => sdk),
      (value) => value,
    )}${select("severity", "Severity", ["error", "warning", "note"], (value) => value)}<button type="reset">Show all</button
    ><span id="count" role="status" aria-live="polite"></span>
  </form>`;
}

function findingGroup(app: string, title: string, findings: readonly Finding[]): Markup | undefined {
  const own = findings.filter((finding) => finding.app === app);
  if (own.length === 0) return undefined;
  return markup`<section data-group aria-label="${title}">
    <h3>${title}</h3>
    ${own.map((finding) => article(finding))}
  </section>`;
}

function article(finding: Finding): Markup {
  const { sign, word } = SEVERITY_MARKS[finding.severity];
  const side = finding.side === undefined ? "both sides" : SIDE_TITLES[finding.side];
  return markup`<article
    class="is-${finding.severity}"
    data-app="${finding.app}"
    data-side="${finding.side}"
    data-sdk="${finding.sdk}"
    data-severity="${finding.severity}"
  >
    <h4><span class="${finding.severity}">${sign} ${word}</span> <span class="dim">${side}</span> ${finding.message}</h4>
    <p>→ ${finding.fix}</p>
    <ul>
      ${finding.places.map((place) => markup`<li><code>${placeText(place)}</code></li>`)}
    </ul>
    <p class="dim"><code>${finding.rule}</code></p>
  </article>`;
}
