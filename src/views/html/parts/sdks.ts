import { releaseOf } from "../../../core/versions/ecosystem.js";
import { sidesOf, type App } from "../../../core/model/app.js";
import type { SideName } from "../../../core/model/facts.js";
import type { Trace } from "../../../core/needs/index.js";
import { WIRE_STATES, type Wire, type WireState } from "../../../core/needs/wire.js";
import { SIDE_TITLES } from "../../text/labels.js";
import { titleIn } from "../../text/fleet.js";
import { plural } from "../../text/style.js";
import { isLeftOut, OPTIONAL_MARK, STATE_MARKS } from "../../text/trace.js";
import type { Anchors } from "../anchors.js";
import { markup, placeMarkup, type Markup } from "../markup.js";
import { tableOf } from "../page.js";
import { filterOf } from "./findings.js";
import { reasonText } from "../../../core/model/reason.js";

const CLASSES: Record<WireState, string> = { connected: "good", loose: "warning", missing: "error", unneeded: "dim", unknown: "dim" };

/** An SDK a row, a side a column; opened, every wire of it with what was found and what is wanted. */
export function sdksPart(app: App, traces: readonly Trace[], findingsOf: (sdk: string) => number, anchors: Anchors): Markup {
  // The shared code has a column where it needs something by itself.
  const sides = sidesOf(app).filter((side) => side !== "shared" || traces.some((trace) => trace.sides.some((one) => one.side === side)));
  if (traces.length === 0) return markup`<p>No third-party SDK found.</p>`;
  return markup`<div class="matrix sides-${sides.length}">
    <div class="row head" aria-hidden="true"><span>SDK</span>${sides.map((side) => markup`<span>${SIDE_TITLES[side]}</span>`)}</div>
    ${traces.map((trace) => {
      const findings = findingsOf(trace.sdk);
      return markup`<details id="${anchors.sdk(app, trace.sdk)}">
        <summary class="row"
          ><span><strong>${trace.sdk}</strong></span
          >${sides.map((side) => cell(trace, side))}</summary
        >
        ${
          findings > 0
            ? markup`<p><a href="#findings" data-filter="${filterOf({ app: app.name, sdk: trace.sdk })}">${plural(findings, "finding")} of ${trace.sdk}</a></p>`
            : undefined
        }
        ${trace.sheet ? markup`<p class="dim">${trace.sheet.title ?? trace.sdk}, by the sheet <code>${trace.sheet.file}</code></p>` : markup`<p class="dim">No sheet: only what its package files require.</p>`}
        ${trace.sides.map(({ side, wires }) => wiresTable(side, wires, trace.sdk))}
      </details>`;
    })}
  </div>`;
}

function cell({ sides }: Trace, side: SideName): Markup {
  const found = sides.find((entry) => entry.side === side);
  if (!found) return markup`<span class="dim"><span class="unseen">${SIDE_TITLES[side]}: </span>–</span>`;
  const asked = found.wires.filter((wire) => !isLeftOut(wire));
  const states = (["missing", "loose", "connected", "unknown"] as WireState[])
    .map((state) => ({ state, number: asked.filter((wire) => wire.state === state).length }))
    .filter(({ number }) => number > 0);
  return markup`<span
    ><span class="unseen">${SIDE_TITLES[side]}: </span>${found.version ?? "version not known"}
    <span class="counts">${states.map(({ state, number }) => markup`<span class="${CLASSES[state]}">${STATE_MARKS[state].sign} ${number} ${STATE_MARKS[state].word}</span> `)}</span></span
  >`;
}

function wiresTable(side: SideName, wires: readonly Wire[], sdk: string): Markup {
  const shown = wires.filter(({ state }) => state !== "unneeded");
  const passed = wires.length - shown.length;
  return markup`<h4>${SIDE_TITLES[side]}</h4>
    ${
      shown.length === 0
        ? markup`<p class="dim">Its package files state no requirements.</p>`
        : tableOf(
            `Wires of ${sdk} on ${SIDE_TITLES[side]}`,
            ["State", "What", "Found", "Wanted", "Where"],
            shown.map((wire) => {
              const leftOut = isLeftOut(wire);
              const { sign, word } = leftOut ? OPTIONAL_MARK : STATE_MARKS[wire.state];
              const open = !leftOut && (wire.state === "missing" || wire.state === "loose");
              return markup`<tr>
                <td data-label="State" class="${leftOut ? "dim" : CLASSES[wire.state]} nowrap">${sign} ${word}</td>
                <td data-label="What">
                  ${wire.need.what}${open && wire.fix !== undefined ? markup`<br />→ ${wire.fix}` : undefined}${
                    wire.state === "unknown" && wire.why !== undefined
                      ? markup`<br /><span class="dim">${reasonText(wire.why)}</span>`
                      : undefined
                  }
                </td>
                <td data-label="Found">${wire.found ?? "–"}</td>
                <td data-label="Wanted">${wire.wanted || "–"}</td>
                <td data-label="Where">${wire.places.length === 0 ? "–" : wire.places.slice(0, 3).map((place) => markup`${placeMarkup(place)}<br />`)}</td>
              </tr>`;
            }),
            true,
          )
    }
    ${passed > 0 ? markup`<p class="dim">${plural(passed, "need")} that ${passed === 1 ? "does" : "do"} not apply here.</p>` : undefined}`;
}

/** What the signs of wires mean. */
export function statesLegend(): string {
  return WIRE_STATES.filter((state) => state !== "unneeded")
    .map((state) => `${STATE_MARKS[state].sign} ${STATE_MARKS[state].word}`)
    .join(", ");
}

/** Versions of an SDK in several apps, a column each. */
export interface VersionRow {
  sdk: string;
  side: string;
  /** By the app's name: the version, `null` where it is not known. */
  versions: ReadonlyMap<string, string | null>;
  /** The newest of them. */
  newest: string | null;
}

/** An SDK a row, an app a column. */
export function versionsTable(rows: readonly VersionRow[], apps: readonly { name: string; id: string | undefined }[]): Markup {
  return tableOf(
    "Versions of SDKs in the apps",
    ["SDK", "Side", ...apps.map(({ name, id }) => (id === undefined ? name : markup`<a href="#${id}">${name}</a>`))],
    rows.map(
      ({ sdk, side, versions, newest }) =>
        markup`<tr>
          <th scope="row">${sdk}</th>
          <td>${titleIn(SIDE_TITLES, side)}</td>
          ${apps.map(({ name }) => {
            const version = versions.get(name);
            if (version === undefined) return markup`<td class="dim">–</td>`;
            if (version === null) return markup`<td class="dim">not known</td>`;
            return newest === null || releaseOf(version) === releaseOf(newest)
              ? markup`<td>${version}</td>`
              : markup`<td class="warning">${version} <span class="nowrap">! behind</span></td>`;
          })}
        </tr>`,
    ),
  );
}
