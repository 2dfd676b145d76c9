import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  chooseSong,
  insertSlide,
  lockLanding,
  moveSlide,
  naturalOrder,
  newShowDocument,
  removeSlides,
  type ShowDocument,
  showDocumentSchema,
} from "./index.ts";

const HASH = "0123456789abcdef".repeat(4);
const slide = (id: string) => ({ id, sha256: HASH, fileName: `${id}.jpg`, landingLockSeconds: null });
const withSlides = (...ids: string[]): ShowDocument => ({ ...newShowDocument("Regatta"), slides: ids.map(slide) });
const ids = (show: ShowDocument): string => show.slides.map(({ id }) => id).join("");

describe("edits of a show", () => {
  it("move, insert and remove slides, and leave the document they were given as it was", () => {
    const show = withSlides("a", "b", "c", "d");
    expect(ids(moveSlide(show, "a", 2))).toBe("bcad");
    expect(ids(moveSlide(show, "d", 0))).toBe("dabc");
    expect(ids(moveSlide(show, "b", 99))).toBe("acdb");
    expect(ids(insertSlide(show, slide("x"), 1))).toBe("axbcd");
    expect(ids(insertSlide(show, slide("b"), 1))).toBe("abcd");
    expect(ids(removeSlides(show, new Set(["a", "c", "nobody"])))).toBe("bd");
    expect(ids(show)).toBe("abcd");
  });

  it("never lose or double a slide by moving", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom("a", "b", "c", "d", "e"), fc.integer({ min: -3, max: 9 }))),
        (moves) => {
          const moved = moves.reduce((show, [id, to]) => moveSlide(show, id, to), withSlides("a", "b", "c", "d", "e"));
          expect([...ids(moved)].sort().join("")).toBe("abcde");
          expect(showDocumentSchema.safeParse(moved).success).toBe(true);
        },
      ),
    );
  });

  it("take another song without the old one's corrections and locks", () => {
    const edited = { ...lockLanding(withSlides("a"), "a", 12), gridEdits: [{ kind: "twice" as const }] };
    const song = { sha256: HASH, fileName: "waltz.wav" };
    const changed = chooseSong(edited, song);
    expect(changed).toMatchObject({ song, gridEdits: [], slides: [{ landingLockSeconds: null }] });
    expect(chooseSong(changed, song)).toBe(changed);
  });
});

it("orders file names as a person reads them", () => {
  const names = ["10.jpg", "2.jpg", "IMG_3.jpg", "img_20.jpg", "1.jpg", "img_3.jpg"];
  expect(names.sort(naturalOrder)).toEqual(["1.jpg", "2.jpg", "10.jpg", "IMG_3.jpg", "img_3.jpg", "img_20.jpg"]);
});
