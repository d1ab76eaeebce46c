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
    "Packages that projects refer to where their versions stand in one central list: those that the list leaves out, and those that have a version of their own beside it.",
  silentFor: "Every app but those of .NET whose projects switch central package management on.",
  why: "The restore stops with an error on every machine; a version outside the list is often one that a merge left behind.",
  advice: "Put the version in the central list only; a project that needs another one uses an override.",
  examples: {
    reported: central('    <PackageVersion Include="Gullpost.Mobile" Version="5.0.0" />\n'),
    silent: central('    <PackageVersion Include="Quaymap.Mobile" Version="4.2.0" />\n'),
  },
  check({ app: { centralVersions } }) {
    return centralVersions.map(({ name, what, side, at, list }) => ({
      side,
      message:
        what === "no version"
          ? `${name} has no version: the central list of versions does not contain it`
          : `${name} has a version of its own, although versions are kept in a central list`,
      fix:
        what === "no version"
          ? `add ${name} to the central list`
          : `remove the version here, or use VersionOverride where ${name} has to differ`,
      places: [at, list],
      subject: `${name} ${what}`,
    }));
  },
});
