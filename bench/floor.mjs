// The floor: lists the folders and reads the files that the check lists and reads, and nothing else.
import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";

const { root, folders, files } = JSON.parse(readFileSync(process.argv[2], "utf8"));
let bytes = 0;
for (const folder of folders) bytes += readdirSync(path.join(root, folder), { withFileTypes: true }).length;
for (const file of files) bytes += readFileSync(path.join(root, file), "utf8").length;
console.log(bytes);
