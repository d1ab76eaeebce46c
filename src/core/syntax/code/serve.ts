/**
 * The process that parses source code: it is started with V8's baseline compiler alone (see `process.ts`), reads files one after the other
 * as they are sent, and ends with the program that started it. Bundled as `dist/grammars/parse.cjs`.
 */
import { serialize } from "node:v8";
import { loadGrammars } from "./grammars.js";
import { readCode, treeOf } from "./index.js";
import type { FromParser, ToParser } from "./process.js";
import { reason } from "../../model/reason.js";

const send = (message: FromParser): void => void process.send?.(message);

let work: Promise<void> = Promise.resolve();
process.on("message", (message: ToParser) => {
  work = work.then(() => answer(message));
});
process.on("disconnect", () => process.exit());
send({ ready: true });

async function answer(message: ToParser): Promise<void> {
  if ("languages" in message) {
    await loadGrammars(message.languages);
    return;
  }
  const { id, language, text, wanted } = message;
  try {
    await loadGrammars([language]);
    send({ begun: id });
    const value = wanted === "tree" ? treeOf(language, text) : readCode(language, text);
    // Packed here, beside the other process, which may keep it.
    send(value ? { id, packed: serialize(value) } : { id, failed: reason("parses-too-long") });
  } catch (error) {
    send({
      id,
      failed: error instanceof RangeError ? reason("nested-too-deeply") : reason("parser-says", { message: (error as Error).message }),
    });
  }
}
