import { SMALL_FRAME } from "@humming-tide/core/measure";
import { luma } from "@humming-tide/core/numeric";
import type { Surface2D } from "@humming-tide/core/picture";
import { allocatePlanes, halfOf, type PlanarImage, type Planes, writePixels } from "./planar-image.ts";
import type { PlaneMemory } from "./plane-memory.ts";

interface Edges {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** YUV of a colour "#rrggbb" after BT.709, limited range. */
function yuvOf(colour: string): readonly [number, number, number] {
  const match = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(colour);
  if (!match) throw notHere(`the colour "${colour}"`);
  const [r, g, b] = match.slice(1).map((part) => Number.parseInt(part, 16) / 255) as [number, number, number];
  const y = luma(r, g, b);
  return [
    Math.round(16 + 219 * y),
    Math.round(128 + (224 * (b - y)) / 1.8556),
    Math.round(128 + (224 * (r - y)) / 1.5748),
  ];
}

/** A bug: whoever draws asks drawsInPlanes first. */
const notHere = (what: string): Error =>
  new Error(
    `Frames drawn straight into video planes have no ${what}: such a frame is drawn on a canvas (drawsInPlanes tells which).`,
  );

/**
 * A frame of 4:2:0 video to draw on: pictures, words and plain colours go straight into its planes,
 * in a third of the time of a canvas and its conversion. Paths are rectangles and only clip.
 * Clearing makes black: planes of a frame have no alpha. Anything else throws.
 */
export class PlanarSurface implements Surface2D<PlanarImage> {
  globalAlpha = 1;
  globalCompositeOperation = "source-over";
  fillStyle: unknown = "#000000";
  strokeStyle: unknown = "#000000";
  lineWidth = 1;
  lineJoin: "round" | "bevel" | "miter" = "miter";
  imageSmoothingEnabled = true;
  imageSmoothingQuality: "low" | "medium" | "high" = "medium";

  readonly planes: Planes;
  readonly #memory: PlaneMemory;
  #clip: Edges;
  readonly #clips: Edges[] = [];
  #path: { x: number; y: number }[] = [];

  /** `width` and `height` are even. */
  constructor(memory: PlaneMemory, width: number, height: number) {
    this.#memory = memory;
    this.planes = allocatePlanes(memory, width, height, false);
    this.#clip = { left: 0, top: 0, right: width, bottom: height };
  }

  /** The frame as it lies in a file of yuv420p: as it is now, not to be kept. */
  frame(): Uint8Array {
    const { width, height, luma } = this.planes;
    return this.#memory.bytes(luma, (width * height * 3) / 2);
  }

  /** The frame, shrunk to what measuring wants (core/measure). */
  smallFrame(): Uint8Array {
    const { width, height, luma, blue, red } = this.planes;
    const cells = SMALL_FRAME.width * SMALL_FRAME.height;
    const place = this.#memory.allocate(SMALL_FRAME.bytes);
    const mean = (plane: number, across: number, down: number, to: number): void =>
      this.#memory.run.meanCells(plane, across, down, SMALL_FRAME.width, SMALL_FRAME.height, to);
    mean(luma, width, height, place);
    mean(blue, halfOf(width), halfOf(height), place + cells);
    mean(red, halfOf(width), halfOf(height), place + 2 * cells);
    const frame = this.#memory.bytes(place, SMALL_FRAME.bytes).slice();
    this.#memory.release(place);
    return frame;
  }

  /** All of the frame again, of opaque RGBA pixels. */
  put(rgba: Uint8Array): void {
    writePixels(this.#memory, this.planes, rgba);
  }

  save(): void {
    this.#clips.push(this.#clip);
  }

  restore(): void {
    this.#clip = this.#clips.pop() ?? this.#clip;
  }

  beginPath(): void {
    this.#path = [];
  }

  moveTo(x: number, y: number): void {
    this.#path.push({ x, y });
  }

  lineTo(x: number, y: number): void {
    this.#path.push({ x, y });
  }

  closePath(): void {}

  clip(): void {
    const [xs, ys] = [this.#path.map(({ x }) => x), this.#path.map(({ y }) => y)];
    const { left, top, right, bottom } = this.#clip;
    this.#clip = {
      left: Math.max(left, Math.min(...xs)),
      top: Math.max(top, Math.min(...ys)),
      right: Math.min(right, Math.max(...xs)),
      bottom: Math.min(bottom, Math.max(...ys)),
    };
  }

  clearRect(x: number, y: number, width: number, height: number): void {
    this.#fill(x, y, width, height, "#000000", 1);
  }

  fillRect(x: number, y: number, width: number, height: number): void {
    if (typeof this.fillStyle !== "string") throw notHere("slopes of colour");
    this.#fill(x, y, width, height, this.fillStyle, this.globalAlpha);
  }

  drawImage(
    image: PlanarImage,
    sourceX: number,
    sourceY: number,
    sourceWidth: number,
    sourceHeight: number,
    x: number,
    y: number,
    width: number,
    height: number,
  ): void {
    if (width <= 0 || height <= 0 || sourceWidth <= 0 || sourceHeight <= 0) return;
    const { run } = this.#memory;
    const scale = Math.sqrt((width / sourceWidth) * (height / sourceHeight));
    const { planes: from, shrunk } = image.levelFor(scale);
    const { left, top, right, bottom } = this.#clip;
    const draw = (to: number, toStride: number, plane: number, alpha: number, stride: number, half: number): void =>
      run.drawPlane(
        ...[to, toStride, plane, alpha, stride],
        ...[sourceX, sourceY, sourceWidth, sourceHeight].map((place) => place * shrunk * half),
        ...[x, y, width, height, left, top, right, bottom].map((place) => place * half),
        this.globalAlpha,
      );
    const { planes } = this;
    draw(planes.luma, planes.width, from.luma, from.alpha?.full ?? 0, from.width, 1);
    const [toStride, stride] = [halfOf(planes.width), halfOf(from.width)];
    draw(planes.blue, toStride, from.blue, from.alpha?.half ?? 0, stride, 0.5);
    draw(planes.red, toStride, from.red, from.alpha?.half ?? 0, stride, 0.5);
  }

  #fill(x: number, y: number, width: number, height: number, colour: string, alpha: number): void {
    const { left, top, right, bottom } = this.#clip;
    const edges = [Math.max(left, x), Math.max(top, y), Math.min(right, x + width), Math.min(bottom, y + height)];
    const [luma, blue, red] = yuvOf(colour);
    const { planes } = this;
    const half = edges.map((edge) => edge / 2);
    const stride = halfOf(planes.width);
    this.#memory.run.fillPlane(planes.luma, planes.width, luma, ...edges, alpha);
    this.#memory.run.fillPlane(planes.blue, stride, blue, ...half, alpha);
    this.#memory.run.fillPlane(planes.red, stride, red, ...half, alpha);
  }

  quadraticCurveTo(): never {
    throw notHere("curves");
  }

  bezierCurveTo(): never {
    throw notHere("curves");
  }

  fill(): never {
    throw notHere("filled paths");
  }

  stroke(): never {
    throw notHere("strokes");
  }

  createLinearGradient(): never {
    throw notHere("slopes of colour");
  }

  createRadialGradient(): never {
    throw notHere("slopes of colour");
  }
}
