/** Build tools that work with each other, as their makers publish it. Only rows that are known for certain are listed; newer ones are left out. */
export interface CompatibilityRow {
  /** From this version of the first tool on … */
  from: string;
  /** … at least this version of the other. */
  needs: string;
}

export interface CompatibilityTable {
  tool: "androidPlugin" | "kotlin" | "compileSdk" | "gradle" | "java";
  toolTitle: string;
  other: "gradle" | "androidPlugin" | "java";
  otherTitle: string;
  severity: "error" | "note";
  source: string;
  /** When the tables were last read, as year and month. */
  asOf: string;
  rows: CompatibilityRow[];
}

export const TOOL_COMPATIBILITY: CompatibilityTable[] = [
  {
    tool: "androidPlugin",
    toolTitle: "Android Gradle plugin",
    other: "gradle",
    otherTitle: "Gradle",
    severity: "error",
    source: 'developer.android.com, Android Gradle plugin release notes, "Update Gradle"',
    asOf: "2025-10",
    rows: [
      { from: "3.0", needs: "4.1" },
      { from: "3.1", needs: "4.4" },
      { from: "3.2", needs: "4.6" },
      { from: "3.3", needs: "4.10.1" },
      { from: "3.4", needs: "5.1.1" },
      { from: "3.5", needs: "5.4.1" },
      { from: "3.6", needs: "5.6.4" },
      { from: "4.0", needs: "6.1.1" },
      { from: "4.1", needs: "6.5" },
      { from: "4.2", needs: "6.7.1" },
      { from: "7.0", needs: "7.0" },
      { from: "7.1", needs: "7.2" },
      { from: "7.2", needs: "7.3.3" },
      { from: "7.3", needs: "7.4" },
      { from: "7.4", needs: "7.5" },
      { from: "8.0", needs: "8.0" },
      { from: "8.2", needs: "8.2" },
      { from: "8.3", needs: "8.4" },
      { from: "8.4", needs: "8.6" },
      { from: "8.5", needs: "8.7" },
      { from: "8.7", needs: "8.9" },
      { from: "8.8", needs: "8.10.2" },
      { from: "8.9", needs: "8.11.1" },
      { from: "8.11", needs: "8.13" },
      { from: "9.0", needs: "9.1.0" },
    ],
  },
  {
    tool: "kotlin",
    toolTitle: "Kotlin Gradle plugin",
    other: "gradle",
    otherTitle: "Gradle",
    severity: "error",
    source: 'kotlinlang.org, Gradle, "Configure a Gradle project: compatibility"',
    asOf: "2025-10",
    rows: [
      { from: "1.8.0", needs: "6.8.3" },
      { from: "2.1.0", needs: "7.6.3" },
    ],
  },
  {
    tool: "kotlin",
    toolTitle: "Kotlin Gradle plugin",
    other: "androidPlugin",
    otherTitle: "Android Gradle plugin",
    severity: "error",
    source: 'kotlinlang.org, Gradle, "Configure a Gradle project: compatibility"',
    asOf: "2025-10",
    rows: [
      { from: "1.8.0", needs: "4.1.3" },
      { from: "1.9.0", needs: "4.2.2" },
      { from: "2.0.0", needs: "7.1.3" },
      { from: "2.1.0", needs: "7.3.1" },
    ],
  },
  {
    tool: "compileSdk",
    toolTitle: "compileSdk",
    other: "androidPlugin",
    otherTitle: "Android Gradle plugin",
    severity: "note",
    source:
      'developer.android.com, "Android Gradle plugin and Android Studio compatibility: minimum versions of tools for Android API level"',
    asOf: "2025-10",
    rows: [
      { from: "33", needs: "7.2" },
      { from: "34", needs: "8.1.1" },
      { from: "35", needs: "8.6.0" },
      { from: "36", needs: "8.9.1" },
    ],
  },
  {
    tool: "androidPlugin",
    toolTitle: "Android Gradle plugin",
    other: "java",
    otherTitle: "the daemon's JDK",
    severity: "error",
    source: 'developer.android.com, Android Gradle plugin 7.0 and 8.0 release notes, "JDK required to run"',
    asOf: "2025-10",
    rows: [
      { from: "7.0", needs: "11" },
      { from: "8.0", needs: "17" },
    ],
  },
  {
    tool: "gradle",
    toolTitle: "Gradle",
    other: "java",
    otherTitle: "the daemon's JDK",
    severity: "error",
    source: 'docs.gradle.org, "Compatibility Matrix: Java runtime"',
    asOf: "2025-10",
    rows: [
      { from: "5.0", needs: "8" },
      { from: "9.0", needs: "17" },
    ],
  },
  {
    tool: "java",
    toolTitle: "JDK",
    other: "gradle",
    otherTitle: "Gradle",
    severity: "error",
    source: 'docs.gradle.org, "Compatibility Matrix: Java runtime"',
    asOf: "2025-10",
    rows: [
      { from: "11", needs: "5.0" },
      { from: "17", needs: "7.3" },
      { from: "18", needs: "7.5" },
      { from: "19", needs: "7.6" },
      { from: "20", needs: "8.3" },
      { from: "21", needs: "8.5" },
      { from: "22", needs: "8.8" },
      { from: "23", needs: "8.10" },
      { from: "24", needs: "8.14" },
      { from: "25", needs: "9.1.0" },
    ],
  },
];
