import { AreaSums, luma } from "../numeric/index.ts";
import type { Frames } from "../time/index.ts";

/**
 * Flashes after WCAG 2.2, success criterion 2.3.1 (general flash and red flash thresholds;
 * definition "general flash and red flash thresholds"; values from memory): nothing may flash more
 * than three times in any one second. That counts over more than a quarter of any 341 x 256 block
 * of a picture shown on 1024 x 768 pixels.
 *
 * - A general flash is a pair of opposing changes in relative luminance of 10 % or more of the
 *   maximum (1.0). The darker state is below 0.80.
 * - A red flash is a pair of opposing changes to and from a saturated red: R / (R + G + B) of at
 *   least 0.8 in linear light, with a change of more than 0.2 in the CIE 1976 UCS chromaticity
 *   diagram. Of reds too dark to be seen, (R - G - B) x 320 up to 20, nothing is made (WCAG 2.1's
 *   rule for the same).
 *
 * Every place of the picture is watched by itself: eight opposing changes within less than a second
 * are four flashes. Places that do so within the same second count together for the area.
 */
export const MOST_FLASHES = 3;
const LEAST_LUMINANCE_CHANGE = 0.1;
const DARKER_BELOW = 0.8;
const RED_SHARE = 0.8;
const LEAST_RED = 20 / 320;
const LEAST_CHROMATICITY_CHANGE = 0.2;
/** Of 1024 x 768: 341 x 256 of it is a block, of which more than a quarter has to flash. */
const SCREEN = { width: 1024, height: 768 };
const BLOCK = { width: 341, height: 256 };
const LARGEST_SHARE = 0.25;
/** Four flashes are eight changes. */
const CHANGES = 2 * (MOST_FLASHES + 1);

/** A stretch of a film in which it flashes too often. */
export interface FlashStretch {
  readonly kind: "general" | "red";
  /** The frame of the first change, and the frame behind the last one. */
  readonly startFrame: Frames;
  readonly endFrame: Frames;
  /** The largest share of a block that flashed together, above 0.25. */
  readonly share: number;
}

/**
 * The size that frames of a film are looked at in: a quarter of what it has on the screen that the
 * rule is about. Even, so that it can be drawn as video.
 */
export function flashSize({ width, height }: { readonly width: number; readonly height: number }): {
  readonly width: number;
  readonly height: number;
} {
  const scale = Math.min(SCREEN.width / width, SCREEN.height / height) / 4;
  const even = (length: number): number => Math.max(2, 2 * Math.round((length * scale) / 2));
  return { width: even(width), height: even(height) };
}

/** sRGB to linear light (IEC 61966-2-1), for the 256 code values. */
const LINEAR = Float32Array.from({ length: 256 }, (_, code) => {
  const value = code / 255;
  return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
});

/** u', v' of the sRGB red primary and of white (D65). */
const RED = { u: 0.4507, v: 0.5229 };
const WHITE = { u: 0.1978, v: 0.4683 };

/**
 * Watches the frames of a film in order. Memory: about 90 bytes a pixel; time: a few operations a
 * pixel and frame.
 */
export class FlashWatch {
  readonly #width: number;
  readonly #height: number;
  readonly #framesPerSecond: number;
  readonly #general: Changes;
  readonly #red: Changes;
  /**
   * The last extreme in the direction in which a pixel went last; two of them while it has no
   * direction.
   */
  readonly #extreme: Float32Array;
  readonly #other: Float32Array;
  readonly #direction: Int8Array;
  readonly #isRed: Uint8Array;
  /** The most telling chromaticity since the pixel became red, or ceased to be. */
  readonly #u: Float32Array;
  readonly #v: Float32Array;
  readonly #found: FlashStretch[] = [];
  #frame = 0;

  /** Sizes of `flashSize`. */
  constructor(size: { readonly width: number; readonly height: number }, framesPerSecond: number) {
    const pixels = size.width * size.height;
    this.#width = size.width;
    this.#height = size.height;
    this.#framesPerSecond = framesPerSecond;
    this.#general = new Changes(pixels);
    this.#red = new Changes(pixels);
    this.#extreme = new Float32Array(pixels);
    this.#other = new Float32Array(pixels);
    this.#direction = new Int8Array(pixels);
    this.#isRed = new Uint8Array(pixels);
    this.#u = new Float32Array(pixels);
    this.#v = new Float32Array(pixels);
  }

  /** The next frame, four bytes a pixel: red, green, blue and one that is passed over. */
  see(rgba: Uint8Array | Uint8ClampedArray): void {
    const frame = this.#frame++;
    let flashing = false;
    for (let pixel = 0, at = 0; pixel < this.#direction.length; pixel++, at += 4) {
      const red = LINEAR[rgba[at]!]!;
      const green = LINEAR[rgba[at + 1]!]!;
      const blue = LINEAR[rgba[at + 2]!]!;
      const luminance = luma(red, green, blue);
      if (this.#seeLuminance(pixel, luminance, frame)) flashing = true;
      if (this.#seeRed(pixel, red, green, blue, frame)) flashing = true;
    }
    if (!flashing) return;
    this.#judge("general", this.#general, frame);
    this.#judge("red", this.#red, frame);
  }

  /** As many frames that look as the last one. */
  repeat(count = 1): void {
    this.#frame += count;
  }

  /** Stretches that flash too often, in order. */
  get found(): readonly FlashStretch[] {
    return this.#found;
  }

  /** Whether the pixel has now flashed more often than it may. */
  #seeLuminance(pixel: number, luminance: number, frame: Frames): boolean {
    if (frame === 0) {
      this.#extreme[pixel] = luminance;
      this.#other[pixel] = luminance;
      return false;
    }
    const direction = this.#direction[pixel]!;
    const highest = direction === 0 ? this.#other[pixel]! : this.#extreme[pixel]!;
    const lowest = this.#extreme[pixel]!;
    // 10 % of the maximum, in numbers that are kept in single precision.
    if (direction <= 0 && luminance - lowest >= LEAST_LUMINANCE_CHANGE - 1e-6 && lowest < DARKER_BELOW) {
      this.#direction[pixel] = 1;
      this.#extreme[pixel] = luminance;
      return this.#general.note(pixel, frame, this.#framesPerSecond);
    }
    if (direction >= 0 && highest - luminance >= LEAST_LUMINANCE_CHANGE - 1e-6 && luminance < DARKER_BELOW) {
      this.#direction[pixel] = -1;
      this.#extreme[pixel] = luminance;
      return this.#general.note(pixel, frame, this.#framesPerSecond);
    }
    if (direction === 0) {
      if (luminance < lowest) this.#extreme[pixel] = luminance;
      if (luminance > highest) this.#other[pixel] = luminance;
    } else if (direction > 0 ? luminance > lowest : luminance < lowest) this.#extreme[pixel] = luminance;
    return false;
  }

  #seeRed(pixel: number, red: number, green: number, blue: number, frame: Frames): boolean {
    const sum = red + green + blue;
    const isRed = sum > 0 && red >= RED_SHARE * sum && red - green - blue > LEAST_RED;
    const wasRed = this.#isRed[pixel] === 1;
    // Most pixels are never red: of those only the colour that is furthest from red is kept, for
    // when they become so.
    let [u, v] = [WHITE.u, WHITE.v];
    if (sum > 0) {
      const x = 0.4124 * red + 0.3576 * green + 0.1805 * blue;
      const y = luma(red, green, blue);
      const z = 0.0193 * red + 0.1192 * green + 0.9505 * blue;
      const all = x + 15 * y + 3 * z;
      u = (4 * x) / all;
      v = (9 * y) / all;
    }
    if (frame === 0) {
      this.#isRed[pixel] = isRed ? 1 : 0;
      this.#u[pixel] = u;
      this.#v[pixel] = v;
      return false;
    }
    const [keptU, keptV] = [this.#u[pixel]!, this.#v[pixel]!];
    const change = squared(u - keptU, v - keptV);
    const turns = isRed !== wasRed && change > LEAST_CHROMATICITY_CHANGE ** 2;
    const kept = squared(keptU - RED.u, keptV - RED.v);
    const now = squared(u - RED.u, v - RED.v);
    // On the way the extreme is kept: the reddest of the reds, the least red of the others.
    if (turns || (wasRed ? now < kept : now > kept)) {
      this.#u[pixel] = u;
      this.#v[pixel] = v;
    }
    if (!turns) return false;
    this.#isRed[pixel] = isRed ? 1 : 0;
    return this.#red.note(pixel, frame, this.#framesPerSecond);
  }

  /**
   * Whether places that flashed too often within the last second take more than a quarter of any
   * block.
   */
  #judge(kind: FlashStretch["kind"], changes: Changes, frame: Frames): void {
    const share = this.#largestShare(changes, frame);
    if (share <= LARGEST_SHARE) return;
    const last = this.#found.findLast((stretch) => stretch.kind === kind);
    const startFrame = changes.earliest(frame, this.#framesPerSecond);
    if (last && startFrame <= last.endFrame) {
      this.#found[this.#found.indexOf(last)] = {
        ...last,
        endFrame: frame + 1,
        share: Math.max(last.share, share),
      };
    } else this.#found.push({ kind, startFrame, endFrame: frame + 1, share });
  }

  #largestShare(changes: Changes, frame: Frames): number {
    const [width, height] = [this.#width, this.#height];
    const across = Math.min(width, Math.round(BLOCK.width / 4));
    const down = Math.min(height, Math.round(BLOCK.height / 4));
    const flashed = new AreaSums(width, height, (pixel) =>
      changes.flashedWithin(pixel, frame, this.#framesPerSecond) ? 1 : 0,
    );
    let largest = 0;
    for (let bottom = down; bottom <= height; bottom++)
      for (let right = across; right <= width; right++) {
        largest = Math.max(largest, flashed.sum(right - across, bottom - down, right, bottom));
      }
    // A picture smaller than a block covers only so much of it.
    return largest / ((BLOCK.width * BLOCK.height) / 16);
  }
}

const squared = (a: number, b: number): number => a * a + b * b;

const NEVER = -1_000_000;

/** When each pixel changed: its last changes, and when it last had flashed too often. */
class Changes {
  /** The frames of the last eight changes of each pixel, as a ring. */
  readonly #frames: Int32Array;
  readonly #next: Uint8Array;
  readonly #flashed: Int32Array;
  readonly #began: Int32Array;

  constructor(pixels: number) {
    this.#frames = new Int32Array(pixels * CHANGES).fill(NEVER);
    this.#next = new Uint8Array(pixels);
    this.#flashed = new Int32Array(pixels).fill(NEVER);
    this.#began = new Int32Array(pixels).fill(NEVER);
  }

  /** A change of a pixel; whether it is the eighth within less than a second. */
  note(pixel: number, frame: Frames, framesPerSecond: number): boolean {
    const slot = pixel * CHANGES + this.#next[pixel]!;
    this.#frames[slot] = frame;
    this.#next[pixel] = (this.#next[pixel]! + 1) % CHANGES;
    const eighth = this.#frames[pixel * CHANGES + this.#next[pixel]]!;
    if (frame - eighth >= framesPerSecond) return false;
    this.#flashed[pixel] = frame;
    this.#began[pixel] = eighth;
    return true;
  }

  flashedWithin(pixel: number, frame: Frames, framesPerSecond: number): boolean {
    return frame - this.#flashed[pixel]! < framesPerSecond;
  }

  /** The first change of all that flashed within the last second. */
  earliest(frame: Frames, framesPerSecond: number): number {
    let earliest = frame;
    for (let pixel = 0; pixel < this.#began.length; pixel++)
      if (this.flashedWithin(pixel, frame, framesPerSecond)) earliest = Math.min(earliest, this.#began[pixel]!);
    return earliest;
  }
}
