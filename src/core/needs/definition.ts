import type { SideName } from "../model/facts.js";
import type { SheetNeed } from "../model/sheet.js";
import type { CodeName } from "./code-names.js";
import type { WireResult, NeedOnSide } from "./context.js";
import type { DraftedNeed, DraftSubject } from "./drafting.js";
import type { Form } from "./form.js";

/** Where something would be added that is not there: the app's manifest, its property list, its Podfile, or the build's own file. */
export type Home = "manifest" | "plist" | "pods" | "build";
export type Homes = Partial<Record<"android" | "ios", Home>>;

/** One kind of need: all that the tool knows of it. Each is one file in `kinds/` and one line in the table of them. */
export interface NeedDefinition {
  /** In words, as people read it. */
  title: string;
  /** The only side that can have it; without it both can. */
  side?: "android" | "ios";
  form: Form;
  /** The key of the long form without which the need asks for nothing; its value is the text of the short form. */
  main?: string;
  /** It is about source code. */
  code?: true;
  /** Every application target of an Xcode project has to meet it itself. */
  ofTarget?: true;
  /** Names of calls that are looked for in the source code of a side. */
  names?: (need: SheetNeed, side: SideName) => CodeName[];
  /** Which list of files its name is looked for in. */
  files?: "service" | "licence";
  home?: Homes | ((need: SheetNeed) => Homes);
  /** The rules that report what can be wrong with it: one for everything, or several of which each looks at some; none where only a device tells. */
  rules: readonly `${string}/${string}`[];
  /** The need in a few words; its title and its main text without it. */
  what?: (need: SheetNeed, side: string) => string;
  /** What of an app's wiring may be this need of an SDK, for a drafted sheet. */
  draft?: (subject: DraftSubject) => DraftedNeed[];
  /** How it is checked against the facts of a side; pure. */
  check: (subject: NeedOnSide) => WireResult;
}
