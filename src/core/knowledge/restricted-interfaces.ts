/** Interfaces of the iOS system for whose use the store wants a reason in a privacy manifest. */
export interface RestrictedInterface {
  /** As the manifest names it. */
  category: string;
  title: string;
  /** A use, as Swift, Objective-C and C write it, without comments. Only what names the interface without doubt. */
  pattern: RegExp;
  /** The same in a binary: symbols that it takes from the system, and messages. */
  inBinary: { symbols?: readonly string[]; selectors?: readonly string[] };
  /** The reasons that may be given for it. */
  reasons: readonly string[];
}

/** The file that the system looks for, and the day from which the store refuses uploads that give no reason. */
export const PRIVACY_MANIFEST = "PrivacyInfo.xcprivacy";
export const REASONS_ASKED_FROM = "2024-05-01";

/** Source: Apple, "Describing use of required reason API", "Privacy manifest files" and "Adding a privacy manifest to your app", as read in 2025-06. */
export const RESTRICTED_INTERFACES: readonly RestrictedInterface[] = [
  {
    category: "NSPrivacyAccessedAPICategoryFileTimestamp",
    title: "file timestamps",
    pattern:
      /\.(?:contentModificationDateKey|creationDateKey)\b|\bNSURL(?:ContentModification|Creation)DateKey\b|\bNSFile(?:Creation|Modification)Date\b|\bFileAttributeKey\.(?:creation|modification)Date\b|\battr\w*[?!]?\[\s*\.(?:creation|modification)Date\s*\]|\b[fl]?stat\s*\(\s*[^,;(){}]{1,80},\s*&|\bf?getattrlist(?:bulk|at)?\s*\(/,
    inBinary: {
      symbols: [
        "NSURLContentModificationDateKey",
        "NSURLCreationDateKey",
        "NSFileCreationDate",
        "NSFileModificationDate",
        "stat",
        "fstat",
        "lstat",
        "fstatat",
        "getattrlist",
        "fgetattrlist",
        "getattrlistat",
        "getattrlistbulk",
      ],
    },
    reasons: ["DDA9.1", "C617.1", "3B52.1", "0A2A.1"],
  },
  {
    category: "NSPrivacyAccessedAPICategorySystemBootTime",
    title: "system boot time",
    pattern: /\bprocessInfo\s*\]?\s*\.?\s*systemUptime\b|\bmach_absolute_time\s*\(/,
    inBinary: { symbols: ["mach_absolute_time"], selectors: ["systemUptime"] },
    reasons: ["35F9.1", "8FFB.1", "3D61.1"],
  },
  {
    category: "NSPrivacyAccessedAPICategoryDiskSpace",
    title: "disk space",
    pattern:
      /\.volume(?:AvailableCapacity(?:ForImportantUsage|ForOpportunisticUsage)?|TotalCapacity)Key\b|\bNSURLVolume(?:AvailableCapacity(?:ForImportantUsage|ForOpportunisticUsage)?|TotalCapacity)Key\b|\bNSFileSystem(?:Free)?Size\b|\bFileAttributeKey\.system(?:Free)?Size\b|\battr\w*[?!]?\[\s*\.system(?:Free)?Size\s*\]|\bf?statv?fs\s*\(/,
    inBinary: {
      symbols: [
        "NSURLVolumeAvailableCapacityKey",
        "NSURLVolumeAvailableCapacityForImportantUsageKey",
        "NSURLVolumeAvailableCapacityForOpportunisticUsageKey",
        "NSURLVolumeTotalCapacityKey",
        "NSFileSystemFreeSize",
        "NSFileSystemSize",
        "statfs",
        "fstatfs",
        "statvfs",
        "fstatvfs",
      ],
    },
    reasons: ["85F4.1", "E174.1", "7D9E.1", "B728.1"],
  },
  {
    category: "NSPrivacyAccessedAPICategoryActiveKeyboards",
    title: "active keyboards",
    pattern: /\bUITextInputMode\s*\.?\s*activeInputModes\b/,
    inBinary: { selectors: ["activeInputModes"] },
    reasons: ["3EC4.1", "54BD.1"],
  },
  {
    category: "NSPrivacyAccessedAPICategoryUserDefaults",
    title: "user defaults",
    pattern:
      /\bUserDefaults\s*(?:\.\s*standard\b|\(\s*(?:suiteName\b|\)))|@AppStorage\s*\(|\[\s*NSUserDefaults\s+(?:standardUserDefaults|alloc|new)\b|\bNSUserDefaults\s*\.\s*(?:standardUserDefaults|new)\b/,
    inBinary: { symbols: ["OBJC_CLASS_$_NSUserDefaults"] },
    reasons: ["CA92.1", "1C8F.1", "C56D.1", "AC6B.1"],
  },
];

/** One look tells whether a file can have any of them. */
export const ANY_RESTRICTED = new RegExp(RESTRICTED_INTERFACES.map(({ pattern }) => pattern.source).join("|"));

/**
 * What a framework does when its pods are installed: it writes the reasons of all pods, and its own, into the app's privacy manifest, and adds that
 * to the target. Source: React Native 0.74 to 0.84, `scripts/cocoapods/privacy_manifest_utils.rb` and `react_native_pods.rb`.
 */
export const MERGED_BY_PODS = {
  by: "react-native",
  from: "0.74.0",
  call: /\breact_native_post_install\b/,
  off: /\bprivacy_file_aggregation_enabled(?:\s*=>|:)\s*false\b/,
  reasons: [
    { category: "NSPrivacyAccessedAPICategoryFileTimestamp", reasons: ["C617.1"] },
    { category: "NSPrivacyAccessedAPICategoryUserDefaults", reasons: ["CA92.1"] },
    { category: "NSPrivacyAccessedAPICategorySystemBootTime", reasons: ["35F9.1"] },
  ],
} as const;
