import dagre from "@dagrejs/dagre";
import type { LevelRow } from "../../core/derive/level-table.js";
import { textOf } from "../../core/model/value.js";
import type { StartupStep } from "../../core/project/startup.js";
import { isWrong } from "../text/startup.js";
import { markup, type Markup } from "./markup.js";

const LABEL = 120;
const WIDTH = 640;
const ROW = 34;

/** Levels as bars, with a mark where somebody asks for more or as much. Levels without a number have no bar. */
export function levelBars(table: readonly LevelRow[], title: string): Markup | undefined {
  const lines = table.filter(({ effective, requiredLevels }) => Number.isFinite(number(textOf(effective))) && requiredLevels.length > 0);
  if (lines.length === 0) return undefined;
  const height = lines.length * ROW + 6;
  return markup`<svg
    viewBox="0 0 ${WIDTH + LABEL + 130} ${height}"
    width="${WIDTH + LABEL + 130}"
    height="${height}"
    role="img"
    aria-label="${title}"
  >
    ${lines.map((line, index) => {
      const value = number(textOf(line.effective));
      const asked = line.requiredLevels
        .map((required) => ({ by: required.by, value: number(textOf(required.value)), text: textOf(required.value) ?? "" }))
        .filter((required) => Number.isFinite(required.value));
      const top = Math.max(value, ...asked.map((required) => required.value)) * 1.08 || 1;
      const x = (of: number): string => (LABEL + (of / top) * WIDTH).toFixed(1);
      const highest = asked.reduce((a, b) => (b.value > a.value ? b : a), asked[0] ?? { by: "", value: 0, text: "" });
      const low = highest.value > value;
      const y = index * ROW + 4;
      return markup`<g
        ><title>${line.level} ${textOf(line.effective)}; ${asked.map((required) => `${required.by} asks for ${required.text}`).join(", ")}</title>
        <text x="0" y="${y + 17}">${line.level}</text>
        <rect class="bar" x="${LABEL}" y="${y}" width="${((value / top) * WIDTH).toFixed(1)}" height="24" rx="3"></rect>
        ${asked.map((required) => markup`<line class="need" x1="${x(required.value)}" x2="${x(required.value)}" y1="${y - 2}" y2="${y + 26}"></line>`)}
        <text x="${LABEL + 6}" y="${y + 17}">${textOf(line.effective)}</text>
        <text class="${low ? "low" : "soft"}" x="${Number(x(Math.max(value, highest.value))) + 8}" y="${y + 17}"
          >${low ? "✗ " : "✓ "}${highest.by} ${highest.text}</text
        ></g
      >`;
    })}
  </svg>`;
}

/** `15.1` as a number; what is none gives `NaN`. */
function number(text: string | undefined): number {
  return text === undefined || !/^\d+(\.\d+)?/.test(text) ? NaN : Number.parseFloat(text);
}

interface Point {
  x: number;
  y: number;
}

/** What is used of the graph, as it is after it was laid out. */
interface LaidOut {
  setGraph(options: object): void;
  setDefaultEdgeLabel(label: () => object): void;
  setNode(id: string, size: { width: number; height: number }): void;
  setEdge(from: string, to: string, label: object, name: string): void;
  graph(): { width?: number; height?: number };
  node(id: string): Point & { width: number; height: number };
  edges(): { name?: string }[];
  edge(edge: object): { points?: Point[] };
}

/** The start order as a diagram, laid out as a graph: what follows what, and what asks for what. */
export function startDiagram(steps: readonly StartupStep[], title: string, id: string): Markup | undefined {
  const placed = steps.filter(({ number: order }) => order !== undefined);
  if (placed.length === 0) return undefined;
  const graph = new dagre.graphlib.Graph({ multigraph: true }) as LaidOut;
  graph.setGraph({ rankdir: "LR", nodesep: 18, ranksep: 34, marginx: 6, marginy: 6 });
  graph.setDefaultEdgeLabel(() => ({}));
  const label = (step: StartupStep): [string, string] => [
    `${step.number ?? ""}. ${step.sdk ?? step.kind}`,
    step.what.split(".").slice(-2).join("."),
  ];
  placed.forEach((step, index) =>
    graph.setNode(String(index), { width: Math.max(90, Math.max(...label(step).map(({ length }) => length)) * 7.4 + 20), height: 46 }),
  );
  placed.slice(1).forEach((_, index) => graph.setEdge(String(index), String(index + 1), {}, "next"));
  placed.forEach((step, index) => {
    for (const need of step.needs) {
      const other = placed.findIndex(({ what }) => what.split(/[.$]/).at(-1) === need);
      if (other !== -1) graph.setEdge(String(index), String(other), {}, "needs");
    }
  });
  dagre.layout(graph as unknown as Parameters<typeof dagre.layout>[0]);
  const { width = 0, height = 0 } = graph.graph();
  const marker = `arrow-${id}`;
  return markup`<div class="scroll" tabindex="0" role="group" aria-label="${title}">
    <svg
      viewBox="0 0 ${Math.ceil(width)} ${Math.ceil(height)}"
      width="${Math.ceil(width)}"
      height="${Math.ceil(height)}"
      role="img"
      aria-label="${title}: ${placed.map((step) => label(step)[0]).join(", ")}"
    >
      <defs>
        <marker id="${marker}" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="8" markerHeight="8" orient="auto">
          <path d="M0 0L8 4L0 8z"></path>
        </marker>
      </defs>
      ${graph.edges().map((edge) => {
        const points = graph.edge(edge).points ?? [];
        return markup`<path
          class="${edge.name === "needs" ? "edge needs" : "edge"}"
          marker-end="url(#${marker})"
          d="${points.map(({ x, y }, index) => `${index === 0 ? "M" : "L"}${x.toFixed(1)} ${y.toFixed(1)}`).join("")}"
        ></path>`;
      })}
      ${placed.map((step, index) => {
        const { x, y, width: w, height: h } = graph.node(String(index));
        const [first, second] = label(step);
        return markup`<g
          ><title>${step.what}${step.marks.length > 0 ? `: ${step.marks.map(({ text }) => text).join("; ")}` : ""}</title
          ><rect
            class="${isWrong(step) ? "box wrong" : "box"}"
            x="${(x - w / 2).toFixed(1)}"
            y="${(y - h / 2).toFixed(1)}"
            width="${w}"
            height="${h}"
            rx="5"
          ></rect
          ><text x="${(x - w / 2 + 10).toFixed(1)}" y="${(y - 4).toFixed(1)}">${isWrong(step) ? "✗ " : ""}${first}</text
          ><text class="soft" x="${(x - w / 2 + 10).toFixed(1)}" y="${(y + 14).toFixed(1)}">${second}</text></g
        >`;
      })}
    </svg>
  </div>`;
}
