import { itemAt, present } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import type { FitRequest, SlideForFit } from "./fit-request.ts";
import { naturalLengths } from "./metre.ts";
import { LONGEST_SLOT_SECONDS, type PaceWish, SEEN_SECONDS } from "./pace.ts";
import { meanBeatSeconds } from "./pace-units.ts";
import { type PlannedStarts, plannedKey } from "./planned-starts.ts";
import { isHeld, mostWorth } from "./slide-worth.ts";

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

/**
 * What a slot shows: a slide, by its index among those asked for, for the first time (round 0) or
 * again.
 */
export interface Shown {
  readonly slideIndex: number;
  readonly round: number;
}

export interface ChosenOrder {
  /** What each slot shows. */
  readonly order: readonly Shown[];
  /** What each slide gets of the time that nobody asks for by a pace or a wish of its own. */
  readonly shareSeconds: Seconds;
  /** What all slides together ask for; null where some ask for nothing. */
  readonly askedSeconds: Seconds | null;
}

/** How slides fill a film: what each asks for, needs at least and may have at most. */
export class SlideChoice {
  readonly #request: FitRequest;
  readonly #wishes: readonly PaceWish[];
  readonly #filmSeconds: Seconds;
  readonly #planned: PlannedStarts;
  readonly #asked: readonly (number | null)[];
  readonly #least: readonly number[];
  readonly #most: readonly number[];
  /** Natural lengths in seconds for slides that share the remaining time. Empty without beats. */
  readonly #lengths: readonly number[];
  readonly #hasFree: boolean;
  readonly #shortestSeconds: Seconds;
  /**
   * The shortest length of a hero without a length of its own, in seconds, by passage: 1.5 times
   * that of others.
   */
  readonly heroSeconds: readonly Seconds[];

  /** `wishes` are those of the passages, `planned` the plan without locks. */
  constructor(request: FitRequest, wishes: readonly PaceWish[], filmSeconds: Seconds, planned: PlannedStarts) {
    this.#planned = planned;
    const { slides } = request;
    this.#request = request;
    this.#wishes = wishes;
    this.#filmSeconds = filmSeconds;
    const wishOf = (slide: SlideForFit): PaceWish => itemAt(wishes, slide.passage);
    const atMost = (slide: SlideForFit, seconds: Seconds): number =>
      Math.min(seconds, slide.materialSeconds ?? Infinity);
    this.#asked = slides.map((slide) => askedSeconds(slide, wishOf(slide)));
    const freely = wishes.filter(({ askedSeconds: seconds }) => seconds === null);
    this.#lengths = lengthsInMetre(request, Math.min(...freely.map(({ minimumSeconds }) => minimumSeconds)));
    // What a slide needs that takes what is left: its floor, and a natural length where there are
    // beats.
    const shortest = wishes.map(({ floorSeconds, minimumSeconds }) =>
      Math.max(floorSeconds, this.#lengths.find((length) => length >= minimumSeconds) ?? 0),
    );
    this.#shortestSeconds = Math.min(...shortest);
    this.heroSeconds = shortest.map((seconds) => HERO_SHARE * seconds);
    this.#least = slides.map((slide, i) =>
      atMost(
        slide,
        this.#asked[i] ??
          Math.max(slide.minimumSeconds ?? 0, present((slide.hero ? this.heroSeconds : shortest)[slide.passage])),
      ),
    );
    this.#most = slides.map((slide, i) => {
      const longest = slide.maximumSeconds ?? wishOf(slide).maximumSeconds * heroFactor(slide, wishOf(slide));
      return atMost(slide, this.#asked[i] ?? longest);
    });
    this.#hasFree = this.#asked.includes(null);
  }

  /**
   * Which slides the film may show, in order: one way or a few, of which the cheapest film is to be
   * taken. All, where their asking fits. Too many: some are left out, those first that are worth
   * least (slide-worth.ts), of equal ones evenly over the show, so that beginning and end stay. Too
   * few: they come round again in order; a single one stands throughout. Where slides take what is
   * left, fewer slots, or more, may be as long as the metre likes them. O(slides log slides).
   */
  orders(): ChosenOrder[] {
    const { slides, slidesLead } = this.#request;
    const all = slides.map((_, i) => i);
    if (!this.hasRoomFor(all)) return this.#fewer();
    const seconds = this.#filmSeconds - this.#slackSeconds(all);
    if (slides.length === 1 || slidesLead || this.#total(all, this.#most) >= seconds) return [this.chosen(all)];
    return this.#again(seconds);
  }

  /** Whether some slides, shown once each, ask for no more than the film has. */
  hasRoomFor(indices: readonly number[]): boolean {
    return this.#total(indices, this.#least) <= this.#filmSeconds + this.#slackSeconds(indices);
  }

  /**
   * By how much slides may ask for more or less than the film has: the nearest count fits. Where
   * some take what is left and there are no beats, what is left is the slack.
   */
  #slackSeconds(indices: readonly number[]): Seconds {
    if (indices.some((i) => this.#asked[i] === null)) return this.#lengths.length > 0 ? this.#shortestSeconds / 2 : 0;
    return this.#total(indices, this.#least) / indices.length / 2;
  }

  /** The choice of some slides, each shown once, in order. */
  chosen(indices: readonly number[]): ChosenOrder {
    return this.#choiceOf(indices.map((slideIndex) => ({ slideIndex, round: 0 })));
  }

  #fewer(): ChosenOrder[] {
    const { slides } = this.#request;
    // No more have room than of those that need least; of which are worth most, perhaps fewer.
    let count = this.#mostThatFit();
    while (count > 1 && !this.hasRoomFor(mostWorth(slides, count))) count--;
    // Those that must stay are shown for less than two seconds before one of them goes.
    const fewest = Math.max(1, slides.filter(isHeld).length);
    const counts = this.#hasFree && this.#lengths.length > 0 ? around(count).map((n) => Math.max(fewest, n)) : [count];
    const proposed = [...new Set(counts)].map((n) => mostWorth(slides, n));
    // What the plan without locks shows, so that a lock moves what is near it.
    const planned = slides.flatMap((slide, i) => (isHeld(slide) || this.#planned.has(plannedKey(i, 0)) ? [i] : []));
    if (this.#planned.size > 0 && planned.length < slides.length && this.hasRoomFor(planned)) proposed.unshift(planned);
    return proposed.map((indices) => this.chosen(indices));
  }

  /** How many of the slides that need least have room together; at least one, and not all. */
  #mostThatFit(): number {
    let [count, total] = [0, 0];
    for (const seconds of this.#least.toSorted((a, b) => a - b)) {
      total += seconds;
      // The slack is never more than half of the mean of what they need, or of the shortest length.
      if (total > this.#filmSeconds + Math.max(this.#shortestSeconds, total / (count + 1)) / 2) break;
      count++;
    }
    return Math.max(1, Math.min(count, this.#least.length - 1));
  }

  /** Pictures come again until they fill so many seconds. */
  #again(seconds: Seconds): ChosenOrder[] {
    const fewest = this.#roundsFor(seconds);
    const inMetre = this.#hasFree ? this.#countsInMetre().find((n) => n > fewest) : undefined;
    const more = inMetre === undefined ? [] : around(inMetre).filter((n) => n > fewest);
    return [fewest, ...more].map((n) => this.#choiceOf(inRounds(this.#request.slides.length, n)));
  }

  /**
   * How many slots fill so much time if slides come round again, each at its longest, and long
   * enough to be seen.
   */
  #roundsFor(seconds: Seconds): number {
    let count = 0;
    for (let filled = 0; filled < seconds; count++)
      filled += Math.max(SEEN_SECONDS, itemAt(this.#most, count % this.#most.length));
    return count;
  }

  /**
   * How many slots a film has if those that take what is left are all of one natural length, for
   * each length; rising.
   */
  #countsInMetre(): number[] {
    const fixed = this.#asked.filter((seconds) => seconds !== null);
    const left = this.#filmSeconds - sum(fixed);
    return this.#lengths.map((seconds) => fixed.length + Math.round(left / seconds)).reverse();
  }

  #choiceOf(order: readonly Shown[]): ChosenOrder {
    return {
      order,
      shareSeconds: this.#shareOf(order),
      askedSeconds: this.#hasFree ? null : sum(this.#least),
    };
  }

  /** What is left for each of the slides that ask for nothing, heroes counted as more than one. */
  #shareOf(order: readonly Shown[]): number {
    let fixed = 0;
    let parts = 0;
    for (const { slideIndex } of order) {
      const slide = itemAt(this.#request.slides, slideIndex);
      const asked = itemAt(this.#asked, slideIndex);
      if (asked === null) parts += heroFactor(slide, itemAt(this.#wishes, slide.passage));
      else fixed += asked;
    }
    return parts === 0 ? this.#filmSeconds / order.length : Math.max(SEEN_SECONDS, (this.#filmSeconds - fixed) / parts);
  }

  #total(indices: readonly number[], of: readonly number[]): number {
    return indices.reduce((total, i) => total + itemAt(of, i), 0);
  }
}

/** So many slots that show slides in order, round after round. */
export const inRounds = (slides: number, slots: number): Shown[] =>
  Array.from({ length: slots }, (_, k) => ({ slideIndex: k % slides, round: Math.floor(k / slides) }));

/** A count in metre may be one too many: an upbeat, or a long last chord. */
const around = (count: number): number[] => [count, count - 1];

/**
 * The natural lengths that a picture may have which takes what is left, in seconds, rising; none
 * without beats.
 */
function lengthsInMetre({ music: { beats, beatsPerBar } }: FitRequest, shortestSeconds: Seconds): number[] {
  if (beats.length < 2) return [];
  const beat = meanBeatSeconds(beats);
  return naturalLengths(beatsPerBar)
    .map((length) => length * beat)
    .filter((seconds) => seconds >= shortestSeconds && seconds <= LONGEST_SLOT_SECONDS);
}

const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);
