import type { FilmPlan, FilmSlot } from "../film/index.ts";
import { framesPerSecond, type Seconds } from "../time/index.ts";
import { READING_WORDS_PER_MINUTE, secondsToRead } from "../words/index.ts";
import type { Finding } from "./finding.ts";

/**
 * A picture that is seen for less is gone before it is kept in mind: Potter (1976) found that a
 * scene is understood within about 0.1 s and needs some 0.3 s more to be remembered (values from
 * memory).
 */
const SHORTEST_SLIDE_SECONDS = 0.4;
/** Words may be seen for so much less than they ask for: reading speeds are no natural constant. */
const READING_SLACK_SECONDS = 0.05;

/** A place in the film that a slot is. */
export const placeOfSlot = (plan: Pick<FilmPlan, "rate">, slot: FilmSlot): Finding["place"] => ({
  slotIndex: slot.index,
  slideId: slot.slideId,
  seconds: slot.startFrame / framesPerSecond(plan.rate),
  outputs: [],
});

/** Slides too short to be seen, words too short to be read. */
export function checkSlides(plan: FilmPlan): Finding[] {
  const fps = framesPerSecond(plan.rate);
  return plan.slots.flatMap((slot) => {
    const seconds = (slot.endFrame - slot.startFrame) / fps;
    const findings: Finding[] = [];
    if (seconds < SHORTEST_SLIDE_SECONDS - 1e-9)
      findings.push({
        kind: "slide-short",
        severity: "warning",
        place: placeOfSlot(plan, slot),
        values: { slide: slot.name, seconds, leastSeconds: SHORTEST_SLIDE_SECONDS },
        fixes: [...standing(slot, SHORTEST_SLIDE_SECONDS), { kind: "leaveOut", slideId: slot.slideId }],
      });
    const words = wordsOf(slot, fps);
    if (words && words.seenSeconds < words.neededSeconds - READING_SLACK_SECONDS)
      findings.push({
        kind: "words-short",
        severity: words.seenSeconds < words.neededSeconds / 2 ? "error" : "warning",
        place: placeOfSlot(plan, slot),
        values: {
          slide: slot.name,
          seenSeconds: words.seenSeconds,
          neededSeconds: words.neededSeconds,
          wordsPerMinute: READING_WORDS_PER_MINUTE,
        },
        fixes: standing(slot, seconds + words.neededSeconds - words.seenSeconds),
      });
    return findings;
  });
}

/**
 * To the next tenth of a second. A length is held the first time that a slide is shown: where it
 * comes again, nothing is offered.
 */
function standing({ slideId, round }: FilmSlot, seconds: Seconds): Finding["fixes"] {
  if (round > 0) return [];
  const rounded = Math.ceil(seconds * 10 - 1e-9) / 10;
  return [{ kind: "stand", slideId, seconds: rounded }];
}

/**
 * All words of a slot are there together, and are read one after the other. Fades count as half.
 */
function wordsOf({ words }: FilmSlot, fps: number): { seenSeconds: Seconds; neededSeconds: Seconds } | null {
  const neededSeconds = words.sheet.reduce((sum, { text }) => sum + secondsToRead(text), 0);
  if (neededSeconds === 0) return null;
  const seen = words.times.map(
    ({ startFrame, endFrame, fadeInFrames, fadeOutFrames }) =>
      endFrame - startFrame - (fadeInFrames + fadeOutFrames) / 2,
  );
  return { seenSeconds: Math.max(...seen) / fps, neededSeconds };
}
