import type { FitRequest, MusicForFit, PassageForFit, SlideForFit } from "../fit/index.ts";
import type { Pace } from "../values/index.ts";

/** Requests for the solver, plain except for what a test is about. */

const slide = (index: number, more: Partial<SlideForFit> = {}): SlideForFit => ({
  id: `s${index}`,
  place: index + 1,
  passage: 0,
  rating: "keep",
  hasBetterLike: false,
  stays: false,
  hero: false,
  wishedSeconds: null,
  minimumSeconds: null,
  maximumSeconds: null,
  lengthLockSeconds: null,
  landingLockSeconds: null,
  landingLockExact: false,
  materialSeconds: null,
  moment: null,
  ...more,
});
export const fitSlidesList = (
  count: number,
  more: Readonly<Record<number, Partial<SlideForFit>>> = {},
): SlideForFit[] => Array.from({ length: count }, (_, i) => slide(i, more[i]));

export const fitMusic = (count: number, gap = 0.5, from = 0.2, more: Partial<MusicForFit> = {}): MusicForFit => ({
  beats: Array.from({ length: count }, (_, i) => ({ seconds: from + i * gap, position: (i % 4) + 1 })),
  beatsPerBar: 4,
  phrases: [],
  sections: [],
  accents: [],
  markers: [],
  loudnessAt: () => 0,
  ...more,
});

export const fitPassage = (
  pace: Pace = { kind: "auto" },
  startLockSeconds: number | null = null,
  id = "p1",
): PassageForFit => ({
  id,
  name: "",
  pace,
  startLockSeconds,
});

export const fitRequest = (more: Partial<FitRequest> & { endSeconds?: number; pace?: Pace }): FitRequest => {
  const { endSeconds = 50, pace, ...rest } = more;
  return {
    slides: fitSlidesList(10),
    passages: [fitPassage(pace)],
    music: fitMusic(100),
    ends: [{ seconds: endSeconds, cost: 0 }],
    slidesLead: false,
    keepsPlan: true,
    settledLocks: [],
    ...rest,
  };
};
