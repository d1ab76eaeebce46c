import type { ReportOutline } from "./check.js";
import type { Finding } from "../model/finding.js";

/** One finding of a baseline: enough to know it again, and for a person to read. */
export interface BaselineEntry {
  fingerprint: string;
  rule: string;
  app: string;
  message: string;
}

export interface Baseline {
  schema: "enredo.baseline/1";
  /** How the fingerprints are made; a file without it has those of the first edition, which held found values. */
  fingerprints?: typeof FINGERPRINTS;
  findings: BaselineEntry[];
}

const FINGERPRINTS = 2;

/** The findings of a report, to be known again later; sorted, so that the file changes only where they do. */
export function baselineOf({ findings }: ReportOutline): Baseline {
  const entries = findings.map(({ fingerprint, rule, app, message }) => ({ fingerprint, rule, app, message }));
  const key = ({ app, rule, fingerprint, message }: BaselineEntry): string => `${app}\0${rule}\0${fingerprint}\0${message}`;
  return {
    schema: "enredo.baseline/1",
    fingerprints: FINGERPRINTS,
    findings: entries.sort((a, b) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : 0)),
  };
}

export type ReadBaseline = { ok: true; baseline: Baseline } | { ok: false; why: string };

/** Reads a baseline file; what is wrong with it is said in words. */
export function readBaseline(text: string): ReadBaseline {
  let value: unknown;
  try {
    value = JSON.parse(text.replace(/^\ufeff/, ""));
  } catch (error) {
    return { ok: false, why: `is not JSON: ${(error as Error).message}` };
  }
  const record = typeof value === "object" && value !== null ? (value as Record<string, unknown>) : {};
  if (record.schema !== "enredo.baseline/1") return { ok: false, why: "is not an enredo baseline (schema enredo.baseline/1)" };
  if (!Array.isArray(record.findings)) return { ok: false, why: "has no list of findings" };
  const findings: BaselineEntry[] = [];
  for (const item of record.findings as unknown[]) {
    const entry = typeof item === "object" && item !== null ? (item as Record<string, unknown>) : {};
    const text_ = (key: string): string => (typeof entry[key] === "string" ? (entry[key] as string) : "");
    if (text_("fingerprint") === "") return { ok: false, why: "has an entry without a fingerprint" };
    findings.push({ fingerprint: text_("fingerprint"), rule: text_("rule"), app: text_("app"), message: text_("message") });
  }
  const form = record.fingerprints === FINGERPRINTS ? { fingerprints: FINGERPRINTS as typeof FINGERPRINTS } : {};
  return { ok: true, baseline: { schema: "enredo.baseline/1", ...form, findings } };
}

/** A report beside a baseline: only what is new stays; what is known is counted, what is gone is listed. */
export function againstBaseline(
  report: ReportOutline,
  { findings, fingerprints }: Baseline,
): { report: ReportOutline; known: number; gone: BaselineEntry[]; isEarlier: boolean } {
  const isEarlier = fingerprints !== FINGERPRINTS && findings.length > 0;
  // The fingerprints of the first edition are no longer made: its files are known by what they say to people.
  const keyOf = (entry: BaselineEntry): string => (isEarlier ? `${entry.rule}\0${entry.app}\0${entry.message}` : entry.fingerprint);
  const open = new Map<string, BaselineEntry[]>();
  for (const entry of findings) open.set(keyOf(entry), [...(open.get(keyOf(entry)) ?? []), entry]);
  const fresh: Finding[] = [];
  for (const finding of report.findings) {
    const entries = open.get(keyOf(finding));
    // Each entry stands for one finding: a second one of the same kind is new.
    if (entries && entries.length > 0) entries.pop();
    else fresh.push(finding);
  }
  const count = (severity: Finding["severity"]): number => fresh.filter((finding) => finding.severity === severity).length;
  return {
    report: {
      ...report,
      findings: fresh,
      summary: { ...report.summary, errors: count("error"), warnings: count("warning"), notes: count("note") },
    },
    known: report.findings.length - fresh.length,
    gone: [...open.values()].flat(),
    isEarlier,
  };
}
