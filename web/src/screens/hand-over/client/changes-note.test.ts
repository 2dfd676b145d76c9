import type { StudioComment } from "@humming-tide/contract";
import { newShowDocument, newSlide, swapFiles } from "@humming-tide/core/show";
import { describe, expect, it } from "vitest";
import { changesNote } from "./changes-note.ts";

const hash = (digit: number): string => digit.toString(16).padStart(64, "0");
const show = {
  ...newShowDocument("Regatta"),
  slides: [1, 2].map((i) => newSlide({ id: `s${i}`, sha256: hash(i), fileName: `${i}.jpg` })),
};
const comment = (text: string, more: Partial<StudioComment> = {}): StudioComment => ({
  ...{ id: text, threadId: null, from: "client", name: "Maren", text, version: 1, seconds: 12.4, done: true },
  ...{ createdAt: "2031-06-22T10:00:00Z", slideId: "s1", round: 0, doneRevision: 3 },
  ...more,
});

describe("what is new, for the client", () => {
  it("names what was asked for and done, then what else was changed", () => {
    const now = {
      ...swapFiles(show, new Map([["s1", { sha256: hash(9), fileName: "9.jpg" }]])),
      title: "Closing night",
    };
    const comments = [
      comment("Could this one\ngo?"),
      comment("And this?", { done: false }),
      comment("Long ago", { version: 0 }),
      comment("An answer", { threadId: "x" }),
    ];
    expect(changesNote(show, now, comments, 1)).toBe(
      "Done: “Could this one go?” (0:12). “9.jpg” replaced, named “Closing night”.",
    );
  });

  it("says with each what answers it", () => {
    const comments = [comment("Could this one go?"), comment("Longer?", { seconds: 65 })];
    const answers = new Map([["Could this one go?", "“9.jpg” replaced"]]);
    expect(changesNote(show, show, comments, 1, answers)).toBe(
      "Done: “Could this one go?” (0:12: “9.jpg” replaced), “Longer?” (1:05).",
    );
  });

  it("is empty where nothing changed, and never longer than a note may be", () => {
    expect(changesNote(show, show, [], 1)).toBe("");
    const many = Array.from({ length: 20 }, (_, i) => comment(`${i} ${"x".repeat(200)}`));
    expect(changesNote(show, show, many, 1)).toHaveLength(500);
  });
});
