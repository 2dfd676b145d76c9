import type { PictureQuality } from "@humming-tide/core/photo-analysis";
import { newShowDocument, newSlide, type Slide } from "@humming-tide/core/show";
import { describe, expect, it } from "vitest";
import { chosenOf, folded, stacksOf } from "./stacks.ts";

const hash = (digit: number): string => digit.toString(16).padStart(64, "0");
const slides = (more: Readonly<Record<number, Partial<Slide>>> = {}): Slide[] =>
  Array.from({ length: 6 }, (_, i) => ({
    ...newSlide({ id: `s${i}`, sha256: hash(i + 1), fileName: `${i}.jpg` }),
    ...more[i],
  }));
/** How soft each is, by its number. */
const BLURS = [0.5, 0.2, 0.2, null, 0.1, 0.9];
const qualityOf = ({ fileName }: Slide): PictureQuality => ({
  blur: BLURS[Number.parseInt(fileName, 10)] ?? null,
  headBlur: null,
  openEyes: null,
});
const tops = (list: Slide[], moments: string[][]): string[] => [
  ...new Set([...stacksOf(moments, list, qualityOf).values()].map(({ top }) => top)),
];

describe("stacks of near-identical pictures", () => {
  it("have on top the hero, else the best rated, of these the sharpest, of equal ones the first", () => {
    const moment = [["s0", "s1", "s2", "s3"]];
    expect(tops(slides(), moment)).toEqual(["s1"]);
    expect(tops(slides({ 1: { rating: "maybe" } }), moment)).toEqual(["s2"]);
    expect(tops(slides({ 1: { rating: "out" }, 2: { rating: "maybe" } }), moment)).toEqual(["s0"]);
    expect(tops(slides({ 3: { hero: true } }), moment)).toEqual(["s3"]);
    // Nobody measured it, so it is no sharper than any other.
    expect(tops(slides({ 0: { rating: "out" }, 1: { rating: "out" } }), [["s0", "s1", "s3"]])).toEqual(["s3"]);
  });

  it("are of one passage, and no stack of one", () => {
    const list = slides({ 4: { passageId: "other" }, 5: { passageId: "other" } });
    const stacks = stacksOf([["s1", "s4", "s5"], ["s2"], ["gone", "s3"]], list, qualityOf);
    expect([...stacks.keys()]).toEqual(["s4", "s5"]);
    expect(folded(list, stacks).map(({ id }) => id)).toEqual(["s0", "s1", "s2", "s3", "s4"]);
  });

  it("are settled by choosing one: the others are left out, and nothing else changes", () => {
    const show = { ...newShowDocument("Regatta"), slides: slides({ 2: { rating: "maybe" } }) };
    const after = chosenOf(show, { top: "s0", ids: ["s0", "s2", "s3"] }, "s2");
    expect(after.slides.map(({ rating }) => rating)).toEqual(["out", "keep", "keep", "out", "keep", "keep"]);
    expect({ ...after, slides: show.slides }).toEqual(show);
  });
});
