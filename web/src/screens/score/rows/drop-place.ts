import type { FilmPlan } from "@humming-tide/core/film";
import { itemAt } from "@humming-tide/core/presence";
import type { ShowDocument, SlidePlace } from "@humming-tide/core/show";
import { frameStart } from "@humming-tide/core/time";

export interface ScoreDropPlace {
  readonly place: SlidePlace;
  /** The edge between two slots that it means. */
  readonly markSeconds: number;
}

/**
 * Where slides that are let go at a moment of the film go: in front of the slide shown there, or
 * from the middle of its slot on behind it. O(slots + slides).
 */
export function scoreDropPlace(plan: FilmPlan, show: ShowDocument, filmSeconds: number): ScoreDropPlace {
  const startOf = (index: number): number =>
    plan.slots[index]?.landing?.seconds ?? (index === 0 ? 0 : frameStart(plan.totalFrames, plan.rate));
  const next = plan.slots.findIndex((slot) => slot.index > 0 && startOf(slot.index) > filmSeconds);
  const index = (next < 0 ? plan.slots.length : next) - 1;
  const { slideId } = itemAt(plan.slots, index);
  const at = show.slides.findIndex((slide) => slide.id === slideId);
  const { passageId } = itemAt(show.slides, at);
  const [from, to] = [startOf(index), startOf(index + 1)];
  if (filmSeconds < (from + to) / 2) return { place: { passageId, beforeId: slideId }, markSeconds: from };
  const behind = show.slides[at + 1];
  const beforeId = behind?.passageId === passageId ? behind.id : null;
  return { place: { passageId, beforeId }, markSeconds: to };
}
