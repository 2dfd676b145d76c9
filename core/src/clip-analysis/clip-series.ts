import type { Seconds } from "../time/index.ts";
import { type FrameLevels, type FrameSize, frameLevels, motionBetween } from "./frame-motion.ts";

/** Frames a second that a clip is looked at. */
export const WATCHED_RATE = 25;
export const WATCHED_STEP_SECONDS = 1 / WATCHED_RATE;
/** The longer side of a frame as it is looked at, in pixels. */
const LONGER_SIDE = 96;
const SHORTEST_SIDE = 24;

/** Size of a frame as it is looked at. */
export function watchedSize({ width, height }: FrameSize): FrameSize {
  const scale = LONGER_SIDE / Math.max(width, height);
  const side = (length: number): number => Math.max(SHORTEST_SIDE, Math.round(length * scale));
  return { width: side(width), height: side(height) };
}

/** What is seen of a clip, a number for each step; step k lies at k steps of its own time. */
export interface ClipSeries {
  /** What moves by itself, the camera's motion taken off: see FrameMotion. 0 for the first. */
  readonly movement: readonly number[];
  /** Speed of the camera, in shares of the longer side a second. 0 for the first. */
  readonly cameraX: readonly number[];
  readonly cameraY: readonly number[];
  /** Mean of all pixels, 0 to 255. */
  readonly brightness: readonly number[];
}

/** Watches a clip frame by frame. Memory: four numbers a step. */
export class ClipWatch {
  readonly #size: FrameSize;
  #last: FrameLevels | null = null;
  readonly #movement: number[] = [];
  readonly #cameraX: number[] = [];
  readonly #cameraY: number[] = [];
  readonly #brightness: number[] = [];

  /** `size` is that of `watchedSize`. */
  constructor(size: FrameSize) {
    this.#size = size;
  }

  /** The next step's frame, grey, a byte a pixel. */
  add(pixels: Uint8Array): void {
    const values = Float32Array.from(pixels);
    const levels = frameLevels({ ...this.#size, values });
    const motion = this.#last ? motionBetween(this.#last, levels) : { x: 0, y: 0, ownMovement: 0 };
    this.#last = levels;
    this.#movement.push(motion.ownMovement);
    this.#cameraX.push(motion.x * WATCHED_RATE);
    this.#cameraY.push(motion.y * WATCHED_RATE);
    this.#brightness.push(values.reduce((sum, value) => sum + value, 0) / values.length);
  }

  get seconds(): Seconds {
    return this.#movement.length * WATCHED_STEP_SECONDS;
  }

  result(): ClipSeries {
    return {
      movement: this.#movement,
      cameraX: this.#cameraX,
      cameraY: this.#cameraY,
      brightness: this.#brightness,
    };
  }
}
