import type { StudioComment } from "@humming-tide/contract";
import { newShowDocument, newSlide, swapFiles } from "@humming-tide/core/show";
import { describe, expect, it } from "vitest";
import { changesNote, revisionAt } from "./changes-note.ts";

const hash = (digit: number): string => digit.toString(16).padStart(64, "0");
const show = {
  ...newShowDocument("Regatta"),
  slides: [1, 2].map((i) => newSlide({ id: `s${i}`, sha256: hash(i), fileName: `${i}.jpg` })),
};
const comment = (text: string, more: Partial<StudioComment> = {}): StudioComment => ({
  ...{ id: text, threadId: null, from: "client", name: "Maren", text, version: 1, seconds: 12.4, done: true },
  ...{ createdAt: "2031-06-22T10:00:00Z", slideId: "s1", round: 0 },
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

  it("is empty where nothing changed, and never longer than a note may be", () => {
    expect(changesNote(show, show, [], 1)).toBe("");
    const many = Array.from({ length: 20 }, (_, i) => comment(`${i} ${"x".repeat(200)}`));
    expect(changesNote(show, show, many, 1)).toHaveLength(500);
  });

  it("finds the revision that a version was made from, over several pages of the history", async () => {
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
