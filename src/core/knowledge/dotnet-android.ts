/**
 * The lowest level that .NET for Android builds for. Source: learn.microsoft.com, ".NET MAUI supported platforms" (Android 5.0, API 21), and the
 * error XA4216 of .NET for Android; known 2026-11.
 */
export const DOTNET_ANDROID_FLOOR = "21";

/**
 * The level that an app of .NET for Android is for where its project does not say another. Source: learn.microsoft.com, "Target frameworks in SDK-style
 * projects" (OS version in TFMs: the default platform version of each release), as known 2026-12.
 */
export const DOTNET_TARGET_LEVELS: Readonly<Record<string, string>> = { "6": "31", "7": "33", "8": "34", "9": "35", "10": "36" };

/**
 * The Android level that a version of the framework stands for, in projects of the older form (`TargetFrameworkVersion`).
 * Source: learn.microsoft.com, "Understanding Android API levels" (Xamarin.Android), read 2026-11.
 */
export const XAMARIN_ANDROID_LEVELS: Readonly<Record<string, string>> = {
  "v5.0": "21",
  "v5.1": "22",
  "v6.0": "23",
  "v7.0": "24",
  "v7.1": "25",
  "v8.0": "26",
  "v8.1": "27",
  "v9.0": "28",
  "v10.0": "29",
  "v11.0": "30",
  "v12.0": "31",
  "v12.1": "32",
  "v13.0": "33",
};
