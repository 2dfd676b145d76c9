/**
 * Sums over rectangles of a plane, each in four reads (a summed-area table: Crow, "Summed-area
 * tables for texture mapping", 1984).
 */
export class AreaSums {
  readonly #stride: number;
  readonly #sums: Float64Array;

  /** `valueAt(i)`: of the pixel at `i = y * width + x`. O(width * height). */
  constructor(width: number, height: number, valueAt: (index: number) => number) {
    this.#stride = width + 1;
    this.#sums = new Float64Array((width + 1) * (height + 1));
    for (let y = 0; y < height; y++) {
      let row = 0;
      for (let x = 0; x < width; x++) {
        row += valueAt(y * width + x);
        this.#sums[(y + 1) * this.#stride + x + 1] = this.#sums[y * this.#stride + x + 1]! + row;
      }
    }
  }

  /** Over `left <= x < right` and `top <= y < bottom`, whole numbers within the plane. */
  sum(left: number, top: number, right: number, bottom: number): number {
    const [above, below] = [top * this.#stride, bottom * this.#stride];
    const sums = this.#sums;
    return sums[below + right]! - sums[above + right]! - sums[below + left]! + sums[above + left]!;
  }
}
