import { costOfFit, type FitRequest, fitSlides, type SlideForFit } from "@humming-tide/core/fit";
import { itemAt, lastOf } from "@humming-tide/core/presence";
import type { Pace } from "@humming-tide/core/values";
import { median } from "./measure.ts";
import { plainSlide } from "./plain-slide.ts";

const SHOWS = 300;
/** Dearer by less than this is the same. */
const SAME = 1e-6;

/**
 * How far the choice of slides is from the best one: 300 small shows with too many slides, drawn
 * from a seed, against every way to leave slides out. A film's cost is its laying and what is left
 * out.
 */
export function benchChoice(): void {
  const random = seeded(20_261_129);
  const gaps: number[] = [];
  while (gaps.length < SHOWS) {
    const request = anyRequest(random);
    const fit = fitSlides(request);
    // Where all have room none is left out, whatever it would save.
    if (fit.leftOut.length === 0) continue;
    const cost = costOfFit(request, fit);
    gaps.push(cost / bestCost(request) - 1);
  }
  gaps.sort((a, b) => a - b);
  const best = gaps.filter((gap) => gap < SAME).length;
  const percent = (gap: number): string => `${(100 * Math.max(0, gap)).toFixed(1)} %`;
  console.log(
    `  choice of slides, ${SHOWS} small shows: the best in ${best}; dearer by ${percent(median(gaps))} on the median, ` +
      `${percent(itemAt(gaps, Math.floor(0.9 * SHOWS)))} in nine of ten, ${percent(lastOf(gaps))} at most`,
  );
}

/** The least that any subset of the slides costs. */
function bestCost(request: FitRequest): number {
  let best = Number.POSITIVE_INFINITY;
  for (let mask = 1; mask < 2 ** request.slides.length; mask++) {
    const shown = request.slides.filter((_, i) => (mask >> i) & 1);
    const left = request.slides.filter((_, i) => !((mask >> i) & 1));
    if (left.some(({ stays }) => stays)) continue;
    const result = fitSlides({ ...request, slides: shown });
    // More than have room, or so few that some would come again.
    if (result.leftOut.length > 0 || result.repeats > 0) continue;
    const whole = { slides: [...shown, ...left] };
    const leftOut = left.map((_, i) => shown.length + i);
    best = Math.min(best, costOfFit(whole, { ...result, leftOut }));
  }
  return best;
}

function anyRequest(random: () => number): FitRequest {
  const pick = <Value>(values: readonly Value[]): Value => itemAt(values, Math.floor(random() * values.length));
  const gap = pick([0.4, 0.5, 0.6]);
  const count = 16 + Math.floor(random() * 17);
  const beats = Array.from({ length: count }, (_, i) => ({ seconds: 0.3 + i * gap, position: (i % 4) + 1 }));
  const slides = Array.from(
    { length: 4 + Math.floor(random() * 4) },
    (_, i): SlideForFit => ({
      ...plainSlide(`s${i}`, i + 1),
      rating: random() < 0.3 ? "maybe" : "keep",
      hero: random() < 0.15,
      stays: random() < 0.1,
      wishedSeconds: random() < 0.2 ? 2 + Math.floor(3 * random()) : null,
    }),
  );
  const pace = pick<Pace>([
    { kind: "auto" },
    { kind: "auto" },
    { kind: "beats", count: 4 },
    { kind: "bars", count: 2 },
    { kind: "seconds", seconds: 3 },
  ]);
  return {
    slides,
    passages: [{ id: "p1", name: "", pace, startLockSeconds: null }],
    music: {
      beats,
      beatsPerBar: 4,
      phrases: beats.filter((_, i) => i % 8 === 0).map(({ seconds }) => seconds),
      sections: beats.filter((_, i) => i % 16 === 0).map(({ seconds }) => ({ startSeconds: seconds, label: "A" })),
      accents: [],
      markers: [],
      loudnessAt: () => 0,
    },
    ends: [{ seconds: 0.3 + count * gap, cost: 0 }],
    slidesLead: false,
    keepsPlan: true,
    settledLocks: [],
  };
}

/** Numbers from 0 to 1 that are the same in every run (mulberry32). */
function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32;
  };
}
