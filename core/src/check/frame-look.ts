/** Frames are looked at this small: enough to tell pictures apart, little enough for an hour of film. Three planes (Y, U, V) one behind the other. */
export const LOOK = { width: 64, height: 36, bytes: 64 * 36 * 3 } as const;

/** A frame in planar YUV 4:2:0 as small as all frames are looked at: means over the pixels of each cell. Width and height even, at least those of a look's chroma. */
export function lookOfYuv420(yuv: Uint8Array, width: number, height: number): Uint8Array {
  const look = new Uint8Array(LOOK.bytes);
  const cells = LOOK.width * LOOK.height;
  const chroma = (width * height) / 4;
  meanCells(yuv.subarray(0, width * height), width, height, look.subarray(0, cells));
  for (const plane of [0, 1]) {
    const from = width * height + plane * chroma;
    const cellFrom = (1 + plane) * cells;
    meanCells(yuv.subarray(from, from + chroma), width / 2, height / 2, look.subarray(cellFrom, cellFrom + cells));
  }
  return look;
}

function meanCells(plane: Uint8Array, width: number, height: number, cells: Uint8Array): void {
  for (let row = 0; row < LOOK.height; row++) {
    const top = Math.min(height - 1, Math.floor((row * height) / LOOK.height));
    const bottom = Math.max(top + 1, Math.floor(((row + 1) * height) / LOOK.height));
    for (let column = 0; column < LOOK.width; column++) {
      const left = Math.min(width - 1, Math.floor((column * width) / LOOK.width));
      const right = Math.max(left + 1, Math.floor(((column + 1) * width) / LOOK.width));
      let sum = 0;
      for (let y = top; y < bottom; y++) for (let i = y * width + left; i < y * width + right; i++) sum += plane[i]!;
      cells[row * LOOK.width + column] = Math.round(sum / ((bottom - top) * (right - left)));
    }
  }
}
