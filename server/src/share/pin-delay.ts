/** So many wrong PINs are forgiven: fingers slip. */
const FREE_TRIES = 2;
const FIRST_DELAY_SECONDS = 2;
const LONGEST_DELAY_SECONDS = 3600;

/**
 * How long no PIN is tried after so many wrong ones in a row: 0, 0, 2, 4, 8 ... seconds, at most an hour. All 10,000 PINs of four digits would take longer than a year; half of them half of that. The delay is the page's, not a visitor's: addresses of visitors are cheap.
 */
export const delaySeconds = (wrongTries: number): number =>
  wrongTries <= FREE_TRIES
    ? 0
    : Math.min(LONGEST_DELAY_SECONDS, FIRST_DELAY_SECONDS * 2 ** (wrongTries - FREE_TRIES - 1));
