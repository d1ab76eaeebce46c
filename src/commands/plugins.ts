/**
 * Commands of plugins of oclif. They are bundled with the program, so that nothing has to be installed beside it; the packages do not export them
 * by a name of theirs.
 */
export { default as autocomplete } from "../../node_modules/@oclif/plugin-autocomplete/lib/commands/autocomplete/index.js";
export { default as autocompleteCreate } from "../../node_modules/@oclif/plugin-autocomplete/lib/commands/autocomplete/create.js";
export { default as autocompleteScript } from "../../node_modules/@oclif/plugin-autocomplete/lib/commands/autocomplete/script.js";
export { default as help } from "../../node_modules/@oclif/plugin-help/lib/commands/help.js";
