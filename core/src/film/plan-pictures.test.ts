import { describe, expect, it } from "vitest";
import { clipAt, coversFrame, isMoving, seenPart, viewOf } from "../picture/index.ts";
import { itemAt, lastOf, present } from "../presence/index.ts";
import {
  type ClipPart,
  changeStyle,
  newShowDocument,
  newShowSong,
  newSlide,
  type ShowDocument,
  setView,
} from "../show/index.ts";
import { steadySong } from "../testing/index.ts";
import { type FilmPlan, filmFacts, filmInSize, planFilm, type SeenMedia } from "./index.ts";

const hash = (digit: number): string => String(digit).repeat(64);
const song = steadySong(20);
/** A photograph whose subject stands at the left, a portrait, and one of which nothing is known. */
const SEEN: Readonly<Record<string, SeenMedia>> = {
  [hash(1)]: {
    width: 4000,
    height: 3000,
    subject: { point: { x: 0.2, y: 0.3 }, region: { x: 0.1, y: 0.2, width: 0.2, height: 0.3 } },
  },
  [hash(2)]: { width: 2000, height: 3000, subject: null },
  [hash(3)]: { width: 3000, height: 2000 },
  [hash(9)]: { width: 1, height: 1 },
};
const facts = filmFacts(
  () => song,
  (sha256) => SEEN[sha256],
);
const show: ShowDocument = {
  ...newShowDocument("Regatta"),
  slides: Array.from({ length: 9 }, (_, i) =>
    newSlide({ id: `s${i}`, sha256: hash(1 + (i % 3)), fileName: `${i}.jpg` }),
  ),
  songs: [newShowSong({ id: "song 1", sha256: hash(9), fileName: "song.wav" })],
};
const planOf = (document: ShowDocument): FilmPlan => planFilm(document, facts);
const set = (...ids: string[]): ReadonlySet<string> => new Set(ids);

describe("planned pictures", () => {
  it("cover the frame around a known subject, stand beside their fill where they would lose too much, and neighbours move differently", () => {
    const { slots, size } = planOf(show);
    for (const slot of slots) {
      const covers = coversFrame(slot.move.start, size) && coversFrame(slot.move.end, size);
      expect(slot.ground === null).toBe(covers);
      expect(covers).toBe(slot.sha256 !== hash(2));
      expect(isMoving(slot.move)).toBe(true);
      if (slot.sha256 === hash(2)) expect(slot.ground).toMatchObject({ kind: "image", image: { of: "fill" } });
    }
    const ways = slots.map(({ move }) => Math.sign(move.end.width - move.start.width));
    expect(new Set(ways).size).toBeGreaterThan(1);
    for (const { move, transitionIn, startFrame } of slots.slice(1)) {
      expect(move.startFrame).toBe(Math.min(transitionIn.startFrame, startFrame));
    }
  });

  it("follow a subject that a person pointed at, in every size of film", () => {
    const style = changeStyle(show, { kind: "show" }, { fill: { kind: "crop" } });
    const pointed = {
      ...style,
      standsStill: true,
      slides: style.slides.map((slide, i) => (i === 1 ? { ...slide, subject: { x: 0.5, y: 0.9 } } : slide)),
    };
    const plan = planOf(pointed);
    for (const size of [plan.size, { width: 1080, height: 1080 }, { width: 1080, height: 1920 }]) {
      const slot = itemAt(filmInSize(pointed, plan, facts, size).slots, 1);
      const part = seenPart(viewOf(slot.move.start, slot.pictureSize, size), slot.pictureSize, size);
      expect(part.y).toBeLessThan(0.9);
      expect(part.y + part.height).toBeGreaterThan(0.99);
    }
    const unknown = filmInSize(style, planOf(style), facts, { width: 1080, height: 1080 });
    expect(unknown.slots.map(({ startFrame }) => startFrame)).toEqual(plan.slots.map(({ startFrame }) => startFrame));
  });

  it("show the frame that a person set, in its own shape only", () => {
    const start = { centre: { x: 0.3, y: 0.4 }, zoom: 1.5 };
    const end = { centre: { x: 0.6, y: 0.5 }, zoom: 2 };
    const byHand = setView(show, "s0", "16:9", { start, end });
    const plan = planOf(byHand);
    const { move, pictureSize } = itemAt(plan.slots, 0);
    expect(viewOf(move.start, pictureSize, plan.size).zoom).toBeCloseTo(1.5, 9);
    expect(viewOf(move.end, pictureSize, plan.size).centre.x).toBeCloseTo(0.6, 9);
    const square = itemAt(filmInSize(byHand, plan, facts, { width: 1000, height: 1000 }).slots, 0);
    expect(viewOf(square.move.start, square.pictureSize, { width: 1000, height: 1000 }).zoom).toBeLessThan(1.3);
    expect(isMoving(itemAt(planOf({ ...byHand, standsStill: true }).slots, 0).move)).toBe(false);
  });

  it("arrive on the strongest accent in the later part of a slide where moves follow the music", () => {
    const accents = [1.6, 3.1, 4.4].map((seconds, i) => ({ seconds, strength: itemAt([0.9, 0.5, 0.8], i) }));
    const accented = filmFacts(
      () => ({ ...song, accents }),
      (sha256) => SEEN[sha256],
    );
    const withMusic = {
      ...changeStyle(show, { kind: "show" }, { move: { kind: "in", strength: 1, withMusic: true } }),
      pace: { kind: "bars", count: 3 } as const,
      style: { ...show.style, move: { kind: "in" as const, strength: 1, withMusic: true } },
    };
    const { slots, rate } = planFilm(withMusic, accented);
    const { move } = itemAt(slots, 0);
    expect(move.eased).toBe(true);
    // Of those behind the first two fifths the one at 4.4 s is the strongest; 1.6 s is too early to
    // arrive and right to set off.
    expect(move.endFrame).toBe(Math.round((4.4 * rate.num) / rate.den));
    expect(move.startFrame).toBe(Math.round((1.6 * rate.num) / rate.den));
    expect(lastOf(slots).move.eased).toBe(false);
  });

  it("show of a clip what there is of it, with its moment on the accent that lies in its slot, and leave it unmoved", () => {
    const clipped = filmFacts(
      () => ({ ...song, accents: [{ seconds: 10, strength: 1 }] }),
      (sha256) => (sha256 === hash(4) ? { width: 3840, height: 2160, durationSeconds: 12 } : SEEN[sha256]),
    );
    const withClip = (clip: ClipPart | null): FilmPlan =>
      planFilm(
        {
          ...show,
          pace: { kind: "bars", count: 2 },
          slides: show.slides.map((slide, i) => (i === 2 ? { ...slide, sha256: hash(4), clip } : slide)),
        },
        clipped,
      );
    const moment = { inSeconds: 1, outSeconds: 11, momentSeconds: 5, speed: 1 };
    const slot = itemAt(withClip(moment).slots, 2);
    expect(slot.startFrame).toBeLessThan(250);
    expect(slot.endFrame).toBeGreaterThan(250);
    expect(clipAt(present(slot.clip), 2, 250).seconds).toBeCloseTo(5, 6);
    expect(clipAt(present(slot.clip), 2, 275).seconds).toBeCloseTo(6, 6);
    expect(isMoving(slot.move)).toBe(false);
    expect(present(slot.clip).size).toEqual({ width: 2400, height: 1350 });
    const quick = itemAt(withClip({ ...moment, speed: 2 }).slots, 2);
    expect(clipAt(present(quick.clip), 2, 250).seconds).toBeCloseTo(5, 6);
    expect(clipAt(present(quick.clip), 2, 260).seconds).toBeCloseTo(5.8, 6);
    // Without a moment it is under way when it comes in, and never shows what lies outside its
    // part.
    const plain = itemAt(withClip({ inSeconds: 2, outSeconds: 9, momentSeconds: null, speed: 1 }).slots, 2);
    expect(clipAt(present(plain.clip), 2, plain.transitionIn.startFrame).seconds).toBeCloseTo(2, 6);
    expect(clipAt(present(plain.clip), 2, plain.startFrame).seconds).toBeGreaterThan(2.3);
    expect(clipAt(present(plain.clip), 2, 1e6).seconds).toBeLessThan(9);
    expect(clipAt(present(plain.clip), 2, 1e6).secondsPerFrame).toBe(0);
    expect(clipAt(present(plain.clip), 2, plain.startFrame)).toMatchObject({ slotIndex: 2, secondsPerFrame: 0.04 });
    expect(itemAt(withClip(null).slots, 1).clip).toBeNull();
  });

  it("stand beside another picture of the show, and beside their own blurred copy where that one has gone", () => {
    const beside = changeStyle(
      show,
      { kind: "slides", slideIds: set("s1") },
      { fill: { kind: "picture", sha256: hash(3) } },
    );
    expect(itemAt(planOf(beside).slots, 1).ground).toMatchObject({
      kind: "image",
      image: { picture: hash(3), of: "picture" },
    });
    const gone = changeStyle(
      show,
      { kind: "slides", slideIds: set("s1") },
      { fill: { kind: "picture", sha256: hash(7) } },
    );
    expect(itemAt(planOf(gone).slots, 1).ground).toMatchObject({
      kind: "image",
      image: { picture: hash(2), of: "fill" },
    });
  });

  it("say which transitions are shorter than asked", () => {
    const long = changeStyle(
      show,
      { kind: "show" },
      { transition: { kind: "dissolve", length: { unit: "beats", count: 16 } } },
    );
    expect(
      planOf(long)
        .slots.slice(1)
        .every(({ isTransitionShortened }) => isTransitionShortened),
    ).toBe(true);
    expect(planOf(show).slots.some(({ isTransitionShortened }) => isTransitionShortened)).toBe(false);
  });
});
