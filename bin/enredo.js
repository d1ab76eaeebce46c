#!/usr/bin/env node
"use strict";
const path = require("node:path");
const { start } = require("./load.js");

// A reader that stops reading (`enredo check | head`) is no error.
process.stdout.on("error", (error) => {
  if (error.code === "EPIPE") process.exit(process.exitCode ?? 0);
  process.stderr.write(`enredo: the output cannot be written: ${error.code === "ENOSPC" ? "there is no space left" : error.message}\n`);
  process.exit(2);
});
// There is nobody left to tell.
process.stderr.on("error", () => {});

// Without a command it says what to do next in this folder.
void start(path.dirname(__dirname), process.argv.length > 2 ? process.argv.slice(2) : ["next"]);
