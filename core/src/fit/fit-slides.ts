import { HummingTideError } from "../failure/index.ts";
import type { Pace } from "../show/index.ts";
import { type BeatForFit, type LandingCandidate, landingCandidates } from "./landing-candidates.ts";
import { layRun, TOLERANCE_SECONDS } from "./lay-run.ts";
import { regularLandings } from "./regular-pace.ts";

interface SlideForFit {
  readonly id: string;
  /** Slides rated maybe go first where there is no room for all. */
  readonly rating: "keep" | "maybe";
  readonly landingLockSeconds: number | null;
}

export interface FitRequest {
  readonly slides: readonly SlideForFit[];
  readonly beats: readonly BeatForFit[];
  readonly beatsPerBar: number;
  /** The song leads: the film runs from 0 to here. */
  readonly endSeconds: number;
  readonly pace: Pace;
}

export interface FittedSlot {
  readonly slideIndex: number;
  /** 0 the first time that the slide is shown, 1 when the pictures come round again. */
  readonly round: number;
  /** Null for the first slot, which begins with the film. */
  readonly landing: LandingCandidate | null;
  /** Whether a person's lock put it there. */
  readonly locked: boolean;
}

export interface FitResult {
  readonly slots: readonly FittedSlot[];
  /** Indices of slides that found no room. */
  readonly leftOut: readonly number[];
  /** How many slots show a slide again. */
  readonly repeats: number;
  /** Ids of slides whose lock could not be kept together with the ones before it. */
  readonly unmetLocks: readonly string[];
  readonly steady: boolean;
}

/** Common practice: about a second each in a dance run is the fastest that still reads as pictures. */
export const SHORTEST_SLOT_SECONDS = 1;
/** Common practice: 5 to 8 seconds for a title; a still beyond ten seconds feels forgotten. */
export const LONGEST_SLOT_SECONDS = 10;

/**
 * Lays slides over a song that keeps its length. Pace "auto": the best overall fit under the shortest length, bar starts
 * preferred. "bar" and "beats": a change every bar or every n beats. Too many slides: some are left out, first of those rated
 * maybe, each time evenly over the show, so that beginning and end stay. Too few: they come round again in order; a single one stands throughout.
 * Locks are kept as far as they leave every slide its room; the ones that do not are named in `unmetLocks`.
 * Same request, same result. Throws `no-slides` without slides and `no-length` for a film without length.
 */
export function fitSlides(request: FitRequest): FitResult {
  if (request.slides.length === 0) {
    throw new HummingTideError("no-slides", "A film needs at least one picture, and this show has none yet.");
  }
  if (!(request.endSeconds > 0)) {
    throw new HummingTideError(
      "no-length",
      `A film needs a song with some length, but this one has ${request.endSeconds} s.`,
    );
  }
  const steady = request.beats.length > 0;
  const candidates = landingCandidates(request.beats, request.endSeconds);
  const free = request.pace.kind === "auto" || !steady;
  const landings = free ? roomiest(candidates, request.endSeconds) : regularLandings(candidates, request);
  const slotCount = free
    ? autoSlotCount(request.slides.length, landings.length + 1, request.endSeconds)
    : request.slides.length === 1
      ? 1
      : landings.length + 1;
  const order = slideOrder(request.slides, slotCount);
  const laid = free ? layWithLocks(request, candidates, order) : layRegularly(request, candidates, landings, order);
  const used = new Set(order);
  return {
    slots: order.map((slideIndex, k) => ({
      slideIndex,
      round: Math.floor(k / Math.max(1, request.slides.length)),
      landing: k === 0 ? null : laid.landings[k - 1]!,
      locked: laid.lockedSlots.has(k),
    })),
    leftOut: request.slides.map((_, index) => index).filter((index) => !used.has(index)),
    repeats: Math.max(0, slotCount - request.slides.length),
    unmetLocks: laid.unmetLocks,
    steady,
  };
}

/** The most landings that leave every slot its shortest length: always the earliest possible one. */
function roomiest(candidates: readonly LandingCandidate[], endSeconds: number): LandingCandidate[] {
  const chosen: LandingCandidate[] = [];
  let from = 0;
  for (const candidate of candidates) {
    const fits =
      candidate.seconds - from >= SHORTEST_SLOT_SECONDS - TOLERANCE_SECONDS &&
      endSeconds - candidate.seconds >= SHORTEST_SLOT_SECONDS - TOLERANCE_SECONDS;
    if (!fits) continue;
    chosen.push(candidate);
    from = candidate.seconds;
  }
  return chosen;
}

function autoSlotCount(slides: number, room: number, endSeconds: number): number {
  if (slides === 1) return 1;
  const wanted = Math.max(slides, Math.ceil(endSeconds / LONGEST_SLOT_SECONDS));
  return Math.min(wanted, room);
}

/** Which slide each slot shows: all in order, or those that stay, or round after round. */
function slideOrder(slides: readonly SlideForFit[], slots: number): number[] {
  if (slots >= slides.length) return Array.from({ length: slots }, (_, k) => k % slides.length);
  const indices = slides.map((_, index) => index);
  const kept = indices.filter((index) => slides[index]!.rating === "keep");
  const maybe = indices.filter((index) => slides[index]!.rating === "maybe");
  return kept.length >= slots
    ? evenly(kept, slots)
    : [...kept, ...evenly(maybe, slots - kept.length)].sort((a, b) => a - b);
}

/** So many of a list, evenly spread with both ends. */
function evenly(list: readonly number[], count: number): number[] {
  if (count === 1) return [list[0]!];
  return Array.from({ length: count }, (_, k) => list[Math.round((k * (list.length - 1)) / (count - 1))]!);
}

interface Laid {
  readonly landings: readonly LandingCandidate[];
  readonly lockedSlots: ReadonlySet<number>;
  readonly unmetLocks: readonly string[];
}

interface Anchor {
  readonly slot: number;
  readonly seconds: number;
  readonly landing: LandingCandidate;
}

/** Between two locks nothing outside can help or hurt, so the stretches between them are solved one by one, exactly. */
function layWithLocks(request: FitRequest, candidates: readonly LandingCandidate[], order: readonly number[]): Laid {
  const unmetLocks: string[] = [];
  const anchors: Anchor[] = [];
  let landings = laySegments(request, candidates, order.length, anchors);
  for (const [slot, id, seconds] of lockedSlots(request, order)) {
    const landing = nearestCandidate(candidates, seconds);
    const tried = landing && [...anchors, { slot, seconds: landing.seconds, landing }];
    const result = tried && slot > 0 ? laySegments(request, candidates, order.length, tried) : null;
    if (!tried || !result) {
      unmetLocks.push(id);
      continue;
    }
    anchors.splice(0, anchors.length, ...tried);
    landings = result;
  }
  if (!landings) throw new Error("A run without locks always has room, because its slots were counted first.");
  return { landings, lockedSlots: new Set(anchors.map((anchor) => anchor.slot)), unmetLocks };
}

/** Slots whose slide is locked, the first time that it is shown, in slot order. */
function lockedSlots(request: FitRequest, order: readonly number[]): [slot: number, id: string, seconds: number][] {
  const found: [number, string, number][] = [];
  for (const [slot, slideIndex] of order.slice(0, request.slides.length).entries()) {
    const slide = request.slides[slideIndex]!;
    if (slide.landingLockSeconds !== null) found.push([slot, slide.id, slide.landingLockSeconds]);
  }
  return found;
}

function laySegments(
  request: FitRequest,
  candidates: readonly LandingCandidate[],
  slotCount: number,
  anchors: readonly Anchor[],
): LandingCandidate[] | null {
  const landings: LandingCandidate[] = [];
  let from = { slot: 0, seconds: 0 };
  for (const to of [...anchors, { slot: slotCount, seconds: request.endSeconds, landing: null }]) {
    const inside = candidates.filter((c) => c.seconds > from.seconds && c.seconds < to.seconds);
    if (to.seconds <= from.seconds) return null;
    const run = layRun(inside, from.seconds, to.seconds, to.slot - from.slot, SHORTEST_SLOT_SECONDS);
    // A film shorter than the shortest slot still shows its one picture.
    const shortFilm = slotCount === 1 && anchors.length === 0;
    if (!run && !shortFilm) return null;
    landings.push(...(run ?? []));
    if (to.landing) landings.push(to.landing);
    from = to;
  }
  return landings;
}

/** A fixed pace leaves no freedom: a lock moves its own change only, as far as its neighbours allow. */
function layRegularly(
  request: FitRequest,
  candidates: readonly LandingCandidate[],
  regular: readonly LandingCandidate[],
  order: readonly number[],
): Laid {
  const landings = [...regular];
  const moved = new Set<number>();
  const unmetLocks: string[] = [];
  for (const [slot, id, seconds] of lockedSlots(request, order)) {
    const landing = nearestCandidate(candidates, seconds);
    const before = slot >= 2 ? landings[slot - 2]!.seconds : 0;
    const after = landings[slot]?.seconds ?? request.endSeconds;
    if (!landing || slot === 0 || landing.seconds <= before || landing.seconds >= after) {
      unmetLocks.push(id);
      continue;
    }
    landings[slot - 1] = landing;
    moved.add(slot);
  }
  return { landings, lockedSlots: moved, unmetLocks };
}

/** The candidate nearest to a time, the earlier of two equally near. */
function nearestCandidate(candidates: readonly LandingCandidate[], at: number): LandingCandidate | null {
  let best: LandingCandidate | null = null;
  for (const candidate of candidates) {
    if (!best || Math.abs(candidate.seconds - at) < Math.abs(best.seconds - at)) best = candidate;
  }
  return best;
}
