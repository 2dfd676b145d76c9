import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { MoveWish } from "../show/index.ts";
import { anyFrameSize, anyPictureSize, anySubject, propertyRuns } from "../testing/index.ts";
import {
  chosenDirection,
  coversFrame,
  FASTEST_MOVE,
  type MoveDirection,
  moveSpeed,
  type PlannedMove,
  placedAt,
  placedPicture,
  restView,
  ruledViews,
  showsRegion,
  viewOf,
} from "./index.ts";

const anyDirection = fc.constantFrom<MoveDirection>("in", "out", "left", "right", "up", "down");
const blur = { kind: "blur" } as const;

const anyMove = fc
  .record({
    picture: anyPictureSize,
    frame: anyFrameSize,
    subject: anySubject,
    direction: anyDirection,
    strength: fc.double({ min: 0, max: 1, noNaN: true }),
    seconds: fc.double({ min: 0.2, max: 60, noNaN: true }),
  })
  .map((request) => {
    const { picture, frame, subject } = request;
    const rest = restView(picture, frame, subject, blur);
    const views = ruledViews({ ...request, rest });
    const move: PlannedMove = {
      start: placedPicture(views.start, picture, frame),
      end: placedPicture(views.end, picture, frame),
      startFrame: 10,
      endFrame: 10 + Math.max(1, Math.round(request.seconds * 25)),
      eased: false,
    };
    return { ...request, rest, move };
  });

describe("moves by rule", () => {
  it("keep the whole subject in view, cover what the still picture covers, and stay slow", () => {
    fc.assert(
      fc.property(
        anyMove,
        fc.double({ min: 0, max: 1, noNaN: true }),
        ({ move, picture, frame, subject, rest }, at) => {
          const placed = placedAt(move, move.startFrame + at * (move.endFrame - move.startFrame));
          expect(showsRegion(viewOf(placed, picture, frame), subject.region, picture, frame)).toBe(true);
          if (coversFrame(placedPicture(rest, picture, frame), frame)) expect(coversFrame(placed, frame)).toBe(true);
          expect(moveSpeed(move, frame, 25)).toBeLessThan(FASTEST_MOVE);
        },
      ),
      { numRuns: propertyRuns },
    );
  });

  it("take even steps from frame to frame, within a thousandth of a pixel", () => {
    fc.assert(
      fc.property(anyMove, fc.double({ min: 0, max: 1, noNaN: true }), ({ move }, u) => {
        const edge = (frame: number): number => {
          const { x, width } = placedAt(move, frame);
          return x + u * width;
        };
        const first = edge(move.startFrame + 1) - edge(move.startFrame);
        for (let frame = move.startFrame; frame < move.endFrame; frame += 7) {
          expect(Math.abs(edge(frame + 1) - edge(frame) - first)).toBeLessThan(1e-3);
        }
        expect(placedAt(move, move.startFrame - 5)).toEqual(move.start);
        expect(edge(move.endFrame + 5)).toBeCloseTo(move.end.x + u * move.end.width, 6);
      }),
      { numRuns: propertyRuns },
    );
  });

  it("move a photograph by what its strength says: nearly four times as far at full strength, and no farther than a limit", () => {
    const picture = { width: 3000, height: 2000 };
    const frame = { width: 1920, height: 1080 };
    const rest = restView(picture, frame, null, blur);
    const zoom = (strength: number, seconds: number): number =>
      ruledViews({ picture, frame, rest, subject: null, direction: "in", strength, seconds }).end.zoom;
    expect((zoom(1, 3) - 1) / (zoom(0, 3) - 1)).toBeCloseTo(4, 1);
    expect(zoom(0.5, 2)).toBeGreaterThan(1.03);
    expect(zoom(1, 600)).toBeCloseTo(1.22, 9);
  });
});

describe("the choice of moves", () => {
  const wish: MoveWish = { kind: "rule", strength: 0.5, withMusic: false };

  it("never moves neighbours alike, is the same every day, and another with another seed", () => {
    fc.assert(
      fc.property(
        fc.array(anyPictureSize, { minLength: 2, maxLength: 60 }),
        anyFrameSize,
        fc.integer({ min: 0, max: 0xffff_ffff }),
        (pictures, frame, seed) => {
          const chosen = (): (MoveDirection | null)[] => {
            let before: MoveDirection | null = null;
            return pictures.map((picture, i) => {
              const rest = restView(picture, frame, null, blur);
              before = chosenDirection(wish, seed, `slide ${i}`, before, rest, picture, frame);
              return before;
            });
          };
          const first = chosen();
          expect(chosen()).toEqual(first);
          for (const [i, direction] of first.entries()) expect(direction).not.toBe(first[i - 1]);
        },
      ),
      { numRuns: 200 },
    );
    const frame = { width: 1920, height: 1080 };
    const picture = { width: 3000, height: 2000 };
    const rest = restView(picture, frame, null, blur);
    const of = (seed: number): string =>
      Array.from({ length: 40 }, (_, i) =>
        chosenDirection(wish, seed, `slide ${i}`, null, rest, picture, frame),
      ).join();
    expect(of(1)).not.toBe(of(2));
    for (const direction of ["in", "out", "up", "down"]) expect(of(1)).toContain(direction);
  });

  it("is what a person chose, and none where pictures stand still", () => {
    const picture = { width: 3000, height: 2000 };
    const frame = { width: 1920, height: 1080 };
    const rest = restView(picture, frame, null, blur);
    expect(chosenDirection({ ...wish, kind: "left" }, 1, "a", "left", rest, picture, frame)).toBe("left");
    expect(chosenDirection({ ...wish, kind: "still" }, 1, "a", null, rest, picture, frame)).toBeNull();
  });
});
