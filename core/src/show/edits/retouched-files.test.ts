import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { newShowDocument, newSlide, type OfferedFile, retouchedFiles } from "../index.ts";

const hash = (digit: number): string => digit.toString(16).padStart(64, "0");
const showOf = (...names: string[]) => ({
  ...newShowDocument("Regatta"),
  slides: names.map((fileName, i) => newSlide({ id: `s${i}`, sha256: hash(i), fileName })),
});
const offered = (i: number, fileName: string, capturedAt: string | null = null): OfferedFile => ({
  sha256: hash(100 + i),
  fileName,
  capturedAt,
});
const unknown = (): null => null;
const pairs = (found: ReturnType<typeof retouchedFiles>): string[] =>
  found.matched.map(({ formerName, file, by }) => `${formerName} > ${file.fileName} by ${by}`);

describe("retouched files find their pictures", () => {
  it("by name, whatever the folder, the ending and the case", () => {
    const found = retouchedFiles(
      showOf("quay/IMG_1.jpg", "IMG_2.HEIC", "IMG_3.jpg"),
      [offered(0, "done/img_2.tif"), offered(1, "IMG_1.JPG"), offered(2, "IMG_9.jpg")],
      unknown,
    );
    expect(pairs(found)).toEqual(["quay/IMG_1.jpg > IMG_1.JPG by name", "IMG_2.HEIC > done/img_2.tif by name"]);
    expect(found.unmatched.map(({ fileName }) => fileName)).toEqual(["IMG_9.jpg"]);
  });

  it("by a name that goes on, but not by one that only begins alike", () => {
    const found = retouchedFiles(
      showOf("IMG_1.jpg", "IMG_10.jpg", "IMG_2.jpg"),
      [offered(0, "IMG_1-edit.jpg"), offered(1, "IMG_10 (2).jpg"), offered(2, "IMG_22.jpg")],
      unknown,
    );
    expect(pairs(found)).toEqual(["IMG_1.jpg > IMG_1-edit.jpg by name", "IMG_10.jpg > IMG_10 (2).jpg by name"]);
  });

  it("takes the nearest name of two for one picture, and tells of the other", () => {
    const found = retouchedFiles(showOf("IMG_1.jpg"), [offered(0, "IMG_1-edit.jpg"), offered(1, "IMG_1.tif")], unknown);
    expect(pairs(found)).toEqual(["IMG_1.jpg > IMG_1.tif by name"]);
    expect(found.unmatched.map(({ fileName }) => fileName)).toEqual(["IMG_1-edit.jpg"]);
  });

  it("by the moment where names differ or two cameras count alike, and never by a guess", () => {
    const taken = ["2031-06-21T19:04:11.250", "2031-06-21T19:04:11.500", null, null];
    const found = retouchedFiles(
      showOf("a/IMG_1.jpg", "b/IMG_1.jpg", "c/IMG_2.jpg", "d/IMG_2.jpg"),
      [offered(0, "IMG_1.jpg", taken[1]), offered(1, "best.jpg", taken[0]), offered(2, "IMG_2.jpg")],
      (sha256) => taken[Number.parseInt(sha256, 16)] ?? null,
    );
    expect(pairs(found)).toEqual(["a/IMG_1.jpg > best.jpg by time", "b/IMG_1.jpg > IMG_1.jpg by name"]);
    expect(found.unmatched.map(({ fileName }) => fileName)).toEqual(["IMG_2.jpg"]);
  });

  it("counts files that are the very ones that are there", () => {
    const show = showOf("IMG_1.jpg", "IMG_2.jpg");
    const found = retouchedFiles(show, [{ ...offered(0, "IMG_1.jpg"), sha256: hash(0) }], unknown);
    expect(found).toEqual({ matched: [], unmatched: [], unchanged: 1 });
  });

  it("gives no slide two files and no file two slides, and loses none", () => {
    const name = fc.stringMatching(/^[ab]{1,2}(-e)?\.jpg$/);
    fc.assert(
      fc.property(fc.array(name, { maxLength: 8 }), fc.array(name, { maxLength: 8 }), (old, news) => {
        const found = retouchedFiles(
          showOf(...old),
          news.map((fileName, i) => offered(i, fileName)),
          unknown,
        );
        expect(new Set(found.matched.map(({ slideId }) => slideId)).size).toBe(found.matched.length);
        const told = [...found.matched.map(({ file }) => file.sha256), ...found.unmatched.map(({ sha256 }) => sha256)];
        expect(told.toSorted()).toEqual(news.map((_, i) => hash(100 + i)).toSorted());
        // The oracle: a name that both sides have once is always found.
        const alone = (list: readonly string[], one: string): boolean =>
          list.filter((other) => other === one).length === 1;
        const stems = news.filter((one) => alone(old, one) && alone(news, one));
        for (const one of stems)
          expect(found.matched.some(({ formerName, file }) => formerName === one && file.fileName === one)).toBe(true);
      }),
    );
  });
});
