import type { Seconds } from "../../time/index.ts";
import { HOP_SECONDS } from "../signal/index.ts";
import type { TimedBeat } from "./beat-times.ts";

/**
 * So many bars after the last beat that the network heard, what is struck in time still counts;
 * applause or talk would be in time for ever.
 */
const STRUCK_BARS = 2;
/**
 * How far from where a beat is due something may be struck to be that beat, as a share of the
 * beat's length.
 */
const IN_TIME = 0.12;
/** Sound that breaks off looks like something struck where it does. */
const BREAK_SECONDS = 0.05;

/**
 * The beats with the music counted to its end: the network, which hears nothing behind a last
 * chord, gives up a little before it. The pulse goes on, as long as the last beat was, to the last
 * sound that is struck in time within two bars. `heard` and `likely` of added beats are 0.
 * `onsetSeconds` rise; `endSeconds` is where the sound ends. O(beats + onsets).
 */
export function withEndCounted(
  beats: readonly TimedBeat[],
  onsetSeconds: readonly Seconds[],
  endSeconds: Seconds,
): TimedBeat[] {
  const last = beats.at(-1);
  const before = beats.at(-2);
  if (!last || !before || last.entersTime) return [...beats];
  const { beatsPerBar } = last;
  const tolerance = IN_TIME * (last.seconds - before.seconds);
  let gap = last.seconds - before.seconds;
  let count = 0;
  for (let ahead = 1; ahead <= STRUCK_BARS * beatsPerBar; ahead++) {
    const due = last.seconds + gap * ahead;
    const onset = onsetSeconds.find((seconds) => Math.abs(seconds - due) <= tolerance);
    if (onset === undefined || onset >= endSeconds - BREAK_SECONDS) continue;
    count = ahead;
    gap = (onset - last.seconds) / ahead;
  }
  const added = Array.from({ length: count }, (_, i): TimedBeat => {
    const seconds = last.seconds + gap * (i + 1);
    const position = ((last.position + i) % beatsPerBar) + 1;
    return {
      hop: Math.round(seconds / HOP_SECONDS),
      position,
      beatsPerBar,
      entersTime: false,
      seconds,
      heard: 0,
      likely: 0,
    };
  });
  return [...beats, ...added];
}
