import { expect, it } from "vitest";
import { linkingExample } from "../../src/core/rules/native/examples.js";
import { tracesOf } from "../helpers/memory.js";

it("codegen settings of an installed package are a derived need, held against the version of React Native", async () => {
  const wires = async (version: string) => {
    const files = linkingExample();
    files["package.json"] = (files["package.json"] ?? "").replace("0.80.0", version);
    files["node_modules/chart-deck/package.json"] =
      '{ "name": "chart-deck", "version": "2.0.0", "codegenConfig": { "name": "ChartDeckSpec", "type": "modules", "jsSrcsDir": "src" } }';
    const { traces } = await tracesOf(files, "chart-deck");
    return traces[0]?.sides.flatMap(({ side, wires: list }) =>
      list.filter(({ wanted }) => wanted === "ChartDeckSpec").map(({ state, need }) => `${side} ${state} ${need.derived ?? ""}`),
    );
  };
  expect(await wires("0.80.0")).toEqual([
    "android connected codegen settings of chart-deck",
    "ios connected codegen settings of chart-deck",
  ]);
  expect(await wires("0.66.4")).toEqual(["android unneeded codegen settings of chart-deck", "ios unneeded codegen settings of chart-deck"]);
  expect(await wires("^0.80.0")).toEqual(["android unknown codegen settings of chart-deck", "ios unknown codegen settings of chart-deck"]);
});
