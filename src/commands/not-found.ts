import { existsSync } from "node:fs";
import { Errors, type Hook } from "@oclif/core";
import { suggestion } from "../core/model/suggest.js";
import { clean, forStream } from "../views/text/style.js";

/** Says what to do about a word that is no command. Ends with exit code 2. */
export const notFound: Hook.CommandNotFound = async ({ id, config }) => {
  const word = id.split(":").join(" ");
  const known = config.commands.filter(({ hidden }) => !hidden).map((command) => command.id.split(":").join(" "));
  const hint = existsSync(id) ? `to check this folder: \`enredo check ${word}\`` : (suggestion(word, known) ?? "see `enredo --help`");
  process.stderr.write(forStream(`${clean(`enredo: there is no command "${word}"; ${hint}`)}\n`, false));
  Errors.exit(2);
};
