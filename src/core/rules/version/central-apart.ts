import type { App } from "../../model/app.js";
import { defineRule } from "../rule.js";

const project = (reference: string): string =>
  `<Project Sdk="Microsoft.NET.Sdk">
  <PropertyGroup>
    <TargetFrameworks>net9.0-android;net9.0-ios</TargetFrameworks>
    <OutputType>Exe</OutputType>
    <ApplicationId>example.maresia.lockkeeper</ApplicationId>
  </PropertyGroup>
  <ItemGroup>
    ${reference}
  </ItemGroup>
</Project>
`;
const central = (list: string) => ({
  "Directory.Packages.props": `<Project>
  <PropertyGroup>
    <ManagePackageVersionsCentrally>true</ManagePackageVersionsCentrally>
  </PropertyGroup>
  <ItemGroup>
${list}  </ItemGroup>
</Project>
`,
  "Lockkeeper.csproj": project('<PackageReference Include="Quaymap.Mobile" />'),
});

export const centralApart = defineRule({
  name: "version/central-apart",
  severity: "error",
  title: "A package does not match the central list of versions",
  looksAt:
    "Packages that projects refer to where their versions stand in one central list: those that the list leaves out, those that have a version of their own beside it, and those without any, also where nothing switches the list on.",
  silentFor: "Every app but those of .NET.",
  why: "The restore stops with an error on every machine; a version outside the list is often one that a merge left behind.",
  advice: "Put the version in the central list only; a project that needs another one uses an override.",
  examples: {
    reported: central('    <PackageVersion Include="Gullpost.Mobile" Version="5.0.0" />\n'),
    silent: central('    <PackageVersion Include="Quaymap.Mobile" Version="4.2.0" />\n'),
  },
  check({ app: { centralVersions } }) {
    return centralVersions.map(({ name, what, side, at, list }) => ({
      side,
      ...(what === "none at all" ? { severity: "warning" as const } : {}),
      ...WORDS[what](name),
      places: [at, list],
      subject: `${name} ${what}`,
    }));
  },
});

const WORDS: Record<App["centralVersions"][number]["what"], (name: string) => { message: string; fix: string }> = {
  "no version": (name) => ({
    message: `${name} has no version: the central list of versions does not contain it`,
    fix: `add ${name} to the central list`,
  }),
  "own version": (name) => ({
    message: `${name} has a version of its own, although versions are kept in a central list`,
    fix: `remove the version here, or use VersionOverride where ${name} has to differ`,
  }),
  "list switched off": (name) => ({
    message: `${name} has its version in a central list, which nothing switches on: it has none`,
    fix: "set ManagePackageVersionsCentrally to true in Directory.Packages.props",
  }),
  "none at all": (name) => ({
    message: `${name} has no version: the lowest that its source has is taken`,
    fix: `write the version of ${name}`,
  }),
};
