import { FLAG, PATTERN, TEXT, TEXTS, matching, optional, table, tables, words } from "./form.js";

/** A call or name in source code, per side; one text where it is the same everywhere. */
export const CODE_FORM = table(
  {
    android: optional(TEXT),
    ios: optional(TEXT),
    shared: optional(TEXT),
    // Names for one language only, where they differ from that of the side.
    kotlin: optional(TEXT),
    java: optional(TEXT),
    swift: optional(TEXT),
    // `[Quaymap startWithKey:]` or `Quaymap.startWithKey`.
    objc: optional(TEXT),
    // JavaScript and TypeScript.
    javascript: optional(TEXT),
    dart: optional(TEXT),
    csharp: optional(TEXT),
    // Class of the provider or initializer by which the SDK starts itself on Android; a call is then not needed.
    automatic: optional(TEXT),
    // What the call has to be given: by label or by position from 1, on one side or all, with a pattern of the whole text.
    arguments: optional(
      tables({
        label: optional(TEXT),
        position: optional(matching(/^[1-9]$/, "position must be a number from 1 to 9")),
        on: optional(words("android", "ios", "shared")),
        shape: optional(PATTERN),
      }),
    ),
    // Where in the life cycle.
    at: optional(words("launch", "firstScreen", "anywhere")),
    // SDKs that must be started later, and earlier.
    before: optional(TEXTS),
    after: optional(TEXTS),
    // Shared code has to ask whether the plugin is there before it calls.
    guard: optional(FLAG),
  },
  { short: TEXT },
);
