import type { PlannedWords, Rectangle, Size } from "../picture/index.ts";
import type { WordPlace } from "../show/index.ts";
import { wordsArea } from "../words/index.ts";

/** Where words of a kind may stand, the best first. Common practice. */
const PLACES: Readonly<Record<PlannedWords["kind"], readonly WordPlace[]>> = {
  title: ["middle", "bottom", "top", "bottom-left", "bottom-right", "top-left", "top-right"],
  text: ["middle", "bottom", "top", "left", "right", "bottom-left", "bottom-right", "top-left", "top-right"],
  "lower-third": ["bottom-left", "bottom-right", "bottom", "left", "right", "top-left", "top-right"],
  end: ["middle", "bottom", "top"],
  credits: ["middle"],
  caption: ["bottom", "top", "bottom-left", "bottom-right", "top-left", "top-right"],
};

/** So much of a head may lie under words: both places are estimates. */
const MOST_COVERED = 0.1;

/** Whether words lie on one of the heads, all in pixels of the frame. */
export const liesOnFace = (words: PlannedWords, frame: Size, heads: readonly Rectangle[]): boolean =>
  covered(wordsArea(words, frame), heads) > MOST_COVERED;

/**
 * The best place of a kind of words that covers no head; where each would, the one that covers the
 * least. O(heads).
 */
export function placeOffFaces(words: PlannedWords, frame: Size, heads: readonly Rectangle[]): WordPlace {
  let best = { place: words.place, share: Number.POSITIVE_INFINITY };
  for (const place of PLACES[words.kind]) {
    const share = covered(wordsArea({ ...words, place }, frame), heads);
    if (share <= MOST_COVERED) return place;
    if (share < best.share) best = { place, share };
  }
  return best.place;
}

/** How much of the head that is covered most lies under an area, 0 to 1. */
function covered(area: Rectangle, heads: readonly Rectangle[]): number {
  return heads.reduce((most, head) => {
    const across = Math.min(area.x + area.width, head.x + head.width) - Math.max(area.x, head.x);
    const down = Math.min(area.y + area.height, head.y + head.height) - Math.max(area.y, head.y);
    const share = (Math.max(0, across) * Math.max(0, down)) / (head.width * head.height);
    return Math.max(most, share);
  }, 0);
}
