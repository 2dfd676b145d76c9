import type { Seconds } from "../time/index.ts";

/** What a file says of the moment it was made. */
export interface Captured {
  /**
   * Camera time without a zone, "2031-06-21T19:04:11" or with ".250"; null where the file does not
   * say.
   */
  readonly capturedAt: string | null;
  /** The camera's name; empty where the file does not say. */
  readonly camera: string;
  /** Whether that is universal time and not the wall clock's, as in many clips. */
  readonly isUniversal?: boolean;
  /** By how much the wall clock was ahead of universal time, where the file says it. */
  readonly zoneMinutes?: number | null;
}

/**
 * Seconds on one clock for all cameras: wall time as if it were UTC, plus what the person said that
 * this camera's clock is off by. Null where the file has no time or one that no calendar knows.
 * Only differences mean anything.
 *
 * @param zoneMinutes Of the event (eventZone): universal times become wall time by it.
 */
export function commonSeconds(
  captured: Captured,
  clockOffsets: Readonly<Record<string, number>>,
  zoneMinutes = 0,
): Seconds | null {
  const milliseconds = wallMilliseconds(captured);
  if (milliseconds === null) return null;
  const zoneSeconds = captured.isUniversal ? 60 * zoneMinutes : 0;
  return milliseconds / 1000 + zoneSeconds + (clockOffsets[captured.camera] ?? 0);
}

/** Pictures may begin and end so much earlier or later than clips of the same event. */
const EVENT_MARGIN_MS = 1_800_000;

/**
 * By how many minutes the wall clock of an event is ahead of universal time: what most of its files
 * say, else what this computer says of the first universal time. 0 where more clips lie among the
 * pictures by that: some cameras write wall time as if it were universal. O(files).
 *
 * @param ownZone Minutes that this computer's clock is ahead at an instant in milliseconds.
 */
export function eventZone(files: readonly Captured[], ownZone: (milliseconds: number) => number): number {
  const universal = files.filter(({ isUniversal }) => isUniversal).map(wallMilliseconds);
  const clips = universal.filter((at) => at !== null);
  const first = clips[0];
  if (first === undefined) return 0;
  const zone = mostFrequent(files.map(({ zoneMinutes }) => zoneMinutes ?? null)) ?? ownZone(first);
  const wall = files
    .filter(({ isUniversal }) => !isUniversal)
    .map(wallMilliseconds)
    .filter((at) => at !== null);
  const from = wall.reduce((least, at) => Math.min(least, at), Infinity) - EVENT_MARGIN_MS;
  const to = wall.reduce((most, at) => Math.max(most, at), -Infinity) + EVENT_MARGIN_MS;
  const inside = (minutes: number): number =>
    clips.filter((at) => at + 60_000 * minutes >= from && at + 60_000 * minutes <= to).length;
  return inside(0) > inside(zone) ? 0 : zone;
}

function wallMilliseconds({ capturedAt }: Captured): number | null {
  if (capturedAt === null) return null;
  const milliseconds = Date.parse(`${capturedAt}Z`);
  return Number.isNaN(milliseconds) ? null : milliseconds;
}

/** Of equally frequent ones the first; null where there is none. */
function mostFrequent(values: readonly (number | null)[]): number | null {
  const counts = new Map<number, number>();
  for (const value of values) if (value !== null) counts.set(value, (counts.get(value) ?? 0) + 1);
  let [best, most]: [number | null, number] = [null, 0];
  for (const [value, count] of counts) if (count > most) [best, most] = [value, count];
  return best;
}
