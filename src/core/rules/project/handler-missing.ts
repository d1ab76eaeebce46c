import type { App } from "../../model/app.js";
import type { PageFault, SceneFault } from "../../model/code.js";
import type { RawFinding } from "../../model/finding.js";
import { unityExample } from "../examples.js";
import { defineRule } from "../rule.js";

interface Words {
  message: string;
  fix: string;
}

const chosen = (near: string | undefined, otherwise: string): string => (near === undefined ? otherwise : `write ${near}, which is there`);

const PAGES: Record<PageFault["what"], (fault: PageFault) => { message: string; fix: string }> = {
  handler: ({ name, near }) => ({
    message: `an event of the page calls ${name}, which its class does not have`,
    fix: near === undefined ? `write ${name}, or remove the event` : `write ${near}, which is there`,
  }),
  class: ({ name, near }) => ({
    message: `the page is of the class ${name}, which its code does not declare`,
    fix: near === undefined ? "name the class of its code" : `write ${near} in x:Class`,
  }),
  "host page": ({ name }) => ({ message: `the web view shows ${name}, which is missing`, fix: "write the page as it is named" }),
  "web view script": ({ name, near }) => ({
    message: `${name} ${near === undefined ? "does not load the script of the web view" : `loads ${near}, which is not the script of a web view`}: the page stays as it is`,
    fix: 'add <script src="_framework/blazor.webview.js" autostart="false"></script>',
  }),
  "library file": ({ name, of = "" }) => ({
    message: `the page loads ${name}, but the folder wwwroot of ${of} has no such file`,
    fix: "write the name of a file that is there, with the same capital letters",
  }),
  assembly: ({ name, near = "" }) => ({
    message: `the page takes from the assembly ${name}, which is neither a project nor a package of the app`,
    fix: `write ${near}, or refer to ${name}`,
  }),
  selector: ({ name, near }) => ({
    message: `the web view writes into ${name}, which ${near ?? "the page"} does not have`,
    fix: "write the id of an element of the page",
  }),
  component: ({ name, near }) => ({
    message: `the web view shows the component ${name}, which does not exist`,
    fix: near === undefined ? "name a component of the app" : `write ${near}, which is there`,
  }),
  service: ({ name, near }) => ({
    message: `${near ?? ""} asks for ${name}, which nothing registers: it cannot be made`,
    fix: `register ${name} in the services of the builder`,
  }),
  "web views": ({ name }) => ({ message: `a page has a web view, but nothing calls ${name}`, fix: `call builder.Services.${name}()` }),
  type: ({ name, near }) => ({
    message: `the page names the class ${name}, which the app does not have`,
    fix: chosen(near, "name a class of the app"),
  }),
  resource: ({ name, near }) => ({
    message: `the page asks for the resource ${name}, which no dictionary has: it cannot be made`,
    fix: chosen(near, `add a resource with x:Key="${name}"`),
  }),
  unmerged: ({ name, near = "" }) => ({
    message: `the page asks for the resource ${name}, but nothing takes in the dictionary that has it: the page cannot be made`,
    fix: `merge ${near} into the application's resources`,
  }),
  "merged later": ({ name, near = "" }) => ({
    message: `a dictionary asks for the resource ${name} before ${near}, which has it, is taken in: it cannot be made`,
    fix: `take in ${near} first`,
  }),
  dictionary: ({ name, near }) => ({
    message: `a dictionary of resources is taken from ${name}, which is not there`,
    fix: chosen(near, "name a file of the project"),
  }),
  route: ({ name, near }) => ({
    message: `code goes to the route ${name}, which neither a shell nor a call registers: the call throws`,
    fix: chosen(near, `register it: Routing.RegisterRoute("${name}", typeof(…))`),
  }),
  callback: ({ name }) => ({
    message: `code signs in by the browser, but Android has no activity that takes ${name === "the callback" ? name : `${name}:`} back`,
    fix: "write an activity that extends WebAuthenticatorCallbackActivity, with an intent filter for the scheme",
  }),
  "callback scheme": ({ name, near }) => ({
    message: `the browser comes back to ${name}:, but the activity for it takes ${near ?? "another scheme"}: the sign-in never ends`,
    fix: `write DataScheme = "${name}"`,
  }),
  "callback category": ({ name, near = "" }) => ({
    message: `the filter of ${name} lacks ${near}: the browser does not come back to it`,
    fix: `add Intent.${near} to its Categories`,
  }),
  "base call": ({ name, near }) => ({
    message: `${name} is overridden and does not call its base: what ${near ?? "it"} does there is lost`,
    fix: `call base.${name} with the same arguments`,
  }),
  "other namespace": ({ name, near }) => ({
    message: `a half of ${name} lies in another namespace than the class: its methods are not those of ${name}`,
    fix: `write namespace ${near ?? ""}`,
  }),
  "not initialized": ({ name }) => ({
    message: `no constructor of ${name} calls InitializeComponent: the page stays empty`,
    fix: "call InitializeComponent() first",
  }),
  "app of the builder": ({ name }) => ({
    message: `${name} makes a builder and does not tell it which app it builds: the app does not start`,
    fix: "call builder.UseMauiApp<App>()",
  }),
  "base of the start": ({ name, of = "", near = "" }) => ({
    message: `${name} extends ${of}, and no class extends ${near}: nothing starts the shared app`,
    fix: `write ${near}`,
  }),
  "exported method": ({ name, near = "" }) => ({
    message: `the system never calls ${name}: the base class has no such method, and no selector is exported for it`,
    fix: `put [Export("${near}")] in front of it`,
  }),
  "undeclared component": ({ name, near = "" }) => ({
    message: `${name} has an intent filter and no attribute ${near}: no manifest declares it`,
    fix: `put [${near}] in front of it`,
  }),
  provider: ({ name, near = "" }) => ({
    message: `${near} asks for ${name}, which nothing provides: it cannot be made`,
    fix: `write @Injectable({ providedIn: "root" }) above ${name}, or list it among the providers`,
  }),
  unprovided: ({ name, near = "" }) => ({
    message: `${name} is written, and nothing of the app names it: it never runs`,
    fix: `add ${near} to the providers`,
  }),
  "replaced value": ({ name, of = "", near = "" }) => ({
    message: `code takes ${name} from ${near}, but ${of}, which the build that ships has in its place, does not define it`,
    fix: `define ${name} in ${of}`,
  }),
  text: ({ name, of = "", near }) => ({
    message: `a page asks for the text ${name}, which no file in ${of} has: its key is shown`,
    fix: chosen(near, `add ${name} to the files of texts`),
  }),
  "root element": ({ name, of = "", near = "" }) => ({
    message: `the app begins with ${near}, but ${of} has no <${name}>: the page stays empty`,
    fix: `write <${name}></${name}> into the body of the page`,
  }),
  "plugin event": ({ name, of = "", near }) => ({
    message: `${of} sends no event ${name}: the listener is never called`,
    fix: chosen(near, "write the name of an event that it sends"),
  }),
  icon: ({ name, near }) => ({
    message: `a page shows the icon ${name}, which nothing adds: its place stays empty`,
    fix: chosen(near, "hand the icon to addIcons"),
  }),
  half: ({ name, of = "", near = "" }) => ({
    message: `${of} uses ${name}, which only its half for ${near === "iOS" ? "Android" : "iOS"} has: it is not built for ${near}`,
    fix: `write ${name} in the half for ${near} too`,
  }),
  "embedded file": ({ name, near }) => ({
    message: `code opens the embedded file ${name}, which the app does not have: it gets null`,
    fix: chosen(near, "list the file with the build action EmbeddedResource"),
  }),
  member: ({ name, of = "", near }) => ({
    message: `the page binds to ${name}, which ${of} does not have: it shows nothing`,
    fix: chosen(near, `write the property or command ${name} into ${of}`),
  }),
  options: ({ name, near = "" }) => ({
    message: `${near} asks for the options ${name}, which nothing configures: every value is its default`,
    fix: `call builder.Services.Configure<${name}>(…)`,
  }),
  "view handler": ({ name, of = "" }) => ({
    message: `${of} is the handler of ${name}, and nothing registers it: showing a ${name} throws`,
    fix: `call handlers.AddHandler<${name}, ${of}>() in ConfigureMauiHandlers`,
  }),
  window: ({ name }) => ({
    message: `${name} neither makes a window nor has a main page: the app ends when it starts`,
    fix: "override CreateWindow and return new Window(…)",
  }),
  "data of the page": ({ name, near = "" }) => ({
    message: `${name} binds to ${near}, and nothing hands it one: every binding is empty`,
    fix: "set BindingContext in its constructor",
  }),
  "route parameter": ({ name, of = "", near }) => ({
    message: `code hands ${name} to the route ${of}, but neither its page nor what that shows takes it`,
    fix: chosen(near, `write [QueryProperty(…, "${name}")], or apply the query's attributes`),
  }),
  "kept assembly": ({ name, near = "" }) => ({
    message: `the description for the trimmer keeps the assembly ${name}, which does not exist: what it means may be stripped`,
    fix: `write ${near}, which is there`,
  }),
  "kept type": ({ name, of = "", near }) => ({
    message: `the description for the trimmer keeps ${name}, but ${of} has no such class: what it means may be stripped`,
    fix: chosen(near, "write the class's name with its namespace, or take the line out"),
  }),
  "platform class": ({ name, near }) => ({
    message: `the shared code uses ${name} of the folder Platforms/${near ?? ""}, which has no such class`,
    fix: `write the class for ${near ?? ""} too`,
  }),
};

const SCENES: Partial<Record<SceneFault["what"], (fault: SceneFault) => Words>> = {
  "unset key": ({ name, of = "" }) => ({
    message: `code takes ${name} from ${of}, which has no value for it`,
    fix: `write the value of ${name} into ${of}, by the editor's inspector`,
  }),
  handler: ({ name, of = "", near }) => ({
    message: `an event calls ${of}.${name}, but ${of} has no such method`,
    fix:
      near === undefined
        ? `choose a method of ${of} in the event, or restore the method's old name`
        : `choose ${near} in the event, or restore the name ${name}`,
  }),
  "by name": ({ name, of = "", near }) => {
    const [type = "", call = ""] = of.split(" ");
    return {
      message: `${call} is given the name ${name}, but ${type} has no such method: nothing is called`,
      fix: chosen(near, `write the name of a method of ${type}, best as nameof(…)`),
    };
  },
  coroutine: ({ name, of = "" }) => ({
    message: `${of} calls the coroutine ${name} like a method, which runs nothing of it`,
    fix: `hand it over: StartCoroutine(${name}(…)), or yield return ${name}(…)`,
  }),
  "not static": ({ name }) => ({
    message: `${name} is to be called when the app is loaded, but it is not static: it is never called`,
    fix: `make ${name} static`,
  }),
  "message object": ({ name, of = "", near }) => ({
    message: `native code sends ${of} to the object ${name}, which no scene and no prefab has`,
    fix: chosen(near, "write the name of the object that takes it"),
  }),
  "message method": ({ name, of = "", near }) => ({
    message: `native code sends ${name} to the object ${of}, but no script on it has such a method`,
    fix: chosen(near, `write ${name} in a script of ${of}`),
  }),
  tag: ({ name, near }) => ({
    message: `code asks for the tag ${name}, which the project does not define: the call throws`,
    fix: chosen(near, "define the tag in the project's settings"),
  }),
  scene: ({ name, near }) => ({
    message: `code loads the scene ${name}, which is not in the build`,
    fix: chosen(near, "write the name of a scene of the build's list"),
  }),
  "scene off": ({ name }) => ({
    message: `code loads the scene ${name}, which the build's list has switched off`,
    fix: `switch ${name} on in the list of scenes`,
  }),
  "scene unlisted": ({ name }) => ({
    message: `code loads the scene ${name}, which the build's list does not have`,
    fix: `add ${name} to the list of scenes`,
  }),
  "scene number": ({ name, near = "" }) => ({
    message: `code loads the scene number ${name}, but the last one of the build is ${near}`,
    fix: "load the scene by its name, or write a number of the list",
  }),
  "kept assembly": ({ name, near = "" }) => ({
    message: `link.xml keeps the assembly ${name}, which does not exist: what it means may be stripped`,
    fix: `write ${near}, which is there`,
  }),
  "kept type": ({ name, of = "", near }) => ({
    message: `link.xml keeps ${name}, but ${of} has no such class: what it means may be stripped`,
    fix: chosen(near, "write the class's name with its namespace, or take the line out"),
  }),
};

export const handlerMissing = defineRule({
  name: "project/handler-missing",
  severity: "error",
  title: "A handler that is called by its name is not found",
  looksAt:
    "In Unity, names that stand as texts: methods that events in scenes and prefabs call, against the script's class and those that it extends; methods for Invoke and coroutines, and coroutines that are called like methods; scenes that code loads, against the list of the build; tags; objects and methods that native code sends messages to; methods that are to run at the start and are not static; keys that code takes from an asset of settings and that have no value there; assemblies and classes of link.xml. Scenes that are not in the build are left out, names that are worked out, and classes of which a part is not in the files. In .NET, methods of events, classes, fonts and web pages that pages name, services that constructors of registered classes or code ask for and nothing registers, classes of one platform's folder that shared code uses, resources and their dictionaries, routes of a shell, the activity that a sign-in in the browser comes back to, overrides that hide the start of the framework, halves of a class in another namespace, the app that the builder is told, the classes that start it, components with an intent filter that no attribute declares, methods that the system calls by a selector, embedded files that code opens, options that nothing configures, handlers of own views, windows, what pages bind to in the type that they state, parameters of routes, what the trimmer's description keeps. In pages made with Angular, services that nothing provides, handlers of errors and requests that nothing names, values that the file for the shipped build lacks, texts, the element of the first component; events that plugins of Capacitor do not send. Screens of React Navigation and routes of go_router and Angular that code asks for by names that are nowhere. In Flutter, functions that are handed to another isolate: they need a name, and the mark that keeps them in a release build.",
  silentFor: "Apps of every other kind, and navigators whose names are worked out.",
  why: "The name is plain text, which no compiler checks: the button does nothing, or nothing happens in the background.",
  advice:
    "Choose the method again in the event, or restore the method's old name. In Flutter, mark a top-level or static function with @pragma('vm:entry-point').",
  examples: {
    reported: unityExample({ "Assets/Boot.cs": ["public void Buy()", "public void BuyTicket()"] }),
    silent: unityExample(),
  },
  check({ app: { code } }) {
    const inIsolates = (code?.isolateHandlers ?? []).map(({ name, callee, lost, at }) => ({
      side: "shared" as const,
      message: lost
        ? `native code runs the entry point ${name}, which the Dart code does not have`
        : name === ""
          ? `${callee} is given a function without a name, which another isolate cannot find`
          : `${name} is called from another isolate (${callee}), but a release build does not keep it for that`,
      fix: lost
        ? `write the function ${name} with @pragma('vm:entry-point'), or name one that is there`
        : name === ""
          ? "hand over a top-level or static function"
          : `write @pragma('vm:entry-point') above ${name}`,
      places: [at],
      subject: `isolate ${callee} ${name}`,
    }));
    const inScenes = (code?.sceneFaults ?? []).flatMap((fault) => {
      const words = SCENES[fault.what]?.(fault);
      return words === undefined
        ? []
        : [
            {
              side: "shared" as const,
              ...(fault.what.startsWith("kept") ? { severity: "warning" as const } : {}),
              ...words,
              places: [fault.at],
              subject: fault.what === "handler" ? `${fault.of ?? ""}.${fault.name}` : `${fault.what} ${fault.of ?? ""} ${fault.name}`,
            },
          ];
    });
    const inPages = (code?.pageFaults ?? []).map((fault) => ({
      side: "shared" as const,
      ...severityOf(fault),
      ...PAGES[fault.what](fault),
      places: [fault.at],
      subject: `${fault.what} ${fault.name}`,
    }));
    return [...inScenes, ...inIsolates, ...inPages, ...screens(code)];
  },
});

/** What fails when the code runs is an error; what shows or keeps less than is meant is none. */
function severityOf({ what, unsure }: PageFault): Pick<RawFinding, "severity"> {
  if (unsure) return { severity: "note" };
  return /^(kept .*|options|route parameter|member|text|unprovided|icon)$/.test(what) ? { severity: "warning" } : {};
}

const SCREEN_WORDS = { screen: "no navigator has", route: "no route has", path: "is the beginning of no route", parameter: "no route has" };

/** Screens and routes that code asks for by their names. */
function screens(code: App["code"]): RawFinding[] {
  return (code?.lostScreens ?? []).map(({ what, name, near, at }) => ({
    side: "shared",
    message: `code asks for the ${what} ${what === "path" ? `/${name}` : name}, which ${SCREEN_WORDS[what]}: ${what === "parameter" ? "the page gets nothing" : "nothing opens"}`,
    fix: near === undefined ? "write a name that is there, or add it" : `write ${near}, which is there`,
    places: [at],
    subject: `${what} ${name}`,
  }));
}
