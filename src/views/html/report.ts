import { compareAny } from "../../core/versions/ecosystem.js";
import type { Report } from "../../core/project/check.js";
import type { AppPermits } from "../../core/project/permits.js";
import { exactVersion, isOfThirdParty } from "../../core/derive/presence.js";
import type { Ecosystem } from "../../core/model/facts.js";
import type { SideStartup } from "../../core/project/startup.js";
import { KIND_TITLES, type App } from "../../core/model/app.js";
import type { Trace } from "../../core/needs/index.js";
import { SIDE_TITLES } from "../text/labels.js";
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
import { reasonText } from "../../core/model/reason.js";

/** What the page shows beside the findings. */
export interface ReportAnswers {
  tracesOf: (app: App) => readonly Trace[];
  startupOf: (app: App) => readonly SideStartup[];
  permitsOf: (app: App) => AppPermits;
}

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
  const full = judged.map(({ app, traces, sdkIds, verdicts }) => {
    const findingsOf = (sdk: string): number => findings.filter((finding) => finding.app === app.name && finding.sdk === sdk).length;
    const sections: { part: string; short: string; title: string; body: Markup | undefined }[] = [
      {
        part: "sdks",
        short: "SDKs",
        title: "SDKs on each side",
        body: markup`<p class="dim">Open an SDK to see each thing it needs: ${statesLegend()}.</p>
          ${sdksPart(app, traces, findingsOf, anchors)}`,
      },
      { part: "levels", short: "Levels", title: "Levels, and who requires them", body: levelsPart(app, sdkIds, anchors) },
      {
        part: "permits",
        short: "Permissions",
        title: "Permissions and what users are asked for",
        body: permitsPart(permitsOf(app), sdkIds),
      },
      { part: "start", short: "Start order", title: "Start order", body: startPart(startupOf(app), sdkIds) },
    ];
    const shown = sections.filter(({ body }) => body !== undefined);
    return {
      contents: shown.map(({ part, short }) => ({ id: anchors.app(app, part), title: short })),
      body: markup`<details class="app" ${apps.length <= OPEN_APPS ? "open" : undefined}>
        <summary id="${anchors.app(app)}"><h3>${app.name}</h3> <span class="dim">${KIND_TITLES[app.kind]}${app.path ? `, in ${app.path}` : ""}</span></summary>
        ${single ? undefined : sideCards(app, verdicts, "findings")}
        ${shown.map(
          ({ part, title, body }) =>
            markup`<section aria-labelledby="${anchors.app(app, part)}">
              <h4 class="part" id="${anchors.app(app, part)}">${title}</h4>
              ${body}
            </section>`,
        )}
      </details>`,
    };
  });
  if (apps.length > 0)
    parts.push({
      id: "apps",
      title: single ? "The app" : "The apps",
      inner: single ? full[0]?.contents : apps.map((app) => ({ id: anchors.app(app), title: app.name })),
      body: full.map(({ body }) => body),
    });
  parts.push({
    id: "unseen",
    title: "What could not be seen",
    body:
      blindSpots.length === 0
        ? markup`<p>No blind spot: every value that was looked for could be read. What the files cannot hold (settings in a console, what runs on a server) is not looked at.</p>`
        : markup`<ul>
            ${blindSpots.map((spot) => markup`<li><strong>${spot.app}</strong>, ${SIDE_TITLES[spot.side]}: ${spot.what}: ${reasonText(spot.why)}</li>`)}
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
      return { ...row, newest: known.sort((a, b) => compareAny(row.ecosystem, b, a))[0] ?? null };
    })
    .sort((a, b) => b.versions.size - a.versions.size || (a.sdk < b.sdk ? -1 : a.sdk > b.sdk ? 1 : a.side < b.side ? -1 : 1));
}
