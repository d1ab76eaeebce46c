/** The engine for patterns, whose time is linear in the text. In the built program it is a file of its own (scripts/build.mjs). */
export { RE2JS } from "re2js";
