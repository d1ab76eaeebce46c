import { FLAG, NAMES, PATTERN, TEXT, TEXTS, matching, optional, table, tables, words } from "./form.js";

/** Names for one language only, where they differ from those of the side. */
export const LANGUAGE_FORM = {
  kotlin: optional(NAMES),
  java: optional(NAMES),
  swift: optional(NAMES),
  // `[Quaymap startWithKey:]` or `Quaymap.startWithKey`.
  objc: optional(NAMES),
  // JavaScript and TypeScript.
  javascript: optional(NAMES),
  dart: optional(NAMES),
  csharp: optional(NAMES),
};

/** A call or name in source code, or several, per side; one text where it is the same everywhere. */
export const CODE_FORM = table(
  {
    android: optional(NAMES),
    ios: optional(NAMES),
    shared: optional(NAMES),
    ...LANGUAGE_FORM,
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
