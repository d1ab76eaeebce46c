import type { DefaultTreeAdapterTypes } from "parse5";
import type MarkdownReader from "markdown-it";

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
  const { default: MarkdownIt } = await import("markdown-it");
  const blocks: PageBlock[] = [];
  let line = 1;
  let around = "";
  let cells: string[] = [];
  for (const { type, tag, map, content, info, children } of new MarkdownIt({ html: true, maxNesting: DEEPEST_MARKDOWN }).parse(text, {})) {
    if (map) line = map[0] + 1;
    if (type === "fence" || type === "code_block")
      blocks.push({
        kind: "code",
        language: (info.trim().split(/\s+/)[0] ?? "").toLowerCase(),
        text: content,
        line: line + (type === "fence" ? 1 : 0),
      });
    else if (type === "html_block") blocks.push(...htmlHeadings(content, line));
    else if (type === "tr_open") cells = [];
    else if (type === "tr_close") blocks.push({ kind: "row", cells, line });
    else if (type === "inline") {
      const { words, links } = inlineParts(children ?? []);
      if (/^h[1-6]$/.test(around)) blocks.push({ kind: "heading", level: Number(around.slice(1)), text: words.trim(), line });
      else if (/^t[hd]$/.test(around)) cells.push(words);
      else blocks.push({ kind: "text", text: words, line, links });
    }
    if (type.endsWith("_open")) around = tag;
  }
  return blocks;
}

/** How deep lists and quotes stand in each other. */
const DEEPEST_MARKDOWN = 20;

/** A part that can be folded away has its title where others have a heading. */
function htmlHeadings(html: string, line: number): PageBlock[] {
  return [...html.matchAll(/<(summary|h[1-6])\b[^<>]*>((?:(?!<\/?(?:summary|h[1-6])\b)[\s\S]){0,500})<\/\1>/gi)].map(
    ([, name = "", title = ""]) => ({
      kind: "heading",
      level: name.toLowerCase() === "summary" ? 6 : Number(name.slice(1)),
      text: title.replace(/<[^<>]*>/g, "").trim(),
      line,
    }),
  );
}

type Token = ReturnType<InstanceType<typeof MarkdownReader>["parse"]>[number];

function inlineParts(tokens: readonly Token[]): { words: string; links: { text: string; to: string }[] } {
  let words = "";
  const links: { text: string; to: string }[] = [];
  let open: { from: number; to: string } | undefined;
  for (const token of tokens) {
    if (token.type === "link_open") open = { from: words.length, to: String(token.attrGet("href") ?? "") };
    else if (token.type === "link_close" && open) {
      links.push({ text: words.slice(open.from), to: open.to });
      open = undefined;
    } else if (token.type === "softbreak" || token.type === "hardbreak") words += "\n";
    else if (token.type === "text" || token.type === "code_inline") words += token.content;
  }
  return { words, links };
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
