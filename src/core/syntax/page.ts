import type { DefaultTreeAdapterTypes } from "parse5";
import type { Code, Nodes } from "mdast";

/** A part of a page, in the order in which people read it. Lines start at 1. */
export type PageBlock =
  | { kind: "heading"; level: number; text: string; line: number }
  | { kind: "code"; language: string; text: string; line: number }
  | { kind: "text"; text: string; line: number; links: { text: string; to: string }[] }
  | { kind: "row"; cells: string[]; line: number };

/** How deep elements of a page are followed. */
const DEEPEST = 200;

/** Reads a page in Markdown, also with tables and with headings in HTML. */
export async function readMarkdown(text: string): Promise<PageBlock[]> {
  const [{ fromMarkdown }, { gfmTable }, { gfmTableFromMarkdown }, { toString }] = await Promise.all([
    import("mdast-util-from-markdown"),
    import("micromark-extension-gfm-table"),
    import("mdast-util-gfm-table"),
    import("mdast-util-to-string"),
  ]);
  const blocks: PageBlock[] = [];
  const visit = (node: Nodes, depth: number): void => {
    const line = node.position?.start.line ?? 1;
    if (depth > DEEPEST) return;
    switch (node.type) {
      case "heading":
        blocks.push({ kind: "heading", level: node.depth, text: toString(node).trim(), line });
        return;
      case "code":
        blocks.push({ kind: "code", language: (node.lang ?? "").toLowerCase(), text: node.value, line: line + fenceOf(node) });
        return;
      case "paragraph":
        blocks.push({ kind: "text", text: toString(node), line, links: linksIn(node, toString) });
        return;
      case "tableRow":
        blocks.push({ kind: "row", cells: node.children.map((cell) => toString(cell)), line });
        return;
      case "html": {
        // A part that can be folded away has its title where others have a heading.
        for (const [, level, title = ""] of node.value.matchAll(/<(summary|h[1-6])\b[^>]*>([\s\S]*?)<\/\1>/gi))
          blocks.push({
            kind: "heading",
            level: level?.toLowerCase() === "summary" ? 6 : Number(level?.slice(1)),
            text: title.replace(/<[^>]*>/g, "").trim(),
            line,
          });
        return;
      }
      default:
        if ("children" in node) for (const child of node.children) visit(child, depth + 1);
    }
  };
  visit(fromMarkdown(text, { extensions: [gfmTable()], mdastExtensions: [gfmTableFromMarkdown()] }), 0);
  return blocks;
}

function linksIn(node: Nodes, textOf: (node: Nodes) => string): { text: string; to: string }[] {
  if (node.type === "link") return [{ text: textOf(node), to: node.url }];
  return "children" in node ? node.children.flatMap((child) => linksIn(child, textOf)) : [];
}

/** Lines before the first of a block of code: one where it stands between fences. */
function fenceOf({ value, position }: Code): number {
  const lines = position ? position.end.line - position.start.line + 1 : 0;
  return lines > value.split("\n").length ? 1 : 0;
}

/** Reads a page in HTML, as a browser saves it. */
export async function readHtmlPage(text: string): Promise<PageBlock[]> {
  const { parse } = await import("parse5");
  type Node = DefaultTreeAdapterTypes.Node;
  const blocks: PageBlock[] = [];
  const textOf = (node: Node, depth: number): string => {
    if (node.nodeName === "#text") return (node as DefaultTreeAdapterTypes.TextNode).value;
    if (node.nodeName === "br") return "\n";
    return "childNodes" in node && depth < DEEPEST ? node.childNodes.map((child) => textOf(child, depth + 1)).join("") : "";
  };
  const visit = (node: Node, depth: number): void => {
    if (depth > DEEPEST || /^(script|style|nav|head|footer|template|svg)$/.test(node.nodeName)) return;
    const element = node as DefaultTreeAdapterTypes.Element;
    const line = element.sourceCodeLocation?.startLine ?? 1;
    const heading = /^h([1-6])$/.exec(node.nodeName)?.[1] ?? (node.nodeName === "summary" ? "6" : undefined);
    if (heading !== undefined) blocks.push({ kind: "heading", level: Number(heading), text: textOf(node, 0).trim(), line });
    else if (node.nodeName === "pre") {
      const names = [element, ...element.childNodes].flatMap((part) => ("attrs" in part ? part.attrs.map(({ value }) => value) : []));
      const language = /\b(?:language|lang|highlight(?:-source)?)-(\w+)/.exec(names.join(" "))?.[1] ?? "";
      blocks.push({ kind: "code", language: language.toLowerCase(), text: textOf(node, 0), line });
    } else if (node.nodeName === "tr") {
      const cells = element.childNodes.filter(({ nodeName }) => /^t[dh]$/.test(nodeName)).map((cell) => textOf(cell, 0).trim());
      blocks.push({ kind: "row", cells, line });
    } else if (node.nodeName === "p") blocks.push({ kind: "text", text: textOf(node, 0).trim(), line, links: [] });
    else {
      // Words that stand in an item or a part itself, beside other elements.
      if ("childNodes" in node && /^(li|div|section|td|body)$/.test(node.nodeName)) {
        const own = node.childNodes
          .filter(({ nodeName }) => /^(#text|code|strong|em|b|i|a|span|kbd)$/.test(nodeName))
          .map((child) => textOf(child, 0))
          .join("")
          .trim();
        if (own !== "") blocks.push({ kind: "text", text: own, line, links: [] });
      }
      if ("childNodes" in node) for (const child of node.childNodes) visit(child, depth + 1);
    }
  };
  visit(parse(text, { sourceCodeLocationInfo: true }), 0);
  return blocks;
}
