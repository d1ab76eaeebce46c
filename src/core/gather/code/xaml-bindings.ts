import type { PageFault } from "../../model/code.js";
import { nearest } from "../../model/suggest.js";
import { closing } from "../../syntax/code/callee.js";
import type { XmlElement } from "../../syntax/xml.js";
import type { ScriptClasses } from "./script-classes.js";

/** Classes and interfaces above a type whose members are known: none that a page would bind to. */
const PLAIN_BASES =
  /^(ObservableObject|ObservableRecipient|ObservableValidator|BindableObject|INotifyPropertyChanged|INotifyPropertyChanging|IQueryAttributable|IDisposable|IAsyncDisposable|IRecipient|IEquatable|IComparable|object)$/;

/** Elements whose content is not of the page's data. */
const OF_OTHERS = /(?:^|:)(?:DataTemplate|ControlTemplate|Style|ResourceDictionary)$/;
/** Properties of elements whose content is. */
const OF_PAGE = /\.(?:Content|Behaviors|ToolbarItems|GestureRecognizers|MenuBarItems|Children|ItemTemplate)$/;

/** Words that a bound page may take from any class above. */
const OF_BASES = /^(HasErrors|IsActive|BindingContext)$/;

/**
 * What pages in XAML bind to and the class that they state as the type of their data does not have. Members that a generator writes are told from its
 * attributes. Sources: learn.microsoft.com, "Compiled bindings" (x:DataType), ".NET Community Toolkit, MVVM" (ObservableProperty: the field's name without
 * `_` or `m_` and in capitals; RelayCommand: the method's name without `On` and `Async`, with `Command`).
 */
export class XamlBindings {
  private readonly members = new Map<string, ReadonlySet<string> | undefined>();

  constructor(private readonly classes: ScriptClasses) {}

  faultsOf(root: XmlElement): PageFault[] {
    const found: PageFault[] = [];
    this.walk(root, undefined, found);
    return found;
  }

  private walk(element: XmlElement, around: string | undefined, found: PageFault[]): void {
    const stated = element.attributes.get("x:DataType")?.value;
    // A template shows other data, and so does what states a context of its own.
    const isOther =
      OF_OTHERS.test(element.name) ||
      (element.name.includes(".") && !OF_PAGE.test(element.name)) ||
      element.attributes.has("BindingContext") ||
      element.children.some(({ name }) => name.endsWith(".BindingContext"));
    const type = stated === undefined ? (isOther ? undefined : around) : /^(?:\w+:)?(\w+)$/.exec(stated)?.[1];
    if (type !== undefined) this.look(element, type, found);
    for (const child of element.children) this.walk(child, type, found);
  }

  private look(element: XmlElement, type: string, found: PageFault[]): void {
    for (const [attribute, { value, start }] of element.attributes) {
      const inner = /^\{\s*Binding\s+([^{}]*(?:\{[^{}]*\}[^{}]*)*)\}$/.exec(value)?.[1];
      if (attribute === "BindingContext" || inner === undefined || /\b(?:Source|RelativeSource|ElementName|x:DataType)\s*=/.test(inner))
        continue;
      const path = /^\s*(?:Path\s*=\s*)?([A-Za-z_]\w*)(?=\s*(?:[.,[]|$))/.exec(inner)?.[1] ?? /,\s*Path\s*=\s*(\w+)/.exec(inner)?.[1];
      const members = path === undefined || OF_BASES.test(path) ? undefined : this.of(type);
      if (path === undefined || !members || members.has(path)) continue;
      if (found.some(({ name, of }) => name === path && of === type)) continue;
      found.push({ what: "member", name: path, of: type, near: nearest(path, [...members]), at: element.source.place(start) });
    }
  }

  /** The names that a type of the app's own has to bind to; `undefined` where not all of it is here. */
  private of(type: string): ReadonlySet<string> | undefined {
    if (!this.members.has(type)) {
      this.members.set(type, undefined);
      this.members.set(type, this.read(type));
    }
    return this.members.get(type);
  }

  private read(type: string): ReadonlySet<string> | undefined {
    const found = new Set<string>();
    let isThere = false;
    for (const { code } of this.classes.filesOf(type))
      for (const head of code.matchAll(
        new RegExp(`\\b(?:class|record(?:\\s+(?:class|struct))?|struct)\\s+${type}\\b([^{;]*)([{;])`, "g"),
      )) {
        isThere = true;
        // A generic type's members may be of its arguments; other types extend one that nobody here has written.
        const [, header = "", open] = head;
        const bases = /(?:^|\)|\s)\s*:\s*([^:]*)$/.exec(header.replace(/\bwhere\b[\s\S]*$/, ""))?.[1] ?? "";
        for (const written of bases.replace(/<[^<>]*>/g, "").split(",")) {
          const base = written.trim().replace(/\(.*$/s, "").split(".").at(-1)?.trim() ?? "";
          if (base === "" || PLAIN_BASES.test(base) || /^I[A-Z]/.test(base)) continue;
          const above = base === type ? undefined : this.of(base);
          if (!above) return undefined;
          for (const name of above) found.add(name);
        }
        for (const [, name = ""] of header.matchAll(/[\w>?\]]\s+(\w+)\s*(?=[,)=])/g)) found.add(name);
        if (open !== "{") continue;
        const from = head.index + head[0].length - 1;
        for (const name of membersIn(code.slice(from + 1, closing(code, from)))) found.add(name);
      }
    return isThere ? found : undefined;
  }
}

function membersIn(body: string): string[] {
  return [
    ...[...body.matchAll(/[\w>?\])]\s+(\w+)\s*(?:\{|=>|;|=(?!=))/g)].flatMap(([, name = ""]) => (/^[A-Z]/.test(name) ? name : [])),
    // Generators of others make properties of fields, too.
    ...[...body.matchAll(/(?<=(?:^|[;{}])\s*)\[\s*[A-Z]\w*/g)].flatMap(({ index }) => {
      const name = declaredAfter(body, index, /[;={]/);
      const plain = name?.replace(/^(?:m_|_+)/, "");
      return plain ? plain.charAt(0).toUpperCase() + plain.slice(1) : [];
    }),
    ...[...body.matchAll(/\[[^\]\n]*\b\w*Command\b/g)].flatMap((match) => {
      const plain = declaredAfter(body, match.index, /\(/)
        ?.replace(/^On(?=[A-Z])/, "")
        .replace(/Async$/, "");
      return plain ? [`${plain}Command`, `${plain}CancelCommand`] : [];
    }),
  ];
}

/** The name that a declaration has whose attributes begin at a place: the last word before one of some signs. */
function declaredAfter(body: string, from: number, end: RegExp): string | undefined {
  let depth = 0;
  let declared = "";
  for (let index = from; index < Math.min(body.length, from + 2_000); index++) {
    const sign = body[index] as string;
    if (sign === "[") depth++;
    else if (sign === "]") depth--;
    else if (depth === 0) {
      if (end.test(sign)) return /(\w+)\s*$/.exec(declared)?.[1];
      declared += sign;
    }
  }
  return undefined;
}
