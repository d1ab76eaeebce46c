#!/usr/bin/env node
import * as nodeModule from "node:module";

// From Node 22 on compiled code is kept between runs.
nodeModule.enableCompileCache?.();
const { Errors, execute } = await import("@oclif/core");

// A reader that stops reading (`enredo check | head`) is no error.
process.stdout.on("error", (error) => {
  if (error.code === "EPIPE") process.exit(process.exitCode ?? 0);
  throw error;
});

try {
  // Without a command it says what to do next in this folder.
  await execute({ dir: import.meta.url, args: process.argv.length > 2 ? process.argv.slice(2) : ["next"] });
} catch (error) {
  await Errors.handle(error);
}
