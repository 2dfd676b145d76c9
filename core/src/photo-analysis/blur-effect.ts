import type { GreyPicture } from "./fingerprint.ts";

/** Width of the box that the picture is blurred again with: the paper's value. */
const BOX = 9;
/** Tiles a side: a picture with a soft background and one sharp face is sharp. */
const TILES = 4;

/**
 * How blurred a picture is, 0 sharp to 1 wholly soft, after Crété-Roffet, Dolmiere, Ladret &
 * Nicolas (2007, "The blur effect"): a sharp picture loses much of its pixel-to-pixel variation by
 * another blur, a blurred one little. Taken over tiles, and the sharpest tile with something in it
 * speaks for the picture. Meant for pictures of about 512 pixels. 1 for an even surface.
 */
export function blurEffect(picture: GreyPicture): number {
  const { width, height } = picture;
  const tileWidth = Math.floor(width / TILES);
  const tileHeight = Math.floor(height / TILES);
  const tiles = Array.from({ length: TILES * TILES }, () => ({ down: variation(), across: variation() }));
  const across = boxBlurred(picture, 1, 0);
  const down = boxBlurred(picture, 0, 1);
  const { pixels } = picture;
  for (let y = 1; y < tileHeight * TILES; y++) {
    for (let x = 1; x < tileWidth * TILES; x++) {
      const at = y * width + x;
      const tile = tiles[Math.floor(y / tileHeight) * TILES + Math.floor(x / tileWidth)]!;
      add(tile.across, Math.abs(pixels[at]! - pixels[at - 1]!), Math.abs(across[at]! - across[at - 1]!));
      add(tile.down, Math.abs(pixels[at]! - pixels[at - width]!), Math.abs(down[at]! - down[at - width]!));
    }
  }
  const liveliest = Math.max(...tiles.map(({ across: a, down: d }) => a.sharp + d.sharp));
  const eventful = Math.max(tileWidth * tileHeight * LEAST_VARIATION, liveliest * LEAST_SHARE);
  const blurs = tiles
    .filter(({ across: a, down: d }) => a.sharp + d.sharp >= eventful)
    .map(({ across: a, down: d }) => tileBlur(a, d));
  return blurs.length > 0 ? Math.min(...blurs) : 1;
}

/** Mean steps from pixel to pixel, of 255, below which a tile shows too little to be judged … */
const LEAST_VARIATION = 0.25;
/**
 * … and the share of the liveliest tile's below which it is noise in a night sky beside what the
 * picture shows.
 */
const LEAST_SHARE = 0.5;

/** A direction counts from this share of a tile's variation. */
const LEAST_DIRECTION = 0.2;

interface Variation {
  sharp: number;
  lost: number;
}
const variation = (): Variation => ({ sharp: 0, lost: 0 });

function add(sum: Variation, before: number, after: number): void {
  sum.sharp += before;
  sum.lost += Math.max(0, before - after);
}

/**
 * The direction that is more blurred speaks, as in the paper, unless hardly anything changes along
 * it: railings are not blurred.
 */
function tileBlur(a: Variation, b: Variation): number {
  const total = a.sharp + b.sharp;
  return Math.max(...[a, b].filter(({ sharp }) => sharp >= total * LEAST_DIRECTION).map(blurOf));
}

const blurOf = ({ sharp, lost }: Variation): number => (sharp > 0 ? (sharp - lost) / sharp : 1);

/** Mean over a line of BOX pixels along one axis; beyond the edge the edge goes on. */
function boxBlurred({ width, height, pixels }: GreyPicture, stepX: number, stepY: number): Float32Array {
  const result = new Float32Array(width * height);
  const half = (BOX - 1) / 2;
  const length = stepX ? width : height;
  const lines = stepX ? height : width;
  const stride = stepX ? 1 : width;
  for (let line = 0; line < lines; line++) {
    const start = stepX ? line * width : line * stepY;
    const value = (i: number): number => pixels[start + Math.max(0, Math.min(length - 1, i)) * stride]!;
    let sum = 0;
    for (let i = -half; i <= half; i++) sum += value(i);
    for (let i = 0; i < length; i++) {
      result[start + i * stride] = sum / BOX;
      sum += value(i + half + 1) - value(i - half);
    }
  }
  return result;
}
