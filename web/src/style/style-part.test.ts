import {
  changeStyle,
  newPassage,
  newShowDocument,
  newSlide,
  type ShowDocument,
  styleOf,
} from "@humming-tide/core/show";
import { describe, expect, it } from "vitest";
import { stylePart } from "./style-part.ts";

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
