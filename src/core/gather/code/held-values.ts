import type { CodeCall, CodeFile, CodeFunction } from "../../model/code.js";
import { closing } from "../../syntax/code/callee.js";
import { expressionAt, givenAt, type Expression, type GivenValue } from "../../syntax/code/expression.js";
import type { SideName } from "../../model/facts.js";
import { guardOf } from "../../syntax/code/guard.js";
import { buildRegions, variantAt } from "../platforms/build-regions.js";
import { functionOf, type FunctionRef } from "./function-ref.js";
import { type Parameter, headerOf, parametersIn, dartHead } from "./parameters.js";
import {
  type Declaration,
  declarationsIn,
  isInFunction,
  isInside,
  innermost,
  isNothing,
  typeAt,
  constructorsOf,
  isSetElsewhere,
  isSetAgain,
  constantIn,
  constructorName,
  assignmentsIn,
  returns,
  givenBack,
} from "./declared-values.js";
import { shapeOf, membersOfShape, typeArgument } from "./type-shapes.js";
import { escaped } from "./mentions.js";
import type { Program, Target } from "./program.js";
import { isScript } from "./sources.js";

type Of<K extends Expression["kind"]> = Extract<Expression, { kind: K }>;

/** An expression with what its names mean: the function around it, and the type of the object on which that runs. */
export interface Located<E extends Expression = Expression> {
  expression: E;
  ref: FunctionRef;
  self: string;
}

/** What an expression may hold that can be called, or that has members which can. */
export type Held =
  | { kind: "function"; ref: FunctionRef; self: string }
  | { kind: "closure"; closure: Located<Of<"closure">> }
  | { kind: "object"; object: Located<Of<"object">> }
  /** An object of one of the app's own types, with what it was made with, where that is known. */
  | { kind: "made"; type: string; given: readonly Located[] | undefined; labels: readonly (string | undefined)[]; constant?: string }
  | { kind: "list"; items: readonly Located[]; tuple?: true | undefined }
  /** What is only known by its type in TypeScript. */
  | { kind: "shape"; text: string; ref: FunctionRef }
  /** Where texts are asked for: an expression that stands for nothing else, and the constant of an enumeration that has it. */
  | { kind: "written"; located: Located; constant?: string | undefined };

/** The functions that something holds; `certain` where all of them are meant. */
interface Runs {
  runs: Runnable[];
  certain: boolean;
}

export type Runnable = Extract<Held, { kind: "function" | "closure" }>;

const DEEPEST = 14;
/** So many expressions are looked into for one question. */
const MOST_STEPS = 400;
/** So many calls give a parameter what it holds; of more nothing is known. */
const MOST_CALLS = 8;

/** Functions that give a list of what they are given. */
export const MAKES_LIST = /^(?:listOf|listOfNotNull|mutableListOf|arrayListOf|arrayOf|setOf|linkedSetOf|sequenceOf|of|asList|List|Array)$/;
/** Functions that give the first of what they are given, and those that give what they are called on. */
const GIVES_FIRST =
  /^(?:freeze|useMemo|useCallback|useRef|useState|memo|lazy|remember|rememberSaveable|Lazy|markRaw|shallowRef|unmodifiable)$/;
const GIVES_ITSELF =
  /^(?:toList|toTypedArray|toSet|asSequence|asIterable|also|bind|filterNotNull|filter|onEach|reversed|asReversed|AsReadOnly|ToList|ToArray|asList|then|catch|orEmpty|orElse)$/;
/** Members that are what they are asked of, and those by which a function is called that is an object. Sources: docs.oracle.com, "java.util.function", `Runnable`; kotlinlang.org, "Invoking a function type instance"; learn.microsoft.com, "Delegates". */
const IS_ITSELF = /^(?:value|current|Value|lazy|wrappedValue)$/;
const CALLS_ITSELF = /^(?:run|accept|apply|get|call|test|execute|invoke|Invoke)$/;

/** Functions that add to the list on which they are called. */
export const ADDS = "add|Add|addLast|append|push|addElement|addAll|AddRange";

/** Functions whose closure is given each of what a list holds, and those that give it what they are called on. */
const GOES_THROUGH =
  /(^|\.)(forEach|forEachIndexed|ForEach|map|mapNotNull|compactMap|flatMap|onEach|Select|every|some|any|all|first|firstOrNull|let|also)$/;

/** A name behind an expression. */
interface Member {
  name: string;
  before: Expression;
  from: number;
  to: number;
}

/** Answers what functions and objects the names and expressions of an app hold, as far as the files tell; all of them may be meant. */
export class HeldValues {
  private steps = 0;
  /** The side from which it is asked. */
  private side: SideName = "shared";
  /** Something on the way may mean several things. */
  private open = false;
  /** What is meant is each of a list, and not one of it. */
  private each = false;
  /** The builds for which it is asked, where they differ. */
  private build: "debug" | "release" | undefined;
  /** Asked for is what is written, and not what can be called. */
  private texts = false;
  private readonly declared = new Map<CodeFile, Map<string, readonly Declaration[]>>();
  private readonly parameters = new Map<CodeFunction | string, readonly Parameter[]>();
  /** Calls by which functions were run that a value held. */
  private readonly ways = new Map<CodeFunction, { call: CodeCall; ref: FunctionRef }[]>();

  constructor(private readonly program: Program) {}

  /** The functions that a call runs, where what it calls is a value that holds them; in the order in which a list has them. */
  calledBy(call: CodeCall, ref: FunctionRef, self: string): Runs {
    const end = endOfName(call);
    if (!call.callee.includes(".")) return this.runsOf({ kind: "name", name: call.callee, from: call.at, to: end }, ref, self, call);
    const expression = upTo(expressionAt(ref.code, call.from), end);
    return expression ? this.runsOf(expression, ref, self, call) : { runs: [], certain: true };
  }

  /** The functions that a name holds which a call is given. */
  handedTo(call: CodeCall, name: string, at: number, ref: FunctionRef, self: string): Runs {
    return this.runsOf({ kind: "name", name, from: at, to: at + name.length }, ref, self, call);
  }

  private runsOf(expression: Expression, ref: FunctionRef, self: string, call: CodeCall): Runs {
    this.begin(ref);
    const held = this.of({ expression, ref, self }, 0, call);
    return { runs: held.filter((one): one is Runnable => one.kind === "function" || one.kind === "closure"), certain: !this.open };
  }

  private begin(ref: FunctionRef, texts = false, build?: "debug" | "release"): void {
    this.steps = 0;
    this.open = false;
    this.each = false;
    this.side = ref.source.side;
    this.texts = texts;
    this.build = build;
  }

  /** Notes that a call ran a function that some value held. */
  note(target: FunctionRef, call: CodeCall, ref: FunctionRef): void {
    const fn = functionOf(target);
    if (!fn) return;
    const known = this.ways.get(fn) ?? [];
    if (!known.some((way) => way.call === call)) this.ways.set(fn, [...known, { call, ref }]);
  }

  /** The expressions for which one stands that begins at an offset, through names, members, parameters and what functions give. */
  writtenFor(from: number, to: number, ref: FunctionRef, build?: "debug" | "release"): Held[] {
    this.begin(ref, true, build);
    const expression = expressionAt(ref.code, from);
    const held = expression.to < to ? [] : this.of({ expression, ref, self: functionOf(ref)?.type ?? "" }, 0);
    this.begin(ref);
    return held;
  }

  /** The members of an object that is written out, also of those that it takes up; later ones first. */
  membersOf({ expression, ref, self }: Located<Of<"object">>, depth = 0): { key: string; value: Located }[] {
    const own = expression.members.map(({ key, value }) => ({ key, value: { expression: value, ref, self } }));
    const others = expression.others.flatMap((other) =>
      this.of({ expression: other, ref, self }, depth + 1).flatMap((held) =>
        held.kind === "object" && depth < 4 ? this.membersOf(held.object, depth + 1) : [],
      ),
    );
    return [...own, ...others];
  }

  /** What an expression holds. */
  of(located: Located, depth: number, call?: CodeCall): Held[] {
    const { expression } = located;
    const chosen = expression.kind === "either" ? this.chosen(expression) : undefined;
    if (chosen) return this.of({ ...located, expression: chosen }, depth + 1, call);
    if (!this.texts) return this.work(located, depth, call);
    if (expression.kind === "either" || expression.kind === "literal" || expression.kind === "other") return [{ kind: "written", located }];
    const found = this.work(located, depth, call);
    return found.length > 0 ? found : [{ kind: "written", located }];
  }

  /** Which of two is meant in the builds that are asked for. */
  private chosen({ test, options: [first, second] }: Of<"either">): Expression | undefined {
    const kind = this.build === undefined || test === undefined ? "other" : guardOf(test, false).kind;
    return kind === this.build ? first : kind === "debug" || kind === "release" ? second : undefined;
  }

  /** The same for what stands before a member or is called. */
  private before(located: Located, depth: number, call?: CodeCall): Held[] {
    const { texts } = this;
    this.texts = false;
    const found = this.of(located, depth, call);
    this.texts = texts;
    return found;
  }

  // eslint-disable-next-line complexity -- one case for each kind of expression
  private work(located: Located, depth: number, call?: CodeCall): Held[] {
    if (depth > DEEPEST || this.steps++ > MOST_STEPS) return [];
    const { expression, ref, self } = located;
    const inner = (other: Expression): Held[] => this.of({ expression: other, ref, self }, depth + 1, call);
    const before = (other: Expression): Held[] => this.before({ expression: other, ref, self }, depth + 1, call);
    switch (expression.kind) {
      case "name":
        return this.named(expression, ref, self, depth, call);
      case "member":
        return expression.of
          ? this.member(before(expression.of), { ...expression, before: expression.of }, located, depth)
          : this.implied(expression.name, depth);
      case "reference": {
        if (expression.of && !(expression.of.kind === "name" && expression.of.name === "this"))
          return this.member(before(expression.of), { ...expression, before: expression.of }, located, depth);
        return this.functionsNamed(expression.name, expression.from, ref, self);
      }
      case "call":
        return this.given(expression, located, depth, call);
      case "element":
        return this.elements(before(expression.of), depth, expression.key);
      case "list":
        return [{ kind: "list", items: expression.items.map((item) => ({ expression: item, ref, self })), tuple: expression.tuple }];
      case "object":
        return [{ kind: "object", object: { expression, ref, self } }];
      case "closure":
        return [this.closure({ expression, ref, self })];
      case "either":
        return this.anyOf(expression.options.map(inner));
      case "joined": {
        const lists = expression.parts.map(inner).map((held) => held.find((one) => one.kind === "list"));
        return lists.every((list) => list !== undefined) ? [{ kind: "list", items: lists.flatMap(({ items }) => items) }] : [];
      }
      case "typed": {
        if (this.texts) return inner(expression.of);
        if (isScript(ref.code.language)) {
          const held = this.ofType(expression.type, ref, depth + 1);
          return held.length > 0 ? held : inner(expression.of);
        }
        const type = expression.type
          .replace(/[<[].*$/s, "")
          .split(".")
          .at(-1) as string;
        return this.program.types(type).length > 0 ? [{ kind: "made", type, given: undefined, labels: [] }] : inner(expression.of);
      }
      case "literal":
      case "other":
        return [];
    }
  }

  /** All that may be meant, where only one of several is. */
  private anyOf(held: readonly Held[][]): Held[] {
    const found = new Map<unknown, Held>();
    for (const one of held.flat()) found.set(identityOf(one), one);
    if (!this.each && held.filter((one) => one.length > 0).length > 1 && found.size > 1) this.open = true;
    return [...found.values()];
  }

  /** A closure that has a name is a function of the file. */
  private closure(closure: Located<Of<"closure">>): Held {
    const { code } = closure.ref;
    const index = code.functions.findIndex(({ from, kind }) => from === closure.expression.from && kind === "function");
    return index === -1 ? { kind: "closure", closure } : { kind: "function", ref: { ...closure.ref, index }, self: closure.self };
  }

  /** What a name holds, the nearest first. */
  private named({ name, from }: Of<"name">, ref: FunctionRef, self: string, depth: number, call?: CodeCall): Held[] {
    if (name === "this" || name === "self") return self === "" ? [] : [{ kind: "made", type: self, given: undefined, labels: [] }];
    const each = this.ofEach(name, from, ref, self, depth, call);
    if (each) return each;
    // In the function, and in those around it.
    for (const level of [ref, ...functionsAround(ref)]) {
      const parameter = this.parameterOf(level, name);
      const local = this.declaredIn(level, name, from, self, depth, parameter !== undefined);
      if (local) return local;
      if (parameter) return this.ofParameter(level, parameter, name, depth);
    }
    for (const type of new Set([self, functionOf(ref)?.type ?? ""])) {
      const held = type === "" ? [] : this.property(type, name, undefined, depth, ref.code);
      if (held.length > 0) return held;
    }
    const outer = this.declaredIn({ ...ref, index: -1 }, name, from, self, depth);
    if (outer && outer.length > 0) return outer;
    const imported = this.program.modules.origin(ref, name);
    if (imported) return this.exported(imported.ref, imported.name, depth);
    return this.functionsNamed(name, from, ref, self);
  }

  private exported(ref: FunctionRef, name: string, depth: number): Held[] {
    const at = ref.code.functions.findIndex((fn) => fn.name === name && fn.type === "");
    if (at !== -1) return [{ kind: "function", ref: { ...ref, index: at }, self: "" }];
    return this.declaredIn({ ...ref, index: -1 }, name, ref.code.plain.length, "", depth) ?? [];
  }

  private functionsNamed(name: string, at: number, ref: FunctionRef, self: string): Held[] {
    if (this.program.named(name).length === 0) return [];
    return this.functionsAmong(this.program.targets(callOf(name, at, ref), { ref, self, side: this.side }), name);
  }

  /** What the parameter of a closure or loop holds that goes through a list. */
  private ofEach(name: string, at: number, ref: FunctionRef, self: string, depth: number, call?: CodeCall): Held[] | undefined {
    return this.ofClosure(name, at, ref, self, depth, call) ?? this.ofLoop(name, at, ref, self, depth);
  }

  /** `steps.forEach { step -> step() }` */
  private ofClosure(name: string, at: number, ref: FunctionRef, self: string, depth: number, call?: CodeCall): Held[] | undefined {
    const { code } = ref;
    for (let i = (call?.closures.length ?? 0) - 1; i >= 0; i--) {
      const handed = this.program.callTo(code, call?.closures[i] ?? "", call?.closuresAt[i] ?? -1);
      const closure = handed && closureAround(code, handed, at);
      if (!handed || !closure) continue;
      const isIt = name === "$0" || (name === "it" && closure.parameters.length === 0);
      if (!isIt && closure.parameters[0] !== name) continue;
      if (!GOES_THROUGH.test(handed.callee)) return [];
      const expression = upTo(expressionAt(code, handed.from), endOfName(handed));
      if (expression?.kind !== "member" || !expression.of) return [];
      const held = this.of({ expression: expression.of, ref, self }, depth + 1);
      return /(let|also)$/.test(handed.callee) ? held : this.eachOf(held, depth);
    }
    return undefined;
  }

  /** `for (step in steps)`, `for step in steps`, `for (const step of steps)`, `foreach (var step in steps)` */
  private ofLoop(name: string, at: number, ref: FunctionRef, self: string, depth: number): Held[] | undefined {
    const { code } = ref;
    const start = functionOf(ref)?.from ?? 0;
    const loop = new RegExp(
      `\\b(?:for|foreach)(?:\\s+await)?\\s*\\(?\\s*(?:const|let|var|final|[A-Z][\\w<>]*)?\\s*${escaped(name)}\\s+(?:in|of)\\s+|\\bfor\\s*\\(\\s*[\\w<>]+\\s+${escaped(name)}\\s*:\\s*`,
      "g",
    );
    const found = [...code.plain.slice(start, at).matchAll(loop)].at(-1);
    if (!found) return this.ofApart(name, at, start, ref, self, depth);
    return this.eachOf(this.of({ expression: expressionAt(code, start + found.index + found[0].length), ref, self }, depth + 1), depth);
  }

  /** The same where each is taken apart: `foreach (var (name, step) in steps)`, `for (const [name, step] of steps)`. */
  private ofApart(name: string, at: number, start: number, ref: FunctionRef, self: string, depth: number): Held[] | undefined {
    const { code } = ref;
    const loop = /\b(?:for|foreach)(?:\s+await)?\s*\(?\s*(?:const|let|var|final)?\s*[([]([\w\s,$]+)[)\]]\s+(?:in|of)\s+/g;
    for (const match of [...code.plain.slice(start, at).matchAll(loop)].toReversed()) {
      const index = (match[1] as string).split(",").findIndex((part) => part.trim() === name);
      if (index === -1) continue;
      const lists = this.eachOf(
        this.of({ expression: expressionAt(code, start + match.index + match[0].length), ref, self }, depth + 1),
        depth,
      );
      return lists.flatMap((one) => {
        const item = one.kind === "list" ? one.items[index] : undefined;
        return item ? this.of(item, depth + 1) : [];
      });
    }
    return undefined;
  }

  private eachOf(held: readonly Held[], depth: number): Held[] {
    this.each = true;
    return this.elements(held, depth);
  }

  /** What the elements of lists hold, one after the other; of objects, what their members do. */
  private elements(held: readonly Held[], depth: number, key?: string): Held[] {
    return held.flatMap((one) => {
      if (one.kind === "list") return one.items.flatMap((item) => this.of(item, depth + 1));
      if (one.kind !== "object") return [];
      const { expression, ref, self } = one.object;
      return expression.members
        .filter((member) => key === undefined || member.key === key)
        .flatMap(
          (member) => this.memberOfObject(one.object, member.key, depth) ?? this.of({ expression: member.value, ref, self }, depth + 1),
        );
    });
  }

  /** What a name holds that a function, or with -1 the file outside of types and functions, declares. */
  private declaredIn(ref: FunctionRef, name: string, at: number, self: string, depth: number, valued = false): Held[] | undefined {
    const { code, index } = ref;
    const fn = functionOf(ref);
    // What stands in the brackets of a parameter is what it is where nothing is given for it.
    const begin = fn ? fn.from + (valued ? this.headEnd(ref) : 0) : 0;
    const inside = (declaration: Declaration): boolean =>
      fn && fn.kind !== "initializer"
        ? declaration.at >= begin && declaration.at < fn.to && (declaration.at < at || isScript(code.language))
        : index === -1 && !isInside(code, declaration.at);
    const found = this.declarations(code, name).findLast((one) => inside(one) && !(valued && one.value === undefined));
    // What gets another value later is not known.
    if (found && ((fn && isSetAgain(code, fn, name, found.at)) || this.isOpen(code, name))) return [];
    const filled = found && fn ? this.filled(code, name, fn, ref, self) : [];
    if (filled.length > 0) return [{ kind: "list", items: filled }];
    return found && this.ofDeclaration(found, { ...ref }, self, depth);
  }

  /** Whether a file gives a name of it another value later. */
  private isOpen(code: CodeFile, name: string): boolean {
    const [only, ...more] = this.declarations(code, name).filter(({ value }) => value !== undefined && !isNothing(code, value));
    return only?.value !== undefined && more.length === 0 && isSetElsewhere(code, name, only.at, only.value);
  }

  private ofDeclaration({ value, inBraces, type, key }: Declaration, ref: FunctionRef, self: string, depth: number): Held[] {
    const { code } = ref;
    let held: Held[] = [];
    if (value !== undefined) {
      const expression = expressionAt(code, value);
      if (key !== undefined) return this.keyed(this.before({ expression, ref, self }, depth + 1), key, depth);
      held =
        inBraces && expression.kind === "closure"
          ? this.whatGives(expression, ref, self, depth)
          : this.of({ expression, ref, self }, depth + 1);
    }
    return held.length === 0 && type !== undefined ? this.ofType(type, ref, depth) : held;
  }

  /** What a block gives: its only expression, or what its returns say. */
  private whatGives({ gives, body }: Of<"closure">, ref: FunctionRef, self: string, depth: number): Held[] {
    if (gives) return this.of({ expression: gives, ref, self }, depth + 1);
    return returns(ref.code, body.from, body.to).flatMap((at) => this.of({ expression: expressionAt(ref.code, at), ref, self }, depth + 1));
  }

  /** A member of what is held, that has the name of another thing: `const { begin } = charts`. */
  private keyed(held: readonly Held[], key: string, depth: number): Held[] {
    return this.anyOf(held.map((one) => this.memberOf(one, key, depth)));
  }

  private member(of: readonly Held[], { name, before, from, to }: Member, located: Located, depth: number): Held[] {
    const found = this.keyed(of, name, depth);
    if (found.length > 0) return found;
    if (IS_ITSELF.test(name) && of.length > 0) return [...of];
    const { ref, self } = located;
    // By the types that the program knows of what stands before it.
    const path = pathOf(before);
    const types = path ? this.program.typesOf(path, { ref, self }).map((type) => type.replace(/^\*/, "")) : [];
    const own = types.flatMap((type) => this.memberOf({ kind: "made", type, given: undefined, labels: [] }, name, depth));
    if (own.length > 0 || !path) return own;
    const call = { ...callOf(`${path.join(".")}.${name}`, from, ref), at: to - name.length };
    return this.functionsAmong(this.program.targets(call, { ref, self, side: this.side }), name);
  }

  /** The functions of a name that a call would run; several types may have one. */
  private functionsAmong(targets: readonly Target[], name: string): Held[] {
    const found = targets.filter(({ ref }) => functionOf(ref)?.name === name && functionOf(ref)?.kind === "function");
    if (found.some(({ certain }) => !certain)) this.open = true;
    return found.map(({ ref, self }) => ({ kind: "function", ref, self }));
  }

  private memberOf(one: Held, name: string, depth: number): Held[] {
    if (depth > DEEPEST) return [];
    switch (one.kind) {
      case "object":
        return this.memberOfObject(one.object, name, depth) ?? [];
      case "shape":
        return this.memberOfShape(one.text, name, one.ref, depth);
      case "made": {
        const [home] = this.typesSeen(one.type, undefined);
        const ref = home && { ...home, index: -1 };
        const methods = ref ? this.program.targets(callOf(`this.${name}`, 0, ref), { ref, self: one.type, side: this.side }) : [];
        const own = this.functionsAmong(methods, name);
        return own.length > 0 ? own : this.property(one.type, name, one, depth);
      }
      case "list":
        return one.tuple || /^(?:first|last|at|get|elementAt)$/.test(name) ? one.items.flatMap((item) => this.of(item, depth + 1)) : [];
      case "function":
      case "closure":
        return CALLS_ITSELF.test(name) ? [one] : [];
      default:
        return [];
    }
  }

  private memberOfObject({ expression, ref, self }: Located<Of<"object">>, name: string, depth: number): Held[] | undefined {
    const { code } = ref;
    const method = code.functions.findIndex(
      (fn) => fn.name === name && fn.from >= expression.from && fn.to <= expression.to && isDirect(expression, fn.from),
    );
    if (method !== -1) return [{ kind: "function", ref: { ...ref, index: method }, self }];
    const member = expression.members.findLast(({ key }) => key === name);
    if (member) return this.of({ expression: member.value, ref, self }, depth + 1);
    const others = expression.others.flatMap((other) => this.of({ expression: other, ref, self }, depth + 1));
    return others.length > 0 ? this.keyed(others, name, depth) : undefined;
  }

  /** `.live` of Swift: the static member of that name, where there is one alone. */
  private implied(name: string, depth: number): Held[] {
    const found = this.program.files.flatMap(({ source, code }) =>
      code.language === "swift"
        ? this.declarations(code, name).flatMap((declaration) =>
            /\bstatic\b[^\n]*$/.test(code.plain.slice(Math.max(0, declaration.at - 80), declaration.at))
              ? [{ source, code, declaration }]
              : [],
          )
        : [],
    );
    const [only, ...more] = found;
    return only && more.length === 0
      ? this.ofDeclaration(only.declaration, { ...only, index: -1 }, typeAt(only.code, only.declaration.at), depth)
      : [];
  }

  /** What a property of a type holds: of one object of it, where what that was made with is known. */
  // eslint-disable-next-line complexity -- the ways in which a property gets what it holds, the nearest first
  private property(type: string, name: string, one: (Held & { kind: "made" }) | undefined, depth: number, home?: CodeFile): Held[] {
    if (depth > DEEPEST || this.steps++ > MOST_STEPS) return [];
    const bare = name.replace(/^_/, "");
    for (const own of [type, ...this.program.heritage(type)])
      for (const { source, code, type: declared } of this.typesSeen(own, home)) {
        const ref = { source, code, index: -1 };
        // What constructors set, or the first value that it has.
        for (const constructor of constructorsOf(code, own)) {
          const at = assignmentsIn(code, constructor.fn, name).at(-1);
          if (at !== undefined)
            return this.of({ expression: expressionAt(code, at), ref: { ...ref, index: constructor.index }, self: type }, depth + 1);
        }
        const written = this.declarations(code, name)
          .filter(({ at }) => at >= declared.from && at < declared.to && !isInFunction(code, at))
          .at(-1);
        const filled = this.filled(code, name, declared, ref, type);
        if (filled.length > 0) return [{ kind: "list", items: filled }];
        if (this.isOpen(code, name)) return [];
        if (written?.value !== undefined && !isNothing(code, written.value)) return this.ofDeclaration(written, ref, type, depth);
        const set = this.setLater(code, name, own, ref, type);
        if (set.length > 0) return this.anyOf(set.map((located) => this.of(located, depth + 1)));
        const constant = constantIn(code, declared, name);
        if (constant) return [{ ...this.madeBy(own, constant, ref, type), constant: name }];
        const given = one?.given ? this.givenTo(own, bare, one) : undefined;
        const held = given
          ? this.of(given, depth + 1).map((found) => (found.kind === "written" ? { ...found, constant: one?.constant } : found))
          : this.fromMakings(own, bare, one?.given !== undefined, depth);
        if (held.length > 0) return held;
        if (written?.type !== undefined) return this.ofType(written.type, ref, depth);
      }
    return [];
  }

  /** What a list is given one by one, by the functions of its type or the function that has it: `steps.add(step)`, `steps += step`. */
  private filled(code: CodeFile, name: string, { from, to }: { from: number; to: number }, ref: FunctionRef, self: string): Located[] {
    const { plain } = code;
    const form = new RegExp(`(?<![\\w$])${escaped(name)}[?!]*\\s*(?:\\.\\s*(?:${ADDS})\\s*(?:\\(\\s*|(?=\\{))|\\+=\\s*)`, "g");
    return [...plain.slice(from, to).matchAll(form)].flatMap(({ index, 0: text }) => {
      const at = from + index + text.length;
      const around = innermost(code, at);
      const where: FunctionRef = { ...ref, index: around };
      return this.onePerCall({ expression: expressionAt(code, at), ref: where, self });
    });
  }

  /** An expression once for each call that gives its parameter something else: what a list gets that way are all of them. */
  private onePerCall(located: Located): Located[] {
    const { expression, ref } = located;
    const items = expression.kind === "list" && expression.tuple ? expression.items : [expression];
    const names = items.flatMap((item) => (item.kind === "name" ? [item.name] : []));
    const parameters = names.flatMap((name) => this.parameterOf(ref, name) ?? []);
    if (parameters.length === 0) return [located];
    const lists = parameters.map((parameter) => this.passed(ref, parameter));
    const calls = Math.max(...lists.map(({ length }) => length));
    if (calls === 0) return [located];
    return Array.from({ length: calls }, (_, call) => {
      const given = items.map((item): Expression | Located => {
        const index = item.kind === "name" ? parameters.findIndex(({ name }) => name === item.name) : -1;
        return (index === -1 ? undefined : lists[index]?.[call]) ?? item;
      });
      const [first] = given;
      if (items.length === 1) return first && "ref" in first ? first : located;
      // Values of one call stand in one place; what stands where they are put together does in another one.
      const home = given.find((one): one is Located => "ref" in one);
      return home && given.every((one) => "ref" in one || one.kind === "literal")
        ? {
            ...home,
            expression: { kind: "list", tuple: true, items: given.map((one) => ("ref" in one ? one.expression : one)), from: 0, to: 0 },
          }
        : located;
    });
  }

  /** What functions of a type, which are no constructors, give one of its properties; for the builds that are asked for. */
  private setLater(code: CodeFile, name: string, type: string, ref: FunctionRef, self: string): Located[] {
    const regions = this.build === undefined ? [] : buildRegions(code.plain);
    return code.functions.flatMap((fn, index) => {
      if (fn.type !== type || fn.kind !== "function") return [];
      return assignmentsIn(code, fn, name).flatMap((at): Located[] => {
        const variant = variantAt(regions, at);
        return variant === undefined || variant === this.build
          ? [{ expression: expressionAt(code, at), ref: { ...ref, index }, self }]
          : [];
      });
    });
  }

  /** The declarations of a type that the code of a side can mean: what stands in the same file goes first. */
  private typesSeen(type: string, home: CodeFile | undefined): ReturnType<Program["types"]> {
    const all = this.program.types(type);
    const near = all.filter(({ code }) => code === home);
    return near.length > 0 ? near : all.filter(({ source: { side } }) => this.side === "shared" || side === this.side || side === "shared");
  }

  /** What an object was given for one of its properties when it was made. */
  private givenTo(type: string, name: string, { given, labels }: Held & { kind: "made" }): Located | undefined {
    const index = this.headOf(type).find((parameter) => parameter.name.replace(/^_/, "") === name)?.index;
    const labelled = labels.indexOf(name);
    return given?.[labelled !== -1 ? labelled : index !== undefined && labels[index] === undefined ? index : -1];
  }

  private fromMakings(type: string, name: string, known: boolean, depth: number): Held[] {
    const makings = known ? [] : this.program.makingOf(type);
    if (makings.length === 0 || makings.length > MOST_CALLS) return [];
    return this.anyOf(
      makings.map(({ call, ref }) => {
        const made = this.madeBy(type, givenAt(ref.code, endOfName(call)), ref, functionOf(ref)?.type ?? "");
        const given = this.givenTo(type, name, made);
        return given ? this.of(given, depth + 1) : [];
      }),
    );
  }

  private madeBy(type: string, given: readonly GivenValue[], ref: FunctionRef, self: string): Held & { kind: "made" } {
    return {
      kind: "made",
      type,
      given: given.map(({ value }) => ({ expression: value, ref, self })),
      labels: given.map(({ label }) => label),
    };
  }

  /** What a call gives. */
  // eslint-disable-next-line complexity -- what a call may give, the nearest first
  private given(expression: Of<"call">, located: Located, depth: number, call?: CodeCall): Held[] {
    const { ref, self } = located;
    const { callee, given } = expression;
    const name = callee.kind === "name" || callee.kind === "member" ? callee.name : "";
    const inner = (other: Expression): Held[] => this.of({ expression: other, ref, self }, depth + 1, call);
    if (this.program.types(name).length > 0 && this.program.named(name).length === 0) return [this.madeBy(name, given, ref, self)];
    const run = this.before({ expression: callee, ref, self }, depth + 1, call).flatMap((one) => this.returned(one, depth));
    if (run.length > 0) return run;
    const named =
      callee.kind === "member" && callee.of?.kind === "name" ? this.madeByName(callee.of.name, name, given, located, depth) : [];
    if (named.length > 0) return named;
    if (MAKES_LIST.test(name) && !(callee.kind === "member" && callee.of?.kind === "name" && this.program.types(callee.of.name).length > 0))
      return [{ kind: "list", items: given.map(({ value }) => ({ expression: value, ref, self })) }];
    if (/^(?:createContext|useContext)$/.test(name)) return this.ofContext(expression, located, depth);
    const [first] = given;
    if (GIVES_FIRST.test(name) && first)
      return inner(first.value).flatMap((one) => (one.kind === "closure" ? this.returned(one, depth) : [one]));
    if (name === "buildList" && first?.value.kind === "closure") return [{ kind: "list", items: addedIn(first.value, ref, self) }];
    return callee.kind === "member" && callee.of && GIVES_ITSELF.test(name) ? inner(callee.of) : [];
  }

  /** What a constructor of Dart makes that has a name of its own. */
  private madeByName(type: string, name: string, given: readonly GivenValue[], { ref, self }: Located, depth: number): Held[] {
    if (ref.code.language !== "dart") return [];
    for (const { source, code } of this.program.types(type)) {
      const found = constructorsOf(code, type).find(({ fn }) => constructorName(code, fn) === name);
      if (!found) continue;
      const isFactory = /^(?:const\s+)?factory\b/.test(code.plain.slice(found.fn.from, found.fn.from + 20));
      return isFactory
        ? this.returned({ kind: "function", ref: { source, code, index: found.index }, self: type }, depth + 1)
        : [this.madeBy(type, given, ref, self)];
    }
    return [];
  }

  /** Source: react.dev, "createContext", "useContext". */
  private ofContext({ callee, given, to }: Of<"call">, { ref, self }: Located, depth: number): Held[] {
    const [first] = given;
    if ("name" in callee && callee.name === "useContext" && first) {
      const name = first.value.kind === "name" ? first.value.name : "";
      const home = this.program.modules.origin(ref, name)?.ref ?? ref;
      const at = this.declarations(home.code, name).at(-1)?.value;
      const type = at === undefined ? undefined : typeArgument(home.code.plain, at);
      if (type !== undefined) return this.ofType(type, home, depth);
      return first.value.to < to ? this.of({ expression: first.value, ref, self }, depth + 1) : [];
    }
    return first ? this.of({ expression: first.value, ref, self }, depth + 1) : [];
  }

  /** What a function gives back. */
  returned(one: Held, depth: number): Held[] {
    if (depth > DEEPEST || this.steps++ > MOST_STEPS) return [];
    if (one.kind === "closure") {
      const { expression, ref, self } = one.closure;
      return this.whatGives(expression, ref, self, depth);
    }
    if (one.kind !== "function") return [];
    const { ref, self } = one;
    const fn = functionOf(ref);
    if (!fn) return [];
    const found = this.anyOf(givenBack(ref).map((at) => this.of({ expression: expressionAt(ref.code, at), ref, self }, depth + 1)));
    const type = found.length > 0 ? undefined : headerOf(ref.code, fn)?.returns;
    return type === undefined ? found : this.ofType(type, ref, depth);
  }

  /** Where the expressions stand that a function gives back. */
  givesBack(ref: FunctionRef): readonly number[] {
    return givenBack(ref);
  }

  /** The parameter of a function that has a name. */
  parameterOf(ref: FunctionRef, name: string): Parameter | undefined {
    const fn = functionOf(ref);
    if (!fn) return undefined;
    let found = this.parameters.get(fn);
    if (!found) {
      const header = headerOf(ref.code, fn);
      this.parameters.set(fn, (found = header ? parametersIn(ref.code, header.open) : []));
    }
    return found.find((parameter) => parameter.name === name || parameter.taken?.has(name));
  }

  /** The names of what an object of a type is made with, in their order. */
  headNames(type: string): string[] {
    return this.headOf(type).map(({ name }) => name);
  }

  /** The name of the parameter that a function has at a place, or under a label. */
  parameterName(ref: FunctionRef, index: number, label: string | undefined): string | undefined {
    const fn = functionOf(ref);
    const header = fn && headerOf(ref.code, fn);
    const all = header ? parametersIn(ref.code, header.open) : [];
    const found = label === undefined ? all.at(index) : all.find((one) => one.name === label || one.label === label);
    return found?.name;
  }

  /** Where the head of a function ends, from its beginning on. */
  headEnd(ref: FunctionRef): number {
    const fn = functionOf(ref);
    const header = fn && headerOf(ref.code, fn);
    return header ? closing(ref.code.plain, header.open) - fn.from : 0;
  }

  /** The parameters with which an object of a type is made: the head of a class of Kotlin or C#, or its only constructor. */
  private headOf(type: string): readonly Parameter[] {
    let found = this.parameters.get(type);
    if (found) return found;
    found = [];
    for (const { code, type: declared } of this.program.types(type)) {
      const head = /^\w+(?:<[^<>]*>)?\s*(?:@\w+\s*)?(?:(?:private|internal|protected)\s+)?(?:constructor\s*)?\(/.exec(
        code.plain.slice(declared.from, declared.from + 400),
      );
      const [only, ...more] = constructorsOf(code, type).flatMap(({ fn }) => headerOf(code, fn) ?? []);
      if (head && (code.language === "kotlin" || code.language === "csharp"))
        found = parametersIn(code, declared.from + head[0].length - 1);
      else if (only && more.length === 0) found = parametersIn(code, only.open);
      else if (code.language === "dart") found = dartHead(code, type, declared);
      if (found.length > 0) break;
    }
    this.parameters.set(type, found);
    return found;
  }

  /** What the calls of a function give for one of its parameters. */
  private ofParameter(ref: FunctionRef, parameter: Parameter, name: string, depth: number): Held[] {
    const fn = functionOf(ref) as CodeFunction;
    const key = parameter.taken?.get(name);
    const otherwise = this.otherwise(ref, name);
    const found = this.anyOf(
      this.passed(ref, parameter).map((located) => {
        if (located === undefined) return otherwise ? this.of(otherwise, depth + 1) : [];
        if (key === undefined) return this.of(located, depth + 1);
        const given = this.keyed(this.before(located, depth + 1), key, depth);
        return given.length === 0 && otherwise ? this.of(otherwise, depth + 1) : given;
      }),
    );
    if (found.length > 0 || parameter.type === undefined) return found;
    const typed = this.ofType(parameter.type, { ...ref, index: ref.code.functions.indexOf(fn) }, depth);
    return key === undefined ? typed : this.keyed(typed, key, depth);
  }

  /** What a parameter is where nothing is given for it. */
  private otherwise(ref: FunctionRef, name: string): Located | undefined {
    const fn = functionOf(ref);
    const open = fn && headerOf(ref.code, fn)?.open;
    if (open === undefined) return undefined;
    const { plain } = ref.code;
    const found = new RegExp(`[({,\\s]${escaped(name)}\\s*(?:\\??\\s*:\\s*[^,=]+?)?\\s*=(?![=>])\\s*`).exec(
      plain.slice(open, closing(plain, open)),
    );
    return found ? { expression: expressionAt(ref.code, open + found.index + found[0].length), ref, self: fn?.type ?? "" } : undefined;
  }

  /** What each call of a function gives for one of its parameters, as it is written there; nothing where there are too many calls. */
  private passed(ref: FunctionRef, parameter: Parameter): (Located | undefined)[] {
    const fn = functionOf(ref);
    if (!fn) return [];
    const calls =
      fn.kind === "constructor"
        ? this.program.makingOf(fn.type, constructorName(ref.code, fn))
        : [...this.program.callersOf(ref), ...(this.ways.get(fn) ?? [])];
    if (calls.length > MOST_CALLS) return [];
    return calls.map(({ call, ref: from }) => {
      const list = givenAt(from.code, endOfName(call));
      const labelled = list.find(({ label }) => label !== undefined && (label === parameter.name || label === parameter.label));
      if (parameter.rest) {
        const items = list.slice(parameter.index).map(({ value }) => value);
        return { expression: { kind: "list", items, from: 0, to: 0 }, ref: from, self: functionOf(from)?.type ?? "" };
      }
      const placed = list[parameter.index];
      const value = labelled?.value ?? (placed && placed.label === undefined ? placed.value : undefined);
      return value && { expression: value, ref: from, self: functionOf(from)?.type ?? "" };
    });
  }

  private declarations(code: CodeFile, name: string): readonly Declaration[] {
    let known = this.declared.get(code);
    if (!known) this.declared.set(code, (known = new Map()));
    let found = known.get(name);
    if (!found) known.set(name, (found = code.plain.includes(name) ? declarationsIn(code, name) : []));
    return found;
  }

  /** What is known of something by its type, as it is written. */
  // eslint-disable-next-line complexity -- one case for each way in which a type is written
  private ofType(written: string, ref: FunctionRef, depth: number): Held[] {
    if (depth > DEEPEST || this.steps++ > MOST_STEPS) return [];
    const text = written.trim().replace(/^(?:any|some|readonly|late|final)\s+/, "");
    if (!isScript(ref.code.language)) {
      const name = /^([A-Z]\w*)\??$/.exec(text)?.[1];
      return name !== undefined && this.program.types(name).length > 0 ? [{ kind: "made", type: name, given: undefined, labels: [] }] : [];
    }
    const inner = /^(?:Promise|Readonly|Awaited|Partial|Required|NonNullable|RefObject|MutableRefObject)<([\s\S]*)>$/.exec(text)?.[1];
    if (inner !== undefined) return this.ofType(inner, ref, depth + 1);
    const either = text.split(/\|(?![^<{]*[>}])/).map((part) => part.trim());
    if (either.length > 1) return either.flatMap((part) => this.ofType(part, ref, depth + 1));
    const result = /^ReturnType<\s*typeof\s+([\w$]+)\s*>$/.exec(text)?.[1];
    if (result !== undefined)
      return this.named({ kind: "name", name: result, from: ref.code.plain.length, to: 0 }, { ...ref, index: -1 }, "", depth + 1).flatMap(
        (one) => this.returned(one, depth + 1),
      );
    const value = /^typeof\s+([\w$]+)$/.exec(text)?.[1];
    if (value !== undefined)
      return this.named({ kind: "name", name: value, from: ref.code.plain.length, to: 0 }, { ...ref, index: -1 }, "", depth + 1);
    if (text.startsWith("{")) return [{ kind: "shape", text, ref }];
    const [, name = "", key] = /^([A-Za-z_$][\w$]*)(?:<[\s\S]*>)?(?:\[\s*(["']?[\w$]+["']?)\s*\])?$/.exec(text) ?? [];
    if (name === "") return [];
    const home = this.homeOfType(ref, name);
    const shape = shapeOf(home.ref.code, home.name);
    if (shape === undefined)
      return this.program.types(home.name).length > 0 ? [{ kind: "made", type: home.name, given: undefined, labels: [] }] : [];
    if (key === undefined) return this.ofType(shape, home.ref, depth + 1);
    const literal = /^["'](.*)["']$/.exec(key)?.[1];
    return membersOfShape(shape).flatMap((member) =>
      literal === undefined || member.key === literal ? this.ofType(member.type, home.ref, depth + 1) : [],
    );
  }

  /** Where a type of TypeScript is declared, also one that a file imports for its types alone. */
  private homeOfType(ref: FunctionRef, name: string): { ref: FunctionRef; name: string } {
    const imported = this.program.modules.origin(ref, name);
    if (imported) return imported;
    const { plain } = ref.code;
    for (const [, list = "", specifier = ""] of plain.matchAll(
      /\bimport\s+(?:type\s+)?(?:[\w$]+\s*,\s*)?\{([^}]*)\}\s*from\s*["']([^"'\n]+)["']/g,
    )) {
      const part = list
        .split(",")
        .map((item) => /^\s*(?:type\s+)?([\w$]+)(?:\s+as\s+([\w$]+))?/.exec(item))
        .find((match) => match && (match[2] ?? match[1]) === name);
      const file = part ? this.program.resolve(ref.source.file, specifier) : undefined;
      if (part && file) return { ref: { ...file, index: -1 }, name: part[1] as string };
    }
    return { ref, name };
  }

  private memberOfShape(shape: string, name: string, ref: FunctionRef, depth: number): Held[] {
    return membersOfShape(shape).flatMap(({ key, type }) => (key === name ? this.ofType(type, ref, depth + 1) : []));
  }
}

/** Whether two of what is held are the same. */
function identityOf(held: Held): unknown {
  switch (held.kind) {
    case "function":
      return functionOf(held.ref);
    case "closure":
      return `${held.closure.ref.source.file} ${held.closure.expression.from}`;
    case "object":
      return `${held.object.ref.source.file} ${held.object.expression.from}`;
    case "written":
      return `${held.located.ref.source.file} ${held.located.expression.from}`;
    default:
      return held;
  }
}

/** The part of an expression that ends at an offset. */
function upTo(expression: Expression, end: number): Expression | undefined {
  for (let part: Expression | undefined = expression; part;) {
    if (part.to === end) return part;
    if (part.to < end) return undefined;
    if (part.kind === "typed") part = part.of;
    else
      part =
        part.kind === "call"
          ? part.callee
          : part.kind === "member" || part.kind === "element" || part.kind === "reference"
            ? part.of
            : undefined;
  }
  return undefined;
}

/** The names of an expression that is no more than such: `this.services.charts`. */
function pathOf(expression: Expression): string[] | undefined {
  if (expression.kind === "name") return [expression.name];
  const before = expression.kind === "member" && expression.of ? pathOf(expression.of) : undefined;
  return before && expression.kind === "member" ? [...before, expression.name] : undefined;
}

/** A call as it would be written at a place. */
export function callOf(callee: string, at: number, ref: FunctionRef): CodeCall {
  return {
    callee,
    selector: undefined,
    assignment: false,
    from: at,
    at,
    arguments: [],
    in: ref.index,
    guards: [],
    closures: [],
    closuresAt: [],
    optional: false,
  };
}

/** The closure around an offset that a call is given. */
function closureAround(code: CodeFile, call: CodeCall, at: number): Of<"closure"> | undefined {
  const found = givenAt(code, endOfName(call)).find(({ value }) => value.kind === "closure" && value.from <= at && at < value.to);
  return found?.value.kind === "closure" ? found.value : undefined;
}

function endOfName({ at, callee }: CodeCall): number {
  return at + (callee.split(".").at(-1)?.length ?? 0);
}

/** The functions in which one stands, the innermost first. */
function functionsAround(ref: FunctionRef): FunctionRef[] {
  const fn = functionOf(ref);
  if (!fn) return [];
  return ref.code.functions
    .flatMap((other, index) =>
      other !== fn && other.kind !== "initializer" && other.from <= fn.from && other.to >= fn.to ? [{ fn: other, index }] : [],
    )
    .sort((a, b) => a.fn.to - a.fn.from - (b.fn.to - b.fn.from))
    .map(({ index }) => ({ ...ref, index }));
}

/** Whether an offset stands in an object itself, and not in one that it holds. */
function isDirect(object: Of<"object">, at: number): boolean {
  return !object.members.some(({ value }) => value.kind === "object" && value.from < at && at < value.to);
}

/** What a list is given that is built step by step. Source: kotlinlang.org, `buildList`. */
function addedIn({ body }: Of<"closure">, ref: FunctionRef, self: string): Located[] {
  const { plain } = ref.code;
  return [...plain.slice(body.from, body.to).matchAll(/(?<![\w$.])add\s*\(\s*|(?<![\w$.])\+=\s*/g)].map(({ index, 0: text }) => ({
    expression: expressionAt(ref.code, body.from + index + text.length),
    ref,
    self,
  }));
}
