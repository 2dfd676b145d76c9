/**
 * A frame of yuv420p, BT.709 and limited range, as RGBA; the colour of 2 x 2 pixels is the same for
 * each of them. Width and height are even.
 */
export function rgbaOfPlanes(
  yuv: Uint8Array,
  { width, height }: { readonly width: number; readonly height: number },
  rgba: Uint8Array,
): void {
  const across = width / 2;
  const blueAt = width * height;
  const redAt = blueAt + across * (height / 2);
  for (let y = 0, at = 0; y < height; y++) {
    const row = (y >> 1) * across;
    for (let x = 0; x < width; x++, at += 4) {
      const luma = (255 / 219) * (yuv[y * width + x]! - 16);
      const blue = (yuv[blueAt + row + (x >> 1)]! - 128) * (255 / 224);
      const red = (yuv[redAt + row + (x >> 1)]! - 128) * (255 / 224);
      rgba[at] = byte(luma + 1.5748 * red);
      rgba[at + 1] = byte(luma - 0.1873 * blue - 0.4681 * red);
      rgba[at + 2] = byte(luma + 1.8556 * blue);
      rgba[at + 3] = 255;
    }
  }
}

const byte = (value: number): number => (value <= 0 ? 0 : value >= 255 ? 255 : (value + 0.5) | 0);
