import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import type { FitRequest, FitResult, LockName } from "./fit-request.ts";
import type { Landing } from "./landings.ts";
import { findsAccent } from "./moment.ts";
import { HERO_LANDING_WEIGHT, LENGTH_WEIGHT, landingCost, MOMENT_ACCENT, MOMENT_WEIGHT } from "./order-problem.ts";
import { findsNoPlace, SHORTEST_FAST_SECONDS, SHORTEST_SLOT_SECONDS } from "./pace.ts";

/** A lock as people know it: by the place of its slide in the show, from 1, or by its passage. */
export type NamedLock =
  | { readonly kind: "landing" | "length" | "stays"; readonly slide: number }
  | { readonly kind: "passage"; readonly passage: number; readonly name: string };

/** How slides and music agree, as values; fit-sentences.ts has the words. */
export type FitMessage =
  | {
      readonly kind: "agreement";
      readonly slots: number;
      readonly endSeconds: Seconds;
      /** What all slides together ask for; null where some take what is left, or all have it. */
      readonly asked: { readonly slides: number; readonly seconds: Seconds } | null;
    }
  | {
      readonly kind: "left-out";
      readonly slides: number;
      readonly leftOut: number;
      readonly endSeconds: Seconds;
      readonly askedSeconds: Seconds | null;
      /** What each picture has at least on average where it takes what is left. */
      readonly floorSeconds: Seconds;
      /** Whether fewer are shown than have room, because quiet music wants longer pictures. */
      readonly quietRoom: boolean;
    }
  | {
      readonly kind: "repeated";
      readonly slides: number;
      readonly repeats: number;
      readonly endSeconds: Seconds;
    }
  | { readonly kind: "no-beat" | "longer-than-most" | "beyond-material" }
  /** A pace finds nothing to land on in a passage, by its number; null: the film has no other. */
  | {
      readonly kind: "no-places";
      readonly of: "accents" | "markers" | "taps";
      readonly passage: number | null;
      readonly name: string;
    }
  | {
      /** Locks that cannot hold together, or slides that have no room though they must stay. */
      readonly kind: "conflict" | "cannot-stay";
      readonly locks: readonly NamedLock[];
    };

/**
 * How slides and music agree: what was left out or repeated, and which locks cannot hold together.
 * The first message is always the agreement.
 */
export function explainFit(request: FitRequest, result: FitResult): FitMessage[] {
  const { endSeconds } = result;
  const slides = request.slides.length;
  const messages: FitMessage[] = [
    { kind: "agreement", slots: result.slots.length, endSeconds, asked: askedOf(request, result) },
  ];
  const leftOut = result.leftOut.length;
  if (leftOut > 0) {
    const { askedSeconds, quietRoom } = result;
    const isFast = request.passages.some(({ pace }) => "fast" in pace && pace.fast);
    const floorSeconds = isFast ? SHORTEST_FAST_SECONDS : SHORTEST_SLOT_SECONDS;
    messages.push({ kind: "left-out", slides, leftOut, endSeconds, askedSeconds, floorSeconds, quietRoom });
  }
  if (result.repeats > 0) messages.push({ kind: "repeated", slides, repeats: result.repeats, endSeconds });
  messages.push(...withoutPlaces(request));
  if (!result.steady) messages.push({ kind: "no-beat" });
  if (result.maximumFactor > 1) messages.push({ kind: "longer-than-most" });
  if (result.beyondMaterial) messages.push({ kind: "beyond-material" });
  const cannotStay = result.unmetLocks.filter(({ kind }) => kind === "stays");
  if (cannotStay.length > 0) messages.push({ kind: "cannot-stay", locks: namedLocks(request, cannotStay) });
  if (result.conflict.length > 0) messages.push({ kind: "conflict", locks: namedLocks(request, result.conflict) });
  return messages;
}

/** Passages that hold slides and whose pace finds no place in the music. */
function withoutPlaces({ slides, passages, music }: FitRequest): FitMessage[] {
  return passages.flatMap(({ name, pace }, index): FitMessage[] => {
    if (!findsNoPlace(pace, music) || !slides.some(({ passage }) => passage === index)) return [];
    const of = pace.kind === "accents" ? "accents" : "origin" in pace && pace.origin === "tapped" ? "taps" : "markers";
    return [{ kind: "no-places", of, passage: passages.length > 1 ? index + 1 : null, name }];
  });
}

/** Of less than this share off, the film is as long as its slides ask for. */
const SEEN_OF_FILM = 0.01;

function askedOf({ slides }: FitRequest, { askedSeconds, endSeconds }: FitResult) {
  if (askedSeconds === null || Math.abs(askedSeconds - endSeconds) < endSeconds * SEEN_OF_FILM) return null;
  return { slides: slides.length, seconds: askedSeconds };
}

/** Locks by the places of their slides in the show, or by their passages. */
export const namedLocks = ({ slides, passages }: FitRequest, locks: readonly LockName[]): NamedLock[] =>
  locks.map(({ kind, id }) => {
    if (kind !== "passage") return { kind, slide: slides.find((slide) => slide.id === id)?.place ?? 0 };
    const index = passages.findIndex((passage) => passage.id === id);
    return { kind, passage: index + 1, name: passages[index]?.name ?? "" };
  });

/** A wish that the film does not wholly meet, as values; fit-sentences.ts has the words. */
export type UnmetWish = {
  /** Index of the slot. */
  readonly slot: number;
  /** Its part of the film's cost. */
  readonly cost: number;
} & (
  | { readonly kind: "length"; readonly slide: number; readonly wishedSeconds: Seconds; readonly seconds: Seconds }
  | { readonly kind: "landing"; readonly slide: number; readonly landing: Landing }
  | { readonly kind: "passage"; readonly passage: number; readonly name: string; readonly landing: Landing }
  | { readonly kind: "moment"; readonly slide: number }
);

/** Of less than this share off, a length is as wished: nobody sees it. */
const SEEN_OFF = 0.25;
/** The same where natural lengths a factor of two apart are near enough. */
const SEEN_OFF_IN_METRE = 0.75;
/** A hero on a weaker place than a bar has not what it wishes. */
const HERO_STRENGTH = 0.75;

/** Every wish that was not met, the dearest first. */
export function unmetWishes(request: FitRequest, result: FitResult): UnmetWish[] {
  const accents = request.music.accents
    .filter(({ strength }) => strength >= MOMENT_ACCENT)
    .map(({ seconds }) => seconds);
  return result.slots.flatMap((_, slot) => unmetBy(request, result, slot, accents)).sort((a, b) => b.cost - a.cost);
}

/**
 * What the slot of an index wishes and has not. `accents` are those that a moment may meet, rising.
 */
function unmetBy(request: FitRequest, result: FitResult, k: number, accents: readonly number[]): UnmetWish[] {
  const { slideIndex, landing, wishedSeconds, keepsMetre } = itemAt(result.slots, k);
  const slide = itemAt(request.slides, slideIndex);
  const { place } = slide;
  const from = landing?.seconds ?? 0;
  const to = result.slots[k + 1]?.landing?.seconds ?? result.endSeconds;
  const unmet: UnmetWish[] = [];
  const off = Math.log((to - from) / wishedSeconds);
  if (Math.abs(off) > Math.log(1 + (keepsMetre ? SEEN_OFF_IN_METRE : SEEN_OFF))) {
    const cost = LENGTH_WEIGHT * off * off;
    unmet.push({ kind: "length", slot: k, cost, slide: place, wishedSeconds, seconds: to - from });
  }
  if (slide.hero && landing && landing.kind !== "free" && landing.strength < HERO_STRENGTH) {
    const hero = { landingWeight: HERO_LANDING_WEIGHT, startsPassage: false, landingLock: null, metreOnly: false };
    unmet.push({ kind: "landing", slot: k, cost: landingCost(hero, landing), slide: place, landing });
  }
  const before = result.slots[k - 1];
  if (before && landing && itemAt(request.slides, before.slideIndex).passage !== slide.passage) {
    const cost = landingCost({ landingWeight: 0, startsPassage: true, landingLock: 0, metreOnly: false }, landing);
    const { name } = itemAt(request.passages, slide.passage);
    if (cost > 0) unmet.push({ kind: "passage", slot: k, cost, passage: slide.passage + 1, name, landing });
  }
  if (slide.moment && !findsAccent(slide.moment, from, to, accents))
    unmet.push({ kind: "moment", slot: k, cost: MOMENT_WEIGHT, slide: place });
  return unmet;
}
