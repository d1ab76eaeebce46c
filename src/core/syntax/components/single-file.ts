import { closing } from "../code/callee.js";
import { Pieces, type ComponentScript } from "./pieces.js";

/** Expressions in the markup, by what runs them. */
interface Markup {
  text: string;
  from: number;
  does: "handler" | "value" | "component";
}

const OPENED = /<(script|style)\b((?:"[^"]*"|'[^']*'|[^<>"'])*)>|<!--/gi;
const IMPORT = /^[ \t]*import\b(?:[^;"'()]{0,1000}?\bfrom)?\s*(["'])[^"'\n]*\1[ \t]*;?/gm;

/** How many expressions of the markup are looked at, and how long one may be. */
const MOST = 2_000;
const LONGEST = 3_000;

/** A part of the file that is no markup. */
interface Block {
  kind: "script" | "style" | "comment";
  attributes: string;
  /** What it holds. */
  from: number;
  to: number;
  /** With its marks. */
  start: number;
  end: number;
}

/** Scripts, styles and comments; one that is not closed reaches to the end. */
function blocksOf(text: string): Block[] {
  const found: Block[] = [];
  OPENED.lastIndex = 0;
  for (let match = OPENED.exec(text); match; match = OPENED.exec(text)) {
    const kind = (match[1]?.toLowerCase() ?? "comment") as Block["kind"];
    const from = match.index + match[0].length;
    const close = kind === "comment" ? /-->/g : kind === "script" ? /<\/script\s*>/gi : /<\/style\s*>/gi;
    close.lastIndex = from;
    const end = close.exec(text);
    const to = end?.index ?? text.length;
    found.push({ kind, attributes: match[2] ?? "", from, to, start: match.index, end: end ? end.index + end[0].length : to });
    OPENED.lastIndex = found.at(-1)?.end ?? text.length;
  }
  return found;
}

/**
 * A component of Vue or Svelte as a script: its module as it is, what runs for each component that is made in a function that has the component's
 * name, and in it what the markup evaluates, hands over to events, and shows. Sources: vuejs.org, "SFC Syntax Specification", "Template Syntax";
 * svelte.dev, ".svelte files", "Basic markup".
 */
export function scriptOfSingleFile(text: string, name: string, form: "vue" | "svelte"): ComponentScript {
  const made = new Pieces(text);
  const parts = blocksOf(text);
  const blocks = parts.filter(({ kind }) => kind === "script");
  const svelte = /\bcontext\s*=|\bmodule\b/;
  const isVue = form === "vue";
  const perComponent = blocks.filter(({ attributes }) => (isVue ? /\bsetup\b/.test(attributes) : !svelte.test(attributes)));
  for (const block of blocks) {
    if (perComponent.includes(block)) continue;
    // What a file gives out is the component, whichever way its options are written.
    const given = perComponent.length > 0 ? -1 : text.slice(block.from, block.to).search(/\bexport\s+default\b/);
    made.take(block.from, given === -1 ? block.to : block.from + given);
    if (given === -1) continue;
    made.add("const options$ = ");
    made.take(block.from + given + (/^export\s+default\b/.exec(text.slice(block.from + given))?.[0].length ?? 0), block.to);
    made.add("\n");
  }
  // Files that the markup names are imported by the tool that builds the pages.
  for (const { from, to } of filesOf(text)) {
    made.add('import "');
    made.take(from, to);
    made.add('";\n');
  }
  const bodies = perComponent.flatMap(({ from, to }) => {
    const imports = [...text.slice(from, to).matchAll(IMPORT)].map((match) => ({
      from: from + match.index,
      to: from + match.index + match[0].length,
    }));
    for (const one of imports) {
      made.take(one.from, one.to);
      made.add("\n");
    }
    // What is left between them.
    return [{ from, to: from }, ...imports, { from: to, to }].flatMap((one, index, all) => {
      const next = all[index + 1];
      return next ? [{ from: one.to, to: next.from }] : [];
    });
  });
  const options = perComponent.length === 0 ? lifeCycleOf(text, blocks) : [];
  made.add(`\nexport default function ${name}() {\n`);
  for (const { from, to } of bodies) {
    made.take(from, to);
    made.add("\n");
  }
  for (const hook of options) made.add(`  ${hook}();\n`);
  for (const { text: expression, from, does } of markupOf(text, parts, isVue)) {
    if (does === "component") made.add(`  ${expression}();\n`);
    else {
      // A function, by its name or as it is written.
      const plain = /^[\w$.]+$|^(?:async\b\s*)?(?:\([^()]*\)|[\w$]+)\s*=>|^(?:async\s+)?function\b/.test(expression);
      made.add(does === "value" ? "  (" : plain ? "  onEvent(" : "  onEvent(() => { ");
      made.take(from, from + expression.length);
      made.add(does === "value" ? ");\n" : plain ? ");\n" : " });\n");
    }
  }
  made.add("}\n");
  return made;
}

/** Methods of a component's options that the framework calls. Source: vuejs.org, "Options: Lifecycle". */
function lifeCycleOf(text: string, blocks: readonly { from: number; to: number }[]): string[] {
  const code = blocks.map(({ from, to }) => text.slice(from, to)).join("\n");
  return ["setup", "data", "beforeCreate", "created", "beforeMount", "mounted", "activated"].filter((hook) =>
    new RegExp(`(?<![.\\w$])(?:async\\s+)?${hook}\\s*\\(|(?<![.\\w$])${hook}\\s*:\\s*(?:async\\s+)?(?:function|\\()`).test(code),
  );
}

/** What the markup says that the script runs. */
function markupOf(whole: string, parts: readonly Block[], isVue: boolean): Markup[] {
  let text = "";
  for (const { start, end } of parts) text += whole.slice(text.length, start) + " ".repeat(end - start);
  text += whole.slice(text.length);
  const found: Markup[] = [];
  const put = (expression: string, from: number, does: Markup["does"]): void => {
    // What is spread is a value like others.
    const lead = /^\s*(?:\.\.\.)?\s*/.exec(expression)?.[0].length ?? 0;
    const trimmed = expression.slice(lead).trim();
    if (trimmed !== "" && trimmed.length < LONGEST && found.length < MOST && isWhole(trimmed))
      found.push({ text: trimmed, from: from + lead, does });
  };
  for (const match of text.matchAll(/<([A-Z]\w*|[a-z]+(?:-[a-z0-9]+)+)\b/g)) {
    const tag = match[1] as string;
    const name = /^[A-Z]/.test(tag) ? tag : tag.replace(/(^|-)([a-z0-9])/g, (_, __, letter: string) => letter.toUpperCase());
    found.push({ text: name, from: match.index + 1, does: "component" });
  }
  if (isVue) ofVue(text, put);
  else ofSvelte(text, put);
  return found;
}

type Put = (expression: string, from: number, does: Markup["does"]) => void;

/** Directives and texts of Vue's templates. */
function ofVue(text: string, put: Put): void {
  for (const match of text.matchAll(/\s(@|v-on:|:|v-bind:|v-)([\w.:-]+(?:\[[^\]]*\])?)\s*=\s*(?:"([^"]*)"|'([^']*)')/g)) {
    const [all, mark = "", directive = ""] = match;
    const expression = match[3] ?? match[4] ?? "";
    const from = match.index + all.length - 1 - expression.length;
    if (mark === "@" || mark === "v-on:") put(expression, from, "handler");
    else if (mark === "v-" && /^for\b/.test(directive)) {
      const [, head = "", list = ""] = /^([\s\S]*?\s(?:in|of)\s)([\s\S]*)$/.exec(expression) ?? [];
      put(list, from + head.length, "value");
    } else if (mark !== "v-" || /^(if|else-if|show|model|html|text)\b/.test(directive)) put(expression, from, "value");
  }
  for (const match of text.matchAll(/\{\{([^{}]*(?:\{[^{}]*\}[^{}]*)*)\}\}/g)) put(match[1] as string, match.index + 2, "value");
}

/** Attributes, blocks and texts in brackets of Svelte's markup. */
function ofSvelte(text: string, put: Put): void {
  const opening = /([\w:|-]*)(=["']?)?\{/g;
  for (let seen = 0, match = opening.exec(text); match && seen < MOST; seen++, match = opening.exec(text)) {
    const open = match.index + match[0].length - 1;
    const near = text.slice(open, open + 10 * LONGEST);
    const inside = near.slice(1, closing(near, 0));
    // Brackets inside of it are the expression's own.
    opening.lastIndex = open + inside.length + 1;
    const does = match[2] !== undefined && /^on:?[a-z]/.test(match[1] as string) ? "handler" : "value";
    const block = /^\s*(?:[#:@]\w+(?:\s+if)?|\/\w+)\s*/.exec(inside);
    if (!block) put(inside, open + 1, does);
    else if (/^\s*(?:[#:](?:if|else\s+if|await|key)|@(?:html|render))/.test(inside))
      put(inside.slice(block[0].length).replace(/\s(?:then|catch)\s[\s\S]*$/, ""), open + 1 + block[0].length, "value");
    else if (/^\s*#each/.test(inside))
      put(inside.slice(block[0].length).replace(/\sas\s[\s\S]*$/, ""), open + 1 + block[0].length, "value");
  }
}

/** Files that elements show. Source: vuejs.org, "SFC Asset Handling"; vite.dev, "Static Asset Handling". */
function filesOf(text: string): { from: number; to: number }[] {
  return [
    ...text.matchAll(/<(?:img|source|video|audio|image)\b[^<>]*?\s(?:src|poster|href)\s*=\s*(["'])((?:\.{1,2}|@|~)\/[^"'{}\n]+)\1/g),
  ].map((match) => {
    const to = match.index + match[0].length - 1;
    return { from: to - (match[2] as string).length, to };
  });
}

/** Whether all brackets of an expression are closed in it: one that is not would take what stands behind it along. */
function isWhole(expression: string): boolean {
  const open: string[] = [];
  const pairs: Record<string, string> = { ")": "(", "]": "[", "}": "{" };
  for (const char of expression.replace(/"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*'|`(?:\\.|[^`\\])*`/g, ""))
    if ("([{".includes(char)) open.push(char);
    else if (char in pairs && open.pop() !== pairs[char]) return false;
  return open.length === 0;
}
