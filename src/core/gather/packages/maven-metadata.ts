import { at, itemsOf, textAt, type Data } from "../../syntax/data.js";
import { children, type XmlElement } from "../../syntax/xml.js";
import type { ProjectFiles } from "../project-files.js";
import { fileIn, type Coordinates, type MavenStore } from "./maven-store.js";

/** What a package leaves out of what it depends on; `*` for any. */
export interface Exclusion {
  group: string;
  artifact: string;
}

/** What a package asks for. */
export interface Request {
  group: string;
  artifact: string;
  version: string | undefined;
  /** `platform`: the versions that it lists hold for the others; `constraint`: a version for what something else brings in. */
  kind: "module" | "platform" | "constraint";
  exclusions: readonly Exclusion[];
  /** Nothing that it depends on is taken with it. */
  alone?: boolean;
  /** No other version will do. */
  strict?: boolean;
  /** It stands under a condition. */
  perhaps?: boolean;
}

/** How deep parents and imported lists are followed, and how often a text refers to others. */
const DEEPEST = 12;

/** Reads what packages say of themselves, each once. */
export class MavenMetadata {
  private readonly read = new Map<string, readonly Request[] | undefined>();
  private readonly poms = new Map<string, Pom | undefined>();

  constructor(
    private readonly project: ProjectFiles,
    private readonly stores: readonly MavenStore[],
  ) {}

  /** What a package asks for when the app runs; `undefined` where no store has its description. */
  requestsOf(of: Coordinates, kind: Request["kind"] = "module"): readonly Request[] | undefined {
    const key = `${kind} ${of.group}:${of.artifact}:${of.version}`;
    if (!this.read.has(key)) {
      const module = kind === "module" ? this.ofModule(of) : undefined;
      this.read.set(key, module ?? this.ofPom(of, kind));
    }
    return this.read.get(key);
  }

  /** Its archive or library of classes. */
  archiveOf(of: Coordinates): string | undefined {
    const { tree } = this.project;
    return fileIn(tree, this.stores, of, "aar") ?? fileIn(tree, this.stores, of, "jar");
  }

  /** Source: the Gradle Module Metadata specification 1.1, and docs.gradle.org, "Understanding variant selection". */
  private ofModule(of: Coordinates): Request[] | undefined {
    const file = fileIn(this.project.tree, this.stores, of, "module");
    const variants = itemsOf(at(file === undefined ? undefined : this.project.json(file)?.root, "variants"));
    const [best] = variants
      .map((variant) => ({ variant, rank: rankOf(at(variant, "attributes")) }))
      .filter(({ rank }) => rank >= 0)
      .sort((a, b) => b.rank - a.rank);
    if (!best) return undefined;
    const elsewhere = at(best.variant, "available-at");
    if (elsewhere) {
      const [group, artifact, version] = [textAt(elsewhere, "group"), textAt(elsewhere, "module"), textAt(elsewhere, "version")];
      return group === undefined || artifact === undefined ? [] : [{ group, artifact, version, kind: "module", exclusions: [] }];
    }
    return [
      ...itemsOf(at(best.variant, "dependencies")).flatMap((item) => moduleRequest(item, isPlatform(item) ? "platform" : "module")),
      ...itemsOf(at(best.variant, "dependencyConstraints")).flatMap((item) => moduleRequest(item, "constraint")),
    ];
  }

  /** Source: maven.apache.org, "POM Reference" and "Introduction to the Dependency Mechanism". */
  private ofPom(of: Coordinates, kind: Request["kind"]): Request[] | undefined {
    const pom = this.pom(of, 0);
    if (!pom) return undefined;
    if (kind === "platform") return [...this.managed(pom, 0).values()];
    const dependencies = pom.dependencies.map((item) => pomDependency(item, pom.properties));
    const managed = dependencies.some(({ version }) => version === undefined) ? this.managed(pom, 0) : undefined;
    return dependencies
      .filter(({ scope, optional }) => !optional && (scope === "compile" || scope === "runtime"))
      .map((dependency) => ({
        ...dependency,
        kind: "module",
        version: dependency.version ?? managed?.get(`${dependency.group}:${dependency.artifact}`)?.version,
      }));
  }

  private pom(of: Coordinates, depth: number): Pom | undefined {
    const key = `${of.group}:${of.artifact}:${of.version}`;
    if (this.poms.has(key)) return this.poms.get(key);
    this.poms.set(key, undefined);
    const file = depth > DEEPEST ? undefined : fileIn(this.project.tree, this.stores, of, "pom");
    const root = file === undefined ? undefined : this.project.xml(file)?.root;
    if (!root) return undefined;
    const parentElement = child(root, "parent");
    const parentOf = parentElement && {
      group: textIn(parentElement, "groupId") ?? "",
      artifact: textIn(parentElement, "artifactId") ?? "",
      version: textIn(parentElement, "version") ?? "",
    };
    const parent = parentOf && this.pom(parentOf, depth + 1);
    const properties = new Map(parent?.properties);
    fillProperties(root, properties, of, parentOf);
    const listed = (element: XmlElement | undefined): XmlElement[] => children(child(element, "dependencies"), "dependency");
    const pom: Pom = {
      properties,
      dependencies: [...listed(root), ...(parent?.dependencies ?? [])],
      management: [...listed(child(root, "dependencyManagement")), ...(parent?.management ?? [])],
    };
    this.poms.set(key, pom);
    return pom;
  }

  /** The versions that a description gives for others: its own and its parents', then those that it imports. The nearest counts. */
  private managed(pom: Pom, depth: number): Map<string, Request> {
    const found = new Map<string, Request>();
    const add = (entry: Request): void => {
      const key = `${entry.group}:${entry.artifact}`;
      if (!found.has(key)) found.set(key, entry);
    };
    const listed = pom.management.map((item) => pomDependency(item, pom.properties));
    for (const entry of listed) if (entry.scope !== "import") add({ ...entry, kind: "constraint" });
    for (const { group, artifact, version, scope } of listed) {
      const imported =
        scope === "import" && version !== undefined && depth < DEEPEST ? this.pom({ group, artifact, version }, depth + 1) : undefined;
      if (imported) this.managed(imported, depth + 1).forEach(add);
    }
    return found;
  }
}

interface PomDependency extends Omit<Request, "kind"> {
  scope: string;
  optional: boolean;
}

/** A description with what it has of its parents; texts in it are worked out with its own properties. */
interface Pom {
  properties: ReadonlyMap<string, string>;
  dependencies: readonly XmlElement[];
  management: readonly XmlElement[];
}

/** Properties of a file of metadata: its own, and those that say what it describes. */
function fillProperties(
  root: XmlElement,
  properties: Map<string, string>,
  of: Coordinates,
  parentOf: { group: string; artifact: string; version: string } | undefined,
): void {
  for (const { name, text } of child(root, "properties")?.children ?? []) properties.set(name, text.trim());
  for (const prefix of ["project.", "pom.", ""]) {
    properties.set(`${prefix}groupId`, of.group);
    properties.set(`${prefix}artifactId`, of.artifact);
    properties.set(`${prefix}version`, of.version);
    if (parentOf) {
      properties.set(`${prefix}parent.groupId`, parentOf.group);
      properties.set(`${prefix}parent.version`, parentOf.version);
    }
  }
}

function child(element: XmlElement | undefined, name: string): XmlElement | undefined {
  return element && children(element, name)[0];
}

function textIn(element: XmlElement, name: string): string | undefined {
  return child(element, name)?.text.trim();
}

function pomDependency(item: XmlElement, properties: ReadonlyMap<string, string>): PomDependency {
  const text = (name: string): string | undefined => {
    let value = textIn(item, name);
    for (let round = 0; value?.includes("${") && round < DEEPEST; round++)
      value = value.replace(/\$\{([^}]+)\}/g, (whole, property: string) => properties.get(property) ?? whole).slice(0, 500);
    return value?.includes("${") ? undefined : value;
  };
  return {
    group: text("groupId") ?? "",
    artifact: text("artifactId") ?? "",
    version: text("version"),
    scope: text("scope") ?? "compile",
    optional: text("optional") === "true",
    exclusions: children(child(item, "exclusions"), "exclusion").map((element) => ({
      group: textIn(element, "groupId") ?? "*",
      artifact: textIn(element, "artifactId") ?? "*",
    })),
  };
}

/** How well a variant fits the release of an Android app when it runs; negative where it does not. */
function rankOf(attributes: Data | undefined): number {
  const usage = textAt(attributes, "org.gradle.usage");
  const category = textAt(attributes, "org.gradle.category") ?? "library";
  if (category !== "library" || (usage !== "java-runtime" && usage !== "kotlin-runtime")) return -1;
  const platform = textAt(attributes, "org.jetbrains.kotlin.platform.type") ?? "jvm";
  const environment = textAt(attributes, "org.gradle.jvm.environment");
  if (platform !== "androidJvm" && platform !== "jvm") return -1;
  const build = textAt(attributes, "com.android.build.api.attributes.BuildTypeAttr");
  return (platform === "androidJvm" ? 4 : 0) + (environment === "android" ? 4 : 0) + (build === "debug" ? 0 : 2);
}

function isPlatform(item: Data): boolean {
  return /platform/.test(textAt(at(item, "attributes"), "org.gradle.category") ?? "");
}

function moduleRequest(item: Data, kind: Request["kind"]): Request[] {
  const [group, artifact] = [textAt(item, "group"), textAt(item, "module")];
  if (group === undefined || artifact === undefined) return [];
  const version = at(item, "version");
  const strictly = textAt(version, "strictly");
  return [
    {
      group,
      artifact,
      kind,
      version: strictly ?? textAt(version, "requires") ?? textAt(version, "prefers"),
      exclusions: itemsOf(at(item, "excludes")).map((entry) => ({
        group: textAt(entry, "group") ?? "*",
        artifact: textAt(entry, "module") ?? "*",
      })),
    },
  ];
}
