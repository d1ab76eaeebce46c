import type { CodeArgument } from "../../model/code.js";
import { calleeText } from "./callee.js";
import type { SyntaxNode } from "./grammars.js";
import type { Language } from "./languages.js";

/** How one grammar names what is looked for. */
export interface Shapes {
  types: ReadonlySet<string>;
  functions: ReadonlySet<string>;
  closures: ReadonlySet<string>;
  /** Bodies of classes without a name: their methods run when whoever holds the object calls them. */
  anonymous: ReadonlySet<string>;
  branches: ReadonlySet<string>;
  imports: ReadonlySet<string>;
  comments: ReadonlySet<string>;
  assignments: ReadonlySet<string>;
  calls: ReadonlySet<string>;
  /** The parts of a call; `undefined` when the node is no call of its own. */
  call(node: SyntaxNode, slice: Slice): CallParts | undefined;
}

export type Slice = (node: SyntaxNode) => string;

export interface CallParts {
  callee: string;
  selector?: string;
  arguments: CodeArgument[];
  /** The part of the text in which a `?.` makes the call optional. */
  receiver: string;
  /** Offset of the called name. */
  at: number;
}

/** Where the last name of a called expression begins. */
function nameAt(node: SyntaxNode, slice: Slice): number {
  const text = slice(node);
  const last = /([\w$]+)[^\w$]*$/.exec(text.replace(/<[^<>()]*>\s*$/, (generics) => " ".repeat(generics.length)));
  return node.from + (last?.index ?? 0);
}

const set = (...names: string[]): ReadonlySet<string> => new Set(names);

/** The children with one field's name. */
export function fields(node: SyntaxNode, field: string): SyntaxNode[] {
  return node.children.filter((child) => child.field === field);
}

export function child(node: SyntaxNode | undefined, ...types: string[]): SyntaxNode | undefined {
  return node?.children.find(({ type }) => types.includes(type));
}

/** An argument with its label; a text literal without parts that are worked out gets its value. */
function argument(label: string | undefined, value: SyntaxNode, slice: Slice): CodeArgument {
  const text = slice(value).slice(0, 400);
  return { label, text, literal: literalOf(text), from: value.from };
}

export function literalOf(text: string): string | undefined {
  const quoted = /^[@$]?(["'`])((?:(?!\1)[^\\\n])*)\1$/.exec(text);
  if (!quoted || text.startsWith("$")) return undefined;
  return /\$[{A-Za-z_]/.test(quoted[2] ?? "") ? undefined : quoted[2];
}

/** What stands behind a label: in Dart an expression is several nodes, one after the other. */
function spanOf(node: SyntaxNode, label: SyntaxNode | undefined): SyntaxNode | undefined {
  const [first, ...more] = node.children.filter((part) => part !== label && part.type !== "comment" && part.type !== ":");
  const last = more.at(-1);
  return first && last ? { ...first, to: last.to } : first;
}

function args(list: SyntaxNode | undefined, slice: Slice): CodeArgument[] {
  return (list?.children ?? []).flatMap((node) => {
    switch (node.type) {
      case "value_argument": {
        // Kotlin: `name = value`; Swift: fields.
        const value = fields(node, "value")[0] ?? node.children.at(-1);
        const label = child(node, "value_argument_label") ?? (node.children.length > 1 ? node.children[0] : undefined);
        return value ? [argument(label && slice(label), value, slice)] : [];
      }
      case "named_argument": {
        const label = child(node, "label");
        const value = spanOf(node, label);
        return value ? [argument(label && slice(label).replace(/:$/, "").trim(), value, slice)] : [];
      }
      case "argument": {
        const label = fields(node, "name")[0];
        const value = spanOf(node, label);
        return value
          ? [argument(label && slice(label), value, slice)]
          : [{ label: undefined, text: slice(node), literal: undefined, from: node.from }];
      }
      case "object":
        // Options in an object count as labelled arguments.
        return [
          argument(undefined, node, slice),
          ...node.children.flatMap((pair) => {
            const [key, value] = [fields(pair, "key")[0], fields(pair, "value")[0]];
            // `{ apiKey }` is `{ apiKey: apiKey }`.
            if (pair.type === "shorthand_property_identifier") return [argument(slice(pair), pair, slice)];
            return key && value ? [argument(slice(key).replace(/["']/g, ""), value, slice)] : [];
          }),
        ];
      case "comment":
        return [];
      default:
        return [argument(undefined, node, slice)];
    }
  });
}

const plainCall = (functionField: string, list: string) => (node: SyntaxNode, slice: Slice) => {
  const callee = fields(node, functionField)[0];
  if (!callee) return undefined;
  const receiver = slice(callee);
  return { callee: calleeText(receiver), arguments: args(fields(node, list)[0], slice), receiver, at: nameAt(callee, slice) };
};

const SCRIPT: Shapes = {
  types: set("class_declaration", "class", "abstract_class_declaration"),
  functions: set("function_declaration", "generator_function_declaration", "method_definition"),
  closures: set("arrow_function", "function_expression", "function"),
  anonymous: set(),
  branches: set("if_statement", "ternary_expression", "switch_statement"),
  imports: set("import_statement"),
  comments: set("comment"),
  assignments: set("assignment_expression"),
  calls: set("call_expression", "new_expression", "jsx_self_closing_element", "jsx_opening_element"),
  call(node, slice) {
    if (node.type.startsWith("jsx_")) {
      const name = fields(node, "name")[0];
      return name && /^[A-Z]/.test(slice(name)) ? { callee: slice(name), arguments: [], receiver: "", at: nameAt(name, slice) } : undefined;
    }
    return plainCall(node.type === "new_expression" ? "constructor" : "function", "arguments")(node, slice);
  },
};

export const SHAPES: Record<Language, Shapes> = {
  javascript: SCRIPT,
  typescript: SCRIPT,
  tsx: SCRIPT,
  kotlin: {
    types: set("class_declaration", "object_declaration", "companion_object"),
    functions: set("function_declaration", "secondary_constructor", "anonymous_initializer", "getter", "setter"),
    closures: set("lambda_literal", "anonymous_function"),
    anonymous: set("object_literal"),
    branches: set("if_expression", "when_expression"),
    imports: set("import", "import_header"),
    comments: set("line_comment", "block_comment", "multiline_comment"),
    assignments: set("assignment"),
    calls: set("call_expression"),
    call(node, slice) {
      const [callee] = node.children;
      const list = child(node, "value_arguments");
      // `f(x) { … }` is a call in a call; the inner one is it.
      if (!callee || (callee.type === "call_expression" && !list)) return undefined;
      return { callee: calleeText(slice(callee)), arguments: args(list, slice), receiver: slice(callee), at: nameAt(callee, slice) };
    },
  },
  java: {
    types: set("class_declaration", "interface_declaration", "enum_declaration", "record_declaration"),
    functions: set("method_declaration", "constructor_declaration", "static_initializer"),
    closures: set("lambda_expression"),
    anonymous: set("object_creation_expression"),
    branches: set("if_statement", "ternary_expression", "switch_expression", "switch_statement"),
    imports: set("import_declaration"),
    comments: set("line_comment", "block_comment"),
    assignments: set("assignment_expression"),
    calls: set("method_invocation", "object_creation_expression"),
    call(node, slice) {
      const list = fields(node, "arguments")[0];
      const name = fields(node, node.type === "method_invocation" ? "name" : "type")[0];
      if (!name) return undefined;
      const [object] = fields(node, "object");
      const before = object ? `${calleeText(slice(object).replace(/^new\s+/, ""))}.` : "";
      return { callee: `${before}${calleeText(slice(name))}`, arguments: args(list, slice), receiver: "", at: name.from };
    },
  },
  swift: {
    types: set("class_declaration", "protocol_declaration"),
    functions: set("function_declaration", "init_declaration", "deinit_declaration", "computed_property"),
    closures: set("lambda_literal"),
    anonymous: set(),
    branches: set("if_statement", "switch_statement", "ternary_expression"),
    imports: set("import_declaration"),
    comments: set("comment", "multiline_comment"),
    assignments: set("assignment"),
    calls: set("call_expression"),
    call(node, slice) {
      const [callee] = node.children;
      const suffix = child(node, "call_suffix");
      // What stands in square brackets is looked up.
      if (!callee || !suffix || slice(suffix).startsWith("[")) return undefined;
      // `begin(key:)` is no call of it.
      if (/^\((?:\w+:)+\)$/.test(slice(suffix).replace(/\s/g, ""))) return undefined;
      return {
        callee: calleeText(slice(callee)),
        arguments: args(child(suffix, "value_arguments"), slice),
        receiver: slice(callee),
        at: nameAt(callee, slice),
      };
    },
  },
  objc: {
    types: set("class_implementation", "category_implementation"),
    functions: set("method_definition", "function_definition"),
    closures: set("block_literal"),
    anonymous: set(),
    branches: set("if_statement", "conditional_expression", "switch_statement"),
    imports: set("preproc_include", "preproc_import", "module_import"),
    comments: set("comment"),
    assignments: set("assignment_expression"),
    calls: set("message_expression", "call_expression"),
    call(node, slice) {
      if (node.type === "call_expression") return plainCall("function", "arguments")(node, slice);
      const pieces = fields(node, "method");
      const [receiver] = fields(node, "receiver");
      if (!receiver || pieces.length === 0) return undefined;
      const values = node.children.filter(({ field, from }) => field !== "method" && field !== "receiver" && from > (pieces[0]?.from ?? 0));
      const names = pieces.map((piece) => slice(piece));
      return {
        callee: `${messageText(receiver, slice)}.${names[0] ?? ""}`,
        selector: values.length === 0 ? (names[0] ?? "") : names.map((name) => `${name}:`).join(""),
        arguments: values.map((value, index) => argument(index === 0 ? undefined : names[index], value, slice)),
        receiver: "",
        at: pieces[0]?.from ?? node.from,
      };
    },
  },
  dart: {
    types: set("class_definition", "mixin_declaration", "extension_declaration", "enum_declaration"),
    functions: set(),
    closures: set("function_expression"),
    anonymous: set(),
    branches: set("if_statement", "conditional_expression", "switch_statement", "assert_statement"),
    imports: set("import_specification", "library_export"),
    comments: set("comment", "documentation_comment"),
    assignments: set("assignment_expression"),
    calls: set("const_object_expression", "new_expression"),
    call(node, slice) {
      const name = child(node, "type_identifier");
      return name ? { callee: slice(name), arguments: args(child(node, "arguments"), slice), receiver: "", at: name.from } : undefined;
    },
  },
  csharp: {
    types: set("class_declaration", "struct_declaration", "interface_declaration", "record_declaration"),
    functions: set(
      "method_declaration",
      "constructor_declaration",
      "destructor_declaration",
      "local_function_statement",
      "accessor_declaration",
    ),
    closures: set("lambda_expression", "anonymous_method_expression"),
    anonymous: set(),
    branches: set("if_statement", "conditional_expression", "switch_statement"),
    imports: set("using_directive"),
    comments: set("comment"),
    assignments: set("assignment_expression"),
    calls: set("invocation_expression", "object_creation_expression"),
    call(node, slice) {
      return plainCall(node.type === "invocation_expression" ? "function" : "type", "arguments")(node, slice);
    },
  },
};

/** `[[Quaymap shared] start]` as `Quaymap.shared.start`. */
function messageText(node: SyntaxNode, slice: Slice): string {
  if (node.type !== "message_expression") return calleeText(slice(node));
  const [receiver] = fields(node, "receiver");
  const [method] = fields(node, "method");
  return receiver && method ? `${messageText(receiver, slice)}.${slice(method)}` : calleeText(slice(node));
}

/** The arguments of a Dart call. */
export function dartArguments(part: SyntaxNode, slice: Slice): CodeArgument[] {
  return args(child(part, "arguments"), slice);
}
