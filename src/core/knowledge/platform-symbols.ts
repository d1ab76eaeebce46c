/**
 * Symbols that tell for which platform a text of C# is compiled. Source: learn.microsoft.com, "Preprocessor directives" (target framework
 * symbols); docs.unity3d.com, "Conditional compilation".
 */
export const PLATFORM_OF: Readonly<Record<string, "android" | "ios" | "other">> = {
  ANDROID: "android",
  __ANDROID__: "android",
  UNITY_ANDROID: "android",
  IOS: "ios",
  __IOS__: "ios",
  UNITY_IOS: "ios",
  UNITY_IPHONE: "ios",
  MACCATALYST: "other",
  __MACCATALYST__: "other",
  MACOS: "other",
  __MACOS__: "other",
  TVOS: "other",
  __TVOS__: "other",
  WINDOWS: "other",
  WINDOWS_UWP: "other",
  TIZEN: "other",
  UNITY_EDITOR: "other",
  UNITY_STANDALONE: "other",
  UNITY_WEBGL: "other",
};

/** Symbols of other platforms and packages that look like one of a phone. Source: docs.unity3d.com, "Conditional compilation". */
export const LOOK_ALIKES: readonly string[] = ["UNITY_TVOS", "UNITY_ADS", "UNITY_QNX", "UNITY_PS4", "UNITY_PS5", "UNITY_WSA", "UNITY_XR"];
