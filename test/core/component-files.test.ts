import { beforeAll, describe, expect, it } from "vitest";
import { loadGrammars } from "../../src/core/syntax/code/grammars.js";
import { readCode } from "../../src/core/syntax/code/index.js";
import { codeOfComponent } from "../../src/core/syntax/components/index.js";

/** What a component's file calls, each with the text at its place in the file. */
function callsOf(text: string, form: "vue" | "svelte"): { callee: string; closures: string[]; at: string }[] {
  const script = codeOfComponent(text, "Page", `Page.${form}`, []);
  const code = readCode("typescript", script.text);
  expect(code?.errors).toEqual([]);
  return (code?.calls ?? []).map(({ callee, closures, at }) => ({
    callee,
    closures,
    at: /^[\w$]*/.exec(text.slice(script.offsetOf(at)))?.[0] ?? "",
  }));
}

const names = (text: string, form: "vue" | "svelte"): string[] =>
  callsOf(text, form).map(({ callee, closures }) => [callee, ...closures].join(" in "));

describe("files that hold a component whole", () => {
  beforeAll(() => loadGrammars(["typescript"]));

  it("keep the module's code apart from what runs for each component", () => {
    const { text } = codeOfComponent(
      '<script lang="ts">\nexport const title = "a";\n</script>\n<script setup lang="ts">\nimport { start } from "./start";\nstart();\n</script>\n',
      "Page",
      "Page.vue",
      [],
    );
    expect(text).toMatch(
      /^\s*export const title = "a";\s*import \{ start \} from ".\/start";\s*export default function Page\(\) \{\s*start\(\);/,
    );
  });

  it("give what Vue's markup evaluates, hands over and shows", () => {
    const text =
      '<script setup>\nimport Berth from "./Berth.vue";\nconst go = () => quaymap.go();\n</script>\n<template>\n  <Berth v-for="one in all()" :key="one.id" @open="go" />\n  <tide-level v-if="a < level()" @click.stop="(event) => show(event)" @press="first(); second()">{{ shown(1) }}</tide-level>\n  <img src="@/pier.png" />\n</template>\n';
    expect(names(text, "vue")).toEqual([
      "quaymap.go",
      "Berth",
      "TideLevel",
      "all",
      "onEvent",
      "level",
      "onEvent",
      "show in onEvent",
      "onEvent",
      "first in onEvent",
      "second in onEvent",
      "shown",
    ]);
    for (const { callee, at } of callsOf(text, "vue"))
      if (!/^(onEvent|Berth|TideLevel)$/.test(callee)) expect(at).toBe(callee.split(".").at(-1));
    expect(codeOfComponent(text, "Page", "Page.vue", []).text).toContain('import "@/pier.png";');
  });

  it("give what Svelte's markup evaluates, hands over and shows", () => {
    const text =
      "<script>\n  let { open, ...rest } = $props();\n  start();\n</script>\n<Button {...rest} onclick={go} on:press={() => { if (open) shut(); }} class:low={low(open)} />\n{#if open}\n  {#await load() then page}<Page {page} />{/await}\n{:else}{@html render({ a: 1 })}{/if}\n{#each rows() as row, i (row.id)}{row.name}{/each}\n<style>a { color: red }</style>\n";
    expect(names(text, "svelte")).toEqual([
      "$props",
      "start",
      "Button",
      "Page",
      "onEvent",
      "onEvent",
      "shut in onEvent",
      "low",
      "load",
      "render",
      "rows",
    ]);
    for (const { callee, at } of callsOf(text, "svelte")) if (!/^(onEvent|Button|Page)$/.test(callee)) expect(at).toBe(callee);
  });

  it("call the hooks of a component's options", () => {
    expect(names("<script>\nexport default {\n  created() { start(); },\n  methods: { idle() {} },\n};\n</script>\n", "vue")).toEqual([
      "start",
      "created",
    ]);
  });

  it("end, whatever is not closed", () => {
    for (const text of [
      "<script setup>\nstart(",
      '<template><a @click="go(',
      "{#if a}{b(",
      "<!--<script>start()</script>",
      "<style><script>a()</script>",
    ])
      expect(() => readCode("typescript", codeOfComponent(text, "Page", "Page.vue", []).text)).not.toThrow();
    expect(names("<!-- <script setup>start()</script> --><template/>", "vue")).toEqual([]);
  });
});
