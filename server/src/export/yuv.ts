/**
 * RGBA to planar YUV 4:2:0 after ITU-R BT.709, limited range (16 to 235 and 240), in fixed point. Colour differences are the mean of each 2 x 2
 * block, left-centred offsets ignored as usual for MPEG-2-style 4:2:0 from graphics. Width and height must be even. `rgba` is opaque.
 */
export function rgbaToYuv420(rgba: Uint8Array, width: number, height: number, out: Uint8Array): void {
  const uOffset = width * height;
  const vOffset = uOffset + uOffset / 4;
  const pixels = new Uint32Array(rgba.buffer, rgba.byteOffset, width * height);
  for (let y = 0; y < height; y += 2) {
    let top = y * width;
    let chroma = (y >> 1) * (width >> 1);
    for (let x = 0; x < width; x += 2, top += 2, chroma++) {
      const below = top + width;
      // Little-endian words: red is the lowest byte.
      const a = pixels[top]!;
      const b = pixels[top + 1]!;
      const c = pixels[below]!;
      const d = pixels[below + 1]!;
      out[top] = (LUMA_R * (a & 255) + LUMA_G * ((a >> 8) & 255) + LUMA_B * ((a >> 16) & 255) + LUMA_OFFSET) >> 16;
      out[top + 1] = (LUMA_R * (b & 255) + LUMA_G * ((b >> 8) & 255) + LUMA_B * ((b >> 16) & 255) + LUMA_OFFSET) >> 16;
      out[below] = (LUMA_R * (c & 255) + LUMA_G * ((c >> 8) & 255) + LUMA_B * ((c >> 16) & 255) + LUMA_OFFSET) >> 16;
      out[below + 1] =
        (LUMA_R * (d & 255) + LUMA_G * ((d >> 8) & 255) + LUMA_B * ((d >> 16) & 255) + LUMA_OFFSET) >> 16;
      const red = (a & 255) + (b & 255) + (c & 255) + (d & 255);
      const green = ((a >> 8) & 255) + ((b >> 8) & 255) + ((c >> 8) & 255) + ((d >> 8) & 255);
      const blue = ((a >> 16) & 255) + ((b >> 16) & 255) + ((c >> 16) & 255) + ((d >> 16) & 255);
      out[uOffset + chroma] = (BLUE_R * red + BLUE_G * green + BLUE_B * blue + CHROMA_OFFSET) >> 18;
      out[vOffset + chroma] = (RED_R * red + RED_G * green + RED_B * blue + CHROMA_OFFSET) >> 18;
    }
  }
}

// BT.709: Kr = 0.2126, Kb = 0.0722; 16 fractional bits, scaled from 255 to 219 (luma) and 224 (chroma) steps.
const KR = 0.2126;
const KB = 0.0722;
const LUMA_SCALE = (65_536 * 219) / 255;
const CHROMA_SCALE = (65_536 * 224) / 255;
const LUMA_R = Math.round(LUMA_SCALE * KR);
const LUMA_B = Math.round(LUMA_SCALE * KB);
const LUMA_G = Math.round(LUMA_SCALE) - LUMA_R - LUMA_B;
const LUMA_OFFSET = (16 << 16) + (1 << 15);
const BLUE_B = Math.round(CHROMA_SCALE / 2);
const BLUE_R = -Math.round((CHROMA_SCALE * KR) / (2 * (1 - KB)));
const BLUE_G = -BLUE_B - BLUE_R;
const RED_R = Math.round(CHROMA_SCALE / 2);
const RED_B = -Math.round((CHROMA_SCALE * KB) / (2 * (1 - KR)));
const RED_G = -RED_R - RED_B;
// Sums of four pixels: two more bits.
const CHROMA_OFFSET = (128 << 18) + (1 << 17);
