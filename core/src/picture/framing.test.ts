import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { anyFrameSize, anyPictureSize, anySubject, propertyRuns } from "../testing/index.ts";
import {
  coversFrame,
  LARGEST_CROP,
  LARGEST_KNOWN_CROP,
  placedPicture,
  restView,
  seenPart,
  shapeOf,
  showsRegion,
  viewOf,
} from "./index.ts";

const HD = { width: 1920, height: 1080 };
const blur = { kind: "blur" } as const;

describe("framing by rule", () => {
  it("keeps the picture's shape, never shows less than it may crop to, and leaves no bars where it covers", () => {
    fc.assert(
      fc.property(anyPictureSize, anyFrameSize, fc.option(anySubject), (picture, frame, subject) => {
        const view = restView(picture, frame, subject, blur);
        const placed = placedPicture(view, picture, frame);
        expect(placed.width / placed.height).toBeCloseTo(picture.width / picture.height, 6);
        const part = seenPart(view, picture, frame);
        const most = subject ? LARGEST_KNOWN_CROP : LARGEST_CROP;
        expect(Math.min(part.width, part.height)).toBeGreaterThanOrEqual(1 - most - 1e-9);
        if (coversFrame(placed, frame)) return;
        // Shown whole, in the middle, touching the frame on two sides.
        expect(Math.max(placed.width / frame.width, placed.height / frame.height)).toBeCloseTo(1, 9);
        expect(placed.x + placed.width / 2).toBeCloseTo(frame.width / 2, 6);
        expect(placed.y + placed.height / 2).toBeCloseTo(frame.height / 2, 6);
      }),
      { numRuns: propertyRuns },
    );
  });

  it("never crops away a subject in any shape of film", () => {
    fc.assert(
      fc.property(anyPictureSize, anyFrameSize, anySubject, (picture, frame, subject) => {
        expect(showsRegion(restView(picture, frame, subject, blur), subject.region, picture, frame)).toBe(true);
      }),
      { numRuns: propertyRuns },
    );
  });

  it("covers the frame whatever is lost where cropping is asked for, with the subject's point in sight", () => {
    fc.assert(
      fc.property(anyPictureSize, anyFrameSize, anySubject, (picture, frame, subject) => {
        const view = restView(picture, frame, subject, { kind: "crop" });
        expect(coversFrame(placedPicture(view, picture, frame), frame)).toBe(true);
        const { region } = subject;
        const middle = { x: region.x + region.width / 2, y: region.y + region.height / 2, width: 0, height: 0 };
        expect(showsRegion(view, middle, picture, frame)).toBe(true);
      }),
      { numRuns: propertyRuns },
    );
  });

  it("covers 16:9 with a 3:2 photograph, with 4:3 only where the subject is known and kept, and shows portraits whole", () => {
    const covers = (width: number, height: number, subject: Parameters<typeof restView>[2]): boolean =>
      coversFrame(placedPicture(restView({ width, height }, HD, subject, blur), { width, height }, HD), HD);
    const face = { point: { x: 0.5, y: 0.3 }, region: { x: 0.4, y: 0.2, width: 0.2, height: 0.3 } };
    const tall = { point: { x: 0.5, y: 0.5 }, region: { x: 0.4, y: 0.1, width: 0.2, height: 0.8 } };
    expect(covers(3000, 2000, null)).toBe(true);
    expect(covers(4000, 3000, null)).toBe(false);
    expect(covers(4000, 3000, face)).toBe(true);
    expect(covers(4000, 3000, tall)).toBe(false);
    expect(covers(2000, 3000, face)).toBe(false);
    expect(
      placedPicture(restView({ width: 2000, height: 3000 }, HD, face, blur), { width: 2000, height: 3000 }, HD),
    ).toEqual({
      x: 600,
      y: 0,
      width: 720,
      height: 1080,
    });
  });

  it("reads a view back from where it places a picture", () => {
    fc.assert(
      fc.property(anyPictureSize, anyFrameSize, fc.option(anySubject), (picture, frame, subject) => {
        const view = restView(picture, frame, subject, blur);
        const read = viewOf(placedPicture(view, picture, frame), picture, frame);
        expect(read.zoom).toBeCloseTo(view.zoom, 9);
        expect(read.centre.x).toBeCloseTo(view.centre.x, 9);
        expect(read.centre.y).toBeCloseTo(view.centre.y, 9);
      }),
    );
  });

  it("names shapes in lowest terms", () => {
    expect([HD, { width: 1080, height: 1350 }, { width: 640, height: 640 }].map(shapeOf)).toEqual([
      "16:9",
      "4:5",
      "1:1",
    ]);
  });
});
