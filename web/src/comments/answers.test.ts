import { changeSlides, newShowDocument, newSlide, swapFiles } from "@humming-tide/core/show";
import { describe, expect, it } from "vitest";
import { answerText, revisionAt } from "./answers.ts";

const hash = (digit: number): string => digit.toString(16).padStart(64, "0");
const show = {
  ...newShowDocument("Regatta"),
  slides: [1, 2].map((i) => newSlide({ id: `s${i}`, sha256: hash(i), fileName: `${i}.jpg` })),
};

describe("what answers a comment", () => {
  it("is what was changed at its slide, whatever else was, else what was changed in the show", () => {
    const swapped = swapFiles(show, new Map([["s1", { sha256: hash(9), fileName: "9.jpg" }]]));
    const after = { ...changeSlides(swapped, new Set(["s2"]), { rating: "out" }), title: "Closing night" };
    expect(answerText(show, after, "s1")).toBe("“9.jpg” replaced");
    expect(answerText(show, after, "s2")).toBe("“2.jpg” rated");
    expect(answerText(show, { ...show, title: "Closing night" }, "s1")).toBe("named “Closing night”");
    expect(answerText(show, { ...show, slides: show.slides.slice(1) }, "s1")).toBe("“1.jpg” removed");
    expect(answerText(show, show, "s1")).toBe("");
  });

  it("is looked for from the revision that a version was made from, over several pages of the history", async () => {
    // The oracle: revision n was saved at minute n.
    const saved = (n: number): string => new Date(Date.UTC(2031, 5, 22, 0, n)).toISOString();
    const page = (before: number | null) => {
      const from = (before ?? 31) - 1;
      const numbers = Array.from({ length: Math.min(10, from) }, (_, i) => from - i);
      return Promise.resolve({
        revisions: numbers.map((revision) => ({ revision, savedAt: saved(revision) })),
        more: from > 10,
      });
    };
    for (const minute of [30, 17, 1]) expect(await revisionAt(saved(minute), page)).toBe(minute);
    expect(await revisionAt(saved(17).replace("00.000Z", "59.000Z"), page)).toBe(17);
    expect(await revisionAt(saved(-5), page)).toBeNull();
  });
});
