import { describe, expect, it } from "vitest";
import { type FramePlan, imagesIn, planFrame } from "../picture/index.ts";
import { itemAt, lastOf, present } from "../presence/index.ts";
import {
  mainOutput,
  newCard,
  newPassage,
  newShowDocument,
  newShowSong,
  newSlide,
  newWords,
  SHORT_FILM_SECONDS,
  type ShowDocument,
} from "../show/index.ts";
import { musicAnalysis, steadySong } from "../testing/index.ts";
import { chaptersOf, defaultOutputs, filmFacts, planFilm, planOutput, strongestPart } from "./index.ts";

const HASH = "a".repeat(64);
const music = steadySong(24);
const facts = filmFacts(
  () => music,
  (sha256) =>
    sha256 === "c".repeat(64) ? { width: 640, height: 360, durationSeconds: 40 } : { width: 3000, height: 2000 },
);
const hashOf = (i: number): string => String(i).padStart(64, "0");
const show: ShowDocument = {
  ...newShowDocument("Regatta"),
  slides: Array.from({ length: 12 }, (_, i) => newSlide({ id: `s${i}`, sha256: hashOf(i), fileName: `${i}.jpg` })),
  songs: [newShowSong({ id: "song 1", sha256: HASH, fileName: "song.wav" })],
};
const main = mainOutput(show);

/** Share of each picture that is seen in a frame, without its words. */
const pictures = ({ layers }: FramePlan): [picture: string, alpha: number][] =>
  layers.flatMap((layer) =>
    layer.kind === "scene"
      ? layer.parts.flatMap((part): [string, number][] =>
          part.kind === "picture" ? [[part.image.picture, layer.alpha * part.alpha]] : [],
        )
      : [],
  );

describe("the film of an output", () => {
  it("is that of the show where nothing differs", () => {
    expect(planOutput(show, main, facts)).toEqual(planFilm(show, facts));
  });

  it("has its watermark above everything in every frame, within transitions too, and goes down with the film's fade", () => {
    const watermark = { text: "Proof", place: "bottom-right", strength: 0.4 } as const;
    const plan = planOutput(show, { ...main, watermark }, facts);
    for (let frame = 0; frame < plan.totalFrames; frame += 7) {
      const { layers } = planFrame(plan, frame);
      const last = lastOf(layers);
      expect(last.kind === "scene" && last.parts).toMatchObject([
        { kind: "words", alpha: 0.4, sheet: [{ text: "Proof", place: "bottom-right" }] },
      ]);
    }
    expect(planFrame(plan, plan.totalFrames - 1).veils).not.toEqual([]);
  });

  it("that loops ends a step before its own first frame: the seam is a step of the dissolve like any other", () => {
    const plan = planOutput(show, { ...main, loops: true }, facts);
    expect(plan.totalFrames).toBe(planFilm(show, facts).totalFrames);
    const { startFrame, endFrame } = present(plan.loopBack).transitionIn;
    expect(endFrame).toBe(plan.totalFrames);
    expect(endFrame - startFrame).toBeGreaterThanOrEqual(15);
    const first = itemAt(plan.slots, 0).picture;
    const alphaAt = (frame: number): number =>
      pictures(planFrame(plan, frame)).find(([picture]) => picture === first)?.[1] ?? 0;
    const step = 1 / (endFrame - startFrame + 1);
    for (let frame = startFrame; frame < endFrame; frame++)
      expect(alphaAt(frame)).toBeCloseTo((frame - startFrame + 1) * step, 9);
    expect(alphaAt(startFrame - 1)).toBe(0);
    // The next frame that is played is the first: its picture wholly, where it lies already.
    expect(alphaAt(0)).toBe(1);
    const placeAt = (frame: number): unknown =>
      planFrame(plan, frame)
        .layers.flatMap((layer) => (layer.kind === "scene" ? layer.parts : []))
        .find((part) => part.kind === "picture" && part.image.picture === first);
    expect(placeAt(plan.totalFrames - 1)).toMatchObject({ target: (placeAt(0) as { target: unknown }).target });
    expect(planFrame(plan, plan.totalFrames - 1).veils).toEqual([]);
    for (const { picture } of imagesIn(planFrame(plan, plan.totalFrames - 1))) expect(picture).toBeTruthy();
  });

  it("that loops ends hard where it begins with a clip, which cannot run before it begins", () => {
    const clip = newSlide({ id: "clip", sha256: "c".repeat(64), fileName: "clip.mp4" });
    const plan = planOutput({ ...show, slides: [clip, ...show.slides] }, { ...main, loops: true }, facts);
    expect([plan.loopBack, plan.fadeOut]).toEqual([null, null]);
  });
});

describe("chapters", () => {
  it("tile the film by passages, each from its first slide, and none is said of one without a name", () => {
    expect(chaptersOf(show, planFilm(show, facts))).toEqual([]);
    const passages = [newPassage("p1", "The quay"), newPassage("p2", ""), newPassage("p3", "Empty")];
    const slides = show.slides.map((slide, i) => ({ ...slide, passageId: i < 5 ? "p1" : "p2" }));
    const divided = { ...show, passages, slides };
    const plan = planFilm(divided, facts);
    const begins = present(plan.slots.find(({ slideId }) => slideId === "s5")).startFrame;
    expect(chaptersOf(divided, plan)).toEqual([
      { title: "The quay", startFrame: 0, endFrame: begins },
      { title: "Passage 2", startFrame: begins, endFrame: plan.totalFrames },
    ]);
  });
});

describe("usual outputs", () => {
  const song = { ...steadySong(60), sections: [], phrases: [0, 16, 40, 64, 90].map((seconds) => seconds) };
  const loud = {
    ...song,
    energy: { stepSeconds: 1, values: Array.from({ length: 122 }, (_, i) => (i >= 64 && i < 96 ? 1 : 0.3)) },
  };

  it("hold a teaser of thirty seconds where the music is loudest", () => {
    const part = present(strongestPart(show, () => loud, 30));
    expect(part).toMatchObject({ songId: "song 1", startSeconds: 64, endSeconds: 94 });
    const teaser = present(defaultOutputs(show, () => loud).find(({ name }) => name === "Vertical teaser"));
    expect(teaser.size.height).toBeGreaterThan(teaser.size.width);
    expect(
      planOutput(
        show,
        teaser,
        filmFacts(() => loud, facts.seen),
      ).totalFrames,
    ).toBe(30 * 25);
  });

  it("are as long as was asked for, to the frame, at any tempo and rate; the last change and the fade begin on bars", () => {
    for (const bpm of [71.3, 97, 128.5, 174])
      for (const seconds of SHORT_FILM_SECONDS)
        for (const frameRate of [
          { num: 25, den: 1 },
          { num: 30000, den: 1001 },
        ]) {
          const heard = steadySong(Math.ceil((120 * bpm) / 240), 60 / bpm, 4, 0.37);
          const part = present(strongestPart(show, () => heard, seconds));
          const known = filmFacts(() => heard, facts.seen);
          const plan = planOutput(show, { ...main, frameRate, part: { ...part, barsPerSlide: 1 } }, known);
          expect(plan.totalFrames).toBe(Math.round((seconds * frameRate.num) / frameRate.den));
          const { startSeconds, endSeconds } = present(plan.sound.fadeOut);
          expect(Math.abs(endSeconds - seconds)).toBeLessThan(0.5 * (frameRate.den / frameRate.num));
          const onBars = (at: number): boolean =>
            plan.music.grid.beats.some((beat) => beat.position === 1 && Math.abs(beat.seconds - at) < 0.001);
          expect([startSeconds, present(lastOf(plan.slots).landing).seconds].map(onBars)).toEqual([true, true]);
          expect(endSeconds - startSeconds).toBeGreaterThanOrEqual(1.4);
        }
  });

  it("have no part of a song without bars, or of a short one", () => {
    expect(strongestPart(show, () => musicAnalysis({ durationSeconds: 100, musicEndSeconds: 100 }), 30)).toBeNull();
    expect(strongestPart(show, () => steadySong(6), 30)).toBeNull();
    expect(strongestPart({ songs: [] }, () => music, 30)).toBeNull();
  });

  it("may be of a song that has gone: the first one stands in", () => {
    const gone = { ...main, part: { songId: "gone", startSeconds: 8, endSeconds: 16, barsPerSlide: null } };
    expect(planOutput(show, gone, facts).totalFrames).toBe(8 * 25);
  });

  it("leave titles where captions are off", () => {
    const card = newCard("card", [newWords("title", "Closing night")], "#0d1f26", 3);
    const slides = [card, ...show.slides.map((slide) => ({ ...slide, caption: "At the quay" }))];
    const words = planOutput({ ...show, slides }, { ...main, captions: false }, facts).slots.flatMap((slot) =>
      slot.words.sheet.map(({ text }) => text),
    );
    expect(words).toEqual(["Closing night"]);
  });
});
