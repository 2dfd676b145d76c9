import type { Seconds } from "../time/index.ts";
import { type DecibelCurve, gainOfDecibels } from "./decibel-curve.ts";
import { type GainCurve, gainProduct, sinkingPower } from "./gain-curve.ts";
import type { SoundPlan } from "./sound-plan.ts";

/** A fade shorter than this sounds like a cut. */
const SHORTEST_FADE_SECONDS = 1.5;
/**
 * Where the last bar lies further from the end than this, the song rings out by itself and only its
 * tail is faded.
 */
const LONGEST_FADE_SECONDS = 10;

/** How loud songs are over the film, and where the end of the film begins to be heard. */
export interface MusicLevel {
  readonly gain: GainCurve;
  readonly fadeOut: SoundPlan["fadeOut"];
}

/**
 * The music's level over the film: lower where `ducking` says, with a fade at the end, so that
 * music never just stops. The fade begins at `fadeStartSeconds` where a person chose one, else at
 * the last bar start that leaves 1.5 s. Without such a bar it begins 3 s before the end, or halfway
 * in a film shorter than that.
 */
export function musicLevel(
  filmSeconds: Seconds,
  barSeconds: readonly Seconds[],
  fadeStartSeconds: Seconds | null = null,
  ducking: DecibelCurve = [],
): MusicLevel {
  const bar = barSeconds.findLast((seconds) => seconds <= filmSeconds - SHORTEST_FADE_SECONDS);
  const onBar = bar !== undefined && bar >= filmSeconds - LONGEST_FADE_SECONDS && bar > 0;
  const startSeconds = fadeStartSeconds ?? (onBar ? bar : Math.max(filmSeconds / 2, filmSeconds - 3));
  return {
    gain: gainProduct([gainOfDecibels(ducking), sinkingPower(startSeconds, filmSeconds)]),
    fadeOut: { startSeconds, endSeconds: filmSeconds },
  };
}
