import type { Size } from "./geometry.ts";

/** Each goes over the picture once, in turn from its first pixel and from its last. */
const PASSES = 3;

/**
 * For each pixel the smallest step of colour that a path from the picture's edge must take to reach
 * it, the planes' steps added: minimum barrier distance by raster scans (Zhang et al., "Minimum
 * barrier salient object detection at 80 FPS", ICCV 2015). 0 on the edge itself. O(pixels).
 */
export function barrierDistance(planes: readonly Float64Array[], size: Size): Float64Array {
  const sum = new Float64Array(size.width * size.height);
  for (const plane of planes) {
    const distance = distanceIn(plane, size);
    for (let i = 0; i < sum.length; i++) sum[i]! += distance[i]!;
  }
  return sum;
}

function distanceIn(plane: Float64Array, { width, height }: Size): Float64Array {
  const distance = new Float64Array(plane.length).fill(Number.POSITIVE_INFINITY);
  // The highest and lowest value along the best path so far.
  const highest = plane.slice();
  const lowest = plane.slice();
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) distance[y * width + x] = 0;
  const comeFrom = (i: number, neighbour: number): void => {
    const high = Math.max(highest[neighbour]!, plane[i]!);
    const low = Math.min(lowest[neighbour]!, plane[i]!);
    if (high - low >= distance[i]!) return;
    distance[i] = high - low;
    highest[i] = high;
    lowest[i] = low;
  };
  for (let pass = 0; pass < PASSES; pass++) {
    const step = pass % 2 === 0 ? 1 : -1;
    for (let row = 1; row < height - 1; row++)
      for (let column = 1; column < width - 1; column++) {
        const i = step === 1 ? row * width + column : (height - 1 - row) * width + width - 1 - column;
        comeFrom(i, i - step);
        comeFrom(i, i - step * width);
      }
  }
  return distance;
}
