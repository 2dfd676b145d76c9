import { itemAt, valueFor } from "../presence/index.ts";
import type { ShowDocument } from "../show/index.ts";
import type { Frames } from "../time/index.ts";
import type { FilmPlan } from "./plan-film.ts";

/** A chapter of a film: one of its passages, as far as it is shown. */
export interface Chapter {
  readonly title: string;
  readonly startFrame: Frames;
  /** Exclusive. */
  readonly endFrame: Frames;
}

/**
 * The chapters of a film, tiling it from its first frame to its last: a passage begins with its
 * first slide's slot; one that has no name is called by its number. Rounds in which slides come
 * again belong to the last passage. Empty for a film of a single passage without a name: one
 * chapter says nothing.
 */
export function chaptersOf({ passages, slides }: Pick<ShowDocument, "passages" | "slides">, plan: FilmPlan): Chapter[] {
  const indexOf = new Map(passages.map((passage, index) => [passage.id, index]));
  const passageOf = new Map(slides.map((slide) => [slide.id, slide.passageId]));
  const starts: { title: string; startFrame: Frames }[] = [];
  let before = "";
  for (const slot of plan.slots) {
    const passageId = passageOf.get(slot.slideId);
    if (slot.round > 0 || passageId === undefined || passageId === before) continue;
    before = passageId;
    const index = valueFor(indexOf, passageId);
    starts.push({ title: itemAt(passages, index).name || `Passage ${index + 1}`, startFrame: slot.startFrame });
  }
  if (starts.length === 1 && passages.every(({ name }) => name === "")) return [];
  return starts.map((start, i) => ({ ...start, endFrame: starts[i + 1]?.startFrame ?? plan.totalFrames }));
}
