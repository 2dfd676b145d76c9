import { firstIndex } from "../numeric/index.ts";
import { itemAt, lastOf, valueFor } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";
import { inRounds, type Shown } from "./choose-order.ts";
import type { FitRequest, FittedSlot, LockName } from "./fit-request.ts";
import { EDGE_SECONDS, type Landing, lockedIndex, nearestIndex } from "./landings.ts";
import { smallestConflict } from "./lock-conflicts.ts";
import type { OrderProblem, OrderSolution } from "./order-problem.ts";
import { type PaceWish, SEEN_SECONDS } from "./pace.ts";
import { isPossible } from "./reach.ts";
import { isHeld, mostWorth } from "./slide-worth.ts";
import type { Release, SlotWishes } from "./slot-wishes.ts";
import { solveOrder } from "./solve-order.ts";

/**
 * Where slides lead, what it costs a slide that the whole film is longer or shorter than all ask
 * for by a factor of e.
 */
const WHOLE_WEIGHT = 40;

/** A lock with the slot that it holds. */
interface SlotLock extends LockName {
  readonly slot: number;
  readonly seconds: Seconds;
  readonly exact: boolean;
}

/** A choice as far as it can be laid. */
interface Solved {
  readonly order: readonly Shown[];
  readonly solution: OrderSolution;
  readonly kept: readonly SlotLock[];
  readonly conflict: readonly LockName[];
  readonly unmet: readonly LockName[];
  readonly release: Release;
}

const NOTHING: Release = { floor: false, stillBefore: 0 };
const FLOOR: Release = { floor: true, stillBefore: 0 };
const MATERIAL: Release = { floor: false, stillBefore: Infinity };
const ALL: Release = { floor: true, stillBefore: Infinity };

/** Clips rarely fill their slots exactly, so up to twice the expected number of slots is tried. */
const MOST_SLOTS = 2;

const nameOf = ({ kind, id }: LockName): LockName => ({ kind, id });

/** Lays the slides of one choice: with all locks, if they can hold together. */
export class FilmFit {
  readonly #request: FitRequest;
  readonly #landings: readonly Landing[];
  readonly #wishes: readonly PaceWish[];
  readonly #slotWishes: SlotWishes;

  constructor(request: FitRequest, landings: readonly Landing[], wishes: readonly PaceWish[], slotWishes: SlotWishes) {
    this.#slotWishes = slotWishes;
    this.#request = request;
    this.#landings = landings;
    this.#wishes = wishes;
  }

  /**
   * What is shown of an order: fewer slides where even without locks there is no room, more slots
   * where clips are too short. Given again, the same.
   */
  orderOf(wanted: readonly Shown[]): readonly Shown[] {
    if (this.#isPossible(wanted, [], MATERIAL)) return this.#filled(wanted);
    const fewer = this.#fewer(wanted);
    // All for a second each is better than one clip twice, or still, and another not at all.
    const fills = this.#isPossible(fewer, [], FLOOR);
    return !fills && this.#isPossible(wanted, [], FLOOR) ? wanted : this.#filled(fewer);
  }

  /** With all locks if they can hold, else without the last of each set that cannot. */
  solveAsFarAsPossible(order: readonly Shown[]): Solved {
    const unmet = this.#heldButLeftOut(order);
    // A lock to music that this film does not reach cannot be kept, whatever the others.
    const outside = this.#locksOf(order).filter((lock) => !this.#isInside(lock));
    unmet.push(...outside.map(nameOf));
    let conflict: readonly LockName[] = outside.slice(0, 1).map(nameOf);
    let locks = this.#locksInside(order);
    for (;;) {
      const solved = this.#solve(order, locks);
      if (solved) return { order, ...solved, kept: locks, conflict, unmet };
      const found = smallestConflict(locks, (some) => this.#isPossible(order, some, ALL));
      if (conflict.length === 0) conflict = found.map(nameOf);
      const dropped = lastOf(found);
      unmet.push(nameOf(dropped));
      locks = locks.filter((lock) => lock !== dropped);
    }
  }

  /** As many slots as have room. What a person holds may be seen for a second before it goes. */
  #fewer(wanted: readonly Shown[]): readonly Shown[] {
    const { slides } = this.#request;
    const held = slides.filter(isHeld).length;
    const ofCount = (count: number): readonly Shown[] =>
      count <= slides.length
        ? mostWorth(slides, count).map((slideIndex) => ({ slideIndex, round: 0 }))
        : wanted.slice(0, count);
    const hasRoom = (count: number): boolean =>
      this.#isPossible(ofCount(count), [], MATERIAL) || (count <= held && this.#isPossible(ofCount(count), [], ALL));
    return ofCount(
      Math.max(
        1,
        firstIndex(wanted.length, (i) => !hasRoom(i + 1)),
      ),
    );
  }

  /**
   * The order with clips shown again where they are too short for the time that they have to fill.
   */
  #filled(order: readonly Shown[]): readonly Shown[] {
    const locks = this.#locksInside(order);
    if (this.#request.slidesLead || order.length === 1 || this.#isPossible(order, locks, FLOOR)) return order;
    // Rounds of the whole film may not leave the locks their places: then each part has its own.
    const once = order.filter(({ round }) => round === 0);
    const filled = this.#filledBetween(once, this.#locksInside(once));
    if (filled) return filled;
    const kept = [order, once].find((some) => this.#isPossible(some, this.#locksInside(some), ALL));
    // Else the locks contradict each other, and the last of them will go.
    return kept ?? this.#filledBetween(once, []) ?? order;
  }

  /**
   * The same for each part between locks, from the last part back. Null where a clip would still
   * have to freeze.
   */
  #filledBetween(order: readonly Shown[], locks: readonly SlotLock[]): readonly Shown[] | null {
    const seconds = new Map([[0, 0]]);
    for (const lock of locks) if (lock.kind !== "length") seconds.set(lock.slot, lock.seconds);
    const starts = [...seconds.keys()].sort((a, b) => a - b);
    let end = lastOf(this.#request.ends).seconds;
    let filled = order;
    for (const start of starts.toReversed()) {
      const part = order.slice(start, starts[starts.indexOf(start) + 1]);
      const rest = filled.slice(start + part.length);
      const fill = this.#fill(filled.slice(0, start), part, rest, end - valueFor(seconds, start));
      if (!fill) return null;
      filled = fill;
      end = valueFor(seconds, start);
    }
    return filled;
  }

  /** Repeats one part of an order until it fills so many seconds. Null where it never does. */
  #fill(
    before: readonly Shown[],
    part: readonly Shown[],
    rest: readonly Shown[],
    seconds: Seconds,
  ): readonly Shown[] | null {
    const release = { floor: true, stillBefore: before.length };
    const holds = (order: readonly Shown[]): boolean => this.#isPossible(order, this.#locksInside(order), release);
    const asItIs = [...before, ...part, ...rest];
    if (holds(asItIs)) return asItIs;
    const material = part.reduce(
      (sum, { slideIndex }) => sum + Math.max(SEEN_SECONDS, this.#slotWishes.materialOf(slideIndex)),
      0,
    );
    if (part.length === 1 || material === Infinity) return null;
    const least = Math.max(part.length + 1, Math.floor((part.length * seconds) / material));
    for (let count = least; count <= MOST_SLOTS * least; count++) {
      const rounds = inRounds(part.length, count).map(({ slideIndex: at, round }) => ({
        slideIndex: itemAt(part, at).slideIndex,
        round: itemAt(part, at).round + round,
      }));
      const order = [...before, ...rounds, ...rest];
      if (holds(order)) return order;
    }
    return null;
  }

  slotsOf({ order, solution, kept: locks, release }: Solved): FittedSlot[] {
    const starts = [0, ...solution.landings.map(({ seconds }) => seconds)];
    const wishes = this.#slotWishes.of(order, release);
    return order.map(({ slideIndex, round }, k) => {
      const { rhythm, logWish } = itemAt(wishes, k);
      const place = k === 0 ? 0 : nearestIndex(this.#landings, itemAt(starts, k)) + 1;
      return {
        slideIndex,
        round,
        landing: k === 0 ? null : itemAt(solution.landings, k - 1),
        locked: locks.some((lock) => lock.slot === k && lock.kind !== "length"),
        keepsMetre: rhythm !== "free",
        wishedSeconds: Math.exp(itemAt(logWish, place)),
      };
    });
  }

  #isPossible(order: readonly Shown[], locks: readonly SlotLock[], release: Release): boolean {
    const problem = this.#problem(order, locks, release);
    return problem !== null && isPossible(problem);
  }

  #isInside({ kind, seconds }: SlotLock): boolean {
    return kind === "length" || seconds <= lastOf(this.#request.ends).seconds;
  }

  /** With as little let go as can be. */
  #solve(order: readonly Shown[], locks: readonly SlotLock[]): Pick<Solved, "solution" | "release"> | null {
    for (const release of [NOTHING, FLOOR, ALL]) {
      const problem = this.#problem(order, locks, release);
      const solution = problem && solveOrder(problem);
      if (solution) return { solution, release };
    }
    return null;
  }

  /**
   * Null where two locks want one slot on two landings, or the first slot anywhere but at the
   * film's start.
   */
  #problem(order: readonly Shown[], locks: readonly SlotLock[], release: Release): OrderProblem | null {
    const slots = [...this.#slotWishes.of(order, release)];
    for (const { slot, kind, seconds, exact } of locks) {
      const wish = itemAt(slots, slot);
      if (kind === "length") slots[slot] = { ...wish, lengthLockSeconds: seconds };
      // The first slide begins with the film: a lock there is kept by itself.
      else if (slot > 0 || seconds >= EDGE_SECONDS) {
        const landingLock = lockedIndex(this.#landings, seconds, exact);
        const isOther = wish.landingLock !== null && wish.landingLock !== landingLock;
        if (slot === 0 || landingLock < 0 || isOther) return null;
        slots[slot] = { ...itemAt(slots, slot), landingLock };
      }
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

  /**
   * Slides that lead keep their time as a whole too: of many small departures to one side none
   * would be dear.
   */
  #ends(order: readonly Shown[], lastSeconds: Seconds | null): FitRequest["ends"] {
    const { slides, slidesLead } = this.#request;
    if (!slidesLead) return this.#request.ends;
    const ends = lastSeconds === null ? this.#request.ends : this.#endsAfter(lastSeconds, order.length);
    const asked = order.reduce((sum, { slideIndex }) => {
      const slide = itemAt(slides, slideIndex);
      const wish = itemAt(this.#wishes, slide.passage);
      return (
        sum + (slide.lengthLockSeconds ?? Math.exp(itemAt(this.#slotWishes.logWish(slide), wish.logWish.length >> 1)))
      );
    }, 0);
    return ends.map(({ seconds, cost }) => ({
      seconds,
      cost: cost + WHOLE_WEIGHT * order.length * Math.log(seconds / asked) ** 2,
    }));
  }

  /**
   * A last slide of a locked length may begin on any landing: the music fades where the slide ends,
   * on a bar or not.
   */
  #endsAfter(lastSeconds: Seconds, slots: number): FitRequest["ends"] {
    const { ends } = this.#request;
    const music = lastOf(ends).seconds;
    const cost = ends.reduce((most, end) => Math.max(most, end.cost), 0);
    const starts = slots === 1 ? [0] : this.#landings.map(({ seconds }) => seconds);
    const found = starts.map((seconds) => seconds + lastSeconds).filter((seconds) => seconds <= music);
    return found.length > 0 ? found.map((seconds) => ({ seconds, cost })) : ends;
  }

  /**
   * All locks of slides that are shown, each for the first time that its slide is, in the order of
   * the film.
   */
  #locksOf(order: readonly Shown[]): SlotLock[] {
    const { slides, passages } = this.#request;
    const locks: SlotLock[] = [];
    const begun = new Set<number>();
    for (const [slot, { slideIndex, round }] of order.entries()) {
      if (round > 0) continue;
      const {
        id,
        passage,
        landingLockSeconds,
        landingLockExact: exact,
        lengthLockSeconds,
      } = itemAt(slides, slideIndex);
      const start = itemAt(passages, passage).startLockSeconds;
      if (!begun.has(passage) && start !== null)
        locks.push({ kind: "passage", id: itemAt(passages, passage).id, slot, seconds: start, exact: false });
      begun.add(passage);
      if (landingLockSeconds !== null) locks.push({ kind: "landing", id, slot, seconds: landingLockSeconds, exact });
      if (lengthLockSeconds !== null)
        locks.push({ kind: "length", id, slot, seconds: lengthLockSeconds, exact: false });
    }
    return locks;
  }

  /** The locks of an order that lie within the film. */
  #locksInside(order: readonly Shown[]): SlotLock[] {
    return this.#locksOf(order).filter((lock) => this.#isInside(lock));
  }

  /** What a person holds of slides that have no room at all: that they stay, and their locks. */
  #heldButLeftOut(order: readonly Shown[]): LockName[] {
    const shown = new Set(order.map(({ slideIndex }) => slideIndex));
    return this.#request.slides.flatMap(({ id, stays, landingLockSeconds, lengthLockSeconds }, index): LockName[] =>
      shown.has(index)
        ? []
        : [
            ...(stays ? [{ kind: "stays" as const, id }] : []),
            ...(landingLockSeconds !== null ? [{ kind: "landing" as const, id }] : []),
            ...(lengthLockSeconds !== null ? [{ kind: "length" as const, id }] : []),
          ],
    );
  }
}
