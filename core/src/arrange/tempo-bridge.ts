import { itemAt, lastOf, present } from "../presence/index.ts";

/**
 * A crossfade in which bars of two songs are kept together. Times of each song are in its played
 * seconds.
 */
export interface TempoBridge {
  /**
   * Bar starts of the song that goes, and of the one that comes, which fall together: one more than
   * there are bars.
   */
  readonly outgoing: readonly number[];
  readonly incoming: readonly number[];
  /** Seconds from the bridge's beginning to each of them. */
  readonly offsets: readonly number[];
  /**
   * How many bars of the incoming song go to one of the outgoing: 1, or 2 or 1/2 where that is
   * nearer.
   */
  readonly ratio: number;
  /** Largest change of tempo that either song is played with, 0.05 for 5 %. */
  readonly largestChange: number;
}

/** A song played more than this faster or slower sounds wrong even for a few bars. */
const LARGEST_BRIDGE_CHANGE = 0.25;

/**
 * Lays the last `bars` bars of one song over the first ones of another. Their length goes evenly
 * from that of the first to that of the second. Null where either has too few bars, or their tempi
 * are more than 25 % apart also when one of them counts double. Ties go to bar for bar.
 */
export function tempoBridge(
  outgoingBars: readonly number[],
  incomingBars: readonly number[],
  bars: number,
): TempoBridge | null {
  if (outgoingBars.length < 2 || incomingBars.length < 2) return null;
  const ratio = nearestRatio(barLength(outgoingBars), barLength(incomingBars));
  const incomingStep = Math.max(1, ratio);
  const outgoingStep = Math.max(1, 1 / ratio);
  // One step is one bar of the song with the longer bars.
  const steps = Math.min(
    Math.max(1, Math.round(bars / outgoingStep)),
    Math.floor((outgoingBars.length - 1) / outgoingStep),
    Math.floor((incomingBars.length - 1) / incomingStep),
  );
  if (steps < 1) return null;
  const outgoing = Array.from({ length: steps + 1 }, (_, i) =>
    present(outgoingBars.at(-1 - (steps - i) * outgoingStep)),
  );
  const incoming = Array.from({ length: steps + 1 }, (_, i) => itemAt(incomingBars, i * incomingStep));
  const offsets = [0];
  let largestChange = 0;
  for (let i = 0; i < steps; i++) {
    const share = (i + 0.5) / steps;
    const [left, right] = [
      itemAt(outgoing, i + 1) - itemAt(outgoing, i),
      itemAt(incoming, i + 1) - itemAt(incoming, i),
    ];
    const length = left * (1 - share) + right * share;
    offsets.push(itemAt(offsets, i) + length);
    largestChange = Math.max(largestChange, Math.abs(left / length - 1), Math.abs(right / length - 1));
  }
  return largestChange <= LARGEST_BRIDGE_CHANGE ? { outgoing, incoming, offsets, ratio, largestChange } : null;
}

function nearestRatio(outgoing: number, incoming: number): number {
  const distance = (ratio: number): number => Math.abs(Math.log((incoming * ratio) / outgoing));
  return [1, 2, 0.5].reduce((best, ratio) => (distance(ratio) < distance(best) ? ratio : best));
}

/** Mean length of a bar, from at least two bar starts. */
function barLength(bars: readonly number[]): number {
  return (lastOf(bars) - itemAt(bars, 0)) / (bars.length - 1);
}
