import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { likeness, slopesOf } from "@humming-tide/core/photo-analysis";
import { itemAt, present } from "@humming-tide/core/presence";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { stripedJpeg, temporaryFolder } from "../testing/index.ts";
import { identify } from "./identify.ts";
import { PICTURE_FILES } from "./picture-files.ts";
import { takeInPicture } from "./picture-intake.ts";
import { isRaw } from "./raw-preview.ts";

/** The check sum of PNG chunks (ISO 3309), bit by bit. */
function crc32(bytes: Uint8Array): number {
  let sum = 0xffff_ffff;
  for (const byte of bytes) {
    sum ^= byte;
    for (let bit = 0; bit < 8; bit++) sum = (sum >>> 1) ^ (0xedb8_8320 & -(sum & 1));
  }
  return ~sum >>> 0;
}

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
 * The pixel as seen that is stored at (r, c), after the table of Exif 2.3, tag 274: "the 0th row is
 * the visual right-hand side, the 0th column the visual top" and so on.
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
    for (let c = 0; c < width; c++) pixels.set(seen(...present(STORED[orientation])(r, c)), (r * width + c) * 3);
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
        seen(row, column).forEach((value, c) => expect(Math.abs(itemAt(data, at + c) - value)).toBeLessThan(25));
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
        IFD2: {
          ...{ DateTimeOriginal: "2031:06:21 19:04:11", SubSecTimeOriginal: "25", OffsetTimeOriginal: "+02:00" },
        },
      })
      .jpeg()
      .toBuffer();
    const { facts } = await intake("named.jpg", content);
    expect(facts).toMatchObject({
      ...{ camera: "LANTERNWORKS Quay One", capturedAt: "2031-06-21T19:04:11.250", zoneMinutes: 120 },
    });
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
    ].map(([x, y]) => [
      ...data.subarray((present(y) * info.width + present(x)) * 3, (present(y) * info.width + present(x)) * 3 + 3),
    ]);
    const painted = [
      [210, 20, 20],
      [20, 170, 30],
      [20, 30, 210],
      [245, 245, 245],
    ];
    for (const [i, colour] of colours.entries()) {
      for (const [c, value] of colour.entries())
        expect(Math.abs(value - itemAt(itemAt(painted, i), c))).toBeLessThan(25);
    }
    await expect(intake("half.heic", content.subarray(0, 700), "image/heic")).rejects.toThrow(
      /damaged|cannot be decoded/,
    );
  });

  it("shows the picture that a HEIC file of several names as its main one, and says so", async () => {
    // Made by a program outside the project (heif-enc 1.15): red, and blue as the main one.
    const content = await readFile(new URL("../testing/fixtures/two-pictures.heic", import.meta.url));
    const { folder, facts } = await intake("burst.heic", content, "image/heic");
    expect(facts).toMatchObject({ width: 192, height: 128 });
    expect(facts.remark).toMatch(/2 pictures.*main one/);
    const { channels } = await sharp(path.join(folder, PICTURE_FILES.working)).stats();
    expect(channels.map(({ mean }) => Math.round(mean / 255))).toEqual([0, 0, 1]);
  });

  it("keeps the colours of Display P3 in HEIC as in any other file, within 3 of 255", async () => {
    // Made by a program outside the project (heif-enc 1.15) from P3 values, with the profile.
    const content = await readFile(new URL("../testing/fixtures/display-p3.heic", import.meta.url));
    const { folder } = await intake("p3.heic", content, "image/heic");
    const { data, info } = await sharp(path.join(folder, PICTURE_FILES.working))
      .raw()
      .toBuffer({ resolveWithObject: true });
    // P3 to sRGB: transfer curve of IEC 61966-2-1, and the matrix of CSS Color 4 between the two.
    const painted = [
      [230, 40, 30],
      [30, 200, 60],
      [40, 60, 220],
      [200, 180, 150],
    ].map(srgbOfDisplayP3);
    for (const [i, wanted] of painted.entries()) {
      const at = ((i < 2 ? 40 : 120) * info.width + (i % 2 === 0 ? 60 : 180)) * 3;
      for (const [c, value] of wanted.entries())
        expect(Math.abs(itemAt([...data], at + c) - value), `colour ${i}, channel ${c}`).toBeLessThanOrEqual(3);
    }
  });

  describe("of RAW files", () => {
    const RAW = "image/x-lanternworks-cr2";
    /** As cameras lay them out: header, thumbnail, a lossless frame of the sensor, previews. */
    const raw = async (...sizes: readonly (readonly [width: number, height: number])[]): Promise<Buffer> => {
      const header = Buffer.from([0x49, 0x49, 0x2a, 0, 0x10, 0, 0, 0, 0x43, 0x52, 2, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]);
      const thumbnail = await stripedJpeg(1, 160, 120);
      const sensor = Buffer.from([0xff, 0xd8, 0xff, 0xc3, 0, 11, 14, 0x1f, 0x40, 0x2e, 0xe0, 1, 0, 0, 0, 0xff, 0xd9]);
      const previews = await Promise.all(sizes.map(([width, height], i) => stripedJpeg(i + 2, width, height)));
      return Buffer.concat([header, thumbnail, Buffer.alloc(5_000_000, 7), sensor, ...previews, Buffer.alloc(300, 9)]);
    };

    it("takes the largest preview that the camera wrote, and says so", async () => {
      const { folder, facts } = await intake("1.cr2", await raw([640, 480], [1800, 1200]), RAW);
      expect(facts).toMatchObject({ width: 1800, height: 1200, remark: expect.stringMatching(/preview/) as string });
      // The second preview's own stripes.
      const [got, wanted] = await Promise.all(
        [path.join(folder, PICTURE_FILES.working), await stripedJpeg(3, 1800, 1200)].map((file) =>
          sharp(file).resize(30, 20, { fit: "fill" }).raw().toBuffer(),
        ),
      );
      const worst = Math.max(...[...present(got)].map((value, i) => Math.abs(value - itemAt(present(wanted), i))));
      expect(worst).toBeLessThan(12);
    });

    it("refuses one whose previews are small, or that has none, and says what to do", async () => {
      for (const content of [await raw([1200, 800]), await raw()])
        await expect(intake("2.cr2", content, RAW)).rejects.toMatchObject({
          code: "raw-preview-small",
          message: expect.stringMatching(/Export the picture as JPEG/) as string,
        });
    });

    it("are known by their content", async () => {
      const file = path.join(place.folder, "named.jpg");
      await writeFile(file, await raw([1800, 1200]));
      const { kind, mime } = await identify(file, 1);
      expect([kind, isRaw(mime)]).toEqual(["picture", true]);
    });

    it("end in words where a file pretends a thousand previews", async () => {
      const start = Buffer.from([0xff, 0xd8, 0xff, 0xe0, 0, 2, 0xff, 0xc0, 0, 11, 8, 0, 16, 0, 16, 1, 0, 0, 0]);
      const content = Buffer.concat([await raw(), ...Array.from({ length: 1000 }, () => start)]);
      await expect(intake("3.cr2", content, RAW)).rejects.toMatchObject({ code: "raw-preview-small" });
      const claims = Buffer.concat([await raw(), Buffer.from(start).fill(0xff, 11, 15), Buffer.alloc(50)]);
      await expect(intake("4.cr2", claims, RAW)).rejects.toMatchObject({
        code: expect.any(String) as string,
      });
    });
  });

  it("says that a file moves, and takes its first picture", async () => {
    const frames = await Promise.all([1, 2, 3].map((i) => stripedJpeg(i, 64, 48)));
    const gif = await sharp(frames, { join: { animated: true } })
      .gif({ delay: [100, 100, 100] })
      .toBuffer();
    const { facts } = await intake("moves.gif", gif, "image/gif");
    expect(facts).toMatchObject({ width: 64, height: 48, remark: expect.stringMatching(/3 pictures/) as string });
  });

  it("says so of a WebP that moves too", async () => {
    const frames = await Promise.all([1, 2].map((i) => stripedJpeg(i, 64, 48)));
    const webp = await sharp(frames, { join: { animated: true } })
      .webp({ delay: [100, 100] })
      .toBuffer();
    const { facts } = await intake("moves.webp", webp, "image/webp");
    expect(facts).toMatchObject({ width: 64, height: 48, remark: expect.stringMatching(/2 pictures/) as string });
  });

  /** The colour in the middle of each quarter of a working copy. */
  async function quarters(folder: string): Promise<number[][]> {
    const file = path.join(folder, PICTURE_FILES.working);
    const { data, info } = await sharp(file).raw().toBuffer({ resolveWithObject: true });
    return [0.25, 0.75].flatMap((down) =>
      [0.25, 0.75].map((across) => {
        const at = info.channels * (Math.round(down * info.height) * info.width + Math.round(across * info.width));
        return [...data.subarray(at, at + 3)];
      }),
    );
  }
  const painted = async (): Promise<Buffer> => storedJpeg(1);

  it("takes a CMYK JPEG in, in the colours that were meant", async () => {
    const cmyk = await sharp(await painted())
      .toColourspace("cmyk")
      .jpeg({ quality: 95 })
      .toBuffer();
    expect((await sharp(cmyk).metadata()).space).toBe("cmyk");
    const { folder, facts } = await intake("cmyk.jpg", cmyk);
    expect(facts).toMatchObject({ width: WIDTH, height: HEIGHT });
    const [red, green, blue, white] = await quarters(folder);
    expect(itemAt(present(red), 0)).toBeGreaterThan(Math.max(itemAt(present(red), 1), itemAt(present(red), 2)) + 90);
    expect(itemAt(present(green), 1)).toBeGreaterThan(
      Math.max(itemAt(present(green), 0), itemAt(present(green), 2)) + 60,
    );
    expect(itemAt(present(blue), 2)).toBeGreaterThan(Math.max(itemAt(present(blue), 0), itemAt(present(blue), 1)) + 60);
    expect(Math.min(...present(white))).toBeGreaterThan(225);
  });

  it("takes a PNG of 16 bits a channel in: the upper eight are what is seen", async () => {
    const codes = [0x1234, 0x7fff, 0xabcd, 0xfff0];
    const pixels = new Uint16Array(64 * 64 * 3);
    for (let y = 0; y < 64; y++)
      for (let x = 0; x < 64; x++)
        pixels.fill(itemAt(codes, 2 * Number(y >= 32) + Number(x >= 32)), 3 * (64 * y + x), 3 * (64 * y + x) + 3);
    const png = await sharp(pixels, { raw: { width: 64, height: 64, channels: 3 } })
      .toColourspace("rgb16")
      .png()
      .toBuffer();
    expect((await sharp(png).metadata()).depth).toBe("ushort");
    const { folder } = await intake("deep.png", png, "image/png");
    for (const [i, seenColour] of (await quarters(folder)).entries())
      for (const code of seenColour) expect(Math.abs(code - itemAt(codes, i) / 257)).toBeLessThanOrEqual(2);
  });

  it("refuses what declares 20,000 times 20,000 pixels before it decodes any of them", async () => {
    const small = await sharp({ create: { width: 8, height: 8, channels: 3, background: "#fff" } })
      .png()
      .toBuffer();
    // The sizes stand in the header (PNG, 11.2.2); its check sum is made again.
    const header = Buffer.from(small);
    header.writeUInt32BE(20_000, 16);
    header.writeUInt32BE(20_000, 20);
    header.writeUInt32BE(crc32(header.subarray(12, 29)), 29);
    const started = process.memoryUsage().rss;
    await expect(intake("vast.png", header, "image/png")).rejects.toMatchObject({ code: "picture-too-large" });
    expect(process.memoryUsage().rss - started).toBeLessThan(200 * 2 ** 20);
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
    await expect(intake("bomb.png", png)).rejects.toThrow(/300 million pixels|damaged/);
  });
});

/** CSS Color Module Level 4, section 17: Display P3 to sRGB, out of gamut values cut off. */
function srgbOfDisplayP3(p3: readonly number[]): number[] {
  const linear = p3.map((value) =>
    value / 255 <= 0.04045 ? value / 255 / 12.92 : ((value / 255 + 0.055) / 1.055) ** 2.4,
  );
  return [
    [1.2249401763, -0.2249401763, 0],
    [-0.0420569547, 1.0420569547, 0],
    [-0.0196375546, -0.0786360455, 1.0982736001],
  ].map((row) => {
    const light = row.reduce((sum, weight, c) => sum + weight * itemAt(linear, c), 0);
    const code = light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055;
    return Math.max(0, Math.min(255, 255 * code));
  });
}
