import type { FilmPlan } from "@humming-tide/core/film";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { filmRows, ROW_SECONDS, rowCount, shownOnlyIn } from "./film-rows.ts";

/** A film at 25 frames a second whose slots have these lengths, in frames. */
const film = (lengths: readonly number[], sections: readonly number[] = []): FilmPlan => {
  let at = 0;
  const slots = lengths.map((length, index) => {
    const startFrame = at;
    at += length;
    return { index, slideId: `s${index}`, name: `${index}`, startFrame, endFrame: at };
  });
  const music = { sections: sections.map((startSeconds) => ({ startSeconds, label: "A" })) };
  return { slots, totalFrames: at, rate: { num: 25, den: 1 }, music } as unknown as FilmPlan;
};

describe("a film in rows", () => {
  it("is whole: the pieces of a slot are as long together as the slot, each in its row", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 5, max: 1000 }), { minLength: 1, maxLength: 40 }), (lengths) => {
        const plan = film(lengths);
        const rows = filmRows(plan, rowCount([plan]));
        const pieces = rows.flatMap((row) => row.pieces);
        for (const [index, length] of lengths.entries()) {
          const own = pieces.filter(({ slot }) => slot.index === index);
          const seconds = own.reduce((sum, { from, to }) => sum + (to - from) * ROW_SECONDS, 0);
          expect(seconds).toBeCloseTo(length / 25, 6);
          expect(own.filter(({ isFirst }) => isFirst)).toHaveLength(1);
        }
        for (const { pieces: ofRow } of rows)
          for (const { from, to } of ofRow) expect(from >= 0 && to <= 1 && from < to).toBe(true);
      }),
    );
  });

  it("has as many rows as the longer film, and its sections where they begin", () => {
    const [short, long] = [film([100], [0, 2]), film([500, 500], [0, 17])];
    const rows = rowCount([short, long]);
    expect(rows).toBe(3);
    expect(filmRows(short, rows).map(({ pieces }) => pieces.length)).toEqual([1, 0, 0]);
    expect(filmRows(long, rows).map(({ sections }) => sections.map(({ at }) => at))).toEqual([[0], [1 / 16], []]);
  });

  it("knows what it alone shows", () => {
    expect([...shownOnlyIn(film([10, 10, 10]), film([10]))]).toEqual(["s1", "s2"]);
    expect(shownOnlyIn(film([10]), film([10, 10])).size).toBe(0);
  });
});
