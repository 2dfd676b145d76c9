/** "-1:02:03" for -3723 seconds; days are counted as hours. */
export function offsetText(seconds: number): string {
  const whole = Math.abs(Math.round(seconds));
  const two = (value: number): string => String(value).padStart(2, "0");
  return `${seconds < 0 ? "-" : ""}${Math.floor(whole / 3600)}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}`;
}

/**
 * Reads "h:mm:ss" or "h:mm", with a sign or without; null for anything else. Any number of hours,
 * minutes and seconds below 60.
 */
export function parseOffset(text: string): number | null {
  const match = /^\s*([+\-−]?)\s*(\d{1,6}):([0-5]?\d)(?::([0-5]?\d))?\s*$/.exec(text);
  if (!match) return null;
  const seconds = Number(match[2]) * 3600 + Number(match[3]) * 60 + Number(match[4] ?? 0);
  return seconds === 0 || match[1] === "" || match[1] === "+" ? seconds : -seconds;
}
