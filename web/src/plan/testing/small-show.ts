import { type FilmPlan, filmFacts, planFilm } from "@humming-tide/core/film";
import { newShowDocument, newShowSong, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { steadySong } from "@humming-tide/core/testing";

const HASH = "a".repeat(64);
const music = steadySong(16);
const facts = filmFacts(
  () => music,
  () => ({ width: 300, height: 200 }),
);

/** Slides "s0", "s1" ... of two bars each, on a steady song of sixteen bars. */
export const smallShow = (slideCount: number): ShowDocument => ({
  ...newShowDocument("Regatta"),
  pace: { kind: "bars", count: 2 },
  slides: Array.from({ length: slideCount }, (_, i) => newSlide({ id: `s${i}`, sha256: HASH, fileName: `${i}.jpg` })),
  songs: [newShowSong({ id: "song 1", sha256: HASH, fileName: "song.wav" })],
});

export const planSmallShow = (show: ShowDocument): FilmPlan => planFilm(show, facts);
