import { byQuality, type PictureQuality } from "@humming-tide/core/photo-analysis";
import { itemAt } from "@humming-tide/core/presence";
import { changeSlides, type ShowDocument, type Slide } from "@humming-tide/core/show";

/** Near-identical pictures of one passage, in the show's order. */
export interface Stack {
  /** The best of them, which lies on top. */
  readonly top: string;
  readonly ids: readonly string[];
}

const RANK = { keep: 0, maybe: 1, out: 2 };

/**
 * The stack of each slide that has near-identical ones in its passage. On top lies a hero, else the
 * best rated, of these the sharpest, of equal ones the first. O(slides log slides).
 *
 * @param moments Ids of near-identical pictures, a group each.
 */
export function stacksOf(
  moments: readonly (readonly string[])[],
  slides: readonly Slide[],
  qualityOf: (slide: Slide) => PictureQuality,
): ReadonlyMap<string, Stack> {
  const momentOf = new Map(moments.flatMap((group, index) => group.map((id) => [id, index] as const)));
  const groups = new Map<string, Slide[]>();
  for (const slide of slides) {
    const moment = momentOf.get(slide.id);
    if (moment === undefined) continue;
    const key = `${moment} ${slide.passageId}`;
    groups.set(key, [...(groups.get(key) ?? []), slide]);
  }
  const stacks = new Map<string, Stack>();
  for (const group of groups.values()) {
    if (group.length < 2) continue;
    const better = (a: Slide, b: Slide): number =>
      Number(b.hero) - Number(a.hero) || RANK[a.rating] - RANK[b.rating] || byQuality(qualityOf(a), qualityOf(b));
    const stack = { top: itemAt(group.toSorted(better), 0).id, ids: group.map(({ id }) => id) };
    for (const id of stack.ids) stacks.set(id, stack);
  }
  return stacks;
}

/** Slides without those that lie under another one. */
export const folded = (slides: readonly Slide[], stacks: ReadonlyMap<string, Stack>): Slide[] =>
  slides.filter(({ id }) => {
    const stack = stacks.get(id);
    return !stack || stack.top === id;
  });

/** One of a stack is kept, and the others are left out. */
export function chosenOf(show: ShowDocument, { ids }: Stack, chosen: string): ShowDocument {
  const kept = changeSlides(show, new Set([chosen]), { rating: "keep" });
  return changeSlides(kept, new Set(ids.filter((id) => id !== chosen)), { rating: "out" });
}
