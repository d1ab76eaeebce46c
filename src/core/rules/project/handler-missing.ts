import { unityExample } from "../examples.js";
import { defineRule } from "../rule.js";

export const handlerMissing = defineRule({
  name: "project/handler-missing",
  severity: "error",
  title: "A handler that is called by its name is not found",
  looksAt:
    "Methods that buttons and other events in scenes and prefabs of a Unity project call by their names, against the script's class and those that it extends. Scenes that are not in the build are left out, and classes of which a part is not in the files. In Flutter, functions that are handed to another isolate: they need a name, and the mark that keeps them in a release build.",
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
    return [...inScenes, ...inIsolates];
  },
});
