import { PLUGIN_EVENTS } from "../../knowledge/plugin-events.js";
import type { App } from "../../model/app.js";
import type { PageFault } from "../../model/code.js";
import { nearest } from "../../model/suggest.js";
import { withoutComments } from "../../syntax/comments.js";
import { isScript, type SourceFile } from "./sources.js";

/** Listeners of scripts for events that a plugin of Capacitor does not send. */
export function lostPluginEvents({ kind }: App, sources: readonly SourceFile[]): PageFault[] {
  if (kind !== "capacitor") return [];
  return sources.flatMap((source) => {
    if (source.side !== "shared" || !isScript(source.language) || !source.text.includes("addListener")) return [];
    const text = withoutComments(source.text);
    return PLUGIN_EVENTS.flatMap(({ package: name, object, events }) => {
      const local = new RegExp(`\\b${object}(?:\\s+as\\s+(\\w+))?\\b[^{}]*\\}\\s*from\\s*["']${name}["']`).exec(text);
      if (!local) return [];
      const listens = new RegExp(`(?<![\\w.])${local[1] ?? object}\\s*\\.\\s*addListener\\(\\s*(["'])(\\w+)\\1`, "g");
      return [...text.matchAll(listens)].flatMap((match): PageFault[] => {
        const event = match[2] as string;
        return events.includes(event)
          ? []
          : [{ what: "plugin event", name: event, of: object, near: nearest(event, events), at: source.place(match.index) }];
      });
    });
  });
}
