import type { FileTree } from "../../files/tree.js";
import type { Finding } from "../../model/finding.js";
import { findSettings } from "../../settings/load.js";
import type { PatchedFile } from "./plan.js";

/** Entries of the settings that accept findings; the reason is for a person to fill in. One entry for each rule and app. */
export function acceptEntries(tree: FileTree, findings: readonly Finding[]): PatchedFile | undefined {
  if (findings.length === 0) return undefined;
  const file = findSettings(tree) ?? "enredo.yaml";
  const read = tree.read(file);
  const before = read.ok ? new TextDecoder("utf-8", { ignoreBOM: true }).decode(read.bytes) : "";
  const eol = before.includes("\r\n") ? "\r\n" : "\n";
  const head = /^accept:[ \t]*(#[^\r\n]*)?\r?$/m.exec(before);
  // A list in another notation is for a person to change.
  if (!head && /^accept:/m.test(before)) return undefined;
  const indent = head ? (/^([ \t]*)- /m.exec(before.slice(head.index + head[0].length))?.[1] ?? "  ") : "  ";
  const told = new Map<string, Finding[]>();
  for (const finding of findings) {
    const key = `${finding.rule}\0${finding.app}`;
    told.set(key, [...(told.get(key) ?? []), finding]);
  }
  const lines = [...told.values()].flatMap(([first]) => {
    const { rule, app } = first as Finding;
    return [
      `${indent}- rule: ${rule}`,
      ...(app === "" ? [] : [`${indent}  app: ${JSON.stringify(app)}`]),
      `${indent}  reason: "to be written: why this is fine"`,
    ];
  });
  const at = head ? head.index + head[0].replace(/\r$/, "").length : before.length;
  const text = head
    ? `${eol}${lines.join(eol)}`
    : `${before === "" || before.endsWith("\n") ? "" : eol}accept:${eol}${lines.join(eol)}${eol}`;
  return {
    file,
    before,
    after: before.slice(0, at) + text + before.slice(at),
    edits: [{ from: at, to: at, text, findings: [...findings] }],
  };
}
