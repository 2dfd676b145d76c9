import { itemAt, lastOf } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import type { Pace } from "../../values/index.ts";
import type { FitRequest, FitResult, LockName, MusicForFit, SlideForFit } from "../index.ts";
import type { Landing } from "../landings.ts";
import type { OrderProblem, SlotWish } from "../order-problem.ts";
import { type CheapestWay, cheapestWay } from "./every-way.ts";

/**
 * The cheapest of all films of a small request: every choice of slides that the rules leave, every
 * landing and end. docs/fit.md written down a second time. It knows even beats that begin one beat
 * behind the start, with all else on beats. Paces are best fit, beats, bars and seconds.
 */
export function cheapestFilm(request: FitRequest, fit: FitResult): number {
  let best = Infinity;
  const own = fit.slots.map(({ slideIndex }) => slideIndex);
  // Others are choices that fill the film as they are: less than they need is a last resort.
  const choices = fit.leftOut.length > 0 ? choicesWithRoom(request) : [];
  const filling = choices.filter((order) => wayOf(request, order, locksOf(request, order))?.isAsNeeded);
  for (const order of [own, ...filling]) {
    const shown = new Set(order);
    const left = request.slides.filter((_, index) => !shown.has(index));
    const worth = left.reduce((sum, slide) => sum + worthOf(slide), 0);
    const repeats = (order.length - shown.size) * (left.length > 0 ? 6 : 1);
    const way = wayOf(request, order, locksOf(request, order));
    if (!way) continue;
    const still = way.isStill ? 10 : 0;
    best = Math.min(best, way.cost + worth + repeats + still + 20 * Math.log2(way.factor));
  }
  return best;
}

/** Whether some locks hold together where all that may give gives. */
export function canHold(request: FitRequest, fit: FitResult, locks: readonly LockName[]): boolean {
  const order = fit.slots.map(({ slideIndex }) => slideIndex);
  const held = locksOf(request, order).filter((lock) => isAmong(lock, locks));
  return wayOf(request, order, held) !== null;
}

/** The locks of all slides of a film. */
export const locksOfFilm = (request: FitRequest, fit: FitResult): LockName[] =>
  locksOf(
    request,
    fit.slots.map(({ slideIndex }) => slideIndex),
  ).map(({ kind, id }) => ({ kind, id }));

const isAmong = ({ kind, id }: LockName, locks: readonly LockName[]): boolean =>
  locks.some((lock) => lock.kind === kind && lock.id === id);

/** What each slot shows: indices of slides. */
type Order = readonly number[];

/** Every choice of slides that has room. */
function choicesWithRoom(request: FitRequest): Order[] {
  const { slides } = request;
  const hasRoom = roomOf(request);
  const choices = Array.from({ length: 2 ** slides.length - 1 }, (_, i) =>
    slides.flatMap((_slide, k) => (((i + 1) >> k) & 1 ? [k] : [])),
  );
  return choices
    .filter((order) => slides.every((slide, k) => !isHeld(slide) || order.includes(k)))
    .filter((order) => hasRoom(order) || order.every((k) => isHeld(itemAt(slides, k))));
}

const isHeld = ({ stays, landingLockSeconds, lengthLockSeconds }: SlideForFit): boolean =>
  stays || landingLockSeconds !== null || lengthLockSeconds !== null;

const worthOf = ({ hero, hasBetterLike, rating }: SlideForFit): number =>
  hero ? 9 : hasBetterLike ? 0.5 : rating === "maybe" ? 1 : 3;

/** The beat of even music, in seconds. */
const beatOf = ({ beats }: MusicForFit): Seconds => itemAt(beats, 0).seconds;

/** What a pace counts, in seconds; null where slides take what is left. */
function countedSeconds(pace: Pace, { beats, beatsPerBar }: MusicForFit): Seconds | null {
  const beat = itemAt(beats, 0).seconds;
  if (pace.kind === "beats") return pace.count * beat;
  if (pace.kind === "bars") return pace.count * beatsPerBar * beat;
  return pace.kind === "seconds" ? pace.seconds : null;
}

const countedOf = ({ passages, music }: FitRequest, slide: SlideForFit): Seconds | null =>
  countedSeconds(itemAt(passages, slide.passage).pace, music);

/** What a slide asks for before it has a place; null where it takes what is left. */
function askedOf(request: FitRequest, slide: SlideForFit): Seconds | null {
  const counted = countedOf(request, slide);
  return slide.lengthLockSeconds ?? slide.wishedSeconds ?? (counted && counted * (slide.hero ? 2 : 1));
}

/** The shortest natural length of at least a second and a half, and no shorter than two seconds. */
function shortestNatural({ music }: FitRequest): Seconds {
  const beats = [1, 2, 4, 8, 16].find((count) => count * beatOf(music) >= 1.5) ?? 16;
  return Math.max(2, beats * beatOf(music));
}

/** What a slide needs at least to be chosen: a hero the next natural length. */
function leastOf(request: FitRequest, slide: SlideForFit): Seconds {
  const material = materialOf(slide, false);
  const beat = beatOf(request.music);
  const long = 1.5 * shortestNatural(request);
  const hero =
    [1, 2, 4, 8, 16].map((beats) => beats * beat).find((seconds) => seconds >= long && seconds <= 11) ?? long;
  const shortest = slide.hero ? hero : shortestNatural(request);
  return Math.min(material, askedOf(request, slide) ?? Math.max(slide.minimumSeconds ?? 0, shortest));
}

const filmSeconds = ({ ends }: FitRequest): Seconds => lastOf(ends).seconds;

/** Tells whether a choice has room, by its length and by what quiet music wants. */
function roomOf(request: FitRequest): (order: Order) => boolean {
  const { slides } = request;
  const isFree = slides.map((slide) => askedOf(request, slide) === null);
  const least = slides.map((slide) => leastOf(request, slide));
  const fitsAt = (factor: number) => (order: Order) => {
    const needed = order.reduce((sum, k) => sum + itemAt(least, k) * (isFree[k] ? factor : 1), 0);
    const half = order.some((k) => isFree[k]) ? shortestNatural(request) : needed / order.length;
    return needed <= filmSeconds(request) + half / 2;
  };
  if (!isFree.includes(true) || fitsAt(1)([...slides.keys()])) return fitsAt(1);
  const over = least.reduce((sum, seconds) => sum + seconds, 0) / filmSeconds(request);
  return fitsAt(Math.max(1, Math.min(quietFactor(request), over)));
}

/** How much longer than its shortest a picture is on average, if twice that where it is quiet. */
function quietFactor({ music }: FitRequest): number {
  const beat = beatOf(music);
  const inside = music.beats.map(({ seconds }) => seconds);
  const wishes = [0, ...inside].map((at) => 1.8 ** -sectionLoudness(music, at));
  const loudest = Math.min(...wishes);
  const steps = wishes.slice(0, -1);
  const slots = steps.reduce((total, wish) => total + (wish / loudest >= 1.6 ? beat / 2 : beat), 0);
  return (beat * steps.length) / slots;
}

/** Of music whose sections are each of one loudness. */
function sectionLoudness({ sections, loudnessAt }: MusicForFit, at: Seconds): number {
  const starts = [0, ...sections.map(({ startSeconds }) => startSeconds).filter((start) => start > 0)];
  const levels = starts.map((start) => loudnessAt(start + 0.1));
  if (Math.max(...levels) - Math.min(...levels) < 0.5) return 0;
  return itemAt(levels, starts.filter((start) => start <= at + 0.01).length - 1);
}

function materialOf({ materialSeconds, moment }: SlideForFit, isStill: boolean): Seconds {
  if (isStill) return Infinity;
  return Math.min(materialSeconds ?? Infinity, moment ? moment.beforeSeconds + moment.afterSeconds : Infinity);
}

interface HeldLock extends LockName {
  readonly slot: number;
  readonly seconds: Seconds;
}

/** Each lock on the first showing of its slide, each passage's on its first slide. */
function locksOf({ slides, passages }: FitRequest, order: Order): HeldLock[] {
  return order.flatMap((index, slot): HeldLock[] => {
    if (order.indexOf(index) < slot) return [];
    const { id, passage, landingLockSeconds: at, lengthLockSeconds: length } = itemAt(slides, index);
    const start = itemAt(passages, passage).startLockSeconds;
    const isFirst = order.findIndex((other) => itemAt(slides, other).passage === passage) === slot;
    return [
      ...(isFirst && start !== null
        ? [{ kind: "passage" as const, id: itemAt(passages, passage).id, slot, seconds: start }]
        : []),
      ...(at === null ? [] : [{ kind: "landing" as const, id, slot, seconds: at }]),
      ...(length === null ? [] : [{ kind: "length" as const, id, slot, seconds: length }]),
    ];
  });
}

/** The cheapest way to lay an order with some locks, with as little let go as can be. */
function wayOf(
  request: FitRequest,
  order: Order,
  locks: readonly HeldLock[],
): (CheapestWay & { readonly isAsNeeded: boolean; readonly isStill: boolean }) | null {
  for (const [floor, isStill] of [
    [false, false],
    [true, false],
    [true, true],
  ] as const) {
    const problem = problemOf(request, order, locks, floor, isStill);
    const way = problem && cheapestWay(problem);
    if (way) return { ...way, isAsNeeded: !floor, isStill };
  }
  return null;
}

/** Null where two locks want one slot elsewhere, or the first slot not at the start. */
function problemOf(
  request: FitRequest,
  order: Order,
  locks: readonly HeldLock[],
  floor: boolean,
  isStill: boolean,
): OrderProblem | null {
  const landings = landingsOf(request);
  const share = shareOf(request, order);
  const slots = order.map((index, k): SlotWish => {
    const slide = itemAt(request.slides, index);
    const before = k === 0 ? null : itemAt(request.slides, itemAt(order, k - 1));
    const length = locks.find(({ slot, kind }) => slot === k && kind === "length");
    return {
      ...boundsOf(request, slide, floor),
      ...(order.length === 1 ? { minimumSeconds: 0 } : {}),
      materialSeconds: materialOf(slide, isStill),
      logWish: Float64Array.from([0, ...landings.map(({ seconds }) => seconds)], (at) =>
        Math.log(Math.min(wishAt(request, slide, share, at), isStill ? (slide.materialSeconds ?? Infinity) : Infinity)),
      ),
      lengthLockSeconds: length?.seconds ?? null,
      landingLock: null,
      allowed: null,
      landingWeight: slide.hero ? 2 : 1,
      startsPassage: before !== null && before.passage !== slide.passage,
      rhythm: askedOf(request, slide) === null ? (slide.hero ? "passed" : "kept") : "free",
      metreOnly: countedOf(request, slide) !== null,
      moment: slide.moment,
      plannedLanding: null,
    };
  });
  for (const { slot, kind, seconds } of locks) {
    if (kind === "length" || (slot === 0 && seconds < 0.2)) continue;
    const distances = landings.map((landing) => Math.abs(landing.seconds - seconds));
    const landingLock = distances.indexOf(Math.min(...distances));
    const wish = itemAt(slots, slot);
    if (slot === 0 || (wish.landingLock !== null && wish.landingLock !== landingLock)) return null;
    slots[slot] = { ...wish, landingLock };
  }
  return { landings, slots, ends: endsOf(request, order), beatsPerBar: request.music.beatsPerBar, firstBeat: null };
}

/** What is left for each slide that asks for nothing, heroes counted as one and a half. */
function shareOf(request: FitRequest, order: Order): Seconds {
  if (request.slidesLead) return 4;
  const slides = order.map((index) => itemAt(request.slides, index));
  const asked = slides.reduce((sum, slide) => sum + (askedOf(request, slide) ?? 0), 0);
  const parts = slides.reduce((sum, slide) => sum + (askedOf(request, slide) === null ? (slide.hero ? 1.5 : 1) : 0), 0);
  return parts === 0 ? 1 : Math.max(0.2, (filmSeconds(request) - asked) / parts);
}

/** What a slide wishes that begins at a moment. */
function wishAt(request: FitRequest, slide: SlideForFit, share: Seconds, at: Seconds): Seconds {
  if (slide.wishedSeconds !== null) return slide.wishedSeconds;
  const counted = countedOf(request, slide);
  if (counted !== null) return counted * (slide.hero ? 2 : 1);
  return share * (slide.hero ? 1.5 : 1) * 1.8 ** -sectionLoudness(request.music, at);
}

function boundsOf(request: FitRequest, slide: SlideForFit, floor: boolean) {
  const { hero, wishedSeconds: own, minimumSeconds: reading } = slide;
  const counted = countedOf(request, slide);
  const shortest = counted === null ? 1.5 : Math.max(0.2, Math.min(2, 0.6 * counted));
  const longest = (counted === null ? 11 : Math.max(10, 2 * counted)) * (hero ? (counted === null ? 1.5 : 2) : 1);
  let least = own === null ? shortest : Math.min(shortest, own / 2);
  if (hero && own === null && counted === null) least = Math.max(least, 1.5 * shortestNatural(request));
  if (reading !== null && (own !== null || counted === null))
    least = Math.max(least, Math.min(reading, own ?? reading));
  if (floor) least = Math.min(least, 1);
  return {
    minimumSeconds: Math.min(least, materialOf(slide, false)),
    maximumSeconds: Math.max(longest, 2 * Math.max(own ?? 0, reading ?? 0)),
  };
}

function endsOf(request: FitRequest, order: Order): OrderProblem["ends"] {
  if (!request.slidesLead) return request.ends;
  const asked = order.reduce((sum, index) => {
    const slide = itemAt(request.slides, index);
    return sum + (slide.lengthLockSeconds ?? wishAt(request, slide, 4, 0));
  }, 0);
  return endsAfter(request, order).map(({ seconds, cost }) => ({
    seconds,
    cost: cost + 40 * order.length * Math.log(seconds / asked) ** 2,
  }));
}

/** Behind a last slide of a locked length the film ends wherever that began on a landing. */
function endsAfter(request: FitRequest, order: Order): OrderProblem["ends"] {
  const length = itemAt(request.slides, lastOf(order)).lengthLockSeconds;
  if (length === null || order.lastIndexOf(lastOf(order)) !== order.indexOf(lastOf(order))) return request.ends;
  const starts = order.length === 1 ? [0] : landingsOf(request).map(({ seconds }) => seconds);
  const inside = starts.map((start) => start + length).filter((end) => end <= filmSeconds(request));
  const cost = Math.max(...request.ends.map((end) => end.cost));
  return inside.length > 0 ? inside.map((seconds) => ({ seconds, cost })) : request.ends;
}

/** Places of the table of docs/fit.md; a later kind of the same place is the stronger. */
function landingsOf({ music, ends }: FitRequest): Landing[] {
  const isOn = (list: readonly number[], at: Seconds): boolean => list.some((other) => Math.abs(other - at) < 0.01);
  return music.beats
    .map(({ seconds, position }, beatIndex): Landing => {
      let [kind, strength]: [Landing["kind"], number] = position === 1 ? ["bar", 0.75] : ["beat", 0.4];
      if (isOn(music.phrases, seconds)) [kind, strength] = ["phrase", 0.9];
      if (
        isOn(
          music.sections.map(({ startSeconds }) => startSeconds),
          seconds,
        )
      )
        [kind, strength] = ["section", 1];
      const metreStrength = strength;
      const accent = music.accents.find((other) => Math.abs(other.seconds - seconds) < 0.01)?.strength ?? 0;
      strength = Math.min(1, strength + 0.15 * accent);
      if (
        isOn(
          music.markers.map((marker) => marker.seconds),
          seconds,
        )
      )
        [kind, strength] = ["marker", 1];
      return { seconds, kind, strength, metreStrength, beatIndex, name: "", accent, markerOrigin: null };
    })
    .filter(({ seconds }) => seconds >= 0.2 && seconds <= lastOf(ends).seconds - 0.2);
}
