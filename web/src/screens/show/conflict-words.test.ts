import { mergeDocuments, newShowDocument, type ShowDocument } from "@humming-tide/core/show";
import { anyEdit, propertyRuns } from "@humming-tide/core/testing";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { conflictWords } from "./conflict-words.ts";

const edited = (from: ShowDocument, edits: readonly { apply: (show: ShowDocument) => ShowDocument }[]): ShowDocument =>
  edits.reduce((document, edit) => edit.apply(document), from);

describe("what two windows disagree about", () => {
  it("is told in words for any two edits: no names of the code, and no side without a value", () => {
    const some = fc.array(anyEdit, { maxLength: 14 });
    let seen = 0;
    fc.assert(
      fc.property(some, some, some, (first, own, other) => {
        const base = edited(newShowDocument("Regatta"), first);
        const { conflicts, document } = mergeDocuments(base, edited(base, own), edited(base, other));
        for (const conflict of conflicts) {
          seen++;
          const { what, mine, theirs } = conflictWords(conflict, document);
          for (const text of [what, mine, theirs]) {
            expect(text).not.toMatch(/undefined|null|NaN|\[object|[{}]/);
            expect(text.trim()).not.toBe("");
          }
          // The name of a field begins with a capital and is in words.
          expect(what).toMatch(/^\p{Lu}/u);
          expect(what.split(": ").at(-1)).not.toMatch(/^[a-z]+[A-Z]/);
        }
      }),
      { numRuns: Math.max(200, propertyRuns) },
    );
    expect(seen).toBeGreaterThan(20);
  });

  it("names a slide by its caption or file, and says which side took it out", () => {
    const show = newShowDocument("Regatta");
    const place = { kind: "gone", list: "passages", id: "p9" } as const;
    const gone = { key: "passages p9", place, mine: undefined, theirs: { id: "p9", name: "Lantern walk" } };
    expect(conflictWords(gone, show)).toEqual({
      what: "Passage Lantern walk",
      mine: "taken out",
      theirs: "kept, with its changes",
    });
    const sizes = { kind: "show", field: "size" } as const;
    expect(
      conflictWords(
        { key: "size", place: sizes, mine: { width: 1920, height: 1080 }, theirs: { width: 1080, height: 1920 } },
        show,
      ),
    ).toEqual({ what: "Size of the film", mine: "1920 x 1080", theirs: "1080 x 1920" });
    const title = { kind: "show", field: "title" } as const;
    const long = conflictWords({ key: "title", place: title, mine: "x".repeat(200), theirs: "" }, show);
    expect([long.mine.length, long.theirs]).toEqual([62, "none"]);
  });
});
