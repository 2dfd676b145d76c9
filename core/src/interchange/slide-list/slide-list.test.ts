import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../../presence/index.ts";
import { lockOrder, newCard, newShowDocument, newSlide, type ShowDocument, type Slide } from "../../show/index.ts";
import { anyEdit, propertyRuns } from "../../testing/index.ts";
import { applySlideList, readSlideList, writeSlideList } from "./index.ts";

const HASH = "ab".repeat(32);
const showOf = (...names: string[]): ShowDocument => ({
  ...newShowDocument("Regatta"),
  slides: names.map((fileName, i) => newSlide({ id: `s${i}`, sha256: HASH, fileName })),
});
const namesOf = (show: ShowDocument): string[] => show.slides.map(({ fileName }) => fileName);

describe("writing a slide list", () => {
  it("gives exactly these bytes (golden)", () => {
    const show = showOf("1.jpg", 'with "quotes", and commas.jpg', "=1+1.jpg", "שלום 🏮.jpg");
    show.passages[0] = { ...itemAt(show.passages, 0), name: "Crews" };
    show.slides[1] = { ...itemAt(show.slides, 1), caption: "two\nlines", rating: "out" };
    show.slides[3] = { ...itemAt(show.slides, 3), rating: "maybe", hero: true };
    expect(writeSlideList(show)).toBe(
      "\uFEFFfile,caption,passage,rating,hero\r\n" +
        "1.jpg,,Crews,keep,\r\n" +
        '"with ""quotes"", and commas.jpg","two\nlines",Crews,leave out,\r\n' +
        "'=1+1.jpg,,Crews,keep,\r\n" +
        "שלום 🏮.jpg,,Crews,maybe,hero\r\n",
    );
  });

  it("is read back to the same captions, ratings, order and passages, whatever the show", () => {
    const text = fc
      .string({ unit: "grapheme", minLength: 1, maxLength: 12 })
      .map((value) => value.trim())
      .filter((value) => value !== "" && !value.startsWith("\uFEFF"));
    fc.assert(
      fc.property(
        fc.array(anyEdit, { maxLength: 25 }),
        fc.uniqueArray(text, { minLength: 16, maxLength: 16 }),
        (edits, names) => {
          const start = showOf(...names);
          const renamed = {
            ...start,
            slides: start.slides.map((slide, i) => ({ ...slide, id: itemAt("abcdefghijklmnop", i) })),
          };
          let show: ShowDocument = renamed;
          for (const edit of edits) {
            // Only edits of what is in the list: files that come and go have names of their own.
            if (!/^(insert|card|gather on slide|take from slide|remove|lock order|template)/.test(edit.name))
              show = edit.apply(show);
          }
          const { rows, problems } = readSlideList(writeSlideList(show));
          expect(problems).toEqual([]);
          const applied = applySlideList(renamed, rows, { takeOrder: true });
          expect(applied.problems).toEqual([]);
          const facts = (document: ShowDocument) =>
            new Map(document.slides.map((slide) => [slide.id, [slide.caption.trim(), slide.rating]]));
          expect(facts(applied.show)).toEqual(facts(show));
          const once = new Set(show.passages.map(({ name }) => name)).size === show.passages.length;
          if (once) expect(namesOf(applied.show)).toEqual(namesOf(show));
        },
      ),
      { numRuns: propertyRuns },
    );
  });
});

describe("cards", () => {
  it("are not in a list, and stay before the slides that they stand before when one orders the others", () => {
    const [a, b, c] = showOf("a.jpg", "b.jpg", "c.jpg").slides as [Slide, Slide, Slide];
    const card = (id: string): Slide => newCard(id, [], "#102030", 5);
    const show = { ...showOf(), slides: [card("first"), card("second"), a, b, c, card("last")] };
    expect(writeSlideList(show)).not.toContain("first");
    const { rows } = readSlideList("file\nc.jpg\na.jpg\nb.jpg\n");
    const { show: ordered, problems } = applySlideList(show, rows, { takeOrder: true });
    expect(problems).toEqual([]);
    expect(ordered.slides.map(({ id, fileName }) => fileName || id)).toEqual([
      "c.jpg",
      "first",
      "second",
      "a.jpg",
      "b.jpg",
      "last",
    ]);
  });
});

describe("reading a slide list", () => {
  it("takes commas, semicolons and tabs, columns in any order, and line ends of every kind", () => {
    for (const [separator, end] of [
      [",", "\n"],
      [";", "\r\n"],
      ["\t", "\r"],
    ] as const) {
      const text = [`Rating${separator}FILE`, `maybe${separator}2.jpg`, `${separator}1.jpg`].join(end);
      expect(readSlideList(text)).toEqual({
        problems: [],
        rows: [
          { line: 2, file: "2.jpg", caption: null, passage: null, rating: "maybe", hero: null },
          { line: 3, file: "1.jpg", caption: null, passage: null, rating: null, hero: null },
        ],
      });
    }
  });

  it("names the line of every problem, also behind texts of several lines", () => {
    const text = [
      "file,caption,rating,hero",
      '1.jpg,"two',
      'lines",keep,',
      "2.jpg,,excellent,",
      ",no name,,",
      "",
      "3.jpg,,,perhaps",
      "4.jpg,too,many,,cells,here",
      "5.jpg,fine,leave out,hero",
      `${"x".repeat(1100)},,,`,
    ].join("\n");
    const { rows, problems } = readSlideList(text);
    expect(rows.map(({ line, file }) => [line, file])).toEqual([
      [2, "1.jpg"],
      [9, "5.jpg"],
    ]);
    expect(problems.map(({ line }) => line)).toEqual([4, 5, 7, 8, 10]);
    expect(itemAt(problems, 0).message).toMatch(/"excellent".*keep, maybe, leave out/);
  });

  it.each([
    ["slide-list-empty", ""],
    ["slide-list-header", "name;caption\n1;2"],
    ["slide-list-header", "\u0000\u0001"],
  ])("says %s of %j, which names no files", (code, text) => {
    expect(() => readSlideList(text)).toThrow(expect.objectContaining({ code }));
  });
});

describe("applying a slide list", () => {
  const rowsOf = (text: string) => readSlideList(text).rows;

  it("finds files without regard to case, folders and the spelling of accents; the same name again is the next one", () => {
    const show = showOf("Ärger.jpg", "twin.jpg", "twin.jpg", "rest.jpg");
    const list =
      "file,caption\ncard 1/A\u0308RGER.JPG,one\ntwin.jpg,first\nTWIN.JPG,second\ntwin.jpg,third\nnobody.jpg,none";
    const { show: changed, matched, problems } = applySlideList(show, rowsOf(list), { takeOrder: false });
    expect(changed.slides.map(({ caption }) => caption)).toEqual(["one", "first", "second", ""]);
    expect([matched, problems.map(({ line }) => line)]).toEqual([3, [5, 6]]);
  });

  it("takes order and passages over, keeps each passage in one run, and puts unnamed slides with their old passage or at the end", () => {
    const show = showOf("a", "b", "c", "d", "e");
    const list = "file,passage\nd,Race\nb,Dance\na,Race\nc,";
    const { show: changed } = applySlideList(show, rowsOf(list), { takeOrder: true });
    expect(namesOf(changed)).toEqual(["d", "a", "c", "b", "e"]);
    expect(changed.passages.map(({ name }) => name)).toEqual(["Race", "Dance", ""]);
  });

  it("does not touch a locked order", () => {
    const show = lockOrder(showOf("a", "b"), true);
    const rows = rowsOf("file,caption\nb,second\na,first");
    expect(() => applySlideList(show, rows, { takeOrder: true })).toThrow(
      expect.objectContaining({ code: "order-locked" }),
    );
    expect(applySlideList(show, rows, { takeOrder: false }).show.slides.map(({ caption }) => caption)).toEqual([
      "first",
      "second",
    ]);
  });
});
