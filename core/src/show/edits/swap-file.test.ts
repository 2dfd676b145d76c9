import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, present, valueFor } from "../../presence/index.ts";
import {
  changeText,
  describeChange,
  exchangeFiles,
  MOST_FORMER_FILES,
  newCard,
  newShowDocument,
  newSlide,
  newWords,
  readShowDocument,
  type ShowDocument,
  type Slide,
  swapFiles,
} from "../index.ts";

const hash = (digit: number): string => digit.toString(16).padStart(64, "0");
const file = (digit: number) => ({ sha256: hash(digit), fileName: `new ${digit}.jpg` });

/** A slide about which everything is decided. */
const decided = (i: number): Slide => ({
  ...newSlide({ id: `s${i}`, sha256: hash(i), fileName: `old ${i}.mp4` }),
  caption: "Lanterns on the quay",
  words: [newWords("title", "Regatta")],
  rating: "maybe",
  hero: true,
  turn: 90,
  landingLock: { songId: "song 1", seconds: 12.5, turn: 0, exact: true },
  length: { seconds: 3, locked: true },
  stays: true,
  clip: { inSeconds: 1, outSeconds: 4, momentSeconds: 2, speed: 1 },
  subject: { x: 0.2, y: 0.3 },
  views: [
    {
      shape: "16:9",
      start: { centre: { x: 0.4, y: 0.5 }, zoom: 1.2 },
      end: { centre: { x: 0.5, y: 0.5 }, zoom: 1 },
    },
  ],
});
const show: ShowDocument = {
  ...newShowDocument("Regatta"),
  slides: [decided(1), decided(2), newCard("card", [], "#102030", 4), decided(4)],
};
const OF_FILE = ["sha256", "fileName", "turn", "subject", "views", "clip", "formerFiles"] as const;
const ofSlide = (slide: Slide): object =>
  Object.fromEntries(Object.entries(slide).filter(([key]) => !(OF_FILE as readonly string[]).includes(key)));

it("remembers five files of a slide, as the docs say", () => expect(MOST_FORMER_FILES).toBe(5));

describe("another file on a slide", () => {
  it("keeps what was decided about the slide, and nothing that was decided about the old file", () => {
    const after = swapFiles(show, new Map([["s2", file(7)]]));
    const [first, second, ...others] = after.slides;
    expect([first, ...others]).toEqual([show.slides[0], ...show.slides.slice(2)]);
    expect(ofSlide(present(second))).toEqual(ofSlide(itemAt(show.slides, 1)));
    expect(second).toMatchObject({ ...file(7), turn: 0, subject: null, views: [], clip: null });
    expect(readShowDocument(JSON.parse(JSON.stringify(after)))).toEqual(after);
    expect(describeChange(show, after).map(changeText)).toContain("“new 7.jpg” replaced");
  });

  it("gives everything back when the old file comes back", () => {
    const there = swapFiles(show, new Map([["s1", file(7)]]));
    const back = swapFiles(there, new Map([["s1", { sha256: hash(1), fileName: "old 1.mp4" }]]));
    expect({ ...back.slides[0], formerFiles: [] }).toEqual(show.slides[0]);
    expect(itemAt(back.slides, 0).formerFiles).toEqual([expect.objectContaining(file(7))]);
  });

  it("changes nothing for cards, slides that are not there, and the very file that is there", () => {
    const files = new Map([
      ["card", file(7)],
      ["nobody", file(8)],
      ["s1", { sha256: hash(1), fileName: "another name.mp4" }],
    ]);
    expect(swapFiles(show, files)).toBe(show);
    expect(exchangeFiles(show, "s1", "card")).toBe(show);
    expect(exchangeFiles(show, "s1", "s1")).toBe(show);
  });

  it("whatever is swapped: slides keep what is theirs, and the latest files are in reach, each once", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom("s1", "s2", "s4"), fc.integer({ min: 1, max: 12 })), { maxLength: 30 }),
        (swaps) => {
          let now = show;
          const history = new Map<string, string[]>(show.slides.map(({ id, sha256 }) => [id, [sha256 ?? ""]]));
          for (const [id, digit] of swaps) {
            now = swapFiles(now, new Map([[id, file(digit)]]));
            // The oracle: a list with the latest first, in which each stands once.
            history.set(id, [hash(digit), ...valueFor(history, id).filter((sha256) => sha256 !== hash(digit))]);
          }
          for (const [i, slide] of now.slides.entries()) {
            expect(ofSlide(slide)).toEqual(ofSlide(itemAt(show.slides, i)));
            const known = [slide.sha256 ?? "", ...slide.formerFiles.map(({ sha256 }) => sha256)];
            expect(known).toEqual(valueFor(history, slide.id).slice(0, MOST_FORMER_FILES + 1));
          }
        },
      ),
    );
  });
});

it("two slides exchange their files with what was decided about each, and back again", () => {
  const bare = newSlide({ id: "waits", sha256: hash(9), fileName: "waits.jpg" });
  const both = { ...show, slides: [...show.slides, bare] };
  const after = exchangeFiles(both, "s1", "waits");
  expect(after.slides[0]).toMatchObject({ sha256: hash(9), views: [], clip: null, caption: "Lanterns on the quay" });
  expect(after.slides.at(-1)).toMatchObject({ sha256: hash(1), views: decided(1).views, caption: "" });
  expect(exchangeFiles(after, "waits", "s1")).toEqual(both);
});
