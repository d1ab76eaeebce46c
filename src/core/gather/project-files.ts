import { isInstalled } from "../model/paths.js";
import { startOf } from "../model/place.js";
import type { Data, DataFile } from "../syntax/data.js";
import { readJson } from "../syntax/json.js";
import { readLockYaml } from "../syntax/lock-yaml.js";
import { isBinaryPlist, readPlist } from "../syntax/plist.js";
import { readProperties } from "../syntax/properties.js";
import type { Script } from "../syntax/script/ast.js";
import { parseScript } from "../syntax/script/parser.js";
import { parseRuby } from "../syntax/script/ruby.js";
import { Source, type Problem } from "../syntax/source.js";
import { readToml } from "../syntax/toml.js";
import { readXcconfig, type XcconfigFile } from "../syntax/xcconfig.js";
import { readXml, type XmlFile } from "../syntax/xml.js";
import { readYaml } from "../syntax/yaml.js";
import { ArchivesTree } from "../files/archives.js";
import type { FileTree } from "../files/tree.js";
import type { MavenStore } from "./packages/maven-store.js";

/** A file that could not be read or parsed in full. */
export interface Unreadable extends Problem {
  file: string;
}

const MB = 1024 * 1024;

/** The largest file that is read in each form, in MB: some ten times the largest that was seen in real projects. */
const LARGEST = { text: 24, json: 12, yaml: 2, lock: 12, toml: 1, plist: 24, properties: 4, xml: 8, xcconfig: 2, script: 2 };

/**
 * The files of a run: each is read once and parsed once, whoever asks. Problems are collected here; files of installed packages
 * (under `node_modules`, `Pods`) are nobody's to mend, so theirs are left out.
 */
export class ProjectFiles {
  readonly tree: FileTree;
  readonly unreadable: Unreadable[] = [];
  filesRead = 0;
  private readonly cache = new Map<string, unknown>();

  /** @param stores where packages lie that were fetched, outside of the project */
  constructor(
    tree: FileTree,
    readonly stores: readonly MavenStore[] = [],
  ) {
    this.tree = new ArchivesTree(tree);
  }

  private parsed<T>(
    file: string,
    form: keyof typeof LARGEST,
    read: (source: Source, bytes: Uint8Array) => { value: T; problems: Problem[] },
  ): T | undefined {
    const key = `${form}\0${file}`;
    if (this.cache.has(key)) return this.cache.get(key) as T | undefined;
    let value: T | undefined;
    const result = this.tree.isFile(file) ? this.tree.read(file) : undefined;
    if (result?.ok) {
      this.filesRead++;
      const { bytes } = result;
      if (bytes.length > LARGEST[form] * MB) {
        this.report(file, [{ message: `too large for such a file (over ${LARGEST[form]} MB); it is not read`, place: startOf(file) }]);
        this.cache.set(key, undefined);
        return undefined;
      }
      const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString("utf8");
      const source = new Source(file, text);
      if (text.includes("\0") && !isBinaryPlist(bytes))
        this.report(file, [source.problem("binary data in a text file", text.indexOf("\0"))]);
      else {
        const parsed = this.guarded(source, () => read(source, bytes));
        value = parsed.value;
        const marks = conflictMarks(text);
        if (marks !== undefined) this.report(file, [source.problem("has unresolved merge markers: resolve the conflict", marks)]);
        else if (hasTemplateMarks(text))
          this.report(
            file,
            parsed.problems.map((problem) => ({ ...problem, template: true })),
          );
        else this.report(file, parsed.problems);
      }
    } else if (result) this.report(file, [{ message: `cannot be read: ${result.why}`, place: startOf(file) }]);
    this.cache.set(key, value);
    return value;
  }

  /** A reader that meets what it was not made for gives up its own file, and no other. */
  private guarded<T>(source: Source, read: () => { value: T; problems: Problem[] }): { value: T | undefined; problems: Problem[] } {
    try {
      return read();
    } catch (error) {
      const why = error instanceof RangeError ? "it is nested too deeply or too long" : (error as Error).message;
      return { value: undefined, problems: [source.problem(`cannot be read: ${why}`, 0)] };
    }
  }

  private report(file: string, problems: Problem[]): void {
    if (problems.length === 0 || isInstalled(file) || this.unreadable.some((told) => told.file === file)) return;
    for (const problem of problems.slice(0, 3)) this.unreadable.push({ ...problem, file });
  }

  /** Something in a file that no tool could read either, found by whoever makes sense of it. */
  complain(problem: Unreadable): void {
    this.report(problem.file, [problem]);
  }

  text(file: string): Source | undefined {
    return this.parsed(file, "text", (source) => ({ value: source, problems: [] }));
  }

  json(file: string): DataFile | undefined {
    return this.parsed(file, "json", (source) => data(readJson(source)));
  }

  yaml(file: string): DataFile | undefined {
    return this.parsed(file, "yaml", (source) => data(readYaml(source)));
  }

  lockYaml(file: string): DataFile | undefined {
    return this.parsed(file, "lock", (source) => data(readLockYaml(source)));
  }

  toml(file: string): DataFile | undefined {
    return this.parsed(file, "toml", (source) => data(readToml(source)));
  }

  plist(file: string): DataFile | undefined {
    return this.parsed(file, "plist", (source, bytes) => data(readPlist(source, bytes)));
  }

  properties(file: string): Data | undefined {
    return this.parsed(file, "properties", (source) => ({ value: readProperties(source), problems: [] }));
  }

  xml(file: string): XmlFile | undefined {
    return this.parsed(file, "xml", (source) => {
      const value = readXml(source);
      return { value, problems: value.problems };
    });
  }

  xcconfig(file: string): XcconfigFile | undefined {
    return this.parsed(file, "xcconfig", (source) => {
      const value = readXcconfig(source);
      return { value, problems: value.problems };
    });
  }

  /** A build script: Gradle (Groovy, Kotlin), Ruby, Swift manifest or JavaScript settings, by its name unless whoever names it knows better. */
  script(file: string, language?: "ruby" | "groovy"): Script | undefined {
    return this.parsed(file, "script", (source) => {
      const value = language === "ruby" ? parseRuby(source) : readScript(source);
      return { value, problems: value.problems };
    });
  }
}

function readScript(source: Source): Script {
  const { file } = source;
  if (/(^|\/)(Podfile|Gemfile|Fastfile)$|\.(rb|podspec)$/.test(file)) return parseRuby(source);
  if (file.endsWith(".swift")) return parseScript(source, "swift");
  if (/\.kts?$/.test(file)) return parseScript(source, "kotlin");
  if (/\.[cm]?[jt]sx?$/.test(file)) return parseScript(source, "javascript");
  return parseScript(source, "groovy");
}

/** Where the marks of a merge that was not finished begin. Source: git-scm.com, git-merge, "How conflicts are presented". */
function conflictMarks(text: string): number | undefined {
  if (!text.includes("<<<<<<< ")) return undefined;
  const start = /^<<<<<<< /m.exec(text);
  return start && /^>>>>>>> /m.test(text.slice(start.index)) ? start.index : undefined;
}

function data(file: DataFile): { value: DataFile; problems: Problem[] } {
  return { value: file, problems: file.problems };
}

/** Marks of template engines; such a file is a template, not a mistake. */
function hasTemplateMarks(text: string): boolean {
  return /<%=?\s|\{\{\s*[\w.]+\s*\}\}|\{%\s|\*\*[A-Z][A-Z_]+\*\*/.test(text);
}
