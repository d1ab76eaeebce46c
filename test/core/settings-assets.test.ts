import { describe, expect, it } from "vitest";
import { reportOf, tracesOf } from "../helpers/memory.js";
import type { Files } from "../helpers/mistakes.js";
import { unpacked } from "../helpers/unity-apps.js";

const ASSET = "games/regatta/Assets/Resources/TollbuoySettings.asset";
const SHEET = "enredo/sheets/tollbuoy.sdk.yaml";
const KEY = `  - { on: both, key: { name: key, shape: "tb_[0-9a-f]{8}", in: [asset: TollbuoySettings.key], sameOnBothSides: true } }\n`;
const unity: Files = { ...unpacked, [SHEET]: String(unpacked[SHEET]) + KEY };

const dotnet = (item: string, json: string) => ({
  "Pilot.csproj": `<Project Sdk="Microsoft.NET.Sdk">\n  <PropertyGroup>\n    <TargetFrameworks>net9.0-android;net9.0-ios</TargetFrameworks>\n    <OutputType>Exe</OutputType>\n    <UseMaui>true</UseMaui>\n    <ApplicationId>example.maresia.pilot</ApplicationId>\n  </PropertyGroup>\n  <ItemGroup>\n    <PackageReference Include="Tollbuoy.Maui" Version="5.1.0" />\n    ${item}\n  </ItemGroup>\n</Project>\n`,
  "appsettings.json": json,
  [SHEET]: `sdk: tollbuoy\npackages:\n  nuget: Tollbuoy.Maui\nneeds:\n  - { on: both, key: { name: key, shape: "tb_[0-9a-f]{8}", in: [asset: appsettings.Tollbuoy.Key], sameOnBothSides: true } }\n`,
});

async function keyStates(files: Record<string, string | Uint8Array>): Promise<string[]> {
  const { traces } = await tracesOf(files as Record<string, string>, "tollbuoy");
  return traces.flatMap(({ sides }) =>
    sides.flatMap(({ side, wires }) =>
      wires.filter(({ need }) => need.kind === "key").map(({ state, problem }) => `${side} ${state} ${problem ?? ""}`.trim()),
    ),
  );
}

describe("keys in settings assets", () => {
  it("are read from a field of a settings asset in Unity", async () => {
    expect(await keyStates(unity)).toEqual(["android connected", "ios connected"]);
  });

  it("that are empty, of another shape or gone are told at the asset", async () => {
    const asset = String(unity[ASSET]);
    expect(await keyStates({ ...unity, [ASSET]: asset.replace("key: tb_99aa88bb", "key: ") })).toEqual([
      "android missing empty",
      "ios missing empty",
    ]);
    const report = await reportOf({ ...unity, [ASSET]: asset.replace("tb_99aa88bb", "tb-99") });
    expect(report.findings.map(({ rule, places }) => `${rule} ${places[0]?.file ?? ""}:${places[0]?.line ?? 0}`)).toContain(
      `key/shape ${ASSET}:12`,
    );
    expect(await keyStates(Object.fromEntries(Object.entries(unity).filter(([file]) => file !== ASSET)))).toEqual([
      "android missing absent",
      "ios missing absent",
    ]);
  });

  it("are read from JSON that a .NET app takes in, on the sides that take it in", async () => {
    const json = '{\n  "Tollbuoy": { "Key": "tb_0a1b2c3d" }\n}\n';
    expect(await keyStates(dotnet('<MauiAsset Include="appsettings.json" />', json))).toEqual(["android connected", "ios connected"]);
    expect(await keyStates(dotnet('<EmbeddedResource Include="appsettings.json" />', json))).toEqual([
      "android connected",
      "ios connected",
    ]);
    expect(
      await keyStates(dotnet(`<MauiAsset Include="appsettings.json" Condition="$(TargetFramework.Contains('-ios'))" />`, json)),
    ).toEqual(["android missing absent", "ios connected"]);
    expect(await keyStates(dotnet("", json))).toEqual(["android missing absent", "ios missing absent"]);
  });
});
