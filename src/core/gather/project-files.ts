import { isInstalled } from "../model/paths.js";
import { startOf } from "../model/place.js";
import { reasonText } from "../model/reason.js";
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
import { KeptPart, type Unreadable } from "./kept-part.js";
import { MARK, type FileTree, type KeptValues, type LoggedTree } from "../files/tree.js";

const MB = 1024 * 1024;

/** The largest file that is read in each form, in MB: some ten times the largest that was seen in real projects. */
const LARGEST = { text: 24, json: 12, yaml: 2, lock: 12, toml: 1, plist: 24, properties: 4, xml: 8, xcconfig: 2, script: 2 };

/** Begins the key of what is wrong in a file that was found otherwise than by parsing it. */
const PROBLEM = "problem ";

/**
 * The files of a run: each is read once and parsed once, whoever asks. Problems are collected here; files of installed packages
 * (under `node_modules`, `Pods`) are nobody's to mend, so theirs are left out.
 */
export class ProjectFiles {
  readonly tree: LoggedTree;
  readonly unreadable: Unreadable[] = [];
  private readonly cache = new Map<string, { value: unknown; asks: readonly string[] }>();
  /** Files that were read, each by the form in which it was parsed, and what is wrong in them. */
  private readonly read = new Map<string, Unreadable[]>();
  /** Lists that a tool writes, by their paths. */
  private readonly laid = new Map<string, DataFile>();

  /**
   * @param packageFolders where packages lie that were fetched, outside of the project, as paths from its root
   * @param kept what earlier runs made of parts of the project
   */
  constructor(
    tree: FileTree,
    readonly packageFolders: readonly string[] = [],
    readonly kept?: KeptValues | undefined,
  ) {
    this.tree = new ArchivesTree(tree);
  }

  /** Stands for the settings and the sheets, on which all rests. */
  foundation: readonly string[] = [];
  /** How many files were read, in each form in which they were parsed. */
  filesRead = 0;

  /**
   * What is worked out once per run, whoever asks: who asks again rests on the same files.
   * @param key what it is, and of which file or folder
   */
  memo<T>(key: string, make: () => T): T {
    const { log } = this.tree;
    let known = this.cache.get(key);
    if (known) log?.again(known.asks);
    else this.cache.set(key, (known = log ? log.logged(make) : { value: make(), asks: [] }));
    return known.value as T;
  }

  /** What some work asked of the files, nothing where nobody keeps count. */
  logged<T>(work: () => T): { value: T; asks: readonly string[] } {
    return this.tree.log?.logged(work) ?? { value: work(), asks: [] };
  }

  /**
   * Plain data that is made of files, taken over from an earlier run where nothing that it rests on changed. What is wrong in the files that it
   * was made of is told as if they had been read.
   * @param inputs all that it rests on besides files
   * @param make makes it; what it gives back is kept at the end of the run
   */
  part<T>(name: string, inputs: readonly string[], make: () => T): T {
    const part = this.begin<T>(name, inputs);
    if (part.known !== undefined) {
      part.replay("at once");
      return part.known;
    }
    const made = part.step(make);
    part.keep(() => made);
    return made;
  }

  /** The same for what is made in some steps, between which others work. Without inputs nothing is known of what it rests on, and nothing is kept. */
  begin<T>(name: string, inputs: readonly string[] | undefined): KeptPart<T> {
    const { kept } = this;
    const { log, unreadable: closed } = this.tree;
    return new KeptPart<T>(
      name,
      inputs ?? [],
      inputs && log && kept
        ? { kept, log, closed, problemsOf: (key) => this.read.get(key) ?? [], note: (key, problems) => this.note(key, problems) }
        : undefined,
    );
  }

  /** Notes a file that was read and what is wrong in it, for this run and for the part that is made. */
  private note(key: string, problems: Unreadable[]): void {
    if (!this.read.has(key)) {
      this.read.set(key, problems);
      if (!key.startsWith(PROBLEM)) this.filesRead++;
      this.tell(...problems);
    }
    this.tree.log?.again([`${MARK}${key}`]);
  }

  private parsed<T>(
    file: string,
    form: keyof typeof LARGEST,
    read: (source: Source, bytes: Uint8Array) => { value: T; problems: Problem[] },
  ): T | undefined {
    return this.memo(`${form}\0${file}`, () => {
      const result = this.tree.isFile(file) ? this.tree.read(file) : undefined;
      if (!result) return undefined;
      if (!result.ok) {
        this.report(file, [{ message: `cannot be read: ${reasonText(result.why)}`, place: startOf(file) }]);
        return undefined;
      }
      const { value, problems } = this.parse(file, form, result.bytes, read);
      this.note(`${form} ${file}`, this.told(file, problems));
      return value;
    });
  }

  private parse<T>(
    file: string,
    form: keyof typeof LARGEST,
    bytes: Uint8Array,
    read: (source: Source, bytes: Uint8Array) => { value: T; problems: Problem[] },
  ): { value: T | undefined; problems: Problem[] } {
    if (bytes.length > LARGEST[form] * MB)
      return {
        value: undefined,
        problems: [{ message: `too large for such a file (over ${LARGEST[form]} MB); it is not read`, place: startOf(file) }],
      };
    const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString("utf8");
    const source = new Source(file, text);
    if (text.includes("\0") && !isBinaryPlist(bytes))
      return { value: undefined, problems: [source.problem("binary data in a text file", text.indexOf("\0"))] };
    const { value, problems } = this.guarded(source, () => read(source, bytes));
    const marks = conflictMarks(text);
    if (marks !== undefined) return { value, problems: [source.problem("has unresolved merge markers: resolve the conflict", marks)] };
    return { value, problems: hasTemplateMarks(text) ? problems.map((problem) => ({ ...problem, template: true })) : problems };
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

  /** What of the problems of a file is told: files of installed packages are nobody's to mend. */
  private told(file: string, problems: Problem[]): Unreadable[] {
    return isInstalled(file) ? [] : problems.slice(0, 3).map((problem) => ({ ...problem, file }));
  }

  /** Of each file only what was found first. */
  private tell(...problems: Unreadable[]): void {
    const [first] = problems;
    if (first && !this.unreadable.some(({ file }) => file === first.file)) this.unreadable.push(...problems);
  }

  /** Something in a file that no tool could read either, found by whoever makes sense of it. */
  complain(problem: Unreadable): void {
    this.report(problem.file, [problem]);
  }

  private report(file: string, problems: Problem[]): void {
    const told = this.told(file, problems);
    if (told.length > 0) this.note(`${PROBLEM}${JSON.stringify(told)}`, told);
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

  /** What a tool writes before a build, as what it is made from has it: that is read in place of a file that may be there. */
  lay(file: string, list: DataFile): void {
    this.laid.set(file, list);
  }

  isLaid(file: string): boolean {
    return this.laid.has(file);
  }

  plist(file: string): DataFile | undefined {
    const laid = this.laid.get(file);
    // Who asks rests on what it is made from.
    if (laid) this.text(laid.source.file);
    return laid ?? this.readList(file);
  }

  /** A list as it lies on disk. */
  readList(file: string): DataFile | undefined {
    return this.parsed(file, "plist", (source, bytes) => data(readPlist(source, bytes)));
  }

  properties(file: string): Data | undefined {
    return this.parsed(file, "properties", (source) => ({ value: readProperties(source), problems: [] }));
  }

  xml(file: string): XmlFile | undefined {
    return this.parsed(file, "xml", (source) => {
      // Source: the parser of cordova-common (elementtree), which takes such values in descriptions and configurations.
      const value = readXml(source, /(^|\/)(plugin|config)\.xml$/.test(file));
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
  return /<%=?\s|\{\{\s*[\w.]+\s*\}\}|\{%\s|\*\*[A-Z][A-Z_]+\*\*|^\s*\$[a-z]\w*\s*$|<[^<>]*\s\$[a-z]\w*\s[^<>]*>/m.test(text);
}
