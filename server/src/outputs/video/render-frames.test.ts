import { mkdir } from "node:fs/promises";
import path from "node:path";
import { NO_WORDS, type PictureTrack, placeTransitions } from "@humming-tide/core/picture";
import { itemAt, present } from "@humming-tide/core/presence";
import sharp from "sharp";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { temporaryFolder } from "../../testing/index.ts";
import { ClipFrames } from "./clip-frames.ts";
import { FramePainter } from "./frame-painter.ts";
import type { PathOfImage } from "./picture-cache.ts";
import { renderFrames } from "./render-frames.ts";

const SIZE = { width: 64, height: 36 };
const FULL = { x: 0, y: 0, ...SIZE };
const RATE = { num: 25, den: 1 };

let place: Awaited<ReturnType<typeof temporaryFolder>>;
const pathOfImage: PathOfImage = (name, of) => path.join(place.folder, `${name}-${of}`);
const noClips = new ClipFrames(() => "");

beforeAll(async () => {
  place = await temporaryFolder();
  await mkdir(place.folder, { recursive: true });
  for (const [name, level] of [
    ["black", 0],
    ["grey", 120],
    ["other-grey", 120],
    ["white", 255],
  ] as const) {
    const background = { r: level, g: level, b: level };
    const picture = sharp({ create: { width: 128, height: 72, channels: 3, background } });
    await picture.png().toFile(path.join(place.folder, `${name}-picture`));
    await picture.png().toFile(path.join(place.folder, `${name}-fill`));
  }
});
afterAll(() => place.remove());

/** Two slots of 30 frames each with a dissolve of 0.8 s (19 frames) between them. */
function track(first: string, second: string): PictureTrack {
  const [transition] = placeTransitions([0, 30, 60], [{ style: { kind: "dissolve" }, seconds: 0.8 }], RATE);
  const slot = (picture: string, startFrame: number, endFrame: number, transitionIn: typeof transition) => ({
    picture,
    clip: null,
    startFrame,
    endFrame,
    transitionIn: present(transitionIn),
    move: { start: FULL, end: FULL, startFrame, endFrame, eased: false },
    ground: null,
    subject: { x: 0.5, y: 0.5 },
    words: NO_WORDS,
    look: null,
    cell: null,
    beside: [],
    border: null,
    overlay: null,
    graphic: null,
  });
  const cut = { kind: "cut" as const, startFrame: 0, endFrame: 0 };
  return {
    size: SIZE,
    watermark: null,
    loopBack: null,
    fadeOut: null,
    slots: [slot(first, 0, 30, cut), slot(second, 30, 60, transition)],
  };
}

/**
 * Luma of the middle pixel of every frame, and which frames were handed over as the very same
 * bytes.
 */
async function lumas(film: PictureTrack): Promise<number[]> {
  const seen: number[] = [];
  await renderFrames(film, new FramePainter(SIZE, pathOfImage, noClips), 0, 60, (yuv, frame) => {
    expect(frame).toBe(seen.length);
    expect(yuv.length).toBe((SIZE.width * SIZE.height * 3) / 2);
    seen.push(itemAt(yuv, 18 * SIZE.width + 32));
    return Promise.resolve();
  });
  return seen;
}

/** BT.709 limited range: 16 + 219 * level / 255. */
const luma = (level: number): number => 16 + (219 * level) / 255;

describe("drawn frames", () => {
  it("rise evenly from black to white, and the landing's frame is half of each", async () => {
    const seen = await lumas(track("black", "white"));
    expect(seen).toHaveLength(60);
    expect([seen[0], seen[20], seen[40], seen[59]]).toEqual([16, 16, 235, 235]);
    expect(Math.abs(itemAt(seen, 30) - luma(127.5))).toBeLessThanOrEqual(1);
    for (let frame = 21; frame <= 39; frame++) {
      const expected = luma((255 * (frame - 20)) / 20);
      expect(Math.abs(itemAt(seen, frame) - expected)).toBeLessThanOrEqual(1.2);
      expect(itemAt(seen, frame)).toBeGreaterThan(itemAt(seen, frame - 1));
    }
  });

  it("of two equal greys stay that grey all through the dissolve", async () => {
    const seen = await lumas(track("grey", "other-grey"));
    for (const value of seen) expect(Math.abs(value - luma(120))).toBeLessThanOrEqual(1);
  });

  it.each([
    ["across", { x: -24.7, y: 0, width: 72, height: 40.5 }],
    ["in", { x: -22.1, y: -2.4, width: 75.5, height: 42.5 }],
  ])("move %s evenly: what is drawn takes steps that differ by less than a tenth of a pixel", async (_name, end) => {
    // A light on black, in a picture as much larger than the film as pictures are prepared: its
    // centre of gravity is known to a part of a pixel.
    const [width, height, spot] = [80, 45, { x: 45, y: 20 }];
    const pixels = Uint8Array.from({ length: width * height }, (_, i) => {
      const [dx, dy] = [(i % width) + 0.5 - spot.x, Math.floor(i / width) + 0.5 - spot.y];
      return Math.round(255 * Math.exp(-(dx * dx + dy * dy) / 18));
    });
    const picture = sharp(pixels, { raw: { width, height, channels: 1 } }).toColourspace("srgb");
    await picture.png().toFile(path.join(place.folder, "spot-picture"));
    await picture.png().toFile(path.join(place.folder, "spot-fill"));
    const still = track("spot", "spot");
    const move = { start: { x: 0, y: 0, width: 66, height: 37.1 }, end, startFrame: 0, endFrame: 59, eased: false };
    const film = { ...still, slots: [{ ...itemAt(still.slots, 0), endFrame: 60, move }] };
    const centres: number[] = [];
    await renderFrames(film, new FramePainter(SIZE, pathOfImage, noClips), 0, 60, (yuv) => {
      let [light, moment] = [0, 0];
      for (let i = 0; i < SIZE.width * SIZE.height; i++) {
        light += itemAt(yuv, i) - 16;
        moment += (itemAt(yuv, i) - 16) * ((i % SIZE.width) + 0.5);
      }
      centres.push(moment / light);
      return Promise.resolve();
    });
    const steps = centres.slice(1).map((at, i) => at - itemAt(centres, i));
    const placed = (at: typeof move.end): number => at.x + (spot.x / width) * at.width;
    const expected = (placed(move.end) - placed(move.start)) / 59;
    expect(Math.abs(expected)).toBeGreaterThan(0.25);
    for (const step of steps) expect(Math.abs(step - expected)).toBeLessThan(0.1);
    expect(centres[0]).toBeCloseTo(placed(move.start), 1);
    expect(centres.at(-1)).toBeCloseTo(placed(move.end), 1);
  });

  it("name the picture that is missing", async () => {
    await expect(lumas(track("grey", "nowhere"))).rejects.toMatchObject({
      code: "missing-picture",
      values: { picture: "nowhere" },
    });
  });
});
