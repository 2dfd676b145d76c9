import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../../presence/index.ts";
import { anyEdit, propertyRuns } from "../../testing/index.ts";
import {
  AS_ABOVE,
  changeStyle,
  copyStyle,
  newShowDocument,
  newSlide,
  type ShowDocument,
  setView,
  showDocumentSchema,
  splitPassage,
  styleOf,
} from "../index.ts";

const HASH = "a".repeat(64);
const base: ShowDocument = splitPassage(
  {
    ...newShowDocument("Regatta"),
    slides: ["a", "b", "c", "d"].map((id) => newSlide({ id, sha256: HASH, fileName: `${id}.jpg` })),
  },
  "c",
  "Race",
);
const race = itemAt(base.passages, 1).id;
const cut = { kind: "cut" } as const;
const kinds = (show: ShowDocument): string =>
  show.slides.map((slide) => styleOf(show, slide).transition.kind).join(" ");

describe("styles", () => {
  it("come from the slide, else its passage, else the show, part by part", () => {
    expect(kinds(base)).toBe("dissolve dissolve dissolve dissolve");
    const iris = { kind: "iris", length: { unit: "beats", count: 2 } } as const;
    const passage = changeStyle(base, { kind: "passage", passageId: race }, { transition: iris });
    expect(kinds(passage)).toBe("dissolve dissolve iris iris");
    const slide = changeStyle(passage, { kind: "slides", slideIds: new Set(["b", "d"]) }, { transition: cut });
    expect(kinds(slide)).toBe("dissolve cut iris cut");
    expect(kinds(changeStyle(slide, { kind: "show" }, { transition: cut }))).toBe("cut cut iris cut");
    expect(styleOf(slide, itemAt(slide.slides, 3)).fill).toEqual(base.style.fill);
    const back = changeStyle(slide, { kind: "slides", slideIds: new Set(["b", "d"]) }, { transition: null });
    expect(back).toEqual(passage);
    // Above the show there is nothing to follow.
    expect(changeStyle(base, { kind: "show" }, { transition: null, fill: null })).toEqual(base);
  });

  it("are copied as little as possible: what the passage says already is not said again", () => {
    const fill = { kind: "crop" } as const;
    const one = changeStyle(base, { kind: "slides", slideIds: new Set(["a"]) }, { transition: cut, fill });
    const passage = changeStyle(one, { kind: "passage", passageId: race }, { transition: cut });
    const copied = copyStyle(passage, "a", new Set(["b", "c"]));
    expect(itemAt(copied.slides, 1).style).toEqual({ ...AS_ABOVE, transition: cut, fill });
    expect(itemAt(copied.slides, 2).style).toEqual({ ...AS_ABOVE, fill });
    expect(itemAt(copied.slides, 3).style).toEqual(AS_ABOVE);
    expect(copyStyle(base, "nobody", new Set(["a"]))).toBe(base);
  });

  it("of a copied slide are seen in every slide that they are copied to, whatever stood there, and the document stays valid", () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 12 }), (edits) => {
        const show = edits.reduce((document, edit) => edit.apply(document), base);
        const [first, ...others] = show.slides;
        if (!first) return;
        const copied = copyStyle(show, first.id, new Set(others.map(({ id }) => id)));
        for (const slide of copied.slides) expect(styleOf(copied, slide)).toEqual(styleOf(show, first));
        expect(showDocumentSchema.parse(copied)).toEqual(copied);
      }),
      { numRuns: propertyRuns / 5 },
    );
  });

  it("hold a frame by hand for each shape of film, and give it back to the rule", () => {
    const whole = { centre: { x: 0.5, y: 0.5 }, zoom: 1 };
    const near = { centre: { x: 0.25, y: 0.5 }, zoom: 2 };
    const wide = setView(base, "a", "16:9", { start: whole, end: near });
    const both = setView(wide, "a", "9:16", { start: near, end: near });
    expect(itemAt(both.slides, 0).views).toHaveLength(2);
    const again = setView(both, "a", "16:9", { start: near, end: whole });
    expect(itemAt(again.slides, 0).views.find(({ shape }) => shape === "16:9")).toEqual({
      shape: "16:9",
      start: near,
      end: whole,
    });
    expect(itemAt(setView(again, "a", "16:9", null).slides, 0).views).toEqual([
      { shape: "9:16", start: near, end: near },
    ]);
  });
});
