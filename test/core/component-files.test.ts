import { beforeAll, describe, expect, it } from "vitest";
import { loadGrammars } from "../../src/core/syntax/code/grammars.js";
import { readCode } from "../../src/core/syntax/code/index.js";
import { codeOfComponent, codeOfPage } from "../../src/core/syntax/components/index.js";

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

/** Whether each call stands where the file has it, but for those that the markup only brings about. */
function expectPlaces(text: string, form: "vue" | "svelte", brought: RegExp): void {
  for (const { callee, at } of callsOf(text, form)) if (!brought.test(callee)) expect(at).toBe(callee.split(".").at(-1));
}

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
    expectPlaces(text, "vue", /^(onEvent|Berth|TideLevel)$/);
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
    expectPlaces(text, "svelte", /^(onEvent|Button|Page)$/);
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

  const steps = ["OnInitialized", "BuildRenderTree"];
  const razor = (text: string): string => codeOfComponent(text, "Board", "Board.razor", steps).text;

  it("come to the part of a class that the compiler makes of Razor", () => {
    const code = razor(
      '@page "/board/{Pier}"\n@using Maresia.Piers\n@inherits PierBase\n@implements IDisposable\n@inject IMaps Maps\n@typeparam T\n<h1>@Pier and @(Rows.Count - 1) more, ask crew@maresia.example, @@home</h1>\n@code {\n  [Parameter] public string Pier { get; set; }\n  void Go() { Maps.Begin(); }\n}\n',
    );
    expect(code).toContain('using Maresia.Piers;\n[Route("/board/{Pier}")]\npublic partial class Board<T> : PierBase, IDisposable');
    expect(code).toContain("[Inject] public IMaps Maps { get; set; }");
    expect(code).toContain("void Go() { Maps.Begin(); }");
    expect([...code.matchAll(/Show\((.*)\);/g)].map((match) => match[1])).toEqual(["Pier", "Rows.Count - 1"]);
  });

  it("evaluate, hand over and show what Razor's markup says, each once", () => {
    const code = razor(
      '@if (deep)\n{\n  <p>Don\'t</p>\n  @foreach (var one in Load())\n  {\n    Note(one);\n    <Card @key="one" OnPick="@(x => Pick(x))" @onclick="Go" @bind-Value="one.Name" Kind="typeof(Gate)" />\n    <Card />\n  }\n}\n@* @Never() *@ <!-- @Nor() -->\n<button @onclick="async () => await Send()">@await Title()</button>\n',
    );
    expect(code.match(/new Card\(\)\.\w+/g)).toEqual(["new Card().OnInitialized", "new Card().BuildRenderTree"]);
    expect(code.match(/Note\(one\);/g)).toHaveLength(1);
    for (const part of [
      "Show(deep);",
      "Show( Load());",
      "OnEvent(x => Pick(x));",
      "OnEvent(Go);",
      "Show(typeof(Gate));",
      "OnEvent(async () => await Send());",
      "await Title();",
    ])
      expect(code).toContain(part);
    expect(code).not.toMatch(/Never|Nor/);
  });

  it("are read in C# without an error, at their places", async () => {
    await loadGrammars(["csharp"]);
    const text =
      "@inject IMaps Maps\n<p>@Maps.Title(1)</p>\n@code {\n  protected override void OnInitialized()\n  {\n    Maps.Begin();\n  }\n}\n";
    const made = codeOfComponent(text, "Board", "Board.razor", steps);
    const code = readCode("csharp", made.text);
    expect(code?.errors).toEqual([]);
    expect(
      code?.calls
        .filter(({ callee }) => callee.startsWith("Maps"))
        .map(({ callee, at }) => `${callee} ${text.slice(made.offsetOf(at)).slice(0, 5)}`),
    ).toEqual(["Maps.Begin Begin", "Maps.Title Title"]);
    for (const broken of ["@code {", "@if (", "@foreach (var x in", "@(", "<A @onclick='", "@{ ".repeat(3_000)])
      expect(razor(broken)).toContain("partial class Board");
  });

  it("a page comes to its scripts and the handlers of its elements", () => {
    const text =
      '<!-- <script>gone()</script> --><body onload="App.begin()"><script src="a.js">not()</script><script>App.start();</script><script type="text/template"><b>{{x}}</b></script><a onclick=\'go("x")\'>x</a></body>';
    const page = codeOfPage(text);
    expect(page?.text).toBe(
      'App.start();\nwindow.addEventListener("load", function () { App.begin() });\nwindow.addEventListener("click", function () { go("x") });\n',
    );
    expect(text.slice(page?.offsetOf(page.text.indexOf("go(")))).toMatch(/^go\(/);
    expect(codeOfPage('<p title="a">x</p><script src="b.js"></script>')).toBeUndefined();
  });
});
