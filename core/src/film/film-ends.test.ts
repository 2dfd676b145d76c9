import { expect, it } from "vitest";
import { costOfFit } from "../fit/index.ts";
import { lastOf } from "../presence/index.ts";
import { newShowDocument, newShowSong, newSlide } from "../show/index.ts";
import { steadySong } from "../testing/index.ts";
import { costOfFilm, filmFacts, fitShow } from "./index.ts";

const HASH = "ab".repeat(32);
const song = {
  ...steadySong(24),
  phrases: [0, 8, 16, 24, 32, 40],
  sections: [
    { startSeconds: 0, endSeconds: 16, label: "A" },
    { startSeconds: 16, endSeconds: 48, label: "B" },
  ],
};
const facts = filmFacts(
  () => song,
  () => ({ width: 300, height: 200 }),
);
const fit = fitShow(
  {
    ...newShowDocument("Regatta"),
    slides: ["a", "b", "c"].map((id) => newSlide({ id, sha256: HASH, fileName: `${id}.jpg` })),
    songs: [newShowSong({ id: "song 1", sha256: HASH, fileName: "song.wav" })],
    lead: { kind: "slides" },
  },
  facts,
);

it("a film whose slides lead ends at what docs/fit.md says: 0.3 on a section, 0.6 on a phrase, 1 on a bar, 0 with the music", () => {
  const cost = (seconds: number) => fit.request.ends.find((end) => Math.abs(end.seconds - seconds) < 0.03)?.cost;
  expect([16, 24, 10].map(cost)).toEqual([0.3, 0.6, 1]);
  expect(lastOf(fit.request.ends).cost).toBe(0);
});

it("a join in a song costs 2", () => {
  expect(costOfFilm({ ...fit, joins: 3 })).toBeCloseTo(costOfFit(fit.request, fit.result) + 6, 9);
});

it("a film of a fixed length is tried from eight beginnings at most", () => {
  const sections = Array.from({ length: 11 }, (_, i) => ({ startSeconds: 4 * i, endSeconds: 4 * i + 4, label: "A" }));
  let pictures = 0;
  const counted = filmFacts(
    () => ({ ...song, sections }),
    () => ({ width: 300, height: 200 }),
  );
  const seen: typeof counted.seen = (sha256) => {
    pictures++;
    return counted.seen(sha256);
  };
  const asked = (seconds: number) => {
    pictures = 0;
    fitShow(
      {
        ...newShowDocument("Regatta"),
        slides: [newSlide({ id: "a", sha256: HASH, fileName: "a.jpg" })],
        songs: [newShowSong({ id: "song 1", sha256: HASH, fileName: "song.wav" })],
        lead: { kind: "length", seconds },
      },
      { ...counted, seen },
    );
    return pictures;
  };
  // Of one picture the same is asked at each beginning.
  const once = asked(48);
  expect(asked(4)).toBe(8 * once);
  expect(asked(44)).toBe(2 * once);
});
