#!/usr/bin/env node
"use strict";
const path = require("node:path");
const { load } = require("./load.js");

const root = path.dirname(__dirname);
// Without a command it says what to do next in this folder.
const args = process.argv.length > 2 ? process.argv.slice(2) : ["next"];
const { execute } = load(path.join(root, "dist", "program.cjs"), args[0]);

// A reader that stops reading (`enredo check | head`) is no error.
process.stdout.on("error", (error) => {
  if (error.code === "EPIPE") process.exit(process.exitCode ?? 0);
  throw error;
});

void execute({ dir: root, args });
