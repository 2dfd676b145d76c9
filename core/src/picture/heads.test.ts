import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt, present } from "../presence/index.ts";
import type { Turn } from "../show/index.ts";
import { placedPicture, restView } from "./framing.ts";
import type { Rectangle, Size } from "./geometry.ts";
import { type FoundFace, headAround, importantHeads, subjectOfHeads } from "./heads.ts";
import { type MoveDirection, ruledViews } from "./moves.ts";
import { turnBack, turnBox } from "./subject.ts";

const face = (x: number, y: number, height: number, turn: Turn = 0): FoundFace => ({
  box: { x, y, width: 0.75 * height, height },
  confidence: 1,
  turn,
});
const anyFace = fc
  .record({
    x: fc.double({ min: 0, max: 0.9, noNaN: true }),
    y: fc.double({ min: 0, max: 0.9, noNaN: true }),
    height: fc.double({ min: 0.03, max: 0.4, noNaN: true }),
  })
  .map(({ x, y, height }) => face(x, y, height));
const anySize = fc.record({ width: fc.integer({ min: 600, max: 4000 }), height: fc.integer({ min: 600, max: 4000 }) });
const anyDirection = fc.constantFrom<MoveDirection>("in", "out", "left", "right", "up", "down");

/** By the pixels of the frame, without the code that frames. A thousandth is forgiven. */
function isWhole(head: Rectangle, placed: Rectangle, frame: Size): boolean {
  const [left, top] = [placed.x + head.x * placed.width, placed.y + head.y * placed.height];
  const [right, bottom] = [left + head.width * placed.width, top + head.height * placed.height];
  const [across, down] = [0.0011 * placed.width, 0.0011 * placed.height];
  return left >= -across && top >= -down && right <= frame.width + across && bottom <= frame.height + down;
}

describe("heads", () => {
  it("reach beyond their faces, most of all above, and no farther than the picture", () => {
    const head = headAround(face(0.4, 0.4, 0.2));
    const [above, below] = [0.4 - head.y, head.y + head.height - 0.6];
    expect(above).toBeGreaterThan(3 * below);
    expect(below).toBeGreaterThan(0);
    expect(headAround(face(0.02, 0.01, 0.2))).toMatchObject({ x: 0, y: 0 });
  });

  it("have their hair on the side that is up in the face", () => {
    const upright = headAround(face(0.4, 0.4, 0.2));
    for (const turn of [90, 180, 270] as const) {
      // The picture as it lies before it is turned upright.
      const lying = { ...face(0, 0, 1), box: turnBox(face(0.4, 0.4, 0.2).box, turnBack(turn)), turn };
      const head = turnBox(headAround(lying), turn);
      for (const key of ["x", "y", "width", "height"] as const) expect(head[key]).toBeCloseTo(upright[key], 9);
    }
  });

  it("of the background do not count", () => {
    const heads = importantHeads([face(0.1, 0.5, 0.1), face(0.4, 0.3, 0.3), face(0.8, 0.5, 0.13)], 1);
    expect(heads).toHaveLength(2);
    expect(itemAt(heads, 0).height).toBeGreaterThan(itemAt(heads, 1).height);
    expect(subjectOfHeads([])).toBeNull();
  });

  it("are all in the region that must stay in view, and the point lies among them", () => {
    fc.assert(
      fc.property(fc.array(anyFace, { minLength: 1, maxLength: 12 }), (faces) => {
        const heads = importantHeads(faces, 1.5);
        const { region, point } = present(subjectOfHeads(heads));
        for (const head of heads) {
          expect(head.x).toBeGreaterThanOrEqual(region.x - 1e-9);
          expect(head.y).toBeGreaterThanOrEqual(region.y - 1e-9);
          expect(head.x + head.width).toBeLessThanOrEqual(region.x + region.width + 1e-9);
          expect(head.y + head.height).toBeLessThanOrEqual(region.y + region.height + 1e-9);
        }
        expect(point.x).toBeGreaterThanOrEqual(region.x - 1e-9);
        expect(point.x).toBeLessThanOrEqual(region.x + region.width + 1e-9);
      }),
    );
  });

  it("lie within the picture, wherever a finder sees faces, and their subject can be kept", () => {
    const far = fc.double({ min: -2, max: 3, noNaN: true });
    const anywhere = fc.record({ x: far, y: far, turn: fc.constantFrom<Turn>(0, 90, 180, 270) });
    fc.assert(
      fc.property(fc.array(anywhere, { minLength: 1, maxLength: 8 }), (places) => {
        const heads = importantHeads(
          places.map(({ x, y, turn }) => face(x, y, 0.3, turn)),
          1.5,
        );
        const subject = subjectOfHeads(heads);
        for (const { x, y, width, height } of [...heads, ...(subject ? [subject.region] : [])])
          for (const share of [x, y, width, height]) {
            expect(share).toBeGreaterThanOrEqual(0);
            expect(share).toBeLessThanOrEqual(1);
          }
        // As the facts of a file hold it: a number that is none would be lost on the way.
        if (subject) expect(JSON.parse(JSON.stringify(subject.point))).toEqual(subject.point);
      }),
    );
  });

  it("are whole in every frame and move by rule, cropped or not, whatever the shapes", () => {
    fc.assert(
      fc.property(
        fc.array(anyFace, { minLength: 1, maxLength: 6 }),
        anySize,
        anySize,
        anyDirection,
        fc.constantFrom({ kind: "crop" } as const, { kind: "blur" } as const),
        (faces, picture, frame, direction, fill) => {
          const heads = importantHeads(faces, picture.width / picture.height);
          const subject = present(subjectOfHeads(heads));
          const rest = restView(picture, frame, subject, fill);
          const { start, end } = ruledViews({ picture, frame, rest, subject, direction, strength: 1, seconds: 6 });
          for (const view of [rest, start, end])
            for (const head of heads) expect(isWhole(head, placedPicture(view, picture, frame), frame)).toBe(true);
        },
      ),
      { numRuns: 2000 },
    );
  });

  it("leave a cropped picture as large as they allow", () => {
    // Two heads at the ends of a wide picture, in an upright frame.
    const heads = importantHeads([face(0.1, 0.4, 0.2), face(0.75, 0.4, 0.2)], 1.5);
    const subject = present(subjectOfHeads(heads));
    const view = restView({ width: 3000, height: 2000 }, { width: 1080, height: 1920 }, subject, { kind: "crop" });
    const placed = placedPicture(view, { width: 3000, height: 2000 }, { width: 1080, height: 1920 });
    expect(placed.width * subject.region.width).toBeCloseTo(1080, 3);
    expect(placed.height).toBeLessThan(1920);
    // One head fits, and the frame is full.
    const one = present(subjectOfHeads(heads.slice(0, 1)));
    expect(restView({ width: 3000, height: 2000 }, { width: 1080, height: 1920 }, one, { kind: "crop" }).zoom).toBe(1);
  });
});
