import { itemAt, lastOf } from "@humming-tide/core/presence";
import type { PlaneMemory } from "./plane-memory.ts";

/**
 * Planes of one size: luma, the two colour differences at half of it, and for what is not opaque
 * the alpha of both.
 */
export interface Planes {
  readonly width: number;
  readonly height: number;
  readonly luma: number;
  readonly blue: number;
  readonly red: number;
  readonly alpha: { readonly full: number; readonly half: number } | null;
}

export const halfOf = (length: number): number => (length + 1) >> 1;

const bytesOf = (width: number, height: number): number => width * height + 2 * halfOf(width) * halfOf(height);

/** Pixels as a canvas keeps them. */
export interface RgbaPixels {
  readonly width: number;
  readonly height: number;
  /** Premultiplied. */
  readonly rgba: Uint8Array | Uint8ClampedArray;
  readonly opaque: boolean;
}

/**
 * An image in planes, and smaller copies of it, each half as wide and high as the one before. They
 * are made when they are first drawn from.
 */
export class PlanarImage {
  readonly #memory: PlaneMemory;
  readonly #levels: Planes[];
  readonly #owned: number[] = [];

  private constructor(memory: PlaneMemory, planes: Planes) {
    this.#memory = memory;
    this.#levels = [planes];
  }

  /** Of pixels; the caller releases it. */
  static of(memory: PlaneMemory, { width, height, rgba, opaque }: RgbaPixels): PlanarImage {
    const planes = allocatePlanes(memory, width, height, !opaque);
    writePixels(memory, planes, rgba);
    const image = new PlanarImage(memory, planes);
    image.#own(planes);
    return image;
  }

  /**
   * Of planes that belong to someone else. It has no smaller copies: those would be old with the
   * next change.
   */
  static over(memory: PlaneMemory, planes: Planes): PlanarImage {
    return new PlanarImage(memory, planes);
  }

  /**
   * The copy to draw at a scale (pixels drawn for each of the image), and how much smaller it is:
   * the one whose scale is nearest to 1, as canvases of medium quality take it. Sizes are halved
   * and rounded up, so that a place in one is half of that in the one before.
   */
  levelFor(scale: number): { readonly planes: Planes; readonly shrunk: number } {
    const wanted = this.#owned.length === 0 ? 0 : Math.max(0, Math.round(-Math.log2(scale)));
    while (this.#levels.length <= wanted) {
      const last = lastOf(this.#levels);
      if (last.width <= 1 || last.height <= 1) break;
      this.#levels.push(this.#half(last));
    }
    const level = Math.min(wanted, this.#levels.length - 1);
    return { planes: itemAt(this.#levels, level), shrunk: 2 ** -level };
  }

  release(): void {
    for (const place of this.#owned) this.#memory.release(place);
    this.#owned.length = 0;
  }

  #half(from: Planes): Planes {
    const { run } = this.#memory;
    const to = allocatePlanes(this.#memory, halfOf(from.width), halfOf(from.height), from.alpha !== null);
    const [halfWidth, halfHeight] = [halfOf(from.width), halfOf(from.height)];
    run.halvePlane(from.luma, from.width, from.height, to.luma);
    run.halvePlane(from.blue, halfWidth, halfHeight, to.blue);
    run.halvePlane(from.red, halfWidth, halfHeight, to.red);
    if (from.alpha && to.alpha) {
      run.halvePlane(from.alpha.full, from.width, from.height, to.alpha.full);
      run.halvePlane(from.alpha.half, halfWidth, halfHeight, to.alpha.half);
    }
    this.#own(to);
    return to;
  }

  #own({ luma, alpha }: Planes): void {
    this.#owned.push(luma);
    if (alpha) this.#owned.push(alpha.full);
  }
}

/**
 * Luma and colour differences one behind the other, as a frame of video lies in a file; alpha by
 * itself.
 */
export function allocatePlanes(memory: PlaneMemory, width: number, height: number, hasAlpha: boolean): Planes {
  const place = memory.allocate(bytesOf(width, height));
  const full = hasAlpha ? memory.allocate(width * height + halfOf(width) * halfOf(height)) : 0;
  const blue = place + width * height;
  return {
    width,
    height,
    luma: place,
    blue,
    red: blue + halfOf(width) * halfOf(height),
    alpha: hasAlpha ? { full, half: full + width * height } : null,
  };
}

/** Of as many pixels as the planes have; premultiplied RGBA. */
export function writePixels(memory: PlaneMemory, planes: Planes, rgba: Uint8Array | Uint8ClampedArray): void {
  const { width, height, luma, blue, red, alpha } = planes;
  const pixels = memory.allocate(rgba.length);
  memory.bytes(pixels, rgba.length).set(rgba);
  memory.run.planesOfRgba(pixels, width, height, luma, blue, red);
  if (alpha) memory.run.alphaOfRgba(pixels, width, height, alpha.full, alpha.half);
  memory.release(pixels);
}
