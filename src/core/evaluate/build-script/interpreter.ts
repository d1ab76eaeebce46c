import type { SyntaxNode } from "../../syntax/code/grammars.js";
import type { Data, MapData } from "../../syntax/data.js";
import { callOn, made, propertyOf, staticCall, staticProperty, type Editing, type LibraryTables } from "./library.js";
import { compiled, fieldOf, memberOf, simpleName, textIn, type Member, type ScriptType } from "./program.js";
import {
  asText,
  elementOf,
  isTouched,
  NONE,
  same,
  textValue,
  TOUCHED,
  truth,
  UNKNOWN,
  type Known,
  type Scope,
  type ScriptFile,
  type Written,
} from "./values.js";
import { reason, type Reason } from "../../model/reason.js";

const MAX_STEPS = 40_000;
const MAX_DEPTH = 40;
const MAX_ROUNDS = 2_000;

/** How a statement ends: it goes on, leaves the loop, or leaves the function. */
type End = "next" | "loop" | "function";

/**
 * Evaluates build scripts: what is certain is done to the model of the Xcode project; what is not is noted as open, with its reason.
 * Bounded in steps and depth; a script that needs more is open as a whole.
 */
export class Interpreter implements Editing {
  private steps = 0;
  private depth = 0;
  /** How many conditions around what runs could not be told. */
  private perhaps = 0;
  private result: Known = NONE;

  constructor(
    private readonly types: ReadonlyMap<string, ScriptType>,
    private readonly holds: (file: ScriptFile, condition: SyntaxNode) => boolean | undefined,
    readonly tables: LibraryTables,
    readonly globals: ReadonlyMap<string, Known>,
    readonly documents: Map<string, MapData>,
    readonly commit: Editing["commit"],
    private readonly note: (part: string, why: Reason, from: Written) => void,
  ) {}

  get uncertain(): boolean {
    return this.perhaps > 0;
  }

  /** Part of the project that a script may change in a way that cannot be told. */
  open(part: string, why: Reason, from: Written): void {
    this.note(part, why, from);
  }

  /** Runs a method with arguments. */
  run(member: Member, given: readonly Known[], self?: Known): Known {
    if (this.depth >= MAX_DEPTH) {
      this.open("*", reason("calls-itself"), { source: member.file.source, start: member.node.from });
      return UNKNOWN;
    }
    const scope: Scope = { file: member.file, type: member.type, names: new Map(), outer: undefined };
    if (self) scope.names.set("this", self);
    member.parameters.forEach(({ name, fallback, isRest }, index) => {
      const rest = given.slice(index);
      scope.names.set(
        name,
        isRest && !(rest.length === 1 && rest[0]?.is === "list")
          ? { is: "list", items: rest }
          : (given[index] ?? (fallback ? this.value(fallback, scope) : UNKNOWN)),
      );
    });
    return this.body(member.body, scope);
  }

  call(value: Known, given: readonly Known[]): Known {
    if (value.is !== "closure") return UNKNOWN;
    const { node, scope: outer } = value;
    if (node.type === "local_function_statement") return this.run(memberOf(outer.file, outer.type, node), given, undefined);
    const scope: Scope = { ...outer, names: new Map(), outer };
    const list = fieldOf(node, "parameters");
    const names = !list ? [] : list.type === "parameter_list" ? list.children.map((one) => fieldOf(one, "name") ?? one) : [list];
    names.forEach((name, index) => scope.names.set(textIn(scope.file, name), given[index] ?? UNKNOWN));
    return this.body(fieldOf(node, "body"), scope);
  }

  private body(node: SyntaxNode | undefined, scope: Scope): Known {
    if (!node) return UNKNOWN;
    this.depth++;
    const before = this.perhaps;
    const outer = this.result;
    this.result = NONE;
    let given: Known;
    if (node.type === "arrow_expression_clause") given = this.value(node.children[0], scope);
    else if (node.type === "accessor_list") {
      const getter = node.children.find((child) => /^\s*get\b/.test(textIn(scope.file, child)));
      const inside = getter?.children.at(-1);
      given = inside ? this.body(inside, scope) : UNKNOWN;
    } else if (node.type === "block") {
      this.statement(node, scope);
      given = this.result;
    } else given = this.value(node, scope);
    this.result = outer;
    this.perhaps = before;
    this.depth--;
    return given;
  }

  private statements(nodes: readonly SyntaxNode[], scope: Scope): End {
    for (const node of nodes) {
      const end = this.statement(node, scope);
      if (end !== "next") return end;
    }
    return "next";
  }

  // eslint-disable-next-line complexity -- one case for each kind of statement
  private statement(node: SyntaxNode | undefined, scope: Scope): End {
    if (!node || this.exhausted(node, scope)) return "function";
    switch (node.type) {
      case "block":
      case "finally_clause":
      case "checked_statement":
        return this.statements(node.children, { ...scope, names: new Map(), outer: scope });
      case "local_declaration_statement":
      case "variable_declaration":
        this.declare(node, scope);
        return "next";
      case "local_function_statement":
        scope.names.set(textIn(scope.file, fieldOf(node, "name") ?? node), { is: "closure", node, scope });
        return "next";
      case "if_statement":
        return this.branch(node, scope);
      case "preproc_if":
      case "preproc_elif":
        return this.statements(compiled(scope.file, node, this.holds), scope);
      case "foreach_statement":
      case "for_statement":
      case "while_statement":
      case "do_statement":
        return this.loop(node, scope);
      case "using_statement": {
        const inner = { ...scope, names: new Map(), outer: scope };
        return this.statements(
          node.children.map((child) => child),
          inner,
        );
      }
      case "try_statement": {
        const end = this.statement(fieldOf(node, "body"), scope);
        const last = node.children.find(({ type }) => type === "finally_clause");
        if (last) this.statement(last, scope);
        return end;
      }
      case "switch_statement":
        return this.choose(node, scope);
      case "return_statement":
        this.result = node.children[0] ? this.value(node.children[0], scope) : NONE;
        return "function";
      case "throw_statement":
        return "function";
      case "break_statement":
      case "continue_statement":
        return "loop";
      case "comment":
        return "next";
      default:
        this.value(node.type === "expression_statement" ? node.children[0] : node, scope);
        return "next";
    }
  }

  private exhausted(node: SyntaxNode, { file }: Scope): boolean {
    if (this.steps++ < MAX_STEPS) return false;
    if (this.steps === MAX_STEPS + 1) this.open("*", reason("too-much-to-follow"), { source: file.source, start: node.from });
    return true;
  }

  private declare(node: SyntaxNode, scope: Scope): void {
    const declaration = node.type === "variable_declaration" ? node : node.children.find(({ type }) => type === "variable_declaration");
    for (const declarator of declaration?.children.filter(({ type }) => type === "variable_declarator") ?? []) {
      const name = fieldOf(declarator, "name");
      const last = declarator.children.at(-1);
      if (name) scope.names.set(textIn(scope.file, name), last && last !== name ? this.value(last, scope) : NONE);
    }
  }

  private branch(node: SyntaxNode, scope: Scope): End {
    const condition = this.truthOf(fieldOf(node, "condition"), scope);
    const [then, otherwise] = [fieldOf(node, "consequence"), fieldOf(node, "alternative")];
    if (condition !== undefined) return this.statement(condition ? then : (otherwise ?? { ...node, type: "comment" }), scope);
    this.perhaps++;
    const ends = [this.statement(then, scope), otherwise ? this.statement(otherwise, scope) : "next"] as const;
    // What follows a way out that may be taken runs perhaps; the function takes that back when it ends.
    if (ends.every((end) => end === "next")) this.perhaps--;
    return ends[0] === ends[1] ? ends[0] : "next";
  }

  private loop(node: SyntaxNode, scope: Scope): End {
    const inner: Scope = { ...scope, names: new Map(), outer: scope };
    const body = fieldOf(node, "body") ?? node.children.at(-1);
    const round = (): boolean => this.statement(body, { ...inner, names: new Map(inner.names), outer: inner }) === "function";
    if (node.type === "foreach_statement") {
      const items = itemsIn(this.value(fieldOf(node, "right"), scope));
      const name = fieldOf(node, "left");
      if (!items) {
        if (name) inner.names.set(textIn(scope.file, name), this.value(fieldOf(node, "right"), scope).is === "unknown" ? UNKNOWN : TOUCHED);
        return this.maybe(round);
      }
      if (items.length > MAX_ROUNDS) this.endless(node, scope);
      for (const item of items.slice(0, MAX_ROUNDS)) {
        if (name) inner.names.set(textIn(scope.file, name), item);
        if (round()) return "function";
      }
      return "next";
    }
    const initializer = fieldOf(node, "initializer");
    if (initializer) this.statement(initializer, inner);
    for (let count = 0; count < MAX_ROUNDS; count++) {
      const condition = node.type === "do_statement" && count === 0 ? true : this.truthOf(fieldOf(node, "condition"), inner);
      if (condition === false) return "next";
      if (condition === undefined) return this.maybe(round);
      if (round()) return "function";
      for (const update of node.children.filter(({ field }) => field === "update")) this.value(update, inner);
    }
    this.endless(node, scope);
    return "next";
  }

  private endless(node: SyntaxNode, { file }: Scope): void {
    this.open("*", reason("loop-too-long"), { source: file.source, start: node.from });
  }

  private choose(node: SyntaxNode, scope: Scope): End {
    const value = this.value(fieldOf(node, "value"), scope);
    const sections = fieldOf(node, "body")?.children ?? [];
    const labels = (section: SyntaxNode): SyntaxNode[] => section.children.filter(({ type }) => /pattern/.test(type));
    const answers = sections.map((section) =>
      labels(section).length === 0
        ? false
        : anyOf(labels(section).map((label) => same(value, this.value(label.children[0] ?? label, scope)))),
    );
    const chosen = answers.findIndex((answer) => answer !== false);
    const run = (section: SyntaxNode | undefined): End => {
      const end = section
        ? this.statements(
            section.children.filter(({ type }) => !/pattern/.test(type)),
            scope,
          )
        : "next";
      return end === "loop" ? "next" : end;
    };
    if (chosen === -1) return run(sections.find((section) => labels(section).length === 0));
    if (answers[chosen] === true) return run(sections[chosen]);
    return this.maybe(() => sections.map(run).includes("function"));
  }

  /** Runs something of which it is not known whether it runs. What follows its way out of the function, which it tells, runs perhaps. */
  private maybe(work: () => boolean): End {
    this.perhaps++;
    if (!work()) this.perhaps--;
    return "next";
  }

  truthOf(node: SyntaxNode | undefined, scope: Scope): boolean | undefined {
    const value = this.value(node, scope);
    if (value.is === "truth") return value.truth;
    return value.is === "data" ? truthOfData(value.data) : undefined;
  }

  /** The value of an expression. */
  // eslint-disable-next-line complexity -- one case for each kind of expression
  value(node: SyntaxNode | undefined, scope: Scope): Known {
    if (!node || this.exhausted(node, scope)) return UNKNOWN;
    const { file } = scope;
    const from: Written = { source: file.source, start: node.from };
    const text = textIn(file, node);
    switch (node.type) {
      case "string_literal":
      case "verbatim_string_literal":
      case "raw_string_literal":
        return textValue(literal(text), { ...from, start: node.from + 1 });
      case "interpolated_string_expression":
        return this.interpolated(node, scope);
      case "integer_literal":
      case "real_literal": {
        const number = Number(text.replace(/[_fFdDmMuUlL]/g, ""));
        return Number.isNaN(number) ? UNKNOWN : { is: "number", number };
      }
      case "character_literal":
        return textValue(literal(text), { ...from, start: node.from + 1 });
      case "boolean_literal":
        return truth(text === "true");
      case "null_literal":
        return NONE;
      case "parenthesized_expression":
      case "as_expression":
      case "argument":
      case "ref_expression":
      case "constant_pattern":
        return this.value(node.type === "as_expression" ? fieldOf(node, "left") : node.children.at(-1), scope);
      case "cast_expression":
        return this.value(fieldOf(node, "value") ?? node.children.at(-1), scope);
      case "identifier":
        return this.named(text, scope);
      case "this_expression":
      case "this":
        return this.named("this", scope);
      case "binary_expression":
        return this.binary(node, scope);
      case "prefix_unary_expression":
        return text.startsWith("!") ? truth(not(this.truthOf(node.children[0], scope))) : UNKNOWN;
      case "postfix_unary_expression":
        return this.counted(node, scope);
      case "conditional_expression": {
        const condition = this.truthOf(fieldOf(node, "condition"), scope);
        if (condition !== undefined) return this.value(fieldOf(node, condition ? "consequence" : "alternative"), scope);
        this.perhaps++;
        const ways = [this.value(fieldOf(node, "consequence"), scope), this.value(fieldOf(node, "alternative"), scope)];
        this.perhaps--;
        return ways.some(isTouched) ? TOUCHED : UNKNOWN;
      }
      case "assignment_expression":
        return this.assign(node, scope);
      case "lambda_expression":
      case "anonymous_method_expression":
        return { is: "closure", node, scope };
      case "implicit_array_creation_expression":
      case "array_creation_expression":
      case "initializer_expression":
      case "collection_expression": {
        const list = node.type === "initializer_expression" ? node : node.children.find(({ type }) => type === "initializer_expression");
        const items = (list ?? node).children.filter(({ type }) => type !== "array_type");
        return { is: "list", items: items.map((item) => this.value(item, scope)) };
      }
      case "object_creation_expression":
      case "implicit_object_creation_expression":
        return this.make(node, scope);
      case "declaration_expression": {
        const name = fieldOf(node, "name");
        if (name) scope.names.set(textIn(file, name), UNKNOWN);
        return UNKNOWN;
      }
      case "member_access_expression":
        return this.member(node, scope);
      case "conditional_access_expression":
        return this.conditionalAccess(node, scope);
      case "element_access_expression":
        return this.element(this.value(fieldOf(node, "expression"), scope), this.arguments(fieldOf(node, "subscript"), scope)[0]);
      case "invocation_expression":
        return this.invoke(node, scope);
      case "variable_declaration":
        this.declare(node, scope);
        return UNKNOWN;
      default: {
        const values = node.children.map((child) => this.value(child, scope));
        return values.some(isTouched) ? TOUCHED : UNKNOWN;
      }
    }
  }

  private named(name: string, scope: Scope): Known {
    for (let at: Scope | undefined = scope; at; at = at.outer) {
      const found = at.names.get(name);
      if (found) return found;
    }
    const self = scope.names.get("this");
    if (self?.is === "object" && self.fields.has(name)) return self.fields.get(name) as Known;
    return this.memberOfType(scope.type, name) ?? this.globals.get(name) ?? UNKNOWN;
  }

  /** The value of a constant, field or property of a script's class. */
  private memberOfType(type: string, name: string): Known | undefined {
    const owner = this.types.get(type);
    if (!owner) return undefined;
    const scope: Scope = { file: owner.file, type, names: new Map(), outer: undefined };
    if (owner.fields.has(name)) {
      const written = owner.fields.get(name);
      if (!written || this.depth >= MAX_DEPTH) return UNKNOWN;
      this.depth++;
      const value = this.value(written, { ...scope, file: owner.file });
      this.depth--;
      return value;
    }
    const property = owner.members.find((member) => member.name === name && member.node.type === "property_declaration");
    return property ? this.run(property, []) : undefined;
  }

  private interpolated(node: SyntaxNode, scope: Scope): Known {
    let text = "";
    for (const part of node.children) {
      if (part.type === "interpolation") {
        const inner = part.children.find(({ type }) => type !== "interpolation_brace" && !/clause/.test(type));
        const value = inner ? this.value(inner, scope) : UNKNOWN;
        const written = asText(value);
        if (written === undefined) return isTouched(value) ? TOUCHED : UNKNOWN;
        text += written;
      } else if (part.type === "string_content") text += textIn(scope.file, part);
      else if (part.type === "escape_sequence") text += literal(`"${textIn(scope.file, part)}"`);
    }
    return textValue(text, { source: scope.file.source, start: node.from + 2 });
  }

  // eslint-disable-next-line complexity -- one case for each operator
  private binary(node: SyntaxNode, scope: Scope): Known {
    const [left, right] = [fieldOf(node, "left"), fieldOf(node, "right")];
    if (!left || !right) return UNKNOWN;
    const operator = scope.file.source.text
      .slice(left.to, right.from)
      .replace(/\/\*.*?\*\/|\/\/.*/g, "")
      .trim();
    if (operator === "&&" || operator === "||") {
      const first = this.truthOf(left, scope);
      if (first === (operator === "||")) return truth(first);
      const second = this.truthOf(right, scope);
      return truth(second === (operator === "||") ? second : first === undefined ? undefined : second);
    }
    const a = this.value(left, scope);
    if (operator === "??") return a.is === "none" ? this.value(right, scope) : a.is === "unknown" ? this.either(a, right, scope) : a;
    const b = this.value(right, scope);
    switch (operator) {
      case "==":
        return truth(same(a, b));
      case "!=":
        return truth(not(same(a, b)));
      case "+": {
        if (a.is === "number" && b.is === "number") return { is: "number", number: a.number + b.number };
        const [x, y] = [asText(a), asText(b)];
        const at = a.is === "text" ? a : b.is === "text" ? b : { source: scope.file.source, start: node.from };
        return x !== undefined && y !== undefined ? textValue(x + y, at) : isTouched(a) || isTouched(b) ? TOUCHED : UNKNOWN;
      }
      case "|":
        return a.is === "names" && b.is === "names" ? { is: "names", names: [...a.names, ...b.names] } : UNKNOWN;
      case "<":
      case ">":
      case "<=":
      case ">=":
        return a.is === "number" && b.is === "number"
          ? truth(
              operator.startsWith("<")
                ? a.number < b.number || (operator === "<=" && a.number === b.number)
                : a.number > b.number || (operator === ">=" && a.number === b.number),
            )
          : UNKNOWN;
      default:
        return isTouched(a) || isTouched(b) ? TOUCHED : UNKNOWN;
    }
  }

  private either(a: Known, right: SyntaxNode, scope: Scope): Known {
    this.perhaps++;
    const b = this.value(right, scope);
    this.perhaps--;
    return isTouched(a) || isTouched(b) ? TOUCHED : UNKNOWN;
  }

  private counted(node: SyntaxNode, scope: Scope): Known {
    const [inner] = node.children;
    const value = this.value(inner, scope);
    const operator = inner ? scope.file.source.text.slice(inner.to, node.to).trim() : "";
    if (inner && value.is === "number" && /^(\+\+|--)$/.test(operator))
      this.store(inner, { is: "number", number: value.number + (operator === "++" ? 1 : -1) }, scope);
    return value;
  }

  private assign(node: SyntaxNode, scope: Scope): Known {
    const [left, right] = [fieldOf(node, "left"), fieldOf(node, "right")];
    if (!left || !right) return UNKNOWN;
    const operator = scope.file.source.text.slice(left.to, right.from).trim();
    let value = this.value(right, scope);
    if (operator === "+=") {
      const [a, b] = [asText(this.value(left, scope)), asText(value)];
      value = a !== undefined && b !== undefined ? textValue(a + b, { source: scope.file.source, start: right.from }) : UNKNOWN;
    } else if (operator === "??=") {
      const before = this.value(left, scope);
      if (before.is !== "none") return before;
    }
    this.store(left, this.uncertain && left.type === "identifier" ? blurred(value, this.value(left, scope)) : value, scope);
    return value;
  }

  private store(left: SyntaxNode, value: Known, scope: Scope): void {
    const from = { source: scope.file.source, start: left.from };
    if (left.type === "identifier") {
      const name = textIn(scope.file, left);
      for (let at: Scope | undefined = scope; at; at = at.outer)
        if (at.names.has(name)) {
          at.names.set(name, value);
          return;
        }
      scope.names.set(name, value);
      return;
    }
    if (left.type === "element_access_expression") {
      const target = this.value(fieldOf(left, "expression"), scope);
      const key = this.arguments(fieldOf(left, "subscript"), scope)[0];
      if (target.is === "data" && target.data.kind === "map") this.put(target.data, key, elementOf(value, from), from);
      else if (target.is === "map" && key) target.entries.push([key, value]);
      else if (isTouched(target)) this.open("*", reason("written-where-not-followed"), from);
      return;
    }
    if (left.type === "member_access_expression") {
      const target = this.value(fieldOf(left, "expression"), scope);
      const name = textIn(scope.file, fieldOf(left, "name") ?? left);
      if (target.is === "object") target.fields.set(name, value);
      else if (isTouched(target)) this.open("*", reason("sets", { name }), from);
    }
  }

  /** Writes an element of a property list. */
  put(map: MapData, key: Known | undefined, element: Data, from: Written): void {
    const name = asText(key);
    if (name === undefined) this.open("*", reason("target-name-made"), from);
    else if (this.uncertain) this.open(this.partOf(map) ?? name, reason("conditional"), from);
    else map.entries.set(name, { start: from.start, value: element });
  }

  /** The entry of a property list, at its top, in which a part of it lies. */
  partOf(data: Data): string | undefined {
    for (const root of this.documents.values()) if (root === data) return undefined;
    for (const root of this.inHand) for (const [key, { value }] of root.entries) if (value === data || contains(value, data)) return key;
    return this.inHand.includes(data as MapData) ? undefined : "*";
  }

  /** Property lists that scripts have read. */
  readonly inHand: MapData[] = [];
  readonly begun: Editing["begun"] = [];

  private make(node: SyntaxNode, scope: Scope): Known {
    const name = simpleName(textIn(scope.file, fieldOf(node, "type") ?? { ...node, to: node.from }));
    const from = { source: scope.file.source, start: node.from };
    const given = this.arguments(fieldOf(node, "arguments"), scope);
    const initializer = fieldOf(node, "initializer");
    const items = initializer?.children ?? [];
    if (/^(List|HashSet|Queue|Stack)$/.test(name))
      return { is: "list", items: [...(given[0]?.is === "list" ? given[0].items : []), ...items.map((item) => this.value(item, scope))] };
    if (/^(Sorted)?Dictionary$/.test(name))
      return {
        is: "map",
        entries: items.map((item): [Known, Known] =>
          item.type === "assignment_expression"
            ? [this.value(fieldOf(item, "left")?.children[0], scope), this.value(fieldOf(item, "right"), scope)]
            : [this.value(item.children[0], scope), this.value(item.children[1], scope)],
        ),
      };
    const object = made(this, name, given, from);
    if (object) {
      if (object.is === "data" && object.data.kind === "map" && items.length > 0) this.open("*", reason("fills-what-it-makes"), from);
      return object;
    }
    const type = this.types.get(name);
    if (!type) return given.some(isTouched) ? TOUCHED : UNKNOWN;
    const own: Known = { is: "object", type: name, fields: new Map() };
    for (const [field, written] of type.fields)
      if (written) own.fields.set(field, this.value(written, { file: type.file, type: name, names: new Map(), outer: undefined }));
    const constructor = type.members.find(
      (member) => member.node.type === "constructor_declaration" && member.parameters.length === given.length,
    );
    if (constructor) this.run(constructor, given, own);
    for (const item of items) {
      const field = fieldOf(item, "left");
      if (field) own.fields.set(textIn(scope.file, field), this.value(fieldOf(item, "right"), scope));
    }
    return own;
  }

  private arguments(list: SyntaxNode | undefined, scope: Scope): Known[] {
    return (list?.children ?? []).filter(({ type }) => type === "argument").map((argument) => this.value(argument, scope));
  }

  private member(node: SyntaxNode, scope: Scope): Known {
    const expression = fieldOf(node, "expression");
    const nameNode = fieldOf(node, "name");
    if (!expression || !nameNode) return UNKNOWN;
    const name = simpleName(textIn(scope.file, nameNode));
    const path = textIn(scope.file, node).replace(/\s+/g, "");
    const global = this.globals.get(path);
    if (global) return global;
    if (/^[\w.]+$/.test(path)) {
      const head = textIn(scope.file, expression).split(".").at(-1) ?? "";
      const known = this.isName(textIn(scope.file, expression).split(".")[0] ?? "", scope);
      if (!known) {
        const own = this.memberOfType(head, name);
        if (own) return own;
        const found = staticProperty(head, name, { source: scope.file.source, start: nameNode.from });
        if (found) return found;
      }
    }
    return this.get(this.value(expression, scope), name);
  }

  private isName(name: string, scope: Scope): boolean {
    for (let at: Scope | undefined = scope; at; at = at.outer) if (at.names.has(name)) return true;
    return this.types.get(scope.type)?.fields.has(name) ?? false;
  }

  private get(target: Known, name: string): Known {
    if (target.is === "object") {
      const found = target.fields.get(name) ?? this.memberOfType(target.type, name);
      return found ?? UNKNOWN;
    }
    return propertyOf(this, target, name) ?? (isTouched(target) ? TOUCHED : UNKNOWN);
  }

  element(target: Known, key: Known | undefined): Known {
    if (target.is === "list") return (key?.is === "number" ? target.items[key.number] : undefined) ?? UNKNOWN;
    if (target.is === "map") return target.entries.findLast(([other]) => key && same(other, key))?.[1] ?? UNKNOWN;
    return propertyOf(this, target, asText(key) === undefined ? "" : `[${asText(key) ?? ""}]`) ?? (isTouched(target) ? TOUCHED : UNKNOWN);
  }

  private conditionalAccess(node: SyntaxNode, scope: Scope): Known {
    const target = this.value(fieldOf(node, "condition"), scope);
    if (target.is === "none") return NONE;
    const binding = node.children.find(({ type }) => type === "member_binding_expression");
    const name = binding && fieldOf(binding, "name");
    return name ? this.get(target, textIn(scope.file, name)) : UNKNOWN;
  }

  // eslint-disable-next-line complexity -- the ways in which a call finds its function, the nearest first
  private invoke(node: SyntaxNode, scope: Scope): Known {
    const callee = fieldOf(node, "function");
    const list = fieldOf(node, "arguments");
    if (!callee) return UNKNOWN;
    const from = { source: scope.file.source, start: node.from };
    if (callee.type === "identifier" || callee.type === "generic_name") {
      const name = simpleName(textIn(scope.file, callee));
      const local = this.isName(name, scope) ? this.named(name, scope) : undefined;
      const given = this.arguments(list, scope);
      if (local?.is === "closure") return this.call(local, given);
      if (name === "nameof") return textValue(simpleName(textIn(scope.file, list ?? node).replace(/[()]/g, "")), from);
      const own = this.methodOf(scope.type, name, given.length);
      if (own) return this.run(own, given, scope.names.get("this"));
      return this.unfollowed(name, given, from);
    }
    const access =
      callee.type === "conditional_access_expression" ? callee.children.find(({ type }) => type === "member_binding_expression") : callee;
    const nameNode = access && fieldOf(access, "name");
    const receiver = callee.type === "conditional_access_expression" ? fieldOf(callee, "condition") : fieldOf(callee, "expression");
    if (!nameNode || !receiver) return UNKNOWN;
    const name = simpleName(textIn(scope.file, nameNode));
    const head = simpleName(textIn(scope.file, receiver));
    const isType = /^[\w.]+$/.test(textIn(scope.file, receiver)) && !this.isName(textIn(scope.file, receiver).split(".")[0] ?? "", scope);
    if (isType) {
      const given = this.arguments(list, scope);
      const own = this.methodOf(head, name, given.length);
      if (own) return this.run(own, given);
      const known = staticCall(this, head, name, given, from);
      if (known) return known;
      if (this.globals.has(textIn(scope.file, receiver).replace(/\s+/g, ""))) return this.on(receiver, name, given, scope, from);
      if (/^[A-Z]/.test(head)) return this.unfollowed(`${head}.${name}`, given, from);
    }
    if (callee.type === "conditional_access_expression") {
      const target = this.value(receiver, scope);
      if (target.is === "none") return NONE;
      return this.apply(target, name, this.lastArguments(list, scope, target, name), from, list, scope);
    }
    return this.on(receiver, name, undefined, scope, from, list);
  }

  private on(
    receiver: SyntaxNode,
    name: string,
    given: readonly Known[] | undefined,
    scope: Scope,
    from: Written,
    list?: SyntaxNode,
  ): Known {
    const target = this.value(receiver, scope);
    return this.apply(target, name, given ?? this.lastArguments(list, scope, target, name), from, list, scope);
  }

  /** The arguments of a call; a variable that it declares gets what the call puts into it. */
  private lastArguments(list: SyntaxNode | undefined, scope: Scope, target: Known, name: string): Known[] {
    const given = this.arguments(list, scope);
    if (name !== "TryGetValue") return given;
    const out = list?.children.at(-1)?.children.at(-1);
    const variable = out?.type === "declaration_expression" ? fieldOf(out, "name") : out;
    if (variable && given[0]) scope.names.set(textIn(scope.file, variable), this.element(target, given[0]));
    return given;
  }

  private apply(target: Known, name: string, given: readonly Known[], from: Written, list: SyntaxNode | undefined, scope: Scope): Known {
    if (target.is === "object") {
      const own = this.methodOf(target.type, name, given.length);
      if (own) return this.run(own, given, target);
    }
    const first = list?.children[0];
    const written = first ? { source: scope.file.source, start: first.from } : from;
    const known = callOn(this, target, name, given, from, written);
    if (known) return known;
    for (const { members } of this.types.values()) {
      const extension = members.find((member) => member.name === name && member.parameters[0]?.isExtension);
      if (extension) return this.run(extension, [target, ...given]);
    }
    return this.unfollowed(name, [target, ...given], from);
  }

  private methodOf(type: string, name: string, count: number): Member | undefined {
    for (const owner of [type, ...(this.types.get(type)?.supers ?? [])]) {
      const methods =
        this.types.get(owner)?.members.filter((member) => member.name === name && member.node.type === "method_declaration") ?? [];
      const found =
        methods.find(({ parameters }) => parameters.length === count) ??
        methods.find(({ parameters }) => parameters.length > count || parameters.at(-1)?.isRest === true);
      if (found) return found;
    }
    return undefined;
  }

  /** A call of something that is not there to be read: it may edit whatever it gets. */
  private unfollowed(name: string, given: readonly Known[], from: Written): Known {
    if (!given.some(isTouched)) return UNKNOWN;
    this.open("*", reason("not-in-files", { name }), from);
    return TOUCHED;
  }
}

/** What a variable holds after a value that it may have been given. */
function blurred(value: Known, before: Known): Known {
  return same(value, before) === true ? value : isTouched(value) || isTouched(before) ? TOUCHED : UNKNOWN;
}

function contains(data: Data, wanted: Data): boolean {
  if (data.kind === "map") return [...data.entries.values()].some(({ value }) => value === wanted || contains(value, wanted));
  return data.kind === "list" && data.items.some((item) => item === wanted || contains(item, wanted));
}

function itemsIn(value: Known): Known[] | undefined {
  if (value.is === "list") return value.items;
  if (value.is === "map") return value.entries.map(([key, inner]) => ({ is: "pair", key, value: inner }));
  if (value.is === "data" && value.data.kind === "list") return value.data.items.map((data) => ({ is: "data", data }));
  return undefined;
}

function truthOfData(data: Data): boolean | undefined {
  return data.kind === "scalar" && typeof data.value === "boolean" ? data.value : undefined;
}

function not(value: boolean | undefined): boolean | undefined {
  return value === undefined ? undefined : !value;
}

function anyOf(answers: readonly (boolean | undefined)[]): boolean | undefined {
  return answers.includes(true) ? true : answers.includes(undefined) ? undefined : false;
}

const ESCAPES: Readonly<Record<string, string>> = { n: "\n", t: "\t", r: "\r", "0": "\0" };

/** The text that a literal stands for. */
function literal(text: string): string {
  const raw = /^("{3,})([\s\S]*)\1$/.exec(text)?.[2];
  if (raw !== undefined) return raw.trim();
  if (text.startsWith("@")) return text.slice(2, -1).replaceAll('""', '"');
  return text
    .slice(1, -1)
    .replace(/\\(u[0-9a-fA-F]{4}|.)/g, (_, sign: string) =>
      sign.length > 1 ? String.fromCharCode(parseInt(sign.slice(1), 16)) : (ESCAPES[sign] ?? sign),
    );
}
