import type { Seconds } from "./units.ts";

/** "4:03" or "1:02:03": a length as people say it, to the nearest second. */
export function clockText(totalSeconds: Seconds): string {
  const whole = Math.max(0, Math.round(totalSeconds));
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor(whole / 60) % 60;
  const tail = `${String(minutes).padStart(hours ? 2 : 1, "0")}:${String(whole % 60).padStart(2, "0")}`;
  return hours ? `${hours}:${tail}` : tail;
}

/** "about 3 minutes", "about 40 seconds": time left, rounded so that it does not flicker. */
export function timeLeftText(totalSeconds: Seconds): string {
  if (totalSeconds < 5) return "a few seconds";
  if (totalSeconds < 90) return `about ${Math.round(totalSeconds / 5) * 5} seconds`;
  return `about ${Math.round(totalSeconds / 60)} minutes`;
}
