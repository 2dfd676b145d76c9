import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, present } from "../presence/index.ts";
import { type DrawnTransition, VARIED_KINDS, WIPE_DIRECTIONS } from "../show/index.ts";
import {
  NO_WORDS,
  type PicturePart,
  type PictureSlot,
  type PictureTrack,
  type PlannedTransition,
  planFrame,
  repeatsFrame,
  type SceneLayer,
} from "./index.ts";

const SIZE = { width: 160, height: 90 };
const FULL = { x: 0, y: 0, ...SIZE };
const NARROW = { x: 57.5, y: 0, width: 45, height: 90 };
const still = (at: typeof FULL): PictureSlot["move"] => ({
  start: at,
  end: at,
  startFrame: 0,
  endFrame: 0,
  eased: false,
});
const PLAIN = { look: null, cell: null, beside: [], border: null, overlay: null, graphic: null } as const;
const cut = { kind: "cut", startFrame: 0, endFrame: 0 } as const;

function track(transitionIn: PlannedTransition, more: Partial<PictureSlot> = {}): PictureTrack {
  return {
    size: SIZE,
    watermark: null,
    loopBack: null,
    fadeOut: { startFrame: 190, endFrame: 200 },
    slots: [
      {
        picture: "a",
        clip: null,
        startFrame: 0,
        endFrame: 100,
        transitionIn: cut,
        move: still(FULL),
        ground: null,
        subject: { x: 0.5, y: 0.5 },
        words: NO_WORDS,
        ...PLAIN,
      },
      {
        picture: "b",
        clip: null,
        startFrame: 100,
        endFrame: 200,
        transitionIn,
        move: still(NARROW),
        ground: { kind: "colour", colour: "#102030" },
        subject: { x: 0.5, y: 0.5 },
        words: NO_WORDS,
        ...PLAIN,
        ...more,
      },
    ],
  };
}

const dissolve: PlannedTransition = { kind: "dissolve", startFrame: 95, endFrame: 106 };
/** The scenes of a frame, with what their pictures say. */
const pictures = (
  film: PictureTrack,
  frame: number,
): (SceneLayer & Pick<PicturePart, "target"> & { picture: string })[] =>
  planFrame(film, frame).layers.flatMap((layer) => {
    const picture = layer.kind === "scene" ? layer.parts.find((part) => part.kind === "picture") : undefined;
    return layer.kind === "scene" && picture
      ? [{ ...layer, target: picture.target, picture: picture.image.picture }]
      : [];
  });

describe("planned frames", () => {
  it("show one picture between transitions and two within, the new one on top", () => {
    const seen = (frame: number) => pictures(track(dissolve), frame).map(({ picture, alpha }) => [picture, alpha]);
    expect(seen(94)).toEqual([["a", 1]]);
    expect(seen(95)).toEqual([
      ["a", 1],
      ["b", 1 / 12],
    ]);
    expect(seen(100)).toEqual([
      ["a", 1],
      ["b", 0.5],
    ]);
    expect(seen(105)).toEqual([
      ["a", 1],
      ["b", 11 / 12],
    ]);
    expect(seen(106)).toEqual([["b", 1]]);
    expect(seen(5000)).toEqual([["b", 1]]);
  });

  it("have ground only where the picture leaves some of the frame free", () => {
    expect(itemAt(pictures(track(dissolve), 20), 0).ground).toBeNull();
    expect(pictures(track(dissolve), 150)[0]).toMatchObject({ ground: { colour: "#102030" }, target: NARROW });
  });

  it("sink to black over the last frames", () => {
    const darkness = (frame: number): number => planFrame(track(dissolve), frame).veils[0]?.alpha ?? 0;
    expect(darkness(189)).toBe(0);
    expect(darkness(190)).toBeCloseTo(0.1, 9);
    expect(darkness(199)).toBe(1);
  });

  it("repeat the frame before exactly where their plan is the same", () => {
    const moving = { start: NARROW, end: FULL, startFrame: 120, endFrame: 150, eased: true };
    for (const film of [
      track(dissolve),
      track(dissolve, { move: moving }),
      track({ ...cut, startFrame: 100, endFrame: 100 }),
    ]) {
      for (let frame = 1; frame < 200; frame++) {
        const isSame = JSON.stringify(planFrame(film, frame)) === JSON.stringify(planFrame(film, frame - 1));
        // Saying that a frame is new although it is not costs a drawing; the other way round would
        // lose one.
        if (repeatsFrame(film, frame)) expect(isSame, `frame ${frame}`).toBe(true);
        else expect([100, 106, 121, 151].includes(frame) || !isSame, `frame ${frame}`).toBe(true);
      }
    }
  });
});

/** Area of a convex polygon, by the shoelace formula. */
const area = (polygon: readonly { x: number; y: number }[]): number =>
  Math.abs(
    polygon.reduce((sum, p, i) => {
      const next = itemAt(polygon, (i + 1) % polygon.length);
      return sum + p.x * next.y - next.x * p.y;
    }, 0) / 2,
  );

const styles: Record<DrawnTransition["kind"], PlannedTransition[]> = Object.fromEntries(
  VARIED_KINDS.map((kind) => {
    const frames = { startFrame: 95, endFrame: 106 };
    const directions =
      kind === "page-turn" ? ["left", "right"] : kind === "push" ? WIPE_DIRECTIONS.slice(0, 4) : WIPE_DIRECTIONS;
    return [
      kind,
      directions.map(
        (direction) =>
          ({ kind, direction, softness: 0.1, colour: "#203040", ...frames }) as unknown as PlannedTransition,
      ),
    ];
  }),
) as never;

/** Share of the frame that a mask lets through, by counting pixels. */
function letThrough({ mask }: SceneLayer): number {
  let sum = 0;
  for (let y = 0.5; y < SIZE.height; y++) {
    for (let x = 0.5; x < SIZE.width; x++) {
      if (mask?.kind === "linear") {
        const [dx, dy] = [mask.to.x - mask.from.x, mask.to.y - mask.from.y];
        const along = ((x - mask.from.x) * dx + (y - mask.from.y) * dy) / (dx * dx + dy * dy);
        sum += 1 - Math.max(0, Math.min(1, along));
      } else if (mask) {
        const from = Math.hypot(x - mask.centre.x, y - mask.centre.y);
        sum += 1 - Math.max(0, Math.min(1, (from - mask.inner) / (mask.outer - mask.inner)));
      }
    }
  }
  return sum / (SIZE.width * SIZE.height);
}

describe("every kind of transition", () => {
  it("begins near the old picture and ends near the new one, with at most two pictures in between", () => {
    for (const transition of Object.values(styles).flat()) {
      for (let frame = 95; frame < 106; frame++) {
        const names = pictures(track(transition), frame).map(({ picture }) => picture);
        expect(new Set(names).size).toBeLessThanOrEqual(2);
        expect(names.length).toBeGreaterThan(0);
      }
      expect(pictures(track(transition), 94).map(({ picture }) => picture)).toEqual(["a"]);
      expect(pictures(track(transition), 106).map(({ picture }) => picture)).toEqual(["b"]);
    }
  });

  it.each(["wipe", "gradient"] as const)(
    "%s lets half of the new picture through in its middle, from every side",
    (kind) => {
      for (const transition of styles[kind]) {
        expect(letThrough(itemAt(pictures(track(transition), 100), 1))).toBeCloseTo(0.5, 2);
        const shares = Array.from({ length: 11 }, (_, i) => letThrough(itemAt(pictures(track(transition), 95 + i), 1)));
        for (const [i, share] of shares.slice(1).entries()) expect(share).toBeGreaterThan(itemAt(shares, i));
      }
    },
  );

  it("iris opens around the subject and holds the whole frame at last", () => {
    const opening = itemAt(styles.iris, 0);
    const subject = { x: 0.2, y: 0.9 };
    const shares = Array.from({ length: 11 }, (_, i) =>
      letThrough(itemAt(pictures(track(opening, { subject }), 95 + i), 1)),
    );
    for (const [i, share] of shares.slice(1).entries()) expect(share).toBeGreaterThanOrEqual(itemAt(shares, i));
    expect(shares[0]).toBeLessThan(0.1);
    expect(shares.at(-1)).toBeGreaterThan(0.9);
    const { mask } = itemAt(pictures(track(opening, { subject }), 97), 1);
    expect(mask).toMatchObject({ centre: { x: NARROW.x + 0.2 * 45, y: 81 } });
  });

  it("push and page turn tile the frame: no gap, and nothing twice", () => {
    for (const transition of styles.push) {
      for (let frame = 95; frame < 106; frame++) {
        const seen = pictures(track(transition), frame).map(({ bounds }) => present(bounds));
        const inFrame = seen.map((polygon) =>
          polygon.map(({ x, y }) => ({ x: Math.max(0, Math.min(160, x)), y: Math.max(0, Math.min(90, y)) })),
        );
        expect(inFrame.reduce((sum, polygon) => sum + area(polygon), 0)).toBeCloseTo(160 * 90, 6);
      }
    }
    for (const transition of styles["page-turn"]) {
      const flat = (frame: number): number => {
        const sheet = pictures(track(transition), frame).find(({ picture }) => picture === "a");
        return sheet ? area(present(sheet.bounds)) : 0;
      };
      expect(flat(100)).toBeCloseTo(80 * 90, 6);
      for (let frame = 96; frame < 106; frame++) expect(flat(frame)).toBeLessThan(flat(frame - 1));
    }
  });

  it("dip reaches its colour in the middle, a flash is brightest there, and both change pictures under it", () => {
    const veil = (kind: "dip" | "light-flash", frame: number) =>
      itemAt(planFrame(track(itemAt(styles[kind], 0)), frame).veils, 0);
    expect(veil("dip", 100)).toEqual({ colour: "#203040", alpha: 1 });
    // White over all is for the brightest frame; beside it the light is the picture's own.
    expect(veil("light-flash", 100).alpha).toBeGreaterThan(0.7);
    expect(veil("light-flash", 97).alpha).toBeLessThan(0.1);
    const light = (frame: number): number => {
      const [layer] = planFrame(track(itemAt(styles["light-flash"], 0)), frame).layers;
      return layer?.kind === "scene" ? (layer.exposure ?? 1) : 0;
    };
    expect([95, 96, 97, 98, 99, 100].map(light)).toEqual(
      [95, 96, 97, 98, 99, 100].map(light).toSorted((a, b) => a - b),
    );
    expect(light(100)).toBeGreaterThan(5);
    for (const kind of ["dip", "light-flash"] as const) {
      const names = Array.from(
        { length: 11 },
        (_, i) => itemAt(pictures(track(itemAt(styles[kind], 0)), 95 + i), 0).picture,
      );
      expect(names.join("")).toBe("aaaaabbbbbb");
    }
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5 }), (beside) => {
        expect(veil("light-flash", 100 - beside).alpha).toBeCloseTo(veil("light-flash", 100 + beside).alpha, 9);
      }),
    );
  });
});
