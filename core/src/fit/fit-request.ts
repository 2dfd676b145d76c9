import type { Seconds } from "../time/index.ts";
import type { Pace } from "../values/index.ts";
import type { Landing, MusicForFit } from "./landings.ts";
import type { Moment } from "./moment.ts";

export interface SlideForFit {
  readonly id: string;
  /** Its place among all slides of the show, from 1: how people call it. */
  readonly place: number;
  /** Index of its passage. */
  readonly passage: number;
  /** Slides rated maybe go first where there is no room for all. */
  readonly rating: "keep" | "maybe";
  /**
   * Another slide near it shows nearly the same, and better: where there is no room, this one goes
   * first.
   */
  readonly hasBetterLike: boolean;
  /** Never left out, however little room there is. */
  readonly stays: boolean;
  readonly hero: boolean;
  /** What the slide asks for by itself; null: what its pace says. */
  readonly wishedSeconds: Seconds | null;
  /** What its words take to be read, held unless locks leave less; null: what its pace says. */
  readonly minimumSeconds: Seconds | null;
  readonly maximumSeconds: Seconds | null;
  readonly lengthLockSeconds: Seconds | null;
  readonly landingLockSeconds: Seconds | null;
  /** The slide begins just there and not on the nearest landing. */
  readonly landingLockExact: boolean;
  /** How much of a clip there is: it never stands longer. Null for pictures. */
  readonly materialSeconds: Seconds | null;
  /** Of a clip; null: no moment. */
  readonly moment: Moment | null;
}

export interface PassageForFit {
  readonly id: string;
  readonly name: string;
  readonly pace: Pace;
  /** The passage begins here: the lock of its first slide. */
  readonly startLockSeconds: Seconds | null;
}

export interface FitRequest {
  readonly slides: readonly SlideForFit[];
  readonly passages: readonly PassageForFit[];
  readonly music: MusicForFit;
  /** The film runs from 0 to one of these; the last is the music's own end. Rising. */
  readonly ends: readonly { readonly seconds: Seconds; readonly cost: number }[];
  /**
   * Whether slides keep their time and are neither repeated nor left out for the sake of the
   * length.
   */
  readonly slidesLead: boolean;
  /**
   * Whether locks move what is near them and leave the rest where it is without them; else the
   * cheapest film of all.
   */
  readonly keepsPlan: boolean;
  /** Locks that the plan itself is laid with: as they were when a person fitted all again. */
  readonly settledLocks: readonly SettledLock[];
}

/**
 * A lock of the plan: a beginning in seconds of the film, or a length. Exact: just there, not on
 * the nearest landing.
 */
export interface SettledLock {
  readonly kind: "landing" | "length" | "passage";
  readonly id: string;
  readonly seconds: Seconds;
  readonly exact: boolean;
}

export interface FittedSlot {
  readonly slideIndex: number;
  /** 0 the first time that the slide is shown, 1 when the pictures come round again. */
  readonly round: number;
  /** Null for the first slot, which begins with the film. */
  readonly landing: Landing | null;
  /** Whether a person's lock put it there. */
  readonly locked: boolean;
  /**
   * Whether it takes what is left, in natural lengths: what is wished for it is then a rough wish.
   */
  readonly keepsMetre: boolean;
  /** What was wished for it where it lies. */
  readonly wishedSeconds: Seconds;
}

/** "stays": the slide is never left out. */
type LockKind = "landing" | "length" | "passage" | "stays";

/** A lock by what it holds: a slide's id, or a passage's. */
export interface LockName {
  readonly kind: LockKind;
  readonly id: string;
}

export interface FitResult {
  readonly slots: readonly FittedSlot[];
  readonly endSeconds: Seconds;
  /** Of docs/fit.md, without unit; of the locks that are kept. */
  readonly cost: number;
  readonly maximumFactor: number;
  /**
   * Whether clips had to be let stand longer than their material: without locks nothing else was
   * possible.
   */
  readonly beyondMaterial: boolean;
  /** What all slides together ask for, shown or not; null where some take what is left. */
  readonly askedSeconds: Seconds | null;
  /** Indices of slides that found no room. */
  readonly leftOut: readonly number[];
  /** Whether fewer are shown than have room, because quiet music wants longer pictures. */
  readonly quietRoom: boolean;
  /** How many slots show a slide again. */
  readonly repeats: number;
  /**
   * The smallest set of locks that cannot hold together; empty where all hold. The film is laid
   * without the last of them.
   */
  readonly conflict: readonly LockName[];
  /** All locks that this film does not keep. */
  readonly unmetLocks: readonly LockName[];
  readonly steady: boolean;
}
