import { FRAME_SECONDS, HOP_SECONDS } from "./audio.ts";
import type { BeatActivations } from "./beat-network.ts";

/** Felt beats in a bar that are considered: 2/4 and 6/8 have two, 3/4 three, 4/4 and 12/8 four, 5/4 five. */
const BAR_LENGTHS = [2, 3, 4, 5];
const SLOWEST_BPM = 40;
const FASTEST_BPM = 224;
/** Beat periods are spaced evenly in logarithm, but never closer than a hop. */
const PERIODS = 60;
/** Cost of changing the period by a factor e from one beat to the next. */
const TEMPO_CHANGE_COST = 20;
/** Changes of the period by more than this many steps in the list are not considered. */
const WIDEST_CHANGE = 7;
/** Added to the log odds of every beat: what a beat may lack before it is better left out. */
const BEAT_BONUS = 0.6;
const CANDIDATE_REACH = 12;
const CANDIDATE_DROP = 2;
const CANDIDATE_WEAK = -1.5;
const METER_CHANGE_COST = 16;
const FREE_TIME_COST = 20;
const BAR_WEIGHT = 1;
/** A bar of four is common, of five rare. Common practice. */
const METER_COST: Readonly<Record<number, number>> = { 2: 2, 3: 1, 4: 0, 5: 3 };

export interface TrackedBeat {
  /** In hops of 10 ms. */
  readonly hop: number;
  /** 1 starts a bar. */
  readonly position: number;
  readonly beatsPerBar: number;
  /** Whether free time comes before it. */
  readonly entersTime: boolean;
}

/**
 * Beats and bars at once: the best path through a bar-pointer model (Whiteley, Cemgil & Godsill 2006; Krebs, Böck & Widmer
 * 2015) over period, place in the bar and length of the bar, with a state beside it for stretches without time. Written as a
 * semi-Markov chain: a path is a sequence of beats, and scores each beat's log odds of being a beat and of starting a
 * bar, less what changes of tempo and meter cost; frames in between score nothing. Returns beats in rising order.
 * Cost: O(hops * places * periods * changes), with 14 places, 64 periods and 19 changes.
 */
export function trackBars(activations: BeatActivations): TrackedBeat[] {
  const hopCount = Math.round(activations.frameCount * (FRAME_SECONDS / HOP_SECONDS));
  if (hopCount === 0) return [];
  const { beat, bar, noBar } = beatScores(activations, hopCount);
  const periods = beatPeriods();
  const count = periods.length;
  const cells = PLACES.length * count;
  const changeCost = tempoChangeCosts(periods);
  // What a beat at one of the last hops is worth to the next beat, whose period is known by then.
  const ringLength = periods[count - 1]! + 1;
  const ring = new Float32Array(ringLength * cells).fill(-Infinity);
  const score = new Float32Array(cells);
  // Per hop and cell: from which place the best path came (upper 3 bits), and to which period it changed after (lower 5).
  const decisions = new Uint8Array(hopCount * cells);
  const free = new Float32Array(hopCount);
  // The last beat before the free time at a hop, as hop * cells + cell; -1 where the song began with free time.
  const lastBeat = new Int32Array(hopCount).fill(-1);

  const candidates = candidateHops(beat);

  for (let hop = 0; hop < hopCount; hop++) {
    const freeBefore = hop > 0 ? free[hop - 1]! : 0;
    free[hop] = freeBefore;
    if (hop > 0) lastBeat[hop] = lastBeat[hop - 1]!;
    const row = (hop % ringLength) * cells;
    if (!candidates[hop]) {
      ring.fill(-Infinity, row, row + cells);
      continue;
    }
    const decision = hop * cells;
    let best = -Infinity;
    let bestCell = -1;
    for (let p = 0; p < PLACES.length; p++) {
      const place = PLACES[p]!;
      const worth = beat[hop]! + (place.position === 1 ? bar[hop]! : noBar[hop]!);
      const entry = freeBefore - FREE_TIME_COST - METER_COST[place.beatsPerBar]!;
      const base = p * count;
      for (let i = 0; i < count; i++) {
        const from = hop - periods[i]!;
        let value = entry;
        let source = FROM_FREE_TIME;
        if (from >= 0 && candidates[from]) {
          const earlier = (from % ringLength) * cells + i;
          for (let b = 0; b < place.before.length; b++) {
            const candidate = ring[earlier + place.before[b]! * count]! - place.cost[b]!;
            if (candidate > value) {
              value = candidate;
              source = b;
            }
          }
        }
        score[base + i] = value + worth;
        decisions[decision + base + i] = source << 5;
        if (value + worth > best) {
          best = value + worth;
          bestCell = base + i;
        }
      }
    }
    for (let base = 0; base < cells; base += count) {
      for (let i = 0; i < count; i++) {
        const first = Math.max(0, i - WIDEST_CHANGE);
        const last = Math.min(count - 1, i + WIDEST_CHANGE);
        let value = -Infinity;
        let from = first;
        for (let j = first; j <= last; j++) {
          const candidate = score[base + j]! - changeCost[j * count + i]!;
          if (candidate > value) {
            value = candidate;
            from = j;
          }
        }
        ring[row + base + i] = value;
        decisions[decision + base + i]! |= from - i + WIDEST_CHANGE;
      }
    }
    if (best - FREE_TIME_COST > freeBefore) {
      free[hop] = best - FREE_TIME_COST;
      lastBeat[hop] = hop * cells + bestCell;
    }
  }

  const beats: TrackedBeat[] = [];
  let state = lastBeat[hopCount - 1]!;
  while (state >= 0) {
    const hop = Math.floor(state / cells);
    const cell = state % cells;
    const place = PLACES[Math.floor(cell / count)]!;
    const period = cell % count;
    const source = decisions[state]! >> 5;
    const entersTime = source === FROM_FREE_TIME;
    beats.push({ hop, position: place.position, beatsPerBar: place.beatsPerBar, entersTime });
    if (entersTime) {
      state = hop > 0 ? lastBeat[hop - 1]! : -1;
    } else {
      const before = (hop - periods[period]!) * cells + place.before[source]! * count;
      state = before + period + (decisions[before + period]! & 31) - WIDEST_CHANGE;
    }
  }
  return beats.reverse();
}

const FROM_FREE_TIME = 7;

/** One place in one kind of bar. */
interface Place {
  readonly position: number;
  readonly beatsPerBar: number;
  /** The places that the beat before can have, as indices of PLACES, and what the step from each costs. */
  readonly before: readonly number[];
  readonly cost: readonly number[];
}

const PLACES: readonly Place[] = BAR_LENGTHS.flatMap((beatsPerBar, kind) =>
  Array.from({ length: beatsPerBar }, (_, i): Place => {
    const offset = (bars: number): number => BAR_LENGTHS.slice(0, bars).reduce((sum, length) => sum + length, 0);
    const before = i > 0 ? [offset(kind) + i - 1] : BAR_LENGTHS.map((_, other) => offset(other + 1) - 1);
    return {
      position: i + 1,
      beatsPerBar,
      before,
      cost: before.map((_, other) => (i > 0 || other === kind ? 0 : METER_CHANGE_COST)),
    };
  }),
);

/**
 * Which hops may be beats: those within CANDIDATE_DROP of the strongest within CANDIDATE_REACH, and where nothing is strong
 * every second one, because the pulse may go on through a rest. It saves most of the work and never changed a result.
 */
function candidateHops(beat: Float32Array): Uint8Array {
  const candidates = new Uint8Array(beat.length);
  for (let hop = 0; hop < beat.length; hop++) {
    let strongest = -Infinity;
    const last = Math.min(beat.length - 1, hop + CANDIDATE_REACH);
    for (let i = Math.max(0, hop - CANDIDATE_REACH); i <= last; i++) strongest = Math.max(strongest, beat[i]!);
    candidates[hop] = strongest < CANDIDATE_WEAK ? 1 - (hop & 1) : Number(beat[hop]! >= strongest - CANDIDATE_DROP);
  }
  return candidates;
}

/** Beat periods in hops, rising. */
function beatPeriods(): number[] {
  const shortest = 60 / FASTEST_BPM / HOP_SECONDS;
  const longest = 60 / SLOWEST_BPM / HOP_SECONDS;
  const steps = Array.from({ length: PERIODS }, (_, i) =>
    Math.round(shortest * (longest / shortest) ** (i / (PERIODS - 1))),
  );
  return [...new Set(steps)];
}

/** Cost of going from period j to period i, at j * count + i. */
function tempoChangeCosts(periods: readonly number[]): Float32Array {
  return Float32Array.from({ length: periods.length ** 2 }, (_, k) => {
    const before = periods[Math.floor(k / periods.length)]!;
    const after = periods[k % periods.length]!;
    return TEMPO_CHANGE_COST * Math.abs(Math.log(after / before));
  });
}

/** Worth of a beat at each hop, and of that beat starting or not starting a bar, as log odds; frames are interpolated. */
function beatScores(
  activations: BeatActivations,
  hopCount: number,
): { beat: Float32Array; bar: Float32Array; noBar: Float32Array } {
  const beat = new Float32Array(hopCount);
  const bar = new Float32Array(hopCount);
  const noBar = new Float32Array(hopCount);
  const perFrame = FRAME_SECONDS / HOP_SECONDS;
  for (let hop = 0; hop < hopCount; hop++) {
    // A frame's centre lies half a hop after its first hop.
    const at = Math.max(0, (hop - 0.5) / perFrame);
    const left = Math.min(activations.frameCount - 1, Math.floor(at));
    const right = Math.min(activations.frameCount - 1, left + 1);
    const mix = at - left;
    const beatOdds = (1 - mix) * activations.beat[left]! + mix * activations.beat[right]!;
    const barOdds = (1 - mix) * activations.barStart[left]! + mix * activations.barStart[right]!;
    const isBeat = 1 / (1 + Math.exp(-beatOdds));
    const isBar = Math.min(0.97, Math.max(0.03, 1 / (1 + Math.exp(-barOdds)) / Math.max(0.05, isBeat)));
    beat[hop] = Math.max(-5, Math.min(5, beatOdds)) + BEAT_BONUS;
    bar[hop] = BAR_WEIGHT * Math.log(isBar);
    noBar[hop] = BAR_WEIGHT * Math.log(1 - isBar);
  }
  return { beat, bar, noBar };
}
