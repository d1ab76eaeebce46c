import { KIND_TITLES } from "../../core/model/app.js";
import { titleOfSdk, type Fleet, type FleetSdk } from "../../core/fleet/fleet.js";
import { sideOf, titleIn } from "../text/fleet.js";
import { KIND_HEADS, shortName } from "../text/permits.js";
import { plural, SEVERITY_MARKS } from "../text/style.js";
import { markup, type Markup } from "./markup.js";
import { pageOf, tableOf, type Part } from "./page.js";
import { versionsTable } from "./parts/sdks.js";

/** From so many apps on, the table of versions is by version and not an app a column. */
const COLUMNS = 12;

/** How many names stand in a cell. */
const NAMES = 12;

/** The fleet as one self-contained page. */
export function fleetPage(fleet: Fleet): string {
  const { apps, projects, sdks, levels, rules, permits, unanswered, violations, problems, linesRead } = fleet;
  const failing = apps.filter(({ counts }) => counts.error > 0).length;
  const parts: Part[] = [];
  const add = (id: string, title: string, rows: readonly unknown[], body: () => Markup): void => {
    if (rows.length > 0) parts.push({ id, title, body: body() });
  };
  add("policy", "Against the policy", violations, () =>
    tableOf(
      "Breaches of the policy",
      ["App", "What", "Has", "Must have"],
      violations.map(
        ({ app, what, subject, found, wanted }) =>
          markup`<tr>
            <th scope="row">${app}</th>
            <td class="error">✗ ${what === "answer" ? "no answer" : subject}</td>
            <td>${what === "rule" ? plural(Number(found), "finding") : (found ?? "not known")}</td>
            <td>${wanted}</td>
          </tr>`,
      ),
    ),
  );
  add("unanswered", "Without an answer, or with an old one", violations.some(({ what }) => what === "answer") ? [] : unanswered, () =>
    tableOf(
      "Projects without an answer",
      ["Project", "Why"],
      unanswered.map(
        ({ project, why }) =>
          markup`<tr>
            <th scope="row">${project}</th>
            <td>${why}</td>
          </tr>`,
      ),
    ),
  );
  add("apps", "Apps", apps, () =>
    tableOf(
      "Apps",
      ["App", "Project", "Kind", "Answer of", "Errors", "Warnings", "Notes", "Blind spots"],
      [...apps]
        .sort((a, b) => b.counts.error - a.counts.error || b.counts.warning - a.counts.warning)
        .map(
          (app) =>
            markup`<tr>
              <th scope="row">${app.name}</th>
              <td>${app.project}</td>
              <td>${titleIn(KIND_TITLES, app.kind)}</td>
              <td class="nowrap">${app.at.slice(0, 10)}</td>
              ${(["error", "warning", "note"] as const).map(
                (severity) =>
                  markup`<td class="number ${app.counts[severity] > 0 ? severity : "dim"}">${app.counts[severity] > 0 ? `${SEVERITY_MARKS[severity].sign} ` : ""}${app.counts[severity]}</td>`,
              )}
              <td class="number">${app.blindSpots}</td>
            </tr>`,
        ),
    ),
  );
  add("sdks", "SDKs and their versions", sdks, () =>
    apps.length <= COLUMNS
      ? versionsTable(
          versionRows(sdks),
          apps.map(({ name }) => ({ name, id: undefined })),
        )
      : versionList(sdks),
  );
  add("levels", "Levels", levels, () =>
    tableOf(
      "Levels",
      ["Level", "Side", "Values, the lowest first"],
      levels.map(
        ({ level, side, values }) =>
          markup`<tr>
            <th scope="row">${level}</th>
            <td>${sideOf(side)}</td>
            <td>${values.map(({ value, apps: names }) => markup`<strong>${value ?? "not known"}</strong> <span class="dim">${namesOf(names)}</span><br />`)}</td>
          </tr>`,
      ),
    ),
  );
  add("rules", "Rules that fire", rules, () =>
    tableOf(
      "Rules that fire",
      ["Rule", "Severity", "Findings", "Apps"],
      rules.map(
        ({ rule, severity, findings, apps: names }) =>
          markup`<tr>
            <th scope="row"><code>${rule}</code></th>
            <td class="${severity} nowrap">${SEVERITY_MARKS[severity].sign} ${severity}</td>
            <td class="number">${findings}</td>
            <td>${namesOf(names)}</td>
          </tr>`,
      ),
    ),
  );
  add("permits", "Permissions and the like", permits, () =>
    tableOf(
      "Permissions and the like",
      ["Name", "Kind", "Side", "Apps", "Added by"],
      permits.map(
        ({ name, kind, side, apps: names, by }) =>
          markup`<tr>
            <th scope="row">${shortName(name)}</th>
            <td>${titleIn(KIND_HEADS, kind)}</td>
            <td>${sideOf(side)}</td>
            <td>${namesOf(names)}</td>
            <td>${by.map((one) => one || "the app").join(", ")}</td>
          </tr>`,
      ),
    ),
  );
  add(
    "problems",
    "What could not be read",
    problems,
    () => markup`<ul>${problems.map(({ at, message }) => markup`<li><code>${at}</code>: ${message}</li>`)}</ul>`,
  );
  return pageOf({
    title: "The fleet: SDK wiring",
    dim: `${plural(apps.length, "app")} of ${plural(projects, "project")}, on ${fleet.day}`,
    head: markup`<p class="totals">
      ${apps.length === 0 ? undefined : failing > 0 ? markup`<strong class="error">✗ ${failing} with errors</strong> ` : markup`<strong class="good">✓ None with errors</strong> `}
      ${violations.length > 0 ? markup`<strong class="error">✗ ${plural(violations.length, "breach", "breaches")} of the policy</strong> ` : undefined}
      ${unanswered.length > 0 ? markup`<strong class="warning">! ${unanswered.length} without a fresh answer</strong> ` : undefined}
    </p>`,
    parts,
    foot: `Made by Enredo from ${plural(linesRead, "line")} of answers.`,
  });
}

function namesOf(names: readonly string[]): string {
  return names.length <= NAMES ? names.join(", ") : `${names.slice(0, NAMES).join(", ")} and ${names.length - NAMES} more`;
}

function versionRows(sdks: readonly FleetSdk[]): Parameters<typeof versionsTable>[0] {
  return sdks.map(({ sdk, packages, side, versions }) => ({
    sdk: titleOfSdk({ sdk, packages }),
    side,
    newest: versions[0]?.version ?? null,
    versions: new Map(versions.flatMap(({ version, apps }) => apps.map((app) => [app, version]))),
  }));
}

function versionList(sdks: readonly FleetSdk[]): Markup {
  return tableOf(
    "Versions of SDKs",
    ["SDK", "Side", "Apps", "Behind", "Versions, the newest first"],
    sdks.map(({ sdk, packages, side, versions, behind }) => {
      const count = versions.reduce((sum, { apps }) => sum + apps.length, 0);
      return markup`<tr>
        <th scope="row">${titleOfSdk({ sdk, packages })}</th>
        <td>${sideOf(side)}</td>
        <td class="number">${count}</td>
        <td class="number ${behind > 0 ? "warning" : "dim"}">${behind > 0 ? "! " : ""}${behind}</td>
        <td>
          ${versions.map(({ version, apps }, index) => markup`<strong>${version ?? "not known"}</strong> <span class="dim">${index === 0 ? plural(apps.length, "app") : namesOf(apps)}</span><br />`)}
        </td>
      </tr>`;
    }),
  );
}
