import { firstIndex } from "../numeric/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";

/**
 * What the music offers to land on, in film time: plain data, so that fit and music need not know
 * each other.
 */
export interface MusicForFit {
  /** Rising. `position` 1 starts a bar, 0 is unknown. */
  readonly beats: readonly { readonly seconds: Seconds; readonly position: number }[];
  readonly beatsPerBar: number;
  /** Where phrases and sections begin. */
  readonly phrases: readonly number[];
  readonly sections: readonly { readonly startSeconds: Seconds; readonly label: string }[];
  /** 0 to 1 of the strongest. */
  readonly accents: readonly { readonly seconds: Seconds; readonly strength: number }[];
  readonly markers: readonly MarkerForFit[];
  /** How loud it is around a moment, -1 (the quietest) to 1 (the loudest), 0 the song's middle. */
  readonly loudnessAt: (seconds: Seconds) => number;
}

interface MarkerForFit {
  readonly seconds: Seconds;
  readonly name: string;
  readonly kind: "cut" | "accent" | "section" | "note";
  readonly origin: "detected" | "tapped" | "placed" | "imported";
}

type LandingKind = "beat" | "bar" | "phrase" | "section" | "accent" | "marker" | "even" | "length" | "free";

/** An instant that a change of picture may be laid on. */
export interface Landing {
  readonly seconds: Seconds;
  /**
   * The strongest of what it is; "length" is set by a locked length and nothing else, "free" by a
   * person's hand.
   */
  readonly kind: LandingKind;
  /** 0 to 1: how good a place it is. */
  readonly strength: number;
  /** The same by its place in the metre alone: no accent, and no marker that is not on a beat. */
  readonly metreStrength: number;
  /** The beat that it lies on; null for places off the beat. */
  readonly beatIndex: number | null;
  /** Of a marker or section, else empty. */
  readonly name: string;
  /** Loudness of an accent that lies here, 0 to 1. */
  readonly accent: number;
  readonly markerOrigin: MarkerForFit["origin"] | null;
}

/**
 * How good a place is to land on. Facts of the trade (common practice): the one before other beats,
 * sections before all.
 */
const STRENGTH: Readonly<Record<LandingKind, number>> = {
  beat: 0.4,
  bar: 0.75,
  phrase: 0.9,
  section: 1,
  accent: 0.5,
  marker: 1,
  even: 1,
  length: 0,
  free: 0,
};
/** What an accent of full strength adds to the beat that it lies on. */
const ACCENT_BONUS = 0.15;
/** Things nearer to each other than this are one place: a tenth of a fast beat. */
const SAME_PLACE_SECONDS = 0.03;
/** Without a beat, changes may come at any half second. */
const EVEN_STEP_SECONDS = 0.5;
/**
 * Where beats fall silent for longer than this, and than so many of them, pictures may change all
 * the same; behind the last beat a last chord rings longer.
 */
const FREE_SECONDS = 6;
const FREE_BEATS = 4;
const LAST_CHORD_SECONDS = 10;
/** Of half seconds in free time: worse than any beat. */
const FREE_STRENGTH = 0.3;
/** A change this close to the start or the end of the film would not be seen as one. */
export const EDGE_SECONDS = 0.2;

/**
 * The landings inside a film of `endSeconds`, in rising order: beats with what begins or is struck
 * on them, markers (other than notes) and accents off the beat as places of their own. Where there
 * are no beats, in the whole song or for a while: even half seconds. O((beats + places) log).
 */
export function landingsOf(music: MusicForFit, endSeconds: Seconds): Landing[] {
  const landings: Landing[] = music.beats.map(({ seconds, position }, beatIndex) =>
    placeOf(position === 1 ? "bar" : "beat", seconds, { beatIndex }),
  );
  if (landings.length === 0) {
    const count = Math.max(0, Math.ceil(endSeconds / EVEN_STEP_SECONDS) - 1);
    landings.push(...Array.from({ length: count }, (_, i) => placeOf("even", (i + 1) * EVEN_STEP_SECONDS, {})));
  } else addFreeTime(landings, endSeconds);
  const merge = (seconds: Seconds, raised: (landing: Landing) => Landing, alone: Landing | null): void => {
    const near = nearestIndex(landings, seconds);
    if (near >= 0 && Math.abs(itemAt(landings, near).seconds - seconds) <= SAME_PLACE_SECONDS)
      landings[near] = raised(itemAt(landings, near));
    else if (alone) landings.splice(upperBound(landings, seconds), 0, alone);
  };
  for (const seconds of music.phrases) merge(seconds, (landing) => raise(landing, "phrase", ""), null);
  for (const { startSeconds, label } of music.sections)
    merge(startSeconds, (landing) => raise(landing, "section", label), null);
  for (const { seconds, strength } of music.accents) {
    merge(
      seconds,
      (landing) => ({
        ...landing,
        accent: Math.max(landing.accent, strength),
        strength: Math.min(1, landing.strength + ACCENT_BONUS * strength),
      }),
      { ...placeOf("accent", seconds, {}), accent: strength, strength: STRENGTH.accent * strength },
    );
  }
  for (const marker of music.markers) {
    if (marker.kind === "note") continue;
    const alone = { ...placeOf("marker", marker.seconds, {}), name: marker.name, markerOrigin: marker.origin };
    merge(
      marker.seconds,
      (landing) => ({ ...raise(landing, "marker", marker.name), markerOrigin: marker.origin }),
      alone,
    );
  }
  return landings.filter(({ seconds }) => seconds >= EDGE_SECONDS && seconds <= endSeconds - EDGE_SECONDS);
}

/** Puts even half seconds where beats fall silent. `landings` are the beats, at least one. */
function addFreeTime(landings: Landing[], endSeconds: Seconds): void {
  const beats = landings.map(({ seconds }) => seconds);
  const steps = beats.slice(1).map((seconds, i) => seconds - itemAt(beats, i));
  const usual = steps.sort((a, b) => a - b)[steps.length >> 1] ?? EVEN_STEP_SECONDS;
  const least = Math.max(FREE_SECONDS, FREE_BEATS * usual);
  const silences = [0, ...beats].map((from, i) => ({ from, to: beats[i] ?? endSeconds, isLast: i === beats.length }));
  for (const { from, to, isLast } of silences) {
    if (to - from <= (isLast ? Math.max(least, LAST_CHORD_SECONDS) : least)) continue;
    const count = Math.floor((to - from) / EVEN_STEP_SECONDS - 1);
    for (let k = 1; k <= count; k++)
      landings.push({
        ...placeOf("even", from + k * EVEN_STEP_SECONDS, {}),
        strength: FREE_STRENGTH,
        metreStrength: FREE_STRENGTH,
      });
  }
  landings.sort((a, b) => a.seconds - b.seconds);
}

/**
 * Exact places nearer to a landing than this are that landing: nobody sees the difference at any
 * frame rate.
 */
const SAME_INSTANT_SECONDS = 0.001;

/** Landings with those that a person chose by hand, off the beat or not, in order. */
export function withFreeLandings(
  landings: readonly Landing[],
  exactSeconds: readonly Seconds[],
  endSeconds: Seconds,
): readonly Landing[] {
  const free = exactSeconds.filter((seconds) => {
    if (seconds < EDGE_SECONDS || seconds > endSeconds - EDGE_SECONDS) return false;
    const near = nearestIndex(landings, seconds);
    return near < 0 || Math.abs(itemAt(landings, near).seconds - seconds) > SAME_INSTANT_SECONDS;
  });
  if (free.length === 0) return landings;
  const added = [...new Set(free)].map((seconds) => placeOf("free", seconds, {}));
  return [...landings, ...added].sort((a, b) => a.seconds - b.seconds);
}

/**
 * Index of the landing that a lock names: the nearest that the music offers, or the exact place. -1
 * where there is none. O(log landings).
 */
export function lockedIndex(landings: readonly Landing[], seconds: Seconds, exact: boolean): number {
  const near = nearestIndex(landings, seconds);
  if (near < 0 || exact || itemAt(landings, near).kind !== "free") return near;
  let [before, after] = [near, near];
  while (before >= 0 && itemAt(landings, before).kind === "free") before--;
  while (after < landings.length && itemAt(landings, after).kind === "free") after++;
  if (before < 0) return after < landings.length ? after : -1;
  if (after >= landings.length) return before;
  return seconds - itemAt(landings, before).seconds <= itemAt(landings, after).seconds - seconds ? before : after;
}

/** A place that nothing but a locked length put there. */
export const lengthLanding = (seconds: Seconds): Landing => placeOf("length", seconds, {});

function placeOf(kind: LandingKind, seconds: Seconds, { beatIndex = null }: { beatIndex?: number | null }): Landing {
  const strength = STRENGTH[kind];
  const metreStrength = kind === "accent" || kind === "marker" ? 0 : strength;
  return { seconds, kind, strength, metreStrength, beatIndex, name: "", accent: 0, markerOrigin: null };
}

function raise(landing: Landing, kind: "phrase" | "section" | "marker", name: string): Landing {
  if (STRENGTH[kind] < STRENGTH[landing.kind]) return landing;
  const { strength, metreStrength } = landing;
  return {
    ...landing,
    kind,
    name,
    strength: Math.max(strength, STRENGTH[kind]),
    metreStrength: kind === "marker" ? metreStrength : Math.max(metreStrength, STRENGTH[kind]),
  };
}

/**
 * Index of the landing nearest to a moment, the earlier of two equally near; -1 where there is
 * none. O(log).
 */
export function nearestIndex(landings: readonly { readonly seconds: Seconds }[], seconds: Seconds): number {
  if (landings.length === 0) return -1;
  const after = Math.min(landings.length - 1, upperBound(landings, seconds));
  const before = Math.max(0, after - 1);
  return seconds - itemAt(landings, before).seconds <= itemAt(landings, after).seconds - seconds ? before : after;
}

/** How many landings lie at or before a moment. */
function upperBound(landings: readonly { readonly seconds: Seconds }[], seconds: Seconds): number {
  return firstIndex(landings.length, (index) => itemAt(landings, index).seconds > seconds);
}
