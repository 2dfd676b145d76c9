import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { MusicAnalysis } from "../music/index.ts";
import { newShowDocument, newSlide, type ShowDocument } from "../show/index.ts";
import { type FrameRate, NAMED_FRAME_RATES } from "../time/index.ts";
import { type FilmPlan, planFilm } from "./index.ts";

const HASH = "a".repeat(64);

function song(seconds: number, gap: number): MusicAnalysis {
  const beats = Array.from({ length: Math.floor((seconds - 0.3) / gap) }, (_, i) => ({
    // Off every frame raster, as real beats are.
    seconds: 0.2371 + i * gap + 0.004 * Math.sin(i),
    position: (i % 4) + 1,
    confidence: 1,
  }));
  return {
    durationSeconds: seconds,
    steady: beats.length > 0,
    tempoBpm: 60 / gap,
    meter: "4/4",
    beats,
    bars: [],
    sections: [],
    accents: [],
    energy: { stepSeconds: 0.1, values: [] },
    musicEndSeconds: seconds - 0.01,
  };
}

const show = (count: number, more: Partial<ShowDocument> = {}): ShowDocument => ({
  ...newShowDocument("Regatta"),
  slides: Array.from({ length: count }, (_, i) => newSlide({ id: `s${i}`, sha256: HASH, fileName: `${i}.jpg` })),
  song: { sha256: HASH, fileName: "song.wav" },
  ...more,
});

const facts = (music: MusicAnalysis) => ({ song: music, pictureSize: () => ({ width: 300, height: 200 }) });

function expectTiles(plan: FilmPlan, rate: FrameRate): void {
  const wrong: string[] = [];
  let at = 0;
  for (const slot of plan.slots) {
    if (slot.startFrame !== at || slot.endFrame <= at)
      wrong.push(`slot ${slot.index}: ${slot.startFrame} to ${slot.endFrame}`);
    at = slot.endFrame;
    if (!slot.landing) continue;
    const shownMs = (1000 * slot.startFrame * rate.den) / rate.num;
    const error = shownMs - 1000 * slot.landing.seconds;
    const isHalfFrame = Math.abs(error) <= (500 * rate.den) / rate.num + 1e-6;
    if (!isHalfFrame || Math.abs(error - slot.landingErrorMs!) > 1e-6) wrong.push(`slot ${slot.index}: ${error} ms`);
  }
  expect(wrong).toEqual([]);
  expect(at).toBe(plan.totalFrames);
}

describe("the film plan", () => {
  it("tiles the film without gap or overlap, and no landing is further than half a frame from its beat", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.values(NAMED_FRAME_RATES)),
        fc.integer({ min: 1, max: 120 }),
        fc.integer({ min: 5, max: 400 }),
        fc.double({ min: 0.3, max: 1, noNaN: true }),
        (rate, count, seconds, gap) => {
          const plan = planFilm(show(count, { frameRate: rate }), facts(song(seconds, gap)));
          expectTiles(plan, rate);
          expect((plan.totalFrames * rate.den) / rate.num).toBeLessThanOrEqual(seconds + 1e-6);
        },
      ),
      { numRuns: 120 },
    );
  });

  it.each(Object.entries(NAMED_FRAME_RATES))("does not drift over an hour at %s frames per second", (_name, rate) => {
    const plan = planFilm(show(900, { frameRate: rate }), facts(song(3600, 0.61)));
    expect(plan.slots.length).toBe(900);
    expectTiles(plan, rate);
  });

  it("is the same for the same show", () => {
    const music = song(60, 0.5);
    expect(planFilm(show(12), facts(music))).toEqual(planFilm(show(12), facts(music)));
  });

  it("lays again after a nudge of the grid: landings move with it", () => {
    const music = song(60, 0.5);
    const before = planFilm(show(12), facts(music));
    const after = planFilm(show(12, { gridEdits: [{ kind: "nudge", milliseconds: 20 }] }), facts(music));
    after.slots.slice(1).forEach((slot, i) => {
      expect(slot.landing!.seconds).toBeCloseTo(before.slots[i + 1]!.landing!.seconds + 0.02, 9);
    });
  });

  it("says what is missing where there is no film yet", () => {
    const music = facts(song(30, 0.5));
    expect(() => planFilm(show(3, { song: null }), music)).toThrow(expect.objectContaining({ code: "no-song" }));
    expect(() => planFilm(show(0), music)).toThrow(expect.objectContaining({ code: "no-slides" }));
    expect(() => planFilm(show(3), { ...music, pictureSize: () => undefined })).toThrow(
      /"0\.jpg" of slide 1 is missing/,
    );
  });
});
