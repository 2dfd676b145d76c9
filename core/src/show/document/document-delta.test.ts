import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, lastOf, present } from "../../presence/index.ts";
import { anyEdit, propertyRuns } from "../../testing/index.ts";
import { deltaBetween, newShowDocument, newSlide, type ShowDocument, withDelta } from "../index.ts";

describe("deltas of documents", () => {
  it("lead to the other document and back, also after a round trip through text", () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { minLength: 2, maxLength: 30 }), fc.nat(), (edits, split) => {
        const documents = [newShowDocument("Regatta")];
        for (const edit of edits) documents.push(edit.apply(lastOf(documents)));
        const before = itemAt(documents, split % documents.length);
        const after = lastOf(documents);
        const travelled = <Value>(value: Value): Value => JSON.parse(JSON.stringify(value)) as Value;
        expect(withDelta(before, travelled(deltaBetween(before, after)))).toEqual(after);
        expect(withDelta(after, travelled(deltaBetween(after, before)))).toEqual(before);
      }),
      { numRuns: propertyRuns },
    );
  });

  it("are small where the edit was: one slide of a thousand, or an order without its slides", () => {
    const slides = Array.from({ length: 1000 }, (_, i) =>
      newSlide({ id: `s${i}`, sha256: "a".repeat(64), fileName: `${i}.jpg` }),
    );
    const show: ShowDocument = { ...newShowDocument("Regatta"), slides };
    const rated = { ...show, slides: slides.with(500, { ...itemAt(slides, 500), hero: true }) };
    expect(JSON.stringify(deltaBetween(show, rated)).length).toBeLessThan(700);
    const turned = { ...show, slides: slides.toReversed() };
    expect(present(deltaBetween(show, turned).lists["slides"]).members).toEqual([]);
    expect(deltaBetween(show, show)).toEqual({ values: {}, lists: {} });
    const other = { ...show, slides: slides.slice(1) };
    expect(() => withDelta(other, deltaBetween(show, turned))).toThrow(/"s0", which the document does not have/);
  });
});
