import { baseName, join, parentOf } from "../../model/paths.js";
import { compare } from "../../versions/nuget.js";
import { ROOT, type Scope, type Worked } from "./expression.js";

/** A method or property of a text: with its arguments, where it has brackets. */
export interface Called {
  name: string;
  arguments: readonly Worked[] | undefined;
}

type Work = (texts: string[]) => string | undefined;

const truth = (value: boolean): string => (value ? "True" : "False");
/** Separates the parts of `Split` until one is taken by its index; no text of XML has it. */
const PART = "\u0002";

/** Members of texts, by their names in lower case; the text comes first. Source: learn.microsoft.com, System.String. */
const MEMBERS: Readonly<Record<string, Work>> = {
  contains: ([text = "", part = ""]) => truth(text.includes(part)),
  startswith: ([text = "", part = ""]) => truth(text.startsWith(part)),
  endswith: ([text = "", part = ""]) => truth(text.endsWith(part)),
  equals: ([text, other]) => truth(text === other),
  replace: ([text = "", from = "", to = ""]) => (from === "" ? undefined : text.replaceAll(from, to)),
  tolower: ([text = ""]) => text.toLowerCase(),
  tolowerinvariant: ([text = ""]) => text.toLowerCase(),
  toupper: ([text = ""]) => text.toUpperCase(),
  toupperinvariant: ([text = ""]) => text.toUpperCase(),
  tostring: ([text, format]) => (format === undefined ? text : undefined),
  trim: ([text = "", of]) => trimmed(text, of, true, true),
  trimstart: ([text = "", of]) => trimmed(text, of, true, false),
  trimend: ([text = "", of]) => trimmed(text, of, false, true),
  length: ([text = ""]) => String(text.length),
  indexof: ([text = "", part = ""]) => String(text.indexOf(part)),
  lastindexof: ([text = "", part = ""]) => String(text.lastIndexOf(part)),
  substring: ([text = "", from = "", length]) => {
    const start = Number(from);
    const end = length === undefined ? text.length : start + Number(length);
    return Number.isInteger(start) && Number.isInteger(end) && start >= 0 && end >= start && end <= text.length
      ? text.slice(start, end)
      : undefined;
  },
  split: ([text = "", of = ""]) => (of.length === 1 ? text.split(of).join(PART) : undefined),
  "[]": ([text = "", index]) => (text.includes(PART) || index === "0" ? text.split(PART)[Number(index)] : undefined),
  padleft: ([text = "", width = "", of = " "]) => text.padStart(Number(width), of),
};

export function memberOf({ name }: Called): Work | undefined {
  return MEMBERS[name.toLowerCase()];
}

function trimmed(text: string, of: string | undefined, start: boolean, end: boolean): string {
  const drop = (character: string | undefined): boolean =>
    character !== undefined && (of === undefined ? /\s/.test(character) : of.includes(character));
  let from = 0;
  let to = text.length;
  if (start) while (from < to && drop(text[from])) from++;
  if (end) while (to > from && drop(text[to - 1])) to--;
  return text.slice(from, to);
}

const framework = (text: string): { identifier: string; version: string; platform: string; platformVersion: string } | undefined => {
  const modern = /^net(\d+)\.(\d+)(?:-([a-z]+)(\d[\d.]*)?)?$/i.exec(text);
  if (modern)
    return {
      identifier: Number(modern[1]) >= 5 ? ".NETCoreApp" : ".NETFramework",
      version: `${modern[1] as string}.${modern[2] as string}`,
      platform: (modern[3] ?? "").toLowerCase(),
      platformVersion: modern[4] ?? "",
    };
  const standard = /^netstandard(\d+\.\d+)$/i.exec(text);
  if (standard) return { identifier: ".NETStandard", version: standard[1] as string, platform: "", platformVersion: "" };
  return undefined;
};

/** Parts of a target framework's name. Source: learn.microsoft.com, "Target frameworks in SDK-style projects". */
export const frameworkParts = framework;

/**
 * Functions of types, by their names in lower case. Source: learn.microsoft.com, "Property functions" and "MSBuild property functions".
 * What asks the machine (the system, the environment, the time, the registry) is left out: nobody can tell.
 */
// eslint-disable-next-line complexity -- one case for each function
export function functionOf(name: string, scope: Scope): Work | undefined {
  const folderAbove = (from: string, file: string): string | undefined => {
    for (let current = scope.resolve(from); current !== undefined; current = parentOf(current)) {
      if (scope.exists(join(current, file))) return current;
      if (current === "" || current.startsWith("..")) return "none";
    }
    return undefined;
  };
  const inFolder = (folder: string | undefined): string | undefined =>
    folder === undefined ? undefined : folder === "none" ? "" : `${ROOT}${folder}`;
  const whole =
    (work: (numbers: number[]) => number): Work =>
    (texts) => {
      const numbers = texts.map(Number);
      return numbers.every(Number.isFinite) ? String(work(numbers)) : undefined;
    };
  const order =
    (fits: (sign: number) => boolean): Work =>
    ([a = "", b = ""]) =>
      truth(fits(compare(a.replace(/^v/, ""), b.replace(/^v/, ""))));
  // The outer build of several frameworks has none.
  const part =
    (of: "platform" | "platformVersion" | "identifier" | "version"): Work =>
    ([text = ""]) =>
      text === "" ? "" : framework(text)?.[of];
  switch (name.toLowerCase()) {
    case "msbuild::getpathoffileabove":
      return ([file = "", from = ""]) => {
        const folder = folderAbove(from, file);
        return folder === "none" ? "" : folder === undefined ? undefined : `${ROOT}${join(folder, file)}`;
      };
    case "msbuild::getdirectorynameoffileabove":
      return ([from = "", file = ""]) => inFolder(folderAbove(from, file));
    case "msbuild::gettargetplatformidentifier":
      return part("platform");
    case "msbuild::gettargetplatformversion":
      return part("platformVersion");
    case "msbuild::gettargetframeworkidentifier":
      return part("identifier");
    case "msbuild::gettargetframeworkversion":
      return part("version");
    case "msbuild::istargetframeworkcompatible":
      return ([text = "", with_ = ""]) => compatible(text, with_);
    case "msbuild::valueordefault":
      return ([text = "", other = ""]) => (text === "" ? other : text);
    case "msbuild::versionequals":
      return order((sign) => sign === 0);
    case "msbuild::versionnotequals":
      return order((sign) => sign !== 0);
    case "msbuild::versiongreaterthan":
      return order((sign) => sign > 0);
    case "msbuild::versiongreaterthanorequals":
      return order((sign) => sign >= 0);
    case "msbuild::versionlessthan":
      return order((sign) => sign < 0);
    case "msbuild::versionlessthanorequals":
      return order((sign) => sign <= 0);
    case "msbuild::add":
      return whole(([a = 0, b = 0]) => a + b);
    case "msbuild::subtract":
      return whole(([a = 0, b = 0]) => a - b);
    case "msbuild::multiply":
      return whole(([a = 0, b = 0]) => a * b);
    case "msbuild::ensuretrailingslash":
      return ([path = ""]) => (path === "" || /[\\/]$/.test(path) ? path : `${path}/`);
    case "msbuild::normalizepath":
    case "msbuild::normalizedirectory":
    case "system.io.path::getfullpath":
      return (parts) => {
        const path = scope.resolve(parts.join("/"));
        return path === undefined ? undefined : `${ROOT}${path}${name.toLowerCase().endsWith("directory") ? "/" : ""}`;
      };
    case "system.io.path::combine":
      return (parts) =>
        parts.reduce(
          (path, part) => (part.startsWith(ROOT) ? part : path === "" || /[\\/]$/.test(path) ? path + part : `${path}/${part}`),
          "",
        );
    case "system.io.path::getfilename":
      return ([path = ""]) => baseName(path.replaceAll("\\", "/"));
    case "system.io.path::getfilenamewithoutextension":
      return ([path = ""]) => baseName(path.replaceAll("\\", "/")).replace(/\.[^.]*$/, "");
    case "system.io.path::getextension":
      return ([path = ""]) => /\.[^.\\/]*$/.exec(path)?.[0] ?? "";
    case "system.io.path::getdirectoryname":
      return ([path = ""]) => parentOf(path.replaceAll("\\", "/").replace(/\/+$/, ""));
    case "system.io.file::exists":
    case "system.io.directory::exists":
      return ([path = ""]) => {
        const file = scope.resolve(path);
        return file === undefined ? undefined : truth(scope.exists(file));
      };
    case "system.io.file::readalltext":
      return ([path = ""]) => {
        const file = scope.resolve(path);
        return file === undefined ? undefined : scope.textOf(file);
      };
    case "system.string::isnullorempty":
      return ([text = ""]) => truth(text === "");
    case "system.string::isnullorwhitespace":
      return ([text = ""]) => truth(text.trim() === "");
    case "system.string::concat":
      return (texts) => texts.join("");
    case "system.string::equals":
      return ([a, b]) => truth(a === b);
    case "system.string::format":
      return ([form = "", ...rest]) =>
        /\{\d+[^}]/.test(form) ? undefined : form.replace(/\{(\d+)\}/g, (_, index) => rest[Number(index)] ?? "");
    default:
      return undefined;
  }
}

/** Whether a project for one framework can take what was made for another. */
function compatible(own: string, other: string): string | undefined {
  const [a, b] = [framework(own), framework(other)];
  if (!a || !b) return undefined;
  if (b.identifier === ".NETStandard") return truth(a.identifier !== ".NETStandard" || compare(a.version, b.version) >= 0);
  return truth(a.identifier === b.identifier && compare(a.version, b.version) >= 0 && (b.platform === "" || a.platform === b.platform));
}
