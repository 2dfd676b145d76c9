import { readFileSync } from "node:fs";
import { mkdir, readFile, writeFile } from "node:fs/promises";
import path from "node:path";
import { itemAt, present } from "@humming-tide/core/presence";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ffmpeg, temporaryFolder } from "../testing/index.ts";
import { PICTURE_FILES } from "./picture-files.ts";
import { type PictureIntake, takeInPicture } from "./picture-intake.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
beforeAll(async () => {
  place = await temporaryFolder();
});
afterAll(() => place.remove());

async function intake(name: string, content: Buffer, mime: string): Promise<{ folder: string; facts: PictureIntake }> {
  const folder = path.join(place.folder, `derived ${name}`);
  await mkdir(folder);
  const original = path.join(place.folder, `taken ${name}`);
  await writeFile(original, content);
  return { folder, facts: await takeInPicture(original, mime, folder) };
}

/** IEC 61966-2-1. */
const lightOfScreen = (code: number): number => ((code + 0.055) / 1.055) ** 2.4;
/** Light of other primaries in those of BT.709: CSS Color Module Level 4, and ITU-R BT.2087-0. */
const P3 = [
  [1.2249401763, -0.2249401763, 0],
  [-0.0420569547, 1.0420569547, 0],
  [-0.0196375546, -0.0786360455, 1.0982736001],
];
const BT2020 = [
  [1.6605, -0.5876, -0.0728],
  [-0.1246, 1.1329, -0.0083],
  [-0.0182, -0.1006, 1.1187],
];
/** Codes of 255; what cannot be shown is cut off. */
const inBt709 = (lights: readonly number[], matrix: readonly (readonly number[])[]): number[] =>
  matrix.map((row) => {
    const light = row.reduce((sum, weight, c) => sum + weight * itemAt(lights, c), 0);
    const seen = Math.max(0, Math.min(1, light));
    return 255 * (seen <= 0.0031308 ? 12.92 * seen : 1.055 * seen ** (1 / 2.4) - 0.055);
  });

describe("pictures whose colours are told by number alone (ISO/IEC 14496-12, nclx)", () => {
  const PATCHES = [
    [0.8, 0.3, 0.25],
    [0.3, 0.6, 0.35],
    [0.25, 0.35, 0.7],
    [0.45, 0.85, 0.62],
    [0.95, 0.08, 0.1],
  ] as const;
  /** Dark ones: nothing that ITU-R BT.2390 bends. */
  const DARK = PATCHES.map((patch) => patch.map((value) => 0.45 * value)) as unknown as typeof PATCHES;

  /** Written by ffmpeg, whose patches are 64 pixels wide. */
  function avif(patches: typeof PATCHES, primaries: string, transfer: string): Buffer {
    const [width, height] = [64 * patches.length, 64];
    const pixels = Buffer.alloc(width * height * 6);
    for (let i = 0; i < width * height; i++)
      for (const [c, value] of itemAt(patches, Math.floor((i % width) / 64)).entries())
        pixels.writeUInt16LE(Math.round(65_535 * value), 6 * i + 2 * c);
    const file = path.join(place.folder, `${primaries}-${transfer}.avif`);
    ffmpeg(
      [
        ...["-f", "rawvideo", "-pix_fmt", "rgb48le", "-s", `${width}x${height}`, "-i", "pipe:0", "-frames:v", "1"],
        ...["-vf", "scale=flags=accurate_rnd+full_chroma_int:out_color_matrix=bt709:out_range=pc"],
        ...["-pix_fmt", "yuv444p10le", "-c:v", "libaom-av1", "-crf", "2", "-cpu-used", "8", "-still-picture", "1"],
        ...["-color_range", "pc", "-colorspace", "bt709", "-color_primaries", primaries, "-color_trc", transfer, file],
      ],
      pixels,
    );
    return readFileSync(file);
  }

  async function expectSeen(folder: string, wanted: readonly (readonly number[])[]): Promise<void> {
    const { data, info } = await sharp(path.join(folder, PICTURE_FILES.working))
      .raw()
      .toBuffer({ resolveWithObject: true });
    for (const [i, colour] of wanted.entries())
      for (const [c, value] of colour.entries()) {
        const at = (32 * info.width + i * 64 + 32) * info.channels + c;
        expect(Math.abs(present(data[at]) - value), `patch ${i}, channel ${c}`).toBeLessThanOrEqual(3);
      }
  }

  it("of Display P3 keep their look, in AVIF and in HEIC", async () => {
    const wanted = PATCHES.map((patch) => inBt709(patch.map(lightOfScreen), P3));
    const { folder, facts } = await intake("p3.avif", avif(PATCHES, "smpte432", "iec61966-2-1"), "image/avif");
    await expectSeen(folder, wanted);
    expect(facts.remark).toBeNull();
    // Made by a program outside the project (heif-enc 1.15); numbers stand in its profile’s place.
    const heic = await readFile(new URL("../testing/fixtures/display-p3-by-number.heic", import.meta.url));
    await expectSeen((await intake("p3-by-number.heic", heic, "image/heic")).folder, wanted);
  });

  it("of BT.2020 are converted as ITU-R BT.2087 says", async () => {
    const { folder } = await intake("wide.avif", avif(PATCHES, "bt2020", "iec61966-2-1"), "image/avif");
    await expectSeen(
      folder,
      PATCHES.map((patch) => inBt709(patch.map(lightOfScreen), BT2020)),
    );
  });

  it("in HDR have the light that SMPTE ST 2084 gives them, white at 203 candelas, which is said", async () => {
    const { folder, facts } = await intake("pq.avif", avif(DARK, "bt2020", "smpte2084"), "image/avif");
    const light = (code: number): number => {
      const power = code ** (32 / 2523);
      return (10_000 * (Math.max(power - 0.8359375, 0) / (18.8515625 - 18.6875 * power)) ** (16_384 / 2610)) / 203;
    };
    await expectSeen(
      folder,
      DARK.map((patch) => inBt709(patch.map(light), BT2020)),
    );
    expect(facts.remark).toMatch(/HDR picture/);
  });

  it("may be told by a file that points out of itself, which is taken or refused in words", async () => {
    const content = avif(PATCHES, "smpte432", "iec61966-2-1");
    const links = content.indexOf("ipma");
    content.writeUInt32BE(0xffffffff, links + 8);
    content.writeUInt16BE(0xffff, links + 12);
    const outcome = await intake("hostile.avif", content, "image/avif").catch((error: unknown) => error);
    expect(outcome).toSatisfy(
      (it: object) => "facts" in it || /^picture-(damaged|format)$/.test((it as { code: string }).code),
    );
  });
});
