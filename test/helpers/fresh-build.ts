import { expectFresh } from "./fresh.js";

/** The tests of the program run what is built. */
export default function setup(): void {
  expectFresh("dist/program.cjs", "src", "bin");
}
