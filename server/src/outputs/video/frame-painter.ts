import { drawFrame, type FramePlan, type ImageName } from "@humming-tide/core/picture";
import { type Canvas, createCanvas } from "@napi-rs/canvas";
import { drawsInPlanes, PlanarSurface, PlaneMemory } from "../../planes/index.ts";
import type { ClipFrames } from "./clip-frames.ts";
import { FilmSources } from "./film-sources.ts";
import { type PathOfImage, PictureCache, surfaceOf } from "./picture-cache.ts";
import { PlanarSources } from "./planar-sources.ts";

/**
 * Paints planned frames of one size as 4:2:0 video, BT.709: straight into the planes where that can
 * be done, else on a canvas that is converted.
 */
export class FramePainter {
  readonly #memory = new PlaneMemory();
  readonly #surface: PlanarSurface;
  readonly #planar: PlanarSources;
  readonly #canvases: FilmSources;
  readonly #size: { readonly width: number; readonly height: number };
  #canvas: Canvas | null = null;
  #smallFrame: Uint8Array | null = null;

  /** Width and height are even. */
  constructor(size: { readonly width: number; readonly height: number }, path: PathOfImage, clips: ClipFrames) {
    this.#size = size;
    this.#surface = new PlanarSurface(this.#memory, size.width, size.height);
    this.#canvases = new FilmSources(new PictureCache(path), clips, size);
    this.#planar = new PlanarSources(this.#memory, path, clips, this.#canvases, size);
  }

  /**
   * The frame as it lies in a file of yuv420p, until the next one is painted; `around` names the
   * pictures of this frame and the ones near it. Throws `missing-picture`, `ffmpeg-failed`,
   * `bad-font`.
   */
  async paint(plan: FramePlan, around: readonly ImageName[]): Promise<Uint8Array> {
    this.#smallFrame = null;
    if (drawsInPlanes(plan)) {
      await this.#planar.preload(plan, around);
      drawFrame(this.#surface, plan, this.#planar);
    } else {
      await this.#canvases.preload(plan);
      this.#canvas ??= createCanvas(this.#size.width, this.#size.height);
      drawFrame(surfaceOf(this.#canvas), plan, this.#canvases);
      this.#surface.put(this.#canvas.data());
    }
    return this.#surface.frame();
  }

  /** The frame that was painted last, shrunk to what measuring wants (core/measure). */
  smallFrame(): Uint8Array {
    this.#smallFrame ??= this.#surface.smallFrame();
    return this.#smallFrame;
  }
}
