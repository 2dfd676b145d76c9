/** Numbers in sentences, as English says them. */
export { counted, wordFor } from "./counted.ts";
export { decibelText } from "./decibel-text.ts";
export { laterText } from "./later-text.ts";
