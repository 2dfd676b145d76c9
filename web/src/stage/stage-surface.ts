import type { Scratch, Surface2D } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";

/**
 * A canvas of the page as drawFrame sees it: its context has more than a surface needs, under the
 * same names.
 */
export const surfaceOf = (
  context: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D,
): Surface2D<CanvasImageSource> => context;

/** Second canvases for drawing onto a first one, of its size and scale; one is kept. */
export class StageScratch {
  #canvas: OffscreenCanvas | null = null;

  /** For a canvas of these pixels, on which a film of `filmWidth` is drawn. */
  for(width: number, height: number, filmWidth: number, filmHeight: number): () => Scratch<CanvasImageSource> {
    return () => {
      if (this.#canvas?.width !== width || this.#canvas.height !== height)
        this.#canvas = new OffscreenCanvas(width, height);
      const context = present(this.#canvas.getContext("2d"));
      context.setTransform(width / filmWidth, 0, 0, height / filmHeight, 0, 0);
      return { surface: surfaceOf(context), image: this.#canvas, width, height };
    };
  }
}
