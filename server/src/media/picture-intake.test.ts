import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { likeness, slopesOf } from "@humming-tide/core/gather";
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

  it("reads the camera's name once, and fractions of a second", async () => {
    const content = await sharp(await stripedJpeg(6))
      .withExif({
        IFD0: { Make: "Lanternworks", Model: "LANTERNWORKS Quay One" },
        IFD2: { DateTimeOriginal: "2031:06:21 19:04:11", SubSecTimeOriginal: "25" },
      })
      .jpeg()
      .toBuffer();
    const { facts } = await intake("named.jpg", content);
    expect(facts).toMatchObject({ camera: "LANTERNWORKS Quay One", capturedAt: "2031-06-21T19:04:11.250" });
  });

  it("takes HEIC as phones write it, with its time and camera", async () => {
    // Made by a program outside the project (heif-enc 1.15): red, green, blue, white.
    const content = await readFile(new URL("../testing/fixtures/four-colours.heic", import.meta.url));
    const { folder, facts } = await intake("phone.heic", content, "image/heic");
    expect(facts).toMatchObject({
      width: 240,
      height: 160,
      capturedAt: "2031-06-21T19:04:11",
      camera: "Harbour Pocket 3",
    });
    const { data, info } = await sharp(path.join(folder, PICTURE_FILES.working))
      .raw()
      .toBuffer({ resolveWithObject: true });
    const colours = [
      [60, 40],
      [180, 40],
      [60, 120],
      [180, 120],
    ].map(([x, y]) => [...data.subarray((y! * info.width + x!) * 3, (y! * info.width + x!) * 3 + 3)]);
    const painted = [
      [210, 20, 20],
      [20, 170, 30],
      [20, 30, 210],
      [245, 245, 245],
    ];
    for (const [i, colour] of colours.entries()) {
      for (const [c, value] of colour.entries()) expect(Math.abs(value - painted[i]![c]!)).toBeLessThan(25);
    }
    await expect(intake("half.heic", content.subarray(0, 700), "image/heic")).rejects.toThrow(
      /damaged|cannot be decoded/,
    );
  });

  it("says that a file moves, and takes its first picture", async () => {
    const frames = await Promise.all([1, 2, 3].map((i) => stripedJpeg(i, 64, 48)));
    const gif = await sharp(frames, { join: { animated: true } })
      .gif({ delay: [100, 100, 100] })
      .toBuffer();
    const { facts } = await intake("moves.gif", gif, "image/gif");
    expect(facts).toMatchObject({ width: 64, height: 48, remark: expect.stringMatching(/3 pictures/) as string });
  });

  it("finds likeness in a smaller, darker copy and none in another picture, and blur in a soft one", async () => {
    const picture = await stripedJpeg(35, 1200, 800);
    const copy = await sharp(picture).resize(700).modulate({ brightness: 0.8 }).jpeg({ quality: 60 }).toBuffer();
    const soft = await sharp(picture).blur(12).jpeg().toBuffer();
    const [one, two, three, other] = await Promise.all([
      intake("one.jpg", picture),
      intake("copy.jpg", copy),
      intake("soft.jpg", soft),
      intake("other.jpg", await stripedJpeg(12, 1200, 800)),
    ]);
    const to = (facts: { fingerprint: string }) =>
      likeness(slopesOf(one.facts.fingerprint), slopesOf(facts.fingerprint));
    expect(to(two.facts)).toBeGreaterThan(0.97);
    expect(to(other.facts)).toBeLessThan(0.5);
    expect(three.facts.blur).toBeGreaterThan(one.facts.blur + 0.2);
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
