import { uniquePlaces } from "../../../core/model/place.js";
import { levelTable, type LevelRow } from "../../../core/derive/level-table.js";
import type { App } from "../../../core/model/app.js";
import { textOf } from "../../../core/model/value.js";
import { compareLevels, isLevel } from "../../../core/versions/level.js";
import { SIDE_TITLES } from "../../text/labels.js";
import { valueText } from "../../text/survey.js";
import type { Anchors } from "../anchors.js";
import { markup, placeMarkup, type Markup } from "../markup.js";
import { tableOf } from "../page.js";

const WIDTH = 160;
const HEIGHT = 14;

/** Each level of an app: what it is, who asks for how much, where it is set. */
export function levelsPart(app: App, sdkIds: ReadonlyMap<string, string>, anchors: Anchors): Markup {
  const rows = levelTable(app);
  if (rows.length === 0) return markup`<p>No levels found.</p>`;
  return tableOf(
    `Levels of ${app.name}`,
    ["Level", "Side", "This app", "Required by", "Set at"],
    rows.map((row) => {
      const places = uniquePlaces(row.declared.map(({ value }) => value.place));
      return markup`<tr id="${anchors.app(app, `level-${row.level}`)}">
        <th scope="row">${row.level}</th>
        <td data-label="Side">${SIDE_TITLES[row.side]}</td>
        <td data-label="This app">
          <strong class="${(row.headroom ?? 0) < 0 ? "error" : undefined}">${valueText(row.effective)}</strong>${(row.headroom ?? 0) < 0 ? markup` <span class="error">✗ too low</span>` : undefined}
          ${bar(row)}
        </td>
        <td data-label="Required by">${askers(row, sdkIds)}</td>
        <td data-label="Set at">
          ${places.slice(0, 3).map((place) => markup`${placeMarkup(place)}<br />`)}${
            row.effectiveFrom === undefined ? undefined : markup`<span class="dim">${row.effectiveFrom}</span>`
          }
        </td>
      </tr>`;
    }),
    true,
  );
}

/** Who asks, the highest first. */
function askers({ effective, requiredLevels }: LevelRow, sdkIds: ReadonlyMap<string, string>): Markup | string {
  if (requiredLevels.length === 0) return "–";
  const has = textOf(effective);
  return markup`<ul class="plain">
    ${requiredLevels.slice(0, 6).map(({ by, sdk, value }) => {
      const asked = textOf(value);
      const high = has !== undefined && asked !== undefined && isLevel(has) && isLevel(asked) && compareLevels(has, asked) < 0;
      const id = sdk === undefined ? undefined : sdkIds.get(sdk);
      return markup`<li class="${high ? "error" : undefined}">${high ? "✗ " : ""}${valueText(value)} ${id === undefined ? by : markup`<a href="#${id}">${by}</a>`}</li>`;
    })}
    ${requiredLevels.length > 6 ? markup`<li class="dim">and ${requiredLevels.length - 6} that ask for no more</li>` : undefined}
  </ul>`;
}

/** The level as a bar, with a mark where somebody asks for more or as much; nothing for a level without a number. */
function bar({ level, effective, requiredLevels }: LevelRow): Markup | undefined {
  const value = number(textOf(effective));
  const asked = requiredLevels.map((required) => number(textOf(required.value))).filter((one) => Number.isFinite(one));
  if (!Number.isFinite(value) || asked.length === 0) return undefined;
  const top = Math.max(value, ...asked) * 1.05 || 1;
  const x = (of: number): string => ((of / top) * WIDTH).toFixed(1);
  return markup`<svg viewBox="0 0 ${WIDTH} ${HEIGHT}" width="${WIDTH}" height="${HEIGHT}" role="img" aria-label="${level} ${value}, highest asked for ${Math.max(...asked)}">
    <rect class="track" x="0" y="2" width="${WIDTH}" height="${HEIGHT - 4}" rx="2"></rect>
    <rect class="bar" x="0" y="2" width="${x(value)}" height="${HEIGHT - 4}" rx="2"></rect>
    ${[...new Set(asked)].map((one) => markup`<line class="${one > value ? "need" : "met"}" x1="${x(one)}" x2="${x(one)}" y1="0" y2="${HEIGHT}"></line>`)}
  </svg>`;
}

/** `15.1` as a number; what is none gives `NaN`. */
function number(text: string | undefined): number {
  return text === undefined || !/^\d+(\.\d+)?/.test(text) ? NaN : Number.parseFloat(text);
}
