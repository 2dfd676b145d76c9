import { itemAt } from "../presence/index.ts";
import type { Seconds } from "../time/index.ts";

/** A slide in the film's order with its time on the common clock; null where it has none. */
export interface TimedSlide {
  readonly id: string;
  readonly seconds: Seconds | null;
}

export interface ProposedPassage {
  readonly slideId: string;
  /** Seconds since the picture before; null for the first passage. */
  readonly gapSeconds: Seconds | null;
  readonly count: number;
}

/**
 * How much longer than its neighbours a gap must be, from few passages to many. The middle one is
 * the paper's value.
 */
export const PASSAGE_SENSITIVITY = { few: 60, usual: 17, many: 6 } as const;
export type PassageSensitivity = keyof typeof PASSAGE_SENSITIVITY;

/** Gaps to each side that a gap is compared with. */
const NEIGHBOURS = 10;
/** A break of less than this parts nothing, however dense the pictures beside it. */
const SHORTEST_BREAK_SECONDS = 120;

/**
 * Proposes where passages begin: a gap between neighbouring pictures that is much longer than those
 * around it, in logarithms, is where something else began (Platt, Czerwinski & Field 2003: log gap
 * >= log K + mean of the 2 d + 1 log gaps around it, K = 17, d = 10; at the ends of the show over
 * the gaps that exist). Here the gap itself is left out of the mean, since short shows would
 * otherwise hide it. Going back in time by more than the shortest break is a beginning too: the
 * order is by hand then. Slides without a time belong to the one before. O(n). The first passage
 * begins at the first slide; empty for no slides.
 */
export function proposePassages(
  slides: readonly TimedSlide[],
  sensitivity: PassageSensitivity = "usual",
): ProposedPassage[] {
  const timed: { index: number; seconds: Seconds }[] = [];
  for (const [index, { seconds }] of slides.entries()) if (seconds !== null) timed.push({ index, seconds });
  const gaps = timed.slice(1).map((slide, i) => slide.seconds - itemAt(timed, i).seconds);
  const logs = gaps.map((gap) => Math.log(Math.max(1, gap)));
  const beginnings: { index: number; gap: number | null }[] = slides.length > 0 ? [{ index: 0, gap: null }] : [];
  for (const [i, gap] of gaps.entries()) {
    const around = [...logs.slice(Math.max(0, i - NEIGHBOURS), i), ...logs.slice(i + 1, i + 1 + NEIGHBOURS)];
    const usual = around.length > 0 ? around.reduce((sum, value) => sum + value, 0) / around.length : 0;
    const longer =
      itemAt(logs, i) >= Math.log(PASSAGE_SENSITIVITY[sensitivity]) + usual && gap >= SHORTEST_BREAK_SECONDS;
    if (longer || gap <= -SHORTEST_BREAK_SECONDS) beginnings.push({ index: itemAt(timed, i + 1).index, gap });
  }
  return beginnings.map(({ index, gap }, i) => ({
    slideId: itemAt(slides, index).id,
    gapSeconds: gap,
    count: (beginnings[i + 1]?.index ?? slides.length) - index,
  }));
}
