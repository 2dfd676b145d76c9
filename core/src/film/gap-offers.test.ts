import { describe, expect, it } from "vitest";
import type { MusicAnalysis } from "../music/index.ts";
import { itemAt, present } from "../presence/index.ts";
import { type Marker, newShowDocument, newShowSong, newSlide, type ShowDocument } from "../show/index.ts";
import { steadySong } from "../testing/index.ts";
import { type FilmPlan, type FilmSlot, filmFacts, gapOffers, planFilm, takeGapOffer } from "./index.ts";

const HASH = "a".repeat(64);
const music: MusicAnalysis = steadySong(30);
const facts = filmFacts(
  () => music,
  () => ({ width: 300, height: 200 }),
);
const planOf = (show: ShowDocument): FilmPlan => planFilm(show, facts);

const marker = (id: string, seconds: number): Marker => ({ id, seconds, name: "", kind: "cut", origin: "tapped" });

/** One picture a marker: slots of 4, 16, 4, 0.4 … seconds. */
const onMarkers: ShowDocument = {
  ...newShowDocument("Regatta"),
  pace: { kind: "markers", origin: "any" },
  slides: Array.from({ length: 12 }, (_, i) => newSlide({ id: `s${i}`, sha256: HASH, fileName: `${i}.jpg` })),
  songs: [
    {
      ...newShowSong({ id: "song 1", sha256: HASH, fileName: "song.wav" }),
      markers: [4, 20, 24, 24.4, 28, 33, 38, 43, 48, 53, 57].map((seconds, i) => marker(`m${i + 1}`, seconds)),
    },
  ],
};
const isFrom =
  (seconds: number) =>
  ({ landing }: FilmSlot): boolean =>
    Math.abs((landing?.seconds ?? 0) - seconds) < 0.01;
const slotFrom = (plan: FilmPlan, seconds: number): FilmSlot => present(plan.slots.find(isFrom(seconds)));

describe("gaps between markers", () => {
  it("a long one may have two pictures, or a marker in its middle", () => {
    const asked: ShowDocument = {
      ...onMarkers,
      slides: onMarkers.slides.map((slide, i) => (i === 5 ? { ...slide, rating: "out" } : slide)),
    };
    const plan = planOf(asked);
    const long = slotFrom(plan, 4);
    const offers = gapOffers(asked, plan, long);
    expect(offers.map(({ kind }) => kind)).toEqual(["two-pictures", "divide"]);
    expect(itemAt(offers, 0).text).toContain("5.jpg");
    const two = takeGapOffer(asked, plan, long, "two-pictures");
    const after = planOf(two);
    expect(slotFrom(after, 4).slideId).toBe(long.slideId);
    // From 4 to 20 the bar nearest to the middle begins at 12.
    expect(slotFrom(after, 12).slideId).toBe("s5");
    expect(two.slides.find(({ id }) => id === "s5")).toMatchObject({ rating: "keep", stays: true });
    const divided = takeGapOffer(asked, plan, long, "divide");
    expect(itemAt(divided.songs, 0).markers).toHaveLength(12);
    expect(slotFrom(planOf(divided), 12)).toBeDefined();
  });

  it("a long one whose picture stands still may move slowly and arrive on an accent, unless nothing is to move", () => {
    const move = { kind: "still", strength: 0.5, withMusic: false } as const;
    const still: ShowDocument = { ...onMarkers, style: { ...onMarkers.style, move } };
    const plan = planOf(still);
    const long = slotFrom(plan, 4);
    expect(gapOffers(still, plan, long).map(({ kind }) => kind)).toEqual(["slow-move", "divide"]);
    const moved = slotFrom(planOf(takeGapOffer(still, plan, long, "slow-move")), 4);
    expect(moved.move.end.width).toBeGreaterThan(moved.move.start.width);
    const others = planOf(takeGapOffer(still, plan, long, "slow-move")).slots.filter(
      ({ slideId }) => slideId !== long.slideId,
    );
    expect(others.every(({ move: other }) => other.start.width === other.end.width)).toBe(true);
    const never = { ...still, standsStill: true };
    expect(gapOffers(never, planOf(never), slotFrom(planOf(never), 4)).map(({ kind }) => kind)).toEqual(["divide"]);
  });

  it("a short one may skip its marker or leave its picture out, and one of usual length offers nothing", () => {
    const plan = planOf(onMarkers);
    const short = slotFrom(plan, 24);
    expect(gapOffers(onMarkers, plan, short).map(({ kind }) => kind)).toEqual(["skip-marker", "leave-out"]);
    const skipped = takeGapOffer(onMarkers, plan, short, "skip-marker");
    expect(itemAt(skipped.songs, 0).markers.find(({ seconds }) => seconds === 24)).toMatchObject({
      id: "m3",
      kind: "note",
    });
    expect(planOf(skipped).slots.find(isFrom(24))).toBeUndefined();
    const without = takeGapOffer(onMarkers, plan, short, "leave-out");
    expect(present(without.slides.find(({ id }) => id === short.slideId)).rating).toBe("out");
    expect(gapOffers(onMarkers, plan, slotFrom(plan, 33))).toEqual([]);
    // With words of its own they may stay, under the picture before.
    const worded = {
      ...onMarkers,
      slides: onMarkers.slides.map((slide) =>
        slide.id === short.slideId ? { ...slide, caption: "The prize" } : slide,
      ),
    };
    expect(gapOffers(worded, plan, short).map(({ kind }) => kind)).toEqual(["skip-marker", "caption", "leave-out"]);
    const captioned = takeGapOffer(worded, plan, short, "caption");
    expect(captioned.slides[short.slideIndex - 1]).toMatchObject({ caption: "The prize", rating: "keep" });
    expect(itemAt(captioned.slides, short.slideIndex).rating).toBe("out");
  });
});
