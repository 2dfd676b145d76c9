import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { MusicAnalysis } from "../music/index.ts";
import { TEXTURE_WIDTH } from "../music/structure/texture.ts";
import { parseDrawnPicture } from "../picture/index.ts";
import { itemAt, present } from "../presence/index.ts";
import {
  AS_ABOVE,
  changeSong,
  FIRST_STYLE,
  newPassage,
  newShowDocument,
  newShowSong,
  newSlide,
  type ShowDocument,
} from "../show/index.ts";
import { musicAnalysis, steadySong } from "../testing/index.ts";
import { type FrameRate, NAMED_FRAME_RATES } from "../time/index.ts";
import { applyFitChange, costOfFilm, type FilmPlan, filmFacts, fitShow, planFilm, waysOut } from "./index.ts";

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
  songs: [newShowSong({ id: "song 1", sha256: HASH, fileName: "song.wav" })],
  ...more,
});

const facts = (music: MusicAnalysis) =>
  filmFacts(
    () => music,
    () => ({ width: 300, height: 200 }),
  );

function expectTiles(plan: FilmPlan, rate: FrameRate): void {
  const wrong: string[] = [];
  let at = 0;
  for (const slot of plan.slots) {
    if (slot.startFrame !== at || slot.endFrame <= at)
      wrong.push(`slot ${slot.index}: ${slot.startFrame} to ${slot.endFrame}`);
    at = slot.endFrame;
    if (!slot.landing) continue;
    const shownMs = (1000 * (slot.startFrame + plan.leadFrames) * rate.den) / rate.num;
    const error = shownMs - 1000 * slot.landing.seconds;
    const isHalfFrame = Math.abs(error) <= (500 * rate.den) / rate.num + 1e-6;
    if (!isHalfFrame || Math.abs(error - present(slot.landingErrorMs)) > 1e-6)
      wrong.push(`slot ${slot.index}: ${error} ms`);
  }
  expect(wrong).toEqual([]);
  expect(at).toBe(plan.totalFrames);
}

/**
 * Transitions lie where they should about the frame that lands, at most touch, and stay inside the
 * film.
 */
function expectTwoPictures(plan: FilmPlan, point: "start" | "middle" | "end"): void {
  let free = 0;
  for (const { startFrame, transitionIn } of plan.slots.slice(1)) {
    const { startFrame: from, endFrame: to } = transitionIn;
    expect(from).toBeGreaterThanOrEqual(free);
    free = to;
    if (transitionIn.kind === "cut") expect([from, to]).toEqual([startFrame, startFrame]);
    else expect({ start: from, middle: (from + to - 1) / 2, end: to }[point]).toBe(startFrame);
  }
  expect(free).toBeLessThanOrEqual(plan.totalFrames);
}

const dissolve = (count: number) => ({ kind: "dissolve", length: { unit: "seconds", count } }) as const;

describe("the film plan", () => {
  it("tiles the film without gap or overlap, and no landing is further than half a frame from its beat", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.values(NAMED_FRAME_RATES)),
        fc.integer({ min: 1, max: 120 }),
        fc.integer({ min: 5, max: 400 }),
        fc.double({ min: 0.3, max: 1, noNaN: true }),
        fc.record({
          point: fc.constantFrom("start" as const, "middle" as const, "end" as const),
          leadFrames: fc.integer({ min: 0, max: 3 }),
        }),
        fc.constantFrom(0.2, 0.8, 4),
        (rate, count, seconds, gap, transitionLanding, dissolveSeconds) => {
          const style = { ...FIRST_STYLE, transition: dissolve(dissolveSeconds) };
          const asked = show(count, { frameRate: rate, style, transitionLanding });
          const plan = planFilm(asked, facts(song(seconds, gap)));
          expectTiles(plan, rate);
          expectTwoPictures(plan, transitionLanding.point);
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
    const after = planFilm(
      changeSong(show(12), "song 1", { gridEdits: [{ kind: "nudge", milliseconds: 20 }] }),
      facts(music),
    );
    after.slots.slice(1).forEach((slot, i) => {
      expect(present(slot.landing).seconds).toBeCloseTo(present(itemAt(before.slots, i + 1).landing).seconds + 0.02, 9);
    });
  });

  it("shows a clip no longer than the part that may be seen, with its moment on an accent", () => {
    const music = { ...song(60, 0.5), accents: [{ seconds: itemAt(song(60, 0.5).beats, 47).seconds, strength: 1 }] };
    const base = show(12);
    const clip = { inSeconds: 1, outSeconds: 6, momentSeconds: 3, speed: 1 };
    const withClip = {
      ...base,
      slides: base.slides.map((slide, i) => (i === 4 ? { ...slide, sha256: "c".repeat(64), clip } : slide)),
    };
    const seen = (sha256: string) => ({
      width: 300,
      height: 200,
      ...(sha256 === HASH ? {} : { durationSeconds: 5.5 }),
    });
    const { slots } = planFilm(
      withClip,
      filmFacts(() => music, seen),
    );
    const [from, to] = [itemAt(slots, 4).startFrame / 25, itemAt(slots, 4).endFrame / 25];
    const accent = itemAt(music.accents, 0).seconds;
    // From 1 to 5.5, where the clip ends: two seconds before the moment and two and a half behind
    // it.
    expect(to - from).toBeLessThan(4.5 + 0.05);
    expect(accent - from).toBeLessThan(2 + 0.03);
    expect(to - accent).toBeLessThan(2.5 + 0.03);
    expect([accent > from, accent < to]).toEqual([true, true]);
  });

  it("leaves out what a person left out, and names slides by their place among all", () => {
    const base = show(12);
    const rated = {
      ...base,
      slides: base.slides.map((slide, i) => ({ ...slide, rating: i % 3 === 0 ? ("out" as const) : ("keep" as const) })),
    };
    const plan = planFilm(rated, facts(song(30, 0.5)));
    expect(plan.slots.map(({ slideIndex }) => slideIndex)).toEqual([1, 2, 4, 5, 7, 8, 10, 11]);
    expect(plan.slots.map(({ name }) => name)).toEqual([1, 2, 4, 5, 7, 8, 10, 11].map((i) => `${i}.jpg`));
    const tight = planFilm({ ...rated, pace: { kind: "beats", count: 12 } }, facts(song(30, 0.5)));
    expect(tight.leftOut.length).toBeGreaterThan(0);
    for (const index of tight.leftOut) expect(itemAt(rated.slides, index).rating).toBe("keep");
    const none = { ...base, slides: base.slides.map((slide) => ({ ...slide, rating: "out" as const })) };
    expect(() => planFilm(none, facts(song(30, 0.5)))).toThrow(/Of 12 pictures in this show every one is left out/);
  });

  it("draws a turned picture under its own name and in its own shape", () => {
    const base = show(3);
    const turns = [0, 90, 180] as const;
    const turned = { ...base, slides: base.slides.map((slide, i) => ({ ...slide, turn: itemAt(turns, i) })) };
    const { slots } = planFilm(turned, facts(song(12, 0.5)));
    expect(slots.map(({ picture, pictureSize }) => [picture, pictureSize.width, pictureSize.height])).toEqual([
      [HASH, 300, 200],
      [`${HASH}-90`, 200, 300],
      [`${HASH}-180`, 300, 200],
    ]);
    for (const slot of slots) {
      expect(parseDrawnPicture(present(slot.picture))).toEqual({ sha256: HASH, turn: turns[slot.index] });
    }
    for (const wrong of ["", HASH.slice(1), `${HASH}-45`, `../${HASH}`]) expect(parseDrawnPicture(wrong)).toBeNull();
  });

  it("takes a passage's own transition into each of its slides, and the show's into the others", () => {
    const base = show(6);
    const passages = [
      newPassage("p1", ""),
      { ...newPassage("p2", "Race"), style: { ...AS_ABOVE, transition: { kind: "cut" as const } } },
      { ...newPassage("p3", ""), style: { ...AS_ABOVE, transition: dissolve(2) } },
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
    expect(() => planFilm(show(3, { songs: [] }), music)).toThrow(expect.objectContaining({ code: "no-song" }));
    expect(() => planFilm(show(0), music)).toThrow(expect.objectContaining({ code: "no-slides" }));
    expect(() => planFilm(show(3), { ...music, seen: () => undefined })).toThrow(
      expect.objectContaining({ code: "missing-picture", values: { picture: "0.jpg" } }),
    );
  });
});

describe("who leads", () => {
  const music = song(120, 0.5);

  it("the slides: they keep their time and the music fades on the bar where they end", () => {
    const plan = planFilm(
      show(12, {
        lead: { kind: "slides" },
        pace: { kind: "seconds", seconds: 4 },
        style: { ...FIRST_STYLE, transition: { kind: "cut" } },
      }),
      facts(music),
    );
    const end = plan.totalFrames / 25;
    expect(Math.abs(end - 48)).toBeLessThan(3);
    const bars = music.beats.filter(({ position }) => position === 1).map(({ seconds }) => seconds);
    expect(Math.min(...bars.map((bar) => Math.abs(bar - end)))).toBeLessThanOrEqual(0.02);
    expect(bars).toContain(plan.sound.fadeOut.startSeconds);
    expect(plan.slots).toHaveLength(12);
    expectTiles(plan, plan.rate);
  });

  it("the length: exactly so many frames, begun and ended where the music allows", () => {
    for (const rate of Object.values(NAMED_FRAME_RATES)) {
      const plan = planFilm(show(12, { lead: { kind: "length", seconds: 30 }, frameRate: rate }), facts(music));
      expect(plan.totalFrames).toBe(Math.round((30 * rate.num) / rate.den));
      expect(plan.sound.fadeOut.endSeconds).toBeCloseTo((plan.totalFrames * rate.den) / rate.num, 6);
      expectTiles(plan, rate);
    }
  });
});

describe("ways out", () => {
  const music = song(60, 0.5);
  const known = facts(music);

  it("are cheaper than the film as it is, the cheapest first, and do what they say", () => {
    const crowded = show(40, { pace: { kind: "bars", count: 2 } });
    const fit = fitShow(crowded, known);
    expect(fit.result.leftOut.length).toBeGreaterThan(20);
    const ways = waysOut(crowded, fit, known);
    expect(ways.length).toBeGreaterThan(1);
    expect(ways.map(({ cost }) => cost)).toEqual(ways.map(({ cost }) => cost).toSorted((a, b) => a - b));
    for (const way of ways) {
      const edited = fitShow(applyFitChange(crowded, way.change), known);
      expect(costOfFilm(edited)).toBeCloseTo(way.cost, 9);
      expect(way.cost).toBeLessThan(costOfFilm(fit));
    }
  });

  it("lead to films that all differ: four beats of 4/4 and a bar are offered once", () => {
    const crowded = show(28, { pace: { kind: "beats", count: 8 } });
    const ways = waysOut(crowded, fitShow(crowded, known), known);
    const films = ways.map(({ change }) =>
      JSON.stringify(fitShow(applyFitChange(crowded, change), known).result.slots),
    );
    expect(new Set(films).size).toBe(films.length);
    expect(ways.map(({ text }) => text)).toContainEqual(expect.stringMatching(/^Best fit: every picture once/));
  });

  it("take the next faster or slower pace of a passage", () => {
    const second = { ...newPassage("p2", "Race"), pace: { kind: "bars" as const, count: 1 } };
    const passages = [itemAt(newShowDocument("").passages, 0), second];
    const slides = show(50).slides.map((slide, i) => ({ ...slide, passageId: i < 5 ? "p1" : "p2" }));
    const crowded = show(0, { passages, slides });
    const fit = fitShow(crowded, known);
    const way = waysOut(crowded, fit, known).find(
      ({ change }) => change.kind === "pace" && change.passageId === "p2" && change.pace.kind === "beats",
    );
    expect(way?.text).toMatch(/^Pace of “Race” from a bar to 2 beats/);
    expect(itemAt(applyFitChange(crowded, present(way).change).passages, 1).pace).toEqual({ kind: "beats", count: 2 });
  });

  it("let the song run longer or shorter by whole bars where it is not heard", () => {
    // Bars of two seconds in the order ABABAB…: any even number of bars can be left out or come
    // again unheard.
    const steps = 2 * 10 * 30;
    const width = TEXTURE_WIDTH;
    const rows = Array.from({ length: steps * width }, (_, i) => {
      const [step, column] = [Math.floor(i / width), i % width];
      const [bar, within] = [Math.floor(step / 20), step % 20];
      return bar % 2 === column % 2 ? 40 + ((within * 11 + column * 7) % 200) : 0;
    });
    const steady = steadySong(30);
    const repeating: MusicAnalysis = {
      ...steady,
      durationSeconds: 60,
      musicEndSeconds: 60,
      texture: { stepSeconds: 0.1, values: btoa(String.fromCharCode(...rows)) },
    };
    const facts60 = facts(repeating);
    for (const [count, word] of [
      [40, "longer"],
      [20, "shorter"],
    ] as const) {
      const asked = show(count, { pace: { kind: "beats", count: 4 } });
      const fit = fitShow(asked, facts60);
      const way = waysOut(asked, fit, facts60).find(({ change }) => change.kind === "song");
      expect(way?.text).toMatch(new RegExp(`^Let the song run \\d+ bars ${word}`));
      const edited = applyFitChange(asked, present(way).change);
      const after = fitShow(edited, facts60);
      expect(costOfFilm(after)).toBeCloseTo(present(way).cost, 9);
      expect(after.result.leftOut.length + after.result.repeats).toBeLessThan(
        fit.result.leftOut.length + fit.result.repeats,
      );
      expect(Math.abs(after.music.lengthSeconds - 2 * count)).toBeLessThanOrEqual(4);
    }
  });

  it("free a lock where locks cannot hold together, and are none where nothing is wrong", () => {
    const place = (seconds: number) => ({ songId: "song 1", seconds, turn: 0, exact: false });
    const base = show(20);
    const locked = {
      ...base,
      slides: base.slides.map((slide, i) =>
        i === 3 ? { ...slide, landingLock: place(30) } : i === 9 ? { ...slide, landingLock: place(20) } : slide,
      ),
    };
    const fit = fitShow(locked, known);
    expect(fit.result.conflict).toEqual([
      { kind: "landing", id: "s3" },
      { kind: "landing", id: "s9" },
    ]);
    const ways = waysOut(locked, fit, known);
    expect(ways.some(({ change }) => change.kind === "unlock")).toBe(true);
    expect(waysOut(base, fitShow(base, known), known)).toEqual([]);
  });

  it("a passage of nothing but dissolves of four seconds has no gap and never three pictures", () => {
    const plan = planFilm(
      show(15, { pace: { kind: "seconds", seconds: 4 }, style: { ...FIRST_STYLE, transition: dissolve(4) } }),
      facts(music),
    );
    for (const [i, slot] of plan.slots.slice(1).entries()) {
      expect(slot.transitionIn.kind).toBe("dissolve");
      expect(slot.transitionIn.startFrame).toBeGreaterThanOrEqual(itemAt(plan.slots, i).transitionIn.endFrame);
      // Hardly any standing time: two frames of a hundred.
      if (i > 0) expect(slot.transitionIn.startFrame - itemAt(plan.slots, i).transitionIn.endFrame).toBeLessThan(30);
    }
  });
});
