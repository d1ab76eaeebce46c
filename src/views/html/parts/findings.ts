import type { Finding } from "../../../core/model/finding.js";
import type { SideName } from "../../../core/model/facts.js";
import { SIDE_TITLES } from "../../text/labels.js";
import { plural, SEVERITY_MARKS } from "../../text/style.js";
import { markup, placeMarkup, type Markup } from "../markup.js";

/** A finding with the id that it has on the page, and a link to its SDK. */
export interface PlacedFinding {
  finding: Finding;
  id: string;
  sdkId: string | undefined;
}

/** A filter as the page's script and its address write it. */
export function filterOf(values: { app?: string; side?: string; sdk?: string; severity?: string }): string {
  return new URLSearchParams(values).toString();
}

/** So many findings are all open at first; of more, each app's are shown on request, and by a filter. */
const OPEN = 60;

/** The findings by app, with filters and a search. */
export function findingsPart(findings: readonly PlacedFinding[], accepted: readonly Finding[], apps: readonly string[]): Markup {
  const groups = [...apps.map((name) => ({ name, title: name })), { name: "", title: "This folder" }];
  return markup`${findings.length === 0 ? markup`<p class="good">✓ Nothing to report.</p>` : filterForm(findings.map(({ finding }) => finding))}
  ${groups.map(({ name, title }) =>
    group(
      findings.filter(({ finding }) => finding.app === name),
      title,
      findings.length <= OPEN,
    ),
  )}
  ${
    accepted.length > 0
      ? markup`<details>
          <summary>${plural(accepted.length, "finding")} accepted in the settings</summary>
          ${accepted.map((finding) => markup`<p><code>${finding.rule}</code> ${finding.message}: <em>${finding.accepted?.reason}</em></p>`)}
        </details>`
      : undefined
  }`;
}

function group(findings: readonly PlacedFinding[], title: string, isOpen: boolean): Markup | undefined {
  if (findings.length === 0) return undefined;
  const count = (severity: Finding["severity"]): number => findings.filter(({ finding }) => finding.severity === severity).length;
  const counts = [
    [count("error"), "error"],
    [count("warning"), "warning"],
    [count("note"), "note"],
  ] as const;
  return markup`<details data-group ${isOpen ? "open" : undefined}>
    <summary><h3>${title}</h3> <span class="counts">${counts.map(([number, word]) => (number > 0 ? markup`<span class="${word}">${SEVERITY_MARKS[word].sign} ${plural(number, word)}</span> ` : undefined))}</span></summary>
    ${findings.map(article)}
  </details>`;
}

function article({ finding, id, sdkId }: PlacedFinding): Markup {
  const { sign, word } = SEVERITY_MARKS[finding.severity];
  const side = finding.side === undefined ? "both sides" : SIDE_TITLES[finding.side];
  return markup`<article
    id="${id}"
    class="is-${finding.severity}"
    data-app="${finding.app}"
    data-side="${finding.side}"
    data-sdk="${finding.sdk}"
    data-severity="${finding.severity}"
  >
    <h4><span class="${finding.severity}">${sign} ${word}</span> <span class="dim">${side}</span> ${finding.message}</h4>
    <p>→ ${finding.fix}</p>
    <ul class="places">
      ${finding.places.map((place) => markup`<li>${placeMarkup(place)}</li>`)}
    </ul>
    <p class="dim">
      <code>${finding.rule}</code>${sdkId === undefined ? undefined : markup` · <a href="#${sdkId}">${finding.sdk}</a>`} · <a href="#${id}" aria-label="Link to this finding">link</a>
    </p>
  </article>`;
}

function filterForm(findings: readonly Finding[]): Markup {
  const options = (of: (finding: Finding) => string | undefined): string[] =>
    [...new Set(findings.flatMap((finding) => of(finding) ?? []))].sort();
  const select = (name: string, label: string, values: readonly string[], title: (value: string) => string): Markup | undefined =>
    values.length < 2
      ? undefined
      : markup`<label
          >${label}<select name="${name}">
            <option value="">all</option>
            ${values.map((value) => markup`<option value="${value}">${title(value)}</option>`)}
          </select></label
        >`;
  const same = (value: string): string => value;
  return markup`<form id="filter" aria-label="Filter the findings">
    <label>Search<input type="search" name="q" placeholder="words, files, rules" /></label>
    ${select(
      "app",
      "App",
      options(({ app }) => app || undefined),
      same,
    )}${select(
      "side",
      "Side",
      options(({ side }) => side),
      (value) => SIDE_TITLES[value as SideName],
    )}${select(
      "sdk",
      "SDK",
      options(({ sdk }) => sdk),
      same,
    )}${select(
      "severity",
      "Severity",
      (["error", "warning", "note"] as const).filter((severity) => findings.some((finding) => finding.severity === severity)),
      same,
    )}<button type="reset">Show all</button><span id="count" role="status" aria-live="polite"></span>
  </form>`;
}
