import { spawnSync } from "node:child_process";
import { readFile } from "node:fs/promises";
import path from "node:path";
import { SMALL_FRAME } from "@humming-tide/core/measure";
import { itemAt } from "@humming-tide/core/presence";
import fc from "fast-check";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ffmpeg, temporaryFolder } from "../testing/index.ts";
import { PlanarImage, PlanarSurface, PlaneMemory } from "./index.ts";

let place: Awaited<ReturnType<typeof temporaryFolder>>;
beforeAll(async () => {
  place = await temporaryFolder();
});
afterAll(() => place.remove());

describe("what is compiled", () => {
  it("was made of the sources that lie beside it", async () => {
    const made = path.join(place.folder, "planes.wasm");
    const build = path.join(import.meta.dirname, "../../../scripts/build-planes.mjs");
    const { status, stderr } = spawnSync(process.execPath, [build, made], { encoding: "utf8" });
    expect([status, stderr]).toEqual([0, ""]);
    const committed = await readFile(path.join(import.meta.dirname, "planes.wasm"));
    expect(committed.equals(await readFile(made)), "run npm run build:planes").toBe(true);
  });
});

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

function converted(rgba: Uint8Array): Uint8Array {
  const surface = new PlanarSurface(new PlaneMemory(), WIDTH, HEIGHT);
  surface.put(rgba);
  return surface.frame();
}

const COLOURS = [
  ["black", [0, 0, 0], [16, 128, 128]],
  ["white", [255, 255, 255], [235, 128, 128]],
  ["red", [255, 0, 0], [63, 102, 240]],
  ["green", [0, 255, 0], [173, 42, 26]],
  ["blue", [0, 0, 255], [32, 240, 118]],
] as const;

describe("colours for the encoder (BT.709, limited range)", () => {
  it.each(COLOURS)("have %s where the standard's formula puts it, as pixels and as a fill", (_name, rgb, yuv) => {
    const places = [0, WIDTH * HEIGHT, (WIDTH * HEIGHT * 5) / 4];
    const out = converted(blocks(() => rgb));
    expect(places.map((at) => out[at])).toEqual(yuv);
    const surface = new PlanarSurface(new PlaneMemory(), WIDTH, HEIGHT);
    surface.fillStyle = `#${rgb.map((value) => value.toString(16).padStart(2, "0")).join("")}`;
    surface.fillRect(0, 0, WIDTH, HEIGHT);
    expect(places.map((at) => surface.frame()[at])).toEqual(yuv);
  });

  it("agree with ffmpeg's own conversion within one step", () => {
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
    for (let i = 0; i < ours.length; i++) furthest = Math.max(furthest, Math.abs(itemAt(ours, i) - itemAt(theirs, i)));
    expect(furthest).toBeLessThanOrEqual(1);
  });
});

/** Numbers as from noise, the same for the same seed. */
const noise = (seed: number) => (i: number) => (Math.imul(i + 1, 2654435761 ^ (seed * 40503)) >>> 11) & 255;

const lumaOf = (r: number, g: number, b: number, a: number): number =>
  (219 * (0.2126 * r + 0.7152 * g + 0.0722 * b) + 16 * a) / 255;

interface Drawing {
  readonly source: { readonly width: number; readonly height: number; readonly rgba: Uint8Array };
  readonly shown: readonly [number, number, number, number];
  readonly target: readonly [number, number, number, number];
  readonly clip: readonly [number, number, number, number];
  readonly alpha: number;
  readonly frame: readonly [number, number];
}

/** How much of a pixel lies between two edges. */
const overlap = (at: number, low: number, high: number): number =>
  Math.max(0, Math.min(at + 1, high) - Math.max(at, low));

/** The luma of a drawing over mid-grey by the definition, in floating point. */
function expectedLuma({ source, shown, target, clip, alpha, frame }: Drawing, ground: number): Float64Array {
  const [sx, sy, sw, sh] = shown;
  const [x, y, w, h] = target;
  const out = new Float64Array(frame[0] * frame[1]).fill(ground);
  const between = (value: number, low: number, high: number): number => Math.max(low, Math.min(high, value));
  const sample = (column: number, row: number): readonly [number, number] => {
    const i = 4 * (row * source.width + column);
    const [r, g, b, a] = source.rgba.subarray(i, i + 4) as unknown as [number, number, number, number];
    return [lumaOf(r, g, b, a), a / 255];
  };
  for (let row = 0; row < frame[1]; row++) {
    for (let column = 0; column < frame[0]; column++) {
      const cover =
        overlap(column, Math.max(x, clip[0]), Math.min(x + w, clip[2])) *
        overlap(row, Math.max(y, clip[1]), Math.min(y + h, clip[3]));
      if (cover === 0) continue;
      const ends = (first: number, length: number): [number, number] => [first, Math.ceil(first + length) - 1];
      const u = between(((column + 0.5 - x) * sw) / w + sx - 0.5, ...ends(sx, sw));
      const v = between(((row + 0.5 - y) * sh) / h + sy - 0.5, ...ends(sy, sh));
      let [light, opacity] = [0, 0];
      for (const [r, rowShare] of [
        [Math.floor(v), 1 - (v % 1)],
        [Math.min(Math.floor(v) + 1, ends(sy, sh)[1]), v % 1],
      ] as const) {
        for (const [c, columnShare] of [
          [Math.floor(u), 1 - (u % 1)],
          [Math.min(Math.floor(u) + 1, ends(sx, sw)[1]), u % 1],
        ] as const) {
          const [value, a] = sample(c, r);
          light += rowShare * columnShare * value;
          opacity += rowShare * columnShare * a;
        }
      }
      const i = row * frame[0] + column;
      out[i] = itemAt(out, i) + cover * alpha * (light - opacity * itemAt(out, i));
    }
  }
  return out;
}

const even = (least: number, most: number): fc.Arbitrary<number> =>
  fc.integer({ min: least / 2, max: most / 2 }).map((half) => 2 * half);
const place1 = (least: number, most: number): fc.Arbitrary<number> =>
  fc.integer({ min: least * 16, max: most * 16 }).map((sixteenths) => sixteenths / 16);

/**
 * Images of up to 40 pixels, whole or in part, anywhere on and beside a small frame. Scales are
 * above 0.71, where no smaller copy is taken.
 */
const anyDrawing = fc
  .record({
    width: fc.integer({ min: 1, max: 40 }),
    height: fc.integer({ min: 1, max: 40 }),
    seed: fc.nat(1000),
    part: fc.boolean(),
    scaleX: fc.double({ min: 0.75, max: 3, noNaN: true }),
    scaleY: fc.double({ min: 0.75, max: 3, noNaN: true }),
    x: place1(-30, 40),
    y: place1(-20, 30),
    asItIs: fc.boolean(),
    clip: fc.boolean(),
    alpha: fc.oneof(fc.constant(1), fc.double({ min: 0, max: 1, noNaN: true })),
    opaque: fc.boolean(),
    frame: fc.tuple(even(2, 50), even(2, 30)),
  })
  .map((made): Drawing & { readonly opaque: boolean } => {
    const { width, height, opaque } = made;
    const value = noise(made.seed);
    const rgba = Uint8Array.from({ length: 4 * width * height }, (_, i) => value(i));
    for (let i = 3; i < rgba.length; i += 4) {
      if (opaque) rgba[i] = 255;
      else for (let c = i - 3; c < i; c++) rgba[c] = Math.floor((itemAt(rgba, c) * itemAt(rgba, i)) / 255);
    }
    const shown: [number, number, number, number] =
      made.part && width > 4 && height > 4 ? [1, 2, width - 2, height - 3] : [0, 0, width, height];
    const [scaleX, scaleY] = made.asItIs ? [1, 1] : [made.scaleX, made.scaleY];
    const [x, y] = made.asItIs ? [Math.round(made.x), Math.round(made.y)] : [made.x, made.y];
    return {
      source: { width, height, rgba },
      shown,
      target: [x, y, shown[2] * scaleX, shown[3] * scaleY],
      clip: made.clip ? [1, 1, made.frame[0] - 0.5, made.frame[1]] : [0, 0, ...made.frame],
      alpha: made.alpha,
      frame: made.frame,
      opaque,
    };
  });

function drawn({ source, shown, target, clip, alpha, frame, opaque }: Drawing & { opaque: boolean }): PlanarSurface {
  const memory = new PlaneMemory();
  const surface = new PlanarSurface(memory, ...frame);
  surface.fillStyle = "#808080";
  surface.fillRect(0, 0, ...frame);
  surface.save();
  surface.beginPath();
  surface.moveTo(clip[0], clip[1]);
  surface.lineTo(clip[2], clip[1]);
  surface.lineTo(clip[2], clip[3]);
  surface.lineTo(clip[0], clip[3]);
  surface.clip();
  surface.globalAlpha = alpha;
  surface.drawImage(PlanarImage.of(memory, { ...source, opaque }), ...shown, ...target);
  surface.restore();
  return surface;
}

describe("images drawn into planes", () => {
  it("are scaled, moved, cut off, let through and clipped as the definition says, within a step and a half", () => {
    fc.assert(
      fc.property(anyDrawing, (drawing) => {
        const surface = drawn(drawing);
        const expected = expectedLuma(drawing, 126);
        const seen = surface.frame();
        for (const [i, value] of expected.entries()) expect(Math.abs(itemAt(seen, i) - value)).toBeLessThanOrEqual(1.5);
      }),
      { numRuns: 400 },
    );
  });

  it("leave all other memory alone while what is read and written grows column by column", () => {
    const memory = new PlaneMemory();
    const surface = new PlanarSurface(memory, 320, 4);
    const rgba = new Uint8Array(4 * 400 * 3).fill(128);
    const image = PlanarImage.of(memory, { width: 400, height: 3, rgba, opaque: false });
    const guards: number[] = [];
    for (let width = 20; width <= 320; width++) {
      surface.drawImage(image, 0, 0, width + 80, 3, 0, 0.25, width, 3.5);
      // Taken from the same places as the drawing's own rows.
      for (const bytes of [2 * width, 4 * width]) {
        const guard = memory.allocate(bytes);
        memory.bytes(guard, bytes).fill(77);
        guards.push(guard);
        expect(memory.bytes(itemAt(guards, 0), 40).every((byte) => byte === 77)).toBe(true);
      }
      if (guards.length > 12) for (const guard of guards.splice(0)) memory.release(guard);
    }
  });

  it("have their colours where their light is", () => {
    // A red square on grey: what lies in it is as red as the square, what lies beside it has no
    // colour.
    const [width, height] = [60, 40];
    const memory = new PlaneMemory();
    const surface = new PlanarSurface(memory, width, height);
    surface.fillStyle = "#808080";
    surface.fillRect(0, 0, width, height);
    const rgba = Uint8Array.from({ length: 4 * 20 * 20 }, (_, i) => itemAt([255, 0, 0, 255], i % 4));
    surface.drawImage(
      PlanarImage.of(memory, { width: 20, height: 20, rgba, opaque: true }),
      0,
      0,
      20,
      20,
      12,
      8,
      30,
      26,
    );
    const frame = surface.frame();
    for (let y = 0; y < height / 2; y++) {
      for (let x = 0; x < width / 2; x++) {
        const inside = x >= 6 && x < 21 && y >= 4 && y < 17;
        const at = width * height + (width * height) / 4 + y * (width / 2) + x;
        expect(frame[at]).toBe(inside ? 240 : 128);
      }
    }
  });

  it("are taken from a copy of half the size where they are drawn at half, also at odd sizes", () => {
    const [width, height] = [37, 23];
    const value = noise(5);
    const rgba = Uint8Array.from({ length: 4 * width * height }, (_, i) => (i % 4 === 3 ? 255 : value(i)));
    const memory = new PlaneMemory();
    const surface = new PlanarSurface(memory, 20, 12);
    const image = PlanarImage.of(memory, { width, height, rgba, opaque: true });
    surface.drawImage(image, 0, 0, width, height, 0, 0, width / 2, height / 2);
    const frame = surface.frame();
    for (let y = 0; y < 11; y++) {
      for (let x = 0; x < 18; x++) {
        let sum = 0;
        for (const [dx, dy] of [
          [0, 0],
          [1, 0],
          [0, 1],
          [1, 1],
        ] as const) {
          const i = 4 * ((2 * y + dy) * width + 2 * x + dx);
          sum += lumaOf(itemAt(rgba, i), itemAt(rgba, i + 1), itemAt(rgba, i + 2), 255);
        }
        expect(Math.abs(itemAt(frame, y * 20 + x) - sum / 4)).toBeLessThanOrEqual(1);
      }
    }
  });

  it("refuse what planes do not have, by name", () => {
    const surface = new PlanarSurface(new PlaneMemory(), 4, 4);
    expect(() => surface.createLinearGradient()).toThrow(/slopes of colour.*drawn on a canvas/);
    surface.fillStyle = "rgba(0, 0, 0, 0.5)";
    expect(() => surface.fillRect(0, 0, 4, 4)).toThrow(/colour "rgba/);
  });
});

describe("the look of a frame", () => {
  it.each([
    [1920, 1080],
    [128, 72],
    [1080, 1920],
    [70, 50],
    [1000, 358],
  ])("of %i x %i pixels is the mean of each cell of each plane", (width, height) => {
    const memory = new PlaneMemory();
    const surface = new PlanarSurface(memory, width, height);
    const value = noise(width);
    const frame = memory.bytes(surface.planes.luma, (width * height * 3) / 2);
    for (let i = 0; i < frame.length; i++) frame[i] = value(i);
    const mean = (from: number, across: number, down: number, column: number, row: number): number => {
      const edge = (cell: number, cells: number, length: number): number => Math.floor((cell * length) / cells);
      const left = Math.min(across - 1, edge(column, SMALL_FRAME.width, across));
      const top = Math.min(down - 1, edge(row, SMALL_FRAME.height, down));
      let [sum, count] = [0, 0];
      for (let y = top; y < Math.max(top + 1, edge(row + 1, SMALL_FRAME.height, down)); y++) {
        for (let x = left; x < Math.max(left + 1, edge(column + 1, SMALL_FRAME.width, across)); x++, count++)
          sum += itemAt(frame, from + y * across + x);
      }
      return Math.round(sum / count);
    };
    const expected: number[] = [];
    for (const [from, across, down] of [
      [0, width, height],
      [width * height, width / 2, height / 2],
      [(width * height * 5) / 4, width / 2, height / 2],
    ] as const)
      for (let row = 0; row < SMALL_FRAME.height; row++)
        for (let column = 0; column < SMALL_FRAME.width; column++) expected.push(mean(from, across, down, column, row));
    expect([...surface.smallFrame()]).toEqual(expected);
  });
});
