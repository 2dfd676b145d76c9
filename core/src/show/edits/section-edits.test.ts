import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { changeSection, joinSection, MOST_SECTIONS, type SongSection, splitSection } from "../index.ts";

const section = (startSeconds: number, letter: string): SongSection => ({ startSeconds, letter, name: "", role: null });
const song = [section(0, "A"), section(16, "B"), section(32, "A")];

describe("sections of a song", () => {
  it("are named, and given a role", () => {
    const named = changeSection(changeSection(song, 1, { name: "The race" }), 1, { role: "chorus" });
    expect(named[1]).toEqual({ startSeconds: 16, letter: "B", name: "The race", role: "chorus" });
    expect([named[0], named[2]]).toEqual([song[0], song[2]]);
  });

  it("are joined to the one before, but for the first", () => {
    expect(joinSection(song, 1)).toEqual([song[0], song[2]]);
    expect(joinSection(song, 0)).toEqual(song);
  });

  it("are divided where none begins yet", () => {
    expect(splitSection(song, 24, MOST_SECTIONS)).toEqual([song[0], song[1], section(24, "B"), song[2]]);
    expect(splitSection(song, 16.3, MOST_SECTIONS)).toEqual(song);
    expect(splitSection(song, 24, 3)).toEqual(song);
    expect(splitSection(song.slice(1), 3, MOST_SECTIONS)).toEqual(song.slice(1));
  });

  it("stay in order of time, and come back when what was divided is joined", () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 60, noNaN: true }), (seconds) => {
        const divided = splitSection(song, seconds, MOST_SECTIONS);
        const starts = divided.map(({ startSeconds }) => startSeconds);
        expect(starts).toEqual(starts.toSorted((a, b) => a - b));
        const index = divided.findIndex(({ startSeconds }) => startSeconds === seconds);
        if (divided.length > song.length) expect(joinSection(divided, index)).toEqual(song);
      }),
    );
  });
});
