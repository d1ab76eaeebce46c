import type { App, AppFacts } from "../../model/app.js";
import type { CodeFacts } from "../../model/code.js";
import type { AndroidComponents } from "../platforms/android/components.js";
import type { KeptPart } from "../kept-part.js";
import type { FactSink } from "../sink.js";
import type { GuardedRequests } from "./permission-requests.js";
import type { SourceFile } from "./sources.js";
import type { Wanted, WantedName } from "./wanted.js";

/** An app whose source code is read: where blind spots go, how it is seen with the ids of SDKs, and the names that are looked for. */
export interface CodeTarget {
  sink: FactSink;
  app: App;
  names: readonly WantedName[];
  /** Scripts that run when the app is built, while they are read: they add to its facts. */
  scripts: Promise<void> | undefined;
  /** The app's facts before its code is looked at, and the code as it may be kept. */
  kept: { before: AppFacts | undefined; part: KeptPart<CodeOfApp> };
}

/** What reading an app's source code gives: facts of their own, and what it adds to the others. */
export interface CodeOfApp {
  facts: CodeFacts;
  added: Partial<AppFacts>;
}

export interface AppCode extends CodeTarget {
  wanted: Wanted;
  /** Code in C# for one phone, as the platform's own languages would have it. */
  views: readonly SourceFile[];
  sources: SourceFile[];
  /** Files of iOS that no target compiles. */
  outside: readonly SourceFile[];
  /** Those that can matter, as far as is known before any is parsed. */
  first: SourceFile[];
  components: AndroidComponents;
  /** What the code asks the system for. */
  requests: GuardedRequests;
}
