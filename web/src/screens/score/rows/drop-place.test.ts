import { filmFacts, planFilm } from "@humming-tide/core/film";
import { newPassage, newShowDocument, newShowSong, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { steadySong } from "@humming-tide/core/testing";
import { describe, expect, it } from "vitest";
import { scoreDropPlace } from "./drop-place.ts";

/** Eight pictures of four seconds each, the last four in a second passage. */
const show: ShowDocument = {
  ...newShowDocument("Regatta"),
  passages: [newPassage("p1", "Crews"), newPassage("p2", "Race")],
  pace: { kind: "bars", count: 2 },
  slides: Array.from({ length: 8 }, (_, i) =>
    newSlide({ id: `s${i}`, sha256: "a".repeat(64), fileName: `${i}.jpg` }, i < 4 ? "p1" : "p2"),
  ),
  songs: [newShowSong({ id: "song 1", sha256: "b".repeat(64), fileName: "song.wav" })],
};
const song = steadySong(16);
const plan = planFilm(
  show,
  filmFacts(
    () => song,
    () => ({ width: 300, height: 200 }),
  ),
);

describe("where slides are let go", () => {
  it("is in front of the slide under the pointer, or from its middle on behind it, in its own passage", () => {
    const at = (seconds: number) => scoreDropPlace(plan, show, seconds);
    expect(at(0)).toEqual({ place: { passageId: "p1", beforeId: "s0" }, markSeconds: 0 });
    expect(at(5.9)).toEqual({ place: { passageId: "p1", beforeId: "s1" }, markSeconds: 4 });
    expect(at(6.1)).toEqual({ place: { passageId: "p1", beforeId: "s2" }, markSeconds: 8 });
    // At the border of two passages the side of the pointer decides which of them it is.
    expect(at(15.9)).toEqual({ place: { passageId: "p1", beforeId: null }, markSeconds: 16 });
    expect(at(16.1)).toEqual({ place: { passageId: "p2", beforeId: "s4" }, markSeconds: 16 });
    expect(at(99).place).toEqual({ passageId: "p2", beforeId: null });
  });
});
