import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import type { FitRequest, SlideForFit } from "./fit-request.ts";
import { naturalLengths } from "./metre.ts";
import { TOLERANCE_SECONDS } from "./order-problem.ts";
import { LONGEST_NATURAL_SECONDS, type PaceWish } from "./pace.ts";
import { meanBeatSeconds } from "./pace-units.ts";
import { isHeld } from "./slide-worth.ts";

/**
 * A hero stands so much longer than its neighbours: twice as many beats where beats are counted,
 * else half as long again.
 */
const HERO_BEATS = 2;
const HERO_SHARE = 1.5;

/** By how much a slide's wish differs from that of its passage. */
export const heroFactor = (slide: SlideForFit, wish: PaceWish): number =>
  !slide.hero || wish.allowed ? 1 : wish.askedSeconds === null ? HERO_SHARE : HERO_BEATS;

/** What a slide asks for before it has a place; null where it takes what is left. */
function askedSeconds(slide: SlideForFit, wish: PaceWish): Seconds | null {
  const own = slide.lengthLockSeconds ?? slide.wishedSeconds;
  return own ?? (wish.askedSeconds === null ? null : wish.askedSeconds * heroFactor(slide, wish));
}

/** What each slide asks for, needs and may have before it has a place, by its index; in seconds. */
export interface SlideNeeds {
  /** Null for those that take what is left. */
  readonly asked: readonly (Seconds | null)[];
  /** No more than a clip lasts. */
  readonly least: readonly Seconds[];
  readonly most: readonly Seconds[];
  /** How many others a slide stands for that a person holds or made a hero; 1 for all others. */
  readonly spans: readonly number[];
  /** Natural lengths of those that take what is left, rising. Empty without beats. */
  readonly lengths: readonly Seconds[];
  /** The shortest length of those that take what is left. */
  readonly shortestSeconds: Seconds;
  /** The shortest length of a hero that takes what is left, by passage: 1.5 times others'. */
  readonly heroSeconds: readonly Seconds[];
}

/** `wishes` are those of the passages. O(slides). */
export function slideNeeds(request: FitRequest, wishes: readonly PaceWish[]): SlideNeeds {
  const { slides } = request;
  const wishOf = (slide: SlideForFit): PaceWish => itemAt(wishes, slide.passage);
  const atMost = (slide: SlideForFit, seconds: Seconds): Seconds =>
    Math.min(seconds, slide.materialSeconds ?? Infinity);
  const asked = slides.map((slide) => askedSeconds(slide, wishOf(slide)));
  const freely = wishes.filter(({ askedSeconds: seconds }) => seconds === null);
  const lengths = lengthsInMetre(request, Math.min(...freely.map(({ minimumSeconds }) => minimumSeconds)));
  const natural = (seconds: Seconds): Seconds | undefined =>
    lengths.find((length) => length >= seconds - TOLERANCE_SECONDS);
  // Those that take what is left need their floor, and a natural length where there are beats.
  const shortest = wishes.map(({ floorSeconds, minimumSeconds }) =>
    Math.max(floorSeconds, natural(minimumSeconds) ?? 0),
  );
  const heroSeconds = shortest.map((seconds) => HERO_SHARE * seconds);
  const least = slides.map((slide, i) => {
    const hero = itemAt(heroSeconds, slide.passage);
    const seconds = slide.hero ? (natural(hero) ?? hero) : itemAt(shortest, slide.passage);
    return atMost(slide, asked[i] ?? Math.max(slide.minimumSeconds ?? 0, seconds));
  });
  return {
    asked,
    least,
    most: slides.map((slide, i) => {
      const longest = slide.maximumSeconds ?? wishOf(slide).maximumSeconds * heroFactor(slide, wishOf(slide));
      return atMost(slide, asked[i] ?? longest);
    }),
    spans: slides.map((slide, i) => {
      const usual = wishOf(slide).askedSeconds ?? itemAt(shortest, slide.passage);
      return slide.hero || isHeld(slide) ? Math.max(1, Math.round(itemAt(least, i) / usual)) : 1;
    }),
    lengths,
    shortestSeconds: Math.min(...shortest),
    heroSeconds,
  };
}

/**
 * The natural lengths that a picture may have which takes what is left, in seconds, rising; none
 * without beats.
 */
function lengthsInMetre({ music: { beats, beatsPerBar } }: FitRequest, shortestSeconds: Seconds): number[] {
  if (beats.length < 2) return [];
  const beat = meanBeatSeconds(beats);
  return naturalLengths(beatsPerBar)
    .map((length) => length * beat)
    .filter((seconds) => seconds >= shortestSeconds && seconds <= LONGEST_NATURAL_SECONDS);
}
