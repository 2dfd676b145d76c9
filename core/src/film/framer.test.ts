import { describe, expect, it } from "vitest";
import {
  coversFrame,
  planFrame,
  type Rectangle,
  safeArea,
  seenPart,
  subjectOfHeads,
  viewIn,
} from "../picture/index.ts";
import { itemAt, present } from "../presence/index.ts";
import {
  changeSlides,
  changeStyle,
  FIRST_LAYOUT,
  gatherOnSlide,
  newCard,
  newShowDocument,
  newShowSong,
  newSlide,
  newWords,
  type ShowDocument,
  type StyleWishes,
  setShapeFill,
  setView,
  splitPassage,
} from "../show/index.ts";
import { steadySong } from "../testing/index.ts";
import { type FilmPlan, filmFacts, filmInSize, planFilm, type SeenMedia } from "./index.ts";

const hash = (digit: number): string => String(digit).repeat(64);
const song = steadySong(24);
const SEEN: Readonly<Record<string, SeenMedia>> = {
  [hash(1)]: { width: 3000, height: 2000, subject: null },
  [hash(2)]: {
    width: 2000,
    height: 3000,
    subject: { point: { x: 0.8, y: 0.2 }, region: { x: 0.7, y: 0.1, width: 0.2, height: 0.2 } },
  },
  [hash(3)]: { width: 2000, height: 3200, subject: null },
  [hash(4)]: { width: 800, height: 400 },
  [hash(9)]: { width: 1, height: 1 },
};
const facts = filmFacts(
  () => song,
  (sha256) => SEEN[sha256],
);
/** Landscape, three upright ones, landscape … */
const show: ShowDocument = {
  ...newShowDocument("Regatta"),
  slides: [1, 2, 3, 2, 1, 2, 1, 1].map((kind, i) =>
    newSlide({ id: `s${i}`, sha256: hash(kind), fileName: `${i}.jpg` }),
  ),
  songs: [newShowSong({ id: "song 1", sha256: hash(9), fileName: "song.wav" })],
};
const planOf = (document: ShowDocument): FilmPlan => planFilm(document, facts);
const styled = (wishes: Partial<StyleWishes>, document = show): FilmPlan =>
  planOf(changeStyle(document, { kind: "show" }, wishes));
const wholeFrame = { x: 0, y: 0, width: 1920, height: 1080 };
const inside = (a: Rectangle, b: Rectangle): boolean =>
  a.x >= b.x - 1e-6 &&
  a.y >= b.y - 1e-6 &&
  a.x + a.width <= b.x + b.width + 1e-6 &&
  a.y + a.height <= b.y + b.height + 1e-6;

describe("pictures in their frames", () => {
  it("stand on a mat with at least its width on every side, whole beside it or filling the rest", () => {
    for (const slot of styled({ edge: { kind: "mat", colour: "#f3e9d4", width: 0.05 } }).slots) {
      expect(slot.cell).toEqual({ x: 54, y: 54, width: 1812, height: 972 });
      expect(slot.ground).toEqual({ kind: "colour", colour: "#f3e9d4" });
      for (const placed of [slot.move.start, slot.move.end]) {
        const { x, y } = viewIn(placed, slot.pictureSize, present(slot.cell)).centre;
        expect([x, y].every((share) => share >= 0 && share <= 1)).toBe(true);
      }
    }
  });

  it("have a border along what is seen of each of them, in whole pixels", () => {
    const plan = styled({ edge: { kind: "border", colour: "#ffffff", width: 0.006 } });
    const slot = itemAt(plan.slots, 1);
    expect(slot.border).toEqual({ colour: "#ffffff", width: 6 });
    const frame = Math.round((slot.transitionIn.endFrame + itemAt(plan.slots, 2).transitionIn.startFrame) / 2);
    const [scene] = planFrame(plan, frame).layers;
    const parts = scene?.kind === "scene" ? scene.parts : [];
    const [picture, lines] = parts;
    expect([picture?.kind, lines?.kind]).toEqual(["picture", "lines"]);
    if (picture?.kind !== "picture" || lines?.kind !== "lines") return;
    expect(inside(lines.rectangle, wholeFrame) && inside(lines.rectangle, picture.target)).toBe(true);
  });

  it("have their look as part of what is drawn, and the soft copy beside them its tone", () => {
    const look = { kind: "warm", strength: 0.5, levels: 0.5 } as const;
    const slot = itemAt(styled({ look }).slots, 1);
    expect(slot.look).toEqual(look);
    expect(slot.ground).toMatchObject({ image: { of: "fill", look: { ...look, levels: 0 } } });
    const none = itemAt(styled({ look: { kind: "none", strength: 1, levels: 0 } }).slots, 1);
    expect(none.look).toBeNull();
    expect(none.ground).toMatchObject({ image: { look: null } });
  });

  it("have upright neighbours beside them in a wide film, of their own passage only, the own one in the middle", () => {
    const fill = { kind: "neighbours" } as const;
    const plan = styled({ fill });
    const [, first, second, third] = plan.slots;
    expect(itemAt(plan.slots, 0).beside).toEqual([]);
    expect(present(first).beside.map(({ picture }) => picture)).toEqual([hash(3)]);
    expect(present(second).beside.map(({ picture }) => picture)).toEqual([hash(2), hash(2)]);
    expect(itemAt(present(second).beside, 0).cell.x).toBeLessThan(present(present(second).cell).x);
    expect(itemAt(present(second).beside, 1).cell.x).toBeGreaterThan(present(present(second).cell).x);
    expect(present(third).beside).toHaveLength(1);
    // One that has none stands beside its own soft copy.
    expect(itemAt(plan.slots, 5).beside).toEqual([]);
    expect(itemAt(plan.slots, 5).ground).toMatchObject({ image: { of: "fill" } });
    const divided = styled({ fill }, splitPassage(show, "s2", "Race"));
    expect(itemAt(divided.slots, 1).beside).toEqual([]);
    expect(itemAt(divided.slots, 2).beside).toHaveLength(1);
    for (const slot of [present(first), present(second), present(third)])
      for (const { cell, move } of [slot, ...slot.beside])
        for (const placed of [move.start, move.end])
          expect(
            coversFrame({ ...placed, x: placed.x - present(cell).x, y: placed.y - present(cell).y }, present(cell)),
          ).toBe(true);
  });

  it("stand together on one slide, each around its own subject, and come in on beats", () => {
    const gathered = gatherOnSlide(show, new Set(["s0", "s1", "s2", "s3"]));
    const plan = planOf(
      changeStyle(
        gathered,
        { kind: "slides", slideIds: new Set(["s0"]) },
        { move: { kind: "still", strength: 0, withMusic: false } },
      ),
    );
    const slot = itemAt(plan.slots, 0);
    expect(slot.beside.map(({ picture }) => picture)).toEqual([hash(2), hash(3), hash(2)]);
    const one = itemAt(slot.beside, 0);
    const part = seenPart(
      viewIn(one.move.start, { width: 2000, height: 3000 }, one.cell),
      { width: 2000, height: 3000 },
      one.cell,
    );
    expect(inside({ x: 0.7, y: 0.1, width: 0.2, height: 0.2 }, part)).toBe(true);
    const beats = plan.music.grid.beats.map(({ seconds }) => Math.round(seconds * 25));
    const entries = slot.beside.map(({ enters }) => present(enters).startFrame);
    for (const frame of entries) expect(beats).toContain(frame);
    expect(new Set(entries).size).toBe(3);
    expect([...entries].sort((a, b) => a - b)).toEqual(entries);
    expect(Math.max(...entries)).toBeLessThan(slot.startFrame + 0.6 * (slot.endFrame - slot.startFrame) + 1);
    const seen = (frame: number): number => {
      const [scene] = planFrame(plan, frame).layers;
      return scene?.kind === "scene" ? scene.parts.length : 0;
    };
    expect(seen(itemAt(entries, 0) - 1)).toBe(1);
    expect(seen(itemAt(entries, 2) + 20)).toBe(4);
    const together = changeSlides(gathered, new Set(["s0"]), {
      layout: { ...FIRST_LAYOUT, kind: "grid", gap: 0, onBeats: false },
    });
    expect(itemAt(planOf(together).slots, 0).beside.every(({ enters }) => enters === null)).toBe(true);
    // Upright, they stand one above the other.
    const upright = itemAt(filmInSize(gathered, planOf(gathered), facts, { width: 1080, height: 1920 }).slots, 0);
    expect(new Set([present(upright.cell).x, ...upright.beside.map(({ cell }) => cell.x)]).size).toBe(1);
  });

  it("fill an upright frame by themselves: one where no head is cut, else two, else beside a soft copy", () => {
    const group = (from: number, to: number): SeenMedia => ({
      width: 3000,
      height: 2000,
      subject: subjectOfHeads([from, to - 0.06].map((x) => ({ x, y: 0.3, width: 0.06, height: 0.12 }))),
    });
    const people: Readonly<Record<string, SeenMedia>> = {
      [hash(1)]: group(0.4, 0.6),
      [hash(2)]: group(0.25, 0.75),
      [hash(3)]: group(0.03, 0.97),
      [hash(4)]: { width: 2000, height: 3000, subject: null },
      [hash(5)]: { ...group(0.25, 0.75), durationSeconds: 9 },
      [hash(6)]: { width: 1620, height: 1080, subject: null },
    };
    const known = filmFacts(
      () => song,
      (sha256) => people[sha256],
    );
    const laidSlides = (kinds: readonly number[]): ShowDocument["slides"] =>
      kinds.map((kind, i) => newSlide({ id: `s${i}`, sha256: hash(kind), fileName: `${i}.jpg` }));
    const laid = (kinds: readonly number[], size = { width: 1080, height: 1920 }): FilmPlan =>
      planFilm({ ...show, size, slides: laidSlides(kinds) }, known);
    const roundOf = ({ slots }: FilmPlan): FilmPlan["slots"] => slots.filter(({ round }) => round === 0);
    const picturesOf = (kinds: readonly number[]): string[] =>
      roundOf(laid(kinds)).map(({ sha256, beside, ground }) =>
        [sha256, ...beside.map(({ picture }) => picture), ground && !beside.length ? "soft" : ""]
          .map((one) => one?.[0])
          .join(""),
      );
    // 4 is upright and 5 a clip: neither stands below another. 3 has heads at both edges.
    expect(picturesOf([1, 2, 1, 4])).toEqual(["1", "21", "1", "4"]);
    expect(picturesOf([2, 4])).toEqual(["2s", "4"]);
    expect(picturesOf([1, 2, 5])).toEqual(["1", "21", "52"]);
    // Of those that a short film has no room for, too, but for those that a person left out.
    const short = { ...show, size: { width: 1080, height: 1920 }, slides: laidSlides([2, 1, 4]) };
    const beside = (slides: ShowDocument["slides"]): number =>
      itemAt(
        filmInSize({ ...short, slides }, planFilm({ ...short, slides: slides.slice(0, 1) }, known), known, short.size)
          .slots,
        0,
      ).beside.length;
    expect(beside(short.slides)).toBe(1);
    expect(beside(short.slides.map((slide, i) => (i === 1 ? { ...slide, rating: "out" as const } : slide)))).toBe(0);
    expect(picturesOf([3, 2, 3])).toEqual(["3s", "2s", "3s"]);
    // 6 is too small to fill the frame alone, unless nothing fits below it.
    expect(picturesOf([1, 6, 1, 4])).toEqual(["1", "61", "1", "4"]);
    expect(picturesOf([6, 4])).toEqual(["6", "4"]);
    const stacked = itemAt(laid([1, 2, 1]).slots, 1);
    expect(present(stacked.cell).y).toBe(0);
    expect(itemAt(stacked.beside, 0).cell.y).toBeGreaterThan(900);
    const beats = steadySong(24).beats.map(({ seconds }) => Math.round(seconds * 25));
    expect(beats).toContain(present(itemAt(stacked.beside, 0).enters).startFrame);
    // A frame by hand stands alone.
    const byHand = setView({ ...show, slides: laidSlides([1, 2, 1]) }, "s1", "9:16", {
      start: { centre: { x: 0.5, y: 0.5 }, zoom: 0.6 },
      end: { centre: { x: 0.5, y: 0.5 }, zoom: 0.6 },
    });
    expect(itemAt(planFilm({ ...byHand, size: { width: 1080, height: 1920 } }, known).slots, 1).beside).toEqual([]);
    // A wide film is as it was: whole beside a soft copy, or covered where little is lost.
    expect(roundOf(laid([2, 4], { width: 1920, height: 1080 })).map(({ ground }) => ground !== null)).toEqual([
      false,
      true,
    ]);
  });

  it("have another fill where films of a shape have one: the slide's before the passage's before the show's", () => {
    const size = { width: 1080, height: 1080 };
    const square = (document: ShowDocument): string =>
      itemAt(filmInSize(document, planOf(document), facts, size).slots, 0).ground === null ? "covers" : "whole";
    const slide = { kind: "slides", slideIds: new Set(["s0"]) } as const;
    expect(square(show)).toBe("whole");
    const cropped = setShapeFill(show, { kind: "show" }, "1:1", { kind: "crop" });
    expect(square(cropped)).toBe("covers");
    expect(
      itemAt(filmInSize(cropped, planOf(cropped), facts, { width: 1080, height: 1350 }).slots, 2).ground,
    ).toBeNull();
    const whole = changeStyle(cropped, { kind: "passage", passageId: "p1" }, { fill: { kind: "blur" } });
    expect(square(whole)).toBe("whole");
    const again = setShapeFill(whole, slide, "1:1", { kind: "crop" });
    expect(square(again)).toBe("covers");
    expect(square(setShapeFill(again, slide, "1:1", null))).toBe("whole");
  });

  it("carry a graphic in the title-safe area, as large as was asked; one that has gone is left away", () => {
    const graphic = {
      kind: "own",
      sha256: hash(4),
      fileName: "lantern.png",
      place: "bottom-right",
      size: 0.2,
      opacity: 0.8,
    } as const;
    const found = present(itemAt(styled({ graphic }).slots, 0).graphic);
    expect(found).toMatchObject({ picture: hash(4), opacity: 0.8 });
    expect([found.target.width, found.target.height]).toEqual([216, 108]);
    const safe = safeArea({ width: 1920, height: 1080 }, "title");
    expect(found.target.x + found.target.width).toBeCloseTo(safe.x + safe.width, 6);
    expect(found.target.y + found.target.height).toBeCloseTo(safe.y + safe.height, 6);
    expect(itemAt(styled({ graphic: { ...graphic, sha256: hash(7) } }).slots, 0).graphic).toBeNull();
  });

  it("leave a card to its words: on its colour, on a picture, or on the soft copy of what comes next", () => {
    const card = newCard("card", [newWords("title", "Closing night")], "#204050", 5);
    const withCard = { ...show, slides: [card, ...show.slides] };
    const first = (fill: StyleWishes["fill"]) =>
      itemAt(planOf(changeStyle(withCard, { kind: "slides", slideIds: new Set(["card"]) }, { fill })).slots, 0);
    const plain = itemAt(planOf(withCard).slots, 0);
    expect(plain).toMatchObject({
      picture: null,
      sha256: null,
      name: "“Closing night”",
      ground: { colour: "#204050" },
    });
    expect(plain.words.sheet.map(({ text }) => text)).toEqual(["Closing night"]);
    expect(plain.endFrame - plain.startFrame).toBeGreaterThan(2.5 * 25);
    expect(first({ kind: "blur" }).ground).toMatchObject({ image: { picture: hash(1), of: "fill" } });
    expect(first({ kind: "picture", sha256: hash(2) }).ground).toMatchObject({
      image: { picture: hash(2), of: "picture" },
    });
    const alone = { ...show, slides: [{ ...card, style: { ...card.style, fill: { kind: "blur" } as const } }] };
    expect(itemAt(planOf(alone).slots, 0).ground).toEqual({ kind: "colour", colour: "#000000" });
  });
});
