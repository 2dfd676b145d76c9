import { type FoundFace, type Size, turnBack, turnBox } from "@humming-tide/core/picture";
import type { Turn } from "@humming-tide/core/show";

/** A picture as RGB, row by row, three bytes a pixel. */
export interface FaceRaster extends Size {
  readonly pixels: Uint8Array;
}

/** Where a turned copy of a picture lies on the sheet, in pixels. */
interface TurnedPart extends Size {
  readonly x: number;
  readonly y: number;
  readonly turn: Exclude<Turn, 0>;
}

/**
 * The picture at half its size, turned to its three other sides, on one sheet that is no larger
 * than the square around the picture: one look of the network for all three. O(pixels).
 */
export function turnedParts(picture: FaceRaster): {
  readonly sheet: FaceRaster;
  readonly parts: readonly TurnedPart[];
} {
  const half = Math.floor(Math.max(picture.width, picture.height) / 2);
  const small = halved(picture);
  const sheet = { width: 2 * half, height: 2 * half, pixels: new Uint8Array(12 * half * half) };
  const parts = ([90, 180, 270] as const).map((turn, i): TurnedPart => {
    const isAcross = turn === 180;
    const size = isAcross ? { width: small.width, height: small.height } : { width: small.height, height: small.width };
    return { ...size, x: (i % 2) * half, y: Math.floor(i / 2) * half, turn };
  });
  for (const part of parts)
    for (let y = 0; y < part.height; y++)
      for (let x = 0; x < part.width; x++) {
        const [fromX, fromY] = placeBefore(part, x, y, small);
        const from = 3 * (fromY * small.width + fromX);
        const to = 3 * ((part.y + y) * sheet.width + part.x + x);
        for (let colour = 0; colour < 3; colour++) sheet.pixels[to + colour] = small.pixels[from + colour]!;
      }
  return { sheet, parts };
}

/** Which pixel of the picture stands at a place of its turned copy. */
function placeBefore({ turn }: TurnedPart, x: number, y: number, { width, height }: Size): [number, number] {
  if (turn === 90) return [y, height - 1 - x];
  return turn === 180 ? [width - 1 - x, height - 1 - y] : [width - 1 - y, x];
}

/** Each pixel is the mean of four. */
function halved({ width, height, pixels }: FaceRaster): FaceRaster {
  const [wide, high] = [Math.max(1, Math.floor(width / 2)), Math.max(1, Math.floor(height / 2))];
  const half = new Uint8Array(3 * wide * high);
  const [right, below] = [width > 1 ? 3 : 0, height > 1 ? 3 * width : 0];
  for (let y = 0; y < high; y++)
    for (let x = 0; x < wide; x++)
      for (let colour = 0; colour < 3; colour++) {
        const from = 3 * (2 * y * width + 2 * x) + colour;
        const sum = pixels[from]! + pixels[from + right]! + pixels[from + below]! + pixels[from + right + below]!;
        half[3 * (y * wide + x) + colour] = sum / 4;
      }
  return { width: wide, height: high, pixels: half };
}

/** The faces of a sheet whose middle lies in a part, in shares of the picture as it was. */
export function facesInPart(faces: readonly FoundFace[], sheet: Size, part: TurnedPart): FoundFace[] {
  return faces.flatMap(({ box, confidence }) => {
    const inPart = {
      x: (box.x * sheet.width - part.x) / part.width,
      y: (box.y * sheet.height - part.y) / part.height,
      width: (box.width * sheet.width) / part.width,
      height: (box.height * sheet.height) / part.height,
    };
    const [x, y] = [inPart.x + inPart.width / 2, inPart.y + inPart.height / 2];
    if (x < 0 || y < 0 || x >= 1 || y >= 1) return [];
    return [{ box: turnBox(inPart, turnBack(part.turn)), confidence, turn: part.turn }];
  });
}
