import type { Grid } from "../grid/index.ts";
import { type ShowDocument, type Slide, styleOf } from "../show/index.ts";
import type { Seconds } from "../time/index.ts";
import { secondsToRead } from "../words/index.ts";
import { lengthInSeconds } from "./length-in-seconds.ts";
import { wordsAsked } from "./plan-words.ts";

/**
 * How long a slide must stand for its words to be read: their reading time, and half of the
 * transition on either side, in which they come and go. Null for a slide without words.
 */
export function readingSeconds(show: ShowDocument, slide: Slide, beats: Grid["beats"]): Seconds | null {
  const style = styleOf(show, slide);
  const needed = wordsAsked(slide, style).reduce((sum, { words }) => sum + secondsToRead(words.text), 0);
  if (needed === 0) return null;
  const { transition } = style;
  return needed + ("length" in transition ? lengthInSeconds(transition.length, 0, beats) : 0);
}
