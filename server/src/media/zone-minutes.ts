import { itemAt } from "@humming-tide/core/presence";

/** No place on earth is further from universal time. */
const MOST_MINUTES = 15 * 60;

/**
 * By how many minutes a clock is ahead of universal time, by the end of a text: "+02:00", "-0330",
 * "2031-06-21T21:04:11+0200", "Z". Null where it does not say, or what no place has.
 */
export function zoneMinutesOf(text: string): number | null {
  if (/\dZ$/.test(text.trim())) return 0;
  const match = /([+-])(\d{2}):?(\d{2})$/.exec(text.trim());
  if (!match) return null;
  const minutes = 60 * Number(itemAt(match, 2)) + Number(itemAt(match, 3));
  return minutes > MOST_MINUTES ? null : match[1] === "-" ? -minutes : minutes;
}
