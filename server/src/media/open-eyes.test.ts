import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { Cascade, type CascadeFile } from "@humming-tide/core/photo-analysis";
import type { FoundFace } from "@humming-tide/core/picture";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { withOpenEyes } from "./open-eyes.ts";

const DRAWN = new URL("../testing/fixtures/drawn-eye.png", import.meta.url);

/** A drawn eye, and the same with a lid drawn over it, twice side by side as in a face. */
async function drawnFace(isOpen: boolean): Promise<{ width: number; height: number; pixels: Uint8Array }> {
  const eye = await sharp(await readFile(DRAWN))
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const [width, height] = [eye.info.width, eye.info.height];
  const pixels = new Uint8Array(3 * 2 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < 2 * width; x++) {
      const isLid = !isOpen && ((x % width) - width / 2) ** 2 / 13 ** 2 + (y - height / 2) ** 2 / 8 ** 2 < 1;
      const isLash = isLid && y === Math.round(height / 2 + 4);
      const level = isLid ? (isLash ? 60 : 140) : eye.data[(y * width + (x % width)) * eye.info.channels];
      pixels.fill(level ?? 0, 3 * (y * 2 * width + x), 3 * (y * 2 * width + x) + 3);
    }
  return { width: 2 * width, height, pixels };
}

const face = (turn: 0 | 90): FoundFace => ({
  box: { x: 0, y: 0, width: 1, height: 1 },
  confidence: 1,
  turn,
  eyes: [
    { x: 0.25, y: 0.5 },
    { x: 0.75, y: 0.5 },
  ],
});

describe("open eyes", () => {
  it("are found in the windows in which another program finds them with the same cascade", async () => {
    // A picture drawn by a program, and what OpenCV 4.6 finds in it at one scale: it looks at every
    // second pixel.
    const windows = [
      [12, 6],
      [10, 8],
      [12, 8],
      [10, 10],
      [12, 10],
      [14, 10],
    ];
    const { data, info } = await sharp(await readFile(DRAWN))
      .greyscale()
      .extractChannel(0)
      .raw()
      .toBuffer({ resolveWithObject: true });
    const file = createRequire(import.meta.url).resolve("@humming-tide/core/eye-cascade.json");
    const cascade = new Cascade(JSON.parse(await readFile(file, "utf8")) as CascadeFile);
    const found = cascade.passingWindows({ width: info.width, height: info.height, pixels: data });
    expect(found.filter(([x, y]) => x % 2 === 0 && y % 2 === 0)).toEqual(windows);
  });

  it("are told from closed ones; not where they are small, turned or not known", async () => {
    const seem = async (isOpen: boolean, of: FoundFace): Promise<boolean | undefined> =>
      withOpenEyes([of], await drawnFace(isOpen))[0]?.eyesOpen;
    expect(await seem(true, face(0))).toBe(true);
    expect(await seem(false, face(0))).toBe(false);
    expect(await seem(true, face(90))).toBeUndefined();
    expect(await seem(true, { ...face(0), eyes: undefined })).toBeUndefined();
    // Less than 16 pixels of 88 between them, and more.
    const told = [0.18, 0.19].map(async (distance) => {
      const eyes = [
        { x: 0.5, y: 0.5 },
        { x: 0.5 + distance, y: 0.5 },
      ] as const;
      return (await seem(true, { ...face(0), eyes })) !== undefined;
    });
    expect(await Promise.all(told)).toEqual([false, true]);
    const five = withOpenEyes(Array<FoundFace>(5).fill(face(0)), await drawnFace(true));
    expect(five.map(({ eyesOpen }) => eyesOpen)).toEqual([true, true, true, true, undefined]);
  });
});
