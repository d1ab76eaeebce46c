import { unityExample } from "../examples.js";
import { defineRule } from "../rule.js";

export const handlerMissing = defineRule({
  name: "project/handler-missing",
  severity: "error",
  title: "A scene event calls a method that its script does not have",
  looksAt:
    "Methods that buttons and other events in scenes and prefabs of a Unity project call by their names, against the script's class and those that it extends. Scenes that are not in the build are left out, and classes of which a part is not in the files.",
  silentFor: "Apps of every other kind.",
  why: "The name is plain text in the scene, which no compiler checks: the button does nothing.",
  advice: "Choose the method again in the event, or restore the method's old name.",
  examples: {
    reported: unityExample({ "Assets/Boot.cs": ["public void Buy()", "public void BuyTicket()"] }),
    silent: unityExample(),
  },
  check({ app: { code } }) {
    return (code?.lostHandlers ?? []).map(({ type, method, at }) => ({
      side: "shared",
      message: `an event calls ${type}.${method}, but ${type} has no such method`,
      fix: `choose a method of ${type} in the event, or restore the method's old name`,
      places: [at],
      subject: `${type}.${method}`,
    }));
  },
});
