export { codeOfPage } from "./page.js";
import { codeOfRazor } from "./razor.js";
import { scriptOfSingleFile } from "./single-file.js";
import type { ComponentScript } from "./pieces.js";

/** A file that holds a component whole: its code, its markup, its style. */
export const COMPONENT_FILE = /\.(?:vue|svelte|razor)$/;

/**
 * The code that a component's file comes to, in the language of its frameworks' scripts.
 * @param name the component's, which no file has in it
 * @param steps what the framework calls of a component of Razor that is shown
 */
export function codeOfComponent(text: string, name: string, file: string, steps: readonly string[]): ComponentScript {
  return file.endsWith(".razor")
    ? codeOfRazor(text, name, steps)
    : scriptOfSingleFile(text, name, file.endsWith(".vue") ? "vue" : "svelte");
}
