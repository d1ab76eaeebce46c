export type LogForm = "logcat" | "Apple log" | "Apple log, JSON" | "console";
export type LogLevel = "error" | "warning" | "info" | "debug";

/** One entry of a saved log. */
export interface LogEntry {
  /** Where it begins in the file, from 1. */
  line: number;
  /** As the log writes it. */
  time: string | undefined;
  level: LogLevel;
  /** The tag, subsystem or framework that wrote it. */
  tag: string | undefined;
  /** The process, where the log names it. */
  process: string | undefined;
  message: string;
}

export interface Log {
  form: LogForm;
  entries: LogEntry[];
  lines: number;
}

/** Source: developer.android.com, "Logcat command-line tool", log priorities. */
const ANDROID_LEVELS: Record<string, LogLevel> = { V: "debug", D: "debug", I: "info", W: "warning", E: "error", F: "error", A: "error" };

/** Source: the manual page of Apple's `log` (types and their short forms in the compact style). */
const APPLE_LEVELS: Record<string, LogLevel> = {
  error: "error",
  fault: "error",
  er: "error",
  fa: "error",
  e: "error",
  f: "error",
  warning: "warning",
  info: "info",
  debug: "debug",
  db: "debug",
};

const DATE = String.raw`(?:\d{4}-)?\d{2}-\d{2}[ T]\d{2}:\d{2}:\d{2}(?:[.,]\d+)?(?:[+-]\d{4}|Z)?`;

interface LineForm {
  form: LogForm;
  pattern: RegExp;
  read(groups: Record<string, string | undefined>): Omit<LogEntry, "line">;
}

const androidEntry = ({ time, level = "I", tag, message = "" }: Record<string, string | undefined>): Omit<LogEntry, "line"> => ({
  time,
  level: ANDROID_LEVELS[level] ?? "info",
  tag: tag?.trim(),
  process: undefined,
  message,
});

const appleEntry = ({ time, level = "", tag, process, message = "" }: Record<string, string | undefined>): Omit<LogEntry, "line"> => ({
  time,
  level: APPLE_LEVELS[level.toLowerCase()] ?? "info",
  tag,
  process,
  message,
});

/** The forms of one line, the most particular first. Times, process and thread numbers are whatever stands there. */
const FORMS: readonly LineForm[] = [
  // threadtime, the default: `11-25 09:14:03.482  1201  1201 I Tag: message`
  {
    form: "logcat",
    pattern: new RegExp(String.raw`^(?<time>${DATE})\s+(?:\S+\s+)?\d+\s+\d+\s+(?<level>[VDIWEFA])\s+(?<tag>[^:]*?)\s*: ?(?<message>.*)$`),
    read: androidEntry,
  },
  // Android Studio: `2026-11-25 09:14:03.482  1201-1201  Tag  example.app  I  message`
  {
    form: "logcat",
    pattern: new RegExp(String.raw`^(?<time>${DATE})\s+\d+-\d+\s+(?<tag>\S+)\s+(?:\S+\s+)?(?<level>[VDIWEFA])\s{1,2}(?<message>.*)$`),
    read: androidEntry,
  },
  // time and brief: `11-25 09:14:03.482 I/Tag( 1201): message`, `I/Tag( 1201): message`, `I/Tag: message`
  {
    form: "logcat",
    pattern: new RegExp(
      String.raw`^(?:(?<time>${DATE})\s+)?(?:\d+-\d+\/\S+\s+)?(?<level>[VDIWEFA])\/(?<tag>[^(:]*?)\s*(?:\(\s*\d+\))?: ?(?<message>.*)$`,
    ),
    read: androidEntry,
  },
  // `log show`: time, thread, type, activity, pid, ttl, process: (library) [subsystem:category] message
  {
    form: "Apple log",
    pattern: new RegExp(
      String.raw`^(?<time>${DATE})\s+0x[0-9a-f]+\s+(?<level>\w+)\s+0x[0-9a-f]+\s+\d+\s+\d+\s+(?<process>[^:(]+?):\s*(?:\([^)]*\)\s*)?(?:\[(?<tag>[^\]]*)\]\s*)?(?<message>.*)$`,
    ),
    read: appleEntry,
  },
  // compact: `2026-11-25 09:14:03.482 Df Pilot[1201:5a3f] [subsystem:category] message`; NSLog has no type
  {
    form: "Apple log",
    pattern: new RegExp(
      String.raw`^(?<time>${DATE})\s+(?:(?<level>[A-Z][a-z]?)\s+)?(?<process>[^\s[\]]+(?: [^\s[\]]+)*)\[\d+(?::\w+)?\]\s*(?:\([^)]*\)\s*)?(?:\[(?<tag>[\w.-]+:[^\]]*)\]\s*)?(?<message>.*)$`,
    ),
    read: appleEntry,
  },
  // a device's syslog: `Nov 25 09:14:03 iPhone Pilot(Library)[1201] <Error>: message`
  {
    form: "Apple log",
    pattern:
      /^(?<time>[A-Z][a-z]{2}\s+\d+ \d{2}:\d{2}:\d{2}(?:\.\d+)?)\s+\S+\s+(?<process>[^([\s]+)(?:\((?<tag>[^)]*)\))?\[\d+\](?:\s+<(?<level>\w+)>)?:\s?(?<message>.*)$/,
    read: appleEntry,
  },
];

/** Source: logcat's long format: a head in brackets, the message on the lines below. */
const LONG_HEAD = new RegExp(String.raw`^\[\s*(?<time>${DATE})\s+\d+:\s*\d+\s+(?<level>[VDIWEFA])\/(?<tag>[^\]]*?)\s*\]$`);

/** Reads a saved device or simulator log. Total: a line that has none of the known forms belongs to a console capture, or to the entry above it. */
export function readLog(text: string): Log {
  const plain = text.replace(/^\ufeff/, "");
  const json = readJsonLog(plain);
  if (json) return json;
  const lines = plain.split(/\r?\n/);
  const entries: LogEntry[] = [];
  const counts = new Map<LogForm, number>();
  let long: LogEntry | undefined;
  lines.forEach((raw, index) => {
    const line = raw.length > 4_000 ? raw.slice(0, 4_000) : raw;
    if (line.trim() === "") {
      long = undefined;
      return;
    }
    const head = LONG_HEAD.exec(line);
    if (head?.groups) {
      long = { ...androidEntry(head.groups), line: index + 1 };
      entries.push(long);
      count("logcat");
      return;
    }
    if (long) {
      long.message += `${long.message === "" ? "" : "\n"}${line}`;
      return;
    }
    // Heads of sections and of columns are no messages.
    if (/^-{3,} beginning of |^Timestamp\s+Thread|^Filtering the log data|^Timestamp\s+Ty/.test(line)) return;
    for (const { form, pattern, read } of FORMS) {
      const match = pattern.exec(line);
      if (!match?.groups) continue;
      entries.push({ ...read(match.groups), line: index + 1 });
      count(form);
      return;
    }
    entries.push({ line: index + 1, time: undefined, level: consoleLevel(line), tag: undefined, process: undefined, message: line });
    count("console");
  });
  const [form = "console"] = [...counts].sort((a, b) => b[1] - a[1]).map(([name]) => name);
  const known = (counts.get("logcat") ?? 0) + (counts.get("Apple log") ?? 0);
  return {
    form:
      form === "console" && known > entries.length / 4
        ? (counts.get("logcat") ?? 0) >= (counts.get("Apple log") ?? 0)
          ? "logcat"
          : "Apple log"
        : form,
    entries,
    lines: lines.length,
  };

  function count(form: LogForm): void {
    counts.set(form, (counts.get(form) ?? 0) + 1);
  }
}

function consoleLevel(line: string): LogLevel {
  if (/\b(error|fatal|exception)\b/i.test(line)) return "error";
  return /\bwarn(ing)?\b/i.test(line) ? "warning" : "info";
}

/** `log show --style json`: one list; `--style ndjson`: an object a line. */
function readJsonLog(text: string): Log | undefined {
  const start = text.trimStart()[0];
  if (start !== "[" && start !== "{") return undefined;
  const entries: LogEntry[] = [];
  const lines = text.split(/\r?\n/);
  const add = (value: unknown, line: number): void => {
    if (typeof value !== "object" || value === null) return;
    const record = value as Record<string, unknown>;
    if (typeof record.eventMessage !== "string") return;
    const of = (key: string): string | undefined => (typeof record[key] === "string" ? record[key] : undefined);
    entries.push({
      line,
      time: of("timestamp"),
      level: APPLE_LEVELS[(of("messageType") ?? "").toLowerCase()] ?? "info",
      tag: of("subsystem") || of("senderImagePath")?.split("/").at(-1),
      process: of("processImagePath")?.split("/").at(-1),
      message: record.eventMessage,
    });
  };
  if (start === "[") {
    let list: unknown;
    try {
      list = JSON.parse(text);
    } catch {
      return undefined;
    }
    if (!Array.isArray(list)) return undefined;
    // An entry's place is the line of its message.
    let from = 0;
    for (const value of list) {
      const at = lines.findIndex((line, index) => index >= from && line.includes('"eventMessage"'));
      from = at === -1 ? from : at + 1;
      add(value, at === -1 ? 1 : at + 1);
    }
  } else {
    let read = 0;
    lines.forEach((line, index) => {
      if (!line.startsWith("{")) return;
      try {
        add(JSON.parse(line), index + 1);
        read++;
      } catch {
        // A line that was cut off says nothing.
      }
    });
    if (read === 0) return undefined;
  }
  return entries.length > 0 ? { form: "Apple log, JSON", entries, lines: lines.length } : undefined;
}
