import { uniquePlaces } from "../../model/place.js";
import { defineRule } from "../rule.js";

const app = (library: string) => ({
  "Lockkeeper/Lockkeeper.csproj": `<Project Sdk="Microsoft.NET.Sdk">
  <PropertyGroup>
    <TargetFrameworks>net8.0-android;net8.0-ios</TargetFrameworks>
    <OutputType>Exe</OutputType>
    <ApplicationId>example.maresia.lockkeeper</ApplicationId>
  </PropertyGroup>
  <ItemGroup>
    <ProjectReference Include="..\\Bookings\\Bookings.csproj" />
  </ItemGroup>
</Project>
`,
  "Bookings/Bookings.csproj": `<Project Sdk="Microsoft.NET.Sdk">
  <PropertyGroup>
    <TargetFramework>${library}</TargetFramework>
  </PropertyGroup>
</Project>
`,
});

export const frameworkApart = defineRule({
  name: "level/framework-apart",
  severity: "error",
  title: "A library targets a newer framework than the app",
  looksAt: "The target frameworks of the projects that an app refers to, against the app's own for each side.",
  silentFor: "Every app but those of .NET.",
  why: "The restore fails for the side that is behind, and only for that side: often the one that nobody builds every day.",
  advice: "Raise the app's framework, or let the library target the app's too.",
  examples: { reported: app("net9.0"), silent: app("net8.0") },
  check({ app: { unfitProjects } }) {
    // A library that no side can take in is one mistake.
    const byProject = new Map<string, (typeof unfitProjects)[number][]>();
    for (const unfit of unfitProjects) byProject.set(unfit.project, [...(byProject.get(unfit.project) ?? []), unfit]);
    return [...byProject].flatMap(([project, found]) => {
      const [first] = found;
      if (!first) return [];
      const wanted = found.map((unfit) => unfit.wanted).join(" and ");
      return {
        side: found.length > 1 ? ("shared" as const) : first.side,
        message: `${project} targets ${first.offers}, but the app is built for ${wanted}`,
        fix: `let ${project} target ${wanted} too, or an older framework, or raise the app's`,
        places: uniquePlaces([first.at, ...found.map(({ owner }) => owner)]),
        subject: `${project} ${found.map(({ side }) => side).join(" ")}`,
      };
    });
  },
});
