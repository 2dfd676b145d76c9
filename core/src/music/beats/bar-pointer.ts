import { itemAt, lastOf } from "../../presence/index.ts";
import { FRAME_SECONDS, HOP_SECONDS } from "../signal/index.ts";
import type { BeatActivations } from "./beat-network.ts";

/**
 * Felt beats in a bar that are considered: 2/4 and 6/8 have two, 3/4 three, 4/4 and 12/8 four, 5/4
 * five.
 */
const BAR_LENGTHS = [2, 3, 4, 5];
const SLOWEST_BPM = 40;
const FASTEST_BPM = 224;
/** Beat periods are spaced evenly in logarithm, but never closer than a hop. */
const PERIODS = 80;
/** Cost of changing the period by a factor e from one beat to the next. */
const TEMPO_CHANGE_COST = 20;
/** Changes of the period by more than this many steps in the list are not considered. */
const WIDEST_CHANGE = 9;
/** Added to the log odds of every beat: what a beat may lack before it is better left out. */
export const BEAT_BONUS = 1;
const CANDIDATE_REACH = 12;
const CANDIDATE_DROP = 2;
const CANDIDATE_WEAK = -1.5;
/**
 * A path this much worse than the best one to the same hop is given up. Less than leaving time and
 * entering it again costs, so that new beginnings are only followed where the old pulse has begun
 * to fail.
 */
const BEAM = 20;
const METER_CHANGE_COST = 16;
const FREE_TIME_COST = 20;
const BAR_WEIGHT = 1;
/**
 * What each bar of so many beats costs: where nothing tells bars apart, they have four. Common
 * practice.
 */
const BAR_COST: Readonly<Record<number, number>> = { 2: 1, 3: 0.3, 4: 0, 5: 0.6 };

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
 * Beats and bars at once: the best path through a bar-pointer model (Whiteley, Cemgil & Godsill
 * 2006; Krebs, Böck & Widmer 2015) over period, place in the bar and length of the bar, with a
 * state beside it for stretches without time. Written as a semi-Markov chain: a path is a sequence
 * of beats. It scores each beat's log odds of being a beat and of starting a bar, less what changes
 * of tempo and meter cost; frames in between score nothing. Returns beats in rising order. Cost:
 * O(hops * places * periods * changes), with 14 places, 80 periods and 19 changes. `prior` is added
 * to the log odds of a beat, per hop: what is known before the network is asked (pulsePrior).
 */
export function trackBars(activations: BeatActivations, prior: Float32Array): TrackedBeat[] {
  const hopCount = Math.round(activations.frameCount * (FRAME_SECONDS / HOP_SECONDS));
  if (hopCount === 0) return [];
  const scores = beatScores(activations, hopCount);
  for (let hop = 0; hop < hopCount; hop++) scores.beat[hop]! += prior[hop] ?? 0;
  const trellis = new Trellis(scores);
  for (let hop = 0; hop < hopCount; hop++) trellis.advance(hop);
  return trellis.bestPath();
}

/**
 * The best paths to all cells of all hops. A cell is a period and a place in the bar; the places of
 * a period lie side by side. The steps are small methods because they are compiled best that way.
 */
class Trellis {
  readonly #scores: BeatScores;
  readonly #candidates: Uint8Array;
  readonly #periods = beatPeriods();
  readonly #changeCost: Float32Array;
  readonly #cells: number;
  /**
   * What a beat at one of the last hops is worth to the next beat, whose period is known by then.
   */
  readonly #ring: Float32Array;
  readonly #ringLength: number;
  readonly #score: Float32Array;
  readonly #worth = new Float64Array(PLACES.length);
  readonly #entry = new Float64Array(PLACES.length);
  /**
   * Per hop and cell: from which place the best path came (upper 3 bits), and to which period it
   * changed after (lower 5).
   */
  readonly #decisions: Uint8Array;
  readonly #free: Float32Array;
  /**
   * The last beat before the free time at a hop, as hop * cells + cell; -1 where the song began
   * with free time.
   */
  readonly #lastBeat: Int32Array;

  constructor(scores: BeatScores) {
    const hopCount = scores.beat.length;
    this.#scores = scores;
    this.#candidates = candidateHops(scores.beat);
    this.#changeCost = tempoChangeCosts(this.#periods);
    this.#cells = this.#periods.length * PLACES.length;
    this.#ringLength = lastOf(this.#periods) + 1;
    this.#ring = new Float32Array(this.#ringLength * this.#cells).fill(-Infinity);
    this.#score = new Float32Array(this.#cells);
    this.#decisions = new Uint8Array(hopCount * this.#cells);
    this.#free = new Float32Array(hopCount);
    this.#lastBeat = new Int32Array(hopCount).fill(-1);
  }

  /** Takes all paths on to the next hop; hops come in order from 0. */
  advance(hop: number): void {
    const freeBefore = hop > 0 ? itemAt(this.#free, hop - 1) : 0;
    this.#free[hop] = freeBefore;
    if (hop > 0) this.#lastBeat[hop] = itemAt(this.#lastBeat, hop - 1);
    const row = (hop % this.#ringLength) * this.#cells;
    this.#ring.fill(-Infinity, row, row + this.#cells);
    if (!this.#candidates[hop]) return;
    const bestCell = this.#arrive(hop, freeBefore);
    const best = this.#score[bestCell]!;
    this.#changeTempo(hop, row, best);
    if (best - FREE_TIME_COST <= freeBefore) return;
    this.#free[hop] = best - FREE_TIME_COST;
    this.#lastBeat[hop] = hop * this.#cells + bestCell;
  }

  /**
   * A beat at this hop: each cell's best path, from a beat one period before or from free time.
   * Returns the best cell.
   */
  #arrive(hop: number, freeBefore: number): number {
    const { beat, bar, noBar } = this.#scores;
    for (const [p, { position, beatsPerBar }] of PLACES.entries()) {
      this.#worth[p] = beat[hop]! + (position === 1 ? bar[hop]! - BAR_COST[beatsPerBar]! : noBar[hop]!);
      this.#entry[p] = freeBefore - FREE_TIME_COST;
    }
    let bestCell = 0;
    for (const [i, period] of this.#periods.entries()) {
      const from = hop - period;
      const cell = i * PLACES.length;
      if (from >= 0 && this.#candidates[from])
        this.#arriveFrom(hop, cell, (from % this.#ringLength) * this.#cells + cell);
      else this.#enter(hop, cell);
      for (let p = cell; p < cell + PLACES.length; p++) if (this.#score[p]! > this.#score[bestCell]!) bestCell = p;
    }
    return bestCell;
  }

  /**
   * All places of one period, each from the places that can come before it (`earlier` is where they
   * lie in the ring).
   */
  #arriveFrom(hop: number, firstCell: number, earlier: number): void {
    const [ring, score, decisions, worth, entry] = [this.#ring, this.#score, this.#decisions, this.#worth, this.#entry];
    const decision = hop * this.#cells + firstCell;
    for (let p = 0; p < KIND_OF_START.length; p++) {
      let value = entry[p]!;
      let source = FROM_FREE_TIME;
      const ownKind = KIND_OF_START[p]!;
      if (ownKind === NO_START) {
        const candidate = ring[earlier + p - 1]!;
        if (candidate > value) {
          value = candidate;
          source = FROM_SAME_BAR;
        }
      } else {
        for (let kind = 0; kind < LAST_PLACES.length; kind++) {
          const candidate = ring[earlier + LAST_PLACES[kind]!]! - (kind === ownKind ? 0 : METER_CHANGE_COST);
          if (candidate > value) {
            value = candidate;
            source = kind;
          }
        }
      }
      score[firstCell + p] = value + worth[p]!;
      decisions[decision + p] = source << 5;
    }
  }

  /** All places of one period, each from free time. */
  #enter(hop: number, firstCell: number): void {
    const decision = hop * this.#cells + firstCell;
    for (let p = 0; p < KIND_OF_START.length; p++) {
      this.#score[firstCell + p] = this.#entry[p]! + this.#worth[p]!;
      this.#decisions[decision + p] = FROM_FREE_TIME << 5;
    }
  }

  /**
   * What each beat at this hop is worth to the next one, whatever the period that the next one
   * ends.
   */
  #changeTempo(hop: number, row: number, best: number): void {
    const [ring, score, decisions, changeCost] = [this.#ring, this.#score, this.#decisions, this.#changeCost];
    const decision = hop * this.#cells;
    const [count, places] = [this.#periods.length, PLACES.length];
    for (let before = 0; before < score.length; before++) {
      const value = score[before]!;
      if (value < best - BEAM) continue;
      const place = before % places;
      const j = (before - place) / places;
      const last = Math.min(count - 1, j + WIDEST_CHANGE);
      for (let i = Math.max(0, j - WIDEST_CHANGE); i <= last; i++) {
        const cell = i * places + place;
        const candidate = value - changeCost[j * count + i]!;
        if (candidate <= ring[row + cell]!) continue;
        ring[row + cell] = candidate;
        decisions[decision + cell] = (decisions[decision + cell]! & FROM_MASK) | (j - i + WIDEST_CHANGE);
      }
    }
  }

  /** The beats of the best path through all hops, in order. */
  bestPath(): TrackedBeat[] {
    const [cells, places] = [this.#cells, PLACES.length];
    const beats: TrackedBeat[] = [];
    let state = lastOf(this.#lastBeat);
    while (state >= 0) {
      const hop = Math.floor(state / cells);
      const cell = state % cells;
      const source = this.#decisions[state]! >> 5;
      const entersTime = source === FROM_FREE_TIME;
      beats.push({ hop, ...itemAt(PLACES, cell % places), entersTime });
      if (entersTime) {
        state = hop > 0 ? itemAt(this.#lastBeat, hop - 1) : -1;
      } else {
        const period = Math.floor(cell / places);
        const place = source === FROM_SAME_BAR ? (cell % places) - 1 : LAST_PLACES[source]!;
        const before = (hop - this.#periods[period]!) * cells + period * places + place;
        state = before + ((this.#decisions[before]! & ~FROM_MASK) - WIDEST_CHANGE) * places;
      }
    }
    return beats.reverse();
  }
}

/**
 * Where a path came from: the last place of a kind of bar (its index), the place before, or free
 * time.
 */
const FROM_SAME_BAR = 6;
const FROM_FREE_TIME = 7;
/** The bits of a decision that hold where a path came from. */
const FROM_MASK = 0b1110_0000;

/** One place in one kind of bar; the places of a bar follow one another. */
interface Place {
  readonly position: number;
  readonly beatsPerBar: number;
}

const PLACES: readonly Place[] = BAR_LENGTHS.flatMap((beatsPerBar) =>
  Array.from({ length: beatsPerBar }, (_, i) => ({ position: i + 1, beatsPerBar })),
);
/** The last place of each kind of bar: what comes before a bar start. */
const LAST_PLACES = Int32Array.from(BAR_LENGTHS, (length) =>
  PLACES.findIndex((place) => place.beatsPerBar === length && place.position === length),
);
const NO_START = -1;
/** For each place the kind of bar that it starts. */
const KIND_OF_START = Int32Array.from(PLACES, ({ position, beatsPerBar }) =>
  position === 1 ? BAR_LENGTHS.indexOf(beatsPerBar) : NO_START,
);

/**
 * Which hops may be beats: those within CANDIDATE_DROP of the strongest within CANDIDATE_REACH, and
 * where nothing is strong every second one, because the pulse may go on through a rest. It saves
 * most of the work; without it the figures of docs/accuracy.md are 0.002 lower.
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
    const before = itemAt(periods, Math.floor(k / periods.length));
    const after = itemAt(periods, k % periods.length);
    return TEMPO_CHANGE_COST * Math.abs(Math.log(after / before));
  });
}

interface BeatScores {
  readonly beat: Float32Array;
  readonly bar: Float32Array;
  readonly noBar: Float32Array;
}

/**
 * Worth of a beat at each hop, and of that beat starting or not starting a bar, as log odds; frames
 * are interpolated.
 */
function beatScores(activations: BeatActivations, hopCount: number): BeatScores {
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
    const beatOdds = (1 - mix) * itemAt(activations.beat, left) + mix * itemAt(activations.beat, right);
    const barOdds = (1 - mix) * itemAt(activations.barStart, left) + mix * itemAt(activations.barStart, right);
    const isBeat = 1 / (1 + Math.exp(-beatOdds));
    const isBar = Math.min(0.97, Math.max(0.03, 1 / (1 + Math.exp(-barOdds)) / Math.max(0.05, isBeat)));
    beat[hop] = Math.max(-5, Math.min(5, beatOdds)) + BEAT_BONUS;
    bar[hop] = BAR_WEIGHT * Math.log(isBar);
    noBar[hop] = BAR_WEIGHT * Math.log(1 - isBar);
  }
  return { beat, bar, noBar };
}
