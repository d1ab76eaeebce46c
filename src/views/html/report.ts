import { compareIn } from "../../core/versions/ecosystem.js";
import type { Report } from "../../core/project/check.js";
import type { AppPermits } from "../../core/project/permits.js";
import { exactVersion, isOfThirdParty } from "../../core/derive/presence.js";
import type { Ecosystem } from "../../core/model/facts.js";
import type { SideStartup } from "../../core/project/startup.js";
import { KIND_TITLES, type App } from "../../core/model/app.js";
import type { Trace } from "../../core/needs/index.js";
import { SIDE_TITLES } from "../text/check.js";
import { plural, SEVERITY_MARKS } from "../text/style.js";
import { Anchors } from "./anchors.js";
import { markup, type Markup } from "./markup.js";
import { pageOf, type Part } from "./page.js";
import { findingsPart, type PlacedFinding } from "./parts/findings.js";
import { levelsPart } from "./parts/levels.js";
import { permitsPart } from "./parts/permits.js";
import { sdksPart, statesLegend, versionsTable, type VersionRow } from "./parts/sdks.js";
import { startPart } from "./parts/start.js";
import { appsTable, sideCards, verdictsOf } from "./parts/verdict.js";

/** What the page shows beside the findings. */
export interface ReportAnswers {
  tracesOf: (app: App) => readonly Trace[];
  startupOf: (app: App) => readonly SideStartup[];
  permitsOf: (app: App) => AppPermits;
}

/** What is shown of an app, and what it is called in the list of contents. */
const APP_PARTS = [
  { part: "sdks", short: "SDKs" },
  { part: "levels", short: "Levels" },
  { part: "permits", short: "Permissions" },
  { part: "start", short: "Start order" },
];

/** So many apps are laid open at once; of more, each on request. */
const OPEN_APPS = 1;

/** One self-contained page: whether the apps are ready and what stands in the way, then each app in full. */
export function reportPage(report: Report, { tracesOf, startupOf, permitsOf }: ReportAnswers): string {
  const { survey, summary, findings, accepted, blindSpots } = report;
  const { apps } = survey;
  const anchors = new Anchors();
  const sdkNames = new Map(apps.map((app) => [app.name, new Map<string, string>()]));
  const traced = apps.map((app) => {
    const traces = tracesOf(app);
    const sdkIds = new Map(traces.map(({ sdk }) => [sdk, anchors.sdk(app, sdk)]));
    sdkNames.set(app.name, sdkIds);
    return { app, traces, sdkIds };
  });
  const placed = findings.map((finding, index): PlacedFinding => ({
    finding,
    id: anchors.finding(finding, index),
    sdkId: finding.sdk === undefined ? undefined : sdkNames.get(finding.app)?.get(finding.sdk),
  }));
  const judged = traced.map((entry) => ({ ...entry, verdicts: verdictsOf(entry.app, placed) }));
  const [only] = judged;
  const single = judged.length === 1 ? only : undefined;

  const parts: Part[] = [];
  if (single) parts.push({ id: "ready", title: "Is it ready?", body: sideCards(single.app, single.verdicts, "findings") });
  else if (apps.length > 0) {
    parts.push({ id: "ready", title: "Are they ready?", body: appsTable(judged, anchors) });
    const rows = versionRows(apps);
    if (rows.length > 0)
      parts.push({
        id: "versions",
        title: "SDKs and their versions",
        body: versionsTable(
          rows,
          apps.map((app) => ({ name: app.name, id: anchors.app(app) })),
        ),
      });
  }
  parts.push({
    id: "findings",
    title: "Findings",
    body: findingsPart(
      placed,
      accepted,
      apps.map(({ name }) => name),
    ),
  });
  if (apps.length > 0)
    parts.push({
      id: "apps",
      title: single ? "The app" : "The apps",
      inner: single
        ? APP_PARTS.map(({ part, short }) => ({ id: anchors.app(single.app, part), title: short }))
        : apps.map((app) => ({ id: anchors.app(app), title: app.name })),
      body: judged.map(
        ({ app, traces, sdkIds, verdicts }) =>
          markup`<details class="app" ${apps.length <= OPEN_APPS ? "open" : undefined}>
            <summary id="${anchors.app(app)}"><h3>${app.name}</h3> <span class="dim">${KIND_TITLES[app.kind]}${app.path ? `, in ${app.path}` : ""}</span></summary>
            ${single ? undefined : sideCards(app, verdicts, "findings")}
            ${section(
              anchors.app(app, "sdks"),
              "SDKs on each side",
              sdksPart(app, traces, (sdk) => findings.filter((finding) => finding.app === app.name && finding.sdk === sdk).length, anchors),
              `Open an SDK to see each thing it needs: ${statesLegend()}.`,
            )}
            ${section(anchors.app(app, "levels"), "Levels, and who requires them", levelsPart(app, sdkIds, anchors))}
            ${section(anchors.app(app, "permits"), "Permissions and what users are asked for", permitsPart(permitsOf(app), sdkIds))}
            ${section(anchors.app(app, "start"), "Start order", startPart(startupOf(app), sdkIds))}
          </details>`,
      ),
    });
  parts.push({
    id: "unseen",
    title: "What could not be seen",
    body:
      blindSpots.length === 0
        ? markup`<p>No blind spot: every value that was looked for could be read. What the files cannot hold (settings in a console, what runs on a server) is not looked at.</p>`
        : markup`<ul>
            ${blindSpots.map((spot) => markup`<li><strong>${spot.app}</strong>, ${SIDE_TITLES[spot.side]}: ${spot.what}: ${spot.why}</li>`)}
          </ul>`,
  });
  return pageOf({
    title: single ? `${single.app.name}: SDK wiring` : "SDK wiring of the apps",
    dim: survey.root,
    head: totals(report),
    parts,
    foot: `Made by Enredo from the files alone: ${plural(summary.files, "file")} read.`,
  });
}

function totals({ survey, summary }: Report): Markup {
  const counts = (["error", "warning", "note"] as const)
    .map((severity) => ({ severity, count: summary[`${severity}s`] }))
    .filter(({ count }) => count > 0);
  return markup`<p class="totals">
    ${
      counts.length === 0
        ? markup`<strong class="good">✓ Nothing to report</strong>`
        : counts.map(
            ({ severity, count }) =>
              markup`<a href="#findings" data-filter="severity=${severity}" class="${severity}"><strong>${SEVERITY_MARKS[severity].sign} ${plural(count, severity)}</strong></a> `,
          )
    }
    <span class="dim">in ${plural(survey.apps.length, "app")}, ${plural(summary.sdks, "SDK")}</span>
  </p>`;
}

function section(id: string, title: string, body: Markup | undefined, legend?: string): Markup | undefined {
  return (
    body &&
    markup`<section aria-labelledby="${id}">
      <h4 class="part" id="${id}">${title}</h4>
      ${legend === undefined ? undefined : markup`<p class="dim">${legend}</p>`} ${body}
    </section>`
  );
}

/** SDKs that stand in more than one app, by side, those in most apps first. */
function versionRows(apps: readonly App[]): VersionRow[] {
  const rows = new Map<string, { sdk: string; side: string; ecosystem: Ecosystem; versions: Map<string, string | null> }>();
  for (const app of apps)
    for (const dependency of app.dependencies) {
      const { sdk, side, ecosystem } = dependency;
      if (side === "shared" || !isOfThirdParty(app, dependency)) continue;
      const key = `${sdk} ${side}`;
      const row = rows.get(key) ?? { sdk, side, ecosystem, versions: new Map<string, string | null>() };
      rows.set(key, row);
      // An SDK of several packages: that of the first that says one.
      row.versions.set(app.name, row.versions.get(app.name) ?? exactVersion(dependency) ?? null);
    }
  return [...rows.values()]
    .filter(({ versions }) => versions.size > 1)
    .map((row) => {
      const known = [...row.versions.values()].filter((version) => version !== null);
      return { ...row, newest: known.sort((a, b) => compareIn(row.ecosystem, b, a))[0] ?? null };
    })
    .sort((a, b) => b.versions.size - a.versions.size || (a.sdk < b.sdk ? -1 : a.sdk > b.sdk ? 1 : a.side < b.side ? -1 : 1));
}
