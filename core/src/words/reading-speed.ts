/**
 * How long words must be seen to be read. 180 words a minute is the upper end of what the BBC
 * Subtitle Guidelines give for adults (160 to 180; value from memory); half a second more goes by
 * until an eye has found words in a picture (common practice).
 */
export const READING_WORDS_PER_MINUTE = 180;
const FINDING_SECONDS = 0.5;
/** A word of English and the space behind it. Scripts without spaces are counted by it. */
const LETTERS_A_WORD = 6;

/** The words of a text: as they are set apart, or its length where that says more. */
export function countWords(text: string): number {
  const words = text.split(/\s+/u).filter((word) => /[\p{L}\p{N}]/u.test(word));
  const letters = words.reduce((sum, word) => sum + [...word].length + 1, 0);
  return Math.max(words.length, Math.round(letters / LETTERS_A_WORD));
}

/** 0 where there is nothing to read. */
export function secondsToRead(text: string): number {
  const words = countWords(text);
  return words === 0 ? 0 : FINDING_SECONDS + (60 * words) / READING_WORDS_PER_MINUTE;
}
