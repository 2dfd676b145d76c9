import type { Seconds } from "../time/index.ts";
import type { Landing } from "./landings.ts";
import type { Moment } from "./moment.ts";

/**
 * How a slot keeps to the metre. "kept": its natural length in beats is that of the slots before
 * it, or changes with the music. "passed": it has a natural length of its own, and the slots behind
 * it go on as those before it: a hero. "free": as long as its wish says, in whatever number of
 * beats.
 */
export type Rhythm = "kept" | "passed" | "free";

/** One slot of a film whose slides and their order are decided. */
export interface SlotWish {
  /**
   * Wished seconds where the slot begins on landing i: index i + 1, index 0 for the film's start.
   * Natural logarithms.
   */
  readonly logWish: Float64Array;
  readonly minimumSeconds: Seconds;
  readonly maximumSeconds: Seconds;
  /** Of a clip: never let go with the maxima. Infinity for pictures. */
  readonly materialSeconds: Seconds;
  /** The slot is exactly this long. */
  readonly lengthLockSeconds: Seconds | null;
  /** Index of the only landing that it may begin on. */
  readonly landingLock: number | null;
  /** 1 for each landing that it may begin on; null: any. */
  readonly allowed: Uint8Array | null;
  /** What it costs to land on nothing: 1, more where a strong place matters. */
  readonly landingWeight: number;
  /** Whether a passage begins with it. */
  readonly startsPassage: boolean;
  readonly rhythm: Rhythm;
  /**
   * Whether only the metre pulls: so many beats are so many beats, whatever is struck or marked
   * beside them.
   */
  readonly metreOnly: boolean;
  readonly moment: Moment | null;
  /**
   * Index of the landing that it has in the plan without locks, which it would rather keep; null:
   * none.
   */
  readonly plannedLanding: number | null;
}

export interface OrderProblem {
  readonly landings: readonly Landing[];
  readonly slots: readonly SlotWish[];
  /** Where the film may end, rising, with what each costs. */
  readonly ends: readonly { readonly seconds: Seconds; readonly cost: number }[];
  readonly beatsPerBar: number;
  /** The beat that the film begins on; null where it begins between beats. */
  readonly firstBeat: number | null;
}

export interface OrderSolution {
  /** Where each slot but the first begins. */
  readonly landings: readonly Landing[];
  readonly endSeconds: Seconds;
  readonly cost: number;
  /**
   * By how much the longest slots had to be let go beyond their maximum: 1 is not at all, 2 twice
   * as long, and so on.
   */
  readonly maximumFactor: number;
}

/**
 * Beats are heard within some milliseconds: a slot short of its minimum, or off its locked length's
 * landing, by less than this (under a frame at any rate) is not.
 */
export const TOLERANCE_SECONDS = 0.012;

/** How long a slot must be, less the tolerance. */
export const shortestSeconds = ({ lengthLockSeconds, minimumSeconds }: SlotWish): Seconds =>
  (lengthLockSeconds ?? minimumSeconds) - TOLERANCE_SECONDS;

/** How long a slot may be, with the tolerance, where maxima are let go by a factor. */
export const longestSeconds = (slot: SlotWish, factor: number): Seconds =>
  (slot.lengthLockSeconds ?? Math.min(slot.maximumSeconds * factor, slot.materialSeconds)) + TOLERANCE_SECONDS;

/** Weights of docs/fit.md, without unit. */
export const LENGTH_WEIGHT = 4;
const PASSAGE_WEIGHT = 2;
/** A person chose the moment: it is worth two slots off the metre. */
export const MOMENT_WEIGHT = 8;
/** Heroes want strong places twice as much as others. */
export const HERO_LANDING_WEIGHT = 2;
/** An accent of at least this strength is one that a moment may fall on. */
export const MOMENT_ACCENT = 0.5;
/** What it costs to begin where a person put another slide by hand: more than any film should. */
const FOREIGN_COST = 50;

/**
 * What it costs to leave the plan without locks, so that a lock moves what is near it and nothing
 * else.
 */
export const LEAVING_COST = 0.25;

/** 1 for a section, half for a phrase: how well a passage begins there. */
const passageFit = (landing: Landing): number =>
  landing.kind === "section" || landing.kind === "marker" ? 1 : landing.kind === "phrase" ? 0.5 : 0;

/** What a slot's beginning costs. */
export function landingCost(
  slot: Pick<SlotWish, "landingWeight" | "startsPassage" | "landingLock" | "metreOnly">,
  landing: Landing,
): number {
  if (landing.kind === "free" && slot.landingLock === null) return FOREIGN_COST;
  const passage = slot.startsPassage ? PASSAGE_WEIGHT * (1 - passageFit(landing)) : 0;
  const strength = slot.metreOnly ? landing.metreStrength : landing.strength;
  return slot.landingWeight * (1 - strength) + passage;
}
