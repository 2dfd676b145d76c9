import { filmFacts, planFilm } from "@humming-tide/core/film";
import { newShowDocument, newShowSong, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { steadySong } from "@humming-tide/core/testing";
import { describe, expect, it } from "vitest";
import { movedLandings } from "./moved-landings.ts";

const HASH = "a".repeat(64);
const music = steadySong(16);
const facts = filmFacts(
  () => music,
  () => ({ width: 300, height: 200 }),
);
const show: ShowDocument = {
  ...newShowDocument("Regatta"),
  pace: { kind: "bars", count: 2 },
  slides: Array.from({ length: 8 }, (_, i) => newSlide({ id: `s${i}`, sha256: HASH, fileName: `${i}.jpg` })),
  songs: [newShowSong({ id: "song 1", sha256: HASH, fileName: "song.wav" })],
};
const plan = planFilm(show, facts);

describe("what a change has moved", () => {
  it("is told slide by slide, whatever the order, with what came and went", () => {
    expect(movedLandings(plan, plan)).toBeNull();
    const [first, second, third, ...rest] = show.slides;
    const swapped = planFilm({ ...show, slides: [first!, third!, second!, ...rest] }, facts);
    expect(movedLandings(plan, swapped)).toEqual({
      moved: [
        { slideId: "s2", fromSeconds: 8, toSeconds: 4 },
        { slideId: "s1", fromSeconds: 4, toSeconds: 8 },
      ],
      stayed: 6,
      came: [],
      went: [],
    });
    const without = planFilm(
      { ...show, slides: show.slides.map((s, i) => (i === 7 ? { ...s, rating: "out" } : s)) },
      facts,
    );
    expect(movedLandings(plan, without)).toMatchObject({ went: ["s7"], came: [] });
    expect(movedLandings(without, plan)).toMatchObject({ came: ["s7"], went: [] });
  });
});
