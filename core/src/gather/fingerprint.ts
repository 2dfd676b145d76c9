/** A picture in grey, row by row, 0 to 255. */
export interface GreyPicture {
  readonly width: number;
  readonly height: number;
  readonly pixels: ArrayLike<number>;
}

/** What `fingerprint` wants: one column more than there are bits in a row. */
export const FINGERPRINT_SIZE = { width: 17, height: 16 } as const;

/**
 * A difference hash: whether each of 16 x 16 places is brighter than its right neighbour, in a picture shrunk to 17 x 16. Pictures
 * that look alike differ in few bits, whatever their size, compression or brightness. 64 hexadecimal digits.
 */
export function fingerprint({ width, height, pixels }: GreyPicture): string {
  let digits = "";
  let nibble = 0;
  let bits = 0;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width - 1; x++) {
      nibble = (nibble << 1) | (pixels[y * width + x]! > pixels[y * width + x + 1]! ? 1 : 0);
      if (++bits % 4 === 0) {
        digits += nibble.toString(16);
        nibble = 0;
      }
    }
  }
  return digits;
}

/** Differing bits of two fingerprints, as a share: 0 alike, about 0.5 unrelated. */
export function fingerprintDistance(a: string, b: string): number {
  let differing = 0;
  for (let i = 0; i < a.length; i += 8) {
    let bits = Number.parseInt(a.slice(i, i + 8), 16) ^ Number.parseInt(b.slice(i, i + 8), 16);
    // Pairs, fours, bytes, sum: the usual way to count set bits in 32.
    bits -= (bits >>> 1) & 0x55555555;
    bits = (bits & 0x33333333) + ((bits >>> 2) & 0x33333333);
    differing += Math.imul((bits + (bits >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
  }
  return differing / (a.length * 4);
}
