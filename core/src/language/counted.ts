const plurals = new Intl.PluralRules("en");
const numbers = new Intl.NumberFormat("en");

/**
 * A number with its noun: "1 picture", "2 pictures", "1,024 pictures". `plural` is needed where it
 * is not the noun with an s: `counted(2, "copy", "copies")`.
 */
export const counted = (count: number, noun: string, plural = `${noun}s`): string =>
  `${numbers.format(count)} ${wordFor(count, noun, plural)}`;

/** The form of a word that goes with a number: `wordFor(2, "is", "are")` is "are". */
export const wordFor = (count: number, one: string, many: string): string =>
  plurals.select(count) === "one" ? one : many;
