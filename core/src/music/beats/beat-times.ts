import { itemAt } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import { FRAME_SECONDS, HOP_SECONDS } from "../signal/index.ts";
import type { TrackedBeat } from "./bar-pointer.ts";
import { type BeatActivations, FRAME_MIDDLE_SECONDS } from "./beat-network.ts";
import { evenPulse } from "./even-pulse.ts";

/** Frames to each side of a tracked beat in which the network's own peak is looked for. */
const REACH_FRAMES = 3;
/** Log odds from which the network knows where in the frame the beat lies. */
const HEARD_ODDS = -0.5;
/** Log odds under which a beat is no beginning and no end of a run. */
const EDGE_ODDS = 0;
/**
 * How much a beat that nobody played counts against one that was heard, and how stiff the pulse
 * between them is.
 */
const UNHEARD_WEIGHT = 0.003;
const STIFFNESS = 0.03;

export interface TimedBeat extends TrackedBeat {
  readonly seconds: Seconds;
  /** Probability, as the network gives it, that a beat lies here: 0 to 1. */
  readonly heard: number;
  /** The same with what a steady pulse says before the network is asked. */
  readonly likely: number;
}

/**
 * Beats below the step of the analysis: where the network hears one it says where in its frame it
 * lies; in rests the pulse goes on evenly between the beats that were heard (evenPulse, over each
 * run without free time). A run begins and ends with a beat that was heard, or that a steady pulse
 * makes likely: `prior` is that of trackBars. Times rise strictly.
 */
export function timeBeats(
  tracked: readonly TrackedBeat[],
  activations: BeatActivations,
  prior: Float32Array,
): TimedBeat[] {
  const beats: TimedBeat[] = [];
  for (let first = 0; first < tracked.length; ) {
    let end = first + 1;
    while (end < tracked.length && !itemAt(tracked, end).entersTime) end++;
    beats.push(...timeRun(tracked.slice(first, end), activations, prior));
    first = end;
  }
  // Runs lie apart and beats 0.26 s from each other, so this drops only what evening out at the
  // edge of two runs brings together.
  return beats.filter((beat, i) => beat.seconds >= 0 && (i === 0 || beat.seconds > itemAt(beats, i - 1).seconds));
}

/** The beats of one run without free time, from the first to the last that is likely. */
function timeRun(run: readonly TrackedBeat[], activations: BeatActivations, prior: Float32Array): TimedBeat[] {
  const all = run.map(({ hop }) => {
    const one = heardAt(hop, activations);
    return { ...one, withPrior: one.odds + (prior[hop] ?? 0) };
  });
  const isLikely = (one: { withPrior: number }): boolean => one.withPrior > EDGE_ODDS;
  const first = all.findIndex(isLikely);
  if (first < 0) return [];
  const last = all.findLastIndex(isLikely);
  const heard = all.slice(first, last + 1);
  const pulse = evenPulse(
    heard.map((one) => one.seconds),
    heard.map((one) => (one.odds > HEARD_ODDS ? 1 : UNHEARD_WEIGHT)),
    STIFFNESS,
  );
  return heard.map((one, i) => ({
    ...itemAt(run, first + i),
    entersTime: i === 0,
    // What was heard stays where it was heard: a pulse may jump.
    seconds: one.odds > HEARD_ODDS ? one.seconds : itemAt(pulse, i),
    heard: probability(one.odds),
    likely: probability(one.withPrior),
  }));
}

const probability = (odds: number): number => 1 / (1 + Math.exp(-odds));

function heardAt(hop: number, { beat, place, frameCount }: BeatActivations): { seconds: Seconds; odds: number } {
  const tracked = hop * HOP_SECONDS;
  const centre = Math.round((tracked - FRAME_MIDDLE_SECONDS) / FRAME_SECONDS);
  let frame = Math.min(frameCount - 1, Math.max(0, centre));
  for (let f = Math.max(0, centre - REACH_FRAMES); f <= Math.min(frameCount - 1, centre + REACH_FRAMES); f++) {
    if (itemAt(beat, f) > itemAt(beat, frame)) frame = f;
  }
  const odds = itemAt(beat, frame);
  if (odds <= HEARD_ODDS) return { seconds: tracked, odds };
  const within = Math.min(1.5, Math.max(-1.5, itemAt(place, frame)));
  return { seconds: FRAME_MIDDLE_SECONDS + (frame + within) * FRAME_SECONDS, odds };
}
