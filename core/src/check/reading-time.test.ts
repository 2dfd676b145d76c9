import { describe, expect, it } from "vitest";
import { type FilmPlan, filmFacts, planFilm } from "../film/index.ts";
import { itemAt } from "../presence/index.ts";
import {
  newCard,
  newShowDocument,
  newShowSong,
  newSlide,
  newWords,
  type ShowDocument,
  styleOf,
} from "../show/index.ts";
import { steadySong } from "../testing/index.ts";
import { checkSlides } from "./check-slides.ts";

const facts = filmFacts(
  () => steadySong(60),
  () => ({ width: 300, height: 200 }),
);
const titled = (pictures: number, text: string, more: Partial<ShowDocument> = {}): ShowDocument => ({
  ...newShowDocument("Closing night"),
  slides: [
    newCard("title", [newWords("title", text)], "#0d1f26", 6),
    ...Array.from({ length: pictures }, (_, i) =>
      newSlide({ id: `s${i}`, sha256: "a".repeat(64), fileName: `${i}.jpg` }),
    ),
  ],
  songs: [newShowSong({ id: "song 1", sha256: "b".repeat(64), fileName: "song.wav" })],
  ...more,
});
const seconds = (plan: FilmPlan, slot: number): number =>
  (itemAt(plan.slots, slot).endFrame - itemAt(plan.slots, slot).startFrame) / 25;
const unread = (plan: FilmPlan): number => checkSlides(plan).filter(({ kind }) => kind === "words-short").length;

describe("words", () => {
  const text = "Closing night\nof the lantern regatta on the quay";

  it("stand as long as they take to be read, however many pictures there are for the song", () => {
    for (const pictures of [10, 60, 140]) {
      const show = titled(pictures, text);
      const plan = planFilm(show, facts);
      // Nine words at 180 a minute, half a second to find them, and the transition.
      expect(styleOf(show, itemAt(show.slides, 0)).transition).toMatchObject({ length: { count: 0.8 } });
      expect(seconds(plan, 0)).toBeGreaterThanOrEqual((60 * 9) / 180 + 0.5 + 0.8 - 0.02);
      expect([pictures, unread(plan)]).toEqual([pictures, 0]);
    }
  });

  it("hold on a picture too, where no pace counts its beats", () => {
    const caption = "The crew of the seventh boat, seen from the old bridge at noon";
    const show = titled(60, text);
    const captioned = { ...show, slides: show.slides.map((slide, i) => (i === 9 ? { ...slide, caption } : slide)) };
    expect(unread(planFilm(captioned, facts))).toBe(0);
  });

  it("stand for less where locks leave them no more", () => {
    const show = titled(10, text);
    const locked: ShowDocument = {
      ...show,
      slides: show.slides.map((slide, i) =>
        i === 1 ? { ...slide, landingLock: { songId: "song 1", seconds: 2.1, turn: 0, exact: false } } : slide,
      ),
    };
    const plan = planFilm(locked, facts);
    expect(plan.unmetLocks).toEqual([]);
    expect(seconds(plan, 0)).toBeLessThan(3);
  });
});
