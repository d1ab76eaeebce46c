import type { SyntaxNode } from "../../syntax/code/grammars.js";
import type { MapData } from "../../syntax/data.js";
import { Interpreter } from "./interpreter.js";
import { ENTITLEMENTS, PROPERTY_LIST, unwritten, type LibraryTables } from "./library.js";
import { simpleName, textIn, typesOf, fieldOf, type Member, type ScriptType } from "./program.js";
import { BUILT, textValue, truth, type Known, type ProjectInHand, type ScriptFile, type Written } from "./values.js";
import type { Reason } from "../../model/reason.js";

/** What the build scripts of a project do to the Xcode project that the editor writes. */
export interface BuildEdits {
  /** The property list when all have run. */
  plist: MapData;
  /** Entitlements of files that a script wrote as property lists. */
  entitlements: MapData | undefined;
  projects: readonly ProjectInHand[];
  /**
   * Parts of which it cannot be told what the scripts do: an entry of the property list by its name, `entitlements`, `frameworks`, `settings`,
   * `project`, or `*` for all.
   */
  open: { part: string; why: Reason; from: Written }[];
  /** Where a script opened what it edits and never writes. */
  lost: Written[];
  /** Scripts that run after a build for the side. */
  run: number;
}

export interface BuildFacts {
  /** The property list as the editor writes it, as far as settings tell. */
  plist: MapData;
  /** Whether a symbol is defined in the editor while it builds for iOS. */
  symbol: (name: string) => boolean | undefined;
  tables: LibraryTables;
  id: string | undefined;
  product: string | undefined;
}

const ATTRIBUTE = /^PostProcessBuild(Attribute)?$/;
const INTERFACE = /^IPostprocessBuild(WithReport)?$/;

/** Evaluates the scripts that the editor runs after a build for iOS, in their order. Executes nothing: names that are not known stay open. */
export function evaluateBuildScripts(files: readonly ScriptFile[], facts: BuildFacts): BuildEdits {
  const holds = (file: ScriptFile, condition: SyntaxNode): boolean | undefined => conditionHolds(file, condition, facts.symbol);
  const types = typesOf(files, holds);
  const edits: BuildEdits = { plist: facts.plist, entitlements: undefined, projects: [], open: [], lost: [], run: 0 };
  const projects: ProjectInHand[] = [];
  const documents = new Map<string, MapData>([[PROPERTY_LIST, facts.plist]]);
  for (const entry of entriesOf(types)) {
    edits.run++;
    const from: Written = { source: entry.member.file.source, start: entry.member.node.from };
    const interpreter = new Interpreter(
      types,
      holds,
      facts.tables,
      globalsOf(facts, from),
      documents,
      (project) => void (projects.includes(project) || projects.push(project)),
      (part, why, at) => void edits.open.push({ part, why, from: at }),
    );
    const before = edits.open.length;
    interpreter.run(entry.member, entry.given(from), entry.self);
    // What was not followed may write it.
    if (!edits.open.slice(before).some(({ part }) => part === "*" || part === "project")) edits.lost.push(...unwritten(interpreter));
  }
  edits.plist = documents.get(PROPERTY_LIST) ?? facts.plist;
  edits.entitlements = documents.get(ENTITLEMENTS);
  edits.projects = projects;
  return edits;
}

interface Entry {
  member: Member;
  order: number;
  self?: Known;
  given: (from: Written) => Known[];
}

const IOS: Known = { is: "names", names: ["iOS"] };

/** Source: docs.unity3d.com, "PostProcessBuildAttribute" (static methods; lower numbers first, 1 without one), "IPostprocessBuildWithReport". */
function entriesOf(types: ReadonlyMap<string, ScriptType>): Entry[] {
  const found: Entry[] = [];
  for (const type of types.values()) {
    for (const member of type.members) {
      const attribute = member.attributes.find(({ name }) => ATTRIBUTE.test(name));
      if (attribute && member.isStatic)
        found.push({
          member,
          order: Number(/\(\s*(?:callbackOrder\s*[:=]\s*)?(-?\d+)/.exec(attribute.text)?.[1] ?? "1"),
          given: (from) => [IOS, textValue(BUILT, from)],
        });
    }
    if (!type.supers.some((name) => INTERFACE.test(simpleName(name)))) continue;
    const member = type.members.find(({ name }) => name === "OnPostprocessBuild");
    if (!member) continue;
    const order = type.members.find(({ name }) => name === "callbackOrder");
    const number = order?.body ? /-?\d+/.exec(textIn(order.file, order.body))?.[0] : undefined;
    found.push({
      member,
      order: Number(number ?? "0"),
      self: { is: "object", type: type.name, fields: new Map() },
      given: (from) =>
        member.parameters.length > 1
          ? [IOS, textValue(BUILT, from)]
          : [
              {
                is: "object",
                type: "BuildReport",
                fields: new Map<string, Known>([
                  [
                    "summary",
                    {
                      is: "object",
                      type: "BuildSummary",
                      fields: new Map<string, Known>([
                        ["platform", IOS],
                        ["platformGroup", IOS],
                        ["outputPath", textValue(BUILT, from)],
                      ]),
                    },
                  ],
                ]),
              },
            ],
    });
  }
  return found.sort((a, b) => a.order - b.order);
}

function globalsOf({ id, product }: BuildFacts, from: Written): Map<string, Known> {
  const globals = new Map<string, Known>([
    ["EditorUserBuildSettings.activeBuildTarget", IOS],
    ["EditorUserBuildSettings.selectedBuildTargetGroup", IOS],
    ["EditorUserBuildSettings.development", truth(false)],
    ["Debug.isDebugBuild", truth(false)],
  ]);
  if (id !== undefined)
    for (const name of ["PlayerSettings.applicationIdentifier", "Application.identifier"]) globals.set(name, textValue(id, from));
  if (product !== undefined)
    for (const name of ["PlayerSettings.productName", "Application.productName"]) globals.set(name, textValue(product, from));
  return globals;
}

/** Whether a condition of the preprocessor holds. */
// eslint-disable-next-line complexity -- one case for each kind of node in a condition
function conditionHolds(file: ScriptFile, node: SyntaxNode, symbol: BuildFacts["symbol"]): boolean | undefined {
  switch (node.type) {
    case "boolean_literal":
      return textIn(file, node) === "true";
    case "identifier":
      return symbol(textIn(file, node));
    case "parenthesized_expression":
      return node.children[0] && conditionHolds(file, node.children[0], symbol);
    case "unary_expression":
    case "prefix_unary_expression": {
      const inner = node.children.at(-1);
      const value = inner && conditionHolds(file, inner, symbol);
      return value === undefined ? undefined : !value;
    }
    case "binary_expression": {
      const [left, right] = [fieldOf(node, "left") ?? node.children[0], fieldOf(node, "right") ?? node.children[1]];
      if (!left || !right) return undefined;
      const [a, b] = [conditionHolds(file, left, symbol), conditionHolds(file, right, symbol)];
      if (file.source.text.slice(left.to, right.from).includes("||"))
        return a === true || b === true ? true : a === undefined || b === undefined ? undefined : false;
      return a === false || b === false ? false : a === undefined || b === undefined ? undefined : true;
    }
    default:
      return undefined;
  }
}
