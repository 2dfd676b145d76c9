import { filmFacts, planFilm } from "@humming-tide/core/film";
import { newShowDocument, newShowSong, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { steadySong } from "@humming-tide/core/testing";
import { describe, expect, it } from "vitest";
import { MoveTeller } from "./move-teller.ts";

const HASH = "a".repeat(64);
const music = steadySong(16);
const facts = filmFacts(
  () => music,
  () => ({ width: 300, height: 200 }),
);
const show: ShowDocument = {
  ...newShowDocument("Regatta"),
  pace: { kind: "bars", count: 2 },
  slides: Array.from({ length: 4 }, (_, i) => newSlide({ id: `s${i}`, sha256: HASH, fileName: `${i}.jpg` })),
  songs: [newShowSong({ id: "song 1", sha256: HASH, fileName: "song.wav" })],
};
const swapped: ShowDocument = { ...show, slides: show.slides.with(1, show.slides[2]!).with(2, show.slides[1]!) };
const plan = planFilm(show, facts);
const swappedPlan = planFilm(swapped, facts);

describe("what a change has moved", () => {
  it("is told once, and stays when a song, a picture or a voice becomes known after it", () => {
    const teller = new MoveTeller();
    expect(teller.movedBy(plan, show, true)).toBeNull();
    expect(teller.movedBy(swappedPlan, swapped, true)).toMatchObject({ stayed: 2 });
    expect(teller.movedBy(swappedPlan, swapped, true)).toBeUndefined();
  });

  it("is told while a drag goes on, and is gone where the drag is given up", () => {
    const teller = new MoveTeller();
    teller.movedBy(plan, show, true);
    expect(teller.movedBy(swappedPlan, swapped, false)).toMatchObject({ stayed: 2 });
    expect(teller.movedBy(plan, show, true)).toBeNull();
    expect(teller.movedBy(plan, show, true)).toBeUndefined();
  });
});
