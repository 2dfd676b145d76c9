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
}

/**
 * Seconds on one clock for all cameras: camera time as if it were UTC, plus what the person said
 * that this camera's clock is off by. Null where the file has no time or one that no calendar
 * knows. Only differences mean anything.
 */
export function commonSeconds(captured: Captured, clockOffsets: Readonly<Record<string, number>>): Seconds | null {
  if (captured.capturedAt === null) return null;
  const milliseconds = Date.parse(`${captured.capturedAt}Z`);
  return Number.isNaN(milliseconds) ? null : milliseconds / 1000 + (clockOffsets[captured.camera] ?? 0);
}
