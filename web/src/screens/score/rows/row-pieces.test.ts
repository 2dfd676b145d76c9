import { itemAt, lastOf } from "@humming-tide/core/presence";
import { frameStart } from "@humming-tide/core/time";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { planSmallShow, smallShow } from "../../../plan/testing/small-show.ts";
import { placeAt, scoreLayout, timeAt } from "../layout/score-layout.ts";
import { contentOfRows, signatureOf } from "./row-pieces.ts";

const rowsOf = (count: number) => {
  const show = smallShow(count);
  const plan = planSmallShow(show);
  const layout = scoreLayout(plan.music.grid, plan.sound.lengthSeconds);
  return { show, plan, layout, rows: contentOfRows(plan, layout, show, null) };
};

describe("what lies in the rows of the Score", () => {
  it("is every slot, from its landing to the next, in pieces that touch", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), (count) => {
        const { plan, layout, rows } = rowsOf(count);
        const pieces = rows.flatMap((row) => row.pieces);
        expect(pieces.filter(({ first }) => first).map(({ slot }) => slot.index)).toEqual(
          plan.slots.map(({ index }) => index),
        );
        for (const { pieces: inRow } of rows)
          for (const [i, piece] of inRow.slice(1).entries()) expect(piece.from).toBeCloseTo(itemAt(inRow, i).to, 9);
        // Its two ends are where the layout puts the slot's times.
        for (const slot of plan.slots.slice(1)) {
          const begins = placeAt(layout, slot.landing?.seconds ?? 0);
          const own = rows[begins.row]?.pieces.find((piece) => piece.slot === slot && piece.first);
          expect(own?.from).toBeCloseTo(begins.share, 9);
        }
        const end = lastOf(lastOf(rows.filter((row) => row.pieces.length > 0)).pieces);
        const row = rows.findLastIndex((one) => one.pieces.length > 0);
        expect(timeAt(layout, row, end.to)).toBeCloseTo(frameStart(plan.totalFrames, plan.rate), 2);
      }),
      { numRuns: 20 },
    );
  });

  it("names each passage once, where it begins", () => {
    const { rows } = rowsOf(12);
    const passages = rows.flatMap((row) => row.passages);
    expect(passages.map(({ name, movable }) => [name, movable])).toEqual([["Passage 1", false]]);
  });

  it("has another signature exactly where something else is seen", () => {
    const [first, again] = [rowsOf(12), rowsOf(12)];
    const other = rowsOf(13);
    const signatures = ({ rows, plan }: typeof first): string[] => rows.map((row) => signatureOf(row, plan.rate));
    expect(signatures(again)).toEqual(signatures(first));
    expect(signatures(other)).not.toEqual(signatures(first));
  });
});
