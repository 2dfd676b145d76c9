import { mkdir, writeFile } from "node:fs/promises";
import path from "node:path";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { stripedJpeg, temporaryFolder } from "../testing/index.ts";
import { PICTURE_FILES } from "./picture-files.ts";
import { takeInPicture } from "./picture-intake.ts";

const [WIDTH, HEIGHT] = [120, 80];
/** As seen: red top left, green top right, blue bottom left, white bottom right. */
const seen = (row: number, column: number): readonly number[] =>
  row < HEIGHT / 2
    ? column < WIDTH / 2
      ? [220, 0, 0]
      : [0, 180, 0]
    : column < WIDTH / 2
      ? [0, 0, 220]
      : [250, 250, 250];

/**
 * The pixel as seen that is stored at (r, c), after the table of Exif 2.3, tag 274: "the 0th row is the visual right-hand side, the 0th column
 * the visual top" and so on.
 */
const STORED: Readonly<Record<number, (r: number, c: number) => readonly [row: number, column: number]>> = {
  1: (r, c) => [r, c],
  2: (r, c) => [r, WIDTH - 1 - c],
  3: (r, c) => [HEIGHT - 1 - r, WIDTH - 1 - c],
  4: (r, c) => [HEIGHT - 1 - r, c],
  5: (r, c) => [c, r],
  6: (r, c) => [c, WIDTH - 1 - r],
  7: (r, c) => [HEIGHT - 1 - c, WIDTH - 1 - r],
  8: (r, c) => [HEIGHT - 1 - c, r],
};

async function storedJpeg(orientation: number): Promise<Buffer> {
  const [width, height] = orientation >= 5 ? [HEIGHT, WIDTH] : [WIDTH, HEIGHT];
  const pixels = Buffer.alloc(width * height * 3);
  for (let r = 0; r < height; r++) {
    for (let c = 0; c < width; c++) pixels.set(seen(...STORED[orientation]!(r, c)), (r * width + c) * 3);
  }
  return sharp(pixels, { raw: { width, height, channels: 3 } })
    .withMetadata({ orientation })
    .jpeg({ quality: 95 })
    .toBuffer();
}

let place: Awaited<ReturnType<typeof temporaryFolder>>;
beforeAll(async () => {
  place = await temporaryFolder();
});
afterAll(() => place.remove());

async function intake(name: string, content: Buffer, mime = "image/jpeg") {
  const folder = path.join(place.folder, `derived ${name}`);
  await mkdir(folder, { recursive: true });
  const original = path.join(place.folder, name);
  await writeFile(original, content);
  return { folder, facts: await takeInPicture(original, mime, folder) };
}

describe("orientation", () => {
  it.each([1, 2, 3, 4, 5, 6, 7, 8])("%d is put right, and the size is the one seen", async (orientation) => {
    const { folder, facts } = await intake(`o${orientation}.jpg`, await storedJpeg(orientation));
    expect(facts).toMatchObject({ width: WIDTH, height: HEIGHT });
    for (const file of [PICTURE_FILES.working, PICTURE_FILES.thumbnail]) {
      const { data, info } = await sharp(path.join(folder, file)).raw().toBuffer({ resolveWithObject: true });
      expect([info.width, info.height]).toEqual([WIDTH, HEIGHT]);
      for (const [row, column] of [
        [20, 30],
        [20, 90],
        [60, 30],
        [60, 90],
      ] as const) {
        const at = (row * info.width + column) * info.channels;
        seen(row, column).forEach((value, c) => expect(Math.abs(data[at + c]! - value)).toBeLessThan(25));
      }
    }
  });
});

describe("what comes in", () => {
  it.each(["png", "webp", "avif", "tiff", "gif"] as const)("takes %s", async (format) => {
    const content = await sharp(await stripedJpeg(3))
      .toFormat(format)
      .toBuffer();
    const { facts } = await intake(`picture.${format}`, content);
    expect(facts).toMatchObject({ width: 480, height: 320, capturedAt: null });
  });

  it("reads the capture time as the camera wrote it", async () => {
    const content = await sharp(await stripedJpeg(4))
      .withExif({ IFD2: { DateTimeOriginal: "2031:06:21 19:04:11" } })
      .jpeg()
      .toBuffer();
    expect((await intake("dated.jpg", content)).facts.capturedAt).toBe("2031-06-21T19:04:11");
  });

  it("makes a working size of at most 2400 pixels from a large one", async () => {
    const large = await sharp({ create: { width: 5000, height: 2500, channels: 3, background: "#446" } })
      .jpeg()
      .toBuffer();
    const { folder, facts } = await intake("large.jpg", large);
    expect(facts).toMatchObject({ width: 5000, height: 2500 });
    expect(await sharp(path.join(folder, PICTURE_FILES.working)).metadata()).toMatchObject({
      width: 2400,
      height: 1200,
    });
  });

  it("refuses a JPEG that is cut short, and says so", async () => {
    const whole = await stripedJpeg(5, 1600, 1200);
    await expect(intake("short.jpg", whole.subarray(0, whole.length * 0.6))).rejects.toThrow(/damaged or cut short/);
  });

  it("refuses a declared size beyond all sense before decoding it", async () => {
    const png = await sharp({ create: { width: 8, height: 8, channels: 3, background: "#123" } })
      .png()
      .toBuffer();
    png.writeUInt32BE(60_000, 16);
    png.writeUInt32BE(60_000, 20);
    await expect(intake("bomb.png", png)).rejects.toThrow(/400 million pixels|damaged/);
  });
});
