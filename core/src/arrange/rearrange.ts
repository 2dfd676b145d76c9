import type { Grid } from "../grid/index.ts";
import { type BarFeatures, barFeatures, barLikeness, type MusicAnalysis } from "../music/index.ts";
import { itemAt, present } from "../presence/index.ts";
import { LARGEST_SPEED_CHANGE, type SongJoin } from "../show/index.ts";
import type { Seconds } from "../time/index.ts";
import { arrangeError } from "./arrange-errors.ts";

/** A song as whole bars. */
export interface SongBars {
  /**
   * Starts of all bars in seconds of the song, and the end of the last one: one more than there are
   * bars.
   */
  readonly starts: readonly number[];
  readonly features: BarFeatures;
  /** Usual bars in a phrase. */
  readonly phraseBars: number;
}

/**
 * How the wished length is met: "bars" ends on the song's own ending, as near as whole bars come;
 * "tempo" does so and plays it all up to 1 % faster or slower, so that it is met exactly; "fade"
 * takes whole bars that are a little too long, sinks over the last two and stops at the wished
 * length exactly.
 */
export interface LengthWish {
  readonly seconds: Seconds;
  readonly finish: "bars" | "tempo" | "fade";
  /** Joins that were heard and not wanted. */
  readonly refused: readonly SongJoin[];
}

interface ProposedJoin extends SongJoin {
  /** How alike the music is that is left and that is gone to, over two bars: at most 1. */
  readonly likeness: number;
}

export interface Rearrangement {
  readonly joins: readonly ProposedJoin[];
  /** As it is played, at `speed`. */
  readonly lengthSeconds: Seconds;
  readonly speed: number;
  /**
   * With "fade": the second of the song at which it stops, and the bars over which it sinks; null
   * otherwise.
   */
  readonly trimEndSeconds: Seconds | null;
  readonly fadeOutBars: number | null;
}

/** With "fade" the music sinks over so many bars, beginning on a bar start: common practice. */
const FADE_BARS = 2;
/** A join less alike than this is heard. */
const LOWEST_LIKENESS = 0.6;
/** Joins considered from each bar: the most alike. */
const JOINS_OF_A_BAR = 12;
/** Between two joins the ear needs a phrase to settle. */
const SHORTEST_RUN_BARS = 4;
/**
 * What a join costs beside its unlikeness, and one that breaks a phrase; a bar off the wished
 * length. In units of likeness.
 */
const JOIN_COST = 0.05;
const BROKEN_PHRASE_COST = 0.15;
const LENGTH_COST = 0.08;
/** Whole bars meet a length within so many of them. */
const REACH_BARS = 2;
/** A join nearer to a bar line than this lies on it. */
const BAR_LINE_SECONDS = 0.1;
/** A song of fewer bars has nothing to rearrange. */
const FEWEST_BARS = 2 * SHORTEST_RUN_BARS;

/**
 * Shortens or lengthens a song at bar lines: the path through its bars whose length is nearest to
 * the wish and whose joins are heard least. Found by dynamic programming over bars played, bar and
 * bars since the last join; exact for these costs. Joins lead from one place to another where the
 * bars on both sides are alike (self-similarity of bars: harmony, bass, rhythm and timbre) and keep
 * the place in the phrase where they can. Throws `not-rearrangeable` where the song has fewer than
 * eight bars or no such path comes within two bars (with "tempo": within 1 %; with "fade": none
 * that is longer). O(bars * wished bars * 50).
 */
export function rearrange(bars: SongBars, wish: LengthWish): Rearrangement {
  const count = bars.starts.length - 1;
  if (count < FEWEST_BARS) {
    throw arrangeError("not-rearrangeable", { why: "too-few-bars", bars: Math.max(0, count), fewest: FEWEST_BARS });
  }
  const meanBar = (itemAt(bars.starts, count) - itemAt(bars.starts, 0)) / count;
  // What lies before the first bar is always played.
  const lead = itemAt(bars.starts, 0);
  const wishedBars = Math.max(SHORTEST_RUN_BARS, Math.round((wish.seconds - lead) / meanBar));
  const paths = cheapestPaths(bars, candidateJoins(bars, wish.refused), wishedBars + REACH_BARS + 1);
  let best: { path: Path; cost: number } | null = null;
  for (let played = Math.max(1, wishedBars - REACH_BARS - 1); played <= wishedBars + REACH_BARS + 1; played++) {
    const path = paths(played);
    if (!path) continue;
    const over = lead + path.seconds - wish.seconds;
    const off = Math.abs(over);
    const isNear =
      wish.finish === "tempo"
        ? Math.abs((lead + path.seconds) / wish.seconds - 1) <= LARGEST_SPEED_CHANGE
        : off <= REACH_BARS * meanBar && (wish.finish === "bars" || over >= 0);
    const cost = path.cost + (LENGTH_COST * off) / meanBar;
    if (isNear && (!best || cost < best.cost)) best = { path, cost };
  }
  if (!best) {
    throw arrangeError("not-rearrangeable", {
      why: "no-quiet-joins",
      seconds: wish.seconds,
      reach: wish.finish === "tempo" ? "1 %" : `${REACH_BARS} bars`,
    });
  }
  const recorded = lead + best.path.seconds;
  const { joins } = best.path;
  if (wish.finish === "fade" && recorded > wish.seconds) {
    const trimEndSeconds = itemAt(bars.starts, count) - (recorded - wish.seconds);
    return { joins, lengthSeconds: wish.seconds, speed: 1, trimEndSeconds, fadeOutBars: FADE_BARS };
  }
  const speed = wish.finish === "tempo" ? recorded / wish.seconds : 1;
  return { joins, lengthSeconds: recorded / speed, speed, trimEndSeconds: null, fadeOutBars: null };
}

/**
 * How alike the music is on both sides of a join, over two bars: at most 1; null where it does not
 * lie on bar lines. O(bars).
 */
export function joinLikeness({ starts, features }: SongBars, join: SongJoin): number | null {
  const barAt = (seconds: Seconds): number => starts.findIndex((start) => Math.abs(start - seconds) < BAR_LINE_SECONDS);
  const [from, to] = [barAt(join.fromSeconds), barAt(join.toSeconds)];
  if (from < 1 || to < 1 || from >= features.barCount || to >= features.barCount) return null;
  return (barLikeness(features, from, to) + barLikeness(features, from - 1, to - 1)) / 2;
}

interface Candidate {
  readonly toBar: number;
  readonly likeness: number;
  readonly cost: number;
}

/** For each bar the places where the song may go on behind it, other than the next bar. */
function candidateJoins(bars: SongBars, refused: readonly SongJoin[]): Candidate[][] {
  const { starts, features, phraseBars } = bars;
  const count = starts.length - 1;
  const isRefused = (from: number, to: number): boolean =>
    refused.some(
      (join) =>
        Math.abs(join.fromSeconds - from) < BAR_LINE_SECONDS && Math.abs(join.toSeconds - to) < BAR_LINE_SECONDS,
    );
  return Array.from({ length: count }, (_, bar) => {
    // Behind the last bar the song is over: nothing is left that could be compared.
    if (bar === count - 1) return [];
    const found: Candidate[] = [];
    for (let toBar = 1; toBar < count; toBar++) {
      if (toBar === bar + 1 || isRefused(itemAt(starts, bar + 1), itemAt(starts, toBar))) continue;
      const likeness = (barLikeness(features, bar + 1, toBar) + barLikeness(features, bar, toBar - 1)) / 2;
      if (likeness < LOWEST_LIKENESS) continue;
      const keepsPhrase = (toBar - bar - 1) % phraseBars === 0;
      found.push({ toBar, likeness, cost: 1 - likeness + JOIN_COST + (keepsPhrase ? 0 : BROKEN_PHRASE_COST) });
    }
    return found.sort((a, b) => a.cost - b.cost || a.toBar - b.toBar).slice(0, JOINS_OF_A_BAR);
  });
}

/**
 * The bars of a song's grid as they are compared; the last one ends where the music does. Throws
 * `not-rearrangeable` where the song has no bars or was heard without a beat.
 */
export function songBars(analysis: MusicAnalysis, grid: Grid): SongBars {
  const bars = grid.beats.filter((beat) => beat.position === 1).map((beat) => beat.seconds);
  const last = bars.at(-1);
  if (!analysis.texture || last === undefined) {
    throw arrangeError("not-rearrangeable", { why: "no-bars" });
  }
  const starts = [...bars, Math.max(analysis.musicEndSeconds, last + 0.1)];
  return { starts, features: barFeatures(starts, analysis.texture), phraseBars: analysis.phraseBars ?? 4 };
}

interface Path {
  readonly cost: number;
  /** From the first bar's start to the last bar's end. */
  readonly seconds: Seconds;
  readonly joins: readonly ProposedJoin[];
}

/**
 * Cheapest way through the song that plays so many bars and ends with the last, for each number up
 * to `most`.
 */
function cheapestPaths(
  { starts }: SongBars,
  candidates: readonly (readonly Candidate[])[],
  most: number,
): (played: number) => Path | null {
  const count = starts.length - 1;
  const ages = SHORTEST_RUN_BARS;
  const width = count * ages;
  // State: the bar that plays, and how many bars have played since the last join, the last value
  // standing for "or more".
  const costs = new Float64Array((most + 1) * width).fill(Infinity);
  const from = new Int32Array((most + 1) * width).fill(-1);
  costs[width] = 0;
  const improve = (played: number, bar: number, age: number, cost: number, before: number): void => {
    const at = played * width + bar * ages + age;
    if (cost < itemAt(costs, at)) {
      costs[at] = cost;
      from[at] = before;
    }
  };
  for (let played = 1; played < most; played++) {
    for (let bar = 0; bar < count; bar++) {
      for (let age = 0; age < ages; age++) {
        const at = played * width + bar * ages + age;
        const cost = itemAt(costs, at);
        if (cost === Infinity) continue;
        if (bar + 1 < count) improve(played + 1, bar + 1, Math.min(ages - 1, age + 1), cost, at);
        if (age < ages - 1) continue;
        for (const join of itemAt(candidates, bar)) improve(played + 1, join.toBar, 0, cost + join.cost, at);
      }
    }
  }
  return (played) => {
    let at = played * width + (count - 1) * ages + ages - 1;
    const cost = costs[at];
    if (cost === undefined || cost === Infinity) return null;
    const order: number[] = [];
    for (; at >= 0; at = itemAt(from, at)) order.unshift(Math.floor((at % width) / ages));
    const joins: ProposedJoin[] = [];
    let seconds = 0;
    for (const [i, bar] of order.entries()) {
      seconds += itemAt(starts, bar + 1) - itemAt(starts, bar);
      const next = order[i + 1];
      if (next === undefined || next === bar + 1) continue;
      const { likeness } = present(itemAt(candidates, bar).find((join) => join.toBar === next));
      joins.push({ fromSeconds: itemAt(starts, bar + 1), toSeconds: itemAt(starts, next), likeness });
    }
    return { cost, seconds, joins };
  };
}
