import { timeError } from "./time-errors.ts";
import { type Frames, type Seconds } from "./units.ts";

/**
 * Frames per second as a fraction, because 29.97 is a nickname: the rate is 30000/1001. A film that
 * counts with 29.97 is one frame off after nine hours, and half a frame off its beat long before.
 */
export interface FrameRate {
  readonly num: number;
  readonly den: number;
}

/** The eight rates in use, by the name that people say. */
export const NAMED_FRAME_RATES = {
  "23.976": { num: 24000, den: 1001 },
  "24": { num: 24, den: 1 },
  "25": { num: 25, den: 1 },
  "29.97": { num: 30000, den: 1001 },
  "30": { num: 30, den: 1 },
  "50": { num: 50, den: 1 },
  "59.94": { num: 60000, den: 1001 },
  "60": { num: 60, den: 1 },
} as const satisfies Record<string, FrameRate>;

/**
 * Reads a frame rate: one of the eight names, or NUM/DEN with positive whole numbers, kept as the
 * fraction given. Throws `frame-rate` for anything else or for a rate outside 1 to 240.
 */
export function parseFrameRate(text: string): FrameRate {
  const named = (NAMED_FRAME_RATES as Record<string, FrameRate>)[text];
  if (named) return named;
  const match = /^(\d{1,9})\/(\d{1,9})$/.exec(text);
  const rate = match && { num: Number(match[1]), den: Number(match[2]) };
  if (!rate || rate.den === 0 || rate.num / rate.den < 1 || rate.num / rate.den > 240) {
    throw timeError("frame-rate", { text, known: Object.keys(NAMED_FRAME_RATES) });
  }
  return rate;
}

/** The name people say ("29.97"), or the fraction when it has none. */
export function frameRateName(rate: FrameRate): string {
  const name = Object.entries(NAMED_FRAME_RATES).find(([, r]) => r.num * rate.den === rate.num * r.den)?.[0];
  return name ?? `${rate.num}/${rate.den}`;
}

/**
 * When a frame begins. Exact up to one rounding of a double, so it cannot drift with the length of
 * the film.
 */
export const frameStart = (frame: Frames, rate: FrameRate): Seconds => (frame * rate.den) / rate.num;

/**
 * A time half way between two frames belongs to the later one, also where its double came out a
 * hair early.
 */
const TIE_FRAMES = 1e-7;

/** The frame whose start lies nearest to a time; a time exactly between two goes to the later. */
export const nearestFrame = (time: Seconds, rate: FrameRate): Frames =>
  Math.floor((time * rate.num) / rate.den + 0.5 + TIE_FRAMES);

/**
 * The frame on screen at a time: the last one that has begun. A frame's own start belongs to it,
 * also where the double for that start came out a hair early; hence the tolerance of a millionth of
 * a frame.
 */
export const frameAt = (time: Seconds, rate: FrameRate): Frames => Math.floor((time * rate.num) / rate.den + 1e-6);

/** The number of whole frames needed to cover a length; a length of exactly n frames gives n. */
export const framesToCover = (length: Seconds, rate: FrameRate): Frames =>
  Math.max(0, Math.ceil((length * rate.num) / rate.den - 1e-6));

/** A rate as a number, for showing and for lengths: rounded, so never for placing frames. */
export const framesPerSecond = (rate: FrameRate): number => rate.num / rate.den;
