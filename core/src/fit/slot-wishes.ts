import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import type { Shown } from "./choose-order.ts";
import type { FitRequest, SlideForFit } from "./fit-request.ts";
import { type Landing, nearestIndex } from "./landings.ts";
import { HERO_LANDING_WEIGHT, type Rhythm, type SlotWish } from "./order-problem.ts";
import { type PaceWish, SHORTEST_BETWEEN_LOCKS_SECONDS } from "./pace.ts";
import { type PlannedStarts, plannedKey } from "./planned-starts.ts";
import { heroFactor } from "./slide-needs.ts";

/** What is let go where nothing else is possible. */
export interface Release {
  /** That pictures are seen for as long as they should be: a second is enough. */
  readonly floor: boolean;
  /** Clips in slots before this one may stand longer than they last. */
  readonly stillBefore: number;
}

/** Slides that take what is left keep to the metre; heroes have a length of their own in it. */
function rhythmOf(slide: SlideForFit, wish: PaceWish): Rhythm {
  if (!wish.keepsMetre || slide.wishedSeconds !== null || slide.lengthLockSeconds !== null) return "free";
  return slide.hero ? "passed" : "kept";
}

/** What each slot of a choice wishes for, without the locks. */
export class SlotWishes {
  readonly #request: FitRequest;
  readonly #landings: readonly Landing[];
  readonly #wishes: readonly PaceWish[];
  readonly #planned: PlannedStarts;
  readonly #heroSeconds: readonly Seconds[];
  /** The wishes of an order are asked for at every trial of its locks. */
  readonly #known = new Map<readonly Shown[], Map<string, readonly SlotWish[]>>();

  /** `heroSeconds` is what heroes have at least that take what is left, by passage. */
  constructor(
    request: FitRequest,
    landings: readonly Landing[],
    wishes: readonly PaceWish[],
    planned: PlannedStarts,
    heroSeconds: readonly Seconds[],
  ) {
    this.#heroSeconds = heroSeconds;
    this.#request = request;
    this.#landings = landings;
    this.#wishes = wishes;
    this.#planned = planned;
  }

  /** Of all slots of an order, in its order. */
  of(order: readonly Shown[], release: Release): readonly SlotWish[] {
    const ofOrder = this.#known.get(order) ?? new Map<string, readonly SlotWish[]>();
    this.#known.set(order, ofOrder);
    const key = `${release.floor} ${release.stillBefore}`;
    const made = ofOrder.get(key) ?? order.map((_, k) => this.#slotWish(order, k, release));
    ofOrder.set(key, made);
    return made;
  }

  #slotWish(order: readonly Shown[], k: number, release: Release): SlotWish {
    const slide = itemAt(this.#request.slides, itemAt(order, k).slideIndex);
    const wish = itemAt(this.#wishes, slide.passage);
    const before = k === 0 ? null : itemAt(this.#request.slides, itemAt(order, k - 1).slideIndex);
    const isAlone = order.length === 1;
    const material = this.materialOf(itemAt(order, k).slideIndex);
    const isStill = k < release.stillBefore;
    const own = slide.wishedSeconds;
    return {
      logWish: this.logWish(slide, isStill),
      minimumSeconds: isAlone ? 0 : Math.min(this.#minimumOf(slide, wish, release), material),
      maximumSeconds:
        slide.maximumSeconds ??
        Math.max(wish.maximumSeconds * heroFactor(slide, wish), 2 * Math.max(own ?? 0, slide.minimumSeconds ?? 0)),
      materialSeconds: isStill ? Infinity : material,
      lengthLockSeconds: null,
      landingLock: null,
      allowed: wish.allowed,
      landingWeight: slide.hero ? HERO_LANDING_WEIGHT : 1,
      startsPassage: before !== null && before.passage !== slide.passage,
      rhythm: rhythmOf(slide, wish),
      metreOnly: wish.counts && this.#request.music.beats.length > 0,
      moment: slide.moment,
      plannedLanding: this.#plannedLanding(itemAt(order, k)),
    };
  }

  /**
   * How long a clip may be shown at most, around its moment if it has one; Infinity for pictures.
   */
  materialOf(slideIndex: number): number {
    const { materialSeconds, moment } = itemAt(this.#request.slides, slideIndex);
    const around = moment ? moment.beforeSeconds + moment.afterSeconds : Infinity;
    return Math.min(materialSeconds ?? Infinity, around);
  }

  /**
   * What words need holds where no pace counts: at most as long as a person wished it, else at
   * least as long as pictures.
   */
  #minimumOf(slide: SlideForFit, { minimumSeconds: floor, askedSeconds }: PaceWish, release: Release): number {
    const { minimumSeconds: reading, wishedSeconds: own, hero, passage } = slide;
    let least = own === null ? floor : Math.min(floor, own / 2);
    if (hero && own === null && askedSeconds === null) least = Math.max(least, itemAt(this.#heroSeconds, passage));
    if (reading !== null && own !== null) least = Math.max(least, Math.min(reading, own));
    if (reading !== null && own === null && askedSeconds === null) least = Math.max(least, reading);
    return release.floor ? Math.min(least, SHORTEST_BETWEEN_LOCKS_SECONDS) : least;
  }

  readonly #logWishes = new Map<string, Float64Array>();

  /**
   * The passage's wish, longer for heroes, or the slide's own; of a clip that may stand beyond its
   * end, no longer than it lasts. Slides of one kind share theirs.
   */
  logWish(slide: SlideForFit, isStill = false): Float64Array {
    const wish = itemAt(this.#wishes, slide.passage);
    const factor = heroFactor(slide, wish);
    const most = isStill ? slide.materialSeconds : null;
    if (slide.wishedSeconds === null && factor === 1 && most === null) return wish.logWish;
    const key = `${slide.passage} ${factor} ${slide.wishedSeconds} ${most}`;
    const known = this.#logWishes.get(key);
    if (known) return known;
    const own = slide.wishedSeconds === null ? null : Math.log(slide.wishedSeconds);
    const longest = most === null ? Infinity : Math.log(most);
    const made = wish.logWish.map((value) => Math.min(own ?? value + Math.log(factor), longest));
    this.#logWishes.set(key, made);
    return made;
  }

  /** Null for the first slide of the plan, and for those that it does not show. */
  #plannedLanding({ slideIndex, round }: Shown): number | null {
    const seconds = this.#planned.get(plannedKey(slideIndex, round));
    return seconds === undefined || seconds === 0 ? null : nearestIndex(this.#landings, seconds);
  }
}
