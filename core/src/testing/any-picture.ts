import fc from "fast-check";
import type { Size, Subject } from "../picture/index.ts";

/** Sizes of pictures, from strips to squares to towers. */
export const anyPictureSize: fc.Arbitrary<Size> = fc.record({
  width: fc.integer({ min: 40, max: 8000 }),
  height: fc.integer({ min: 40, max: 8000 }),
});

/** The four shapes that films are made in. */
export const anyFrameSize: fc.Arbitrary<Size> = fc.constantFrom(
  { width: 1920, height: 1080 },
  { width: 1080, height: 1920 },
  { width: 1080, height: 1080 },
  { width: 1080, height: 1350 },
);

const share = (max: number): fc.Arbitrary<number> => fc.double({ min: 0, max, noNaN: true });

/** Regions of at most four fifths of a side, with their point inside. */
export const anySubject: fc.Arbitrary<Subject> = fc
  .record({ width: share(0.72), height: share(0.72), left: share(1), top: share(1), across: share(1), down: share(1) })
  .map(({ width, height, left, top, across, down }) => {
    const region = { width: width + 0.08, height: height + 0.08, x: 0, y: 0 };
    const placed = { ...region, x: left * (1 - region.width), y: top * (1 - region.height) };
    return {
      region: placed,
      point: { x: placed.x + across * placed.width, y: placed.y + down * placed.height },
    };
  });
