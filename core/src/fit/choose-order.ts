import { firstIndex } from "../numeric/index.ts";
import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import type { FitRequest } from "./fit-request.ts";
import { type PaceWish, SEEN_SECONDS } from "./pace.ts";
import { type PlannedStarts, plannedKey } from "./planned-starts.ts";
import { heroFactor, type SlideNeeds, slideNeeds } from "./slide-needs.ts";
import { isHeld, mostWorth } from "./slide-worth.ts";

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
  /** What all slides together ask for; null where some ask for nothing. */
  readonly askedSeconds: Seconds | null;
}

/** How slides fill a film: what each asks for, needs at least and may have at most. */
export class SlideChoice {
  readonly #request: FitRequest;
  readonly #wishes: readonly PaceWish[];
  readonly #filmSeconds: Seconds;
  readonly #planned: PlannedStarts;
  readonly #needs: SlideNeeds;
  /** What each slide needs at least, with what quiet music wants. */
  readonly #least: readonly Seconds[];
  readonly #hasFree: boolean;

  /** `wishes` are those of the passages, `planned` the plan without locks. */
  constructor(request: FitRequest, wishes: readonly PaceWish[], filmSeconds: Seconds, planned: PlannedStarts) {
    this.#planned = planned;
    this.#request = request;
    this.#wishes = wishes;
    this.#filmSeconds = filmSeconds;
    this.#needs = slideNeeds(request, wishes);
    this.#hasFree = this.#needs.asked.includes(null);
    this.#least = this.#withQuietRoom();
  }

  /** Whether slides need more than their least, for quiet music. */
  get wantsQuietRoom(): boolean {
    return this.#least.some((seconds, i) => seconds > itemAt(this.#needs.least, i));
  }

  /** See SlideNeeds. */
  get heroSeconds(): readonly Seconds[] {
    return this.#needs.heroSeconds;
  }

  /** So many slides of most worth, as indices in order; see slide-worth.ts. */
  mostWorth(count: number): number[] {
    return mostWorth(this.#request.slides, count, this.#needs.spans);
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
    const seconds = this.#filmSeconds - this.#slackSeconds(all, this.#least);
    if (slides.length === 1 || slidesLead || this.#total(all, this.#needs.most) >= seconds) return [this.chosen(all)];
    return this.#again(seconds);
  }

  /** Whether some slides, shown once each, ask for no more than the film has. */
  hasRoomFor(indices: readonly number[]): boolean {
    return this.#haveRoom(indices, this.#least);
  }

  #haveRoom(indices: readonly number[], needs: readonly Seconds[]): boolean {
    return this.#total(indices, needs) <= this.#filmSeconds + this.#slackSeconds(indices, needs);
  }

  /**
   * By how much slides may ask for more or less than the film has: the nearest count fits. Where
   * some take what is left and there are no beats, what is left is the slack.
   */
  #slackSeconds(indices: readonly number[], needs: readonly Seconds[]): Seconds {
    const { asked, lengths, shortestSeconds } = this.#needs;
    if (indices.some((i) => asked[i] === null)) return lengths.length > 0 ? shortestSeconds / 2 : 0;
    return this.#total(indices, needs) / indices.length / 2;
  }

  /** The choice of some slides, each shown once, in order. */
  chosen(indices: readonly number[]): ChosenOrder {
    return this.#choiceOf(indices.map((slideIndex) => ({ slideIndex, round: 0 })));
  }

  #fewer(): ChosenOrder[] {
    const { slides } = this.#request;
    const count = this.#mostWithRoom();
    // What a person holds is shown for less than its length before one of them goes.
    const fewest = Math.max(1, slides.filter(isHeld).length);
    const counts = this.#hasFree && this.#needs.lengths.length > 0 ? around(count) : [count];
    const proposed = [...new Set(counts.map((n) => Math.max(fewest, n)))].map((n) => this.mostWorth(n));
    // What the plan without locks shows, so that a lock moves what is near it.
    const planned = slides.flatMap((slide, i) => (isHeld(slide) || this.#planned.has(plannedKey(i, 0)) ? [i] : []));
    if (this.#planned.size > 0 && planned.length < slides.length && this.hasRoomFor(planned)) proposed.unshift(planned);
    return proposed.map((indices) => this.chosen(indices));
  }

  /**
   * What slides need at least. Where not all have room, those that take what is left need more.
   * Quiet parts of the music then have room for pictures of twice the length. The factor is at most
   * what all slides together need, divided by the film: one slide too many changes little.
   */
  #withQuietRoom(): readonly Seconds[] {
    const { slides } = this.#request;
    const { asked, least, lengths } = this.#needs;
    const all = [...slides.keys()];
    if (lengths.length === 0 || this.#haveRoom(all, least)) return least;
    const over = this.#total(all, least) / this.#filmSeconds;
    return least.map((seconds, i) => {
      const { quietFactor } = itemAt(this.#wishes, itemAt(slides, i).passage);
      return asked[i] === null ? seconds * Math.max(1, Math.min(quietFactor, over)) : seconds;
    });
  }

  /** How many slides have room, those of most worth; at least one, and not all. */
  #mostWithRoom(): number {
    const isTooMany = (count: number): boolean => !this.hasRoomFor(this.mostWorth(count));
    return Math.max(
      1,
      firstIndex(this.#least.length - 1, (i) => isTooMany(i + 1)),
    );
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
      filled += Math.max(SEEN_SECONDS, itemAt(this.#needs.most, count % this.#needs.most.length));
    return count;
  }

  /**
   * How many slots a film has if those that take what is left are all of one natural length, for
   * each length; rising.
   */
  #countsInMetre(): number[] {
    const fixed = this.#needs.asked.filter((seconds) => seconds !== null);
    const left = this.#filmSeconds - sum(fixed);
    return this.#needs.lengths.map((seconds) => fixed.length + Math.round(left / seconds)).reverse();
  }

  #choiceOf(order: readonly Shown[]): ChosenOrder {
    return {
      order,
      askedSeconds: this.#hasFree ? null : sum(this.#least),
    };
  }

  /**
   * What is left for each of the slides of an order that ask for nothing. Heroes count as more than
   * one.
   */
  shareOf(order: readonly Shown[]): Seconds {
    let fixed = 0;
    let parts = 0;
    for (const { slideIndex } of order) {
      const slide = itemAt(this.#request.slides, slideIndex);
      const asked = itemAt(this.#needs.asked, slideIndex);
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

const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);
