import { HummingTideError } from "../errors/index.ts";
import { type ChosenOrder, chooseOrders, heroFactor, kept, largest } from "./choose-order.ts";
import { costOfFit } from "./fit-cost.ts";
import type { FitRequest, FitResult, FittedSlot, LockName, SlideForFit } from "./fit-request.ts";
import { EDGE_SECONDS, type Landing, landingsOf, lockedIndex, nearestIndex, withFreeLandings } from "./landings.ts";
import { smallestConflict } from "./lock-conflicts.ts";
import {
  HERO_LANDING_WEIGHT,
  type OrderProblem,
  type OrderSolution,
  type Rhythm,
  type SlotWish,
} from "./order-problem.ts";
import { type MusicOffer, type PaceWish, paceWish, SHORTEST_BETWEEN_LOCKS_SECONDS } from "./pace.ts";
import { type PlannedStarts, plannedKey, plannedStarts } from "./planned-starts.ts";
import { isPossible, solveOrder } from "./solve-order.ts";

/** Common practice: 3 to 5 s a still where nothing else is said. */
const DEFAULT_STILL_SECONDS = 4;
/** Where slides lead, what it costs a slide that the whole film is longer or shorter than all ask for by a factor of e. */
const WHOLE_WEIGHT = 40;

/**
 * Lays slides on music: which ones there is room for (choose-order.ts), and the cheapest way to lay them (solve-order.ts; docs/fit.md has the cost). Exact
 * for these slides in this order. Locks that cannot hold together are named, and the film is laid without the last of them, so that there is always one to see.
 * Same request, same result. Throws `no-slides` without slides and `no-length` for a film without length.
 */
export function fitSlides(request: FitRequest): FitResult {
  const filmSeconds = request.ends.at(-1)?.seconds ?? 0;
  if (request.slides.length === 0)
    throw new HummingTideError("no-slides", "A film needs at least one picture, and this show has none yet.");
  if (!(filmSeconds > 0))
    throw new HummingTideError("no-length", `A film needs a song with some length, but this one has ${filmSeconds} s.`);
  const offered = landingsOf(request.music, filmSeconds);
  const share = request.slidesLead ? DEFAULT_STILL_SECONDS : filmSeconds / request.slides.length;
  const offer = { music: request.music, landings: offered, endSeconds: filmSeconds };
  const asked = request.passages.map(({ pace }) => paceWish(pace, offer, share));
  const planned = plannedStarts(request, fitSlides);
  const fits = chooseOrders(request, asked, filmSeconds).map((chosen) => fitChosen(request, offer, chosen, planned));
  return fits.reduce((best, fit) => (costOfFit(request, fit) < costOfFit(request, best) ? fit : best));
}

/** Lays the slides of one choice. `offer` has the landings of the music alone. */
function fitChosen(request: FitRequest, offer: MusicOffer, chosen: ChosenOrder, planned: PlannedStarts): FitResult {
  const byHand = [...new Set(chosen.order)].flatMap((index) => {
    const { landingLockSeconds, landingLockExact } = request.slides[index]!;
    return landingLockExact && landingLockSeconds !== null ? [landingLockSeconds] : [];
  });
  const landings = withFreeLandings(offer.landings, byHand, offer.endSeconds);
  const shareSeconds = request.slidesLead ? DEFAULT_STILL_SECONDS : chosen.shareSeconds;
  const wishes = request.passages.map(({ pace }) => paceWish(pace, { ...offer, landings }, shareSeconds));
  const film = new FilmFit(request, landings, wishes, planned);
  const solved = film.solveAsFarAsPossible(chosen.order);
  const { order, solution, kept: keptLocks, conflict, unmet } = solved;
  const used = new Set(order);
  return {
    slots: film.slotsOf(order, solution, keptLocks),
    endSeconds: solution.endSeconds,
    cost: solution.cost,
    maximumFactor: solution.maximumFactor,
    beyondMaterial: solved.beyondMaterial,
    askedSeconds: chosen.askedSeconds,
    leftOut: request.slides.map((_, index) => index).filter((index) => !used.has(index)),
    repeats: Math.max(0, order.length - request.slides.length),
    conflict,
    unmetLocks: unmet,
    steady: request.music.beats.length > 0,
  };
}

/** Slides that take what is left keep to the metre; heroes have a length of their own in it. */
function rhythmOf(slide: SlideForFit, wish: PaceWish): Rhythm {
  if (!wish.keepsMetre || slide.wishedSeconds !== null || slide.lengthLockSeconds !== null) return "free";
  return slide.hero ? "passed" : "kept";
}

/** A lock with the slot that it holds. */
interface SlotLock extends LockName {
  readonly slot: number;
  readonly seconds: number;
  readonly exact: boolean;
}

interface Solved {
  readonly order: readonly number[];
  readonly solution: OrderSolution;
  readonly kept: readonly SlotLock[];
  readonly conflict: readonly LockName[];
  readonly unmet: readonly LockName[];
  readonly beyondMaterial: boolean;
}

const nameOf = ({ kind, id }: LockName): LockName => ({ kind, id });

class FilmFit {
  readonly #request: FitRequest;
  readonly #landings: readonly Landing[];
  readonly #wishes: readonly PaceWish[];

  readonly #planned: PlannedStarts;

  constructor(request: FitRequest, landings: readonly Landing[], wishes: readonly PaceWish[], planned: PlannedStarts) {
    this.#planned = planned;
    this.#request = request;
    this.#landings = landings;
    this.#wishes = wishes;
  }

  /** With all locks if they can hold, else without the last of each set that cannot; with fewer slides where even without locks there is no room. */
  solveAsFarAsPossible(wanted: readonly number[]): Solved {
    let order = wanted;
    let locks = this.#locksOf(order);
    const whole = this.#solve(order, locks);
    if (whole && locks.every((lock) => this.#isInside(lock)))
      return { order, solution: whole, kept: locks, conflict: [], unmet: [], beyondMaterial: false };
    if (!this.#isPossible(order, [])) {
      const { slides } = this.#request;
      const ofCount = (count: number): readonly number[] =>
        count <= slides.length ? kept(slides, count) : wanted.slice(0, count);
      order = ofCount(
        largest(1, wanted.length - 1, (count) => {
          const problem = this.#problem(ofCount(count), []);
          return problem !== null && isPossible(problem);
        }),
      );
    }
    locks = this.#locksOf(order);
    // A lock to music that this film does not reach cannot be kept, whatever the others.
    const outside = locks.filter((lock) => !this.#isInside(lock));
    locks = locks.filter((lock) => this.#isInside(lock));
    // What a person locked is kept, even if pictures between are seen for less than they should be.
    if (locks.length > 0 && !this.#isPossible(order, locks)) this.#floorReleased = true;
    let conflict: readonly LockName[] = outside.slice(0, 1).map(nameOf);
    const unmet: LockName[] = outside.map(nameOf);
    for (;;) {
      const solution = this.#solve(order, locks);
      if (solution) return { order, solution, kept: locks, conflict, unmet, beyondMaterial: this.#materialReleased };
      if (locks.length === 0) {
        // Clips alone cannot fill the film: the last way out is that they stand beyond their material.
        this.#materialReleased = true;
        continue;
      }
      const found = smallestConflict(locks, (some) => this.#isPossible(order, some));
      if (conflict.length === 0) conflict = found.map(nameOf);
      const dropped = found.at(-1)!;
      unmet.push(nameOf(dropped));
      locks = locks.filter((lock) => lock !== dropped);
    }
  }

  slotsOf(order: readonly number[], solution: OrderSolution, locks: readonly SlotLock[]): FittedSlot[] {
    const starts = [0, ...solution.landings.map(({ seconds }) => seconds)];
    return order.map((slideIndex, k) => {
      const slot = this.#slotWish(order, k, []);
      const place = k === 0 ? 0 : nearestIndex(this.#landings, starts[k]!) + 1;
      return {
        slideIndex,
        round: this.#roundOf(k),
        landing: k === 0 ? null : solution.landings[k - 1]!,
        locked: locks.some((lock) => lock.slot === k && lock.kind !== "length"),
        keepsMetre: slot.rhythm !== "free",
        wishedSeconds: slot.lengthLockSeconds ?? Math.exp(slot.logWish[place]!),
      };
    });
  }

  #roundOf(slot: number): number {
    return Math.floor(slot / Math.max(1, this.#request.slides.length));
  }

  #plannedLanding(slideIndex: number, round: number): number | null {
    const seconds = this.#planned.get(plannedKey(slideIndex, round));
    return seconds === undefined ? null : nearestIndex(this.#landings, seconds);
  }

  #materialReleased = false;
  #floorReleased = false;

  /** Clips are never longer than their material, which only a whole solve can tell. */
  #isPossible(order: readonly number[], locks: readonly SlotLock[]): boolean {
    const problem = this.#problem(order, locks);
    if (!problem || !isPossible(problem)) return false;
    const hasClips = problem.slots.some((slot) => slot.materialSeconds < Infinity);
    return !hasClips || solveOrder(problem) !== null;
  }

  #isInside({ kind, seconds }: SlotLock): boolean {
    return kind === "length" || seconds <= this.#request.ends.at(-1)!.seconds;
  }

  #solve(order: readonly number[], locks: readonly SlotLock[]): OrderSolution | null {
    const problem = this.#problem(order, locks);
    return problem && solveOrder(problem);
  }

  /** Null where two locks want one slot on two landings, or the first slot anywhere but at the film's start. */
  #problem(order: readonly number[], locks: readonly SlotLock[]): OrderProblem | null {
    const slots: SlotWish[] = [];
    for (const [k] of order.entries()) {
      // The first slide begins with the film: a lock there is kept by itself.
      const isKept = (lock: SlotLock): boolean => k === 0 && lock.kind !== "length" && lock.seconds < EDGE_SECONDS;
      const own = locks.filter((lock) => lock.slot === k && !isKept(lock));
      const landingLocks = own.filter((lock) => lock.kind !== "length");
      const places = new Set(landingLocks.map((lock) => this.#placeOf(lock)));
      if (places.size > 1 || places.has(-1) || (places.size > 0 && k === 0)) return null;
      slots.push(this.#slotWish(order, k, own));
    }
    const { beats, beatsPerBar } = this.#request.music;
    const first = beats.findIndex(({ seconds }) => Math.abs(seconds) < EDGE_SECONDS);
    return {
      landings: this.#landings,
      slots,
      ends: this.#ends(order, slots.at(-1)?.lengthLockSeconds ?? null),
      beatsPerBar,
      firstBeat: first < 0 ? null : first,
    };
  }

  #placeOf({ seconds, exact }: SlotLock): number {
    return lockedIndex(this.#landings, seconds, exact);
  }

  /** Slides that lead keep their time as a whole too: of many small departures to one side none would be dear. */
  #ends(order: readonly number[], lastSeconds: number | null): FitRequest["ends"] {
    const { slides, slidesLead } = this.#request;
    if (!slidesLead) return this.#request.ends;
    const ends = lastSeconds === null ? this.#request.ends : this.#endsAfter(lastSeconds, order.length);
    const asked = order.reduce((sum, index) => {
      const slide = slides[index]!;
      const wish = this.#wishes[slide.passage]!;
      return sum + (slide.lengthLockSeconds ?? Math.exp(this.#logWish(slide, wish)[wish.logWish.length >> 1]!));
    }, 0);
    return ends.map(({ seconds, cost }) => ({
      seconds,
      cost: cost + WHOLE_WEIGHT * order.length * Math.log(seconds / asked) ** 2,
    }));
  }

  /** A last slide of a locked length may begin on any landing: the music fades where the slide ends, on a bar or not. */
  #endsAfter(lastSeconds: number, slots: number): FitRequest["ends"] {
    const { ends } = this.#request;
    const music = ends.at(-1)!.seconds;
    const cost = ends.reduce((most, end) => Math.max(most, end.cost), 0);
    const starts = slots === 1 ? [0] : this.#landings.map(({ seconds }) => seconds);
    const found = starts.map((seconds) => seconds + lastSeconds).filter((seconds) => seconds <= music);
    return found.length > 0 ? found.map((seconds) => ({ seconds, cost })) : ends;
  }

  #slotWish(order: readonly number[], k: number, locks: readonly SlotLock[]): SlotWish {
    const slide = this.#request.slides[order[k]!]!;
    const wish = this.#wishes[slide.passage]!;
    const before = k === 0 ? null : this.#request.slides[order[k - 1]!]!;
    const landingLock = locks.find((lock) => lock.kind !== "length");
    const length = locks.find((lock) => lock.kind === "length");
    const isAlone = order.length === 1;
    const aroundMoment = slide.moment ? slide.moment.beforeSeconds + slide.moment.afterSeconds : Infinity;
    const material = Math.min(slide.materialSeconds ?? Infinity, aroundMoment);
    const own = slide.wishedSeconds;
    return {
      logWish: this.#logWish(slide, wish),
      minimumSeconds: isAlone ? 0 : Math.min(this.#minimumOf(slide, wish), material),
      maximumSeconds:
        slide.maximumSeconds ??
        Math.max(wish.maximumSeconds * heroFactor(slide, wish), 2 * Math.max(own ?? 0, slide.minimumSeconds ?? 0)),
      materialSeconds: this.#materialReleased ? Infinity : material,
      lengthLockSeconds: length?.seconds ?? null,
      landingLock: landingLock ? this.#placeOf(landingLock) : null,
      allowed: wish.allowed,
      landingWeight: slide.hero ? HERO_LANDING_WEIGHT : 1,
      startsPassage: before !== null && before.passage !== slide.passage,
      rhythm: rhythmOf(slide, wish),
      metreOnly: wish.counts && this.#request.music.beats.length > 0,
      moment: slide.moment,
      plannedLanding: this.#plannedLanding(order[k]!, this.#roundOf(k)),
    };
  }

  /** What words need holds where no pace counts: at most as long as a person wished it, else at least as long as pictures. */
  #minimumOf({ minimumSeconds: reading, wishedSeconds: own }: SlideForFit, wish: PaceWish): number {
    const { minimumSeconds: floor, askedSeconds } = wish;
    let least = own === null ? floor : Math.min(floor, own / 2);
    if (reading !== null && own !== null) least = Math.max(least, Math.min(reading, own));
    if (reading !== null && own === null && askedSeconds === null) least = Math.max(least, reading);
    return this.#floorReleased ? Math.min(least, SHORTEST_BETWEEN_LOCKS_SECONDS) : least;
  }

  readonly #logWishes = new Map<string, Float64Array>();

  /** The passage's wish, longer for heroes, or the slide's own. Slides of one kind share theirs. */
  #logWish(slide: SlideForFit, wish: PaceWish): Float64Array {
    const factor = heroFactor(slide, wish);
    if (slide.wishedSeconds === null && factor === 1) return wish.logWish;
    const key = slide.wishedSeconds === null ? `${slide.passage} hero` : `${slide.wishedSeconds}`;
    const known = this.#logWishes.get(key);
    if (known) return known;
    const made =
      slide.wishedSeconds === null
        ? wish.logWish.map((value) => value + Math.log(factor))
        : new Float64Array(wish.logWish.length).fill(Math.log(slide.wishedSeconds));
    this.#logWishes.set(key, made);
    return made;
  }

  /** All locks of slides that are shown, each for the first time that its slide is, in the order of the film. */
  #locksOf(order: readonly number[]): SlotLock[] {
    const { slides, passages } = this.#request;
    const locks: SlotLock[] = [];
    const begun = new Set<number>();
    for (const [k, index] of order.slice(0, slides.length).entries()) {
      const { id, passage, landingLockSeconds, landingLockExact: exact, lengthLockSeconds } = slides[index]!;
      const start = passages[passage]!.startLockSeconds;
      if (!begun.has(passage) && start !== null)
        locks.push({ kind: "passage", id: passages[passage]!.id, slot: k, seconds: start, exact: false });
      begun.add(passage);
      if (landingLockSeconds !== null) locks.push({ kind: "landing", id, slot: k, seconds: landingLockSeconds, exact });
      if (lengthLockSeconds !== null)
        locks.push({ kind: "length", id, slot: k, seconds: lengthLockSeconds, exact: false });
    }
    return locks;
  }
}
