import type { App } from "../../model/app.js";
import type { AndroidComponents } from "../platforms/android/components.js";
import type { FactSink } from "../sink.js";
import type { GuardedRequests } from "./permission-requests.js";
import type { SourceFile } from "./sources.js";
import type { Wanted, WantedName } from "./wanted.js";

/** An app whose source code is read: where blind spots go, how it is seen with the ids of SDKs, and the names that are looked for. */
export interface CodeTarget {
  sink: FactSink;
  app: App;
  names: readonly WantedName[];
}

export interface AppCode extends CodeTarget {
  wanted: Wanted;
  sources: SourceFile[];
  /** Files of iOS that no target compiles. */
  outside: readonly SourceFile[];
  /** Those that can matter, as far as is known before any is parsed. */
  first: SourceFile[];
  components: AndroidComponents;
  /** What the code asks the system for. */
  requests: GuardedRequests;
}
