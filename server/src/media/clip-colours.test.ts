import { execFileSync } from "node:child_process";
import { mkdtemp } from "node:fs/promises";
import path from "node:path";
import installer from "@ffmpeg-installer/ffmpeg";
import { itemAt, present } from "@humming-tide/core/presence";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ClipFrames } from "../outputs/video/clip-frames.ts";
import {
  clipFrame,
  ffmpeg,
  type Patch,
  type PatchClip,
  patchClip,
  temporaryFolder,
  writtenPatch,
} from "../testing/index.ts";
import { type ClipIntake, takeInClip } from "./clip-intake.ts";
import { pictureFilters } from "./clip-picture.ts";
import { makeProxy } from "./make-proxy.ts";
import { PICTURE_FILES } from "./picture-files.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
beforeAll(async () => {
  place = await temporaryFolder();
});
afterAll(() => place.remove());

const SIDE = 64;
/** Codes of 255 by which a colour may differ from what the file's samples mean. */
const TOLERANCE = 3;
const LOSSLESS = ["-c:v", "libx265", "-x265-params", "lossless=1:log-level=none", "-tag:v", "hvc1"];
const tags = (primaries: string, transfer: string, matrix: string): string[] => [
  ...["-color_primaries", primaries, "-color_trc", transfer, "-colorspace", matrix],
];

type Colour = readonly number[];

/** What is seen in the middle of each patch: poster, playable copy, frame of the export. */
async function seenIn(name: string, clip: PatchClip): Promise<{ facts: ClipIntake; seen: Record<string, Colour[]> }> {
  const file = patchClip(path.join(place.folder, name), clip);
  const folder = await mkdtemp(path.join(place.folder, "taken-in-"));
  const facts = await takeInClip(file, folder);
  const { width, height } = facts;
  const count = clip.patches.length;
  const middles = (data: Uint8Array | Uint8ClampedArray, across: number, channels: number): Colour[] =>
    Array.from({ length: count }, (_, i) => {
      const pixel = Math.floor(SIDE / 2) * across + Math.floor(((i + 0.5) * across) / count);
      return [...data.subarray(pixel * channels, pixel * channels + 3)];
    });
  const poster = await sharp(path.join(folder, PICTURE_FILES.working)).raw().toBuffer();
  const copy = path.join(place.folder, `${name}.copy.mp4`);
  await makeProxy(file, { ...facts, ...OTHER_FACTS }, copy, new AbortController().signal, () => undefined);
  // Read by the tags of the copy alone, as a browser does.
  const exact = ["-sws_flags", "accurate_rnd+full_chroma_int"];
  const played = ffmpeg(["-i", copy, "-frames:v", "1", ...exact, "-f", "rawvideo", "-pix_fmt", "rgb24", "pipe:1"]);
  const clips = new ClipFrames(() => file);
  try {
    const shown = { slotIndex: 0, seconds: 0.2, secondsPerFrame: 0.04, size: { width, height } };
    await clips.preload(clipFrame(HASH, shown));
    const exported = present(clips.pixels(shown)).rgba;
    return {
      facts,
      seen: {
        poster: middles(poster, width, 3),
        copy: middles(played, width, 3),
        export: middles(exported, width, 4),
      },
    };
  } finally {
    clips.close();
  }
}

const HASH = "a".repeat(64);
const OTHER_FACTS = { kind: "clip", sha256: HASH, fileName: "", bytes: 1, mime: "video/mp4" } as const;

function expectColours(seen: Record<string, Colour[]>, wanted: readonly Colour[]): void {
  for (const [where, colours] of Object.entries(seen))
    for (const [i, colour] of colours.entries())
      for (const [c, value] of colour.entries())
        expect(
          Math.abs(value - itemAt(itemAt(wanted, i), c)),
          `${where}, patch ${i}: ${colour.join(" ")} for ${itemAt(wanted, i).map(Math.round).join(" ")}`,
        ).toBeLessThanOrEqual(TOLERANCE);
}

const PATCHES: readonly Patch[] = [
  [0.5, 0.5, 0.5],
  [0.75, 0.3, 0.25],
  [0.3, 0.6, 0.35],
  [0.25, 0.35, 0.7],
  [0.8, 0.65, 0.55],
];
/** Colours that BT.709 cannot show, where they are those of wider primaries. */
const VIVID: readonly Patch[] = [
  [0.95, 0.08, 0.1],
  [0.1, 0.9, 0.15],
  [0.08, 0.12, 0.95],
  [0.96, 0.95, 0.1],
  [0.45, 0.85, 0.62],
  [0.4, 0.87, 0.92],
];
const asCodes = (patches: readonly Patch[]): Colour[] => patches.map((patch) => patch.map((value) => 255 * value));

/** IEC 61966-2-1, in 255ths; what cannot be shown is cut off. */
const codeOf = (light: number): number =>
  255 * (light <= 0.0031308 ? Math.max(0, 12.92 * light) : Math.min(1, 1.055 * light ** (1 / 2.4) - 0.055));

/** ITU-R BT.2087-0: light of BT.2020 in the primaries of BT.709. */
const BT2087 = [
  [1.6605, -0.5876, -0.0728],
  [-0.1246, 1.1329, -0.0083],
  [-0.0182, -0.1006, 1.1187],
];

describe("colours of clips", () => {
  it.each([
    ["BT.709, tagged", { matrix: "bt709", bits: 8, encoding: tags("bt709", "bt709", "bt709") }],
    ["BT.601, tagged", { matrix: "bt601", bits: 8, encoding: tags("smpte170m", "smpte170m", "smpte170m") }],
    ["small and untagged, which means BT.601", { matrix: "bt601", bits: 8, encoding: [] }],
    ["full range", { matrix: "bt709", bits: 8, isFullRange: true, encoding: tags("bt709", "bt709", "bt709") }],
    ["10 bits", { matrix: "bt709", bits: 10, encoding: tags("bt709", "bt709", "bt709") }],
    ["4:2:2, 10 bits", { matrix: "bt709", bits: 10, chroma: "422", encoding: tags("bt709", "bt709", "bt709") }],
  ] as const)("%s, are those that were filmed", async (name, how) => {
    const { facts, seen } = await seenIn(`${name.replace(/\W/g, "")}.mp4`, {
      patches: PATCHES,
      ...how,
      encoding: [...LOSSLESS, ...how.encoding],
    });
    expectColours(seen, asCodes(PATCHES.map((patch) => writtenPatch(patch, how))));
    expect(facts.remark).toBeNull();
  });

  it("of high definition, untagged, mean BT.709 by the size of the file, however small it is drawn", async () => {
    const side = 720;
    const clip: PatchClip = { patches: PATCHES.slice(0, 2), matrix: "bt709", bits: 8, encoding: LOSSLESS, side };
    const file = patchClip(path.join(place.folder, "large.mp4"), clip);
    const clips = new ClipFrames(() => file);
    const shown = { slotIndex: 0, seconds: 0.2, secondsPerFrame: 0.04, size: { width: 128, height: 64 } };
    await clips.preload(clipFrame(HASH, shown));
    const { rgba } = present(clips.pixels(shown));
    clips.close();
    const at = (x: number): Colour => [...rgba.subarray(4 * (32 * 128 + x), 4 * (32 * 128 + x) + 3)];
    expectColours({ export: [at(32), at(96)] }, asCodes(clip.patches));
  });

  it("of Display P3 are those of BT.709, as of pictures", async () => {
    const { seen } = await seenIn("p3.mp4", {
      ...{ patches: [...PATCHES, ...VIVID], matrix: "bt709", bits: 8 },
      encoding: [...LOSSLESS, ...tags("smpte432", "bt709", "bt709")],
    });
    // CSS Color Module Level 4, section 17.
    const rows = [
      [1.2249401763, -0.2249401763, 0],
      [-0.0420569547, 1.0420569547, 0],
      [-0.0196375546, -0.0786360455, 1.0982736001],
    ];
    expectColours(seen, converted([...PATCHES, ...VIVID], rows));
  });

  it("of BT.2020 without HDR are those of BT.709, as ITU-R BT.2087 converts them", async () => {
    const { seen } = await seenIn("wide.mp4", {
      ...{ patches: [...PATCHES, ...VIVID], matrix: "bt2020", bits: 10 },
      encoding: [...LOSSLESS, ...tags("bt2020", "bt2020-10", "bt2020nc")],
    });
    expectColours(seen, converted([...PATCHES, ...VIVID], BT2087));
  });

  const converted = (patches: readonly Patch[], rows: readonly Colour[]): Colour[] =>
    patches.map((patch) => {
      const lights = patch.map((code) => ((code + 0.055) / 1.055) ** 2.4);
      return rows.map((row) => codeOf(row.reduce((sum, weight, c) => sum + weight * itemAt(lights, c), 0)));
    });

  describe("filmed in HDR", () => {
    // Nothing that ITU-R BT.2390 bends: less than 88 of the 203 candelas that white has.
    const dark: readonly Patch[] = [
      [0.4, 0.4, 0.4],
      [0.42, 0.33, 0.3],
      [0.34, 0.38, 0.35],
      [0.28, 0.3, 0.4],
      [0.45, 0.4, 0.36],
      // Vivid ones, which BT.709 cannot show.
      [0.45, 0.1, 0.12],
      [0.12, 0.42, 0.2],
      [0.1, 0.15, 0.46],
      [0.44, 0.43, 0.08],
    ];

    const filmed = (codec: readonly string[], transfer: string): PatchClip => ({
      ...{ patches: dark, matrix: "bt2020", bits: 10 },
      encoding: [...codec, ...tags("bt2020", transfer, "bt2020nc")],
    });

    it.each([
      ["PQ", "pq.mp4", LOSSLESS],
      ["PQ in AV1", "pq.mkv", ["-c:v", "libaom-av1", "-crf", "4", "-cpu-used", "8"]],
    ])("as %s are those of another program (zimg), below the knee of the tone curve", async (_, name, codec) => {
      const { facts, seen } = await seenIn(name, filmed(codec, "smpte2084"));
      expect(facts.remark).toMatch(/HDR/);
      const zimg =
        "zscale=min=bt2020nc:pin=bt2020:tin=smpte2084:rin=tv:t=linear:npl=203,format=gbrpf32le," +
        "zscale=p=bt709:t=iec61966-2-1:m=gbr:r=pc,format=gbrp";
      const file = path.join(place.folder, name);
      const other = ffmpeg([
        "-i",
        file,
        "-frames:v",
        "1",
        "-vf",
        zimg,
        "-f",
        "rawvideo",
        "-pix_fmt",
        "rgb24",
        "pipe:1",
      ]);
      const wanted = dark.map((_patch, i) => {
        const pixel = 32 * dark.length * SIDE + i * SIDE + 32;
        return [...other.subarray(3 * pixel, 3 * pixel + 3)];
      });
      expectColours(seen, wanted);
    });

    it.each([
      ["HLG", "hlg.mp4", LOSSLESS],
      ["HLG in VP9", "hlg.webm", ["-c:v", "libvpx-vp9", "-lossless", "1", "-cpu-used", "8"]],
    ])("as %s are those of ITU-R BT.2100 and BT.2087, below the knee of the tone curve", async (_, name, codec) => {
      const { facts, seen } = await seenIn(name, filmed(codec, "arib-std-b67"));
      expect(facts.remark).toMatch(/HDR/);
      // zimg brightens each channel by itself, where BT.2100 asks for all alike: so by hand.
      const wanted = dark.map((patch) => {
        const [red, green, blue] = patch.map((code) => code ** 2 / 3) as [number, number, number];
        const brighter = 1000 * (0.2627 * red + 0.678 * green + 0.0593 * blue) ** 0.2;
        return BT2087.map(([r = 0, g = 0, b = 0]) => {
          const light = (brighter * (r * red + g * green + b * blue)) / 203;
          return codeOf(light);
        });
      });
      expectColours(seen, wanted);
    });

    it("have one white, which HLG and PQ write differently (ITU-R BT.2408: 75 and 58 %), and brighter lights above it", async () => {
      const grey = (value: number): Patch => [value, value, value];
      const white = async (name: string, transfer: string, codes: readonly number[]): Promise<Colour[]> => {
        const encoding = [...LOSSLESS, ...tags("bt2020", transfer, "bt2020nc")];
        const { seen } = await seenIn(name, { patches: codes.map(grey), matrix: "bt2020", bits: 10, encoding });
        return present(seen["export"]);
      };
      const hlg = await white("white-hlg.mp4", "arib-std-b67", [0.75, 0.9, 1]);
      const pq = await white("white-pq.mp4", "smpte2084", [0.5806, 0.68, 0.7518]);
      for (const [i, colour] of [hlg[0], pq[0]].entries())
        for (const value of present(colour))
          expect(Math.abs(value - 229), `white ${i}: ${value}`).toBeLessThanOrEqual(3);
      for (const lights of [hlg, pq]) {
        const [a, b, c] = lights.map((colour) => itemAt(colour, 0));
        expect(present(b)).toBeGreaterThan(present(a) + 8);
        expect(present(c)).toBeGreaterThanOrEqual(254);
      }
    });
  });

  it("come out the same in the older ffmpeg that is installed with the program", async () => {
    const clip: PatchClip = {
      ...{ patches: [...PATCHES, ...VIVID], matrix: "bt709", bits: 8 },
      encoding: [...LOSSLESS, ...tags("smpte432", "bt709", "bt709")],
    };
    const file = patchClip(path.join(place.folder, "older.mp4"), clip);
    const [width, height] = [clip.patches.length * SIDE, SIDE];
    const picture = { width, height, colourSpace: "bt709", transfer: "bt709", primaries: "smpte432" };
    const { filters, folder } = await pictureFilters(
      { ...picture, peakNits: null, isInterlaced: false },
      `${width}:${height}`,
      "exact rgb",
    );
    const frame = (program: string): Buffer => {
      const to = ["-frames:v", "1", "-vf", filters.join(","), "-f", "rawvideo", "-pix_fmt", "rgb24", "pipe:1"];
      return execFileSync(program, ["-v", "error", "-i", file, ...to], { cwd: folder });
    };
    const newer = frame("ffmpeg");
    let most = 0;
    for (const [i, value] of frame(installer.path).entries()) most = Math.max(most, Math.abs(value - (newer[i] ?? -9)));
    expect(most).toBeLessThanOrEqual(1);
  });

  it("that are interlaced become whole frames, which is said", async () => {
    // A white bar that moves 16 pixels from one field to the next: woven together it has a comb.
    const file = path.join(place.folder, "fields.mp4");
    ffmpeg([
      ...["-f", "lavfi", "-i", "color=black:s=320x128:r=50:d=1", "-f", "lavfi", "-i", "color=white:s=40x128:r=50:d=1"],
      ...["-filter_complex", "[0][1]overlay=x='mod(n*16,300)':y=0,interlace=scan=tff:lowpass=off,fieldorder=tff"],
      ...["-c:v", "libx264", "-flags", "+ildct+ilme", "-x264opts", "tff=1", "-qp", "0", "-pix_fmt", "yuv420p", file],
    ]);
    expect((await takeInClip(file, place.folder)).remark).toMatch(/interlaced/);
    const clips = new ClipFrames(() => file);
    const shown = { slotIndex: 0, seconds: 0.4, secondsPerFrame: 0.04, size: { width: 320, height: 128 } };
    await clips.preload(clipFrame(HASH, shown));
    const { rgba } = present(clips.pixels(shown));
    clips.close();
    let combs = 0;
    for (let y = 20; y < 100; y++)
      for (let x = 0; x < 320; x++) {
        const [above, here, below] = [-1, 0, 1].map((step) => itemAt([rgba[4 * ((y + step) * 320 + x)]], 0) ?? 0);
        if (Math.abs((above ?? 0) - (here ?? 0)) > 100 && Math.abs((below ?? 0) - (here ?? 0)) > 100) combs++;
      }
    expect(combs).toBeLessThan(80);
    const woven = ffmpeg(["-ss", "0.4", "-i", file, "-frames:v", "1", "-f", "rawvideo", "-pix_fmt", "gray", "pipe:1"]);
    let wovenCombs = 0;
    for (let y = 20; y < 100; y++)
      for (let x = 0; x < 320; x++) {
        const at = (row: number): number => woven[row * 320 + x] ?? 0;
        if (Math.abs(at(y - 1) - at(y)) > 100 && Math.abs(at(y + 1) - at(y)) > 100) wovenCombs++;
      }
    expect(wovenCombs).toBeGreaterThan(1000);
  });
});
