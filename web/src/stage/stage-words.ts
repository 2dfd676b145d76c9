import type { DrawnWords, Scratch, WordSource } from "@humming-tide/core/picture";
import type { WordImages } from "@humming-tide/core/words";
import { filmFonts } from "./film-fonts.ts";
import { surfaceOf } from "./stage-surface.ts";

/** The words of a stage, drawn for its size; made anew when that changes. */
export class StageWords {
  #images: WordImages<CanvasImageSource> | null = null;
  #scale = 0;

  /** For a canvas with so many pixels a pixel of the film. Words whose fonts are missing are asked for, and not drawn. */
  for(scale: number): WordSource<CanvasImageSource> {
    if (this.#scale !== scale) this.#images = null;
    this.#scale = scale;
    return (sheet, index, frame): DrawnWords<CanvasImageSource> | null => {
      const { room, fonts } = filmFonts;
      if (room && fonts) {
        this.#images ??= new room.WordImages(fonts, scale, clearCanvas);
        const drawn = this.#images.get(sheet, index, frame);
        if (drawn) return drawn;
      }
      filmFonts.need(sheet);
      return null;
    };
  }
}

/** A clear canvas of so many pixels, with its context. */
export function clearCanvas(
  width: number,
  height: number,
): Scratch<CanvasImageSource> & { readonly context: OffscreenCanvasRenderingContext2D } {
  const image = new OffscreenCanvas(width, height);
  const context = image.getContext("2d")!;
  return { surface: surfaceOf(context), context, image, width, height };
}
