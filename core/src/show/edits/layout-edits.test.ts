import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { lastOf, present } from "../../presence/index.ts";
import {
  canGatherOnSlide,
  gatherOnSlide,
  namedPictures,
  newCard,
  newShowDocument,
  newSlide,
  type ShowDocument,
  showDocumentSchema,
  takeFromSlide,
} from "../index.ts";

const hashOf = (letter: string): string => letter.charCodeAt(0).toString(16).padStart(64, "0");
const base: ShowDocument = {
  ...newShowDocument("Regatta"),
  slides: [
    ..."abcdefgh".split("").map((id) => newSlide({ id, sha256: hashOf(id), fileName: `${id}.jpg` })),
    newCard("card", [], "#102030", 5),
  ],
};
const names = (show: ShowDocument): string =>
  namedPictures(show)
    .map(({ fileName }) => fileName)
    .sort()
    .join(" ");
const never: (sha256: string) => boolean = () => false;

describe("several pictures on a slide", () => {
  it("two to six pictures can stand together, no cards and no clips", () => {
    const can = (ids: string, isClip = never): boolean => canGatherOnSlide(base, new Set(ids.split("")), isClip);
    expect([can("a"), can("ab"), can("abcdef"), can("abcdefg")]).toEqual([false, true, true, false]);
    expect(canGatherOnSlide(base, new Set(["a", "card"]), never)).toBe(false);
    expect(can("ab", (sha256) => sha256 === hashOf("b"))).toBe(false);
  });

  it("gathering and taking apart loses no picture, whatever is gathered", () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.constantFrom(..."abcdefgh"), { minLength: 2, maxLength: 6 }),
        fc.nat(4),
        (list, take) => {
          const ids = new Set(list);
          const gathered = gatherOnSlide({ ...base, posterSlideId: lastOf(list) }, ids);
          const first = present(base.slides.find(({ id }) => ids.has(id))).id;
          expect(showDocumentSchema.parse(gathered)).toEqual(gathered);
          expect(names(gathered)).toBe(names(base));
          expect(gathered.slides).toHaveLength(base.slides.length - list.length + 1);
          // A poster that stands on another slide now is that slide's.
          expect(gathered.posterSlideId).toBe(first);
          let apart = gathered;
          for (let left = list.length - 1; left > 0; left--)
            apart = takeFromSlide(apart, first, take % left, `new ${left}`);
          expect(names(apart)).toBe(names(base));
          expect(apart.slides.every(({ more }) => more.length === 0)).toBe(true);
          expect(showDocumentSchema.parse(apart)).toEqual(apart);
        },
      ),
    );
  });

  it("keeps the first caption that there is, and a hero", () => {
    const told = {
      ...base,
      slides: base.slides.map((slide) => (slide.id === "b" ? { ...slide, caption: "At the quay", hero: true } : slide)),
    };
    expect(gatherOnSlide(told, new Set(["a", "b"])).slides[0]).toMatchObject({
      id: "a",
      caption: "At the quay",
      hero: true,
    });
  });
});
