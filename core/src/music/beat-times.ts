import { FRAME_SECONDS, HOP_SECONDS } from "./audio.ts";
import type { TrackedBeat } from "./bar-pointer.ts";
import type { BeatActivations } from "./beat-network.ts";
import { evenPulse } from "./even-pulse.ts";

/** A frame of 20 ms is the two hops at its start and 10 ms later; its middle lies between them. */
const FRAME_MIDDLE_SECONDS = HOP_SECONDS / 2;
/** Frames to each side of a tracked beat in which the network's own peak is looked for. */
const REACH_FRAMES = 2;
/** Log odds from which the network knows where in the frame the beat lies. */
const HEARD_ODDS = -0.5;
/** How much a beat that nobody played counts against one that was heard, and how stiff the pulse between them is. */
const UNHEARD_WEIGHT = 0.01;
const STIFFNESS = 0.1;

export interface TimedBeat extends TrackedBeat {
  readonly seconds: number;
  /** Probability, as the network gives it, that a beat lies here: 0 to 1. */
  readonly heard: number;
}

/**
 * Beats below the step of the analysis: where the network hears one it says where in its frame it lies; in rests the pulse
 * goes on evenly between those that were heard (least squares with a penalty on second differences, over each run
 * without free time). Times rise strictly.
 */
export function timeBeats(tracked: readonly TrackedBeat[], activations: BeatActivations): TimedBeat[] {
  const heard = tracked.map((beat) => heardAt(beat.hop, activations));
  const times = heard.map((one) => one.seconds);
  for (let first = 0; first < tracked.length; ) {
    let end = first + 1;
    while (end < tracked.length && !tracked[end]!.entersTime) end++;
    const weights = heard.slice(first, end).map((one) => (one.odds > HEARD_ODDS ? 1 : UNHEARD_WEIGHT));
    const smooth = evenPulse(times.slice(first, end), weights, STIFFNESS);
    for (let i = first; i < end; i++) times[i] = smooth[i - first]!;
    first = end;
  }
  const beats: TimedBeat[] = [];
  for (const [index, beat] of tracked.entries()) {
    const seconds = Math.max(0, times[index]!);
    const previous = beats.at(-1);
    // Two tracked beats lie 0.26 s apart or more, so this drops nothing but what rounding at the very start brings together.
    if (previous && seconds <= previous.seconds) continue;
    beats.push({ ...beat, seconds, heard: 1 / (1 + Math.exp(-heard[index]!.odds)) });
  }
  return beats;
}

function heardAt(hop: number, { beat, place, frameCount }: BeatActivations): { seconds: number; odds: number } {
  const tracked = hop * HOP_SECONDS;
  const centre = Math.round((tracked - FRAME_MIDDLE_SECONDS) / FRAME_SECONDS);
  let frame = Math.min(frameCount - 1, Math.max(0, centre));
  for (let f = Math.max(0, centre - REACH_FRAMES); f <= Math.min(frameCount - 1, centre + REACH_FRAMES); f++) {
    if (beat[f]! > beat[frame]!) frame = f;
  }
  const odds = beat[frame]!;
  if (odds <= HEARD_ODDS) return { seconds: tracked, odds };
  const within = Math.min(1.5, Math.max(-1.5, place[frame]!));
  return { seconds: FRAME_MIDDLE_SECONDS + (frame + within) * FRAME_SECONDS, odds };
}
