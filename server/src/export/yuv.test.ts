import { describe, expect, it } from "vitest";
import { ffmpeg } from "../testing/index.ts";
import { rgbaToYuv420 } from "./yuv.ts";

const [WIDTH, HEIGHT] = [64, 64];

/** Blocks of 2 x 2 equal pixels, so that how colour is averaged plays no part. */
function blocks(colourOf: (index: number) => readonly [number, number, number]): Uint8Array {
  const rgba = new Uint8Array(WIDTH * HEIGHT * 4);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++)
      rgba.set([...colourOf((y >> 1) * (WIDTH / 2) + (x >> 1)), 255], (y * WIDTH + x) * 4);
  }
  return rgba;
}

const converted = (rgba: Uint8Array): Uint8Array => {
  const out = new Uint8Array((WIDTH * HEIGHT * 3) / 2);
  rgbaToYuv420(rgba, WIDTH, HEIGHT, out);
  return out;
};

describe("colours for the encoder (BT.709, limited range)", () => {
  it.each([
    ["black", [0, 0, 0], [16, 128, 128]],
    ["white", [255, 255, 255], [235, 128, 128]],
    ["red", [255, 0, 0], [63, 102, 240]],
    ["green", [0, 255, 0], [173, 42, 26]],
    ["blue", [0, 0, 255], [32, 240, 118]],
  ] as const)("has %s where the standard's formula puts it", (_name, rgb, [y, u, v]) => {
    const out = converted(blocks(() => rgb));
    expect([out[0], out[WIDTH * HEIGHT], out[(WIDTH * HEIGHT * 5) / 4]]).toEqual([y, u, v]);
  });

  it("agrees with ffmpeg's own conversion within one step", () => {
    const rgba = blocks((i) => [(i * 53) % 256, (i * 101 + 7) % 256, (i * 197 + 90) % 256]);
    const size = `${WIDTH}x${HEIGHT}`;
    const theirs = ffmpeg(
      // biome-ignore format: pairs read as options
      ["-f", "rawvideo", "-pix_fmt", "rgba", "-s", size, "-i", "-", "-vf", "scale=out_color_matrix=bt709:out_range=tv:flags=accurate_rnd+bitexact+area", "-pix_fmt", "yuv420p", "-f", "rawvideo", "-"],
      rgba,
    );
    const ours = converted(rgba);
    expect(theirs.length).toBe(ours.length);
    let furthest = 0;
    for (let i = 0; i < ours.length; i++) furthest = Math.max(furthest, Math.abs(ours[i]! - theirs[i]!));
    expect(furthest).toBeLessThanOrEqual(1);
  });
});
