import { describe, expect, it } from "vitest";
import { evaluateProject, type Evaluated } from "../../src/core/evaluate/msbuild/evaluation.js";
import { readXml } from "../../src/core/syntax/xml.js";
import { Source } from "../../src/core/syntax/source.js";
import { shown } from "../helpers/memory.js";

type Files = Record<string, string>;

function evaluated(files: Files, globals: Record<string, string> = { Configuration: "Release" }): Evaluated {
  const project = evaluateProject(
    {
      load: (file) => (files[file] === undefined ? undefined : readXml(new Source(file, files[file])).root),
      exists: (path) => Object.keys(files).some((file) => file === path || file.startsWith(`${path}/`)),
      textOf: (file) => files[file],
      hasSolution: (folder) => Object.keys(files).some((file) => file.startsWith(folder) && file.endsWith(".sln")),
      memo: (_key, make) => make(),
    },
    "src/App/App.csproj",
    globals,
  );
  if (!project) throw new Error("no project");
  return project;
}

const project = (properties: string, more = "", files: Files = {}): Files => ({
  "src/App/App.csproj": `<Project><PropertyGroup>${properties}</PropertyGroup>${more}</Project>`,
  ...files,
});
const value = (properties: string, globals?: Record<string, string>): string =>
  shown(
    evaluated(
      project(properties, "", { "Harbour.sln": "", "mobile.props": "<Project />", "src/App/version.txt": "4.2.0" }),
      globals,
    ).property("X"),
  );

describe("properties", () => {
  it.each([
    ["the last statement counts", "<X>1</X><X>2</X>", "2"],
    ["what is stated before is put in", "<A>4</A><X>$(A).2</X><A>5</A>", "4.2"],
    ["names in any case", "<Quay>1</Quay><X>$(QUAY)</X>", "1"],
    ["one that nothing sets", "<X>a$(Nowhere)</X>", "unknown: the property Nowhere has no value in the files"],
    ["a default for one that nothing sets", "<X Condition=\"'$(X)' == ''\">1</X>", "1"],
    ["a default behind a value", "<X>2</X><X Condition=\" '$(X)'=='' \">1</X>", "2"],
    ["an unknown condition leaves both", "<X>1</X><X Condition=\"'$(Ci)' == 'true'\">2</X>", "either: 1, 2"],
    [
      "an unknown condition without a value before",
      "<X Condition=\"'$(Ci)' == 'true'\">2</X>",
      "either: 2, unknown: whether it is set depends on a condition that is not known",
    ],
    ["both ways are the same", "<X>1</X><X Condition=\"'$(Ci)' == 'true'\">1</X>", "1"],
    ["the machine is not known", "<X>1</X><X Condition=\"'$(OS)' == 'Windows_NT'\">2</X>", "either: 1, 2"],
    ["escapes", "<X>a%3Bb</X>", "a;b"],
    ["the folder of the file", "<X>$(MSBuildThisFileDirectory)a</X>", "src/App/a"],
    ["the folder of the solution", "<X>$(SolutionDir)a</X>", "a"],
    ["methods of texts", "<A>net9.0-android</A><X>$(A.Substring(3).Replace('-', '_').ToUpper())</X>", "9.0_ANDROID"],
    ["parts of a text", "<A>1.2.3</A><X>$(A.Split('.')[1])</X>", "2"],
    [
      "functions in functions",
      "<A>net9.0-ios17.2</A><X>$([MSBuild]::GetTargetPlatformIdentifier('$(A)'))$([MSBuild]::GetTargetPlatformVersion($(A)))</X>",
      "ios17.2",
    ],
    ["arithmetic", "<X>$([MSBuild]::Add(20, 4))</X>", "24"],
    ["a file above", "<X>$([MSBuild]::GetPathOfFileAbove('mobile.props', '$(MSBuildThisFileDirectory)../'))</X>", "mobile.props"],
    ["a file above that is not there", "<X>$([MSBuild]::GetPathOfFileAbove('other.props'))x</X>", "x"],
    ["the text of a file", "<X>$([System.IO.File]::ReadAllText('$(MSBuildProjectDirectory)/version.txt').Trim())</X>", "4.2.0"],
    ["what asks the machine", "<X>$([System.DateTime]::Now.Year)</X>", "unknown: Now is not worked out"],
    ["a list of items", "<X>@(Compile)</X>", "unknown: it is made of a list of items"],
    ["a bracket that is not closed", "<X>$(A</X>", "unknown: a bracket is not closed"],
    ["a bracket in quotes", "<A>a)b</A><X>$(A.Replace(')', '('))</X>", "a(b"],
    ["nested without end", `<X>${"$(A.Trim(".repeat(3)}${"))".repeat(3)}</X>`, "unknown"],
  ])("%s", (_, properties, expected) => {
    expect(value(properties)).toContain(expected);
  });

  it("what the build is started with wins over what files state", () => {
    expect(value("<X>1</X>", { x: "2" })).toBe("2");
  });

  it("doubling ends", () => {
    expect(value(`<A>x</A>${"<A>$(A)$(A)</A>".repeat(60)}<X>$(A)</X>`)).toBe("unknown: the value is too long");
  });

  it("choices do not multiply without end", () => {
    const choices = Array.from(
      { length: 12 },
      (_, index) => `<A${index}>1</A${index}><A${index} Condition="'$(Ci)' == 'x'">2</A${index}>`,
    ).join("");
    expect(value(`${choices}<X>${Array.from({ length: 12 }, (_, index) => `$(A${index})`).join("")}</X>`)).toBe(
      "unknown: it can have too many values",
    );
  });
});

describe("conditions", () => {
  it.each([
    ["'a' == 'A'", "yes"],
    ["'1.0' == '1'", "yes"],
    ["'a' != 'b' and !('a' == 'b')", "yes"],
    ["'a' == 'b' or 'c' == 'c'", "yes"],
    ["'a' == 'b' or 'c' == 'c' and 'd' == 'e'", "no"],
    ["10 > 9", "yes"],
    ["'10' &gt;= '9'", "yes"],
    ["'$(Configuration)|$(Platform)' == 'Release|AnyCPU'", "yes"],
    ["$(Configuration.StartsWith('Rel'))", "yes"],
    ["$(Configuration.StartsWith('Rel')) == 'false'", "no"],
    ["Exists('mobile.props')", "no"],
    ["Exists('../../mobile.props') and !Exists('$(MSBuildThisFileDirectory)nothing')", "yes"],
    ["HasTrailingSlash('a/')", "yes"],
    ["'$(Nowhere)' == ''", "yes"],
    ["'$(Nowhere)' == 'a'", "either"],
    ["'$(Nowhere)' == 'a' and 'a' == 'b'", "no"],
    ["'$(Nowhere)' == 'a' or 'a' == 'a'", "yes"],
    ["$([MSBuild]::IsOSPlatform('windows'))", "either"],
    ["$([MSBuild]::VersionGreaterThanOrEquals('9.0', '10.0'))", "no"],
    ["'$([System.Text.RegularExpressions.Regex]::IsMatch(`a`, `b`))' == 'True'", "either"],
    ["no condition at all (", "either"],
  ])("%s", (condition, expected) => {
    const files = project("<Platform>AnyCPU</Platform><X>no</X>", `<PropertyGroup Condition="${condition}"><X>yes</X></PropertyGroup>`, {
      "mobile.props": "<Project />",
    });
    const found = shown(evaluated(files).property("X"));
    expect(found.startsWith("either") ? "either" : found).toBe(expected);
  });
});

describe("files and items", () => {
  const itemsOf = (files: Files): string[] =>
    evaluated(files).items.map(({ kind, does, include, open }) => `${kind} ${does} ${include}${open ? " perhaps" : ""}`);

  it("shared files above the project come before it and after it, the nearest alone", () => {
    const files = project("<X>$(X)2</X>", '<ItemGroup><A Include="$(X)" /></ItemGroup>', {
      "Directory.Build.props": "<Project><PropertyGroup><X>0</X></PropertyGroup></Project>",
      "src/Directory.Build.props": "<Project><PropertyGroup><X>1</X></PropertyGroup></Project>",
      "Directory.Build.targets": "<Project><PropertyGroup><X>$(X)3</X></PropertyGroup></Project>",
    });
    expect(shown(evaluated(files).property("X"))).toBe("123");
    // Items see the properties as they are in the end.
    expect(itemsOf(files)).toEqual(["A include 123"]);
  });

  it("imports are taken where they stand, each once, and a circle ends", () => {
    const files = project(
      "<X>1</X>",
      '<Import Project="../a.props" /><PropertyGroup><X>$(X)$(Y)</X></PropertyGroup><Import Project="gone.props" />',
      {
        "src/a.props": '<Project><PropertyGroup><Y>$(X)!</Y></PropertyGroup><Import Project="b.props" /></Project>',
        "src/b.props": '<Project><Import Project="a.props" /></Project>',
      },
    );
    expect(shown(evaluated(files).property("X"))).toBe("11!");
    expect(evaluated(files).imports.map(({ file, exists }) => `${file ?? ""} ${String(exists)}`)).toContain("src/App/gone.props false");
  });

  it("the first branch that holds, and those behind one that may", () => {
    const choose = (first: string) =>
      `<Choose><When Condition="${first}"><ItemGroup><A Include="1" /></ItemGroup></When><When Condition="'a' == 'a'"><ItemGroup><A Include="2" /></ItemGroup></When><Otherwise><ItemGroup><A Include="3" /></ItemGroup></Otherwise></Choose>`;
    expect(itemsOf(project("", choose("'a' == 'b'")))).toEqual(["A include 2"]);
    expect(itemsOf(project("", choose("'$(Ci)' == 'b'")))).toEqual(["A include 1 perhaps", "A include 2 perhaps"]);
  });

  it("lists of names, and paths of the file that is taken in", () => {
    const files = project(
      "<X>a;b</X>",
      '<Import Project="..\\shared\\s.projitems" /><ItemGroup><A Include="$(X);c" /><B Remove="x\\*.json" /></ItemGroup>',
      {
        "src/shared/s.projitems": '<Project><ItemGroup><Compile Include="$(MSBuildThisFileDirectory)One.cs" /></ItemGroup></Project>',
      },
    );
    expect(itemsOf(files)).toEqual(["Compile include src/shared/One.cs", "A include a", "A include b", "A include c", "B remove x/*.json"]);
  });
});
