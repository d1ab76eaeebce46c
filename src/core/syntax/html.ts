/** Just what is used of the library: it is loaded with the first page, and its rest is not shipped. */
export { parseDocument } from "htmlparser2";
