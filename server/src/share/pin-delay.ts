/** So many wrong PINs of one visitor are forgiven: fingers slip. */
const FREE_TRIES = 2;
/**
 * And so many of all visitors of a page: a single one, held by a delay of its own, needs most of a
 * day for them.
 */
const FREE_TRIES_OF_PAGE = 20;
const FIRST_DELAY_SECONDS = 2;
const LONGEST_DELAY_SECONDS = 3600;
/** Wrong PINs of so long ago count no more. */
export const FORGOTTEN_AFTER_MS = 24 * 3_600_000;

const delaySeconds = (wrongTries: number, freeTries: number): number =>
  wrongTries <= freeTries
    ? 0
    : Math.min(LONGEST_DELAY_SECONDS, FIRST_DELAY_SECONDS * 2 ** (wrongTries - freeTries - 1));

/**
 * How long no PIN of a visitor is tried after so many wrong ones in a row: 0, 0, 2, 4, 8 ...
 * seconds, at most an hour.
 */
export const visitorDelaySeconds = (wrongTries: number): number => delaySeconds(wrongTries, FREE_TRIES);

/**
 * How long no PIN is tried of visitors who were never let in, after so many wrong ones of all of
 * them: none for the first 20, then 2, 4, 8 ... seconds, at most an hour. Addresses of visitors are
 * cheap; with this all 10,000 PINs of four digits take more than a year, however many visitors try
 * them. Whoever was let in before is not held.
 */
export const pageDelaySeconds = (wrongTries: number): number => delaySeconds(wrongTries, FREE_TRIES_OF_PAGE);
