import { describe, expect, it } from "vitest";
import { itemAt } from "../../presence/index.ts";
import {
  newShowDocument,
  newSlide,
  newWords,
  readShowDocument,
  type Slide,
  splitClip,
  takeClipParts,
} from "../index.ts";

const hash = "a".repeat(64);
const part = (inSeconds: number): { inSeconds: number; outSeconds: number; momentSeconds: number } => ({
  inSeconds,
  outSeconds: inSeconds + 6,
  momentSeconds: inSeconds + 4,
});

const clip: Slide = {
  ...newSlide({ id: "clip", sha256: hash, fileName: "race.mp4" }),
  ...{ caption: "The race", hero: true, turn: 90, length: { seconds: 4, locked: true } },
  words: [newWords("title", "Regatta")],
  landingLock: { songId: "song", seconds: 3, turn: 0, exact: true },
  clip: { inSeconds: 0, outSeconds: null, momentSeconds: null, speed: 0.5 },
};
const show = {
  ...newShowDocument("Regatta"),
  slides: [
    newSlide({ id: "before", sha256: hash, fileName: "a.jpg" }),
    clip,
    newSlide({ id: "behind", sha256: hash, fileName: "b.jpg" }),
  ].map((slide) => ({ ...slide, passageId: itemAt(newShowDocument("Regatta").passages, 0).id })),
};

describe("parts of clips", () => {
  it("are taken for several slides at once; the speed stays, others are not touched", () => {
    const changed = takeClipParts(
      show,
      new Map([
        ["clip", part(2)],
        ["gone", part(1)],
      ]),
    );
    expect(changed.slides.map(({ clip: own }) => own)).toEqual([null, { ...part(2), speed: 0.5 }, null]);
    expect(takeClipParts(changed, new Map([["clip", part(2)]]))).toBe(changed);
    expect(takeClipParts(show, new Map())).toBe(show);
  });

  it("become slides one after the other, of which the first keeps what was decided about it", () => {
    const { slides } = splitClip(show, "clip", [part(1), part(9), part(20)], ["second", "third"]);
    expect(slides.map(({ id }) => id)).toEqual(["before", "clip", "second", "third", "behind"]);
    expect(slides.slice(1, 4).map((slide) => slide.clip)).toEqual(
      [part(1), part(9), part(20)].map((one) => ({ ...one, speed: 0.5 })),
    );
    expect(itemAt(slides, 1)).toEqual({ ...itemAt(show.slides, 1), clip: { ...part(1), speed: 0.5 } });
    for (const slide of slides.slice(2, 4)) {
      expect(slide).toMatchObject({ sha256: hash, turn: 90, caption: "", words: [], landingLock: null, length: null });
      expect([slide.hero, slide.passageId]).toEqual([false, itemAt(show.slides, 1).passageId]);
    }
  });

  it("leave a show that can be read again; an unknown slide or no part changes nothing", () => {
    const split = splitClip(show, "clip", [part(1), part(9)], ["second"]);
    expect(readShowDocument(JSON.parse(JSON.stringify(split)))).toEqual(split);
    expect(splitClip(show, "gone", [part(1)], [])).toBe(show);
    expect(splitClip(show, "clip", [], [])).toBe(show);
  });
});
