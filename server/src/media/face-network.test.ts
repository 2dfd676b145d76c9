import { present } from "@humming-tide/core/presence";
import { Tensor } from "onnxruntime-node";
import Retinaface from "retinaface";
import sharp from "sharp";
import { describe, expect, it } from "vitest";
import { drawnFaces } from "../testing/drawn-faces.ts";
import { lookForFaces } from "../workers/look-for-faces.ts";
import { FACE_PIXELS, facesOf } from "./face-network.ts";
import { measureSubject } from "./picture-files.ts";
import { facesInPart, turnedParts } from "./turned-parts.ts";

/** Outputs as the network gives them, with faces by chance. */
function anyOutputs(seed: number): Record<string, Tensor> {
  let state = seed;
  const random = (): number => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
  const outputs: Record<string, Tensor> = {};
  for (const stride of [32, 16, 8]) {
    const side = FACE_PIXELS / stride;
    const tensor = (channels: number, value: () => number): Tensor =>
      new Tensor("float32", Float32Array.from({ length: channels * side * side }, value), [1, channels, side, side]);
    outputs[`face_rpn_cls_prob_reshape_stride${stride}`] = tensor(4, () => random() ** 0.02 * random());
    outputs[`face_rpn_bbox_pred_stride${stride}`] = tensor(8, () => 0.6 * random() - 0.3);
    outputs[`face_rpn_landmark_pred_stride${stride}`] = tensor(20, random);
  }
  return outputs;
}

const rasterOf = async (
  drawing: Promise<Buffer>,
  turn = 0,
): Promise<{ width: number; height: number; pixels: Uint8Array }> => {
  const { data, info } = await sharp(await drawing)
    .rotate(turn)
    .removeAlpha()
    .resize(FACE_PIXELS, FACE_PIXELS, { fit: "inside" })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, pixels: new Uint8Array(data) };
};
const SIZE = { width: 900, height: 600 };
const FACE = { x: 330, y: 330, radius: 220 };

describe("the face network", () => {
  it("is read as the package that ships it reads it", async () => {
    for (const seed of [1, 2, 3]) {
      const outputs = anyOutputs(seed);
      const theirs = await new Retinaface({ run: () => Promise.resolve(outputs) } as never, Tensor).detect(
        { width: FACE_PIXELS, height: FACE_PIXELS, data: new Uint8ClampedArray(4 * FACE_PIXELS ** 2) },
        1,
        0.99,
        0.4,
      );
      // The package keeps boxes within the picture; ours may reach beyond it.
      const inside = ([left, top, right, bottom]: number[]): number[] =>
        [left, top, right, bottom].map((at) => Math.max(0, Math.min(FACE_PIXELS - 1, present(at))));
      const ours = facesOf(outputs, { width: FACE_PIXELS, height: FACE_PIXELS }, 0.99).map(({ box }) =>
        inside([box.x, box.y, box.x + box.width, box.y + box.height].map((at) => at * FACE_PIXELS)),
      );
      expect(ours.length).toBeGreaterThan(20);
      expect(ours.length).toBe(theirs.length);
      for (const [i, face] of theirs.entries())
        for (const [side, at] of (face.rect as number[]).entries()) expect(ours[i]?.[side]).toBeCloseTo(at, 2);
    }
  });

  it("finds a drawn face where it was drawn, whichever way the picture lies", async () => {
    for (const turn of [0, 90, 180, 270]) {
      const picture = await asPng(await rasterOf(drawnFaces(SIZE, [FACE]), turn));
      const { heads } = await measureSubject(sharp(picture));
      expect([turn, heads?.length]).toEqual([turn, 1]);
      const head = present(heads?.[0]);
      const [x, y] = [head.x + head.width / 2, head.y + head.height / 2];
      // The whole head, hair included, has its middle above that of the face.
      const drawn = { x: FACE.x / SIZE.width, y: (FACE.y - 0.2 * FACE.radius) / SIZE.height };
      const there = {
        0: [drawn.x, drawn.y],
        90: [1 - drawn.y, drawn.x],
        180: [1 - drawn.x, 1 - drawn.y],
        270: [drawn.y, 1 - drawn.x],
      };
      const [wantedX, wantedY] = present(there[turn as keyof typeof there]);
      expect(Math.abs(x - present(wantedX))).toBeLessThan(0.07);
      expect(Math.abs(y - present(wantedY))).toBeLessThan(0.07);
      // As high as it was drawn, from the hair (140) to the chin (100).
      const high = turn % 180 === 0 ? head.height * SIZE.height : head.width * SIZE.height;
      expect(high / (2.4 * FACE.radius)).toBeGreaterThan(0.8);
      expect(high / (2.4 * FACE.radius)).toBeLessThan(1.2);
    }
  });

  it("finds several, and none where there is none", async () => {
    const three = [160, 450, 740].map((x) => ({ x, y: 240, radius: 100 }));
    expect((await measureSubject(sharp(await drawnFaces(SIZE, three)))).heads).toHaveLength(3);
    expect((await measureSubject(sharp(await drawnFaces(SIZE, [])))).heads).toEqual([]);
  });

  it("is softer where its heads are, however sharp the rest is, and as soft as it was in another size", async () => {
    const two = [260, 640].map((x) => ({ x, y: 240, radius: 120 }));
    const picture = await drawnFaces(SIZE, two);
    const soft = async (sigma: number): Promise<Buffer> => {
      const faces = await sharp(picture)
        .blur(sigma)
        .extract({ left: 0, top: 60, width: SIZE.width, height: 330 })
        .toBuffer();
      return sharp(picture)
        .composite([{ input: faces, left: 0, top: 60 }])
        .png()
        .toBuffer();
    };
    const measured = [
      await measureSubject(sharp(picture)),
      await measureSubject(sharp(await soft(2))),
      await measureSubject(sharp(await soft(4))),
    ].map(({ headBlur }) => present(headBlur));
    expect(measured).toEqual([...measured].sort((a, b) => a - b));
    expect(present(measured[2]) - present(measured[0])).toBeGreaterThan(0.1);
    expect((await measureSubject(sharp(await drawnFaces(SIZE, [])))).headBlur).toBeUndefined();
  });

  it("answers questions that overlap, each with its own", async () => {
    const [one, none, two] = await Promise.all([
      rasterOf(drawnFaces(SIZE, [FACE])).then(lookForFaces),
      rasterOf(drawnFaces(SIZE, [])).then(lookForFaces),
      rasterOf(
        drawnFaces(SIZE, [
          { ...FACE, x: 220, radius: 130 },
          { ...FACE, x: 660, radius: 130 },
        ]),
      ).then(lookForFaces),
    ]);
    expect([one?.length, none?.length, two?.length]).toEqual([1, 0, 2]);
  });
});

const asPng = ({ width, height, pixels }: { width: number; height: number; pixels: Uint8Array }): Promise<Buffer> =>
  sharp(pixels, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();

describe("turned copies on a sheet", () => {
  it("are what an image library makes of the picture", async () => {
    const picture = await rasterOf(drawnFaces({ width: 640, height: 420 }, [{ x: 200, y: 200, radius: 90 }]));
    const { sheet, parts } = turnedParts(picture);
    expect([sheet.width, sheet.height]).toEqual([640, 640]);
    for (const part of parts) {
      const small = await sharp(await asPng(picture))
        .resize(320, 210)
        .png()
        .toBuffer();
      const wanted = await sharp(small).rotate(part.turn).removeAlpha().raw().toBuffer();
      let off = 0;
      for (let y = 0; y < part.height; y++)
        for (let x = 0; x < part.width; x++)
          for (let colour = 0; colour < 3; colour++)
            off += Math.abs(
              present(sheet.pixels[3 * ((part.y + y) * sheet.width + part.x + x) + colour]) -
                present(wanted[3 * (y * part.width + x) + colour]),
            );
      expect(off / (3 * part.width * part.height)).toBeLessThan(2);
    }
  });

  it("give a face back to its place in the picture", () => {
    const { sheet, parts } = turnedParts({ width: 400, height: 200, pixels: new Uint8Array(3 * 400 * 200) });
    const found = { confidence: 1, turn: 0 as const };
    const places = parts.map((part) => {
      // In the upper left quarter of the turned copy.
      const box = {
        x: (part.x + part.width / 8) / sheet.width,
        y: (part.y + part.height / 8) / sheet.height,
        width: part.width / 4 / sheet.width,
        height: part.height / 4 / sheet.height,
      };
      const [face] = facesInPart([{ ...found, box }], sheet, part);
      const { x, y, width, height } = present(face).box;
      return [present(face).turn, x + width / 2, y + height / 2];
    });
    // Upper left after a quarter turn clockwise was lower left, after three was upper right.
    expect(places).toEqual([
      [90, 0.25, 0.75],
      [180, 0.75, 0.75],
      [270, 0.75, 0.25],
    ]);
  });
});
