import type { App } from "../../core/model/app.js";
import type { SideStartup, StartupStep } from "../../core/project/startup.js";
import { clean } from "../text/style.js";
import { isWrong } from "../text/startup.js";

interface Node {
  id: string;
  label: string;
  wrong: boolean;
}

interface Edge {
  from: string;
  to: string;
  /** `next`: runs after it; `needs`: asks for it. */
  kind: "next" | "needs";
}

interface Group {
  title: string;
  nodes: Node[];
  edges: Edge[];
}

function groupsOf(startups: { app: App; sides: SideStartup[] }[]): Group[] {
  return startups.flatMap(({ app, sides }, appIndex) =>
    sides.map(({ side, steps }, sideIndex) => {
      const id = (index: number): string => `a${appIndex}s${sideIndex}n${index}`;
      const placed = steps.filter(({ number, marks }) => number !== undefined || marks.some(({ kind }) => kind === "circle"));
      const edges = placed.flatMap(({ behind }, index) =>
        behind.map((step): Edge => ({ from: id(placed.indexOf(step)), to: id(index), kind: "next" })),
      );
      placed.forEach((step, index) => {
        for (const need of step.needs) {
          const other = placed.findIndex(({ what }) => what.split(/[.$]/).at(-1) === need);
          if (other !== -1) edges.push({ from: id(index), to: id(other), kind: "needs" });
        }
      });
      return {
        title: clean(`${app.name}, ${side}`),
        nodes: placed.map((step, index) => ({ id: id(index), label: labelOf(step), wrong: isWrong(step) })),
        edges,
      };
    }),
  );
}

function labelOf(step: StartupStep): string {
  const marks = step.marks.map(({ kind }) => kind).join(", ");
  return clean(
    `${step.number === undefined ? "" : `${step.number}. `}${step.sdk ?? step.kind}\n${step.what.split(".").slice(-2).join(".")}${marks === "" ? "" : `\n(${marks})`}`.replace(
      /"/g,
      "'",
    ),
  );
}

/** The order as a graph in the DOT language of Graphviz. */
export function startupDot(startups: { app: App; sides: SideStartup[] }[]): string {
  const lines = ["digraph startup {", "  rankdir=TB;", '  node [shape=box, fontname="sans-serif"];'];
  groupsOf(startups).forEach(({ title, nodes, edges }, index) => {
    lines.push(`  subgraph cluster_${index} {`, `    label=${quoted(title)};`);
    for (const { id, label, wrong } of nodes) lines.push(`    ${id} [label=${quoted(label)}${wrong ? ", color=red, penwidth=2" : ""}];`);
    for (const { from, to, kind } of edges) lines.push(`    ${from} -> ${to}${kind === "needs" ? ' [style=dashed, label="needs"]' : ""};`);
    lines.push("  }");
  });
  return `${[...lines, "}"].join("\n")}\n`;
}

/** The order as a Mermaid flowchart. */
export function startupMermaid(startups: { app: App; sides: SideStartup[] }[]): string {
  const lines = ["flowchart TB"];
  groupsOf(startups).forEach(({ title, nodes, edges }, index) => {
    lines.push(`  subgraph g${index}["${escaped(title)}"]`);
    for (const { id, label, wrong } of nodes) lines.push(`    ${id}["${escaped(label)}"]${wrong ? ":::wrong" : ""}`);
    for (const { from, to, kind } of edges) lines.push(`    ${from} ${kind === "needs" ? "-. needs .->" : "-->"} ${to}`);
    lines.push("  end");
  });
  lines.push("  classDef wrong stroke:#c00,stroke-width:2px");
  return `${lines.join("\n")}\n`;
}

function quoted(text: string): string {
  return `"${text.replace(/\\/g, "\\\\").replace(/"/g, '\\"').replace(/\n/g, "\\n")}"`;
}

function escaped(text: string): string {
  return text.replace(/[&<>"#]/g, (char) => `&#${char.charCodeAt(0)};`.replace("&#", "#")).replace(/\n| (?=\()/g, "<br/>");
}
