import type { PageFault } from "../../model/code.js";
import { unityExample } from "../examples.js";
import { defineRule } from "../rule.js";

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
  "platform class": ({ name, near }) => ({
    message: `the shared code uses ${name} of the folder Platforms/${near ?? ""}, which has no such class`,
    fix: `write the class for ${near ?? ""} too`,
  }),
};

export const handlerMissing = defineRule({
  name: "project/handler-missing",
  severity: "error",
  title: "A handler that is called by its name is not found",
  looksAt:
    "Methods that buttons and other events in scenes and prefabs of a Unity project call by their names, against the script's class and those that it extends. Scenes that are not in the build are left out, and classes of which a part is not in the files. In .NET, methods of events, classes, fonts and web pages that pages name, services that constructors of registered classes ask for, classes of one platform's folder that shared code uses. In Flutter, functions that are handed to another isolate: they need a name, and the mark that keeps them in a release build.",
  silentFor: "Apps of every other kind.",
  why: "The name is plain text, which no compiler checks: the button does nothing, or nothing happens in the background.",
  advice:
    "Choose the method again in the event, or restore the method's old name. In Flutter, mark a top-level or static function with @pragma('vm:entry-point').",
  examples: {
    reported: unityExample({ "Assets/Boot.cs": ["public void Buy()", "public void BuyTicket()"] }),
    silent: unityExample(),
  },
  check({ app: { code } }) {
    const inIsolates = (code?.isolateHandlers ?? []).map(({ name, callee, at }) => ({
      side: "shared" as const,
      message:
        name === ""
          ? `${callee} is given a function without a name, which another isolate cannot find`
          : `${name} is called from another isolate (${callee}), but a release build does not keep it for that`,
      fix: name === "" ? "hand over a top-level or static function" : `write @pragma('vm:entry-point') above ${name}`,
      places: [at],
      subject: `isolate ${callee} ${name}`,
    }));
    const inScenes = (code?.lostHandlers ?? []).map(({ type, method, at }) => ({
      side: "shared" as const,
      message: `an event calls ${type}.${method}, but ${type} has no such method`,
      fix: `choose a method of ${type} in the event, or restore the method's old name`,
      places: [at],
      subject: `${type}.${method}`,
    }));
    const inPages = (code?.pageFaults ?? []).map((fault) => ({
      side: "shared" as const,
      ...PAGES[fault.what](fault),
      places: [fault.at],
      subject: `${fault.what} ${fault.name}`,
    }));
    return [...inScenes, ...inIsolates, ...inPages];
  },
});
