import { check, type CheckOptions, type Report } from "../check.js";
import { ProjectFiles } from "../../gather/project-files.js";
import { isInstalled } from "../../model/paths.js";
import { OverlayTree } from "../../files/overlay.js";
import type { FileTree } from "../../files/tree.js";
import type { Finding } from "../../model/finding.js";
import type { QuickFix } from "../../model/quick-fix.js";
import type { Settings } from "../../settings/settings.js";
import type { Sheet } from "../../model/sheet.js";
import { survey } from "../survey.js";
import { editOf, fileOf, type Edit } from "./edits.js";
import { reason, type Reason } from "../../model/reason.js";

/** One file as it is and as it will be, with what each edit mends. */
export interface PatchedFile {
  file: string;
  before: string;
  after: string;
  edits: (Edit & { findings: Finding[] })[];
}

export interface PatchPlan {
  files: PatchedFile[];
  mended: Finding[];
  /** Findings that have a mend which does not fit here: why. */
  left: { finding: Finding; why: Reason }[];
}

export interface PatchInput {
  tree: FileTree;
  report: Report;
  sheets: readonly Sheet[];
  settings: Settings;
  options: CheckOptions;
}

/**
 * What can be mended safely and exactly. The plan is held against the rules before it is given out: each finding that it says to
 * mend is gone afterwards, and none is new.
 */
export async function planPatch(input: PatchInput): Promise<PatchPlan> {
  const left: PatchPlan["left"] = [];
  let chosen = input.report.findings.filter(({ quickFix }) => quickFix !== undefined && quickFix.length > 0);
  let files = build(input.tree, chosen, left);
  chosen = chosen.filter((finding) => !left.some((entry) => entry.finding === finding));
  if (chosen.length > 0 && !(await holds(input, files, chosen))) {
    // Together they do not: each is taken in as long as it does no harm.
    const kept: Finding[] = [];
    for (const finding of chosen) {
      const trial = build(input.tree, [...kept, finding], []);
      if (await holds(input, trial, [...kept, finding])) kept.push(finding);
      else left.push({ finding, why: reason("change-does-not-mend") });
    }
    chosen = kept;
    files = build(input.tree, kept, []);
  }
  return { files, mended: chosen, left };
}

/** All edits of some findings, file by file; a finding whose edits do not fit is left out as a whole. */
function build(tree: FileTree, findings: readonly Finding[], left: PatchPlan["left"]): PatchedFile[] {
  const texts = new Map<string, string>();
  const edits = new Map<string, PatchedFile["edits"]>();
  // A permission that another mend spells right need not be added.
  const spelt = new Set(
    findings.flatMap(({ quickFix }) =>
      (quickFix ?? []).flatMap((change) => (change.do === "replace" ? [`${change.at.file} ${change.to}`] : [])),
    ),
  );
  for (const finding of findings) {
    const own: { file: string; edit: Edit }[] = [];
    let why: Reason | undefined;
    for (const quickFix of finding.quickFix ?? []) {
      // What a link leads to is changed where it lies.
      const file = tree.realPath(fileOf(quickFix)) ?? fileOf(quickFix);
      if (quickFix.do === "permission" && spelt.has(`${file} ${quickFix.name}`)) continue;
      const edit = why === undefined ? fit(quickFix, file) : undefined;
      if (edit && "code" in edit) why = edit;
      else if (edit) own.push({ file, edit });
    }
    for (const { file, edit } of own)
      if (
        edits
          .get(file)
          ?.some(
            (other) =>
              (other.from !== edit.from || other.to !== edit.to || other.text !== edit.text) &&
              other.from < Math.max(edit.to, edit.from + 1) &&
              edit.from < Math.max(other.to, other.from + 1) &&
              edit.to !== edit.from,
          )
      )
        why ??= reason("place-changed-twice");
    if (why !== undefined) {
      left.push({ finding, why });
      continue;
    }
    for (const { file, edit } of own) {
      const list = edits.get(file) ?? [];
      const same = list.find((other) => other.from === edit.from && other.to === edit.to && other.text === edit.text);
      if (same) same.findings.push(finding);
      else list.push({ ...edit, findings: [finding] });
      edits.set(file, list);
    }
  }
  return [...edits]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([file, list]) => {
      const before = texts.get(file) ?? "";
      const sorted = [...list].sort((a, b) => a.from - b.from);
      let after = "";
      let at = 0;
      for (const { from, to, text } of sorted) {
        after += before.slice(at, from) + text;
        at = to;
      }
      return { file, before, after: after + before.slice(at), edits: sorted };
    });

  function fit(quickFix: QuickFix, file: string): Edit | Reason {
    if (file.startsWith("..") || isInstalled(file)) return reason("not-own-file", { file });
    if (UNPRINTABLE.test(file)) return reason("unprintable-file-name");
    let text = texts.get(file);
    if (text === undefined) {
      const read = tree.read(file);
      if (!read.ok) return reason("file-unreadable", { file, why: read.why });
      text = new TextDecoder("utf-8", { ignoreBOM: true }).decode(read.bytes);
      // What is no UTF-8 would not come back as it was.
      if (!Buffer.from(text, "utf8").equals(Buffer.from(read.bytes))) return reason("not-utf8", { file });
      texts.set(file, text);
    }
    return editOf(quickFix, text) ?? reason("form-not-changed", { file });
  }
}

const UNPRINTABLE = /[\u0000-\u001f\u007f-\u009f\u2028\u2029]/;

/** Whether the findings are gone after the edits, and no other one has come. */
async function holds(
  { tree, report, sheets, settings, options }: PatchInput,
  files: readonly PatchedFile[],
  mended: readonly Finding[],
): Promise<boolean> {
  const changed = new OverlayTree(tree, new Map(files.map(({ file, after }) => [file, after])));
  const after = check(await survey(new ProjectFiles(changed), settings, sheets), options);
  const count = (findings: readonly Finding[]): Map<string, number> => {
    const counts = new Map<string, number>();
    for (const { fingerprint } of findings) counts.set(fingerprint, (counts.get(fingerprint) ?? 0) + 1);
    return counts;
  };
  const [before, now] = [count(report.findings), count(after.findings)];
  for (const [fingerprint, number] of now) if (number > (before.get(fingerprint) ?? 0)) return false;
  const gone = count(mended);
  return [...gone].every(([fingerprint, number]) => (now.get(fingerprint) ?? 0) <= (before.get(fingerprint) ?? 0) - number);
}
