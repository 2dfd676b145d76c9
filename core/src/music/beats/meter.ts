import { itemAt } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import { HOP_SECONDS } from "../signal/index.ts";

/**
 * Onsets at a third and two thirds of the beat must be so much stronger than half way for a
 * compound meter.
 */
const COMPOUND_RATIO = 1.2;
const REACH_SECONDS = 0.025;

/**
 * The meter's name from the felt beats in a bar and from what is played between beats: three notes
 * to a beat make two beats 6/8, three 9/8 and four 12/8. Swing, whose second note lies at two
 * thirds without one at the first third, is no compound meter. `beatSeconds` rise; `onsets` is
 * strength per hop. O(beats).
 */
export function meterName(beatsPerBar: number, beatSeconds: readonly Seconds[], onsets: Float32Array): string {
  const between = (fraction: number): number => {
    let sum = 0;
    for (let i = 0; i + 1 < beatSeconds.length; i++) {
      sum += strongestNear(
        onsets,
        itemAt(beatSeconds, i) + fraction * (itemAt(beatSeconds, i + 1) - itemAt(beatSeconds, i)),
      );
    }
    return sum;
  };
  const compound = Math.min(between(1 / 3), between(2 / 3)) > COMPOUND_RATIO * between(1 / 2);
  return compound && beatsPerBar <= 4 ? `${beatsPerBar * 3}/8` : `${beatsPerBar}/4`;
}

function strongestNear(onsets: Float32Array, seconds: Seconds): number {
  let strongest = 0;
  const last = Math.min(onsets.length - 1, Math.round((seconds + REACH_SECONDS) / HOP_SECONDS));
  for (let hop = Math.max(0, Math.round((seconds - REACH_SECONDS) / HOP_SECONDS)); hop <= last; hop++) {
    strongest = Math.max(strongest, itemAt(onsets, hop));
  }
  return strongest;
}
