import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../../presence/index.ts";
import { anyEdit, propertyRuns } from "../../testing/index.ts";
import {
  changeSlides,
  mergeDocuments,
  newPassage,
  newShowDocument,
  newSlide,
  type ShowDocument,
  showDocumentSchema,
  swapFiles,
} from "../index.ts";

const slide = (id: string, more: object = {}) => ({
  ...newSlide({ id, sha256: "a".repeat(64), fileName: `${id}.jpg` }),
  ...more,
});
const show: ShowDocument = { ...newShowDocument("Regatta"), slides: [..."abcdef"].map((id) => slide(id)) };
const withSlide = (from: ShowDocument, id: string, change: object): ShowDocument => ({
  ...from,
  slides: from.slides.map((one) => (one.id === id ? { ...one, ...change } : one)),
});
const ids = ({ slides }: ShowDocument): string => slides.map(({ id }) => id).join("");
const edited = (from: ShowDocument, edits: readonly { apply: (show: ShowDocument) => ShowDocument }[]): ShowDocument =>
  edits.reduce((document, edit) => edit.apply(document), from);

describe("two edits of one document", () => {
  it("are the other one where one side changed nothing, and valid whatever both did", () => {
    const some = fc.array(anyEdit, { maxLength: 12 });
    fc.assert(
      fc.property(some, some, some, (first, own, other) => {
        const base = edited(newShowDocument("Regatta"), first);
        const [mine, theirs] = [edited(base, own), edited(base, other)];
        expect(mergeDocuments(base, mine, base)).toEqual({ document: mine, conflicts: [] });
        expect(mergeDocuments(base, base, theirs)).toEqual({ document: theirs, conflicts: [] });
        expect(mergeDocuments(base, mine, mine).document).toEqual(mine);
        const merged = mergeDocuments(base, mine, theirs);
        expect(showDocumentSchema.safeParse(merged.document).success).toBe(true);
        // Nothing that one side brought in is lost, unless a person is asked about it.
        if (merged.conflicts.length === 0)
          for (const side of [mine, theirs])
            for (const { id } of side.slides)
              if (!base.slides.some((one) => one.id === id))
                expect(merged.document.slides.some((one) => one.id === id)).toBe(true);
      }),
      { numRuns: propertyRuns },
    );
  });

  it("are both in it where they touch different things, as if one had been made after the other", () => {
    const changes: ((from: ShowDocument) => ShowDocument)[] = [
      (from) => withSlide(from, "b", { caption: "Lanterns" }),
      (from) => withSlide(from, "b", { hero: true }),
      (from) => withSlide(from, "e", { turn: 90 }),
      (from) => ({ ...from, title: "Closing night" }),
      (from) => ({ ...from, lead: { kind: "slides" } }),
      (from) => ({ ...from, style: { ...from.style, fill: { kind: "colour", colour: "#102030" } } }),
      (from) => ({ ...from, mix: { ...from.mix, targetLufs: -16 } }),
      (from) => ({ ...from, slides: [...from.slides, slide("new")] }),
      (from) => ({ ...from, slides: from.slides.filter(({ id }) => id !== "c") }),
      (from) => ({ ...from, outputs: [...from.outputs, { ...itemAt(from.outputs, 0), id: "tall", name: "Tall" }] }),
    ];
    for (const one of changes)
      for (const other of changes) {
        if (one === other) continue;
        const { document, conflicts } = mergeDocuments(show, one(show), other(show));
        expect(conflicts).toEqual([]);
        expect(document).toEqual(other(one(show)));
      }
  });

  it("keep an order and what came in beside it", () => {
    const turned = { ...show, slides: show.slides.toReversed() };
    const grown = { ...show, slides: [slide("x"), ...show.slides.toSpliced(2, 0, slide("y"))] };
    expect(ids(mergeDocuments(show, turned, grown).document)).toBe("xfedcbya");
    expect(ids(mergeDocuments(show, grown, turned).document)).toBe("xfedcbya");
  });

  it("ask where both touch the same thing, and take what is chosen", () => {
    const cases: [ShowDocument, ShowDocument, object][] = [
      [
        withSlide(show, "b", { caption: "Mine" }),
        withSlide(show, "b", { caption: "Theirs" }),
        { place: { kind: "member", list: "slides", id: "b", field: "caption" }, mine: "Mine", theirs: "Theirs" },
      ],
      [
        { ...show, size: { width: 1080, height: 1920 } },
        { ...show, size: { width: 3840, height: 2160 } },
        { place: { kind: "show", field: "size" } },
      ],
      [
        { ...show, style: { ...show.style, fill: { kind: "colour", colour: "#102030" } } },
        { ...show, style: { ...show.style, fill: { kind: "colour", colour: "#405060" } } },
        { place: { kind: "show", field: "style.fill" } },
      ],
      [
        { ...show, slides: show.slides.filter(({ id }) => id !== "d") },
        withSlide(show, "d", { hero: true }),
        { place: { kind: "gone", list: "slides", id: "d" }, mine: undefined },
      ],
      [
        { ...show, slides: show.slides.toReversed() },
        { ...show, slides: show.slides.toSorted((a, b) => "dafbec".indexOf(a.id) - "dafbec".indexOf(b.id)) },
        { place: { kind: "order", list: "slides" } },
      ],
    ];
    for (const [mine, theirs, conflict] of cases) {
      const { conflicts, document } = mergeDocuments(show, mine, theirs);
      expect(conflicts).toMatchObject([conflict]);
      expect(document).toEqual(theirs);
      expect(mergeDocuments(show, mine, theirs, () => "mine").document).toEqual(mine);
    }
  });

  it("put slides of a passage that was taken out into another, and never lose them", () => {
    const two = { ...show, passages: [newPassage("p1", ""), newPassage("p2", "Dance")] };
    const moved = withSlide(two, "a", {});
    const mine = { ...moved, slides: [...two.slides.slice(1), { ...itemAt(two.slides, 0), passageId: "p2" }] };
    const theirs = { ...two, passages: two.passages.slice(0, 1) };
    const { document, conflicts } = mergeDocuments(two, mine, theirs);
    expect(conflicts).toEqual([]);
    expect([...ids(document)].sort().join("")).toBe("abcdef");
  });
});

describe("a slide whose file was replaced", () => {
  const hash = (digit: number): string => digit.toString(16).padStart(64, "0");
  const views = [
    {
      shape: "16:9",
      start: { centre: { x: 0.4, y: 0.5 }, zoom: 1.2 },
      end: { centre: { x: 0.5, y: 0.5 }, zoom: 1 },
    },
  ];
  const before: ShowDocument = {
    ...newShowDocument("Regatta"),
    slides: [{ ...newSlide({ id: "s1", sha256: hash(1), fileName: "1.jpg" }), turn: 90, views }],
  };
  const replaced = (digit: number): ShowDocument =>
    swapFiles(before, new Map([["s1", { sha256: hash(digit), fileName: `${digit}.jpg` }]]));
  const captioned = changeSlides(before, new Set(["s1"]), { caption: "Lanterns" });

  it("keeps what another window wrote on it", () => {
    const { document, conflicts } = mergeDocuments(before, replaced(2), captioned, () => "mine");
    expect(conflicts).toEqual([]);
    expect(document.slides).toEqual([{ ...replaced(2).slides[0], caption: "Lanterns" }]);
  });

  it.each(["mine", "theirs"] as const)("is one decision where both replaced it: %s", (side) => {
    const sides = { mine: replaced(2), theirs: replaced(3) };
    const { document, conflicts } = mergeDocuments(before, sides.mine, sides.theirs, () => side);
    expect(conflicts.map(({ place }) => place)).toEqual([
      { kind: "member", list: "slides", id: "s1", field: "sha256" },
    ]);
    expect(document).toEqual(sides[side]);
  });
});
