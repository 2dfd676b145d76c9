import { firstIndex } from "../numeric/index.ts";
import type { FitRequest, SlideForFit } from "./fit-request.ts";
import { naturalLengths } from "./metre.ts";
import { LONGEST_SLOT_SECONDS, type PaceWish, SHORTEST_FREE_SECONDS, SHORTEST_SLOT_SECONDS } from "./pace.ts";
import { meanBeatSeconds } from "./pace-units.ts";

/** A hero stands so much longer than its neighbours: twice as many beats where beats are counted, else half as long again. */
const HERO_BEATS = 2;
const HERO_SHARE = 1.5;

/** By how much a slide's wish differs from that of its passage. */
export const heroFactor = (slide: SlideForFit, wish: PaceWish): number =>
  !slide.hero || wish.allowed ? 1 : wish.askedSeconds === null ? HERO_SHARE : HERO_BEATS;

/** What a slide asks for before it has a place; null where it takes what is left. */
function askedSeconds(slide: SlideForFit, wish: PaceWish): number | null {
  const own = slide.lengthLockSeconds ?? slide.wishedSeconds;
  return own ?? (wish.askedSeconds === null ? null : wish.askedSeconds * heroFactor(slide, wish));
}

export interface ChosenOrder {
  /** Which slide each slot shows. */
  readonly order: readonly number[];
  /** What each slide gets of the time that nobody asks for by a pace or a wish of its own. */
  readonly shareSeconds: number;
  /** What all slides together ask for; null where some ask for nothing. */
  readonly askedSeconds: number | null;
}

/**
 * Which slides a film of this length may show, in order: one way or a few, of which the cheapest film
 * is to be taken. All, where their asking fits. Too many: some are left out, first of those rated
 * maybe, each time evenly over the show, so that beginning and end stay; those that must stay go last.
 * Too few: they come round again in order; a single one stands throughout. Where slides take what is
 * left, fewer slots, or more, may be as long as the metre likes them.
 * `wishes` are those of the passages. O(slides log slides).
 */
export function chooseOrders(request: FitRequest, wishes: readonly PaceWish[], filmSeconds: number): ChosenOrder[] {
  const { slides } = request;
  const wishOf = (slide: SlideForFit): PaceWish => wishes[slide.passage]!;
  const asked = slides.map((slide) => askedSeconds(slide, wishOf(slide)));
  const atMost = (slide: SlideForFit, seconds: number): number => Math.min(seconds, slide.materialSeconds ?? Infinity);
  const lengths = lengthsInMetre(request);
  // What a slide needs that takes what is left: two seconds, and a natural length where there are beats.
  const shortest = Math.max(SHORTEST_SLOT_SECONDS, lengths[0] ?? 0);
  const least = slides.map((slide, i) => atMost(slide, asked[i] ?? Math.max(slide.minimumSeconds ?? 0, shortest)));
  const most = slides.map((slide, i) =>
    atMost(slide, asked[i] ?? slide.maximumSeconds ?? wishOf(slide).maximumSeconds * heroFactor(slide, wishOf(slide))),
  );
  const hasFree = asked.some((seconds) => seconds === null);
  // The nearest count fits; without beats, what is left is the slack.
  const slack = hasFree ? (lengths.length > 0 ? shortest / 2 : 0) : sum(least) / slides.length / 2;
  const total = (order: readonly number[], of: readonly number[]): number => order.reduce((s, i) => s + of[i]!, 0);
  const all = slides.map((_, i) => i);
  const chosen = (order: readonly number[]): ChosenOrder => ({
    order,
    shareSeconds: shareOf(request, order, wishes, filmSeconds),
    askedSeconds: hasFree ? null : sum(least),
  });
  if (total(all, least) > filmSeconds + slack) {
    const count = largest(1, slides.length - 1, (n) => total(kept(slides, n), least) <= filmSeconds + slack);
    // Those that must stay are shown for less than two seconds before one of them goes.
    const fewest = Math.max(1, slides.filter(({ stays }) => stays).length);
    const counts = hasFree && lengths.length > 0 ? around(count).map((n) => Math.max(fewest, n)) : [count];
    return [...new Set(counts)].map((n) => chosen(kept(slides, n)));
  }
  if (slides.length > 1 && !request.slidesLead && total(all, most) < filmSeconds - slack) {
    const { length } = rounds(slides.length, most, filmSeconds - slack);
    const inMetre = hasFree ? countsInMetre(asked, lengths, filmSeconds).find((n) => n > length) : undefined;
    const more = inMetre === undefined ? [] : around(inMetre).filter((n) => n > length);
    return [length, ...more].map((n) => chosen(Array.from({ length: n }, (_, k) => k % slides.length)));
  }
  return [chosen(all)];
}

/** A count in metre may be one too many: an upbeat, or a long last chord. */
const around = (count: number): number[] => [count, count - 1];

/** The natural lengths that a picture may have which takes what is left, in seconds, rising; none without beats. */
function lengthsInMetre({ music: { beats, beatsPerBar } }: FitRequest): number[] {
  if (beats.length < 2) return [];
  const beat = meanBeatSeconds(beats);
  return naturalLengths(beatsPerBar)
    .map((length) => length * beat)
    .filter((seconds) => seconds >= SHORTEST_FREE_SECONDS && seconds <= LONGEST_SLOT_SECONDS);
}

/** How many slots a film has if those that take what is left are all of one natural length, for each length; rising. */
function countsInMetre(asked: readonly (number | null)[], lengths: readonly number[], filmSeconds: number): number[] {
  const fixed = asked.filter((seconds) => seconds !== null);
  return lengths.map((seconds) => fixed.length + Math.round((filmSeconds - sum(fixed)) / seconds)).reverse();
}

/** What is left for each of the slides that ask for nothing, heroes counted as more than one. */
function shareOf(
  request: FitRequest,
  order: readonly number[],
  wishes: readonly PaceWish[],
  filmSeconds: number,
): number {
  let fixed = 0;
  let parts = 0;
  for (const index of order) {
    const slide = request.slides[index]!;
    const wish = wishes[slide.passage]!;
    const asked = askedSeconds(slide, wish);
    if (asked === null) parts += heroFactor(slide, wish);
    else fixed += asked;
  }
  return parts === 0 ? filmSeconds / order.length : Math.max(0.2, (filmSeconds - fixed) / parts);
}

/** Round after round until the slides at their longest fill the time. */
function rounds(count: number, most: readonly number[], seconds: number): number[] {
  const order: number[] = [];
  for (let filled = 0; filled < seconds; ) {
    const index = order.length % count;
    order.push(index);
    filled += most[index]!;
  }
  return order;
}

/** So many slides in order: those that must stay, then those kept, then maybe, each evenly spread. */
export function kept(slides: readonly SlideForFit[], count: number): number[] {
  const indices = slides.map((_, index) => index);
  const ranks = [
    indices.filter((index) => slides[index]!.stays),
    indices.filter((index) => !slides[index]!.stays && slides[index]!.rating === "keep"),
    indices.filter((index) => !slides[index]!.stays && slides[index]!.rating === "maybe"),
  ];
  const chosen: number[] = [];
  for (const rank of ranks) chosen.push(...evenly(rank, Math.min(rank.length, count - chosen.length)));
  return chosen.sort((a, b) => a - b);
}

/** So many of a list, evenly spread with both ends. */
function evenly(list: readonly number[], count: number): number[] {
  if (count <= 0) return [];
  if (count === 1) return [list[0]!];
  return Array.from({ length: count }, (_, k) => list[Math.round((k * (list.length - 1)) / (count - 1))]!);
}

/** The largest number in a range (both ends included) for which something holds that holds for all smaller ones; the least where it holds for none. */
export function largest(least: number, most: number, holds: (n: number) => boolean): number {
  return least + firstIndex(most - least, (index) => !holds(least + index + 1));
}

const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);
