import { median } from "../../numeric/index.ts";
import { itemAt } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import { HOP_SECONDS, type Spectrogram } from "../signal/index.ts";

const BLOCK_HOPS = 20;
const BLOCK_SECONDS = BLOCK_HOPS * HOP_SECONDS;
/** Below this, rooms and halls hum. */
const LOWEST_HZ = 400;
/** A band is compared with so many bands to each side: half an octave. */
const AROUND_BANDS = 12;
/** As flat as hands over a chord that has become as soft as they are; the chord alone has peaks. */
const FLAT = 0.935;
/** Flat enough to be more hands than music. */
const RATHER_FLAT = 0.75;
/** The music before is so much less flat, or it may be music that sounds like that. */
const LEAST_CHANGE = 0.06;
const SHORTEST_SECONDS = 2;
const BEFORE_SECONDS = 10;
/** So many blocks in a row may sound like music: a whistle, a shout. */
const LONGEST_EXCEPTION = 3;
/** Softer than this against the loudest block, the last hands say nothing any more. */
const SOFT_RATIO = 10 ** (-25 / 20);

/**
 * Where applause, or other noise without pitch, begins behind the music and goes on to the last
 * sound: null where the song ends by itself. The spectrum of 0.2 s is flat there (Wiener entropy
 * against its surroundings), and was not before. There is none before `lastBeatSeconds`: music can
 * sound like that. O(hops * bands).
 */
export function applauseStart(spectrum: Spectrogram, lastBeatSeconds: Seconds): Seconds | null {
  const blocks = blocksOf(spectrum);
  const loudest = Math.max(0, ...blocks.map(({ level }) => level));
  const last = blocks.findLastIndex(({ level }) => level > loudest * SOFT_RATIO);
  let run = last + 1;
  for (let i = last; i >= 0 && run - i <= LONGEST_EXCEPTION + 1; i--) {
    if (itemAt(blocks, i).flatness > RATHER_FLAT) run = i;
  }
  run = Math.max(run, Math.ceil(lastBeatSeconds / BLOCK_SECONDS));
  const first = blocks.findIndex(({ flatness }, i) => i >= run && i <= last && flatness > FLAT);
  if (first < 0 || (last + 1 - first) * BLOCK_SECONDS < SHORTEST_SECONDS) return null;
  const flatnessOf = (from: number, to: number): number =>
    median(blocks.slice(Math.max(0, from), to).map(({ flatness }) => flatness));
  const before = flatnessOf(run - Math.round(BEFORE_SECONDS / BLOCK_SECONDS), run);
  return run > 0 && flatnessOf(first, last + 1) - before > LEAST_CHANGE ? first * BLOCK_SECONDS : null;
}

interface Block {
  /** Geometric against arithmetic mean of the bands, each against those around it: 0 to 1. */
  readonly flatness: number;
  /** Mean magnitude. */
  readonly level: number;
}

function blocksOf({ hopCount, bandCount, bands, bandHz }: Spectrogram): Block[] {
  const firstBand = Math.max(
    0,
    bandHz.findIndex((hz) => hz >= LOWEST_HZ),
  );
  const count = bandCount - firstBand;
  return Array.from({ length: Math.floor(hopCount / BLOCK_HOPS) }, (_, block) => {
    const sums = new Float64Array(count + 1);
    for (let band = 0; band < count; band++) {
      let sum = 0;
      for (let hop = block * BLOCK_HOPS; hop < (block + 1) * BLOCK_HOPS; hop++)
        sum += 10 ** bands[hop * bandCount + firstBand + band]! - 1;
      sums[band + 1] = sums[band]! + sum / BLOCK_HOPS;
    }
    let [logarithms, total] = [0, 0];
    for (let band = 0; band < count; band++) {
      const from = Math.max(0, band - AROUND_BANDS);
      const to = Math.min(count, band + AROUND_BANDS + 1);
      const around = (sums[to]! - sums[from]!) / (to - from);
      const ratio = (sums[band + 1]! - sums[band]! + 1e-9) / (around + 1e-9);
      logarithms += Math.log(ratio);
      total += ratio;
    }
    return { flatness: Math.exp(logarithms / count) / (total / count), level: sums[count]! / count };
  });
}
