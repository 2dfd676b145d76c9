import { counted } from "./counted.ts";

const MINUTE = 60;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

/**
 * How much later something is, as people say it: "12 minutes later", "3 hours later", "2 days
 * later". Rounded to the nearest; a unit is used from one and a half of it on.
 *
 * @param seconds Zero or more.
 */
export function laterText(seconds: number): string {
  if (seconds < 1.5 * MINUTE) return `${counted(Math.round(seconds), "second")} later`;
  if (seconds < 1.5 * HOUR) return `${counted(Math.round(seconds / MINUTE), "minute")} later`;
  if (seconds < 1.5 * DAY) return `${counted(Math.round(seconds / HOUR), "hour")} later`;
  return `${counted(Math.round(seconds / DAY), "day")} later`;
}
