import type { App } from "../../model/app.js";
import type { CodeCall, CodeFile, CodeFunction, CodeType, CodeValue, Language } from "../../model/code.js";
import type { SideName } from "../../model/facts.js";
import { calleeText } from "../../syntax/code/callee.js";
import { askedType, type AskedType } from "./asked-type.js";
import { bridgedNames, isOfKotlinFile, withoutDo } from "./bridged-names.js";
import { escaped } from "./mentions.js";
import { functionOf, type FunctionRef } from "./function-ref.js";
import { Modules } from "./modules.js";
import { isScript, type SourceFile } from "./sources.js";

/** A function that a call runs, and the type of the object on which it runs; `certain` where nothing else can be meant. */
export interface Target {
  ref: FunctionRef;
  self: string;
  certain: boolean;
  /** The framework calls it when what was made is shown. */
  shown?: boolean;
}

/** Where a name stands: in which function, of which object, in which closures. */
export interface Context {
  ref: FunctionRef;
  self: string;
  call?: CodeCall | undefined;
  /** The side on which it runs, where that is known: code that both sides share runs on one of them. */
  side?: SideName;
}

/** A call as it is written, or in full where it stands in a closure that says on what. */
export function inFull(call: CodeCall): CodeCall {
  const scope = call.callee.includes(".") ? undefined : RECEIVER_SCOPE.exec(call.closures.at(-1) ?? "")?.[1];
  return scope !== undefined && /^[A-Z]/.test(scope) ? { ...call, callee: `${scope}.${call.callee}` } : call;
}

/** Closures in which names without a receiver mean members of what the closure was called on. Source: kotlinlang.org, "Scope functions". */
const RECEIVER_SCOPE = /^(.+)\.(run|apply|with)$/;

/** Functions whose closure is given what it was called on, or each of what that holds. */
const GIVES_ITSELF = /^(.+)\.(let|also|takeIf|takeUnless)$/;
const GIVES_EACH = /^(.+)\.(forEach|map|compactMap|onEach|filter|first|any|all)$/;

/** What makes an object of a type that stands in a text: it can be any. Sources: developer.apple.com, "NSClassFromString"; docs.oracle.com, "Class.forName"; learn.microsoft.com, "Activator". */
const BY_NAME = /^(NSClassFromString|objc_getClass|Class|Activator)$/;

/** Members by which a type gives out its one object, or by which what holds one does. */
const SINGLETON =
  /^(shared|sharedInstance|instance|INSTANCE|Instance|Shared|Current|current|default|Companion|companion|getInstance|Value|value|wrappedValue)$/;

/** Methods that a framework calls on what an expression makes: what a view shows is shown. */
const RUN_WHEN_MADE: readonly { supers: RegExp; names: RegExp }[] = [
  { supers: /^(View|App|Scene)$/, names: /^body$/ },
  {
    supers: /^(Component|PureComponent|React\.Component|React\.PureComponent)$/,
    names: /^(render|componentDidMount|(UNSAFE_)?componentWillMount)$/,
  },
  {
    supers: /^(Dialog|BottomSheetDialog|Preference)?Fragment(Compat)?$/,
    names: /^(onCreate|onCreateView|onViewCreated|onStart|onResume)$/,
  },
  { supers: /ActivityLifecycleCallbacks$/, names: /^onActivity(Pre|Post)?(Created|Started|Resumed)$/ },
  { supers: /^(DefaultLifecycleObserver|LifecycleObserver)$/, names: /^on(Create|Start|Resume)$/ },
  { supers: /ViewController$/, names: /^(viewDidLoad|viewWillAppear|viewDidAppear|loadView)$/ },
  { supers: /^(StatelessWidget|StatefulWidget|State)$/, names: /^(createState|initState|didChangeDependencies|build)$/ },
];

/** What an expression is taken for, and the members that are asked of that: `(application as FerryApp).graph`, `((FerryApp) getApplication()).graph`. */
const CAST = /^\(?\s*[\w.()]+\s+as[?!]?\s+([A-Z]\w*)\)?((?:[?!]*\.\w+)*)$/;
const CAST_BEFORE = /^\(?\s*\(([A-Z]\w*)\)\s*[\w.]+(?:\(\))?(?:\)((?:[?!]*\.\w+)*))?$/;

const MOST_TARGETS = 4;
const MAX_DEPTH = 6;

interface Declared {
  source: SourceFile;
  code: CodeFile;
  type: CodeType;
}

/** The parsed files of an app, by the names in them, and what calls in them can mean. */
export class Program {
  readonly files: { source: SourceFile; code: CodeFile }[];
  readonly modules: Modules;
  /** Headers of C's languages, which are looked at as text. */
  readonly headers: readonly SourceFile[];
  /** All source files, parsed or not. */
  private readonly sources: ReadonlyMap<string, SourceFile>;
  private readonly byName = new Map<string, FunctionRef[]>();
  /** By type and name, by name alone where they stand in no type, and by name within a file. */
  private readonly members = new Map<string, FunctionRef[]>();
  private readonly free = new Map<string, FunctionRef[]>();
  /** By type and the name that the other of Apple's languages has for it. */
  private readonly bridged = new Map<string, FunctionRef[]>();
  private readonly inFile = new Map<CodeFile, Map<string, FunctionRef[]>>();
  /** Functions that are added to types from outside. */
  private readonly added = new Map<string, FunctionRef[]>();
  private readonly typesByName = new Map<string, Declared[]>();
  private readonly supers = new Map<string, Set<string>>();
  private readonly subtypes = new Map<string, Set<string>>();
  private readonly heritages = new Map<string, Set<string>>();
  private readonly belows = new Map<string, Set<string>>();
  private readonly abstracts = new Map<string, boolean>();
  private globalValues: Map<string, { source: SourceFile; code: CodeFile; value: CodeValue }[]> | undefined;
  private callsByName: Map<string, { call: CodeCall; ref: FunctionRef }[]> | undefined;
  private readonly bounds = new Map<CodeFile, Map<string, string[]>>();
  /** Types by the other names that the app gives them, and those that one file gives them. */
  private readonly aliases = new Map<string, string>();
  private readonly aliasesIn = new Map<CodeFile, ReadonlyMap<string, string>>();
  /** The types of objects that scripts have under a name. */
  private readonly madeAs = new Map<string, string[]>();
  private readonly callsByOffset = new Map<CodeFile, Map<string, CodeCall>>();
  private readonly callsByFunction = new Map<CodeFile, Map<number, CodeCall[]>>();

  /** @param packages those of the repository that scripts import by their names */
  constructor(files: readonly SourceFile[], packages: App["ownPackages"] = []) {
    this.files = files.flatMap((source) => (source.code ? [{ source, code: source.code }] : []));
    this.modules = new Modules(this.files, packages);
    this.headers = files.filter(({ file }) => /\.(h|pch)$/.test(file));
    this.sources = new Map(files.map((source) => [source.file, source]));
    // In Objective-C the header says what a class extends.
    for (const { text } of this.headers)
      for (const [, name = "", above = "", protocols = ""] of text.matchAll(/@interface\s+(\w+)\s*:\s*(\w+)(?:\s*<([^>]*)>)?/g))
        this.extend(name, [above, ...protocols.split(",").map((part) => part.trim())]);
    for (const { code } of this.files) this.addAliases(code);
    for (const { source, code } of this.files) {
      const inFile = new Map<string, FunctionRef[]>();
      this.inFile.set(code, inFile);
      code.functions.forEach((fn, index) => {
        const ref = { source, code, index };
        push(this.byName, fn.name, ref);
        push(inFile, fn.name, ref);
        if (fn.type === "") push(this.free, fn.name, ref);
        else push(this.members, `${fn.type} ${fn.name}`, ref);
        if (fn.type !== "") for (const name of bridgedNames(fn, code.language)) push(this.bridged, `${fn.type} ${name}`, ref);
        if (extendsType(ref)) push(this.added, fn.name, ref);
      });
      for (const [name, type] of code.made) push(this.madeAs, name, type);
      for (const type of code.types) {
        push(this.typesByName, type.name, { source, code, type });
        this.extend(type.name, [...type.supers.map((name) => this.typeMeant(name, code)), ...type.annotations]);
      }
      const calls = new Map<number, CodeCall[]>();
      for (const call of code.calls) push(calls, call.in, call);
      this.callsByFunction.set(code, calls);
    }
  }

  /** Sources: kotlinlang.org, "Type aliases", "Imports"; docs.swift.org, "Type Alias Declaration"; dart.dev, "Typedefs"; learn.microsoft.com, "using alias". */
  private addAliases(code: CodeFile): void {
    const { language, plain, imports } = code;
    if (isScript(language) || language === "objc" || language === "java") return;
    const own = new Map<string, string>();
    if (language === "kotlin")
      for (const { names } of imports)
        for (const { local, imported } of names)
          if (local !== imported && /^[A-Z]\w*$/.test(local) && /^[A-Z]\w*$/.test(imported)) own.set(local, imported);
    const written =
      language === "csharp"
        ? /^[ \t]*using\s+([A-Z]\w*)\s*=\s*(?:[\w]+\.)*([A-Z]\w*)\s*;/gm
        : /\b(?:typealias|typedef)\s+([A-Z]\w*)\s*=\s*(?:[a-z]\w*\.)*([A-Z]\w*)\s*(?=[;\n}]|$)/g;
    for (const [, name = "", type = ""] of plain.matchAll(written)) {
      if (language === "csharp") own.set(name, type);
      else this.aliases.set(name, type);
    }
    if (own.size > 0) this.aliasesIn.set(code, own);
  }

  /** The name under which a type is declared. */
  private typeMeant(name: string, code: CodeFile): string {
    const first = this.aliasesIn.get(code)?.get(name) ?? name;
    // One phone can have a type where the other has a name for one.
    return this.typesByName.has(first) ? first : (this.aliases.get(first) ?? first);
  }

  private extend(type: string, above: readonly string[]): void {
    const known = this.supers.get(type) ?? new Set();
    this.supers.set(type, known);
    for (const name of above) {
      if (name === "") continue;
      known.add(name);
      this.subtypes.set(name, (this.subtypes.get(name) ?? new Set()).add(type));
    }
  }

  calls({ code, index }: FunctionRef): readonly CodeCall[] {
    return this.callsByFunction.get(code)?.get(index) ?? [];
  }

  /** The call to which a closure was handed over, by the name and the offset that calls inside of it have. */
  callTo(code: CodeFile, name: string, from: number): CodeCall | undefined {
    let found = this.callsByOffset.get(code);
    if (!found) {
      found = new Map();
      for (const call of code.calls) found.set(`${call.from} ${call.callee}`, call);
      this.callsByOffset.set(code, found);
    }
    return found.get(`${from} ${name}`);
  }

  named(name: string): readonly FunctionRef[] {
    return this.byName.get(name) ?? [];
  }

  types(name: string): readonly Declared[] {
    return this.typesByName.get(name) ?? [];
  }

  /** What a type extends and is marked with, through the app's own types. */
  heritage(type: string): ReadonlySet<string> {
    return closure(this.heritages, type, this.supers);
  }

  /** The app's own types that extend a type, directly or not. */
  below(type: string): ReadonlySet<string> {
    return closure(this.belows, type, this.subtypes);
  }

  /** Whether one of two types extends the other. */
  related(a: string, b: string): boolean {
    return a === b || this.heritage(a).has(b) || this.heritage(b).has(a);
  }

  /** A type of which there are only objects of other types. */
  isAbstract(type: string): boolean {
    const known = this.abstracts.get(type);
    if (known !== undefined) return known;
    const found = this.types(type).some(
      ({ code, type: { from, extension } }) =>
        !extension &&
        (code.language === "kotlin"
          ? /\b(?:interface|abstract|sealed)\b[^;{}]*$/
          : /\b(?:interface|protocol|abstract|mixin)\b[^;{}]*$/
        ).test(code.plain.slice(Math.max(0, from - 60), from)),
    );
    this.abstracts.set(type, found);
    return found;
  }

  /** The method that an object of a type has: its own, or the nearest that it inherits. */
  lookUp(type: string, name: string, side: SideName): FunctionRef[] {
    const seen = new Set<string>();
    for (let level = [type]; level.length > 0;) {
      const found = level.flatMap((own) => seenFrom(side, this.members.get(`${own} ${name}`) ?? []));
      if (found.length > 0) return found;
      level = level.flatMap((own) => [...(this.supers.get(own) ?? [])]).filter((above) => !seen.has(above) && seen.add(above));
    }
    return [];
  }

  /** The method that another of Apple's languages calls by its own name for it. */
  private bridgedTo(type: string, name: string, language: Language): FunctionRef[] {
    if (language !== "swift" && language !== "objc") return [];
    return (this.bridged.get(`${type} ${name}`) ?? []).filter(({ code }) => code.language !== language);
  }

  /** Functions outside of any type in Kotlin, which other languages call as those of a type for the file. */
  private ofKotlinFile(receiver: readonly string[], name: string, language: Language): FunctionRef[] {
    if (language !== "java" && language !== "swift" && language !== "objc") return [];
    return [name, ...withoutDo(name)].flatMap((own) => this.free.get(own) ?? []).filter((ref) => isOfKotlinFile(receiver, ref));
  }

  /** The functions that a call can run. */
  targets(call: CodeCall, { ref, self, side = ref.source.side }: Context): Target[] {
    const context: Context = { ref, self, call, side };
    const parts = call.callee.split(".");
    const name = parts.at(-1) as string;
    const receiver = parts.slice(0, -1);
    const found = receiver.length === 0 ? this.plain(name, context) : this.on(receiver, name, context);
    if (found.length > 0) return found.slice(0, MOST_TARGETS);
    if (/^(init\w*|new)$/.test(name) && parts.length > 1)
      return this.made((parts.at(-2) === "alloc" ? parts.at(-3) : parts.at(-2)) ?? name, ref, side);
    return this.withoutPackage(parts, ref.code).length <= 2 ? this.made(name, ref, side) : [];
  }

  /** A call without a receiver. */
  private plain(name: string, context: Context): Target[] {
    const { ref, self, side = ref.source.side } = context;
    for (const types of this.around(name, context)) {
      const own = types.flatMap((type) => this.dispatch(type, name, side));
      if (own.length > 0) return own;
    }
    const local = this.inFile.get(ref.code)?.get(name) ?? [];
    const here = local.filter((found) => functionOf(found)?.type === "" || functionOf(found)?.type === self);
    if (here.length > 0) return asTargets(here, side);
    if (isScript(ref.source.language)) return asTargets(this.modules.functions(ref, name), side);
    return asTargets(local.length > 0 ? local : (this.free.get(name) ?? []), side);
  }

  /** The types whose members are called by their bare names, the nearest first: of closures around, of the object, of what is imported. */
  private *around(name: string, context: Context): Generator<readonly string[]> {
    const { ref, self, call } = context;
    for (const closure of call?.closures.toReversed() ?? []) {
      const of = RECEIVER_SCOPE.exec(closure)?.[1];
      if (of !== undefined) yield this.typesOf(of.split("."), context);
    }
    for (const type of new Set([self, functionOf(ref)?.type ?? ""])) if (type !== "") yield [type];
    for (const type of importedFrom(ref, name)) yield [type];
  }

  /** A call on something. */
  private on(receiver: string[], name: string, context: Context): Target[] {
    const { ref, self, side = ref.source.side } = context;
    const lexical = functionOf(ref)?.type ?? "";
    if (receiver.length === 1 && receiver[0] === "super")
      return [...(this.supers.get(lexical) ?? [])].flatMap((above) =>
        this.lookUp(above, name, side).map((found) => ({ ref: found, self, certain: true })),
      );
    const asked = this.askedFor(context);
    const types = [...asked, ...this.typesOf(receiver, context)];
    const found = (asked.some((type) => this.lookUp(type, name, side).length > 0) ? asked : types).flatMap((type) =>
      this.dispatch(type.replace(/^\*/, ""), name, side),
    );
    const own =
      found.length > 0
        ? found
        : asTargets(
            types.flatMap((type) => this.bridgedTo(type.replace(/^\*/, ""), name, ref.code.language)),
            side,
          );
    if (own.length > 0) return own.map((target) => (own.length === 1 || types.length > 1 ? target : { ...target, certain: false }));
    const added = asTargets(this.added.get(name) ?? [], side);
    if (added.length > 0) return added;
    const ofFile = asTargets(this.ofKotlinFile(receiver, name, ref.code.language), side);
    if (ofFile.length > 0) return ofFile;
    const ofScript = isScript(ref.source.language) ? this.onObject(receiver, name, ref, types) : [];
    if (ofScript.length > 0) return asTargets(ofScript, side);
    if (types.length > 0) return [];
    return isPrefix(ref, receiver) ? asTargets(this.free.get(name) ?? [], side) : [];
  }

  /** What a script calls on what it imports, or on an object that scripts have under a name. */
  private onObject(receiver: readonly string[], name: string, ref: FunctionRef, types: readonly string[]): FunctionRef[] {
    const exported = receiver.length === 1 && types.length === 0 ? this.modules.members(ref, receiver[0] as string, name) : [];
    return exported.length > 0 ? exported : this.partsOf(receiver, name, ref, types);
  }

  /** Functions of the object that a script has under a name: `App.push.begin()`, wherever `App.push` is made. */
  private partsOf(receiver: readonly string[], name: string, { source, code }: FunctionRef, types: readonly string[]): FunctionRef[] {
    const last = receiver.at(-1);
    // Scripts of a page see what others of it have; a module sees what it imports.
    const isModule = code.imports.length > 0 || !isScript(source.language);
    if (last === undefined || isModule || types.some((type) => this.types(type).length > 0)) return [];
    const made = this.madeAs.get(last) ?? [];
    const owners = new Set([last, ...made]);
    const parts = (this.free.get(name) ?? []).filter(
      (found) => isScript(found.source.language) && owners.has(functionOf(found)?.owner ?? ""),
    );
    return parts.length > 0 ? parts : made.flatMap((type) => this.lookUp(type, name, source.side));
  }

  /** Whether a call means a part of a script's object, as far as what it is called on says that. */
  private isPartMeant(receiver: readonly string[], fn: CodeFunction, from: FunctionRef): boolean | undefined {
    if (fn.type !== "" || fn.owner === undefined || from.code.imports.length > 0) return undefined;
    const parts = this.partsOf(receiver, fn.name, from, []);
    if (parts.length > 0) return parts.some((part) => functionOf(part) === fn);
    // What the system or a plugin has is no object of the scripts.
    return receiver.length > 1 && /^(?:window|cordova|navigator|document)$/.test(receiver[0] as string) ? false : undefined;
  }

  /** The type that the receiver of a call asks something else for, where it is one of the app's own: `locator<Maps>().start()`. */
  private askedFor({ ref, call }: Context): string[] {
    if (!call || call.at <= call.from) return [];
    return this.ownAsked(askedType(ref.code.plain.slice(Math.max(0, call.at - 2_000), call.at), ref.code.language));
  }

  /** What functions of the app give says their own declaration. */
  private ownAsked(asked: AskedType | undefined): string[] {
    if (!asked || this.types(asked.type).length === 0) return [];
    return this.named(asked.by).every((ref) => givesWhatIsAsked(ref)) ? [asked.type] : [];
  }

  /** The methods that run on an object that is known to be of a type: of those that extend it, where it is only a promise. */
  private dispatch(type: string, name: string, side: SideName): Target[] {
    const direct = this.lookUp(type, name, side);
    // A class of Kotlin that hands an interface on: `class Loud(inner: Starter) : Starter by inner`.
    const promised = this.isAbstract(type) ? type : this.delegatedTo(type, direct);
    if (promised === undefined) return direct.map((ref) => ({ ref, self: type, certain: direct.length === 1 }));
    const isHere = (name: string): boolean => this.types(name).some(({ source }) => isSeenFrom(side, source));
    const below = [...this.below(promised)].filter((sub) => sub !== type && !this.isAbstract(sub) && isHere(sub));
    const found = below.flatMap((sub) => this.lookUp(sub, name, side).map((ref) => ({ ref, self: sub, certain: below.length === 1 })));
    return found.length > 0 ? found : direct.map((ref) => ({ ref, self: type, certain: false }));
  }

  /** Making an object runs its constructor, and what the framework calls on such objects. */
  private made(name: string, from: FunctionRef, side: SideName): Target[] {
    const here = isScript(from.source.language) ? (this.modules.typeName(from, name) ?? name) : this.typeMeant(name, from.code);
    const isSeen = ({ source }: { source: SourceFile }): boolean => isSeenFrom(side, source);
    const declared = this.types(here).filter(isSeen);
    if (declared.length === 0) return [];
    const supers = this.heritage(here);
    const also = RUN_WHEN_MADE.filter(({ supers: wanted }) => [...supers].some((above) => wanted.test(above)));
    const states = [...supers].some((above) => above === "StatefulWidget")
      ? [...this.below("State")].filter((state) => this.heritage(state).has(here))
      : [];
    return [here, ...states].flatMap((type) =>
      this.types(type)
        .filter(isSeen)
        .flatMap(({ code, source, type: { name: own } }) =>
          code.functions.flatMap((fn, index) =>
            fn.type === own && (fn.kind === "constructor" || fn.kind === "initializer" || also.some(({ names }) => names.test(fn.name)))
              ? [
                  {
                    ref: { source, code, index },
                    self: own,
                    certain: declared.length === 1,
                    shown: fn.kind !== "constructor" && fn.kind !== "initializer",
                  },
                ]
              : [],
          ),
        ),
    );
  }

  /**
   * The types that an expression may have, as far as the files tell; of what holds several with `*` before it. Types of others are named
   * too. Nothing where it is not known.
   */
  typesOf(path: readonly string[], context: Context, depth = 0): string[] {
    if (depth > MAX_DEPTH) return [];
    const [head = "", ...rest] = this.withoutPackage(path, context.ref.code);
    let types = this.headTypes(head, context, depth);
    for (const part of rest) types = types.flatMap((type) => this.memberTypes(type, part, depth + 1));
    return [...new Set(types)];
  }

  /** A path without the package or namespace in front of its first type: `example.app.Maps.start` as `Maps.start`. */
  private withoutPackage(path: readonly string[], { language, variables, values }: CodeFile): readonly string[] {
    const head = path[0] as string;
    if (isScript(language) || path.length < 3 || variables.has(head) || values.has(head) || this.types(head).length > 0) return path;
    const first = path.findIndex((part) => this.types(part).length > 0);
    return first > 0 ? path.slice(first) : path;
  }

  // eslint-disable-next-line complexity -- the ways in which a name gets its type, the nearest first
  private headTypes(head: string, context: Context, depth: number): string[] {
    const { ref, self, call } = context;
    const { code } = ref;
    const lexical = functionOf(ref)?.type ?? "";
    if (/^(this|self|Self)$/.test(head)) return self === "" ? [] : [self];
    if (head === "super") return [...(this.supers.get(lexical) ?? [])];
    if (BY_NAME.test(head) && this.types(head).length === 0) return [];
    if (head === "it" || head === "$0") {
      for (const closure of call?.closures.toReversed() ?? []) {
        const itself = GIVES_ITSELF.exec(closure)?.[1];
        const each = GIVES_EACH.exec(closure)?.[1];
        const inner = { ...context, call: undefined };
        if (itself !== undefined) return this.typesOf(itself.split("."), inner, depth + 1);
        if (each !== undefined) return elements(this.typesOf(each.split("."), inner, depth + 1));
      }
      return [];
    }
    const value = code.values.get(head);
    if (value) {
      const found = this.typesOfText(value.text, context, depth + 1);
      if (found.length > 0) return value.element ? elements(found) : found;
    }
    if (value === undefined || value) {
      const type = code.variables.get(head);
      if (type !== undefined) return type.includes(".") ? [] : this.boundOf(type, code);
    }
    if (value === null) return [];
    if (isScript(ref.source.language)) {
      const type = this.modules.typeName(ref, head);
      if (type !== undefined) return [type];
      const shared = this.modules.value(ref, head);
      if (shared) return this.typesOfText(shared.text, { ref: shared.ref, self: "" }, depth + 1);
      if (this.modules.isOwn(ref, head)) return [];
    }
    const inherited = self === "" ? [] : this.memberTypes(self, head, depth + 1, true);
    if (inherited.length > 0) return inherited;
    const [made, other] = [...(this.free.get(head) ?? []), ...(this.members.get(`${self} ${head}`) ?? [])];
    const given = made && !other ? returnedType(made) : undefined;
    if (given !== undefined && given !== "") return [given];
    if (/^_?[A-Z]/.test(head)) return this.boundOf(head.replace(/<.*/s, ""), code);
    const [global, more] = this.globals(head).filter(({ source }) => source.side === ref.source.side || source.side === "shared");
    return global && !more ? this.typesOfText(global.value.text, { ref: { ...global, index: -1 }, self: "" }, depth + 1) : [];
  }

  /** What a type parameter has to be, and nothing where that is open; other types as they are. */
  private boundOf(written: string, code: CodeFile): string[] {
    const type = this.typeMeant(written, code);
    if (this.types(type).length > 0 || !/^[A-Z]\w*$/.test(type)) return [type];
    let known = this.bounds.get(code);
    if (!known) this.bounds.set(code, (known = new Map()));
    let found = known.get(type);
    if (!found) known.set(type, (found = boundIn(code.plain, type)));
    return found;
  }

  /** Values outside of any type or function, which other files of most languages see. */
  private globals(name: string): readonly { source: SourceFile; code: CodeFile; value: CodeValue }[] {
    if (!this.globalValues) {
      this.globalValues = new Map();
      for (const { source, code } of this.files) {
        if (isScript(source.language)) continue;
        const inside = [...code.types, ...code.functions.filter(({ kind }) => kind !== "initializer")];
        for (const [own, value] of code.values)
          if (value && !inside.some(({ from, to }) => value.from >= from && value.from < to))
            push(this.globalValues, own, { source, code, value });
      }
    }
    return this.globalValues.get(name) ?? [];
  }

  /** The types of a member of a type. */
  // eslint-disable-next-line complexity -- the ways in which a member gets its type, the nearest first
  private memberTypes(type: string, name: string, depth: number, plain = false): string[] {
    if (depth > MAX_DEPTH || type.startsWith("*")) return [];
    for (const own of [type, ...this.heritage(type)])
      for (const { source, code } of this.types(own)) {
        const value = code.values.get(name);
        if (value === null) return [];
        const found = value ? this.typesOfText(value.text, { ref: { source, code, index: -1 }, self: own }, depth + 1) : [];
        if (found.length > 0) return found;
        const declared = code.variables.get(name);
        if (declared !== undefined) return declared.includes(".") ? [] : this.boundOf(declared, code);
      }
    if (plain) return [];
    const given = this.lookUp(type, name, "shared").map((ref) => returnedType(ref));
    if (given.length > 0 && given.every((one) => one === given[0]) && given[0] !== undefined) return [given[0] === "" ? type : given[0]];
    if (this.types(name).length > 0) return [name];
    const getter = /^get([A-Z]\w*)$/.exec(name)?.[1];
    if (getter !== undefined) {
      const found = this.memberTypes(type, getter.charAt(0).toLowerCase() + getter.slice(1), depth + 1, true);
      if (found.length > 0) return found;
    }
    return SINGLETON.test(name) || /^(new|alloc|init\w*)$/.test(name) ? [type] : [];
  }

  private typesOfText(text: string, context: Context, depth: number): string[] {
    const list = /^(?:\[|(?:\w*[lL]istOf|arrayOf|setOf|List\.of|Arrays\.asList|new\s*(?:\w*\[\])?\s*[({])\s*[({]?)([\s\S]*)[\])}]$/.exec(
      text,
    )?.[1];
    if (list !== undefined)
      return [...list.matchAll(/(?:^|,)\s*(?:new\s+)?([A-Za-z_]\w*(?:\.\w+)*)\s*(?=\(|,|$)/g)].flatMap(([, name = ""]) =>
        this.typesOf(name.split("."), { ...context, call: undefined }, depth + 1).map((type) => `*${type}`),
      );
    // What it holds is what one asks it for.
    const held = /^(?:new\s+)?(?:System\.)?Lazy<\s*([A-Z][\w.]*)\s*>/.exec(text)?.[1];
    if (held !== undefined) return this.typesOf(held.split("."), { ...context, call: undefined }, depth + 1);
    if (/^["'`\d]|[?]\s|\bif\b|\bwhen\b|\bswitch\b/.test(text)) return [];
    const asked = this.ownAsked(askedType(text, context.ref.code.language));
    if (asked.length > 0) return asked;
    const [, as = "", behind = ""] = CAST.exec(text) ?? CAST_BEFORE.exec(text) ?? [];
    if (this.types(as).length > 0)
      return this.typesOf([as, ...behind.split(/[?!]*\./).slice(1)], { ...context, call: undefined }, depth + 1);
    const callee = calleeText(text);
    return callee === "" || !/^[\w$.]+$/.test(callee) ? [] : this.typesOf(callee.split("."), { ...context, call: undefined }, depth + 1);
  }

  /** The calls that can mean a function, each with the function around it. */
  callersOf(target: FunctionRef): { call: CodeCall; ref: FunctionRef }[] {
    const fn = functionOf(target);
    if (!fn) return [];
    return this.callsNamed(fn.kind === "constructor" ? fn.type : fn.name).filter(({ call, ref }) => this.canMean(call, ref, target));
  }

  /** The calls that make an object of a type, by a constructor that has a name of its own where one is given. */
  makingOf(type: string, constructor?: string): readonly { call: CodeCall; ref: FunctionRef }[] {
    if (constructor === undefined) return this.callsNamed(type);
    return this.callsNamed(constructor).filter(({ call: { callee } }) => callee.split(".").at(-2) === type);
  }

  private callsNamed(name: string): readonly { call: CodeCall; ref: FunctionRef }[] {
    if (!this.callsByName) {
      this.callsByName = new Map();
      for (const { source, code } of this.files)
        for (const call of code.calls)
          push(this.callsByName, call.callee.split(".").at(-1) as string, { call, ref: { source, code, index: call.in } });
    }
    return this.callsByName.get(name) ?? [];
  }

  /** Whether a call that has the name of a function can mean it: anything that is not known can. */
  canMean(call: CodeCall, from: FunctionRef, target: FunctionRef): boolean {
    const fn = functionOf(target);
    if (!fn) return true;
    const lexical = functionOf(from)?.type ?? "";
    const context: Context = { ref: from, self: lexical, call };
    const receiver = call.callee.split(".").slice(0, -1);
    if (receiver.length === 0) return this.canMeanBare(call, from, target, fn);
    const isPart = this.isPartMeant(receiver, fn, from);
    if (isPart !== undefined) return isPart;
    const asked = this.askedFor(context);
    if (asked.some((type) => this.related(type, fn.type))) return true;
    const types = this.typesOf(receiver, context).map((type) => type.replace(/^\*/, ""));
    if (types.length === 0) return canMeanUntyped(receiver, from, target, fn);
    if (fn.type === "" && isOfKotlinFile(receiver, target)) return true;
    if (fn.type === "" || extendsType(target))
      return isScript(target.source.language)
        ? this.modules.isOwn(from, receiver[0] as string)
        : extendsType(target) || isPrefix(from, receiver);
    return types.some((type) => {
      if (this.related(type, fn.type)) return true;
      const promised =
        target.source.language === "kotlin" ? this.delegatedTo(type, this.lookUp(type, fn.name, from.source.side)) : undefined;
      return promised !== undefined && this.related(promised, fn.type);
    });
  }

  /** The interface whose method a class of Kotlin has only by what it hands that on to. Source: kotlinlang.org, "Delegation". */
  private delegatedTo(type: string, found: readonly FunctionRef[]): string | undefined {
    const [own] = found;
    const above = own && functionOf(own)?.type;
    if (!own || above === undefined || above === type || own.code.language !== "kotlin" || !this.isAbstract(above)) return undefined;
    const handsOn = this.types(type).some(({ code, type: { from } }) => /^[^{}]*?\bby\b/.test(code.plain.slice(from, from + 300)));
    return handsOn ? above : undefined;
  }

  /** The same for a call without a receiver. */
  private canMeanBare(call: CodeCall, from: FunctionRef, target: FunctionRef, fn: CodeFunction): boolean {
    const lexical = functionOf(from)?.type ?? "";
    const context: Context = { ref: from, self: lexical, call };
    const scopes = call.closures.flatMap((closure) => RECEIVER_SCOPE.exec(closure)?.[1] ?? []);
    for (const of of scopes) {
      const types = this.typesOf(of.split("."), context);
      if (types.length === 0 || types.some((type) => this.related(type, fn.type))) return true;
    }
    if (fn.type === "") return isScript(target.source.language) ? this.modules.sees(from, call.callee, target) : true;
    if (importedFrom(from, call.callee).includes(fn.type)) return true;
    // `.live()` of Swift: a member of the type that is asked for there.
    if (
      from.source.language === "swift" &&
      /(?:^|[^\w)\]}?!])\s*\.\s*$/.test(from.code.plain.slice(Math.max(0, call.from - 40), call.from + 1))
    )
      return true;
    if (lexical === "") return !isScript(from.source.language);
    return this.related(lexical, fn.type) || this.nested(from.code, lexical, fn.type);
  }

  /** Whether a type stands inside of another, whose members it sees. */
  private nested(code: CodeFile, inner: string, outer: string): boolean {
    const around = code.types.filter(({ name }) => name === outer);
    return code.types.some(({ name, from, to }) => name === inner && around.some((type) => type.from < from && to <= type.to));
  }

  /** The own file that a relative import of a script means. */
  resolve(file: string, specifier: string): { source: SourceFile; code: CodeFile } | undefined {
    return this.modules.resolve(file, specifier);
  }

  /** A source file, parsed or not. */
  source(file: string): SourceFile | undefined {
    return this.sources.get(file);
  }

  /** Parsed files of a side. */
  ofSide(side: SideName): readonly { source: SourceFile; code: CodeFile }[] {
    return this.files.filter(({ source }) => source.side === side);
  }
}

/** What a type parameter of a file has to be (`<T: Launching>`, `<T extends Launching>`, `where T : ILaunching`), nothing where that is open. */
function boundIn(plain: string, type: string): string[] {
  const bound = new RegExp(
    `<[^(){};]{0,200}?\\b${type}\\s*(?::|extends\\b)\\s*(?:any\\s+|some\\s+)?([A-Z]\\w*)|\\bwhere\\s[^{};]{0,300}?\\b${type}\\s*:\\s*([A-Z]\\w*)`,
  ).exec(plain);
  if (bound) return [bound[1] ?? bound[2] ?? type];
  return /^[A-Z]\d?$|^T[A-Z]\w*$/.test(type) && new RegExp(`<[^(){};]{0,200}?\\b${type}\\b`).test(plain) ? [] : [type];
}

/** Whether a function gives an object of its own type parameter: `T Get<T>()`, `fun <T> get(): T`, `func get<T>() -> T`. */
function givesWhatIsAsked(ref: FunctionRef): boolean {
  const fn = functionOf(ref);
  if (!fn) return false;
  const { plain } = ref.code;
  const header = plain.slice(Math.max(0, fn.from - 60), fn.from + 300);
  const name = escaped(fn.name);
  return (
    new RegExp(`\\b(\\w+)\\??\\s+${name}\\s*<\\s*\\1\\b`).test(header) ||
    new RegExp(`<\\s*(?:reified\\s+)?(\\w+)[^<>()]*>\\s*${name}\\s*\\([^()]*\\)\\s*:\\s*\\1\\b`).test(header) ||
    new RegExp(`\\b${name}\\s*<\\s*(\\w+)[^<>()]*>\\s*\\([^()]*\\)\\s*(?:->|:)\\s*\\1\\b`).test(header)
  );
}

/** Whether code that runs on a side can mean what stands in a file. */
function isSeenFrom(side: SideName, source: SourceFile): boolean {
  return side === "shared" || source.side === side || source.side === "shared";
}

/** The functions that code of a side can mean: what the other side calls by the same name is another program's. */
function seenFrom(side: SideName, refs: readonly FunctionRef[]): readonly FunctionRef[] {
  if (side === "shared" || refs.every(({ source }) => source.side === side)) return refs;
  const own = refs.some(({ source }) => source.side === side);
  // What Kotlin's shared code expects is what the side's own code gives. Source: kotlinlang.org, "Expected and actual declarations".
  return refs.filter(({ source }) => source.side === side || (source.side === "shared" && !(own && source.language === "kotlin")));
}

function asTargets(refs: readonly FunctionRef[], side: SideName): Target[] {
  const seen = seenFrom(side, refs);
  return seen.map((ref) => ({ ref, self: "", certain: seen.length === 1 }));
}

/** All that lies behind a name, one step after the other. */
function closure(known: Map<string, Set<string>>, start: string, steps: ReadonlyMap<string, ReadonlySet<string>>): ReadonlySet<string> {
  let found = known.get(start);
  if (found) return found;
  found = new Set<string>();
  const open = [start];
  for (let name = open.pop(); name !== undefined; name = open.pop())
    for (const next of steps.get(name) ?? []) if (!found.has(next)) open.push((found.add(next), next));
  known.set(start, found);
  return found;
}

function elements(types: readonly string[]): string[] {
  return types.map((type) => type.replace(/^\*/, ""));
}

/** The types whose member of a name a file imports: `import static example.Maps.start` of Java, `import example.Maps.start` of Kotlin. */
function importedFrom({ code }: FunctionRef, name: string): string[] {
  if (code.language !== "java" && code.language !== "kotlin") return [];
  // Java's wildcard for members is one behind the name of a type.
  return code.imports.flatMap(({ source, names }) =>
    names.length === 0
      ? (/(?:^|\.)([A-Z]\w*)$/.exec(source)?.[1] ?? [])
      : names.some(({ local }) => local === name)
        ? (source.split(".").at(-2) ?? [])
        : [],
  );
}

/** The type that the head of a function says it gives back; empty for the one in which it stands. */
function returnedType(ref: FunctionRef): string | undefined {
  const fn = functionOf(ref);
  if (!fn || fn.name === "" || fn.kind !== "function") return undefined;
  const { plain, language } = ref.code;
  const header = plain.slice(fn.from, Math.min(fn.to, fn.from + 300)).split(/[{;]|=>/)[0] ?? "";
  if (language === "objc") {
    const type = /^[-+]\s*\(\s*(?:nullable\s+|nonnull\s+)?(\w+)/.exec(header)?.[1];
    return type === "instancetype" || type === "id" ? "" : /^[A-Z]/.test(type ?? "") ? type : undefined;
  }
  if (language === "swift")
    return /->\s*(?:some\s+|any\s+)?(?:(Self)|([A-Z]\w*))\b/
      .exec(header)
      ?.slice(1)
      .map((type, index) => (index === 0 && type ? "" : type))
      .find((type) => type !== undefined);
  if (language === "kotlin" || isScript(language)) return /\)\s*:\s*([A-Z]\w*)/.exec(header)?.[1];
  return new RegExp(`\\b([A-Z]\\w*)(?:<[^()]*>)?\\??\\s+${escaped(fn.name)}\\s*(?:<[^()]*>)?\\(`).exec(header)?.[1];
}

/** Whether a call can mean a function, where nothing is known of what it is called on. */
function canMeanUntyped(receiver: readonly string[], from: FunctionRef, target: FunctionRef, { type }: CodeFunction): boolean {
  // What stands behind the name of an import is in no type.
  if (from.source.language === "dart" && type !== "" && isPrefix(from, receiver)) return false;
  return type !== "" || isScript(target.source.language) || extendsType(target) || isPrefix(from, receiver);
}

/** Whether a receiver is what a file calls something that it imports as a whole: a prefix of Dart. */
function isPrefix({ code }: FunctionRef, receiver: readonly string[]): boolean {
  return receiver.length === 1 && code.imports.some(({ names }) => names.some(({ local }) => local === receiver[0]));
}

/** A function that is added to a type: `fun Application.start()` of Kotlin, `static void Start(this App app)` of C#. */
function extendsType(ref: FunctionRef): boolean {
  const fn = functionOf(ref);
  if (!fn) return false;
  const header = ref.code.plain.slice(fn.from, fn.from + 300);
  const { language } = ref.source;
  if (language !== "csharp" && language !== "kotlin") return false;
  return language === "csharp"
    ? fn.isStatic && new RegExp(`\\b${escaped(fn.name)}\\s*(?:<[^>]*>)?\\(\\s*this\\s`).test(header)
    : fn.type === "" && new RegExp(`\\bfun\\s+(?:<[^>]*>\\s*)?[\\w.<>?]+\\.${escaped(fn.name)}\\s*\\(`).test(header);
}

function push<K, V>(map: Map<K, V[]>, key: K, value: V): void {
  const known = map.get(key);
  if (known) known.push(value);
  else map.set(key, [value]);
}
