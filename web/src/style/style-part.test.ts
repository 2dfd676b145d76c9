import {
  changeStyle,
  newPassage,
  newShowDocument,
  newSlide,
  type ShowDocument,
  setShapeFill,
  styleOf,
} from "@humming-tide/core/show";
import { describe, expect, it } from "vitest";
import { fillPart, stylePart } from "./style-part.ts";

const empty = newShowDocument("Regatta");
const show: ShowDocument = {
  ...empty,
  passages: [...empty.passages, newPassage("p9", "Lantern walk")],
  slides: ["a", "b", "c"].map((id, i) => ({
    ...newSlide({ id, sha256: "a".repeat(64), fileName: `${id}.jpg` }),
    passageId: i < 2 ? (empty.passages[0]?.id ?? "") : "p9",
  })),
};
const slides = (...ids: string[]) => ({ kind: "slides", slideIds: new Set(ids) }) as const;
const warm = { kind: "warm", strength: 0.5, levels: 0 } as const;

describe("a part of a style", () => {
  it("is the show's own, and followed by passages and slides that say nothing", () => {
    expect(stylePart(show, { kind: "show" }, "look")).toMatchObject({ isOwn: true, above: null });
    expect(stylePart(show, { kind: "passage", passageId: "p9" }, "look")).toMatchObject({
      isOwn: false,
      above: "the show",
      value: show.style.look,
    });
    expect(stylePart(show, slides("a", "b"), "look")).toMatchObject({
      isOwn: false,
      isMixed: false,
      above: "the passage",
      value: show.style.look,
    });
  });

  it("is what the slides are drawn with, and mixed where they differ", () => {
    const changed = changeStyle(show, slides("b"), { look: warm });
    const part = stylePart(changed, slides("a", "b"), "look");
    expect(part).toMatchObject({ isOwn: true, isMixed: true, value: show.style.look });
    for (const slide of changed.slides)
      expect(stylePart(changed, slides(slide.id), "look").value).toEqual(styleOf(changed, slide).look);
    const passage = changeStyle(changed, { kind: "passage", passageId: "p9" }, { look: warm });
    expect(stylePart(passage, { kind: "passage", passageId: "p9" }, "look")).toMatchObject({
      isOwn: true,
      value: warm,
    });
    expect(stylePart(passage, slides("b", "c"), "look")).toMatchObject({ isMixed: false, value: warm });
  });
});

describe("a fill in films of one shape", () => {
  const crop = { kind: "crop" } as const;
  const square = setShapeFill(show, slides("a"), "1:1", crop);

  it("is the shape's own where a level has one, and mixed only where slides differ in that shape", () => {
    expect(fillPart(square, slides("a"), "1:1")).toMatchObject({ value: crop, isForShape: true, isOwn: true });
    expect(fillPart(square, slides("a"), "16:9")).toMatchObject({ value: show.style.fill, isForShape: false });
    expect(fillPart(square, slides("a", "b"), "1:1").isMixed).toBe(true);
    expect(fillPart(square, slides("a", "b"), "16:9").isMixed).toBe(false);
  });

  it("comes from the show, unless the passage fills all shapes otherwise", () => {
    const passage = { kind: "passage", passageId: "p9" } as const;
    const all = setShapeFill(show, { kind: "show" }, "9:16", crop);
    expect(fillPart(all, slides("c"), "9:16")).toMatchObject({ value: crop, isForShape: false, isOwn: false });
    const blurred = changeStyle(all, passage, { fill: { kind: "blur" } });
    expect(fillPart(blurred, slides("c"), "9:16").value).toEqual({ kind: "blur" });
    expect(fillPart(blurred, slides("a"), "9:16").value).toEqual(crop);
  });
});
