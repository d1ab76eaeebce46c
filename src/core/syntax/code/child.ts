import { fork, type ChildProcess } from "node:child_process";
import path from "node:path";
import { grammarFolder } from "./grammars.js";

/** The process that parses, and whether it has said that it runs. */
export interface ForkedParser {
  child: ChildProcess;
  ready: boolean;
}

/**
 * Starts the process that parses source code (`serve.ts`); it ends with this one. Small, so that a program can start it before it loads
 * the rest. `undefined` where the system starts no process.
 * @param baseline whether V8 is to use its baseline compiler alone
 */
export function forkParser(baseline: boolean): ForkedParser | undefined {
  // Options for Node.js that a person sets are for their own programs. Certificates cost Node.js 20 a tenth of a second at its start, and
  // nothing is fetched.
  const env = Object.fromEntries(Object.entries(process.env).filter(([name]) => name !== "NODE_OPTIONS" && name !== "NODE_EXTRA_CA_CERTS"));
  try {
    const child = fork(path.join(grammarFolder(), "parse.cjs"), [], {
      execArgv: baseline ? ["--liftoff-only"] : [],
      env,
      serialization: "advanced",
      stdio: ["ignore", "ignore", "ignore", "ipc"],
      ...{ windowsHide: true },
    });
    const forked = { child, ready: false };
    child.once("message", () => (forked.ready = true));
    // Whoever sends files to it looks at whether it runs.
    child.on("error", () => undefined);
    process.once("exit", () => child.kill("SIGKILL"));
    child.unref();
    child.channel?.unref();
    return forked;
  } catch {
    return undefined;
  }
}
