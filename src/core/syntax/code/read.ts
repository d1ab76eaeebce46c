import type { CodeArgument, CodeCall, CodeFile, CodeFunction, CodeType, Guard } from "../../model/code.js";
import { calleeText, closing } from "./callee.js";
import type { SyntaxNode } from "./grammars.js";
import { guardOf } from "./guard.js";
import { importsOf } from "./imports.js";
import { readNames } from "./names.js";
import { isScript, type Language } from "./languages.js";
import { child, dartArguments, fields, literalOf, SHAPES, type CallParts, type Slice } from "./shapes.js";

/** Where the reader stands: in which type, function, conditions and closures. */
interface Scope {
  type: string;
  typeIndex: number;
  in: number;
  guards: readonly Guard[];
  closures: readonly string[];
  closuresAt: readonly number[];
  /** The call whose arguments these are: closures among them are handed over to it. */
  handedTo: { name: string; from: number } | undefined;
  /** In the body of a class without a name: its methods are closures. */
  anonymous: boolean;
  /** In scripts: the object whose parts these are. */
  owner?: string;
}

/** Deeper nested code is not looked at. */
const MAX_DEPTH = 600;

/** What a scene of the system always is; its templates ask. Source: developer.apple.com, "UIWindowSceneDelegate" (Xcode's template of an app). */
const ALWAYS_HOLDS =
  /^(?:let\s+\w+\s*=\s*\(?\s*scene\s+as\?\s*UIWindowScene\s*\)?|\(?\s*scene\s+is\s+UIWindowScene\s*\)?|let\s+_\s*=\s*\(?\s*scene\s+as\?\s*UIWindowScene\s*\)?)$/;

/** Effects of components, whose closure may give back what ends them. Source: react.dev, "useEffect" (cleanup function). */
/** Calls that only builds for debugging have, with all that is worked out for them. */
const ONLY_IN_DEBUG: Partial<Record<Language, RegExp>> = {
  csharp: /^(?:System\.Diagnostics\.)?Debug\.(?:Assert|Fail|Print|Write\w*)$/,
  swift: /^(?:assert|assertionFailure)$/,
  objc: /^(?:NSC?Assert\d?|NSParameterAssert)$/,
};

/** `x.takeIf { test }?.let`, of which the end runs where the test holds. */
const TAKEN_IF = /\.(takeIf|takeUnless)\s*\{([^{}]{1,100})\}\s*\?\.\s*\w+$/;

const NOT_CALLED: Guard = { kind: "never", text: "in what select gives, and nothing calls that" };

/** A property for a closure that handles failures, before its value. */
const FAILURE_HANDLER = /\b([\w$]+(?:\.[\w$]+)*\.on(?:Error|Failure|Exception|Unhandled\w*|Uncaught\w*))\s*=\s*(?:async\s*)?$/;

const EFFECT = /(^|\.)use(Layout|Insertion|Focus)?Effect$/;

/** The beginning of a variable that is given a closure: `val begin = `, `let begin: () -> Void = `, `Action begin = `. */
const HOLDS =
  /(?:\b(?:val|var|let|final|auto|Action|Func|VoidCallback|Runnable|(?:java\.util\.(?:function|concurrent)\.)?(?:Bi)?(?:Supplier|Consumer|Function|Predicate|Callable|UnaryOperator))(?:<[^=]{0,80}>)?\s+|\(\^\s*)(\w+)\s*(?::[^=\n]{0,60}|\)\s*\([^()]*\)\s*)?=\s*$/;

/** What a source file says, from its syntax tree. Total: what the grammar could not read is left out and noted. */
export function readCodeTree(language: Language, text: string, root: SyntaxNode): CodeFile {
  const shapes = SHAPES[language];
  const file: CodeFile = {
    language,
    imports: [],
    types: [],
    functions: [],
    calls: [],
    constants: new Map(),
    variables: new Map(),
    values: new Map(),
    made: new Map(),
    attributes: [],
    plain: text,
    errors: [],
  };
  const slice: Slice = (node) => text.slice(node.from, node.to);
  const comments: SyntaxNode[] = [];
  const implicit = new Map<number, number>();
  visitAll(root, { type: "", typeIndex: -1, in: -1, guards: [], closures: [], closuresAt: [], handedTo: undefined, anonymous: false }, 0);
  file.plain = blanked(text, comments);
  readNames(file);
  file.calls.sort((a, b) => a.from - b.from || a.at - b.at);
  return file;

  function visitAll(parent: SyntaxNode, start: Scope, depth: number, skip?: ReadonlySet<SyntaxNode>): void {
    if (depth > MAX_DEPTH) return;
    let scope = start;
    const conditions: Guard[] = [];
    // Conditions under which what stands above has left.
    const left: Guard[] = [];
    const { children } = parent;
    for (let i = 0; i < children.length; i++) {
      const node = children[i] as SyntaxNode;
      if (skip?.has(node)) continue;
      if (node.type === "directive") {
        applyDirective(slice(node), conditions);
        scope = { ...start, guards: [...start.guards, ...left, ...conditions] };
        continue;
      }
      if (language === "dart") {
        const next = children[i + 1];
        if (next?.type === "function_body" && /signature$|^declaration$/.test(node.type)) {
          const index = addFunction(node, scope, dartName(node), annotationsBefore(children, i), next.to);
          visitAll(next, inFunction(scope, index), depth + 1);
          i++;
          continue;
        }
        const end = selectorsAfter(children, i);
        if (end > i) {
          visit(node, { ...scope, handedTo: AT_ONCE }, depth);
          dartCalls(children, i, end, scope, depth);
          i = end;
          continue;
        }
      }
      visit(node, scope, depth);
      const exit = earlyExit(node) ?? unreachableBehind(node);
      if (!exit) continue;
      scope = { ...scope, guards: [...scope.guards, exit] };
      const [only, ...more] = conditions;
      if (only && more.length === 0 && exit.kind === "never")
        left.push({ ...guardOf(only.text.replace(/^not \((.*)\)$/s, "$1"), !only.text.startsWith("not (")), compiled: true });
    }
  }

  function visit(node: SyntaxNode, around: Scope, depth: number): void {
    const { type } = node;
    const scope = isScript(language) ? inObject(node, around) : around;
    if (type === "ERROR") file.errors.push({ from: node.from, to: node.to });
    if (shapes.comments.has(type)) comments.push(node);
    else if (shapes.imports.has(type)) file.imports.push(...importsOf(language, slice(node), node.from));
    else if (type === "class_interface" || type === "category_interface") addType(node, [], scope);
    else if (shapes.types.has(type)) visitAll(node, { ...scope, ...addType(node, [], scope) }, depth + 1);
    else if (type === "global_attribute") addAttributes(node);
    else if (shapes.functions.has(type)) visitFunction(node, scope, depth);
    else {
      const named = namedClosure(node);
      if (named) visitNamedClosure(node, named, scope, depth);
      else if (shapes.calls.has(type)) visitCall(node, scope, depth);
      else if (shapes.closures.has(type)) visitClosure(node, scope, depth);
      else if (shapes.branches.has(type) || /^preproc_(if|ifdef|elif)$/.test(type)) visitBranch(node, scope, depth);
      else visitOther(node, scope, depth);
    }
  }

  /** What is assigned as an object, or as what a function gives that is called there, has the name that it is assigned to. */
  function inObject(node: SyntaxNode, scope: Scope): Scope {
    const made = node.type === "return_statement" ? child(node, "new_expression") : undefined;
    if (made && scope.owner !== undefined) noteMade(made, scope.owner);
    if (!/^(?:assignment_expression|variable_declarator|pair)$/.test(node.type)) return scope;
    const [left] = [...fields(node, "left"), ...fields(node, "name"), ...fields(node, "key")];
    const [right] = [...fields(node, "right"), ...fields(node, "value")];
    const owner = left && right ? /([A-Za-z_$][\w$]*)$/.exec(slice(left))?.[1] : undefined;
    if (owner === undefined || !right) return scope;
    if (right.type === "new_expression") noteMade(right, owner);
    const isCalled =
      right.type === "call_expression" && /^\(?\s*(?:async\s+)?(?:function\b|\([^()]*\)\s*=>)/.test(slice(right).slice(0, 200));
    return right.type === "object" || isCalled ? { ...scope, owner } : scope;
  }

  function noteMade(node: SyntaxNode, owner: string): void {
    const type = /^new\s+(?:[\w$]+\.)*([A-Za-z_$][\w$]*)/.exec(slice(node))?.[1];
    if (type !== undefined) file.made.set(owner, type);
  }

  /** What holds others, and the few that say something besides. */
  function visitOther(node: SyntaxNode, scope: Scope, depth: number): void {
    const { type } = node;
    if (type === "jsx_attribute") addHandler(node, scope);
    else if (shapes.assignments.has(type)) addAssignment(node, scope);
    const [left, right] = node.children;
    if (type === "binary_expression" && left && right && /^\s*&&/.test(text.slice(left.to, right.from))) {
      visit(left, scope, depth + 1);
      visit(right, { ...scope, guards: [...scope.guards, guardOf(slice(left), false)] }, depth + 1);
    } else if (shapes.anonymous.has(type))
      visitAll(node, { ...inClosure(scope, scope.handedTo ?? { name: "", from: node.from }), anonymous: true }, depth + 1);
    else if (scope.in === -1 && isScript(language) && isOfClassItself(node)) visitAll(node, { ...scope, typeIndex: -1 }, depth + 1);
    else visitAll(node, type === "jsx_attribute" ? inAttribute(node, scope) : scope, depth + 1);
  }

  /** What belongs to a class of a script, and not to its objects: it runs when the script is loaded. */
  function isOfClassItself(node: SyntaxNode): boolean {
    return (
      node.type === "class_static_block" ||
      (/^(?:public_)?field_definition$/.test(node.type) &&
        /^(?:(?:public|private|protected|declare)\s+)?static\b/.test(slice(node).slice(0, 30)))
    );
  }

  /** What a handler of an element is given runs when its event comes, whatever the element is. */
  function inAttribute(node: SyntaxNode, scope: Scope): Scope {
    const event = /^on[A-Z]\w*(?=\s*=)/.exec(slice(node))?.[0];
    return event === undefined ? scope : { ...scope, handedTo: { name: event, from: node.from } };
  }

  /** Attributes of the whole file. */
  function addAttributes(node: SyntaxNode): void {
    for (const attribute of node.children) {
      const [name] = fields(attribute, "name");
      if (name) file.attributes.push({ name: slice(name), text: slice(attribute), from: attribute.from });
    }
  }

  function visitFunction(node: SyntaxNode, scope: Scope, depth: number): void {
    if (scope.anonymous) {
      visitAll(node, { ...scope, anonymous: false }, depth + 1);
      return;
    }
    const index = addFunction(node, scope, functionName(node, scope), annotationsOf(node), node.to);
    // Calls of it are left out of the builds that lack the symbol. Source: learn.microsoft.com, "ConditionalAttribute".
    const symbol = language === "csharp" ? /\bConditional\(\s*"(\w+)"/.exec(slice(node).slice(0, 300))?.[1] : undefined;
    const inside = inFunction(scope, index);
    visitAll(node, symbol === undefined ? inside : { ...inside, guards: [{ ...guardOf(symbol, false), compiled: true }] }, depth + 1);
  }

  function visitNamedClosure(node: SyntaxNode, named: { name: FunctionName; closure: SyntaxNode }, scope: Scope, depth: number): void {
    const index = addFunction(named.closure, scope, named.name, annotationsOf(node), node.to);
    const [path] = fields(node, "left");
    const owner = path ? /([A-Za-z_$][\w$]*)(?:\.prototype)?\.[\w$]+$/.exec(slice(path))?.[1] : undefined;
    const fn = file.functions[index];
    if (fn && owner !== undefined) fn.owner = owner;
    const inside = inFunction(scope, index);
    const idle = scope.handedTo && isDroppedChoice(scope.handedTo);
    visitAll(named.closure, idle ? { ...inside, guards: [...inside.guards, NOT_CALLED] } : inside, depth + 1);
  }

  function visitCall(node: SyntaxNode, scope: Scope, depth: number): void {
    const parts = shapes.call(node, slice);
    const [first] = node.children;
    if (parts) return visitParts(node, parts, scope, depth);
    // The closure behind a call belongs to it.
    const inner = first && shapes.calls.has(first.type) ? shapes.call(first, slice) : undefined;
    const name =
      inner && first
        ? (listed(inner, first.from) ?? withReceiver(inner))
        : first
          ? (listed({ receiver: slice(first) }, first.from) ?? calleeText(slice(first)))
          : "";
    for (const part of node.children)
      visit(part, { ...scope, handedTo: part === first ? undefined : { name, from: node.from } }, depth + 1);
  }

  /** A call with what it is made of, and all that is handed over to it. */
  function visitParts(node: SyntaxNode, parts: CallParts, scope: Scope, depth: number): void {
    const [first] = node.children;
    addCall(parts.callee, parts.selector, parts.arguments, node.from, scope, /\?\.[\s\w$]*$/.test(parts.receiver), parts.at);
    const handedTo = { name: listed(parts, node.from) ?? withReceiver(parts), from: node.from };
    const asks = guardOfArguments(parts);
    const within = asks ? { ...scope, guards: [...scope.guards, asks] } : scope;
    for (const part of node.children) {
      const receiver = part === first && part.field !== "arguments" && !/argument|lambda|suffix/.test(part.type);
      if (part.type === "class_body") {
        const outer = scope.handedTo ? inClosure(scope, scope.handedTo) : scope;
        visitAll(part, { ...inClosure(outer, handedTo), anonymous: true }, depth + 1);
      }
      // A closure that is called where it stands runs at once.
      else visit(part, { ...(receiver ? scope : within), handedTo: receiver ? AT_ONCE : handedTo }, depth + 1);
    }
  }

  /** A function by its name for what somebody does: it is called then. */
  function addHandler(node: SyntaxNode, scope: Scope): void {
    const written = slice(node);
    const handler = /^(on[A-Z]\w*)=\{\s*((?:this\.)?[A-Za-z_$][\w$]*)\s*\}$/.exec(written);
    if (handler) {
      const inside = inClosure(scope, { name: handler[1] as string, from: node.from });
      addCall(
        handler[2] as string,
        undefined,
        [],
        node.from,
        inside,
        false,
        node.from + written.lastIndexOf((handler[2] as string).replace("this.", "")),
      );
    }
  }

  function visitClosure(node: SyntaxNode, scope: Scope, depth: number): void {
    const handedTo = scope.handedTo ?? assignedTo(node);
    const idle = handedTo === undefined ? idleClosure(node, scope) : undefined;
    const inside = handedTo === AT_ONCE ? { ...scope, handedTo: undefined } : inClosure(scope, handedTo ?? { name: "", from: node.from });
    visitAll(node, idle ? { ...inside, guards: [...inside.guards, idle] } : inside, depth + 1);
  }

  function addAssignment(node: SyntaxNode, scope: Scope): void {
    const [left] = node.children;
    const right = node.children.at(-1);
    const callee = left ? calleeText(slice(left)) : "";
    if (right && right !== left && callee.includes(".")) {
      const value = slice(right);
      addCall(
        callee,
        undefined,
        [{ label: undefined, text: value.slice(0, 400), literal: literalOf(value), from: right.from }],
        node.from,
        scope,
        false,
        left ? left.to - (callee.split(".").at(-1)?.length ?? 0) : node.from,
        true,
      );
    }
  }

  /** Whether a call that gives one of several functions stands as a statement, so that none of them is called. */
  function isDroppedChoice({ name, from }: NonNullable<Scope["handedTo"]>): boolean {
    if (!/(^|\.)Platform\.select$/.test(name) || !/[;{}]\s*(?:void\s+)?$/.test(text.slice(Math.max(0, from - 40), from))) return false;
    return /^\s*(?:;|\n\s*[\w}])/.test(text.slice(closing(text, text.indexOf("(", from)) + 1).slice(0, 40));
  }

  /** What a closure is assigned to, where that is called when something fails. */
  function assignedTo({ from }: SyntaxNode): Scope["handedTo"] {
    const name = FAILURE_HANDLER.exec(text.slice(Math.max(0, from - 80), from))?.[1];
    return name === undefined ? undefined : { name, from };
  }

  /**
   * Why a closure that is handed over to nothing does not run: it is held by a variable of the function that nobody mentions again, or it is what
   * an effect gives back, which runs when all is over.
   */
  function idleClosure({ from, to }: SyntaxNode, scope: Scope): Guard | undefined {
    const before = text.slice(Math.max(0, from - 200), from);
    if (isScript(language)) {
      const last = scope.closures.at(-1) ?? "";
      return /\breturn\s*\(?\s*$/.test(before) && EFFECT.test(last) ? { kind: "never", text: "what runs when an effect ends" } : undefined;
    }
    const name = HOLDS.exec(before)?.[1];
    const fn = scope.in === -1 ? undefined : file.functions[scope.in];
    // Nobody but the file mentions what is private.
    const isOwn = /\b(?:private|fileprivate)\b[^\n;{}]*$/.test(before.slice(0, before.search(HOLDS)));
    if (name === undefined || (!fn && !isOwn)) return undefined;
    const word = new RegExp(`(?<![\\w$])${name}(?![\\w$])`, "g");
    const around = text.slice(fn?.from ?? 0, from - before.length + before.search(HOLDS)) + text.slice(to, fn?.to);
    return word.test(around) ? undefined : { kind: "never", text: `in the closure ${name}, which nothing calls` };
  }

  /**
   * What has to hold for the arguments of a call: builds in which it is there at all, and the test of `takeIf` before it. Sources:
   * learn.microsoft.com, "Debug" (ConditionalAttribute); developer.apple.com, `assert`, "Build settings reference" (ENABLE_NS_ASSERTIONS);
   * kotlinlang.org, `takeIf`.
   */
  function guardOfArguments({ callee, receiver }: CallParts): Guard | undefined {
    if (ONLY_IN_DEBUG[language]?.test(callee)) return { ...guardOf("DEBUG", false), compiled: true };
    const [, word, test] = language === "kotlin" ? (TAKEN_IF.exec(receiver) ?? []) : [];
    return test === undefined ? undefined : guardOf(test, word === "takeUnless");
  }

  /** What is called on a list that is written out: the list gets a name, by which what it holds is known. */
  function listed({ receiver }: Pick<CallParts, "receiver">, from: number): string | undefined {
    const match = /^((?:\[|(?:\w*[lL]istOf|setOf|arrayOf|List\.of|Arrays\.asList)\()[^]{1,200}[\])])\s*\.\s*(\w+)\s*$/.exec(receiver);
    if (!match) return undefined;
    const name = `list_${from}`;
    file.values.set(name, { text: match[1] as string, from, to: from + (match[1] as string).length });
    return `${name}.${match[2] ?? ""}`;
  }

  /** Both ways of a condition; everything before the first way is the condition. */
  function visitBranch(node: SyntaxNode, scope: Scope, depth: number): void {
    const { children, type } = node;
    const stated = children.some(({ field }) => field === "consequence" || field === "alternative" || field === "body");
    const preprocessor = type.startsWith("preproc_");
    const isCondition = (part: SyntaxNode): boolean =>
      preprocessor
        ? part.field === "condition" || part.field === "name"
        : stated
          ? part.field !== "consequence" && part.field !== "alternative" && part.field !== "body" && !/else/.test(part.type)
          : part.field === "condition" || part.field === "bound_identifier" || part.type === "when_subject" || part.field === "subject";
    const ways = children.filter((part) => !isCondition(part) && !shapes.comments.has(part.type));
    const first = ways[0];
    const conditions = children.filter(isCondition);
    const from = conditions[0]?.from ?? node.from;
    const to = conditions.at(-1)?.to ?? from;
    let condition = text.slice(from, to);
    if (type === "preproc_ifdef" && /^#\s*ifndef/.test(text.slice(node.from, node.from + 12))) condition = `!${condition}`;
    if (type === "assert_statement") condition = "DEBUG";
    for (const part of conditions) visit(part, scope, depth + 1);
    const many = /switch|when/.test(type);
    // `when { DEBUG -> … }` asks a condition for each way.
    const asked: string[] = [];
    for (const way of ways) {
      const other = preprocessor
        ? /^preproc_(else|elif)$/.test(way.type)
        : way.field === "alternative" || (way.field !== "consequence" && way.field !== "body" && way !== first);
      const guard: Guard = many
        ? ((type === "when_expression" && conditions.length === 0 ? guardOfEntry(slice(way), asked) : undefined) ?? {
            text: condition.slice(0, 80),
            kind: "other",
          })
        : { ...guardOf(condition, other), ...(preprocessor ? { compiled: true } : {}) };
      const inside = { ...scope, guards: [...scope.guards, guard] };
      if (way.type === "directive") continue;
      visit(way, inside, depth + 1);
    }
  }

  /** What one way of a `when` without a subject asks; its `else` says something only behind one condition. */
  function guardOfEntry(entry: string, asked: string[]): Guard | undefined {
    const head = entry.split("->", 1)[0]?.trim() ?? "";
    if (head === "else") return asked.length === 1 ? guardOf(asked[0] as string, true) : undefined;
    asked.push(head);
    return guardOf(head, false);
  }

  /** `if (x) return;` is a condition for what follows, and so is `#if X`, `return`, `#endif`. */
  // eslint-disable-next-line complexity -- one question after the other about what leaves a function early
  function earlyExit(node: SyntaxNode): Guard | undefined {
    if (node.type === "preproc_if") {
      const [, condition = ""] = /^#\s*if\s+([^\r\n]*)/.exec(slice(node)) ?? [];
      const leaves =
        node.children.some((child) => unreachableBehind(child)) && !node.children.some(({ type }) => /^preproc_(else|elif)$/.test(type));
      return leaves ? { ...guardOf(condition, true), compiled: true } : undefined;
    }
    if (node.type === "guard_statement") {
      const written = /^guard\s+([\s\S]*?)\s*else\s*\{/.exec(slice(node))?.[1];
      return written === undefined || ALWAYS_HOLDS.test(written) ? undefined : guardOf(written, false);
    }
    const branch = shapes.branches.has(node.type) ? node : node.type === "expression_statement" ? node.children[0] : undefined;
    if (!branch || !branch.type.startsWith("if_") || branch.to - branch.from > 400) return undefined;
    const written = slice(branch);
    if (!/\b(?:return|throw)\b/.test(written)) return undefined;
    const open = /^if\s*/.exec(written)?.[0].length ?? 0;
    const end = written[open] === "(" ? closing(written, open) + 1 : written.indexOf("{");
    if (end <= open || !/^\s*\{?(?:[^{}]*[;\n])?\s*(?:return|throw)\b[^{}]*\}?\s*$/.test(written.slice(end))) return undefined;
    return guardOf(written.slice(open, end), true);
  }

  /** Behind a `return` nothing runs. */
  function unreachableBehind({ type, from }: SyntaxNode): Guard | undefined {
    return /^(return_statement|throw_statement|return_expression|jump_expression|control_transfer_statement|throw_expression)$/.test(
      type,
    ) && /^(?:return|throw)\b/.test(text.slice(from, from + 8))
      ? { kind: "never", text: "code behind a return" }
      : undefined;
  }

  function addCall(
    callee: string,
    selector: string | undefined,
    list: CodeArgument[],
    from: number,
    scope: Scope,
    optional: boolean,
    at: number,
    assignment = false,
  ): void {
    if (callee === "" || callee.length > 400) return;
    const call: CodeCall = {
      callee,
      selector,
      assignment,
      from,
      at,
      arguments: list,
      in: scope.in === -1 && scope.typeIndex !== -1 ? implicitOf(scope) : scope.in,
      guards: [...scope.guards],
      closures: [...scope.closures],
      closuresAt: [...scope.closuresAt],
      optional,
    };
    file.calls.push(call);
  }

  /** Values of a type's properties are worked out when an object of it is made. */
  function implicitOf({ typeIndex, type }: Scope): number {
    let index = implicit.get(typeIndex);
    if (index === undefined) {
      const owner = file.types[typeIndex];
      index = file.functions.length;
      implicit.set(typeIndex, index);
      file.functions.push({
        name: "init",
        type,
        kind: "initializer",
        selector: "init",
        annotations: [],
        overrides: false,
        isStatic: false,
        from: owner?.from ?? 0,
        to: owner?.to ?? 0,
      });
    }
    return index;
  }

  function addType(
    node: SyntaxNode,
    annotations: string[],
    scope: Scope,
  ): Pick<Scope, "type" | "typeIndex" | "in" | "closures" | "closuresAt" | "handedTo"> {
    const header = headerOf(node);
    const [field] = fields(node, "name");
    const name = field
      ? slice(field)
      : node.type === "companion_object"
        ? scope.type
        : slice(child(node, "identifier", "type_identifier") ?? { ...node, to: node.from });
    const extension =
      /^\s*(?:public |private |internal |fileprivate )*extension\b/.test(header) ||
      (language === "objc" && /interface|category/.test(node.type));
    // A category of Objective-C stands in brackets.
    // What a constructor in the head is given is no supertype, and neither is a mark of it.
    const above =
      language === "objc" || language === "kotlin" || language === "csharp" || language === "java"
        ? withoutBrackets(header).replace(/@\w+(?:\.\w+)*/g, "")
        : header;
    const supers = above.slice(above.indexOf(name) + name.length).match(/\b_?[A-Z]\w*(?:\.[A-Z]\w*)*/g) ?? [];
    const type: CodeType = {
      name: name.replace(/<.*$/s, "").split(".").at(-1) ?? name,
      supers,
      annotations: [...annotations, ...annotationsOf(node)],
      extension,
      from: field?.from ?? node.from,
      to: node.to,
    };
    file.types.push(type);
    return { type: type.name, typeIndex: file.types.length - 1, in: -1, closures: [], closuresAt: [], handedTo: undefined };
  }

  /** A declaration up to its body. */
  function headerOf(node: SyntaxNode): string {
    const body = node.children.find(({ type, field }) => field === "body" || /body|declaration_list|implementation_definition/.test(type));
    const [first] = node.children.filter(({ type, from }) => !/modifier|annotation|attribute|comment/.test(type) && from > node.from - 1);
    return text.slice(
      first && first.from > node.from && /modifier|attribute/.test(node.children[0]?.type ?? "") ? first.from : node.from,
      Math.min(body?.from ?? node.to, node.from + 2_000),
    );
  }

  function addFunction(node: SyntaxNode, scope: Scope, name: FunctionName, annotations: string[], to: number): number {
    const header = text.slice(
      node.from,
      Math.min(node.children.find(({ field, type }) => field === "body" || /body|block|compound/.test(type))?.from ?? to, node.from + 600),
    );
    const fn: CodeFunction = {
      name: name.name,
      type: scope.type,
      kind: name.kind,
      selector: name.selector ?? name.name,
      annotations,
      overrides: /\boverride\b/.test(header) || annotations.some((annotation) => /^override$/i.test(annotation)),
      isStatic: /\bstatic\b|^\+/.test(header),
      from: node.from,
      to,
    };
    if (scope.owner !== undefined) fn.owner = scope.owner;
    if (
      (language === "csharp" && /\bIEnumera(?:tor|ble)\b/.test(header) && /\byield\s+(?:return|break)\b/.test(text.slice(node.from, to))) ||
      (isScript(language) && /^(?:export\s+|default\s+|async\s+)*function\s*\*/.test(header)) ||
      (language === "dart" && /\)\s*sync\*/.test(text.slice(node.from, Math.min(to, node.from + 400)).split("{", 1)[0] ?? "")) ||
      // `fun start() = { … }` gives a closure.
      (language === "kotlin" && /\)\s*(?::[^={]*)?=\s*$/.test(text.slice(node.from, to).split("{", 1)[0] ?? ""))
    )
      fn.iterates = true;
    file.functions.push(fn);
    return file.functions.length - 1;
  }

  // eslint-disable-next-line complexity -- one case for each kind of function in a tree
  function functionName(node: SyntaxNode, scope: Scope): FunctionName {
    const [field] = fields(node, "name");
    switch (node.type) {
      case "anonymous_initializer":
        return { name: "init", kind: "initializer" };
      case "static_initializer":
        return { name: "static", kind: "initializer" };
      case "secondary_constructor":
      case "init_declaration":
      case "constructor_declaration":
        return { name: "init", kind: "constructor" };
      case "deinit_declaration":
        return { name: "deinit", kind: "function" };
      case "destructor_declaration":
        return { name: "Finalize", kind: "function" };
      case "getter":
      case "setter":
      case "accessor_declaration":
      case "computed_property": {
        const before = text.slice(Math.max(0, node.from - 200), node.from);
        return {
          // The last declaration before it: others without a value can stand above.
          name: /^[\s\S]*\b(?:var|val|let)\s+(\w+)[^;{}]*$/.exec(before)?.[1] ?? /(\w+)\s*\{?\s*$/.exec(before)?.[1] ?? "get",
          kind: "property",
        };
      }
      case "method_definition": {
        if (language !== "objc") break;
        const pieces = node.children.filter(({ type }) => type === "identifier").map((piece) => slice(piece));
        const takes = node.children.some(({ type }) => type === "method_parameter");
        return {
          name: pieces[0] ?? "",
          kind: "function",
          selector: takes ? pieces.map((piece) => `${piece}:`).join("") : (pieces[0] ?? ""),
        };
      }
      case "function_definition":
        return { name: /(\w+)\s*\($/.exec(text.slice(node.from, text.indexOf("(", node.from) + 1))?.[1] ?? "", kind: "function" };
      case "function_declaration":
        if (language === "swift") {
          const labels = node.children.flatMap((part) => {
            if (part.type !== "parameter") return [];
            const [external] = fields(part, "external_name");
            const [own] = fields(part, "name");
            return [`${external ? slice(external).replace("_", "") : own ? slice(own) : ""}:`];
          });
          const name = field ? slice(field) : "";
          return {
            name,
            kind: "function",
            selector:
              labels.length === 0
                ? name
                : `${name}${(labels[0] ?? "").replace(/^\w+:/, (label) => `(${label}`)}${labels.slice(1).join("")}`,
          };
        }
    }
    if (isScript(language) && field && slice(field) === "constructor") return { name: "init", kind: "constructor" };
    return { name: field ? slice(field) : "", kind: scope.type === "" ? "function" : "function" };
  }

  /** `const start = () => …`, `start = async () => …` in a class, `{ start: function () … }`. */
  function namedClosure(node: SyntaxNode): { name: FunctionName; closure: SyntaxNode } | undefined {
    if (!isScript(language)) return undefined;
    const [value] = [...fields(node, "value"), ...fields(node, "right")];
    if (!value || !shapes.closures.has(value.type)) return undefined;
    const [name] = [...fields(node, "name"), ...fields(node, "property"), ...fields(node, "key"), ...fields(node, "left")];
    if (!name) return undefined;
    return { name: { name: slice(name).split(".").at(-1)?.replace(/\W/g, "") ?? "", kind: "function" }, closure: value };
  }

  function dartName(node: SyntaxNode): FunctionName {
    const signature =
      node.type === "function_signature"
        ? node
        : (child(node, "function_signature") ?? node.children.find(({ type }) => /signature$/.test(type)) ?? node);
    const [name] = fields(signature, "name");
    if (/constructor/.test(signature.type)) return { name: "init", kind: "constructor" };
    const written = name ?? child(signature, "identifier");
    return { name: written ? slice(written) : "", kind: /getter|setter/.test(signature.type) ? "property" : "function" };
  }

  function annotationsOf(node: SyntaxNode): string[] {
    return node.children
      .filter(({ type }) => /^(modifiers|attribute_list|annotation|decorator|attribute)$/.test(type))
      .flatMap((part) => [...slice(part).matchAll(/[@[,]\s*([A-Za-z_][\w.]*)/g)].map((match) => match[1] as string));
  }

  /** The last of the selectors that follow a name in Dart; its own index where none does. */
  function selectorsAfter(children: readonly SyntaxNode[], index: number): number {
    let end = index;
    while (/^(selector|cascade_section|unconditional_assignable_selector)$/.test(children[end + 1]?.type ?? "")) end++;
    return /^(selector|cascade_section)$/.test(children[index]?.type ?? "") ? index : end;
  }

  function dartCalls(children: readonly SyntaxNode[], start: number, end: number, scope: Scope, depth: number): void {
    const primary = children[start] as SyntaxNode;
    let base = primary.to;
    for (let i = start + 1; i <= end; i++) {
      const node = children[i] as SyntaxNode;
      const part = child(node, "argument_part");
      if (node.type !== "cascade_section") base = node.to;
      if (!part) {
        visitAll(node, scope, depth + 1);
        continue;
      }
      const receiver = text.slice(primary.from, node.from);
      const cascade = child(node, "cascade_selector");
      const callee = calleeText(
        cascade ? `${text.slice(primary.from, firstCascade(children, start, end) ?? base)}.${slice(cascade)}` : receiver,
      );
      const at = node.from - (/(\w+)\s*$/.exec(receiver)?.[1]?.length ?? 0);
      addCall(
        callee,
        undefined,
        dartArguments(part, slice),
        primary.from,
        scope,
        /\?\.\w+\s*$/.test(receiver),
        cascade ? cascade.from : at,
      );
      visitAll(part, { ...scope, handedTo: { name: callee, from: primary.from } }, depth + 1);
    }
  }

  function firstCascade(children: readonly SyntaxNode[], start: number, end: number): number | undefined {
    return children.slice(start, end + 1).find(({ type }) => type === "cascade_section")?.from;
  }

  function annotationsBefore(children: readonly SyntaxNode[], index: number): string[] {
    const found: string[] = [];
    for (let i = index - 1; children[i]?.type === "annotation"; i--)
      found.push(
        slice(children[i] as SyntaxNode)
          .replace(/^@/, "")
          .split("(")[0] ?? "",
      );
    return found;
  }
}

interface FunctionName {
  name: string;
  kind: CodeFunction["kind"];
  selector?: string;
}

function inFunction(scope: Scope, index: number): Scope {
  return { ...scope, in: index, guards: [], closures: [], closuresAt: [], handedTo: undefined, anonymous: false };
}

/** A text without what stands in round brackets, however deep. */
function withoutBrackets(text: string): string {
  let result = "";
  for (let at = 0; at < text.length; at++) {
    if (text[at] === "(") at = closing(text, at);
    else result += text[at] as string;
  }
  return result;
}

/** What closures are handed over to that run where they stand. */
const AT_ONCE = { name: "run", from: -1 };

function inClosure(scope: Scope, { name, from }: { name: string; from: number }): Scope {
  return { ...scope, closures: [...scope.closures, name], closuresAt: [...scope.closuresAt, from], handedTo: undefined };
}

/** The name of a call to which a closure is handed over: `with(x) { … }` as `x.with`, like `x.run`. */
function withReceiver({ callee, arguments: list }: Pick<CallParts, "callee" | "arguments">): string {
  return callee === "with" && list[0] ? `${calleeText(list[0].text)}.with` : callee;
}

/** Conditional compilation that stands as lines of its own between statements (Swift). */
function applyDirective(text: string, conditions: Guard[]): void {
  const [, word = "", condition = ""] = /^#\s*(\w+)\s*(.*)/s.exec(text) ?? [];
  const add = (text_: string, negated: boolean): void => void conditions.push({ ...guardOf(text_, negated), compiled: true });
  if (word === "if") add(condition, false);
  else if (word === "endif") conditions.pop();
  else if (word === "else" || word === "elseif") {
    const last = conditions.pop();
    if (word === "elseif") add(condition, false);
    else add(last?.text ?? "", true);
  }
}

/** The text with some ranges as spaces; lines stay where they are. */
function blanked(text: string, ranges: readonly { from: number; to: number }[]): string {
  if (ranges.length === 0) return text;
  let result = "";
  let at = 0;
  for (const { from, to } of [...ranges].sort((a, b) => a.from - b.from)) {
    if (from < at) continue;
    result += text.slice(at, from) + text.slice(from, to).replace(/[^\r\n]/g, " ");
    at = to;
  }
  return result + text.slice(at);
}
