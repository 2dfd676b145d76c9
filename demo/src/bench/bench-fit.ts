import { type FitRequest, fitSlides } from "@humming-tide/core/fit";
import { benchChoice } from "./bench-choice.ts";
import { benchMetre } from "./bench-metre.ts";
import { benchStillness } from "./bench-stillness.ts";
import { median, wallSeconds } from "./measure.ts";
import { plainSlide } from "./plain-slide.ts";

const RUNS = 41;

/**
 * How musical and how still films are, where a folder of songs is given; how good the choice of
 * slides is. Then the time to lay slides, on one thread: from nothing, again after a small change,
 * and how it grows with their number.
 */
export async function benchFit(folder?: string): Promise<void> {
  if (folder) {
    benchMetre(folder);
    benchStillness(folder);
  }
  benchChoice();
  const timed = async (run: (turn: number) => void): Promise<string> => {
    run(0);
    const times: number[] = [];
    for (let turn = 1; turn <= RUNS; turn++) times.push(await wallSeconds(() => run(turn)));
    return `${(1000 * median(times)).toFixed(1)} ms (median of ${RUNS})`;
  };
  const tenMinutes = requestOf(140, 10);
  console.log(
    `  140 slides on 10 minutes, one landing locked elsewhere: ${await timed((turn) => void fitSlides(locked(tenMinutes, 70, 250 + 4 * turn)))}; wanted: 16`,
  );
  const clips = withClips(tenMinutes);
  console.log(
    "  140 slides on 10 minutes, 47 of them clips, and locks that contradict each other: " +
      `${await timed((turn) => void fitSlides(contradicting(clips, turn)))}; wanted: 16`,
  );
  const twenty = requestOf(1000, 20);
  console.log(`  1,000 slides on 20 minutes, from nothing: ${await timed(() => void fitSlides(twenty))}; wanted: 150`);
  for (const count of [60, 125, 250, 500, 1000, 2000]) {
    const request = requestOf(count, 20);
    console.log(`  ${count} slides on 20 minutes: ${await timed(() => void fitSlides(request))}`);
  }
}

function requestOf(count: number, minutes: number): FitRequest {
  const gap = 0.5;
  const beats = Array.from({ length: (minutes * 60) / gap - 1 }, (_, i) => ({
    seconds: 0.3 + i * gap,
    position: (i % 4) + 1,
  }));
  return {
    slides: Array.from({ length: count }, (_, i) => plainSlide(`s${i}`, i + 1)),
    passages: [{ id: "p1", name: "", pace: { kind: "auto" }, startLockSeconds: null }],
    music: {
      beats,
      beatsPerBar: 4,
      phrases: beats.filter((_, i) => i % 16 === 0).map(({ seconds }) => seconds),
      sections: beats.filter((_, i) => i % 64 === 0).map(({ seconds }) => ({ startSeconds: seconds, label: "A" })),
      accents: beats.filter((_, i) => i % 9 === 0).map(({ seconds }) => ({ seconds, strength: 0.6 })),
      markers: [],
      loudnessAt: () => 0,
    },
    ends: [{ seconds: minutes * 60, cost: 0 }],
    slidesLead: false,
    keepsPlan: true,
    settledLocks: [],
  };
}

const locked = (request: FitRequest, index: number, seconds: number): FitRequest => ({
  ...request,
  slides: request.slides.map((slide, i) => (i === index ? { ...slide, landingLockSeconds: seconds } : slide)),
});

/** Every third slide is a clip of three to nine seconds. */
const withClips = (request: FitRequest): FitRequest => ({
  ...request,
  slides: request.slides.map((slide, i) => (i % 3 === 0 ? { ...slide, materialSeconds: 3 + (i % 7) } : slide)),
});

/** A lock on every tenth slide, and two in the middle that leave no room for those between them. */
function contradicting(request: FitRequest, turn: number): FitRequest {
  const spread = request.slides.reduce((all, _, i) => (i > 0 && i % 10 === 0 ? locked(all, i, 4.2 * i) : all), request);
  return locked(locked(spread, 63, 200 + turn), 69, 203 + turn);
}
