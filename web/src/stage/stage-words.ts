import type { DrawnWords, Scratch, Size, WordSheet, WordSource } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import type { WordImages } from "@humming-tide/core/words";
import { filmFonts } from "./film-fonts.ts";
import { surfaceOf } from "./stage-surface.ts";

/**
 * The words of a stage, drawn for its size, and drawn again when the size changes. They are laid
 * out and drawn ahead, in parts, so that the page is never held up for long. The first words are
 * waited for; later ones that are wanted at once are drawn at once. Emits "arrived" when the first
 * words can be drawn.
 */
export class StageWords extends EventTarget {
  #images: WordImages<CanvasImageSource> | null = null;
  #scale = 0;
  #waiting: (readonly [WordSheet, Size])[] = [];
  #isAtWork = false;
  /**
   * Something has been prepared: the engine and its fonts have been used once, which takes longest.
   */
  #hasPrepared = false;
  /** Words may be drawn at once. */
  #hasBegun = false;

  /**
   * For a canvas with so many pixels a pixel of the film. Words whose fonts are missing are asked
   * for, and not drawn.
   */
  for(scale: number): WordSource<CanvasImageSource> {
    if (this.#scale !== scale) this.#images = null;
    this.#scale = scale;
    return (sheet, index, frame): DrawnWords<CanvasImageSource> | null => {
      const drawn = this.#hasBegun ? this.#imagesNow()?.get(sheet, index, frame) : null;
      if (drawn) return drawn;
      this.ahead([sheet], frame);
      return null;
    };
  }

  /**
   * Words that will be wanted soon: their fonts are asked for, and what can be done of them is done
   * before.
   */
  ahead(sheets: readonly WordSheet[], frame: Size): void {
    for (const sheet of sheets) filmFonts.preload(sheet);
    this.#waiting = sheets.map((sheet) => [sheet, frame]);
    if (this.#isAtWork || sheets.length === 0 || !filmFonts.fonts) return;
    this.#isAtWork = true;
    setTimeout(() => this.#prepareOne(), 0);
  }

  /** One part a task. */
  #prepareOne(): void {
    const images = this.#imagesNow();
    const next = images && this.#waiting.find(([sheet, frame]) => images.prepare(sheet, frame));
    this.#isAtWork = Boolean(next);
    if (next) {
      this.#hasPrepared = true;
      setTimeout(() => this.#prepareOne(), 0);
    } else if (!this.#hasBegun && this.#hasPrepared) {
      this.#hasBegun = true;
      this.dispatchEvent(new Event("arrived"));
    }
  }

  #imagesNow(): WordImages<CanvasImageSource> | null {
    const { room, fonts } = filmFonts;
    if (room && fonts) this.#images ??= new room.WordImages(fonts, this.#scale, clearCanvas);
    return this.#images;
  }
}

/** A clear canvas of so many pixels, with its context. */
export function clearCanvas(
  width: number,
  height: number,
): Scratch<CanvasImageSource> & { readonly context: OffscreenCanvasRenderingContext2D } {
  const image = new OffscreenCanvas(width, height);
  const context = present(image.getContext("2d"));
  return { surface: surfaceOf(context), context, image, width, height };
}
