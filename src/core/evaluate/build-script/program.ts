import type { SyntaxNode } from "../../syntax/code/grammars.js";
import type { ScriptFile } from "./values.js";

/** A method, property or local function of a script. */
export interface Member {
  file: ScriptFile;
  type: string;
  name: string;
  node: SyntaxNode;
  isStatic: boolean;
  /** The attributes in front of it, with their text. */
  attributes: { name: string; text: string }[];
  parameters: { name: string; fallback: SyntaxNode | undefined; isExtension: boolean; isRest: boolean }[];
  body: SyntaxNode | undefined;
}

/** A class with what it holds. */
export interface ScriptType {
  name: string;
  file: ScriptFile;
  supers: string[];
  members: Member[];
  /** Fields and constants with the text that they are given. */
  fields: Map<string, SyntaxNode | undefined>;
}

export const fieldOf = (node: SyntaxNode, field: string): SyntaxNode | undefined => node.children.find((child) => child.field === field);
export const textIn = (file: ScriptFile, node: SyntaxNode): string => file.source.text.slice(node.from, node.to);

/** The last part of a name with its type arguments off: `System.Linq.Foo<T>` → `Foo`. */
export function simpleName(text: string): string {
  return text.replace(/<.*$/s, "").split(".").at(-1)?.trim() ?? text;
}

/**
 * The classes of build scripts, by name; halves of a partial class are one.
 * @param holds whether a condition of the preprocessor holds; where that is not known its text counts
 */
export function typesOf(
  files: readonly ScriptFile[],
  holds: (file: ScriptFile, condition: SyntaxNode) => boolean | undefined,
): Map<string, ScriptType> {
  const types = new Map<string, ScriptType>();
  for (const file of files) collect(file, file.root, undefined);
  return types;

  // eslint-disable-next-line complexity -- one case for each kind of declaration
  function collect(file: ScriptFile, parent: SyntaxNode, owner: ScriptType | undefined): void {
    for (const node of parent.children) {
      if (node.type.startsWith("preproc_")) {
        for (const part of compiled(file, node, holds)) collect(file, { ...node, children: [part] }, owner);
        continue;
      }
      switch (node.type) {
        case "namespace_declaration":
        case "file_scoped_namespace_declaration":
        case "declaration_list":
          collect(file, node, owner);
          break;
        case "class_declaration":
        case "struct_declaration":
        case "record_declaration": {
          const name = textIn(file, fieldOf(node, "name") ?? node);
          const bases = node.children.find(({ type }) => type === "base_list");
          let type = types.get(name);
          if (!type) types.set(name, (type = { name, file, supers: [], members: [], fields: new Map() }));
          type.supers.push(...(bases?.children.map((base) => simpleName(textIn(file, base))) ?? []));
          const body = fieldOf(node, "body");
          if (body) collect(file, body, type);
          break;
        }
        case "field_declaration":
          for (const declarator of node.children.flatMap(({ children }) => children).filter(({ type }) => type === "variable_declarator")) {
            const name = fieldOf(declarator, "name");
            if (owner && name)
              owner.fields.set(textIn(file, name), declarator.children.at(-1) === name ? undefined : declarator.children.at(-1));
          }
          break;
        case "method_declaration":
        case "property_declaration":
        case "constructor_declaration":
          if (owner) owner.members.push(memberOf(file, owner.name, node));
          break;
      }
    }
  }
}

/** The parts of a conditional region that are compiled. */
export function compiled(
  file: ScriptFile,
  node: SyntaxNode,
  holds: (file: ScriptFile, condition: SyntaxNode) => boolean | undefined,
): SyntaxNode[] {
  const condition = fieldOf(node, "condition");
  const alternatives = node.children.filter(({ type }) => type === "preproc_elif" || type === "preproc_else");
  const own = node.children.filter((child) => child !== condition && !alternatives.includes(child));
  if (node.type === "preproc_else") return own;
  if (node.type !== "preproc_if" && node.type !== "preproc_elif") return [];
  const answer = condition ? holds(file, condition) : undefined;
  const others = answer === true ? [] : alternatives.flatMap((other) => compiled(file, other, holds));
  return answer === false ? others : [...own, ...(answer === undefined ? [] : others)];
}

export function memberOf(file: ScriptFile, type: string, node: SyntaxNode): Member {
  const list = fieldOf(node, "parameters");
  const attributes = node.children
    .filter((child) => child.type === "attribute_list")
    .flatMap(({ children }) => children)
    .map((attribute) => ({ name: simpleName(textIn(file, fieldOf(attribute, "name") ?? attribute)), text: textIn(file, attribute) }));
  return {
    file,
    type,
    name: textIn(file, fieldOf(node, "name") ?? node),
    node,
    isStatic: node.children.some((child) => child.type === "modifier" && textIn(file, child) === "static"),
    attributes,
    parameters: (list ? parametersIn(list) : []).map((parameter) => {
      const name = fieldOf(parameter, "name");
      const last = parameter.children.at(-1);
      return {
        name: name ? textIn(file, name) : "",
        fallback: name && last && last.from > name.from ? last : undefined,
        isExtension: /^\s*this\s/.test(textIn(file, parameter)),
        isRest: parameter === list,
      };
    }),
    body:
      fieldOf(node, "body") ??
      fieldOf(node, "value") ??
      node.children.find(({ type: of }) => of === "arrow_expression_clause" || of === "accessor_list"),
  };
}

/** The parameters of a list; one that takes all the rest has no node of its own, and the list stands for it. */
function parametersIn(list: SyntaxNode): SyntaxNode[] {
  return [...list.children.filter(({ type }) => type === "parameter"), ...(fieldOf(list, "name") ? [list] : [])];
}
