/** What the store of a platform asks of apps that are handed in from a day on. */
export interface StoreFloor {
  level: "targetSdk";
  value: string;
  /** The first day, `YYYY-MM-DD`. */
  from: string;
}

/** Source: the store's help pages for developers, "Target API level requirements for apps", as read in 2025-10; new apps and updates for phones. */
export const STORE_FLOORS: readonly StoreFloor[] = [
  { level: "targetSdk", value: "33", from: "2023-08-31" },
  { level: "targetSdk", value: "34", from: "2024-08-31" },
  { level: "targetSdk", value: "35", from: "2025-08-31" },
];

/** How long before the day a floor is told, in days. */
export const TOLD_BEFORE = 92;

/**
 * Sizes of memory pages: 64-bit libraries of apps with this target level and above must have their parts aligned to it, in bytes.
 * Source: developer.android.com, "Support 16 KB page sizes" (asked for by the store from 2025-11-01 on).
 */
export const PAGE_SIZE = { alignment: 16_384, targetSdk: "35", from: "2025-11-01", processors: ["arm64-v8a", "x86_64"] } as const;

/**
 * Kinds of processors of which the store asks for the second where an app has the first.
 * Source: developer.android.com, "Support 64-bit architectures" (from 2019-08-01 on).
 */
export const WIDER_PROCESSORS: readonly (readonly [narrow: string, wide: string])[] = [
  ["armeabi-v7a", "arm64-v8a"],
  ["armeabi", "arm64-v8a"],
  ["x86", "x86_64"],
];
