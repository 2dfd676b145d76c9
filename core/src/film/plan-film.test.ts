import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { MusicAnalysis } from "../music/index.ts";
import { parseDrawnPicture } from "../picture/index.ts";
import { newShowDocument, newSlide, type ShowDocument } from "../show/index.ts";
import { musicAnalysis } from "../testing/index.ts";
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
  return musicAnalysis({
    durationSeconds: seconds,
    musicEndSeconds: seconds - 0.01,
    tempoBpm: 60 / gap,
    meter: "4/4",
    beats,
  });
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

  it("leaves out what a person left out, and names slides by their place among all", () => {
    const base = show(12);
    const rated = {
      ...base,
      slides: base.slides.map((slide, i) => ({ ...slide, rating: i % 3 === 0 ? ("out" as const) : ("keep" as const) })),
    };
    const plan = planFilm(rated, facts(song(30, 0.5)));
    expect(plan.slots.map(({ slideIndex }) => slideIndex)).toEqual([1, 2, 4, 5, 7, 8, 10, 11]);
    expect(plan.slots.map(({ fileName }) => fileName)).toEqual([1, 2, 4, 5, 7, 8, 10, 11].map((i) => `${i}.jpg`));
    const tight = planFilm({ ...rated, pace: { kind: "beats", count: 12 } }, facts(song(30, 0.5)));
    expect(tight.leftOut.length).toBeGreaterThan(0);
    for (const index of tight.leftOut) expect(rated.slides[index]!.rating).toBe("keep");
    const none = { ...base, slides: base.slides.map((slide) => ({ ...slide, rating: "out" as const })) };
    expect(() => planFilm(none, facts(song(30, 0.5)))).toThrow(/All 12 pictures of this show are left out/);
  });

  it("draws a turned picture under its own name and in its own shape", () => {
    const base = show(3);
    const turns = [0, 90, 180] as const;
    const turned = { ...base, slides: base.slides.map((slide, i) => ({ ...slide, turn: turns[i]! })) };
    const { slots } = planFilm(turned, facts(song(12, 0.5)));
    expect(slots.map(({ picture, pictureSize }) => [picture, pictureSize.width, pictureSize.height])).toEqual([
      [HASH, 300, 200],
      [`${HASH}-90`, 200, 300],
      [`${HASH}-180`, 300, 200],
    ]);
    for (const slot of slots) {
      expect(parseDrawnPicture(slot.picture)).toEqual({ sha256: HASH, turn: turns[slot.index] });
    }
    for (const wrong of ["", HASH.slice(1), `${HASH}-45`, `../${HASH}`]) expect(parseDrawnPicture(wrong)).toBeNull();
  });

  it("takes a passage's own transition into each of its slides, and the show's into the others", () => {
    const base = show(6);
    const passages = [
      { id: "p1", name: "", transition: null },
      { id: "p2", name: "Race", transition: { kind: "cut" as const } },
      { id: "p3", name: "", transition: { kind: "dissolve" as const, seconds: 2 } },
    ];
    const divided = {
      ...base,
      passages,
      slides: base.slides.map((slide, i) => ({ ...slide, passageId: `p${Math.floor(i / 2) + 1}` })),
    };
    const { slots } = planFilm(divided, facts(song(60, 0.5)));
    const frames = slots.slice(1).map(({ transitionIn: t }) => (t.kind === "cut" ? 0 : t.endFrame - t.startFrame));
    // 0.8 s are 19 frames at 25, 2 s are 49: odd numbers, so that one frame is the middle.
    expect(frames).toEqual([19, 0, 0, 49, 49]);
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
