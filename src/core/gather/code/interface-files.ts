import { foldersBelow, type FolderIndex } from "../../files/walk.js";
import { takesLibraries, type App } from "../../model/app.js";
import type { ComponentFault } from "../../model/code.js";
import { join } from "../../model/paths.js";
import { nearest } from "../../model/suggest.js";
import { withoutComments } from "../../syntax/comments.js";
import { allElements, type XmlElement } from "../../syntax/xml.js";
import type { ProjectFiles } from "../project-files.js";
import type { SourceFile } from "./sources.js";

/** Outlets that classes of the platform have. Source: developer.apple.com, "UIKit" (properties marked as outlets). */
const PLATFORM_OUTLET =
  /^(view|delegate|dataSource|prefetchDataSource|dragDelegate|dropDelegate|tableView|collectionView|navigationItem|navigationController|tabBarItem|toolbar\w*|textLabel|detailTextLabel|imageView|contentView|background\w*|accessoryView|editingAccessoryView|selectedBackgroundView|inputView|inputAccessoryView|searchDisplayController|searchBar|window|titleView|leftBarButtonItem|rightBarButtonItem|gestureRecognizers|refreshControl|viewController|viewControllers|rootViewController|layout|collectionViewLayout)$/;

/** An own class for iOS, with all that its files say of it. */
interface AppleClass {
  text: string;
  supers: readonly string[];
}

/**
 * Classes, methods and properties that storyboards and other interface files name and the code does not have: the app ends when it shows them.
 * Source: developer.apple.com, "Interface Builder" (custom classes, outlets, actions); `NSObject`, "setValue:forUndefinedKey:".
 */
export function interfaceFaults(project: ProjectFiles, index: FolderIndex, app: App, sources: readonly SourceFile[]): ComponentFault[] {
  const { ios } = app;
  // What .NET's projects have of the iOS side lies in them.
  if (!ios || (ios.generated && app.kind !== "dotnet")) return [];
  const files = [...foldersBelow(index, ios.folder)].flatMap(([folder, { files: names, folders }]) =>
    !/(^|\/)(Pods|Carthage|node_modules|build|DerivedData)(\/|$)/.test(folder)
      ? [
          ...names.map((name) => join(folder, name)),
          ...folders
            .filter((name) => name === "Base.lproj")
            .flatMap((name) => project.tree.list(join(folder, name)).map((entry) => join(folder, name, entry.name))),
        ]
      : [],
  );
  const shown = files.filter((file) => /\.(storyboard|xib)$/.test(file));
  if (shown.length === 0) return [];
  const own = new OwnTypes(sources.filter(({ side }) => side === "ios"));
  const modules = new Set(ios.allTargets.map(({ name }) => name.replace(/\W/g, "_")));
  return [...new Set(shown)].flatMap((file) => {
    const root = project.xml(file)?.root;
    return root ? faultsIn(root, own, modules, app.kind === "dotnet" || isAlone(app)) : [];
  });
}

class OwnTypes {
  private readonly byName = new Map<string, AppleClass>();

  constructor(sources: readonly SourceFile[]) {
    const texts = new Map<string, { text: string; supers: Set<string> }>();
    // Classes of C# are known by the name that they register. Source: learn.microsoft.com, "RegisterAttribute".
    const registered = new Map(
      sources.flatMap(({ language, text }) =>
        language !== "csharp"
          ? []
          : [...text.matchAll(/\[\s*(?:[\w.]+\.)?Register\s*\(\s*"(\w+)"[^\]]*\]\s*(?:\[[^\]]*\]\s*)*(?:\w+\s+)*?class\s+(\w+)/g)].map(
              ([, name = "", type = ""]) => [type, name] as const,
            ),
      ),
    );
    const nameOf = (type: string): string => registered.get(type) ?? type;
    for (const source of sources) {
      const text = withoutComments(source.text);
      const found = [
        ...text.matchAll(/\b(?:class|extension)\s+(\w+)\s*(?:<[^>{]*>)?\s*(?::\s*([^{]*))?\{/g),
        ...text.matchAll(/@(?:interface|implementation)\s+(\w+)\s*(?::\s*(\w+))?/g),
      ];
      for (const [, type = "", above = ""] of found) {
        const name = nameOf(type);
        const known = texts.get(name) ?? { text: "", supers: new Set<string>() };
        texts.set(name, known);
        if (!known.text.includes(text)) known.text += `\n${text}`;
        for (const part of above.split(",")) if (part.trim() !== "") known.supers.add(nameOf(part.trim().replace(/^.*\.|<.*$/g, "")));
      }
    }
    for (const [name, { text, supers }] of texts) this.byName.set(name, { text, supers: [...supers] });
  }

  get names(): string[] {
    return [...this.byName.keys()];
  }

  has(name: string): boolean {
    return this.byName.has(name);
  }

  /** The texts of a class and of those above it; `undefined` where one of these is of somebody else. */
  textOf(name: string, depth = 0): string | undefined {
    const type = this.byName.get(name);
    if (!type || depth > 8) return undefined;
    let text = type.text;
    for (const above of type.supers) {
      if (this.byName.has(above)) {
        const more = this.textOf(above, depth + 1);
        if (more === undefined) return undefined;
        text += more;
      } else if (
        !/^(UI|NS|MK|CA|AV|WK|SK|PK|MF|SF|QL|CN|GK|SCN|MTK|PDF|AR)[A-Z]\w*$/.test(above) &&
        !/(Delegate|DataSource|able)$/.test(above)
      )
        return undefined;
    }
    return text;
  }
}

/** Whether no class of an interface file can be a library's. */
const isAlone = (app: App): boolean => app.kind === "native" && !takesLibraries(app, "ios");

/** @param registered whether classes have no modules, as those of .NET, which are known by a name that they register: one of a library may be any. */
function faultsIn(root: XmlElement, own: OwnTypes, modules: ReadonlySet<string>, registered: boolean): ComponentFault[] {
  const attribute = (element: XmlElement, name: string): string | undefined => element.attributes.get(name)?.value;
  const byId = new Map<string, string>();
  const all = allElements(root);
  const faults: ComponentFault[] = [];
  const tell = (what: ComponentFault["what"], element: XmlElement, of: string, name: string, near: string | undefined): void => {
    const start = element.attributes.get(of)?.start ?? element.start;
    faults.push({ what, side: "ios", element: element.name, name, near, at: element.source.place(start) });
  };
  for (const element of all) {
    const type = attribute(element, "customClass");
    const id = attribute(element, "id");
    if (type === undefined) continue;
    if (id !== undefined) byId.set(id, type);
    const module = attribute(element, "customModule");
    // One without a module may be of a library.
    const ofTarget = attribute(element, "customModuleProvider") === "target" || (module !== undefined && modules.has(module));
    const isOwn = ofTarget || (registered && module === undefined && nearest(type, own.names) !== undefined);
    if (isOwn && !own.has(type)) tell("interface class", element, "customClass", type, nearest(type, own.names));
  }
  const holders = new Map<XmlElement, string>();
  for (const element of all) {
    const type = attribute(element, "customClass");
    if (type !== undefined)
      for (const connections of element.children) if (connections.name === "connections") holders.set(connections, type);
  }
  noteOutlets(holders, own, attribute, tell);
  noteActions(all, attribute, byId, own, tell);
  return faults;
}

/** Outlets that the class does not have. */
function noteOutlets(
  holders: Map<XmlElement, string>,
  own: OwnTypes,
  attribute: (element: XmlElement, name: string) => string | undefined,
  tell: (what: ComponentFault["what"], element: XmlElement, of: string, name: string, near: string | undefined) => void,
): void {
  for (const [connections, type] of holders) {
    const text = own.textOf(type);
    for (const outlet of connections.children) {
      const name = attribute(outlet, "property");
      if (!/^outlet(Collection)?$/.test(outlet.name) || name === undefined || text === undefined || PLATFORM_OUTLET.test(name)) continue;
      if (!new RegExp(`\\b${name}\\b`).test(text))
        tell("interface outlet", outlet, "property", `${type}.${name}`, nearest(name, outletsIn(text)));
    }
  }
}

/** Actions that the class they are sent to does not have. */
function noteActions(
  all: XmlElement[],
  attribute: (element: XmlElement, name: string) => string | undefined,
  byId: Map<string, string>,
  own: OwnTypes,
  tell: (what: ComponentFault["what"], element: XmlElement, of: string, name: string, near: string | undefined) => void,
): void {
  for (const action of all) {
    const selector = attribute(action, "selector");
    const type = byId.get(attribute(action, "destination") ?? "");
    const text = action.name !== "action" || type === undefined ? undefined : own.textOf(type);
    const [name = ""] = (selector ?? "").split(":");
    if (text === undefined || type === undefined || !/^\w+$/.test(name)) continue;
    // In Swift a label is a part of the name: scanWithSender: is scan(sender:).
    const stem = name.replace(/With[A-Z]\w*$|For[A-Z]\w*$/, "");
    if (!new RegExp(`\\bfunc\\s+(?:${name}|${stem})\\b|[-+]\\s*\\([^)]*\\)\\s*${name}\\b|@objc\\s*\\(\\s*${name}\\b`).test(text))
      tell("interface action", action, "selector", `${type} ${selector ?? ""}`, nearest(name, actionsIn(text)));
  }
}

function outletsIn(text: string): string[] {
  return [...text.matchAll(/\bIBOutlet(?:Collection\s*\([^)]*\))?[^;\n]*?(?:\bvar\s+(\w+)|\*\s*(\w+)\s*;)/g)].map(
    (match) => (match[1] ?? match[2]) as string,
  );
}

function actionsIn(text: string): string[] {
  return [...text.matchAll(/@IBAction[^\n]*?\bfunc\s+(\w+)|\(\s*IBAction\s*\)\s*(\w+)/g)].map((match) => (match[1] ?? match[2]) as string);
}
