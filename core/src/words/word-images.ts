import type { DrawableImage, DrawnWords, Rectangle, Size, WordSheet } from "../picture/index.ts";
import { itemAt } from "../presence/index.ts";
import { drawBehindLetters, drawLaidWords, inkOf, type MakeCanvas } from "./draw-laid-words.ts";
import { type Fonts, type LaidWords, laySheet } from "./lay-words.ts";
import { partsOf } from "./word-parts.ts";

/**
 * Sheets kept drawn: those of the slides around the playhead, and what a film of quick captions
 * needs.
 */
const KEPT_SHEETS = 12;

interface KeptSheet<Image> {
  readonly laid: readonly LaidWords[];
  readonly drawn: (DrawnWords<Image> | null)[];
}

/**
 * Words drawn once and kept, so that a frame only lays images on. `canvas` makes a clear canvas of
 * so many pixels. One instance is for one scale; the page makes a new one when its stage gets
 * another size.
 */
export class WordImages<Image> {
  readonly #fonts: Fonts;
  readonly #scale: number;
  readonly #canvas: MakeCanvas<Image>;
  readonly #kept = new Map<string, KeptSheet<Image>>();
  readonly #names = new WeakMap<WordSheet, string>();

  /** `scale`: pixels of the canvas a pixel of the film. */
  constructor(fonts: Fonts, scale: number, canvas: MakeCanvas<Image>) {
    this.#fonts = fonts;
    this.#scale = scale;
    this.#canvas = canvas;
  }

  /** Null while fonts are not loaded. */
  readonly get = (sheet: WordSheet, index: number, frame: Size): DrawnWords<Image> | null => {
    const kept = this.#keptFor(sheet, frame);
    if (!kept) return null;
    kept.drawn[index] ??= this.#draw(itemAt(kept.laid, index), sheet, index);
    return kept.drawn[index];
  };

  /**
   * Does one part of what `get` would have to do first: lays a sheet out, or draws one of its
   * words. Returns whether there was anything to do that could be done.
   */
  readonly prepare = (sheet: WordSheet, frame: Size): boolean => {
    const isLaid = this.#kept.has(this.#nameOf(sheet, frame));
    const kept = this.#keptFor(sheet, frame);
    if (!kept) return false;
    if (!isLaid) return true;
    const index = kept.drawn.indexOf(null);
    if (index < 0) return false;
    kept.drawn[index] = this.#draw(itemAt(kept.laid, index), sheet, index);
    return true;
  };

  #keptFor(sheet: WordSheet, frame: Size): KeptSheet<Image> | null {
    const name = this.#nameOf(sheet, frame);
    let kept = this.#kept.get(name);
    if (!kept) {
      const laid = laySheet(sheet, frame, this.#fonts);
      if (!laid) return null;
      kept = { laid, drawn: sheet.map(() => null) };
    }
    // Moved to the end: last used, last dropped.
    this.#kept.delete(name);
    this.#kept.set(name, kept);
    for (const oldest of this.#kept.keys()) {
      if (this.#kept.size <= KEPT_SHEETS) break;
      this.#kept.delete(oldest);
    }
    return kept;
  }

  #nameOf(sheet: WordSheet, frame: Size): string {
    let name = this.#names.get(sheet);
    if (name === undefined) {
      name = JSON.stringify(sheet);
      this.#names.set(sheet, name);
    }
    return `${frame.width} ${frame.height} ${name}`;
  }

  /** Words that stand are one image; of those that scroll or appear in parts each part is one. */
  #draw(laid: LaidWords, sheet: WordSheet, index: number): DrawnWords<Image> {
    const parts = partsOf(laid, itemAt(sheet, index));
    const pieces = parts.flatMap(({ laid: part, words, role, line, cuts }) => {
      const box = this.#wholePixels(inkOf(part, words));
      if (box.width < 1 || box.height < 1) return [];
      const canvas = this.#canvas(box.width, box.height);
      const placement = { scale: this.#scale, x: -box.x, y: -box.y };
      if (role === "ground" || role === "behind") drawBehindLetters(canvas, part, words, placement, this.#canvas);
      else drawLaidWords(canvas, part, words, placement, this.#canvas);
      const image: DrawableImage<Image> = { image: canvas.image, width: box.width, height: box.height };
      const inFilm = (length: number): number => length / this.#scale;
      const target: Rectangle = {
        x: inFilm(box.x),
        y: inFilm(box.y),
        width: inFilm(box.width),
        height: inFilm(box.height),
      };
      return [{ image, target, role, line, cuts }];
    });
    return { pieces, height: laid.bounds.height };
  }

  /** On the canvas, so that an image is laid on without being smoothed. */
  #wholePixels({ x, y, width, height }: Rectangle): Rectangle {
    const [left, top] = [Math.floor(x * this.#scale), Math.floor(y * this.#scale)];
    return {
      x: left,
      y: top,
      width: Math.ceil((x + width) * this.#scale) - left,
      height: Math.ceil((y + height) * this.#scale) - top,
    };
  }
}
