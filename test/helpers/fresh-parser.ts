import { expectFresh } from "./fresh.js";

/** The tests of the core run the sources, but for the process that parses source code. */
export default function setup(): void {
  expectFresh("dist/grammars/parse.cjs", "src/core/syntax/code");
}
