import { itemAt, present, valueFor } from "../../presence/index.ts";
import type { Seconds } from "../../time/index.ts";
import { hasPicture, type ShowDocument, type Slide } from "../document/index.ts";
import { showError } from "../show-errors.ts";
import { naturalOrder } from "./natural-order.ts";
import { putSlides, type SlidePlace } from "./slide-edits.ts";

/** All edits here throw `order-locked` where the show's order is the client's. */

/**
 * Moves slides to a place, in the order that they have now. A place before a slide that is itself
 * moved is before the next one that stays in that passage.
 */
export function moveSlides(show: ShowDocument, ids: ReadonlySet<string>, place: SlidePlace): ShowDocument {
  const moved = show.slides.filter((slide) => ids.has(slide.id));
  if (moved.length === 0) return show;
  const from = show.slides.findIndex((slide) => slide.id === place.beforeId);
  const before =
    from < 0
      ? undefined
      : show.slides.slice(from).find((slide) => !ids.has(slide.id) && slide.passageId === place.passageId);
  const rest = show.slides.filter((slide) => !ids.has(slide.id));
  return reordered(show, putSlides(show, rest, moved, { passageId: place.passageId, beforeId: before?.id ?? null }));
}

/**
 * Moves slides together by so many steps through the film, negative towards its beginning. A step
 * passes one slide, or the border of a passage; at the ends of the film they stay.
 */
export function shiftSlides(show: ShowDocument, ids: ReadonlySet<string>, steps: number): ShowDocument {
  const moved = show.slides.filter((slide) => ids.has(slide.id));
  if (moved.length === 0) return show;
  // The film as a line of borders (passage ids) and slides that stay; the moved ones stand
  // somewhere behind the first border.
  const line: (string | Slide)[] = [];
  let stand = 0;
  for (const passage of show.passages) {
    line.push(passage.id);
    for (const slide of show.slides) {
      if (slide.passageId !== passage.id) continue;
      if (slide === moved[0]) stand = line.length;
      if (!ids.has(slide.id)) line.push(slide);
    }
  }
  const at = Math.max(1, Math.min(line.length, stand + steps));
  const passageId = present(line.slice(0, at).findLast((item) => typeof item === "string"));
  const placed = moved.map((slide) => (slide.passageId === passageId ? slide : { ...slide, passageId }));
  return reordered(
    show,
    line.toSpliced(at, 0, ...placed).filter((item) => typeof item !== "string"),
  );
}

/** How slides can be put in order by themselves. */
export type SlideOrder =
  | { readonly kind: "name" }
  | {
      readonly kind: "time";
      /** Seconds of a slide on a common clock; null where its file does not say. */
      readonly secondsOf: (slide: Slide) => number | null;
    }
  | { readonly kind: "shuffle"; readonly seed: number };

/**
 * Puts slides in order within their passages: the named ones (null: all) exchange the places that
 * they hold, everything else stays. By file name, 2 before 10; by time, ties by name, files without
 * a time last, in the order they had; or shuffled by a seed, the same every time. Cards stay where
 * they are.
 */
export function orderSlides(show: ShowDocument, ids: ReadonlySet<string> | null, order: SlideOrder): ShowDocument {
  const random = order.kind === "shuffle" ? seededRandom(order.seed) : null;
  const queues = new Map<string, Slide[]>();
  const isOrdered = (slide: Slide): boolean => hasPicture(slide) && (ids?.has(slide.id) ?? true);
  for (const passage of show.passages) {
    const own = show.slides.filter((slide) => slide.passageId === passage.id && isOrdered(slide));
    queues.set(passage.id, random ? shuffled(own, random) : own.sort(comparison(order)));
  }
  return reordered(
    show,
    show.slides.map((slide) => (isOrdered(slide) ? present(valueFor(queues, slide.passageId).shift()) : slide)),
  );
}

function comparison(order: SlideOrder): (a: Slide, b: Slide) => number {
  if (order.kind !== "time") return (a, b) => naturalOrder(a.fileName, b.fileName);
  return (a, b) => {
    const [first, second] = [order.secondsOf(a), order.secondsOf(b)];
    if (first === null || second === null) return Number(first === null) - Number(second === null);
    return first - second || naturalOrder(a.fileName, b.fileName);
  };
}

/** Fisher and Yates, from the end. */
function shuffled(slides: readonly Slide[], random: () => number): Slide[] {
  const result = [...slides];
  for (let last = result.length - 1; last > 0; last--) {
    const other = Math.floor(random() * (last + 1));
    [result[last], result[other]] = [itemAt(result, other), itemAt(result, last)];
  }
  return result;
}

/** Mulberry32: 32 bits of state, good enough to shuffle by; 0 inclusive to 1 exclusive. */
function seededRandom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}

/** Locks the order of the slides, or sets it free; the same document where it is so already. */
export function lockOrder(show: ShowDocument, orderLocked: boolean): ShowDocument {
  return show.orderLocked === orderLocked ? show : { ...show, orderLocked };
}

/** Tells how far a camera's clock is off; 0 takes the entry away. */
export function shiftClock(show: ShowDocument, camera: string, offsetSeconds: Seconds): ShowDocument {
  const { [camera]: before, ...others } = show.clockOffsets;
  if ((before ?? 0) === offsetSeconds) return show;
  return { ...show, clockOffsets: offsetSeconds === 0 ? others : { ...others, [camera]: offsetSeconds } };
}

/**
 * The show with the same slides in another order. Throws `order-locked`; going over into another
 * passage changes no order.
 */
export function reordered(show: ShowDocument, slides: Slide[]): ShowDocument {
  if (slides.every((slide, index) => slide === show.slides[index])) return show;
  if (show.orderLocked && slides.some((slide, index) => slide.id !== itemAt(show.slides, index).id)) {
    throw showError("order-locked");
  }
  return { ...show, slides };
}
