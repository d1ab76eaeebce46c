import { KIND_TITLES, ofRelease, sidesOf, type App } from "../../../core/model/app.js";
import type { SideName } from "../../../core/model/facts.js";
import { textOf } from "../../../core/model/value.js";
import { SIDE_TITLES } from "../../text/labels.js";
import { plural } from "../../text/style.js";
import type { Anchors } from "../anchors.js";
import { markup, type Markup } from "../markup.js";
import { tableOf } from "../page.js";
import { filterOf, type PlacedFinding } from "./findings.js";

/** What stands in the way of one side. */
export interface SideVerdict {
  errors: PlacedFinding[];
  /** Errors elsewhere that are in its way too: in the shared code, about the whole folder. */
  elsewhere: { shared: number; folder: number };
  warnings: number;
  blindSpots: number;
}

export type Verdicts = ReadonlyMap<SideName, SideVerdict>;

/** What the files say of each side of an app; what is about both sides counts for each. */
export function verdictsOf(app: App, findings: readonly PlacedFinding[]): Verdicts {
  const errorsOf = (name: string, side?: SideName): number =>
    findings.filter(({ finding }) => finding.severity === "error" && finding.app === name && (side === undefined || finding.side === side))
      .length;
  return new Map(
    sidesOf(app).map((side) => {
      const own = findings.filter(({ finding }) => finding.app === app.name && (finding.side === undefined || finding.side === side));
      return [
        side,
        {
          elsewhere: { shared: side === "shared" ? 0 : errorsOf(app.name, "shared"), folder: errorsOf("") },
          errors: own.filter(({ finding }) => finding.severity === "error"),
          warnings: own.filter(({ finding }) => finding.severity === "warning").length,
          blindSpots: app.blindSpots.filter((spot) => spot.side === side).length,
        },
      ];
    }),
  );
}

/** How many errors are listed at the top of a side. */
const LISTED = 4;

/** The sides of one app beside each other: ready or not, and what stands in the way. */
export function sideCards(app: App, verdicts: Verdicts, findingsId: string): Markup {
  return markup`<div class="cards">
    ${[...verdicts].map(([side, verdict]) => {
      const { errors, blindSpots } = verdict;
      const native = side === "android" ? app.android : side === "ios" ? app.ios : undefined;
      const facts = native
        ? [
            textOf(ofRelease(native.ids)?.value),
            ...(side === "android" ? (["minSdk", "targetSdk"] as const) : (["iosTarget"] as const)).flatMap((level) => {
              const value = textOf(native.effective[level]);
              return value === undefined ? [] : [`${level} ${value}`];
            }),
          ].filter((fact) => fact !== undefined)
        : app.shared
          ? [`${app.shared.framework.name} ${app.shared.framework.installed ?? textOf(app.shared.framework.declared) ?? ""}`]
          : [];
      return markup`<div class="card">
        <h3>${SIDE_TITLES[side]}</h3>
        <p class="verdict">${verdictText(verdict)}</p>
        ${facts.length > 0 ? markup`<p class="dim">${facts.join(" · ")}</p>` : undefined}
        ${
          errors.length > 0
            ? markup`<ul class="blockers">
                ${errors.slice(0, LISTED).map(({ finding, id }) => markup`<li><a href="#${id}">${finding.message}</a></li>`)}
                ${errors.length > LISTED ? markup`<li><a href="#${findingsId}" data-filter="${filterOf({ app: app.name, severity: "error", side })}">and ${errors.length - LISTED} more</a></li>` : undefined}
              </ul>`
            : undefined
        }
        ${blindSpots > 0 ? markup`<p class="dim">? <a href="#unseen">${plural(blindSpots, "blind spot")}</a></p>` : undefined}
      </div>`;
    })}
  </div>`;
}

/** In a few words; what the files do not tell is said beside. */
function verdictText({ errors, elsewhere, warnings, blindSpots }: SideVerdict): Markup {
  if (errors.length > 0) return markup`<strong class="error">✗ Not ready: ${plural(errors.length, "error")}</strong>`;
  const other = elsewhereText(elsewhere);
  if (other !== undefined) return markup`<strong class="error">✗ Not ready: ${other}</strong>`;
  if (warnings > 0) return markup`<strong class="warning">! ${plural(warnings, "warning")}, no error</strong>`;
  return blindSpots > 0
    ? markup`<strong class="dim">? Nothing wrong in what could be read</strong>`
    : markup`<strong class="good">✓ Nothing in the files stands in the way</strong>`;
}

function elsewhereText({ shared, folder }: SideVerdict["elsewhere"]): string | undefined {
  if (shared > 0) return `${plural(shared, "error")} in the shared code`;
  return folder > 0 ? `${plural(folder, "error")} about the whole folder` : undefined;
}

/** An app a row, with the verdict of each side. */
export function appsTable(apps: readonly { app: App; verdicts: Verdicts }[], anchors: Anchors): Markup {
  const sides = (["android", "ios", "shared"] as const).filter((side) => apps.some(({ verdicts }) => verdicts.has(side)));
  return tableOf(
    "Apps",
    ["App", "Kind", ...sides.map((side) => SIDE_TITLES[side]), "Folder"],
    apps.map(
      ({ app, verdicts }) =>
        markup`<tr>
          <th scope="row"><a href="#${anchors.app(app)}">${app.name}</a></th>
          <td>${KIND_TITLES[app.kind]}</td>
          ${sides.map((side) => markup`<td>${verdictCell(verdicts.get(side))}</td>`)}
          <td><code>${app.path || "."}</code></td>
        </tr>`,
    ),
  );
}

function verdictCell(verdict: SideVerdict | undefined): Markup {
  if (!verdict) return markup`<span class="dim">–</span>`;
  const { errors, elsewhere, warnings, blindSpots } = verdict;
  const other = errors.length > 0 ? undefined : elsewhereText(elsewhere);
  const parts = [
    other === undefined ? undefined : markup`<span class="error">✗ ${other}</span> `,
    errors.length > 0 ? markup`<span class="error">✗ ${plural(errors.length, "error")}</span> ` : undefined,
    warnings > 0 ? markup`<span class="warning">! ${warnings}</span> ` : undefined,
    blindSpots > 0 ? markup`<span class="dim">? ${blindSpots}</span> ` : undefined,
  ];
  return parts.every((part) => part === undefined)
    ? markup`<span class="good">✓ nothing</span>`
    : markup`<span class="counts">${parts}</span>`;
}
