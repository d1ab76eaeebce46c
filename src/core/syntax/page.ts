import type { ChildNode, Document } from "domhandler";
import type MarkdownReader from "markdown-it";
import { Source } from "./source.js";

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
  const { parseDocument } = await import("./html.js");
  const source = new Source("", text);
  const blocks: PageBlock[] = [];
  const visit = (node: ChildNode | Document, depth: number): void => {
    const name = "name" in node ? node.name : "";
    if (depth > DEEPEST || !("children" in node) || /^(script|style|nav|head|footer|template|svg)$/.test(name)) return;
    const { line } = source.place(node.startIndex ?? 0);
    const heading = /^h([1-6])$/.exec(name)?.[1] ?? (name === "summary" ? "6" : undefined);
    if (heading !== undefined) blocks.push({ kind: "heading", level: Number(heading), text: htmlText(node).trim(), line });
    else if (name === "pre") blocks.push({ kind: "code", language: languageOfHtml(node), text: htmlText(node), line });
    else if (name === "tr") {
      const cells = node.children.filter((child) => "name" in child && /^t[dh]$/.test(child.name)).map((cell) => htmlText(cell).trim());
      blocks.push({ kind: "row", cells, line });
    } else if (name === "p") blocks.push({ kind: "text", text: htmlText(node).trim(), line, links: [] });
    else {
      // Words that stand in an item or a part itself, beside other elements.
      if (/^(li|div|section|td|body)$/.test(name)) {
        const own = node.children
          .filter((child) => ("name" in child ? /^(code|strong|em|b|i|a|span|kbd)$/.test(child.name) : child.type === "text"))
          .map((child) => htmlText(child))
          .join("")
          .trim();
        if (own !== "") blocks.push({ kind: "text", text: own, line, links: [] });
      }
      for (const child of node.children) visit(child, depth + 1);
    }
  };
  visit(parseDocument(source.text, { withStartIndices: true }), 0);
  return blocks;
}

function htmlText(node: ChildNode | Document, depth = 0): string {
  if (node.type === "text") return node.data;
  if ("name" in node && node.name === "br") return "\n";
  return "children" in node && depth < DEEPEST ? node.children.map((child) => htmlText(child, depth + 1)).join("") : "";
}

/** The language of a listing, as its element or that inside it says in an attribute. */
function languageOfHtml(listing: ChildNode | Document): string {
  const parts = "children" in listing ? [listing, ...listing.children] : [listing];
  const names = parts.flatMap((part) => ("attribs" in part ? Object.values(part.attribs) : []));
  return (/\b(?:language|lang|highlight(?:-source)?)-(\w+)/.exec(names.join(" "))?.[1] ?? "").toLowerCase();
}
