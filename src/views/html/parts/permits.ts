import { PERMIT_KINDS, type AppPermits, type Permit } from "../../../core/project/permits.js";
import { SIDE_TITLES } from "../../text/labels.js";
import { plural } from "../../text/style.js";
import { isNamedByNothing, KIND_HEADS, noteOf, shortName } from "../../text/permits.js";
import { markup, placeMarkup, type Markup } from "../markup.js";
import { tableOf } from "../page.js";
import { reasonText } from "../../../core/model/reason.js";

/** What the finished app asks people for and declares, on each side. */
export function permitsPart({ app, sides }: AppPermits, sdkIds: ReadonlyMap<string, string>): Markup | undefined {
  if (sides.every(({ permits }) => permits.length === 0)) return undefined;
  return markup`${sides.map(({ side, permits, open }) =>
    permits.length === 0
      ? undefined
      : markup`<h4>${SIDE_TITLES[side]}</h4>
          <p class="dim">${plural(permits.length, "entry", "entries")}, ${permits.filter((permit) => permit.asked && !permit.removed).length} of which users are asked for (•).</p>
          ${tableOf(
            `Permissions and the like of ${app.name} on ${SIDE_TITLES[side]}`,
            ["Name", "Kind", side === "android" ? "On iOS" : "On Android", "Added by", "Where"],
            PERMIT_KINDS.flatMap((kind) => permits.filter((permit) => permit.kind === kind)).map((permit) => row(permit, sdkIds)),
            true,
          )}
          ${open.length > 0 ? markup`<p class="dim">There may be more: ${open.map(reasonText).join("; ")}.</p>` : undefined}`,
  )}`;
}

function row(permit: Permit, sdkIds: ReadonlyMap<string, string>): Markup {
  const { kind, name, asked, removed, values, by, counterpart, usedBy, neededBy } = permit;
  const at = removed ?? by[0]?.at;
  const note = noteOf(permit);
  const [there] = counterpart?.there ?? [];
  return markup`<tr>
    <th scope="row">
      ${asked && !removed ? "•\u00a0" : ""}${shortName(name)}${note === "" ? undefined : markup` <span class="dim">(${note})</span>`}${
        kind === "purposeText"
          ? values.slice(0, 2).map((value) => markup`<br /><span class="dim">${value === "" ? "(empty)" : `“${value}”`}</span>`)
          : undefined
      }
    </th>
    <td data-label="Kind">${KIND_HEADS[kind]}</td>
    <td data-label="Other side">
      ${
        !counterpart || removed
          ? "–"
          : there === undefined
            ? markup`<span class="warning">! no ${shortName(counterpart.names[0] ?? "")}</span>`
            : markup`<span class="good">✓ ${shortName(there)}</span>`
      }
    </td>
    <td data-label="Added by">
      ${
        by.length === 0 && usedBy.length > 0
          ? markup`<span class="error">✗ missing, used by ${usedBy.map((user) => user ?? "the app").join(", ")}</span>`
          : [...new Set(by.map((one) => one.name ?? "the app"))].join(", ")
      }${neededBy.map((sdk) => markup` <span class="dim">for ${sdkIds.has(sdk) ? markup`<a href="#${sdkIds.get(sdk)}">${sdk}</a>` : sdk}</span>`)}${
        isNamedByNothing(permit) ? markup`<span class="warning">, nothing mentions it</span>` : undefined
      }
    </td>
    <td data-label="Where">${at ? markup`${placeMarkup(at)}` : "–"}</td>
  </tr>`;
}
