import { assertNever } from "../errors/index.ts";
import { firstIndex } from "../numeric/index.ts";
import { itemAt, lastOf } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import type { Pace } from "../values/index.ts";
import { type Landing, type MusicForFit, nearestIndex } from "./landings.ts";
import { EVEN_BEAT_SECONDS, usualPhraseBars } from "./pace-units.ts";

/**
 * Where nobody asks for a pace, pictures are left out before they would be seen for less. Common
 * practice: under two seconds a row of pictures is no longer looked at.
 */
export const SHORTEST_SLOT_SECONDS = 2;
/** The same where a person wants it fast. */
export const SHORTEST_FAST_SECONDS = 1.5;
/**
 * A single one may be seen for less, a bar at 160 beats a minute, if others are seen for longer;
 * and where it is fast.
 */
const SHORTEST_SINGLE_SECONDS = 1.5;
const SHORTEST_SINGLE_FAST_SECONDS = 1;
/** Common practice: 5 to 8 seconds for a title; a still beyond ten seconds feels forgotten. */
export const LONGEST_SLOT_SECONDS = 10;
/**
 * The same where pictures keep the metre: at 88 beats a minute four bars are 10.9 seconds, and an
 * odd number of bars would be felt more than a second.
 */
export const LONGEST_NATURAL_SECONDS = 11;
/**
 * What locks may leave: common practice, about a second each in a dance run still reads as
 * pictures.
 */
export const SHORTEST_BETWEEN_LOCKS_SECONDS = 1;
/**
 * How much longer a slot is where the music is quietest, and how much shorter where it is loudest.
 */
const ENERGY_FACTOR = 1.6;
/** The same where nobody asks for it, by the mean loudness of whole sections. */
const SECTION_ENERGY_FACTOR = 1.8;
/** Music is quiet where it wishes pictures so many times as long as where it is loudest. */
const QUIET_FACTOR = 1.6;
/** Sections whose loudness (-1 to 1) differs by less are all one. */
const HEARD_DIFFERENCE = 0.5;
const LOUDNESS_STEP_SECONDS = 0.5;
/** An accent so little before a phrase begins with it. */
const PHRASE_TOLERANCE_SECONDS = 0.03;
/**
 * A picture chosen for every beat may be shorter than the shortest else, but not shorter than this
 * share of what was asked for.
 */
const PACED_MINIMUM = 0.6;
const PACED_MAXIMUM = 2;
/** Nobody sees a picture that is shorter than this. Common practice. */
export const SEEN_SECONDS = 0.2;

/** What a pace wishes of the slots of a passage. */
export interface PaceWish {
  /**
   * Natural logarithm of the wished seconds where a slot begins on landing i: index i + 1; index 0
   * for the film's start.
   */
  readonly logWish: Float64Array;
  /**
   * The wish over the whole music, in seconds: what a slide asks for before it has a place. Null:
   * whatever is left.
   */
  readonly askedSeconds: Seconds | null;
  /** What each slide has on average where it takes what is left. */
  readonly floorSeconds: Seconds;
  /**
   * How many times its shortest length each slide needs on average, if it has twice that where the
   * music is quiet.
   */
  readonly quietFactor: number;
  readonly minimumSeconds: Seconds;
  readonly maximumSeconds: Seconds;
  /** 1 for landings that this pace takes; null: all. */
  readonly allowed: Uint8Array | null;
  /**
   * Whether slots have natural lengths in beats (metre.ts), because no other length is asked for.
   */
  readonly keepsMetre: boolean;
  /** Whether so many beats, bars, phrases or seconds are counted, and nothing else pulls. */
  readonly counts: boolean;
}

/** The music of a film, and where it can be landed on. */
export interface MusicOffer {
  readonly music: MusicForFit;
  readonly landings: readonly Landing[];
  readonly endSeconds: Seconds;
}

/**
 * What a pace wishes, everywhere in the music. `shareSeconds` is what each slide gets of the time
 * that no other pace asks for: it is the wish of "auto", and of "music" at its middle loudness. A
 * pace that has nothing to hold on to (markers where there are none) is "auto". O(landings).
 */
export function paceWish(pace: Pace, offer: MusicOffer, shareSeconds: Seconds): PaceWish {
  const { music, landings, endSeconds } = offer;
  const places = [0, ...landings.map((landing) => landing.seconds)];
  const along = (secondsAt: (seconds: Seconds) => number): Float64Array =>
    Float64Array.from(places, (seconds) => Math.log(secondsAt(seconds)));
  const paced = (secondsAt: (seconds: Seconds) => number): PaceWish => countedWish(along(secondsAt));
  const share = (fast: boolean | undefined, secondsAt: (seconds: Seconds) => number): PaceWish =>
    sharedWish(along(secondsAt), places, fast === true, music.beats.length > 0);
  const beat = beatLength(music);
  switch (pace.kind) {
    case "auto": {
      const loudness = sectionLoudness(music, endSeconds);
      return share(pace.fast, (seconds) => shareSeconds * SECTION_ENERGY_FACTOR ** -loudness(seconds));
    }
    case "music":
      return share(pace.fast, (seconds) => shareSeconds * ENERGY_FACTOR ** -music.loudnessAt(seconds));
    case "beats":
      return paced((seconds) => pace.count * beat(seconds));
    case "bars":
      return paced((seconds) => pace.count * music.beatsPerBar * beat(seconds));
    case "phrases": {
      const beats = usualPhraseBars(music) * music.beatsPerBar;
      return paced((seconds) => pace.count * beats * beat(seconds));
    }
    case "seconds":
      return paced(() => pace.seconds);
    case "accents": {
      const strongest = strongestAccents(offer, pace.perPhrase);
      return (
        placed((landing) => strongest.has(landing), offer, false) ?? paceWish({ kind: "auto" }, offer, shareSeconds)
      );
    }
    case "markers": {
      const isOne = ({ markerOrigin }: Landing): boolean =>
        markerOrigin !== null && (pace.origin === "any" || markerOrigin === pace.origin);
      return placed(isOne, offer, pace.origin === "tapped") ?? paceWish({ kind: "auto" }, offer, shareSeconds);
    }
    default:
      return assertNever(pace);
  }
}

/** A pace that says how long slides stand: `logWish` is the logarithm of that, at each place. */
function countedWish(logWish: Float64Array): PaceWish {
  const lengths = [...logWish].map(Math.exp).sort((a, b) => a - b);
  return {
    logWish,
    askedSeconds: itemAt(lengths, lengths.length >> 1),
    floorSeconds: SHORTEST_SLOT_SECONDS,
    quietFactor: 1,
    minimumSeconds: Math.max(SEEN_SECONDS, Math.min(SHORTEST_SLOT_SECONDS, PACED_MINIMUM * itemAt(lengths, 0))),
    maximumSeconds: Math.max(LONGEST_SLOT_SECONDS, PACED_MAXIMUM * lastOf(lengths)),
    allowed: null,
    keepsMetre: false,
    counts: true,
  };
}

/** A pace that shares out the time that there is. */
const sharedWish = (
  logWish: Float64Array,
  places: readonly Seconds[],
  isFast: boolean,
  keepsMetre: boolean,
): PaceWish => ({
  logWish,
  askedSeconds: null,
  floorSeconds: isFast ? SHORTEST_FAST_SECONDS : SHORTEST_SLOT_SECONDS,
  quietFactor: quietFactor(logWish, places),
  minimumSeconds: isFast ? SHORTEST_SINGLE_FAST_SECONDS : SHORTEST_SINGLE_SECONDS,
  maximumSeconds: keepsMetre ? LONGEST_NATURAL_SECONDS : LONGEST_SLOT_SECONDS,
  allowed: null,
  keepsMetre,
  counts: false,
});

/** See `PaceWish.quietFactor`. `places` are the moments of the wishes, rising. */
function quietFactor(logWish: Float64Array, places: readonly Seconds[]): number {
  const shortest = logWish.reduce((least, wish) => Math.min(least, wish), Infinity);
  let [time, slots] = [0, 0];
  for (let i = 0; i + 1 < places.length; i++) {
    const gap = itemAt(places, i + 1) - itemAt(places, i);
    time += gap;
    slots += logWish[i]! - shortest < Math.log(QUIET_FACTOR) ? gap : gap / 2;
  }
  return slots > 0 ? time / slots : 1;
}

/** Whether a pace takes only certain places, and the music has none of them. */
export function findsNoPlace(pace: Pace, { accents, markers }: MusicForFit): boolean {
  if (pace.kind === "accents") return accents.length === 0;
  if (pace.kind !== "markers") return false;
  return !markers.some(({ kind, origin }) => kind !== "note" && (pace.origin === "any" || origin === pace.origin));
}

/**
 * One slot from each such place to the next; null where there are none. Places too near to each
 * other are skipped by the solver. With `goesOn` slots behind the last place go on as the places
 * went, on beats.
 */
function placed(isOne: (landing: Landing) => boolean, offer: MusicOffer, goesOn: boolean): PaceWish | null {
  const { landings, endSeconds } = offer;
  const chosen = landings.filter(isOne);
  if (chosen.length === 0) return null;
  const gaps = chosen.slice(1).map((landing, i) => landing.seconds - itemAt(chosen, i).seconds);
  const usual = goesOn ? gaps.toSorted((a, b) => a - b)[gaps.length >> 1] : undefined;
  const last = lastOf(chosen).seconds;
  const isBehind = (seconds: Seconds): boolean => usual !== undefined && seconds > last + usual / 2;
  const toNext = (seconds: Seconds): number => {
    const next = chosen.find((landing) => landing.seconds >= seconds + SEEN_SECONDS);
    return next ? next.seconds - seconds : (usual ?? LONGEST_SLOT_SECONDS);
  };
  const lengths = [0, ...landings.map((landing) => landing.seconds)].map(toNext);
  const minimumSeconds = Math.min(SHORTEST_SLOT_SECONDS, Math.max(SEEN_SECONDS, PACED_MINIMUM * Math.min(1, ...gaps)));
  // So many slots have room in the music as it has places, and one before them.
  const slots = gaps.filter((gap) => gap >= minimumSeconds).length + 2;
  const more = usual === undefined ? 0 : Math.floor((endSeconds - last) / usual);
  return {
    logWish: Float64Array.from(lengths, Math.log),
    askedSeconds: (more > 0 ? endSeconds : lastOf(landings).seconds) / (slots + more),
    floorSeconds: SHORTEST_SLOT_SECONDS,
    quietFactor: 1,
    minimumSeconds,
    maximumSeconds: Math.max(LONGEST_SLOT_SECONDS, PACED_MAXIMUM * Math.max(0, ...gaps)),
    allowed: Uint8Array.from(landings, (landing) =>
      isOne(landing) || (landing.beatIndex !== null && isBehind(landing.seconds)) ? 1 : 0,
    ),
    keepsMetre: false,
    counts: false,
  };
}

/**
 * The landings of the strongest accents of each phrase, at most so many; of equal ones the earlier.
 */
function strongestAccents({ music, landings }: MusicOffer, perPhrase: number): ReadonlySet<Landing> {
  const starts = [...music.phrases, ...music.sections.map(({ startSeconds }) => startSeconds)].sort((a, b) => a - b);
  const byPhrase = new Map<number, Landing[]>();
  for (const landing of landings) {
    if (landing.accent === 0) continue;
    const phrase = firstIndex(starts.length, (i) => itemAt(starts, i) > landing.seconds + PHRASE_TOLERANCE_SECONDS);
    byPhrase.set(phrase, [...(byPhrase.get(phrase) ?? []), landing]);
  }
  const strongest = (accents: readonly Landing[]): Landing[] =>
    accents.toSorted((a, b) => b.accent - a.accent || a.seconds - b.seconds).slice(0, perPhrase);
  return new Set([...byPhrase.values()].flatMap(strongest));
}

/**
 * How loud the section of a moment is, -1 to 1 of the song; 0 everywhere where sections hardly
 * differ.
 */
function sectionLoudness({ sections, loudnessAt }: MusicForFit, endSeconds: Seconds): (seconds: Seconds) => number {
  const starts = [0, ...sections.map(({ startSeconds }) => startSeconds).filter((at) => at > 0)];
  const levels = starts.map((from, i) => {
    const to = Math.min(endSeconds, starts[i + 1] ?? endSeconds);
    const count = Math.max(1, Math.floor((to - from) / LOUDNESS_STEP_SECONDS));
    let sum = 0;
    for (let k = 0; k < count; k++) sum += loudnessAt(from + (k + 0.5) * LOUDNESS_STEP_SECONDS);
    return sum / count;
  });
  if (Math.max(...levels) - Math.min(...levels) < HEARD_DIFFERENCE) return () => 0;
  return (seconds) =>
    itemAt(levels, Math.max(0, firstIndex(starts.length, (i) => itemAt(starts, i) > seconds + 0.01) - 1));
}

/**
 * Seconds of a beat around a moment: the mean of the four distances around it, so that one late
 * beat does not count.
 */
function beatLength({ beats }: MusicForFit): (seconds: Seconds) => number {
  if (beats.length < 2) return () => EVEN_BEAT_SECONDS;
  return (seconds) => {
    const near = nearestIndex(beats, seconds);
    const first = Math.max(0, Math.min(near - 2, beats.length - 5));
    const last = Math.min(beats.length - 1, first + 4);
    return (itemAt(beats, last).seconds - itemAt(beats, first).seconds) / (last - first);
  };
}
